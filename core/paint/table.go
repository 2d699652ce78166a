package paint

import (
	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// behindCells keeps the background of a row or a column to where its cells are.
func (p *painter) behindCells(b *box, items []display.Item) []display.Item {
	if len(items) == 0 || len(b.Cells) == 0 {
		return nil
	}
	path := &geom.Path{}
	for _, r := range b.Cells {
		path.Add(geom.RectPath(p.snap(r)))
	}
	g := display.Plain(items...)
	g.Clips = []*geom.Path{path}
	return []display.Item{g}
}

// joined paints the borders that the cells of a table share (CSS 2, section 17.6.2).
func (p *painter) joined(b *box, s *sink) {
	for i := range b.Edges {
		e := &b.Edges[i]
		from := p.at[e.From]
		if from == nil || !from.Style.Visible {
			continue
		}
		s.add(b.clip, p.joinedEdge(from, e)...)
	}
}

func (p *painter) joinedEdge(from *box, e *layout.DrawnEdge) []display.Item {
	color := from.read.In.Current
	if c, ok := edgeColor(from.read, sides[e.Side], e.Style); ok {
		color = c
	}
	style := e.Style
	switch style { // as if they were drawn into the page, or out of it (measured)
	case "inset":
		style = "ridge"
	case "outset":
		style = "groove"
	}
	return p.ruled(p.snap(e.Rect), style, color)
}

// ruled paints a straight line as borders are painted.
func (p *painter) ruled(r geom.Rect, style string, color css.Color) []display.Item {
	if color.A == 0 || r.Empty() {
		return nil
	}
	if style == "solid" {
		return []display.Item{&display.Fill{Rect: &r, Brush: display.Solid(color)}}
	}
	side, width := css.Top, r.H()
	if r.H() > r.W() {
		side, width = css.Left, r.W()
	}
	var edges [4]edge
	edges[side] = edge{width: width, style: style, color: color}
	outer := geom.Round{Rect: r}
	inner := outer.Inset(edges[0].width, edges[1].width, edges[2].width, edges[3].width)
	return p.side(side, outer, inner, edges)
}

// columnRules paints the lines between columns (css-multicol-1, section 4).
func (p *painter) columnRules(b *box) (out []display.Item) {
	style := b.read.Word("column-rule-style")
	if len(b.Rules) == 0 || style == "" || style == "none" || style == "hidden" {
		return nil
	}
	w := p.lineWidth(b, "column-rule-width")
	color := b.read.In.Current
	if c, ok := b.read.Color("column-rule-color"); ok {
		color = c
	}
	for _, r := range b.Rules {
		x := p.pixel(px(r.X) - w/2)
		out = append(out, p.ruled(geom.R(x, p.pixel(px(r.Y)), w, px(r.H)), style, color)...)
	}
	return out
}

// hollow reports a cell without content that is not to be seen (CSS 2, section 17.6.1.1).
func hollow(b *box) bool {
	return b.Style.Display == css.TableCell && !b.Joined && len(b.kids) == 0 && len(b.Texts) == 0 &&
		b.read.Word("empty-cells") == "hide"
}
