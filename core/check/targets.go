package check

import (
	"fmt"
	"slices"

	"ziegel/core/diag"
	"ziegel/core/layout"
	"ziegel/core/naming"
)

// Bounds of the rules over targets, CSS px (WCAG 2.2, 2.5.8 and 2.5.5).
const (
	leastTarget = 24
	touchTarget = 44
	touchUpTo   = 820 // widths that are touched rather than clicked
)

// overlappingTargets: two targets share a part of their areas, so that a tap there may do either.
var overlappingTargets = rule{
	name: "target-overlap", severity: diag.Error, what: "two targets share a part of their areas",
	looks:   "any two of those",
	not:     "one that lies wholly in another: it is above it on purpose",
	untried: "which of two targets gives way is not known",
	look: func(s *Scene, r *layout.Result) []hit {
		all := s.targets(r)
		slices.SortFunc(all, func(a, b *layout.Fragment) int { return int(a.Y - b.Y) })
		var out []hit
		for i, a := range all {
			for _, b := range all[i+1:] {
				if b.Y >= a.Bottom() {
					break
				}
				common := a.Intersect(b.Rect)
				hardlyCommon := common.W <= 128 || common.H <= 128 || naming.Inside(a.Element, b.Element) ||
					naming.Inside(b.Element, a.Element) || common == a.Rect || common == b.Rect
				if hardlyCommon {
					continue // one that lies in another is above it on purpose
				}
				first, second := a.Element, b.Element
				if second.Index < first.Index {
					first, second = second, first
				}
				out = append(out, hit{el: second, other: first, amount: min(common.W, common.H), cause: "position"})
			}
		}
		return out
	},
	say: func(name, other string, worst hit) string {
		return fmt.Sprintf("%s and %s overlap by %s, so that a tap there may do either", other, name,
			naming.Px(worst.amount))
	},
}

// targets lists what is clicked or tapped in a layout.
func (s *Scene) targets(r *layout.Result) []*layout.Fragment {
	var out []*layout.Fragment
	for i := range r.Boxes {
		if s.target(&r.Boxes[i]) {
			out = append(out, &r.Boxes[i])
		}
	}
	return out
}

// smallTarget: a target under 24 px whose neighbours are near , or under 44 px where fingers tap.
var smallTarget = rule{
	name: "target-small", severity: diag.Error, what: "a target under 24 px with another one near (WCAG 2.5.8)",
	looks: "links, buttons, fields and summaries that show, and their neighbours' circles of 24 px",
	not:   "links in sentences; targets that a script makes of other elements",
	remedies: []Remedy{
		{CSS: "min-height=1.5rem"},
		{CSS: "min-height=2.75rem"},
		{CSS: "display=inline-block padding-block=0.5rem"},
		{Where: "around", CSS: "gap=1rem"},
		{CSS: "min-height=1.5rem min-width=1.5rem"},
	},
	look: func(s *Scene, r *layout.Result) []hit {
		all := s.targets(r)
		var out []hit
		for _, p := range all {
			if side := min(p.W, p.H); side < leastTarget*64 && crowded(p, all) {
				out = append(out, hit{el: p.Element, amount: leastTarget*64 - side, value: side.Float(),
					cause: "padding-top"})
			}
		}
		return out
	},
	say: func(name, _ string, worst hit) string {
		return fmt.Sprintf("%s is only %.3g px in one direction, with another target near; %d px are the least (WCAG 2.5.8)", name, worst.value, leastTarget)
	},
	cure: func(part string, _ hit) string { return part + ": {display: inline-block, padding-block: 0.5rem}" },
}

// crowded reports whether a circle of 24 px around a small target meets another target, or the circle of another
// small one.
func crowded(p *layout.Fragment, all []*layout.Fragment) bool {
	x, y := middle(p.Rect)
	for _, o := range all {
		if away := max(o.Y-y, y-o.Bottom()); away >= leastTarget*64 || o == p { // most are far, and asked no more
			continue
		}
		if naming.Inside(o.Element, p.Element) || naming.Inside(p.Element, o.Element) {
			continue
		}
		b := o.Rect
		if min(b.W, b.H) < leastTarget*64 {
			ox, oy := middle(b)
			dx, dy := (x - ox).Float(), (y - oy).Float()
			if dx*dx+dy*dy < leastTarget*leastTarget {
				return true
			}
		}
		dx := max(b.X-x, 0, x-b.Right()).Float()
		dy := max(b.Y-y, 0, y-b.Bottom()).Float()
		if dx*dx+dy*dy < leastTarget*leastTarget/4 {
			return true
		}
	}
	return false
}

func middle(r layout.Rect) (x, y layout.Px) { return r.X + r.W/2, r.Y + r.H/2 }

// touchTargets: a target that a finger misses.
var touchTargets = rule{
	name: "target-touch", severity: diag.Note, what: "a target under 44 px high at widths that are touched",
	looks: "the same targets up to 820 px",
	not:   "wider screens; links in sentences",
	limit: bound{touchTarget, "px"},
	remedies: []Remedy{
		{CSS: "min-height=2.75rem", Local: true},
		{CSS: "padding-block=0.625rem", Local: true},
		{CSS: "min-height=2.75rem display=inline-flex", Local: true},
		{CSS: "height=auto", Local: true},
	},
	look: boxes("padding-top", func(s *Scene, r *layout.Result, p *layout.Fragment) (float64, float64) {
		if r.Width > touchUpTo || !s.target(p) || p.H.Float() >= s.limit("target-touch", p.Element) &&
			p.W >= leastTarget*64 {
			return 0, 0
		}
		side := min(p.H, p.W).Float()
		return side, s.limit("target-touch", p.Element) - side
	}),
	say: func(name, _ string, worst hit) string {
		return fmt.Sprintf("%s is %.3g px high where fingers tap; %d px are easy to hit", name,
			worst.value, touchTarget)
	},
	cure: func(part string, _ hit) string { return part + ": {min-height: 44px}" },
}

// leastApart is the room between two targets that are small in the direction in which they are neighbours, CSS px.
const leastApart = 8

// closeTargets: two targets that a finger cannot tell apart.
var closeTargets = rule{
	name: "target-close", severity: diag.Note,
	what:  "two targets under 44 px in one direction, with under 8 px between them, at widths that are touched",
	looks: "neighbours under 44 px in the direction in which they stand, up to 820 px",
	not:   "wider screens",
	remedies: []Remedy{
		{Where: "around", CSS: "gap={space.near}", Local: true},
		{CSS: "margin-inline-start={space.near}", Local: true},
	},
	look: func(s *Scene, r *layout.Result) []hit {
		if r.Width > touchUpTo {
			return nil
		}
		all := s.targets(r)
		var out []hit
		for i, a := range all {
			for _, b := range all[i+1:] {
				if naming.Inside(b.Element, a.Element) {
					continue
				}
				beside, below := max(b.X-a.Right(), a.X-b.Right()), max(b.Y-a.Bottom(), a.Y-b.Bottom())
				gap, small := beside, min(a.W, b.W) < touchTarget*64
				if below >= 0 && beside < 0 {
					gap, small = below, min(a.H, b.H) < touchTarget*64
				} else if below >= 0 {
					continue // they stand across from each other
				}
				if small && gap >= 0 && gap < leastApart*64 {
					out = append(out, hit{el: b.Element, other: a.Element, amount: leastApart*64 - gap,
						value: gap.Float(), cause: "gap"})
				}
			}
		}
		return out
	},
	say: func(name, other string, worst hit) string {
		return fmt.Sprintf("only %.3g px between %s and %s, where fingers tap; %d px keep them apart", worst.value,
			other, name, leastApart)
	},
	cure: func(part string, _ hit) string { return part + ": {margin: 0.25rem}" },
}
