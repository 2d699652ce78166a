package paint

import (
	"math"

	"ziegel/core/css"
	"ziegel/core/font"
	"ziegel/core/layout"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// Options say how a page is drawn.
type Options struct {
	// File gives the bytes of a picture by its address on the page; ok is false when it is not there.
	File func(src string) (data []byte, ok bool)
	// Source gives the file that an img shows, "" for none; nil takes its src.
	Source func(el *css.Element) string
	// Scale is how many device pixels a CSS px takes; edges of boxes lie on them. 0 means 1.
	Scale float64
	Dark  bool
	// Only, when given, is the one element that is drawn, with what is in it and nothing behind it.
	Only *css.Element
	// Within is the part of the page that is looked at, in the units of the layout; what lies far outside is left out.
	// Nil is all of it.
	Within *geom.Rect
	// Drawn gives what an img shows whose address begins with "drawn:": a picture that is drawn already.
	Drawn func(name string) *display.List
	// Stand gives what stands for a picture that is not there, w by h CSS px, nil for nothing: then it looks as in a
	// browser.
	Stand func(el *css.Element, src string, w, h float64) []byte
	// Files keeps what was decoded, for several pictures of the same pages. Nil keeps nothing.
	Files *Files
}

// painter builds the list of one page.
type painter struct {
	e      *layout.Engine
	o      Options
	zoom   float64 // device pixels a CSS px takes in the layout
	page   geom.Rect
	glyphs map[glyphKey]*display.Shape
	faces  map[*font.Face]string
	missed []display.Missed
	told   map[string]bool
	links  []display.Link
	at     map[*layout.Drawn]*box
	root   *box // whose background is that of the page
}

type glyphKey struct {
	face *font.Face
	id   uint32
}

func newPainter(e *layout.Engine, o Options) *painter {
	if o.Scale <= 0 {
		o.Scale = 1
	}
	if o.Files == nil {
		o.Files = NewFiles()
	}
	return &painter{e: e, o: o, zoom: e.Zoom(), glyphs: map[glyphKey]*display.Shape{}, faces: map[*font.Face]string{},
		told: map[string]bool{}}
}

// unseen reports a rectangle of a box that lies outside of what is looked at, with room for shadows. What a transform
// may bring there is seen.
func (p *painter) unseen(b *box, r layout.Rect) bool {
	if p.o.Within == nil {
		return false
	}
	const shadow = 200
	at := geom.R(px(r.X), px(r.Y), px(r.W), px(r.H)).Grow(shadow)
	if !at.Intersect(*p.o.Within).Empty() {
		return false
	}
	for x := b; x != nil; x = x.parent {
		if x.Drawn != nil && x.Transform != nil {
			return false
		}
	}
	return true
}

// miss reports what is not drawn, once for each element.
func (p *painter) miss(el *css.Element, what string) {
	key := what
	if el != nil {
		key += " " + el.Path()
	}
	if !p.told[key] {
		p.told[key] = true
		p.missed = append(p.missed, display.Missed{Element: el, What: what})
	}
}

// box is a drawn box with what its painting needs.
type box struct {
	*layout.Drawn
	read   *css.Reader
	parent *box
	kids   []*box // in the order of the document, items of flex and grid containers by order
	clip   *clip  // what clips the box itself
	inner  *clip  // what clips what is in it and moves with it
	el     *css.Element
}

// borderWidth is how thick a border is painted: the upper one of a fieldset has the height of its legend otherwise.
func (b *box) borderWidth(side int) css.Px {
	if side == css.Top && b.Legend != nil {
		return b.Style.BorderPx(side)
	}
	return b.Border[side]
}

// clip is a shape that hides what is outside of it, and those around it.
type clip struct {
	up   *clip
	path *geom.Path
	rect *geom.Rect // the same, when it is a rectangle
}

func px(v css.Px) float64 { return v.Float() }

// snap puts the edges of a rectangle on device pixels, as browsers do with boxes.
func (p *painter) snap(r layout.Rect) geom.Rect {
	s := p.o.Scale
	at := func(v css.Px) float64 { return math.Floor(v.Float()*s+.5) / s }
	return geom.Rect{X0: at(r.X), Y0: at(r.Y), X1: at(r.X + r.W), Y1: at(r.Y + r.H)}
}

// pixel puts a place on a device pixel.
func (p *painter) pixel(v float64) float64 { return math.Floor(v*p.o.Scale+.5) / p.o.Scale }

func plain(r layout.Rect) geom.Rect {
	return geom.Rect{X0: px(r.X), Y0: px(r.Y), X1: px(r.X + r.W), Y1: px(r.Y + r.H)}
}

// round gives the border box of a box with its corners.
func (p *painter) round(b *box) geom.Round { return p.roundOf(b, b.Rects[0], allEnds) }

// roundOf is round for one of the rectangles of an inline box; start and end say whether it has the first and the last
// edge.
func (p *painter) roundOf(b *box, r layout.Rect, ends [4]bool) geom.Round {
	out := geom.Round{Rect: p.snap(r)}
	for i, name := range [4]string{"border-top-left-radius", "border-top-right-radius", "border-bottom-right-radius",
		"border-bottom-left-radius"} {
		if !ends[[4]int{css.Top, css.Top, css.Bottom, css.Bottom}[i]] ||
			!ends[[4]int{css.Left, css.Right, css.Right, css.Left}[i]] {
			continue
		}
		v := b.read.Value(name)
		if v == nil {
			continue
		}
		parts := css.Parts(v)
		if len(parts) == 0 {
			continue
		}
		x, ok := b.read.Length(parts[0])
		y := x
		if len(parts) > 1 {
			y, ok = b.read.Length(parts[1])
		}
		if ok {
			out.Radii[i] = geom.Point{X: max(0, x.At(px(r.W))), Y: max(0, y.At(px(r.H)))}
		}
	}
	return out.Fit()
}

func isReplaced(el *css.Element) bool {
	if el == nil {
		return false
	}
	switch el.Tag {
	case "img", "video", "iframe", "canvas", "svg", "object", "embed":
		return true
	}
	return false
}

func arranges(d css.Display) bool {
	return d == css.Flex || d == css.InlineFlex || d == css.Grid || d == css.InlineGrid
}

func isItem(b *box) bool { return b.parent != nil && arranges(b.parent.Style.Display) && !b.OutOfFlow }

// atomic reports boxes that are painted in one go among the lines: inline blocks, items, inline pictures.
func atomic(b *box) bool {
	if isItem(b) {
		return true
	}
	switch b.Style.Display {
	case css.InlineBlock, css.InlineFlex, css.InlineGrid, css.InlineTable:
		return true
	case css.Inline:
		return !b.Inline && isReplaced(b.Element)
	}
	return false
}

// content gives the content box of a box.
func content(b *box) layout.Rect {
	r := b.Rects[0]
	left, top := b.Border[css.Left]+b.Padding[css.Left], b.Border[css.Top]+b.Padding[css.Top]
	return layout.Rect{X: r.X + left, Y: r.Y + top,
		W: r.W - left - b.Border[css.Right] - b.Padding[css.Right],
		H: r.H - top - b.Border[css.Bottom] - b.Padding[css.Bottom]}
}

// area gives the shape that a keyword of background-clip names; text is true for the letters.
func (p *painter) area(b *box, shape geom.Round, word string) (out geom.Round, text bool) {
	bo, pa := b.Border, b.Padding
	switch word {
	case "padding-box":
		return shape.Inset(px(bo[0]), px(bo[1]), px(bo[2]), px(bo[3])), false
	case "content-box":
		return shape.Inset(px(bo[0]+pa[0]), px(bo[1]+pa[1]), px(bo[2]+pa[2]), px(bo[3]+pa[3])), false
	case "text":
		return shape, true
	}
	return shape, false
}

// image is a CSS image: a picture file or a gradient.
type image struct {
	w, h, ratio float64 // natural size, CSS px; 0 for none
	draw        func(at geom.Rect) []display.Item
	gradient    func(at geom.Rect) display.Brush // of a gradient only
	part        func(r geom.Rect) *image         // of a bitmap only: a part of it, in px of w and h, whole ones
}

// ink is the color of the text of a box.
func ink(b *box) css.Color {
	if c, ok := b.read.Color("-webkit-text-fill-color"); ok {
		return c
	}
	return b.read.In.Current
}

// moves reports a box that is painted as a group with coordinates or filters of its own.
func (p *painter) moves(b *box) bool {
	return b.Transform != nil || b.read.Value("filter") != nil && b.read.Word("filter") != "none"
}

// allEnds are those of a box that is not broken.
var allEnds = [4]bool{true, true, true, true}

// ends tells which edges rectangle i of a box has: where it was broken it has none (box-decoration-break: slice).
func (b *box) ends(i int) [4]bool {
	first := i == 0 && !b.Begun || b.Style.CloneEdges
	last := i == len(b.Rects)-1 && !b.Goes || b.Style.CloneEdges
	switch {
	case !b.Inline:
		return [4]bool{first, true, last, true}
	case b.Style.RTL:
		return [4]bool{true, first, true, last}
	}
	return [4]bool{true, last, true, first}
}
