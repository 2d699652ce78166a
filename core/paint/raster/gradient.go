package raster

import (
	"math"
	"sort"

	"ziegel/core/css"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

func cssColor(s display.Solid) css.Color { return css.Color(s) }

// gradient is one in device pixels.
type gradient struct {
	g       *display.Gradient
	inverse geom.Matrix // from device pixels to the gradient's own coordinates
	stops   []display.Stop
	colors  [][4]float64 // of the stops, premultiplied, 0..255
	table   []pixel      // when colors change slowly enough
	dx, dy  float64      // of a linear one: t = dx*x + dy*y + t0
	t0      float64
}

// fineness is how many colors the table of a gradient has.
const fineness = 4096

func newGradient(g *display.Gradient, m geom.Matrix) source {
	if len(g.Stops) == 0 {
		return nil
	}
	inverse, ok := m.Mul(g.Matrix).Invert()
	if !ok {
		return nil
	}
	out := &gradient{g: g, inverse: inverse, stops: g.Stops}
	sharp := false
	for i, s := range g.Stops {
		a := s.Color.A * 255
		out.colors = append(out.colors, [4]float64{s.Color.R * a, s.Color.G * a, s.Color.B * a, a})
		sharp = sharp || i > 0 && s.At-g.Stops[i-1].At < 16.0/fineness && s.Color != g.Stops[i-1].Color
	}
	first, last := g.Stops[0].At, g.Stops[len(g.Stops)-1].At
	oneRun := !sharp && !g.Repeats && first > -1 && last < 2 && last > first
	if oneRun {
		out.table = make([]pixel, fineness+1)
		for i := range out.table {
			out.table[i] = out.exact(first + (last-first)*float64(i)/fineness)
		}
	}
	if g.Kind == "linear" {
		vx, vy := g.To.X-g.From.X, g.To.Y-g.From.Y
		n := vx*vx + vy*vy
		if n == 0 { // all of it is the last color
			return plainColor(out.exact(math.Inf(1)))
		}
		k := inverse
		out.dx, out.dy = (k.A*vx+k.B*vy)/n, (k.C*vx+k.D*vy)/n
		out.t0 = ((k.E-g.From.X)*vx + (k.F-g.From.Y)*vy) / n
	}
	return out
}

func (g *gradient) solid() (pixel, bool) { return pixel{}, false }

func (g *gradient) row(x, y int, out []pixel) {
	if g.g.Kind == "linear" {
		t := g.t0 + g.dy*(float64(y)+.5) + g.dx*(float64(x)+.5)
		if math.Abs(g.dx)*float64(len(out)) < 1e-6 {
			fillRow(out, g.at(t))
			return
		}
		for i := range out {
			out[i] = g.at(t + g.dx*float64(i))
		}
		return
	}
	for i := range out {
		p := g.inverse.Apply(geom.Point{X: float64(x+i) + .5, Y: float64(y) + .5})
		out[i] = g.at(g.place(p))
	}
}

// place gives where a point lies along the gradient.
func (g *gradient) place(p geom.Point) float64 {
	d := g.g
	if d.Kind == "conic" {
		a := math.Atan2(p.X-d.From.X, d.From.Y-p.Y) - d.Angle
		t := a / (2 * math.Pi)
		return t - math.Floor(t)
	}
	rx, ry := d.Radius.X, d.Radius.Y
	if rx <= 0 || ry <= 0 {
		return math.Inf(1)
	}
	x, y := (p.X-d.From.X)/rx, (p.Y-d.From.Y)/ry
	if !d.Focal {
		return math.Hypot(x, y)
	}
	// along the ray from the focus to the circle
	fx, fy := (d.Focus.X-d.From.X)/rx, (d.Focus.Y-d.From.Y)/ry
	if n := math.Hypot(fx, fy); n > .999 {
		fx, fy = fx/n*.999, fy/n*.999
	}
	vx, vy := x-fx, y-fy
	a, b, c := vx*vx+vy*vy, 2*(fx*vx+fy*vy), fx*fx+fy*fy-1
	if a == 0 {
		return 0
	}
	s := (-b + math.Sqrt(max(0, b*b-4*a*c))) / (2 * a)
	if s <= 0 {
		return math.Inf(1)
	}
	return 1 / s
}

func (g *gradient) at(t float64) pixel {
	first, last := g.stops[0].At, g.stops[len(g.stops)-1].At
	if g.g.Repeats && last > first {
		span := last - first
		if g.g.Reflect {
			k := math.Mod(t-first, 2*span)
			if k < 0 {
				k += 2 * span
			}
			if k > span {
				k = 2*span - k
			}
			t = first + k
		} else {
			k := math.Mod(t-first, span)
			if k < 0 {
				k += span
			}
			t = first + k
		}
	}
	if g.table != nil {
		i := (t - first) / (last - first) * fineness
		return g.table[int(min(fineness, max(0, i+.5)))]
	}
	return g.exact(t)
}

func (g *gradient) exact(t float64) pixel {
	n := len(g.stops)
	i := sort.Search(n, func(i int) bool { return g.stops[i].At > t })
	switch i {
	case 0:
		return rounded(g.colors[0])
	case n:
		return rounded(g.colors[n-1])
	}
	a, b := g.stops[i-1].At, g.stops[i].At
	k := (t - a) / (b - a)
	var c [4]float64
	for j := range c {
		c[j] = g.colors[i-1][j] + (g.colors[i][j]-g.colors[i-1][j])*k
	}
	return rounded(c)
}

func rounded(c [4]float64) pixel {
	return pixel{uint8(c[0] + .5), uint8(c[1] + .5), uint8(c[2] + .5), uint8(c[3] + .5)}
}
