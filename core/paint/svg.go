package paint

import (
	"encoding/base64"
	"math"
	"strconv"
	"strings"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/media"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// Drawings: SVG in the page, with the styles of the page, and SVG files (SVG 2).

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

// inlineDrawing paints an svg element of the page into its content box.
func (p *painter) inlineDrawing(b *box, room layout.Rect) []display.Item {
	d := &drawing{p: p, box: b, styleOf: p.e.StyleOf, ids: map[string]*css.Element{}, zoom: p.zoom,
		reader: func(s *css.Style, parent *css.Reader) *css.Reader { return p.e.ReaderOf(s, parent).Unzoomed() }}
	top := b.Element
	for top.Parent != nil {
		top = top.Parent
	}
	d.index(top)
	at := plain(room)
	n := &node{el: b.Element, style: b.Style, read: b.read.Unzoomed()}
	return d.viewport(n, at)
}

// drawing gives an SVG file as an image, nil when it cannot be drawn.
func (p *painter) drawing(b *box, src string, data []byte) *image {
	w, h, err := media.Size("x.svg", data)
	if err != nil {
		p.miss(b.el, "the picture "+shortName(src)+": "+err.Error())
		return nil
	}
	doc, err := css.Load(css.Source{File: src, HTML: "<!doctype html><body>" + stripProlog(string(data))})
	if err != nil {
		p.miss(b.el, "the picture "+shortName(src)+": "+err.Error())
		return nil
	}
	var top *css.Element
	d := &drawing{p: p, box: b, ids: map[string]*css.Element{}, file: true, zoom: 1}
	for _, el := range doc.Elements {
		if el.Tag == "svg" && top == nil {
			top = el
		}
		if id := el.Attr("id"); id != "" && d.ids[id] == nil {
			d.ids[id] = el
		}
	}
	if top == nil {
		return nil
	}
	styler := css.NewStyler(doc)
	dark := p.o.Dark && b.read.In.Dark
	out := &image{w: w * p.zoom, h: h * p.zoom}
	if h > 0 {
		out.ratio = w / h
	}
	if !sizedByItself(top) {
		out.w, out.h = 0, 0
	}
	out.draw = func(at geom.Rect) []display.Item {
		styler.SetMedia(css.Media{Width: int(math.Ceil(at.W())), Height: int(math.Ceil(at.H())), Dark: dark})
		d.styleOf = func(el *css.Element, parent *css.Style) *css.Style { return styler.Style(el, parent, nil) }
		d.reader = func(s *css.Style, parent *css.Reader) *css.Reader {
			r := styler.Reader(s, parent, [2]float64{}, dark)
			r.In.Dark = dark
			return r
		}
		parent, read := styler.Root(), (*css.Reader)(nil)
		var line []*css.Element
		for e := top.Parent; e != nil; e = e.Parent {
			line = append(line, e)
		}
		for i := len(line) - 1; i >= 0; i-- {
			st := *d.styleOf(line[i], parent)
			parent = &st
			read = d.reader(parent, read)
		}
		st := *d.styleOf(top, parent)
		d.nodes = 0
		return d.viewport(&node{el: top, style: &st, read: d.reader(&st, read)}, at)
	}
	return out
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

// viewport draws what an svg element holds into a rectangle.
func (d *drawing) viewport(n *node, at geom.Rect) []display.Item {
	g := display.Plain()
	vb := numbers(n.el.Attr("viewBox"))
	if len(vb) == 4 && (vb[2] <= 0 || vb[3] <= 0) {
		return nil
	}
	if len(vb) == 4 {
		g.Matrix = fitView(vb, at, n.el.Attr("preserveAspectRatio"))
		n.view = [2]float64{vb[2], vb[3]}
	} else {
		g.Matrix = geom.Translate(at.X0, at.Y0)
		n.view = [2]float64{at.W(), at.H()}
		if n.up == nil && !d.file {
			g.Matrix = g.Matrix.Mul(geom.Scale(d.zoom, d.zoom))
			n.view = [2]float64{at.W() / d.zoom, at.H() / d.zoom}
		}
		if w, h, err := sizeOf(n.el); err == nil && d.file && w > 0 && h > 0 {
			g.Matrix = g.Matrix.Mul(geom.Scale(at.W()/w, at.H()/h))
			n.view = [2]float64{w, h}
		}
	}
	for _, k := range n.el.Kids() {
		g.Items = append(g.Items, d.element(n.child(d, k))...)
	}
	if len(g.Items) == 0 {
		return nil
	}
	if d.file || n.style.OverflowX != "visible" {
		g.Clips = []*geom.Path{geom.RectPath(at)}
	}
	return []display.Item{g}
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
	for _, f := range strings.FieldsFunc(text, func(r rune) bool { return r == ' ' || r == ',' || r == '\n' || r == '\t' }) {
		v, err := strconv.ParseFloat(f, 64)
		if err != nil || math.IsInf(v, 0) || math.IsNaN(v) {
			return nil
		}
		out = append(out, v)
	}
	return out
}

// element draws one element with all that happens to it as a whole.
func (d *drawing) element(n *node) []display.Item {
	if d.nodes++; d.nodes > mostNodes {
		d.p.miss(d.box.el, "a drawing of more than 60,000 elements")
		return nil
	}
	if n.style.Display == css.None || n.word("display") == "none" {
		return nil
	}
	var items []display.Item
	switch n.el.Tag {
	case "g", "a", "switch":
		for _, k := range n.el.Kids() {
			items = append(items, d.element(n.child(d, k))...)
			if n.el.Tag == "switch" && len(items) > 0 {
				break
			}
		}
	case "svg":
		items = d.viewport(n, geom.R(n.length("x", 0, 0), n.length("y", 1, 0), n.length("width", 0, n.view[0]),
			n.length("height", 1, n.view[1])))
	case "use":
		items = d.use(n)
	case "path", "rect", "circle", "ellipse", "line", "polyline", "polygon":
		items = d.shape(n)
	case "text":
		items = d.text(n)
	case "image":
		items = d.picture(n)
	case "foreignObject":
		d.p.miss(d.box.el, "foreignObject in a drawing")
	}
	if len(items) == 0 {
		return nil
	}
	return d.whole(n, items)
}

// whole applies opacity, transform, clipping and masks of an element.
func (d *drawing) whole(n *node, items []display.Item) []display.Item {
	g := display.Plain(items...)
	special := false
	if o := n.number("opacity", 1); o < 1 {
		g.Opacity, special = max(0, o), true
	}
	if m, ok := d.transform(n); ok {
		g.Matrix, special = m, true
	}
	if mode := n.word("mix-blend-mode"); mode != "" && mode != "normal" {
		g.Blend, special = mode, true
	}
	if id := reference(n.value("clip-path")); id != "" {
		if path := d.clip(n, id, items); path != nil {
			if g.Matrix != geom.Identity {
				path = path.Transform(g.Matrix)
			}
			g.Clips, special = append(g.Clips, path), true
		}
	}
	if id := reference(n.value("mask")); id != "" || reference(n.value("mask-image")) != "" {
		if el := d.ids[id]; el != nil && el.Tag == "mask" {
			m := n.child(d, el)
			var inside []display.Item
			for _, k := range el.Kids() {
				inside = append(inside, d.element(m.child(d, k))...)
			}
			area := boundsOf(items).Grow(1)
			g.Masks = append(g.Masks, display.Mask{Luminance: m.word("mask-type") != "alpha",
				Fill: &display.Fill{Path: geom.RectPath(area), Brush: &display.Tiles{Cell: area, Items: inside}}})
			special = true
		}
	}
	if v := n.value("filter"); v != nil && css.Word(v) != "none" {
		if reference(v) != "" {
			d.p.miss(d.box.el, "a filter element in a drawing")
		} else if g.Filters = d.p.filters(&box{Drawn: d.box.Drawn, read: n.read, el: d.box.el}, v); len(g.Filters) > 0 {
			special = true
		}
	}
	if !special {
		return items
	}
	return []display.Item{g}
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

// transform reads the transform of an element: of a rule, or of its attribute.
func (d *drawing) transform(n *node) (geom.Matrix, bool) {
	if len(n.style.Transform) > 0 || n.style.Rotate != 0 || n.style.Scale != [2]float64{1, 1} ||
		!n.style.Translate[0].IsZero() || !n.style.Translate[1].IsZero() {
		at := geom.Rect{X1: n.view[0], Y1: n.view[1]}
		if n.word("transform-box") == "fill-box" {
			at = boundsOf(d.shape(n))
		}
		st := *n.style
		if n.read.Own("transform-origin") == nil {
			st.TransformOrigin = [2]css.Len{css.Zero, css.Zero}
		}
		z := d.zoom
		m := layout.TransformOf(&st, layout.Rect{X: css.FromFloat(at.X0 * z), Y: css.FromFloat(at.Y0 * z),
			W: css.FromFloat(at.W() * z), H: css.FromFloat(at.H() * z)})
		return geom.Matrix{A: m.A, B: m.B, C: m.C, D: m.D, E: m.E / z, F: m.F / z}, true
	}
	if a, ok := n.el.LookupAttr("transform"); ok {
		return parseTransform(a)
	}
	return geom.Identity, false
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
			m = m.Mul(geom.Translate(arg(1, 0), arg(2, 0))).Mul(geom.Rotate(rad)).Mul(geom.Translate(-arg(1, 0), -arg(2, 0)))
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

// use draws what an element stands for.
func (d *drawing) use(n *node) []display.Item {
	href, ok := n.el.LookupAttr("href")
	if !ok {
		for _, a := range n.el.Raw.Attr {
			if a.Key == "href" {
				href = a.Val
			}
		}
	}
	el := d.ids[strings.TrimPrefix(href, "#")]
	if el == nil || !strings.HasPrefix(href, "#") {
		if href != "" {
			d.p.miss(d.box.el, "use of "+href)
		}
		return nil
	}
	if n.uses++; n.uses > mostUses {
		return nil
	}
	for at := n.up; at != nil; at = at.up {
		if at.el == el {
			return nil
		}
	}
	target := n.child(d, el)
	x, y := n.length("x", 0, 0), n.length("y", 1, 0)
	var items []display.Item
	if el.Tag == "symbol" || el.Tag == "svg" {
		items = d.viewport(target, geom.R(0, 0, n.length("width", 0, target.length("width", 0, n.view[0])),
			n.length("height", 1, target.length("height", 1, n.view[1]))))
	} else {
		items = d.element(target)
	}
	if len(items) == 0 || x == 0 && y == 0 {
		return items
	}
	g := display.Plain(items...)
	g.Matrix = geom.Translate(x, y)
	return []display.Item{g}
}

// outline gives the shape of an element, nil for none.
func (d *drawing) outline(n *node) *geom.Path {
	switch n.el.Tag {
	case "path":
		path, err := geom.ParsePath(n.el.Attr("d"))
		if err != nil {
			d.p.miss(d.box.el, "a path of a drawing from its fault on: "+err.Error())
		}
		return path
	case "rect":
		r := geom.R(n.length("x", 0, 0), n.length("y", 1, 0), n.length("width", 0, 0), n.length("height", 1, 0))
		if r.Empty() {
			return nil
		}
		rx, ry := n.length("rx", 0, -1), n.length("ry", 1, -1)
		if rx < 0 {
			rx = ry
		}
		if ry < 0 {
			ry = rx
		}
		c := geom.Point{X: min(max(0, rx), r.W()/2), Y: min(max(0, ry), r.H()/2)}
		if c.X == 0 || c.Y == 0 {
			c = geom.Point{}
		}
		return geom.Round{Rect: r, Radii: [4]geom.Point{c, c, c, c}}.Path()
	case "circle":
		if r := n.length("r", 2, 0); r > 0 {
			return geom.Ellipse(n.length("cx", 0, 0), n.length("cy", 1, 0), r, r)
		}
	case "ellipse":
		rx, ry := n.length("rx", 0, -1), n.length("ry", 1, -1)
		if rx < 0 {
			rx = ry
		}
		if ry < 0 {
			ry = rx
		}
		if rx > 0 && ry > 0 {
			return geom.Ellipse(n.length("cx", 0, 0), n.length("cy", 1, 0), rx, ry)
		}
	case "line":
		p := &geom.Path{}
		p.MoveTo(n.length("x1", 0, 0), n.length("y1", 1, 0))
		p.LineTo(n.length("x2", 0, 0), n.length("y2", 1, 0))
		return p
	case "polyline", "polygon":
		list := numbers(n.el.Attr("points"))
		p := &geom.Path{}
		for i := 0; i+1 < len(list); i += 2 {
			if i == 0 {
				p.MoveTo(list[0], list[1])
			} else {
				p.LineTo(list[i], list[i+1])
			}
		}
		if n.el.Tag == "polygon" && len(list) > 1 {
			p.ClosePath()
		}
		return p
	}
	return nil
}

// shape fills and strokes an element.
func (d *drawing) shape(n *node) []display.Item {
	path := d.outline(n)
	if path.Empty() || n.word("visibility") == "hidden" || !n.style.Visible {
		return nil
	}
	var out []display.Item
	if n.el.Tag != "line" {
		if brush := d.brush(n, "fill", path); brush != nil {
			f := *path
			f.EvenOdd = n.word("fill-rule") == "evenodd"
			out = append(out, &display.Fill{Path: &f, Brush: brush})
		}
	}
	if width := n.length("stroke-width", 2, 1); width > 0 {
		if brush := d.brush(n, "stroke", path); brush != nil {
			pen := geom.Pen{Width: width, Cap: n.word("stroke-linecap"), Join: n.word("stroke-linejoin"),
				Miter: n.number("stroke-miterlimit", 4), Dashes: d.dashes(n), Offset: n.length("stroke-dashoffset", 2, 0)}
			if n.word("vector-effect") == "non-scaling-stroke" {
				d.p.miss(d.box.el, "vector-effect: non-scaling-stroke")
			}
			out = append(out, &display.Fill{Path: path.Stroke(pen), Brush: brush})
		}
	}
	for _, m := range []string{"marker-start", "marker-mid", "marker-end"} {
		if reference(n.value(m)) != "" {
			d.p.miss(d.box.el, "markers in a drawing")
		}
	}
	return out
}

func (d *drawing) dashes(n *node) []float64 {
	v := n.value("stroke-dasharray")
	if v == nil || css.Word(v) == "none" {
		return nil
	}
	var out []float64
	sum := 0.0
	for _, part := range css.SplitCommas(v) {
		for _, word := range css.Parts(part) {
			l, ok := n.read.Length(word)
			if !ok {
				return nil
			}
			x := l.At(math.Hypot(n.view[0], n.view[1]) / math.Sqrt2)
			if x < 0 {
				return nil
			}
			out, sum = append(out, x), sum+x
		}
	}
	if sum <= 0 {
		return nil
	}
	if len(out)%2 == 1 {
		out = append(out, out...)
	}
	return out
}

// brush reads fill or stroke, nil for none.
func (d *drawing) brush(n *node, name string, path *geom.Path) display.Brush {
	v := n.value(name)
	color := css.Color{A: 1}
	if v == nil && name == "stroke" {
		return nil
	}
	for _, part := range css.Parts(v) {
		if css.Word(part) == "none" {
			return nil
		}
		if id := reference(part); id != "" {
			if el := d.ids[id]; el != nil {
				if b := d.server(n, el, path, n.number(name+"-opacity", 1)); b != nil {
					return b
				}
				return nil
			}
			color = css.Color{}
			continue
		}
		if c, ok := n.read.Parse(part); ok {
			color = c
		}
	}
	if color.A *= max(0, min(1, n.number(name+"-opacity", 1))); color.A == 0 {
		return nil
	}
	return display.Solid(color)
}

// server gives the brush of a gradient or a pattern.
func (d *drawing) server(n *node, el *css.Element, path *geom.Path, opacity float64) display.Brush {
	box := tight(path)
	switch el.Tag {
	case "linearGradient", "radialGradient":
		return d.gradient(n, el, box, opacity)
	case "pattern":
		s := n.child(d, el)
		s.up = nil
		units := el.Attr("patternUnits") != "userSpaceOnUse"
		at := func(name string, axis int) float64 {
			if !units {
				return s.length(name, axis, 0)
			}
			l, _ := s.read.Length(s.value(name))
			return l.Px*[2]float64{box.W(), box.H()}[axis] + l.Pct/100*[2]float64{box.W(), box.H()}[axis]
		}
		cell := geom.R(at("x", 0), at("y", 1), at("width", 0), at("height", 1))
		if units {
			cell = cell.Move(box.X0, box.Y0)
		}
		if cell.Empty() {
			return nil
		}
		if el.Attr("patternTransform") != "" {
			d.p.miss(d.box.el, "patternTransform in a drawing")
		}
		g := display.Plain()
		g.Opacity = opacity
		g.Matrix = geom.Translate(cell.X0, cell.Y0)
		if !units && el.Attr("viewBox") == "" {
			g.Matrix = geom.Translate(cell.X0-at("x", 0), cell.Y0-at("y", 1))
		}
		if vb := numbers(el.Attr("viewBox")); len(vb) == 4 && vb[2] > 0 && vb[3] > 0 {
			g.Matrix = fitView(vb, cell, el.Attr("preserveAspectRatio"))
		}
		for _, k := range el.Kids() {
			g.Items = append(g.Items, d.element(s.child(d, k))...)
		}
		return &display.Tiles{Cell: cell, StepX: cell.W(), StepY: cell.H(), Items: []display.Item{g}}
	}
	return nil
}

func (d *drawing) gradient(n *node, el *css.Element, box geom.Rect, opacity float64) display.Brush {
	chain := []*css.Element{el}
	for at := el; len(chain) < 8; {
		href := at.Attr("href")
		next := d.ids[strings.TrimPrefix(href, "#")]
		if href == "" || next == nil {
			break
		}
		chain, at = append(chain, next), next
	}
	attr := func(name string) (string, bool) {
		for _, e := range chain {
			if v, ok := e.LookupAttr(name); ok {
				return v, true
			}
		}
		return "", false
	}
	object := true
	if u, ok := attr("gradientUnits"); ok {
		object = u != "userSpaceOnUse"
	}
	s := n.child(d, el)
	at := func(name, otherwise string, axis int) float64 {
		v, ok := attr(name)
		if !ok {
			v = otherwise
		}
		l, ok := s.read.Length(css.Tokenize(strings.TrimSpace(v)))
		if !ok {
			l, _ = s.read.Length(css.Tokenize(otherwise))
		}
		if object {
			return l.Px + l.Pct/100
		}
		base := math.Hypot(n.view[0], n.view[1]) / math.Sqrt2
		if axis < 2 {
			base = n.view[axis]
		}
		return l.At(base)
	}
	out := &display.Gradient{Matrix: geom.Identity}
	if object {
		if box.Empty() {
			return nil
		}
		out.Matrix = geom.Matrix{A: box.W(), D: box.H(), E: box.X0, F: box.Y0}
	}
	if t, ok := attr("gradientTransform"); ok {
		if m, ok := parseTransform(t); ok {
			out.Matrix = out.Matrix.Mul(m)
		}
	}
	switch spread, _ := attr("spreadMethod"); spread {
	case "repeat":
		out.Repeats = true
	case "reflect":
		out.Repeats, out.Reflect = true, true
	}
	if el.Tag == "linearGradient" {
		out.Kind = "linear"
		out.From = geom.Point{X: at("x1", "0%", 0), Y: at("y1", "0%", 1)}
		out.To = geom.Point{X: at("x2", "100%", 0), Y: at("y2", "0%", 1)}
	} else {
		out.Kind = "radial"
		out.From = geom.Point{X: at("cx", "50%", 0), Y: at("cy", "50%", 1)}
		r := at("r", "50%", 2)
		out.Radius = geom.Point{X: r, Y: r}
		out.Focus = out.From
		if _, ok := attr("fx"); ok {
			out.Focus.X = at("fx", "50%", 0)
		}
		if _, ok := attr("fy"); ok {
			out.Focus.Y = at("fy", "50%", 1)
		}
		out.Focal = out.Focus != out.From
	}
	last := 0.0
	for _, e := range chain {
		found := false
		for _, k := range e.Kids() {
			if k.Tag != "stop" {
				continue
			}
			found = true
			sn := s.child(d, k)
			offset := sn.number("offset", 0)
			if strings.HasSuffix(strings.TrimSpace(k.Attr("offset")), "%") {
				if v, err := strconv.ParseFloat(strings.TrimSuffix(strings.TrimSpace(k.Attr("offset")), "%"), 64); err == nil {
					offset = v / 100
				}
			}
			last = max(last, min(1, max(0, offset)))
			color := css.Color{A: 1}
			if v := sn.value("stop-color"); v != nil {
				if c, ok := sn.read.Parse(v); ok {
					color = c
				}
			}
			color.A *= min(1, max(0, sn.number("stop-opacity", 1))) * opacity
			out.Stops = append(out.Stops, display.Stop{At: last, Color: color})
		}
		if found {
			break
		}
	}
	if len(out.Stops) == 0 {
		return nil
	}
	return out
}

// clip gives the shape of a clipPath element.
func (d *drawing) clip(n *node, id string, items []display.Item) *geom.Path {
	el := d.ids[id]
	if el == nil || el.Tag != "clipPath" {
		return nil
	}
	c := n.child(d, el)
	out := &geom.Path{}
	for _, k := range el.Kids() {
		kid := c.child(d, k)
		if k.Tag == "use" {
			if t := d.ids[strings.TrimPrefix(k.Attr("href"), "#")]; t != nil {
				kid = c.child(d, t)
			}
		}
		path := d.outline(kid)
		if path.Empty() {
			continue
		}
		if m, ok := d.transform(kid); ok {
			path = path.Transform(m)
		}
		out.EvenOdd = out.EvenOdd || kid.word("clip-rule") == "evenodd"
		out.Add(path)
	}
	if el.Attr("clipPathUnits") == "objectBoundingBox" {
		b := boundsOf(items)
		out = out.Transform(geom.Matrix{A: b.W(), D: b.H(), E: b.X0, F: b.Y0})
	}
	if m, ok := d.transform(c); ok {
		out = out.Transform(m)
	}
	return out
}

// text draws a text element: each line of it from its own place on.
func (d *drawing) text(n *node) []display.Item {
	if d.file {
		d.p.miss(d.box.el, "letters in a picture file are set in the fonts of the page")
	}
	x, y := n.length("x", 0, 0), n.length("y", 1, 0)
	var out []display.Item
	var walk func(n *node)
	walk = func(n *node) {
		if v := n.value("x"); v != nil {
			x = n.length("x", 0, x)
		}
		if v := n.value("y"); v != nil {
			y = n.length("y", 1, y)
		}
		x, y = x+n.length("dx", 0, 0), y+n.length("dy", 1, 0)
		for _, c := range n.el.Children {
			if c.Element != nil {
				if c.Element.Tag == "tspan" || c.Element.Tag == "a" {
					walk(n.child(d, c.Element))
				} else if c.Element.Tag == "textPath" {
					d.p.miss(d.box.el, "text along a path")
				}
				continue
			}
			words := strings.Join(strings.Fields(c.Text), " ")
			if words == "" {
				continue
			}
			st := d.letters(n)
			t := d.p.e.DrawText(st, words)
			width := t.Rect.W.Float()
			at := x
			switch n.word("text-anchor") {
			case "middle":
				at -= width / 2
			case "end":
				at -= width
			}
			t.Rect.X, t.Base = css.FromFloat(at), css.FromFloat(y)
			brush, ok := d.brush(n, "fill", geom.RectPath(geom.R(at, y, width, 1))).(display.Solid)
			if ok {
				run := d.p.run(&box{Drawn: &layout.Drawn{Style: st}, read: n.read}, &t)
				run.Color = css.Color(brush)
				out = append(out, run)
			}
			x = at + width
		}
	}
	walk(n)
	return out
}

// letters gives the style of a text with what its attributes say.
func (d *drawing) letters(n *node) *css.Style {
	st := *n.style
	inh := *st.Inherited
	inh.FontSize /= d.zoom
	inh.LetterSpacing, inh.WordSpacing = inh.LetterSpacing/d.zoom, inh.WordSpacing/d.zoom
	if v := n.value("font-size"); v != nil {
		if l, ok := n.read.Length(v); ok {
			inh.FontSize = l.At(inh.FontSize)
		}
	}
	if v := n.value("font-weight"); v != nil {
		switch w := css.Word(v); w {
		case "bold":
			inh.FontWeight = 700
		case "normal":
			inh.FontWeight = 400
		default:
			if f, ok := n.read.Number(v); ok && w == "" {
				inh.FontWeight = f
			}
		}
	}
	for at := n; at != nil; at = at.up {
		if a, ok := at.el.LookupAttr("font-family"); ok {
			inh.FontFamily = nil
			for _, f := range strings.Split(a, ",") {
				inh.FontFamily = append(inh.FontFamily, strings.Trim(strings.TrimSpace(f), `"'`))
			}
			break
		}
	}
	st.Inherited = &inh
	return &st
}

// picture draws an image element.
func (d *drawing) picture(n *node) []display.Item {
	href := n.el.Attr("href")
	at := geom.R(n.length("x", 0, 0), n.length("y", 1, 0), n.length("width", 0, 0), n.length("height", 1, 0))
	var data []byte
	if rest, ok := strings.CutPrefix(href, "data:"); ok {
		if _, text, ok := strings.Cut(rest, ";base64,"); ok {
			data, _ = base64.StdEncoding.DecodeString(strings.Join(strings.Fields(text), ""))
		}
	} else if d.p.o.File != nil && !d.file {
		data, _ = d.p.o.File(href)
	}
	if len(data) == 0 {
		d.p.miss(d.box.el, "the image "+href+" in a drawing")
		return nil
	}
	im := d.p.picture(d.box, href, data)
	if im == nil || im.w <= 0 || im.h <= 0 {
		return nil
	}
	if at.Empty() {
		at = geom.R(at.X0, at.Y0, im.w, im.h)
	}
	m := fitView([]float64{0, 0, im.w, im.h}, at, n.el.Attr("preserveAspectRatio"))
	g := display.Plain(im.draw(m.Rect(geom.R(0, 0, im.w, im.h)))...)
	g.Clips = []*geom.Path{geom.RectPath(at)}
	return []display.Item{g}
}

// tight gives the rectangle around what a path covers.
func tight(p *geom.Path) geom.Rect {
	r := geom.Rect{X0: math.Inf(1), Y0: math.Inf(1), X1: math.Inf(-1), Y1: math.Inf(-1)}
	segments := flatten(p)
	if len(segments) == 0 {
		return geom.Rect{}
	}
	for _, s := range segments {
		for _, q := range s {
			r = geom.Rect{X0: min(r.X0, q.X), Y0: min(r.Y0, q.Y), X1: max(r.X1, q.X), Y1: max(r.Y1, q.Y)}
		}
	}
	return r
}

// boundsOf gives the rectangle around items.
func boundsOf(items []display.Item) (out geom.Rect) {
	for _, it := range items {
		switch it := it.(type) {
		case *display.Group:
			out = out.Union(it.Matrix.Rect(boundsOf(it.Items)))
		case *display.Fill:
			if it.Rect != nil {
				out = out.Union(*it.Rect)
			} else {
				out = out.Union(tight(it.Path))
			}
		case *display.Picture:
			out = out.Union(it.Dst)
		case *display.Text:
			out = out.Union(geom.R(it.X, it.Y-it.Size, it.Width, it.Size*1.3))
		}
	}
	return out
}
