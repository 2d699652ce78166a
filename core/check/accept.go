package check

import (
	"fmt"

	"ziegel/core/diag"
	"ziegel/core/site"
)

// Accept moves the findings that the site accepts out of the way: they are listed with their reasons and count no
// more. used tells which entries met a finding; it has one place for each.
func (r *Report) Accept(list []site.Accepted, used []bool) {
	kept := r.Findings[:0]
	for _, f := range r.Findings {
		at := -1
		for i, a := range list {
			if a.Rule == f.Rule && covers(a.At, r.Page, f) {
				at = i
				break
			}
		}
		if at < 0 {
			kept = append(kept, f)
			continue
		}
		used[at] = true
		r.Accepted = append(r.Accepted, Accepted{f, list[at].Because})
	}
	r.Findings = kept
}

// CheckAccepted finds entries of accept and tune with rules that there are none of.
func CheckAccepted(s *site.Site) diag.Problems {
	var out diag.Problems
	var names []string
	known := map[string]bool{}
	for _, r := range Rules() {
		names = append(names, r.Name)
		known[r.Name] = true
	}
	for _, a := range s.Accepted {
		if !known[a.Rule] {
			out = append(out, s.File.Problem(a.Node, "unknown-rule", fmt.Sprintf("there is no rule %q", a.Rule),
				"one that `ziegel check --rules` lists", diag.Nearest(a.Rule, names)))
		}
	}
	return append(out, checkTuned(s)...)
}

// Unused gives a note for each entry that met no finding on any page.
func Unused(s *site.Site, used []bool) []Finding {
	var out []Finding
	for i, a := range s.Accepted {
		if !used[i] {
			out = append(out, Finding{Rule: "accept-unused", Severity: diag.Note,
				Text:  fmt.Sprintf("%s is accepted in the site's file, and nothing is found there any more", a.Rule),
				Cause: diag.Place{Position: a.Node.Pos},
				Cure:  "take the entry out of accept"})
		}
	}
	return out
}
