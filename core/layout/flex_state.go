package layout

import "ziegel/core/css"

// align gives the cross-axis alignment of an item.
func (f *flexBoxState) align(it *flexItem) css.Align {
	a := it.b.style.AlignSelf
	if a == "" {
		a = f.b.style.AlignItems
	}
	if a == "" {
		a = "stretch"
	}
	return a
}

func (f *flexBoxState) autoCross(k *Box) bool {
	if f.row {
		// a percentage of nothing is computed as such: it does not stretch (measured)
		return k.style.Height.Kind == css.LenAuto
	}
	return k.style.Width.Kind == css.LenAuto
}

func (f *flexBoxState) crossAutoMargin(k *Box) bool {
	if f.row {
		return k.autoMargin[css.Top] || k.autoMargin[css.Bottom]
	}
	return k.autoMargin[css.Left] || k.autoMargin[css.Right]
}

func (f *flexBoxState) sum(items []*flexItem, of func(*flexItem) Px) Px {
	var total Px
	for i, it := range items {
		if i > 0 {
			total += f.gap
		}
		total += of(it) + it.mainMar
	}
	return total
}

func (f *flexBoxState) edgesOf(k *Box) Px {
	if f.row {
		return k.inlineEdges()
	}
	return k.blockEdges()
}

func (f *flexBoxState) clampMain(v Px, m mainLimits) Px {
	if m.hasHi {
		v = min(v, m.hi)
	}
	return max(v, m.lo)
}
