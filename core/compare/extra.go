package compare

import (
	"image"
	"math"

	"ziegel/core/draw"
	"ziegel/core/paint/geom"
)

// extraCell is the side of the squares in which what only a design has is joined, px.
const extraCell = 8

// extra gives what the design shows and the page has nowhere.
func (f *finder) extra(pairs []pair) []geom.Rect {
	b := f.ink[1]
	cols, rows := (b.w+extraCell-1)/extraCell, (b.h+extraCell-1)/extraCell
	cells := make([]bool, cols*rows)
	own := newOwnInk(f, cols, rows)
	for cy := range rows {
		for cx := range cols {
			n := 0
			for y := cy * extraCell; y < min(b.h, (cy+1)*extraCell); y++ {
				for x := cx * extraCell; x < min(b.w, (cx+1)*extraCell); x++ {
					if b.at(x, y) > inkEdge+8 {
						n++
					}
				}
			}
			cells[cy*cols+cx] = n >= 4 && !own.has(cx, cy)
		}
	}
	var out []geom.Rect
	// letters lie side by side
	for _, island := range draw.Islands(cols, rows, 3, func(k int) bool { return cells[k] }) {
		var r image.Rectangle
		for _, k := range island {
			x, y := k%cols*extraCell, k/cols*extraCell
			r = r.Union(image.Rect(x, y, x+extraCell, y+extraCell))
		}
		if len(island) >= 4 && r.Dx() >= 2*extraCell {
			out = append(out, geom.R(float64(r.Min.X), float64(r.Min.Y), float64(r.Dx()), float64(r.Dy())))
		}
	}
	return out
}

// ownInk marks the cells of a design where the page has something to show, too: pieces that were found, and what is
// drawn around them, such as lines and marks, as far from them as on the page.
type ownInk struct {
	cols  int
	cells []bool
}

func newOwnInk(f *finder, cols, rows int) *ownInk {
	o := &ownInk{cols: cols, cells: make([]bool, cols*rows)}
	mark := func(r geom.Rect) {
		for cy := max(0, int(r.Y0)/extraCell); cy <= min(rows-1, int(r.Y1)/extraCell); cy++ {
			for cx := max(0, int(r.X0)/extraCell); cx <= min(cols-1, int(r.X1)/extraCell); cx++ {
				o.cells[cy*cols+cx] = true
			}
		}
	}
	for i, p := range f.pairs {
		switch {
		case !p.found:
		case f.ours.pieces[i].kind == text || f.ours.pieces[i].kind == picture:
			r := p.there.Grow(6)
			if p.rewrap { // its lines may be more, and as long as what holds them lets them
				q := f.ours.pieces[i]
				r.Y1 += 2 * q.first.H()
				if h := q.holder; h >= 0 && f.ours.pieces[h].kind == box && f.pairs[h].found {
					r.X1 = max(r.X1, f.pairs[h].there.X1)
				} else {
					r.X1 += r.W() / 2
				}
			}
			if p.other { // all of what stands there instead
				q := f.ours.pieces[i].rect
				dx, dy := f.offset(q.X0, q.Y0)
				r = r.Union(q.Move(dx, dy).Grow(24))
				if h := f.ours.pieces[i].holder; h >= 0 && f.ours.pieces[h].kind == box && f.pairs[h].found {
					r.X1 = max(r.X1, f.pairs[h].there.X1)
				} else {
					r.X1 += r.W() / 2
				}
			}
			mark(r)
		default: // its edges
			r := p.there
			for _, e := range [4]geom.Rect{{X0: r.X0, Y0: r.Y0, X1: r.X1, Y1: r.Y0},
				{X0: r.X1, Y0: r.Y0, X1: r.X1, Y1: r.Y1},
				{X0: r.X0, Y0: r.Y1, X1: r.X1, Y1: r.Y1}, {X0: r.X0, Y0: r.Y0, X1: r.X0, Y1: r.Y1}} {
				mark(e.Grow(6))
			}
		}
	}
	a := f.ink[0]
	for cy := 0; cy*extraCell < a.h; cy++ {
		for cx := 0; cx*extraCell < a.w; cx++ {
			if !inked(a, cx, cy) {
				continue
			}
			dx, dy := f.offset(float64(cx*extraCell), float64(cy*extraCell))
			x, y := float64(cx*extraCell)+dx, float64(cy*extraCell)+dy
			mark(geom.R(x, y, extraCell, extraCell).Grow(4))
		}
	}
	return o
}

func (o *ownInk) has(cx, cy int) bool { return o.cells[cy*o.cols+cx] }

func inked(p *plane, cx, cy int) bool {
	for y := cy * extraCell; y < min(p.h, (cy+1)*extraCell); y++ {
		for x := cx * extraCell; x < min(p.w, (cx+1)*extraCell); x++ {
			if p.at(x, y) > inkEdge {
				return true
			}
		}
	}
	return false
}

// offset gives how far what lies at a place of the page is from it in the design: as the nearest piece.
func (f *finder) offset(x, y float64) (dx, dy float64) {
	best := math.Inf(1)
	for i, p := range f.pairs {
		if !p.found || p.other {
			continue
		}
		r := f.ours.pieces[i].rect
		if k := f.ours.pieces[i].kind; k == box || k == block {
			continue
		}
		far := math.Hypot(x-math.Max(r.X0, math.Min(r.X1, x)), y-math.Max(r.Y0, math.Min(r.Y1, y)))
		if far < best {
			best, dx, dy = far, p.there.X0-r.X0, p.there.Y0-r.Y0
		}
	}
	return dx, dy
}
