package layout

import (
	"slices"

	"ziegel/core/css"
)

// build sets up tracks and places the items.
func (e *Engine) newGrid(b *Box, kids []*Box, inner space, width Px, wdef bool) *gridState {
	s := b.style
	var g *gridState
	if b.sub[colAxis] != nil || b.sub[rowAxis] != nil {
		g = &gridState{e: e, b: b} // the grid around a subgrid looks at its state later
	} else {
		if b.gridMemory == nil {
			b.gridMemory = &gridState{}
		}
		g = b.gridMemory
		*g = gridState{e: e, b: b, cols: axisTracks{tracks: g.cols.tracks, names: g.cols.names},
			rows: axisTracks{tracks: g.rows.tracks, names: g.rows.names}, colSpans: g.colSpans, rowSpans: g.rowSpans}
	}
	colGap, rowGap := gapOf(s.ColGap, width, wdef), gapOf(s.RowGap, inner.cbH, inner.defCB)
	minW := Px(0)
	if s.MinW.Kind == css.LenPx && !wdef {
		minW = s.MinW.Resolve(0)
	}
	cols, colNames := g.explicit(s.GridCols, axisRoom{width, wdef, minW}, colGap, &g.cols)
	minH := Px(0)
	if s.MinH.Kind == css.LenPx && !s.MinH.HasPercent() {
		minH = s.MinH.Resolve(0)
	}
	rows, rowNames := g.explicit(s.GridRows, axisRoom{inner.cbH, inner.defCB, minH}, rowGap, &g.rows)
	subCols, subRows := b.sub[colAxis], b.sub[rowAxis]
	if subCols != nil {
		cols, colNames, colGap = g.inherited(subCols, s.GridCols, colGap, s.ColGap.Kind != css.LenNormal)
	}
	if subRows != nil {
		rows, rowNames, rowGap = g.inherited(subRows, s.GridRows, rowGap, s.RowGap.Kind != css.LenNormal)
	}
	for len(cols) < s.GridAreaCols && subCols == nil {
		cols = append(cols, gridTrack{Track: pickAuto(s.AutoCols, len(cols))})
	}
	for len(rows) < s.GridAreaRows && subRows == nil {
		rows = append(rows, gridTrack{Track: pickAuto(s.AutoRows, len(rows))})
	}
	for n, a := range s.GridAreas {
		colNames = append(colNames, lineName{n, "-start", a.Col - 1}, lineName{n, "-end", a.ColEnd - 1})
		rowNames = append(rowNames, lineName{n, "-start", a.Row - 1}, lineName{n, "-end", a.RowEnd - 1})
	}
	if len(s.GridAreas) > 0 || subCols != nil || subRows != nil {
		byLine := func(a, b lineName) int { return a.at - b.at }
		slices.SortStableFunc(colNames, byLine)
		slices.SortStableFunc(rowNames, byLine)
	}
	g.cols = axisTracks{tracks: cols, names: colNames, lines: len(cols), gap: colGap, auto: s.AutoCols,
		closed: subCols != nil}
	g.rows = axisTracks{tracks: rows, names: rowNames, lines: len(rows), gap: rowGap, auto: s.AutoRows,
		closed: subRows != nil}
	g.placeItems(e.flexItems(b, kids))
	g.collapseFit()
	g.announce()
	return g
}

// explicit expands a track list against the available size.
func (g *gridState) explicit(list css.TrackList, in axisRoom, gap Px, spare *axisTracks) (tracks []gridTrack,
	names []lineName) {
	tracks, names = spare.tracks[:0], spare.names[:0]
	add := func(ns []string, at int) {
		for _, n := range ns {
			names = append(names, lineName{name: n, at: at})
		}
	}
	for _, it := range list.Items {
		if it.Repeat == 0 {
			add(it.Names, len(tracks))
			tracks = append(tracks, gridTrack{Track: it.Track})
			continue
		}
		n := g.autoRepeat(list, it, in, gap)
		for range n {
			add(it.Names, len(tracks))
			for _, t := range it.Tracks {
				add(t.Names, len(tracks))
				tracks = append(tracks, gridTrack{Track: t.Track, fromFit: it.Repeat == css.AutoFit})
			}
			add(it.Tail, len(tracks))
		}
	}
	add(list.Names, len(tracks))
	return tracks, names
}

// autoRepeat counts the repetitions of auto-fill and auto-fit; the comparison is exact (measured).
func (g *gridState) autoRepeat(list css.TrackList, rep css.TrackItem, in axisRoom, gap Px) int {
	base := in.avail
	size := func(t css.Track) Px {
		l := t.Max
		if l.Kind != css.LenPx {
			l = t.Min
		} else if t.Min.Kind == css.LenPx {
			return max(l.Resolve(base), t.Min.Resolve(base))
		}
		if l.Kind != css.LenPx {
			return 64
		}
		return max(64, l.Resolve(base))
	}
	var fixed, one Px
	count := 0
	for _, it := range list.Items {
		if it.Repeat == 0 {
			fixed += size(it.Track) + gap
			count++
		}
	}
	for _, t := range rep.Tracks {
		one += size(t.Track) + gap
	}
	if !in.def {
		if in.least <= 0 || one <= 0 {
			return 1
		}
		n := 1
		for fixed+one*Px(n)-gap < in.least && n < 1000 {
			n++
		}
		return n
	}
	if one <= 0 {
		return 1
	}
	return max(1, min(1000, int((base-fixed+gap)/one)))
}

// collapseFit drops the empty tracks of auto-fit.
func (g *gridState) collapseFit() {
	for axis := range 2 {
		tracks := g.axis(axis).tracks
		for i := range tracks {
			if !tracks[i].fromFit {
				continue
			}
			tracks[i].collapsed = !slices.ContainsFunc(g.items, func(it *gridItem) bool {
				from, to := it.covers(axis)
				return from <= i && i < to
			})
		}
	}
}
