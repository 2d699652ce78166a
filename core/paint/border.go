package paint

import (
	"math"

	"ziegel/core/css"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

var sides = [4]string{"top", "right", "bottom", "left"}

// edge is one side of a border.
type edge struct {
	width float64
	style string
	color css.Color
}

// borders paints the borders of a box (css-backgrounds-3, "Borders").
func (p *painter) borders(b *box, outer geom.Round, ends [4]bool) []display.Item {
	var e [4]edge
	seen, same := false, true
	for i, side := range sides {
		e[i] = edge{width: px(b.borderWidth(i)), style: b.Style.BorderStyle[i], color: b.read.In.Current}
		if !ends[i] {
			e[i].width = 0
		}
		if c, ok := edgeColor(b.read, side, e[i].style); ok {
			e[i].color = c
		}
		if e[i].width <= 0 || e[i].color.A == 0 {
			e[i].color.A = 0
		} else {
			seen = true
		}
		same = same && e[i].width > 0 && e[i].style == e[0].style && e[i].color == e[0].color
	}
	if items, ok := p.borderImage(b, outer.Rect, [4]float64{e[0].width, e[1].width, e[2].width, e[3].width}); ok {
		return items
	}
	if !seen {
		return nil
	}
	inner := outer.Inset(e[0].width, e[1].width, e[2].width, e[3].width)
	if same && (e[0].style == "solid" || e[0].style == "double") {
		return p.ring(outer, inner, e)
	}
	var out []display.Item
	for _, i := range [4]int{css.Bottom, css.Left, css.Right, css.Top} {
		if e[i].color.A == 0 {
			continue
		}
		if outer.Sharp() && e[i].style == "solid" && straight(e) {
			r := outer.Rect
			switch i {
			case css.Top:
				r.Y1 = inner.Y0
			case css.Right:
				r.X0 = inner.X1
			case css.Bottom:
				r.Y0 = inner.Y1
			default:
				r.X1 = inner.X0
			}
			out = append(out, &display.Fill{Rect: &r, Brush: display.Solid(e[i].color)})
			continue
		}
		items := p.side(i, outer, inner, e)
		g := display.Plain(items...)
		g.Clips = []*geom.Path{wedge(i, outer.Rect, inner.Rect)}
		out = append(out, g)
	}
	return out
}

// straight reports borders of which no two meet: their corners need no miter.
func straight(e [4]edge) bool {
	for i := range e {
		if e[i].width > 0 && e[(i+1)%4].width > 0 {
			return false
		}
	}
	return true
}

// ring paints a border that is the same all around.
func (p *painter) ring(outer, inner geom.Round, e [4]edge) []display.Item {
	between := func(a, z geom.Round) display.Item {
		path := a.Path()
		path.Add(z.Path())
		path.EvenOdd = true
		return &display.Fill{Path: path, Brush: display.Solid(e[0].color)}
	}
	if e[0].style == "solid" || e[0].width < 3 {
		return []display.Item{between(outer, inner)}
	}
	third := func(i int, n float64) float64 { return p.pixel(e[i].width * n / 3) }
	one := outer.Inset(third(0, 1), third(1, 1), third(2, 1), third(3, 1))
	two := outer.Inset(third(0, 2), third(1, 2), third(2, 2), third(3, 2))
	return []display.Item{between(outer, one), between(two, inner)}
}

// wedge is the part of the frame that belongs to a side: from its edge to where the corners meet.
func wedge(i int, o, in geom.Rect) *geom.Path {
	corner := [4][2]geom.Point{{{X: o.X0, Y: o.Y0}, {X: in.X0, Y: in.Y0}}, {{X: o.X1, Y: o.Y0}, {X: in.X1, Y: in.Y0}},
		{{X: o.X1, Y: o.Y1}, {X: in.X1, Y: in.Y1}}, {{X: o.X0, Y: o.Y1}, {X: in.X0, Y: in.Y1}}}
	a, z := corner[i], corner[(i+1)%4]
	// the line from the outer to the inner corner goes on to the middle, for corners that are round
	far := func(c [2]geom.Point) geom.Point {
		dx, dy := c[1].X-c[0].X, c[1].Y-c[0].Y
		if dx == 0 && dy == 0 {
			return c[1]
		}
		k := 1e9
		if dx != 0 {
			k = min(k, o.W()/2/math.Abs(dx))
		}
		if dy != 0 {
			k = min(k, o.H()/2/math.Abs(dy))
		}
		return geom.Point{X: c[0].X + dx*k, Y: c[0].Y + dy*k}
	}
	fa, fz := far(a), far(z)
	p := &geom.Path{}
	p.MoveTo(a[0].X, a[0].Y)
	p.LineTo(z[0].X, z[0].Y)
	p.LineTo(fz.X, fz.Y)
	p.LineTo(fa.X, fa.Y)
	p.ClosePath()
	return p
}

// side paints one side of a border, all around; the caller clips it.
func (p *painter) side(i int, outer, inner geom.Round, e [4]edge) []display.Item {
	c := e[i]
	w := [4]float64{e[0].width, e[1].width, e[2].width, e[3].width}
	inset := func(n float64) geom.Round { return outer.Inset(w[0]*n, w[1]*n, w[2]*n, w[3]*n) }
	fill := func(a, z geom.Round, color css.Color) display.Item {
		path := a.Path()
		path.Add(z.Path())
		path.EvenOdd = true
		return &display.Fill{Path: path, Brush: display.Solid(color)}
	}
	dark, light := shades(c.color)
	topLeft := i == css.Top || i == css.Left
	switch c.style {
	case "double":
		if c.width < 3 {
			break
		}
		return []display.Item{fill(outer, inset(1.0/3), c.color), fill(inset(2.0/3), inner, c.color)}
	case "inset", "outset":
		if c.color = light; topLeft == (c.style == "inset") {
			c.color = dark
		}
	case "groove", "ridge":
		a, z := light, dark
		if topLeft == (c.style == "groove") {
			a, z = z, a
		}
		return []display.Item{fill(outer, inset(.5), a), fill(inset(.5), inner, z)}
	case "dotted", "dashed":
		return []display.Item{p.dashes(i, outer, c)}
	}
	return []display.Item{fill(outer, inner, c.color)}
}

// carved are the styles of borders that look pressed into the page, or raised from it.
var carved = map[string]bool{"inset": true, "outset": true, "groove": true, "ridge": true}

// edgeColor gives the color of a side that has one of its own. Carved borders without one are grey, whatever color the
// text has (measured).
func edgeColor(r *css.Reader, side, style string) (css.Color, bool) {
	name := "border-" + side + "-color"
	v := r.Value(name)
	if w := css.Word(v); carved[style] && (len(v) == 0 || w == "currentcolor" || w == "initial") {
		return css.Color{R: 14.0 / 15, G: 14.0 / 15, B: 14.0 / 15, A: 1}, true
	}
	return r.Color(name)
}

// shades gives the darker and the lighter color of carved borders: a third darker and lighter, twice lighter where
// darker would be black on black, and no lighter than nearly white (measured).
func shades(c css.Color) (dark, light css.Color) {
	switch {
	case c.Luminance() < .015:
		dark = lifted(c, .33)
		return dark, lifted(dark, .33)
	case max(c.R, c.G, c.B) > .9 && min(c.R, c.G, c.B) > .9:
		return lifted(c, -.33), c
	}
	return lifted(c, -.33), lifted(c, .33)
}

// lifted makes a color lighter by a share of white, its hue kept.
func lifted(c css.Color, by float64) css.Color {
	v := max(c.R, c.G, c.B)
	if v < .004 {
		return css.Color{R: by, G: by, B: by, A: c.A}
	}
	k := min(1, max(0, v+by)) / v
	return css.Color{R: c.R * k, G: c.G * k, B: c.B * k, A: c.A}
}

// dashes paints a dotted or dashed side along the middle of the border.
func (p *painter) dashes(i int, outer geom.Round, c edge) display.Item {
	mid := outer.Inset(c.width/2, c.width/2, c.width/2, c.width/2)
	line := sideLine(i, mid)
	if outer.Sharp() {
		line = flatSide(i, outer.Rect, c.width)
	}
	return &display.Fill{Path: dashed(line, c.width, c.style), Brush: display.Solid(c.color)}
}

// flatSide is the middle of a straight side, from edge to edge.
func flatSide(i int, o geom.Rect, w float64) []geom.Point {
	switch i {
	case css.Top:
		return []geom.Point{{X: o.X0, Y: o.Y0 + w/2}, {X: o.X1, Y: o.Y0 + w/2}}
	case css.Right:
		return []geom.Point{{X: o.X1 - w/2, Y: o.Y0}, {X: o.X1 - w/2, Y: o.Y1}}
	case css.Bottom:
		return []geom.Point{{X: o.X0, Y: o.Y1 - w/2}, {X: o.X1, Y: o.Y1 - w/2}}
	}
	return []geom.Point{{X: o.X0 + w/2, Y: o.Y0}, {X: o.X0 + w/2, Y: o.Y1}}
}

// sideLine is the middle of a side with its two half corners, as points.
func sideLine(i int, r geom.Round) []geom.Point {
	arc := func(k int, from, to float64) []geom.Point {
		c := r.Radii[k]
		at := [4]geom.Point{{X: r.X0 + c.X, Y: r.Y0 + c.Y}, {X: r.X1 - c.X, Y: r.Y0 + c.Y},
			{X: r.X1 - c.X, Y: r.Y1 - c.Y}, {X: r.X0 + c.X, Y: r.Y1 - c.Y}}[k]
		var out []geom.Point
		for n := range 13 {
			a := (from + (to-from)*float64(n)/12) * math.Pi / 180
			out = append(out, geom.Point{X: at.X + c.X*math.Cos(a), Y: at.Y + c.Y*math.Sin(a)})
		}
		return out
	}
	start := float64(-135 + 90*i)
	return append(arc(i, start, start+45), arc((i+1)%4, start+45, start+90)...)
}

// lineWidth reads the width of a line that is no border, in whole device pixels.
func (p *painter) lineWidth(b *box, name string) float64 {
	w := 3 * p.zoom
	switch v := b.read.Value(name); css.Word(v) {
	case "thin":
		w = p.zoom
	case "thick":
		w = 5 * p.zoom
	case "medium", "":
		if n, ok := b.read.Px(v); ok {
			w = n
		}
	}
	return wholeLine(w)
}

// outline paints the outline of a box (css-ui-4, "Outlines").
func (p *painter) outline(b *box) []display.Item {
	style := b.read.Word("outline-style")
	if style == "" || style == "none" {
		return nil
	}
	w := p.lineWidth(b, "outline-width")
	if w <= 0 {
		return nil
	}
	color := b.read.In.Current
	if c, ok := b.read.Color("outline-color"); ok {
		color = c
	} else if style == "auto" {
		color, _ = css.ParseColor(css.Tokenize("#101010"), b.read.In)
	}
	offset, _ := b.read.Px(b.read.Value("outline-offset"))
	var out []display.Item
	for _, r := range b.Rects {
		in := p.roundOf(b, r, allEnds)
		inner := spread(in, offset)
		outer := spread(in, offset+w)
		e := edge{w, style, color}
		if style == "auto" {
			e.style = "solid"
		}
		e4 := [4]edge{e, e, e, e}
		if e.style == "solid" || e.style == "double" {
			out = append(out, p.ring(outer, inner, e4)...)
			continue
		}
		for i := range 4 {
			g := display.Plain(p.side(i, outer, inner, e4)...)
			g.Clips = []*geom.Path{wedge(i, outer.Rect, inner.Rect)}
			out = append(out, g)
		}
	}
	return out
}

// wholeLine gives the used width of a line: under 1 px becomes 1, else whole px.
func wholeLine(w float64) float64 {
	if w > 0 && w < 1 {
		return 1
	}
	return math.Floor(w)
}

// shadows paints the outer or the inner shadows of a box, the first on top (css-backgrounds-3, "Drop Shadows").
func (p *painter) shadows(b *box, shape geom.Round, inside bool) []display.Item {
	v := b.read.Value("box-shadow")
	if v == nil || css.Word(v) == "none" {
		return nil
	}
	layers := css.SplitCommas(v)
	var out []display.Item
	for i := len(layers) - 1; i >= 0; i-- {
		sh, ok := p.shadow(b, layers[i])
		if !ok || sh.inset != inside || sh.color.A == 0 {
			continue
		}
		if inside {
			in := shape.Inset(px(b.Border[css.Top]), px(b.Border[css.Right]), px(b.Border[css.Bottom]),
				px(b.Border[css.Left]))
			hole := spread(in, -sh.spread)
			hole.Rect = hole.Move(sh.x, sh.y)
			keep := in
			out = append(out, &display.Shadow{Shape: hole, Sigma: sh.blur / 2, Color: sh.color, Inside: &keep})
			continue
		}
		cast := spread(shape, sh.spread)
		cast.Rect = cast.Move(sh.x, sh.y)
		if cast.Empty() {
			continue
		}
		out = append(out, &display.Shadow{Shape: cast, Sigma: sh.blur / 2, Color: sh.color, Around: shape.Path()})
	}
	return out
}
