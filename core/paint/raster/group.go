package raster

import (
	"image"
	"math"

	"golang.org/x/image/draw"
	"golang.org/x/image/math/f64"

	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// group paints a group: one by one when nothing happens to it as a whole, else as a picture of its own.
func (c *canvas) group(g *display.Group, m geom.Matrix, clip clipping) {
	for _, p := range g.Clips {
		clip = c.within(clip, p.Transform(m))
		if clip.rect.Empty() {
			return
		}
	}
	inner := m.Mul(g.Matrix)
	if sum := inner.A + inner.B + inner.C + inner.D + inner.E + inner.F; math.IsNaN(sum) || math.IsInf(sum, 0) {
		return // it is nowhere
	}
	if g.Flat() {
		c.items(g.Items, inner, clip)
		return
	}
	if !(g.Opacity > 0) {
		return
	}
	if len(g.Backdrop) > 0 && g.BackdropShape != nil {
		c.backdrop(g, inner, clip)
	}
	bounds := c.bounds(g.Items, inner)
	pad := 0
	for _, f := range g.Filters {
		pad += filterReach(f, inner)
	}
	area := clip.rect.Inset(-pad).Intersect(bounds.Inset(-pad))
	if area.Empty() {
		return
	}
	in := c.on(c.layer(g, inner, area))
	c.masks(g.Masks, in.img, inner)
	if g.Opacity < 1 {
		k := uint32(g.Opacity*255 + .5)
		for i, v := range in.img.Pix {
			in.img.Pix[i] = div255(uint32(v) * k)
		}
	}
	if mode := blendModes[g.Blend]; mode != nil {
		c.blend(in.img, mode, clip)
		return
	}
	c.paint(&painted{in.img}, area, nil, clip)
}

// coarse is the deviation from which on a blur is made of fewer pixels, device pixels.
const coarse = 24

// layer paints what a group holds, and filters it. A strong blur needs few pixels.
func (c *canvas) layer(g *display.Group, m geom.Matrix, area image.Rectangle) *image.RGBA {
	if len(g.Filters) == 1 && g.Filters[0].Name == "blur" && g.Filters[0].Amount*m.Factor() > coarse {
		k := min(mostSigma, g.Filters[0].Amount*m.Factor()) / (coarse / 2)
		small := image.Rect(0, 0, int(math.Ceil(float64(area.Dx())/k))+1, int(math.Ceil(float64(area.Dy())/k))+1)
		in := &canvas{img: image.NewRGBA(small), mem: newMemory(), path: c.path} // things stand elsewhere there
		in.items(g.Items, geom.Scale(1/k, 1/k).Mul(geom.Translate(-float64(area.Min.X), -float64(area.Min.Y))).Mul(m),
			clipping{rect: small})
		blurColors(in.img, coarse/2)
		out := image.NewRGBA(area)
		draw.BiLinear.Transform(out, f64.Aff3{k, 0, float64(area.Min.X), 0, k, float64(area.Min.Y)}, in.img, small,
			draw.Src, nil)
		return out
	}
	in := c.on(image.NewRGBA(area))
	in.items(g.Items, m, clipping{rect: area})
	for _, f := range g.Filters {
		filter(in.img, f, m)
	}
	return in.img
}

// masks lets through only what the masks of a group let through.
func (c *canvas) masks(list []display.Mask, img *image.RGBA, m geom.Matrix) {
	if len(list) == 0 {
		return
	}
	total := image.NewAlpha(img.Rect)
	for i, mask := range list {
		one := c.on(image.NewRGBA(img.Rect))
		one.fill(mask.Fill, m, clipping{rect: img.Rect})
		for k := range total.Pix {
			p := one.img.Pix[k*4 : k*4+4]
			v := uint32(p[3])
			if mask.Luminance {
				v = uint32(math.Round(.2125*float64(p[0]) + .7154*float64(p[1]) + .0721*float64(p[2])))
			}
			was := uint32(total.Pix[k])
			switch {
			case i == 0:
				total.Pix[k] = uint8(v)
			case mask.Intersect:
				total.Pix[k] = div255(was * v)
			default:
				total.Pix[k] = uint8(v) + div255(was*(255-v))
			}
		}
	}
	for k, v := range total.Pix {
		p := img.Pix[k*4 : k*4+4]
		for j := range p {
			p[j] = div255(uint32(p[j]) * uint32(v))
		}
	}
}

// backdrop filters what lies below a group.
func (c *canvas) backdrop(g *display.Group, m geom.Matrix, clip clipping) {
	shape := g.BackdropShape.Transform(m)
	pad := 0
	for _, f := range g.Backdrop {
		pad += filterReach(f, m)
	}
	area := outer(shape.Bounds()).Intersect(clip.rect)
	if area.Empty() {
		return
	}
	// what lies outside of the strip is not there: the nearest pixels stand in for it, as at the edges of the page
	wide := outer(shape.Bounds()).Intersect(c.img.Rect)
	if wide.Empty() {
		return
	}
	work := image.NewRGBA(wide.Inset(-pad))
	for y := work.Rect.Min.Y; y < work.Rect.Max.Y; y++ {
		sy := max(wide.Min.Y, min(wide.Max.Y-1, y))
		for x := work.Rect.Min.X; x < work.Rect.Max.X; x++ {
			sx := max(wide.Min.X, min(wide.Max.X-1, x))
			copy(work.Pix[work.PixOffset(x, y):][:4], c.img.Pix[c.img.PixOffset(sx, sy):][:4])
		}
	}
	for _, f := range g.Backdrop {
		filter(work, f, m)
	}
	if g.Opacity < 1 {
		k := uint32(g.Opacity*255 + .5)
		for i, v := range work.Pix {
			work.Pix[i] = div255(uint32(v) * k)
		}
	}
	c.paint(&painted{work}, area, c.path.mask(shape, area), clip)
}

// bounds gives the pixels that items can reach.
func (c *canvas) bounds(list []display.Item, m geom.Matrix) image.Rectangle {
	var out image.Rectangle
	for _, it := range list {
		switch it := it.(type) {
		case *display.Group:
			in := m.Mul(it.Matrix)
			r := c.bounds(it.Items, in)
			pad := 0
			for _, f := range it.Filters {
				pad += filterReach(f, in)
			}
			r = r.Inset(-pad)
			if it.BackdropShape != nil {
				r = r.Union(outer(it.BackdropShape.Transform(in).Bounds()))
			}
			for _, p := range it.Clips {
				r = r.Intersect(outer(p.Transform(m).Bounds()))
			}
			out = out.Union(r)
		case *display.Fill:
			if it.Rect != nil {
				out = out.Union(outer(m.Rect(*it.Rect)))
			} else {
				out = out.Union(outer(m.Rect(it.Path.Bounds())))
			}
		case *display.Text:
			for _, g := range it.Glyphs {
				b := g.Shape.Path.Bounds()
				if b.Empty() {
					continue
				}
				r := geom.Rect{X0: g.X + b.X0*g.Size, Y0: g.Y + b.Y0*g.Size, X1: g.X + b.X1*g.Size, Y1: g.Y +
					b.Y1*g.Size}
				out = out.Union(outer(m.Rect(r.Grow(it.Bold + math.Abs(it.Lean)*g.Size)).Grow(2)))
			}
		case *display.Shadow:
			if it.Inside != nil {
				out = out.Union(outer(m.Rect(it.Inside.Rect)))
			} else {
				out = out.Union(outer(m.Rect(it.Shape.Rect.Grow(3*it.Sigma + 2))))
			}
		case *display.Picture:
			out = out.Union(outer(m.Rect(it.Dst)))
		}
	}
	return out
}

// reaches notes what every item can reach, so that a strip passes over what stands elsewhere, and gives what all can.
// An item that stands in several places reaches all of them.
func (c *canvas) reaches(list []display.Item, m geom.Matrix) image.Rectangle {
	var out image.Rectangle
	for _, it := range list {
		var r image.Rectangle
		g, ok := it.(*display.Group)
		if ok {
			in := m.Mul(g.Matrix)
			r = c.reaches(g.Items, in)
			pad := 0
			for _, f := range append(append([]display.Filter(nil), g.Filters...), g.Backdrop...) {
				pad += filterReach(f, in)
			}
			r = r.Inset(-pad)
			if g.BackdropShape != nil {
				r = r.Union(outer(g.BackdropShape.Transform(in).Bounds()))
			}
		} else {
			r = c.bounds([]display.Item{it}, m).Inset(-2)
		}
		c.mem.boxes[it] = c.mem.boxes[it].Union(r)
		out = out.Union(r)
	}
	return out
}

// Bounds gives the rectangle that items can reach under a transform.
func Bounds(items []display.Item, m geom.Matrix) geom.Rect {
	r := (&canvas{path: &pathFiller{}}).bounds(items, m)
	return geom.Rect{X0: float64(r.Min.X), Y0: float64(r.Min.Y), X1: float64(r.Max.X), Y1: float64(r.Max.Y)}
}
