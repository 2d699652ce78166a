package vector

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"image/png"
	"io"
	"math"
	"strings"
	"time"

	"codeberg.org/go-pdf/fpdf"

	"ziegel/core/css"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
	"ziegel/core/paint/raster"
)

// PDFPage is one page of a PDF.
type PDFPage struct {
	List  *display.List
	Area  geom.Rect                    // the part that it shows, CSS px
	Links func(to string) (url string) // where a link of the page leads, "" for nowhere; nil leaves links out
}

// point is a CSS px in points.
const point = .75

// pdf is one that is being written.
type pdf struct {
	f    *fpdf.Fpdf
	list *display.List
	m    geom.Matrix // from the item at work to points on the page, y down
	high float64     // of the page, points
	fade float64     // opacity of the groups around
	err  error
}

// PDF writes pages as vectors. The clock is not asked: the same pages give the same bytes.
func PDF(w io.Writer, title string, pages []PDFPage) error {
	f := fpdf.NewCustom(&fpdf.InitType{UnitStr: "pt", Size: fpdf.SizeType{Wd: 100, Ht: 100}})
	f.SetCreationDate(time.Unix(0, 0).UTC())
	f.SetModificationDate(time.Unix(0, 0).UTC())
	f.SetCatalogSort(true)
	f.SetTitle(title, true)
	f.SetMargins(0, 0, 0)
	f.SetAutoPageBreak(false, 0)
	f.SetCompression(true)
	for _, page := range pages {
		wd, ht := page.Area.W()*point, page.Area.H()*point
		if wd > 14400 || ht > 14400 { // what readers of PDF take
			return fmt.Errorf("a PDF page may be 19200 CSS px wide and high, and this one is %.0f x %.0f: draw its blocks",
				page.Area.W(), page.Area.H())
		}
		f.AddPageFormat("P", fpdf.SizeType{Wd: wd, Ht: ht})
		p := &pdf{f: f, list: page.List, high: ht, fade: 1,
			m: geom.Scale(point, point).Mul(geom.Translate(-page.Area.X0, -page.Area.Y0))}
		p.items(page.List.Items)
		if p.err != nil {
			return p.err
		}
		for _, l := range page.List.Links {
			if page.Links == nil {
				break
			}
			r := p.m.Rect(l.Rect)
			if url := page.Links(l.To); url != "" && !r.Intersect(geom.R(0, 0, wd, ht)).Empty() {
				f.LinkString(r.X0, r.Y0, r.W(), r.H(), url)
			}
		}
	}
	return f.Output(w)
}

// raw writes operators of a content stream.
func (p *pdf) raw(format string, args ...any) { p.f.RawWriteStr(fmt.Sprintf(format, args...)) }

// path writes a path in the coordinates of the page, which count upwards.
func (p *pdf) path(path *geom.Path) {
	at := func(q geom.Point) (x, y float64) {
		q = p.m.Apply(q)
		return q.X, p.high - q.Y
	}
	var b strings.Builder
	path.Each(func(op geom.Op, from geom.Point, pts []geom.Point) {
		switch op {
		case geom.Move, geom.Line:
			x, y := at(pts[0])
			fmt.Fprintf(&b, "%.3f %.3f %s\n", x, y, [2]string{"m", "l"}[op])
		case geom.Quad: // as a cubic curve
			c := pts[0]
			mid := func(a, z geom.Point) geom.Point {
				return geom.Point{X: a.X + (z.X-a.X)*2/3, Y: a.Y + (z.Y-a.Y)*2/3}
			}
			x1, y1 := at(mid(from, c))
			x2, y2 := at(mid(pts[1], c))
			x3, y3 := at(pts[1])
			fmt.Fprintf(&b, "%.3f %.3f %.3f %.3f %.3f %.3f c\n", x1, y1, x2, y2, x3, y3)
		case geom.Cubic:
			x1, y1 := at(pts[0])
			x2, y2 := at(pts[1])
			x3, y3 := at(pts[2])
			fmt.Fprintf(&b, "%.3f %.3f %.3f %.3f %.3f %.3f c\n", x1, y1, x2, y2, x3, y3)
		case geom.Close:
			b.WriteString("h\n")
		}
	})
	p.f.RawWriteStr(b.String())
}

func star(p *geom.Path) string {
	if p.EvenOdd {
		return "*"
	}
	return ""
}

func (p *pdf) items(list []display.Item) {
	for _, it := range list {
		switch it := it.(type) {
		case *display.Group:
			p.group(it)
		case *display.Fill:
			p.fill(it)
		case *display.Text:
			p.text(it)
		case *display.Shadow, *display.Picture:
			if pic, ok := it.(*display.Picture); ok && p.upright(pic) {
				continue
			}
			p.pixels([]display.Item{it})
		}
	}
}

// blends are the modes that PDF knows, by their names there.
var blends = map[string]string{"multiply": "Multiply", "screen": "Screen", "overlay": "Overlay", "darken": "Darken",
	"lighten": "Lighten", "color-dodge": "ColorDodge", "color-burn": "ColorBurn", "hard-light": "HardLight",
	"soft-light": "SoftLight", "difference": "Difference", "exclusion": "Exclusion", "hue": "Hue",
	"saturation": "Saturation", "color": "Color", "luminosity": "Luminosity"}

func (p *pdf) group(g *display.Group) {
	if len(g.Items) == 0 || g.Opacity <= 0 {
		return
	}
	was, fade := p.m, p.fade
	p.raw("q\n")
	for _, c := range g.Clips {
		p.path(c)
		p.raw("W%s n\n", star(c))
	}
	simple := len(g.Filters) == 0 && len(g.Masks) == 0 && len(g.Backdrop) == 0 &&
		(g.Blend == "" || g.Blend == "isolate") &&
		(g.Opacity >= 1 || len(g.Items) == 1)
	if simple {
		p.m, p.fade = was.Mul(g.Matrix), fade*g.Opacity
		p.items(g.Items)
	} else {
		own := *g
		own.Clips, own.Blend, own.Backdrop = nil, "", nil
		mode := blends[g.Blend]
		if mode != "" {
			p.f.SetAlpha(1, mode)
		}
		p.pixels([]display.Item{&own})
		if mode != "" {
			p.f.SetAlpha(1, "Normal")
		}
	}
	p.raw("Q\n")
	p.m, p.fade = was, fade
}

// color sets what is filled with.
func (p *pdf) color(c css.Color) {
	p.f.SetAlpha(math.Round(c.A*p.fade*1000)/1000, "Normal")
	p.raw("%.4f %.4f %.4f rg\n", c.R, c.G, c.B)
}

func (p *pdf) fill(f *display.Fill) {
	solid, ok := f.Brush.(display.Solid)
	path := f.Path
	if f.Rect != nil {
		path = geom.RectPath(*f.Rect)
	}
	switch {
	case ok:
		if c := css.Color(solid); c.A > 0 {
			p.color(c)
			p.path(path)
			p.raw("f%s\n", star(path))
		}
		return
	default:
		if t, ok := f.Brush.(*display.Tiles); ok && t.StepX <= 0 && t.StepY <= 0 {
			p.group(&display.Group{Items: t.Items, Clips: []*geom.Path{path, geom.RectPath(t.Cell)},
				Matrix:  geom.Identity,
				Opacity: 1})
			return
		}
	}
	// colors that run: a picture of the rectangle, cut by the shape
	r := path.Bounds()
	p.raw("q\n")
	p.path(path)
	p.raw("W%s n\n", star(path))
	p.pixels([]display.Item{&display.Fill{Rect: &r, Brush: f.Brush}})
	p.raw("Q\n")
}

// text writes letters as outlines, where the layout put them.
func (p *pdf) text(t *display.Text) {
	if t.Color.A <= 0 || len(t.Glyphs) == 0 {
		return
	}
	p.color(t.Color)
	for _, g := range t.Glyphs {
		if g.Shape.Path.Empty() {
			continue
		}
		path := g.Shape.Path.Transform(geom.Translate(g.X, g.Y).Mul(geom.Matrix{A: g.Size, C: -t.Lean * g.Size,
			D: g.Size}))
		p.path(path)
		if t.Bold > 0 {
			p.raw("%.4f %.4f %.4f RG %.3f w\nB\n", t.Color.R, t.Color.G, t.Color.B, t.Bold*p.m.Factor())
			continue
		}
		p.raw("f\n")
	}
}

// upright puts a picture file in as it is; false for what PDF does not read.
func (p *pdf) upright(pic *display.Picture) bool {
	if !p.m.Upright() || pic.Image.Kind != "image/jpeg" || pic.Dst.Empty() {
		return false
	}
	name := hash(pic.Image.Data)
	p.f.RegisterImageOptionsReader(name, fpdf.ImageOptions{ImageType: "jpeg"}, bytes.NewReader(pic.Image.Data))
	if p.f.Err() {
		return false
	}
	p.f.SetAlpha(p.fade, "Normal")
	r := p.m.Rect(pic.Dst)
	p.f.ImageOptions(name, r.X0, r.Y0, r.W(), r.H(), false, fpdf.ImageOptions{ImageType: "jpeg"}, 0, "")
	return true
}

func hash(data []byte) string {
	sum := sha256.Sum256(data)
	return hex.EncodeToString(sum[:12])
}

// pixels puts items in as a picture, three pixels a CSS px where that is not too many.
func (p *pdf) pixels(items []display.Item) {
	area := raster.Bounds(items, p.m.Mul(geom.Identity)).Intersect(p.page())
	if area.Empty() || p.err != nil {
		return
	}
	scale := 3 / point
	if n := area.W() * area.H() * scale * scale; n > 1<<23 {
		scale *= math.Sqrt((1 << 23) / n)
	}
	g := display.Plain(items...)
	g.Matrix = p.m
	img, err := raster.Draw(&display.List{W: area.X1, H: area.Y1, Items: []display.Item{g}},
		raster.Options{Scale: scale, Area: &area})
	if err != nil {
		p.err = err
		return
	}
	var b bytes.Buffer
	if err := png.Encode(&b, img); err != nil {
		p.err = err
		return
	}
	name := hash(b.Bytes())
	p.f.RegisterImageOptionsReader(name, fpdf.ImageOptions{ImageType: "png"}, &b)
	p.f.SetAlpha(p.fade, "Normal")
	p.f.ImageOptions(name, area.X0, area.Y0, area.W(), area.H(), false, fpdf.ImageOptions{ImageType: "png"}, 0, "")
	p.err = p.f.Error()
}

func (p *pdf) page() geom.Rect {
	w, h := p.f.GetPageSize()
	return geom.R(0, 0, w, h)
}
