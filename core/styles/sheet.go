package styles

import (
	"fmt"
	"maps"
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
	w := newSheet(e.SheetName("site"))
	w.raw("@layer reset, theme, section, site, page, block, still;\n\n")
	fontFaces(e, w, e.Fonts)
	w.open("@layer theme")
	w.raw(e.Theme.CSS())
	w.close()
	w.raw("\n" + strings.TrimSpace(e.Base) + "\n")
	if rules := e.Treatments(); rules != "" {
		w.raw("\n@layer theme {\n" + strings.TrimRight(rules, "\n") + "\n}\n")
	}
	common := w.b.Len()
	if u.Draft {
		draftSheet(e, w)
	}
	if u.Held {
		heldSheet(e, w)
	}
	for _, l := range Lanes {
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
		w.rule("@font-face", decl{name: "font-family", value: fmt.Sprintf("%q", f.Family)},
			decl{name: "font-weight", value: f.Weights()},
			decl{name: "font-style", value: style}, decl{name: "font-display", value: "swap"},
			decl{name: "src", value: fmt.Sprintf("url(%q) format(%q)", "fonts/"+f.Name,
				project.FontFormats[path.Ext(f.Name)])})
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
	w.rule(".draft", decl{name: "font-family", value: "var(--face-body)"},
		decl{name: "font-size", value: "var(--type-body)"}, decl{name: "font-weight", value: "var(--weight-body)"},
		decl{name: "line-height", value: "var(--line-height-body)"})
	w.rule(".draft img", decl{name: "filter", value: "grayscale(1) contrast(.35) brightness(1.25)"})
	w.close()
}

// siteStyles writes what the site gives to sections, and the shared looks that blocks use.
func siteStyles(e *project.Project, w *sheetWriter, u *Usage) diag.Problems {
	c := &Writer{Env: e, Page: &site.Page{}}
	var list []styleMap
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
	return append(c.Problems, problems...)
}

// defaultSection finds the section of a default, and checks its options.
func (c *Writer) defaultSection(d *site.Default) *library.Section {
	sec := c.Env.Library.Section(d.Section)
	if sec == nil {
		c.AddOnce(d.File.KeyProblem(site.Entry{Key: d.Section, KeyPos: d.KeyPos}, "unknown-section",
			fmt.Sprintf("unknown section %q", d.Section), "a section of the library",
			c.Env.Library.Nearest(d.Section)))
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

// Bench writes the stylesheet that section files link, so that they can be opened in any browser as they are.
func Bench(e *project.Project) string {
	w := newSheet("bench.css")
	w.raw("/* Generated from the theme and base.css by `go test ./core/compose -update`. */\n@layer reset, theme;\n\n")
	for _, f := range e.Fonts {
		w.rule("@font-face", decl{name: "font-family", value: fmt.Sprintf("%q", f.Family)},
			decl{name: "font-weight", value: fmt.Sprint(f.Weight)},
			decl{name: "src", value: fmt.Sprintf("url(%q)", "../fonts/"+f.Name)})
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
	w.rule("@font-face", decl{name: "font-family", value: fmt.Sprintf("%q", f.Family+theme.StandIn)},
		decl{name: "font-weight", value: f.Weights()}, decl{name: "font-style", value: style},
		decl{name: "src", value: strings.Join(names, ", ")},
		decl{name: "size-adjust", value: percent(m.Size)}, decl{name: "ascent-override", value: percent(m.Ascent)},
		decl{name: "descent-override", value: percent(m.Descent)},
		decl{name: "line-gap-override", value: percent(m.Gap)})
	w.raw("\n")
}

// SheetFor gives the stylesheet of some blocks: the part of site.css that they need.
func SheetFor(e *project.Project, blocks []*site.Block) (*Sheet, diag.Problems) {
	u := newUsage()
	u.add(e, blocks)
	kept := project.Once(e, sheetKey{e.Site, e.Theme, e.Draft, e.Library, e.Base, u.key()}, func() (k keptSheet) {
		k.sheet, k.problems = writeSheet(e, u)
		return k
	})
	return kept.sheet, kept.problems
}

// sharedClasses writes the shared looks that blocks use, each once, under a class of its own.
func sharedClasses(e *project.Project, w *sheetWriter, u *Usage) diag.Problems {
	c := &Writer{Env: e, Page: &site.Page{}}
	for _, name := range slices.Sorted(maps.Keys(u.Styles)) {
		if shared, file := e.SharedStyle(name); shared != nil {
			s := styleMap{nil, file, nil, nil, func(string) string { return StyleClass(name) }, nil}
			writeOverrides(w, c.shared(shared, file, s, Target{Part: "part"},
				func(tail Target) bool { return !own(tail) }))
		}
	}
	return c.Problems
}
