package layout

import (
	"cmp"

	"ziegel/core/css"
)

// named gives the n-th line with a name, counted from 1, or from the end when n is below 0, and how many lines have
// it.
func (a *axisTracks) named(name, side string, n int) (at, count int) {
	for i := range a.names {
		if a.names[i].is(name, side) {
			count++
			if count == n {
				at = a.names[i].at
			}
		}
	}
	if n >= 0 || -n > count {
		return at, count
	}
	at, _ = a.named(name, side, count+1+n)
	return at, count
}

func (l *lineName) is(name, side string) bool {
	if l.side == side {
		return l.name == name
	}
	return len(l.name)+len(l.side) == len(name)+len(side) && l.name+l.side == name+side
}

func pickAuto(auto []css.Track, i int) css.Track {
	if len(auto) == 0 {
		return css.Track{}
	}
	return auto[((i%len(auto))+len(auto))%len(auto)]
}

func (g *gridState) areaW(it *gridItem) Px {
	return spanSize(&g.cols, it.col, it.colEnd)
}

func (g *gridState) areaH(it *gridItem) Px {
	return spanSize(&g.rows, it.row, it.rowEnd)
}

func spanSize(a *axisTracks, from, to int) Px {
	var w Px
	open := 0
	for i := from; i < to; i++ {
		if a.tracks[i].collapsed {
			continue
		}
		if open > 0 {
			w += a.gap
		}
		open++
		w += a.tracks[i].base
	}
	return w
}

func alignIn(a css.Align, free Px, autoStart, autoEnd bool) Px {
	switch {
	case autoStart && autoEnd:
		return max(0, free) / 2
	case autoStart:
		return max(0, free)
	case autoEnd:
		return 0
	}
	switch a.At(free) {
	case "center", "anchor-center":
		return floorHalf(free)
	case "end", "flex-end", "right", "self-end":
		return free
	}
	return 0
}

func fixedTrack(l css.Len, def bool) bool { return l.Kind == css.LenPx && (def || !l.HasPercent()) }

func flexible(t *gridTrack) bool { return t.Max.Kind == css.LenFr && !t.collapsed }

func (g *gridState) axis(axis int) *axisTracks {
	if axis == colAxis {
		return &g.cols
	}
	return &g.rows
}

func (g *gridState) justifyOf(k *Box) css.Align { return g.selfAlign(k, colAxis) }

func (g *gridState) alignOf(k *Box) css.Align { return g.selfAlign(k, rowAxis) }

// selfAlign gives how an item is aligned along an axis. What has a size or a ratio of its own is not stretched unless
// it says so (css-grid-1, section 6.2).
func (g *gridState) selfAlign(k *Box, axis int) css.Align {
	if subgridIn(k, axis) {
		return "stretch"
	}
	own, all, keeps := k.style.JustifySelf, g.b.style.JustifyItems, k.kind == replacedBox && !g.e.fillsArea(k)
	if axis == rowAxis {
		own, all, keeps = k.style.AlignSelf, g.b.style.AlignItems, keeps || k.style.AspectRatio > 0
	}
	otherwise := css.Align("stretch")
	if keeps {
		otherwise = "start"
	}
	a := cmp.Or(own, all, otherwise)
	if axis == colAxis {
		return a.Physical(g.b.rtl())
	}
	return a
}

// contentSized reports whether any track of an axis looks at its items.
func (g *gridState) contentSized(a *axisTracks) bool {
	for i := range a.tracks {
		t := &a.tracks[i]
		if t.Min.Kind != css.LenPx || t.Max.Kind != css.LenPx && t.Max.Kind != css.LenFr {
			return true
		}
	}
	return false
}

// fillsArea reports a replaced element that a grid, or two opposite insets, stretch all the same: most controls, and
// pictures that have no size of their own (measured).
func (e *Engine) fillsArea(k *Box) bool {
	switch k.el.Tag {
	case "textarea", "select":
		return true
	case "img":
		nw, nh, _ := e.natural(k)
		return nw == 0 && nh == 0
	case "input":
		return fieldType(k.el) != "color"
	}
	return false
}

func (g *gridState) gaps(a *axisTracks) Px {
	n := 0
	for i := range a.tracks {
		if !a.tracks[i].collapsed {
			n++
		}
	}
	if n < 2 {
		return 0
	}
	return a.gap * Px(n-1)
}
