package layout

import (
	"maps"
	"math"
	"strings"
	"unicode"

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
	floatItem
	wbrItem
)

const objectChar = '\uFFFC'

// longestPiece bounds what is shaped at once, in runes: no word that anybody reads is longer.
const longestPiece = 1 << 14

// shape measures the text: runs of one font are shaped in one piece, across element borders (measured).
func (e *Engine) shape(p *para) {
	n := len(p.text)
	p.sum, p.kern, p.inner, p.pieces = make([]int64, n+1), make([]int64, n), make([]bool, n), nil
	scripts := font.Scripts(p.text)
	var key shapeKey
	var feats font.Features
	var first *Box
	start := -1
	flush := func(end int) {
		if start >= 0 && end > start && key.face != nil {
			run := font.Run{RTL: key.rtl, Script: key.script}
			p.pieces = append(p.pieces, shapedPiece{start, end, key.face,
				key.face.ShapeRun(p.text[start:end], feats, run), feats, key.small, run, first})
		}
		start = -1
	}
	for _, it := range p.items {
		if it.kind != textItem {
			apart := (it.kind == openItem || it.kind == closeItem) &&
				(it.box.style.VerticalAlign != "baseline" || it.box.style.UnicodeBidi != "normal")
			// CSS Text 3, section 8.6
			noText := it.kind == atomItem || it.kind == breakItem || it.kind == wbrItem || it.edged() || apart
			if noText {
				flush(it.start)
			}
			continue
		}
		s := it.box.style
		faces := e.fonts.Find(WantOf(s))
		f := featuresOf(s)
		k := shapeKey{size: s.FontSize, weight: s.FontWeight, italic: s.Italic, letter: s.LetterSpacing,
			word: s.WordSpacing, feats: f.Key(), rtl: p.runsLeft(it.start)}
		plain, plainKey := f, k.feats
		for i := it.start; i < it.end; i++ {
			if k.face = faceFor(faces, p.text[i]); start >= 0 && unseen(p.text[i]) {
				k.face = key.face // pairs are kerned over what is not seen (measured)
			}
			if scripts != nil {
				k.script = scripts[i]
			}
			if s.Caps != "normal" {
				f, k.small, k.raised = capsOf(s, k.face, plain, &p.text[i])
				if k.feats = plainKey; len(f.Tags) != len(plain.Tags) {
					k.feats = f.Key()
				}
			}
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

// edged reports an edge of an inline box with a margin, a border or a padding, even where they come to nothing
// together: text is shaped apart on its sides, and a line that holds it is one (css-text-3, section 8.6).
func (it *item) edged() bool {
	if it.edge != 0 {
		return true
	}
	k, side := it.box, css.Left
	switch it.kind {
	case openItem:
	case closeItem:
		side = css.Right
	default:
		return false
	}
	return k.margin[side] != 0 || k.padding[side] != 0 || k.border[side] != 0
}

// scale computes the widths of the shaped text at the sizes that its styles have now.
func (p *para) scale() {
	p.stale, p.sized, p.fit = false, false, fit{}
	clear(p.sum)
	clear(p.kern)
	for _, pc := range p.pieces {
		s := pc.box.style
		text := p.text[pc.start:pc.end]
		pre := pc.shape.Prefix(pc.size(), s.LetterSpacing, s.WordSpacing, text)
		kern := math.Floor(pc.face.Effective(pc.size())*65536) / pc.face.Upem
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

// smallCaps is how large capitals are that stand for small ones, of the size of the font (measured: to whole px).
const smallCaps = .7

// size is the size of the font of a piece, CSS px.
func (pc *shapedPiece) size() float64 { return capsSize(pc.box.style, pc.small) }

func capsSize(s *css.Style, small bool) float64 {
	if small {
		return math.Round(s.FontSize * smallCaps)
	}
	return s.FontSize
}

// capsWidth measures a text in small capitals in one line, 1/65536 px.
func capsWidth(s *css.Style, face *font.Face, list []rune) (sum int64) {
	plain := featuresOf(s)
	from := 0
	var feats font.Features
	var was [2]bool
	for i := 0; i <= len(list); i++ {
		var is [2]bool
		f := plain
		if i < len(list) {
			f, is[0], is[1] = capsOf(s, face, plain, &list[i])
		}
		if i > from && (i == len(list) || is != was) {
			part := list[from:i]
			sum += face.Shape(part, feats).Prefix(capsSize(s, was[0]), s.LetterSpacing, s.WordSpacing, part)[len(part)]
			from = i
		}
		feats, was = f, is
	}
	return sum
}

// capsFeatures are the features by which a face has small capitals: of small letters, and of capitals.
var capsFeatures = map[string][]string{
	"small-caps":      {"smcp"},
	"all-small-caps":  {"smcp", "c2sc"},
	"petite-caps":     {"pcap"},
	"all-petite-caps": {"pcap", "c2pc"},
	"titling-caps":    {"titl"},
}

// capsOf gives the features for a letter in small capitals (CSS Fonts 4, "font-variant-caps"): those of the face, or
// else none, and the letter is a smaller capital; raised tells that it was a small letter, for they are shaped by
// themselves (measured). Petite ones that a face has not are small ones.
func capsOf(s *css.Style, face *font.Face, f font.Features, r *rune) (feats font.Features, small, raised bool) {
	caps := s.Caps
	if caps == "unicase" || face == nil {
		return f, false, false
	}
	list := capsFeatures[caps]
	if !face.Offers(list...) && strings.Contains(caps, "petite") {
		caps = strings.Replace(caps, "petite", "small", 1)
		list = capsFeatures[caps]
	}
	if face.Offers(list...) {
		tags := map[string]uint32{}
		for _, tag := range list {
			tags[tag] = 1
		}
		maps.Copy(tags, f.Tags)
		f.Tags = tags
		return f, false, false
	}
	if caps == "titling-caps" || s.NoSmallCaps {
		return f, false, false
	}
	upper := unicode.ToUpper(*r)
	raised = upper != *r
	*r = upper
	return f, raised || caps == "all-small-caps", raised
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
			settled := !p.soft[k] || p.text[k] == ' ' || p.text[k-1] == ' ' || p.text[k] == objectChar ||
				p.text[k-1] == objectChar || pc.shape.Kern[k-pc.start] == 0
			if settled {
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
			alone := pc.face.Shape(p.text[k:end], pc.feats)
			var units float64
			for i := range alone.Kern[:max(0, len(alone.Kern)-1)] {
				units += alone.Kern[i] - pc.shape.Kern[k-pc.start+i]
			}
			if units != 0 {
				p.gains = append(p.gains, gain{k, units, pc.face, pc.small})
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
		p.lead[g.rune] = Px(math.Round(g.units * g.face.Effective(capsSize(p.owner[g.rune].style,
			g.small)) / g.face.Upem * 64))
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

// unseen reports a sign that only says how text runs.
func unseen(r rune) bool {
	return r >= '\u200e' && r <= '\u200f' || r >= '\u202a' && r <= '\u202e' || r >= '\u2066' && r <= '\u2069'
}

// runsLeft reports a rune that is shaped and drawn from right to left.
func (p *para) runsLeft(i int) bool {
	if i < len(p.levels) {
		return p.levels[i]%2 == 1
	}
	return p.rtl
}
