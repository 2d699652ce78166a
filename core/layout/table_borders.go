package layout

import "ziegel/core/css"

// where borders come from, the stronger the higher (CSS Tables 3, section 4.4).
const (
	ofTable = iota
	ofColumnGroup
	ofColumn
	ofRowGroup
	ofRow
	ofCell
)

var styleRank = map[string]int{"double": 8, "solid": 7, "dashed": 6, "dotted": 5, "ridge": 4, "outset": 3, "groove": 2,
	"inset": 1}

// wins reports whether another border takes the place of e: hidden ones do, then wider ones, then by style.
func (e *joinedEdge) wins(o joinedEdge) bool {
	switch {
	case e.style == "hidden" || o.style == "" || o.style == "none":
		return false
	case o.style == "hidden":
		return true
	case o.width != e.width:
		return o.width > e.width
	case styleRank[o.style] != styleRank[e.style]:
		return styleRank[o.style] > styleRank[e.style]
	}
	return false // what came first is of the stronger kind, or further left or up
}

func (j *joinedEdges) offer(e *joinedEdge, b *Box, side int, rank int8) {
	o := joinedEdge{width: b.style.BorderPx(side), style: b.style.BorderStyle[side], rank: rank, from: b, side: side}
	if o.style != "hidden" && o.width == 0 {
		return
	}
	if e.from == nil || e.wins(o) {
		*e = o
	}
}

// cellArea is a number of rows and columns of a table.
type cellArea struct{ row, rows, col, cols int }

// around offers the borders of a box to the edges of some rows and columns.
func (j *joinedEdges) around(b *Box, a cellArea, rank int8) {
	row, rows, col, cols := a.row, a.rows, a.col, a.cols
	if several := rank == ofCell && (rows > 1 || cols > 1); several || b.bordered() {
		j.reach = max(j.reach, col+cols)
	}
	for c := col; c < col+cols; c++ {
		j.offer(&j.across[row*j.cols+c], b, css.Top, rank)
		j.offer(&j.across[(row+rows)*j.cols+c], b, css.Bottom, rank)
	}
	for r := row; r < row+rows; r++ {
		j.offer(&j.down[r*(j.cols+1)+col], b, j.start, rank)
		j.offer(&j.down[r*(j.cols+1)+col+cols], b, css.Left+css.Right-j.start, rank)
	}
}

// bordered reports whether a side has a style of border, whatever its width.
func (b *Box) bordered() bool {
	for _, s := range b.style.BorderStyle {
		if s != "" && s != "none" {
			return true
		}
	}
	return false
}

// downAt gives half of the edge in front of a column in a row. The browser keeps the edges of a row side by side, as
// many as reach to the last column with a border or a cell over several: the one behind them is the first of the
// next row (measured).
func (j *joinedEdges) downAt(row, col int) Px {
	if row += col / (j.reach + 1); row >= j.rows {
		return 0
	}
	return j.down[row*(j.cols+1)+col%(j.reach+1)].half()
}

// joinEdges finds the border of each edge.
func (t *tableState) joinEdges() *joinedEdges {
	j := &joinedEdges{rows: len(t.rows), cols: len(t.cols), start: css.Left}
	if t.b.rtl() {
		j.start = css.Right
	}
	j.across = make([]joinedEdge, (j.rows+1)*j.cols)
	j.down = make([]joinedEdge, j.rows*(j.cols+1))
	if j.cols == 0 {
		return j
	}
	for i := range t.cells {
		c := &t.cells[i]
		j.around(c.b, cellArea{c.row, c.rows, c.col, c.cols}, ofCell)
	}
	for i := range t.rows {
		j.around(t.rows[i].b, cellArea{i, 1, 0, j.cols}, ofRow)
	}
	for i, s := range t.sections {
		if from, to := t.rowsOf[i][0], t.rowsOf[i][1]; to > from {
			j.around(s, cellArea{from, to - from, 0, j.cols}, ofRowGroup)
		}
	}
	if j.rows > 0 {
		j.ofColumns(t.colOf, ofColumn)
		j.ofColumns(t.groupOf, ofColumnGroup)
		j.around(t.b, cellArea{0, j.rows, 0, j.cols}, ofTable)
	}
	return j
}

func (j *joinedEdges) ofColumns(list []*Box, rank int8) {
	for i := 0; i < len(list); i++ {
		if list[i] == nil {
			continue
		}
		n := 1
		for rank == ofColumnGroup && i+n < len(list) && list[i+n] == list[i] {
			n++
		}
		j.around(list[i], cellArea{0, j.rows, i, n}, rank)
		i += n - 1
	}
}

func (e *joinedEdge) half() Px {
	if e.style == "hidden" {
		return 0
	}
	return e.width / 2
}

// apply gives cells and table the halves of the borders around them: the widest along each
// side (CSS 2, section 17.6.2, but at the sides of the table, too: measured).
func (j *joinedEdges) apply(t *tableState) {
	widest := func(row, rows, col, cols int) (w [4]Px) {
		for c := col; c < col+cols; c++ {
			w[css.Top] = max(w[css.Top], j.across[row*j.cols+c].half())
			w[css.Bottom] = max(w[css.Bottom], j.across[(row+rows)*j.cols+c].half())
		}
		for r := row; r < row+rows; r++ {
			if col > j.reach {
				break
			}
			w[css.Left] = max(w[css.Left], j.downAt(r, col))
			w[css.Right] = max(w[css.Right], j.downAt(r, col+cols))
		}
		return w
	}
	for i := range t.cells {
		c := &t.cells[i]
		c.b.join(widest(c.row, c.rows, c.col, c.cols))
	}
	if j.cols > 0 && j.rows > 0 {
		t.b.join(widest(0, j.rows, 0, j.cols))
	} else {
		t.b.join([4]Px{})
	}
}

// join gives a box the borders that collapsing leaves it.
func (b *Box) join(w [4]Px) {
	if b.joined != nil && *b.joined == w && b.edged == b.style && b.edgedAt == b.style.Version {
		return
	}
	if b.joined == nil || *b.joined != w {
		b.valid, b.sized = false, b.sized && b.joined != nil
	}
	b.joined = &w
	b.edged = nil
}
