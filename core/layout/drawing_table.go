package layout

import (
	"cmp"
	"slices"

	"ziegel/core/css"
)

// table adds what only tables draw: the borders that their cells share, and where rows and columns have a background.
func (d *drawer) table(b *Box, at frame, out *Drawn) {
	t := b.table
	if t == nil {
		return
	}
	out.Rects[0] = Rect{at.x + b.frame.X, at.y + b.frame.Y, b.frame.W, b.frame.H}
	into := func(part *Box, cell Rect) {
		if p := d.boxes[part]; p != nil {
			p.Cells = append(p.Cells, cell)
		}
	}
	for i := range t.cells {
		c := &t.cells[i]
		cell := d.boxes[c.b]
		if cell == nil || len(cell.Rects) == 0 {
			continue
		}
		cell.Joined = t.joined
		into(t.rows[c.row].b, cell.Rects[0])
		into(t.rows[c.row].b.parent, cell.Rects[0])
		into(t.colOf[c.col], cell.Rects[0])
		into(t.groupOf[c.col], cell.Rects[0])
	}
	if out.Joined = t.joined; t.joined {
		out.Edges = d.edges(t, at)
	}
}

// edges lists the pieces of collapsed borders, the stronger later, so that they win where they cross. Each reaches into
// the crossings at its ends.
func (d *drawer) edges(t *tableState, at frame) (out []DrawnEdge) {
	j := t.edges
	add := func(e *joinedEdge, r Rect) {
		if e.from != nil && e.width > 0 && e.style != "hidden" && d.boxes[e.from] != nil {
			out = append(
				out,
				DrawnEdge{
					Rect:  Rect{mirrored(t.b, r.X, r.W) + at.x, r.Y + at.y, r.W, r.H},
					Side:  e.side,
					Style: e.style,
					From:  d.boxes[e.from],
				},
			)
		}
	}
	for row := 0; row <= j.rows; row++ {
		for col := range j.cols {
			e := &j.across[row*j.cols+col]
			c := &t.cols[col]
			before, after := j.crossing(row, col), j.crossing(row, col+1)
			add(e, Rect{c.x - before, t.lineY(row) - e.width/2, c.size + before + after, e.width})
		}
	}
	for row := range j.rows {
		for col := 0; col <= j.cols; col++ {
			e := &j.down[row*(j.cols+1)+col]
			above, below := j.crossingDown(row, col), j.crossingDown(row+1, col)
			add(e, Rect{t.lineX(col) - e.width/2, t.rows[row].y - above, e.width, t.rows[row].size + above + below})
		}
	}
	slices.SortStableFunc(out, func(a, b DrawnEdge) int {
		return cmp.Or(cmp.Compare(min(a.Rect.W, a.Rect.H), min(b.Rect.W, b.Rect.H)),
			cmp.Compare(styleRank[a.Style], styleRank[b.Style]))
	})
	return out
}

// lineY is the place of the line above a row.
func (t *tableState) lineY(row int) Px {
	if row == len(t.rows) {
		r := &t.rows[row-1]
		return r.y + r.size
	}
	return t.rows[row].y
}

// lineX is the place of the line before a column.
func (t *tableState) lineX(col int) Px {
	if col == len(t.cols) {
		c := &t.cols[col-1]
		return c.x + c.size
	}
	return t.cols[col].x
}

// crossing is half of the widest border that goes down through a corner.
func (j *joinedEdges) crossing(row, col int) (w Px) {
	for r := max(0, row-1); r <= min(row, j.rows-1); r++ {
		w = max(w, j.down[r*(j.cols+1)+col].half())
	}
	return w
}

// crossingDown is half of the widest border that goes across through a corner.
func (j *joinedEdges) crossingDown(row, col int) (w Px) {
	for c := max(0, col-1); c <= min(col, j.cols-1); c++ {
		w = max(w, j.across[row*j.cols+c].half())
	}
	return w
}

// tablePartLook reports boxes whose background lies behind their cells only.
func tablePartLook(d css.Display) bool {
	switch d {
	case css.TableRow, css.TableGroup, css.TableHeader, css.TableFooter, css.TableColumn, css.TableColumnGroup:
		return true
	}
	return false
}

// InCells reports a row, a row group or a column: its background lies behind its cells only (CSS 2, section 17.5.1).
func (d *Drawn) InCells() bool { return tablePartLook(d.Style.Display) && !d.OutOfFlow }
