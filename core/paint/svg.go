package paint

import (
	"encoding/base64"
	"math"
	"strings"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/media"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// Drawings: SVG in the page, with the styles of the page, and SVG files (SVG 2).

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
	d := &drawing{p: p, box: b, ids: map[string]*css.Element{}, file: src != "", zoom: 1}
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
	dark := b.read.In.Dark // drawings follow the scheme of what shows them (measured)
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
