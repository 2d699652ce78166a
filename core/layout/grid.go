package layout

import (
	"slices"

	"ziegel/core/css"
)

// gridItem is one item with the tracks that it covers, counted from 0; end is after the last.
type gridItem struct {
	b           *Box
	col, colEnd int
	row, rowEnd int
	lo, hi      Px // width contributions, margins included
	justify     css.Align
	alignV      css.Align
	height      Px
}

// axisTracks is one axis of a grid.
type axisTracks struct {
	tracks []gridTrack
	names  []lineName // of the explicit grid, in the order of their lines
	lines  int        // explicit tracks
	before int        // implicit tracks added in front
	gap    Px
	auto   []css.Track
	closed bool // of a subgrid: no implicit tracks
}

// lineName is a name of a line, counted from 0: name and side together, side "-start" or "-end" for those that areas
// give.
type lineName struct {
	name, side string
	at         int
}

func (l *lineName) is(name, side string) bool {
	if l.side == side {
		return l.name == name
	}
	return len(l.name)+len(l.side) == len(name)+len(side) && l.name+l.side == name+side
}

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

type gridTrack struct {
	css.Track
	base, limit Px
	infinite    bool
	pos         Px
	collapsed   bool // an empty auto-fit track
	fromFit     bool
}

type gridState struct {
	e     *Engine
	b     *Box
	cols  axisTracks
	rows  axisTracks
	items []*gridItem

	colSpans, rowSpans []span // memory
}

// explicit expands a track list against the available size.
func (g *gridState) explicit(list css.TrackList, base Px, def bool, gap Px, minSize Px, spare *axisTracks) (tracks []gridTrack, names []lineName) {
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
		n := g.autoRepeat(list, it, base, def, gap, minSize)
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
func (g *gridState) autoRepeat(list css.TrackList, rep css.TrackItem, base Px, def bool, gap, minSize Px) int {
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
	if !def {
		if minSize <= 0 || one <= 0 {
			return 1
		}
		n := 1
		for fixed+one*Px(n)-gap < minSize && n < 1000 {
			n++
		}
		return n
	}
	if one <= 0 {
		return 1
	}
	return max(1, min(1000, int((base-fixed+gap)/one)))
}

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
		*g = gridState{e: e, b: b, cols: axisTracks{tracks: g.cols.tracks, names: g.cols.names}, rows: axisTracks{tracks: g.rows.tracks, names: g.rows.names}, colSpans: g.colSpans, rowSpans: g.rowSpans}
	}
	colGap, rowGap := gapOf(s.ColGap, width, wdef), gapOf(s.RowGap, inner.cbH, inner.defCB)
	minW := Px(0)
	if s.MinW.Kind == css.LenPx && !wdef {
		minW = s.MinW.Resolve(0)
	}
	cols, colNames := g.explicit(s.GridCols, width, wdef, colGap, minW, &g.cols)
	minH := Px(0)
	if s.MinH.Kind == css.LenPx && !s.MinH.HasPercent() {
		minH = s.MinH.Resolve(0)
	}
	rows, rowNames := g.explicit(s.GridRows, inner.cbH, inner.defCB, rowGap, minH, &g.rows)
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
	g.cols = axisTracks{tracks: cols, names: colNames, lines: len(cols), gap: colGap, auto: s.AutoCols, closed: subCols != nil}
	g.rows = axisTracks{tracks: rows, names: rowNames, lines: len(rows), gap: rowGap, auto: s.AutoRows, closed: subRows != nil}
	g.placeItems(e.flexItems(b, kids))
	g.collapseFit()
	g.announce()
	return g
}

func pickAuto(auto []css.Track, i int) css.Track {
	if len(auto) == 0 {
		return css.Track{}
	}
	return auto[((i%len(auto))+len(auto))%len(auto)]
}

// collapseFit drops the empty tracks of auto-fit.
func (g *gridState) collapseFit() {
	for i := range g.cols.tracks {
		if g.cols.tracks[i].fromFit {
			g.cols.tracks[i].collapsed = true
			for _, it := range g.items {
				if it.col <= i && i < it.colEnd {
					g.cols.tracks[i].collapsed = false
				}
			}
		}
	}
	for i := range g.rows.tracks {
		if g.rows.tracks[i].fromFit {
			g.rows.tracks[i].collapsed = true
			for _, it := range g.items {
				if it.row <= i && i < it.rowEnd {
					g.rows.tracks[i].collapsed = false
				}
			}
		}
	}
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
		if k.style.AspectRatio > 0 && k.style.Width.IsAuto() && k.kind == replacedBox {
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

// layoutGrid follows CSS Grid "Grid Sizing": columns, then rows from the items' heights, then positions.
func (e *Engine) layoutGrid(b *Box, inner, sp space, h Px, def bool) {
	g := e.newGrid(b, b.kids, inner, inner.cbW, true)
	s := b.style
	for _, it := range g.items {
		it.b.edges(inner.cbW)
		it.justify, it.alignV = g.justifyOf(it.b), g.alignOf(it.b)
	}
	if g.contentSized(&g.cols) {
		for _, it := range g.items {
			it.lo, it.hi = g.widths(it, 0)
		}
	}
	g.size(&g.cols, inner.cbW, true, 0, g.colItems(), s.JustifyContent)
	g.position(&g.cols, inner.cbW, s.JustifyContent)
	g.grant(colAxis)
	g.layoutItems(inner)
	if b.sub[rowAxis] != nil {
		b.grid = g
	}
	minH := Px(0)
	if !def {
		if m := s.MinH; m.Kind == css.LenPx && (!m.HasPercent() || sp.defCB) {
			minH = max(0, b.borderH(m.Resolve(sp.cbH))-b.vpb())
		}
		if s.AspectRatio > 0 && s.Height.IsAuto() {
			minH = max(minH, e.ratioHeight(b, b.W)-b.vpb())
		}
	}
	rowItems := g.rowItems()
	avail := inner.cbH
	if sp.hasH && !def {
		avail, def = max(0, sp.forceH-b.vpb()), true
	}
	g.size(&g.rows, avail, def, minH, rowItems, s.AlignContent)
	total := g.total(&g.rows)
	b.contentH = total
	if s.RowGap.HasPercent() && !inner.defCB {
		g.rows.gap = max(0, s.RowGap.Resolve(total)) // and rows that can give way do (measured)
		g.size(&g.rows, total, true, 0, rowItems, s.AlignContent)
	}
	b.top.add(b.mar[css.Top])
	b.bot.add(b.mar[css.Bottom])
	b.H = e.finalHeight(b, sp)
	g.position(&g.rows, b.H-b.vpb(), s.AlignContent)
	g.grant(rowAxis)
	g.placeBoxes(inner)
	for _, k := range b.kids {
		if k.outOfFlow() {
			k.staticIn, k.staticX, k.staticY = b, b.contentX(), b.contentY()
			k.area = g.absoluteArea(k, inner)
		}
	}
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

// absoluteArea gives the grid area that a positioned child names, as its containing block; nil when it names none.
func (g *gridState) absoluteArea(k *Box, inner space) *Rect {
	s := k.style
	if s.ColStart.Auto && s.ColEnd.Auto && s.RowStart.Auto && s.RowEnd.Auto {
		return nil
	}
	b := g.b
	x, w := b.bor[css.Left], b.W-b.bor[css.Left]-b.bor[css.Right]
	y, h := b.bor[css.Top], b.H-b.bor[css.Top]-b.bor[css.Bottom]
	edge := func(a *axisTracks, l css.Line, side string, content, otherwise Px, end bool) Px {
		at, ok := a.line(l, side)
		at += a.before
		if !ok || at < 0 || at > len(a.tracks) { // auto and lines that are not there: the padding edge
			return otherwise
		}
		if at == len(a.tracks) || end && at > 0 {
			t := &a.tracks[at-1]
			return content + t.pos + t.base
		}
		return content + a.tracks[at].pos
	}
	if len(g.cols.tracks) > 0 {
		x2 := edge(&g.cols, s.ColEnd, "-end", b.contentX(), x+w, true)
		x = edge(&g.cols, s.ColStart, "-start", b.contentX(), x, false)
		w = max(0, x2-x)
	}
	if len(g.rows.tracks) > 0 {
		y2 := edge(&g.rows, s.RowEnd, "-end", b.contentY(), y+h, true)
		y = edge(&g.rows, s.RowStart, "-start", b.contentY(), y, false)
		h = max(0, y2-y)
	}
	return &Rect{x, y, w, h}
}

// widths gives an item's width contributions, margins included.
func (g *gridState) widths(it *gridItem, base Px) (Px, Px) {
	lo, hi := g.e.contribution(it.b, base)
	k := it.b
	if h, ok := g.fixedRows(it); ok && k.kind == replacedBox && k.style.Height.HasPercent() && k.style.Width.IsAuto() {
		if _, _, ratio := g.e.natural(k); ratio > 0 {
			w := css.FromFloat((k.borderH(k.style.Height.Resolve(h))-k.vpb()).Float()*ratio) + k.hpb()
			w = g.e.clampW(k, w, 0, false) + k.mar[css.Left] + k.mar[css.Right]
			return w, w
		}
	}
	return lo, hi
}

// fixedRows gives the height of an item's rows when all have a fixed size.
func (g *gridState) fixedRows(it *gridItem) (Px, bool) {
	h := g.rows.gap * Px(it.rowEnd-it.row-1)
	for _, t := range g.rows.tracks[it.row:it.rowEnd] {
		if t.Min.Kind != css.LenPx || t.Max.Kind != css.LenPx || t.Min.HasPercent() || t.Max.HasPercent() {
			return 0, false
		}
		h += max(t.Min.Resolve(0), t.Max.Resolve(0))
	}
	return h, true
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

// itemWidth gives the border-box width of an item in its area; ok is false when layout finds it (fit-content).
func (g *gridState) itemWidth(it *gridItem) (Px, bool) {
	k := it.b
	area := g.areaW(it)
	// always stretched: its own sizes count for nothing in this axis (css-grid-2, "Subgrids")
	if k.sub[colAxis] != nil {
		return max(0, area-k.mar[css.Left]-k.mar[css.Right]), true
	}
	if it.justify == "stretch" && k.style.Width.Kind == css.LenAuto && !k.autoMar[css.Left] && !k.autoMar[css.Right] {
		return g.e.clampW(k, area-k.mar[css.Left]-k.mar[css.Right], area, true), true
	}
	return 0, false
}

// layoutItems lays every item out in its column area to find its height.
func (g *gridState) layoutItems(inner space) {
	for _, it := range g.items {
		sp := space{cbW: g.areaW(it), shrink: true}
		it.b.edges(sp.cbW)
		if w, ok := g.itemWidth(it); ok {
			sp.forceW, sp.hasW = w, true
		}
		g.e.layout(it.b, sp)
		it.height = it.b.H + it.b.mar[css.Top] + it.b.mar[css.Bottom]
	}
}

// placeBoxes gives every item its final size and place.
func (g *gridState) placeBoxes(inner space) {
	b := g.b
	baselines := g.rowBaselines()
	for _, it := range g.items {
		k := it.b
		area := Rect{g.cols.tracks[it.col].pos, g.rows.tracks[it.row].pos, g.areaW(it), g.areaH(it)}
		sp := space{cbW: area.W, cbH: area.H, defCB: true, shrink: true}
		if w, ok := g.itemWidth(it); ok {
			sp.forceW, sp.hasW = w, true
		}
		autoV := k.autoMar[css.Top] || k.autoMar[css.Bottom]
		if k.sub[rowAxis] != nil {
			sp.forceH = max(0, area.H-k.mar[css.Top]-k.mar[css.Bottom])
			sp.hasH, sp.defH = true, true
		} else if it.alignV == "stretch" && k.style.Height.Kind == css.LenAuto && !autoV {
			sp.forceH = g.e.clampH(k, area.H-k.mar[css.Top]-k.mar[css.Bottom], sp)
			sp.hasH, sp.defH = true, true
			if k.style.AspectRatio > 0 && !sp.hasW && k.style.Width.IsAuto() {
				sp.forceW, sp.hasW = g.e.clampW(k, g.e.ratioWidth(k, sp.forceH), area.W, true), true
			}
		}
		g.e.layout(k, sp)
		k.origin = b
		x := alignIn(it.justify, area.W-k.W-k.mar[css.Left]-k.mar[css.Right], k.autoMar[css.Left], k.autoMar[css.Right])
		y := alignIn(it.alignV, area.H-k.H-k.mar[css.Top]-k.mar[css.Bottom], k.autoMar[css.Top], k.autoMar[css.Bottom])
		if it.alignV == "baseline" {
			y = baselines[it.row] - k.baseline() - k.mar[css.Top]
		}
		k.X = b.contentX() + area.X + x + k.mar[css.Left]
		k.Y = b.contentY() + area.Y + y + k.mar[css.Top]
		if !b.baselines || it.row == 0 && it.col == 0 {
			b.first = k.Y + k.H
			if k.baselines {
				b.first = k.Y + k.first
			}
			b.baselines = true
		}
		b.last = k.Y + k.H
		if k.baselines {
			b.last = k.Y + k.last
		}
	}
}

// baseline gives the first baseline of a laid out box from its upper edge: the lower edge when it has none.
func (b *Box) baseline() Px {
	if b.baselines {
		return b.first
	}
	return b.H
}

func (g *gridState) rowBaselines() map[int]Px {
	out := map[int]Px{}
	for _, it := range g.items {
		if it.alignV == "baseline" {
			out[it.row] = max(out[it.row], it.b.baseline()+it.b.mar[css.Top])
		}
	}
	return out
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

// intrinsicGrid sizes the columns under a min-content and a max-content constraint.
func (e *Engine) intrinsicGrid(b *Box) (Px, Px) {
	g := e.newGrid(b, e.children(b, 0), space{}, 0, false)
	for _, it := range g.items {
		it.lo, it.hi = g.widths(it, 0)
	}
	items := g.colItems()
	saved := append(e.scratch.tracks[:0], g.cols.tracks...)
	e.scratch.tracks = saved
	g.sizeIntrinsic(&g.cols, items, false)
	lo := g.total(&g.cols)
	copy(g.cols.tracks, saved)
	g.sizeIntrinsic(&g.cols, items, true)
	return lo, g.total(&g.cols)
}
