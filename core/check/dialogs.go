package check

import (
	"sync"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/sweep"
)

// dialogs lists the popovers of a page that hold blocks. A sweep of the page at rest sees nothing of them.
func dialogs(l *sweep.Prepared) []*css.Element {
	var out []*css.Element
	seen := map[*css.Element]bool{}
	for _, b := range l.Every() {
		for x := b.Element.Parent; x != nil; x = x.Parent {
			if _, pop := x.LookupAttr("popover"); pop && !seen[x] {
				seen[x] = true
				out = append(out, x)
			}
		}
	}
	return out
}

// opened sweeps the page with its dialogs open, and gives what is found in them.
func opened(l *sweep.Prepared, from, to int) []Finding {
	if len(dialogs(l)) == 0 {
		return nil
	}
	o, err := l.In("popover-open")
	if err != nil {
		return nil
	}
	in := map[*css.Element]bool{}
	for _, d := range dialogs(o) {
		for _, e := range o.Doc.Elements {
			in[e] = in[e] || e != d && popoverAround(e.Parent) == d
		}
	}
	s := NewScene(o)
	hits := hits{}
	var mu sync.Mutex
	o.Each(from, to, func(w int, r *layout.Result) {
		for i := range rules {
			if rules[i].pass != plainPass || rules[i].look == nil {
				continue
			}
			for _, h := range rules[i].look(s, r) {
				// two are never open at once
				if !in[h.el] || h.other != nil && popoverAround(h.other.Parent) != popoverAround(h.el.Parent) {
					continue
				}
				mu.Lock()
				hits.add(i, w, h)
				mu.Unlock()
			}
		}
	})
	return hits.findings(s, o.Engine())
}
