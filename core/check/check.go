// Package check looks for what breaks: rules over every layout of a sweep, and rules over a page's content. A rule
// over layouts is one function in a file of its own, listed in rules; hits at neighbouring widths become one finding
// with the worst numbers.
package check

import (
	"fmt"
	"sort"
	"sync"

	"ziegel/core/diag"
	"ziegel/core/layout"
	"ziegel/core/naming"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

// Run sweeps a page over from..to, both included, and reports everything found. wants is the page's own file, nil for
// foreign pages.
func Run(l *sweep.Prepared, p *site.Page, problems diag.Problems, from, to int) *Report {
	var mu sync.Mutex
	hits := hits{}
	s := NewScene(l)
	rep := &Report{Page: l.Name, From: from, To: to}
	heights := make([][]layout.Px, to-from+1)
	look := func(p pass) func(w int, r *layout.Result) {
		return func(w int, r *layout.Result) {
			for i := range rules {
				if rules[i].pass != p {
					continue
				}
				for _, h := range rules[i].hits(s, r) {
					mu.Lock()
					hits.add(i, w, h)
					mu.Unlock()
				}
			}
			if p == plainPass {
				heights[w-from] = s.heights(r)
			}
		}
	}
	rep.Blocks = l.Map(from, to, look(plainPass))
	for i, h := range heights {
		if h == nil {
			rep.To, rep.Stopped, heights = from+i-1, true, heights[:i]
			break
		}
	}
	s.sideways = map[int]bool{}
	for k, list := range hits {
		if rules[k.rule].name != overflowX.name {
			continue
		}
		for _, r := range list {
			for w := r.from; w <= r.to; w++ {
				s.sideways[w] = true
			}
		}
	}
	if low, high := max(from, lowFrom), min(to, lowTo); low <= high && !rep.Stopped && s.mayBeCut() {
		for k := range hits {
			if rules[k.rule].name == clipped.name {
				s.clips[k.el.Index].Store(true)
			}
		}
		l.With(sweep.Screen{Height: lowScreen}).Each(low, high, look(lowPass))
	}
	if !rep.Stopped && usesViewWidth(l.Doc) {
		l.With(sweep.Screen{Scrollbar: 15}).Each(from, to, look(scrollbarPass))
	}
	if !rep.Stopped {
		rep.Findings = append(rep.Findings, opened(l, from, to)...)
	}
	engine := l.Engine()
	rep.Findings = append(rep.Findings, hits.findings(s, engine)...)
	rep.Findings = append(rep.Findings, s.jumps(from, heights)...)
	rep.Findings = append(rep.Findings, s.missingLetters(engine.Layout(min(max(from, 1280), to)))...)
	rep.complete(l, p, problems, true)
	return rep
}

// complete adds what holds at no particular width, and puts all findings in order.
func (rep *Report) complete(l *sweep.Prepared, p *site.Page, problems diag.Problems, states bool) {
	rep.Findings = append(rep.Findings, content(l, p, problems, states)...)
	if l.Page != nil {
		rep.weigh(l.Page.Tuned)
	}
	rep.sort(l)
	rep.Findings = alike(rep.Findings)
}

// sort puts findings in order: by severity, then block by block.
func (rep *Report) sort(l *sweep.Prepared) {
	order := map[diag.Severity]int{diag.Error: 0, diag.Warning: 1, diag.Note: 2}
	at := map[string]int{}
	for i, b := range l.Every() {
		at[b.Name] = i + 1
	}
	sort.SliceStable(rep.Findings, func(i, j int) bool {
		a, b := rep.Findings[i], rep.Findings[j]
		switch {
		case order[a.Severity] != order[b.Severity]:
			return order[a.Severity] < order[b.Severity]
		case at[a.Block] != at[b.Block]:
			return at[a.Block] < at[b.Block]
		case a.Rule != b.Rule:
			return a.Rule < b.Rule
		case a.Part != b.Part:
			return a.Part < b.Part
		case a.Item != b.Item:
			return a.Item < b.Item
		case a.From != b.From:
			return a.From < b.From
		case a.Text != b.Text:
			return a.Text < b.Text
		}
		return a.Path < b.Path
	})
}

// alike joins the findings on siblings that have one cause: the same rule, part and declaration, at widths that meet.
func alike(list []Finding) []Finding {
	type key struct {
		rule, severity, block, part string
		cause                       diag.Place
	}
	at := map[key][]int{} // into out
	var out []Finding
next:
	for _, f := range list {
		k := key{f.Rule, string(f.Severity), f.Block, f.Part, f.Cause}
		if f.Cause.IsZero() || f.From == 0 || f.Part == "" {
			out = append(out, f)
			continue
		}
		for _, i := range at[k] {
			o := &out[i]
			if f.From > o.To+1 || o.From > f.To+1 || f.Path == o.Path {
				continue
			}
			if f.To-f.From > o.To-o.From { // the widest span speaks for all
				f.Alike, *o = o.Alike, f
			}
			o.From, o.To, o.Alike = min(o.From, f.From), max(o.To, f.To), o.Alike+1
			continue next
		}
		at[k] = append(at[k], len(out))
		out = append(out, f)
	}
	for i := range out {
		switch n := out[i].Alike; {
		case n == 1:
			out[i].Text += ", and one more like it"
		case n > 1:
			out[i].Text += fmt.Sprintf(", and %d more like it", n)
		}
	}
	return out
}

// at applies the rules that look at one width, warnings and errors only, without their causes.
func (s *Scene) At(r *layout.Result) []Finding {
	var out []Finding
	for i := range rules {
		rule := &rules[i]
		if rule.pass != plainPass || rule.settle != nil || rule.severity == diag.Note {
			continue
		}
		for _, h := range rule.hits(s, r) {
			block, part, item := naming.Place(s.l, h.el)
			other := ""
			if h.other != nil {
				other = naming.Of(s.l, h.other)
			}
			out = append(out, Finding{Rule: rule.name, Severity: rule.severity, Block: block, Part: part, Item: item,
				From: r.Width, To: r.Width, Text: rule.say(naming.Of(s.l, h.el), other, h)})
		}
	}
	return out
}
