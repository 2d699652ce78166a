package layout

import "ziegel/core/css"

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
	noCell := b.el == nil || b.el.Tag != "td" && b.el.Tag != "th" && b.el.Tag != "col" && b.el.Tag != "colgroup"
	if noCell {
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
