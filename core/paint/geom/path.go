package geom

import "math"

// Op is a step of a path.
type Op uint8

// The steps. Each uses as many points as is said beside it.
const (
	Move  Op = iota // 1
	Line            // 1
	Quad            // 2: control, end
	Cubic           // 3: two controls, end
	Close           // 0
)

// Path is a shape of lines and curves. Its parts are closed when it is filled.
type Path struct {
	Ops    []Op
	Points []Point
	// EvenOdd fills what an odd number of parts cover; otherwise what winds.
	EvenOdd bool
}

// MoveTo begins a part.
func (p *Path) MoveTo(x, y float64) {
	p.Ops, p.Points = append(p.Ops, Move), append(p.Points, Point{x, y})
}

// LineTo adds a line.
func (p *Path) LineTo(x, y float64) {
	p.Ops, p.Points = append(p.Ops, Line), append(p.Points, Point{x, y})
}

// QuadTo adds a quadratic curve.
func (p *Path) QuadTo(cx, cy, x, y float64) {
	p.Ops, p.Points = append(p.Ops, Quad), append(p.Points, Point{cx, cy}, Point{x, y})
}

// CubicTo adds a cubic curve.
func (p *Path) CubicTo(ax, ay, bx, by, x, y float64) {
	p.Ops, p.Points = append(p.Ops, Cubic), append(p.Points, Point{ax, ay}, Point{bx, by}, Point{x, y})
}

// ClosePath ends a part where it began.
func (p *Path) ClosePath() { p.Ops = append(p.Ops, Close) }

// Empty reports a path without steps.
func (p *Path) Empty() bool { return p == nil || len(p.Ops) == 0 }

// Each calls f for every step with its points and the place where it begins.
func (p *Path) Each(f func(op Op, from Point, pts []Point)) {
	at, start := Point{}, Point{}
	i := 0
	for _, op := range p.Ops {
		n := [5]int{1, 1, 2, 3, 0}[op]
		pts := p.Points[i : i+n]
		i += n
		f(op, at, pts)
		switch op {
		case Move:
			at, start = pts[0], pts[0]
		case Close:
			at = start
		default:
			at = pts[n-1]
		}
	}
}

// Transform gives the path under a transform.
func (p *Path) Transform(m Matrix) *Path {
	out := &Path{Ops: p.Ops, Points: make([]Point, len(p.Points)), EvenOdd: p.EvenOdd}
	for i, pt := range p.Points {
		out.Points[i] = m.Apply(pt)
	}
	return out
}

// Add appends another path.
func (p *Path) Add(o *Path) {
	p.Ops, p.Points = append(p.Ops, o.Ops...), append(p.Points, o.Points...)
}

// Bounds gives the rectangle around all points, those that only steer curves too.
func (p *Path) Bounds() Rect {
	if len(p.Points) == 0 {
		return Rect{}
	}
	r := Rect{math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)}
	for _, q := range p.Points {
		r = Rect{min(r.X0, q.X), min(r.Y0, q.Y), max(r.X1, q.X), max(r.Y1, q.Y)}
	}
	return r
}

// RectPath is a rectangle as a path.
func RectPath(r Rect) *Path {
	p := &Path{}
	p.MoveTo(r.X0, r.Y0)
	p.LineTo(r.X1, r.Y0)
	p.LineTo(r.X1, r.Y1)
	p.LineTo(r.X0, r.Y1)
	p.ClosePath()
	return p
}

// kappa is how far the controls of a cubic curve lie along the sides of a quarter of an ellipse.
const kappa = .5522847498307936

// Ellipse is an ellipse as a path, from its right end on, clockwise (SVG 2, "The circle element").
func Ellipse(cx, cy, rx, ry float64) *Path {
	p := &Path{}
	kx, ky := rx*kappa, ry*kappa
	p.MoveTo(cx+rx, cy)
	p.CubicTo(cx+rx, cy+ky, cx+kx, cy+ry, cx, cy+ry)
	p.CubicTo(cx-kx, cy+ry, cx-rx, cy+ky, cx-rx, cy)
	p.CubicTo(cx-rx, cy-ky, cx-kx, cy-ry, cx, cy-ry)
	p.CubicTo(cx+kx, cy-ry, cx+rx, cy-ky, cx+rx, cy)
	p.ClosePath()
	return p
}

// Round is a rectangle with rounded corners: radii from the upper left one clockwise, each across and down.
type Round struct {
	Rect
	Radii [4]Point
}

// Sharp reports corners that are not rounded.
func (r Round) Sharp() bool { return r.Radii == [4]Point{} }

// Fit shrinks the radii of all corners alike until they fit (css-backgrounds-3, "Overlapping Curves").
func (r Round) Fit() Round {
	f := 1.0
	for _, s := range [4][2]float64{{r.W(), r.Radii[0].X + r.Radii[1].X}, {r.W(), r.Radii[3].X + r.Radii[2].X},
		{r.H(), r.Radii[0].Y + r.Radii[3].Y}, {r.H(), r.Radii[1].Y + r.Radii[2].Y}} {
		if s[1] > s[0] && s[1] > 0 {
			f = min(f, max(0, s[0])/s[1])
		}
	}
	for i := range r.Radii {
		r.Radii[i] = Point{r.Radii[i].X * f, r.Radii[i].Y * f}
		if r.Radii[i].X <= 0 || r.Radii[i].Y <= 0 {
			r.Radii[i] = Point{}
		}
	}
	return r
}

// Inset moves the edges inwards (top, right, bottom, left), the curves with them.
func (r Round) Inset(top, right, bottom, left float64) Round {
	out := Round{Rect: Rect{r.X0 + left, r.Y0 + top, r.X1 - right, r.Y1 - bottom}}
	if out.X1 < out.X0 {
		out.X0 = (out.X0 + out.X1) / 2
		out.X1 = out.X0
	}
	if out.Y1 < out.Y0 {
		out.Y0 = (out.Y0 + out.Y1) / 2
		out.Y1 = out.Y0
	}
	by := [4]Point{{left, top}, {right, top}, {right, bottom}, {left, bottom}}
	for i, c := range r.Radii {
		if c == (Point{}) {
			continue
		}
		n := Point{c.X - by[i].X, c.Y - by[i].Y}
		if n.X > 0 && n.Y > 0 {
			out.Radii[i] = n
		}
	}
	return out
}

// Path gives the outline, clockwise.
func (r Round) Path() *Path {
	if r.Sharp() {
		return RectPath(r.Rect)
	}
	p := &Path{}
	tl, tr, br, bl := r.Radii[0], r.Radii[1], r.Radii[2], r.Radii[3]
	k := 1 - kappa
	p.MoveTo(r.X0+tl.X, r.Y0)
	p.LineTo(r.X1-tr.X, r.Y0)
	if tr.X > 0 {
		p.CubicTo(r.X1-tr.X*k, r.Y0, r.X1, r.Y0+tr.Y*k, r.X1, r.Y0+tr.Y)
	}
	p.LineTo(r.X1, r.Y1-br.Y)
	if br.X > 0 {
		p.CubicTo(r.X1, r.Y1-br.Y*k, r.X1-br.X*k, r.Y1, r.X1-br.X, r.Y1)
	}
	p.LineTo(r.X0+bl.X, r.Y1)
	if bl.X > 0 {
		p.CubicTo(r.X0+bl.X*k, r.Y1, r.X0, r.Y1-bl.Y*k, r.X0, r.Y1-bl.Y)
	}
	p.LineTo(r.X0, r.Y0+tl.Y)
	if tl.X > 0 {
		p.CubicTo(r.X0, r.Y0+tl.Y*k, r.X0+tl.X*k, r.Y0, r.X0+tl.X, r.Y0)
	}
	p.ClosePath()
	return p
}
