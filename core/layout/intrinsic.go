package layout

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
