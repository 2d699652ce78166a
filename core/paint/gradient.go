package paint

import (
	"math"
	"strings"

	"ziegel/core/css"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// stopValue is a color stop as written.
type stopValue struct {
	color css.Color
	at    css.Len
	angle float64
	placed,
	isAngle bool
	hint bool // a place alone: where the middle color lies
}

// gradient reads a gradient (css-images-3 and -4) and gives what makes its brush for a box of a size; nil for one that
// cannot be read.
func (p *painter) gradient(b *box, name string, args []css.Token) func(at geom.Rect) display.Brush {
	old := strings.HasPrefix(name, "-webkit-")
	repeats := strings.Contains(name, "repeating")
	list := css.SplitCommas(args)
	if len(list) == 0 || old {
		return nil
	}
	var stops []stopValue
	head := list[0]
	if s, ok := readStop(b.read, head); ok && !s[0].hint { // "90deg" alone is where it goes
		stops, head = append(stops, s...), nil
	}
	for _, v := range list[1:] {
		s, ok := readStop(b.read, v)
		if !ok {
			return nil
		}
		stops = append(stops, s...)
	}
	if len(stops) < 2 {
		if len(stops) == 0 {
			return nil
		}
		stops = append(stops, stops[0])
	}
	parts := css.Parts(head)
	space := ""
	for i := 0; i+1 < len(parts); i++ {
		if css.Word(parts[i]) == "in" { // "in oklch longer hue" stands before or after the geometry
			space = css.Word(parts[i+1])
			end := i + 2
			for end < len(parts) && (strings.HasSuffix(css.Word(parts[end]), "er") ||
				css.Word(parts[end]) == "hue" || strings.HasSuffix(css.Word(parts[end]), "creasing")) {
				end++
			}
			parts = append(append([][]css.Token(nil), parts[:i]...), parts[end:]...)
			break
		}
	}
	if space != "" && space != "srgb" {
		p.miss(b.el, "a gradient in "+space+" is drawn in srgb")
	}
	switch {
	case strings.HasSuffix(name, "linear-gradient"):
		angle, corner, ok := direction(b.read, parts)
		if !ok {
			return nil
		}
		return func(at geom.Rect) display.Brush { return linear(at, angle, corner, stops, repeats) }
	case strings.HasSuffix(name, "radial-gradient"):
		return radial(b.read, parts, stops, repeats)
	case strings.HasSuffix(name, "conic-gradient"):
		return conic(b.read, parts, stops, repeats)
	}
	return nil
}

// readStop reads a color with up to two places, or a place alone.
func readStop(read *css.Reader, v []css.Token) ([]stopValue, bool) {
	var out []stopValue
	color, has := css.Color{}, false
	var places []stopValue
	for _, part := range css.Parts(v) {
		if c, ok := read.Parse(part); ok && !has {
			color, has = c, true
			continue
		}
		if a, ok := read.Angle(part); ok && css.Text(part) != "0" {
			places = append(places, stopValue{angle: a, isAngle: true, placed: true})
			continue
		}
		l, ok := read.Length(part)
		if !ok {
			return nil, false
		}
		places = append(places, stopValue{at: l, placed: true})
	}
	switch {
	case !has && len(places) == 1:
		places[0].hint = true
		return places, true
	case !has || len(places) > 2:
		return nil, false
	case len(places) == 0:
		return []stopValue{{color: color}}, true
	}
	for _, s := range places {
		s.color = color
		out = append(out, s)
	}
	return out, true
}

// resolve places the stops along a length (css-images-3, "Color Stop Fixup"); a full turn is the length of angles.
func resolve(stops []stopValue, length float64) []display.Stop {
	n := len(stops)
	at := make([]float64, n)
	set := make([]bool, n)
	for i, s := range stops {
		if s.placed {
			set[i] = true
			if s.isAngle {
				at[i] = s.angle / (2 * math.Pi)
			} else if length > 0 {
				at[i] = s.at.At(length) / length
			} else if s.at.HasPercent() {
				at[i] = s.at.Pct / 100
			}
		}
	}
	if !set[0] {
		set[0] = true
	}
	if !set[n-1] {
		at[n-1], set[n-1] = 1, true
	}
	high := at[0]
	for i := range at {
		if set[i] {
			at[i] = max(at[i], high)
			high = at[i]
		}
	}
	for i := 0; i < n; {
		if set[i] {
			i++
			continue
		}
		j := i
		for !set[j] {
			j++
		}
		for k := i; k < j; k++ {
			at[k] = at[i-1] + (at[j]-at[i-1])*float64(k-i+1)/float64(j-i+1)
		}
		i = j
	}
	var out []display.Stop
	for i, s := range stops {
		if !s.hint {
			out = append(out, display.Stop{At: at[i], Color: s.color})
			continue
		}
		if i == 0 || i == n-1 {
			continue
		}
		// css-images-3, "Color Interpolation Hints": as several stops along the curve
		a, z, from, to := stops[i-1].color, stops[i+1].color, at[i-1], at[i+1]
		if to <= from {
			continue
		}
		h := (at[i] - from) / (to - from)
		for k := 1; k < 16; k++ {
			x := float64(k) / 16
			c := 0.0
			switch {
			case h <= 0:
				c = 1
			case h >= 1:
				c = 0
			default:
				c = math.Pow(x, math.Log(.5)/math.Log(h))
			}
			out = append(out, display.Stop{At: from + (to-from)*x, Color: between(a, z, c)})
		}
	}
	return out
}

// between mixes two colors, premultiplied.
func between(a, z css.Color, t float64) css.Color {
	alpha := a.A + (z.A-a.A)*t
	if alpha <= 0 {
		return css.Color{}
	}
	mix := func(x, y float64) float64 { return (x*a.A*(1-t) + y*z.A*t) / alpha }
	return css.Color{R: mix(a.R, z.R), G: mix(a.G, z.G), B: mix(a.B, z.B), A: alpha}
}

// direction reads the angle of a linear gradient, or the corner that it goes to.
func direction(read *css.Reader, parts [][]css.Token) (angle float64, corner [2]float64, ok bool) {
	if len(parts) == 0 {
		return math.Pi, corner, true
	}
	if css.Word(parts[0]) != "to" {
		angle, ok = read.Angle(parts[0])
		return angle, corner, ok && len(parts) == 1
	}
	for _, part := range parts[1:] {
		switch css.Word(part) {
		case "left":
			corner[0] = -1
		case "right":
			corner[0] = 1
		case "top":
			corner[1] = -1
		case "bottom":
			corner[1] = 1
		default:
			return 0, corner, false
		}
	}
	if corner[0] != 0 && corner[1] != 0 {
		return 0, corner, true
	}
	switch corner {
	case [2]float64{0, -1}:
		angle = 0
	case [2]float64{1, 0}:
		angle = math.Pi / 2
	case [2]float64{0, 1}:
		angle = math.Pi
	case [2]float64{-1, 0}:
		angle = 3 * math.Pi / 2
	}
	return angle, [2]float64{}, true
}

func linear(at geom.Rect, angle float64, corner [2]float64, stops []stopValue, repeats bool) display.Brush {
	w, h := at.W(), at.H()
	dx, dy := math.Sin(angle), -math.Cos(angle)
	if corner != [2]float64{} { // so that the middle color runs through the two other corners
		dx, dy = corner[0]*h, corner[1]*w
		n := math.Hypot(dx, dy)
		if n == 0 {
			n = 1
		}
		dx, dy = dx/n, dy/n
	}
	length := math.Abs(w*dx) + math.Abs(h*dy)
	cx, cy := (at.X0+at.X1)/2, (at.Y0+at.Y1)/2
	return &display.Gradient{Kind: "linear", From: geom.Point{X: cx - dx*length/2, Y: cy - dy*length/2},
		To: geom.Point{X: cx + dx*length/2, Y: cy + dy*length/2}, Matrix: geom.Identity,
		Stops: resolve(stops, length), Repeats: repeats}
}

func radial(read *css.Reader, parts [][]css.Token, stops []stopValue, repeats bool) func(geom.Rect) display.Brush {
	cxv, cyv, parts := center(parts)
	circle, size := false, "farthest-corner"
	var lens []css.Len
	for _, part := range parts {
		switch w := css.Word(part); w {
		case "circle":
			circle = true
		case "ellipse":
		case "closest-side", "farthest-side", "closest-corner", "farthest-corner":
			size = w
		default:
			l, ok := read.Length(part)
			if !ok {
				return nil
			}
			lens = append(lens, l)
		}
	}
	circle = circle || len(lens) == 1
	return func(at geom.Rect) display.Brush {
		c := geom.Point{X: placeOf(read, cxv, at.X0, at.W()), Y: placeOf(read, cyv, at.Y0, at.H())}
		l, r, t, b := math.Abs(c.X-at.X0), math.Abs(at.X1-c.X), math.Abs(c.Y-at.Y0), math.Abs(at.Y1-c.Y)
		var rx, ry float64
		switch {
		case len(lens) == 1:
			rx = lens[0].At(at.W())
			ry = rx
		case len(lens) > 1:
			rx, ry = lens[0].At(at.W()), lens[1].At(at.H())
		default:
			rx, ry = max(l, r), max(t, b)
			if strings.HasPrefix(size, "closest") {
				rx, ry = min(l, r), min(t, b)
			}
			corner := strings.HasSuffix(size, "corner")
			switch {
			case circle && corner:
				rx = math.Hypot(rx, ry)
				ry = rx
			case circle && strings.HasPrefix(size, "closest"):
				rx = min(rx, ry)
				ry = rx
			case circle:
				rx = max(rx, ry)
				ry = rx
			case corner:
				rx, ry = rx*math.Sqrt2, ry*math.Sqrt2
			}
		}
		rx, ry = max(rx, 1e-5), max(ry, 1e-5)
		return &display.Gradient{Kind: "radial", From: c, Radius: geom.Point{X: rx, Y: ry}, Matrix: geom.Identity,
			Stops: resolve(stops, rx), Repeats: repeats}
	}
}

func conic(read *css.Reader, parts [][]css.Token, stops []stopValue, repeats bool) func(geom.Rect) display.Brush {
	cxv, cyv, parts := center(parts)
	angle := 0.0
	if len(parts) == 2 && css.Word(parts[0]) == "from" {
		a, ok := read.Angle(parts[1])
		if !ok {
			return nil
		}
		angle = a
	} else if len(parts) > 0 {
		return nil
	}
	return func(at geom.Rect) display.Brush {
		return &display.Gradient{Kind: "conic", Angle: angle, Matrix: geom.Identity, Stops: resolve(stops, 1),
			From:    geom.Point{X: placeOf(read, cxv, at.X0, at.W()), Y: placeOf(read, cyv, at.Y0, at.H())},
			Repeats: repeats}
	}
}
