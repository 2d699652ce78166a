package check

import (
	"fmt"
	"sort"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/layout"
	"ziegel/core/naming"
)

// overlapping: the text of two elements lies on top of each other.
var overlapping = rule{
	name: "text-overlaps", severity: diag.Error, what: "the texts of two elements lie on each other",
	looks: "the letters of any two texts, without the room that fonts keep around them",
	not:   "letters inside drawings; turned texts count by the rectangle around them",
	remedies: []Remedy{
		{CSS: "margin-top=0", Local: true},
		{CSS: "margin-bottom=0", Local: true},
		{CSS: "position=static", Local: true},
		{CSS: "height=auto", Local: true},
		{CSS: "line-height=1.2", Local: true},
		{CSS: "translate=none", Local: true},
		{CSS: "transform=none", Local: true},
		{Where: "around", CSS: "margin-top=0", Local: true},
		{Where: "around", CSS: "height=auto", Local: true},
	},
	look: func(s *Scene, r *layout.Result) []hit {
		type ink struct {
			p *layout.Fragment
			r layout.Rect
		}
		var all []ink
		for i := range r.Boxes {
			p := &r.Boxes[i]
			if p.Lines == 0 || s.stays(r, p) || !p.Style.Visible || p.Style.Opacity == 0 {
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
				meant := a.p == b.p || (a.p.Above || b.p.Above) && (s.standsOn(r, a.p, b.p) || s.standsOn(r, b.p, a.p))
				if meant {
					continue // a plate between them: text-covered tells of that
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
		return fmt.Sprintf("%s and %s overlap by %s", name, other, naming.Px(worst.amount))
	},
}

// stays reports a box that stays on the screen, or is in one that does: it meets other texts as the page is scrolled.
func (s *Scene) stays(r *layout.Result, p *layout.Fragment) bool {
	if !p.Above {
		return false
	}
	for e := p.Element; e != nil; e = e.Parent {
		if b := r.Of(e); b != nil && (b.Style.Position == css.Fixed || b.Style.Position == css.Sticky) {
			return true
		}
	}
	return false
}

// standsOn reports whether a text has a ground that another text is not in.
func (s *Scene) standsOn(r *layout.Result, p, other *layout.Fragment) bool {
	v := s.sight(r)
	for e := p.Element; e != nil && e != other.Element && !naming.Inside(other.Element, e); e = e.Parent {
		if i := r.ByIndex[e.Index]; i >= 0 && v.paints[i] {
			return true
		}
	}
	return false
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
