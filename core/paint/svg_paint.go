package paint

import (
	"math"
	"strconv"
	"strings"

	"ziegel/core/css"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

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
				if v, err := strconv.ParseFloat(strings.TrimSuffix(strings.TrimSpace(k.Attr("offset")), "%"),
					64); err == nil {
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
				Miter: n.number("stroke-miterlimit", 4), Dashes: d.dashes(n), Offset: n.length("stroke-dashoffset", 2,
					0)}
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
