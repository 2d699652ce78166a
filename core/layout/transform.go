package layout

import (
	"math"

	"ziegel/core/css"
)

// matrix is a 2D affine transform.
type matrix struct{ a, b, c, d, e, f float64 }

func (m matrix) mul(n matrix) matrix {
	return matrix{m.a*n.a + m.c*n.b, m.b*n.a + m.d*n.b, m.a*n.c + m.c*n.d, m.b*n.c + m.d*n.d, m.a*n.e + m.c*n.f + m.e,
		m.b*n.e + m.d*n.f + m.f}
}

func (m matrix) rect(r Rect) Rect {
	if m == identity {
		return r
	}
	minX, minY, maxX, maxY := math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	for _, p := range [4][2]float64{{r.X.Float(), r.Y.Float()}, {r.Right().Float(), r.Y.Float()},
		{r.X.Float(), r.Bottom().Float()}, {r.Right().Float(), r.Bottom().Float()}} {
		x, y := m.a*p[0]+m.c*p[1]+m.e, m.b*p[0]+m.d*p[1]+m.f
		minX, maxX, minY, maxY = min(minX, x), max(maxX, x), min(minY, y), max(maxY, y)
	}
	return Rect{css.FromFloat(minX), css.FromFloat(minY), css.FromFloat(maxX - minX), css.FromFloat(maxY - minY)}
}

var identity = matrix{a: 1, d: 1}

// transformOf gives a box's own transform around its origin, in page coordinates: what is turned in space is seen from
// the front, from far away (css-transforms-2, section 5; perspective is not followed).
func transformOf(s *css.Style, r Rect) matrix {
	m, _ := transformIn(s, r)
	return m
}

// transformIn gives that, and whether it turns or stretches what is not in the plane.
func transformIn(s *css.Style, r Rect) (front matrix, deep bool) {
	w, h := r.W, r.H
	ox, oy := r.X.Float()+s.TransformOrigin[0].Resolve(w).Float(), r.Y.Float()+s.TransformOrigin[1].Resolve(h).Float()
	m := moved(ox, oy, 0)
	m = m.mul(moved(s.Translate[0].Resolve(w).Float(), s.Translate[1].Resolve(h).Float(), 0))
	if s.Rotate != 0 {
		m = m.mul(turned(s.RotateAxis, s.Rotate))
	}
	depth := 1.0
	if s.Deep {
		depth = s.Depth
	}
	m = m.mul(scaled(s.Scale[0], s.Scale[1], depth))
	for _, t := range s.Transform {
		m = m.mul(transformStep(t, w, h))
	}
	m = m.mul(moved(-ox, -oy, 0))
	return m.front(), m[0][2] != 0 || m[1][2] != 0 || m[2][0] != 0 || m[2][1] != 0 || m[2][2] != 1
}

// transformStep gives one function of transform, on a box of w by h.
func transformStep(t css.TransformOp, w, h Px) space3 {
	n := func(i int, def float64) float64 {
		if i < len(t.N) {
			return t.N[i]
		}
		return def
	}
	x, y := t.Len[0].Resolve(w).Float(), t.Len[1].Resolve(h).Float()
	skew := func(x, y float64) space3 {
		m := moved(0, 0, 0)
		m[0][1], m[1][0] = math.Tan(x), math.Tan(y)
		return m
	}
	switch t.Name {
	case "translate":
		return moved(x, y, 0)
	case "translate3d":
		return moved(x, y, n(2, 0))
	case "translatex":
		return moved(x, 0, 0)
	case "translatey":
		return moved(0, t.Len[0].Resolve(h).Float(), 0)
	case "translatez":
		return moved(0, 0, n(0, 0))
	case "scale":
		return scaled(n(0, 1), n(1, n(0, 1)), 1)
	case "scale3d":
		return scaled(n(0, 1), n(1, 1), n(2, 1))
	case "scalex":
		return scaled(n(0, 1), 1, 1)
	case "scaley":
		return scaled(1, n(0, 1), 1)
	case "scalez":
		return scaled(1, 1, n(0, 1))
	case "rotate", "rotatez":
		return turned([3]float64{0, 0, 1}, n(0, 0))
	case "rotatex":
		return turned([3]float64{1, 0, 0}, n(0, 0))
	case "rotatey":
		return turned([3]float64{0, 1, 0}, n(0, 0))
	case "rotate3d":
		return turned([3]float64{n(0, 0), n(1, 0), n(2, 0)}, n(3, 0))
	case "skew":
		return skew(n(0, 0), n(1, 0))
	case "skewx":
		return skew(n(0, 0), 0)
	case "skewy":
		return skew(0, n(0, 0))
	case "matrix":
		m := moved(n(4, 0), n(5, 0), 0)
		m[0][0], m[1][0], m[0][1], m[1][1] = n(0, 1), n(1, 0), n(2, 0), n(3, 1)
		return m
	case "matrix3d":
		m := moved(0, 0, 0)
		for i := range 16 {
			m[i%4][i/4] = n(i, m[i%4][i/4])
		}
		return m
	}
	return moved(0, 0, 0)
}

// space3 is a transform in space, by rows.
type space3 [4][4]float64

func (m space3) mul(n space3) (out space3) {
	for i := range 4 {
		for j := range 4 {
			for k := range 4 {
				out[i][j] += m[i][k] * n[k][j]
			}
		}
	}
	return out
}

// front is how a plane without depth is seen.
func (m space3) front() matrix { return matrix{m[0][0], m[1][0], m[0][1], m[1][1], m[0][3], m[1][3]} }

func moved(x, y, z float64) space3 {
	return space3{{1, 0, 0, x}, {0, 1, 0, y}, {0, 0, 1, z}, {0, 0, 0, 1}}
}

func scaled(x, y, z float64) space3 {
	return space3{{x, 0, 0, 0}, {0, y, 0, 0}, {0, 0, z, 0}, {0, 0, 0, 1}}
}

// turned is a rotation by an angle around an axis, radians (css-transforms-2, section 13.2).
func turned(axis [3]float64, angle float64) space3 {
	length := math.Sqrt(axis[0]*axis[0] + axis[1]*axis[1] + axis[2]*axis[2])
	if length == 0 {
		return moved(0, 0, 0)
	}
	x, y, z := axis[0]/length, axis[1]/length, axis[2]/length
	sin, cos := math.Sincos(angle)
	rest := 1 - cos
	return space3{
		{cos + x*x*rest, x*y*rest - z*sin, x*z*rest + y*sin, 0},
		{y*x*rest + z*sin, cos + y*y*rest, y*z*rest - x*sin, 0},
		{z*x*rest - y*sin, z*y*rest + x*sin, cos + z*z*rest, 0},
		{0, 0, 0, 1},
	}
}
