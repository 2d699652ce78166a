package report

import (
	"fmt"
	"slices"

	"ziegel/core/check"
	"ziegel/core/diag"
)

// Group is what one cause does: a finding, and others that are told with it.
type Group struct {
	Told
	Page  string
	Pages []string // others that have the same block of every page with the same finding
	Also  []string // addresses of the others
}

// fewest is from how many findings of one rule in one block on they are told as one.
const fewest = 3

// Groups puts together what is told as one: spans of one element, one finding of a block on every page, findings of a
// rule with one cause, and those of a rule in one block from three on. The worst come first. every names the blocks on
// every page.
func Groups(reports []*check.Report, every map[string]bool) []Group {
	var out []Group
	shared := map[string]int{} // position in out
	for _, r := range reports {
		for _, t := range Merge(ByBlock(r)) {
			key := ""
			if every[t.Block] {
				key = fmt.Sprint(t.Rule, t.Block, t.Part, t.Item, t.Path)
				if i, seen := shared[key]; seen {
					if g := &out[i]; g.Page != r.Page && !slices.Contains(g.Pages, r.Page) {
						g.Pages = append(g.Pages, r.Page)
					}
					continue
				}
				shared[key] = len(out)
			}
			out = append(out, Group{Told: t, Page: r.Page})
		}
	}
	out = folded(out, func(g Group) string {
		if g.Cause.IsZero() {
			return ""
		}
		return g.Rule + " " + g.Cause.Position.String()
	}, 2)
	out = folded(out, func(g Group) string {
		if g.Part == "" {
			return ""
		}
		return g.Page + " " + g.Block + " " + g.Where + " " + g.Rule
	}, fewest)
	rank := map[diag.Severity]int{diag.Error: 0, diag.Warning: 1, diag.Note: 2}
	slices.SortStableFunc(out, func(a, b Group) int { return rank[a.Severity] - rank[b.Severity] })
	return out
}

// folded puts groups of one severity with the same key together when there are at least so many; an empty key stays
// alone.
func folded(list []Group, key func(Group) string, least int) []Group {
	count := map[string]int{}
	full := func(g Group) string {
		if k := key(g); k != "" {
			return string(g.Severity) + " " + k
		}
		return ""
	}
	for _, g := range list {
		count[full(g)]++
	}
	at := map[string]int{}
	var out []Group
	for _, g := range list {
		k := full(g)
		if k == "" || count[k] < least {
			out = append(out, g)
			continue
		}
		i, seen := at[k]
		address := Address(g.Page, g.Finding)
		// says something else there
		if seen && address == Address(out[i].Page, out[i].Finding) && g.Text != out[i].Text {
			seen = false
		}
		if !seen {
			at[k] = len(out)
			out = append(out, g)
			continue
		}
		first := &out[i]
		for _, a := range append([]string{address}, g.Also...) {
			if a != Address(first.Page, first.Finding) && !slices.Contains(first.Also, a) {
				first.Also = append(first.Also, a)
			}
		}
	}
	return out
}

// Counts counts groups by severity.
func Counts(list []Group) map[diag.Severity]int {
	out := map[diag.Severity]int{}
	for _, g := range list {
		out[g.Severity]++
	}
	return out
}
