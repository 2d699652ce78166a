package layout

import (
	"unicode"

	"ziegel/core/css"
	"ziegel/core/font"
)

// lineBreaker looks for the end of one line: the last place to break before which everything fits.
type lineBreaker struct {
	e        *Engine
	p        *para
	start    cursor
	avail    Px
	done     Px // width of all that is behind, with trailing spaces
	trimmed  Px // and without
	unopened Px // without those before the open items that stand directly before this item
	hyphen   Px // a soft hyphen at the place looked at
	best     line
	have     bool // there is such a place
}

// next breaks one line that starts at c.
func (e *Engine) next(p *para, c cursor, avail Px) line { return p.withBreak(e.nextLine(p, c, avail)) }

func (e *Engine) nextLine(p *para, c cursor, avail Px) line {
	c = p.skipSpaces(c)
	l := lineBreaker{e: e, p: p, start: c, avail: avail, done: p.leadAt(c) + p.again(c)}
	for i := c.item; i < len(p.items); i++ {
		it := &p.items[i]
		if i == c.item || p.items[i-1].kind != openItem {
			l.unopened = l.trimmed
		}
		ended := false
		var ln line
		switch it.kind {
		case openItem, closeItem:
			l.done += it.edge
			if it.edged() {
				if l.trimmed += it.edge; it.kind == openItem { // what closes takes no space into it (measured)
					l.trimmed = l.done
				}
				ended = it.kind == closeItem && l.isOver(l.trimmed)
				ln = l.best
				if cut, ok := l.beforeEdge(i); ok {
					return cut
				}
			}
		case breakItem:
			if l.isOver(l.trimmed) {
				return l.best
			}
			end, edges := p.closed(i + 1)
			return line{start: c, end: end, width: l.trimmed + edges, forced: true}
		case atomItem:
			ended = l.atom(it, i)
			ln = l.best
		case textItem:
			ln, ended = l.text(it, i)
		}
		if ended {
			return ln
		}
	}
	if l.isOver(l.trimmed) {
		return l.best
	}
	return line{start: c, end: cursor{len(p.items), len(p.text)}, width: l.trimmed, hyphen: l.hyphen}
}

// withBreak lets a line have the forced break that follows it, spaces and ends of boxes between.
func (p *para) withBreak(ln line) line {
	if ln.forced {
		return ln
	}
	for c := p.skipSpaces(ln.end); c.item < len(p.items); c.item++ {
		switch it := &p.items[c.item]; {
		case it.kind == closeItem && !it.edged():
			c = p.skipSpaces(cursor{c.item + 1, it.end})
			c.item--
		case it.kind == breakItem:
			var edges Px
			ln.end, edges = p.closed(c.item + 1)
			ln.width, ln.forced = ln.width+edges, true
			return ln
		default:
			return ln
		}
	}
	return ln
}

// closed gives the place behind the boxes that close at item i, right behind a forced break, and their edges: they are
// on the line that it ends (measured).
func (p *para) closed(i int) (at cursor, edges Px) {
	at = cursor{i, p.items[i-1].end}
	for ; at.item < len(p.items) && p.items[at.item].kind == closeItem; at.item++ {
		edges += p.items[at.item].edge
		at.rune = p.items[at.item].end
	}
	return at, edges
}

// fits reports whether a width has room on the line.
func (l *lineBreaker) fits(w Px) bool { return w <= l.avail+textSlack }

// isOver reports that so much is too wide and that there is a place before it where the line can end.
func (l *lineBreaker) isOver(w Px) bool {
	if l.fits(w) || !l.have {
		return false
	}
	l.e.over(w)
	return true
}

// atom takes an atomic box on; ended reports that the line ends before it.
func (l *lineBreaker) atom(it *item, i int) (ended bool) {
	later := i > l.start.item || it.start > l.start.rune
	allowed := l.p.soft[it.start] && later && !l.p.firstOnLine(l.start, i) && (l.fits(l.unopened) || !l.have)
	if allowed {
		l.best, l.have = line{start: l.start, end: l.p.before(i), width: l.unopened}, true
	}
	l.done += it.box.W + it.box.margin[css.Left] + it.box.margin[css.Right]
	l.trimmed = l.done
	return !l.fits(l.trimmed) && l.have
}

// text takes an item of text on, place by place where it may be broken. ended reports that the line ends as it says.
func (l *lineBreaker) text(it *item, i int) (ln line, ended bool) {
	p, c := l.p, l.start
	from := max(it.start, c.rune)
	anywhere := breaksAnywhere(it.box.style)
	for k := from; k <= it.end; k++ {
		// no need to look for the end of a long word
		forced := anywhere && !l.have && k > from && k < it.end && !p.soft[k] && !l.fits(l.done+p.width(from, k))
		if forced {
			if cut, ok := l.emergency(i, from, it.end); ok {
				return cut, true
			}
		}
		barred := k >= len(p.text) || !p.soft[k] || k <= c.rune || k == it.end && !p.breakHere(i, k)
		if barred {
			continue
		}
		at, w := cursor{i, k}, l.trimmed
		switch {
		case k == from:
			if i == c.item || p.text[k-1] != objectChar {
				continue // the text before it has offered this place
			}
			at, w = p.before(i), l.unopened
		case k == it.end:
			at = p.after(i, k)
		}
		if t := p.trimEnd(from, k); t > from {
			w = l.done + p.broken(from, t)
		}
		edges := Px(0)
		if k == it.end {
			edges = p.closing(i, at.item)
		}
		if edges > 0 && p.trimEnd(from, k) == k { // behind a space they go with the line, room or not (measured)
			w, edges = w+edges, 0
		}
		if p.text[k-1] == '\u00ad' {
			l.hyphen = l.e.hyphenWidth(p.owner[k-1].style)
		}
		w += l.hyphen
		if l.isOver(w) {
			return l.best, true
		}
		ends := line{start: c, end: at, width: w + edges, hyphen: l.hyphen}
		if !l.fits(w) {
			if cut, ok := l.emergency(i, from, it.end); ok {
				return cut, true
			}
			return ends, true
		}
		l.best, l.have, l.hyphen = ends, true, 0
	}
	if t := p.trimEnd(from, it.end); t > from {
		l.trimmed = l.done + p.width(from, t)
	}
	if l.isOver(l.trimmed) {
		return l.best, true
	}
	if !l.fits(l.trimmed) {
		if cut, ok := l.emergency(i, from, it.end); ok {
			return cut, true
		}
	}
	l.done += p.width(from, it.end)
	return line{}, false
}

func breaksAnywhere(s *css.Style) bool {
	return !s.NoWrap && (s.OverflowWrap != "normal" || s.WordBreak == "break-word")
}

// emergency breaks inside a word of item i, which goes from..end on the line, where overflow-wrap allows it, after as
// many clusters as fit, at least one.
func (l *lineBreaker) emergency(i, from, end int) (line, bool) {
	p, c, done := l.p, l.start, l.done
	l.e.cut = true
	if it := &p.items[i]; !breaksAnywhere(it.box.style) {
		atStart := from == it.start && i > c.item && from > c.rune && p.text[from-1] != ' ' &&
			p.text[from-1] != objectChar &&
			breaksAnywhere(p.owner[from-1].style)
		if atStart {
			// what stands before it may break anywhere, also at its end
			return line{start: c, end: p.before(i), width: done}, true
		}
		return line{}, false
	}
	at := from
	for k := from + 1; k <= end; k++ {
		if k < end && p.inner[k] && !unicode.IsLetter(p.text[k]) { // the letters of a ligature part
			continue
		}
		if !l.fits(done + p.broken(from, k)) {
			if at == from && (done > 0 || i > c.item && from > c.rune) { // nothing of this word fits here
				end := cursor{i, from}
				if from == p.items[i].start {
					end = p.before(i)
				}
				if end.item > c.item || end.rune > c.rune { // a line has one cluster at least, however little room
					return line{start: c, end: end, width: done}, true
				}
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

// beforeEdge breaks before the last cluster of a word that may break anywhere, where the end of the box that closes at
// item i has no room behind it (measured).
func (l *lineBreaker) beforeEdge(i int) (line, bool) {
	p := l.p
	if p.items[i].kind != closeItem || l.have || l.fits(l.trimmed) {
		return line{}, false
	}
	j := i - 1
	for j >= l.start.item && p.items[j].kind == closeItem {
		j--
	}
	if j < l.start.item || p.items[j].kind != textItem || !breaksAnywhere(p.items[j].box.style) {
		return line{}, false
	}
	from, k := max(p.items[j].start, l.start.rune), p.items[j].end-1
	for k > from && p.inner[k] {
		k--
	}
	if k <= from {
		return line{}, false
	}
	l.e.cut = true
	width := l.done - p.width(from, p.items[j].end) + p.broken(from, k)
	for _, it := range p.items[j+1 : i+1] {
		width -= it.edge
	}
	return line{start: l.start, end: cursor{j, k}, width: width, cut: true}, true
}

func (e *Engine) hyphenWidth(s *css.Style) Px {
	if h := &e.hyphen; h.style != s.Inherited || h.size != s.FontSize || h.space != s.LetterSpacing {
		*h = hyphenOf{s.Inherited, s.FontSize, s.LetterSpacing, e.shapeHyphen(s)}
	}
	return e.hyphen.width
}

func (e *Engine) shapeHyphen(s *css.Style) Px {
	faces := e.fonts.Find(WantOf(s))
	if len(faces) == 0 {
		return 0
	}
	text := hyphenOn(s, faces[0])
	pre := faces[0].Shape(text, featuresOf(s)).Prefix(s.FontSize, s.LetterSpacing, 0, text)
	return ceilPx(pre[len(text)])
}

// hyphenOn is what stands at the end of a line that ends in a word: what the style says, else a hyphen that the face
// has (css-text-3, section 5.3).
func hyphenOn(s *css.Style, face *font.Face) []rune {
	switch {
	case s.Hyphen != "":
		return []rune(s.Hyphen)
	case face.Has('\u2010'):
		return []rune{'\u2010'}
	}
	return []rune{'-'}
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
		if it.kind == atomItem || it.kind == textItem && p.trimEnd(max(it.start, c.rune),
			it.end) > max(it.start, c.rune) {
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
	deep := 0 // in boxes that open here: they go on to the next line unless they close before
	for ; j < len(p.items) && p.items[j].kind != textItem && p.items[j].kind != atomItem; j++ {
		switch p.items[j].kind {
		case openItem:
			deep++
		case closeItem:
			deep = max(0, deep-1)
			fallthrough
		case outItem, floatItem:
			if deep == 0 {
				last = j + 1
			}
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
			if it.edged() {
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
