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
	path pathFiller
}

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
	for y := area.Min.Y; y < area.Max.Y; y++ {
		dst := c.img.Pix[c.img.PixOffset(area.Min.X, y):][: area.Dx()*4 : area.Dx()*4]
		var a, b []uint8
		if cover != nil {
			a = cover.Pix[cover.PixOffset(area.Min.X, y):][:area.Dx()]
		}
		if clip.mask != nil {
			b = clip.mask.Pix[clip.mask.PixOffset(area.Min.X, y):][:area.Dx()]
		}
		switch {
		case solid && a == nil && b == nil:
			solidRow(dst, one)
		case solid:
			solidMasked(dst, one, a, b)
		default:
			src.row(area.Min.X, y, colors)
			colorsRow(dst, colors, a, b)
		}
	}
}

// memory keeps what several strips of a picture need.
type memory struct {
	mu       sync.Mutex
	glyphs   map[glyphKey]*image.Alpha
	pictures map[pictureKey]*image.RGBA
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
