package layout

import "ziegel/core/css"

// Subgrids (CSS Grid 2, section 9): a grid item whose tracks in an axis are those of its parent that it covers. Its
// own items take part in sizing the parent's tracks, as if they were there without it, with its edges as extra
// margins.

// deepestSubgrid bounds how deep subgrids are followed into each other: each level is laid out twice by the one
// around it.
const deepestSubgrid = 6

func (it *gridItem) covers(axis int) (from, to int) {
	if axis == colAxis {
		return it.col, it.colEnd
	}
	return it.row, it.rowEnd
}

// announce tells every subgrid among the items how many tracks it covers and what their lines are called.
func (g *gridState) announce() {
	for _, it := range g.items {
		for axis := range 2 {
			if !subgridIn(it.b, axis) || g.b.subDepth >= deepestSubgrid {
				it.b.sub[axis] = nil
				continue
			}
			it.b.subDepth = g.b.subDepth + 1
			a := g.axis(axis)
			from, to := it.covers(axis)
			old := it.b.sub[axis]
			sub := &subAxis{n: to - from, gap: a.gap}
			for _, l := range a.names {
				if l.at += a.before; l.at >= from && l.at <= to {
					l.at -= from
					sub.names = append(sub.names, l)
				}
			}
			if old != nil && old.n == sub.n && old.gap == sub.gap {
				sub.sizes = old.sizes
			} else {
				it.b.valid, it.b.sized = false, false
			}
			it.b.sub[axis] = sub
		}
	}
}

// inherited makes the tracks of a subgrid's axis out of its parent's.
func (g *gridState) inherited(sub *subAxis, list css.TrackList, own Px,
	hasOwn bool) (tracks []gridTrack, names []lineName, gap Px) {
	gap = sub.gap
	if hasOwn {
		gap = own
	}
	names = append(names, sub.names...)
	tracks = make([]gridTrack, 0, sub.n)
	for i, ns := range list.NamesOf(sub.n + 1) {
		for _, n := range ns {
			if i <= sub.n {
				names = append(names, lineName{name: n, at: i})
			}
		}
	}
	for i := range sub.n {
		t := gridTrack{}
		if i < len(sub.sizes) {
			size := css.PxLen(sub.sizes[i].Float())
			t.Track = css.Track{Min: size, Max: size}
		}
		tracks = append(tracks, t)
	}
	return tracks, names, gap
}

// edgesOf gives what a subgrid's margins, borders and padding take at the start and end of an axis.
func edgesOf(k *Box, axis int) (start, end Px) {
	a, z := css.Left, css.Right
	if axis == rowAxis {
		a, z = css.Top, css.Bottom
	}
	return k.margin[a] + k.border[a] + k.padding[a], k.margin[z] + k.border[z] + k.padding[z]
}

func (k *Box) gapIn(axis int, parent Px, base Px) Px {
	l := k.style.ColGap
	if axis == rowAxis {
		l = k.style.RowGap
	}
	if l.Kind == css.LenNormal {
		return parent
	}
	return gapOf(l, base, true)
}

// lend moves the spans of a subgrid's items into the parent's tracks.
func (g *gridState) lend(it *gridItem, axis int, spans []span) []span {
	from, to := it.covers(axis)
	start, end := edgesOf(it.b, axis)
	parent := g.axis(axis).gap
	half := (it.b.gapIn(axis, parent, 0) - parent) / 2
	out := make([]span, 0, len(spans)+2)
	edge := func(track int, size Px) { // its edges need room in tracks where none of its items stands, too
		if size > 0 {
			out = append(out, span{from: track, to: track + 1, lo: size, hi: size, least: size})
		}
	}
	if to-from == 1 {
		edge(from, start+end)
	} else {
		edge(from, start)
		edge(to-1, end)
	}
	for _, s := range spans {
		extra := Px(0)
		if s.from == 0 {
			extra += start
		} else {
			extra += half
		}
		if s.to >= to-from {
			extra += end
		} else {
			extra += half
		}
		out = append(out, span{from: from + s.from, to: from + s.to, lo: s.lo + extra, hi: s.hi + extra,
			least: s.least + extra})
	}
	return out
}

// grant hands the sizes of the parent's tracks to the subgrids.
func (g *gridState) grant(axis int) {
	a := g.axis(axis)
	for _, it := range g.items {
		sub := it.b.sub[axis]
		if sub == nil {
			continue
		}
		from, to := it.covers(axis)
		start, end := edgesOf(it.b, axis)
		gap := a.gap
		if to-from > 1 {
			gap = a.tracks[from+1].pos - a.tracks[from].pos - a.tracks[from].base
		}
		half := (it.b.gapIn(axis, gap, g.areaW(it)) - gap) / 2
		sizes := make([]Px, 0, to-from)
		for i := from; i < to; i++ {
			size := a.tracks[i].base
			if i == from {
				size -= start
			} else {
				size -= half
			}
			if i == to-1 {
				size -= end
			} else {
				size -= half
			}
			sizes = append(sizes, max(0, size))
		}
		same := len(sizes) == len(sub.sizes)
		for i := range sizes {
			same = same && sizes[i] == sub.sizes[i]
		}
		if !same {
			it.b.valid = false
		}
		sub.sizes, sub.gap = sizes, gap
	}
}
