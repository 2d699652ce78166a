package layout

import (
	"math"
	"strings"
	"unicode"
	"unicode/utf8"

	"github.com/go-text/typesetting/segmenter"

	"ziegel/core/css"
	"ziegel/core/font"
)

const (
	textItem itemKind = iota
	openItem
	closeItem
	atomItem
	breakItem // forced
	outItem   // out of flow: only its static position matters
	wbrItem
)

const objectChar = '\uFFFC'

// paragraph collects and shapes the inline content of b.
func (e *Engine) paragraph(b *Box) *para {
	if b.para != nil {
		if b.para.stale {
			b.para.scale()
		}
		return b.para
	}
	p := &para{}
	b.para = p
	c := &collector{e: e, p: p, space: true}
	for _, k := range b.kids {
		c.box(k)
	}
	p.soft = breakBefore(p)
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

// sameText reports whether the shaped widths of p hold for q: the same runes in the same fonts with the same
// separations.
func (p *para) sameText(q *para) bool {
	if len(p.text) != len(q.text) || len(p.items) != len(q.items) {
		return false
	}
	for i := range p.text {
		if p.text[i] != q.text[i] {
			return false
		}
	}
	for i := range p.items {
		a, b := &p.items[i], &q.items[i]
		if a.kind != b.kind || a.start != b.start || a.end != b.end || (a.edge != 0) != (b.edge != 0) ||
			a.shaped != b.shaped {
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

func inWord(r rune) bool {
	return unicode.IsLetter(r) || unicode.IsDigit(r) || r == '\'' || r == '\u2019' || r == '_'
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

// longestPiece bounds what is shaped at once, in runes: no word that anybody reads is longer.
const longestPiece = 1 << 14

// shape measures the text: runs of one font are shaped in one piece, across element borders (measured).
func (e *Engine) shape(p *para) {
	n := len(p.text)
	p.sum, p.kern, p.inner, p.pieces = make([]int64, n+1), make([]int64, n), make([]bool, n), nil
	var key shapeKey
	var feats font.Features
	var first *Box
	start := -1
	flush := func(end int) {
		if start >= 0 && end > start && key.face != nil {
			p.pieces = append(p.pieces, shapedPiece{start, end, key.face,
				key.face.Shape(p.text[start:end], feats), first})
		}
		start = -1
	}
	for _, it := range p.items {
		if it.kind != textItem {
			aligned := (it.kind == openItem || it.kind == closeItem) && it.box.style.VerticalAlign != "baseline"
			// CSS Text 3, section 8.6
			if it.kind == atomItem || it.kind == breakItem || it.kind == wbrItem || it.edge != 0 || aligned {
				flush(it.start)
			}
			continue
		}
		s := it.box.style
		faces := e.fonts.Find(WantOf(s))
		f := featuresOf(s)
		k := shapeKey{size: s.FontSize, weight: s.FontWeight, italic: s.Italic, letter: s.LetterSpacing,
			word: s.WordSpacing, feats: f.Key()}
		for i := it.start; i < it.end; i++ {
			k.face = faceFor(faces, p.text[i])
			if start < 0 || k != key || i-start >= longestPiece {
				flush(i)
				start, key, feats, first = i, k, f, it.box
			}
		}
	}
	flush(n)
	p.findGains()
	p.scale()
}

// scale computes the widths of the shaped text at the sizes that its styles have now.
func (p *para) scale() {
	p.stale, p.sized, p.fit = false, false, fit{}
	clear(p.sum)
	clear(p.kern)
	for _, pc := range p.pieces {
		s := pc.box.style
		text := p.text[pc.start:pc.end]
		pre := pc.shape.Prefix(s.FontSize, s.LetterSpacing, s.WordSpacing, text)
		kern := math.Floor(pc.face.Effective(s.FontSize)*65536) / pc.face.Upem
		for i := range text {
			p.sum[pc.start+i+1] = pre[i+1] - pre[i]
			p.inner[pc.start+i] = pc.shape.Inner[i]
			if pc.shape.Kern[i] != 0 {
				p.kern[pc.start+i] = int64(math.Round(pc.shape.Kern[i] * kern))
			}
		}
	}
	start := int64(0) // of the line, as far as forced breaks tell
	next := 0
	for i, r := range p.text {
		for ; next < len(p.items) && p.items[next].start <= i; next++ {
			if p.items[next].kind == breakItem {
				start = p.sum[i]
			}
		}
		if r == '\t' {
			p.sum[i+1] = p.tab(i, p.sum[i]-start)
		}
		p.sum[i+1] += p.sum[i]
	}
	p.scaleGains()
	for i := range p.items {
		if it := &p.items[i]; it.kind == textItem {
			it.shaped = it.box.style.Inherited
		}
	}
}

// tab gives how far a preserved tab reaches that starts at an offset of its line, 1/65536 px: to the next tab stop,
// at least half a space away (measured; CSS Text 3, section 4.2, says half a "0").
func (p *para) tab(i int, at int64) int64 {
	s := p.owner[i].style
	for _, pc := range p.pieces {
		if i < pc.start || i >= pc.end {
			continue
		}
		space := pc.face.Shape([]rune{' '}, font.Features{}).Prefix(s.FontSize, s.LetterSpacing, s.WordSpacing,
			[]rune{' '})[1]
		stop := int64(s.TabSize.Px * float64(space))
		if s.TabLength {
			stop = int64(s.TabSize.Px * 65536)
		}
		if stop <= 0 {
			return 0
		}
		next := stop - at%stop
		if next < space/2 {
			next += stop
		}
		return next
	}
	return 0
}

func (p *para) findGains() {
	p.gains = nil
	for _, pc := range p.pieces {
		for k := pc.start + 1; k < pc.end; k++ {
			if !p.soft[k] || p.text[k] == ' ' || p.text[k-1] == ' ' || p.text[k] == objectChar ||
				p.text[k-1] == objectChar || pc.shape.Kern[k-pc.start] == 0 {
				continue
			}
			s := p.owner[k].style
			if s.WordBreak == "break-all" || s.LineBreak == "anywhere" {
				continue
			}
			end := k + 1
			for end < pc.end && p.text[end] != ' ' && end < k+12 {
				end++
			}
			alone := pc.face.Shape(p.text[k:end], featuresOf(s))
			var units float64
			for i := range alone.Kern[:max(0, len(alone.Kern)-1)] {
				units += alone.Kern[i] - pc.shape.Kern[k-pc.start+i]
			}
			if units != 0 {
				p.gains = append(p.gains, gain{k, units, pc.face})
			}
		}
	}
}

// scaleGains turns the gains into lengths.
func (p *para) scaleGains() {
	if len(p.gains) == 0 {
		p.lead = nil
		return
	}
	if p.lead == nil {
		p.lead = make(map[int]Px, len(p.gains))
	}
	for _, g := range p.gains {
		p.lead[g.rune] = Px(math.Round(g.units * g.face.Effective(p.owner[g.rune].style.FontSize) / g.face.Upem * 64))
	}
}

// leadAt gives what a line gains that starts at c.
func (p *para) leadAt(c cursor) Px {
	if p.lead == nil || c.item >= len(p.items) || p.items[c.item].kind != textItem {
		return 0
	}
	return p.lead[max(c.rune, p.items[c.item].start)]
}

func faceFor(faces []*font.Face, r rune) *font.Face {
	if len(faces) == 0 {
		return nil
	}
	if r != ' ' && r != '\u00a0' && r != '\u00ad' && r != '\u200b' {
		for _, f := range faces {
			if f.Has(r) {
				return f
			}
		}
	}
	return faces[0]
}

// width gives the width of runes i to j as one fragment, rounded up to 1/64 px once (measured).
func (p *para) width(i, j int) Px {
	if j <= i {
		return 0
	}
	return ceilPx(p.sum[j] - p.sum[i])
}

// broken is the width of a fragment that ends where a line breaks: kerning over the break is lost.
func (p *para) broken(i, j int) Px {
	if j <= i {
		return 0
	}
	w := p.sum[j] - p.sum[i]
	if j < len(p.text) && p.text[j] != ' ' && p.text[j-1] != ' ' {
		w -= p.kern[j-1]
	}
	return ceilPx(w)
}

func ceilPx(v int64) Px { return Px((v + 1023) >> 10) }

// trimEnd drops collapsible spaces before j, not going below i.
func (p *para) trimEnd(i, j int) int {
	for j > i && p.text[j-1] == ' ' {
		if s := p.owner[j-1].style; s.Collapse == "break-spaces" || s.Collapse == "preserve" && s.NoWrap {
			break
		}
		j--
	}
	return j
}

// breakBefore finds where lines may break.
func breakBefore(p *para) []bool {
	n := len(p.text)
	out := make([]bool, n+1)
	ascii := true
	for _, r := range p.text {
		if r > 126 && r != objectChar {
			ascii = false
		}
	}
	var uax []bool
	if !ascii {
		uax = make([]bool, n+1)
		var seg segmenter.Segmenter
		seg.Init(p.text)
		for it := seg.LineIterator(); it.Next(); {
			l := it.Line()
			uax[l.Offset+len(l.Text)] = true
		}
	}
	for i := 1; i < n; i++ {
		a, b := p.text[i-1], p.text[i]
		st := p.owner[i-1].style
		if p.owner[i-1].kind != textBox {
			st = p.owner[i-1].parent.style
		}
		if b == objectChar && !p.owner[i].parent.style.NoWrap { // before a box what holds the box decides (measured)
			out[i] = a == ' ' || a != '(' && a != '"' && a != '\u00a0'
			continue
		}
		if st.NoWrap && (a != objectChar || p.owner[i].style.NoWrap) {
			continue
		}
		if next := p.owner[i].style; next.NoWrap && p.owner[i].kind == textBox && a != ' ' && a != objectChar {
			continue
		}
		switch {
		case b == ' ':
			out[i] = p.owner[i].style.Collapse == "break-spaces" && a == ' '
		case a == ' ' || a == '\u200b':
			out[i] = true
		case a == objectChar:
			out[i] = true
		case b == objectChar:
			out[i] = a != '(' && a != '"' && a != '\u00a0'
		case st.LineBreak == "anywhere":
			out[i] = true
		case st.WordBreak == "break-all" && (unicode.IsLetter(a) || unicode.IsDigit(a)) &&
			(unicode.IsLetter(b) || unicode.IsDigit(b)):
			out[i] = true
		case a < 127 && b < 127:
			before := rune(' ')
			if i > 1 {
				before = p.text[i-2]
			}
			out[i] = asciiBreak(before, a, b)
		case a == '\u00ad':
			out[i] = st.Hyphens != "none"
		case st.WordBreak == "keep-all" && unicode.IsLetter(a) && unicode.IsLetter(b):
		default:
			out[i] = uax[i]
		}
	}
	for _, it := range p.items {
		if it.kind == wbrItem && it.start > 0 && it.start < n {
			out[it.start] = true
		}
	}
	return out
}

// asciiBreak is the table of break opportunities between two non-space ASCII characters (measured, all 94 x 94
// pairs).
func asciiBreak(before, a, b rune) bool {
	switch a {
	case '-':
		if b >= '0' && b <= '9' {
			return before < 127 && (unicode.IsLetter(before) || unicode.IsDigit(before))
		}
		return !strings.ContainsRune("!$),./:;?]}", b)
	case '?':
		return !strings.ContainsRune("!\"'),./:;?]}", b)
	}
	if strings.ContainsRune("!\"#%&)*+,.:;=>\\]|}~", a) {
		return strings.ContainsRune("(<[{", b)
	}
	return false
}
