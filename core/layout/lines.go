package layout

import (
	"ziegel/core/css"
)

// cursor is a place in a paragraph: an item, and a rune inside a text item.
type cursor struct{ item, rune int }

// line is one finished line.
type line struct {
	start, end cursor
	width      Px // without trailing spaces
	forced     bool
	cut        bool // it ends inside a word
	hyphen     Px
}

// textSlack is how much wider than its room a line may be: browsers allow 1/64 px (measured).
const textSlack = 1

// next breaks one line that starts at c.
func (e *Engine) next(p *para, c cursor, avail Px) line {
	c = p.skipSpaces(c)
	ln := line{start: c, end: cursor{len(p.items), len(p.text)}}
	var done, trimmed Px // widths of what is finished, with and without trailing spaces
	var unopened Px      // trimmed before the open items that stand directly before this one
	done = p.leadAt(c)
	var best line
	have := false
	for i := c.item; i < len(p.items); i++ {
		it := &p.items[i]
		if i == c.item || p.items[i-1].kind != openItem {
			unopened = trimmed
		}
		switch it.kind {
		case openItem, closeItem:
			done += it.edge
			if it.edge != 0 {
				trimmed = done
				if trimmed > avail+textSlack && have && it.kind == closeItem {
					return best
				}
			}
		case breakItem:
			if trimmed > avail+textSlack && have {
				return best
			}
			ln.end, ln.width, ln.forced = cursor{i + 1, it.end}, trimmed, true
			return ln
		case wbrItem, outItem:
		case atomItem:
			if p.soft[it.start] && (i > c.item || it.start > c.rune) && !p.firstOnLine(c, i) {
				if unopened <= avail+textSlack || !have {
					best, have = line{start: ln.start, end: p.before(i), width: unopened}, true
				}
			}
			w := it.box.W + it.box.mar[css.Left] + it.box.mar[css.Right]
			done += w
			trimmed = done
			if trimmed > avail+textSlack && have {
				return best
			}
		case textItem:
			from := max(it.start, c.rune)
			anywhere := breaksAnywhere(it.box.style)
			for k := from; k <= it.end; k++ {
				if anywhere && !have && k > from && k < it.end && !p.soft[k] && done+p.width(from, k) > avail+textSlack { // no need to look for the end of a long word
					if cut, ok := e.emergency(p, c, i, from, it.end, done, avail); ok {
						return cut
					}
				}
				if k >= len(p.text) || !p.soft[k] || k <= c.rune || k == it.end && !p.breakHere(i, k) {
					continue
				}
				at, w := cursor{i, k}, trimmed
				switch {
				case k == from:
					if i == c.item || p.text[k-1] != objectChar {
						continue // the text before it has offered this place
					}
					at, w = p.before(i), unopened
				case k == it.end:
					at = p.after(i, k)
				}
				if t := p.trimEnd(from, k); t > from {
					w = done + p.broken(from, t)
				}
				if k == it.end {
					w += p.closing(i, at.item)
				}
				if p.text[k-1] == '\u00ad' {
					ln.hyphen = e.hyphenWidth(p.owner[k-1].style)
				}
				if w+ln.hyphen > avail+textSlack {
					if have {
						return best
					}
					if cut, ok := e.emergency(p, c, i, from, it.end, done, avail); ok {
						return cut
					}
					return line{start: c, end: at, width: w + ln.hyphen, hyphen: ln.hyphen}
				}
				best, have = line{start: c, end: at, width: w + ln.hyphen, hyphen: ln.hyphen}, true
				ln.hyphen = 0
			}
			t := p.trimEnd(from, it.end)
			if t > from {
				trimmed = done + p.width(from, t)
			}
			done += p.width(from, it.end)
			if trimmed > avail+textSlack {
				if have {
					return best
				}
				if ln2, ok := e.emergency(p, c, i, from, it.end, done-p.width(from, it.end), avail); ok {
					return ln2
				}
			}
		}
	}
	if trimmed > avail+textSlack && have {
		return best
	}
	ln.width = trimmed
	return ln
}

func breaksAnywhere(s *css.Style) bool {
	return !s.NoWrap && (s.OverflowWrap != "normal" || s.WordBreak == "break-word")
}

// emergency breaks inside a word where overflow-wrap allows it, after as many clusters as fit, at least one.
func (e *Engine) emergency(p *para, c cursor, i, from, end int, done, avail Px) (line, bool) {
	if it := &p.items[i]; !breaksAnywhere(it.box.style) {
		if from == it.start && i > c.item && from > c.rune && p.text[from-1] != ' ' && p.text[from-1] != objectChar && breaksAnywhere(p.owner[from-1].style) {
			return line{start: c, end: p.before(i), width: done}, true // what stands before it may break anywhere, also at its end
		}
		return line{}, false
	}
	at := from
	for k := from + 1; k <= end; k++ {
		if k < end && p.inner[k] {
			continue
		}
		if done+p.broken(from, k) > avail+textSlack {
			if at == from && (done > 0 || i > c.item && from > c.rune) { // nothing of this word fits here
				end := cursor{i, from}
				if from == p.items[i].start {
					end = p.before(i)
				}
				return line{start: c, end: end, width: done}, true
			}
			if at == from {
				at = k
			}
			break
		}
		at = k
	}
	if at >= end || at <= from {
		return line{}, false
	}
	return line{start: c, end: cursor{i, at}, width: done + p.broken(from, at), cut: true}, true
}

func (e *Engine) hyphenWidth(s *css.Style) Px {
	faces := e.fonts.Find(wantOf(s))
	if len(faces) == 0 {
		return 0
	}
	r := '\u2010'
	if !faces[0].Has(r) {
		r = '-'
	}
	text := []rune{r}
	pre := faces[0].Shape(text, featuresOf(s)).Prefix(s.FontSize, s.LetterSpacing, 0, text)
	return ceilPx(pre[1])
}

// skipSpaces drops collapsible spaces at a line's start.
func (p *para) skipSpaces(c cursor) cursor {
	for c.item < len(p.items) {
		it := &p.items[c.item]
		if it.kind != textItem {
			return c
		}
		c.rune = max(c.rune, it.start)
		for c.rune < it.end && p.text[c.rune] == ' ' && p.owner[c.rune].style.Collapses() {
			c.rune++
		}
		if c.rune < it.end {
			return c
		}
		c.item++
	}
	return c
}

// firstOnLine reports that nothing visible stands between the line's start and item i.
func (p *para) firstOnLine(c cursor, i int) bool {
	for k := c.item; k < i; k++ {
		it := &p.items[k]
		if it.kind == atomItem || it.kind == textItem && p.trimEnd(max(it.start, c.rune), it.end) > max(it.start, c.rune) {
			return false
		}
	}
	return true
}

// before gives the cursor for a line that starts with item i, taking the open items directly before it along.
func (p *para) before(i int) cursor {
	for i > 0 && p.items[i-1].kind == openItem && p.items[i-1].start == p.items[i].start {
		i--
	}
	return cursor{i, p.items[i].start}
}

// breakHere reports whether a break at the end of text item i is a break between it and what follows.
func (p *para) breakHere(i, k int) bool {
	for j := i + 1; j < len(p.items); j++ {
		switch p.items[j].kind {
		case textItem:
			return p.items[j].start == k
		case atomItem:
			return false // offered by the atom itself
		case breakItem:
			return false
		}
	}
	return false
}

// after gives the start of the next line for a break at the end of text item i: close items stay on this line.
func (p *para) after(i, k int) cursor {
	j := i + 1
	last := j
	for ; j < len(p.items) && p.items[j].kind != textItem && p.items[j].kind != atomItem; j++ {
		if p.items[j].kind == closeItem || p.items[j].kind == outItem {
			last = j + 1
		}
	}
	return cursor{last, k}
}

// closing sums the edges of the close items between item i and the next line's first item.
func (p *para) closing(i, to int) Px {
	var w Px
	for j := i + 1; j < to; j++ {
		w += p.items[j].edge
	}
	return w
}

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
		if ln.end.item < len(p.items) && p.items[ln.end.item].kind == textItem && ln.end.rune >= p.items[ln.end.item].end {
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

// realLine reports whether a line box exists: text, a box or an inline edge.
func (e *Engine) realLine(p *para, ln line) bool {
	for i := ln.start.item; i < len(p.items) && i <= ln.end.item; i++ {
		it := &p.items[i]
		if i == ln.end.item && (it.kind != textItem || ln.end.rune <= it.start) {
			break
		}
		switch it.kind {
		case atomItem, breakItem, wbrItem:
			return true
		case openItem, closeItem:
			if it.edge != 0 {
				return true
			}
		case textItem:
			a, z := max(it.start, ln.start.rune), it.end
			if i == ln.end.item {
				z = min(z, ln.end.rune)
			}
			for k := a; k < z; k++ {
				if p.text[k] != ' ' || !it.box.style.Collapses() {
					return true
				}
			}
		}
	}
	return false
}

// candidates lists all places where a line may start within [from, to), the start included.
func (e *Engine) candidates(p *para, from, to cursor) []cursor {
	out := append(e.scratch.cand[:0], from)
	defer func() { e.scratch.cand = out[:0] }()
	for i := from.item; i < len(p.items) && i <= to.item; i++ {
		it := &p.items[i]
		switch it.kind {
		case atomItem:
			if p.soft[it.start] && it.start > from.rune && !p.firstOnLine(from, i) {
				out = append(out, p.before(i))
			}
		case textItem:
			if s := it.start; s > from.rune && s < len(p.text) && p.soft[s] && p.text[s-1] == objectChar && (i < to.item || s < to.rune) {
				out = append(out, p.before(i))
			}
			for k := max(it.start, from.rune) + 1; k <= it.end; k++ {
				if k >= len(p.text) || !p.soft[k] || p.text[k-1] == '\u00ad' {
					continue
				}
				if i == to.item && k >= to.rune {
					break
				}
				if k < it.end {
					out = append(out, cursor{i, k})
				} else if p.breakHere(i, k) {
					out = append(out, p.after(i, k))
				}
			}
		}
	}
	return out
}

// measure gives the width of the line from a to b without trailing spaces: as an unbreakable piece, with the edges of boxes that
// close at its end, or as a line to be evened out, without.
func (p *para) measure(a, b cursor, piece bool) Px {
	var done, trimmed Px
	if !piece {
		done = p.leadAt(a)
	}
	for i := a.item; i < len(p.items); i++ {
		it := &p.items[i]
		if i > b.item || i == b.item && (it.kind != textItem || b.rune <= it.start) {
			break
		}
		switch it.kind {
		case openItem, closeItem:
			done += it.edge
			if it.edge != 0 && (piece || it.kind == openItem) {
				trimmed = done
			}
		case atomItem:
			done += it.box.W + it.box.mar[css.Left] + it.box.mar[css.Right]
			trimmed = done
		case textItem:
			from, to := max(it.start, a.rune), it.end
			if i == b.item {
				to = min(to, b.rune)
			}
			if t := p.trimEnd(from, to); t > from {
				trimmed = done + p.broken(from, t)
				if piece { // places in the text as a whole, rounded up, then subtracted (measured)
					off := p.sum[it.start]
					trimmed = done + ceilPx(p.sum[t]-off) - ceilPx(p.sum[from]-off)
				}
			}
			done += p.width(from, to)
		}
	}
	return trimmed
}

// balance chooses, among the breakings with the greedy number of lines, the one with the least sum of squared free widths
// (measured; up to six lines, up to the first forced break). Edges of boxes that close at a line's end do not count (measured).
func (e *Engine) balance(p *para, greedy []line, avail Px) []line {
	n := len(greedy)
	for i, ln := range greedy {
		if ln.forced {
			n = i + 1
			break
		}
	}
	if n < 2 || n > 6 {
		return greedy
	}
	for _, ln := range greedy[:n] {
		if ln.width > avail+textSlack {
			return greedy
		}
	}
	best := e.leastSquares(p, greedy[:n], avail, false)
	if best == nil {
		return greedy
	}
	return append(best, greedy[n:]...)
}

// pretty re-breaks the last four lines when the last one is a single short word (measured).
func (e *Engine) pretty(p *para, greedy []line, avail Px) []line {
	n := len(greedy)
	if n < 2 || greedy[n-1].forced || greedy[n-1].width*3 >= avail || len(e.candidates(p, greedy[n-1].start, greedy[n-1].end)) > 1 {
		return greedy
	}
	from := max(0, n-4)
	for i := from; i < n-1; i++ {
		if greedy[i].forced {
			from = i + 1
		}
	}
	if n-from < 2 {
		return greedy
	}
	best := e.leastSquares(p, greedy[from:], avail, true)
	if best == nil {
		return greedy
	}
	return append(append([]line(nil), greedy[:from]...), best...)
}

// planState is the best way to break a text up to a place.
type planState struct {
	cost int64
	prev int
}

// grown gives n entries of a scratch slice.
func grown[T any](s *[]T, n int) []T {
	if cap(*s) < n {
		*s = make([]T, n)
	}
	return (*s)[:n]
}

// loneWord is what a last line of one piece costs in texts of four pieces or more, in squares of 1/64 px: 10,000 px² (measured).
const loneWord = 10000 * 64 * 64

// leastSquares breaks the text of the lines anew into as many lines. With orphan, the last line counts nothing but must hold two
// words or more.
func (e *Engine) leastSquares(p *para, lines []line, avail Px, orphan bool) []line {
	n := len(lines)
	last := lines[n-1]
	cand := e.candidates(p, lines[0].start, last.end)
	m := len(cand)
	const inf = 1 << 62
	// best[k*(m+1)+j]: the first k lines end before candidate j
	best := grown(&e.scratch.plan, (n+1)*(m+1))
	for k := range best {
		best[k] = planState{inf, -1}
	}
	best[0].cost = 0
	widths := grown(&e.scratch.spans, (m+1)*(m+1))
	clear(widths)
	for k := 1; k <= n; k++ {
		for j := 1; j <= m; j++ {
			if j == m != (k == n) && (k == n || j == m) {
				continue
			}
			end := last.end
			if j < m {
				end = cand[j]
			}
			for i := j - 1; i >= 0; i-- {
				w := widths[i*(m+1)+j]
				if w == 0 {
					w = p.measure(cand[i], end, false)
					widths[i*(m+1)+j] = w
				}
				if w > avail+textSlack {
					break
				}
				if best[(k-1)*(m+1)+i].cost == inf {
					continue
				}
				free := int64(avail - w)
				cost := best[(k-1)*(m+1)+i].cost + free*free
				if k == n && j-i < 2 && m > 3 {
					cost += loneWord
				}
				if orphan && k == n {
					if j-i < 2 {
						continue
					}
					cost = best[(k-1)*(m+1)+i].cost
				}
				if at := k*(m+1) + j; cost < best[at].cost {
					best[at] = planState{cost, i}
				}
			}
		}
	}
	if best[n*(m+1)+m].cost == inf {
		return nil
	}
	out := make([]line, n)
	for k, j := n, m; k > 0; k-- {
		i := best[k*(m+1)+j].prev
		out[k-1] = line{start: cand[i], end: last.end, width: widths[i*(m+1)+j]}
		if j < m {
			out[k-1].end = cand[j]
		}
		j = i
	}
	out[n-1].forced = last.forced
	return out
}

// hanging gives the width of preserved spaces at the end of a line: they count in the max-content width (measured).
func (p *para) hanging(ln line) Px {
	for i := min(ln.end.item, len(p.items)-1); i >= ln.start.item; i-- {
		it := &p.items[i]
		from, to := max(it.start, ln.start.rune), it.end
		if i == ln.end.item {
			to = min(to, ln.end.rune)
		}
		switch {
		case it.kind == atomItem || it.edge != 0:
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
func (e *Engine) intrinsicPara(p *para, indent Px) (Px, Px) {
	if p.sized {
		return p.minW, p.maxW
	}
	p.sized = true
	var lo, hi Px
	for c := (cursor{}); c.item < len(p.items); {
		ln := e.next(p, c, 1<<28)
		hi = max(hi, ln.width+p.hanging(ln)+indent)
		cand := e.candidates(p, ln.start, ln.end)
		for i, a := range cand {
			b := ln.end
			if i+1 < len(cand) {
				b = cand[i+1]
			}
			lo = max(lo, e.minPiece(p, a, b, indent))
			indent = 0
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

// minPiece is the min-content width of an unbreakable piece; overflow-wrap: anywhere makes it its widest cluster.
func (e *Engine) minPiece(p *para, a, b cursor, indent Px) Px {
	var widest Px
	text := false
	for i := a.item; i < len(p.items) && (i < b.item || i == b.item && b.rune > p.items[i].start); i++ {
		it := &p.items[i]
		if it.kind == atomItem {
			return p.measure(a, b, true) + indent
		}
		if it.kind != textItem {
			continue
		}
		text = true
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
			widest, indent = max(widest, p.width(from, p.trimEnd(from, to))+indent), 0
			continue
		}
		for k := max(it.start, a.rune); k < to; {
			z := k + 1
			for z < to && p.inner[z] {
				z++
			}
			if p.text[k] != ' ' {
				widest, indent = max(widest, p.width(k, z)+indent), 0
			}
			k = z
		}
	}
	if !text {
		return p.measure(a, b, true) + indent
	}
	return widest
}
