// Package paint turns the boxes of a page that is laid out into a display list: what CSS draws, in the order in which
// it draws it (CSS 2 Appendix E, css-position-3 "Painting Order and Stacking Contexts", css-backgrounds-3). It draws no
// pixel itself; raster and vector do. What it does not draw as a browser does it reports.
package paint

import (
	"math"
	"sort"
	"strings"

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
	// Drawn gives what an img shows whose address begins with "drawn:": a picture that is drawn already.
	Drawn func(name string) *display.List
	// Files keeps what was decoded, for several pictures of the same pages. Nil keeps nothing.
	Files *Files
}

// Page draws what the engine has laid out last, on a ground as wide as the page. Its measure is that of the layout: CSS
// px, or device pixels where the engine counts in those.
func Page(e *layout.Engine, r *layout.Result, o Options) *display.List {
	p := newPainter(e, o)
	out := &display.List{W: float64(r.Width) * e.Zoom(), H: r.Height.Float()}
	root := e.Drawing(p.o.Scale)
	if root == nil {
		return out
	}
	top := p.tree(root, nil)
	p.page = geom.R(0, 0, out.W, out.H)
	if o.Only != nil {
		out.Items = p.alone(top, o.Only)
	} else {
		out.Items = p.canvas(top)
	}
	out.Links, out.Missed = p.links, p.missed
	return out
}

// alone paints one element with what is in it.
func (p *painter) alone(b *box, el *css.Element) []display.Item {
	if b.Element == el {
		s := &sink{}
		b.clip = nil
		p.context(b, s)
		return s.items
	}
	for _, k := range b.kids {
		if items := p.alone(k, el); items != nil {
			return items
		}
	}
	return nil
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
	root   *box // whose background is that of the page
	hidden map[*box]bool
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

// clip is a shape that hides what is outside of it, and those around it.
type clip struct {
	up   *clip
	path *geom.Path
	rect *geom.Rect // the same, when it is a rectangle
}

// tree prepares the boxes of a page.
func (p *painter) tree(d *layout.Drawn, parent *box) *box {
	at := map[*layout.Drawn]*box{}
	var walk func(d *layout.Drawn, parent *box) *box
	walk = func(d *layout.Drawn, parent *box) *box {
		b := &box{Drawn: d, parent: parent, el: d.Element}
		if b.el == nil {
			b.el = d.Of
		}
		at[d] = b
		var up *css.Reader
		if parent != nil {
			up = parent.read
		}
		b.read = p.e.Reader(d, up)
		switch {
		case d.OutOfFlow && d.Holder != nil && at[d.Holder] != nil:
			b.clip = at[d.Holder].inner
		case d.OutOfFlow || parent == nil:
		default:
			b.clip = parent.inner
		}
		b.inner = b.clip
		if p.moves(b) { // clips around it are those of the group that it becomes
			b.inner = nil
		}
		if c := p.clipOf(b); c != nil {
			c.up = b.inner
			b.inner = c
		}
		for _, k := range d.Kids {
			b.kids = append(b.kids, walk(k, b))
		}
		if arranges(d.Style.Display) {
			sort.SliceStable(b.kids, func(i, j int) bool { return orderOf(b.kids[i]) < orderOf(b.kids[j]) })
		}
		return b
	}
	return walk(d, parent)
}

// moves reports a box that is painted as a group with coordinates or filters of its own.
func (p *painter) moves(b *box) bool {
	return b.Transform != nil || b.read.Value("filter") != nil && b.read.Word("filter") != "none"
}

func orderOf(b *box) int {
	if b.OutOfFlow {
		return 0
	}
	return b.Style.Order
}

func arranges(d css.Display) bool {
	return d == css.Flex || d == css.InlineFlex || d == css.Grid || d == css.InlineGrid
}

// clipOf gives the shape that a box clips what is in it with, nil when it does not.
func (p *painter) clipOf(b *box) *clip {
	s := b.Style
	x, y := s.OverflowX != "visible", s.OverflowY != "visible"
	contain := strings.Contains(s.Contain, "paint") || s.Contain == "strict" || s.Contain == "content"
	if b.Inline || len(b.Rects) == 0 || !x && !y && !contain {
		return nil
	}
	if b.Element != nil && (b.Element.Tag == "html" || b.Element.Tag == "body" && b.parent != nil &&
		b.parent.Style.OverflowX == "visible" && b.parent.Style.OverflowY == "visible") {
		return nil // for the page as a whole
	}
	x, y = x || contain, y || contain
	shape := p.round(b).Inset(px(b.Border[css.Top]), px(b.Border[css.Right]), px(b.Border[css.Bottom]),
		px(b.Border[css.Left]))
	if isReplaced(b.Element) {
		shape = shape.Inset(px(b.Padding[css.Top]), px(b.Padding[css.Right]), px(b.Padding[css.Bottom]),
			px(b.Padding[css.Left]))
	}
	if !x || !y {
		const far = 1 << 20
		if !x {
			shape.X0, shape.X1 = -far, far
		}
		if !y {
			shape.Y0, shape.Y1 = -far, far
		}
		shape.Radii = [4]geom.Point{}
	}
	c := &clip{path: shape.Path()}
	if shape.Sharp() {
		c.rect = &shape.Rect
	}
	return c
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
func (p *painter) round(b *box) geom.Round { return p.roundOf(b, b.Rects[0], true, true) }

// roundOf is round for one of the rectangles of an inline box; start and end say whether it has the first and the last
// edge.
func (p *painter) roundOf(b *box, r layout.Rect, start, end bool) geom.Round {
	out := geom.Round{Rect: p.snap(r)}
	for i, name := range [4]string{"border-top-left-radius", "border-top-right-radius", "border-bottom-right-radius",
		"border-bottom-left-radius"} {
		if left := i == 0 || i == 3; left && !start || !left && !end {
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
