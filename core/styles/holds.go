package styles

import (
	"strings"

	"ziegel/core/project"
	"ziegel/core/site"
)

// heldDistances writes what blocks in slots keep above and below, where they say so.
func (c *Writer) heldDistances(w *sheetWriter, blocks []*site.Block) {
	for _, b := range blocks {
		if b.Within == "" {
			continue
		}
		var decls []decl
		for _, d := range []struct {
			property, what string
			v              *site.Value
		}{{"margin-block-start", "above", b.Above}, {"margin-block-end", "below", b.Below}} {
			if d.v == nil || d.v.Str() == "" {
				continue
			}
			if value, ok := c.length(b, d.v, d.v.Str(), d.what); ok {
				decls = append(decls, decl{name: d.property, value: value, pos: d.v.Pos})
			}
		}
		if len(decls) > 0 {
			w.rule("."+c.ClassName(b, ""), decls...)
		}
	}
}

// heldSheet writes the look of blocks in others: headings one step smaller, no gutter of their own.
func heldSheet(e *project.Project, w *sheetWriter) {
	var decls []decl
	for _, step := range [][2]string{{"type.display", "type.title"}, {"type.title", "type.heading"},
		{"type.figure", "type.title"}} {
		if t, ok := e.Theme.Token(step[1]); ok {
			decls = append(decls, decl{name: "--" + strings.ReplaceAll(step[0], ".", "-"),
				value: "min(" + t.Value + ", 16cqi)"})
		}
	}
	w.raw("\n")
	w.open("@layer theme")
	w.rule(".held", append(decls, decl{name: "--space-gutter", value: "0px"})...)
	w.rule(".held + .held", decl{name: "margin-block-start", value: "var(--space-wide)"})
	w.rule(".held + .near", decl{name: "margin-block-start", value: "var(--space-apart)"})
	w.rule(".toned", decl{name: "padding", value: "min(var(--space-apart), 6cqi)"},
		decl{name: "border-radius", value: "var(--radius-card)"}, decl{name: "background", value: "var(--ground)"},
		decl{name: "color", value: "var(--ink)"})
	w.close()
}
