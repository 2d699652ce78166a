package check

import (
	"fmt"

	"ziegel/core/sweep"
)

// Difference is what changed on a page between two checks.
type Difference struct {
	Page  string    `json:"page"`
	Moved []Moved   `json:"moved"` // arrangements that are not what they were
	New   []Finding `json:"new"`
	Gone  []Finding `json:"gone"`
}

// Moved is a block or a group in it whose arrangements changed. Was is empty for a new one, Now for one that is gone.
type Moved struct {
	Block string       `json:"block"`
	Part  string       `json:"part,omitempty"`
	Was   []sweep.Span `json:"was"`
	Now   []sweep.Span `json:"now"`
}

// Compare tells what changed from one check of a page to another. Either may be nil, for a page that was not there.
func Compare(page string, was, now *Report) Difference {
	d := Difference{Page: page, Moved: []Moved{}, New: []Finding{}, Gone: []Finding{}}
	type key struct{ block, part string }
	collect := func(r *Report) (map[key][]sweep.Span, []key) {
		out := map[key][]sweep.Span{}
		var order []key
		if r == nil {
			return out, nil
		}
		for _, b := range r.Blocks {
			order = append(order, key{b.Name, ""})
			out[key{b.Name, ""}] = b.Arrangements
			for _, in := range b.Inside {
				order = append(order, key{b.Name, in.Part})
				out[key{b.Name, in.Part}] = in.Arrangements
			}
		}
		return out, order
	}
	old, oldOrder := collect(was)
	fresh, order := collect(now)
	for _, k := range order {
		if fmt.Sprint(old[k]) != fmt.Sprint(fresh[k]) {
			d.Moved = append(d.Moved, Moved{k.block, k.part, old[k], fresh[k]})
		}
	}
	for _, k := range oldOrder {
		if _, still := fresh[k]; !still {
			d.Moved = append(d.Moved, Moved{k.block, k.part, old[k], nil})
		}
	}
	same := func(a, b Finding) bool {
		return a.Rule == b.Rule && a.Block == b.Block && a.Part == b.Part && a.Item == b.Item && a.From == b.From &&
			a.To == b.To && a.Text == b.Text
	}
	without := func(list *Report, in *Report) []Finding {
		out := []Finding{}
		if list == nil {
			return out
		}
		for _, f := range list.Findings {
			known := false
			if in != nil {
				for _, x := range in.Findings {
					known = known || same(f, x)
				}
			}
			if !known {
				out = append(out, f)
			}
		}
		return out
	}
	d.New, d.Gone = without(now, was), without(was, now)
	return d
}
