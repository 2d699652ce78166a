package browser

import (
	"context"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"testing"

	"ziegel/core/css"
	"ziegel/core/font"
	"ziegel/core/layout"
)

func TestScratch(t *testing.T) {
	dir := os.Getenv("SCRATCH")
	if dir == "" {
		t.Skip()
	}
	files, _ := filepath.Glob(filepath.Join(dir, "*.html"))
	var pages []string
	for _, f := range files {
		pages = append(pages, filepath.Base(f))
	}
	widths := []int{280, 320, 360, 390, 480, 600, 768, 1024, 1280, 1920}
	v, out, err := Measure(context.Background(), dir, pages, widths)
	if err != nil {
		t.Fatal(err)
	}
	fmt.Println(v)
	for _, pg := range out {
		b, _ := os.ReadFile(filepath.Join(dir, pg.Page))
		load := func(from, href string) (string, []byte, error) {
			p := filepath.Join(filepath.Dir(from), href)
			b, err := os.ReadFile(p)
			return p, b, err
		}
		doc, _ := css.Load(css.Source{File: filepath.Join(dir, pg.Page), HTML: string(b), Load: load})
		var entries []*font.Entry
		for _, f := range doc.FontFaces {
			_, data, err := load(f.From, f.Sources[0])
			if err != nil {
				t.Fatal(err)
			}
			entries = append(entries, &font.Entry{Family: f.Family, WeightLow: f.WeightLow, WeightHigh: f.WeightHigh, Italic: f.Italic, Data: data})
		}
		e := layout.New(doc, layout.Options{Fonts: font.NewSet(entries, map[string]string{"": "I"})})
		bad, n := 0, 0
		for _, u := range doc.Unsupported {
			fmt.Println("unsupported", u.Property, u.Value)
		}
		for _, w := range pg.Widths {
			r := e.Layout(w.Width)
			got := map[string]layout.Placed{}
			for _, p := range r.Boxes {
				got[p.Element.Path()] = p
			}
			shown := 0
			for _, b := range w.Boxes {
				n++
				p, ok := got[b.Path]
				d := max(math.Abs(p.X.Float()-b.X), math.Abs(p.Y.Float()-b.Y), math.Abs(p.W.Float()-b.W), math.Abs(p.H.Float()-b.H))
				if !ok || d > 1.0/16 || p.Lines != b.Lines {
					bad++
					if shown < 4 {
						shown++
						fmt.Printf("%s %d %s\n   ours %.3f %.3f %.3f %.3f L%d\n   want %.3f %.3f %.3f %.3f L%d\n", pg.Page, w.Width, b.Path, p.X.Float(), p.Y.Float(), p.W.Float(), p.H.Float(), p.Lines, b.X, b.Y, b.W, b.H, b.Lines)
					}
				}
			}
			if math.Abs(r.Overflow.Float()-w.Overflow) >= 1 {
				fmt.Println(pg.Page, w.Width, "overflow", r.Overflow.Float(), w.Overflow, r.Widest)
			}
		}
		fmt.Println(pg.Page, "bad", bad, "of", n, "browser ms", pg.InPage)
	}
}
