package layout

import (
	"maps"
	"math"

	"ziegel/core/css"
	"ziegel/core/font"
)

// featuresOf gives the OpenType features of a text. Those of font-feature-settings win (CSS Fonts 4, section 7.2).
func featuresOf(s *css.Style) font.Features {
	tags := s.Features
	if len(tags) == 0 {
		tags = s.Numeric
	} else if len(s.Numeric) > 0 {
		tags = maps.Clone(s.Numeric)
		maps.Copy(tags, s.Features)
	}
	return font.Features{NoKerning: s.NoKerning, NoLigatures: s.NoLigatures || s.LetterSpacing != 0, Tags: tags}
}

// metrics of a font in a line, 1/64 px: ascent and descent of the text, and of the line-height box around it.
type metrics struct {
	asc, desc    Px // of the glyph box
	above, below Px // with half-leading
	xHeight      Px
}

func (e *Engine) metrics(s *css.Style) metrics {
	if m, ok := e.met[s.Inherited]; ok {
		return m
	}
	var m metrics
	if faces := e.fonts.Find(WantOf(s)); len(faces) > 0 {
		m = lineMetrics(faces[0], s)
	}
	if len(e.met) > 1<<12 { // fluid type makes new styles at every width
		clear(e.met)
	}
	e.met[s.Inherited] = m
	return m
}

func lineMetrics(f *font.Face, s *css.Style) metrics {
	a, d, g := f.Metrics(s.FontSize)
	m := metrics{asc: Px(a) * 64, desc: Px(d) * 64}
	m.xHeight = Px(math.Round(f.XHeight * s.FontSize / f.Upem * 64))
	if s.LineHeight.Normal {
		top := Px(g/2) * 64
		m.above, m.below = m.asc+top, m.desc+Px(g)*64-top
		return m
	}
	lh := lineHeight(s)
	lead := lh - m.asc - m.desc
	half := Px(math.Floor(float64(lead)/2/64)) * 64 // whole px, downwards, also when negative (measured)
	m.above = m.asc + half
	m.below = lh - m.above
	return m
}

// lineHeight gives the used line height: a number times the rounded font size truncates, a length rounds (measured).
func lineHeight(s *css.Style) Px {
	if s.LineHeight.Length {
		return Px(math.Round(s.LineHeight.Px * 64))
	}
	// browsers keep numbers as percentages (measured: 1.3 times 20 px is 26 px)
	percent := float32(s.LineHeight.Number * 100)
	return css.FromFloat(float64(float32(math.Round(s.FontSize*64)/64) * percent / 100))
}

// inlineBoxState is an inline box that is open while a line is placed.
type openBox struct {
	box     *Box
	m       metrics
	shift   Px // of its baseline from the line's, down
	x       Px // left edge of the fragment on this line
	group   *alignedGroup
	grouped Px  // part of the shift that its group added
	spaces  int // before it on this line
}

// alignedGroup is an inline box with vertical-align top or bottom, and what is in it: it waits for the line's height.
type alignedGroup struct {
	above, below Px
	bottom       bool
	boxes        []*openBox
	atoms        []*Box
}

// aligned waits for the line's height: vertical-align top and bottom.
type aligned struct {
	box    *Box
	above  Px // full height
	bottom bool
}

// layoutInline breaks the inline content of b into lines and places everything on them.
func (e *Engine) layoutInline(b *Box, inner space) {
	cw := inner.cbW
	for _, k := range b.kids {
		e.sizeAtoms(k, inner)
	}
	p := e.paragraph(b)
	p.resolveEdges(cw)
	indent := b.style.TextIndent.Resolve(cw)
	if f := &p.fit; f.holds(b, cw, indent) {
		b.contentH, b.first, b.last, b.baselines = f.height, f.first, f.last, f.baselines
		return
	}
	e.need, e.cut = noNeed, false
	p.lines = e.breakLines(p, cw, indent, b.style)
	e.clearFragments(b)
	strut := e.metrics(b.style)
	y := Px(0)
	var open []*openBox
	for n, ln := range p.lines {
		in := Px(0)
		if n == 0 {
			in = indent
		}
		y += e.placeLine(b, p, ln, n, y, cw, in, strut, &open)
	}
	// out-of-flow boxes after the last line
	for i := range p.items {
		if it := &p.items[i]; it.kind == outItem && it.box.staticIn != b {
			it.box.staticIn, it.box.staticX, it.box.staticY = b, b.contentX(), b.contentY()+y
		}
	}
	b.contentH = y
	p.fit = e.fitOf(b, p, cw, indent)
}

// fit is the span of widths in which a paragraph has the same lines at the same places.
type fit struct {
	from, to Px // to is not included; both 0 for a paragraph that may look different at any other width
	height   Px
	x, y     Px // of the content in its box
	// The baselines of its first and last line.
	first, last Px
	baselines   bool
	style       *css.Style
	version     int
}

const noNeed = Px(1 << 30)

// holds reports whether lines that stand stay as they are at another width.
func (f *fit) holds(b *Box, cw, indent Px) bool {
	return cw >= f.from && cw < f.to && indent == 0 && f.style == b.style && f.version == b.style.Version && f.x == b.contentX() && f.y == b.contentY()
}

// fitOf gives the widths at which a paragraph stays as it was just placed: nothing in it depends on the width, every
// line fits, and no line has room for what begins the next one.
func (e *Engine) fitOf(b *Box, p *para, cw, indent Px) fit {
	s := b.style
	plain := s.WrapStyle != "balance" && s.WrapStyle != "pretty" || len(p.lines) <= 1
	if !plain || e.cut || indent != 0 || s.LineClamp > 0 || s.TextAlign != "start" && s.TextAlign != "left" || s.TextAlignLast != "auto" && s.TextAlignLast != "start" && s.TextAlignLast != "left" {
		return fit{}
	}
	for i := range p.items {
		switch it := &p.items[i]; it.kind {
		case atomItem, outItem:
			return fit{}
		case openItem:
			if it.box.style.FluidEdges || it.box.style.Position != css.Static {
				return fit{}
			}
		}
	}
	from := Px(0)
	for _, ln := range p.lines {
		if ln.width > cw+textSlack {
			return fit{}
		}
		from = max(from, ln.width-textSlack)
	}
	return fit{from: from, to: e.need, height: b.contentH, first: b.first, last: b.last, baselines: b.baselines, x: b.contentX(), y: b.contentY(), style: s, version: s.Version}
}

// over notes how wide a line would be with what it has no room for.
func (e *Engine) over(width Px) { e.need = min(e.need, width-textSlack) }

// resolveEdges gives inline boxes with margins or padding in percent what these are in a container.
func (p *para) resolveEdges(cw Px) {
	for i := range p.items {
		it := &p.items[i]
		if it.kind != openItem && it.kind != closeItem || !it.box.style.FluidEdges {
			continue
		}
		k := it.box
		k.edges(cw)
		side := css.Left
		if it.kind == closeItem {
			side = css.Right
		}
		it.edge = k.pad[side] + k.bor[side] + k.mar[side]
	}
}

// sizeAtoms lays out the atomic boxes of an inline subtree.
func (e *Engine) sizeAtoms(k *Box, inner space) {
	switch {
	case k.outOfFlow():
		k.staticIn = nil
	case k.kind == inlineBox:
		k.relBaseW, k.relBaseH = inner.cbW, -1
		if inner.defCB {
			k.relBaseH = inner.cbH
		}
		if in := &k.style.Inset; in[css.Top].HasPercent() || in[css.Bottom].HasPercent() {
			e.percents++
		}
		for _, c := range e.children(k, 0) {
			e.sizeAtoms(c, inner)
		}
	case k.atomic():
		e.layout(k, space{cbW: inner.cbW, cbH: inner.cbH, defCB: inner.defCB, shrink: true})
	}
}

func (e *Engine) clearFragments(b *Box) {
	var walk func(k *Box)
	walk = func(k *Box) {
		k.frags, k.runs = k.frags[:0], k.runs[:0]
		k.origin = b
		if k.kind == inlineBox {
			for _, c := range k.kids {
				walk(c)
			}
		}
	}
	for _, k := range b.kids {
		if k.inlineLevel() && !k.outOfFlow() {
			walk(k)
		}
	}
}

func last(open []*openBox) *openBox {
	if len(open) == 0 {
		return nil
	}
	return open[len(open)-1]
}

func (e *Engine) usedFaces(p *para, s *css.Style, i, j int) []*font.Face {
	faces := e.fonts.Find(WantOf(s))
	var out []*font.Face
	for ; i < j; i++ {
		f := faceFor(faces, p.text[i])
		seen := f == nil || len(faces) > 0 && f == faces[0]
		for _, o := range out {
			seen = seen || o == f
		}
		if !seen {
			out = append(out, f)
		}
	}
	return out
}

func (e *Engine) currentShift(open []*openBox) Px {
	if o := last(open); o != nil {
		return o.shift
	}
	return 0
}

// shiftOf gives how far down the baseline of an inline box sits from the line's.
func (e *Engine) shiftOf(b *Box, open []*openBox, s *css.Style, m metrics) Px {
	parent := e.parentMetrics(b, open)
	base := e.currentShift(open)
	parentSize := b.style.FontSize
	if o := last(open); o != nil {
		parentSize = o.box.style.FontSize
	}
	switch s.VerticalAlign {
	case "sub":
		return base + css.FromFloat(parentSize/5+1)
	case "super":
		return base - css.FromFloat(parentSize/3+1)
	case "middle":
		mid := base - parent.xHeight/2
		return mid + (m.above-m.below)/2
	case "text-top":
		return base - parent.asc + m.above
	case "text-bottom":
		return base + parent.desc - m.below
	case "":
		return base - s.VerticalLength.Resolve(lineHeight(s))
	}
	return base
}

func (e *Engine) parentMetrics(b *Box, open []*openBox) metrics {
	if o := last(open); o != nil {
		return o.m
	}
	return e.metrics(b.style)
}

// atomExtent gives how far an atomic box reaches above and below its baseline, margins included.
func (e *Engine) atomExtent(k *Box) (above, below Px) {
	total := k.H + k.mar[css.Top] + k.mar[css.Bottom]
	base, ok := e.atomBaseline(k)
	if !ok {
		return total, 0
	}
	return k.mar[css.Top] + base, total - k.mar[css.Top] - base
}

func (e *Engine) atomBaseline(k *Box) (Px, bool) {
	if k.kind == replacedBox || !k.baselines {
		if k.kind == replacedBox && k.baselines {
			return k.last, true
		}
		if k.el != nil && k.el.Tag == "button" { // an empty one: the lower edge of its content
			return k.H - k.pad[css.Bottom] - k.bor[css.Bottom], true
		}
		return 0, false
	}
	if k.kind == flexBox || k.kind == gridBox {
		return k.first, true
	}
	if o := k.style.OverflowY; o != "visible" && o != "clip" && !(k.el != nil && k.el.Tag == "button") {
		return 0, false
	}
	return k.last, true
}

func (e *Engine) atomShift(b *Box, open []*openBox, k *Box, up, down Px) Px {
	parent := e.parentMetrics(b, open)
	size := b.style.FontSize
	if o := last(open); o != nil {
		size = o.box.style.FontSize
	}
	switch k.style.VerticalAlign {
	case "middle":
		return -parent.xHeight/2 + (up-down)/2
	case "sub":
		return css.FromFloat(size/5 + 1)
	case "super":
		return -css.FromFloat(size/3 + 1)
	case "text-top":
		return -parent.asc + up
	case "text-bottom":
		return parent.desc - down
	case "":
		return -k.style.VerticalLength.Resolve(lineHeight(k.style))
	}
	return 0
}

// clampHeight gives the height of the first LineClamp lines.
func (b *Box) clampHeight() Px {
	if len(b.para.lines) <= b.style.LineClamp {
		return b.contentH
	}
	total := len(b.para.lines)
	return b.contentH / Px(total) * Px(b.style.LineClamp)
}
