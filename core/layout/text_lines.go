package layout

import (
	"ziegel/core/css"
)

// indentOf gives the indent of the line after some, where that of the first would be so much.
func indentOf(s *css.Style, before []line, by Px) Px {
	n := len(before)
	return s.TextIndent.At(by, n == 0, n > 0 && before[n-1].forced)
}

// breakLines breaks a paragraph greedily, then evens it out where text-wrap asks for it.
func (e *Engine) breakLines(p *para, avail, indent Px, s *css.Style) []line {
	out := p.spare[:0]
	c := cursor{}
	for c.item < len(p.items) {
		ln := e.next(p, c, avail-indentOf(s, out, indent))
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
