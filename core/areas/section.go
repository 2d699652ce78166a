package areas

import (
	"fmt"
	"strconv"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/library"
	"ziegel/core/markup"
)

// Section makes the files of the section that was drawn.
func (d *Drawing) Section() library.Kept {
	root := markup.Element("section", "class", "lanes root")
	grid := markup.Element("div", "class", "areas", "data-part", "areas")
	common := map[string]bool{}
	holds := false
	for _, c := range d.Cells {
		grid.AppendChild(d.cell(c, common))
		holds = holds || c.Blocks
	}
	for _, n := range missing(common) {
		root.AppendChild(n)
	}
	root.AppendChild(grid)
	if !common["actions"] {
		row := library.Hidden(library.Actions("actions", "See the courses"))
		markup.AddClass(row, "after")
		root.AppendChild(row)
	}
	summary := d.Summary
	if summary == "" {
		summary = "Drawn: " + strings.Join(d.cellNames(), ", ") + "."
	}
	section, _, _ := strings.Cut(d.Name, "/")
	yaml := fmt.Sprintf(
		"name: %s\nkind: %s\nsummary: %s\ntags: []\nversion: 1\nshares: [gap]\n",
		d.Name,
		section,
		strconv.Quote(summary),
	)
	if holds {
		yaml += "holds:\n"
		for _, c := range d.Cells {
			if c.Blocks {
				yaml += "  " + c.Name + ": [piece/text]\n"
			}
		}
	}
	return library.Kept{HTML: library.Document(d.Name, root), CSS: d.sheet(common), YAML: yaml}
}

func (d *Drawing) cellNames() []string {
	var out []string
	for _, c := range d.Cells {
		out = append(out, c.Name)
	}
	return out
}

// cell makes the element of a cell with its parts.
func (d *Drawing) cell(c Cell, common map[string]bool) *html.Node {
	classes := "cell cell-" + c.Name
	if c.Tone != "" {
		classes += " toned tone-" + c.Tone
	}
	if c.Blocks {
		return markup.With(markup.Element("div", "class", classes, "data-holds", c.Name, "data-part", c.Name),
			markup.With(markup.Element("p"), markup.Text("Blocks stand here.")))
	}
	n := markup.Element("div", "class", classes, "data-part", c.Name)
	into := n
	for i, g := range c.Groups {
		if len(c.Groups) > 1 || g.Place != "" {
			into = markup.Element("div", "class", "group-"+c.Name+"-"+strconv.Itoa(i+1))
			n.AppendChild(into)
		}
		for _, part := range g.Parts {
			common[part.Field] = true
			into.AppendChild(d.part(part))
		}
	}
	return n
}

func (d *Drawing) part(p Part) *html.Node {
	if p.Word != "items" {
		return kindOf(p.Word).make(p.Field)
	}
	list := markup.Element("ul", "class", "items", "data-part", p.Field)
	for i, sample := range []string{"Cut by hand", "Spars that give", "Flown first"} {
		li := markup.Element("li", "class", "item", "data-each", p.Field)
		if i == 0 {
			markup.Set(li, "data-part", "item")
		}
		for _, in := range p.Of {
			n := kindOf(in.Word).make(fieldOf(in.Word))
			if in.Word == "title" {
				markup.Empty(n)
				n.AppendChild(markup.Text(sample))
			}
			if i > 0 {
				markup.Each(n, func(x *html.Node) { markup.Take(x, "data-part") })
			}
			li.AppendChild(n)
		}
		list.AppendChild(li)
	}
	return list
}

// missing makes the fields that every section takes and that are not drawn: hidden until a page gives them.
func missing(has map[string]bool) []*html.Node {
	intro := markup.Element("div", "class", "intro", "data-part", "intro")
	for _, k := range kinds[:3] {
		if !has[k.word] {
			n := k.make(k.word)
			markup.Set(n, "hidden", "")
			intro.AppendChild(n)
		}
	}
	if intro.FirstChild == nil {
		return nil
	}
	return []*html.Node{intro}
}

// sheet writes the styles: a grid with named areas for each drawing.
func (d *Drawing) sheet(has map[string]bool) string {
	var b strings.Builder
	b.WriteString(
		".areas { display: grid; grid-template-columns: minmax(0, 1fr); gap: var(--item-gap, var(--space-wide)); }\n",
	)
	b.WriteString(
		".cell { display: grid; grid-template-columns: minmax(0, 1fr); gap: var(--space-near); align-content: start; }\n",
	)
	b.WriteString(".cell.toned { padding: var(--space-apart); border-radius: var(--radius-card); }\n")
	used := d.words()
	for _, rule := range []struct{ word, css string }{
		{"picture", ".media { min-block-size: 100%; display: grid; }\n.picture { inline-size: 100%; block-size: 100%; object-fit: cover; }\n"},
		{"text", ".text { max-width: 38rem; text-wrap: pretty; }\n"},
		{"name", ".name { font-weight: var(--weight-strong); }\n"},
		{"points", ".points { display: grid; gap: var(--space-tight); }\n.point { border-block-start: var(--line-hair) solid var(--line); padding-block-start: var(--space-tight); }\n"},
		{"items", ".items { display: grid; grid-template-columns: repeat(auto-fit, minmax(min(100%, 14rem), 1fr)); gap: var(--space-apart); }\n" +
			".item { display: grid; grid-template-columns: minmax(0, 1fr); gap: var(--space-tight); align-content: start; }\n"},
	} {
		if used[rule.word] {
			b.WriteString(rule.css)
		}
	}
	if !has["actions"] {
		b.WriteString(".after { margin-block-start: var(--space-wide); }\n")
	}
	for _, c := range d.Cells {
		fmt.Fprintf(&b, ".cell-%s { grid-area: %s; }\n", c.Name, c.Name)
		d.places(&b, c)
	}
	for i, l := range d.Layouts {
		text := "grid-template-areas: " + quotedRows(l.Rows) + ";"
		if n := len(l.Rows[0]); n > 1 {
			text += fmt.Sprintf(" grid-template-columns: repeat(%d, minmax(0, 1fr));", n)
		} else if i > 0 {
			text += " grid-template-columns: minmax(0, 1fr);"
		}
		if l.From == 0 {
			fmt.Fprintf(&b, "\n.areas { %s }\n", text)
			continue
		}
		fmt.Fprintf(
			&b,
			"\n@container (width >= %srem) { .areas { %s } }\n",
			strconv.FormatFloat(float64(l.From)/16, 'f', -1, 64),
			text,
		)
	}
	return b.String()
}

// places puts the groups of a cell where they are wanted; between two of them lies what is left.
func (d *Drawing) places(b *strings.Builder, c Cell) {
	if len(c.Groups) == 2 {
		fmt.Fprintf(
			b,
			".cell-%s { grid-template-rows: auto minmax(var(--space-apart), 1fr) auto; align-content: stretch; }\n",
			c.Name,
		)
	}
	for i, g := range c.Groups {
		if len(c.Groups) < 2 && g.Place == "" {
			continue
		}
		place, _ := library.PlaceCSS(g.Place)
		if place == "" {
			place = "start stretch"
		}
		if len(c.Groups) == 1 {
			fmt.Fprintf(b, ".cell-%s { align-content: stretch; }\n", c.Name)
		}
		row := ""
		if len(c.Groups) == 2 {
			row = fmt.Sprintf(" grid-row: %d;", 1+2*i)
		}
		fmt.Fprintf(
			b,
			".group-%s-%d { display: grid; gap: var(--space-near); place-self: %s;%s }\n",
			c.Name,
			i+1,
			place,
			row,
		)
	}
}

// words tells which parts are used.
func (d *Drawing) words() map[string]bool {
	out := map[string]bool{}
	for _, c := range d.Cells {
		for _, g := range c.Groups {
			for _, p := range g.Parts {
				out[p.Word] = true
				for _, in := range p.Of {
					out[in.Word] = true
				}
			}
		}
	}
	return out
}

func quotedRows(rows [][]string) string {
	var out []string
	for _, r := range rows {
		out = append(out, `"`+strings.Join(r, " ")+`"`)
	}
	return strings.Join(out, " ")
}
