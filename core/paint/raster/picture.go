package raster

import (
	"image"
	"math"

	"golang.org/x/image/draw"
	"golang.org/x/image/math/f64"

	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// picture paints a bitmap. Upright ones are brought to their size once for all strips.
func (c *canvas) picture(it *display.Picture, m geom.Matrix, clip clipping) {
	if it.Dst.Empty() {
		return
	}
	if m.Upright() {
		r := m.Rect(it.Dst)
		whole, ok := pixels(r)
		if !ok {
			whole = image.Rect(int(math.Round(r.X0)), int(math.Round(r.Y0)), int(math.Round(r.X1)),
				int(math.Round(r.Y1)))
		}
		area := whole.Intersect(clip.rect)
		if area.Empty() {
			return
		}
		if int64(whole.Dx())*int64(whole.Dy()) <= 1<<25 {
			scaled := *c.scaled(it, whole.Dx(), whole.Dy())
			scaled.Rect = scaled.Rect.Add(whole.Min)
			c.paint(&painted{&scaled}, area, nil, clip)
			return
		}
	}
	path := geom.RectPath(it.Dst).Transform(m)
	area := outer(path.Bounds()).Intersect(clip.rect)
	if area.Empty() {
		return
	}
	b := it.Image.Image.Bounds()
	sx, sy := it.Dst.W()/float64(b.Dx()), it.Dst.H()/float64(b.Dy())
	t := m.Mul(geom.Translate(it.Dst.X0, it.Dst.Y0)).Mul(geom.Scale(sx, sy)).Mul(geom.Translate(-float64(b.Min.X),
		-float64(b.Min.Y)))
	out := image.NewRGBA(area)
	var how draw.Interpolator = draw.BiLinear
	if it.Crisp {
		how = draw.NearestNeighbor
	}
	how.Transform(out, f64.Aff3{t.A, t.C, t.E, t.B, t.D, t.F}, it.Image.Image, b, draw.Src, nil)
	c.paint(&painted{out}, area, nil, clip)
}

// scaled gives a bitmap at a size.
func (c *canvas) scaled(it *display.Picture, w, h int) *image.RGBA {
	key := pictureKey{it.Image, w, h, it.Crisp}
	c.mem.mu.Lock()
	defer c.mem.mu.Unlock()
	if p := c.mem.pictures[key]; p != nil {
		return p
	}
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	b := it.Image.Image.Bounds()
	switch {
	case b.Dx() == w && b.Dy() == h:
		draw.Copy(out, image.Point{}, it.Image.Image, b, draw.Src, nil)
	case it.Crisp:
		draw.NearestNeighbor.Scale(out, out.Rect, it.Image.Image, b, draw.Src, nil)
	default:
		draw.BiLinear.Scale(out, out.Rect, it.Image.Image, b, draw.Src, nil)
	}
	c.mem.pictures[key] = out
	return out
}
