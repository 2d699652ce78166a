package layout

import "ziegel/core/css"

// Lines that stand side by side (css-writing-modes-4). Everything in such a box is laid out as if its lines stood below
// each other, in styles that the cascade has turned (css.Style), and is turned as a whole when the page is finished or
// drawn. Between the two stands one box: the outer one is that of the element in the page around it, with its edges and
// sizes; the inner one has the content, and is turned (section 7.3, orthogonal flows).

// layoutTurning places a turning box: its width follows from how many lines there are.
func (e *Engine) layoutTurning(b *Box, sp space) {
	inner := e.children(b, 0)[0]
	s := b.style
	line := e.lineRoom(b, inner, sp)
	in := space{cbW: line, hasW: true, forceW: line}
	w, given := Px(0), true
	switch {
	case sp.hasW:
		w = sp.forceW
	case s.Width.Kind == css.LenPx:
		w = e.clampW(b, b.borderW(s.Width.Resolve(sp.cbW)), sp.cbW, true)
	default:
		given = false
	}
	if given {
		in.cbH, in.defCB, in.hasH, in.defH = max(0, w-b.inlineEdges()), true, true, true
		in.forceH = in.cbH
	}
	e.layout(inner, in)
	if !given {
		w = e.clampW(b, inner.H+b.inlineEdges(), sp.cbW, true)
		e.layout(inner, in) // limits may have asked for other sizes
	}
	inner.origin, inner.X, inner.Y = b, b.contentX(), b.contentY()
	b.W, b.H, b.contentH = w, line+b.blockEdges(), line
	b.marginsAbove.addOf(e, b, css.Top)
	b.marginsBelow.addOf(e, b, css.Bottom)
}

// lineRoom gives how long lines in a turning box may be: its height, where that is given, else no more than the window
// is high.
func (e *Engine) lineRoom(b, inner *Box, sp space) Px {
	s := b.style
	h, def := e.givenHeight(b, sp)
	switch l := s.Height; {
	case sp.hasH || def || l.Kind == css.LenPx && !l.HasPercent():
		return max(0, h-b.blockEdges())
	case l.HasPercent() && l.Kind == css.LenPx: // of the window (section 7.3.1)
		return max(0, e.clampH(b, b.borderH(l.Resolve(e.height)), sp)-b.blockEdges())
	}
	room := e.height
	if sp.defCB && sp.cbH > 0 {
		room = sp.cbH
	}
	switch {
	case b.off:
		room -= b.taken[1]
	case b.item && !sp.defCB && b.parent != nil: // items are asked for their width before they are placed
		if h, def := e.givenHeight(b.parent, b.parent.sp); def {
			room = h - b.parent.blockEdges()
		}
	}
	lo, hi := e.intrinsic(inner)
	line := min(max(lo, room-b.blockEdges()-b.margin[css.Top]-b.margin[css.Bottom]), hi)
	return max(0, e.clampH(b, line+b.blockEdges(), sp)-b.blockEdges())
}

// intrinsicTurning gives the width that the lines of a turning box take, without its edges.
func (e *Engine) intrinsicTurning(b *Box) Px {
	inner := e.children(b, 0)[0]
	line := e.lineRoom(b, inner, space{cbW: b.sp.cbW, cbH: b.sp.cbH, defCB: b.sp.defCB})
	e.layout(inner, space{cbW: line, hasW: true, forceW: line})
	b.valid = false // what is in it was laid out for this question
	return inner.H
}

// turn gives what places the content of the outer box b, laid out from its own corner, on the page; x and y are those
// of the border box of b.
func (b *Box) turn(x, y Px) matrix {
	inner := b.kids[0]
	left, top := (x + b.leftContent()).Float(), (y + b.contentY()).Float()
	w, line := (b.W - b.inlineEdges()).Float(), inner.W.Float()
	from, to := css.Horizontal, b.style.Mode
	if b.parent != nil {
		from = b.parent.style.Mode
	}
	if to == css.Horizontal { // back into the lines of a page
		switch from {
		case css.VerticalRL, css.SidewaysRL:
			return matrix{0, -1, 1, 0, left, top + line}
		case css.SidewaysLR:
			return matrix{0, 1, -1, 0, left + w, top}
		}
		return matrix{0, 1, 1, 0, left, top}
	}
	switch to {
	case css.VerticalRL, css.SidewaysRL:
		return matrix{0, 1, -1, 0, left + w, top}
	case css.SidewaysLR:
		return matrix{0, -1, 1, 0, left, top + line}
	}
	return matrix{0, 1, 1, 0, left, top}
}
