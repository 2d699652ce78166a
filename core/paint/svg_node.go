package paint

import (
	"math"
	"strconv"
	"strings"

	"ziegel/core/css"
	"ziegel/core/paint/geom"
)

// mostUses bounds how deep `use` may stand in `use`, and mostNodes how many elements are drawn in all.
const (
	mostUses  = 16
	mostNodes = 60000
)

// drawing is one SVG that is being drawn.
type drawing struct {
	p       *painter
	box     *box // whose missed features are told
	styleOf func(el *css.Element, parent *css.Style) *css.Style
	reader  func(s *css.Style, parent *css.Reader) *css.Reader
	ids     map[string]*css.Element
	nodes   int
	file    bool
	zoom    float64 // what a px of its styles is
}

// node is an element in it.
type node struct {
	el    *css.Element
	up    *node
	style *css.Style
	read  *css.Reader
	view  [2]float64 // of the viewport that percentages refer to
	uses  int
}

func (d *drawing) index(el *css.Element) {
	if id := el.Attr("id"); id != "" && d.ids[id] == nil {
		d.ids[id] = el
	}
	for _, k := range el.Kids() {
		d.index(k)
	}
}

// child gives the node of an element in n. Styles are copied: the next element may take their memory.
func (n *node) child(d *drawing, el *css.Element) *node {
	st := *d.styleOf(el, n.style)
	return &node{el: el, up: n, style: &st, read: d.reader(&st, n.read), view: n.view, uses: n.uses}
}

// inheritedSVG are the presentation attributes that pass from parents to children.
var inheritedSVG = map[string]bool{"fill": true, "fill-opacity": true, "fill-rule": true, "stroke": true,
	"stroke-width": true, "stroke-linecap": true, "stroke-linejoin": true, "stroke-miterlimit": true,
	"stroke-dasharray": true, "stroke-dashoffset": true, "stroke-opacity": true, "clip-rule": true, "visibility": true,
	"text-anchor": true, "font-size": true, "font-family": true, "font-weight": true, "font-style": true,
	"letter-spacing": true, "color": true, "paint-order": true, "dominant-baseline": true}

// value gives what is in force of a property: of a rule, of the attribute, or of what holds the element.
func (n *node) value(name string) []css.Token {
	for at := n; at != nil; at = at.up {
		if v := at.read.Own(name); v != nil && css.Word(v) != "inherit" {
			return v
		}
		if a, ok := at.el.LookupAttr(name); ok && strings.TrimSpace(a) != "inherit" {
			if v, ok := at.read.Put(css.Tokenize(strings.TrimSpace(a))); ok {
				return v
			}
		}
		if !inheritedSVG[name] {
			return nil
		}
		if at.up == nil && at.read.Parent != nil {
			return at.read.Parent.Value(name)
		}
	}
	return nil
}

func (n *node) word(name string) string { return css.Word(n.value(name)) }

// length reads a length along an axis: 0 across, 1 down, 2 both.
func (n *node) length(name string, axis int, otherwise float64) float64 {
	v := n.value(name)
	l, ok := n.read.Length(v)
	if !ok || v == nil {
		return otherwise
	}
	base := 0.0
	switch axis {
	case 0, 1:
		base = n.view[axis]
	default:
		base = math.Hypot(n.view[0], n.view[1]) / math.Sqrt2
	}
	if out := l.At(base); !math.IsNaN(out) && !math.IsInf(out, 0) {
		return out
	}
	return otherwise
}

func (n *node) number(name string, otherwise float64) float64 {
	v := n.value(name)
	if v == nil {
		return otherwise
	}
	f, ok := n.read.Number(v)
	if !ok {
		return otherwise
	}
	return f
}

func sizeOf(el *css.Element) (w, h float64, err error) {
	if w, err = strconv.ParseFloat(strings.TrimSuffix(el.Attr("width"), "px"), 64); err != nil {
		return 0, 0, err
	}
	h, err = strconv.ParseFloat(strings.TrimSuffix(el.Attr("height"), "px"), 64)
	return w, h, err
}

// fitView gives the transform of a viewBox into a rectangle (SVG 2, "The preserveAspectRatio attribute").
func fitView(vb []float64, at geom.Rect, keep string) geom.Matrix {
	sx, sy := at.W()/vb[2], at.H()/vb[3]
	words := strings.Fields(keep)
	align, slice := "xMidYMid", false
	for _, w := range words {
		switch {
		case w == "none" || strings.HasPrefix(w, "x"):
			align = w
		case w == "slice":
			slice = true
		}
	}
	if align == "none" {
		return geom.Translate(at.X0, at.Y0).Mul(geom.Scale(sx, sy)).Mul(geom.Translate(-vb[0], -vb[1]))
	}
	s := min(sx, sy)
	if slice {
		s = max(sx, sy)
	}
	part := func(word string) float64 {
		switch {
		case strings.Contains(align, word+"Min"):
			return 0
		case strings.Contains(align, word+"Max"):
			return 1
		}
		return .5
	}
	x := at.X0 + (at.W()-vb[2]*s)*part("x")
	y := at.Y0 + (at.H()-vb[3]*s)*part("Y")
	return geom.Translate(x, y).Mul(geom.Scale(s, s)).Mul(geom.Translate(-vb[0], -vb[1]))
}

func numbers(text string) []float64 {
	var out []float64
	for _, f := range strings.FieldsFunc(text, func(r rune) bool {
		return r == ' ' || r == ',' || r == '\n' ||
			r == '\t'
	}) {
		v, err := strconv.ParseFloat(f, 64)
		if err != nil || math.IsInf(v, 0) || math.IsNaN(v) {
			return nil
		}
		out = append(out, v)
	}
	return out
}

// reference gives the id of url(#id).
func reference(v []css.Token) string {
	for _, part := range css.Parts(v) {
		if name, args, ok := css.Call(part); ok && name == "url" {
			text := css.Unquote(css.Text(args))
			if i := strings.IndexByte(text, '#'); i >= 0 {
				return text[i+1:]
			}
		}
	}
	return ""
}

// parseTransform reads the attribute (SVG 2, "The transform property", as an attribute: numbers and degrees).
func parseTransform(text string) (geom.Matrix, bool) {
	m := geom.Identity
	for text = strings.TrimLeft(text, " ,\t\n\r"); text != ""; text = strings.TrimLeft(text, " ,\t\n\r") {
		open, end := strings.IndexByte(text, '('), strings.IndexByte(text, ')')
		if open < 0 || end < open {
			return m, false
		}
		name, a := strings.TrimSpace(text[:open]), numbers(text[open+1:end])
		text = text[end+1:]
		arg := func(i int, otherwise float64) float64 {
			if i < len(a) {
				return a[i]
			}
			return otherwise
		}
		rad := arg(0, 0) * math.Pi / 180
		switch name {
		case "translate":
			m = m.Mul(geom.Translate(arg(0, 0), arg(1, 0)))
		case "scale":
			m = m.Mul(geom.Scale(arg(0, 1), arg(1, arg(0, 1))))
		case "rotate":
			m = m.Mul(geom.Translate(arg(1, 0), arg(2, 0))).Mul(geom.Rotate(rad)).Mul(geom.Translate(-arg(1, 0),
				-arg(2, 0)))
		case "skewX":
			m = m.Mul(geom.Matrix{A: 1, C: math.Tan(rad), D: 1})
		case "skewY":
			m = m.Mul(geom.Matrix{A: 1, B: math.Tan(rad), D: 1})
		case "matrix":
			if len(a) != 6 {
				return m, false
			}
			m = m.Mul(geom.Matrix{A: a[0], B: a[1], C: a[2], D: a[3], E: a[4], F: a[5]})
		default:
			return m, false
		}
	}
	return m, true
}

// sizedByItself reports a drawing with a width and a height.
func sizedByItself(el *css.Element) bool {
	_, w := el.LookupAttr("width")
	_, h := el.LookupAttr("height")
	return w && h && !strings.HasSuffix(el.Attr("width"), "%")
}

// stripProlog takes off what XML has before its first element.
func stripProlog(text string) string {
	if i := strings.Index(strings.ToLower(text), "<svg"); i > 0 {
		return text[i:]
	}
	return text
}
