package layout

import (
	"math"
	"sort"

	"ziegel/core/css"
)

func (e *Engine) flexItems(b *Box, kids []*Box) []*Box {
	plain := true
	for _, k := range kids {
		plain = plain && !k.outOfFlow() && !k.legend && k.style.Order == 0
	}
	if plain {
		return kids
	}
	out := make([]*Box, 0, len(kids))
	for _, k := range kids {
		if !k.outOfFlow() && !k.legend {
			out = append(out, k)
		}
	}
	for _, k := range out {
		if k.style.Order != 0 {
			sort.SliceStable(out, func(i, j int) bool { return out[i].style.Order < out[j].style.Order })
			break
		}
	}
	return out
}

// layoutFlex follows CSS Flexbox "Flex Layout Algorithm".
func (e *Engine) layoutFlex(b *Box, inner, sp space, h Px, def bool) {
	f := b.flex // its memory, from the last time
	if f == nil {
		f = &flexBoxState{}
		b.flex = f
	}
	*f = flexBoxState{e: e, b: b, inner: inner, store: f.store, items: f.items, lines: f.lines,
		lineStore: f.lineStore}
	s := b.style
	f.row = s.FlexDirection == "row" || s.FlexDirection == "row-reverse"
	f.rev = s.FlexDirection == "row-reverse" || s.FlexDirection == "column-reverse"
	wrap := s.FlexWrap != "nowrap"
	colGap, rowGap := gapOf(s.ColGap, inner.cbW, true), gapOf(s.RowGap, inner.cbH, inner.defCB)
	f.gap, f.lineGap = colGap, rowGap
	if f.row {
		f.main, f.mainDef = inner.cbW, true
		f.cross, f.crossDef = inner.cbH, def
	} else {
		f.gap, f.lineGap = rowGap, colGap
		f.main, f.mainDef = inner.cbH, def
		f.cross, f.crossDef = inner.cbW, true
	}
	kids := e.flexItems(b, b.kids)
	f.store, f.items = grown(&f.store, len(kids)), grown(&f.items, len(kids))
	clear(f.store)
	items := f.items
	for i, k := range kids {
		items[i] = &f.store[i]
		f.item(items[i], k)
	}
	limited := def && !sp.hasH && (asksContent(s.MinH) || asksContent(s.MaxH))
	if limited && !f.row && !wrap {
		b.contentH = f.sum(items, func(it *flexItem) Px { return it.hypo })
		f.main = max(0, b.byContent(h)-b.blockEdges())
	}
	lines := f.split(items, wrap)
	limit := f.mainLimit(sp)
	for _, ln := range lines {
		room := f.main
		switch {
		case f.mainDef:
		case sp.hasH: // a column that is as high as it was before it became wider (measured)
			room = sp.forceH - b.blockEdges()
		default:
			room = f.sum(ln.items, func(it *flexItem) Px { return it.hypo })
			room = f.clampMain(room, limit)
		}
		f.resolve(ln.items, room)
		for _, it := range ln.items {
			f.hypoCross(it)
		}
	}
	f.lineCross(lines, wrap, sp)
	used := Px(0)
	for i, ln := range lines {
		if i > 0 {
			used += f.lineGap
		}
		used += ln.cross
	}
	mainUsed := f.main
	if !f.mainDef {
		mainUsed = 0
		for _, ln := range lines {
			mainUsed = max(mainUsed, f.sum(ln.items, func(it *flexItem) Px { return it.target }))
		}
		mainUsed = f.clampMain(mainUsed, limit)
	}
	switch {
	case limited && f.row && !wrap: // items as high as the container count as such (measured)
		b.contentH = 0
		for _, it := range items {
			high := it.b.H + it.b.margin[css.Top] + it.b.margin[css.Bottom]
			if f.align(it) == "stretch" && f.autoCross(it.b) && !f.crossAutoMargin(it.b) {
				high = f.cross
			}
			b.contentH = max(b.contentH, high)
		}
	case f.row:
		b.contentH = used
	case !limited || wrap:
		b.contentH = mainUsed
	}
	b.marginsAbove.addOf(e, b, css.Top)
	b.marginsBelow.addOf(e, b, css.Bottom)
	b.H = e.finalHeight(b, sp)
	crossAvail := inner.cbW
	if f.row {
		crossAvail = b.H - b.blockEdges()
	} else {
		mainUsed = b.H - b.blockEdges()
	}
	f.alignLines(lines, crossAvail, used, wrap)
	for _, ln := range lines {
		f.stretch(ln)
		f.justify(ln, mainUsed)
		f.alignItems(ln)
	}
	f.place(lines, mainUsed, crossAvail)
	f.statics()
}

func (f *flexBoxState) split(items []*flexItem, wrap bool) []*flexLine {
	if !wrap || !f.mainDef {
		if len(items) == 0 {
			return nil
		}
		f.lineStore, f.lines = grown(&f.lineStore, 1), f.lines[:0]
		f.newLine(items)
		return f.lines
	}
	f.lineStore = grown(&f.lineStore, len(items))
	f.lines = f.lines[:0]
	start, used := 0, Px(0)
	for i, it := range items {
		size := it.hypo + it.mainMar
		if i > start && used+f.gap+size > f.main {
			f.newLine(items[start:i])
			start = i
		}
		if i == start {
			used = size
		} else {
			used += f.gap + size
		}
	}
	if len(items) > 0 {
		f.newLine(items[start:])
	}
	return f.lines
}

func (f *flexBoxState) newLine(items []*flexItem) {
	ln := &f.lineStore[len(f.lines)]
	*ln = flexLine{items: items}
	f.lines = append(f.lines, ln)
}

// resolve follows "Resolving Flexible Lengths"; leftovers are dealt from the last item to the first (measured).
func (f *flexBoxState) resolve(items []*flexItem, room Px) {
	grow := f.sum(items, func(it *flexItem) Px { return it.hypo }) < room
	factor := func(it *flexItem) float64 {
		if grow {
			return it.b.style.FlexGrow
		}
		if f.b.style.OldBox { // which knew no shrinking
			return 0
		}
		return it.b.style.FlexShrink
	}
	for _, it := range items {
		it.target, it.frozen = it.hypo, false
		frozen := factor(it) == 0 || grow && it.base > it.hypo || !grow && it.base < it.hypo
		if frozen {
			it.frozen = true
		}
	}
	size := func(it *flexItem) Px {
		if it.frozen {
			return it.target
		}
		return it.base
	}
	initial := room - f.sum(items, size)
	for {
		var open []*flexItem
		sum := 0.0
		for _, it := range items {
			if !it.frozen {
				open = append(open, it)
				sum += factor(it)
			}
		}
		if len(open) == 0 {
			return
		}
		free := room - f.sum(items, size)
		if sum < 1 {
			if part := Px(math.Round(float64(initial) * sum)); abs(part) < abs(free) {
				free = part
			}
		}
		weight := func(it *flexItem) float64 {
			if grow {
				return it.b.style.FlexGrow
			}
			return it.b.style.FlexShrink * float64(it.base-f.edgesOf(it.b))
		}
		total := 0.0
		for _, it := range open {
			total += weight(it)
		}
		left := free
		for i := len(open) - 1; i >= 0; i-- {
			it := open[i]
			it.target = it.base
			if total > 0 && left != 0 {
				w := weight(it)
				share := Px(roundAway(float64(left) * w / total))
				it.target += share
				left -= share
				total -= w
			}
		}
		var violation Px
		for _, it := range open {
			clamped := max(it.min, min(it.target, it.max))
			it.violation = clamped - it.target
			it.target = clamped
			violation += it.violation
		}
		for _, it := range open {
			violated := violation == 0 || violation > 0 && it.violation > 0 || violation < 0 && it.violation < 0
			if violated {
				it.frozen = true
			}
		}
	}
}

// hypoCross lays an item out at its main size to find its cross size.
func (f *flexBoxState) hypoCross(it *flexItem) {
	k := it.b
	sp := space{cbW: f.inner.cbW, cbH: f.inner.cbH, defCB: f.inner.defCB, shrink: true}
	if f.row {
		sp.forceW, sp.hasW = it.target, true
		f.e.layout(k, sp)
		it.cross = k.H
	} else {
		sp.forceH, sp.hasH, sp.defH = it.target, true, f.mainDef
		if w, ok := f.stretchedColumn(k); ok {
			sp.forceW, sp.hasW = w, true
		} else if s := k.style; s.AspectRatio > 0 && s.Width.IsAuto() &&
			k.kind != replacedBox { // the ratio follows the main size
			sp.forceW, sp.hasW = f.e.clampW(k, f.e.ratioWidth(k, it.target), f.inner.cbW, true), true
		}
		f.e.layout(k, sp)
		it.cross = k.W
	}
	it.baseline = it.cross
	if f.row && k.baselines {
		it.baseline = k.first
	}
	if f.row {
		it.baseline += k.margin[css.Top]
	} else {
		it.baseline = k.margin[css.Left]
	}
}

func (f *flexBoxState) lineCross(lines []*flexLine, wrap bool, sp space) {
	for _, ln := range lines {
		var up, lastUp Px
		down := Px(math.MinInt32 / 4) // below the common baseline; above it when items overflow
		for _, it := range ln.items {
			outer := it.cross + it.crossMar
			if f.align(it) == "baseline" && !f.crossAutoMargin(it.b) {
				up = max(up, it.baseline)
				down = max(down, outer-it.baseline)
				continue
			}
			if f.row && f.align(it) == "last baseline" && !f.crossAutoMargin(it.b) && it.b.baselines {
				below := outer - it.b.margin[css.Top] - it.b.last
				lastUp, ln.lastDown = max(lastUp, outer-below), max(ln.lastDown, below)
				continue
			}
			ln.cross = max(ln.cross, outer)
		}
		ln.base = up
		ln.cross = max(ln.cross, lastUp+ln.lastDown)
		ln.cross = max(ln.cross, up+down, 0)
	}
	if wrap || len(lines) != 1 {
		return
	}
	if f.crossDef {
		lines[0].cross = f.cross
		return
	}
	if f.row {
		h := f.e.clampH(f.b, lines[0].cross+f.b.blockEdges(), sp) - f.b.blockEdges()
		if f.b.style.AspectRatio > 0 {
			h = max(h, f.e.ratioHeight(f.b, f.b.W)-f.b.blockEdges())
		}
		lines[0].cross = h
	}
}

// flexContribution limits the contributions of a row item by the length that it starts from, when it may not shrink
// or grow (CSS Flexbox, section 9.9.1; measured: a basis of auto counts as the width property).
func (e *Engine) flexContribution(k *Box, lo, hi Px) (Px, Px) {
	s := k.style
	basis := s.FlexBasis
	if basis.Kind == css.LenAuto {
		basis = s.Width
	}
	if basis.Kind != css.LenPx || basis.HasPercent() {
		return lo, hi
	}
	base := e.clampW(k, k.borderW(basis.Resolve(0)), 0, false)
	least := lo
	if s.FlexGrow == 0 {
		hi = min(hi, base)
	}
	if s.FlexShrink == 0 {
		lo, hi = max(lo, base), max(hi, base)
	}
	return lo, max(hi, least)
}

// intrinsicFlex gives the content contributions of a flex container.
func (e *Engine) intrinsicFlex(b *Box) (Px, Px) {
	s := b.style
	row := s.FlexDirection == "row" || s.FlexDirection == "row-reverse"
	gap := gapOf(s.ColGap, 0, !s.ColGap.HasPercent())
	var lo, hi Px
	n := Px(0)
	for _, k := range e.children(b, 0) {
		if k.outOfFlow() || k.legend {
			continue
		}
		k.edges(0)
		m := k.margin[css.Left] + k.margin[css.Right]
		a, z := e.outerSizes(k)
		if row {
			a, z = e.flexContribution(k, a, z)
		}
		a, z = a+m, z+m
		switch {
		case !row:
			lo, hi = max(lo, a), max(hi, z)
		case s.FlexWrap == "nowrap":
			lo, hi = lo+a, hi+z
		default:
			lo, hi = max(lo, a), hi+z
		}
		n++
	}
	if row && n > 1 {
		hi += gap * (n - 1)
		if s.FlexWrap == "nowrap" {
			lo += gap * (n - 1)
		}
	}
	return lo, hi
}
