package compose

import (
	"fmt"
	"path"
	"regexp"
	"slices"
	"strings"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/theme"
)

// decl is a declaration to be written, with its origin.
type decl struct {
	name, value string
	pos         diag.Position
	of          map[string]diag.Position // where else it was written, by the class that it is for there
}

// sheetWriter writes a readable stylesheet and remembers origins.
type sheetWriter struct {
	name    string
	b       strings.Builder
	depth   int
	opened  []int // length of the text before each open block, to drop empty ones
	origins []origin
}

func newSheet(name string) *sheetWriter { return &sheetWriter{name: name} }

func (w *sheetWriter) pad() string { return strings.Repeat("  ", w.depth) }

func (w *sheetWriter) open(prelude string) {
	w.opened = append(w.opened, w.b.Len())
	w.b.WriteString(w.pad() + prelude + " {\n")
	w.depth++
	w.opened = append(w.opened, w.b.Len())
}

// close ends a block, or takes it back when nothing was written in it.
func (w *sheetWriter) close() {
	n := len(w.opened)
	before, start := w.opened[n-2], w.opened[n-1]
	w.opened = w.opened[:n-2]
	w.depth--
	if w.b.Len() == start {
		text := w.b.String()[:before]
		w.b.Reset()
		w.b.WriteString(text)
		return
	}
	w.b.WriteString(w.pad() + "}\n")
}

func (w *sheetWriter) declaration(d decl) {
	if d.pos.File != "" {
		w.origins = append(w.origins, origin{w.b.Len(), d.pos, d.of})
	}
	w.b.WriteString(d.name + ": " + d.value + ";")
}

func (w *sheetWriter) rule(selector string, decls ...decl) {
	w.b.WriteString(w.pad() + selector + " {")
	if len(decls) == 1 {
		w.b.WriteString(" ")
		w.declaration(decls[0])
		w.b.WriteString(" }\n")
		return
	}
	w.depth++
	for _, d := range decls {
		w.b.WriteString("\n" + w.pad())
		w.declaration(d)
	}
	w.depth--
	w.b.WriteString("\n" + w.pad() + "}\n")
}

func (w *sheetWriter) raw(s string) { w.b.WriteString(s) }

func (w *sheetWriter) sheet() *Sheet {
	return &Sheet{Name: w.name, Text: w.b.String(), origins: w.origins}
}

// scopedClass gives the built name of a class in a section: root -> hero-beside, card -> hero-beside__card.
func scopedClass(e *project.Project, s *library.Section, class string) string {
	switch {
	case class == "root":
		return slug(s.Name)
	case strings.HasPrefix(class, slug(s.Name)+"--") || strings.HasPrefix(class, "lane-"):
		return class
	case e.SharedClasses()[class] || class == "changing" || strings.HasPrefix(class, "changing-"):
		return class
	}
	return slug(s.Name) + "__" + class
}

// SiteSheet writes site.css: layers, fonts, reset, theme and the sections in use with the choices in use, on whatever
// page.
func SiteSheet(e *project.Project) (*Sheet, diag.Problems) {
	var pages []*Usage
	for _, p := range e.Site.Pages() {
		pages = append(pages, UsageOf(e, p))
	}
	return SheetOf(e, pages)
}

// SheetOf writes the same from what each page uses; what stands on every page counts also when all leave it out.
func SheetOf(e *project.Project, pages []*Usage) (*Sheet, diag.Problems) {
	u := newUsage()
	u.add(e, e.All(&site.Page{File: e.Site.File}))
	for _, p := range pages {
		u.join(p)
	}
	sheet, problems := writeSheet(e, u)
	sheet.common = len(sheet.Text)
	return sheet, problems
}

// sheet writes the sheet of a usage. What does not depend on it comes first, so that it has the same lines in every
// sheet of the site.
func writeSheet(e *project.Project, u *Usage) (*Sheet, diag.Problems) {
	var problems diag.Problems
	w := newSheet("site.css")
	w.raw("@layer reset, theme, section, site, page, block, still;\n\n")
	fontFaces(e, w, e.Fonts)
	w.open("@layer theme")
	w.raw(e.Theme.CSS())
	w.close()
	w.raw("\n" + strings.TrimSpace(e.Base) + "\n")
	common := w.b.Len()
	if u.Draft {
		draftSheet(e, w)
	}
	if u.Held {
		heldSheet(e, w)
	}
	for _, l := range lanes {
		if u.Lanes[l] {
			w.raw(fmt.Sprintf("\n@layer section {\n  .lane-%s { --lane: %s; }\n}\n", l, l))
		}
	}
	for _, s := range u.sections(e.Library) {
		w.raw("\n")
		w.open("@layer section")
		sw := &sectionWriter{env: e, sec: s, w: w, used: u.Choices[s.Name]}
		sw.nodes(s.CSS.Nodes)
		w.close()
		problems = append(problems, sw.problems...)
	}
	problems = append(problems, siteStyles(e, w, u)...)
	out := w.sheet()
	out.common = common
	return out, problems
}

// fontFaces writes the rules of font files, each with its stand-in.
func fontFaces(e *project.Project, w *sheetWriter, list []project.FontFile) {
	for _, f := range list {
		style := "normal"
		if f.Italic {
			style = "italic"
		}
		w.rule("@font-face", decl{name: "font-family", value: fmt.Sprintf("%q", f.Family)}, decl{name: "font-weight", value: f.Weights()},
			decl{name: "font-style", value: style}, decl{name: "font-display", value: "swap"}, decl{name: "src", value: fmt.Sprintf("url(%q) format(%q)", "fonts/"+f.Name, project.FontFormats[path.Ext(f.Name)])})
		w.raw("\n")
		standIn(e, w, f, style)
	}
}

// draftSheet writes the wireframe look of blocks that are drafts.
func draftSheet(e *project.Project, w *sheetWriter) {
	if e.Draft == nil {
		return
	}
	w.raw("\n")
	fontFaces(e, w, e.DraftFonts)
	w.open("@layer theme")
	w.raw(strings.TrimPrefix(e.Draft.Declarations(".draft"), "\n"))
	w.rule(".draft", decl{name: "font-family", value: "var(--face-body)"}, decl{name: "font-size", value: "var(--type-body)"}, decl{name: "font-weight", value: "var(--weight-body)"}, decl{name: "line-height", value: "var(--leading-body)"})
	w.rule(".draft img", decl{name: "filter", value: "grayscale(1) contrast(.35) brightness(1.25)"})
	w.close()
}

// siteStyles writes what the site gives to sections, and the shared styles that blocks use.
func siteStyles(e *project.Project, w *sheetWriter, u *Usage) diag.Problems {
	c := &styling{env: e, page: &site.Page{}}
	var list []styles
	for i := range e.Site.Defaults {
		d := &e.Site.Defaults[i]
		if sec := c.defaultSection(d); sec != nil && u.Choices[sec.Name] != nil {
			list = append(list, defaultStyles(d, sec))
		}
	}
	w.raw("\n")
	w.open("@layer site")
	c.overrides(w, list...)
	w.close()
	w.open("@layer block.use")
	problems := sharedClasses(e, w, u)
	w.close()
	keyframes(e, w)
	return append(c.problems, problems...)
}

// defaultSection finds the section of a default, and checks its options.
func (c *styling) defaultSection(d *site.Default) *library.Section {
	sec := c.env.Library.Section(d.Section)
	if sec == nil {
		c.addOnce(d.File.KeyProblem(site.Entry{Key: d.Section, KeyPos: d.KeyPos}, "unknown-section", fmt.Sprintf("unknown section %q", d.Section), "a section of the library", c.env.Library.Nearest(d.Section)))
		return nil
	}
	for n, v := range d.Options {
		c.checkOption(d.File, sec, n, v)
	}
	return sec
}

var keyframeNames = regexp.MustCompile(`animation(?:-name)?:([^;]*);`)

// keyframes writes the shipped keyframes whose names the sheet speaks of.
func keyframes(e *project.Project, w *sheetWriter) {
	sheet := css.Parse("motion.css", e.Motion)
	spoken := " "
	for _, m := range keyframeNames.FindAllStringSubmatch(w.b.String(), -1) {
		spoken += strings.ReplaceAll(m[1], ",", " ") + " "
	}
	for _, n := range sheet.Nodes {
		name := strings.TrimSpace(css.Text(n.Prelude))
		if n.Kind != css.AtRule || n.Name != "keyframes" || !strings.Contains(spoken, " "+name+" ") {
			continue
		}
		w.raw("\n")
		w.open("@keyframes " + name)
		for _, k := range n.Children {
			var decls []decl
			for _, d := range k.Children {
				decls = append(decls, decl{name: d.Name, value: strings.TrimSpace(css.Text(d.Value))})
			}
			w.rule(strings.TrimSpace(css.Text(k.Prelude)), decls...)
		}
		w.close()
	}
}

// ruled reports whether a section has rules for a choice.
func ruled(s *library.Section, option, value string) bool {
	return strings.Contains(s.CSS.Source, `[data-`+option+`="`+value+`"]`)
}

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
		decls = append(decls, decl{name: name, value: s.value(c.Value), pos: diag.At(s.sec.CSS.File, s.sec.CSS.Source, c.Pos)})
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
	return "--" + slug(s.sec.Name) + "_" + strings.TrimPrefix(name, "--_")
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
			class := scopedClass(s.env, s.sec, v[i+1].Text)
			own = own || strings.HasPrefix(class, slug(s.sec.Name))
			b.WriteString("." + class)
			i++
		case t.Text == "[" && i+4 < len(v) && strings.HasPrefix(v[i+1].Text, "data-") && v[i+2].Text == "=":
			option, value := strings.TrimPrefix(v[i+1].Text, "data-"), css.Unquote(v[i+3].Text)
			if o := s.sec.Option(option); o == nil || !slices.Contains(o.Choices, value) {
				p := diag.At(s.sec.CSS.File, s.sec.CSS.Source, t.Pos)
				s.problems = append(s.problems, diag.Problem{Position: p, Severity: diag.Error, Rule: "bad-option", Text: fmt.Sprintf("the section has no option %s with the choice %q", option, value),
					Expected: "an option of section.yaml", Source: diag.LineOf(s.sec.CSS.Source, p.Line)})
				return "", false
			}
			if !s.used[option+"="+value] {
				return "", false
			}
			b.WriteString("." + modifier(s.sec.Name, option, value))
			i += 4
		case strings.TrimSpace(t.Text) == "" && t.Text != "":
			b.WriteByte(' ')
		default:
			b.WriteString(t.Text)
		}
	}
	sel := strings.TrimSpace(b.String())
	if !own && s.depth == 0 && strings.Contains(sel, ".") { // shared classes are styled inside the section only
		sel = "." + slug(s.sec.Name) + " " + sel
	}
	return sel, true
}

// Bench writes the stylesheet that section files link, so that they can be opened in any browser as they are.
func Bench(e *project.Project) string {
	w := newSheet("bench.css")
	w.raw("/* Generated from the theme and base.css by `go test ./core/compose -update`. */\n@layer reset, theme;\n\n")
	for _, f := range e.Fonts {
		w.rule("@font-face", decl{name: "font-family", value: fmt.Sprintf("%q", f.Family)}, decl{name: "font-weight", value: fmt.Sprint(f.Weight)}, decl{name: "src", value: fmt.Sprintf("url(%q)", "../fonts/"+f.Name)})
	}
	w.raw("\n")
	w.open("@layer theme")
	w.raw(e.Theme.CSS())
	w.close()
	w.raw("\n" + strings.TrimSpace(e.Base) + "\n\n.root { padding-block: var(--space-section); }\n")
	return w.sheet().Text
}

// standIn writes the @font-face rule of a file's stand-in.
func standIn(e *project.Project, w *sheetWriter, f project.FontFile, style string) {
	names, m, ok := e.StandIn(f)
	if !ok {
		return
	}
	for i, n := range names {
		names[i] = fmt.Sprintf("local(%q)", n)
	}
	percent := func(v float64) string { return fmt.Sprintf("%g%%", v) }
	w.rule("@font-face", decl{name: "font-family", value: fmt.Sprintf("%q", f.Family+theme.StandIn)}, decl{name: "font-weight", value: f.Weights()}, decl{name: "font-style", value: style}, decl{name: "src", value: strings.Join(names, ", ")},
		decl{name: "size-adjust", value: percent(m.Size)}, decl{name: "ascent-override", value: percent(m.Ascent)}, decl{name: "descent-override", value: percent(m.Descent)}, decl{name: "line-gap-override", value: percent(m.Gap)})
	w.raw("\n")
}
