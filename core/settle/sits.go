package settle

import (
	"strings"
	"sync"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/sweep"
)

// sits sweeps the block and collects the widths at which its parts sit as asked.
func (m *measuring) sits(f *found, page *compose.Page) map[compose.When][]compose.Sits {
	out := map[compose.When][]compose.Sits{}
	l := m.laid(page, "")
	if l == nil || l.Block(m.block.Name) == nil {
		return out
	}
	block := l.Block(m.block.Name)
	var asks []*ask
	for _, w := range m.follows {
		cond, ok := compose.CanonicalWhen(w.Cond)
		if !ok {
			continue
		}
		if cond != "alone in its row" && cond != "wrapped" {
			asks = append(asks, &ask{when: w, cond: cond})
			continue
		}
		for i, e := range elements(l, m.block.Name, w.Part) {
			asks = append(asks, &ask{when: w, cond: cond, index: i + 1, el: e})
		}
	}
	for _, a := range asks {
		a.holds = make([]bool, sweep.DefaultTo-sweep.DefaultFrom+1)
	}
	var mu sync.Mutex
	l.Each(sweep.DefaultFrom, sweep.DefaultTo, func(width int, r *layout.Result) {
		as := block.Arrangement(r)
		for _, a := range asks {
			if a.answer(block, r, as) {
				mu.Lock()
				a.holds[width-sweep.DefaultFrom] = true
				mu.Unlock()
			}
		}
	})
	for _, a := range asks {
		if spans := spansOf(a.holds); len(spans) > 0 {
			out[a.when] = append(out[a.when], compose.Sits{Index: a.index, Spans: spans})
		}
	}
	return out
}

// ask is one question at every width.
type ask struct {
	when  compose.When
	cond  string
	index int
	el    *css.Element
	holds []bool // by width
}

// answer tells whether a part sits as asked in a layout; as is the arrangement of the block.
func (a *ask) answer(b *sweep.Block, r *layout.Result, as string) bool {
	switch a.cond {
	case "stacked":
		return as == "above" || as == "below" || stacked(as)
	case "beside":
		return as == "beside" || strings.Trim(as, "0123456789") == "" && as != "1"
	case "alone in its row":
		return alone(b, r, a.el)
	case "wrapped":
		return wrapped(r, a.el)
	}
	return as == a.cond
}

// stacked reports rows of one: 1+1+1.
func stacked(as string) bool { return len(as) > 1 && strings.Trim(as, "1+") == "" }

// alone reports an entry in a row of its own while others share theirs.
func alone(b *sweep.Block, r *layout.Result, e *css.Element) bool {
	for _, group := range b.Groups() {
		rows := sweep.Rows(r, group)
		mine, shared := false, false
		for _, row := range rows {
			for _, p := range row {
				if len(row) == 1 && within(e, p.Element) {
					mine = true
				}
			}
			shared = shared || len(row) > 1
		}
		if mine {
			return shared
		}
	}
	return false
}

func within(e, outer *css.Element) bool {
	for ; e != nil; e = e.Parent {
		if e == outer {
			return true
		}
	}
	return false
}

// wrapped reports an element whose boxes stand in more than one row, or whose own text has more than one line.
func wrapped(r *layout.Result, e *css.Element) bool {
	kids := e.Kids()
	if p := r.Of(e); len(kids) == 0 || p != nil && p.Lines > 0 {
		return p != nil && p.Lines > 1
	}
	return len(sweep.Rows(r, kids)) > 1
}

// spansOf turns answers at every width into spans. One that reaches an end of the sweep has no end there.
func spansOf(holds []bool) [][2]int {
	var out [][2]int
	for i := 0; i < len(holds); i++ {
		if !holds[i] {
			continue
		}
		start := i
		for i+1 < len(holds) && holds[i+1] {
			i++
		}
		span := [2]int{start + sweep.DefaultFrom, i + sweep.DefaultFrom}
		if start == 0 {
			span[0] = 0
		}
		if i == len(holds)-1 {
			span[1] = 0
		}
		out = append(out, span)
	}
	return out
}
