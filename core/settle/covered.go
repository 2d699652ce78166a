package settle

import (
	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/sweep"
)

// coverEdge is by how many cells the parts under text are widened: words stand a little elsewhere at the widths
// between those that are laid out, and a letter is larger than a cell.
const coverEdge = 2

// covered finds which parts of the picture under the block some text lies over, at screens of every 40th px.
func (m *measuring) covered(f *found, file, focus string) *compose.Covered {
	l := m.laid(m.compose(f.whole(m.block.Name)), "")
	if l == nil {
		return nil
	}
	w, h, ok := l.Picture("media/" + file)
	if !ok || w == 0 || h == 0 {
		return nil
	}
	spot := compose.FocusShares(focus)
	var out compose.Covered
	var painter css.Painter
	engine := l.Engine()
	for width := sweep.DefaultFrom; width <= sweep.DefaultTo; width += sizeStep {
		r := engine.Layout(width)
		var ground *layout.Placed
		for i := range r.Boxes {
			b := &r.Boxes[i]
			if b.Element.Attr(compose.MarkBlock) == m.block.Name {
				ground = b
			}
			if ground == nil || b.Lines == 0 || onSurface(r, &painter, b.Element, ground.Element) {
				continue
			}
			drawn := sweep.Drawn(ground.Rect, w, h, "cover", spot)
			for _, line := range b.Runs {
				x0, y0, x1, y1 := sweep.CellsUnder(line.Intersect(ground.Rect), drawn, compose.CoverCells, compose.CoverCells)
				for y := max(0, y0-coverEdge); y < min(compose.CoverCells, y1+coverEdge); y++ {
					for x := max(0, x0-coverEdge); x < min(compose.CoverCells, x1+coverEdge); x++ {
						out[y*compose.CoverCells+x] = true
					}
				}
			}
		}
	}
	return &out
}

// onSurface reports text on a ground of its own, such as that of a card or a button, so that nothing of the picture
// lies under it.
func onSurface(r *layout.Result, painter *css.Painter, e, block *css.Element) bool {
	for ; e != nil && e != block; e = e.Parent {
		if p := r.Of(e); p != nil && painter.Of(p.Style.Look(), css.Color{}).Ground.A == 1 {
			return true
		}
	}
	return e == nil
}
