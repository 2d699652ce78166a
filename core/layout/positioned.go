package layout

import (
	"strings"

	"ziegel/core/css"
)

// placeAbsolutes lays out-of-flow boxes out, from the outside in, when all in-flow boxes have their places.
func (e *Engine) placeAbsolutes(b *Box) {
	for _, k := range b.kids {
		if k.outOfFlow() {
			e.absolute(k)
		}
		e.placeAbsolutes(k)
	}
}

// containing finds the containing block of an out-of-flow box; nil is the viewport.
func containing(k *Box) *Box {
	for p := k.parent; p != nil; p = p.parent {
		if p.el == nil && p.pseudo == "" {
			continue
		}
		if p.style.MakesContaining || k.style.Position == css.Absolute && p.style.Position != css.Static {
			return p
		}
	}
	return nil
}

// at gives the position of a box's border box in the page, before relative offsets.
func (e *Engine) at(b *Box) (x, y Px) {
	for p := b; p != nil; p = p.origin {
		if p.kind == inlineBox && len(p.fragments) > 0 {
			x, y = x+mirrored(p.origin, p.fragments[0].X, p.fragments[0].W), y+p.fragments[0].Y
			continue
		}
		x, y = x+mirrored(p.origin, p.X, p.W), y+p.Y
	}
	return x, y
}

// absolute sizes and places one out-of-flow box after CSS Positioned Layout "Absolute Positioning Layout Model".
func (e *Engine) absolute(k *Box) {
	cb := containing(k)
	area := Rect{0, 0, e.width, e.height}
	if cb != nil {
		x, y := e.at(cb)
		area = Rect{x + cb.leftBorder(), y + cb.border[css.Top], cb.W - cb.border[css.Left] - cb.border[css.Right],
			cb.H - cb.border[css.Top] - cb.border[css.Bottom]}
		if cb.kind == inlineBox && len(cb.fragments) > 0 {
			r := cb.fragments[0]
			for _, f := range cb.fragments[1:] {
				r = r.union(f)
			}
			area.W, area.H = r.W, r.H
		}
		if k.area != nil && cb == k.parent {
			area = Rect{x + mirrored(cb, k.area.X, k.area.W), y + k.area.Y, k.area.W, k.area.H}
		}
	}
	sx, sy := area.X, area.Y
	if k.staticIn != nil {
		x, y := e.at(k.staticIn)
		sx, sy = x+mirrored(k.staticIn, k.staticX, 0), y+k.staticY
	}
	inGrid := cb != nil && cb == k.staticIn && cb.kind == gridBox
	if inGrid { // its place is that in its area, which begins at the padding when no lines are given (measured)
		if sy = area.Y; cb.rtl() {
			sx = area.X + area.W
		} else {
			sx = area.X
		}
	}
	s := k.style
	k.edges(area.W)
	h := k.insets(css.Left, css.Right, area.W, sx-area.X)
	v := k.insets(css.Top, css.Bottom, area.H, sy-area.Y)
	sp := space{cbW: area.W, cbH: area.H, defCB: true, shrink: true}
	alongX, alongY := ownAlignment(s.JustifySelf.Physical(cb != nil && cb.rtl())), ownAlignment(s.AlignSelf)
	h.fromEnd = k.staticIn != nil && k.staticIn.rtl()
	k.taken = [2]Px{h.taken(), v.taken()}
	if s.Width.Fill {
		sp.forceW, sp.hasW = e.clampW(k, k.borderW(s.Width.Resolve(area.W-k.taken[0])), area.W, true), true
	}
	if s.Height.Fill {
		sp.forceH, sp.hasH, sp.defH = e.clampH(k, k.borderH(s.Height.Resolve(area.H-k.taken[1])), sp), true, true
	}
	own := k.kind == replacedBox && !e.fillsArea(k) // it keeps its own size
	stretchW := h.both() && s.Width.IsAuto() && !own && k.kind != tableBox && alongX == ""
	switch {
	case stretchW && !(s.AspectRatio > 0 && v.both()):
		sp.forceW, sp.hasW = e.clampW(k, h.between(k), area.W, true), true
	case s.Width.IsAuto() && !own && !k.turning:
		avail := area.W
		switch {
		case h.both():
			avail -= h.start + h.end
		case h.hasStart:
			avail -= h.start
		case h.hasEnd:
			avail -= h.end
		case k.staticIn != nil && k.staticIn.rtl():
			avail = h.static
		default:
			avail -= h.static
		}
		lo, hi := e.intrinsic(k)
		w := min(max(lo, avail-k.margin[css.Left]-k.margin[css.Right]), hi)
		if s.AspectRatio > 0 && v.both() && s.Height.IsAuto() {
			w = e.ratioWidth(k, v.between(k))
		} else if h, ok := e.plainHeight(k, sp); ok && s.AspectRatio > 0 {
			w = e.widthByRatio(k, h)
		} else {
			w = e.transferred(k, w, sp)
		}
		sp.forceW, sp.hasW = e.clampW(k, w, area.W, true), true
	}
	stretches := v.both() && s.Height.IsAuto() && !own && k.kind != tableBox && s.AspectRatio == 0 &&
		alongY == ""
	if stretches {
		sp.forceH = e.clampH(k, v.between(k), sp)
		sp.hasH, sp.defH = true, true
	}
	e.layout(k, sp)
	h.rtl = cb != nil && cb.rtl()
	x, y := h.place(k, k.W, alongX), v.place(k, k.H, alongY)
	if k.staticIn != nil && (k.staticIn.kind == flexBox || k.staticIn.kind == gridBox) {
		p := k.staticIn
		room := Rect{W: p.W - p.inlineEdges(), H: p.H - p.blockEdges()}
		if inGrid {
			room = area
		}
		x, y = e.soleItem(k, x, y, room, [2]bool{h.hasStart || h.hasEnd, v.hasStart || v.hasEnd})
	}
	if k.staticIn != nil && k.staticIn.kind != flexBox && k.staticIn.kind != gridBox {
		x, y = e.staticAlign(k, x, y, h.hasStart || h.hasEnd, v.hasStart || v.hasEnd)
	}
	k.origin = nil
	k.X, k.Y = area.X+x, area.Y+y
}

// staticAlign aligns a box that stands where it would in flow: in the width of its container, and at a place without
// height (css-position-3, section 3.5.1).
func (e *Engine) staticAlign(k *Box, x, y Px, fixedX, fixedY bool) (Px, Px) {
	p := k.staticIn
	if !fixedX {
		free := p.W - p.inlineEdges() - k.W - k.margin[css.Left] - k.margin[css.Right]
		switch k.style.JustifySelf.Physical(p.rtl()).At(free) {
		case "center", "anchor-center":
			x += floorHalf(free)
		case "end", "flex-end":
			x += free
		}
	}
	if free := -k.H - k.margin[css.Top] - k.margin[css.Bottom]; !fixedY {
		up := Px(0)
		switch a := k.style.AlignSelf; a.At(0) {
		case "center", "anchor-center":
			up = floorHalf(free)
		case "end", "flex-end", "last baseline":
			up = free
		}
		if k.style.AlignSelf.At(-1) == k.style.AlignSelf.At(0) ||
			y+up >= 0 { // safe: not out of its containing block (measured)
			y += up
		}
	}
	return x, y
}

// ownAlignment gives what a box says of its own alignment between its insets; none where it is stretched, or begins as
// in flow (CSS Box Alignment 3, 6.1.2 and 6.2.2).
func ownAlignment(a css.Align) css.Align {
	switch a.At(0) {
	case "", "auto", "normal", "stretch", "baseline", "first baseline", "last baseline":
		return ""
	}
	return a
}

// insets are those of an absolutely positioned box along one axis (CSS 2, sections 10.3.7 and 10.6.4; css-position-3).
type insets struct {
	startSide, endSide int
	start, end         Px
	hasStart, hasEnd   bool // they are not auto
	room               Px   // of the containing block
	rtl                bool // what does not fit goes beyond its start
	fromEnd            bool // the static place is that of the end of the box
	static             Px   // where the box would stand in flow, from the start of the containing block
}

func (k *Box) insets(start, end int, room, static Px) insets {
	in := insets{startSide: start, endSide: end, room: room, static: static}
	in.hasStart, in.hasEnd = !k.style.Inset[start].IsAuto(), !k.style.Inset[end].IsAuto()
	if in.hasStart {
		in.start = k.style.Inset[start].Resolve(room)
	}
	if in.hasEnd {
		in.end = k.style.Inset[end].Resolve(room)
	}
	return in
}

func (in *insets) both() bool { return in.hasStart && in.hasEnd }

// taken is what insets leave out of the containing block, or the static place where there are none (measured).
func (in *insets) taken() Px {
	switch {
	case in.hasStart || in.hasEnd:
		return in.start + in.end
	case in.fromEnd:
		return in.room - in.static
	}
	return in.static
}

// between is the size of a box that is stretched from one inset to the other.
func (in *insets) between(k *Box) Px {
	return in.room - in.start - in.end - k.margin[in.startSide] - k.margin[in.endSide]
}

// place gives where the box begins, from the start of the containing block; self is its own alignment, where both
// insets leave room.
func (in *insets) place(k *Box, size Px, self css.Align) Px {
	switch {
	case in.both():
		free := in.between(k) - size
		switch {
		case k.autoMargin[in.startSide] && k.autoMargin[in.endSide]:
			if free < 0 && in.startSide == css.Left {
				return in.start
			}
			return in.start + free/2
		case k.autoMargin[in.startSide]:
			return in.start + free
		case in.rtl && self == "" && !k.autoMargin[in.endSide]:
			return in.start + k.margin[in.startSide] + free
		case k.autoMargin[in.endSide] || self == "":
			return in.start + k.margin[in.startSide]
		}
		if free < 0 && self == self.At(free) &&
			!self.Unsafe() { // not out of the containing block, where it can be (measured)
			at, last := in.start+k.margin[in.startSide], in.room-size-k.margin[in.endSide]
			switch self {
			case "center":
				at += free / 2
			case "end", "flex-end":
				at += free
			}
			if first := k.margin[in.startSide]; !in.rtl || in.startSide != css.Left {
				return max(min(at, last), first)
			} else {
				return min(max(at, first), last)
			}
		}
		if free < 0 && in.rtl && in.startSide == css.Left &&
			self != self.At(free) { // it is safe from where lines begin
			return in.start + k.margin[in.startSide] + free
		}
		switch self.At(free) {
		case "center":
			return in.start + k.margin[in.startSide] + free/2
		case "end", "flex-end":
			return in.start + k.margin[in.startSide] + free
		}
		return in.start + k.margin[in.startSide]
	case in.hasStart:
		return in.start + k.margin[in.startSide]
	case in.hasEnd:
		return in.room - in.end - size - k.margin[in.endSide]
	}
	if in.fromEnd {
		return in.static - size - k.margin[in.endSide]
	}
	return in.static + k.margin[in.startSide]
}

// soleItem aligns an absolutely positioned child of a flex or grid container as if it were the only item in a room.
// fixed says which of its axes insets decide.
func (e *Engine) soleItem(k *Box, x, y Px, room Rect, fixed [2]bool) (Px, Px) {
	p := k.staticIn
	roomX := room.W - k.W - k.margin[css.Left] - k.margin[css.Right]
	roomY := room.H - k.H - k.margin[css.Top] - k.margin[css.Bottom]
	justify, align := p.style.JustifyContent, k.style.AlignSelf
	if align == "" {
		align = p.style.AlignItems
	}
	row := p.kind == gridBox || p.style.FlexDirection == "row" || p.style.FlexDirection == "row-reverse"
	if p.kind == gridBox {
		justify = k.style.JustifySelf
		if justify == "" {
			justify = p.style.JustifyItems
		}
	}
	h, v := justify, align
	if !row {
		h, v = align, justify
	}
	along := p.kind == flexBox && strings.HasSuffix(p.style.FlexDirection, "-reverse")
	across := p.kind == flexBox && p.style.FlexWrap == "wrap-reverse"
	backX, backY := along, across
	if !row {
		backX, backY = across, along
	}
	at := func(a css.Align, room Px, back bool) Px {
		switch a.At(room) {
		case "center", "space-around", "space-evenly":
			return floorHalf(room)
		case "end":
			return room
		case "start", "self-start", "baseline":
			return 0
		case "flex-end":
			back = !back
		}
		if back {
			return room
		}
		return 0
	}
	switch {
	case fixed[0]:
	case p.rtl():
		x -= at(h, roomX, backX)
	default:
		x += at(h, roomX, backX)
	}
	if !fixed[1] {
		y += at(v, roomY, backY)
	}
	return x, y
}
