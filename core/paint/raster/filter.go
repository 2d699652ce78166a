package raster

import (
	"image"
	"math"

	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// filterReach is how far a filter carries color, device pixels.
func filterReach(f display.Filter, m geom.Matrix) int {
	k := m.Factor()
	reach := 0.0
	switch f.Name {
	case "blur":
		reach = math.Ceil(3*f.Amount*k) + 1
	case "drop-shadow":
		reach = math.Ceil(3*f.Amount*k+max(math.Abs(f.DX), math.Abs(f.DY))*k) + 1
	}
	return min(3*mostSigma, max(0, whole(reach)))
}

// filter applies one step of a filter (filter-effects-1) to a picture.
func filter(img *image.RGBA, f display.Filter, m geom.Matrix) {
	k := m.Factor()
	switch f.Name {
	case "blur":
		if s := min(mostSigma, f.Amount*k); s > 0 {
			blurColors(img, s)
		}
		return
	case "drop-shadow":
		dropShadow(img, f, k)
		return
	case "opacity":
		n := uint32(f.Amount*255 + .5)
		for i, v := range img.Pix {
			img.Pix[i] = div255(uint32(v) * n)
		}
		return
	}
	if t, ok := ColorMatrix(f); ok {
		perPixel(img, func(c [3]float64) [3]float64 {
			var out [3]float64
			for i := range out {
				out[i] = t[i][0]*c[0] + t[i][1]*c[1] + t[i][2]*c[2]
			}
			return out
		})
		return
	}
	a := f.Amount
	switch f.Name {
	case "brightness":
		perPixel(img, func(c [3]float64) [3]float64 { return [3]float64{c[0] * a, c[1] * a, c[2] * a} })
	case "contrast":
		on := func(v float64) float64 { return (v-.5)*a + .5 }
		perPixel(img, func(c [3]float64) [3]float64 { return [3]float64{on(c[0]), on(c[1]), on(c[2])} })
	case "invert":
		on := func(v float64) float64 { return v*(1-2*a) + a }
		perPixel(img, func(c [3]float64) [3]float64 { return [3]float64{on(c[0]), on(c[1]), on(c[2])} })
	}
}

// ColorMatrix gives the matrix of a filter that mixes the channels.
func ColorMatrix(f display.Filter) (t [3][3]float64, ok bool) {
	a := f.Amount
	switch f.Name {
	case "grayscale":
		n := 1 - a
		return [3][3]float64{{.2126 + .7874*n, .7152 - .7152*n, .0722 - .0722*n},
			{.2126 - .2126*n, .7152 + .2848*n, .0722 - .0722*n}, {.2126 - .2126*n, .7152 - .7152*n, .0722 +
				.9278*n}}, true
	case "sepia":
		n := 1 - a
		return [3][3]float64{{.393 + .607*n, .769 - .769*n, .189 - .189*n},
			{.349 - .349*n, .686 + .314*n, .168 - .168*n},
			{.272 - .272*n, .534 - .534*n, .131 + .869*n}}, true
	case "saturate":
		return [3][3]float64{{.213 + .787*a, .715 - .715*a, .072 - .072*a},
			{.213 - .213*a, .715 + .285*a, .072 - .072*a},
			{.213 - .213*a, .715 - .715*a, .072 + .928*a}}, true
	case "hue-rotate":
		sin, cos := math.Sincos(a)
		return [3][3]float64{
			{.213 + cos*.787 - sin*.213, .715 - cos*.715 - sin*.715, .072 - cos*.072 + sin*.928},
			{.213 - cos*.213 + sin*.143, .715 + cos*.285 + sin*.140, .072 - cos*.072 - sin*.283},
			{.213 - cos*.213 - sin*.787, .715 - cos*.715 + sin*.715, .072 + cos*.928 + sin*.072}}, true
	}
	return t, false
}

// perPixel changes the colors of a picture, 0..1 and not premultiplied.
func perPixel(img *image.RGBA, f func(c [3]float64) [3]float64) {
	was, now := pixel{}, pixel{}
	for i := 0; i < len(img.Pix); i += 4 {
		p := img.Pix[i : i+4 : i+4]
		if p[3] == 0 {
			continue
		}
		if q := (pixel{p[0], p[1], p[2], p[3]}); q != was {
			a := float64(q[3])
			c := f([3]float64{float64(q[0]) / a, float64(q[1]) / a, float64(q[2]) / a})
			was, now = q, pixel{0, 0, 0, q[3]}
			for j := range c {
				now[j] = uint8(min(1, max(0, c[j]))*a + .5)
			}
		}
		copy(p, now[:])
	}
}

func dropShadow(img *image.RGBA, f display.Filter, k float64) {
	dx, dy := whole(math.Round(f.DX*k)), whole(math.Round(f.DY*k))
	shade := image.NewAlpha(img.Rect)
	w, h := img.Rect.Dx(), img.Rect.Dy()
	for y := range h {
		for x := range w {
			if sx, sy := x-dx, y-dy; sx >= 0 && sy >= 0 && sx < w && sy < h {
				shade.Pix[y*shade.Stride+x] = img.Pix[sy*img.Stride+sx*4+3]
			}
		}
	}
	if s := min(mostSigma, f.Amount*k); s > 0 {
		shade = blurAlpha(shade, s)
	}
	color := premultiplied(f.Color)
	for y := range h {
		for x := range w {
			p := img.Pix[y*img.Stride+x*4:][:4:4]
			m := uint32(shade.Pix[y*shade.Stride+x])
			if m == 0 || p[3] == 255 {
				continue
			}
			rest := 255 - uint32(p[3])
			for j := range p {
				p[j] += div255(uint32(div255(uint32(color[j])*m)) * rest)
			}
		}
	}
}
