package layout

import (
	"slices"

	"ziegel/core/css"
)

func (c *tableColumn) ofWidth(target Px) Px {
	return max(c.min, css.FromFloat(c.percent/100*target.Float())+c.beside)
}

// ask is what a cell or a column box asks for.
type ask struct {
	min, max   Px
	percent    float64
	hasPercent bool
	given      bool
	beside     Px // of a fixed table: what stands beside a percentage
}

// widthsOf reads the widths that a style gives, with padding and borders.
func widthsOf(s *css.Style, edges Px) (width, least, most Px, has, hasMost bool, percent float64, hasPercent bool) {
	outer := func(l css.Len) Px {
		if s.BorderBox {
			return max(l.Resolve(0), edges)
		}
		return l.Resolve(0) + edges
	}
	plain := func(l css.Len) bool { return l.Kind == css.LenPx && !l.HasPercent() }
	only := func(l css.Len) bool { return l.Kind == css.LenPx && l.HasPercent() && l.Px == 0 && l.Tree == nil }
	if plain(s.Width) {
		width, has = outer(s.Width), true
	}
	if plain(s.MinW) {
		least = outer(s.MinW)
	}
	if plain(s.MaxW) {
		most, hasMost = max(least, outer(s.MaxW)), true
	}
	if only(s.Width) {
		percent, hasPercent = s.Width.Pct, true
	}
	if hasPercent && only(s.MaxW) {
		percent = min(percent, s.MaxW.Pct)
	}
	if only(s.MinW) && hasPercent {
		percent = max(percent, s.MinW.Pct)
	}
	return
}

// askOf gives what a cell asks of its columns.
func (t *tableState) askOf(k *Box) ask {
	k.edges(0)
	edges := k.inlineEdges()
	width, least, most, has, hasMost, percent, hasPercent := widthsOf(k.style, edges)
	a := ask{percent: percent, hasPercent: hasPercent, given: has}
	if t.fixed {
		a.max = width
		if !k.style.BorderBox { // (measured)
			a.beside = edges
		}
		return a
	}
	lo, hi := t.e.intrinsic(k)
	if has {
		hi = width
	}
	a.min = max(lo, least)
	if hasMost {
		hi, a.min = min(hi, most), min(a.min, most)
	}
	a.max = max(a.min, hi)
	return a
}

// constrain finds out what all columns ask for.
func (t *tableState) constrain() {
	for i := range t.cols {
		c := &t.cols[i]
		c.mergeable = !t.fixed
		t.ofColumnBox(c, t.colOf[i], t.groupOf[i])
	}
	last := len(t.cells)
	if t.fixed && len(t.rows) > 0 { // the first row says it all
		last = t.rows[0].last
	}
	var wide []int
	for i := range t.cells {
		cell := &t.cells[i]
		t.cols[cell.col].mergeable = false
		if i >= last {
			continue
		}
		if cell.cols == 1 {
			t.cols[cell.col].encompass(t.askOf(cell.b), t.fixed)
			continue
		}
		wide = append(wide, i)
	}
	slices.SortStableFunc(wide, func(a, b int) int {
		if d := t.cells[a].cols - t.cells[b].cols; d != 0 {
			return d
		}
		return t.cells[a].col - t.cells[b].col
	})
	for i := range t.cols {
		c := &t.cols[i]
		c.max = max(c.max, c.min)
	}
	for _, i := range wide {
		if t.fixed {
			t.spreadFixed(&t.cells[i])
		} else {
			t.spread(&t.cells[i])
		}
	}
	sum := 0.0
	for i := range t.cols { // no more than 100 % in all, though in a fixed table each stays what it is (measured)
		if t.fixed {
			break
		}
		if c := &t.cols[i]; c.hasPercent {
			c.percent = min(c.percent, 100-sum)
			sum += c.percent
		}
	}
}

func (t *tableState) ofColumnBox(c *tableColumn, col, group *Box) {
	for _, b := range []*Box{group, col} {
		if b == nil {
			continue
		}
		c.gone = c.gone || b.style.Gone
		width, least, _, has, _, percent, hasPercent := widthsOf(b.style, 0)
		if has {
			c.max, c.given = width, true
			c.mergeable = c.mergeable && width == 0 // (measured)
			c.percent, c.hasPercent = 0, false
		}
		if hasPercent && percent > 0 { // one of 0 % says nothing (measured)
			c.percent, c.hasPercent = percent, true
			c.given, c.max, c.mergeable = false, 0, false
		}
		c.min = max(c.min, least)
	}
}

// encompass makes a column hold a cell.
func (c *tableColumn) encompass(a ask, fixed bool) {
	if fixed && (c.given || c.hasPercent) {
		return
	}
	switch { // a length says more than content does
	case a.given == c.given:
		c.max = max(c.max, a.max)
	case a.given:
		c.max, c.given = a.max, true
	}
	c.min = max(c.min, a.min)
	if a.hasPercent && (!c.hasPercent || a.percent > c.percent) {
		c.percent, c.hasPercent, c.beside = a.percent, true, a.beside
	}
}

// spreadFixed deals what a wide cell asks for evenly among its columns.
func (t *tableState) spreadFixed(cell *tableCell) {
	a := t.askOf(cell.b)
	n := Px(cell.cols)
	most := max(0, a.max-t.gapX*(n-1))
	each := most / n
	for i := range cell.cols {
		c := &t.cols[cell.col+i]
		if c.given || c.hasPercent {
			continue
		}
		c.max, c.given = each, a.given
		if i == cell.cols-1 {
			c.max = most - each*(n-1)
		}
		if a.hasPercent {
			c.percent, c.hasPercent = a.percent/float64(n), true
		}
	}
}

// spread deals what a wide cell asks for among its columns.
func (t *tableState) spread(cell *tableCell) {
	cols := t.cols[cell.col : cell.col+cell.cols]
	a := t.askOf(cell.b)
	n := 0
	for i := range cols {
		n += bit(!cols[i].mergeable)
	}
	inner := t.gapX * Px(max(1, n)-1)
	lo, hi := max(0, a.min-inner), max(0, a.max-inner)
	if a.hasPercent {
		dealPercent(cols, a.percent)
	}
	mins, maxs := dealt(lo, cols, true), dealt(hi, cols, a.given)
	for i := range cols {
		c := &cols[i]
		c.min = max(c.min, mins[i])
		c.max = max(c.max, c.min, maxs[i])
	}
}

// dealPercent gives the columns without a percentage what is left of that of a wide cell.
func dealPercent(cols []tableColumn, percent float64) {
	left, sum, n := percent, Px(0), 0
	for i := range cols {
		if cols[i].hasPercent {
			left -= cols[i].percent
			continue
		}
		if cols[i].mergeable {
			continue
		}
		sum += cols[i].max
		n++
	}
	if left <= 0 || n == 0 {
		return
	}
	for i := range cols {
		c := &cols[i]
		if c.hasPercent || c.mergeable {
			continue
		}
		c.hasPercent = true
		if sum > 0 {
			c.percent = left * float64(c.max) / float64(sum)
		} else {
			c.percent = left / float64(n)
		}
	}
}

// guesses are the widths of a table at which one group of its columns has what it asks for (CSS Tables 3, section
// 4.1): all at their minimum, those with percentages wider, those with lengths, all.
type guesses struct {
	sum      [4]Px
	increase [4]Px
	count    [4]Px // columns with percentages, with lengths, and others under 1, 2, 3
	total    [4]Px // of their maximums
	percent  float64
}

const (
	leastGuess = iota
	percentGuess
	lengthGuess
	mostGuess
)

// group tells which guess a column grows in.
func (c *tableColumn) group() int {
	switch {
	case c.hasPercent:
		return percentGuess
	case c.given:
		return lengthGuess
	}
	return mostGuess
}

// full is what a column is given when its group has all that it asks for.
func (c *tableColumn) full(target Px) Px {
	if c.hasPercent {
		return c.ofWidth(target)
	}
	return c.max
}

func guess(cols []tableColumn, target Px) (g guesses) {
	for i := range cols {
		c := &cols[i]
		if c.mergeable { // columns in which no cell begins get nothing (measured)
			continue
		}
		at, full := c.group(), c.full(target)
		for k := range g.sum {
			if k >= at {
				g.sum[k] += full
			} else {
				g.sum[k] += c.min
			}
		}
		g.increase[at] += full - c.min
		g.count[at]++
		g.total[at] += c.max
		if c.hasPercent {
			g.percent += c.percent
		}
	}
	return g
}

// mulDiv gives v * a / b without loss between.
func mulDiv(v, a, b Px) Px { return Px(int64(v) * int64(a) / int64(b)) }

// dealt gives each of some columns its share of a width. asLength says that columns with lengths may grow over them
// when no others can.
func dealt(target Px, cols []tableColumn, asLength bool) []Px {
	out := make([]Px, len(cols))
	g := guess(cols, target)
	if target < g.sum[leastGuess] {
		target = g.sum[leastGuess]
		g = guess(cols, target)
	}
	at := leastGuess
	for at <= mostGuess && g.sum[at] < target {
		at++
	}
	if at > mostGuess {
		return dealtAbove(target, cols, g, asLength)
	}
	free, last := Px(0), -1
	if at > leastGuess {
		free = target - g.sum[at-1]
	}
	left := free
	exact := at == mostGuess && g.sum[mostGuess] == target
	for i := range cols {
		c := &cols[i]
		switch own := c.group(); {
		case c.mergeable:
		case own > at || at == leastGuess:
			out[i] = c.min
		case own < at || exact:
			out[i] = c.full(target)
		default:
			share := free / max(1, g.count[at])
			if g.increase[at] > 0 {
				share = mulDiv(free, c.full(target)-c.min, g.increase[at])
			}
			out[i], last = c.min+share, i
			left -= share
		}
	}
	if last >= 0 {
		out[last] += left
	}
	return out
}

// dealtAbove deals more than all columns ask for: to those without a width, else to those with lengths, else to those
// with percentages.
func dealtAbove(target Px, cols []tableColumn, g guesses, asLength bool) []Px {
	out := make([]Px, len(cols))
	grows := mostGuess
	switch {
	case g.count[mostGuess] > 0:
	case g.total[lengthGuess] > 0 && asLength:
		grows = lengthGuess
	case g.count[percentGuess] > 0:
		grows = percentGuess
	case g.count[lengthGuess] > 0 && slices.ContainsFunc(cols, func(c tableColumn) bool { return c.mergeable }):
		target = g.sum[mostGuess] // the rest goes to columns that are none (measured)
		grows = lengthGuess
	default:
		grows = lengthGuess
	}
	if g.count[grows] == 0 {
		grows = percentGuess
	}
	free, last := target-g.sum[mostGuess], -1
	left := free
	for i := range cols {
		c := &cols[i]
		if c.mergeable {
			continue
		}
		out[i] = c.full(target)
		if c.group() != grows {
			continue
		}
		share := free / g.count[grows]
		switch {
		case grows == percentGuess && g.percent > 0:
			share = css.FromFloat(free.Float() * c.percent / g.percent)
		case grows != percentGuess && g.total[grows] > 0:
			share = mulDiv(free, c.max, g.total[grows])
		}
		out[i] += share
		left -= share
		last = i
	}
	if last >= 0 {
		out[last] += left
	}
	return out
}

// dealtFixed deals the width of a table whose columns do not look at their content (CSS 2, section 17.5.2.1).
func (t *tableState) dealtFixed(target Px) []Px {
	out := make([]Px, len(t.cols))
	var sum [4]Px
	var count [4]int
	for i := range t.cols {
		c := &t.cols[i]
		sum[c.group()] += c.full(target)
		count[c.group()]++
	}
	scaled := func(group int, room, most Px) Px {
		scale, even := 1.0, false
		if sum[group] < room || sum[group] > most {
			room = min(max(room, sum[group]), most)
			scale = room.Float() / sum[group].Float()
			even = sum[group] == 0
		}
		used, last := Px(0), -1
		for i := range t.cols {
			c := &t.cols[i]
			if c.group() != group {
				continue
			}
			out[i] = css.FromFloat(scale * c.full(target).Float())
			if even {
				out[i] = css.FromFloat(room.Float() / float64(count[group]))
			}
			used += out[i]
			last = i
		}
		if scale != 1 && last >= 0 {
			out[last] += room - used
			used = room
		}
		return used
	}
	least := [2]Px{} // of the columns with lengths and those with percentages: they grow where no others do
	if count[mostGuess] == 0 {
		least[0] = max(0, target-sum[percentGuess])
		if count[lengthGuess] == 0 {
			least[1] = target
		}
	}
	used := scaled(lengthGuess, least[0], target)
	used += scaled(percentGuess, least[1], max(0, target-used))
	if n := count[mostGuess]; n > 0 {
		left := max(0, target-used)
		each := css.FromFloat(left.Float() / float64(n))
		for i := range t.cols {
			if t.cols[i].group() != mostGuess {
				continue
			}
			out[i] = each
			if n--; n == 0 {
				out[i] = left
			}
			left -= each
		}
	}
	return out
}
