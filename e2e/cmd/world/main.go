// Command world compares how documents of the world outside are laid out with Chromium: each with the same web font on
// both sides, at several widths. It prints figures per document and in all. See scripts/world.sh.
package main

import (
	"context"
	"flag"
	"fmt"
	"log"
	"math"
	"os"
	"path/filepath"
	"sort"
	"strings"
	"time"

	"ziegel/core/sweep"
	"ziegel/e2e/browser"
	"ziegel/stock"
	"ziegel/ui/report"
)

// style is put into each document: one family for all text.
const style = `<style>@font-face{font-family:W;src:url(%[1]s) format("woff2");font-weight:400}@font-face{font-family:W;src:url(%[2]s) format("woff2");font-weight:700}*{font-family:W!important}</style>`

// most are the largest documents that are compared, bytes.
const most = 300 << 10

type tally struct {
	boxes, within, relative, sizes, texts, lines int
}

func (t *tally) add(o tally) {
	t.boxes, t.within, t.relative = t.boxes+o.boxes, t.within+o.within, t.relative+o.relative
	t.sizes, t.texts, t.lines = t.sizes+o.sizes, t.texts+o.texts, t.lines+o.lines
}

func (t *tally) String() string {
	share := func(n, of int) float64 { return 100 * float64(n) / float64(max(1, of)) }
	return fmt.Sprintf(
		"%6d boxes: %5.1f %% within 1 px, %5.1f %% to the parent, %5.1f %% by size; %5.1f %% same lines",
		t.boxes,
		share(t.within, t.boxes),
		share(t.relative, t.boxes),
		share(t.sizes, t.boxes),
		share(t.lines, t.texts),
	)
}

func main() {
	files := flag.String("files", "", "folder with one folder of files per package")
	per := flag.Int("per", 3, "documents of a package")
	only := flag.String("only", "", "packages whose name has this in it")
	show := flag.Int("show", 0, "differences to show of each document")
	wide := flag.String("at", "390,800,1280", "widths")
	to := flag.String("to", "", "write the figures here, as Markdown")
	flag.Parse()
	var widths []int
	for _, w := range strings.Split(*wide, ",") {
		n := 0
		if _, err := fmt.Sscan(w, &n); err != nil {
			log.Fatal(err)
		}
		widths = append(widths, n)
	}
	root, err := filepath.Abs(*files)
	if err != nil {
		log.Fatal(err)
	}
	pages, err := choose(root, *per, *only)
	if err != nil {
		log.Fatal(err)
	}
	var all tally
	packages := map[string]*tally{}
	count := map[string]int{}
	for _, p := range pages {
		t, err := compare(root, p, widths, *show)
		if err != nil {
			fmt.Printf("%s: %v\n", p, err)
			continue
		}
		fmt.Printf("%s %s\n", &t, p)
		all.add(t)
		name, _, _ := strings.Cut(filepath.ToSlash(p), "/")
		if packages[name] == nil {
			packages[name] = &tally{}
		}
		packages[name].add(t)
		count[name]++
	}
	fmt.Printf("%s in %d documents\n", &all, len(pages))
	if *to != "" {
		if err := record(*to, &all, packages, count); err != nil {
			log.Fatal(err)
		}
	}
}

// record writes the figures of each package.
func record(path string, all *tally, packages map[string]*tally, count map[string]int) error {
	var out strings.Builder
	docs := 0
	for _, n := range count {
		docs += n
	}
	fmt.Fprintf(
		&out,
		"# Documents of the world outside\n\n%d documents of %d documentation packages of Debian, by many authors of many decades, laid out here and in Chromium, each with the\nsame web font on both sides, at 390, 800 and 1280 px. `scripts/world.sh` fetches them, compares, and writes this page; nothing of them is kept.\n\n| package | documents | boxes | within 1 px | to the parent | by size | same lines |\n| --- | ---: | ---: | ---: | ---: | ---: | ---: |\n",
		docs,
		len(count),
	)
	row := func(name string, n int, t *tally) {
		share := func(n, of int) float64 { return 100 * float64(n) / float64(max(1, of)) }
		fmt.Fprintf(
			&out,
			"| %s | %d | %d | %.1f %% | %.1f %% | %.1f %% | %.1f %% |\n",
			name,
			n,
			t.boxes,
			share(t.within, t.boxes),
			share(t.relative, t.boxes),
			share(t.sizes, t.boxes),
			share(t.lines, t.texts),
		)
	}
	names := make([]string, 0, len(packages))
	for n := range packages {
		names = append(names, n)
	}
	sort.Strings(names)
	for _, n := range names {
		row(n, count[n], packages[n])
	}
	row("**all**", docs, all)
	return os.WriteFile(path, []byte(out.String()), 0o666)
}

// choose takes documents of each package: of the middle of the sizes, so that neither lists of contents nor books are
// all there is.
func choose(root string, per int, only string) (out []string, err error) {
	packages, err := os.ReadDir(root)
	if err != nil {
		return nil, err
	}
	for _, p := range packages {
		if !strings.Contains(p.Name(), only) {
			continue
		}
		type doc struct {
			path string
			size int64
		}
		var list []doc
		err := filepath.WalkDir(filepath.Join(root, p.Name()), func(path string, d os.DirEntry, err error) error {
			passed := err != nil || d.IsDir() || !strings.HasSuffix(path, ".html") &&
				!strings.HasSuffix(path, ".htm") ||
				strings.HasSuffix(path, ".world.html")
			if passed {
				return err
			}
			if i, err := d.Info(); err == nil && i.Mode().IsRegular() && i.Size() > 2000 && i.Size() < most {
				rel, _ := filepath.Rel(root, path)
				list = append(list, doc{rel, i.Size()})
			}
			return nil
		})
		if err != nil {
			return nil, err
		}
		sort.Slice(list, func(i, j int) bool {
			return list[i].size < list[j].size || list[i].size == list[j].size && list[i].path < list[j].path
		})
		for i := range min(per, len(list)) {
			out = append(out, list[(2*i+1)*len(list)/(2*min(per, len(list)))].path)
		}
	}
	return out, nil
}

// prepared writes a copy of a document with the web font in it, and without scripts.
func prepared(root, page string) (string, error) {
	path := filepath.Join(root, page)
	data, err := os.ReadFile(path)
	if err != nil {
		return "", err
	}
	depth := strings.Repeat("../", strings.Count(filepath.ToSlash(page), "/"))
	for _, f := range []string{"instrument-sans-400.woff2", "instrument-sans-600.woff2"} {
		face, err := stock.Files.ReadFile("fonts/" + f)
		if err != nil {
			return "", err
		}
		if err := os.WriteFile(filepath.Join(root, f), face, 0o666); err != nil {
			return "", err
		}
	}
	text := string(data)
	lower := strings.ToLower(text)
	for { // scripts may change the document in the browser
		i := strings.Index(lower, "<script")
		if i < 0 {
			break
		}
		n := strings.Index(lower[i:], "</script>")
		if n < 0 {
			break
		}
		text, lower = text[:i]+text[i+n+9:], lower[:i]+lower[i+n+9:]
	}
	add := fmt.Sprintf(style, depth+"instrument-sans-400.woff2", depth+"instrument-sans-600.woff2")
	if i := strings.Index(lower, "</head>"); i >= 0 {
		text = text[:i] + add + text[i:]
	} else {
		text += add
	}
	out := strings.TrimSuffix(strings.TrimSuffix(page, ".html"), ".htm") + ".world.html"
	return out, os.WriteFile(filepath.Join(root, out), []byte(text), 0o666)
}

func compare(root, page string, widths []int, show int) (t tally, err error) {
	page, err = prepared(root, page)
	if err != nil {
		return t, err
	}
	ctx, cancel := context.WithTimeout(context.Background(), time.Minute)
	defer cancel()
	_, live, err := browser.Measure(ctx, root, []string{page}, widths)
	if err != nil {
		return t, err
	}
	laid, err := sweep.FromFile(filepath.Join(root, page), stock.Files)
	if err != nil {
		return t, err
	}
	engine := laid.Engine()
	for _, w := range live[0].Widths {
		ours := map[string]report.MeasureBox{}
		for _, b := range report.Measure(nil, engine.Layout(w.Width)).Boxes {
			ours[b.Path] = b
		}
		theirs := map[string]browser.Box{}
		for _, b := range w.Boxes {
			theirs[b.Path] = b
		}
		for _, b := range w.Boxes {
			o, ok := ours[b.Path]
			t.boxes++
			size := ok && math.Abs(o.W-b.W) <= 1 && math.Abs(o.H-b.H) <= 1
			same := size && math.Abs(o.X-b.X) <= 1 && math.Abs(o.Y-b.Y) <= 1
			up := b.Path
			if i := strings.LastIndex(up, " > "); i >= 0 {
				up = up[:i]
			}
			po, pb := ours[up], theirs[up]
			relative := size && math.Abs(o.X-po.X-(b.X-pb.X)) <= 1 && math.Abs(o.Y-po.Y-(b.Y-pb.Y)) <= 1
			count(&t.sizes, size)
			count(&t.within, same)
			count(&t.relative, relative)
			if b.Lines > 0 || o.Lines > 0 {
				t.texts++
				count(&t.lines, o.Lines == b.Lines)
			}
			if !relative && show > 0 {
				show--
				fmt.Printf(
					"  %d px %s\n    ours    %.2f %.2f %.2f x %.2f\n    browser %.2f %.2f %.2f x %.2f\n",
					w.Width,
					b.Path,
					o.X,
					o.Y,
					o.W,
					o.H,
					b.X,
					b.Y,
					b.W,
					b.H,
				)
			}
		}
	}
	return t, nil
}

func count(n *int, yes bool) {
	if yes {
		*n++
	}
}
