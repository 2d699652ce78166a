package raster

import (
	"image"
	"sync"

	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// canvas is a picture that is being painted, or a part of one: its bounds are in device pixels.
type canvas struct {
	img  *image.RGBA
	mem  *memory
	path *pathFiller
}

// on gives a canvas for another picture of the same drawing, painted by the same core.
func (c *canvas) on(img *image.RGBA) *canvas { return &canvas{img: img, mem: c.mem, path: c.path} }

// within narrows a clipping by a path in device pixels.
func (c *canvas) within(clip clipping, p *geom.Path) clipping {
	if r, ok := isRect(p); ok {
		if whole, ok := pixels(r); ok {
			clip.rect = clip.rect.Intersect(whole)
			return clip
		}
	}
	clip.rect = clip.rect.Intersect(outer(p.Bounds()))
	if clip.rect.Empty() {
		return clip
	}
	mask := c.path.mask(p, clip.rect)
	if clip.mask != nil {
		multiply(mask, clip.mask)
	}
	clip.mask = mask
	return clip
}

// paint lays a source over the pixels of a rectangle; cover, when given, says how much of each, as does the clipping.
func (c *canvas) paint(src source, area image.Rectangle, cover *image.Alpha, clip clipping) {
	area = area.Intersect(clip.rect)
	if cover != nil {
		area = area.Intersect(cover.Rect)
	}
	if area.Empty() {
		return
	}
	one, solid := src.solid()
	if solid && one[3] == 0 {
		return
	}
	var colors []pixel
	if !solid {
		colors = make([]pixel, area.Dx())
	}
	var scratch []uint8
	if cover != nil && clip.mask != nil {
		scratch = make([]uint8, area.Dx())
	}
	for y := area.Min.Y; y < area.Max.Y; y++ {
		x0, x1 := area.Min.X, area.Max.X
		var a, b []uint8
		if cover != nil {
			a = cover.Pix[cover.PixOffset(x0, y):][:x1-x0]
			from, to := covered(a)
			if from == to {
				continue
			}
			a, x0, x1 = a[from:to], x0+from, x0+to
		}
		if clip.mask != nil {
			b = clip.mask.Pix[clip.mask.PixOffset(x0, y):][:x1-x0]
		}
		dst := c.img.Pix[c.img.PixOffset(x0, y):][: (x1-x0)*4 : (x1-x0)*4]
		m := joined(a, b, scratch)
		switch {
		case !solid:
			src.row(x0, y, colors[:x1-x0])
			colorsRow(dst, colors[:x1-x0], m)
		case m == nil:
			solidRow(dst, one)
		default:
			solidMasked(dst, one, m)
		}
	}
}

// memory keeps what several strips of a picture need.
type memory struct {
	mu       sync.Mutex
	glyphs   map[glyphKey]*image.Alpha
	pictures map[pictureKey]*image.RGBA
	// what each can reach, wherever it stands; read only while strips are painted
	boxes map[display.Item]image.Rectangle
}

func newMemory() *memory {
	return &memory{glyphs: map[glyphKey]*image.Alpha{}, pictures: map[pictureKey]*image.RGBA{}}
}

// glyphKey names the pixels of a glyph: sizes in 1/64 px, places in quarters of a pixel.
type glyphKey struct {
	shape      *display.Shape
	size       int32
	x, y       int8
	bold, lean int16
}

type pictureKey struct {
	bitmap *display.Bitmap
	w, h   int
	crisp  bool
}
