package layout

import "ziegel/core/css"

// alignLines places the lines in the cross axis after align-content.
func (f *flexBoxState) alignLines(lines []*flexLine, avail, used Px, wrap bool) {
	free := avail - used
	n := Px(len(lines))
	a := f.b.style.AlignContent.At(free)
	if n == 0 {
		return
	}
	if !wrap {
		if f.row {
			lines[0].cross = avail
		}
		lines[0].pos = 0
		return
	}
	if a == "" {
		a = "stretch"
	}
	// safe centering: to start
	if free < 0 && (a == "space-around" || a == "space-evenly") && f.b.style.FlexWrap == "wrap-reverse" {
		a = "flex-end"
	}
	pos, between := distribute(a, free, n)
	at := pos
	extra := 0.0
	if a == "stretch" && free > 0 {
		extra = float64(free) / float64(n)
	}
	for i, ln := range lines {
		if i > 0 {
			at += f.lineGap
		}
		ln.pos = at + Px(roundAway(float64(i)*between))
		if extra > 0 {
			ln.cross += Px(roundAway(float64(i+1)*extra)) - Px(roundAway(float64(i)*extra))
		}
		at += ln.cross
	}
}

// stretch gives stretched items their line's cross size.
func (f *flexBoxState) stretch(ln *flexLine) {
	for _, it := range ln.items {
		k := it.b
		if f.align(it) != "stretch" || !f.autoCross(k) || f.crossAutoMargin(k) {
			f.relayoutRow(it)
			continue
		}
		size := ln.cross - it.crossMar
		sp := k.sp
		if f.row {
			size = k.byContent(f.e.clampH(k, size, space{cbH: f.inner.cbH, defCB: f.inner.defCB}))
			if k.kind == replacedBox {
				it.cross = size
				sp.forceH, sp.hasH = size, true
				f.e.layout(k, sp)
				continue
			}
			sp.forceH, sp.hasH, sp.defH = size, true, true
		} else {
			size = f.e.clampW(k, size, f.inner.cbW, true)
			sp.forceW, sp.hasW = size, true
		}
		it.cross = size
		f.e.layout(k, sp)
	}
}

func (f *flexBoxState) relayoutRow(it *flexItem) {
	if f.row {
		it.cross = it.b.H
	} else {
		it.cross = it.b.W
	}
}

// justify places the items of a line in the main axis.
func (f *flexBoxState) justify(ln *flexLine, room Px) {
	free := room - f.sum(ln.items, func(it *flexItem) Px { return it.target })
	autos := 0
	for _, it := range ln.items {
		m := it.b.autoMargin
		if f.row {
			autos += bit(m[css.Left]) + bit(m[css.Right])
		} else {
			autos += bit(m[css.Top]) + bit(m[css.Bottom])
		}
	}
	start, end := css.Left, css.Right
	if !f.row {
		start, end = css.Top, css.Bottom
	}
	if f.rev {
		start, end = end, start
	}
	if autos > 0 && free > 0 {
		left, count := free, autos
		take := func() Px {
			share := Px(roundAway(float64(left) / float64(count)))
			left -= share
			count--
			return share
		}
		pos := Px(0)
		for i, it := range ln.items {
			if i > 0 {
				pos += f.gap
			}
			a, z := it.b.margin[start], it.b.margin[end]
			if it.b.autoMargin[start] {
				a = take()
			}
			if it.b.autoMargin[end] {
				z = take()
			}
			it.mainPos = pos + a
			pos += a + it.target + z
		}
		return
	}
	n := Px(len(ln.items))
	j := f.b.style.JustifyContent.At(free)
	if j == "left" || j == "right" {
		if j = j.Physical(f.b.rtl()); !f.row {
			j = "start"
		}
	}
	if f.rev && (j == "start" || j == "end") { // start and end do not follow the reversed direction
		j = map[css.Align]css.Align{"start": "flex-end", "end": "flex-start"}[j]
	}
	// they fall back to safe centering, that is to start
	if f.rev && free < 0 && (j == "space-around" || j == "space-evenly") {
		j = "flex-end"
	}
	pos, between := distribute(j, free, n)
	at := pos
	for i, it := range ln.items {
		if i > 0 {
			at += f.gap
		}
		at += it.b.margin[start]
		it.mainPos = at + Px(roundAway(float64(i)*between))
		at += it.target + it.b.margin[end]
	}
}

func (f *flexBoxState) alignItems(ln *flexLine) {
	start, end := css.Top, css.Bottom
	if !f.row {
		start, end = css.Left, css.Right
	}
	wrapRev := f.b.style.FlexWrap == "wrap-reverse"
	for _, it := range ln.items {
		k := it.b
		free := ln.cross - it.cross - it.crossMar
		switch {
		case k.autoMargin[start] && k.autoMargin[end]:
			it.crossPos = max(0, free) / 2
			continue
		case k.autoMargin[start]:
			it.crossPos = max(0, free)
			continue
		case k.autoMargin[end]:
			it.crossPos = k.margin[start]
			continue
		}
		align := f.align(it).At(free)
		switch align {
		case "center", "anchor-center":
			it.crossPos = floorHalf(free) + k.margin[start]
		case "end", "self-end", "right":
			it.crossPos = free + k.margin[start]
		case "flex-end":
			it.crossPos = free + k.margin[start]
			if wrapRev {
				it.crossPos = k.margin[start]
			}
		case "baseline":
			it.crossPos = ln.base // of a column: the edges of the boxes line up
			if f.row {
				it.crossPos = ln.base - it.baseline + k.margin[start]
			}
		case "last baseline":
			it.crossPos = free + k.margin[start]
			if f.row && k.baselines {
				it.crossPos = ln.cross - ln.lastDown - k.last
			}
		default:
			it.crossPos = k.margin[start]
			if wrapRev && align != "start" {
				it.crossPos = free + k.margin[start]
			}
		}
	}
}

func (f *flexBoxState) place(lines []*flexLine, main, cross Px) {
	b := f.b
	wrapRev := b.style.FlexWrap == "wrap-reverse"
	for _, ln := range lines {
		linePos := ln.pos
		if wrapRev {
			linePos = cross - ln.pos - ln.cross
		}
		for _, it := range ln.items {
			m := it.mainPos
			if f.rev {
				m = main - it.mainPos - it.target
			}
			k := it.b
			k.origin = b
			if f.row {
				k.X, k.Y = b.contentX()+m, b.contentY()+linePos+it.crossPos
			} else {
				k.X, k.Y = b.contentX()+linePos+it.crossPos, b.contentY()+m
			}
		}
	}
	f.baselines(lines)
}

// baselines takes the container's baselines from its first and last items on the screen: reversed directions count
// (measured).
func (f *flexBoxState) baselines(lines []*flexLine) {
	if len(lines) == 0 {
		return
	}
	b := f.b
	first, last := lines[0], lines[len(lines)-1]
	if b.style.FlexWrap == "wrap-reverse" {
		first, last = last, first
	}
	at, end := first.items[0].b, last.items[len(last.items)-1].b
	if f.rev {
		at, end = first.items[len(first.items)-1].b, last.items[0].b
	}
	if f.row {
		for _, it := range first.items {
			if f.align(it) == "baseline" && it.b.baselines {
				at = it.b
				break
			}
		}
	}
	b.first, b.last, b.baselines = at.Y+at.H, end.Y+end.H, true
	if at.baselines {
		b.first = at.Y + at.first
	}
	if end.baselines {
		b.last = end.Y + end.last
	}
}

// statics gives out-of-flow children their static position: as if the only item.
func (f *flexBoxState) statics() {
	b := f.b
	for _, k := range b.kids {
		if !k.outOfFlow() {
			continue
		}
		k.staticIn, k.staticX, k.staticY = b, b.contentX(), b.contentY()
		k.area = nil
	}
}
