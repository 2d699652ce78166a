package draw

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"ziegel/core/css"
	"ziegel/core/explain"
	"ziegel/core/layout"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
	"ziegel/core/sweep"
)

// Distance is the room between two parts of a block, or between its edge and what is in it, as a line across it.
type Distance struct {
	X0, Y0, X1, Y1 float64 // CSS px, of the page; the line is horizontal or vertical
	Px             float64 // CSS px
}

// leastMeasured is what distance is worth a line, CSS px.
const leastMeasured = 4

// Distances measures a block of a page that is laid out: from its edges to what is in it, and between boxes that stand
// beside or below each other, of those that hold parts.
func Distances(s *Shot, block *css.Element) []Distance {
	var out []Distance
	seen := map[string]bool{}
	add := func(d Distance) {
		d.Px = math.Abs(d.X1-d.X0) + math.Abs(d.Y1-d.Y0)
		key := fmt.Sprintf("%.0f %.0f %.0f %.0f", d.X0, d.Y0, d.X1, d.Y1)
		if d.Px >= leastMeasured && !seen[key] {
			seen[key] = true
			out = append(out, d)
		}
	}
	whole, ok := s.box(block)
	if !ok {
		return nil
	}
	inner := geom.Rect{}
	var walk func(e *css.Element)
	walk = func(e *css.Element) {
		var kids []geom.Rect
		for _, k := range e.Kids() {
			r, ok := s.box(k)
			if !ok || r.W() < 2 || r.H() < 2 {
				continue
			}
			kids = append(kids, r)
			if k.Attr("data-part") != "" && k.Tag != "svg" {
				if inner.Empty() {
					inner = r
				} else {
					inner = geom.Rect{X0: min(inner.X0, r.X0), Y0: min(inner.Y0, r.Y0), X1: max(inner.X1, r.X1),
						Y1: max(inner.Y1, r.Y1)}
				}
			}
			if k.Tag != "svg" && k.Tag != "p" {
				walk(k)
			}
		}
		between(kids, add)
	}
	walk(block)
	if !inner.Empty() {
		add(Distance{X0: inner.X0 + 12, X1: inner.X0 + 12, Y0: whole.Y0, Y1: inner.Y0})
		add(Distance{X0: inner.X0 + 12, X1: inner.X0 + 12, Y0: inner.Y1, Y1: whole.Y1})
		add(Distance{X0: whole.X0, X1: inner.X0, Y0: inner.Y0 + 12, Y1: inner.Y0 + 12})
	}
	slices.SortStableFunc(
		out,
		func(a, b Distance) int { return cmp.Or(cmp.Compare(a.Y0, b.Y0), cmp.Compare(a.X0, b.X0)) },
	)
	return out
}

// between measures boxes against the next one to the right and the next one below.
func between(list []geom.Rect, add func(Distance)) {
	for i, a := range list {
		right, below := -1, -1
		for j, b := range list {
			if i == j {
				continue
			}
			across := min(a.Y1, b.Y1) - max(a.Y0, b.Y0)
			along := min(a.X1, b.X1) - max(a.X0, b.X0)
			if across > 0 && b.X0 >= a.X1 && (right < 0 || b.X0 < list[right].X0) {
				right = j
			}
			if along > 0 && b.Y0 >= a.Y1 && (below < 0 || b.Y0 < list[below].Y0) {
				below = j
			}
		}
		if right >= 0 {
			b := list[right]
			y := (max(a.Y0, b.Y0) + min(a.Y1, b.Y1)) / 2
			add(Distance{X0: a.X1, X1: b.X0, Y0: y, Y1: y})
		}
		if below >= 0 {
			b := list[below]
			x := max(a.X0, b.X0) + min(24, (min(a.X1, b.X1)-max(a.X0, b.X0))/2)
			add(Distance{X0: x, X1: x, Y0: a.Y1, Y1: b.Y0})
		}
	}
}

// Measured gives a shot of a block with its distances drawn over it, each a line between two strokes, with its number.
func Measured(s *Shot, list []Distance, numbers layout.Options) *Shot {
	out := *s
	l := *s.List
	l.Items = append([]display.Item(nil), l.Items...)
	bar := func(x0, y0, x1, y1 float64) {
		r := geom.Rect{X0: x0, Y0: y0, X1: x1, Y1: y1}
		l.Items = append(l.Items, &display.Fill{Rect: &r, Brush: display.Solid(outlineColor)})
	}
	for _, d := range list {
		if d.X0 == d.X1 {
			bar(d.X0, d.Y0, d.X0+1, d.Y1)
			bar(d.X0-3, d.Y0, d.X0+4, d.Y0+1)
			bar(d.X0-3, d.Y1-1, d.X0+4, d.Y1)
			l.Items = append(l.Items, label(numbers, short(d.Px), d.X0+5, (d.Y0+d.Y1)/2-7)...)
			continue
		}
		bar(d.X0, d.Y0, d.X1, d.Y0+1)
		bar(d.X0, d.Y0-3, d.X0+1, d.Y0+4)
		bar(d.X1-1, d.Y0-3, d.X1, d.Y0+4)
		l.Items = append(l.Items, label(numbers, short(d.Px), (d.X0+d.X1)/2-8, d.Y0+4)...)
	}
	out.List = &l
	return &out
}

// label writes a few letters on a light ground.
func label(o layout.Options, text string, x, y float64) []display.Item {
	return written(
		o,
		`<b style="display:block;width:max-content;padding:0 3px;border-radius:3px;background:#fff;color:#b3124c;font:600 11px/14px 'Hanken Grotesk'">`+text+`</b>`,
		x,
		y,
	)
}

// TabOrder gives a shot of a page with the places that the tab key reaches numbered, joined by a line in their order.
func TabOrder(l *sweep.Prepared, s *Shot, numbers layout.Options) (*Shot, int) {
	out := *s
	list := *s.List
	list.Items = append([]display.Item(nil), list.Items...)
	by := map[string]*css.Element{}
	for i := range s.Result.Boxes {
		if el := s.Result.Boxes[i].Element; el != nil {
			by[el.Path()] = el
		}
	}
	n := 0
	var last *geom.Rect
	var marks []display.Item
	for _, h := range explain.Reading(s.Page, s.Result) {
		el := by[h.Path]
		if h.Tab == 0 || el == nil {
			continue
		}
		r, ok := s.box(el)
		if !ok {
			continue
		}
		n++
		if last != nil {
			list.Items = append(
				list.Items,
				&display.Fill{Path: thread(last.X0, last.Y0, r.X0, r.Y0), Brush: display.Solid(outlineColor)},
			)
		}
		list.Items = append(list.Items, Frame(r.Grow(2), 1))
		marks = append(marks, Numbered(numbers, n, r)...)
		at := r
		last = &at
	}
	list.Items = append(list.Items, marks...)
	out.List = &list
	return &out, n
}

// thread is a line of 1 px between two points.
func thread(x0, y0, x1, y1 float64) *geom.Path {
	dx, dy := x1-x0, y1-y0
	length := math.Hypot(dx, dy)
	if length == 0 {
		length = 1
	}
	nx, ny := -dy/length*.6, dx/length*.6
	p := &geom.Path{}
	p.MoveTo(x0+nx, y0+ny)
	p.LineTo(x1+nx, y1+ny)
	p.LineTo(x1-nx, y1-ny)
	p.LineTo(x0-nx, y0-ny)
	p.ClosePath()
	return p
}
