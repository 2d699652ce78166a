package compare

import (
	"image"
	"math"
	"slices"

	"github.com/lucasb-eyer/go-colorful"

	"ziegel/core/paint/geom"
)

// rgb is a color, 0..255 each.
type rgb [3]uint8

func (c rgb) hex() string {
	return colorful.Color{R: float64(c[0]) / 255, G: float64(c[1]) / 255, B: float64(c[2]) / 255}.Hex()
}

// deltaE is how far apart two colors are (CIEDE2000, D65), 0..100.
func deltaE(a, b rgb) float64 {
	of := func(c rgb) colorful.Color {
		return colorful.Color{R: float64(c[0]) / 255, G: float64(c[1]) / 255, B: float64(c[2]) / 255}
	}
	return of(a).DistanceCIEDE2000(of(b)) * 100
}

// shades is what colors a part of a picture shows.
type shades struct {
	ground  rgb     // the most frequent
	share   float64 // of the pixels that have it, 0..1
	ink     rgb     // what is furthest from it
	hasInk  bool
	density float64 // how much of the part the ink covers, 0..1
	mass    float64 // how much all of it differs from the ground; it stays when edges are softer
}

// shadesOf measures a part of a picture. ok is false when it has no pixels there.
func shadesOf(img *image.RGBA, r geom.Rect, except []geom.Rect) (s shades, ok bool) {
	in := pixelsOf(r).Intersect(img.Rect)
	if in.Empty() {
		return s, false
	}
	count := map[rgb]int{}
	n := 0
	each := func(visit func(c rgb)) {
		for y := in.Min.Y; y < in.Max.Y; y++ {
			row := img.Pix[img.PixOffset(in.Min.X, y):]
		pixels:
			for x := range in.Dx() {
				for _, e := range except {
					if fx, fy := float64(in.Min.X+x), float64(y); fx >= e.X0 && fx < e.X1 && fy >= e.Y0 && fy < e.Y1 {
						continue pixels
					}
				}
				visit(rgb(row[x*4 : x*4+3]))
			}
		}
	}
	each(func(c rgb) { count[c]++; n++ })
	if n == 0 {
		return s, false
	}
	for c, k := range count {
		if k > count[s.ground] || k == count[s.ground] && c[0] > s.ground[0] {
			s.ground = c
		}
	}
	s.share = float64(count[s.ground]) / float64(n)
	far := func(c rgb) float64 {
		d := 0.0
		for i := range c {
			d += math.Pow(float64(c[i])-float64(s.ground[i]), 2)
		}
		return math.Sqrt(d)
	}
	most := 0.0
	for c := range count {
		most = max(most, far(c))
	}
	if most < 24 {
		return s, true
	}
	// of those that are far from it, the most frequent: letters may have several colors
	bins := map[rgb][4]float64{}
	covered := 0.0
	for c, k := range count {
		d := far(c)
		covered += float64(k) * d / most
		if d < most*.8 {
			continue
		}
		key := rgb{c[0] >> 5, c[1] >> 5, c[2] >> 5}
		bin := bins[key]
		for i := range c {
			bin[i] += float64(c[i]) * float64(k) * d * d
		}
		bin[3] += float64(k) * d * d
		bins[key] = bin
	}
	var best rgb
	for key, bin := range bins {
		if w := bins[best][3]; bin[3] > w || bin[3] == w && slices.Compare(key[:], best[:]) < 0 {
			best = key
		}
	}
	for i := range s.ink {
		s.ink[i] = uint8(math.Round(bins[best][i] / bins[best][3]))
	}
	s.hasInk, s.density, s.mass = true, covered/float64(n), covered/float64(n)*most
	return s, true
}

// softer reports ink that differs from another only because more of it lies on edges: it is the same color, mixed with
// more or less of the ground, and as much of it.
func (s shades) softer(o shades, tolerance float64) bool {
	if math.Abs(s.mass/o.mass-1) > .12 {
		return false
	}
	along, length := 0.0, 0.0
	for i := range s.ink {
		c := float64(s.ink[i]) - float64(s.ground[i])
		along += (float64(o.ink[i]) - float64(o.ground[i])) * c
		length += c * c
	}
	t := along / length
	var mixed rgb
	for i := range mixed {
		mixed[i] = uint8(max(0, min(255, float64(s.ground[i])+t*(float64(s.ink[i])-float64(s.ground[i])))))
	}
	return t > .7 && t < 1.4 && deltaE(mixed, o.ink) <= max(tolerance, 2)
}
