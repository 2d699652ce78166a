package css

import (
	"strconv"
	"strings"
	"sync"
)

// Paint is what a style draws, as far as the eye's rules need it. Colors that name currentcolor follow the style's
// own color.
type Paint struct {
	Color    Color      // of the text; alpha counts
	Ground   Color      // background-color
	Stops    []Color    // of gradients behind the text, all layers
	Band     float64    // CSS px: the gradients show in a band so high along the upper edge alone; 0 for everywhere
	Pictures []string   // files behind it, as written
	Size     string     // background-size, when all layers share one keyword
	Spot     [2]float64 // background-position, 0..1, of the layers that share it
	Blended  bool       // a picture, blend mode or filter whose look is not worked out
	Fit      string     // object-fit
	Focus    [2]float64 // object-position, 0..1
	Order    int        // z-index, 0 for auto
}

// Look is what decides the paint of an element at one width in one color scheme.
type Look struct{ spec *specified }

// Look gives the look of a computed style, in the color scheme that it was computed for.
func (s *Style) Look() Look { return Look{s.spec} }

// DarkLook gives the look that an element, or a pseudo-element of it, with this style has when dark colors are asked
// for. parent is the dark look of its parent.
func (s *Styler) DarkLook(e *Element, pseudo string, light *Style, parent Look) Look {
	spec := light.spec
	slots, list := s.slots, e.matched
	if pseudo != "" {
		slots, list = s.pseudos[pseudo], e.pseudo[pseudo]
	}
	if spec == nil || e.Index >= len(slots) {
		return Look{spec}
	}
	key := specKey{spec.mask, noVars, spec.around}
	if parent.spec != nil {
		key.vars = parent.spec.vars
	}
	for i, c := range e.conds {
		if cond := s.doc.conditions[c]; !cond.container && cond.scheme && i < 256 {
			dark := s.media
			dark.Dark = true
			key.mask.first[i>>6] &^= 1 << (uint(i) & 63)
			if dark.eval(cond.query) {
				key.mask.first[i>>6] |= 1 << (uint(i) & 63)
			}
		}
	}
	sl := &slots[e.Index]
	if sl.specs[key] == nil {
		sl.specs[key] = s.cascade(e, list, key)
	}
	return Look{sl.specs[key]}
}

// DarkState tells apart the viewports at which conditions on the color scheme answer differently when dark colors are
// asked for.
func (s *Styler) DarkState() uint64 {
	dark, state := s.media, uint64(1)
	dark.Dark = true
	for _, c := range s.doc.conditions {
		if c.scheme {
			state = state*31 + uint64(bit(dark.eval(c.query)))
		}
	}
	return state
}

// TwoSchemes reports whether a page has colors of its own for those who ask for dark ones.
func (d *Document) TwoSchemes() bool {
	for _, c := range d.conditions {
		if c.scheme {
			return true
		}
	}
	return d.darkScheme
}

// DarkCanvas reports whether the page lets the browser draw its own parts in dark colors.
func (d *Document) DarkCanvas() bool { return d.darkScheme }

// OnlyDark reports a page that is dark for everybody: its root asks for dark colors and takes no light ones, at every
// width.
func (d *Document) OnlyDark() bool {
	if len(d.Elements) == 0 {
		return false
	}
	dark := false
	for _, m := range d.Elements[0].matched {
		for _, decl := range m.rule.decls {
			if decl.name == "color-scheme" && len(m.rule.conds) == 0 {
				dark = mentions(decl.value, "dark") && !mentions(decl.value, "light")
			}
		}
	}
	return dark
}

// paintKey tells apart all that a Paint follows from.
type paintKey struct {
	spec   *specified
	parent Color
}

// Painter reads the paint of looks in one color scheme and keeps what it has read. It may be used by several
// goroutines at once.
type Painter struct {
	Dark  bool
	known sync.Map // paintKey to *Paint
}

// Of gives the paint of a look, inherited being the color of its parent.
func (p *Painter) Of(l Look, inherited Color) *Paint {
	key := paintKey{l.spec, inherited}
	if k, ok := p.known.Load(key); ok {
		return k.(*Paint)
	}
	out := p.read(l, inherited)
	p.known.Store(key, out)
	return out
}

// Value returns the tokens of a declaration in force on a look, var() replaced. nil when nothing declares the
// property. It serves for properties that the layout has no use for.
func (l Look) Value(name string) []Token {
	if l.spec == nil {
		return nil
	}
	return l.spec.values[name]
}

func (p *Painter) read(s Look, inherited Color) *Paint {
	in := ColorContext{Current: inherited, Dark: p.Dark}
	out := &Paint{Color: inherited, Focus: [2]float64{.5, .5}, Fit: "fill"}
	if v := s.Value("color"); v != nil {
		if ident(v) == "initial" {
			v = Tokenize("canvastext")
		}
		if c, ok := ParseColor(v, in); ok {
			out.Color = c
		}
	}
	in.Current = out.Color
	if v := s.Value("-webkit-text-fill-color"); v != nil {
		if c, ok := ParseColor(v, in); ok {
			out.Color = c
		}
	}
	if v := s.Value("background-color"); v != nil {
		if c, ok := ParseColor(v, in); ok {
			out.Ground = c
		}
	}
	for _, layer := range SplitCommas(s.Value("background-image")) {
		for _, part := range split(layer) {
			switch t := part[0]; {
			case strings.HasSuffix(strings.ToLower(t.Text), "gradient("):
				stops, ok := gradientStops(inside(part, 0, len(part)), in)
				out.Stops = append(out.Stops, stops...)
				out.Blended = out.Blended || !ok
			case t.Is("url(") || strings.HasPrefix(strings.ToLower(t.Text), "url("):
				out.Pictures = append(out.Pictures, unquoteURL(part))
			}
		}
	}
	if len(out.Stops) > 0 {
		out.Band = band(s)
	}
	for _, name := range []string{"filter", "backdrop-filter"} {
		if s.spec != nil && s.spec.declared[name] != nil && ident(s.spec.declared[name].value) != "none" {
			out.Blended = true
		}
	}
	for _, name := range []string{"mix-blend-mode", "background-blend-mode"} {
		if w := strings.ToLower(Text(s.Value(name))); w != "" && w != "none" && w != "normal" {
			out.Blended = true
		}
	}
	if strings.EqualFold(Text(s.Value("background-clip")), "text") {
		out.Blended = true
	}
	if n, err := strconv.Atoi(Text(s.Value("z-index"))); err == nil {
		out.Order = n
	}
	if w := ident(s.Value("object-fit")); w != "" && w != "initial" {
		out.Fit = w
	}
	if len(out.Pictures) > 0 {
		out.Size, out.Spot = ident(s.Value("background-size")), [2]float64{}
		if x, y := s.Value("background-position-x"), s.Value("background-position-y"); x != nil || y != nil {
			out.Spot = [2]float64{focusOf(x)[0], focusOf(joined(word("center"), y))[1]}
		}
	}
	if v := s.Value("object-position"); v != nil {
		out.Focus = focusOf(v)
	}
	return out
}

// band gives how far down the backgrounds of a look reach, CSS px at a root size of 16, when all of them are bands
// along the upper edge; 0 when one may reach further.
func band(s Look) float64 {
	size, repeat := SplitCommas(s.Value("background-size")), SplitCommas(s.Value("background-repeat"))
	if len(size) != 1 || len(repeat) != 1 {
		return 0
	}
	if y := s.Value("background-position-y"); y != nil && focusOf(joined(word("center"), y))[1] != 0 {
		return 0
	}
	switch words := strings.Fields(Text(repeat[0])); {
	case len(words) == 1 && (words[0] == "repeat-x" || words[0] == "no-repeat"):
	case len(words) == 2 && words[1] == "no-repeat":
	default:
		return 0
	}
	parts := split(size[0])
	if len(parts) != 2 {
		return 0
	}
	e, ok := parseExpr(parts[1], exprLengthPercent)
	if !ok {
		return 0
	}
	high := e.compute(&unitContext{fontSize: 16, rootSize: 16})
	if high.Pct != 0 {
		return 0
	}
	return max(0, high.Px)
}

func unquoteURL(part []Token) string {
	text := Text(part)
	text = text[strings.IndexByte(text, '(')+1:]
	return strings.Trim(strings.TrimSuffix(text, ")"), `"' `)
}

// gradientStops gives the colors of a gradient; ok is false when one cannot be read.
func gradientStops(v []Token, in ColorContext) (out []Color, ok bool) {
	ok = true
	for i, stop := range SplitCommas(v) {
		found := false
		for _, w := range split(stop) {
			if c, good := ParseColor(w, in); good {
				out = append(out, c)
				found = true
			}
		}
		ok = ok && (found || i == 0)
	}
	return out, ok
}

// focusOf reads a position as shares of the room, 0 left or top, 1 right or bottom.
func focusOf(v []Token) [2]float64 {
	out := [2]float64{.5, .5}
	axis := 0
	for _, w := range split(v) {
		switch ident(w) {
		case "left":
			out[0], axis = 0, 1
		case "right":
			out[0], axis = 1, 1
		case "top":
			out[1] = 0
		case "bottom":
			out[1] = 1
		case "center":
			axis++
		default:
			if e, ok := parseExpr(w, exprLengthPercent); ok && axis < 2 {
				out[axis] = e.compute(&unitContext{}).Pct / 100
				axis++
			}
		}
	}
	return out
}

// Drawn lists what a look draws without moving a box: the values in force of those properties, var() replaced.
func (l Look) Drawn() map[string]string {
	out := map[string]string{}
	if l.spec == nil {
		return out
	}
	for name, v := range l.spec.values {
		out[name] = Text(v)
	}
	for name := range paintsOnly {
		if d := l.spec.declared[name]; d != nil {
			out[name] = Text(d.value)
			if v, _, ok := substitute(d.value, l.spec.vars, nil); ok {
				out[name] = strings.TrimSpace(Text(v))
			}
		}
	}
	return out
}
