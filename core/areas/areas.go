// Package areas makes sections of small parts without a line of CSS. A drawing in text says which cell stands where,
// one for each range of widths if wanted; a list says which parts stand in each cell.
//
//	name: features/tall
//	areas:
//	  desktop: |
//	    tall  tall  wide
//	    tall  tall  small
//	  phone: |
//	    tall
//	    wide
//	    small
//	parts:
//	  tall: [picture]
//	  wide: [eyebrow, heading, lead, actions]
//	  small: {place: bottom left, parts: [figure, text]}
//
// What comes out is an ordinary section: lanes, spacing, tones, fields and options as all sections have them.
package areas

import (
	"fmt"
	"slices"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/site"
)

// Drawing is a section as it was drawn.
type Drawing struct {
	Name    string // KIND/NAME
	Summary string
	Layouts []Layout // the narrowest first
	Cells   []Cell   // in the order in which they are read
}

// Layout is the drawing of one range of widths.
type Layout struct {
	Range string // "" for the one drawing that stands for all
	From  int    // the width from which it holds, CSS px; 0 for the narrowest
	Rows  [][]string
	At    *site.Value
}

// Cell is a named cell with the parts that stand in it.
type Cell struct {
	Name   string
	Groups []Group // one, or two with a buffer between
	Blocks bool    // it takes blocks instead of parts
	Tone   string
}

// Group is a run of parts at one of the nine places of a cell.
type Group struct {
	Place string // "" fills the cell from the top
	Parts []Part
}

// Part is one part of a cell; a list has parts of its entries.
type Part struct {
	Word  string
	Field string
	Of    []Part
}

// Empty is how a drawing writes a cell that nothing stands in.
const Empty = "."

// Parse reads a drawing. ranges are those of the site, by name.
func Parse(f *site.File, ranges []site.Range) (*Drawing, diag.Problems) {
	p := &parser{f: f, ranges: ranges, d: &Drawing{}, fields: map[string]string{}}
	p.file()
	return p.d, p.problems.Sorted()
}

type parser struct {
	f        *site.File
	ranges   []site.Range
	d        *Drawing
	fields   map[string]string // cell by field
	problems diag.Problems
}

func (p *parser) add(v *site.Value, rule, text, expected, try string) {
	p.problems = append(p.problems, p.f.Problem(v, rule, text, expected, try))
}

func (p *parser) file() {
	root := p.f.Root
	if root == nil || root.Kind != site.Map {
		p.problems = append(p.problems, diag.Problem{Position: diag.Position{File: p.f.Path, Line: 1, Column: 1},
			Severity: diag.Error, Rule: "wrong-type", Text: "a drawing has a name, areas and parts", Expected: "name: features/tall"})
		return
	}
	known := []string{"name", "summary", "areas", "parts"}
	for _, e := range root.Entries {
		if !slices.Contains(known, e.Key) {
			p.problems = append(p.problems, p.f.KeyProblem(e, "unknown-key", fmt.Sprintf("a drawing has no %q", e.Key),
				"one of "+strings.Join(known, ", "), diag.Nearest(e.Key, known)))
		}
	}
	p.name(root)
	p.d.Summary = root.Get("summary").Str()
	p.layouts(root.Get("areas"))
	p.cells(root.Get("parts"))
}

func (p *parser) name(root *site.Value) {
	v := root.Get("name")
	kind, name, ok := strings.Cut(v.Str(), "/")
	if v == nil {
		p.add(root, "missing-key", "the drawing has no name", "name: KIND/NAME, such as features/tall", "")
	} else if !ok || !site.ValidName(kind) || !site.ValidName(name) {
		p.add(v, "bad-name", fmt.Sprintf("%q cannot be the name of a section", v.Str()),
			"KIND/NAME in small letters, such as features/tall", "")
	}
	p.d.Name = v.Str()
}

// layouts reads the drawings, and adds the narrowest when it is not drawn: all cells in one column.
func (p *parser) layouts(v *site.Value) {
	switch {
	case v == nil || v.Empty():
		p.add(p.f.Root, "missing-key", "nothing is drawn", "areas: with rows of names", "")
		return
	case v.Kind == site.Text:
		p.layout("", 0, v)
	case v.Kind == site.Map:
		for _, e := range v.Entries {
			at := slices.IndexFunc(p.ranges, func(r site.Range) bool { return r.Name == e.Key })
			if at < 0 {
				var names []string
				for _, r := range p.ranges {
					names = append(names, r.Name)
				}
				p.problems = append(
					p.problems,
					p.f.KeyProblem(e, "unknown-range", fmt.Sprintf("there is no range %q", e.Key),
						"one of "+strings.Join(names, ", "), diag.Nearest(e.Key, names)),
				)
				continue
			}
			p.layout(e.Key, p.ranges[at].From, e.Value)
		}
	default:
		p.add(v, "wrong-type", "areas is a list", "rows of names, or rows for each range", "")
	}
	slices.SortStableFunc(p.d.Layouts, func(a, b Layout) int { return a.From - b.From })
	if len(p.d.Layouts) == 0 {
		return
	}
	first := p.d.Layouts[0]
	if first.From > 0 || first.Range == "" && len(first.Rows) > 0 && len(first.Rows[0]) > 1 {
		column := Layout{Range: "", From: 0}
		for _, name := range names(first.Rows) {
			column.Rows = append(column.Rows, []string{name})
		}
		if first.Range == "" { // one drawing for all but phones
			p.d.Layouts[0].From = p.narrowEnd()
		}
		p.d.Layouts = slices.Insert(p.d.Layouts, 0, column)
	}
}

// narrowEnd gives the width at which the narrowest range ends, CSS px.
func (p *parser) narrowEnd() int {
	for _, r := range p.ranges {
		if r.From == 0 && r.To > 0 {
			return r.To + 1
		}
	}
	return 600
}

// layout reads one drawing: rows of as many names, each name a rectangle.
func (p *parser) layout(name string, from int, v *site.Value) {
	l := Layout{Range: name, From: from, At: v}
	for i, line := range strings.Split(strings.TrimRight(v.Str(), "\n"), "\n") {
		row := strings.Fields(line)
		if len(row) == 0 {
			continue
		}
		for _, cell := range row {
			if cell != Empty && !site.ValidName(cell) {
				p.tell(cellAt{v, i, line, cell},
					"bad-name",
					fmt.Sprintf("%q cannot be the name of a cell", cell),
					"small letters, digits and hyphens; . for an empty cell",
				)
			}
		}
		if len(l.Rows) > 0 && len(row) != len(l.Rows[0]) {
			p.tell(cellAt{v, i, line, row[len(row)-1]},
				"uneven-rows",
				fmt.Sprintf("this row has %s, and the first has %d", diag.Plural(len(row), "cell"), len(l.Rows[0])),
				"rows of as many cells",
			)
			return
		}
		l.Rows = append(l.Rows, row)
	}
	if len(names(l.Rows)) == 0 {
		p.add(v, "empty-drawing", "nothing is drawn", "rows of names", "")
		return
	}
	if len(l.Rows[0]) > 12 {
		p.add(
			v,
			"too-many-columns",
			fmt.Sprintf("the drawing has %d columns, and 12 are the most", len(l.Rows[0])),
			"fewer columns",
			"",
		)
		return
	}
	p.rectangles(l, v)
	p.d.Layouts = append(p.d.Layouts, l)
}

// cellAt is a cell of a drawing: its row is the row-th from 0, and reads line.
type cellAt struct {
	drawing    *site.Value
	row        int
	line, cell string
}

// tell tells a mistake in a cell of a drawing, at its place in the file.
func (p *parser) tell(at cellAt, rule, text, expected string) {
	problem := p.f.Problem(at.drawing, rule, text, expected, "")
	lines := strings.Split(p.f.Source, "\n")
	for n := problem.Line - 1; n < len(lines) && n >= 0; n++ {
		if slices.Equal(strings.Fields(lines[n]), strings.Fields(at.line)) && n >= problem.Line-1+min(at.row, 1) {
			problem.Line, problem.Column = n+1, strings.LastIndex(lines[n], at.cell)+1
			problem.Source, problem.Width = lines[n], len(at.cell)
			break
		}
	}
	p.problems = append(p.problems, problem)
}

// rectangles tells the cells of a drawing that are no rectangles (css-grid-2, 7.3).
func (p *parser) rectangles(l Layout, v *site.Value) {
	for _, name := range names(l.Rows) {
		r := area(l.Rows, name)
		for y, row := range l.Rows {
			for x, cell := range row {
				inside := x >= r.x0 && x < r.x1 && y >= r.y0 && y < r.y1
				if (cell == name) != inside {
					what := fmt.Sprintf(
						"the cell %s is no rectangle: %s stands in column %d of row %d",
						name,
						cell,
						x+1,
						y+1,
					)
					p.tell(cellAt{v, y, strings.Join(row, " "), cell},
						"no-rectangle",
						what,
						fmt.Sprintf("%s in columns %d to %d of rows %d to %d and nowhere else",
							name, r.x0+1, r.x1, r.y0+1, r.y1),
					)
					return
				}
			}
		}
	}
}

type rect struct{ x0, y0, x1, y1 int }

// area gives the columns and rows that a name spans, the ends left out.
func area(rows [][]string, name string) rect {
	r := rect{1 << 20, 1 << 20, 0, 0}
	for y, row := range rows {
		for x, cell := range row {
			if cell == name {
				r = rect{min(r.x0, x), min(r.y0, y), max(r.x1, x+1), max(r.y1, y+1)}
			}
		}
	}
	return r
}

// names lists the cells of a drawing in the order in which they are read.
func names(rows [][]string) []string {
	var out []string
	for _, row := range rows {
		for _, cell := range row {
			if cell != Empty && !slices.Contains(out, cell) {
				out = append(out, cell)
			}
		}
	}
	return out
}

// cells reads the parts of each cell that is drawn.
func (p *parser) cells(v *site.Value) {
	if len(p.d.Layouts) == 0 {
		return
	}
	widest := p.d.Layouts[len(p.d.Layouts)-1]
	order := names(widest.Rows)
	if narrow := names(p.d.Layouts[0].Rows); len(narrow) > 0 {
		order = narrow // the order on a phone is that of reading
	}
	for _, l := range p.d.Layouts {
		for _, name := range names(l.Rows) {
			if !slices.Contains(order, name) {
				order = append(order, name)
			}
		}
	}
	for _, l := range p.d.Layouts {
		for _, name := range order {
			if !slices.Contains(names(l.Rows), name) && l.At != nil {
				p.add(l.At, "missing-cell", fmt.Sprintf("the cell %s is drawn for other widths and not here", name),
					"every cell in every drawing", "")
			}
		}
	}
	if v == nil || v.Kind != site.Map {
		p.add(p.f.Root, "missing-key", "no parts stand in the cells", "parts: {"+order[0]+": [heading, text]}", "")
		return
	}
	for _, e := range v.Entries {
		if !slices.Contains(order, e.Key) {
			p.problems = append(
				p.problems,
				p.f.KeyProblem(e, "unknown-cell", fmt.Sprintf("no cell %q is drawn", e.Key),
					"one of "+strings.Join(order, ", "), diag.Nearest(e.Key, order)),
			)
		}
	}
	for _, name := range order {
		at := v.Get(name)
		if at == nil || at.Empty() {
			p.add(
				v,
				"empty-cell",
				fmt.Sprintf("nothing stands in the cell %s", name),
				name+": [heading, text], or . in the drawing for a cell without anything",
				"",
			)
			continue
		}
		p.d.Cells = append(p.d.Cells, p.cell(name, at))
	}
}

// cell reads one cell: parts, a place with parts, or two of them.
func (p *parser) cell(name string, v *site.Value) Cell {
	c := Cell{Name: name}
	switch {
	case v.Kind == site.Text && v.Text == "blocks":
		c.Blocks = true
	case v.Kind == site.Map:
		c.Groups = append(c.Groups, p.group(&c, v))
	case v.Kind == site.List && len(v.Items) > 0 && v.Items[0].Kind == site.Map && v.Items[0].Get("parts") != nil:
		for _, g := range v.Items {
			c.Groups = append(c.Groups, p.group(&c, g))
		}
		if len(c.Groups) > 2 {
			p.add(
				v,
				"too-many-places",
				fmt.Sprintf("%d groups stand in the cell %s, and two are the most", len(c.Groups), name),
				"one more cell in the drawing",
				"",
			)
		}
	case v.Kind == site.List && len(v.Items) == 1 && v.Items[0].Str() == "blocks":
		c.Blocks = true
	default:
		c.Groups = append(c.Groups, Group{Parts: p.parts(name, v)})
	}
	return c
}

func (p *parser) group(c *Cell, v *site.Value) Group {
	if v.Kind != site.Map {
		p.add(v, "wrong-type", "a group is a place with parts", "{place: bottom left, parts: [text]}", "")
		return Group{}
	}
	for _, e := range v.Entries {
		if !slices.Contains([]string{"place", "parts", "tone"}, e.Key) {
			p.problems = append(
				p.problems,
				p.f.KeyProblem(e, "unknown-key", fmt.Sprintf("a cell has no %q", e.Key), "place, tone or parts",
					diag.Nearest(e.Key, []string{"place", "parts", "tone"})),
			)
		}
	}
	g := Group{Place: v.Get("place").Str(), Parts: p.parts(c.Name, v.Get("parts"))}
	if g.Place != "" && !slices.Contains(library.Places, g.Place) {
		p.add(
			v.Get("place"),
			"bad-value",
			fmt.Sprintf("there is no place %q", g.Place),
			"one of "+strings.Join(library.Places, ", "),
			diag.Nearest(g.Place, library.Places),
		)
	}
	if t := v.Get("tone"); t != nil {
		c.Tone = t.Str()
		if !slices.Contains(tones, c.Tone) {
			p.add(
				t,
				"unknown-tone",
				fmt.Sprintf("there is no tone %q", c.Tone),
				"one of "+strings.Join(tones, ", "),
				diag.Nearest(c.Tone, tones),
			)
		}
	}
	return g
}

// parts reads a list of part words. A field is named by its word; a second one by its cell, too.
func (p *parser) parts(cell string, v *site.Value) []Part {
	var out []Part
	if v == nil {
		return nil
	}
	items := v.Items
	if v.Kind == site.Text {
		items = []*site.Value{v}
	}
	for _, it := range items {
		if it.Kind == site.Map && len(it.Entries) == 1 && it.Entries[0].Key == "items" {
			part := Part{Word: "items", Field: p.free(cell, "items")}
			for _, in := range it.Entries[0].Value.Items {
				if w := p.word(in, entryWords); w != "" {
					part.Of = append(part.Of, Part{Word: w, Field: w})
				}
			}
			if len(part.Of) == 0 {
				p.add(it, "empty-list", "the entries of items have no parts", "items: [title, text]", "")
			}
			out = append(out, part)
			continue
		}
		if w := p.word(it, words()); w != "" {
			out = append(out, Part{Word: w, Field: p.free(cell, fieldOf(w))})
		}
	}
	if len(out) == 0 && len(items) == 0 {
		p.add(
			v,
			"empty-cell",
			fmt.Sprintf("nothing stands in the cell %s", cell),
			"a list of parts, such as [heading, text]",
			"",
		)
	}
	return out
}

func (p *parser) word(v *site.Value, known []string) string {
	w := v.Str()
	if v.Kind == site.Text && slices.Contains(known, w) {
		return w
	}
	what := fmt.Sprintf("there is no part %q", w)
	if v.Kind != site.Text {
		what = "a part is a word, or items with the parts of an entry"
	}
	p.add(v, "unknown-part", what, "one of "+strings.Join(known, ", "), diag.Nearest(w, known))
	return ""
}

// free gives a field its name: the first of a word has it alone.
func (p *parser) free(cell, field string) string {
	name := field
	for i := 1; p.fields[name] != ""; i++ {
		name = cell + "-" + field
		if i > 1 {
			name = fmt.Sprintf("%s-%s-%d", cell, field, i)
		}
	}
	p.fields[name] = cell
	return name
}
