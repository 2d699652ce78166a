// Package geom has the plane that pictures are drawn on: points, transforms and paths. All lengths are CSS px unless
// said otherwise, y down.
package geom

import "math"

// Point is a place.
type Point struct{ X, Y float64 }

// Rect is a rectangle by its edges.
type Rect struct{ X0, Y0, X1, Y1 float64 }

// R makes a rectangle of a place and a size.
func R(x, y, w, h float64) Rect { return Rect{x, y, x + w, y + h} }

// W is the width.
func (r Rect) W() float64 { return r.X1 - r.X0 }

// H is the height.
func (r Rect) H() float64 { return r.Y1 - r.Y0 }

// Empty reports a rectangle without area, one whose edges are no numbers too.
func (r Rect) Empty() bool { return !(r.X1 > r.X0 && r.Y1 > r.Y0) }

// Grow moves every edge outwards; below 0, inwards.
func (r Rect) Grow(by float64) Rect { return Rect{r.X0 - by, r.Y0 - by, r.X1 + by, r.Y1 + by} }

// Move shifts the rectangle.
func (r Rect) Move(dx, dy float64) Rect { return Rect{r.X0 + dx, r.Y0 + dy, r.X1 + dx, r.Y1 + dy} }

// Intersect gives what two rectangles share.
func (r Rect) Intersect(o Rect) Rect {
	return Rect{max(r.X0, o.X0), max(r.Y0, o.Y0), min(r.X1, o.X1), min(r.Y1, o.Y1)}
}

// Union gives the rectangle around two, empty ones left out.
func (r Rect) Union(o Rect) Rect {
	switch {
	case r.Empty():
		return o
	case o.Empty():
		return r
	}
	return Rect{min(r.X0, o.X0), min(r.Y0, o.Y0), max(r.X1, o.X1), max(r.Y1, o.Y1)}
}

// Matrix maps x, y to A*x+C*y+E, B*x+D*y+F.
type Matrix struct{ A, B, C, D, E, F float64 }

// Identity moves nothing.
var Identity = Matrix{A: 1, D: 1}

// Translate moves.
func Translate(x, y float64) Matrix { return Matrix{1, 0, 0, 1, x, y} }

// Scale grows from the origin.
func Scale(x, y float64) Matrix { return Matrix{A: x, D: y} }

// Rotate turns about the origin, radians, clockwise on the screen.
func Rotate(a float64) Matrix {
	sin, cos := math.Sincos(a)
	return Matrix{A: cos, B: sin, C: -sin, D: cos}
}

// Mul gives the transform that does n first, then m.
func (m Matrix) Mul(n Matrix) Matrix {
	return Matrix{m.A*n.A + m.C*n.B, m.B*n.A + m.D*n.B, m.A*n.C + m.C*n.D, m.B*n.C + m.D*n.D,
		m.A*n.E + m.C*n.F + m.E, m.B*n.E + m.D*n.F + m.F}
}

// Apply maps a point.
func (m Matrix) Apply(p Point) Point { return Point{m.A*p.X + m.C*p.Y + m.E, m.B*p.X + m.D*p.Y + m.F} }

// Upright reports a transform that keeps rectangles upright: it only moves and scales, without mirroring.
func (m Matrix) Upright() bool { return m.B == 0 && m.C == 0 && m.A > 0 && m.D > 0 }

// Factor is how much the transform enlarges, the square root of the area of a unit square.
func (m Matrix) Factor() float64 { return math.Sqrt(math.Abs(m.A*m.D - m.B*m.C)) }

// Invert gives the transform that undoes m; ok is false when nothing does.
func (m Matrix) Invert() (inv Matrix, ok bool) {
	det := m.A*m.D - m.B*m.C
	if det == 0 || math.IsNaN(det) || math.IsInf(det, 0) {
		return Matrix{}, false
	}
	return Matrix{m.D / det, -m.B / det, -m.C / det, m.A / det, (m.C*m.F - m.D*m.E) / det,
		(m.B*m.E - m.A*m.F) / det}, true
}

// Rect gives the upright rectangle around what a rectangle becomes.
func (m Matrix) Rect(r Rect) Rect {
	if r.Empty() {
		return Rect{}
	}
	a, b := m.Apply(Point{r.X0, r.Y0}), m.Apply(Point{r.X1, r.Y1})
	c, d := m.Apply(Point{r.X1, r.Y0}), m.Apply(Point{r.X0, r.Y1})
	return Rect{min(a.X, b.X, c.X, d.X), min(a.Y, b.Y, c.Y, d.Y), max(a.X, b.X, c.X, d.X), max(a.Y, b.Y, c.Y, d.Y)}
}
