package media

import (
	"image"
	"image/color"
	"math"

	"github.com/srwiley/rasterx"
	"golang.org/x/image/math/fixed"
	"golang.org/x/image/vector"
)

// scanner fills paths, each within the pixels that it covers: a drawing of ten thousand small shapes costs what its
// shapes cover, not ten thousand pictures. It takes the place of the scanner that comes with the painter, which goes
// over the whole picture for every path.
type scanner struct {
	dest   *image.RGBA
	source image.Image
	clip   image.Rectangle // empty without one
	path   []step
	extent fixed.Rectangle26_6
	r      vector.Rasterizer
}

type step struct {
	to   fixed.Point26_6
	move bool
}

var nowhere = fixed.Rectangle26_6{Min: fixed.Point26_6{X: math.MaxInt32, Y: math.MaxInt32},
	Max: fixed.Point26_6{X: math.MinInt32, Y: math.MinInt32}}

func newScanner(dest *image.RGBA) *scanner {
	return &scanner{dest: dest, source: image.Black, extent: nowhere}
}

func (s *scanner) add(p fixed.Point26_6, move bool) {
	s.path = append(s.path, step{p, move})
	s.extent = fixed.Rectangle26_6{Min: fixed.Point26_6{X: min(s.extent.Min.X, p.X), Y: min(s.extent.Min.Y, p.Y)},
		Max: fixed.Point26_6{X: max(s.extent.Max.X, p.X), Y: max(s.extent.Max.Y, p.Y)}}
}

// Start begins a part of the path.
func (s *scanner) Start(p fixed.Point26_6) { s.add(p, true) }

// Line goes on with a straight line.
func (s *scanner) Line(p fixed.Point26_6) { s.add(p, false) }

// Draw fills the path.
func (s *scanner) Draw() {
	box := image.Rect(s.extent.Min.X.Floor(), s.extent.Min.Y.Floor(), s.extent.Max.X.Ceil(),
		s.extent.Max.Y.Ceil()).Intersect(s.dest.Bounds())
	if !s.clip.Empty() {
		box = box.Intersect(s.clip)
	}
	if len(s.path) == 0 || box.Empty() {
		return
	}
	s.r.Reset(box.Dx(), box.Dy())
	for _, p := range s.path {
		x, y := float32(p.to.X)/64-float32(box.Min.X), float32(p.to.Y)/64-float32(box.Min.Y)
		if p.move {
			s.r.MoveTo(x, y)
		} else {
			s.r.LineTo(x, y)
		}
	}
	s.r.Draw(s.dest, box, s.source, box.Min)
}

// GetPathExtent gives what the path covers.
func (s *scanner) GetPathExtent() fixed.Rectangle26_6 { return s.extent }

// SetBounds is for scanners that know no picture.
func (s *scanner) SetBounds(_, _ int) { s.Clear() }

// SetColor says what the path is filled with: one color, or one for each pixel.
func (s *scanner) SetColor(c any) {
	switch c := c.(type) {
	case color.Color:
		s.source = image.NewUniform(c)
	case rasterx.ColorFunc:
		s.source = perPixel{c}
	}
}

// SetWinding is a wish that this rasteriser cannot fulfil: it fills by the nonzero rule.
func (s *scanner) SetWinding(bool) {}

// Clear forgets the path.
func (s *scanner) Clear() { s.path, s.extent = s.path[:0], nowhere }

// SetClip limits what is filled; an empty rectangle does not.
func (s *scanner) SetClip(r image.Rectangle) { s.clip = r }

// perPixel is a picture without an end, of one color for each pixel: a gradient.
type perPixel struct{ at rasterx.ColorFunc }

// ColorModel is that of CSS colors.
func (perPixel) ColorModel() color.Model { return color.RGBAModel }

// Bounds are larger than any picture.
func (perPixel) Bounds() image.Rectangle { return image.Rect(-1e9, -1e9, 1e9, 1e9) }

// At gives the color of a pixel.
func (p perPixel) At(x, y int) color.Color { return p.at(x, y) }
