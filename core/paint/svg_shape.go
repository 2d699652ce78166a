package paint

import (
	"math"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/paint/geom"
)

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

// transform reads the transform of an element: of a rule, or of its attribute.
func (d *drawing) transform(n *node) (geom.Matrix, bool) {
	moved := len(n.style.Transform) > 0 || n.style.Rotate != 0 || n.style.Scale != [2]float64{1, 1} ||
		!n.style.Translate[0].IsZero() || !n.style.Translate[1].IsZero()
	if moved {
		at := geom.Rect{X1: n.view[0], Y1: n.view[1]}
		if n.word("transform-box") == "fill-box" {
			at = tight(d.outline(n))
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
