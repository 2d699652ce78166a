package check

import (
	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/naming"
)

// strip is a block as it stands at one width: where what can be seen of it begins and ends.
type strip struct {
	el             *css.Element
	y, end         layout.Px // of its box
	top, bottom    layout.Px // of text and pictures
	opens, closes  bool      // a picture is the first or last of these
	left           layout.Px // of its first text that is set from the left
	leftText       *css.Element
	ground         css.Color
	above          bool // it stays on the screen, or lies over others
	lineUp, lineAt bool // it ends and begins with a line
}

// strips gives the blocks that stand under each other, from the top down.
func (s *Scene) strips(r *layout.Result) []strip {
	if at, ok := s.strip.Load(r); ok && at.(stripsAt).width == r.Width { // several rules ask in turn
		return at.(stripsAt).list
	}
	out := s.findStrips(r)
	s.strip.Store(r, stripsAt{r.Width, out})
	return out
}

type stripsAt struct {
	width int
	list  []strip
}

func (s *Scene) findStrips(r *layout.Result) []strip {
	var out []strip
	for _, e := range s.regions() {
		if len(out) > 0 && naming.Inside(e, out[len(out)-1].el) || !regions[e.Tag] {
			continue
		}
		if st, ok := s.stripOf(r, e); ok {
			out = append(out, st)
		}
	}
	return out
}

// regions are the tags that can be a block of a page; a paragraph or a list beside them is none.
var regions = map[string]bool{"div": true, "section": true, "header": true, "footer": true, "main": true, "nav": true,
	"article": true, "aside": true, "form": true, "figure": true}

// stripOf measures one block. ok is false when nothing of it can be seen.
func (s *Scene) stripOf(r *layout.Result, e *css.Element) (st strip, ok bool) {
	box := r.Of(e)
	if box == nil || box.Empty() || !box.Style.Visible {
		return strip{}, false
	}
	st = strip{el: e, y: box.Y, end: box.Bottom(), above: box.Above || box.Style.Position == css.Sticky,
		lineUp: box.Style.BorderPx(css.Bottom) > 0, lineAt: box.Style.BorderPx(css.Top) > 0}
	middle := false
	for i := r.ByIndex[e.Index]; i < len(r.Boxes) && r.Boxes[i].Element.Index < s.end[e.Index]; i++ {
		p := &r.Boxes[i]
		st.above = st.above || i == r.ByIndex[e.Index]+1 && p.Style.Position == css.Sticky
		area := p.Rect
		switch {
		case s.own[p.Element.Index] > 0 && shown(p) && !p.Above:
			area = p.Text
			isText := st.leftText == nil && !middle && p.Lines > 0 && p.Style.Display != css.Inline &&
				s.kind[p.Element.Index] != targetKind
			if isText {
				if p.Style.TextAlign != "start" && p.Style.TextAlign != "left" {
					middle = true // the block has no edge of its own: what follows lies about its middle
				} else {
					st.left, st.leftText = beginning(r, p, e), p.Element
				}
			}
		case naming.IsPicture(p.Element) && !p.Empty() && p.Style.Visible && !p.Above:
		default:
			continue
		}
		if !ok || area.Y < st.top {
			st.top, st.opens = area.Y, naming.IsPicture(p.Element)
		}
		if !ok || area.Bottom() > st.bottom {
			st.bottom, st.closes = area.Bottom(), naming.IsPicture(p.Element)
		}
		ok = true
	}
	st.ground = s.groundOf(r, e)
	if s.l.Page == nil {
		st.left, st.leftText = s.edgeOf(r, e)
	}
	return st, ok
}

// beginning gives where a text of a block begins for the eye: with the frame that it stands in, or with what its
// ::before puts into its line, a rule or a number.
func beginning(r *layout.Result, p *layout.Fragment, block *css.Element) layout.Px {
	left := p.Text.X
	for e := p.Element; e != nil && e != block; e = e.Parent {
		if in := r.Of(e); in != nil && in.X < left && in.Style.BorderPx(css.Left) > 0 && in.Style.Visible {
			left = in.X
		}
	}
	for i := range r.Generated {
		g := &r.Generated[i]
		if g.Element != p.Element || g.Pseudo != "before" || g.W == 0 || g.Style.Position != css.Static {
			continue
		}
		if g.X < left && g.Y < p.Text.Bottom() && g.Bottom() > p.Text.Y {
			left = g.X
		}
	}
	return left
}

// regions lists what stands under each other on a page: its blocks, and on a foreign one the header and the footer
// beside its main.
func (s *Scene) regions() []*css.Element {
	var out []*css.Element
	for _, b := range s.l.Blocks {
		out = append(out, b.Element)
	}
	if s.l.Page != nil || len(out) == 0 || s.l.Doc.Body == nil || out[0].Parent == s.l.Doc.Body {
		return out
	}
	all := out
	out = nil
	for _, k := range s.l.Doc.Body.Kids() {
		switch {
		case k == all[0].Parent:
			out = append(out, all...)
		case k.Tag == "header" || k.Tag == "nav" || k.Tag == "footer":
			out = append(out, k)
		}
	}
	return out
}

// edgeOf gives where the words of a foreign block begin: the leftmost of its texts, links and pictures that are set
// from the left.
func (s *Scene) edgeOf(r *layout.Result, e *css.Element) (layout.Px, *css.Element) {
	at, el := layout.Px(0), (*css.Element)(nil)
	for i := r.ByIndex[e.Index]; i < len(r.Boxes) && r.Boxes[i].Element.Index < s.end[e.Index]; i++ {
		p := &r.Boxes[i]
		x := p.Text.X
		switch {
		case p.Above || !p.Style.Visible || p.Empty():
			continue
		case s.target(p) && p.Style.Display != css.Inline:
			x = p.X
		case p.Lines > 0 && shown(p) && (p.Style.TextAlign == "start" || p.Style.TextAlign == "left"):
		case p.Element.Tag == "img" && p.X > 0 && p.W < layout.Px(r.Width)*32:
			x = p.X
		default:
			continue
		}
		if el == nil || x < at {
			at, el = x, p.Element
		}
	}
	return at, el
}

// groundOf gives the color that an element stands on, in the light.
func (s *Scene) groundOf(r *layout.Result, e *css.Element) css.Color {
	for x := e; x != nil; x = x.Parent {
		if p := r.Of(x); p != nil {
			if g := s.colors.light.Of(p.Style.Look(), css.Color{}).Ground; g.A > .5 {
				return g
			}
		}
	}
	return css.Color{R: 1, G: 1, B: 1, A: 1}
}
