package paint

import (
	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// What stands in lines side by side is painted as if they stood below each other, and turned as a whole.

// mirrored turns letters back in their line: lines that follow each other from the left are mirrored by the turn.
func mirrored(r layout.Rect, items []display.Item) display.Item {
	g := display.Plain(items...)
	g.Matrix = geom.Matrix{A: 1, D: -1, F: 2*px(r.Y) + px(r.H)}
	return g
}

// turnedBack gives a direction on the page in the coordinates of lines that follow each other so.
func turnedBack(m css.Mode, x, y float64) (float64, float64) {
	switch m {
	case css.VerticalRL, css.SidewaysRL:
		return y, -x
	case css.VerticalLR:
		return y, x
	case css.SidewaysLR:
		return -y, x
	}
	return x, y
}

// uprightly paints what is not turned with the lines in which it lies, such as pictures.
func (p *painter) uprightly(b *box, paint func(*box) []display.Item) []display.Item {
	if b.Lies == css.Horizontal || len(b.Rects) == 0 {
		return paint(b)
	}
	r := b.Rects[0]
	as := *b
	drawn := *b.Drawn
	drawn.Rects = []layout.Rect{{W: r.H, H: r.W}}
	as.Drawn = &drawn
	g := display.Plain(paint(&as)...)
	x, y, w, h := px(r.X), px(r.Y), px(r.W), px(r.H)
	switch b.Lies {
	case css.VerticalLR:
		g.Matrix = geom.Matrix{B: 1, C: 1, E: x, F: y}
	case css.SidewaysLR:
		g.Matrix = geom.Matrix{B: 1, C: -1, E: x + w, F: y}
	default:
		g.Matrix = geom.Matrix{B: -1, C: 1, E: x, F: y + h}
	}
	return []display.Item{g}
}
