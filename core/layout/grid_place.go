package layout

import (
	"strings"

	"ziegel/core/css"
)

// line resolves a placement line to a line number from 0, which may be negative. ok is false for auto and span.
func (a *axisTracks) line(l css.Line, side string) (int, bool) {
	if l.Auto || l.Span > 0 {
		return 0, false
	}
	if l.Name != "" {
		n := l.N
		if n == 0 {
			if at, count := a.named(l.Name, side, 1); count > 0 {
				return at, true
			}
			n = 1
		}
		at, count := a.named(l.Name, "", n)
		switch {
		case n <= count && -n <= count:
			return at, true
		case n > 0: // names beyond the explicit grid: all implicit lines have it
			return a.lines + n - count, true
		}
		return n + count, true
	}
	if l.N > 0 {
		return l.N - 1, true
	}
	return a.lines + 1 + l.N, true
}

// span resolves the two lines of one axis. start is -1<<30 when the axis is automatic.
func (a *axisTracks) span(start, end css.Line) (from, size int, fixed bool) {
	s, sok := a.line(start, "-start")
	z, zok := a.line(end, "-end")
	switch {
	case sok && zok:
		if z < s {
			s, z = z, s
		}
		if z == s {
			z = s + 1
		}
		return s, z - s, true
	case sok:
		if end.Span > 0 && end.Name != "" {
			n := 0
			for i := range a.names {
				if l := &a.names[i]; l.at > s && l.is(end.Name, "") {
					if n++; n == end.Span {
						return s, l.at - s, true
					}
				}
			}
			return s, max(1, a.lines-s) + end.Span - n - 1 + bit(a.lines-s > 0), true
		}
		return s, max(1, end.Span), true
	case zok:
		n := max(1, start.Span)
		return z - n, n, true
	}
	return 0, max(1, max(start.Span, end.Span)), false
}

// placeItems follows CSS Grid "Grid Item Placement Algorithm".
func (g *gridState) placeItems(kids []*Box) {
	s := g.b.style
	byCol := strings.HasPrefix(s.AutoFlow, "column")
	dense := strings.Contains(s.AutoFlow, "dense")
	type want struct {
		it               *gridItem
		c, cn, r, rn     int
		cfix, rfix, done bool
	}
	store := g.memory(len(kids))
	if g.simplePlacement(kids, store) {
		return
	}
	var list []*want
	minC, minR := 0, 0
	for i, k := range kids {
		store[i].b = k
		w := &want{it: &store[i]}
		w.c, w.cn, w.cfix = g.cols.span(k.style.ColStart, k.style.ColEnd)
		w.r, w.rn, w.rfix = g.rows.span(k.style.RowStart, k.style.RowEnd)
		if w.cfix {
			minC = min(minC, w.c)
		}
		if w.rfix {
			minR = min(minR, w.r)
		}
		list = append(list, w)
		g.items = append(g.items, w.it)
	}
	g.cols.grow(-minC, 0)
	g.rows.grow(-minR, 0)
	type area struct{ r, c, rz, cz int }
	taken := make([]area, 0, len(kids))
	free := func(r, c, rn, cn int) bool {
		for _, t := range taken {
			if r < t.rz && t.r < r+rn && c < t.cz && t.c < c+cn {
				return false
			}
		}
		return true
	}
	put := func(w *want, r, c int) {
		w.rn, w.cn = g.rows.confine(&r, w.rn), g.cols.confine(&c, w.cn)
		taken = append(taken, area{r, c, r + w.rn, c + w.cn})
		w.it.row, w.it.rowEnd, w.it.col, w.it.colEnd = r, r+w.rn, c, c+w.cn
		g.rows.grow(0, r+w.rn)
		g.cols.grow(0, c+w.cn)
		w.done = true
	}
	for _, w := range list {
		w.c -= minC * bit(w.cfix)
		w.r -= minR * bit(w.rfix)
		if w.cfix && w.rfix {
			put(w, w.r, w.c)
		}
	}
	// items locked to a line of the flow axis
	cursors := map[int]int{}
	for _, w := range list {
		locked := w.rfix
		if byCol {
			locked = w.cfix
		}
		if w.done || !locked {
			continue
		}
		major := w.r
		if byCol {
			major = w.c
		}
		at := 0
		if !dense {
			at = cursors[major]
		}
		for ; ; at++ {
			r, c := w.r, at
			if byCol {
				r, c = at, w.c
			}
			if free(r, c, w.rn, w.cn) {
				put(w, r, c)
				break
			}
		}
		cursors[major] = at
	}
	width := len(g.cols.tracks)
	if byCol {
		width = len(g.rows.tracks)
	}
	for _, w := range list {
		if w.done {
			continue
		}
		if byCol {
			width = max(width, w.rn+w.r*bit(w.rfix))
		} else {
			width = max(width, w.cn+w.c*bit(w.cfix))
		}
	}
	width = max(width, 1)
	curMajor, curMinor := 0, 0
	for _, w := range list {
		if w.done {
			continue
		}
		minorFix, minor, minorN := w.cfix, w.c, w.cn
		if byCol {
			minorFix, minor, minorN = w.rfix, w.r, w.rn
		}
		at := func(major, mi int) (int, int) {
			if byCol {
				return mi, major
			}
			return major, mi
		}
		if dense {
			curMajor, curMinor = 0, 0
		}
		if minorFix {
			if !dense && minor < curMinor {
				curMajor++
			}
			curMinor = minor
			for {
				r, c := at(curMajor, minor)
				if free(r, c, w.rn, w.cn) {
					put(w, r, c)
					break
				}
				curMajor++
			}
			continue
		}
		for {
			if curMinor+minorN > width {
				curMajor++
				curMinor = 0
			}
			r, c := at(curMajor, curMinor)
			if free(r, c, w.rn, w.cn) {
				put(w, r, c)
				curMinor += 0
				break
			}
			curMinor++
		}
	}
}

// memory gives room for n items: that of the last time, unless somebody may still look at it.
func (g *gridState) memory(n int) []gridItem {
	b := g.b
	if b.sub[colAxis] != nil || b.sub[rowAxis] != nil {
		g.items = make([]*gridItem, 0, n)
		return make([]gridItem, n)
	}
	if cap(b.gridRefs) < n {
		b.gridRefs = make([]*gridItem, 0, n)
	}
	g.items = b.gridRefs[:0]
	store := grown(&b.gridStore, n)
	clear(store)
	return store
}

// simplePlacement fills row after row when no item asks for a line or spans, which is nearly always.
func (g *gridState) simplePlacement(kids []*Box, store []gridItem) bool {
	if strings.HasPrefix(g.b.style.AutoFlow, "column") {
		return false
	}
	auto := css.Line{Auto: true}
	for _, k := range kids {
		if s := k.style; s.ColStart != auto || s.ColEnd != auto || s.RowStart != auto || s.RowEnd != auto {
			return false
		}
	}
	n := max(1, len(g.cols.tracks))
	if g.rows.closed && len(kids) > n*len(g.rows.tracks) {
		return false
	}
	g.cols.grow(0, n)
	g.rows.grow(0, (len(kids)+n-1)/n)
	for i, k := range kids {
		store[i] = gridItem{b: k, col: i % n, colEnd: i%n + 1, row: i / n, rowEnd: i/n + 1}
		g.items = append(g.items, &store[i])
	}
	return true
}

// confine keeps a placement inside a subgrid's tracks.
func (a *axisTracks) confine(at *int, n int) int {
	if !a.closed {
		return n
	}
	n = min(n, len(a.tracks))
	*at = max(0, min(*at, len(a.tracks)-n))
	return n
}

// grow adds implicit tracks in front and up to n in all.
func (a *axisTracks) grow(front, n int) {
	if a.closed {
		return
	}
	if front > 0 {
		first := make([]gridTrack, front, front+max(n, len(a.tracks)))
		for i := range first {
			first[front-1-i] = gridTrack{Track: pickAuto(a.auto, -a.before-1-i)}
		}
		a.before += front
		a.tracks = append(first, a.tracks...)
	}
	if cap(a.tracks) < n {
		a.tracks = append(make([]gridTrack, 0, n), a.tracks...)
	}
	for len(a.tracks) < n {
		a.tracks = append(a.tracks, gridTrack{Track: pickAuto(a.auto, len(a.tracks)-a.before-a.lines)})
	}
}
