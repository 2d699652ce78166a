package layout

import (
	"ziegel/core/css"
)

// Pictures that cannot be loaded. As a block one is laid out as a box with its alternative text in lines, beside a sign
// of 16 px (HTML, 15.4.2; measured).

// standsIn gives the box that is laid out in the place of a broken picture, empty where neither a sign nor a text is
// shown.
func (e *Engine) standsIn(b *Box) *Box {
	known := b.shownNow()
	if known.standIn == nil {
		known.standIn = e.makeStandIn(b)
	}
	return known.standIn
}

func (e *Engine) makeStandIn(b *Box) *Box {
	alt, named := b.el.LookupAttr("alt")
	st := e.styler.Anonymous(b.style, css.Block)
	block := madeBox(node{kind: blockBox, style: st, display: css.Block, bfc: true})
	if _, src := b.el.LookupAttr("src"); !src || named && alt == "" {
		return block
	}
	e.floating = true
	own := *e.styler.Anonymous(b.style, css.Block)
	own.Width, own.Height, own.Float = css.PxLen(b.style.Zoomed(16).Float()), css.PxLen(b.style.Zoomed(16).Float()), 1
	sign := madeBox(node{kind: blockBox, style: &own, display: css.Block, bfc: true, parent: block})
	if !named { // nothing but the sign
		block.kids = []*Box{sign}
		return block
	}
	block.kids = []*Box{sign, madeBox(node{kind: textBox, style: st, text: alt, parent: block, ownerless: true})}
	return block
}

// layoutBrokenBlock sizes a broken picture that is a block, an item or stands apart.
func (e *Engine) layoutBrokenBlock(b *Box, sp space) {
	inner := e.standsIn(b)
	s := b.style
	switch avail := sp.cbW - b.margin[css.Left] - b.margin[css.Right]; {
	case sp.hasW:
		b.W = sp.forceW
	case s.Width.Kind == css.LenPx:
		b.W = e.clampW(b, b.borderW(s.Width.Resolve(sp.cbW)), sp.cbW, true)
	case sp.shrink || b.item || b.off || b.sideways() != 0:
		lo, hi := e.intrinsic(inner)
		b.W = e.clampW(b, min(max(lo+b.inlineEdges(), avail), hi+b.inlineEdges()), sp.cbW, true)
	default:
		b.W = e.clampW(b, avail, sp.cbW, true)
	}
	around := e.floats
	e.layout(inner, space{cbW: max(0, b.W-b.inlineEdges())})
	e.floats = around
	h := inner.H + b.blockEdges()
	if l := s.Height; sp.hasH {
		b.H = sp.forceH
		return
	} else if l.Kind == css.LenPx && (!l.HasPercent() || sp.defCB) {
		h = b.borderH(l.Resolve(sp.cbH))
	} else if s.AspectRatio > 0 && l.IsAuto() { // that of its attributes, too
		h = max(h, e.ratioHeight(b, b.W))
	}
	b.H = e.clampH(b, h, sp)
}
