package layout

import "ziegel/core/css"

// flowState is where a block stands while its children are stacked.
type flowState struct {
	b       *Box
	inner   space
	y       Px
	pending marginSet // at the lower edge of what is stacked
	atTop   bool      // margins at the upper edge pass through it
	leading bool      // nothing but margins so far
	top     marginSet // those that passed
}

// at gives where a box stands whose upper margins are m, from the upper edge of the content.
func (f *flowState) at(m marginSet) Px {
	if f.leading && f.atTop {
		return f.y
	}
	m.join(f.pending)
	return f.y + m.sum()
}

// layoutBeside lays a child out where floats are. It gives where clearance puts it, from the upper edge of the content
// (CSS 2, section 9.5.2).
func (e *Engine) layoutBeside(f *flowState, k *Box) (cleared Px, clears bool) {
	around := e.floats
	defer func() { e.floats = around }()
	sp := space{cbW: f.inner.cbW, cbH: f.inner.cbH, defCB: f.inner.defCB}
	m, _ := e.marginsAhead(k, sp.cbW)
	if f.leading && e.quirky(f.b) {
		m.quirk = 0
	}
	y := f.at(m)
	if k.style.Clear != 0 {
		if c := around.below(k.floatSide(k.style.Clear), around.y+y) - around.y; c > y {
			y, cleared, clears = c, c, true
		}
	}
	if k.kind != blockBox || k.bfc {
		at := e.besideFloats(f, k, sp, y)
		if at > y {
			cleared, clears = at, true
		}
		return cleared, clears
	}
	before, x := around.mark(), k.margin[css.Left]
	for range 3 {
		active := around.y+y < around.bottom || e.holdsFloats(k)
		if active || k.beside {
			k.valid = false
		}
		k.beside = active
		e.floats = around.in(x+k.contentX(), y+k.contentY())
		e.layout(k, sp)
		e.floats = around
		nowY, nowX := f.at(k.marginsAbove), e.blockX(k, sp.cbW, f.b)
		if clears {
			nowY = cleared
		}
		if nowY == y && nowX == x || !active {
			break
		}
		x, y = nowX, nowY
		around.reset(before)
		k.valid = false
	}
	return cleared, clears
}

// besideFloats lays out a child whose content keeps to itself: it stands beside floats where it has room, else below
// them. It gives where, from the upper edge of the content; the left edge goes to k.floatX.
func (e *Engine) besideFloats(f *flowState, k *Box, sp space, y Px) Px {
	c := e.floats
	e.floats = floatContext{}
	defer func() { e.floats = c }()
	ml, mr := k.margin[css.Left], k.margin[css.Right]
	x0, x1 := c.x+ml, c.x+sp.cbW-mr
	k.floatX = noFloatX
	for {
		l, r := c.room(c.y+y, 1, x0, x1)
		if l == x0 && r == x1 && c.y+y >= c.bottom {
			e.layout(k, sp)
			return y
		}
		narrow := sp
		narrow.room, narrow.hasRoom = max(0, r-l)+ml+mr, true
		e.layout(k, narrow)
		l, r = c.room(c.y+y, k.H, x0, x1)
		if k.W <= r-l || l == x0 && r == x1 {
			k.floatX = l - c.x
			if free := r - l - k.W; free > 0 && (k.autoMargin[css.Left] || f.b.style.TextAlign == "-webkit-center") {
				k.floatX += free
				if k.autoMargin[css.Right] || !k.autoMargin[css.Left] {
					k.floatX -= free - free/2
				}
			}
			return y
		}
		y = c.next(c.y+y) - c.y
	}
}
