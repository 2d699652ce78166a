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
	cleared bool      // the margins pending are those of an empty block that clearance moved
}

// at gives where a box stands whose upper margins are m, from the upper edge of the content.
func (f *flowState) at(m marginSet) Px {
	if f.leading && f.atTop {
		return f.y
	}
	m.join(f.pending)
	return f.y + m.sum()
}

// pastCleared goes on behind an empty block that clearance may have moved: its own two margins collapse with those that
// follow, not with what was before, nor with the lower margin of what holds it (CSS 2, section 8.3.1; measured).
func (f *flowState) pastCleared(e *Engine, k *Box) {
	f.pending, _ = e.marginsAbove(k, f.inner.cbW)
	f.cleared = true
	f.y -= f.pending.sum()
	f.pending.addOf(e, k, css.Bottom)
}

// layoutBeside lays a child out where floats are. It gives where clearance puts it, from the upper edge of the content
// (CSS 2, section 9.5.2).
func (e *Engine) layoutBeside(f *flowState, k *Box) (cleared Px, clears bool) {
	around := e.floats
	defer func() { e.floats = around }()
	sp := space{cbW: f.inner.cbW, cbH: f.inner.cbH, defCB: f.inner.defCB}
	m, through := e.marginsAhead(k, sp.cbW)
	if f.leading && e.quirky(f.b) {
		m.quirk = 0
	}
	y := f.at(m)
	if k.style.Clear != 0 {
		top := y
		if through { // an empty block is cleared from its upper edge, as if its own two margins did not meet (measured)
			above, _ := e.marginsAbove(k, sp.cbW)
			top = f.at(above)
		}
		c := around.below(k.floatSide(k.style.Clear), around.y+top) - around.y
		if c > top {
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
	floated := around.clear != [2]Px{} && !(f.leading && f.atTop)
	if k.collapsesThrough && !clears && floated && k.style.Clear != 0 { // also when floats are far above (measured)
		above, _ := e.marginsAbove(k, sp.cbW)
		return f.at(above), true
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
