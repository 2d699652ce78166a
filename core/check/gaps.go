package check

import (
	"fmt"
	"slices"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/layout"
	"ziegel/core/sweep"
)

// Bounds of the rule over the distances of like boxes, CSS px.
const (
	unevenFrom = 1.9 // times the usual distance
	unevenBy   = 8
)

// unevenGaps: of like boxes beside or under each other, two touch or stand twice as far apart as the others.
var unevenGaps = rule{
	name: "gaps-uneven", severity: diag.Warning,
	what:    "of like boxes in a list or a row of cards, two touch or stand twice as far apart as their fellows",
	looks:   "groups of three like boxes or more in one row or column",
	not:     "links of a menu; boxes out of the flow; a distance that is meant to part two groups",
	untried: "what stands between two boxes has many causes",
	look: func(s *Scene, r *layout.Result) []hit {
		var out []hit
		for _, entries := range s.groups {
			if len(entries) < 3 {
				continue
			}
			rows := sweep.Rows(r, entries)
			if slices.ContainsFunc(entries, func(e *css.Element) bool {
				p := r.Of(e)
				return p != nil &&
					(p.Above || p.Style.Display == css.Inline)
			}) {
				continue
			}
			var down []pairGap
			for i, row := range rows {
				row = slices.Clone(row)
				slices.SortFunc(row, func(a, b *layout.Fragment) int { return int(a.X - b.X) })
				var across []pairGap
				for k := 1; k < len(row); k++ {
					if s.kind[row[k].Element.Index] != targetKind { // links of a menu are pushed apart on purpose
						across = append(across, pairGap{row[k-1], row[k], row[k].X - row[k-1].Right(), "margin-left"})
					}
				}
				out = append(out, uneven(across)...)
				if i > 0 && len(row) == 1 && len(rows[i-1]) == 1 {
					down = append(down, pairGap{rows[i-1][0], row[0], row[0].Y - rows[i-1][0].Bottom(), "margin-top"})
				}
			}
			out = append(out, uneven(down)...)
		}
		return out
	},
	say: func(name, other string, worst hit) string {
		if worst.value == 0 {
			return fmt.Sprintf("%s touches %s, where their fellows stand %.3g px apart", name, other, worst.second)
		}
		return fmt.Sprintf("%.3g px between %s and %s, where their fellows stand %.3g px apart", worst.value, other,
			name, worst.second)
	},
}

// pairGap is the distance of two neighbours.
type pairGap struct {
	a, b  *layout.Fragment
	gap   layout.Px
	cause string
}

// uneven finds the pairs whose distance is unlike that of the others.
func uneven(list []pairGap) []hit {
	if len(list) < 2 {
		return nil
	}
	var gaps []layout.Px
	for _, p := range list {
		gaps = append(gaps, p.gap)
	}
	slices.Sort(gaps)
	usual := gaps[(len(gaps)-1)/2]
	if len(list) == 2 { // of two nobody knows which is the odd one: the wider is, unless the other is none at all
		usual = gaps[0]
	}
	if usual <= 0 {
		usual = gaps[len(gaps)-1]
	}
	var out []hit
	for _, p := range list {
		g, u := p.gap.Float(), usual.Float()
		wide := u > 0 && g > u*unevenFrom && g >= u+unevenBy
		touch := g >= -.5 && g <= .5 && u >= unevenBy
		if wide || touch {
			out = append(out, hit{el: p.b.Element, other: p.a.Element, amount: css.FromFloat(max(g-u, u-g)),
				value: max(0, g), second: u, cause: p.cause})
		}
	}
	return out
}
