package layout

import (
	"ziegel/core/css"
)

// placeLine places line n at y and returns its height.
func (e *Engine) placeLine(b *Box, p *para, ln line, n int, y, cw, indent Px, strut metrics, open *[]*openBox) Px {
	above, below := strut.above, strut.below
	grow := func(in *openBox, a, d Px) {
		if in != nil && in.group != nil {
			g := in.group
			g.above, g.below = max(g.above, a), max(g.below, d)
			return
		}
		above, below = max(above, a), max(below, d)
	}
	var groups []*alignedGroup
	pieces := e.scratch.pieces[:0]
	var late []aligned
	x := Px(0)
	hang := Px(0)
	spaces := 0
	for _, o := range *open {
		o.x, o.spaces = 0, 0
		// it goes on from the line before
		if o.group != nil && (len(groups) == 0 || groups[len(groups)-1] != o.group) {
			o.group.above, o.group.below, o.group.atoms = 0, 0, nil
			groups = append(groups, o.group)
		}
		o.shift -= o.grouped
		o.grouped = 0
		grow(o, o.m.above-o.shift, o.m.below+o.shift)
	}
	lineBoxes := append(e.scratch.onLine[:0], *open...)
	for i := ln.start.item; i < len(p.items); i++ {
		it := &p.items[i]
		if i > ln.end.item || i == ln.end.item && (it.kind != textItem || ln.end.rune <= it.start) {
			break
		}
		switch it.kind {
		case openItem:
			o := &openBox{box: it.box, m: e.metrics(it.box.style), x: x + it.box.mar[css.Left]}
			o.shift = e.shiftOf(b, *open, it.box.style, o.m)
			if in := last(*open); in != nil {
				o.group = in.group
			}
			if v := it.box.style.VerticalAlign; v == "top" || v == "bottom" {
				o.group, o.shift = &alignedGroup{bottom: v == "bottom"}, 0
				groups = append(groups, o.group)
			}
			if o.group != nil {
				o.group.boxes = append(o.group.boxes, o)
			}
			o.spaces = spaces
			*open = append(*open, o)
			lineBoxes = append(lineBoxes, o)
			grow(o, o.m.above-o.shift, o.m.below+o.shift)
			x += it.edge
		case closeItem:
			if len(*open) > 0 {
				o := (*open)[len(*open)-1]
				*open = (*open)[:len(*open)-1]
				pieces = append(pieces, piece{it: it, box: o, x: o.x, w: x + it.edge - it.box.mar[css.Right] - o.x})
			}
			x += it.edge
		case textItem:
			from, to := max(it.start, ln.start.rune), it.end
			if i == ln.end.item {
				to = min(to, ln.end.rune)
			}
			end := to
			if t := p.trimEnd(from, to); t < to && p.endsLine(i, to, ln) {
				end = t
			}
			hangs := end < to && it.box.style.Collapse == "preserve" // they stay in the inline box, beyond the line
			if end <= from && !hangs {
				continue
			}
			w := p.width(from, end)
			if hangs {
				hang += p.width(from, to) - w
			}
			if end == to && p.endsLine(i, to, ln) || end < to {
				w = p.broken(from, end)
			}
			if from == ln.start.rune && i == ln.start.item {
				w += p.leadAt(ln.start)
			}
			if to == ln.end.rune && i == ln.end.item {
				w += ln.hyphen
			}
			for k := from; k < end; k++ {
				if p.text[k] == ' ' {
					spaces++
				}
			}
			if it.box.style.LineHeight.Normal {
				for _, f := range e.usedFaces(p, it.box.style, from, end) {
					m := lineMetrics(f, it.box.style)
					sh := e.currentShift(*open)
					grow(last(*open), m.above-sh, m.below+sh)
				}
			}
			if hangs {
				w = p.width(from, to)
			}
			pieces = append(pieces, piece{it: it, x: x, w: w, i: from, j: end, box: last(*open)})
			x += w
		case atomItem:
			k := it.box
			up, down := e.atomExtent(k)
			pc := piece{it: it, x: x, w: k.W, box: last(*open)}
			base := e.currentShift(*open)
			switch k.style.VerticalAlign {
			case "top", "bottom":
				late = append(late, aligned{box: k, above: up + down, bottom: k.style.VerticalAlign == "bottom"})
			default:
				sh := base + e.atomShift(b, *open, k, up, down)
				k.Y = sh // baseline shift, turned into a position below
				grow(last(*open), up-sh, down+sh)
				if o := last(*open); o != nil && o.group != nil {
					o.group.atoms = append(o.group.atoms, k)
				}
			}
			pieces = append(pieces, pc)
			x += k.W + k.mar[css.Left] + k.mar[css.Right]
		case breakItem:
			pieces = append(pieces, piece{it: it, x: x, box: last(*open)})
		case outItem:
			pieces = append(pieces, piece{it: it, x: x})
		}
	}
	for _, l := range late {
		if l.bottom {
			above = max(above, l.above-below)
		} else {
			below = max(below, l.above-above)
		}
	}
	for _, g := range groups {
		if g.bottom {
			above = max(above, g.above+g.below-below)
		} else {
			below = max(below, g.above+g.below-above)
		}
	}
	for _, g := range groups {
		by := g.above - above
		if g.bottom {
			by = below - g.below
		}
		for _, o := range g.boxes {
			o.shift, o.grouped = o.shift+by, by
		}
		for _, k := range g.atoms {
			k.Y += by
		}
	}
	height := above + below
	base := y + above
	if ln.forced || n == len(p.lines)-1 {
		hang = min(hang, max(0, x-(cw-indent)))
	}
	off, stretch := e.alignLine(b, ln, cw, x-hang, indent, spaces, n == len(p.lines)-1)
	e.commit(b, p, pieces, commitAt{line: n, top: b.contentY() + y, base: b.contentY() + base, x: b.contentX() + off,
		height: height, spread: stretch, spaces: spaces, cut: ln.cut, end: ln.end.rune}, lineBoxes, *open, x)
	e.scratch.pieces, e.scratch.onLine = pieces, lineBoxes
	if !b.baselines {
		b.first = b.contentY() + base
	}
	b.last, b.baselines = b.contentY()+base, true
	return height
}

// endsLine reports whether nothing visible follows rune to on the line.
func (p *para) endsLine(i, to int, ln line) bool {
	for j := i + 1; j < len(p.items); j++ {
		it := &p.items[j]
		if j > ln.end.item || j == ln.end.item && (it.kind != textItem || ln.end.rune <= it.start) {
			return true
		}
		switch it.kind {
		case atomItem:
			return false
		case openItem, closeItem:
			if it.edge != 0 {
				return false
			}
		case breakItem:
			return true
		case textItem:
			z := it.end
			if j == ln.end.item {
				z = min(z, ln.end.rune)
			}
			if p.trimEnd(it.start, z) > it.start {
				return false
			}
		}
	}
	return true
}

// alignLine gives the line's start offset, and for justified lines the width to spread over its spaces.
func (e *Engine) alignLine(b *Box, ln line, cw, width, indent Px, spaces int, isLast bool) (off, stretch Px) {
	free := cw - indent - width
	if free <= 0 {
		return indent, 0
	}
	align := b.style.TextAlign
	if (isLast || ln.forced) && align == "justify" {
		align = "start"
	}
	if (isLast || ln.forced) && b.style.TextAlignLast != "auto" {
		align = b.style.TextAlignLast
	}
	switch align {
	case "center", "-webkit-center":
		return indent + free/2, 0
	case "right", "end":
		return indent + free, 0
	case "justify":
		if spaces > 0 {
			return indent, free
		}
	}
	return indent, 0
}

type commitAt struct {
	line           int
	top, base, x   Px
	height, spread Px
	spaces         int
	cut            bool // the line ends inside a word, before rune end
	end            int
}

// commit writes the final places of a line's pieces into their boxes.
func (e *Engine) commit(b *Box, p *para, pieces []piece, at commitAt, boxes, open []*openBox, width Px) {
	seen := 0 // spaces before, for justified lines
	extraAt := func(seen int) Px {
		if at.spaces == 0 || at.spread == 0 {
			return 0
		}
		return Px(int64(at.spread) * int64(seen) / int64(at.spaces))
	}
	extra := func() Px { return extraAt(seen) }
	for _, pc := range pieces {
		k := pc.it.box
		shift := Px(0)
		if pc.box != nil {
			shift = pc.box.shift
		}
		switch pc.it.kind {
		case textItem:
			before := extra()
			for r := pc.i; r < pc.j; r++ {
				if p.text[r] == ' ' {
					seen++
				}
			}
			m := e.metrics(k.style)
			k.runs = append(k.runs, textRun{Rect{at.x + pc.x + before, at.base + shift - m.asc,
				pc.w + extra() - before, m.asc + m.desc}, at.line, at.cut && pc.j == at.end})
		case atomItem:
			up, _ := e.atomExtent(k)
			k.origin = b
			k.X = at.x + pc.x + k.mar[css.Left] + extra()
			switch k.style.VerticalAlign {
			case "top":
				k.Y = at.top + k.mar[css.Top]
			case "bottom":
				k.Y = at.top + at.height - k.H - k.mar[css.Bottom]
			default:
				k.Y = at.base + k.Y - up + k.mar[css.Top]
			}
		case breakItem:
			m := e.metrics(k.style)
			k.frags = append(k.frags, Rect{at.x + pc.x, at.base + shift - m.asc, 0, m.asc + m.desc})
		case outItem:
			k.staticIn = b
			k.staticX, k.staticY = at.x+pc.x, at.top
			// block-level: below the preceding line
			if k.style.Outer != css.Inline && k.style.Outer < css.InlineBlock || k.style.Outer == css.Flex ||
				k.style.Outer == css.Grid {
				k.staticX = b.contentX()
				if pc.x > 0 {
					k.staticY = at.top + at.height
				}
			}
		case closeItem:
			before := extraAt(pc.box.spaces)
			e.fragment(pc.box, at, pc.x+before, pc.w+extra()-before)
		}
	}
	for _, o := range boxes { // boxes that go on to the next line
		for _, still := range open {
			if still == o {
				before := extraAt(o.spaces)
				e.fragment(o, at, o.x+before, width-o.x+extra()-before)
			}
		}
	}
}

// fragment adds one line's piece of an inline box.
func (e *Engine) fragment(o *openBox, at commitAt, x, w Px) {
	k := o.box
	top := k.bor[css.Top] + k.pad[css.Top]
	k.frags = append(k.frags, Rect{at.x + x, at.base + o.shift - o.m.asc - top, w,
		o.m.asc + o.m.desc + top + k.pad[css.Bottom] + k.bor[css.Bottom]})
}

// layoutInline breaks the inline content of b into lines and places everything on them.
func (e *Engine) layoutInline(b *Box, inner space) {
	cw := inner.cbW
	for _, k := range b.kids {
		e.sizeAtoms(k, inner)
	}
	p := e.paragraph(b)
	p.resolveEdges(cw)
	indent := b.style.TextIndent.Resolve(cw)
	if f := &p.fit; f.holds(b, cw, indent) {
		b.contentH, b.first, b.last, b.baselines = f.height, f.first, f.last, f.baselines
		return
	}
	e.need, e.cut = noNeed, false
	p.lines = e.breakLines(p, cw, indent, b.style)
	e.clearFragments(b)
	strut := e.metrics(b.style)
	y := Px(0)
	var open []*openBox
	for n, ln := range p.lines {
		in := Px(0)
		if n == 0 {
			in = indent
		}
		y += e.placeLine(b, p, ln, n, y, cw, in, strut, &open)
	}
	// out-of-flow boxes after the last line
	for i := range p.items {
		if it := &p.items[i]; it.kind == outItem && it.box.staticIn != b {
			it.box.staticIn, it.box.staticX, it.box.staticY = b, b.contentX(), b.contentY()+y
		}
	}
	b.contentH = y
	p.fit = e.fitOf(b, p, cw, indent)
}
