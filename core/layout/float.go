package layout

import "ziegel/core/css"

// in gives the context of something that begins dx, dy after the content box of the present one.
func (c floatContext) in(dx, dy Px) floatContext {
	return floatContext{c.floatSpace, c.x + dx, c.y + dy}
}

// mark is the state of a space before something was laid out in it.
type mark struct {
	n           int
	top, bottom Px
	clear       [2]Px
}

func (s *floatSpace) mark() mark { return mark{len(s.list), s.top, s.bottom, s.clear} }

func (s *floatSpace) reset(m mark) {
	s.list, s.top, s.bottom, s.clear = s.list[:m.n], m.top, m.bottom, m.clear
}

// room gives the part of x0..x1 that floats leave free over h px from y; y counts from the context.
func (s *floatSpace) room(y, h, x0, x1 Px) (Px, Px) {
	if y >= s.bottom {
		return x0, x1
	}
	l, r := x0, x1
	for i := range s.list {
		f := &s.list[i]
		if f.y0 >= y+max(h, 1) || f.y1 <= y {
			continue
		}
		switch {
		case !f.right:
			l = max(l, f.x1)
		case x0 < x1: // where there is no width, what is at the right takes none (measured)
			r = min(r, f.x0)
		}
	}
	return l, r
}

// lineRoom gives what floats leave of x0..x1 for a line: as room, but shapes of floats are kept out of, and not their
// boxes (css-shapes-1, section 2). shaped tells that one may decide, at this place or further down in its box.
func (s *floatSpace) lineRoom(y, h, x0, x1 Px) (l, r Px, shaped bool) {
	l, r = x0, x1
	if y >= s.bottom {
		return l, r, false
	}
	for i := range s.list {
		f := &s.list[i]
		if f.y0 >= y+max(h, 1) || f.y1 <= y {
			continue
		}
		from, to := f.x0, f.x1
		if f.shape != nil {
			shaped = true
			a, b, hit := f.shape.reach((y - f.y0).Float(), (y + h - f.y0).Float())
			if !hit {
				continue
			}
			from, to = max(from, f.x0+css.FromFloat(a)), min(to, f.x0+css.FromFloat(b))
		}
		if f.right {
			r = min(r, from)
		} else {
			l = max(l, to)
		}
	}
	return l, r, shaped
}

// reach reports whether a float takes room from a block that is w px wide.
func (c floatContext) reach(w Px) bool {
	if c.y >= c.bottom {
		return false
	}
	for i := range c.list {
		f := &c.list[i]
		reaches := f.y1 > c.y && (f.right && f.x0 < c.x+w || !f.right && f.x1 > c.x)
		if reaches {
			return true
		}
	}
	return false
}

// next gives the first place below y at which there may be more room.
func (s *floatSpace) next(y Px) Px {
	out := s.bottom
	for i := range s.list {
		if f := &s.list[i]; f.y1 > y {
			out = min(out, f.y1)
		}
	}
	return max(out, y+1)
}

// below gives the place from which nothing floats at the sides that clear names.
func (s *floatSpace) below(clear int8, y Px) Px {
	if clear&1 != 0 {
		y = max(y, s.clear[0])
	}
	if clear&2 != 0 {
		y = max(y, s.clear[1])
	}
	return y
}

// floating is a float that looks for its place: w by h px, to one side (1 left, 2 right), below those that it clears.
type floating struct {
	w, h  Px
	side  int
	clear int8
}

// add places a float as high as it may stand from y on and as far to its side as there is room between x0 and x1 (CSS
// 2, section 9.5.1).
func (s *floatSpace) add(f floating, x0, x1, y Px) (Px, Px) {
	w, h, side := f.w, f.h, f.side
	y = s.below(f.clear, max(y, s.top))
	l, r := s.room(y, 1, x0, x1)
	for y < s.bottom && max(0, r-l) < w { // one without width has room everywhere (measured)
		if l == x0 && r == x1 {
			break
		}
		y = s.next(y)
		l, r = s.room(y, 1, x0, x1)
	}
	x := l
	if side == 2 {
		x = max(l, r) - w
	}
	s.top, s.any = y, true
	if h > 0 {
		s.bottom = max(s.bottom, y+h)
		s.clear[side-1] = max(s.clear[side-1], y+h)
		if w > 0 {
			s.list = append(s.list, exclusion{x, x + w, y, y + h, side == 2, nil})
		}
	}
	return x, y
}

// float lays a float out and places it in the box b, its content cw px wide, y px below the content's upper edge.
func (e *Engine) float(b, k *Box, inner space, y Px) {
	e.layout(k, space{cbW: inner.cbW, cbH: inner.cbH, defCB: inner.defCB, shrink: true})
	c := e.floats
	f := floating{k.W + k.margin[css.Left] + k.margin[css.Right], k.H + k.margin[css.Top] + k.margin[css.Bottom],
		k.sideways(), k.floatSide(k.style.Clear)}
	x, at := c.add(f, c.x, c.x+inner.cbW, c.y+y)
	e.shapeFloat(k, inner.cbW, x, at)
	k.origin = b
	k.X = b.contentX() + x - c.x + k.margin[css.Left]
	k.Y = b.contentY() + at - c.y + k.margin[css.Top]
}

// holdsFloats reports whether floats of the context that b is in stand in it, or in its parts.
func (e *Engine) holdsFloats(b *Box) bool {
	if b.floatPass == e.pass {
		return b.floatsIn
	}
	b.floatPass, b.floatsIn = e.pass, false
	for _, k := range e.children(b, 0) {
		switch {
		case k.off:
		case k.sideways() != 0:
			b.floatsIn = true
		case (k.kind == blockBox || k.kind == inlineBox) && !k.bfc:
			b.floatsIn = e.holdsFloats(k)
		}
		if b.floatsIn {
			return true
		}
	}
	return false
}

// openFloats begins a context for b if it makes one and something floats in it, and gives the context around it, for
// closeFloats.
func (e *Engine) openFloats(b *Box) (around floatContext) {
	around = e.floats
	if !e.floating || b.kind != blockBox {
		e.floats = floatContext{}
		return around
	}
	if b.bfc {
		e.floats = floatContext{}
		if e.holdsFloats(b) {
			e.floats = floatContext{floatSpace: &floatSpace{}}
		}
	}
	return around
}

// marginsAhead gives the margins that meet at the upper edge of a box, before it is laid out; through tells that they
// meet those below it.
func (e *Engine) marginsAhead(k *Box, cw Px) (m marginSet, through bool) {
	m, through = e.marginsAbove(k, cw)
	if through {
		m.addOf(e, k, css.Bottom)
	}
	return m, through
}

// marginsAbove gives the margins that meet at the upper edge of a box, without its own lower one; through tells that
// they meet that, too.
func (e *Engine) marginsAbove(k *Box, cw Px) (m marginSet, through bool) {
	k.edges(cw)
	m.addOf(e, k, css.Top)
	if k.kind != blockBox || k.bfc || k.padding[css.Top] != 0 || k.border[css.Top] != 0 {
		return m, false
	}
	if k.style.Width.Kind == css.LenPx {
		cw = k.borderW(k.style.Width.Resolve(cw))
	} else {
		cw -= k.margin[css.Left] + k.margin[css.Right]
	}
	kids := e.children(k, 0)
	if allInline(kids) {
		return m, false
	}
	for _, x := range kids {
		if x.aside() {
			continue
		}
		if x.style.Clear != 0 {
			return m, false
		}
		in, on := e.marginsAhead(x, max(0, cw-k.inlineEdges()))
		m.join(in)
		if !on {
			return m, false
		}
	}
	s := k.style
	nothing := s.Height.Kind == css.LenPx && s.Height.Px == 0 && !s.Height.HasPercent()
	high := !s.Height.IsAuto() && !nothing || s.MinH.Kind == css.LenPx && s.MinH.Px > 0
	if high || k.padding[css.Bottom] != 0 || k.border[css.Bottom] != 0 {
		return m, false
	}
	return m, true
}
