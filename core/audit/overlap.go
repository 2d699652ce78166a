package audit

import (
	"fmt"
	"sort"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/layout"
)

// overlapping: the text of two elements lies on top of each other.
var overlapping = rule{
	name: "text-overlaps", severity: diag.Error, what: "the texts of two elements lie on each other",
	look: func(_ *scene, r *layout.Result) []hit {
		type ink struct {
			p *layout.Placed
			r layout.Rect
		}
		var all []ink
		for i := range r.Boxes {
			p := &r.Boxes[i]
			if p.Lines == 0 || p.Above || !p.Style.Visible || p.Style.Opacity == 0 {
				continue
			}
			for _, run := range p.Runs {
				if p.Cropped {
					run = run.Intersect(p.Window)
				}
				// Fonts keep room above and below their letters; only what is drawn counts.
				run.Y += run.H / 5
				run.H -= run.H * 2 / 5
				if !run.Empty() {
					all = append(all, ink{p, run})
				}
			}
		}
		sort.Slice(all, func(i, j int) bool { return all[i].r.Y < all[j].r.Y })
		var out []hit
		for i, a := range all {
			for _, b := range all[i+1:] {
				if b.r.Y >= a.r.Bottom() {
					break
				}
				if a.p == b.p {
					continue
				}
				common := a.r.Intersect(b.r)
				if common.W > 128 && common.H > 128 {
					first, second := a.p.Element, b.p.Element
					if second.Index < first.Index {
						first, second = second, first
					}
					out = append(out, hit{el: first, other: second, amount: common.H, cause: "margin-top"})
				}
			}
		}
		return once(out)
	},
	say: func(name, other string, worst hit) string {
		return fmt.Sprintf("%s and %s overlap by %s", name, other, px(worst.amount))
	},
}

// once keeps the worst hit of each pair.
func once(list []hit) []hit {
	type pair struct{ a, b *css.Element }
	at := map[pair]int{}
	var out []hit
	for _, h := range list {
		k := pair{h.el, h.other}
		if i, ok := at[k]; ok {
			out[i].amount = max(out[i].amount, h.amount)
			continue
		}
		at[k] = len(out)
		out = append(out, h)
	}
	return out
}
