package paint

import (
	"math"
	"strings"

	"ziegel/core/css"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// layer gives entry i of a list that is repeated as often as it must, nil when there is none.
func layer(v []css.Token, i int) []css.Token {
	list := css.SplitCommas(v)
	if len(list) == 0 {
		return nil
	}
	return list[i%len(list)]
}

func bothAxes(v []css.Token) (x, y []css.Token) {
	parts := css.Parts(v)
	switch {
	case len(parts) == 0:
		return nil, nil
	case len(parts) == 1:
		if w := css.Word(parts[0]); w == "top" || w == "bottom" {
			return css.Tokenize("center"), parts[0]
		}
		return parts[0], css.Tokenize("center")
	}
	if w := css.Word(parts[0]); w == "top" || w == "bottom" {
		return parts[1], parts[0]
	}
	return parts[0], parts[1]
}

// repeats reads a layer of background-repeat.
func repeats(v []css.Token) (x, y string) {
	parts := css.Parts(v)
	if len(parts) == 0 {
		return "repeat", "repeat"
	}
	x = css.Word(parts[0])
	y = x
	switch {
	case x == "repeat-x":
		return "repeat", "no-repeat"
	case x == "repeat-y":
		return "no-repeat", "repeat"
	case len(parts) > 1:
		y = css.Word(parts[1])
	}
	return x, y
}

// offsetIn gives where something of a size begins in a room, after one axis of a position.
func offsetIn(read *css.Reader, v []css.Token, room, size float64) float64 {
	free := room - size
	parts := css.Parts(v)
	if len(parts) == 0 {
		return 0
	}
	side := css.Word(parts[0])
	switch side {
	case "center":
		return free / 2
	case "left", "top", "x-start", "y-start", "right", "bottom", "x-end", "y-end":
		end := side == "right" || side == "bottom" || strings.HasSuffix(side, "end")
		by := 0.0
		if len(parts) > 1 {
			if l, ok := read.Length(parts[1]); ok {
				by = l.At(free)
			}
		}
		if end {
			return free - by
		}
		return by
	}
	l, ok := read.Length(parts[0])
	if !ok {
		return 0
	}
	return l.At(free)
}

// center reads "at x y" and gives the rest.
func center(parts [][]css.Token) (x, y, rest [][]css.Token) {
	for i, part := range parts {
		if css.Word(part) == "at" {
			return pos(parts[i+1:], 0), pos(parts[i+1:], 1), parts[:i]
		}
	}
	return nil, nil, parts
}

// pos gives the tokens of one axis of a position.
func pos(parts [][]css.Token, axis int) [][]css.Token {
	switch len(parts) {
	case 1:
		w := css.Word(parts[0])
		vertical := w == "top" || w == "bottom"
		if vertical == (axis == 1) {
			return parts
		}
		return nil
	case 2:
		a := css.Word(parts[0])
		z := css.Word(parts[1])
		if a == "top" || a == "bottom" || z == "left" || z == "right" {
			return parts[1-axis : 2-axis]
		}
		return parts[axis : axis+1]
	case 4:
		if a := css.Word(parts[0]); a == "top" || a == "bottom" {
			axis = 1 - axis
		}
		return parts[axis*2 : axis*2+2]
	}
	return nil
}

func placeOf(read *css.Reader, parts [][]css.Token, from, room float64) float64 {
	if len(parts) == 0 {
		return from + room/2
	}
	var v []css.Token
	for i, part := range parts {
		if i > 0 {
			v = append(v, css.Tokenize(" ")...)
		}
		v = append(v, part...)
	}
	return from + offsetIn(read, v, room, 0)
}

type shadowValue struct {
	x, y, blur, spread float64
	color              css.Color
	inset              bool
}

func (p *painter) shadow(b *box, v []css.Token) (out shadowValue, ok bool) {
	out.color = b.read.In.Current
	var n []float64
	for _, part := range css.Parts(v) {
		if css.Word(part) == "inset" {
			out.inset = true
			continue
		}
		if l, ok := b.read.Px(part); ok {
			n = append(n, l)
			continue
		}
		c, ok := b.read.Parse(part)
		if !ok {
			p.miss(b.el, "a shadow: "+css.Text(v))
			return out, false
		}
		out.color = c
	}
	if len(n) < 2 {
		return out, false
	}
	n = append(n, 0, 0)
	out.x, out.y = turnedBack(b.Inside, n[0], n[1])
	out.blur, out.spread = max(0, n[2]), n[3]
	return out, true
}

// dashed gives dots or dashes along a line, spread so that both ends have one (as Chromium does).
func dashed(line []geom.Point, w float64, style string) *geom.Path {
	total := 0.0
	for k := 1; k < len(line); k++ {
		total += math.Hypot(line[k].X-line[k-1].X, line[k].Y-line[k-1].Y)
	}
	out := &geom.Path{}
	if total <= 0 || w <= 0 || total/w > 1e5 {
		return out
	}
	at := func(d float64) (geom.Point, geom.Point) {
		for k := 1; k < len(line); k++ {
			dx, dy := line[k].X-line[k-1].X, line[k].Y-line[k-1].Y
			n := math.Hypot(dx, dy)
			if n > 0 && (d <= n || k == len(line)-1) {
				return geom.Point{X: line[k-1].X + dx*d/n, Y: line[k-1].Y + dy*d/n}, geom.Point{X: dx / n, Y: dy / n}
			}
			d -= n
		}
		return line[0], geom.Point{X: 1}
	}
	round := style == "dotted" && w > 3
	dash, gap := 2*w, w // measured, as what follows
	switch {
	case style == "dotted":
		dash, gap = w, w
	case w < 3:
		dash, gap = 3*w, 2*w
	}
	// as many as fit, the gaps stretched or shrunk to the nearer
	low := math.Floor((total + gap) / (dash + gap))
	best := gap
	if low >= 2 {
		g1 := (total - low*dash) / (low - 1)
		g2 := (total - (low+1)*dash) / low
		best = g1
		if g2 > 0 && math.Abs(g2-gap) < math.Abs(g1-gap) {
			best = g2
		}
	}
	for d := 0.0; d < total-1e-6; d += dash + best {
		a, dir := at(d)
		if round {
			m, _ := at(min(total, d+dash/2))
			out.Add(geom.Ellipse(m.X, m.Y, w/2, w/2))
			continue
		}
		z, _ := at(min(total, d+dash))
		nx, ny := -dir.Y*w/2, dir.X*w/2
		out.MoveTo(a.X+nx, a.Y+ny)
		out.LineTo(z.X+nx, z.Y+ny)
		out.LineTo(z.X-nx, z.Y-ny)
		out.LineTo(a.X-nx, a.Y-ny)
		out.ClosePath()
	}
	return out
}

// flatten gives a path as short lines.
func flatten(p *geom.Path) [][2]geom.Point {
	var out [][2]geom.Point
	start := geom.Point{}
	p.Each(func(op geom.Op, from geom.Point, pts []geom.Point) {
		prev := from
		to := func(q geom.Point) {
			out = append(out, [2]geom.Point{prev, q})
			prev = q
		}
		switch op {
		case geom.Move:
			start = pts[0]
		case geom.Line:
			to(pts[0])
		case geom.Close:
			to(start)
		case geom.Quad:
			for i := 1; i <= 8; i++ {
				t := float64(i) / 8
				u := 1 - t
				to(geom.Point{X: u*u*from.X + 2*u*t*pts[0].X + t*t*pts[1].X, Y: u*u*from.Y + 2*u*t*pts[0].Y +
					t*t*pts[1].Y})
			}
		case geom.Cubic:
			for i := 1; i <= 12; i++ {
				t := float64(i) / 12
				u := 1 - t
				at := func(a, b, c, d float64) float64 { return u*u*u*a + 3*u*u*t*b + 3*u*t*t*c + t*t*t*d }
				to(geom.Point{X: at(from.X, pts[0].X, pts[1].X, pts[2].X), Y: at(from.Y, pts[0].Y, pts[1].Y, pts[2].Y)})
			}
		}
	})
	return out
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

// spread grows a shape; corners that are round grow with it, sharp ones stay sharp (css-backgrounds-3, "Shadow Shape").
func spread(r geom.Round, by float64) geom.Round {
	if by < 0 {
		return r.Inset(-by, -by, -by, -by)
	}
	out := geom.Round{Rect: r.Rect.Grow(by)}
	for i, c := range r.Radii {
		if c == (geom.Point{}) {
			continue
		}
		grow := func(v float64) float64 {
			if v >= by {
				return v + by
			}
			k := v/by - 1
			return v + by*(1+k*k*k)
		}
		out.Radii[i] = geom.Point{X: grow(c.X), Y: grow(c.Y)}
	}
	return out.Fit()
}
