package layout

import "ziegel/core/css"

// layout places the content of a box in a space and sets its size. Its position is its parent's business.
func (e *Engine) layout(b *Box, sp space) {
	if b.valid && e.reusable(b, sp) {
		return
	}
	b.valid, b.sp, b.hasNatural = true, sp, false
	percents := e.percents
	defer func() {
		b.needsHeight = e.percents != percents
		b.baselines = b.baselines && (!layoutContained(b.style) || b.kind == replacedBox && b.first == b.H)
		// what is scrolled out has no baseline
		if o := b.style.OverflowY; b.baselines && o != "visible" && o != "clip" {
			b.first, b.last = min(b.first, b.H), min(b.last, b.H)
		}
		if !sp.hasH {
			b.natural, b.naturalH, b.hasNatural = sp, b.H, true
		}
	}()
	b.edges(sp.cbW)
	b.baselines, b.noLast, b.collapsesThrough = false, false, false
	b.marginsAbove, b.marginsBelow = marginSet{}, marginSet{}
	b.relBaseW, b.relBaseH = sp.cbW, -1
	if sp.defCB {
		b.relBaseH = sp.cbH
	}
	if b.kind == replacedBox {
		e.layoutReplaced(b, sp)
		b.marginsAbove.addOf(e, b, css.Top)
		b.marginsBelow.addOf(e, b, css.Bottom)
		return
	}
	if b.cellShift != 0 { // lines that still fit stay where they are
		e.shiftContent(b, -b.cellShift)
		b.cellShift = 0
	}
	if b.kind == tableBox && b.style.Joined {
		e.table(b) // gives it its borders
	}
	if b.turning {
		e.layoutTurning(b, sp)
		return
	}
	b.W = e.usedWidth(b, sp)
	if b.kind == tableBox {
		b.edges(sp.cbW)
		h, def := e.givenHeight(b, sp)
		e.layoutTable(b, sp, h, def)
		return
	}
	cw := max(0, b.W-b.inlineEdges())
	ch := Px(0)
	if b.style.ContainerType == "size" {
		high, _ := e.givenHeight(b, sp)
		if !sp.hasH && high == 0 {
			high = e.clampH(b, max(0, b.style.ContainH.Resolve(0))+b.blockEdges(), sp)
		}
		ch = max(0, high-b.blockEdges())
	}
	kids := e.childrenIn(b, cw, ch)
	if b.el != nil && b.el.Tag == "fieldset" {
		e.layoutLegend(b, cw, kids)
	}
	if b.style.Position == css.Relative && (b.style.Inset[css.Top].HasPercent() ||
		b.style.Inset[css.Bottom].HasPercent()) {
		e.percents++
	}
	h, def := e.givenHeight(b, sp)
	inner := space{cbW: cw, cbH: max(0, h-b.blockEdges()), defCB: def}
	// percentages look through boxes without a height in old documents (Quirks Mode, section 3.4)
	plain := b.kind == blockBox && b.display == css.Block && !b.item && !b.off
	fills := e.doc.Quirks && plain && !def && !sp.hasH && b.style.Height.IsAuto()
	if fills {
		inner.cbH, inner.defCB = sp.cbH, sp.defCB
		if least := e.quirkHeight(b); least > 0 {
			inner.cbH, inner.defCB = max(0, least-b.blockEdges()), true
		}
	}
	// percentages look at the ratio's height, though the box may grow (measured)
	byRatio := !def && !sp.hasH && b.kind == blockBox && b.style.AspectRatio > 0 && b.style.Height.IsAuto()
	if byRatio {
		inner.cbH, inner.defCB = max(0, e.clampH(b, e.ratioHeight(b, b.W), sp)-b.blockEdges()), true
	}
	if _, anonymous := b.key.(anonKey); anonymous && !b.item &&
		b.display == css.Block { // percentages look through it (CSS 2, section 9.2.1.1)
		inner.cbH, inner.defCB = sp.cbH, sp.defCB
	}
	around := e.openFloats(b)
	defer func() { e.floats = around }()
	b.columns = nil
	if n, width, gap, ok := e.columnsOf(b, cw); ok {
		b.across, inner.cbW = cw, width
		defer func() { b.across = 0 }()
		b.breakInto = func() { e.settleColumns(b, columnSet{n, cw, gap, max(0, h-b.blockEdges()), def}) }
		defer func() { b.breakInto = nil }()
	}
	switch {
	case b.kind == flexBox:
		e.layoutFlex(b, inner, sp, h, def)
	case b.kind == gridBox:
		e.layoutGrid(b, inner, sp, h, def)
	case len(kids) > 0 && allInline(kids):
		e.layoutInline(b, inner)
		if b.marked() && !b.style.ListInside && len(b.para.lines) == 0 {
			_, b.contentH = e.markerAbove(b)
		}
		e.settleBlock(b, sp, h, def, nil)
	default:
		e.layoutFlow(b, inner, sp, h, def)
	}
}

// layoutContained reports a box that has no baseline, since what is in it counts for nothing outside
// (css-contain-2, section 3.3).
func layoutContained(s *css.Style) bool {
	return s.Contains("layout")
}

// asWide reports two spaces that give a box the same width.
func (sp space) asWide(as space) bool {
	if sp.hasW != as.hasW || sp.room != as.room || sp.hasRoom != as.hasRoom || sp.forceW != as.forceW {
		return false
	}
	return as.hasW || sp.cbW == as.cbW && sp.shrink == as.shrink
}

// reusable reports whether the last layout of b holds for another space, and brings its height up to date if that is
// all that changes: the content of a block does not move when its box grows, unless something in it asks for a
// percentage of the height.
func (e *Engine) reusable(b *Box, sp space) bool {
	if b.sp == sp {
		if b.style.FluidEdges {
			b.edges(sp.cbW)
		}
		return true
	}
	old := b.sp
	follows := b.turning || b.needsHeight || b.style.FluidEdges || b.kind == replacedBox
	if follows || !old.asWide(sp) {
		return false
	}
	natural := sp
	natural.cbH, natural.defCB = old.cbH, old.defCB
	if b.heightPercent() && (old.cbH != sp.cbH || old.defCB != sp.defCB) {
		return false
	}
	want := sp.forceH
	if !sp.hasH {
		want = b.H
		if old.hasH { // back to its own height
			if !b.hasNatural || b.natural != sp {
				return false
			}
			want = b.naturalH
		}
	}
	moves := b.kind != blockBox || b.columns != nil || b.style.AlignContent != "" || b.style.LineClamp > 0
	if want != b.H && (moves || b.el != nil && b.el.Tag == "button") {
		return false
	}
	b.H, b.sp = want, sp
	b.relBaseW, b.relBaseH = sp.cbW, -1
	if sp.defCB {
		b.relBaseH = sp.cbH
	}
	return true
}

// intrinsic gives the min- and max-content border-box widths that the content of a box asks for, its own width
// property ignored.
func (e *Engine) intrinsic(b *Box) (Px, Px) {
	if b.sized && !b.sizeContainer() {
		return b.minmax[0] + b.inlineEdges(), b.minmax[1] + b.inlineEdges() // the edges may be in percent
	}
	if b.edged != b.style || b.edgedAt != b.style.Version {
		b.edges(0)
	}
	var lo, hi Px
	switch {
	case b.kind == replacedBox:
		return e.intrinsicReplaced(b)
	case b.turning:
		lo = e.intrinsicTurning(b)
		hi = lo
	case b.widthContained():
		lo = max(0, b.style.ContainW.Resolve(0))
		hi = lo
	case b.kind == flexBox:
		lo, hi = e.intrinsicFlex(b)
	case b.kind == gridBox:
		lo, hi = e.intrinsicGrid(b)
	case b.kind == tableBox:
		lo, hi = e.intrinsicTable(b)
	default:
		kids := e.children(b, 0)
		if len(kids) > 0 && allInline(kids) {
			for _, k := range kids {
				e.measureAtoms(k)
			}
			p := e.paragraph(b)
			lo, hi = e.intrinsicAtoms(p, b.style)
		} else {
			lo, hi = e.intrinsicFlow(kids)
		}
	}
	if b.multicol() && !b.widthContained() {
		lo, hi = e.columnLimits(b, lo, hi)
	}
	b.minmax, b.sized = [2]Px{lo, hi}, true
	return lo + b.inlineEdges(), hi + b.inlineEdges()
}
