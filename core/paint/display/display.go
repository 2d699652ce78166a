// Package display has the display list: what a picture consists of, in the order in which it is painted. It knows
// nothing of CSS; what writes a picture knows nothing but it.
package display

import (
	"image"

	"ziegel/core/css"
	"ziegel/core/paint/geom"
)

// List is a picture of W by H CSS px.
type List struct {
	W, H   float64
	Items  []Item
	Links  []Link
	Missed []Missed
}

// Link is a place that leads elsewhere.
type Link struct {
	Rect geom.Rect
	To   string
}

// Missed is something that the picture does not show as a browser does.
type Missed struct {
	Element *css.Element
	What    string // in words
}

// Item is one thing to paint.
type Item interface{ item() }

// Group is painted as one: what it holds is clipped, then faded and blended as a whole.
type Group struct {
	Items   []Item
	Clips   []*geom.Path // all of them, in the coordinates around the group
	Matrix  geom.Matrix  // from those inside to those around
	Opacity float64      // 0..1
	Blend   string       // mix-blend-mode; "" is normal
	Filters []Filter
	Masks   []Mask
	// Backdrop filters what lies below, inside the shape.
	Backdrop      []Filter
	BackdropShape *geom.Path
}

// Plain gives a group that only holds items.
func Plain(items ...Item) *Group { return &Group{Items: items, Matrix: geom.Identity, Opacity: 1} }

// Flat reports a group that needs no picture of its own: its items may be painted one by one.
func (g *Group) Flat() bool {
	return g.Opacity >= 1 && (g.Blend == "" || g.Blend == "normal") && len(g.Filters) == 0 && len(g.Masks) == 0 &&
		len(g.Backdrop) == 0
}

// Filter is one step of a filter.
type Filter struct {
	Name   string // blur, brightness, contrast, grayscale, sepia, hue-rotate, saturate, invert, opacity, drop-shadow
	Amount float64
	DX, DY float64 // of drop-shadow
	Color  css.Color
}

// Mask hides what is not under its paint.
type Mask struct {
	Fill      *Fill // in the coordinates inside the group
	Luminance bool  // its brightness counts, not its alpha
	Intersect bool  // with the masks below it, else it adds to them
}

// Fill is a shape in a paint.
type Fill struct {
	Path  *geom.Path
	Rect  *geom.Rect // instead of Path: a rectangle
	Brush Brush
}

// Text is a run of glyphs.
type Text struct {
	Glyphs []Glyph
	Color  css.Color
	Bold   float64 // how much outlines are made heavier, CSS px
	Lean   float64 // how much they lean, as x per y
	// The words, for pictures that keep them as text.
	Words  string
	X, Y   float64 // start of the baseline
	Width  float64
	Size   float64
	Family string
	Weight float64
	Italic bool
}

// Glyph is one at its place.
type Glyph struct {
	Shape *Shape
	X, Y  float64 // of the origin
	Size  float64
}

// Shape is the outline of a glyph in em, y down. It is the same for all glyphs of one kind.
type Shape struct {
	Path *geom.Path
	Face string // identifies the face
	ID   uint32
	// Layers are the colors of a glyph that has several, the lowest first. What shows it in one color paints Path.
	Layers []Layer
}

// Layer is one color of a glyph.
type Layer struct {
	Shape *Shape
	Color css.Color
	Ink   bool // in the color of the text, Color having its alpha only
}

// Shadow is a blurred shape.
type Shadow struct {
	Shape  geom.Round
	Sigma  float64 // standard deviation of the blur, CSS px
	Color  css.Color
	Around *geom.Path // painted only outside of it; nil for everywhere
	Inside *geom.Round
}

// Picture is a bitmap.
type Picture struct {
	Image *Bitmap
	Dst   geom.Rect // where the whole bitmap lies
	Crisp bool      // pixels stay pixels
}

// Bitmap is a decoded picture file.
type Bitmap struct {
	Name  string
	Data  []byte // the file as it is; nil for a part of one
	Kind  string // image/png, image/jpeg, ...
	Image image.Image
}

func (*Group) item()   {}
func (*Fill) item()    {}
func (*Text) item()    {}
func (*Shadow) item()  {}
func (*Picture) item() {}

// Brush is what a shape is filled with.
type Brush interface{ brush() }

// Solid is one color.
type Solid css.Color

// Stop is a color of a gradient.
type Stop struct {
	At    float64 // along the gradient, 0..1
	Color css.Color
}

// Gradient goes from color to color; colors between stops are premultiplied sRGB.
type Gradient struct {
	Kind    string     // linear, radial, conic
	From    geom.Point // start of the line, or the middle
	To      geom.Point // end of the line
	Radius  geom.Point // of a radial one, across and down
	Focus   geom.Point // where the colors of a radial one begin, if Focal
	Focal   bool
	Angle   float64     // where a conic one begins, radians clockwise from the top
	Matrix  geom.Matrix // from the gradient's own coordinates
	Stops   []Stop
	Repeats bool
	Reflect bool
}

// Tiles repeats a picture.
type Tiles struct {
	Cell  geom.Rect // the first tile
	StepX float64   // from one to the next; 0 or less for no other
	StepY float64
	Items []Item // what is in the first tile
}

func (Solid) brush()     {}
func (*Gradient) brush() {}
func (*Tiles) brush()    {}
