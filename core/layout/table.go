package layout

import "ziegel/core/css"

// layoutTable places captions, row groups, rows and cells (CSS Tables 3, chapter 3; what it leaves open as measured).
// The boxes of rows and groups have a place and a size, too.
func (e *Engine) layoutTable(b *Box, sp space, h Px, def bool) {
	t := e.table(b)
	b.table = t
	t.sizeColumns()
	b.W -= t.goneWidth()
	above, below := t.layoutCaptions()
	t.layoutCells()
	// its own height is without the captions, one that is given to it with them (measured)
	inside := max(0, h-b.blockEdges())
	if sp.hasH {
		inside, def = max(0, sp.forceH-b.blockEdges()-above-below), true
	}
	least := Px(0)
	if m := b.style.MinH; m.Kind == css.LenPx && (!m.HasPercent() || sp.defCB) {
		least = max(0, b.borderH(m.Resolve(sp.cbH))-b.blockEdges())
	}
	if b.style.AspectRatio > 0 && b.style.Height.IsAuto() { // (measured)
		least = max(least, e.ratioHeight(b, b.W)-b.blockEdges())
	}
	if !def && least > 0 {
		inside, def = least, true
	}
	t.percentsOfRows = -1
	if def {
		t.percentsOfRows = max(0, inside-2*t.gapY)
	}
	t.heights = def && (b.style.Height.Kind == css.LenPx || !sp.hasH)
	t.sizeRows()
	t.sizeSections(inside, def)
	y := t.placeSections(b.contentY() + above)
	t.placeCells()
	grid := max(y+b.padding[css.Bottom]+b.border[css.Bottom]-above, inside*Px(bit(def))+b.blockEdges())
	b.H = above + grid + below
	b.contentH = b.H - b.blockEdges()
	t.placeCaptions(grid)
	t.placeColumns()
	b.frame = Rect{0, above, b.W, grid}
	b.marginsAbove.addOf(e, b, css.Top)
	b.marginsBelow.addOf(e, b, css.Bottom)
	for _, k := range b.kids {
		if k.outOfFlow() {
			k.staticIn, k.staticX, k.staticY = b, b.contentX(), b.contentY()+above
		}
	}
}

// layoutCaptions lays the captions out and tells how high those above and below the rows are, margins included.
func (t *tableState) layoutCaptions() (above, below Px) {
	for _, c := range t.captions {
		t.e.layout(c, space{cbW: t.b.W})
		high := max(0, c.H+c.margin[css.Top]+c.margin[css.Bottom])
		if c.style.CaptionBelow {
			below += high
		} else {
			above += high
		}
	}
	return above, below
}

func (t *tableState) placeCaptions(grid Px) {
	top, bottom := Px(0), Px(0)
	for _, c := range t.captions {
		if !c.style.CaptionBelow {
			bottom += c.H + c.margin[css.Top] + c.margin[css.Bottom]
		}
	}
	bottom += grid
	for _, c := range t.captions {
		y := &top
		if c.style.CaptionBelow {
			y = &bottom
		}
		c.origin = t.b
		c.X, c.Y = t.e.blockX(c, t.b.W, t.b), *y+c.margin[css.Top]
		*y += c.H + c.margin[css.Top] + c.margin[css.Bottom]
	}
}

// placeSections gives row groups and rows their places and sizes, and tells where the last ends.
func (t *tableState) placeSections(y Px) Px {
	b := t.b
	x, w := b.contentX()+t.gapX*Px(bit(!t.hollow())), Px(0)
	for i := range t.cols {
		w = max(w, t.cols[i].x+t.cols[i].size-x)
	}
	if t.hollow() {
		w = max(0, b.W-b.inlineEdges())
	}
	for i, s := range t.sections {
		s.edges(w)
		from, to := t.rowsOf[i][0], t.rowsOf[i][1]
		if from < to && !t.hollow() {
			y += t.gapY
		}
		s.origin, s.X, s.Y, s.W = b, x, y, w
		at, shownRows := Px(0), 0
		for j := from; j < to; j++ {
			r := &t.rows[j]
			r.b.edges(w)
			r.b.valid = true
			if r.gone {
				r.b.origin, r.b.X, r.b.Y, r.b.W, r.b.H = s, 0, at, w, 0
				continue
			}
			if shownRows++; shownRows > 1 {
				at += t.gapY
			}
			r.y = y + at
			r.b.origin, r.b.X, r.b.Y, r.b.W, r.b.H = s, 0, at, w, r.size
			at += r.size
		}
		s.H = max(at, t.ownHeights[i])
		y += s.H
		s.valid = true
	}
	if len(t.sections) > 0 && !t.hollow() {
		y += t.gapY
	}
	return y
}

// placeCells stretches the cells over their rows and moves what is in them where vertical-align says.
func (t *tableState) placeCells() {
	b := t.b
	for i := range t.cells {
		c := &t.cells[i]
		k := c.b
		r := &t.rows[c.row]
		last := &t.rows[c.row+c.rows-1]
		x, w := t.width(c)
		high := max(0, last.y+last.size-r.y)
		if r.gone {
			high = 0
		}
		if k.needsHeight && t.cellDefinite(k) {
			t.e.layout(k, space{cbW: t.b.W, forceW: w, hasW: true, forceH: high, hasH: true, defH: true})
			c.height = k.contentH + k.blockEdges()
		}
		k.H = high
		k.origin, k.X, k.Y = r.b, x-b.contentX()-t.gapX, 0
		t.alignCell(c, r, high)
		if k.baselines && c.row == 0 && !b.baselines && k.alignedInRow() == "baseline" {
			b.first, b.baselines = r.y+k.first, true
		}
	}
	t.baselines()
}

// cellDefinite reports a cell whose height something says.
func (t *tableState) cellDefinite(k *Box) bool {
	return k.style.Height.Kind == css.LenPx || t.heights
}

// alignCell moves the content of a cell.
func (t *tableState) alignCell(c *tableCell, r *tableRow, high Px) {
	k := c.b
	want := Px(0)
	free := high - k.contentH - k.blockEdges()
	switch k.alignedInRow() {
	case "middle":
		want = free / 2
	case "bottom":
		want = free
	case "baseline":
		want = r.baseline - k.cellBaseline()
		if c.rows == 1 && !k.baselines {
			want = max(0, min(want, free))
		}
	}
	if by := max(0, want) - k.cellShift; by != 0 {
		t.e.shiftContent(k, by)
		k.cellShift += by
	}
}

// baselines gives the table that of its first row (CSS Tables 3, section 3.9).
func (t *tableState) baselines() {
	b := t.b
	b.noLast = true
	if b.baselines || len(t.rows) == 0 {
		return
	}
	r := &t.rows[0]
	low := Px(0)
	for i := r.first; i < r.last; i++ {
		k := t.cells[i].b
		low = max(low, k.H-k.padding[css.Bottom]-k.border[css.Bottom])
	}
	b.first, b.baselines = r.y+low, true
}

// placeColumns gives the boxes of columns their places: from the first row group that has a height to the last one
// (measured).
func (t *tableState) placeColumns() {
	y0, y1 := Px(0), Px(0)
	for _, s := range t.sections {
		if s.H > 0 {
			if y1 == 0 {
				y0 = s.Y
			}
			y1 = s.Y + s.H
		}
	}
	h := y1 - y0
	real := len(t.cols) // columns behind the last one that counts stand in the corner of what holds them (measured)
	for real > 0 && t.cols[real-1].mergeable {
		real--
	}
	place := func(b *Box, x0, x1 Px, beyond bool) {
		y0, h := y0, h
		if beyond {
			x0, x1, y0, h = 0, 0, 0, 0
		}
		if b.display == css.TableColumn && x1 <= x0 { // no cell is in it
			h = 0
		}
		y0, origin := y0, t.b
		if p := b.parent; p != nil && p.kind == columnBox {
			x0, x1, y0, origin = x0-p.X, x1-p.X, y0-p.Y, p
			if beyond {
				x0, x1, y0 = 0, 0, 0
			}
		}
		b.edges(0)
		b.valid = true
		b.origin, b.X, b.Y, b.W, b.H = origin, x0, y0, max(0, x1-x0), h*Px(bit(!b.style.Gone))
	}
	for i := range t.cols {
		for _, b := range []*Box{t.groupOf[i], t.colOf[i]} {
			if b == nil || i > 0 && (t.groupOf[i-1] == b || t.colOf[i-1] == b) {
				continue
			}
			last := i
			for last+1 < len(t.cols) && (t.groupOf[last+1] == b || t.colOf[last+1] == b) {
				last++
			}
			end := min(last, max(i, real-1))
			place(b, t.cols[i].x, t.cols[end].x+t.cols[end].size, i >= real)
		}
	}
}
