package layout

import (
	"slices"
	"strings"

	"ziegel/core/css"
	"ziegel/core/font"
)

// Drawing gives what was laid out last as a tree to draw, nil when nothing was. It holds until the next layout.
func (e *Engine) Drawing() *Drawn {
	if e.root == nil || e.pass == 0 {
		return nil
	}
	d := &drawer{w: &walker{e: e, r: &Result{}}, boxes: map[*Box]*Drawn{}, shaped: map[*para][][]font.Glyph{}}
	if !e.doc.Counts {
		e.recount()
	}
	return d.box(e.root, frame{m: identity}, nil, [2]float64{})
}

func (d *drawer) box(b *Box, in frame, parent *Drawn, room [2]float64) *Drawn {
	f := d.w.frameOf(b, in)
	if b.kind == textBox {
		d.texts(b, f, parent)
		return nil
	}
	for i := len(b.inside) - 1; i >= 0; i-- { // what it inherits, and is seen through
		k := b.inside[i]
		around := &Drawn{Element: k.el, Style: k.style, Inline: true, Room: room, Parent: parent, Lies: parent.Inside,
			Inside: parent.Inside}
		parent.Kids = append(parent.Kids, around)
		parent = around
	}
	out := &Drawn{Element: b.el, Pseudo: b.pseudo, Style: b.style, Border: b.physical(b.border),
		Padding: b.physical(b.padding), Room: room,
		Parent: parent}
	d.boxes[b] = out
	if parent != nil {
		out.Lies = parent.Inside
	}
	if out.Inside = out.Lies; b.turned {
		out.Inside, out.Turned = b.style.Mode, true
	}
	if parent != nil {
		parent.Kids = append(parent.Kids, out)
		if b.legend {
			parent.Legend = out
		}
	}
	if key, ok := b.key.(pseudoKey); ok && b.el == nil {
		out.Of = key.el
		if k := key.el; b.pseudo == "marker" && len(b.kids) == 0 && k != nil && b.shows == "" {
			out.Marker = b.style.ListStyleType
		}
	}
	out.Shows = b.shows
	if out.OutOfFlow = b.outOfFlow(); out.OutOfFlow {
		if h := containing(b); h != nil {
			out.Holder = d.boxes[h]
		}
	}
	if b.kind == inlineBox || b.kind == breakBox || b.kind == wordBreakBox {
		out.Inline, out.Begun, out.Goes = true, b.begun, b.goes
		for _, fr := range b.fragments {
			dx, dy := f.line(fr.Y)
			out.Rects = append(out.Rects, Rect{mirrored(b.origin, fr.X, fr.W) + f.x + dx, fr.Y + f.y + dy, fr.W, fr.H})
		}
	} else {
		out.Rects = f.partsOf(Rect{f.x, f.y, b.W, b.H})
		rect := out.Rects[0]
		if b.style.MakesContaining {
			if m := transformOf(b.style, rect); m != identity {
				out.Transform = m.public()
			}
		}
	}
	if b.turned {
		out.Transform = b.parent.turn(in.x, in.y).public()
	}
	if b.style.ContainerType == "inline-size" || b.style.ContainerType == "size" {
		room[0] = (b.W - b.inlineEdges()).Float()
		if b.style.ContainerType == "size" {
			room[1] = (b.H - b.blockEdges()).Float()
		}
	}
	if b.style.SnapType != "" {
		dx, dy := d.w.e.snapped(b)
		f.move(-dx, -dy)
	}
	f.open(b)
	if f.columns != nil && b.columns != nil {
		_, _, gap, _ := d.w.e.columnsOf(b, b.W-b.inlineEdges())
		out.Rules = f.columns.rules(gap)
	}
	for _, k := range b.kids {
		d.box(k, f, out, room)
	}
	if b.kind == tableBox {
		d.table(b, f, out)
	}
	if b.para != nil {
		d.shorten(b, out)
	}
	if b.marked() && !b.style.ListInside {
		d.outsideMarker(b, out)
	}
	return out
}

// texts adds the lines of a text box to its parent.
func (d *drawer) texts(b *Box, f frame, parent *Drawn) {
	if len(b.runs) == 0 || b.origin == nil || b.origin.para == nil || parent == nil {
		return
	}
	p, m := b.origin.para, d.w.e.metrics(b.style)
	for _, run := range b.runs {
		if run.to <= run.from {
			continue
		}
		dx, dy := f.line(run.rect.Y)
		t := DrawnText{
			Rect: Rect{mirrored(b.origin, run.rect.X, run.rect.W) + f.x + dx, run.rect.Y + f.y + dy, run.rect.W,
				run.rect.H},
			Line: run.line,
			Base: run.rect.Y + f.y + dy + m.letters,
			Text: string(p.text[run.from:run.to]),
		}
		flip := 0.0
		if run.rtl {
			flip = run.rect.W.Float()
		}
		t.Glyphs = d.glyphs(p, int(run.from), int(run.to), float64(run.gap), flip)
		if run.hyphen {
			end := 0.0
			if n := len(t.Glyphs); n > 0 {
				end = t.Glyphs[n-1].X + t.Glyphs[n-1].Advance
			}
			signs, all := []rune{'\u2010', '-'}, b.style.Hyphen != ""
			if all {
				signs = []rune(b.style.Hyphen)
			}
			for _, sign := range signs {
				g := d.single(b.style, sign, end)
				if len(g) == 0 {
					continue
				}
				t.Glyphs, t.Text = append(t.Glyphs, g...), t.Text+string(sign)
				if end = g[len(g)-1].X + g[len(g)-1].Advance; !all {
					break
				}
			}
		}
		parent.Texts = append(parent.Texts, t)
	}
}

// glyphs places those of runes from..to of a paragraph; gap is what each space is wider, and
// flip how wide letters from right to left are, 0 for others, CSS px.
func (d *drawer) glyphs(p *para, from, to int, gap, flip float64) []DrawnGlyph {
	shaped := d.shaped[p]
	if shaped == nil {
		shaped = make([][]font.Glyph, len(p.pieces))
		d.shaped[p] = shaped
	}
	var out []DrawnGlyph
	for k, pc := range p.pieces {
		if pc.end <= from || pc.start >= to {
			continue
		}
		if shaped[k] == nil {
			shaped[k] = pc.face.GlyphsOfRun(p.text[pc.start:pc.end], pc.feats, pc.run)
		}
		size := pc.face.Effective(pc.size())
		scale := size / pc.face.Upem
		cluster, inside := -1, 0.0
		whole := map[int]float64{} // advances of clusters: from right to left marks come before what they stand on
		for _, g := range shaped[k] {
			whole[g.Rune] += g.Advance * scale
		}
		for _, g := range shaped[k] {
			at := pc.start + g.Rune
			if at < from || at >= to || p.text[at] == '\t' { // a tab is room, whatever its font has for it
				continue
			}
			if g.Rune != cluster {
				cluster, inside = g.Rune, 0
			}
			x := float64(p.sum[at]-p.sum[from]) / 65536
			if gap > 0 {
				for _, r := range p.text[from:at] {
					if r == ' ' {
						x += gap
					}
				}
			}
			pen := x + inside
			if flip > 0 {
				pen = flip - x - whole[g.Rune] + inside
				g.ID = pc.face.Mirrored(p.text[at], g.ID)
			}
			out = append(
				out,
				DrawnGlyph{Face: pc.face, ID: g.ID, Size: size, X: pen + g.X*scale, Y: -g.Y * scale,
					Advance: g.Advance * scale},
			)
			inside += g.Advance * scale
		}
	}
	return out
}

// single gives one sign in a style, x CSS px after the start of a text; nothing when no font has it.
func (d *drawer) single(s *css.Style, sign rune, x float64) []DrawnGlyph {
	face := faceFor(d.w.e.fonts.Find(WantOf(s)), sign)
	if face == nil || !face.Has(sign) {
		return nil
	}
	size := face.Effective(s.FontSize)
	var out []DrawnGlyph
	for _, g := range face.Glyphs([]rune{sign}, featuresOf(s)) {
		out = append(out, DrawnGlyph{Face: face, ID: g.ID, Size: size, X: x + g.X*size/face.Upem,
			Y: -g.Y * size / face.Upem, Advance: g.Advance * size / face.Upem})
	}
	return out
}

// DrawText sets a text in one line of a style, as text fields show their content. Its glyphs start at 0.
func (e *Engine) DrawText(s *css.Style, text string) DrawnText {
	d := &drawer{w: &walker{e: e}}
	m := e.metrics(s)
	out := DrawnText{Text: text, Rect: Rect{H: m.asc + m.desc}, Base: m.asc}
	x := 0.0
	if all := []rune(text); len(all) > 0 { // one face that has all of it kerns it
		if face := faceFor(e.fonts.Find(WantOf(s)), all[0]); face != nil &&
			!slices.ContainsFunc(all, func(r rune) bool { return !face.Has(r) }) &&
			s.LetterSpacing == 0 &&
			s.WordSpacing == 0 {
			size := face.Effective(s.FontSize)
			scale := size / face.Upem
			for _, g := range face.Glyphs(all, featuresOf(s)) {
				out.Glyphs = append(
					out.Glyphs,
					DrawnGlyph{Face: face, ID: g.ID, Size: size, X: x + g.X*scale, Y: -g.Y * scale,
						Advance: g.Advance * scale},
				)
				x += g.Advance * scale
			}
			out.Rect.W = css.FromFloat(x)
			return out
		}
	}
	for _, r := range text {
		g := d.single(s, r, x)
		for i := range g {
			x += g[i].Advance + s.LetterSpacing
		}
		out.Glyphs = append(out.Glyphs, g...)
	}
	out.Rect.W = css.FromFloat(x)
	return out
}

// shorten cuts the lines of a block that end in an ellipsis: those that do not fit it (text-overflow), and the last
// one that a clamp leaves.
func (d *drawer) shorten(b *Box, out *Drawn) {
	s := b.style
	ellipsis := css.Text(s.Look().Value("text-overflow")) == "ellipsis" && s.OverflowX != "visible"
	clamp := s.LineClamp > 0 && b.display == css.ClampBox && len(b.para.lines) > s.LineClamp
	if !ellipsis && !clamp {
		return
	}
	lines := map[int][]*DrawnText{}
	var collect func(k *Drawn)
	collect = func(k *Drawn) {
		for i := range k.Texts {
			lines[k.Texts[i].Line] = append(lines[k.Texts[i].Line], &k.Texts[i])
		}
		for _, kid := range k.Kids {
			if kid.Inline {
				collect(kid)
			}
		}
	}
	collect(out)
	sign := d.single(s, '…', 0)
	width := 0.0
	for _, g := range sign {
		width += g.Advance
	}
	left := out.Rects[0].X + b.contentX()
	right := left + b.W - b.inlineEdges()
	for n, list := range lines {
		if clamp && n >= s.LineClamp {
			for _, t := range list {
				t.Glyphs, t.Text = nil, ""
			}
			continue
		}
		last := list[0]
		for _, t := range list {
			if t.Rect.Right() > last.Rect.Right() {
				last = t
			}
		}
		if !(clamp && n == s.LineClamp-1) && !(ellipsis && last.Rect.Right() > right+32) {
			continue
		}
		end := left.Float() // of what stays
		for _, t := range list {
			for i, g := range t.Glyphs {
				if t.Rect.X.Float()+g.X+g.Advance > right.Float()-width {
					t.Glyphs = t.Glyphs[:i]
					break
				}
				end = max(end, t.Rect.X.Float()+g.X+g.Advance)
			}
		}
		for _, g := range sign {
			g.X += end - last.Rect.X.Float()
			last.Glyphs = append(last.Glyphs, g)
		}
		last.Text += "…"
	}
}

// outsideMarker adds the marker that stands before a list item.
func (d *drawer) outsideMarker(b *Box, out *Drawn) {
	e := d.w.e
	s := e.styler.Pseudo(b.el, "marker", b.style, b.stack)
	if s == nil {
		s = e.styler.Anonymous(b.style, css.Inline)
	}
	if s.HasContent && s.Content == "none" || len(out.Rects) == 0 {
		return
	}
	m := e.metrics(s)
	base := out.Rects[0].Y + b.contentY() + m.above
	if b.baselines {
		base = out.Rects[0].Y + b.first
	}
	left := out.Rects[0].X
	mark := &Drawn{Pseudo: "marker", Of: b.el, Style: s, Inline: true, Parent: out, Room: out.Room}
	kind := b.style.ListStyleType
	text := ""
	src, w, h, pictured := e.named(b.style, "list-style-image", b.style.ListImage)
	switch {
	case s.HasContent && s.Content != "normal":
		text = e.contentText(b.el, "marker", s.Content)
	case pictured: // it stands on the line, 7 px away (measured)
		mark.Shows = src
		mark.Rects = []Rect{{left - b.style.Zoomed(w) - b.style.Zoomed(7), base - b.style.Zoomed(h), b.style.Zoomed(w),
			b.style.Zoomed(h)}}
	case kind == "none":
	case kind == "disc" || kind == "circle" || kind == "square":
		// measured: half of two thirds of the ascent wide, and two thirds of it and 7 px away
		asc := m.letters / 64
		width := (asc*2/3 + 1) / 2
		mark.Marker = kind
		mark.Rects = []Rect{{left - (asc*2/3+7)*64, base - m.asc + 3*(asc-asc*2/3)/2*64, width * 64, width * 64}}
	case kind == "disclosure-open" || kind == "disclosure-closed":
		w := css.FromFloat(.66 * s.FontSize)
		mark.Marker = kind
		mark.Rects = []Rect{{left - w - css.FromFloat(.4*s.FontSize), base - m.asc + (m.asc+m.desc-w)/2, w, w}}
	case len(kind) > 1 && (kind[0] == '"' || kind[0] == '\''):
		text = css.Unquote(kind)
	default:
		text = css.FormatCounter(e.counter(b.el, "list-item"), kind) + ". "
		if b.rtl() {
			text = " ." + strings.TrimSuffix(text, ". ")
		}
	}
	if text != "" {
		t := e.DrawText(s, text)
		t.Rect.X, t.Rect.Y, t.Base = left-t.Rect.W, base-m.asc, base
		mark.Rects, mark.Texts = []Rect{t.Rect}, []DrawnText{t}
	}
	if b.rtl() { // at the other side
		box := out.Rects[0]
		for i := range mark.Rects {
			mark.Rects[i].X = 2*box.X + box.W - mark.Rects[i].X - mark.Rects[i].W
		}
		for i := range mark.Texts {
			mark.Texts[i].Rect.X = mark.Rects[0].X
		}
	}
	out.Kids = append(out.Kids, mark)
}

// Reader reads the values that draw a box. parent is the reader of the box that it inherits from, nil for the root.
func (e *Engine) Reader(d *Drawn, parent *css.Reader) *css.Reader {
	return e.styler.Reader(d.Style, parent, d.Room, e.opts.Dark)
}

// StyleOf gives the style of an element in a drawing, which has no box of its own; parent is that of what holds it.
func (e *Engine) StyleOf(el *css.Element, parent *css.Style) *css.Style {
	return e.styler.Style(el, parent, nil)
}

// ReaderOf reads the values that draw an element in a drawing.
func (e *Engine) ReaderOf(s *css.Style, parent *css.Reader) *css.Reader {
	return e.styler.Reader(s, parent, [2]float64{}, e.opts.Dark)
}

func (m matrix) public() *Transform { return &Transform{m.a, m.b, m.c, m.d, m.e, m.f} }

// TransformOf gives the transform that a style asks for around its origin in a rectangle.
func TransformOf(s *css.Style, r Rect) *Transform { return transformOf(s, r).public() }

// PseudoStyle gives the style of a pseudo-element, nil when no rule speaks of it.
func (e *Engine) PseudoStyle(el *css.Element, name string, parent *css.Style) *css.Style {
	return e.styler.Pseudo(el, name, parent, nil)
}

// Zoom is how many device pixels a CSS px takes in this layout.
func (e *Engine) Zoom() float64 { return e.zoom() }
