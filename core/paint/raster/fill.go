package raster

import (
	"image"
	"math"

	"golang.org/x/image/vector"

	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// pathFiller turns paths into coverage.
type pathFiller struct{ r vector.Rasterizer }

// mask gives how much of each pixel of a rectangle a path covers, in device pixels.
func (f *pathFiller) mask(p *geom.Path, area image.Rectangle) *image.Alpha {
	out := image.NewAlpha(area)
	if !p.EvenOdd {
		f.into(out, p)
		return out
	}
	// what an odd number of parts cover: part by part, each turns what it covers
	for i, part := range parts(p) {
		if i == 0 {
			f.into(out, part)
			continue
		}
		box := outer(part.Bounds()).Intersect(area)
		if box.Empty() {
			continue
		}
		m := image.NewAlpha(box)
		f.into(m, part)
		for y := box.Min.Y; y < box.Max.Y; y++ {
			a := out.Pix[out.PixOffset(box.Min.X, y):][:box.Dx()]
			b := m.Pix[m.PixOffset(box.Min.X, y):][:box.Dx()]
			for x := range a {
				if b[x] != 0 {
					s, t := uint32(a[x]), uint32(b[x])
					a[x] = uint8(s + t - 2*uint32(div255(s*t)))
				}
			}
		}
	}
	return out
}

// parts cuts a path where it begins anew.
func parts(p *geom.Path) []*geom.Path {
	var out []*geom.Path
	var at *geom.Path
	p.Each(func(op geom.Op, from geom.Point, pts []geom.Point) {
		if op == geom.Move || at == nil {
			at = &geom.Path{}
			out = append(out, at)
			if op != geom.Move {
				at.MoveTo(from.X, from.Y)
			}
		}
		at.Ops, at.Points = append(at.Ops, op), append(at.Points, pts...)
		if op == geom.Close {
			at = nil
		}
	})
	return out
}

// into fills a path that winds.
func (f *pathFiller) into(out *image.Alpha, p *geom.Path) {
	area := out.Rect
	if area.Empty() {
		return
	}
	f.r.Reset(area.Dx(), area.Dy())
	x0, y0 := float64(area.Min.X), float64(area.Min.Y)
	// what lies far beside the area is brought near it: its lines go on straight
	far := float64(1 << 14)
	at := func(q geom.Point) (x, y float32) {
		return float32(max(-far, min(far, q.X-x0))), float32(max(-far, min(far, q.Y-y0)))
	}
	open := false
	p.Each(func(op geom.Op, from geom.Point, pts []geom.Point) {
		if op != geom.Move && !open {
			x, y := at(from)
			f.r.MoveTo(x, y)
			open = true
		}
		switch op {
		case geom.Move:
			if open {
				f.r.ClosePath()
			}
			x, y := at(pts[0])
			f.r.MoveTo(x, y)
			open = true
		case geom.Line:
			x, y := at(pts[0])
			f.r.LineTo(x, y)
		case geom.Quad:
			ax, ay := at(pts[0])
			x, y := at(pts[1])
			f.r.QuadTo(ax, ay, x, y)
		case geom.Cubic:
			ax, ay := at(pts[0])
			bx, by := at(pts[1])
			x, y := at(pts[2])
			f.r.CubeTo(ax, ay, bx, by, x, y)
		case geom.Close:
			f.r.ClosePath()
			open = false
		}
	})
	if open {
		f.r.ClosePath()
	}
	f.r.Draw(out, area, image.Opaque, image.Point{})
}

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
		c.paint(src, area, rectMask(r, area), clip)
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

// rectMask gives how much of each pixel an upright rectangle covers.
func rectMask(r geom.Rect, area image.Rectangle) *image.Alpha {
	out := image.NewAlpha(area)
	cover := func(lo, hi float64, i int) float64 {
		return max(0, min(hi, float64(i+1))-max(lo, float64(i)))
	}
	across := make([]float64, area.Dx())
	for x := range across {
		across[x] = cover(r.X0, r.X1, area.Min.X+x)
	}
	for y := range area.Dy() {
		down := cover(r.Y0, r.Y1, area.Min.Y+y)
		row := out.Pix[y*out.Stride:][:area.Dx()]
		for x := range row {
			row[x] = uint8(across[x]*down*255 + .5)
		}
	}
	return out
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

// tiles paints a pattern into a picture of its own.
func (c *canvas) tiles(b *display.Tiles, m geom.Matrix, area image.Rectangle) source {
	in := &canvas{img: image.NewRGBA(area), mem: c.mem}
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
		return int(math.Floor((lo-to)/step)) + 1, int(math.Ceil((hi-from)/step)) - 1
	}
	x0, x1 := span(b.Cell.X0, b.Cell.X1, b.StepX, room.X0, room.X1)
	y0, y1 := span(b.Cell.Y0, b.Cell.Y1, b.StepY, room.Y0, room.Y1)
	if n := float64(x1-x0+1) * float64(y1-y0+1); n > 256 && m.Upright() {
		return c.stamped(b, m, area)
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

// stamped paints one tile and repeats its pixels: of very many tiles none is seen for itself.
func (c *canvas) stamped(b *display.Tiles, m geom.Matrix, area image.Rectangle) source {
	sx, sy := b.StepX, b.StepY
	if sx <= 0 {
		sx = b.Cell.W()
	}
	if sy <= 0 {
		sy = b.Cell.H()
	}
	w, h := max(1, int(math.Round(sx*m.A))), max(1, int(math.Round(sy*m.D)))
	if w*h > 1<<22 {
		return nil
	}
	one := &canvas{img: image.NewRGBA(image.Rect(0, 0, w, h)), mem: c.mem}
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

// painted is a picture that lies where it is painted.
type painted struct{ img *image.RGBA }

func (p *painted) solid() (pixel, bool) { return pixel{}, false }

func (p *painted) row(x, y int, out []pixel) {
	o := p.img.PixOffset(x, y)
	for i := range out {
		copy(out[i][:], p.img.Pix[o+i*4:o+i*4+4])
	}
}
