package layout

import (
	"math"
	"sort"

	"ziegel/core/css"
)

func (g *gridState) colItems() []span {
	out := g.colSpans[:0]
	for _, it := range g.items {
		least := it.lo
		k := it.b
		if k.sub[colAxis] != nil {
			inner := g.e.newGrid(k, g.e.children(k, 0), space{}, 0, false)
			for _, c := range inner.items {
				c.lo, c.hi = inner.widths(c, 0)
			}
			out = append(out, g.lend(it, colAxis, inner.colItems())...)
			continue
		}
		o := k.style.OverflowX
		noMinimum := k.style.MinW.Kind == css.LenPx || o != "visible" && o != "clip" ||
			it.colEnd > it.col+1 && crossesFlexible(&g.cols, it.col, it.colEnd)
		if noMinimum {
			least = k.margin[css.Left] + k.margin[css.Right] + k.inlineEdges()
			if lo, ok := g.e.limitW(k, k.style.MinW, 0); ok {
				least = max(least, lo+k.margin[css.Left]+k.margin[css.Right])
			}
			if w := k.style.Width; w.Kind == css.LenPx && !w.HasPercent() {
				least = it.lo
			}
		}
		out = append(out, span{it.col, it.colEnd, it.lo, it.hi, least})
	}
	g.colSpans = out
	return out
}

func (g *gridState) rowItems() []span {
	var base map[int][2]Px // rows with baseline-aligned items need room above and below the common baseline
	for _, it := range g.items {
		if it.alignV == "baseline" && it.rowEnd == it.row+1 {
			up := it.b.baseline() + it.b.margin[css.Top]
			if v, ok := base[it.row]; ok {
				base[it.row] = [2]Px{max(v[0], up), max(v[1], it.height-up)}
				continue
			}
			if base == nil {
				base = map[int][2]Px{}
			}
			base[it.row] = [2]Px{up, it.height - up}
		}
	}
	out := g.rowSpans[:0]
	for _, it := range g.items {
		if it.b.sub[rowAxis] != nil && it.b.grid != nil {
			out = append(out, g.lend(it, rowAxis, it.b.grid.rowItems())...)
			continue
		}
		h := it.height
		if v, ok := base[it.row]; ok && it.alignV == "baseline" {
			h = v[0] + v[1]
		}
		least := h
		o := it.b.style.OverflowY
		gives := o != "visible" && o != "clip" || it.rowEnd > it.row+1 && crossesFlexible(&g.rows, it.row, it.rowEnd)
		open := it.b.style.Height.Kind != css.LenPx && it.b.style.MinH.Kind != css.LenPx && it.b.kind != replacedBox
		if gives && open {
			least = it.b.blockEdges() + it.b.margin[css.Top] + it.b.margin[css.Bottom]
		} else if m := it.b.style.MinH; m.Kind == css.LenPx && it.b.style.Height.Kind == css.LenAuto &&
			it.b.kind != replacedBox { // instead of the automatic minimum
			least = max(it.b.blockEdges(), it.b.borderH(m.Resolve(0))) + it.b.margin[css.Top] + it.b.margin[css.Bottom]
		}
		out = append(out, span{it.row, it.rowEnd, h, h, least})
	}
	g.rowSpans = out
	return out
}

// initTracks sets base sizes and growth limits; a percentage of an unknown size is auto.
func initTracks(a *axisTracks, avail Px, def bool) {
	for i := range a.tracks {
		t := &a.tracks[i]
		t.base, t.limit, t.infinite = 0, 0, true
		if t.collapsed {
			t.infinite = false
			continue
		}
		if fixedTrack(t.Min, def) {
			t.base = max(0, t.Min.Resolve(avail))
		}
		if fixedTrack(t.Max, def) {
			t.limit, t.infinite = max(t.base, t.Max.Resolve(avail)), false
		}
	}
}

// crossesFlexible reports whether a span holds a flexible track. The automatic minimum size of what spans it and
// others is 0 (CSS Grid 2, section 6.6).
func crossesFlexible(a *axisTracks, from, to int) bool {
	for i := from; i < to; i++ {
		if flexible(&a.tracks[i]) {
			return true
		}
	}
	return false
}

// size runs the track sizing algorithm of CSS Grid for one axis.
func (g *gridState) size(a *axisTracks, in axisRoom, items []span, content css.Align) {
	avail, def, minimum := in.avail, in.def, in.least
	initTracks(a, avail, def)
	g.intrinsicTracks(a, items, 'x', avail, def)
	gaps := g.gaps(a)
	room := avail
	if !def {
		room = max(minimum, g.total(a))
	}
	// maximize
	if def {
		g.maximize(a, avail-gaps)
	} else {
		for i := range a.tracks {
			if t := &a.tracks[i]; !t.infinite && !flexible(t) {
				t.base = max(t.base, t.limit)
			}
		}
		room = max(minimum, g.total(a))
	}
	g.expandFr(a, avail, def, minimum, items)
	if content == "" || content == "stretch" {
		if def {
			room = avail
		}
		g.stretchAuto(a, room, def)
	}
}

func (g *gridState) total(a *axisTracks) Px {
	sum := g.gaps(a)
	for i := range a.tracks {
		sum += a.tracks[i].base
	}
	return sum
}

// sizeIntrinsic sizes columns for the container's own contributions; maxContent chooses which.
func (g *gridState) sizeIntrinsic(a *axisTracks, items []span, maxContent bool) {
	initTracks(a, 0, false)
	mode := byte('m')
	if maxContent {
		mode = 'M'
	}
	g.intrinsicTracks(a, items, mode, 0, false)
	if maxContent {
		for i := range a.tracks {
			t := &a.tracks[i]
			if !t.infinite {
				t.base = max(t.base, t.limit)
			}
		}
		fr := 0.0
		for i := range a.tracks {
			if t := &a.tracks[i]; flexible(t) {
				fr = max(fr, t.base.Float()/max(1, t.Max.Px))
			}
		}
		for _, it := range items {
			sum, other := 0.0, Px(0)
			for i := it.from; i < it.to; i++ {
				if t := &a.tracks[i]; flexible(t) {
					sum += t.Max.Px
				} else {
					other += t.base
				}
			}
			if sum > 0 {
				fr = max(fr, (it.hi-other-a.gap*Px(it.to-it.from-1)).Float()/max(1, sum))
			}
		}
		for i := range a.tracks {
			if t := &a.tracks[i]; flexible(t) {
				t.base = max(t.base, css.FromFloat(fr*t.Max.Px))
			}
		}
	}
}

// intrinsicTracks resolves intrinsic track sizes from the items, shorter spans first. mode is 'm' or 'M' under a min-
// or max-content constraint, else 'x'.
func (g *gridState) intrinsicTracks(a *axisTracks, items []span, mode byte, avail Px, def bool) {
	intrinsicMin := func(t *gridTrack) bool { return !t.collapsed && !fixedTrack(t.Min, def) }
	for _, it := range items {
		if it.to != it.from+1 {
			continue
		}
		t := &a.tracks[it.from]
		if intrinsicMin(t) && !flexible(t) {
			t.base = max(t.base, g.minFor(t, it, mode))
		}
		switch t.Max.Kind {
		case css.LenMinContent:
			t.grow(it.lo)
		case css.LenMaxContent, css.LenAuto:
			t.grow(it.hi)
		case css.LenFitContent:
			l := t.Max
			l.Kind = css.LenPx
			t.grow(max(it.lo, min(it.hi, l.Resolve(avail))))
		case css.LenPx:
			if !fixedTrack(t.Max, def) {
				t.grow(it.hi)
			}
		}
		if !t.infinite {
			t.limit = max(t.limit, t.base)
		}
	}
	spans := g.e.scratch.wide[:0]
	for _, it := range items {
		if it.to > it.from+1 {
			spans = append(spans, it)
		}
	}
	g.e.scratch.wide = spans
	if len(spans) > 1 {
		sort.SliceStable(spans, func(i, j int) bool { return spans[i].to-spans[i].from < spans[j].to-spans[j].from })
	}
	crosses := func(it span) bool { return crossesFlexible(a, it.from, it.to) }
	for i := 0; i < len(spans); {
		var group []span
		n := spans[i].to - spans[i].from
		for ; i < len(spans) && spans[i].to-spans[i].from == n; i++ {
			if !crosses(spans[i]) {
				group = append(group, spans[i])
			}
		}
		g.spread(a, group, mode, def)
	}
	flexes := g.e.scratch.flexes[:0] // items that cross flexible tracks come last, all together
	for _, it := range items {
		if crosses(it) {
			flexes = append(flexes, it)
		}
	}
	g.e.scratch.flexes = flexes
	g.spreadFlexible(a, flexes, mode, def)
	for i := range a.tracks {
		t := &a.tracks[i]
		if t.infinite && !flexible(t) {
			t.limit, t.infinite = t.base, false
		}
		t.limit = max(t.limit, t.base)
	}
}

func (t *gridTrack) grow(to Px) {
	if t.infinite {
		t.limit, t.infinite = to, false
	}
	t.limit = max(t.limit, to)
}

// maximize grows tracks to their limits with what is free.
func (g *gridState) maximize(a *axisTracks, room Px) {
	free := room
	for i := range a.tracks {
		free -= a.tracks[i].base
	}
	for free > 0 {
		var open []*gridTrack
		for i := range a.tracks {
			if t := &a.tracks[i]; !flexible(t) && !t.collapsed && t.base < t.limit {
				open = append(open, t)
			}
		}
		if len(open) == 0 {
			return
		}
		spent := Px(0)
		for i, t := range open {
			part := min((free-spent)/Px(len(open)-i), t.limit-t.base)
			t.base += part
			spent += part
		}
		if spent == 0 {
			return
		}
		free -= spent
	}
}

// expandFr gives flexible tracks their share, in 32-bit floating point with a carry from track to track (measured).
func (g *gridState) expandFr(a *axisTracks, avail Px, def bool, minimum Px, items []span) {
	any := false
	for i := range a.tracks {
		any = any || flexible(&a.tracks[i])
	}
	if !any {
		return
	}
	var fr float64
	if def {
		fr = g.frSize(a, avail)
	} else {
		for i := range a.tracks {
			if t := &a.tracks[i]; flexible(t) {
				fr = max(fr, t.base.Float()/max(1, t.Max.Px))
			}
		}
		for _, it := range items {
			sum, other := 0.0, a.gap*Px(it.to-it.from-1)
			for i := it.from; i < it.to; i++ {
				if t := &a.tracks[i]; flexible(t) {
					sum += t.Max.Px
				} else {
					other += t.base
				}
			}
			if sum > 0 {
				fr = max(fr, (it.hi-other).Float()/max(1, sum))
			}
		}
		if minimum > 0 {
			fr = max(fr, g.frSize(a, minimum))
		}
	}
	carry := float32(0)
	for i := range a.tracks {
		t := &a.tracks[i]
		if !flexible(t) {
			continue
		}
		want := float32(fr)*float32(t.Max.Px) + carry
		size := Px(math.Floor(float64(want) * 64))
		carry = want - float32(size)/64
		if size > t.base {
			t.base = size
		} else {
			carry = 0
		}
	}
}

// frSize finds the size of one fr, leaving out tracks whose base is larger than their share.
func (g *gridState) frSize(a *axisTracks, avail Px) float64 {
	inflexible := make([]bool, len(a.tracks))
	for {
		left := float32((avail - g.gaps(a)).Float())
		sum := float32(0)
		for i := range a.tracks {
			t := &a.tracks[i]
			if flexible(t) && !inflexible[i] {
				sum += float32(t.Max.Px)
			} else {
				left -= float32(t.base.Float())
			}
		}
		fr := left / max(1, sum)
		again := false
		for i := range a.tracks {
			t := &a.tracks[i]
			if flexible(t) && !inflexible[i] && float32(t.base.Float()) > fr*float32(t.Max.Px) {
				inflexible[i], again = true, true
			}
		}
		if !again || sum == 0 {
			return max(0, float64(fr))
		}
	}
}

// stretchAuto lets auto tracks share what is left.
func (g *gridState) stretchAuto(a *axisTracks, room Px, def bool) {
	free := room - g.total(a)
	if free <= 0 {
		return
	}
	var open []*gridTrack
	for i := range a.tracks {
		if t := &a.tracks[i]; !t.collapsed && (t.Max.Kind == css.LenAuto ||
			t.Max.Kind == css.LenPx && !fixedTrack(t.Max, def)) {
			open = append(open, t)
		}
	}
	for i, t := range open {
		part := free / Px(len(open)-i)
		t.base += part
		free -= part
	}
}

// position sets where each track starts, after the content alignment of the axis.
func (g *gridState) position(a *axisTracks, avail Px, content css.Align) {
	free := avail - g.total(a)
	n := 0
	for i := range a.tracks {
		n += bit(!a.tracks[i].collapsed)
	}
	pos, gap := Px(0), a.gap
	switch content.At(free).Physical(g.b.rtl()) {
	case "center":
		pos = Px(math.Floor(float64(free) / 2))
	case "end", "flex-end":
		pos = free
	case "space-between":
		if free > 0 && n > 1 {
			gap += free / Px(n-1)
		}
	case "space-around":
		if free > 0 && n > 0 {
			pos = free / Px(n) / 2
			gap += free / Px(n)
		}
	case "space-evenly":
		if free > 0 {
			pos = free / Px(n+1)
			gap += free / Px(n+1)
		}
	}
	first := true
	for i := range a.tracks {
		t := &a.tracks[i]
		if t.collapsed {
			t.pos = pos
			continue
		}
		if !first {
			pos += gap
		}
		first = false
		t.pos = pos
		pos += t.base
	}
}
