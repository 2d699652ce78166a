package geom

import (
	"image"

	"github.com/srwiley/rasterx"
	"golang.org/x/image/math/fixed"
)

// Pen says how a line is drawn along a path (SVG 2, "Stroke properties").
type Pen struct {
	Width  float64
	Cap    string // butt, round, square
	Join   string // miter, round, bevel
	Miter  float64
	Dashes []float64 // an even number of lengths, drawn and left out
	Offset float64
}

// fine is how many units of the stroker a px has: it counts in 1/64 of them.
const fine = 16

// Stroke gives the outline of what a pen draws along the path.
func (p *Path) Stroke(pen Pen) *Path {
	b := p.Bounds()
	invisible := pen.Width <= 0 || !(b.X1 < reach && b.Y1 < reach && b.X0 > -reach && b.Y0 > -reach)
	if invisible {
		return &Path{}
	}
	out := &lines{}
	caps := map[string]rasterx.CapFunc{"round": rasterx.RoundCap, "square": rasterx.SquareCap}
	ends := caps[pen.Cap]
	if ends == nil {
		ends = rasterx.ButtCap
	}
	join := map[string]rasterx.JoinMode{"round": rasterx.Round, "bevel": rasterx.Bevel}
	mode, ok := join[pen.Join]
	if !ok {
		mode = rasterx.Miter
	}
	dashes := make([]float64, len(pen.Dashes))
	for i, d := range pen.Dashes {
		dashes[i] = d * fine
	}
	if len(dashes) == 0 {
		dashes = nil
	}
	d := rasterx.NewDasher(1, 1, out)
	gap := rasterx.FlatGap
	if mode == rasterx.Round {
		gap = rasterx.RoundGap
	}
	d.SetStroke(fixed.Int26_6(pen.Width*fine*64), fixed.Int26_6(max(1, pen.Miter)*64), ends, ends, gap, mode,
		dashes, pen.Offset*fine)
	at := func(q Point) fixed.Point26_6 {
		return fixed.Point26_6{X: fixed.Int26_6(q.X * fine * 64), Y: fixed.Int26_6(q.Y * fine * 64)}
	}
	open := false
	p.Each(func(op Op, from Point, pts []Point) {
		switch op {
		case Move:
			if open {
				d.Stop(false)
			}
			d.Start(at(pts[0]))
			open = true
			return
		case Close:
			if open {
				d.Stop(true)
			}
			open = false
			return
		}
		if !open { // after a closed part the next one begins where that began
			d.Start(at(from))
			open = true
		}
		switch op {
		case Line:
			d.Line(at(pts[0]))
		case Quad:
			d.QuadBezier(at(pts[0]), at(pts[1]))
		case Cubic:
			d.CubeBezier(at(pts[0]), at(pts[1]), at(pts[2]))
		}
	})
	if open {
		d.Stop(false)
	}
	return out.loops()
}

// reach is how far from the origin a line may be drawn, CSS px.
const reach = 1 << 18

// lines collects what the stroker draws: stretches of an outline, in any order.
type lines struct{ list [][]fixed.Point26_6 }

// Start begins a stretch.
func (l *lines) Start(a fixed.Point26_6) { l.list = append(l.list, []fixed.Point26_6{a}) }

// Line goes on.
func (l *lines) Line(b fixed.Point26_6) {
	if n := len(l.list); n > 0 {
		l.list[n-1] = append(l.list[n-1], b)
	}
}

// loops joins the stretches where one ends and another begins: together they are closed.
func (l *lines) loops() *Path {
	from := map[fixed.Point26_6][]int{}
	for i, s := range l.list {
		if len(s) > 1 {
			from[s[0]] = append(from[s[0]], i)
		}
	}
	out := &Path{}
	used := make([]bool, len(l.list))
	at := func(a fixed.Point26_6) (x, y float64) { return float64(a.X) / 64 / fine, float64(a.Y) / 64 / fine }
	for i, s := range l.list {
		if used[i] || len(s) < 2 {
			continue
		}
		out.MoveTo(at(s[0]))
		for next := i; next >= 0; {
			used[next] = true
			part := l.list[next]
			for _, q := range part[1:] {
				out.LineTo(at(q))
			}
			end := part[len(part)-1]
			next = -1
			if end == s[0] {
				break
			}
			for list := from[end]; len(list) > 0; list = list[1:] {
				if !used[list[0]] {
					next = list[0]
					from[end] = list[1:]
					break
				}
			}
		}
		out.ClosePath()
	}
	return out
}

// Draw is not needed: nobody draws here.
func (l *lines) Draw() {}

// GetPathExtent is not asked for.
func (l *lines) GetPathExtent() fixed.Rectangle26_6 { return fixed.Rectangle26_6{} }

// SetBounds is not needed.
func (l *lines) SetBounds(w, h int) {}

// SetColor is not needed.
func (l *lines) SetColor(color any) {}

// SetWinding is not needed.
func (l *lines) SetWinding(useNonZeroWinding bool) {}

// Clear is not needed.
func (l *lines) Clear() {}

// SetClip is not needed.
func (l *lines) SetClip(r image.Rectangle) {}
