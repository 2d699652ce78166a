// Package paint turns the boxes of a page that is laid out into a display list: what CSS draws, in the order in which
// it draws it (CSS 2 Appendix E, css-position-3 "Painting Order and Stacking Contexts", css-backgrounds-3). It draws no
// pixel itself; raster and vector do. What it does not draw as a browser does it reports.
package paint

import (
	"sort"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// Page draws what the engine has laid out last, on a ground as wide as the page. Its measure is that of the layout: CSS
// px, or device pixels where the engine counts in those.
func Page(e *layout.Engine, r *layout.Result, o Options) *display.List {
	p := newPainter(e, o)
	out := &display.List{W: float64(r.Width) * e.Zoom(), H: r.Height.Float()}
	root := e.Drawing()
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

// tree prepares the boxes of a page.
func (p *painter) tree(d *layout.Drawn, parent *box) *box {
	at := map[*layout.Drawn]*box{}
	p.at = at
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

func orderOf(b *box) int {
	if b.OutOfFlow {
		return 0
	}
	return b.Style.Order
}

// clipOf gives the shape that a box clips what is in it with, nil when it does not.
func (p *painter) clipOf(b *box) *clip {
	s := b.Style
	x, y := s.OverflowX != "visible", s.OverflowY != "visible"
	contain := s.Contains("paint")
	unclipped := b.Inline || len(b.Rects) == 0 || !x && !y && !contain
	if unclipped {
		return nil
	}
	ofWindow := b.Element != nil && (b.Element.Tag == "html" || b.Element.Tag == "body" && b.parent != nil &&
		b.parent.Style.OverflowX == "visible" && b.parent.Style.OverflowY == "visible")
	if ofWindow {
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
