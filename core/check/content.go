package check

import (
	"fmt"
	"path"
	"slices"
	"strings"

	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/measure"
	"ziegel/core/naming"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

// contentRules are composing problems that the check tells as findings: the page can still be laid out.
var contentRules = map[string]bool{"dead-link": true, "missing-file": true, "form-nowhere": true,
	"overlay-thin": true, "unsafe-picture": true, "icon-simplified": true, untranslated: true, "day-past": true}

// untranslated is the rule of texts and files that have no translation: only other languages have it.
const untranslated = "untranslated"

// Blocking returns the problems that keep a page from being built right, those that are findings left out.
func Blocking(problems diag.Problems) diag.Problems {
	var out diag.Problems
	for _, p := range problems {
		if p.Severity == diag.Error && !contentRules[p.Rule] {
			out = append(out, p)
		}
	}
	return out
}

// Content reports what is wrong or unfinished in a page's content, at no particular width.
func Content(l *sweep.Prepared, p *site.Page, problems diag.Problems) []Finding {
	return content(l, p, problems, true)
}

// Unfinished reports the same without looking at states: what words, pictures, links and the brief still want.
func Unfinished(l *sweep.Prepared, p *site.Page, problems diag.Problems) []Finding {
	return content(l, p, problems, false)
}

// neededSize says how large a picture that a message names has to be; "" for what is no picture of the page.
func neededSize(l *sweep.Prepared, text string) string {
	needed := measure.Needed(l)
	w, h := 0, 0
	for _, el := range l.Doc.Elements {
		if el.Tag == "img" && el.Attr("src") != "" && strings.Contains(text, "/"+path.Base(el.Attr("src"))) {
			nw, nh := needed(el)
			w, h = max(w, nw), max(h, nh)
		}
	}
	if w == 0 || h == 0 {
		return ""
	}
	return fmt.Sprintf("; it needs at least %d x %d px", w, h)
}

// content does so; states that are known to be in order are left out.
func content(l *sweep.Prepared, p *site.Page, problems diag.Problems, states bool) []Finding {
	var out []Finding
	for _, f := range told(problems) {
		f.Block = blockAt(l, p, f.Cause.Position)
		if f.Rule == "missing-file" {
			f.Text += neededSize(l, f.Text)
		}
		out = append(out, f)
	}
	for _, d := range l.Doubts() {
		f := Finding{Rule: d.Rule, Severity: diag.Note, Text: d.Text()}
		if d.Rule == "not-modelled" {
			f.Cause = diag.Place{Position: d.At}
		}
		out = append(out, f)
	}
	for _, m := range l.Doc.Missing {
		out = append(out, Finding{Rule: "missing-file", Severity: diag.Error,
			Text: "a stylesheet cannot be loaded: " + m})
	}
	out = append(out, markup(l)...)
	out = append(out, moving(l)...)
	if states {
		out = append(out, inStates(l)...)
	}
	if l.Page == nil {
		return append(out, foreignPictures(l)...)
	}
	for _, b := range l.Page.NoAlt {
		out = append(out, Finding{Rule: "missing-alt", Severity: diag.Error, Block: b.Block,
			Text:  fmt.Sprintf("the picture %s has no text for those who cannot see it", b.File),
			Cause: diag.Place{Position: b.Pos},
			Cure:  `alt: and what it shows, or alt: "" when it only decorates`})
	}
	return append(append(out, samples(l.Page)...), Brief(p, l.Page)...)
}

// OfContent reports a rule over content, which composing tells of without a layout.
func OfContent(rule string) bool { return contentRules[rule] }

// told words the problems of composing that are findings.
func told(problems diag.Problems) []Finding {
	var out []Finding
	for _, pr := range problems {
		if contentRules[pr.Rule] {
			cure := ""
			if pr.Try != "" {
				cure = "try " + pr.Try
			}
			out = append(out, Finding{Rule: pr.Rule, Severity: pr.Severity, Text: pr.Text,
				Cause: diag.Place{Position: pr.Position}, Cure: cure})
		}
	}
	return out
}

// Unwritten checks the pages that a build adds to those of the site, such as the one for addresses that do not exist:
// what stops the build is an error of the check. nil when nothing is wrong with them that reports do not tell
// already.
func Unwritten(e *project.Project, reports []*Report) []*Report {
	known := map[diag.Place]bool{}
	for _, r := range reports {
		for _, f := range r.Findings {
			known[f.Cause] = true
		}
	}
	var out []*Report
	for _, name := range e.BuiltPages() {
		if e.Site.HasPage(name) {
			continue
		}
		_, problems := measure.Page(e, e.BuiltPage(name), compose.Options{})
		r := &Report{Page: name}
		for _, f := range told(problems) {
			if !known[f.Cause] {
				r.Findings = append(r.Findings, f)
			}
		}
		if len(r.Findings) > 0 {
			out = append(out, r)
		}
	}
	return out
}

func blockAt(l *sweep.Prepared, p *site.Page, pos diag.Position) string {
	if l.Page == nil {
		return ""
	}
	name := ""
	for _, b := range l.Page.Blocks {
		if b.File.Path == pos.File && b.Node.Pos.Line <= pos.Line {
			name = b.Name
		}
	}
	return name
}

func foreignPictures(l *sweep.Prepared) []Finding {
	var out []Finding
	for _, e := range l.Doc.Elements {
		if _, ok := e.LookupAttr("alt"); e.Tag == "img" && !ok {
			out = append(out, Finding{Rule: "missing-alt", Severity: diag.Error, Part: naming.Label(e),
				Path: e.Path(), Where: naming.Whereabouts(l, e),
				Text: fmt.Sprintf("the picture %s has no text for those who cannot see it", e.Attr("src")),
				Cure: "an alt attribute"})
		}
	}
	return out
}

// aside tells which words a block keeps that belong to no field of it.
func aside(p *compose.Page, b *site.Block) []Finding {
	list := b.Parked.Get(site.AsideKey)
	if list == nil || len(list.Items) == 0 {
		return nil
	}
	var texts []string
	for _, v := range list.Items {
		texts = append(texts, fmt.Sprintf("%q", shorten(v.Str(), 40)))
	}
	return []Finding{{Rule: "words-aside", Severity: diag.Note, Block: b.Name, Cause: diag.Place{Position: list.Pos},
		Text: "kept aside, in no field: " + strings.Join(texts, ", "),
		Cure: fmt.Sprintf("ziegel set %s/%s FIELD=..., then take it out of parked in the page file", p.Name, b.Name)}}
}

// samples tells, block by block, which fields still show the section's sample, and which leaves of their own say what
// it says.
func samples(p *compose.Page) []Finding {
	by, slot := map[string][]string{}, map[string]bool{}
	for _, u := range p.Fields {
		if u.State == compose.Sample {
			by[u.Block] = append(by[u.Block], u.Field)
			slot[u.Block+"."+u.Field] = u.Slot
		}
	}
	var out []Finding
	if len(p.Sample) > 0 {
		out = append(out, Finding{Rule: "sample-content", Severity: diag.Note,
			Text: "sample content: the page's " + strings.Join(p.Sample, " and "),
			Cure: fmt.Sprintf("ziegel set %s %s=...", p.Name, p.Sample[0])})
	}
	for _, b := range p.Blocks {
		out = append(out, aside(p, b)...)
		if f := by[b.Name]; len(f) > 0 {
			cure := fmt.Sprintf("ziegel set %s/%s %s=...", p.Name, b.Name, f[0])
			if slot[b.Name+"."+f[0]] {
				cure = fmt.Sprintf("ziegel add %s/%s.%s SECTION", p.Name, b.Name, f[0])
			}
			out = append(out, Finding{Rule: "sample-content", Severity: diag.Note, Block: b.Name,
				Text: "sample content: " + strings.Join(leaves(f), ", "), Cause: diag.Place{Position: b.Node.Pos},
				Cure: cure})
		}
	}
	return out
}

// leaves shortens a list of fields: what stands in one entry is told together, as items[2] (text, price).
func leaves(fields []string) []string {
	var out []string
	tails := map[string][]string{}
	for _, f := range fields {
		entry, tail, ok := strings.Cut(f, "].")
		if !ok {
			out = append(out, f)
			continue
		}
		entry += "]"
		if tails[entry] == nil {
			out = append(out, entry)
		}
		tail = tail[:strings.IndexAny(tail+".", ".[")]
		if !slices.Contains(tails[entry], tail) {
			tails[entry] = append(tails[entry], tail)
		}
	}
	for i, f := range out {
		if len(tails[f]) > 0 {
			out[i] += " (" + strings.Join(tails[f], ", ") + ")"
		}
	}
	return out
}

// Brief compares a page with what it was to have.
func Brief(p *site.Page, page *compose.Page) []Finding {
	if p == nil {
		return nil
	}
	var out []Finding
	have := map[string]*site.Block{}
	for _, b := range page.Blocks {
		have[b.Name] = b
	}
	met := map[string]bool{}
	for _, w := range p.Brief {
		switch {
		case w.Block == "":
			if b := answers(w.Text, page, met); b != "" {
				met[b] = true
				continue
			}
			out = append(out, Finding{Rule: "brief", Severity: diag.Warning,
				Text: fmt.Sprintf("not met yet: %s", w.Text), Cause: diag.Place{Position: w.Node.Pos},
				Cure: "add a block, and name it in the brief: {want: ..., block: NAME}"})
		case have[w.Block] == nil:
			out = append(out, Finding{Rule: "brief", Severity: diag.Warning,
				Text:  fmt.Sprintf("not met yet: %s (there is no block %q)", w.Text, w.Block),
				Cause: diag.Place{Position: w.Node.Pos}, Cure: fmt.Sprintf("ziegel add %s SECTION --as %s", p.Name,
					w.Block)})
		default:
			met[w.Block] = true
		}
	}
	if len(p.Brief) == 0 {
		return out
	}
	for _, b := range p.Blocks {
		if !met[b.Name] && b.Within == "" {
			out = append(out, Finding{Rule: "brief", Severity: diag.Note, Block: b.Name, Text: "not in the brief",
				Cause: diag.Place{Position: b.Node.Pos}})
		}
	}
	return out
}

// answers finds a block whose name, section or own words answer a wish, one not taken yet.
func answers(want string, page *compose.Page, taken map[string]bool) string {
	words := strings.FieldsFunc(strings.ToLower(want), func(r rune) bool { return r < 'a' || r > 'z' })
	for _, b := range page.Blocks {
		if taken[b.Name] {
			continue
		}
		text := b.Name + " " + strings.ReplaceAll(b.Section, "/", " ")
		for _, u := range page.Fields {
			if u.Block == b.Name && u.Field == "heading" && u.State == compose.Own {
				text += " " + strings.ToLower(u.Text)
			}
		}
		for _, w := range words {
			w = strings.TrimSuffix(w, "s")
			if len(w) > 3 && strings.Contains(text, w) {
				return b.Name
			}
		}
	}
	return ""
}
