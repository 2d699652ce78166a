package layout

import (
	"slices"

	"ziegel/core/css"
)

// sizeColumns shares the width of the table among its columns and says where each begins, from the border box of the
// table.
func (t *tableState) sizeColumns() {
	b := t.b
	t.constrain()
	target := max(0, b.W-b.inlineEdges()-t.between())
	var sizes []Px
	if t.fixed {
		sizes = t.dealtFixed(target)
	} else {
		sizes = dealt(target, t.cols, true)
	}
	x, first := b.contentX()+t.gapX, true
	for i := range t.cols {
		c := &t.cols[i]
		c.size = sizes[i]
		if c.gone {
			c.lost, c.size, c.x = c.size, 0, x
			continue
		}
		if !c.mergeable {
			x += t.gapX * Px(bit(!first))
			first = false
		}
		c.x = x
		x += c.size
	}
}

// goneWidth is what collapsed columns take from the width of the table, the room before them counted in.
func (t *tableState) goneWidth() (w Px) {
	for i := range t.cols {
		if c := &t.cols[i]; c.gone {
			w += c.lost + t.gapX*Px(bit(!c.mergeable))
		}
	}
	return w
}

// width gives the width of a cell, and its place from the border box of the table.
func (t *tableState) width(c *tableCell) (x, w Px) {
	first, last := &t.cols[c.col], &t.cols[c.col+c.cols-1]
	return first.x, max(0, last.x+last.size-first.x)
}

// layoutCells lays every cell out in its columns to find the height of its content.
func (t *tableState) layoutCells() {
	for i := range t.cells {
		c := &t.cells[i]
		k := c.b
		k.edges(t.b.W)
		_, w := t.width(c)
		sp := space{cbW: t.b.W, forceW: w, hasW: true}
		if k.sp.hasH && k.valid { // it was stretched by a percentage in it
			k.valid = false
		}
		t.e.layout(k, sp)
		c.height = k.naturalH
	}
}

// sizeRows finds the least height of every row.
func (t *tableState) sizeRows() {
	for i := range t.rows {
		t.sizeRow(&t.rows[i])
	}
	var wide []int
	for i := range t.cells {
		if t.cells[i].rows > 1 {
			wide = append(wide, i)
		}
	}
	slices.SortStableFunc(wide, func(a, b int) int {
		x, y := &t.cells[a], &t.cells[b]
		if d := x.rows - y.rows; d != 0 {
			return d
		}
		return x.row - y.row
	})
	for _, i := range wide {
		c := &t.cells[i]
		t.spreadHeight(c.row, c.rows, c.height, true)
	}
}

func (t *tableState) sizeRow(r *tableRow) {
	size, above, below := Px(0), Px(0), Px(0)
	for i := r.first; i < r.last; i++ {
		c := &t.cells[i]
		k := c.b
		h := k.style.Height
		if k.alignedInRow() == "baseline" {
			base := k.cellBaseline()
			above = max(above, base)
			if c.rows == 1 {
				below = max(below, c.height-base)
			}
			r.hasBaseline = true
		}
		if c.rows > 1 {
			continue
		}
		size = max(size, c.height)
		switch {
		case h.Kind == css.LenPx && h.HasPercent():
			r.percent = max(r.percent, h.Pct)
		case h.Kind == css.LenPx:
			r.constrained = true
		}
	}
	switch h := r.b.style.Height; {
	case h.Kind == css.LenPx && h.HasPercent():
		r.percent, r.constrained = max(r.percent, h.Pct), true
	case h.Kind == css.LenPx:
		size, r.constrained = max(size, h.Resolve(0)), true
	}
	r.size, r.baseline = max(size, above+below), above
	if r.gone {
		r.size = 0
	}
}

// cellBaseline is that of its first line, else the lower edge of its content.
func (b *Box) cellBaseline() Px {
	if b.baselines {
		return b.first - b.cellShift
	}
	return b.naturalH - b.padding[css.Bottom] - b.border[css.Bottom]
}

// alignedInRow gives where the content of a cell stands: top, middle, bottom or baseline.
func (b *Box) alignedInRow() string {
	switch v := b.style.VerticalAlign; v {
	case "top", "middle", "bottom":
		return v
	}
	return "baseline"
}

// spreadHeight makes some rows as high together as asked, the room between them counted in. For a cell, the rows in
// which others begin that span rows go first (measured).
func (t *tableState) spreadHeight(from, n int, want Px, forCell bool) {
	rows := t.rows[from : from+n]
	free := want - t.gapY*Px(n-1)
	var percents, spans, loose, empty, firm []int
	var lacks, looseSum, firmSum Px
	lack := func(r *tableRow) Px {
		if r.percent <= 0 || t.percentsOfRows < 0 {
			return 0
		}
		return max(0, css.FromFloat(r.percent/100*t.percentsOfRows.Float())-r.size)
	}
	for i := range rows {
		r := &rows[i]
		free -= r.size
		if r.spanStart && i > 0 && forCell {
			spans = append(spans, i)
		}
		if l := lack(r); l > 0 {
			percents, lacks = append(percents, i), lacks+l
		}
		switch {
		case r.size == 0:
			empty = append(empty, i)
		case r.percent > 0 && t.percentsOfRows >= 0 || r.percent <= 0 && r.constrained:
			firm, firmSum = append(firm, i), firmSum+r.size
		default:
			loose, looseSum = append(loose, i), looseSum+r.size
		}
	}
	if free <= 0 {
		return
	}
	deal := func(list []int, free Px, share func(i int) Px) {
		left := free
		for _, i := range list {
			s := share(i)
			rows[i].size += s
			left -= s
		}
		rows[list[len(list)-1]].size += left
	}
	if len(percents) > 0 {
		part := min(lacks, free)
		lacking := make([]Px, len(rows))
		for _, i := range percents {
			lacking[i] = lack(&rows[i])
		}
		deal(percents, part, func(i int) Px { return mulDiv(part, lacking[i], lacks) })
		if free -= part; free <= 0 {
			return
		}
	}
	even := func(list []int) func(int) Px { return func(int) Px { return free / Px(len(list)) } }
	switch {
	case len(spans) > 0:
		deal(spans, free, even(spans))
	case len(loose) > 0:
		deal(loose, free, func(i int) Px { return mulDiv(free, rows[i].size, looseSum) })
	case len(empty) == len(rows) && forCell:
		deal(empty[len(empty)-1:], free, even(empty))
	case len(empty) == len(rows):
		deal(empty, free, even(empty))
	default:
		deal(firm, free, func(i int) Px { return mulDiv(free, rows[i].size, firmSum) })
	}
}
