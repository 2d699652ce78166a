package layout

import (
	"math"
	"sort"

	"ziegel/core/css"
)

// at gives the part that a place of the flow is in; what ends exactly there belongs to the part before when end is
// true.
func (m *columnMap) at(y Px, end bool) int {
	i := sort.Search(len(m.parts), func(i int) bool { return m.parts[i].from > y }) - 1
	if i > 0 && end && m.parts[i].from == y {
		i--
	}
	return max(0, i)
}

// columnAtom is a part of a flow that is not broken: a line, or a box that keeps to itself.
type columnAtom struct {
	start, end   Px   // with the borders and paddings that begin and end with it
	above, below Px   // margins that begin and end with it
	joined       bool // it is not broken from what is before it
	forced       bool
	soft         bool // it may be broken anywhere: a box that is high and has nothing in it
	span         bool // over all columns
	line         bool
}

// columnSpan is what of a flow stands in one column.
type columnSpan struct {
	from, to    Px
	first, last int // atoms
}

// columnsOf tells how many columns a container has, how wide each is and the room between; ok is false when it is none.
func (e *Engine) columnsOf(b *Box, cw Px) (n int, width, gap Px, ok bool) {
	s := b.style
	if !b.multicol() {
		return 0, 0, 0, false
	}
	gap = e.normalGap(s)
	if s.ColGap.Kind == css.LenPx {
		gap = max(0, s.ColGap.Resolve(cw))
	}
	n = s.ColumnCount
	if s.ColumnWidth.Kind == css.LenPx {
		fit := int(max(1, (cw+gap)/max(1, max(64, s.ColumnWidth.Resolve(0))+gap)))
		if n == 0 || fit < n {
			n = fit
		}
	}
	n = max(1, n)
	return n, max(0, (cw+gap)/Px(n)-gap), gap, true
}

// normalGap is the room between columns when nobody says: the size of the text, in whole px (measured).
func (e *Engine) normalGap(s *css.Style) Px {
	zoom := s.ZoomFactor()
	return css.FromFloat(math.Round(s.FontSize/zoom) * zoom)
}

// columnLimits gives what a container of columns asks for, from what its content does.
func (e *Engine) columnLimits(b *Box, lo, hi Px) (Px, Px) {
	s := b.style
	gap := e.normalGap(s)
	if s.ColGap.Kind == css.LenPx {
		gap = max(0, s.ColGap.Resolve(0))
	}
	if s.ColumnWidth.Kind == css.LenPx {
		w := max(64, s.ColumnWidth.Resolve(0))
		lo, hi = min(lo, w), max(hi, w)
	}
	if n := Px(s.ColumnCount); n > 1 {
		if s.ColumnWidth.Kind != css.LenPx {
			lo = lo*n + gap*(n-1)
		}
		hi = hi*n + gap*(n-1)
	}
	return lo, hi
}

// multicol reports a container of columns: only block containers are.
func (b *Box) multicol() bool {
	return b.kind == blockBox && (b.style.ColumnCount > 0 || b.style.ColumnWidth.Kind == css.LenPx) &&
		(b.turned || b.el != nil && !b.turning && b.el.Tag != "fieldset")
}

// columnSet is what a box is broken into: n columns in a content box across wide, gap apart, and at most high, which is
// their height when it is given.
type columnSet struct {
	n                 int
	across, gap, high Px
	given             bool
}

// settleColumns breaks what was laid out as one column into several, and sets the height of the content.
func (e *Engine) settleColumns(b *Box, set columnSet) {
	n, across, gap, high, given := set.n, set.across, set.gap, set.high, set.given
	c := &columnBreaker{e: e}
	c.children(b, 0, 0, false)
	m := &columnMap{}
	y := Px(0)
	for i := 0; i < len(c.atoms); {
		a := &c.atoms[i]
		if a.span {
			y += a.above
			m.parts = append(
				m.parts,
				columnPart{from: a.start, to: a.end, dy: y - a.start, top: y, limit: a.end - a.start},
			)
			y += a.end - a.start + a.below
			i++
			continue
		}
		j := i
		for j < len(c.atoms) && !c.atoms[j].span {
			j++
		}
		row := columnRow{
			list:    c.atoms[i:j],
			start:   a.start - a.above,
			end:     c.atoms[j-1].end + c.atoms[j-1].below,
			n:       n,
			most:    max(0, high-y),
			limited: given,
			trims:   e.columnTrims(b),
		}
		if i == 0 {
			row.start = 0
		}
		if j == len(c.atoms) {
			row.end = max(row.end, b.contentH)
		}
		if b.style.ColumnFill && !given { // as high as it must be, but for a limit
			row.most, row.limited = max(row.end-row.start, 0), true
		}
		if limit := b.style.MaxH; !given && limit.Kind == css.LenPx && (!limit.HasPercent() || b.sp.defCB) {
			if most := max(0, b.borderH(limit.Resolve(b.sp.cbH))-b.blockEdges()-y); most < row.most || !row.limited {
				row.most, row.limited = most, true
			}
		}
		spans, h := row.fit(b.style.ColumnFill && j == len(c.atoms))
		if n == 1 && len(spans) == 1 {
			h = row.end - row.start
		}
		for k, span := range spans {
			above, _ := row.trimmed(k, span.first, span.last)
			m.parts = append(
				m.parts,
				columnPart{
					from:  span.from,
					to:    span.to,
					dx:    max(Px(k)*gap, roundDiv(Px(k)*(across+gap), Px(n))),
					dy:    y - span.from - above,
					top:   y,
					limit: h,
				},
			)
		}
		y += h
		i = j
	}
	b.columns = nil
	if len(m.parts) > 0 {
		b.columns, b.contentH = m, y
	}
}

// roundDiv gives a quotient to the nearest 1/64 px.
func roundDiv(a, b Px) Px { return (a + b/2) / b }

// columnRow is a row of columns: what stands between the boxes that span all.
type columnRow struct {
	list       []columnAtom
	start, end Px // with margins
	n          int
	most       Px // the height that is given
	limited    bool
	trims      [2]Px // of the first and of the last line of each column
}

// columnTrims gives what a container of columns trims of the lines in it (css-inline-3, section 6.2).
func (e *Engine) columnTrims(b *Box) (out [2]Px) {
	t, m := b.trims(), e.metrics(b.style)
	if t.start {
		out[0] = m.above - m.over
	}
	if t.end {
		out[1] = m.below - m.under
	}
	return out
}

// trimmed gives what is trimmed of column k, which has the atoms first..last. The first line of all and the last one
// are trimmed already.
func (r *columnRow) trimmed(k, first, last int) (above, below Px) {
	if k > 0 && r.list[first].line {
		above = r.trims[0]
	}
	if last < len(r.list)-1 && r.list[last].line {
		below = r.trims[1]
	}
	return above, below
}

// fit breaks the row into columns, filled one after the other or balanced, and gives their height.
func (r *columnRow) fit(fill bool) ([]columnSpan, Px) {
	if fill {
		spans, _ := r.fill(r.most)
		return spans, r.most
	}
	h := (r.end - r.start + Px(r.n) - 1) / Px(r.n)
	for i := range r.list {
		if a := &r.list[i]; i+1 == len(r.list) || !r.list[i+1].joined { // what cannot be broken
			j := i
			for j > 0 && r.list[j].joined {
				j--
			}
			from := r.list[j].start
			if j == 0 {
				from = r.start
			}
			if !a.soft || j < i {
				above, below := r.trimmed(min(j, 1), j, i)
				h = max(h, a.end-from-above-below)
			}
		}
	}
	for range 2000 {
		if r.limited {
			h = min(h, r.most)
		}
		spans, shortage := r.fill(h)
		if len(spans) <= r.n || shortage == 0 || r.limited && h >= r.most {
			for i := range spans[:len(spans)-1] { // a forced break keeps the margin before it
				if !r.limited {
					above, below := r.trimmed(i, spans[i].first, spans[i].last)
					h = max(h, spans[i].to-spans[i].from-above-below)
				}
			}
			return spans, h
		}
		h += shortage
	}
	spans, _ := r.fill(h)
	return spans, h
}

// mostColumns bounds the columns of one row: each costs at every width.
const mostColumns = 1000

// fill breaks the row into columns h px high. shortage is how much higher a column must be at least to hold more.
func (r *columnRow) fill(h Px) (spans []columnSpan, shortage Px) {
	from, first, last := r.start, 0, 0 // where the column begins, its first atom, and the last that may begin another
	next := func(to, begin Px, i int) {
		spans = append(spans, columnSpan{from, to, first, max(first, i-1)})
		from, first = begin, i
	}
	for i := 0; i < len(r.list) && len(spans) < mostColumns; i++ {
		a := &r.list[i]
		if !a.joined {
			last = i
		}
		if a.forced && i > first {
			next(r.list[i-1].end+r.list[i-1].below, a.start-a.above, i)
			i--
			continue
		}
		above, below := r.trimmed(len(spans), first, i)
		if a.end-from-above-below <= h {
			continue
		}
		if short := a.end - from - above - below - h; shortage == 0 || short < shortage {
			shortage = short
		}
		if a.soft && a.start-from < h {
			cut := from + max(h, 64)
			next(cut, cut, i)
			i--
			continue
		}
		if last <= first {
			if r.limited && i > first && a.line { // where nothing else helps, lines count no orphans
				next(r.list[i-1].end, a.start, i)
				i--
			}
			continue // it cannot be broken: it goes beyond the column
		}
		next(r.list[last-1].end, r.list[last].start, last)
		i = last - 1
	}
	return append(spans, columnSpan{from, r.list[len(r.list)-1].end, first, len(r.list) - 1}), shortage
}

// columnBreaker lists the atoms of a flow.
type columnBreaker struct {
	e      *Engine
	atoms  []columnAtom
	lead   Px // where the next atom begins, with the borders of the boxes around it
	margin Px // above that
	has    bool
	force  bool
	glue   bool // the next atom is not broken from the last one
}

func (c *columnBreaker) add(top, bottom Px, joined bool) *columnAtom {
	a := columnAtom{start: top, end: bottom, joined: joined, forced: c.force, above: c.margin}
	if c.glue {
		a.joined = true
	}
	if len(c.atoms) == 0 {
		a.joined = false
	}
	if c.has {
		a.start = min(a.start, c.lead)
	}
	c.has, c.force, c.glue, c.margin = false, false, false, 0
	c.atoms = append(c.atoms, a)
	return &c.atoms[len(c.atoms)-1]
}

// begin notes that a box begins at y: its border goes with what comes first in it.
func (c *columnBreaker) begin(k *Box, y Px) {
	if !c.has {
		c.lead, c.has, c.margin = y, true, k.marginsAbove.sum()
	}
}

// children lists what is in a block whose content begins at y.
func (c *columnBreaker) children(b *Box, depth int, y Px, avoid bool) {
	if b.para != nil && allInline(b.kids) {
		top, n := y, len(b.para.bottoms)
		for i, bottom := range b.para.bottoms {
			joined := avoid
			// the lines before a break count more than those after it (measured)
			if o := b.style.Orphans; i > 0 && (i < o || n-i < b.style.Widows && i != o) {
				joined = true
			}
			c.add(top, y+bottom, joined).line = !avoid
			top = y + bottom
		}
		return
	}
	for _, k := range b.kids {
		if !k.off && !k.legend {
			c.box(k, depth, y+k.Y-b.contentY(), avoid)
		}
	}
}

// whole reports a box that is never broken.
func (k *Box) whole() bool {
	return k.kind != blockBox || k.sideways() != 0 || k.columns != nil ||
		k.style.OverflowY != "visible" && k.style.OverflowY != "clip" || k.sizeContained()
}

// box lists one box whose upper edge is at y.
func (c *columnBreaker) box(k *Box, depth int, y Px, avoid bool) {
	s := k.style
	if s.ColumnSpan && depth == 0 {
		c.has = false
		a := c.add(y, y+k.H, false)
		a.span, a.above, a.below = true, k.marginsAbove.sum(), k.marginsBelow.sum()
		return
	}
	c.force = c.force || s.BreakBefore == "column" && len(c.atoms) > 0
	c.glue = c.glue || s.BreakBefore == "avoid"
	before := len(c.atoms)
	c.begin(k, y)
	switch {
	case k.whole():
		c.add(y, y+k.H, avoid)
	default:
		glue := c.glue
		inner := avoid || s.BreakInside == "avoid"
		c.children(k, depth+1, y+k.contentY(), inner)
		end := y + k.H - k.padding[css.Bottom] - k.border[css.Bottom]
		if len(c.atoms) == before {
			if k.H > 0 || len(k.kids) == 0 {
				c.add(y, y+k.H, avoid).soft = !inner
			}
		} else {
			if last := c.atoms[len(c.atoms)-1].end; end > last { // higher than what is in it
				c.add(last, end, inner).soft = !inner
			}
			c.atoms[len(c.atoms)-1].end = max(c.atoms[len(c.atoms)-1].end, y+k.H)
			c.atoms[before].joined = (avoid || glue) && before > 0
		}
	}
	if len(c.atoms) > before {
		c.atoms[len(c.atoms)-1].below = k.marginsBelow.sum()
	}
	c.force = c.force || s.BreakAfter == "column"
	c.glue = c.glue || s.BreakAfter == "avoid"
}

// columnFrame is the flow of columns that a walk over the boxes is in.
type columnFrame struct {
	m    *columnMap
	x, y Px // where the content box of the container begins
	rtl  bool
}

// parts gives where a box lies whose upper edge is at flow in the tall column: a rectangle in each column. dx and dy
// are how far it moves when that is one.
func (c *columnFrame) parts(r Rect, flow Px) (out []Rect, dx, dy Px) {
	first, last := c.m.at(flow, false), max(c.m.at(flow, false), c.m.at(flow+r.H, true))
	for i := first; i <= last; i++ {
		p := &c.m.parts[i]
		top, bottom := p.top, p.top+p.limit
		if i == first {
			top = flow + p.dy
		}
		if i == last {
			bottom = flow + r.H + p.dy
		}
		out = append(out, Rect{r.X + c.along(p), c.y + top, r.W, max(0, bottom-top)})
	}
	return out, c.along(&c.m.parts[first]), c.m.parts[first].dy
}

// rules gives the middle of the gaps between columns with content, as rectangles without width.
func (c *columnFrame) rules(gap Px) (out []Rect) {
	for i := 1; i < len(c.m.parts); i++ {
		if p := &c.m.parts[i]; p.dx > 0 {
			x := c.x + p.dx - gap/2
			if c.rtl {
				x = c.x - p.dx + gap/2
			}
			out = append(out, Rect{x, c.y + p.top, 0, p.limit})
		}
	}
	return out
}

// shift gives how far a line is moved whose upper edge is at flow.
func (c *columnFrame) shift(flow Px) (dx, dy Px) {
	p := &c.m.parts[c.m.at(flow, false)]
	return c.along(p), p.dy
}

// along gives how far to the right a part stands from the first column.
func (c *columnFrame) along(p *columnPart) Px {
	if c.rtl {
		return -p.dx
	}
	return p.dx
}

// columnsIn begins the flow of the columns of a box whose border box begins at x, y.
func columnsIn(b *Box, x, y Px) *columnFrame {
	c := &columnFrame{m: b.columns, x: x + b.leftContent(), y: y + b.contentY(), rtl: b.rtl()}
	if c.rtl {
		c.x += b.W - b.inlineEdges()
	}
	return c
}
