package cli

import (
	"fmt"
	"slices"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/stock"
)

// shelf is the site around us, else one with nothing in it: for looking through the library.
func (a *app) shelf() (*project.Project, error) {
	if _, err := a.find(); err == nil || a.siteDir != "" {
		e, _, err := a.open()
		return e, err
	}
	e, problems, err := project.Shelf(stock.Files)
	if err != nil {
		return nil, err
	}
	return e, problems.Err()
}

func (a *app) sectionLine(s *library.Section, more string) {
	a.say("%s", a.style.Wrap(fmt.Sprintf("  %-20s %s%s", s.Name, s.Summary, a.style.Dim(more)), 23))
}

// usedBy tells of a section of the site's own how many blocks are made of it, and how many of those have styles of
// their own.
func (a *app) usedBy(e *project.Project, s *library.Section) string {
	if !slices.ContainsFunc(e.Library.Own(), func(x *library.Section) bool { return x.Name == s.Name }) {
		return ""
	}
	blocks, styled := 0, 0
	seen := map[*site.Value]bool{} // those on every page count once
	for _, p := range e.Site.Pages() {
		for _, b := range e.Site.All(p) {
			if b.Section != s.Name || seen[b.Node] {
				continue
			}
			seen[b.Node] = true
			blocks++
			if b.Style != nil && len(b.Style.Entries) > 0 {
				styled++
			}
		}
	}
	switch {
	case blocks == 0:
		return "  (yours; no block is made of it)"
	case styled == 0:
		return fmt.Sprintf("  (yours; %s)", diag.Plural(blocks, "block"))
	}
	return fmt.Sprintf("  (yours; %s, %d with styles of their own)", diag.Plural(blocks, "block"), styled)
}

func keysOfMap(m map[string]string) func(func(string) bool) {
	return func(yield func(string) bool) {
		for k := range m {
			if !yield(k) {
				return
			}
		}
	}
}

func sectionJSON(s *library.Section) map[string]any {
	var fields func(list []*library.Field) []any
	fields = func(list []*library.Field) []any {
		out := []any{}
		for _, f := range list {
			m := map[string]any{"name": f.Name, "type": f.Type}
			if f.Sample != "" {
				m["sample"] = f.Sample
			}
			if f.Of != nil {
				m["of"] = fields(f.Of)
			}
			out = append(out, m)
		}
		return out
	}
	opts := []any{}
	for _, o := range s.Options {
		m := map[string]any{"name": o.Name, "summary": o.Summary, "type": o.Type, "default": o.Default}
		if len(o.Choices) > 0 {
			m["choices"] = o.Choices
		}
		opts = append(opts, m)
	}
	return map[string]any{"name": s.Name, "kind": s.Kind, "summary": s.Summary, "tags": s.Tags,
		"fields": fields(s.Fields), "options": opts, "parts": s.Parts}
}
