package raster

import (
	"image"
	"math"

	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// fill paints a shape.
func (c *canvas) fill(it *display.Fill, m geom.Matrix, clip clipping) {
	if it.Rect != nil && m.Upright() {
		r := m.Rect(*it.Rect)
		area := outer(r).Intersect(clip.rect)
		if area.Empty() {
			return
		}
		src := c.source(it.Brush, m, area)
		if src == nil {
			return
		}
		if whole, ok := pixels(r); ok {
			c.paint(src, whole, nil, clip)
			return
		}
		c.partly(src, r, area, clip)
		return
	}
	path := it.Path
	if it.Rect != nil {
		path = geom.RectPath(*it.Rect)
	}
	if path.Empty() {
		return
	}
	path = path.Transform(m)
	area := outer(path.Bounds()).Intersect(clip.rect)
	if area.Empty() {
		return
	}
	src := c.source(it.Brush, m, area)
	if src == nil {
		return
	}
	c.paint(src, area, c.path.mask(path, area), clip)
}

// partly paints an upright rectangle whose edges lie within pixels: its inside whole, its edges as far as it covers
// them.
func (c *canvas) partly(src source, r geom.Rect, area image.Rectangle, clip clipping) {
	inside := image.Rect(whole(math.Ceil(r.X0)), whole(math.Ceil(r.Y0)), whole(math.Floor(r.X1)),
		whole(math.Floor(r.Y1))).Intersect(area)
	if inside.Empty() {
		c.paint(src, area, rectMask(r, area), clip)
		return
	}
	c.paint(src, inside, nil, clip)
	for _, edge := range []image.Rectangle{{Min: area.Min, Max: image.Pt(area.Max.X, inside.Min.Y)},
		{Min: image.Pt(area.Min.X, inside.Max.Y), Max: area.Max},
		{Min: image.Pt(area.Min.X, inside.Min.Y), Max: image.Pt(inside.Min.X, inside.Max.Y)},
		{Min: image.Pt(inside.Max.X, inside.Min.Y), Max: image.Pt(area.Max.X, inside.Max.Y)}} {
		if !edge.Empty() {
			c.paint(src, edge, rectMask(r, edge), clip)
		}
	}
}

// source gives the colors of a brush, nil for none.
func (c *canvas) source(b display.Brush, m geom.Matrix, area image.Rectangle) source {
	switch b := b.(type) {
	case display.Solid:
		p := premultiplied(cssColor(b))
		if p[3] == 0 {
			return nil
		}
		return plainColor(p)
	case *display.Gradient:
		return newGradient(b, m)
	case *display.Tiles:
		return c.tiles(b, m, area)
	}
	return nil
}

// mostTiles is how many tiles are painted one by one where they are turned or skewed.
const mostTiles = 1 << 12

// tiles paints a pattern into a picture of its own.
func (c *canvas) tiles(b *display.Tiles, m geom.Matrix, area image.Rectangle) source {
	in := c.on(image.NewRGBA(area))
	clip := clipping{rect: area}
	inverse, ok := m.Invert()
	if !ok || b.Cell.Empty() {
		return nil
	}
	room := inverse.Rect(geom.Rect{X0: float64(area.Min.X), Y0: float64(area.Min.Y), X1: float64(area.Max.X),
		Y1: float64(area.Max.Y)})
	span := func(from, to, step, lo, hi float64) (first, last int) {
		if step <= 0 {
			return 0, 0
		}
		return whole(math.Floor((lo-to)/step)) + 1, whole(math.Ceil((hi-from)/step)) - 1
	}
	x0, x1 := span(b.Cell.X0, b.Cell.X1, b.StepX, room.X0, room.X1)
	y0, y1 := span(b.Cell.Y0, b.Cell.Y1, b.StepY, room.Y0, room.Y1)
	if n := float64(x1-x0+1) * float64(y1-y0+1); n > 256 && m.Upright() {
		return c.stamped(b, m, area)
	} else if !(n <= mostTiles) {
		return nil
	}
	for y := y0; y <= y1; y++ {
		for x := x0; x <= x1; x++ {
			at := m.Mul(geom.Translate(float64(x)*b.StepX, float64(y)*b.StepY))
			one := clip
			if r := at.Rect(b.Cell); m.Upright() {
				one = in.within(clip, geom.RectPath(r))
			} else {
				one = in.within(clip, geom.RectPath(b.Cell).Transform(at))
			}
			in.items(b.Items, at, one)
		}
	}
	return &painted{in.img}
}

// whole gives a number as an integer that can be counted on.
func whole(v float64) int {
	if math.IsNaN(v) {
		return 0
	}
	return int(max(-1<<30, min(1<<30, v)))
}

// stamped paints one tile and repeats its pixels: of very many tiles none is seen for itself.
func (c *canvas) stamped(b *display.Tiles, m geom.Matrix, area image.Rectangle) source {
	sx, sy := b.StepX, b.StepY
	if sx <= 0 {
		sx = b.Cell.W()
	}
	if sy <= 0 {
		sy = b.Cell.H()
	}
	w, h := max(1, whole(math.Round(sx*m.A))), max(1, whole(math.Round(sy*m.D)))
	if w > 1<<12 || h > 1<<12 {
		return nil
	}
	one := c.on(image.NewRGBA(image.Rect(0, 0, w, h)))
	scale := geom.Scale(float64(w)/sx, float64(h)/sy).Mul(geom.Translate(-b.Cell.X0, -b.Cell.Y0))
	one.items(b.Items, scale, clipping{rect: one.img.Rect})
	corner := m.Apply(geom.Point{X: b.Cell.X0, Y: b.Cell.Y0})
	return &stamp{one.img, corner.X, corner.Y, sx * m.A, sy * m.D}
}

// stamp repeats a picture.
type stamp struct {
	img          *image.RGBA
	x, y         float64
	stepX, stepY float64
}

func (s *stamp) solid() (pixel, bool) { return pixel{}, false }

func (s *stamp) row(x, y int, out []pixel) {
	w, h := s.img.Rect.Dx(), s.img.Rect.Dy()
	at := func(v, from, step float64, n int) int {
		k := math.Mod(v+.5-from, step)
		if k < 0 {
			k += step
		}
		return min(n-1, int(k/step*float64(n)))
	}
	py := at(float64(y), s.y, s.stepY, h)
	for i := range out {
		o := s.img.PixOffset(at(float64(x+i), s.x, s.stepX, w), py)
		copy(out[i][:], s.img.Pix[o:o+4])
	}
}
