package layout

import (
	"ziegel/core/css"
)

// breakLines breaks a paragraph greedily, then evens it out where text-wrap asks for it.
func (e *Engine) breakLines(p *para, avail, indent Px, s *css.Style) []line {
	out := p.spare[:0]
	c := cursor{}
	for c.item < len(p.items) {
		room := avail
		if len(out) == 0 {
			room -= indent
		}
		ln := e.next(p, c, room)
		if ln.end == c || ln.end.item < c.item {
			break
		}
		out = append(out, ln)
		c = ln.end
		if ln.end.item < len(p.items) && p.items[ln.end.item].kind == textItem &&
			ln.end.rune >= p.items[ln.end.item].end {
			c.item++
		}
	}
	p.spare = out[:0:cap(out)]
	for len(out) > 0 && !out[len(out)-1].forced && !e.realLine(p, out[len(out)-1]) {
		out = out[:len(out)-1]
	}
	switch s.WrapStyle {
	case "balance":
		out = e.balance(p, out, avail)
	case "pretty":
		out = e.pretty(p, out, avail)
	}
	return out
}
