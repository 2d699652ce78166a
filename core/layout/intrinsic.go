package layout

import "ziegel/core/css"

// intrinsic gives the min- and max-content border-box widths that the content of a box asks for, its own width
// property ignored.
func (e *Engine) intrinsic(b *Box) (Px, Px) {
	if b.sized && !b.sizeContainer() {
		return b.minmax[0] + b.hpb(), b.minmax[1] + b.hpb() // the edges may be in percent
	}
	if b.edged != b.style || b.edgedAt != b.style.Version {
		b.edges(0)
	}
	var lo, hi Px
	switch {
	case b.kind == replacedBox:
		return e.intrinsicReplaced(b)
	case b.widthContained():
		lo = max(0, b.style.ContainW.Resolve(0))
		hi = lo
	case b.kind == flexBox:
		lo, hi = e.intrinsicFlex(b)
	case b.kind == gridBox:
		lo, hi = e.intrinsicGrid(b)
	default:
		kids := e.children(b, 0)
		if len(kids) > 0 && allInline(kids) {
			for _, k := range kids {
				e.measureAtoms(k)
			}
			p := e.paragraph(b)
			lo, hi = e.intrinsicAtoms(p, max(0, b.style.TextIndent.Resolve(0)))
		} else {
			for _, k := range kids {
				if k.outOfFlow() {
					continue
				}
				a, z := e.contribution(k, 0)
				lo, hi = max(lo, a), max(hi, z)
			}
		}
	}
	b.minmax, b.sized = [2]Px{lo, hi}, true
	return lo + b.hpb(), hi + b.hpb()
}

// contribution gives the min- and max-content contributions of a child to its container, margins included.
// Percentages of the unknown width count as auto.
func (e *Engine) contribution(k *Box, base Px) (Px, Px) {
	k.edges(base)
	lo, hi := e.outerSizes(k)
	m := k.mar[css.Left] + k.mar[css.Right]
	return max(0, lo+m), max(0, hi+m)
}

// outerSizes gives border-box contributions without margins.
func (e *Engine) outerSizes(k *Box) (Px, Px) {
	s := k.style
	var lo, hi Px
	switch w := s.Width; {
	case w.Kind == css.LenPx && !w.HasPercent():
		lo = k.borderW(w.Resolve(0))
		hi = lo
	case w.Kind == css.LenMinContent:
		lo, _ = e.intrinsic(k)
		hi = lo
	case w.Kind == css.LenMaxContent:
		_, lo = e.intrinsic(k)
		hi = lo
	default:
		lo, hi = e.intrinsic(k)
		if s.AspectRatio > 0 && k.kind != replacedBox && s.Height.Kind == css.LenPx && !s.Height.HasPercent() {
			lo = e.ratioWidth(k, k.borderH(s.Height.Resolve(0)))
			hi = lo
		}
	}
	if k.kind == replacedBox && (s.Width.HasPercent() || s.MaxW.Kind == css.LenPx && s.MaxW.HasPercent()) {
		// compressible: a percentage makes its minimum 0, whatever its width attribute says (measured)
		lo = k.hpb()
		if s.MinW.Kind != css.LenPx { // keywords do not raise it either (measured)
			return lo, e.clampW(k, hi, 0, false)
		}
	}
	return e.clampW(k, lo, 0, false), e.clampW(k, hi, 0, false)
}

// measureAtoms gives atomic boxes in an inline subtree their edges.
func (e *Engine) measureAtoms(k *Box) {
	switch {
	case k.outOfFlow():
	case k.kind == inlineBox:
		for _, c := range e.children(k, 0) {
			e.measureAtoms(c)
		}
	case k.atomic():
		k.edges(0)
	}
}

// intrinsicAtoms measures a paragraph with its atomic boxes once at their minimum and once at their maximum.
func (e *Engine) intrinsicAtoms(p *para, indent Px) (Px, Px) {
	if p.sized {
		return p.minW, p.maxW
	}
	var atoms []*Box
	for i := range p.items {
		if p.items[i].kind == atomItem {
			atoms = append(atoms, p.items[i].box)
		}
	}
	if len(atoms) == 0 {
		return e.intrinsicPara(p, indent)
	}
	saved := make([]Px, len(atoms))
	for i, a := range atoms {
		saved[i] = a.W
		a.W, _ = e.outerSizes(a)
	}
	lo, _ := e.intrinsicPara(p, indent)
	p.sized = false
	for _, a := range atoms {
		_, a.W = e.outerSizes(a)
	}
	_, hi := e.intrinsicPara(p, indent)
	p.minW, p.maxW, p.sized = lo, hi, true
	for i, a := range atoms {
		a.W = saved[i]
	}
	return lo, hi
}
