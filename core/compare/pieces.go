package compare

import (
	"image"
	"math"
	"strings"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/draw"
	"ziegel/core/layout"
	"ziegel/core/naming"
	"ziegel/core/paint/geom"
	"ziegel/core/paint/raster"
)

// what a piece is
type sort int

const (
	text sort = iota
	picture
	box // something with a ground or a border of its own
	block
)

// piece is something that a designer sees as one.
type piece struct {
	kind    sort
	element *css.Element
	style   *css.Style
	address string // block.part[item]
	name    string // in words
	text    string
	rect    geom.Rect // CSS px: the border box; around the letters of a text
	first   geom.Rect // around the first line of a text
	lines   int
	size    float64 // of its type, CSS px
	weight  float64
	holder  int // the innermost box or block around it, -1 for none
}

// ourSide takes a page apart.
func ourSide(s *draw.Shot) (*side, error) {
	pixels, err := raster.Draw(s.List, raster.Options{Area: &s.Area})
	if err != nil {
		return nil, err
	}
	out := &side{pixels: pixels}
	w := &collector{shot: s, out: out, painter: &css.Painter{Dark: s.Page.Dark}}
	if body := s.Page.Doc.Body; body != nil {
		w.walk(body, -1)
	}
	return out, nil
}

// collector finds the pieces of a page.
type collector struct {
	shot    *draw.Shot
	out     *side
	painter *css.Painter
}

func (c *collector) walk(e *css.Element, holder int) {
	f := c.shot.Result.Of(e)
	if f == nil || f.Style != nil && !f.Style.Visible && len(e.Kids()) == 0 {
		return
	}
	p := piece{element: e, style: f.Style, rect: rectOf(f.Rect), holder: holder}
	if f.Style != nil {
		p.size, p.weight = f.Style.CSSSize(), f.Style.FontWeight
	}
	inner := func(kind sort) int {
		p.kind = kind
		if p.rect.W() < 1 || p.rect.H() < 1 || p.rect.Intersect(c.shot.Area).Empty() { // aside, until it is asked for
			return holder
		}
		c.name(&p)
		c.out.pieces = append(c.out.pieces, p)
		return len(c.out.pieces) - 1
	}
	switch {
	case naming.IsPicture(e):
		inner(picture)
		return
	case e.Attr(compose.MarkBlock) != "" || e.Parent != nil && e.Parent.Tag == "body" && c.shot.Page.Page == nil:
		holder = inner(block)
	case c.painted(f):
		holder = inner(box)
	}
	if strings.TrimSpace(naming.OwnText(e)) != "" {
		p.holder = holder
		if p.rect, p.first, p.lines = c.letters(e); p.lines > 0 {
			p.text = strings.Join(strings.Fields(naming.Words(e)), " ")
			inner(text)
		}
		for _, k := range e.Kids() {
			c.pictures(k, holder)
		}
		return
	}
	for _, k := range e.Kids() {
		c.walk(k, holder)
	}
}

// pictures finds those inside a text.
func (c *collector) pictures(e *css.Element, holder int) {
	if naming.IsPicture(e) {
		c.walk(e, holder)
		return
	}
	for _, k := range e.Kids() {
		c.pictures(k, holder)
	}
}

// painted reports a box that one sees.
func (c *collector) painted(f *layout.Fragment) bool {
	if f.Style == nil || f.Element.Tag == "body" || f.Element.Tag == "html" || f.Element.Tag == "main" {
		return false
	}
	paint := c.painter.Of(f.Style.Look(), css.Color{A: 1})
	hasGround := paint.Ground.A > 0 || (len(paint.Stops) > 0 || len(paint.Pictures) > 0) && f.W > 64*64 && f.H > 64*64
	if hasGround {
		return true
	}
	for i, w := range f.Style.BorderWidth {
		if w > 0 && f.Style.BorderStyle[i] != "none" && f.Style.BorderStyle[i] != "hidden" {
			return i == 1 || f.Style.BorderWidth[(i+1)%4] > 0 // a lone line above or below is no box
		}
	}
	return false
}

// letters gives what the text of an element covers with that of the elements in it.
func (c *collector) letters(e *css.Element) (all, first geom.Rect, lines int) {
	var visit func(e *css.Element)
	visit = func(e *css.Element) {
		f := c.shot.Result.Of(e)
		if f == nil || f.Style != nil && !f.Style.Visible {
			return
		}
		for _, run := range f.Runs {
			r := rectOf(run)
			if r.Empty() {
				continue
			}
			all = all.Union(r)
			switch {
			case first.Empty() || r.Y1 < first.Y0+1:
				first = r
			case r.Y0 < first.Y1-1 && r.Y1 > first.Y0+1:
				first = first.Union(r)
			}
		}
		lines += f.Lines
		for _, k := range e.Kids() {
			visit(k)
		}
	}
	visit(e)
	if f := c.shot.Result.Of(e); f != nil && f.Cropped { // what is cut off is not seen
		all = all.Intersect(rectOf(f.Window))
		first = first.Intersect(rectOf(f.Window))
	}
	if all.Empty() {
		return all, first, 0
	}
	return all, first, max(1, lines)
}

func (c *collector) name(p *piece) {
	b, part, item := naming.Place(c.shot.Page, p.element)
	if c.shot.Page.Page != nil && b != "" {
		p.address = draw.Target{Block: b, Part: part, Item: item}.String()
	}
	p.name = naming.Of(c.shot.Page, p.element)
}

// rectOf gives a rectangle in CSS px.
func rectOf(r layout.Rect) geom.Rect {
	return geom.Rect{X0: r.X.Float(), Y0: r.Y.Float(), X1: r.Right().Float(), Y1: r.Bottom().Float()}
}

// near reports lengths that are the same within a tolerance, and what binary fractions add.
func near(a, b, tolerance float64) bool { return math.Abs(a-b) <= tolerance+1e-6 }

// side is a picture with the pieces that are seen on it.
type side struct {
	pixels *image.RGBA
	pieces []piece
}

// pair is a piece and where the other side has it.
type pair struct {
	found bool
	there geom.Rect // CSS px
	// how it was found: exactly, in another size of type, or by its place only
	factor float64   // of the size of type, theirs to ours; 1 when alike
	seen   [4]bool   // which edges of there are known: top, right, bottom, left
	likely float64   // 0..1, how sure
	part   geom.Rect // what of the piece was looked for: all of it, or the beginning of its first line
	other  bool      // something else stands there
	rewrap bool      // its lines break elsewhere
	piece  *piece    // the other side's, when that is a page
}

var allSeen = [4]bool{true, true, true, true}

func holds(list []piece, j, i int) bool {
	for h := list[j].holder; h >= 0; h = list[h].holder {
		if h == i {
			return true
		}
	}
	return false
}
