package raster

import (
	"image"
	"math"

	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// text paints a run of glyphs. Upright ones stand on whole pixels down and on quarters of a pixel across, as Skia sets
// them; others are filled as paths.
func (c *canvas) text(t *display.Text, m geom.Matrix, clip clipping) {
	p := premultiplied(t.Color)
	if p[3] == 0 || len(t.Glyphs) == 0 {
		return
	}
	src := plainColor(p)
	upright := m.Upright() && math.Abs(m.A-m.D) < 1e-9
	for i := range t.Glyphs {
		g := &t.Glyphs[i]
		if g.Shape.Path.Empty() {
			continue
		}
		if g.Size*m.Factor() > 300 || !upright {
			path := glyphPath(t, g).Transform(m.Mul(geom.Translate(g.X, g.Y)))
			area := outer(path.Bounds()).Intersect(clip.rect)
			if !area.Empty() {
				c.paint(src, area, c.path.mask(path, area), clip)
			}
			continue
		}
		at := m.Apply(geom.Point{X: g.X, Y: g.Y})
		box := g.Shape.Path.Bounds()
		size := g.Size * m.A
		if !touches(clip.rect, at, box, size) {
			continue
		}
		x := math.Floor(at.X + 1.0/8)
		quarter := int8((at.X + 1.0/8 - x) * 4)
		y := math.Floor(at.Y + .5)
		key := glyphKey{g.Shape, int32(math.Round(size * 64)), quarter, 0, int16(t.Bold * m.A * 256),
			int16(t.Lean * 256)}
		mask := c.glyph(key, t, g, geom.Translate(float64(quarter)/4, 0).Mul(geom.Scale(m.A, m.A)))
		if mask == nil {
			continue
		}
		by := image.Pt(int(x), int(y))
		moved := *mask
		moved.Rect = moved.Rect.Add(by)
		c.paint(src, moved.Rect, &moved, clip)
	}
}

// touches reports whether a glyph can reach into a rectangle.
func touches(r image.Rectangle, at geom.Point, box geom.Rect, size float64) bool {
	pad := 2 + size*.1
	return at.X+box.X1*size+pad > float64(r.Min.X) && at.X+box.X0*size-pad < float64(r.Max.X)+size*.3 &&
		at.Y+box.Y1*size+pad > float64(r.Min.Y) && at.Y+box.Y0*size-pad < float64(r.Max.Y)
}

// glyphPath gives the outline of a glyph at its size, around its origin.
func glyphPath(t *display.Text, g *display.Glyph) *geom.Path {
	path := g.Shape.Path.Transform(geom.Matrix{A: g.Size, C: -t.Lean * g.Size, D: g.Size})
	if t.Bold > 0 {
		bold := path.Stroke(geom.Pen{Width: t.Bold, Join: "miter", Miter: 4})
		both := &geom.Path{}
		both.Add(path)
		both.Add(bold)
		return both
	}
	return path
}

// glyph gives the coverage of a glyph around its origin, kept for the next of its kind.
func (c *canvas) glyph(key glyphKey, t *display.Text, g *display.Glyph, m geom.Matrix) *image.Alpha {
	c.mem.mu.Lock()
	mask, ok := c.mem.glyphs[key]
	c.mem.mu.Unlock()
	if ok {
		return mask
	}
	path := glyphPath(t, g).Transform(m)
	area := outer(path.Bounds())
	if !area.Empty() && area.Dx() < 2048 && area.Dy() < 2048 {
		if t.Bold > 0 { // the letter and its rim overlap: what either covers is covered
			mask = c.path.mask(glyphPath(&display.Text{Lean: t.Lean}, g).Transform(m), area)
			rim := g.Shape.Path.Transform(geom.Matrix{A: g.Size, C: -t.Lean * g.Size, D: g.Size}).Stroke(
				geom.Pen{Width: t.Bold, Join: "miter", Miter: 4}).Transform(m)
			other := c.path.mask(rim, area)
			for i, v := range other.Pix {
				mask.Pix[i] = max(mask.Pix[i], v)
			}
		} else {
			mask = c.path.mask(path, area)
		}
	}
	c.mem.mu.Lock()
	c.mem.glyphs[key] = mask
	c.mem.mu.Unlock()
	return mask
}
