package check

import (
	"fmt"
	"slices"
	"sort"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/naming"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

// limitsOf gives the bounds of the rules that have one, by their names. Rules ask for them by name, because they cannot
// name themselves.
func limitsOf(rules []rule) map[string]bound {
	out := map[string]bound{}
	for _, r := range rules {
		if r.limit != (bound{}) {
			out[r.name] = r.limit
		}
	}
	return out
}

// NewScene is what the rules know of a page, with the bounds that its site sets.
func NewScene(l *sweep.Prepared) *Scene {
	s := newScene(l, limitsOf(rules))
	if l.Page != nil {
		s.tune(l.Page.Tuned)
	}
	return s
}

// tune works out the bounds that a site sets for the elements of a page. Later entries win over earlier ones.
func (s *Scene) tune(list []site.Tuned) {
	for _, t := range list {
		known, ok := s.limits[t.Rule]
		if !ok || t.Limit == nil {
			continue
		}
		if s.tuned == nil {
			s.tuned = map[string][]float64{}
		}
		of := s.tuned[t.Rule]
		if of == nil {
			of = make([]float64, len(s.l.Doc.Elements))
			for i := range of {
				of[i] = known.value
			}
			s.tuned[t.Rule] = of
		}
		for i, e := range s.l.Doc.Elements {
			block, part, item := naming.Place(s.l, e)
			if covers(t.At, s.l.Name, Finding{Block: block, Part: part, Item: item}) {
				of[i] = *t.Limit
			}
		}
	}
}

// weigh gives the findings the severities that a site sets for them.
func (r *Report) weigh(list []site.Tuned) {
	for i := range r.Findings {
		f := &r.Findings[i]
		for _, t := range list {
			if t.Severity != "" && t.Rule == f.Rule && covers(t.At, r.Page, *f) {
				f.Severity = diag.Severity(t.Severity)
			}
		}
	}
}

// checkTuned finds entries of tune that cannot be followed.
func checkTuned(s *site.Site) diag.Problems {
	var out diag.Problems
	var names, bounded []string
	limits := limitsOf(rules)
	for _, r := range Rules() {
		names = append(names, r.Name)
	}
	for name, l := range limits {
		bounded = append(bounded, fmt.Sprintf("%s (%.3g %s)", name, l.value, l.unit))
	}
	sort.Strings(bounded)
	for _, t := range s.Tuned {
		switch {
		case !slices.Contains(names, t.Rule):
			out = append(out, s.File.Problem(t.Node, "unknown-rule", fmt.Sprintf("there is no rule %q", t.Rule),
				"one that `ziegel check --rules` lists", diag.Nearest(t.Rule, names)))
		case t.Limit != nil && limits[t.Rule].unit == "":
			out = append(out, s.File.Problem(t.Node, "no-limit", t.Rule+" has no limit that can be set",
				"one of "+strings.Join(bounded, ", "), ""))
		}
	}
	return out
}
