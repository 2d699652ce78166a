package layout

import "ziegel/core/css"

// tablePart reports boxes that only make sense in a table: its rows, cells, columns and captions.
func (b *Box) tablePart() bool {
	switch b.display {
	case css.TableRow, css.TableGroup, css.TableHeader, css.TableFooter, css.TableCell, css.TableCaption,
		css.TableColumn, css.TableColumnGroup:
		return b.kind != replacedBox && !b.off
	}
	return false
}

func (b *Box) isSection() bool { return b.kind == sectionBox }

// space reports text that makes no box between the parts of a table.
func (b *Box) space() bool {
	return b.kind == textBox && blank(b.text) && b.style.Collapse == "collapse"
}

// partsOf gives the boxes that a table, a row group, a row or a column group needs between itself and its children
// (CSS Tables 3, section 2.2.2).
func (e *Engine) partsOf(b *Box, kids []*Box) []*Box {
	switch {
	case b.kind == rowBox:
		return e.wrapped(b, kids, func(k *Box) bool { return k.display == css.TableCell && k.tablePart() },
			css.TableCell)
	case b.isSection():
		return e.wrapped(b, kids, func(k *Box) bool { return k.kind == rowBox }, css.TableRow)
	case b.kind == columnBox:
		var out []*Box
		for _, k := range kids {
			if k.kind == columnBox && k.display == css.TableColumn && b.display == css.TableColumnGroup {
				out = append(out, k)
			}
		}
		return out
	}
	rows := e.wrapped(b, kids, func(k *Box) bool { return k.tablePart() && k.display != css.TableCell }, css.TableRow)
	return e.wrapped(b, rows, func(k *Box) bool { return k.tablePart() && k.kind != rowBox }, css.TableGroup)
}

// wrapped puts runs of children that are not proper into anonymous parts; white space around them goes.
func (e *Engine) wrapped(b *Box, kids []*Box, proper func(*Box) bool, d css.Display) []*Box {
	var out, run []*Box
	flush := func() {
		for len(run) > 0 && run[len(run)-1].space() {
			run = run[:len(run)-1]
		}
		if len(run) > 0 {
			out = append(out, e.anonymousPart(b, run, d))
		}
		run = nil
	}
	for _, k := range kids {
		switch {
		case k.outOfFlow() && len(run) == 0:
			out = append(out, k)
		case proper(k):
			flush()
			out = append(out, k)
		case len(run) > 0 || !k.space():
			run = append(run, k)
		}
	}
	flush()
	return out
}

// tablesAround puts parts of a table that stand in something else into anonymous tables.
func (e *Engine) tablesAround(b *Box, kids []*Box) []*Box {
	found := false
	for _, k := range kids {
		found = found || k.tablePart()
	}
	if !found {
		return kids
	}
	var out, run []*Box
	flush := func() {
		last := len(run)
		for last > 0 && !run[last-1].tablePart() {
			last--
		}
		if last > 0 {
			d := css.Table
			if b.kind == inlineBox {
				d = css.InlineTable
			}
			out = append(out, e.anonymousPart(b, run[:last:last], d))
		}
		out = append(out, run[last:]...)
		run = nil
	}
	for _, k := range kids {
		switch {
		case k.tablePart(), len(run) > 0 && (k.space() || k.outOfFlow()):
			run = append(run, k)
		default:
			flush()
			out = append(out, k)
		}
	}
	flush()
	return out
}

// anonymousPart makes an anonymous box that takes part in a table.
func (e *Engine) anonymousPart(parent *Box, kids []*Box, d css.Display) *Box {
	a := e.anonymous(parent, kids)
	a.style, a.display = e.styler.Anonymous(parent.style, d), d
	a.setKind()
	a.kids = e.arrange(a, kids)
	return a
}

// tableState is a table while it is laid out: its grid of cells (CSS Tables 3, chapter 3), the sizes of its columns
// and rows.
type tableState struct {
	e              *Engine
	b              *Box
	captions       []*Box
	sections       []*Box // in the order in which they are shown
	columns        []*Box // column groups, and columns outside of any
	rows           []tableRow
	cells          []tableCell
	cols           []tableColumn
	gapX, gapY     Px // border-spacing
	joined         bool
	fixed          bool
	edges          *joinedEdges
	groupOf        []*Box // column group of each column, nil where there is none
	colOf          []*Box // column box of each column
	heights        bool   // the height of the table is given
	rowsOf         [][2]int
	percentsOfRows Px // what percentages of rows refer to, -1 when nothing
}

type tableRow struct {
	b           *Box
	section     int
	first, last int // its cells
	size        Px
	baseline    Px
	hasBaseline bool
	percent     float64
	constrained bool
	spanStart   bool // a cell that spans several rows begins here
	gone        bool // visibility: collapse
	y           Px
}

type tableCell struct {
	b          *Box
	row, col   int
	rows, cols int // spans
	height     Px  // of its content and its own height
	least      Px
}

// table reads the grid of a table from its boxes.
func (e *Engine) table(b *Box) *tableState {
	s := b.style
	t := &tableState{e: e, b: b, joined: s.Joined, fixed: s.FixedTable && !s.Width.IsAuto() &&
		s.Width.Kind != css.LenMaxContent && s.Width.Kind != css.LenFitContent}
	if !t.joined {
		t.gapX, t.gapY = css.FromFloat(s.Spacing[0]), css.FromFloat(s.Spacing[1])
	}
	var head, foot *Box
	var body []*Box
	for _, k := range e.children(b, 0) {
		switch {
		case k.outOfFlow():
		case k.display == css.TableCaption:
			t.captions = append(t.captions, k)
		case k.kind == columnBox:
			t.columns = append(t.columns, k)
		case k.isSection() && k.display == css.TableHeader && head == nil:
			head = k
		case k.isSection() && k.display == css.TableFooter && foot == nil:
			foot = k
		case k.isSection():
			body = append(body, k)
		}
	}
	if head != nil {
		t.sections = append(t.sections, head)
	}
	t.sections = append(t.sections, body...)
	if foot != nil {
		t.sections = append(t.sections, foot)
	}
	for i, s := range t.sections {
		t.addSection(i, s)
	}
	t.addColumns()
	if t.joined {
		t.edges = t.joinEdges()
		t.edges.apply(t)
	}
	return t
}

// addSection puts the cells of a row group on the grid (HTML, 4.9.12.1).
func (t *tableState) addSection(section int, s *Box) {
	from := len(t.rows)
	for _, r := range t.e.children(s, 0) {
		if r.kind == rowBox && !r.outOfFlow() {
			t.rows = append(t.rows, tableRow{b: r, section: section, gone: r.style.Gone || s.style.Gone})
		}
	}
	t.rowsOf = append(t.rowsOf, [2]int{from, len(t.rows)})
	var until []int // the first row that a column is free in again
	for i := from; i < len(t.rows); i++ {
		r := &t.rows[i]
		r.first = len(t.cells)
		col := 0
		for _, k := range t.e.children(r.b, 0) {
			if k.display != css.TableCell || k.outOfFlow() {
				continue
			}
			for col < len(until) && until[col] > i {
				col++
			}
			c := tableCell{b: k, row: i, col: col, rows: k.spanOf("rowspan", 65534), cols: k.spanOf("colspan", 1000)}
			if c.rows == 0 || c.rows > len(t.rows)-i {
				c.rows = len(t.rows) - i
			}
			c.cols = max(c.cols, 1)
			for len(until) < col+c.cols {
				until = append(until, 0)
			}
			for j := range c.cols {
				until[col+j] = max(until[col+j], i+c.rows)
			}
			col += c.cols
			r.spanStart = r.spanStart || c.rows > 1
			t.cells = append(t.cells, c)
		}
		r.last = len(t.cells)
	}
}

// spanOf reads colspan or rowspan.
func (b *Box) spanOf(attr string, most int) int {
	if b.el == nil || b.el.Tag != "td" && b.el.Tag != "th" && b.el.Tag != "col" && b.el.Tag != "colgroup" {
		return 1
	}
	v, ok := b.el.LookupAttr(attr)
	n, any := 0, false
	for _, r := range v {
		if r < '0' || r > '9' || n > most {
			break
		}
		n, any = n*10+int(r-'0'), true
	}
	if !ok || !any {
		return 1
	}
	return min(n, most)
}

// addColumns counts the columns and says which column box each has.
func (t *tableState) addColumns() {
	add := func(col, group *Box) {
		t.colOf, t.groupOf = append(t.colOf, col), append(t.groupOf, group)
	}
	for _, c := range t.columns {
		if c.display == css.TableColumn {
			for range max(1, c.spanOf("span", 1000)) {
				add(c, nil)
			}
			continue
		}
		cols := t.e.children(c, 0)
		for _, k := range cols {
			for range max(1, k.spanOf("span", 1000)) {
				add(k, c)
			}
		}
		for range max(1, c.spanOf("span", 1000)) * bit(len(cols) == 0) {
			add(nil, c)
		}
	}
	n := len(t.colOf)
	for i := range t.cells {
		n = max(n, t.cells[i].col+t.cells[i].cols)
	}
	for len(t.colOf) < n {
		add(nil, nil)
	}
	t.cols = make([]tableColumn, n)
}
