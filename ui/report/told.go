package report

import (
	"fmt"
	"slices"
	"sort"
	"strings"

	"ziegel/core/check"
	"ziegel/core/diag"
	"ziegel/core/sweep"
)

// Told is a finding with all the spans of widths at which its rule tells of the same element. Its words are those of
// the widest span.
type Told struct {
	check.Finding
	Spans []sweep.Span // without As
}

// Merge puts the findings of one rule on one element together, in the order of their first ones.
func Merge(list []check.Finding) []Told {
	type subject struct {
		rule, block, part, path string
		item                    int
	}
	at := map[subject]int{}
	var out []Told
	for _, f := range list {
		k := subject{f.Rule, f.Block, f.Part, f.Path, f.Item}
		i, seen := at[k]
		if !seen || f.To == 0 {
			at[k] = len(out)
			t := Told{Finding: f}
			if f.To > 0 {
				t.Spans = []sweep.Span{{From: f.From, To: f.To}}
			}
			out = append(out, t)
			continue
		}
		t := &out[i]
		if last := &t.Spans[len(t.Spans)-1]; last.To+1 == f.From {
			last.To = f.To
		} else {
			t.Spans = append(t.Spans, sweep.Span{From: f.From, To: f.To})
		}
		if f.To-f.From > t.To-t.From {
			t.Finding = f
		}
	}
	for i := range out {
		out[i].Spans = inOrder(out[i].Spans)
	}
	return out
}

// inOrder sorts spans and joins those that touch.
func inOrder(list []sweep.Span) []sweep.Span {
	slices.SortFunc(list, func(a, b sweep.Span) int { return a.From - b.From })
	var out []sweep.Span
	for _, s := range list {
		if n := len(out) - 1; n >= 0 && out[n].To+1 >= s.From {
			out[n].To = max(out[n].To, s.To)
			continue
		}
		out = append(out, s)
	}
	return out
}

// mostSpans is how many spans are written out.
const mostSpans = 3

// Widths writes the spans: "240..263, 300..310 and 4 more"; "" for none.
func (t Told) Widths() string {
	var parts []string
	for i, s := range t.Spans {
		if i == mostSpans && len(t.Spans) > mostSpans+1 {
			return strings.Join(parts, ", ") + fmt.Sprintf(" and %d more", len(t.Spans)-mostSpans)
		}
		if s.From == s.To {
			parts = append(parts, fmt.Sprint(s.From))
		} else {
			parts = append(parts, fmt.Sprintf("%d..%d", s.From, s.To))
		}
	}
	return strings.Join(parts, ", ")
}

// ByBlock gives the findings block by block, the block with the worst one first, and the worst first in each.
func ByBlock(r *check.Report) []check.Finding {
	rank := map[diag.Severity]int{diag.Error: 0, diag.Warning: 1, diag.Note: 2}
	worst := map[string]int{}
	for _, f := range r.Findings {
		if w, ok := worst[f.Block]; !ok || rank[f.Severity] < w {
			worst[f.Block] = rank[f.Severity]
		}
	}
	order := map[string]int{}
	for i, b := range r.Blocks {
		order[b.Name] = i + 1
	}
	out := append([]check.Finding(nil), r.Findings...)
	sort.SliceStable(out, func(i, j int) bool {
		a, b := out[i], out[j]
		switch {
		case a.Block != b.Block && worst[a.Block] != worst[b.Block]:
			return worst[a.Block] < worst[b.Block]
		case a.Block != b.Block:
			return order[a.Block] < order[b.Block]
		}
		return rank[a.Severity] < rank[b.Severity]
	})
	return out
}
