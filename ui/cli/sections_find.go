package cli

import (
	"fmt"

	"ziegel/core/library"
	"ziegel/core/project"
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
