package library

import (
	"bytes"
	"fmt"
	"io/fs"
	"path"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/former"
	"ziegel/core/markup"
	"ziegel/core/site"
)

// read reads the files of a section.
func read(fsys fs.FS, dir, name string, shared []Option) (*Section, diag.Problems) {
	var problems diag.Problems
	file := func(n string) string {
		data, err := fs.ReadFile(fsys, path.Join(dir, n))
		if err != nil {
			problems = append(problems, diag.Problem{Position: diag.Position{File: path.Join(dir, n)},
				Severity: diag.Error, Rule: "missing-file",
				Text:     "a section needs this file",
				Expected: "section.html, section.css and section.yaml in its folder"})
		}
		return string(data)
	}
	text, sheet, about := file("section.html"), file("section.css"), file("section.yaml")
	s := &Section{Name: name, Dir: dir, HTML: former.HTML(text)}
	s.Former = s.HTML != text || sheet != former.CSS(sheet)
	sheet = former.CSS(sheet)
	if len(problems) > 0 {
		return nil, problems
	}
	s.CSS = css.Parse(path.Join(dir, "section.css"), sheet)
	for _, e := range s.CSS.Errors {
		p := diag.At(s.CSS.File, sheet, e.Pos)
		problems = append(problems, diag.Problem{Position: p, Severity: diag.Error, Rule: "css", Text: e.Text,
			Source: diag.LineOf(sheet, p.Line)})
	}
	s.About = about
	problems = append(problems, s.describe(path.Join(dir, "section.yaml"), about, shared)...)
	doc, err := html.Parse(bytes.NewReader([]byte(s.HTML)))
	if err != nil {
		return nil, append(problems, diag.Problem{Position: diag.Position{File: path.Join(dir, "section.html")},
			Severity: diag.Error, Rule: "html", Text: err.Error()})
	}
	body := markup.First(doc, "body")
	for c := body.FirstChild; c != nil; c = c.NextSibling {
		if c.Type == html.ElementNode {
			s.Root = c
			break
		}
	}
	if s.Root == nil {
		return nil, append(problems, diag.Problem{Position: diag.Position{File: path.Join(dir, "section.html")},
			Severity: diag.Error, Rule: "html",
			Text: "the body is empty", Expected: "one element, the section itself"})
	}
	s.Fields = infer(s.Root)
	s.Parts = parts(s.Root)
	problems = append(problems, s.readSlots(path.Join(dir, "section.yaml"))...)
	return s, append(problems, s.checkMeasured(path.Join(dir, "section.yaml"))...)
}

func (s *Section) describe(file, source string, shared []Option) diag.Problems {
	v, problems := site.ParseValue(source)
	for i := range problems {
		problems[i].File = file
	}
	if problems.Err() != nil || v == nil {
		return problems
	}
	s.Kind = strings.SplitN(s.Name, "/", 2)[0]
	s.Summary, s.Version, s.Notes = v.Get("summary").Str(), v.Get("version").Str(), v.Get("notes").Str()
	s.Usual = v.Get("usual").Str() == "yes"
	s.Above, s.Below = v.Get("above").Str(), v.Get("below").Str()
	if t := v.Get("tags"); t != nil {
		for _, x := range t.Items {
			s.Tags = append(s.Tags, x.Str())
		}
	}
	if n := v.Get("name").Str(); n != s.Name {
		problems = append(problems, diag.Problem{Position: diag.Position{File: file, Line: 1, Column: 1},
			Severity: diag.Error, Rule: "bad-name",
			Text: fmt.Sprintf("the section calls itself %q", n), Expected: "the name of its folder",
			Try: "name: " + s.Name})
	}
	at := func(p diag.Position) diag.Position {
		return diag.Position{File: file, Line: p.Line, Column: p.Column}
	}
	for i, o := range readOptions(v.Get("options")) {
		if o.Type == "" || o.Default == "" {
			problems = append(problems, diag.Problem{Position: at(v.Get("options").Entries[i].KeyPos),
				Severity: diag.Error, Rule: "bad-option",
				Text:     fmt.Sprintf("the option %q has no choices or no default", o.Name),
				Expected: "choices: [a, b] or type: ratio, and a default"})
			continue
		}
		s.Options = append(s.Options, o)
	}
	if list := v.Get("shares"); list != nil {
		for _, n := range list.Items {
			i := slices.IndexFunc(shared, func(o Option) bool { return o.Name == n.Str() })
			if i < 0 {
				var names []string
				for _, o := range shared {
					names = append(names, o.Name)
				}
				problems = append(problems, diag.Problem{Position: at(n.Pos), Severity: diag.Error,
					Rule: "bad-option", Text: fmt.Sprintf("sections share no option %q", n.Str()),
					Expected: "one of " + strings.Join(names, ", "), Try: diag.Nearest(n.Str(), names)})
				continue
			}
			s.Options = append(s.Options, shared[i])
		}
	}
	problems = append(problems, s.readChanges(v.Get("changes"), at)...)
	if m := v.Get("measured"); m != nil {
		for _, e := range m.Entries {
			get := func(k string) string { return e.Value.Get(k).Str() }
			s.Measured = append(s.Measured, Measure{Name: e.Key, Row: get("row"), Fit: get("fit"),
				Least: get("least"), Most: get("most"), Room: get("room"), Summary: get("summary")})
		}
	}
	return problems
}

// readChanges reads what the versions of a section brought: a text, or {says, renames}.
func (s *Section) readChanges(v *site.Value, at func(diag.Position) diag.Position) diag.Problems {
	if v == nil {
		return nil
	}
	var out diag.Problems
	wrong := func(p diag.Position, text, expected string) {
		out = append(
			out,
			diag.Problem{Position: at(p), Severity: diag.Error, Rule: "bad-changes", Text: text, Expected: expected},
		)
	}
	now, _ := strconv.Atoi(s.Version)
	for _, e := range v.Entries {
		n, err := strconv.Atoi(e.Key)
		if err != nil || n < 2 || n > now {
			wrong(
				e.KeyPos,
				fmt.Sprintf("the section has no version %q", e.Key),
				fmt.Sprintf("2 to %d, which is its version now", now),
			)
			continue
		}
		c := Change{Version: e.Key, Says: e.Value.Str(), Renames: map[string]map[string]string{}}
		if e.Value.Kind == site.Map {
			c.Says = e.Value.Get("says").Str()
			if r := e.Value.Get("renames"); r != nil {
				for _, kind := range r.Entries {
					if !slices.Contains(Renamed, kind.Key) {
						wrong(
							kind.KeyPos,
							fmt.Sprintf("a version renames no %q", kind.Key),
							"one of "+strings.Join(Renamed, ", "),
						)
						continue
					}
					names := map[string]string{}
					for _, x := range kind.Value.Entries {
						names[x.Key] = x.Value.Str()
					}
					c.Renames[kind.Key] = names
				}
			}
		}
		if c.Says == "" {
			wrong(
				e.KeyPos,
				"version "+e.Key+" does not say what it brought",
				e.Key+": what is other now, in a sentence",
			)
		}
		s.Changes = append(s.Changes, c)
	}
	slices.SortFunc(s.Changes, func(a, b Change) int { return number(b.Version) - number(a.Version) })
	return out
}

// number gives a version as a number, 0 for what is none.
func number(version string) int {
	n, _ := strconv.Atoi(version)
	return n
}

// Since gives what came after a version, the oldest first.
func (s *Section) Since(version string) []Change {
	var out []Change
	for _, c := range s.Changes {
		if number(c.Version) > number(version) {
			out = append(out, c)
		}
	}
	slices.Reverse(out)
	return out
}

// readSlots finds the places that take other blocks, and what section.yaml puts into them as a sample.
func (s *Section) readSlots(file string) diag.Problems {
	var walk func(n *html.Node)
	walk = func(n *html.Node) {
		if name, ok := markup.Attr(n, "data-holds"); ok {
			s.Slots = append(s.Slots, Slot{Name: name})
		}
		for c := n.FirstChild; c != nil; c = c.NextSibling {
			walk(c)
		}
	}
	walk(s.Root)
	v, ps := site.ParseValue(s.About)
	samples := v.Get("holds")
	if ps.Err() != nil || samples == nil {
		return nil
	}
	var problems diag.Problems
	for _, e := range samples.Entries {
		i := slices.IndexFunc(s.Slots, func(x Slot) bool { return x.Name == e.Key })
		if i < 0 {
			problems = append(problems, diag.Problem{Position: diag.Position{File: file, Line: e.KeyPos.Line,
				Column: e.KeyPos.Column}, Severity: diag.Error, Rule: "unknown-slot",
				Text:     fmt.Sprintf("nothing in section.html has data-holds=%q", e.Key),
				Expected: "one of its slots: " + strings.Join(s.SlotNames(), ", "),
				Try:      diag.Nearest(e.Key, s.SlotNames())})
			continue
		}
		for _, it := range e.Value.Items {
			if it.Kind == site.Map && it.Get("section").Str() == "" {
				problems = append(problems, diag.Problem{Position: diag.Position{File: file, Line: it.Pos.Line,
					Column: it.Pos.Column}, Severity: diag.Error, Rule: "missing-key", Text: "a sample block without a section",
					Expected: "KIND/NAME, or {section: KIND/NAME, content: {...}}"})
				continue
			}
			s.Slots[i].Sample = append(s.Slots[i].Sample, it)
		}
	}
	return problems
}
