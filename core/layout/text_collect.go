package layout

import (
	"unicode"
	"unicode/utf8"

	"ziegel/core/css"
)

// paragraph collects and shapes the inline content of b.
func (e *Engine) paragraph(b *Box) *para {
	if b.para != nil {
		if b.para.stale {
			b.para.scale()
		}
		return b.para
	}
	p := &para{rtl: b.rtl()}
	b.para = p
	c := &collector{e: e, p: p, space: true, letter: e.letterBefore(b)}
	for _, k := range b.kids {
		c.box(k)
	}
	p.soft = breakBefore(p)
	p.divide()
	if old := e.paras[paraKey{b.key}]; old != nil && old.sameText(p) {
		p.sum, p.kern, p.inner, p.pieces, p.gains, p.lead = old.sum, old.kern, old.inner, old.pieces,
			old.gains, old.lead
		for i := range p.pieces { // the boxes are new
			p.pieces[i].box = p.owner[p.pieces[i].start]
		}
	} else {
		e.shape(p)
	}
	if b.key != nil {
		e.paras[paraKey{b.key}] = p
	}
	return p
}

// divide breaks texts where the direction changes: each part is measured, and rounded up to 1/64 px, by itself
// (measured).
func (p *para) divide() {
	if !p.ordered(p.rtl) {
		return
	}
	levels := p.levelsAs(p.rtl)
	var items []item
	for _, it := range p.items {
		for i := it.start + 1; it.kind == textItem && i < it.end; i++ {
			if levels[i] != levels[i-1] {
				part := it
				part.end, it.start = i, i
				items = append(items, part)
			}
		}
		items = append(items, it)
	}
	p.items = items
}

// sameText reports whether the shaped widths of p hold for q: the same runes in the same fonts with the same
// separations.
func (p *para) sameText(q *para) bool {
	if p.rtl != q.rtl || len(p.text) != len(q.text) || len(p.items) != len(q.items) {
		return false
	}
	for i := range p.text {
		if p.text[i] != q.text[i] {
			return false
		}
	}
	for i := range p.items {
		a, b := &p.items[i], &q.items[i]
		differ := a.kind != b.kind || a.start != b.start || a.end != b.end || a.edged() != b.edged() ||
			a.shaped != b.shaped
		if differ {
			return false
		}
	}
	return true
}

type collector struct {
	e      *Engine
	p      *para
	space  bool // the last rune was a collapsible space, or nothing was there yet
	letter bool // for capitalize: inside a word
}

func (c *collector) add(it item) { c.p.items = append(c.p.items, it) }

func (c *collector) box(k *Box) {
	p := c.p
	at := len(p.text)
	switch {
	case k.outOfFlow():
		c.add(item{kind: outItem, box: k, start: at, end: at})
	case k.sideways() != 0:
		c.add(item{kind: floatItem, box: k, start: at, end: at})
	case k.kind == textBox:
		c.textOf(k)
	case k.kind == breakBox:
		c.add(item{kind: breakItem, box: k, start: at, end: at})
		c.space, c.letter = true, false
	case k.kind == wordBreakBox:
		c.add(item{kind: wbrItem, box: k, start: at, end: at})
	case k.kind == inlineBox:
		kids := c.e.children(k, 0)
		k.edges(0)
		open, closing := k.padding[css.Left]+k.border[css.Left]+k.margin[css.Left],
			k.padding[css.Right]+k.border[css.Right]+k.margin[css.Right]
		c.add(item{kind: openItem, box: k, start: at, end: at, edge: open})
		for _, x := range kids {
			c.box(x)
		}
		at = len(p.text)
		c.add(item{kind: closeItem, box: k, start: at, end: at, edge: closing})
	default:
		c.rune(objectChar, k)
		c.add(item{kind: atomItem, box: k, start: at, end: at + 1})
		c.space, c.letter = false, inWord(lastRune(k))
	}
}

// lastRune gives the last character of the text in a box, 0 when it ends otherwise.
func lastRune(k *Box) rune {
	if k.kind == textBox {
		r, _ := utf8.DecodeLastRuneInString(k.text)
		return r
	}
	if n := len(k.kids); n > 0 {
		return lastRune(k.kids[n-1])
	}
	return 0
}

func (c *collector) rune(r rune, k *Box) {
	c.p.text = append(c.p.text, r)
	c.p.owner = append(c.p.owner, k)
}

// textOf appends a text box, white space collapsed and letter case changed.
func (c *collector) textOf(k *Box) {
	s := k.style
	start := len(c.p.text)
	flush := func() {
		if end := len(c.p.text); end > start {
			c.add(item{kind: textItem, box: k, start: start, end: end, shaped: s.Inherited})
		}
	}
	for _, r := range k.text {
		white := r == ' ' || r == '\t' || r == '\n' || r == '\r' || r == '\f'
		switch {
		case r == '\n' && s.Collapse != "collapse":
			flush()
			at := len(c.p.text)
			c.add(item{kind: breakItem, box: k, start: at, end: at})
			start, c.space, c.letter = at, true, false
		case white && (s.Collapse == "collapse" || s.Collapse == "preserve-breaks"):
			if !c.space {
				c.rune(' ', k)
			}
			c.space, c.letter = true, false
		case r == '\r':
		default:
			for _, x := range transform(s.TextTransform, r, c.letter) {
				c.rune(x, k)
			}
			c.letter = inWord(r)
			c.space = false
		}
	}
	flush()
}

func transform(how string, r rune, inWord bool) []rune {
	switch how {
	case "uppercase":
		if r == 'ß' {
			return []rune("SS")
		}
		return []rune{unicode.ToUpper(r)}
	case "lowercase":
		return []rune{unicode.ToLower(r)}
	case "capitalize":
		if !inWord {
			return []rune{unicode.ToTitle(r)}
		}
	}
	return []rune{r}
}
