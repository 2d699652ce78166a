package raster

import (
	"image"
	"math"

	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// mostSigma bounds a blur, device pixels, as Skia does.
const mostSigma = 532

// shadow paints a blurred shape.
func (c *canvas) shadow(it *display.Shadow, m geom.Matrix, clip clipping) {
	p := premultiplied(it.Color)
	if p[3] == 0 {
		return
	}
	sigma := min(mostSigma, it.Sigma*m.Factor())
	if math.IsNaN(sigma) {
		return
	}
	if it.Around != nil {
		clip = c.without(clip, it.Around.Transform(m))
	}
	reach := math.Ceil(3*sigma) + 1
	if it.Inside != nil {
		clip = c.within(clip, it.Inside.Path().Transform(m))
		if clip.rect.Empty() {
			return
		}
		area := clip.rect
		mask := image.NewAlpha(area)
		if it.Shape.Empty() {
			for i := range mask.Pix {
				mask.Pix[i] = 255
			}
		} else {
			c.blurred(mask, it.Shape, m, sigma)
			for i, v := range mask.Pix {
				mask.Pix[i] = 255 - v
			}
		}
		c.paint(plainColor(p), area, mask, clip)
		return
	}
	area := outer(m.Rect(it.Shape.Rect).Grow(reach)).Intersect(clip.rect)
	if area.Empty() {
		return
	}
	mask := image.NewAlpha(area)
	c.blurred(mask, it.Shape, m, sigma)
	c.paint(plainColor(p), area, mask, clip)
}

// without narrows a clipping to what lies outside of a path in device pixels.
func (c *canvas) without(clip clipping, p *geom.Path) clipping {
	if clip.rect.Intersect(outer(p.Bounds())).Empty() {
		return clip
	}
	mask := c.path.mask(p, clip.rect)
	for i, v := range mask.Pix {
		mask.Pix[i] = 255 - v
	}
	if clip.mask != nil {
		multiply(mask, clip.mask)
	}
	clip.mask = mask
	return clip
}

// mostCorner is how large a blurred corner may be that is worked out, device pixels.
const mostCorner = 2400

// blurred fills a mask with a rounded rectangle that is blurred. Upright ones are made small, without their long
// straight middles, and stretched.
func (c *canvas) blurred(mask *image.Alpha, shape geom.Round, m geom.Matrix, sigma float64) {
	if !m.Upright() {
		path := shape.Path().Transform(m)
		if sigma <= 0 {
			c.path.into(mask, path)
			return
		}
		pad := int(math.Ceil(3*sigma)) + 1
		area := mask.Rect.Inset(-pad).Intersect(outer(path.Bounds()).Inset(-pad))
		if area.Empty() {
			return
		}
		big := c.path.mask(path, area)
		big = blurAlpha(big, sigma)
		copyAlpha(mask, big)
		return
	}
	r := m.Rect(shape.Rect)
	if sigma <= 0 {
		dev := shape.Path().Transform(m)
		c.path.into(mask, dev)
		return
	}
	widest := 0.0
	for _, q := range shape.Radii {
		widest = max(widest, q.X*m.A, q.Y*m.D)
	}
	// corners that the blur swallows, and those that no memory holds, count as sharp
	if shape.Sharp() || sigma > 24 && widest < sigma || widest+3*sigma > mostCorner {
		x, y := smoothStep(mask.Rect.Min.X, mask.Rect.Dx(), r.X0, r.X1, sigma),
			smoothStep(mask.Rect.Min.Y, mask.Rect.Dy(), r.Y0, r.Y1, sigma)
		for j := range y {
			row := mask.Pix[j*mask.Stride:][:len(x)]
			for i := range row {
				row[i] = uint8(x[i]*y[j]*255 + .5)
			}
		}
		return
	}
	dev := geom.Round{Rect: r}
	corner := 0.0
	for i, q := range shape.Radii {
		dev.Radii[i] = geom.Point{X: q.X * m.A, Y: q.Y * m.D}
		corner = max(corner, dev.Radii[i].X, dev.Radii[i].Y)
	}
	pad := math.Ceil(3*sigma) + 1
	keep := math.Ceil(corner) + pad + 1
	// cut a middle that is longer than what corners and blur need
	cut := func(lo, hi float64) float64 {
		if rest := hi - lo - 2*keep; rest > 4 {
			return math.Floor(rest)
		}
		return 0
	}
	cx, cy := cut(r.X0, r.X1), cut(r.Y0, r.Y1)
	small := dev
	small.X1, small.Y1 = small.X1-cx, small.Y1-cy
	area := outer(small.Rect.Grow(pad))
	key := blurAlpha(c.path.mask(small.Path(), area), sigma)
	midX, midY := int(math.Floor((small.X0+small.X1)/2)), int(math.Floor((small.Y0+small.Y1)/2))
	from := func(v, mid, cut int) int {
		switch {
		case v <= mid:
			return v
		case v <= mid+cut:
			return mid
		}
		return v - cut
	}
	for y := mask.Rect.Min.Y; y < mask.Rect.Max.Y; y++ {
		sy := from(y, midY, int(cy))
		if sy < area.Min.Y || sy >= area.Max.Y {
			continue
		}
		for x := mask.Rect.Min.X; x < mask.Rect.Max.X; x++ {
			if sx := from(x, midX, int(cx)); sx >= area.Min.X && sx < area.Max.X {
				mask.Pix[mask.PixOffset(x, y)] = key.Pix[key.PixOffset(sx, sy)]
			}
		}
	}
}

// smoothStep gives how much of a blurred span covers each of n pixels from i0 on.
func smoothStep(i0, n int, lo, hi, sigma float64) []float64 {
	out := make([]float64, n)
	k := 1 / (sigma * math.Sqrt2)
	for i := range out {
		v := float64(i0+i) + .5
		out[i] = (math.Erf((v-lo)*k) - math.Erf((v-hi)*k)) / 2
	}
	return out
}

func copyAlpha(dst, src *image.Alpha) {
	r := dst.Rect.Intersect(src.Rect)
	for y := r.Min.Y; y < r.Max.Y; y++ {
		copy(dst.Pix[dst.PixOffset(r.Min.X, y):][:r.Dx()], src.Pix[src.PixOffset(r.Min.X, y):][:r.Dx()])
	}
}

// blurAlpha blurs a mask; what lies outside of it is empty.
func blurAlpha(in *image.Alpha, sigma float64) *image.Alpha {
	w, h := in.Rect.Dx(), in.Rect.Dy()
	out := image.NewAlpha(in.Rect)
	b := newBlur(sigma, max(w, h))
	line := make([]float32, max(w, h))
	for y := range h {
		row := in.Pix[y*in.Stride:][:w]
		for x, v := range row {
			line[x] = float32(v)
		}
		b.run(line[:w])
		dst := out.Pix[y*out.Stride:][:w]
		for x := range dst {
			dst[x] = uint8(line[x] + .5)
		}
	}
	for x := range w {
		for y := range h {
			line[y] = float32(out.Pix[y*out.Stride+x])
		}
		b.run(line[:h])
		for y := range h {
			out.Pix[y*out.Stride+x] = uint8(min(255, line[y]+.5))
		}
	}
	return out
}

// blurColors blurs premultiplied pixels; what lies outside is clear.
func blurColors(img *image.RGBA, sigma float64) {
	w, h := img.Rect.Dx(), img.Rect.Dy()
	b := newBlur(sigma, max(w, h))
	line := make([]float32, max(w, h))
	for ch := range 4 {
		for y := range h {
			row := img.Pix[y*img.Stride:][:w*4]
			for x := range w {
				line[x] = float32(row[x*4+ch])
			}
			b.run(line[:w])
			for x := range w {
				row[x*4+ch] = uint8(min(255, line[x]+.5))
			}
		}
		for x := range w {
			at := x*4 + ch
			for y := range h {
				line[y] = float32(img.Pix[y*img.Stride+at])
			}
			b.run(line[:h])
			for y := range h {
				img.Pix[y*img.Stride+at] = uint8(min(255, line[y]+.5))
			}
		}
	}
}

// blur is a Gaussian along a line: exact for small deviations, three running means for larger ones, as Skia does
// (filter-effects-1, "feGaussianBlur", has the widths).
type blur struct {
	kernel []float32 // one half and the middle, of an exact one
	window int
	a, z   []float32
}

func newBlur(sigma float64, n int) *blur {
	b := &blur{a: make([]float32, n), z: make([]float32, n)}
	if sigma < 2 {
		r := int(math.Ceil(3 * sigma))
		sum := 0.0
		w := make([]float64, r+1)
		for i := range w {
			w[i] = math.Exp(-float64(i*i) / (2 * sigma * sigma))
			sum += w[i]
			if i > 0 {
				sum += w[i]
			}
		}
		for _, v := range w {
			b.kernel = append(b.kernel, float32(v/sum))
		}
		return b
	}
	b.window = max(1, int(math.Floor(sigma*3*math.Sqrt(2*math.Pi)/4+.5)))
	return b
}

func (b *blur) run(line []float32) {
	if b.kernel != nil {
		src := b.a[:len(line)]
		copy(src, line)
		r := len(b.kernel) - 1
		for i := range line {
			v := src[i] * b.kernel[0]
			for k := 1; k <= r; k++ {
				if i-k >= 0 {
					v += src[i-k] * b.kernel[k]
				}
				if i+k < len(src) {
					v += src[i+k] * b.kernel[k]
				}
			}
			line[i] = v
		}
		return
	}
	d := b.window
	if d%2 == 1 {
		b.mean(line, b.a, d/2, d/2)
		b.mean(b.a[:len(line)], b.z, d/2, d/2)
		b.mean(b.z[:len(line)], line, d/2, d/2)
		return
	}
	b.mean(line, b.a, d/2, d/2-1)
	b.mean(b.a[:len(line)], b.z, d/2-1, d/2)
	b.mean(b.z[:len(line)], line, d/2, d/2)
}

// mean takes at each place the mean of what lies from left before to right after it.
func (b *blur) mean(src, dst []float32, left, right int) {
	n := len(src)
	k := 1 / float64(left+right+1)
	sum := 0.0
	for i := 0; i < min(n, right); i++ {
		sum += float64(src[i])
	}
	for i := range n {
		if i+right < n {
			sum += float64(src[i+right])
		}
		if i-left-1 >= 0 {
			sum -= float64(src[i-left-1])
		}
		dst[i] = float32(sum * k)
	}
}
