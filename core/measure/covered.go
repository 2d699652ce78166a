package measure

import (
	"ziegel/core/css"
	"ziegel/core/layout"
)

// coverEdge is by how many cells the parts under text are widened: words stand a little elsewhere at the widths
// between those that are laid out, and a letter is larger than a cell.
const coverEdge = 2

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
