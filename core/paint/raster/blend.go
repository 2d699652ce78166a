package raster

import (
	"image"
	"math"
)

// blendModes are how a color s mixes with b below it, 0..1 each (compositing-1, "Blending").
var blendModes = map[string]func(b, s [3]float64) [3]float64{
	"multiply": each(func(b, s float64) float64 { return b * s }),
	"screen":   each(screen),
	"overlay":  each(func(b, s float64) float64 { return hardLight(s, b) }),
	"darken":   each(func(b, s float64) float64 { return min(b, s) }),
	"lighten":  each(func(b, s float64) float64 { return max(b, s) }),
	"color-dodge": each(func(b, s float64) float64 {
		switch {
		case b == 0:
			return 0
		case s >= 1:
			return 1
		}
		return min(1, b/(1-s))
	}),
	"color-burn": each(func(b, s float64) float64 {
		switch {
		case b >= 1:
			return 1
		case s <= 0:
			return 0
		}
		return 1 - min(1, (1-b)/s)
	}),
	"hard-light": each(hardLight),
	"soft-light": each(softLight),
	"difference": each(func(b, s float64) float64 { return math.Abs(b - s) }),
	"exclusion":  each(func(b, s float64) float64 { return b + s - 2*b*s }),
	"hue":        func(b, s [3]float64) [3]float64 { return setLum(setSat(s, sat(b)), lum(b)) },
	"saturation": func(b, s [3]float64) [3]float64 { return setLum(setSat(b, sat(s)), lum(b)) },
	"color":      func(b, s [3]float64) [3]float64 { return setLum(s, lum(b)) },
	"luminosity": func(b, s [3]float64) [3]float64 { return setLum(b, lum(s)) },
}

func each(f func(b, s float64) float64) func(b, s [3]float64) [3]float64 {
	return func(b, s [3]float64) [3]float64 { return [3]float64{f(b[0], s[0]), f(b[1], s[1]), f(b[2], s[2])} }
}

func screen(b, s float64) float64 { return b + s - b*s }

func hardLight(b, s float64) float64 {
	if s <= .5 {
		return b * 2 * s
	}
	return screen(b, 2*s-1)
}

func softLight(b, s float64) float64 {
	if s <= .5 {
		return b - (1-2*s)*b*(1-b)
	}
	d := math.Sqrt(b)
	if b <= .25 {
		d = ((16*b-12)*b + 4) * b
	}
	return b + (2*s-1)*(d-b)
}

func lum(c [3]float64) float64 { return .3*c[0] + .59*c[1] + .11*c[2] }
func sat(c [3]float64) float64 { return max(c[0], c[1], c[2]) - min(c[0], c[1], c[2]) }

func setLum(c [3]float64, l float64) [3]float64 {
	d := l - lum(c)
	for i := range c {
		c[i] += d
	}
	l = lum(c)
	lo, hi := min(c[0], c[1], c[2]), max(c[0], c[1], c[2])
	for i := range c {
		if lo < 0 {
			c[i] = l + (c[i]-l)*l/(l-lo)
		}
		if hi > 1 {
			c[i] = l + (c[i]-l)*(1-l)/(hi-l)
		}
	}
	return c
}

func setSat(c [3]float64, s float64) [3]float64 {
	lo, hi := min(c[0], c[1], c[2]), max(c[0], c[1], c[2])
	if hi <= lo {
		return [3]float64{}
	}
	for i := range c {
		c[i] = (c[i] - lo) * s / (hi - lo)
	}
	return c
}

// blend lays a picture over the canvas in a mode.
func (c *canvas) blend(img *image.RGBA, mode func(b, s [3]float64) [3]float64, clip clipping) {
	area := img.Rect.Intersect(clip.rect)
	for y := area.Min.Y; y < area.Max.Y; y++ {
		for x := area.Min.X; x < area.Max.X; x++ {
			s := img.Pix[img.PixOffset(x, y):][:4:4]
			if s[3] == 0 {
				continue
			}
			m := uint32(255)
			if clip.mask != nil {
				m = uint32(clip.mask.Pix[clip.mask.PixOffset(x, y)])
			}
			if m == 0 {
				continue
			}
			d := c.img.Pix[c.img.PixOffset(x, y):][:4:4]
			sa, da := float64(s[3])/255, float64(d[3])/255
			var cs, cb [3]float64
			for i := range 3 {
				cs[i] = float64(s[i]) / float64(s[3])
				if d[3] > 0 {
					cb[i] = float64(d[i]) / float64(d[3])
				}
			}
			mixed := mode(cb, cs)
			var p pixel
			for i := range 3 {
				// what is below where only that is, the source where only that is, the mixture where both are
				v := (1-da)*sa*cs[i] + sa*da*mixed[i]
				p[i] = uint8(min(1, max(0, v))*255 + .5)
			}
			p[3] = s[3]
			over(d, p, m)
		}
	}
}
