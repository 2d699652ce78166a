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

// wanted is an item on its way to its area, lines and spans by axis.
type wanted struct {
	it    *gridItem
	at, n [2]int
	fixed [2]bool // the line is given
	done  bool
}

// placement is the work of placing the items of a grid (css-grid-1, section 8.5). The minor axis is the one along which
// auto-placement goes: columns for a flow in rows.
type placement struct {
	g            *gridState
	minor, major int
	dense        bool
	list         []*wanted
	taken        [][]uint64 // a bit for each cell, by the line of the major axis
}

// placeItems gives every item its area: those with both lines given first, those locked to a line of the major axis
// next, then all others in the order of the document.
func (g *gridState) placeItems(kids []*Box) {
	store := g.store(len(kids))
	if g.simplePlacement(kids, store) {
		return
	}
	p := &placement{g: g, minor: colAxis, major: rowAxis}
	if strings.HasPrefix(g.b.style.AutoFlow, "column") {
		p.minor, p.major = rowAxis, colAxis
	}
	p.dense = strings.Contains(g.b.style.AutoFlow, "dense")
	p.read(kids, store)
	for _, w := range p.list {
		if w.fixed[colAxis] && w.fixed[rowAxis] {
			p.put(w, w.at)
		}
	}
	p.placeLocked()
	p.placeOthers()
}

// read takes in the lines that items ask for. Lines before the explicit grid make it grow at its start, so that lines
// count from 0.
func (p *placement) read(kids []*Box, store []gridItem) {
	var first [2]int
	for i, k := range kids {
		store[i].b = k
		w := &wanted{it: &store[i]}
		s := k.style
		w.at[colAxis], w.n[colAxis], w.fixed[colAxis] = p.g.cols.span(s.ColStart, s.ColEnd)
		w.at[rowAxis], w.n[rowAxis], w.fixed[rowAxis] = p.g.rows.span(s.RowStart, s.RowEnd)
		for axis := range w.at {
			if w.fixed[axis] {
				first[axis] = min(first[axis], w.at[axis])
			}
		}
		p.list = append(p.list, w)
		p.g.items = append(p.g.items, w.it)
	}
	for axis := range first {
		p.g.axis(axis).grow(-first[axis], 0)
		for _, w := range p.list {
			if w.fixed[axis] {
				w.at[axis] -= first[axis]
			}
		}
	}
}

// free reports whether no item stands in an area.
func (p *placement) free(at, n [2]int) bool {
	from, to := at[p.minor], at[p.minor]+n[p.minor]
	for m := max(0, at[p.major]); m < min(at[p.major]+n[p.major], len(p.taken)); m++ {
		if anyBit(p.taken[m], max(0, from), to) {
			return false
		}
	}
	return true
}

// take marks an area as taken.
func (p *placement) take(at, to [2]int) {
	for len(p.taken) < to[p.major] {
		p.taken = append(p.taken, nil)
	}
	for m := at[p.major]; m < to[p.major]; m++ {
		for len(p.taken[m])*64 < to[p.minor] {
			p.taken[m] = append(p.taken[m], 0)
		}
		for k := at[p.minor]; k < to[p.minor]; k++ {
			p.taken[m][k/64] |= 1 << (k % 64)
		}
	}
}

// anyBit reports whether one of the bits from..to is set.
func anyBit(bits []uint64, from, to int) bool {
	for w := from / 64; w < len(bits) && w*64 < to; w++ {
		mask := ^uint64(0)
		if w == from/64 {
			mask <<= from % 64
		}
		if end := to - w*64; end < 64 {
			mask &= 1<<end - 1
		}
		if bits[w]&mask != 0 {
			return true
		}
	}
	return false
}

// put gives an item its area; the implicit grid grows with it.
func (p *placement) put(w *wanted, at [2]int) {
	var to [2]int
	for axis := range at {
		tracks := p.g.axis(axis)
		w.n[axis] = tracks.confine(&at[axis], w.n[axis])
		to[axis] = at[axis] + w.n[axis]
		tracks.grow(0, to[axis])
	}
	p.take(at, to)
	w.it.row, w.it.rowEnd, w.it.col, w.it.colEnd = at[rowAxis], to[rowAxis], at[colAxis], to[colAxis]
	w.done = true
}

// placeLocked places items whose line of the major axis is given where there is room along it.
func (p *placement) placeLocked() {
	cursors := map[int]int{}
	for _, w := range p.list {
		if w.done || !w.fixed[p.major] {
			continue
		}
		at, line := w.at, w.at[p.major]
		at[p.minor] = 0
		if !p.dense {
			at[p.minor] = cursors[line]
		}
		for !p.free(at, w.n) {
			at[p.minor]++
		}
		cursors[line] = at[p.minor]
		p.put(w, at)
	}
}

// width is how many tracks the minor axis has for auto-placement.
func (p *placement) width() int {
	width := max(1, len(p.g.axis(p.minor).tracks))
	for _, w := range p.list {
		if w.done {
			continue
		}
		if w.fixed[p.minor] {
			width = max(width, w.n[p.minor]+w.at[p.minor])
		} else {
			width = max(width, w.n[p.minor])
		}
	}
	return width
}

// placeOthers places what is left behind a cursor that never goes back, unless the grid is dense.
func (p *placement) placeOthers() {
	width := p.width()
	var cursor [2]int
	begun := map[[3]int][2]int{} // where the search in a dense grid begins: by spans and a line that is given
	for _, w := range p.list {
		if w.done {
			continue
		}
		key := [3]int{w.n[0], w.n[1], -1}
		if w.fixed[p.minor] {
			key[2] = w.at[p.minor]
		}
		if p.dense { // cells are only ever taken
			cursor = begun[key]
		}
		if w.fixed[p.minor] {
			if line := w.at[p.minor]; !p.dense && line < cursor[p.minor] {
				cursor[p.major]++
			}
			cursor[p.minor] = w.at[p.minor]
			for !p.free(cursor, w.n) {
				cursor[p.major]++
			}
			begun[key] = cursor
			p.put(w, cursor)
			continue
		}
		for cursor[p.minor]+w.n[p.minor] > width || !p.free(cursor, w.n) {
			if cursor[p.minor]++; cursor[p.minor]+w.n[p.minor] > width {
				cursor[p.major]++
				cursor[p.minor] = 0
			}
		}
		begun[key] = cursor
		p.put(w, cursor)
	}
}

// store gives room for n items: that of the last time, unless somebody may still look at it.
func (g *gridState) store(n int) []gridItem {
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
