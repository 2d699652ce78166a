package layout

// layoutInline breaks the inline content of b into lines and places everything on them.
func (e *Engine) layoutInline(b *Box, inner space) {
	cw := inner.cbW
	for _, k := range b.kids {
		e.sizeAtoms(k, inner)
	}
	p := e.paragraph(b)
	p.resolveEdges(cw)
	p.countClones()
	indent := b.style.TextIndent.Resolve(cw)
	beside := e.floats.floatSpace != nil && (e.floats.reach(cw) || e.holdsFloats(b) ||
		b.style.WrapStyle == "balance" && e.floats.y < e.floats.bottom) // not evened out, reach it or not (measured)
	if f := &p.fit; !beside && f.holds(b, cw, indent) {
		b.contentH, b.first, b.last, b.baselines = f.height, f.first, f.last, f.baselines
		return
	}
	e.need, e.cut = noNeed, false
	p.bottoms, p.trimmed = p.bottoms[:0], 0
	if beside {
		e.clearFragments(b)
		b.contentH = e.floatLines(b, p, inner, indent)
		e.restOut(b, p, b.contentH)
		p.fit = fit{}
		return
	}
	p.lines = e.breakLines(p, cw, indent, b.style)
	e.clearFragments(b)
	strut := e.metrics(b.style)
	y := Px(0)
	at := lineBox{e: e, b: b, p: p, cw: cw, trims: b.trims(), pieces: e.scratch.pieces, boxes: e.scratch.onLine}
	for n, ln := range p.lines {
		y += at.place(ln, n, y, indentOf(b.style, p.lines[:n], indent), strut)
		p.bottoms = append(p.bottoms, y)
	}
	e.scratch.pieces, e.scratch.onLine = at.pieces, at.boxes
	e.restOut(b, p, y)
	b.contentH = y
	p.fit = e.fitOf(b, p, cw, indent)
}

// restOut gives out-of-flow boxes after the last line their place.
func (e *Engine) restOut(b *Box, p *para, y Px) {
	for i := range p.items {
		if it := &p.items[i]; it.kind == outItem && it.box.staticIn != b {
			it.box.staticIn, it.box.staticX, it.box.staticY = b, b.contentX(), b.contentY()+y
		}
	}
}
