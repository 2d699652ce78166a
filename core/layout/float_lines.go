package layout

import (
	"slices"

	"ziegel/core/css"
)

// floatLines breaks a paragraph into lines beside floats, line by line, and places the floats that stand in it: beside
// the line that they stand on if they have room, else below it (CSS 2, section 9.5).
type floatLines struct {
	e      *Engine
	b      *Box
	p      *para
	inner  space
	at     lineBox
	y      Px
	n      int // of the line
	placed int // items up to this one have their floats placed
	late   []*Box
	even   []line // evened out, when nothing floats beside the first (measured)
}

func (e *Engine) floatLines(b *Box, p *para, inner space, indent Px) Px {
	f := &floatLines{e: e, b: b, p: p, inner: inner,
		at: lineBox{
			e:         e,
			b:         b,
			p:         p,
			cw:        inner.cbW,
			piecewise: true,
			trims:     b.trims(),
			pieces:    e.scratch.pieces,
			boxes:     e.scratch.onLine,
		}}
	p.lines = p.lines[:0]
	c := cursor{}
	strut := e.metrics(b.style)
	for c.item < len(p.items) {
		in := indentOf(b.style, p.lines, indent)
		ln, left, room := f.next(c, in)
		if f.n == 0 && room == inner.cbW && e.floats.y+f.y >= e.floats.bottom && !p.floats() {
			f.even = slices.Clone(e.breakLines(p, room, indent, b.style))
		}
		if f.n < len(f.even) {
			ln = f.even[f.n]
		}
		if ln.end == c || ln.end.item < c.item {
			break
		}
		if !ln.forced && ln.end.item >= len(p.items) && !e.realLine(p, ln) {
			break
		}
		p.lines = append(p.lines, ln)
		f.at.left, f.at.cw = left, room
		f.at.last = ln.end.item >= len(p.items)
		f.y += f.at.place(ln, f.n, f.y, in, strut)
		f.n++
		f.p.bottoms = append(f.p.bottoms, f.y)
		if ln.forced {
			if it := &p.items[ln.end.item-1]; it.box.kind == breakBox {
				f.y = e.floats.below(it.box.floatSide(it.box.style.Clear), e.floats.y+f.y) - e.floats.y
			}
		}
		f.drop()
		c = ln.end
		if c.item < len(p.items) && p.items[c.item].kind == textItem && c.rune >= p.items[c.item].end {
			c.item++
		}
	}
	f.floatsUpTo(cursor{}, cursor{len(p.items), len(p.text)}, 0, noNeed)
	f.drop()
	e.scratch.pieces, e.scratch.onLine = f.at.pieces, f.at.boxes
	return f.y
}

// floats reports a paragraph with floats in it.
func (p *para) floats() bool {
	return slices.ContainsFunc(p.items, func(it item) bool { return it.kind == floatItem })
}

// drop places the floats that had no room on the line, below it.
func (f *floatLines) drop() {
	for _, k := range f.late {
		f.e.float(f.b, k, f.inner, f.y)
	}
	f.late = f.late[:0]
}

// next finds the next line: where it stands, what floats leave of it, and what fits there.
func (f *floatLines) next(c cursor, indent Px) (ln line, left, room Px) {
	e, s := f.e, f.e.floats
	height := Px(0)
	for {
		l, r, shaped := s.lineRoom(s.y+f.y, height, s.x, s.x+f.inner.cbW)
		left, room = l-s.x, max(0, r-l)
		ln = e.next(f.p, c, room-indent)
		if f.floatsUpTo(c, ln.end, indent, room) {
			continue
		}
		beside, y := room < f.inner.cbW, f.y
		if beside && !f.b.style.NoWrap && ln.width+indent > room+textSlack { // else it runs over (measured)
			if f.y, height = s.floatSpace.next(s.y+f.y)-s.y, 0; shaped {
				f.y = y + 64 // a px further the shape may leave more
			}
			continue
		}
		if !beside && s.y+f.y >= s.bottom {
			return ln, left, room
		}
		if h := f.heightOf(ln, indent); h > height {
			if l2, r2, _ := s.lineRoom(s.y+f.y, h, s.x, s.x+f.inner.cbW); l2 != l || r2 != r {
				height = h
				continue
			}
		}
		return ln, left, room
	}
}

// heightOf gives the height of a line without placing it.
func (f *floatLines) heightOf(ln line, indent Px) Px {
	open := append([]*openBox(nil), f.at.open...)
	saved := make([]openBox, len(open))
	for i, o := range open {
		saved[i] = *o
	}
	f.at.trial = true
	h := f.at.place(ln, f.n, f.y, indent, f.e.metrics(f.b.style))
	f.at.trial = false
	f.at.open = append(f.at.open[:0], open...)
	for i, o := range open {
		*o = saved[i]
	}
	return h
}

// floatsUpTo places the floats on a line that ends at to and has some room. changed tells that the line has another
// room now.
func (f *floatLines) floatsUpTo(from, to cursor, indent, room Px) (changed bool) {
	for i := max(from.item, f.placed); i < len(f.p.items) && i < to.item; i++ {
		it := &f.p.items[i]
		if it.kind != floatItem {
			continue
		}
		f.placed = i + 1
		k := it.box
		if len(f.late) > 0 {
			f.late = append(f.late, k)
			continue
		}
		f.e.layout(k, space{cbW: f.inner.cbW, cbH: f.inner.cbH, defCB: f.inner.defCB, shrink: true})
		w := k.W + k.margin[css.Left] + k.margin[css.Right]
		used := Px(0)
		if room != noNeed {
			used = f.p.measure(f.p.skipSpaces(from), cursor{i, it.start}, false)
		}
		if used > 0 && used+indent+w > room+textSlack {
			f.late = append(f.late, k)
			continue
		}
		y := f.y
		if s := f.e.floats; s.below(k.floatSide(k.style.Clear), s.y+y) > s.y+y && used > 0 {
			f.late = append(f.late, k)
			continue
		}
		f.e.float(f.b, k, f.inner, y)
		return true
	}
	return false
}
