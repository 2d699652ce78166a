package layout

import "ziegel/core/css"

// How wide tables are by what is in them.

// between is the room that columns cannot have: what lies between them and at the sides.
func (t *tableState) between() Px {
	if t.hollow() {
		return 0
	}
	n := 0
	for i := range t.cols {
		n += bit(!t.cols[i].mergeable)
	}
	return t.gapX * Px(n+1)
}

// hollow reports a table without cells, and without columns that have a width.
func (t *tableState) hollow() bool {
	for i := range t.cols {
		if !t.cols[i].mergeable {
			return false
		}
	}
	return true
}

// mostWidth is how wide a table may get by its percentages, as browsers have it (measured).
const mostWidth = 1000000 * 64

// limits gives the least and the greatest width of the grid, without the borders of the table.
func (t *tableState) limits(percents bool) (lo, hi Px) {
	var sum, plain float64
	var byPercent Px
	for i := range t.cols {
		c := &t.cols[i]
		if t.fixed && c.given && !c.hasPercent {
			lo += c.max
		} else {
			lo += c.min
		}
		hi += c.max
		if c.hasPercent && c.percent > 0 {
			byPercent = max(byPercent, css.FromFloat(100/c.percent*c.max.Float()))
			sum += c.percent
		} else {
			plain += c.max.Float()
		}
	}
	sum = min(sum, 100)
	if sum > 0 && percents {
		var rest Px
		switch {
		case plain > 0 && sum == 100:
			rest = mostWidth
		case plain > 0:
			rest = css.FromFloat(min(100/(100-sum)*plain, 1000000))
		}
		hi = max(hi, rest, byPercent)
	}
	hi = max(lo, hi)
	return lo + t.between(), hi + t.between()
}

// intrinsicTable gives the content widths of a table.
func (e *Engine) intrinsicTable(b *Box) (lo, hi Px) {
	t := e.table(b)
	b.edges(b.edgedIn)
	t.constrain()
	percents := !b.inAutoCell() && b.style.Width.Kind != css.LenMaxContent
	lo, hi = t.limits(percents)
	b.shrunkTo = hi
	if percents && b.inFlexItem() {
		lo, hi = t.limits(false)
	}
	if b.hollow = t.hollow(); b.hollow {
		lo, hi = 2*t.gapX, max(hi, 2*t.gapX)
	}
	if t.fixed && b.style.Width.Kind == css.LenPx && b.style.Width.HasPercent() { // (measured)
		hi = mostWidth
	}
	least := e.captionWidth(t)
	b.captions = least
	return max(lo, least-b.inlineEdges()), max(hi, least-b.inlineEdges())
}

// inFlexItem reports a table that says how wide an item of a flex box or a grid is: for it, percentages of columns
// count for nothing (measured).
func (b *Box) inFlexItem() bool {
	for p := b; p.parent != nil && p.style.Width.Kind != css.LenPx && !p.outOfFlow(); p = p.parent {
		if p.parent.kind == flexBox || p.parent.kind == gridBox {
			return true
		}
	}
	return false
}

// inAutoCell reports a table in a cell whose width its content says: percentages of columns do not widen it.
func (b *Box) inAutoCell() bool {
	for p := b.parent; p != nil; p = p.parent {
		if p.display == css.TableCell && p.style.Width.Kind != css.LenPx {
			for q := p.parent; q != nil; q = q.parent {
				if q.kind == tableBox {
					return !q.style.FixedTable && (q.style.Width.Kind != css.LenPx || q.style.Width.HasPercent())
				}
			}
		}
	}
	return false
}

// captionWidth is how wide the captions of a table are at least, margins included.
func (e *Engine) captionWidth(t *tableState) (least Px) {
	for _, c := range t.captions {
		lo, _ := e.contribution(c, 0)
		least = max(least, lo)
	}
	return least
}
