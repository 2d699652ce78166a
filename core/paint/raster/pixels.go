package raster

import (
	"image"
	"math"

	"ziegel/core/css"
	"ziegel/core/paint/geom"
)

func div255(v uint32) uint8 { return uint8((v + 128 + (v+128)>>8) >> 8) }

// pixel is a premultiplied color.
type pixel [4]uint8

func premultiplied(c css.Color) pixel {
	a := min(1, max(0, c.A))
	at := func(v float64) uint8 { return uint8(min(1, max(0, v))*a*255 + .5) }
	return pixel{at(c.R), at(c.G), at(c.B), uint8(a*255 + .5)}
}

// source gives the colors of a row of pixels from x on.
type source interface {
	// solid gives the color when it is the same everywhere.
	solid() (pixel, bool)
	row(x, y int, out []pixel)
}

type plainColor pixel

func (p plainColor) solid() (pixel, bool) { return pixel(p), true }

func (p plainColor) row(_, _ int, out []pixel) { fillRow(out, pixel(p)) }

func fillRow(out []pixel, p pixel) {
	for i := range out {
		out[i] = p
	}
}

func solidRow(dst []uint8, p pixel) {
	if p[3] == 255 && len(dst) >= 4 {
		copy(dst, p[:])
		for n := 4; n < len(dst); n *= 2 { // what is painted is copied on
			copy(dst[n:], dst[:n])
		}
		return
	}
	k := 255 - uint32(p[3])
	for i := 0; i < len(dst); i += 4 {
		dst[i] = p[0] + div255(uint32(dst[i])*k)
		dst[i+1] = p[1] + div255(uint32(dst[i+1])*k)
		dst[i+2] = p[2] + div255(uint32(dst[i+2])*k)
		dst[i+3] = p[3] + div255(uint32(dst[i+3])*k)
	}
}

// covered gives the stretch of a row that a mask does not hide altogether.
func covered(m []uint8) (from, to int) {
	from, to = 0, len(m)
	for from < to && m[from] == 0 {
		from++
	}
	for to > from && m[to-1] == 0 {
		to--
	}
	return from, to
}

// joined gives what two masks let through together; either may be nil. scratch is memory for it.
func joined(a, b, scratch []uint8) []uint8 {
	switch {
	case a == nil:
		return b
	case b == nil:
		return a
	}
	for i, v := range a {
		switch {
		case v == 0 || b[i] == 255:
			scratch[i] = v
		case v == 255:
			scratch[i] = b[i]
		default:
			scratch[i] = div255(uint32(v) * uint32(b[i]))
		}
	}
	return scratch[:len(a)]
}

func solidMasked(dst []uint8, p pixel, m []uint8) {
	for i := 0; i < len(m); {
		v := m[i]
		j := i + 1
		if v == 0 || v == 255 { // most of a shape is its inside, most of what lies around it outside
			for j < len(m) && m[j] == v {
				j++
			}
		}
		switch v {
		case 0:
		case 255:
			solidRow(dst[i*4:j*4], p)
		default:
			over(dst[i*4:i*4+4:i*4+4], p, uint32(v))
		}
		i = j
	}
}

func colorsRow(dst []uint8, colors []pixel, m []uint8) {
	for i := range colors {
		v := uint32(255)
		if m != nil {
			v = uint32(m[i])
		}
		if v == 0 || colors[i][3] == 0 {
			continue
		}
		over(dst[i*4:i*4+4:i*4+4], colors[i], v)
	}
}

// over lays a color over a pixel, m of 255 of it.
func over(d []uint8, p pixel, m uint32) {
	if m == 255 {
		if p[3] == 255 {
			d[0], d[1], d[2], d[3] = p[0], p[1], p[2], 255
			return
		}
		k := 255 - uint32(p[3])
		d[0] = p[0] + div255(uint32(d[0])*k)
		d[1] = p[1] + div255(uint32(d[1])*k)
		d[2] = p[2] + div255(uint32(d[2])*k)
		d[3] = p[3] + div255(uint32(d[3])*k)
		return
	}
	k := 255 - uint32(div255(uint32(p[3])*m))
	d[0] = div255(uint32(p[0])*m + uint32(d[0])*k)
	d[1] = div255(uint32(p[1])*m + uint32(d[1])*k)
	d[2] = div255(uint32(p[2])*m + uint32(d[2])*k)
	d[3] = div255(uint32(p[3])*m + uint32(d[3])*k)
}

// clipping is what of a canvas may be painted on.
type clipping struct {
	rect image.Rectangle
	mask *image.Alpha // nil lets everything through; its bounds hold rect
}

// outer gives the pixels that a rectangle touches.
func outer(r geom.Rect) image.Rectangle {
	if r.Empty() || math.IsNaN(r.X0+r.X1+r.Y0+r.Y1) {
		return image.Rectangle{}
	}
	at := func(v float64) int { return int(max(-1<<30, min(1<<30, v))) }
	return image.Rect(at(math.Floor(r.X0+1e-6)), at(math.Floor(r.Y0+1e-6)), at(math.Ceil(r.X1-1e-6)),
		at(math.Ceil(r.Y1-1e-6)))
}

// pixels gives a rectangle whose edges lie on pixels; ok is false for others.
func pixels(r geom.Rect) (out image.Rectangle, ok bool) {
	const slack = 1.0 / 512
	near := func(v float64) bool { return math.Abs(v-math.Round(v)) < slack && math.Abs(v) < 1<<30 }
	noPixels := r.Empty() || !near(r.X0) || !near(r.Y0) || !near(r.X1) || !near(r.Y1)
	if noPixels {
		return image.Rectangle{}, false
	}
	return image.Rect(int(math.Round(r.X0)), int(math.Round(r.Y0)), int(math.Round(r.X1)), int(math.Round(r.Y1))), true
}

// isRect gives the rectangle that a path is, ok is false for other shapes.
func isRect(p *geom.Path) (geom.Rect, bool) {
	noRectangle := len(p.Ops) < 4 || len(p.Points) != 4 || p.Ops[0] != geom.Move || p.Ops[1] != geom.Line ||
		p.Ops[2] != geom.Line ||
		p.Ops[3] != geom.Line
	if noRectangle {
		return geom.Rect{}, false
	}
	a, b, d, e := p.Points[0], p.Points[1], p.Points[2], p.Points[3]
	along := a.Y == b.Y && b.X == d.X && d.Y == e.Y && e.X == a.X
	down := a.X == b.X && b.Y == d.Y && d.X == e.X && e.Y == a.Y
	if along || down {
		return geom.Rect{X0: min(a.X, d.X), Y0: min(a.Y, d.Y), X1: max(a.X, d.X), Y1: max(a.Y, d.Y)}, true
	}
	return geom.Rect{}, false
}

// multiply lets through only what another mask does as well.
func multiply(mask, by *image.Alpha) {
	r := mask.Rect
	for y := r.Min.Y; y < r.Max.Y; y++ {
		row := mask.Pix[mask.PixOffset(r.Min.X, y):][:r.Dx()]
		other := by.Pix[by.PixOffset(r.Min.X, y):][:r.Dx()]
		for x := range row {
			row[x] = div255(uint32(row[x]) * uint32(other[x]))
		}
	}
}

// painted is a picture that lies where it is painted.
type painted struct{ img *image.RGBA }

func (p *painted) solid() (pixel, bool) { return pixel{}, false }

func (p *painted) row(x, y int, out []pixel) {
	o := p.img.PixOffset(x, y)
	for i := range out {
		copy(out[i][:], p.img.Pix[o+i*4:o+i*4+4])
	}
}
