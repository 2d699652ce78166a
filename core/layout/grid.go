package layout

import (
	"cmp"

	"ziegel/core/css"
)

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
	g.size(&g.cols, axisRoom{inner.cbW, true, 0}, g.colItems(), s.JustifyContent)
	g.position(&g.cols, inner.cbW, s.JustifyContent)
	g.grant(colAxis)
	g.layoutItems(inner)
	if b.sub[rowAxis] != nil {
		b.grid = g
	}
	minH := Px(0)
	if !def {
		if m := s.MinH; m.Kind == css.LenPx && (!m.HasPercent() || sp.defCB) {
			minH = max(0, b.borderH(m.Resolve(sp.cbH))-b.blockEdges())
		}
		if s.AspectRatio > 0 && s.Height.IsAuto() {
			minH = max(minH, e.ratioHeight(b, b.W)-b.blockEdges())
		}
	}
	rowItems := g.rowItems()
	avail := inner.cbH
	if sp.hasH && !def {
		avail, def = max(0, sp.forceH-b.blockEdges()), true
	}
	g.size(&g.rows, axisRoom{avail, def, minH}, rowItems, s.AlignContent)
	if g.columnsByRows(inner) {
		g.grant(colAxis)
	}
	total := g.total(&g.rows)
	b.contentH = total
	if s.RowGap.HasPercent() && !inner.defCB {
		g.rows.gap = max(0, s.RowGap.Resolve(total)) // and rows that can give way do (measured)
		g.size(&g.rows, axisRoom{total, true, 0}, rowItems, s.AlignContent)
	}
	b.marginsAbove.addOf(e, b, css.Top)
	b.marginsBelow.addOf(e, b, css.Bottom)
	b.H = e.finalHeight(b, sp)
	g.position(&g.rows, b.H-b.blockEdges(), s.AlignContent)
	g.grant(rowAxis)
	g.placeBoxes(inner)
	for _, k := range b.kids {
		if k.outOfFlow() {
			k.staticIn, k.staticX, k.staticY = b, b.contentX(), b.contentY()
			k.area = g.absoluteArea(k, inner)
		}
	}
}

// absoluteArea gives the grid area that a positioned child names, as its containing block; nil when it names none.
func (g *gridState) absoluteArea(k *Box, inner space) *Rect {
	s := k.style
	if s.ColStart.Auto && s.ColEnd.Auto && s.RowStart.Auto && s.RowEnd.Auto {
		return nil
	}
	b := g.b
	x, w := b.border[css.Left], b.W-b.border[css.Left]-b.border[css.Right]
	y, h := b.border[css.Top], b.H-b.border[css.Top]-b.border[css.Bottom]
	edge := func(a *axisTracks, l css.Line, side string, content, otherwise Px) Px {
		at, ok := a.line(l, side)
		at += a.before
		if !ok || at < 0 || at > len(a.tracks) { // auto and lines that are not there: the padding edge
			return otherwise
		}
		if at == len(a.tracks) || side == "-end" && at > 0 {
			t := &a.tracks[at-1]
			return content + t.pos + t.base
		}
		return content + a.tracks[at].pos
	}
	if len(g.cols.tracks) > 0 {
		x2 := edge(&g.cols, s.ColEnd, "-end", b.contentX(), x+w)
		x = edge(&g.cols, s.ColStart, "-start", b.contentX(), x)
		w = max(0, x2-x)
	}
	if len(g.rows.tracks) > 0 {
		y2 := edge(&g.rows, s.RowEnd, "-end", b.contentY(), y+h)
		y = edge(&g.rows, s.RowStart, "-start", b.contentY(), y)
		h = max(0, y2-y)
	}
	return &Rect{x, y, w, h}
}

// itemWidth gives the border-box width of an item in its area; ok is false when layout finds it (fit-content).
func (g *gridState) itemWidth(it *gridItem) (Px, bool) {
	k := it.b
	area := g.areaW(it)
	// always stretched: its own sizes count for nothing in this axis (css-grid-2, "Subgrids")
	if k.sub[colAxis] != nil {
		return max(0, area-k.margin[css.Left]-k.margin[css.Right]), true
	}
	if it.justify == "stretch" && k.style.Width.Kind == css.LenAuto && !k.autoMargin[css.Left] &&
		!k.autoMargin[css.Right] {
		w := area - k.margin[css.Left] - k.margin[css.Right]
		if cmp.Or(k.style.JustifySelf, g.b.style.JustifyItems) == "" { // not where the author says stretch (measured)
			if l := k.style.Height; k.style.AspectRatio > 0 && l.Kind == css.LenPx && !l.HasPercent() {
				return 0, false
			}
			w = g.e.transferred(k, w, space{})
		}
		return g.e.clampW(k, w, area, true), true
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
		it.height = it.b.H + it.b.margin[css.Top] + it.b.margin[css.Bottom]
	}
}

// placeBoxes gives every item its final size and place.
func (g *gridState) placeBoxes(inner space) {
	b := g.b
	baselines, lasts := g.rowBaselines()
	for _, it := range g.items {
		k := it.b
		area := Rect{g.cols.tracks[it.col].pos, g.rows.tracks[it.row].pos, g.areaW(it), g.areaH(it)}
		sp := space{cbW: area.W, cbH: area.H, defCB: true, shrink: true}
		if w, ok := g.itemWidth(it); ok {
			sp.forceW, sp.hasW = w, true
		}
		autoV := k.autoMargin[css.Top] || k.autoMargin[css.Bottom]
		if k.sub[rowAxis] != nil {
			sp.forceH = max(0, area.H-k.margin[css.Top]-k.margin[css.Bottom])
			sp.hasH, sp.defH = true, true
		} else if it.alignV == "stretch" && k.style.Height.Kind == css.LenAuto && !autoV {
			sp.forceH = k.byContent(g.e.clampH(k, area.H-k.margin[css.Top]-k.margin[css.Bottom], sp))
			sp.hasH, sp.defH = true, true
			unsaid := cmp.Or(k.style.JustifySelf, b.style.JustifyItems) == ""
			byRatio := k.style.AspectRatio > 0 && (!sp.hasW || unsaid && k.kind != replacedBox) &&
				k.style.Width.IsAuto()
			if byRatio {
				sp.forceW, sp.hasW = g.e.clampW(k, g.e.ratioWidth(k, sp.forceH), area.W, true), true
			}
		}
		g.e.layout(k, sp)
		k.origin = b
		x := alignIn(it.justify, area.W-k.W-k.margin[css.Left]-k.margin[css.Right], k.autoMargin[css.Left],
			k.autoMargin[css.Right])
		y := alignIn(it.alignV, area.H-k.H-k.margin[css.Top]-k.margin[css.Bottom], k.autoMargin[css.Top],
			k.autoMargin[css.Bottom])
		if it.alignV == "baseline" {
			y = baselines[it.row] - k.baseline() - k.margin[css.Top]
		}
		if it.alignV == "last baseline" {
			y = area.H - lasts[it.rowEnd-1] - k.lastBaseline() - k.margin[css.Top]
		}
		k.X = b.contentX() + area.X + x + k.margin[css.Left]
		k.Y = b.contentY() + area.Y + y + k.margin[css.Top]
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

// rowBaselines gives the shared baselines of rows: first ones from the upper edges of the rows in which items begin,
// last ones from the lower edges of those in which they end.
func (g *gridState) rowBaselines() (firsts, lasts map[int]Px) {
	firsts, lasts = map[int]Px{}, map[int]Px{}
	for _, it := range g.items {
		switch k := it.b; it.alignV {
		case "baseline":
			firsts[it.row] = max(firsts[it.row], k.baseline()+k.margin[css.Top])
		case "last baseline":
			at := it.rowEnd - 1
			lasts[at] = max(lasts[at], k.H-k.lastBaseline()+k.margin[css.Bottom])
		}
	}
	return firsts, lasts
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
