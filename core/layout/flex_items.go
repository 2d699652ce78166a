package layout

import (
	"math"

	"ziegel/core/css"
)

// item determines the flex base size and the limits of an item.
func (f *flexBoxState) item(it *flexItem, k *Box) {
	k.edges(f.inner.cbW)
	it.b = k
	if f.row {
		it.mainMar, it.crossMar = k.margin[css.Left]+k.margin[css.Right], k.margin[css.Top]+k.margin[css.Bottom]
	} else {
		it.mainMar, it.crossMar = k.margin[css.Top]+k.margin[css.Bottom], k.margin[css.Left]+k.margin[css.Right]
	}
	s := k.style
	basis := s.FlexBasis
	own := s.Width
	if !f.row {
		own = s.Height
	}
	if basis.Kind == css.LenAuto {
		basis = own
	}
	if !f.row && basis.HasPercent() {
		f.e.percents++
	}
	definite := basis.Kind == css.LenPx && (!basis.HasPercent() || f.mainDef)
	switch {
	case definite && f.row:
		it.base = k.borderW(basis.Resolve(f.main))
	case definite:
		it.base = k.borderH(basis.Resolve(f.main)) + f.besideFrame(k)
	default:
		it.base = f.contentBase(it, basis)
	}
	f.limits(it, own)
	it.hypo = max(it.min, min(it.base, it.max))
}

// besideFrame is the height of what stands above and below the frame of a table: a height that is given to a table is
// without its captions (measured).
func (f *flexBoxState) besideFrame(k *Box) Px {
	if k.display != css.Table {
		return 0
	}
	f.e.layout(k, f.columnSpace(k))
	return k.H - k.frame.H
}

// stretchedCross gives an item's cross size when it is definite before layout: single-line stretch in a definite
// container.
func (f *flexBoxState) stretchedCross(k *Box) (Px, bool) {
	a := k.style.AlignSelf
	if a == "" {
		a = f.b.style.AlignItems
	}
	keepsCross := a != "" && a != "stretch" || !f.autoCross(k) || f.crossAutoMargin(k) || !f.crossDef ||
		f.b.style.FlexWrap != "nowrap"
	if keepsCross {
		return 0, false
	}
	if f.row {
		return f.e.clampH(k, f.cross-k.margin[css.Top]-k.margin[css.Bottom],
			space{cbH: f.inner.cbH, defCB: f.inner.defCB}), true
	}
	return f.e.clampW(k, f.cross-k.margin[css.Left]-k.margin[css.Right], f.inner.cbW, true), true
}

// shrinking are fields that have no least width by themselves: they scroll, or show nothing that has one (measured).
var shrinking = map[string]bool{"textarea": true, "progress": true, "meter": true}

func (f *flexBoxState) contentBase(it *flexItem, basis css.Len) Px {
	k := it.b
	if f.b.style.OldBox && f.row && k.kind != replacedBox { // what goes on goes on in lines of its own
		lo, hi := f.e.intrinsic(k)
		return max(lo, min(hi, f.inner.cbW-k.margin[css.Left]-k.margin[css.Right]))
	}
	if f.row {
		if k.kind == replacedBox {
			w, _ := f.replacedMain(k)
			return w
		}
		lo, hi := f.e.intrinsic(k)
		if basis.Kind == css.LenMinContent {
			return lo
		}
		if basis.Kind == css.LenFitContent {
			return min(max(lo, f.main-it.mainMar), hi)
		}
		if k.style.AspectRatio > 0 {
			if h, ok := f.stretchedCross(k); ok {
				return f.e.ratioWidth(k, h)
			}
			if h, ok := f.e.plainHeight(k, space{cbH: f.inner.cbH, defCB: f.inner.defCB}); ok {
				return f.e.ratioWidth(k, h)
			}
		}
		return f.e.transferred(k, hi, f.inner)
	}
	f.e.layout(k, f.columnSpace(k))
	return k.H
}

// columnSpace is the space in which a column item shows its content height.
func (f *flexBoxState) columnSpace(k *Box) space {
	sp := space{cbW: f.inner.cbW, cbH: f.inner.cbH, defCB: f.inner.defCB, shrink: true}
	if w, ok := f.stretchedColumn(k); ok {
		sp.forceW, sp.hasW = w, true
	}
	return sp
}

func (f *flexBoxState) stretchedColumn(k *Box) (Px, bool) {
	a := k.style.AlignSelf
	if a == "" {
		a = f.b.style.AlignItems
	}
	keepsWidth := a != "" && a != "stretch" || k.style.Width.Kind != css.LenAuto || f.crossAutoMargin(k) ||
		f.b.style.FlexWrap != "nowrap"
	if keepsWidth {
		return 0, false
	}
	return f.e.clampW(k, f.inner.cbW-k.margin[css.Left]-k.margin[css.Right], f.inner.cbW, true), true
}

// replacedMain gives the natural main size of a replaced item.
func (f *flexBoxState) replacedMain(k *Box) (w, h Px) {
	sp := space{cbW: f.inner.cbW, cbH: f.inner.cbH, defCB: f.inner.defCB, shrink: true}
	if hh, ok := f.stretchedCross(k); ok && f.row {
		sp.forceH, sp.hasH = hh, true
	}
	f.e.layout(k, sp)
	return k.W, k.H
}

// replacedMin gives the content size suggestion of a replaced item: its natural width, or what its height makes of
// it.
func (f *flexBoxState) replacedMin(k *Box) Px {
	lo, _ := f.e.intrinsicReplaced(k)
	h, ok := f.stretchedCross(k)
	if l := k.style.Height; l.HasPercent() && f.inner.defCB {
		h, ok = k.borderH(l.Resolve(f.inner.cbH)), true
	}
	if ok {
		if _, _, ratio := f.e.natural(k); ratio > 0 {
			lo = css.FromFloat((h-k.blockEdges()).Float()*ratio) + k.inlineEdges()
		}
	}
	return lo
}

// ratioMin gives the least width of an item by its content; one whose height is known and that has an aspect-ratio is
// as wide as that makes it (css-flexbox-1, section 4.5).
func (f *flexBoxState) ratioMin(k *Box) Px {
	lo, _ := f.e.intrinsic(k)
	if k.style.AspectRatio == 0 {
		return lo
	}
	lo = f.e.transferred(k, lo, f.inner)
	h, ok := f.stretchedCross(k)
	if l := k.style.Height; l.Kind == css.LenPx && (!l.HasPercent() || f.inner.defCB) {
		h, ok = f.e.clampH(k, k.borderH(l.Resolve(f.inner.cbH)), space{cbH: f.inner.cbH, defCB: f.inner.defCB}), true
	}
	if ok {
		return max(lo, f.e.ratioWidth(k, h))
	}
	return lo
}

// limits sets the used minimum and maximum main size; an automatic minimum is the content's.
func (f *flexBoxState) limits(it *flexItem, own css.Len) {
	k, s := it.b, it.b.style
	it.max = math.MaxInt32 / 4
	if f.row {
		if hi, ok := f.e.limitW(k, s.MaxW, f.main); ok {
			it.max = hi
		}
		if lo, ok := f.e.limitW(k, s.MinW, f.main); ok {
			it.min = lo
		} else if s.OverflowX == "visible" || s.OverflowX == "clip" {
			var lo Px
			switch {
			case k.sizeContained(): // what is in it counts for nothing, nor does what stands for that (measured)
				lo = k.inlineEdges()
			case k.kind != replacedBox:
				lo = f.ratioMin(k)
			case k.el != nil && shrinking[k.el.Tag]:
				lo = k.inlineEdges()
			default:
				lo = f.replacedMin(k)
			}
			if own.Kind == css.LenPx {
				lo = min(lo, k.borderW(own.Resolve(f.main)))
			}
			it.min = min(lo, it.max)
		}
		it.min = max(it.min, k.inlineEdges())
		if k.kind == tableBox { // never narrower than what its columns hold
			lo, _ := f.e.intrinsic(k)
			it.min = max(it.min, lo)
		}
		return
	}
	sp := space{cbH: f.main, defCB: f.mainDef}
	if s.MaxH.Kind == css.LenPx && (!s.MaxH.HasPercent() || sp.defCB) {
		it.max = k.borderH(s.MaxH.Resolve(f.main))
	}
	if s.MinH.Kind == css.LenPx && (!s.MinH.HasPercent() || sp.defCB) {
		it.min = k.borderH(s.MinH.Resolve(f.main))
	} else if s.MinH.Kind == css.LenAuto && (s.OverflowY == "visible" || s.OverflowY == "clip") {
		f.e.layout(k, f.columnSpace(k))
		lo := k.contentH + k.blockEdges()
		if k.kind == replacedBox || k.contentH == 0 && k.style.Height.Kind == css.LenAuto {
			lo = k.H
		}
		if own.Kind == css.LenPx && (!own.HasPercent() || f.mainDef) {
			lo = min(lo, k.borderH(own.Resolve(f.main)))
		}
		it.min = min(lo, it.max)
	}
	it.min = max(it.min, k.blockEdges())
}
