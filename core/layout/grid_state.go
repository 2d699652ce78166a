package layout

import "ziegel/core/css"

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
	switch a {
	case "center":
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

func (g *gridState) justifyOf(k *Box) css.Align {
	a := k.style.JustifySelf
	if subgridIn(k, colAxis) {
		return "stretch"
	}
	if a == "" {
		a = g.b.style.JustifyItems
	}
	if a == "" {
		a = "stretch"
		if k.kind == replacedBox {
			a = "start"
		}
	}
	return a
}

func (g *gridState) alignOf(k *Box) css.Align {
	a := k.style.AlignSelf
	if subgridIn(k, rowAxis) {
		return "stretch"
	}
	if a == "" {
		a = g.b.style.AlignItems
	}
	if a == "" {
		a = "stretch"
		if k.kind == replacedBox || k.style.AspectRatio > 0 {
			a = "start"
		}
	}
	return a
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
