package layout

import (
	"strings"

	"ziegel/core/css"
)

// Scroll snapping (CSS Scroll Snap 1): a scroll container that snaps starts scrolled to the snap position nearest to
// its beginning, which moves what is in it (measured: padding before the first area is scrolled away).

// snapWindow is what a scroller shows on one axis: how much padding lies before and after what snaps, its border, how
// much it shows, and up to where its content goes.
type snapWindow struct{ before, border, after, scroll, content Px }

// snapped gives how far a box is scrolled when the page is shown, sideways and down.
func (e *Engine) snapped(b *Box) (dx, dy Px) {
	s := b.style
	noSnap := s.SnapType == "" || s.SnapType == "none" || b.el == nil || b.el.Parent == nil || b.el.Tag == "body"
	if noSnap {
		return 0, 0
	}
	axis, strict := s.SnapType, strings.HasSuffix(s.SnapType, "mandatory")
	var areas []Rect
	var aligns []string
	right, bottom := Px(0), Px(0)
	var walk func(k *Box, x, y Px)
	walk = func(k *Box, x, y Px) {
		if k.kind == textBox || k.kind == inlineBox || k.outOfFlow() {
			return
		}
		x, y = x+k.X, y+k.Y
		right, bottom = max(right, x+k.W+max(0, k.margin[css.Right])), max(bottom, y+k.H+max(0, k.margin[css.Bottom]))
		if a := k.style.SnapAlign; a != "" && a != "none" {
			m := k.style.ScrollMargin
			areas = append(areas, Rect{x - m[css.Left].Resolve(0), y - m[css.Top].Resolve(0),
				k.W + m[css.Left].Resolve(0) + m[css.Right].Resolve(0),
				k.H + m[css.Top].Resolve(0) + m[css.Bottom].Resolve(0)})
			aligns = append(aligns, a)
		}
		if k.style.OverflowX == "visible" || k.style.OverflowX == "clip" {
			for _, c := range k.kids {
				if c.origin == k {
					walk(c, x, y)
				}
			}
		}
	}
	for _, k := range b.kids {
		if k.origin == b {
			walk(k, 0, 0)
		}
	}
	choose := func(w snapWindow, edge func(Rect) (Px, Px), word int) Px {
		size, start, end, scroll, content := w.before, w.border, w.after, w.scroll, w.content
		most := content - scroll - start
		if most <= 0 {
			return 0
		}
		best, found := Px(0), false
		for i, a := range areas {
			list := strings.Fields(aligns[i])
			align := list[min(word, len(list)-1)]
			at, extent := edge(a)
			room := scroll - size - end
			switch align {
			case "start":
				at = at - start - size
			case "center":
				at = at + extent/2 - start - size - room/2
			case "end":
				at = at + extent - start - size - room
			default:
				continue
			}
			at = max(0, min(at, most))
			if !found || at < best {
				best, found = at, true
			}
		}
		if !found || !strict && best > scroll/3 {
			return 0
		}
		return best
	}
	p := s.ScrollPadding
	if strings.HasPrefix(axis, "x") || strings.HasPrefix(axis, "inline") || strings.HasPrefix(axis, "both") {
		if o := s.OverflowX; o == "auto" || o == "scroll" || o == "hidden" {
			w := b.W - b.border[css.Left] - b.border[css.Right]
			dx = choose(snapWindow{p[css.Left].Resolve(w), b.border[css.Left], p[css.Right].Resolve(w), w,
				right + b.padding[css.Right]},
				func(r Rect) (Px, Px) { return r.X, r.W }, 1)
		}
	}
	if strings.HasPrefix(axis, "y") || strings.HasPrefix(axis, "block") || strings.HasPrefix(axis, "both") {
		if o := s.OverflowY; o == "auto" || o == "scroll" || o == "hidden" {
			h := b.H - b.border[css.Top] - b.border[css.Bottom]
			dy = choose(snapWindow{p[css.Top].Resolve(h), b.border[css.Top], p[css.Bottom].Resolve(h), h,
				bottom + b.padding[css.Bottom]},
				func(r Rect) (Px, Px) { return r.Y, r.H }, 0)
		}
	}
	return dx, dy
}
