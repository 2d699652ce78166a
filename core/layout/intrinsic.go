package layout

import "ziegel/core/css"

// measureAtoms gives atomic boxes in an inline subtree their edges.
func (e *Engine) measureAtoms(k *Box) {
	switch {
	case k.aside():
	case k.kind == inlineBox:
		for _, c := range e.children(k, 0) {
			e.measureAtoms(c)
		}
	case k.atomic():
		k.edges(0)
	}
}

// intrinsicAtoms measures a paragraph with its atomic boxes once at their minimum and once at their maximum.
func (e *Engine) intrinsicAtoms(p *para, s *css.Style) (Px, Px) {
	if p.sized {
		return p.minW, p.maxW
	}
	if e.floating {
		e.measurePara(p, s)
		e.addFloats(p)
		return p.minW, p.maxW
	}
	return e.measurePara(p, s)
}

func (e *Engine) measurePara(p *para, s *css.Style) (Px, Px) {
	var atoms []*Box
	for i := range p.items {
		if p.items[i].kind == atomItem {
			atoms = append(atoms, p.items[i].box)
		}
	}
	if len(atoms) == 0 {
		return e.intrinsicPara(p, s)
	}
	saved := make([]Px, len(atoms))
	for i, a := range atoms {
		saved[i] = a.W
		a.W, _ = e.outerSizes(a)
	}
	lo, _ := e.intrinsicPara(p, s)
	p.sized = false
	for _, a := range atoms {
		_, a.W = e.outerSizes(a)
	}
	_, hi := e.intrinsicPara(p, s)
	p.minW, p.maxW, p.sized = lo, hi, true
	for i, a := range atoms {
		a.W = saved[i]
	}
	return lo, hi
}

// intrinsicFlow measures block-level children. Floats stand side by side if they can, and so does what keeps to itself
// beside them; clear ends that (measured).
func (e *Engine) intrinsicFlow(kids []*Box) (lo, hi Px) {
	var floats [2]Px // on the left and on the right
	for _, k := range kids {
		if k.outOfFlow() {
			continue
		}
		a, z := e.contribution(k, 0)
		lo = max(lo, a)
		if c := k.floatSide(k.style.Clear); c != 0 {
			hi = max(hi, floats[0]+floats[1])
			if c&1 != 0 {
				floats[0] = 0
			}
			if c&2 != 0 {
				floats[1] = 0
			}
		}
		switch side := k.sideways(); {
		case side != 0:
			floats[side-1] += z
		case k.kind != blockBox || k.bfc:
			hi = max(hi, floats[0]+floats[1]+z)
			floats = [2]Px{}
		default:
			hi = max(hi, floats[0]+floats[1], z)
			floats = [2]Px{}
		}
	}
	return lo, max(hi, floats[0]+floats[1])
}

// addFloats adds what floats in a paragraph ask for: beside its lines at most (measured).
func (e *Engine) addFloats(p *para) {
	sum := Px(0)
	for i := range p.items {
		if k := p.items[i].box; p.items[i].kind == floatItem {
			lo, hi := e.contribution(k, 0)
			p.minW, sum = max(p.minW, lo), sum+hi
		}
	}
	p.maxW += sum
}
