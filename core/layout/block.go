package layout

import (
	"ziegel/core/css"
)

// layoutLegend places the legend of a fieldset in its upper border, which becomes as high as the legend (measured).
func (e *Engine) layoutLegend(b *Box, cw Px, kids []*Box) {
	b.edged, b.legendRoom = nil, 0
	for _, k := range kids {
		if k.el == nil || k.el.Tag != "legend" || k.outOfFlow() || k.style.Float != 0 {
			continue
		}
		e.layout(k, space{cbW: cw, shrink: true})
		k.legend, k.origin = true, b
		high := k.H + k.margin[css.Top] + k.margin[css.Bottom]
		k.X = b.contentX() + e.legendX(k, cw)
		k.Y = k.margin[css.Top] + max(0, (b.border[css.Top]-high)/2)
		b.legendRoom = max(0, high-b.border[css.Top])
		b.border[css.Top] += b.legendRoom
		return
	}
}

// legendX gives where a legend begins in the border: its own text-align says it, unless justify-self does (measured).
func (e *Engine) legendX(k *Box, cw Px) Px {
	free := cw - k.W - k.margin[css.Left] - k.margin[css.Right]
	if a := k.style.JustifySelf; a == "" && !k.autoMargin[css.Left] && !k.autoMargin[css.Right] {
		switch a := k.style.TextAlign; {
		case a == "center":
			return k.margin[css.Left] + max(0, free)/2
		case a == "right" && !k.rtl() || a == "left" && k.rtl():
			return k.margin[css.Left] + max(0, free)
		}
		return k.margin[css.Left]
	}
	return k.margin[css.Left] + alignIn(
		k.style.JustifySelf.Physical(k.rtl()),
		free,
		k.autoMargin[css.Left],
		k.autoMargin[css.Right],
	)
}

// layoutFlow stacks block-level children and collapses their margins.
func (e *Engine) layoutFlow(b *Box, inner, sp space, h Px, def bool) {
	f := &flowState{b: b, inner: inner, leading: true,
		atTop: !b.bfc && b.padding[css.Top] == 0 && b.border[css.Top] == 0}
	marker := b.marked() && !b.style.ListInside // waits for a line to stand beside
	e.handTrims(b)
	for _, k := range b.kids {
		switch {
		case k.outOfFlow():
			k.staticIn, k.staticX = b, b.contentX()
			k.staticY = b.contentY() + f.at(marginSet{})
		case k.legend:
		case k.sideways() != 0 && e.floats.floatSpace != nil:
			e.float(b, k, inner, f.at(marginSet{}))
		default:
			marker = e.stack(f, k, marker)
		}
	}
	if marker {
		_, h := e.markerAbove(b)
		if f.y < h {
			f.y, f.leading = h, false
		}
	}
	if f.leading && f.atTop {
		f.top = f.pending
		f.pending = marginSet{}
	}
	if f.cleared {
		f.y, f.pending = f.at(marginSet{}), marginSet{}
	}
	b.contentH = f.y
	if e.quirky(b) && b.el != e.doc.Body {
		f.pending.quirk = 0
	}
	e.settleBlock(b, sp, h, def, &flowMargins{top: f.top, end: f.pending, leading: f.leading && f.atTop})
}

// stack puts the next child below what is there. marker tells that one waits for a line, and whether it still does.
func (e *Engine) stack(f *flowState, k *Box, marker bool) bool {
	b, inner := f.b, f.inner
	if b.across > 0 && k.style.ColumnSpan {
		inner.cbW = b.across
	}
	if f.leading && e.quirky(b) {
		defer func() {
			if f.leading {
				f.pending.quirk = 0
			}
		}()
	}
	cleared, clears := Px(0), false
	if e.floats.floatSpace != nil {
		cleared, clears = e.layoutBeside(f, k)
	} else {
		e.layout(k, space{cbW: inner.cbW, cbH: inner.cbH, defCB: inner.defCB})
	}
	k.origin = b
	if f.leading && e.quirky(b) {
		k.marginsAbove.quirk = 0
	}
	if k.collapsesThrough && !clears {
		f.pending.join(k.marginsAbove)
		k.X, k.Y = b.contentX()+e.blockX(k, inner.cbW, b), b.contentY()+f.at(marginSet{})
		return marker
	}
	switch {
	case clears:
		if f.leading && f.atTop {
			f.top = f.pending
		}
		f.y = cleared
	case f.leading && f.atTop:
		f.pending.join(k.marginsAbove)
		f.top = f.pending
	default:
		f.y = f.at(k.marginsAbove)
	}
	f.leading = false
	if marker && k.baselines {
		marker = false
		f.y += e.settleMarker(b, k)
	}
	k.X, k.Y = b.contentX()+e.blockX(k, inner.cbW, b), b.contentY()+f.y
	if k.baselines {
		if !b.baselines {
			b.first, b.noLast = k.Y+k.first, k.noLast
		}
		if !k.noLast {
			b.last, b.noLast = k.Y+k.last, false
		}
		b.baselines = true
	}
	f.y += k.H
	f.pending, f.cleared = k.marginsBelow, false
	if k.collapsesThrough {
		f.pastCleared(e, k)
	}
	return marker
}

// flowMargins are the margins left over at the edges of a block's content.
type flowMargins struct {
	top, end marginSet
	leading  bool // there was nothing but margins
}

// settleBlock sets the height of a block container and hands its outer margins on.
func (e *Engine) settleBlock(b *Box, sp space, h Px, def bool, m *flowMargins) {
	b.marginsAbove.addOf(e, b, css.Top)
	autoH := !sp.hasH && (b.style.Height.Kind != css.LenPx || b.style.Height.HasPercent() && !sp.defCB) &&
		b.style.AspectRatio == 0
	if m == nil {
		m = &flowMargins{}
	} else {
		b.marginsAbove.join(m.top)
	}
	closed := b.bfc || b.padding[css.Bottom] != 0 || b.border[css.Bottom] != 0 || !autoH
	keepsMargin := closed && (b.bfc || b.padding[css.Bottom] != 0 || b.border[css.Bottom] != 0) && !m.leading
	if keepsMargin {
		b.contentH += m.end.sum()
	}
	if s := e.floats.floatSpace; s != nil && b.bfc {
		b.contentH = max(b.contentH, s.bottom)
	}
	if b.breakInto != nil {
		b.breakInto()
	}
	natural := b.contentH + b.blockEdges()
	b.endMargin = 0
	if e.doc.Quirks && !closed && !m.leading {
		b.endMargin = m.end.sum()
	}
	b.H = e.finalHeight(b, sp)
	if b.style.LineClamp > 0 && b.display == css.ClampBox && b.para != nil && autoH {
		b.H = e.clampH(b, b.clampHeight()+b.blockEdges(), sp)
	}
	stretched := !closed && !m.leading && b.H != natural && !(b.endMargin != 0 && b.el == e.doc.Body)
	if stretched {
		closed = true // a binding min- or max-height keeps the last margin inside
		m.end = marginSet{}
	}
	var bottom marginSet
	bottom.addOf(e, b, css.Bottom)
	if !closed && !m.leading {
		bottom.join(m.end)
	}
	b.marginsBelow = bottom
	empty := m.leading || b.para != nil && len(b.kids) > 0 || len(b.kids) == 0
	if !b.bfc && b.H == 0 && empty && !b.hasLines() {
		b.collapsesThrough = true
		b.marginsAbove.join(bottom)
		b.marginsBelow = b.marginsAbove
	}
	free := b.H - b.blockEdges() - b.contentH
	switch {
	case b.el != nil && b.el.Tag == "button" && free > 0:
		e.shiftContent(b, free/2)
	case b.style.AlignContent != "" && free != 0 && b.el != nil:
		if by := blockAlign(b.style, free); by != 0 {
			e.shiftContent(b, by)
		}
	}
}

// scrolls reports a style whose content can be scrolled in its height.
func scrolls(s *css.Style) bool { return s.OverflowY != "visible" && s.OverflowY != "clip" }

// blockAlign gives how far align-content moves the content of a block container, in so much free room. What scrolls is
// not moved to where nobody can scroll (measured).
func blockAlign(s *css.Style, free Px) Px {
	a := s.AlignContent
	switch a {
	case "space-around", "space-evenly":
		a = "safe center"
	case "last baseline":
		a = "safe end"
	}
	if free < 0 && scrolls(s) && !a.Unsafe() {
		return 0
	}
	by, _ := distribute(a, free, 1)
	return by
}

// shiftContent moves all in-flow content down, as buttons centre theirs.
func (e *Engine) shiftContent(b *Box, by Px) {
	var walk func(k *Box)
	walk = func(k *Box) {
		if k.origin == b {
			k.Y += by
			for i := range k.fragments {
				k.fragments[i].Y += by
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
