package layout

import (
	"ziegel/core/css"
)

// layout places the content of a box in a space and sets its size. Its position is its parent's business.
func (e *Engine) layout(b *Box, sp space) {
	if b.valid && e.reusable(b, sp) {
		return
	}
	b.valid, b.sp, b.hasNatural = true, sp, false
	percents := e.percents
	defer func() {
		b.needsHeight = e.percents != percents
		// what is scrolled out has no baseline
		if o := b.style.OverflowY; b.baselines && o != "visible" && o != "clip" {
			b.first, b.last = min(b.first, b.H), min(b.last, b.H)
		}
		if !sp.hasH {
			b.natural, b.naturalH, b.hasNatural = sp, b.H, true
		}
	}()
	b.edges(sp.cbW)
	b.baselines, b.through = false, false
	b.top, b.bot = strut{}, strut{}
	b.relBaseW, b.relBaseH = sp.cbW, -1
	if sp.defCB {
		b.relBaseH = sp.cbH
	}
	if b.kind == replacedBox {
		e.layoutReplaced(b, sp)
		b.top.add(b.mar[css.Top])
		b.bot.add(b.mar[css.Bottom])
		return
	}
	b.W = e.usedWidth(b, sp)
	cw := max(0, b.W-b.hpb())
	ch := Px(0)
	if b.style.ContainerType == "size" {
		high, _ := e.givenHeight(b, sp)
		if !sp.hasH && high == 0 {
			high = e.clampH(b, max(0, b.style.ContainH.Resolve(0))+b.vpb(), sp)
		}
		ch = max(0, high-b.vpb())
	}
	kids := e.childrenIn(b, cw, ch)
	if b.el != nil && b.el.Tag == "fieldset" {
		e.layoutLegend(b, cw, kids)
	}
	if b.style.Position == css.Relative && (b.style.Inset[css.Top].HasPercent() || b.style.Inset[css.Bottom].HasPercent()) {
		e.percents++
	}
	h, def := e.givenHeight(b, sp)
	inner := space{cbW: cw, cbH: max(0, h-b.vpb()), defCB: def}
	// percentages look at the ratio's height, though the box may grow (measured)
	if !def && !sp.hasH && b.kind == blockBox && b.style.AspectRatio > 0 && b.style.Height.IsAuto() {
		inner.cbH, inner.defCB = max(0, e.clampH(b, e.ratioHeight(b, b.W), sp)-b.vpb()), true
	}
	if _, anonymous := b.key.(anonKey); anonymous && !b.item { // percentages look through it (CSS 2, section 9.2.1.1)
		inner.cbH, inner.defCB = sp.cbH, sp.defCB
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

// layoutLegend places the legend of a fieldset in its upper border, which becomes as high as the legend (measured).
func (e *Engine) layoutLegend(b *Box, cw Px, kids []*Box) {
	b.edged = nil
	for _, k := range kids {
		if k.el == nil || k.el.Tag != "legend" || k.outOfFlow() {
			continue
		}
		e.layout(k, space{cbW: cw, shrink: true})
		k.legend, k.origin = true, b
		high := k.H + k.mar[css.Top] + k.mar[css.Bottom]
		k.X = b.contentX() + e.blockX(k, cw, b)
		k.Y = k.mar[css.Top] + max(0, (b.bor[css.Top]-high)/2)
		b.bor[css.Top] = max(b.bor[css.Top], high)
		return
	}
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
	if b.needsHeight || b.style.FluidEdges || b.kind == replacedBox || old.cbW != sp.cbW && !(old.hasW && sp.hasW) || old.hasW != sp.hasW || old.forceW != sp.forceW || old.shrink != sp.shrink && !sp.hasW {
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
	if want != b.H && (b.kind != blockBox || b.style.AlignContent != "" || b.el != nil && b.el.Tag == "button" || b.style.LineClamp > 0) {
		return false
	}
	b.H, b.sp = want, sp
	b.relBaseW, b.relBaseH = sp.cbW, -1
	if sp.defCB {
		b.relBaseH = sp.cbH
	}
	return true
}

// heightPercent reports a box whose own height looks at its containing block's.
func (b *Box) heightPercent() bool {
	s := b.style
	return s.Height.HasPercent() || s.MinH.HasPercent() || s.MaxH.HasPercent()
}

func allInline(kids []*Box) bool {
	for _, k := range kids {
		if !k.inlineLevel() && !k.outOfFlow() {
			return false
		}
	}
	for _, k := range kids {
		if !k.outOfFlow() {
			return true
		}
	}
	return false
}

// usedWidth gives the border-box width.
func (e *Engine) usedWidth(b *Box, sp space) Px {
	if sp.hasW {
		return sp.forceW
	}
	s := b.style
	avail := sp.cbW - b.mar[css.Left] - b.mar[css.Right]
	shrink := sp.shrink || b.el != nil && b.el.Tag == "button" && !b.inlineLevel() || b.parent != nil && b.selfAligned(b.parent) != ""
	var w Px
	switch s.Width.Kind {
	case css.LenPx:
		w = b.borderW(s.Width.Resolve(sp.cbW))
	case css.LenMinContent:
		w, _ = e.intrinsic(b)
	case css.LenMaxContent:
		_, w = e.intrinsic(b)
	case css.LenFitContent:
		lo, hi := e.intrinsic(b)
		limit := avail
		if s.Width.Arg {
			l := s.Width
			l.Kind = css.LenPx
			limit = b.borderW(l.Resolve(sp.cbW))
		}
		w = min(max(lo, limit), hi)
	default:
		if s.AspectRatio > 0 {
			if h, ok := e.plainHeight(b, sp); ok {
				w = e.ratioWidth(b, h)
				break
			}
		}
		if shrink {
			lo, hi := e.intrinsic(b)
			w = min(max(lo, avail), hi)
		} else {
			w = max(avail, b.hpb())
		}
		w = e.transferred(b, w, sp)
	}
	return e.clampW(b, w, sp.cbW, true)
}

// transferred limits an automatic width by the min- and max-height of a box with an aspect-ratio.
func (e *Engine) transferred(b *Box, w Px, sp space) Px {
	s := b.style
	if s.AspectRatio == 0 {
		return w
	}
	if m := s.MaxH; m.Kind == css.LenPx && (!m.HasPercent() || sp.defCB) {
		w = min(w, e.ratioWidth(b, b.borderH(m.Resolve(sp.cbH))))
	}
	if m := s.MinH; m.Kind == css.LenPx && (!m.HasPercent() || sp.defCB) {
		w = max(w, e.ratioWidth(b, b.borderH(m.Resolve(sp.cbH))))
	}
	return w
}

// borderW turns a specified width into a border-box width.
func (b *Box) borderW(v Px) Px {
	if b.style.BorderBox {
		return max(v, b.hpb())
	}
	return max(0, v) + b.hpb()
}

func (b *Box) borderH(v Px) Px {
	if b.style.BorderBox {
		return max(v, b.vpb())
	}
	return max(0, v) + b.vpb()
}

// limit resolves a min- or max- size to a border-box length; ok is false for none and auto.
func (e *Engine) limitW(b *Box, l css.Len, base Px) (Px, bool) {
	switch l.Kind {
	case css.LenPx:
		return b.borderW(l.Resolve(base)), true
	case css.LenMinContent:
		lo, _ := e.intrinsic(b)
		return lo, true
	case css.LenMaxContent:
		_, hi := e.intrinsic(b)
		return hi, true
	case css.LenFitContent:
		lo, hi := e.intrinsic(b)
		return min(max(lo, base), hi), true
	}
	return 0, false
}

// clampW applies min-width and max-width. Percentages need a base.
func (e *Engine) clampW(b *Box, w, base Px, definite bool) Px {
	if hi, ok := e.limitW(b, b.style.MaxW, base); ok && (definite || !b.style.MaxW.HasPercent()) {
		w = min(w, hi)
	}
	if lo, ok := e.limitW(b, b.style.MinW, base); ok && (definite || !b.style.MinW.HasPercent()) {
		w = max(w, lo)
	}
	return max(w, b.hpb())
}

func (e *Engine) clampH(b *Box, h Px, sp space) Px {
	if b.style.MaxH.HasPercent() || b.style.MinH.HasPercent() {
		e.percents++
	}
	if m := b.style.MaxH; m.Kind == css.LenPx && (!m.HasPercent() || sp.defCB) {
		h = min(h, b.borderH(m.Resolve(sp.cbH)))
	}
	if m := b.style.MinH; m.Kind == css.LenPx && (!m.HasPercent() || sp.defCB) {
		h = max(h, b.borderH(m.Resolve(sp.cbH)))
	}
	return max(h, b.vpb())
}

// plainHeight gives the border-box height that a height property sets by itself.
func (e *Engine) plainHeight(b *Box, sp space) (Px, bool) {
	if sp.hasH {
		return sp.forceH, true
	}
	l := b.style.Height
	if l.HasPercent() {
		e.percents++
	}
	if l.Kind != css.LenPx || l.HasPercent() && !sp.defCB {
		return 0, false
	}
	return e.clampH(b, b.borderH(l.Resolve(sp.cbH)), sp), true
}

// givenHeight gives the border-box height when it is known before the content, and whether percentages inside may use
// it.
func (e *Engine) givenHeight(b *Box, sp space) (Px, bool) {
	if sp.hasH {
		return sp.forceH, sp.defH
	}
	if h, ok := e.plainHeight(b, sp); ok {
		return h, true
	}
	if b.style.AspectRatio > 0 && b.style.Height.IsAuto() && !e.growsByContent(b) {
		return e.clampH(b, e.ratioHeight(b, b.W), sp), true
	}
	return 0, false
}

// growsByContent reports the automatic minimum height of boxes with an aspect-ratio.
func (e *Engine) growsByContent(b *Box) bool {
	o := b.style.OverflowY
	return b.style.MinH.IsAuto() && (o == "visible" || o == "clip")
}

func (e *Engine) ratioHeight(b *Box, w Px) Px {
	if b.style.BorderBox {
		return css.FromFloat(w.Float() / b.style.AspectRatio)
	}
	return css.FromFloat((w-b.hpb()).Float()/b.style.AspectRatio) + b.vpb()
}

func (e *Engine) ratioWidth(b *Box, h Px) Px {
	if b.style.BorderBox {
		return css.FromFloat(h.Float() * b.style.AspectRatio)
	}
	return css.FromFloat((h-b.vpb()).Float()*b.style.AspectRatio) + b.hpb()
}

// finalHeight gives the border-box height of a box whose content is contentH high.
func (e *Engine) finalHeight(b *Box, sp space) Px {
	if sp.hasH {
		return sp.forceH
	}
	if h, ok := e.plainHeight(b, sp); ok {
		return h
	}
	if b.sizeContained() {
		b.contentH = max(0, b.style.ContainH.Resolve(0))
	}
	h := b.contentH + b.vpb()
	if b.style.AspectRatio > 0 && (b.style.Height.IsAuto() || b.style.Height.HasPercent()) {
		r := e.ratioHeight(b, b.W)
		if e.growsByContent(b) && b.style.Height.IsAuto() { // a percentage of nothing does not grow (measured)
			h = max(h, r)
		} else {
			h = r
		}
	}
	return e.clampH(b, h, sp)
}

// layoutFlow stacks block-level children and collapses their margins.
func (e *Engine) layoutFlow(b *Box, inner, sp space, h Px, def bool) {
	y := Px(0)
	var pending strut
	atTop := !b.bfc && b.pad[css.Top] == 0 && b.bor[css.Top] == 0
	leading := true // nothing but margins so far
	var top strut
	marker := b.marked() && !b.style.ListInside // waits for a line to stand beside
	for _, k := range b.kids {
		if k.outOfFlow() {
			k.staticIn, k.staticX = b, b.contentX()
			k.staticY = b.contentY() + y
			if !(leading && atTop) {
				k.staticY += pending.sum()
			}
			continue
		}
		if k.legend {
			continue
		}
		e.layout(k, space{cbW: inner.cbW, cbH: inner.cbH, defCB: inner.defCB})
		pending.join(k.top)
		if k.through {
			k.X = b.contentX() + e.blockX(k, inner.cbW, b)
			k.Y = b.contentY() + y
			if !(leading && atTop) {
				k.Y += pending.sum()
			}
			k.origin = b
			continue
		}
		if leading && atTop {
			top = pending
		} else {
			y += pending.sum()
		}
		leading = false
		k.origin = b
		if marker && k.baselines {
			marker = false
			y += e.settleMarker(b, k)
		}
		k.X, k.Y = b.contentX()+e.blockX(k, inner.cbW, b), b.contentY()+y
		if k.baselines {
			if !b.baselines {
				b.first = k.Y + k.first
			}
			b.last, b.baselines = k.Y+k.last, true
		}
		y += k.H
		pending = k.bot
	}
	if marker {
		_, h := e.markerAbove(b)
		if y < h {
			y, leading = h, false
		}
	}
	if leading && atTop {
		top = pending
		pending = strut{}
	}
	b.contentH = y
	e.settleBlock(b, sp, h, def, &flowMargins{top: top, end: pending, leading: leading && atTop})
}

// flowMargins are the margins left over at the edges of a block's content.
type flowMargins struct {
	top, end strut
	leading  bool // there was nothing but margins
}

// settleBlock sets the height of a block container and hands its outer margins on.
func (e *Engine) settleBlock(b *Box, sp space, h Px, def bool, m *flowMargins) {
	b.top.add(b.mar[css.Top])
	autoH := !sp.hasH && (b.style.Height.Kind != css.LenPx || b.style.Height.HasPercent() && !sp.defCB) && b.style.AspectRatio == 0
	if m == nil {
		m = &flowMargins{}
	} else {
		b.top.join(m.top)
	}
	closed := b.bfc || b.pad[css.Bottom] != 0 || b.bor[css.Bottom] != 0 || !autoH
	if closed && (b.bfc || b.pad[css.Bottom] != 0 || b.bor[css.Bottom] != 0) && !m.leading {
		b.contentH += m.end.sum()
	}
	natural := b.contentH + b.vpb()
	b.H = e.finalHeight(b, sp)
	if b.style.LineClamp > 0 && b.display == css.ClampBox && b.para != nil && autoH {
		b.H = e.clampH(b, b.clampHeight()+b.vpb(), sp)
	}
	if !closed && !m.leading && b.H != natural {
		closed = true // a binding min- or max-height keeps the last margin inside
		m.end = strut{}
	}
	var bottom strut
	bottom.add(b.mar[css.Bottom])
	if !closed && !m.leading {
		bottom.join(m.end)
	}
	b.bot = bottom
	empty := m.leading || b.para != nil && len(b.kids) > 0 || len(b.kids) == 0
	if !b.bfc && b.H == 0 && empty && !b.hasLines() {
		b.through = true
		b.top.join(bottom)
		b.bot = b.top
	}
	free := b.H - b.vpb() - b.contentH
	switch {
	case b.el != nil && b.el.Tag == "button" && free > 0:
		e.shiftContent(b, free/2)
	case b.style.AlignContent != "" && free != 0 && b.el != nil:
		if by, _ := distribute(blockAlign(b.style.AlignContent), free, 1); by > 0 || free < 0 && by != 0 {
			e.shiftContent(b, by)
		}
	}
}

// blockAlign gives what an align-content value does to the one line of a block container.
func blockAlign(a css.Align) css.Align {
	switch a {
	case "space-around", "space-evenly":
		return "center"
	case "last baseline":
		return "end"
	}
	return a
}

func (b *Box) hasLines() bool { return b.para != nil && len(b.para.lines) > 0 }

// shiftContent moves all in-flow content down, as buttons centre theirs.
func (e *Engine) shiftContent(b *Box, by Px) {
	var walk func(k *Box)
	walk = func(k *Box) {
		if k.origin == b {
			k.Y += by
			for i := range k.frags {
				k.frags[i].Y += by
			}
		}
		for i := range k.runs {
			k.runs[i].rect.Y += by
		}
		if k.kind == inlineBox {
			for _, c := range k.kids {
				walk(c)
			}
		}
	}
	for _, k := range b.kids {
		walk(k)
	}
	b.first += by
	b.last += by
}

// selfAligned gives the alignment of a block-level box in its container's inline axis, "" when it fills it (CSS Align
// 3, section 6.1; browsers follow it for blocks, too).
func (b *Box) selfAligned(parent *Box) css.Align {
	if b.item || b.inlineLevel() || b.outOfFlow() || parent.kind != blockBox || b.el == nil {
		return ""
	}
	a := b.style.JustifySelf
	if a == "" {
		a = parent.style.JustifyItems
	}
	if a == "stretch" || a == "baseline" || a == "last baseline" {
		return ""
	}
	return a
}

// blockX gives the left edge of an in-flow block in its containing block, auto margins resolved.
func (e *Engine) blockX(k *Box, cw Px, parent *Box) Px {
	free := cw - k.W - k.mar[css.Left] - k.mar[css.Right]
	switch {
	case k.autoMar[css.Left] && k.autoMar[css.Right]:
		return max(0, free/2)
	case k.autoMar[css.Left]:
		return max(0, free)
	}
	if a := k.selfAligned(parent); a != "" && free > 0 && !k.autoMar[css.Right] {
		return k.mar[css.Left] + alignIn(a, free, false, false)
	}
	if parent.style.TextAlign == "-webkit-center" && free > 0 && !k.autoMar[css.Right] {
		return k.mar[css.Left] + free/2
	}
	return k.mar[css.Left]
}
