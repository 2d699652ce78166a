package paint

import (
	"sort"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// Painting order: a stacking context paints its ground, the contexts below, the grounds of blocks, lines, and what is
// positioned (CSS 2 Appendix E).

// canvas paints the page: its ground, then the root as a stacking context.
func (p *painter) canvas(root *box) []display.Item {
	s := &sink{}
	base := css.Color{R: 1, G: 1, B: 1, A: 1}
	if c, ok := css.ParseColor(css.Tokenize("canvas"), root.read.In); ok {
		base = c
	}
	page := p.page
	s.add(nil, &display.Fill{Rect: &page, Brush: display.Solid(base)})
	p.root = root
	if !p.hasGround(root) {
		for _, k := range root.kids {
			if k.Element != nil && k.Element.Tag == "body" {
				p.root = k
			}
		}
	}
	s.add(nil, p.background(p.root, p.rootArea(root), geom.Round{Rect: page}, true)...)
	p.context(root, s)
	return s.items
}

// stacks tells whether a box is painted with the positioned ones, whether it is a stacking context, and its z-index.
func (p *painter) stacks(b *box) (apart, context bool, z int) {
	if b.Turned {
		return true, true, 0
	}
	s := b.Style.Stacking()
	positioned := b.Style.Position != css.Static
	layered := (positioned || isItem(b)) && !s.Auto
	if layered {
		z = s.Z
	}
	context = s.Makes && !b.Inline || s.Makes && b.Style.Opacity < 1 || layered
	return positioned || context, context, z
}

// lists are the boxes of a stacking context that leave the flow of painting, by z-index.
type lists struct{ below, level, over []*box }

func (p *painter) gather(b *box, into *lists) {
	for _, k := range b.kids {
		apart, context, z := p.stacks(k)
		if apart {
			switch {
			case z < 0:
				into.below = append(into.below, k)
			case z > 0:
				into.over = append(into.over, k)
			default:
				into.level = append(into.level, k)
			}
		}
		if !context {
			p.gather(k, into)
		}
	}
}

// context paints a stacking context into s: as a group when it has effects.
func (p *painter) context(b *box, s *sink) {
	if g := p.group(b); g != nil {
		in := &sink{}
		if p.moves(b) {
			outer := b.clip
			b.clip = nil
			p.contents(b, in)
			b.clip = outer
			g.Items = in.items
			s.add(outer, g)
			return
		}
		p.contents(b, in)
		g.Items = in.items
		s.add(nil, g)
		return
	}
	p.contents(b, s)
}

func (p *painter) contents(b *box, s *sink) {
	var l lists
	p.gather(b, &l)
	byZ := func(list []*box) {
		sort.SliceStable(list, func(i, j int) bool {
			_, _, a := p.stacks(list[i])
			_, _, z := p.stacks(list[j])
			return a < z
		})
	}
	byZ(l.below)
	byZ(l.over)
	p.ground(b, s)
	for _, k := range l.below {
		p.context(k, s)
	}
	p.blocks(b, s)
	p.lines(b, s)
	for _, k := range l.level {
		p.apart(k, s)
	}
	for _, k := range l.over {
		p.context(k, s)
	}
	p.outlines(b, s)
}

func (p *painter) apart(k *box, s *sink) {
	if _, context, _ := p.stacks(k); context {
		p.context(k, s)
	} else {
		p.whole(k, s)
	}
}

// whole paints a box and what is in it in one go, but for what belongs to the context around it.
func (p *painter) whole(b *box, s *sink) {
	p.ground(b, s)
	p.blocks(b, s)
	p.lines(b, s)
	p.outlines(b, s)
}

// blocks paints the grounds of the blocks in a box.
func (p *painter) blocks(b *box, s *sink) {
	for _, k := range b.kids {
		if apart, _, _ := p.stacks(k); apart || atomic(k) {
			continue
		}
		if !k.Inline {
			p.ground(k, s)
		}
		p.blocks(k, s)
	}
	p.joined(b, s)
}

// lines paints the text, the inline boxes and the pictures in a box.
func (p *painter) lines(b *box, s *sink) {
	p.words(b, s)
	for _, k := range b.kids {
		if apart, _, _ := p.stacks(k); apart {
			continue
		}
		if atomic(k) {
			p.whole(k, s)
			continue
		}
		if k.Inline {
			p.ground(k, s)
		}
		p.lines(k, s)
		p.outlines(k, s)
	}
}

// ground paints the shadows, the background and the borders of a box.
func (p *painter) ground(b *box, s *sink) {
	if !b.Style.Visible || b == p.root && b.parent == nil || hollow(b) {
		return
	}
	if b.Inline {
		for i, r := range b.Rects {
			p.groundOf(b, r, b.ends(i), s)
		}
		p.note(b)
		return
	}
	if len(b.Rects) > 0 && (b.Element != nil || b.Pseudo != "") {
		for i, r := range b.Rects { // in columns a box may have several parts
			p.groundOf(b, r, b.ends(i), s)
		}
		s.add(b.clip, p.columnRules(b)...)
		p.note(b)
	}
}

// note keeps where links are.
func (p *painter) note(b *box) {
	if b.Element == nil || b.Element.Tag != "a" {
		return
	}
	to := b.Element.Attr("href")
	for _, r := range b.Rects {
		if to != "" {
			p.links = append(p.links, display.Link{Rect: plain(r), To: to})
		}
	}
}

// words paints the own text of a box, or what it shows in its place.
func (p *painter) words(b *box, s *sink) {
	if !b.Style.Visible {
		return
	}
	switch {
	case b.Shows != "" && len(b.Rects) > 0:
		if im := p.file(b, b.Shows); im != nil {
			s.add(b.clip, im.draw(plain(b.Rects[0]))...)
		}
	case b.Marker != "":
		s.add(b.clip, p.marker(b)...)
	case isReplaced(b.Element) && !b.Inline:
		s.add(b.clip, p.uprightly(b, p.replaced)...)
	case b.Element != nil && isControl(b.Element):
		s.add(b.clip, p.control(b)...)
	}
	if len(b.Texts) > 0 && b.Style.ContentVisibility != "hidden" {
		c := b.inner
		if b.Inline {
			c = b.clip
		}
		s.add(c, p.texts(b)...)
	}
}

// outlines paints the outline of a box.
func (p *painter) outlines(b *box, s *sink) {
	if b.Style.Visible && len(b.Rects) > 0 {
		s.add(b.clip, p.outline(b)...)
	}
}

// groundOf paints the ground of one rectangle of a box with the edges that it has.
func (p *painter) groundOf(b *box, r layout.Rect, ends [4]bool, s *sink) {
	if b.Legend != nil { // frame and ground begin at the middle of a legend that is higher than the border (measured)
		drop := max(0, b.Border[css.Top]-b.borderWidth(css.Top)) / 2
		r.Y += drop
		r.H -= drop
	}
	shape := p.roundOf(b, r, ends)
	if shape.Empty() {
		return
	}
	if b.InCells() {
		s.add(b.clip, p.behindCells(b, p.background(b, r, shape, false))...)
		return
	}
	s.add(b.clip, p.shadows(b, shape, false)...)
	if own := p.ownFrame(b, r); own != nil {
		s.add(b.clip, own...)
		s.add(b.clip, p.shadows(b, shape, true)...)
		return
	}
	if b != p.root {
		s.add(b.clip, p.background(b, r, shape, false)...)
	}
	s.add(b.clip, p.shadows(b, shape, true)...)
	if b.Joined {
		return
	}
	frame := p.borders(b, shape, ends)
	if b.Legend != nil && len(b.Legend.Rects) > 0 {
		frame = besideLegend(b, shape.Rect, frame)
	}
	s.add(b.clip, frame...)
}

// besideLegend leaves out what lies behind a legend.
func besideLegend(b *box, outer geom.Rect, items []display.Item) []display.Item {
	r := b.Legend.Rects[0]
	around := geom.RectPath(outer.Grow(1))
	around.Add(geom.RectPath(geom.R(px(r.X), px(r.Y), px(r.W), px(r.H))))
	around.EvenOdd = true
	g := display.Plain(items...)
	g.Clips = []*geom.Path{around}
	return []display.Item{g}
}
