package layout

import "ziegel/core/css"

// hanging gives the width of preserved spaces at the end of a line: they count in the max-content width (measured).
func (p *para) hanging(ln line) Px {
	for i := min(ln.end.item, len(p.items)-1); i >= ln.start.item; i-- {
		it := &p.items[i]
		from, to := max(it.start, ln.start.rune), it.end
		if i == ln.end.item {
			to = min(to, ln.end.rune)
		}
		switch {
		case it.kind == atomItem || it.kind == openItem && it.edged():
			return 0
		case it.kind != textItem || to <= from:
			continue
		case it.box.style.Collapse != "preserve":
			return 0
		}
		return p.width(p.trimEnd(from, to), to)
	}
	return 0
}

// intrinsicPara gives the min- and max-content width of a paragraph.
func (e *Engine) intrinsicPara(p *para, s *css.Style) (Px, Px) {
	if p.sized {
		return p.minW, p.maxW
	}
	p.sized = true
	p.countClones()
	var lo, hi Px
	by, first := max(0, s.TextIndent.Resolve(0)), true
	for c := (cursor{}); c.item < len(p.items); {
		ln := e.next(p, c, 1<<28)
		indent := s.TextIndent.At(by, first, !first) // what is left to do begins where a line was forced to end
		first = false
		hi = max(hi, ln.width+p.hanging(ln)+indent)
		cand := e.candidates(p, ln.start, ln.end, true)
		for i, a := range cand {
			b := ln.end
			if i+1 < len(cand) {
				b = cand[i+1]
			}
			lo = max(lo, e.minPiece(p, a, b, indent)+e.hyphenAt(p, b))
			indent = 0 // lines that are broken further on count without one (measured, hanging ones too)
		}
		if ln.end == c || ln.end.item < c.item {
			break
		}
		c = ln.end
		if c.item < len(p.items) && p.items[c.item].kind == textItem && c.rune >= p.items[c.item].end {
			c.item++
		}
	}
	p.minW, p.maxW = lo, hi
	return lo, hi
}

// hyphenAt gives the width of the hyphen of a line that ends at c.
func (e *Engine) hyphenAt(p *para, c cursor) Px {
	if c.rune == 0 || c.rune > len(p.text) || p.text[c.rune-1] != '\u00ad' {
		return 0
	}
	return e.hyphenWidth(p.owner[c.rune-1].style)
}

// minPiece is the min-content width of an unbreakable piece; overflow-wrap: anywhere makes it its widest cluster.
func (e *Engine) minPiece(p *para, a, b cursor, indent Px) Px {
	var widest Px
	indent += p.again(a) + p.until(b)
	text, lead := false, indent
	var unit Px // of unbroken text that goes on from box to box
	var last Px // cluster, with the edges of the boxes that begin before it and end behind it
	for i := a.item; i < len(p.items) && (i < b.item || i == b.item && b.rune > p.items[i].start); i++ {
		it := &p.items[i]
		if it.kind == atomItem {
			return p.measure(a, b, true) + indent
		}
		switch it.kind {
		case openItem:
			lead += it.edge
			continue
		case closeItem:
			last += it.edge
			widest = max(widest, last)
			continue
		case textItem:
			text = true
		default:
			continue
		}
		s := it.box.style
		if s.OverflowWrap != "anywhere" && s.WordBreak != "break-word" {
			return p.measure(a, b, true) + indent
		}
		to := it.end
		if i == b.item {
			to = min(to, b.rune)
		}
		if s.NoWrap {
			from := max(it.start, a.rune)
			widest = max(widest, unit+p.width(from, p.trimEnd(from, to))+lead)
			unit += p.width(from, to)
			continue
		}
		unit = 0
		for k := max(it.start, a.rune); k < to; {
			z := k + 1
			for z < to && p.inner[z] {
				z++
			}
			if p.text[k] != ' ' {
				last, lead = p.width(k, z)+lead, 0
				widest = max(widest, last)
			}
			k = z
		}
	}
	if !text {
		return p.measure(a, b, true) + indent
	}
	return widest
}
