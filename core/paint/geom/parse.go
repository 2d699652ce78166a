package geom

import (
	"fmt"
	"math"
	"strconv"
)

// ParsePath reads path data (SVG 2, "Path data"). An error tells the byte where it cannot go on; what came before it is
// given, as browsers draw it.
func ParsePath(text string) (*Path, error) {
	r := &pathReader{s: text}
	p := &Path{}
	var at, start, control Point
	last := byte(0)
	for {
		r.space()
		if r.i >= len(r.s) {
			return p, nil
		}
		cmd := r.s[r.i]
		if letter(cmd) {
			r.i++
		} else {
			switch last { // the command is repeated
			case 0, 'z', 'Z':
				return p, r.wrong()
			case 'M':
				cmd = 'L'
			case 'm':
				cmd = 'l'
			default:
				cmd = last
			}
		}
		if last == 0 && cmd != 'M' && cmd != 'm' {
			return p, r.wrong()
		}
		rel := cmd >= 'a'
		up := cmd &^ 0x20
		n, known := map[byte]int{'M': 2, 'L': 2, 'H': 1, 'V': 1, 'C': 6, 'S': 4, 'Q': 4, 'T': 2, 'A': 7, 'Z': 0}[up]
		if !known {
			return p, r.wrong()
		}
		var a [7]float64
		for k := range n {
			var ok bool
			if up == 'A' && (k == 3 || k == 4) {
				a[k], ok = r.flag()
			} else {
				a[k], ok = r.number()
			}
			if !ok {
				return p, r.wrong()
			}
		}
		base := Point{}
		if rel {
			base = at
		}
		pt := func(i int) Point { return Point{base.X + a[i], base.Y + a[i+1]} }
		mirrored := func(curves string) Point { // the control of a smooth curve
			for i := range len(curves) {
				if last&^0x20 == curves[i] {
					return Point{2*at.X - control.X, 2*at.Y - control.Y}
				}
			}
			return at
		}
		switch up {
		case 'M':
			at = pt(0)
			start = at
			p.MoveTo(at.X, at.Y)
		case 'L':
			at = pt(0)
			p.LineTo(at.X, at.Y)
		case 'H':
			at.X = base.X + a[0]
			p.LineTo(at.X, at.Y)
		case 'V':
			at.Y = base.Y + a[0]
			p.LineTo(at.X, at.Y)
		case 'C':
			c1, c2, end := pt(0), pt(2), pt(4)
			p.CubicTo(c1.X, c1.Y, c2.X, c2.Y, end.X, end.Y)
			control, at = c2, end
		case 'S':
			c1, c2, end := mirrored("CS"), pt(0), pt(2)
			p.CubicTo(c1.X, c1.Y, c2.X, c2.Y, end.X, end.Y)
			control, at = c2, end
		case 'Q':
			c, end := pt(0), pt(2)
			p.QuadTo(c.X, c.Y, end.X, end.Y)
			control, at = c, end
		case 'T':
			c, end := mirrored("QT"), pt(0)
			p.QuadTo(c.X, c.Y, end.X, end.Y)
			control, at = c, end
		case 'A':
			end := pt(5)
			p.arc(at, end, arc{a[0], a[1], a[2] * math.Pi / 180, a[3] != 0, a[4] != 0})
			at = end
		case 'Z':
			p.ClosePath()
			at = start
		}
		last = cmd
	}
}

func letter(c byte) bool { return c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' }

type pathReader struct {
	s string
	i int
}

func (r *pathReader) wrong() error {
	return fmt.Errorf("path data cannot be read from byte %d on", r.i)
}

func (r *pathReader) space() {
	for r.i < len(r.s) && (r.s[r.i] <= ' ' || r.s[r.i] == ',') {
		r.i++
	}
}

func (r *pathReader) flag() (float64, bool) {
	r.space()
	if r.i >= len(r.s) || r.s[r.i] != '0' && r.s[r.i] != '1' {
		return 0, false
	}
	r.i++
	return float64(r.s[r.i-1] - '0'), true
}

func (r *pathReader) number() (float64, bool) {
	r.space()
	from := r.i
	digits := func() (n int) {
		for r.i < len(r.s) && r.s[r.i] >= '0' && r.s[r.i] <= '9' {
			r.i++
			n++
		}
		return n
	}
	sign := func() {
		if r.i < len(r.s) && (r.s[r.i] == '+' || r.s[r.i] == '-') {
			r.i++
		}
	}
	sign()
	n := digits()
	if r.i < len(r.s) && r.s[r.i] == '.' {
		r.i++
		n += digits()
	}
	if n == 0 {
		r.i = from
		return 0, false
	}
	if end := r.i; r.i < len(r.s) && (r.s[r.i] == 'e' || r.s[r.i] == 'E') {
		r.i++
		sign()
		if digits() == 0 {
			r.i = end
		}
	}
	v, err := strconv.ParseFloat(r.s[from:r.i], 64)
	if err != nil || math.IsInf(v, 0) {
		return 0, false
	}
	return v, true
}

// arc is what a path says of an arc of an ellipse: its radii, how it is turned (radians), and which of the four it is.
type arc struct {
	rx, ry, turn float64
	large, sweep bool
}

// arc adds an arc of an ellipse as cubic curves (SVG 2, "Elliptical arc implementation notes").
func (p *Path) arc(from, to Point, a arc) {
	rx, ry, turn, large, sweep := math.Abs(a.rx), math.Abs(a.ry), a.turn, a.large, a.sweep
	if rx == 0 || ry == 0 {
		p.LineTo(to.X, to.Y)
		return
	}
	if from == to {
		return
	}
	sin, cos := math.Sincos(turn)
	dx, dy := (from.X-to.X)/2, (from.Y-to.Y)/2
	x1, y1 := cos*dx+sin*dy, -sin*dx+cos*dy
	if l := x1*x1/(rx*rx) + y1*y1/(ry*ry); l > 1 {
		rx, ry = rx*math.Sqrt(l), ry*math.Sqrt(l)
	}
	num := rx*rx*ry*ry - rx*rx*y1*y1 - ry*ry*x1*x1
	k := math.Sqrt(max(0, num/(rx*rx*y1*y1+ry*ry*x1*x1)))
	if large == sweep {
		k = -k
	}
	cx1, cy1 := k*rx*y1/ry, -k*ry*x1/rx
	cx, cy := cos*cx1-sin*cy1+(from.X+to.X)/2, sin*cx1+cos*cy1+(from.Y+to.Y)/2
	a0 := math.Atan2((y1-cy1)/ry, (x1-cx1)/rx)
	a1 := math.Atan2((-y1-cy1)/ry, (-x1-cx1)/rx)
	d := a1 - a0
	if sweep && d < 0 {
		d += 2 * math.Pi
	} else if !sweep && d > 0 {
		d -= 2 * math.Pi
	}
	n := int(math.Ceil(math.Abs(d)/(math.Pi/2) - 1e-9))
	if n < 1 {
		n = 1
	}
	step := d / float64(n)
	t := 4.0 / 3 * math.Tan(step/4)
	at := func(x, y float64) Point { return Point{cx + cos*rx*x - sin*ry*y, cy + sin*rx*x + cos*ry*y} }
	for i := range n {
		s0, c0 := math.Sincos(a0 + step*float64(i))
		s1, c1 := math.Sincos(a0 + step*float64(i+1))
		q1, q2, end := at(c0-t*s0, s0+t*c0), at(c1+t*s1, s1-t*c1), at(c1, s1)
		if i == n-1 {
			end = to
		}
		p.CubicTo(q1.X, q1.Y, q2.X, q2.Y, end.X, end.Y)
	}
}
