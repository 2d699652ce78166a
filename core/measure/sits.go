package measure

import (
	"strings"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/styles"
	"ziegel/core/sweep"
)

// ask is one question at every width.
type ask struct {
	when  styles.When
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
