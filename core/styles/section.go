package styles

import (
	"fmt"
	"slices"
	"strings"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/project"
)

// sectionWriter rewrites a section's stylesheet for a built page.
type sectionWriter struct {
	env      *project.Project
	sec      *library.Section
	w        *sheetWriter
	used     map[string]bool
	depth    int // of nested rules: their parents are scoped
	problems diag.Problems
}

func (s *sectionWriter) nodes(nodes []*css.Node) {
	for _, n := range nodes {
		switch {
		case n.Kind == css.QualifiedRule:
			s.rule(n)
		case n.Kind == css.AtRule && n.Block:
			prelude := "@" + n.Name
			if t := s.value(n.Prelude); t != "" {
				prelude += " " + t
			}
			s.w.open(prelude)
			s.nodes(n.Children)
			s.w.close()
		}
	}
}

func (s *sectionWriter) rule(n *css.Node) {
	var keep []string
	for _, part := range css.SplitCommas(n.Prelude) {
		if sel, ok := s.selector(part); ok {
			keep = append(keep, sel)
		}
	}
	if len(keep) == 0 {
		return
	}
	var decls []decl
	var nested []*css.Node
	for _, c := range n.Children {
		if c.Kind != css.Declaration {
			nested = append(nested, c)
			continue
		}
		name := c.Name
		if strings.HasPrefix(name, "--_") {
			if s.sec.Measure(name[3:]) != nil {
				continue // a guess for the file by itself; built pages have what was measured
			}
			name = s.private(name)
		}
		decls = append(decls, decl{name: name, value: s.value(c.Value),
			pos: diag.At(s.sec.CSS.File, s.sec.CSS.Source, c.Pos)})
	}
	if len(decls) > 0 {
		s.w.rule(strings.Join(keep, ", "), decls...)
	}
	if len(nested) > 0 {
		s.w.open(strings.Join(keep, ", "))
		s.depth++
		s.nodes(nested)
		s.depth--
		s.w.close()
	}
}

// private gives the built name of a private property: --_ratio -> --hero-beside_ratio.
func (s *sectionWriter) private(name string) string {
	return "--" + Slug(s.sec.Name) + "_" + strings.TrimPrefix(name, "--_")
}

func (s *sectionWriter) value(v []css.Token) string {
	out := make([]css.Token, len(v))
	for i, t := range v {
		if strings.HasPrefix(t.Text, "--_") {
			t.Text = s.private(t.Text)
		}
		out[i] = t
	}
	return css.Text(out)
}

// selector scopes class names and resolves option choices. ok is false when no block uses the choice.
func (s *sectionWriter) selector(v []css.Token) (string, bool) {
	var b strings.Builder
	own := false // it asks for a class of the section's own
	for i := 0; i < len(v); i++ {
		t := v[i]
		switch {
		case t.Text == "." && i+1 < len(v):
			class := ScopedClass(s.env, s.sec, v[i+1].Text)
			own = own || strings.HasPrefix(class, Slug(s.sec.Name))
			b.WriteString("." + class)
			i++
		case t.Text == "[" && i+4 < len(v) && strings.HasPrefix(v[i+1].Text, "data-") && v[i+2].Text == "=":
			option, value := strings.TrimPrefix(v[i+1].Text, "data-"), css.Unquote(v[i+3].Text)
			if o := s.sec.Option(option); o == nil || !slices.Contains(o.Choices, value) {
				p := diag.At(s.sec.CSS.File, s.sec.CSS.Source, t.Pos)
				s.problems = append(s.problems, diag.Problem{Position: p, Severity: diag.Error, Rule: "bad-option",
					Text:     fmt.Sprintf("the section has no option %s with the choice %q", option, value),
					Expected: "an option of section.yaml", Source: diag.LineOf(s.sec.CSS.Source, p.Line)})
				return "", false
			}
			if !s.used[option+"="+value] {
				return "", false
			}
			b.WriteString("." + Modifier(s.sec.Name, option, value))
			i += 4
		case strings.TrimSpace(t.Text) == "" && t.Text != "":
			b.WriteByte(' ')
		default:
			b.WriteString(t.Text)
		}
	}
	sel := strings.TrimSpace(b.String())
	if !own && s.depth == 0 && strings.Contains(sel, ".") { // shared classes are styled inside the section only
		sel = "." + Slug(s.sec.Name) + " " + sel
	}
	return sel, true
}

// ScopedClass gives the built name of a class in a section: root -> hero-beside, card -> hero-beside__card.
func ScopedClass(e *project.Project, s *library.Section, class string) string {
	switch {
	case class == "root":
		return Slug(s.Name)
	case strings.HasPrefix(class, Slug(s.Name)+"--") || strings.HasPrefix(class, "lane-"):
		return class
	case e.SharedClasses()[class] || class == "changing" || strings.HasPrefix(class, "changing-"):
		return class
	}
	return Slug(s.Name) + "__" + class
}

// Ruled reports whether a section has rules for a choice.
func Ruled(s *library.Section, option, value string) bool {
	return strings.Contains(s.CSS.Source, `[data-`+option+`="`+value+`"]`)
}
