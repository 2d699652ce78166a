package check

import (
	"fmt"
	"sort"
	"strings"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/layout"
	"ziegel/core/sweep"
)

// Least contrast of text on its ground (WCAG 2.2, 1.4.3).
const (
	leastContrast      = 4.5
	leastContrastLarge = 3.0
	largeText          = 24.0 // CSS px
	largeBold          = 56.0 / 3
)

// lowContrastName is the rule whose cures are roles of the theme on pages that have one.
const lowContrastName = "contrast-low"

// lowContrast: text that is hard to tell from what it stands on. The worst spot of gradients and pictures counts.
var lowContrast = rule{
	name: lowContrastName, severity: diag.Error,
	what:  "text too near to the color of its ground, light or dark (WCAG 1.4.3)",
	looks: "the letters' color and all that is painted below them, light and dark, pictures by their spots; hover, focus and pressed at 1280 px",
	not:   "text in drawings and pictures, blended and filtered grounds, what is disabled",
	remedies: []Remedy{
		{CSS: "color={color.soft}"},
		{CSS: "color={color.ink}"},
		{CSS: "color={color.accent-ink}"},
		{CSS: "color={color.accent}"},
		{CSS: "opacity=1"},
		{Where: "around", CSS: "color={color.ink}"},
		{Where: "around", CSS: "opacity=1"},
	},
	look: func(s *Scene, r *layout.Result) []hit {
		both := s.l.Doc.TwoSchemes() && !s.l.Dark
		state := uint64(0)
		if both {
			state = r.DarkState()
		}
		if s.colors.asBefore(s, r, state) {
			return nil
		}
		out, placed := s.colors.look(s, r, false)
		if both {
			more, again := s.colors.look(s, r, true)
			out, placed = append(out, more...), placed || again
		}
		s.colors.remember(s, r, state, len(out) == 0 && !placed)
		return out
	},
	say: func(name, _ string, worst hit) string {
		in := ""
		if worst.dark {
			in = ", in the dark"
		}
		return fmt.Sprintf("%s has a contrast of %.2f (%s on %s%s); %.3g is the least", name, worst.value,
			worst.colors[0].Hex(), worst.colors[1].Hex(), in, leastFor(worst.size, worst.bold))
	},
	cure: func(part string, h hit) string {
		for _, token := range []string{"#000000", "#ffffff"} {
			if c, ok := css.ParseColor(css.Tokenize(token), css.ColorContext{}); ok &&
				css.Contrast(c, h.colors[1]) >= leastFor(h.size, h.bold) {
				return fmt.Sprintf("%s: {color: \"%s\"}", part, token)
			}
		}
		return ""
	},
}

func leastFor(size float64, bold bool) float64 {
	if size >= largeText || bold && size >= largeBold {
		return leastContrastLarge
	}
	return leastContrast
}

// looked is what the texts of a page looked like at a width where all could be read.
type looked struct {
	fine  bool
	state uint64
	texts []textLook
	boxes []css.Look
}

type textLook struct {
	el    int
	large bool
}

// asBefore reports whether all boxes look as they did at the last width that this engine laid out, where all texts
// could be read, and no text lies on anything but what it stands in.
func (p *palette) asBefore(s *Scene, r *layout.Result, state uint64) bool {
	v, ok := p.before.Load(r)
	if !ok {
		return false
	}
	last := v.(*looked)
	if !last.fine || last.state != state || len(last.boxes) != len(r.Boxes) {
		return false
	}
	text := 0
	for i := range r.Boxes {
		b := &r.Boxes[i]
		if b.Style.Look() != last.boxes[i] {
			return false
		}
		if s.judged(b) {
			if text >= len(last.texts) || last.texts[text] != (textLook{b.Element.Index, large(b)}) {
				return false
			}
			text++
		}
	}
	return text == len(last.texts) && len(s.sight(r).crossings) == 0
}

// judged reports a box whose text is looked at.
func (s *Scene) judged(b *layout.Fragment) bool {
	return s.own[b.Element.Index] > 0 && shown(b) && (!b.Cropped || !b.Scrolls) && !s.off[b.Element.Index]
}

func large(b *layout.Fragment) bool {
	return leastFor(b.Style.FontSize, b.Style.FontWeight >= 700) == leastContrastLarge
}

// remember notes how the texts look at a width.
func (p *palette) remember(s *Scene, r *layout.Result, state uint64, fine bool) {
	v, _ := p.before.LoadOrStore(r, &looked{})
	l := v.(*looked)
	l.fine, l.state, l.texts, l.boxes = fine, state, l.texts[:0], l.boxes[:0]
	if !fine {
		return
	}
	for i := range r.Boxes {
		b := &r.Boxes[i]
		l.boxes = append(l.boxes, b.Style.Look())
		if s.judged(b) {
			l.texts = append(l.texts, textLook{b.Element.Index, large(b)})
		}
	}
}

type groundKey struct {
	below *ground
	paint *css.Paint
}

type judgeKey struct {
	ground *ground
	paint  *css.Paint
	alpha  float64
	large  bool
}

// stacked gives the ground that a layer makes over another one.
func (p *palette) stacked(s *Scene, below *ground, paint *css.Paint, dark bool) *ground {
	if !paint.Blended && paint.Ground.A == 0 && len(paint.Stops)+len(paint.Pictures) == 0 {
		return below
	}
	key := groundKey{below, paint}
	if g, ok := p.grounds.Load(key); ok {
		return g.(*ground)
	}
	g := &ground{colors: p.apply(s, below.colors, coat{paint: paint, opacity: 1}, nil, dark),
		unclear: below.unclear || paint.Blended, placed: below.placed}
	if paint.Ground.A == 1 && !paint.Blended {
		g.unclear, g.placed = false, false
	}
	g.placed = g.placed || len(paint.Pictures) > 0 || paint.Band > 0
	known, _ := p.grounds.LoadOrStore(key, g)
	return known.(*ground)
}

// stand is an element with its colors.
type stand struct {
	paint  *css.Paint
	look   css.Look
	alpha  float64
	ground *ground
	box    *layout.Fragment
}

// look judges all texts of a layout. placed reports that some were judged by the spot that they stand on.
func (p *palette) look(s *Scene, r *layout.Result, dark bool) (out []hit, placed bool) {
	painter, canvas := &p.light, &p.canvas[0]
	if dark {
		painter, canvas = &p.dark, &p.canvas[1]
	}
	v := &view{p: p, s: s, r: r, dark: dark, canvas: canvas, painter: painter, sight: s.sight(r),
		stands: make([]stand, len(s.l.Doc.Elements))}
	for i := range r.Boxes {
		b := &r.Boxes[i]
		in := v.around(b.Element.Parent)
		look := b.Style.Look()
		if dark {
			look = r.DarkLook(b, in.look)
		}
		paint := painter.Of(look, in.paint.Color)
		v.stands[b.Element.Index] = stand{paint, look, in.alpha * b.Style.Opacity,
			p.stacked(s, in.ground, paint, dark), b}
	}
	for i := range r.Boxes {
		b := &r.Boxes[i]
		if !s.judged(b) {
			continue
		}
		placed = placed || v.stands[b.Element.Index].ground.placed
		if h, ok := v.judge(i); ok {
			h.dark = dark
			out = append(out, h)
		}
	}
	return out, placed
}

// view is a layout in one color scheme.
type view struct {
	p       *palette
	s       *Scene
	r       *layout.Result
	dark    bool
	canvas  *canvas
	painter *css.Painter
	sight   *sight
	stands  []stand // by element
}

// around gives what an element stands in.
func (v *view) around(e *css.Element) stand {
	for x := e; x != nil; x = x.Parent {
		if v.stands[x.Index].paint != nil {
			return v.stands[x.Index]
		}
	}
	return stand{alpha: 1, ground: &v.canvas.ground, paint: &v.canvas.paint}
}

// judge compares a text with the worst of what lies below it.
func (v *view) judge(text int) (hit, bool) {
	b := &v.r.Boxes[text]
	st := &v.stands[b.Element.Index]
	large := large(b)
	for _, c := range v.sight.of(text) {
		if v.sight.layers[c.layer].rank < v.sight.paint.Words[text] {
			return v.spot(text)
		}
	}
	if st.ground.unclear {
		return hit{}, false
	}
	key := judgeKey{st.ground, st.paint, st.alpha, large}
	fine, known := v.p.judged.Load(key)
	if known && fine.(bool) {
		return hit{}, false
	}
	if known && st.ground.placed { // somewhere on the picture it could not be read: here?
		return v.spot(text)
	}
	h, bad := worstOf(b, st, st.ground.colors, large)
	v.p.judged.Store(key, !bad)
	if bad && st.ground.placed {
		return v.spot(text)
	}
	return h, bad
}

// spot compares a text with what lies below it where it stands.
func (v *view) spot(text int) (hit, bool) {
	colors, ok := v.below(text)
	if !ok {
		return hit{}, false
	}
	b := &v.r.Boxes[text]
	return worstOf(b, &v.stands[b.Element.Index], colors, large(b))
}

func worstOf(b *layout.Fragment, st *stand, grounds []css.Color, large bool) (hit, bool) {
	ink := st.paint.Color
	ink.A *= st.alpha
	if ink.A == 0 {
		return hit{}, false
	}
	least := leastContrast
	if large {
		least = leastContrastLarge
	}
	own := ink.Luminance()
	worst := hit{el: b.Element, value: 22, cause: "color", size: b.Style.FontSize, bold: b.Style.FontWeight >= 700}
	for _, g := range grounds {
		seen, light := ink, own
		if ink.A < 1 {
			seen = ink.Over(g)
			light = seen.Luminance()
		}
		if c := css.ContrastOf(light, g.Luminance()); c < worst.value {
			worst.value, worst.colors = c, [2]css.Color{seen, g}
		}
	}
	worst.amount = css.FromFloat(least - worst.value)
	return worst, worst.value < least-.005
}

// coat is a layer of color or of pictures as it is painted.
type coat struct {
	rank    int
	p       *layout.Fragment
	paint   *css.Paint
	src     string // of an img
	opacity float64
	area    layout.Rect // where it shows
}

// below gives the colors that may lie under a text, in the order in which they are painted. ok is false when nobody
// can tell.
func (v *view) below(text int) (colors []css.Color, ok bool) {
	b := &v.r.Boxes[text]
	var coats []coat
	depth := 0
	for x := b.Element; x != nil; x = x.Parent {
		st := &v.stands[x.Index]
		if st.paint == nil {
			continue
		}
		if st.paint.Blended {
			return nil, false
		}
		if st.paint.Ground.A > 0 || len(st.paint.Stops)+len(st.paint.Pictures) > 0 {
			c := coat{rank: -depth, p: st.box, paint: st.paint, opacity: 1, area: b.Text}
			if v.sight.paint != nil {
				c.rank = v.sight.paint.Ground[v.r.ByIndex[x.Index]]
			}
			coats = append(coats, c)
		}
		depth++
	}
	for _, c := range v.sight.of(text) {
		l := &v.sight.layers[c.layer]
		if l.rank >= v.sight.paint.Words[text] {
			continue
		}
		paint := v.stands[l.p.Element.Index].paint
		if l.own >= 0 {
			in := v.stands[l.p.Element.Index]
			look := l.p.Style.Look()
			if v.dark {
				look = v.r.DarkLook(l.p, in.look)
			}
			paint = v.painter.Of(look, in.paint.Color)
		}
		if paint.Blended {
			return nil, false
		}
		coats = append(coats, coat{l.rank, l.p, paint, l.src, l.p.Style.Opacity, l.at})
	}
	sort.SliceStable(coats, func(i, j int) bool { return coats[i].rank < coats[j].rank })
	grounds := v.canvas.ground.colors
	for _, c := range coats {
		before := grounds
		grounds = v.p.apply(v.s, grounds, c, b, v.dark)
		// some of the text stands beside it
		if common := b.Text.Intersect(c.area); common.W < b.Text.W-64 || common.H < b.Text.H-64 {
			grounds = append(grounds[:len(grounds):len(grounds)], before...)
		}
	}
	return grounds, true
}

// apply lays one more layer over the colors that may be seen below a text.
func (p *palette) apply(s *Scene, grounds []css.Color, l coat, text *layout.Fragment, dark bool) []css.Color {
	over := func(top []css.Color) {
		var out []css.Color
		for _, t := range top {
			t.A *= l.opacity
			for _, g := range grounds {
				if c := t.Over(g); !holds(out, c) && len(out) < 64 {
					out = append(out, c)
				}
			}
		}
		if len(out) > 0 {
			grounds = out
		}
	}
	if l.paint.Ground.A > 0 {
		over([]css.Color{l.paint.Ground})
	}
	for i := len(l.paint.Pictures) - 1; i >= 0; i-- {
		pic := p.picture(s, l.paint.Pictures[i], dark)
		if l.p == nil || text == nil || l.paint.Size != "cover" || pic.w == 0 {
			over(p.spots(pic, nil, [4]float64{}, text))
			continue
		}
		over(p.spots(pic, &l.p.Rect, sweep.Drawn(l.p.Rect, pic.w, pic.h, l.paint.Size, l.paint.Spot), text))
	}
	if high := css.FromFloat(l.paint.Band); len(l.paint.Stops) > 0 && high > 0 {
		plain := grounds
		if l.p == nil || text == nil || text.Text.Y < l.p.Y+high { // on the band, and perhaps below it, too
			over(l.paint.Stops)
			grounds = append(grounds[:len(grounds):len(grounds)], plain...)
		}
	} else if len(l.paint.Stops) > 0 {
		over(l.paint.Stops)
	}
	if l.src != "" && !strings.HasPrefix(l.src, "data:") {
		pic := p.picture(s, l.src, dark)
		if pic.w > 0 && l.p.Content.W > 0 && l.p.Content.H > 0 {
			over(p.spots(pic, &l.p.Rect, sweep.Drawn(l.p.Content, pic.w, pic.h, l.paint.Fit, l.paint.Focus), text))
		} else {
			over(p.spots(pic, nil, [4]float64{}, text))
		}
	}
	return grounds
}

func holds(list []css.Color, c css.Color) bool {
	for _, x := range list {
		if x == c {
			return true
		}
	}
	return false
}

// spots gives the darkest and the lightest color of a picture under a text: one of them is the worst. Without a box
// the whole picture counts; shown is where the whole of it would be drawn.
func (p *palette) spots(pic *pictured, box *layout.Rect, shown [4]float64, text *layout.Fragment) []css.Color {
	if pic.grid == nil {
		return extremes(pic.list)
	}
	g := pic.grid
	x0, y0, x1, y1 := 0, 0, g.Columns, g.Rows
	if box != nil {
		x0, y0, x1, y1 = sweep.CellsUnder(text.Text.Intersect(*box), shown, g.Columns, g.Rows)
	}
	var list []css.Color
	for y := y0; y < y1; y++ {
		for x := x0; x < x1; x++ {
			list = append(list, css.FromNRGBA(g.Cells[y*g.Columns+x]))
		}
	}
	return extremes(list)
}

func extremes(list []css.Color) []css.Color {
	if len(list) < 2 {
		return list
	}
	dark, light := list[0], list[0]
	least, most := dark.Luminance(), light.Luminance()
	for _, c := range list[1:] {
		switch l := c.Luminance(); {
		case l < least:
			dark, least = c, l
		case l > most:
			light, most = c, l
		}
	}
	return []css.Color{dark, light}
}
