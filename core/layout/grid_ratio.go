package layout

import (
	"cmp"

	"ziegel/core/css"
)

// columnsByRows sizes the columns anew when rows are known, for items with a ratio whose height would be that of their
// row: what they ask of columns follows from it (css-grid-1, section 12.1, step 3; measured: where nothing aligns them
// in their row, too). It reports whether any column has changed.
func (g *gridState) columnsByRows(inner space) bool {
	asks := false
	for _, it := range g.items {
		k := it.b
		free := k.style.Width.IsAuto() && k.style.Height.IsAuto() && k.sub[colAxis] == nil && k.sub[rowAxis] == nil
		if !free || k.style.AspectRatio == 0 || k.kind == replacedBox || !g.fillsRow(k) {
			continue
		}
		room := space{cbW: g.areaW(it), cbH: g.areaH(it), defCB: true}
		h := g.e.clampH(k, room.cbH-k.margin[css.Top]-k.margin[css.Bottom], room)
		w := g.e.clampW(k, g.e.ratioWidth(k, h), room.cbW, true) + k.margin[css.Left] + k.margin[css.Right]
		if w > it.lo {
			it.lo, it.hi, asks = w, max(w, it.hi), true
		}
	}
	if !asks || !g.contentSized(&g.cols) {
		return false
	}
	before := make([]Px, len(g.cols.tracks))
	for i := range g.cols.tracks {
		before[i] = g.cols.tracks[i].base
	}
	g.size(&g.cols, axisRoom{inner.cbW, true, 0}, g.colItems(), g.b.style.JustifyContent)
	g.position(&g.cols, inner.cbW, g.b.style.JustifyContent)
	for i := range before {
		if g.cols.tracks[i].base != before[i] {
			return true
		}
	}
	return false
}

// fillsRow reports an item that is as high as its row as far as alignment goes.
func (g *gridState) fillsRow(k *Box) bool {
	a := cmp.Or(k.style.AlignSelf, g.b.style.AlignItems)
	return (a == "" || a == "stretch") && !k.autoMargin[css.Top] && !k.autoMargin[css.Bottom]
}
