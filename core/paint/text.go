package paint

import (
	"fmt"
	"math"
	"slices"
	"sort"
	"unicode"

	"ziegel/core/css"
	"ziegel/core/font"
	"ziegel/core/layout"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// shape gives the outline of a glyph in em.
func (p *painter) shape(face *font.Face, id uint32) *display.Shape {
	key := glyphKey{face, id}
	if s := p.glyphs[key]; s != nil {
		return s
	}
	if p.faces[face] == "" {
		p.faces[face] = fmt.Sprintf("%s-%d", face.Family, len(p.faces))
	}
	steps, colored := face.Outline(id)
	s := &display.Shape{Path: outline(face, steps), Face: p.faces[face], ID: id}
	if colored {
		layers, whole := face.Layers(id)
		if !whole {
			p.miss(nil, "the colors of glyphs of "+face.Family)
		}
		for i, l := range layers {
			s.Layers = append(s.Layers, display.Layer{Ink: l.Ink,
				Color: css.Color{R: l.Color[0], G: l.Color[1], B: l.Color[2], A: l.Color[3]},
				Shape: &display.Shape{Path: outline(face, l.Outline), ID: id,
					Face: fmt.Sprintf("%s-%d", p.faces[face], i)}})
		}
	}
	p.glyphs[key] = s
	return s
}

// outline gives an outline in em, y down.
func outline(face *font.Face, steps []font.OutlineStep) *geom.Path {
	out := &geom.Path{}
	at := func(v [2]float64) (x, y float64) { return v[0] / face.Upem, -v[1] / face.Upem }
	for i, st := range steps {
		x, y := at(st.At[0])
		switch st.Op {
		case font.OutlineMove:
			if i > 0 {
				out.ClosePath()
			}
			out.MoveTo(x, y)
		case font.OutlineLine:
			out.LineTo(x, y)
		case font.OutlineQuad:
			x2, y2 := at(st.At[1])
			out.QuadTo(x, y, x2, y2)
		case font.OutlineCubic:
			x2, y2 := at(st.At[1])
			x3, y3 := at(st.At[2])
			out.CubicTo(x, y, x2, y2, x3, y3)
		}
	}
	if len(steps) > 0 {
		out.ClosePath()
	}
	return out
}

// colored gives a text as it is painted: glyphs of several colors, one color over the other, and the others.
func colored(run *display.Text) []display.Item {
	many := func(g display.Glyph) bool { return len(g.Shape.Layers) > 0 }
	if !slices.ContainsFunc(run.Glyphs, many) {
		return []display.Item{run}
	}
	part := func(c css.Color, g ...display.Glyph) *display.Text {
		one := *run
		one.Words, one.Color, one.Glyphs = "", c, g // the words would stand there as often as there are colors
		return &one
	}
	plain := part(run.Color)
	out := []display.Item{plain}
	for _, g := range run.Glyphs {
		if !many(g) {
			plain.Glyphs = append(plain.Glyphs, g)
			continue
		}
		one := display.Plain() // it fades as a whole, what is in the color of the text once more (measured)
		one.Opacity = run.Color.A
		for _, l := range g.Shape.Layers {
			c := l.Color
			if l.Ink {
				c = run.Color
				c.A *= l.Color.A
			}
			g.Shape = l.Shape
			one.Items = append(one.Items, part(c, g))
		}
		out = append(out, one)
	}
	return out
}

// run gives a piece of text in the color of its box.
func (p *painter) run(b *box, t *layout.DrawnText) *display.Text {
	out := &display.Text{Color: ink(b), Words: t.Text, X: px(t.Rect.X), Y: px(t.Base), Width: px(t.Rect.W),
		Size: b.Style.FontSize, Weight: b.Style.FontWeight, Italic: b.Style.Italic}
	empty := 0
	for _, g := range t.Glyphs {
		if out.Family == "" {
			out.Family = g.Face.Family
			// browsers make what no face has (measured: heavier by 1/24 of the size up to 9 px, by 1/32 from 36 px on)
			if b.Style.FontWeight >= 600 && g.Face.Weight < 600 && g.Face.Weight > 0 && p.synthesized(b, "weight") {
				k := min(1, max(0, (g.Size-9)/27))
				out.Bold = g.Size * (1/24.0 + (1/32.0-1/24.0)*k)
			}
			if b.Style.Italic && !g.Face.Leaning && p.synthesized(b, "style") {
				out.Lean = .25
			}
		}
		s := p.shape(g.Face, g.ID)
		if s.Path.Empty() && len(s.Layers) == 0 && g.Advance > 0 {
			empty++
		}
		out.Glyphs = append(out.Glyphs, display.Glyph{Shape: s, X: px(t.Rect.X) + g.X,
			Y: px(t.Base) + g.Y, Size: g.Size})
	}
	if empty > blanks(t.Text) {
		p.miss(b.Element, "letters that the page brings no font for: the shipped faces only know how wide they are")
	}
	return out
}

// blanks counts the signs of a text that have no shape in any font.
func blanks(text string) (n int) {
	for _, r := range text {
		if unicode.IsSpace(r) || !unicode.IsPrint(r) {
			n++
		}
	}
	return n
}

func (p *painter) synthesized(b *box, what string) bool {
	return b.read.Word("font-synthesis-"+what) != "none"
}

// texts paints the own text of a box: shadows, lines under and over, letters, lines through.
func (p *painter) texts(b *box) []display.Item {
	var out []display.Item
	lines := p.decorations(b)
	if v := b.read.Value("-webkit-text-stroke-width"); v != nil {
		for _, part := range css.Parts(v) { // the shorthand gives all of its value
			if w, ok := b.read.Px(part); ok && w > 0 {
				p.miss(b.el, "-webkit-text-stroke")
			}
		}
	}
	if v := b.read.Value("text-emphasis-style"); v != nil && css.Word(v) != "none" {
		p.miss(b.el, "text-emphasis")
	}
	for i := range b.Texts {
		t := &b.Texts[i]
		if len(t.Glyphs) == 0 || p.unseen(b, t.Rect) {
			continue
		}
		run := p.run(b, t)
		var under, through []display.Item
		for _, l := range lines {
			a, z := p.decorate(b, t, run, l)
			under, through = append(under, a...), append(through, z...)
		}
		all := append(append(append([]display.Item(nil), under...), colored(run)...), through...)
		all = append(p.textShadows(b, all), all...)
		if b.Inside == css.VerticalLR {
			all = []display.Item{mirrored(t.Rect, all)}
		}
		out = append(out, all...)
	}
	return out
}

// textShadows gives what lies under a text, the first shadow on top.
func (p *painter) textShadows(b *box, text []display.Item) []display.Item {
	v := b.read.Value("text-shadow")
	if v == nil || css.Word(v) == "none" {
		return nil
	}
	layers := css.SplitCommas(v)
	var out []display.Item
	for i := len(layers) - 1; i >= 0; i-- {
		sh, ok := p.shadow(b, layers[i])
		if !ok || sh.color.A == 0 {
			continue
		}
		g := display.Plain()
		g.Items = inColor(text, sh.color)
		if b.Inside == css.VerticalLR { // letters are mirrored with it
			sh.y = -sh.y
		}
		g.Matrix = geom.Translate(sh.x, sh.y)
		if sh.blur > 0 {
			g.Filters = []display.Filter{{Name: "blur", Amount: sh.blur / 2}}
		}
		out = append(out, g)
	}
	return out
}

// inColor gives text and its lines in one color.
func inColor(items []display.Item, color css.Color) []display.Item {
	var out []display.Item
	for _, it := range items {
		switch it := it.(type) {
		case *display.Text:
			c := *it
			c.Color, c.Words = color, ""
			out = append(out, &c)
		case *display.Fill:
			c := *it
			c.Brush = display.Solid(color)
			out = append(out, &c)
		case *display.Group: // a glyph of several colors, each as strong as it is (measured)
			for _, l := range it.Items {
				if l, ok := l.(*display.Text); ok {
					c := color
					c.A *= l.Color.A
					out = append(out, inColor([]display.Item{l}, c)...)
				}
			}
		}
	}
	return out
}

// decoration is a line that runs along text.
type decoration struct {
	kind, style string
	color       css.Color
	thick       float64
	offset      float64 // text-underline-offset, CSS px
	auto        bool
	box         *box // whose line it is
}

// decorations are the lines that a box and those around it draw along its text (css-text-decor-3, "Line Decoration").
func (p *painter) decorations(b *box) []decoration {
	var out []decoration
	for at := b; at != nil; at = at.parent {
		v := at.read.Value("text-decoration-line")
		for _, part := range css.Parts(v) {
			kind := css.Word(part)
			if kind != "underline" && kind != "overline" && kind != "line-through" {
				continue
			}
			d := decoration{kind: kind, style: at.read.Word("text-decoration-style"), color: ink(at), box: at,
				auto: true}
			if c, ok := at.read.Color("text-decoration-color"); ok {
				d.color = c
			}
			size := at.Style.FontSize
			d.thick = max(1, size/10)
			switch tv := at.read.Value("text-decoration-thickness"); css.Word(tv) {
			case "from-font":
				if t, ok := p.fromFont(at); ok {
					d.thick = t
				}
			default:
				if l, ok := at.read.Length(tv); ok && tv != nil {
					d.thick = max(0, l.At(size))
				}
			}
			if ov := at.read.Value("text-underline-offset"); ov != nil && css.Word(ov) == "" {
				if l, ok := at.read.Length(ov); ok {
					d.offset, d.auto = l.At(size), false
				}
			}
			out = append(out, d)
		}
		if at.OutOfFlow || atomic(at) {
			break
		}
	}
	// the outermost first
	sort.SliceStable(out, func(i, j int) bool { return depth(out[i].box) < depth(out[j].box) })
	return out
}

func depth(b *box) (n int) {
	for ; b != nil; b = b.parent {
		n++
	}
	return n
}

// fromFont gives the thickness of lines that the font of a box asks for.
func (p *painter) fromFont(b *box) (float64, bool) {
	for _, t := range b.Texts {
		for _, g := range t.Glyphs {
			_, thick, _, _ := g.Face.Lines()
			return thick * g.Size / g.Face.Upem, thick > 0
		}
	}
	return 0, false
}

// decorate gives the line of a decoration along one piece of text: what lies under the letters and what over them.
func (p *painter) decorate(b *box, t *layout.DrawnText, run *display.Text, d decoration) (under, over []display.Item) {
	thick := max(1/p.o.Scale, math.Floor(d.thick*p.o.Scale)/p.o.Scale)
	base := px(t.Base)
	var y float64
	asc := base - px(t.Rect.Y)
	switch d.kind {
	case "underline":
		y = base + math.Round(d.offset)
		if d.auto {
			y = base + max(1, math.Ceil(d.thick/2))
		}
	case "overline":
		y = base - asc
	case "line-through":
		y = base - asc + 2*asc/3 - math.Floor(thick/2)
	}
	y = p.pixel(y)
	x0, x1 := px(t.Rect.X), px(t.Rect.Right())
	spans := [][2]float64{{x0, x1}}
	if d.kind != "line-through" && b.read.Word("text-decoration-skip-ink") != "none" {
		spans = skipInk(run, spans[0], y, y+thick)
	}
	var out []display.Item
	for _, s := range spans {
		out = append(out, lineAlong(s, y, thick, d)...)
	}
	if d.kind == "line-through" {
		return nil, out
	}
	return out, nil
}

// lineAlong draws one stretch of a decoration.
func lineAlong(s [2]float64, y, thick float64, d decoration) []display.Item {
	fill := func(y0 float64) display.Item {
		r := geom.Rect{X0: s[0], Y0: y0, X1: s[1], Y1: y0 + thick}
		return &display.Fill{Rect: &r, Brush: display.Solid(d.color)}
	}
	switch d.style {
	case "double":
		return []display.Item{fill(y), fill(y + thick + 1)}
	case "dotted", "dashed":
		line := []geom.Point{{X: s[0], Y: y + thick/2}, {X: s[1], Y: y + thick/2}}
		return []display.Item{&display.Fill{Path: dashed(line, thick, d.style), Brush: display.Solid(d.color)}}
	case "wavy":
		return []display.Item{&display.Fill{Path: wave(s, y, thick), Brush: display.Solid(d.color)}}
	}
	return []display.Item{fill(y)}
}

// wave is a wavy line as a band (as Chromium draws it: waves of 2 * (1 + 2 * thickness) with controls 1.5 + 3 *
// thickness off the middle).
func wave(s [2]float64, y, thick float64) *geom.Path {
	step, off := 1+2*thick, .5+3*thick
	mid := y + thick/2 + off/2
	at := func(x float64) float64 {
		// a cubic whose controls lie off the middle at half its length
		t := math.Mod(x-s[0], 2*step) / (2 * step)
		return mid + off*3*t*(1-t)*(1-2*t)*2
	}
	out := &geom.Path{}
	const fine = .5
	n := int(min(1e5, math.Ceil((s[1]-s[0])/fine)))
	for i := range n + 1 {
		x := min(s[1], s[0]+float64(i)*fine)
		if i == 0 {
			out.MoveTo(x, at(x)-thick/2)
		} else {
			out.LineTo(x, at(x)-thick/2)
		}
	}
	for i := n; i >= 0; i-- {
		x := min(s[1], s[0]+float64(i)*fine)
		out.LineTo(x, at(x)+thick/2)
	}
	out.ClosePath()
	return out
}

// skipInk leaves gaps where letters reach through a line (css-text-decor-4, "text-decoration-skip-ink"), as wide as the
// letters and the line's thickness on both sides.
func skipInk(run *display.Text, span [2]float64, top, bottom float64) [][2]float64 {
	var gaps [][2]float64
	pad := min(bottom-top, 13)
	for _, g := range run.Glyphs {
		box := g.Shape.Path.Bounds()
		if g.Y+box.Y1*g.Size <= top || g.Y+box.Y0*g.Size >= bottom {
			continue
		}
		lo, hi := math.Inf(1), math.Inf(-1)
		for _, seg := range flatten(g.Shape.Path) {
			y0, y1 := g.Y+seg[0].Y*g.Size, g.Y+seg[1].Y*g.Size
			x0, x1 := g.X+seg[0].X*g.Size, g.X+seg[1].X*g.Size
			if max(y0, y1) < top || min(y0, y1) > bottom {
				continue
			}
			for _, at := range [2]float64{0, 1} { // the part of the segment that lies in the band
				y := y0 + (y1-y0)*at
				y = min(bottom, max(top, y))
				k := at
				if y1 != y0 {
					k = (y - y0) / (y1 - y0)
				}
				x := x0 + (x1-x0)*k
				lo, hi = min(lo, x), max(hi, x)
			}
		}
		if hi >= lo {
			gaps = append(gaps, [2]float64{lo - pad, hi + pad})
		}
	}
	sort.Slice(gaps, func(i, j int) bool { return gaps[i][0] < gaps[j][0] })
	var out [][2]float64
	at := span[0]
	for _, g := range gaps {
		if g[0] > at {
			out = append(out, [2]float64{at, min(g[0], span[1])})
		}
		at = max(at, g[1])
	}
	if at < span[1] {
		out = append(out, [2]float64{at, span[1]})
	}
	return out
}

// letters adds the outlines of all text in a box to a path, for backgrounds that show through letters.
func (p *painter) letters(b *box, into *geom.Path) {
	for i := range b.Texts {
		t := &b.Texts[i]
		for _, g := range t.Glyphs {
			m := geom.Translate(px(t.Rect.X)+g.X, px(t.Base)+g.Y).Mul(geom.Scale(g.Size, g.Size))
			into.Add(p.shape(g.Face, g.ID).Path.Transform(m))
		}
	}
	for _, k := range b.kids {
		p.letters(k, into)
	}
}

// marker paints the sign of a list item.
func (p *painter) marker(b *box) []display.Item {
	r := plain(b.Rects[0])
	if b.Inline {
		r = p.snap(b.Rects[0])
	} else { // the box of an inside marker stands on the baseline and has no height
		base := r.Y1
		switch b.Marker {
		case "disclosure-open", "disclosure-closed":
			r = geom.R(r.X0, base-r.W(), r.W(), r.W())
		default:
			asc := px(p.e.DrawText(b.Style, "x").Base)
			size := max(0, r.W()-2)
			top := base - asc + math.Floor(3*(asc-math.Floor(asc*2/3))/2)
			r = geom.R(r.X0+1, top, size, size)
		}
	}
	color := b.read.In.Current
	cx, cy := (r.X0+r.X1)/2, (r.Y0+r.Y1)/2
	path := geom.RectPath(r)
	switch b.Marker {
	case "disc":
		path = geom.Ellipse(cx, cy, r.W()/2, r.H()/2)
	case "circle":
		path = geom.Ellipse(cx, cy, r.W()/2, r.H()/2)
		path.Add(geom.Ellipse(cx, cy, r.W()/2-1, r.H()/2-1))
		path.EvenOdd = true
	case "disclosure-closed":
		path = &geom.Path{}
		path.MoveTo(r.X0, r.Y0)
		path.LineTo(r.X0+r.W()*.866, cy)
		path.LineTo(r.X0, r.Y1)
		path.ClosePath()
	case "disclosure-open":
		path = &geom.Path{}
		path.MoveTo(r.X0, r.Y0)
		path.LineTo(r.X1, r.Y0)
		path.LineTo(cx, r.Y0+r.H()*.866)
		path.ClosePath()
	}
	return []display.Item{&display.Fill{Path: path, Brush: display.Solid(color)}}
}
