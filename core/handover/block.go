package handover

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/draw"
	"ziegel/core/explain"
	"ziegel/core/markup"
	"ziegel/core/measure"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

// block gathers one block.
func (m *maker) block(l *sweep.Prepared, b *site.Block, sb *sweep.Block, stacks []sweep.Stacking) (*Block, error) {
	sec := m.e.Library.Section(b.Section)
	out := &Block{Name: b.Name, Section: b.Section, Everywhere: b.EveryPage != "", Tone: b.Tone}
	if sec != nil {
		out.Summary, out.Fields = sec.Summary, sec.FieldNames()
		for _, o := range sec.Options {
			one := Option{Name: o.Name, Value: o.Default, Summary: o.Summary, Choices: o.Choices}
			if v := b.Options[o.Name]; v != nil && v.Str() != o.Default {
				one.Value, one.Own = v.Str(), true
			}
			if one.Value != "" || len(one.Choices) > 0 { // one that says nothing here is in the catalogue of sections
				out.Options = append(out.Options, one)
			}
		}
	}
	for _, st := range stacks {
		if st.Name == b.Name {
			out.Arrangements = st.Arrangements
		}
	}
	page := l.Name
	if out.Everywhere {
		page = "site"
	}
	base := page + "-" + b.Name
	for _, w := range Widths {
		sh, err := draw.Of(l, w, draw.Target{Block: b.Name}, draw.Look{Files: m.files})
		if err != nil {
			continue // it is not shown there
		}
		one, err := m.picture(fmt.Sprintf("pictures/%s-%d.png", base, w), sh, fmt.Sprintf("%s at %d px", b.Name, w))
		if err != nil {
			return nil, err
		}
		out.Seen = append(out.Seen, one)
		if w == Widths[0] || w == Widths[len(Widths)-1] {
			el := sh.Page.Block(b.Name).Element
			lines := draw.Distances(sh, el)
			one, err := m.picture(
				fmt.Sprintf("pictures/%s-%d-measures.png", base, w),
				draw.Measured(sh, lines, m.numbers),
				fmt.Sprintf("%s at %d px with %d distances in CSS px", b.Name, w, len(lines)),
			)
			if err != nil {
				return nil, err
			}
			out.Measured = append(out.Measured, one)
		}
	}
	if err := m.drawings(l, sb.Element, base, out); err != nil {
		return nil, err
	}
	return out, m.code(l.Name, b, base, out)
}

// mostDrawings is how many parts of a block are given as drawings.
const mostDrawings = 12

// drawings writes the parts of a block as drawings, each by its first of a kind.
func (m *maker) drawings(l *sweep.Prepared, block *css.Element, base string, out *Block) error {
	var parts []string
	var walk func(e *css.Element)
	walk = func(e *css.Element) {
		for _, k := range e.Kids() {
			if p := k.Attr("data-part"); p != "" && !slices.Contains(parts, p) {
				parts = append(parts, p)
			}
			if _, held := k.LookupAttr("data-block"); !held {
				walk(k)
			}
		}
	}
	walk(block)
	for _, p := range parts {
		if len(out.Drawings) == mostDrawings {
			return nil
		}
		sh, err := draw.Of(
			l,
			Widths[len(Widths)-1],
			draw.Target{Block: out.Name, Part: p, Item: 1},
			draw.Look{Files: m.files, Alone: true},
		)
		if err != nil || sh.Area.W() < 1 || sh.Area.H() < 1 {
			continue // it is not shown there
		}
		d, err := m.drawing(fmt.Sprintf("parts/%s.%s.svg", base, p), p, sh)
		if err != nil {
			return err
		}
		out.Drawings = append(out.Drawings, d)
	}
	return nil
}

// code gives the markup of a block and the styles that it needs, as the built site has them.
func (m *maker) code(page string, b *site.Block, base string, out *Block) error {
	p, problems := measure.Page(m.e, m.e.Site.Page(page), compose.Options{Only: []string{b.Name}})
	if err := problems.Err(); err != nil {
		return err
	}
	doc, whole, err := m.built(page) // as it stands on its page: its neighbours decide, too
	if err != nil {
		return err
	}
	var text strings.Builder
	for n := range doc.Descendants() {
		if n.Type == html.ElementNode && markup.Value(n, "id") == b.Name {
			markup.PrintNode(&text, n, 0)
			break
		}
	}
	out.HTML = strings.TrimSpace(text.String()) + "\n"
	own := rulesOf(whole, classOf(page, b))
	all := p.Site.Text + own
	out.CSS = particular(p.Site.Text) + own
	out.Code = []string{"code/" + base + ".html", "code/" + base + ".css"}
	m.book.Files[out.Code[0]], m.book.Files[out.Code[1]] = []byte(out.HTML), []byte(all)
	return nil
}

func (m *maker) built(page string) (*html.Node, string, error) {
	if b := m.trees[page]; b != nil {
		return b.tree, b.styles, nil
	}
	p, problems := measure.Page(m.e, m.e.Site.Page(page), compose.Options{})
	if err := problems.Err(); err != nil {
		return nil, "", err
	}
	doc, err := html.Parse(strings.NewReader(p.HTML))
	m.trees[page] = &builtPage{doc, p.Own.Text}
	return doc, p.Own.Text, err
}

// classOf is the class by which a page's own styles speak of a block.
func classOf(page string, b *site.Block) string {
	if b.EveryPage != "" {
		page = "site"
	}
	return "." + page + "-" + b.Name
}

// rulesOf gives the rules of a page's own styles that speak of a class, in their layers.
func rulesOf(styles, class string) string {
	named := regexp.MustCompile(regexp.QuoteMeta(class) + `([^a-z0-9-]|--|__)`)
	var out strings.Builder
	depth, outer, start := 0, "", 0
	open := false // the layer was begun in out
	for i, r := range styles {
		switch r {
		case '{':
			if depth++; depth == 1 {
				outer, open = strings.TrimSpace(styles[start:i]), false
				start = i + 1
			}
		case '}':
			switch depth--; depth {
			case 1:
				if rule := strings.Trim(styles[start:i+1], "\n"); named.MatchString(rule) {
					if !open {
						out.WriteString("\n" + outer + " {\n")
						open = true
					}
					out.WriteString(rule + "\n")
				}
				start = i + 1
			case 0:
				if open {
					out.WriteString("}\n")
				}
				start = i + 1
			}
		}
	}
	return out.String()
}

// particular gives of a sheet what is not in every page: the layers of sections and all that follows them.
func particular(sheet string) string {
	if i := strings.Index(sheet, "@layer section {"); i >= 0 {
		return sheet[i:]
	}
	return ""
}

// outline lists the headings and landmarks of a page as they are read.
func outline(sh *draw.Shot) (out []Line) {
	for _, h := range explain.Reading(sh.Page, sh.Result) {
		switch h.Role {
		case "heading":
			out = append(out, Line{Role: fmt.Sprintf("h%d", h.Level), Text: h.Text, Level: h.Level, Depth: h.Depth})
		case "banner", "navigation", "main", "footer", "complementary", "aside", "form", "region", "search":
			out = append(out, Line{Role: h.Role, Text: h.Text, Depth: h.Depth})
		}
	}
	return out
}
