package project

import (
	"ziegel/core/site"
)

// RangeEnd orders ranges from wide to narrow: what holds everywhere first.
func (e *Project) RangeEnd(at string) int {
	if at == "" {
		return 1 << 31
	}
	if _, to, _ := e.Span(at); to > 0 {
		return to
	}
	return 1 << 30
}

// Span gives the screen widths of a range, or of widths written out. to is 0 without an end.
func (e *Project) Span(s string) (from, to int, ok bool) {
	for _, r := range e.Site.Ranges {
		if r.Name == s {
			return r.From, r.To, true
		}
	}
	return site.ParseSpan(s)
}

// RangeNames lists the ranges of the site.
func (e *Project) RangeNames() []string {
	var names []string
	for _, r := range e.Site.Ranges {
		names = append(names, r.Name)
	}
	return names
}
