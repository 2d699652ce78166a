package draw

import (
	"bytes"
	"cmp"
	"fmt"
	"image"
	stddraw "image/draw"
	"image/png"
	"math"
	"slices"

	"ziegel/core/css"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
	"ziegel/core/paint/raster"
)

// Pair is a page before and after at one width; either may be nil.
type Pair struct {
	Page          string
	Before, After *Shot
	Was, Changed  []geom.Rect // what differs, where it was and where it is, CSS px
}

// cell is the side of the squares in which differences are joined, px.
const cell = 24

// Compare finds what differs between two pictures of a page. Each block is held against itself, wherever it stands: one
// that only has moved on the page is the same.
func Compare(page string, before, after *Shot) (*Pair, error) {
	out := &Pair{Page: page, Before: before, After: after}
	if before == nil || after == nil {
		return out, nil
	}
	a, err := raster.Draw(before.List, raster.Options{Area: &before.Area})
	if err != nil {
		return nil, err
	}
	b, err := raster.Draw(after.List, raster.Options{Area: &after.Area})
	if err != nil {
		return nil, err
	}
	was, now := before.parts(), after.parts()
	for name, r := range now {
		if _, ok := was[name]; !ok {
			out.Changed = append(out.Changed, pxOf(r))
		}
	}
	for name, r := range was {
		at, ok := now[name]
		if !ok {
			out.Was = append(out.Was, pxOf(r))
			continue
		}
		x, y := a.SubImage(r).(*image.RGBA), b.SubImage(at).(*image.RGBA)
		for _, d := range differing(x, y) {
			if in := d.Add(r.Min).Intersect(r); !in.Empty() {
				out.Was = append(out.Was, pxOf(in))
			}
			if in := d.Add(at.Min).Intersect(at); !in.Empty() {
				out.Changed = append(out.Changed, pxOf(in))
			}
		}
	}
	order := func(list []geom.Rect) {
		slices.SortFunc(list, func(p, q geom.Rect) int {
			return cmp.Or(cmp.Compare(p.Y0, q.Y0), cmp.Compare(p.X0, q.X0))
		})
	}
	order(out.Was)
	order(out.Changed)
	return out, nil
}

// parts gives where the blocks of a shot lie, px; all of it when it has none.
func (s *Shot) parts() map[string]image.Rectangle {
	out := map[string]image.Rectangle{}
	for _, b := range s.Page.Blocks {
		if r, ok := s.box(b.Element); ok {
			out[b.Name] = image.Rect(int(math.Round(r.X0)), int(math.Round(r.Y0)), int(math.Round(r.X1)),
				int(math.Round(r.Y1)))
		}
	}
	if len(out) == 0 {
		out[""] = image.Rect(0, 0, int(s.Area.W()), int(s.Area.H()))
	}
	return out
}

func pxOf(r image.Rectangle) geom.Rect {
	return geom.Rect{X0: float64(r.Min.X), Y0: float64(r.Min.Y), X1: float64(r.Max.X), Y1: float64(r.Max.Y)}
}

// differing gives the rectangles around what differs in two pictures where they overlap: squares that touch belong
// together. What is found a pixel beside its place is the same: edges fall on whole pixels, wherever a block begins.
func differing(a, b *image.RGBA) []image.Rectangle {
	w, h := min(a.Rect.Dx(), b.Rect.Dx()), min(a.Rect.Dy(), b.Rect.Dy())
	cols, rows := (w+cell-1)/cell, (h+cell-1)/cell
	hit := make([]image.Rectangle, cols*rows)
	for y := range h {
		p := a.Pix[a.PixOffset(a.Rect.Min.X, a.Rect.Min.Y+y):][:w*4]
		q := b.Pix[b.PixOffset(b.Rect.Min.X, b.Rect.Min.Y+y):][:w*4]
		if bytes.Equal(p, q) {
			continue
		}
		for x := range w {
			if [4]byte(p[x*4:]) != [4]byte(q[x*4:]) && (!near(a, b, x, y) || !near(b, a, x, y)) {
				k := y/cell*cols + x/cell
				hit[k] = hit[k].Union(image.Rect(x, y, x+1, y+1))
			}
		}
	}
	var out []image.Rectangle
	for _, island := range Islands(cols, rows, 1, func(k int) bool { return !hit[k].Empty() }) {
		var r image.Rectangle
		for _, k := range island {
			r = r.Union(hit[k])
		}
		out = append(out, r)
	}
	all := slices.Clone(out)
	return slices.DeleteFunc(out, func(r image.Rectangle) bool { // what lies in another one is told with it
		return slices.ContainsFunc(all, func(o image.Rectangle) bool { return o != r && r.In(o) })
	})
}

// Same reports whether two PNG pictures of one thing look the same: up to a pixel, since edges fall on whole ones
// wherever it begins on its page.
func Same(a, b []byte) bool {
	x, y := decoded(a), decoded(b)
	if x == nil || y == nil || max(x.Rect.Dx()-y.Rect.Dx(), y.Rect.Dx()-x.Rect.Dx(), x.Rect.Dy()-y.Rect.Dy(),
		y.Rect.Dy()-x.Rect.Dy()) > 1 {
		return false
	}
	return len(differing(x, y)) == 0
}

func decoded(data []byte) *image.RGBA {
	img, err := png.Decode(bytes.NewReader(data))
	if err != nil {
		return nil
	}
	out := image.NewRGBA(image.Rect(0, 0, img.Bounds().Dx(), img.Bounds().Dy()))
	stddraw.Draw(out, out.Rect, img, img.Bounds().Min, stddraw.Src)
	return out
}

// Islands joins the cells of a grid that are marked and lie next to each other, up to reach cells apart across, and
// gives the cells of each group.
func Islands(cols, rows, reach int, marked func(k int) bool) [][]int {
	var out [][]int
	done := make([]bool, cols*rows)
	for k := range done {
		if done[k] || !marked(k) {
			continue
		}
		var island []int
		for stack := []int{k}; len(stack) > 0; {
			at := stack[len(stack)-1]
			stack = stack[:len(stack)-1]
			if done[at] || !marked(at) {
				continue
			}
			done[at] = true
			island = append(island, at)
			x, y := at%cols, at/cols
			for dy := -1; dy <= 1; dy++ {
				for dx := -reach; dx <= reach; dx++ {
					if nx, ny := x+dx, y+dy; nx >= 0 && ny >= 0 && nx < cols && ny < rows {
						stack = append(stack, ny*cols+nx)
					}
				}
			}
		}
		out = append(out, island)
	}
	return out
}

// alike is how much a channel may differ between pixels that are the same, of 255.
const alike = 3

// near reports whether a pixel of a is found in b at its place or beside it.
func near(a, b *image.RGBA, x, y int) bool {
	p := a.Pix[a.PixOffset(a.Rect.Min.X+x, a.Rect.Min.Y+y):][:3]
	for dy := -1; dy <= 1; dy++ {
		for dx := -1; dx <= 1; dx++ {
			at := image.Pt(b.Rect.Min.X+x+dx, b.Rect.Min.Y+y+dy)
			if !at.In(b.Rect) {
				continue
			}
			q := b.Pix[b.PixOffset(at.X, at.Y):][:3]
			same := true
			for i := range q {
				d := int(p[i]) - int(q[i])
				same = same && d <= alike && d >= -alike
			}
			if same {
				return true
			}
		}
	}
	return false
}

// outlineColor is that of frames around what is pointed out.
var outlineColor = css.Color{R: .83, G: .13, B: .36, A: 1}

// Frame gives a frame around a rectangle.
func Frame(r geom.Rect, width float64) display.Item {
	path := geom.RectPath(r.Grow(width))
	path.Add(geom.RectPath(r))
	path.EvenOdd = true
	return &display.Fill{Path: path, Brush: display.Solid(outlineColor)}
}

// framed gives a shot with frames around rectangles.
func framed(s *Shot, list []geom.Rect) *Shot {
	out := *s
	l := *s.List
	l.Items = append([]display.Item(nil), l.Items...)
	for _, r := range list {
		l.Items = append(l.Items, Frame(r.Grow(3), 2))
	}
	out.List = &l
	return &out
}

// BeforeAfter shows pages before and after, side by side, with frames around what has changed; pages that are the same
// are left out. It is nil when all are.
func BeforeAfter(title string, pairs []*Pair) *Sheet {
	s := &Sheet{}
	s.Text("h1", title)
	any := false
	for _, p := range pairs {
		if p.Before != nil && p.After != nil && len(p.Changed)+len(p.Was) == 0 {
			continue
		}
		any = true
		one := p.After
		if one == nil {
			one = p.Before
		}
		s.Text("h2", fmt.Sprintf("%s at %d", p.Page, one.Width))
		s.Raw("<div class=row>")
		if p.Before != nil {
			s.Shot(framed(p.Before, p.Was), "before", fmt.Sprintf("%.0f px high", p.Before.Area.H()),
				p.Before.Area.W()/2)
		} else {
			s.Raw(`<div class=cell><div class=cap><b>before</b><span>not there yet</span></div></div>`)
		}
		if p.After != nil {
			s.Shot(framed(p.After, p.Changed), "after", fmt.Sprintf("%.0f px high, %s", p.After.Area.H(),
				places(len(p.Changed))),
				p.After.Area.W()/2)
		} else {
			s.Raw(`<div class=cell><div class=cap><b>after</b><span>gone</span></div></div>`)
		}
		s.Raw("</div>")
	}
	if !any {
		return nil
	}
	return s
}

func places(n int) string {
	switch n {
	case 0:
		return "new"
	case 1:
		return "1 place changed"
	}
	return fmt.Sprintf("%d places changed", n)
}
