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

// hits are what the rules have seen of a page.
type hits map[hitKey]runs

func (hs hits) add(rule, width int, h hit) {
	k := keyOf(rule, h)
	list := hs[k]
	list.add(width, h)
	hs[k] = list
}

// findings words the hits: one for each run of widths. A width at which several begin is laid out once.
func (hs hits) findings(s *Scene, engine *layout.Engine) []Finding {
	type found struct {
		rule int
		run
	}
	var all []found
	for k, list := range hs {
		r := &rules[k.rule]
		if list = list.joined(); r.settle != nil {
			list = r.settle(s, list)
		}
		if r.whole && len(list) > 1 {
			list = list[:1]
		}
		for _, one := range list {
			all = append(all, found{k.rule, one})
		}
	}
	slices.SortFunc(all, func(a, b found) int { return a.from - b.from })
	var out []Finding
	var at *layout.Result
	for i, f := range all {
		if i == 0 || f.from != all[i-1].from {
			at = engine.Layout(f.from)
		}
		out = append(out, rules[f.rule].finding(s, at, f.run))
	}
	return out
}

// finding words a run of widths. first is the layout at the first of them.
func (r *rule) finding(s *Scene, first *layout.Result, run run) Finding {
	l, worst := s.l, run.worst
	block, part, item := naming.Place(l, worst.el)
	f := Finding{Rule: r.name, Severity: r.severity, Block: block, Part: part, Item: item, Path: worst.el.Path(),
		From: run.from, To: run.to, Worst: run.at}
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
	if r.whole {
		f.From, f.To, f.Worst = 0, 0, 0
	}
	return f
}

// hits gives what a rule sees in one layout.
func (r *rule) hits(s *Scene, at *layout.Result) []hit {
	if r.strips != nil {
		return r.strips(s, s.strips(at))
	}
	return r.look(s, at)
}
