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

// transformOf gives a box's own transform around its origin, in page coordinates.
func transformOf(s *css.Style, r Rect) matrix {
	m := identity
	w, h := r.W, r.H
	ox, oy := r.X.Float()+s.TransformOrigin[0].Resolve(w).Float(), r.Y.Float()+s.TransformOrigin[1].Resolve(h).Float()
	m = m.mul(matrix{1, 0, 0, 1, ox, oy})
	m = m.mul(matrix{1, 0, 0, 1, s.Translate[0].Resolve(w).Float(), s.Translate[1].Resolve(h).Float()})
	m = m.mul(rotation(s.Rotate))
	m = m.mul(matrix{a: s.Scale[0], d: s.Scale[1]})
	for _, t := range s.Transform {
		n := func(i int, def float64) float64 {
			if i < len(t.N) {
				return t.N[i]
			}
			return def
		}
		x, y := t.Len[0].Resolve(w).Float(), t.Len[1].Resolve(h).Float()
		switch t.Name {
		case "translate", "translate3d":
			m = m.mul(matrix{1, 0, 0, 1, x, y})
		case "translatex":
			m = m.mul(matrix{1, 0, 0, 1, x, 0})
		case "translatey":
			m = m.mul(matrix{1, 0, 0, 1, 0, t.Len[0].Resolve(h).Float()})
		case "scale", "scale3d":
			m = m.mul(matrix{a: n(0, 1), d: n(1, n(0, 1))})
		case "scalex":
			m = m.mul(matrix{a: n(0, 1), d: 1})
		case "scaley":
			m = m.mul(matrix{a: 1, d: n(0, 1)})
		case "rotate", "rotatez":
			m = m.mul(rotation(n(0, 0)))
		case "skewx":
			m = m.mul(matrix{a: 1, d: 1, c: math.Tan(n(0, 0))})
		case "skewy":
			m = m.mul(matrix{a: 1, d: 1, b: math.Tan(n(0, 0))})
		case "matrix":
			m = m.mul(matrix{n(0, 1), n(1, 0), n(2, 0), n(3, 1), n(4, 0), n(5, 0)})
		}
	}
	return m.mul(matrix{1, 0, 0, 1, -ox, -oy})
}

func rotation(a float64) matrix {
	sin, cos := math.Sincos(a)
	return matrix{a: cos, b: sin, c: -sin, d: cos}
}
