package check

import (
	"slices"

	"ziegel/core/explain"
	"ziegel/core/layout"
	"ziegel/core/naming"
)

// keyOf tells which hits at neighbouring widths are one finding.
func keyOf(rule int, h hit) hitKey {
	if rules[rule].merge {
		return hitKey{rule, h.el, nil}
	}
	return hitKey{rule, h.el, h.other}
}

// spans turns the hits of one rule on one element into findings, one for each run of widths.
func spans(s *Scene, engine *layout.Engine, r rule, list []hitAt) []Finding {
	l := s.l
	slices.SortStableFunc(list, func(a, b hitAt) int { return a.width - b.width })
	if r.settle != nil {
		list = r.settle(s, list)
	}
	var out []Finding
	for start := 0; start < len(list); {
		end, worst, at := start, list[start].hit, list[start].width
		for end+1 < len(list) && list[end+1].width <= list[end].width+1 {
			end++
			if list[end].hit.amount > worst.amount {
				worst, at = list[end].hit, list[end].width
			}
		}
		block, part, item := naming.Place(l, worst.el)
		f := Finding{Rule: r.name, Severity: r.severity, Block: block, Part: part, Item: item, Path: worst.el.Path(),
			From: list[start].width, To: list[end].width, Worst: at}
		f.Around, f.worst, f.Where = naming.PartsAround(worst.el, part), worst, naming.Whereabouts(l, worst.el)
		other := ""
		if worst.other != nil {
			other = naming.Of(l, worst.other)
			if b, p, _ := naming.Place(l, worst.other); b == block {
				f.OtherPart = p
			}
		}
		name := naming.Of(l, worst.el)
		switch {
		case worst.behind != "" && r.merge:
			name = "the ::" + worst.behind + " of " + name
		case worst.behind != "":
			other = "the ::" + worst.behind + " of " + other
		}
		f.Text = r.say(name, other, worst)
		first := engine.Layout(list[start].width)
		f.Cause = cause(l, first, worst)
		f.Why = explain.Why(l, first, r.axis, worst.el, worst.other)
		if r.grade != nil {
			f.Severity = r.grade(worst)
		}
		if part != "" && r.cure != nil {
			f.Cure = r.cure(part, worst)
		}
		if l.Page != nil && r.name == lowContrastName { // the theme has colors for every ground
			f.Cure = part + `: {color: "{color.ink}"}`
		}
		out = append(out, f)
		start = end + 1
	}
	if r.whole && len(out) > 0 {
		out = out[:1]
		out[0].From, out[0].To, out[0].Worst = 0, 0, 0
	}
	return out
}

// hits gives what a rule sees in one layout.
func (r *rule) hits(s *Scene, at *layout.Result) []hit {
	if r.strips != nil {
		return r.strips(s, s.strips(at))
	}
	return r.look(s, at)
}
