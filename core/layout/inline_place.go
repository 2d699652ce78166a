package layout

import (
	"slices"

	"ziegel/core/css"
)

// place places the next line, n at y, and returns its height.
func (l *lineBox) place(ln line, n int, y, indent Px, strut metrics) Px {
	l.ln, l.n, l.isLast, l.y, l.indent = ln, n, l.last || !l.piecewise && n == len(l.p.lines)-1, y, indent
	l.x, l.hang, l.spaces, l.above, l.below = 0, 0, 0, strut.above, strut.below
	l.strut = strut
	if marked := n == 0 && l.b.marked(); l.bare() && !marked {
		l.above, l.below = -noNeed, -noNeed
	}
	if n == 0 && l.b.marked() && !l.b.style.ListInside {
		l.above = max(l.above, l.e.markerRoom(l.b))
	}
	l.pieces, l.groups, l.late = l.pieces[:0], l.groups[:0], l.late[:0]
	l.goOn()
	for i := ln.start.item; i < len(l.p.items); i++ {
		it := &l.p.items[i]
		if i > ln.end.item || i == ln.end.item && (it.kind != textItem || ln.end.rune <= it.start) {
			break
		}
		switch it.kind {
		case openItem:
			l.openBox(it)
		case closeItem:
			l.closeBox(it)
		case textItem:
			l.text(it, i)
		case atomItem:
			l.atom(it)
		case breakItem:
			l.textIn()
			l.pieces = append(l.pieces, piece{it: it, x: l.x, box: last(l.open)})
		case outItem:
			l.pieces = append(l.pieces, piece{it: it, x: l.x})
		}
	}
	if l.above == -noNeed { // nothing on it has a height
		l.above, l.below = 0, 0
	}
	l.closeClones()
	l.standAligned()
	l.height = l.above + l.below
	var cut Px
	if n == 0 && l.trims.start {
		cut = l.above - strut.over
		l.y -= cut
	}
	end := l.height - cut // where the next line begins
	if l.isLast && l.trims.end {
		l.p.trimmed = l.below - strut.under
		end -= l.p.trimmed
	}
	if ln.forced || l.isLast {
		l.hang = min(l.hang, max(0, l.x-(l.cw-indent)))
	}
	if l.trial {
		return end
	}
	l.align()
	l.p.ordered(false)
	l.reorder()
	l.commit()
	base := l.b.contentY() + l.y + l.above
	if !l.b.baselines {
		l.b.first = base
	}
	l.b.last, l.b.baselines = base, true
	return end
}

// goOn begins a line with the inline boxes that are still open.
func (l *lineBox) goOn() {
	for _, o := range l.open {
		o.x, o.spaces, o.turned = l.x, 0, false
		if o.group != nil && (len(l.groups) == 0 || l.groups[len(l.groups)-1] != o.group) {
			o.group.above, o.group.below, o.group.atoms = 0, 0, nil
			l.groups = append(l.groups, o.group)
		}
		o.shift -= o.grouped
		o.grouped = 0
		if o.box.style.CloneEdges {
			o.x = l.x + o.box.margin[css.Left]
			l.x = o.x + o.box.padding[css.Left] + o.box.border[css.Left]
		}
		if !l.bare() {
			l.grow(o, o.m.above-o.shift, o.m.below+o.shift)
		}
	}
	l.boxes = append(l.boxes[:0], l.open...)
}

// bare reports that boxes without text make no line higher: in old documents (Quirks Mode, section 3.3).
func (l *lineBox) bare() bool { return l.e.doc.Quirks || l.e.doc.Limited }

// textIn makes room for text in the innermost open box.
func (l *lineBox) textIn() {
	if !l.bare() {
		return
	}
	if o := last(l.open); o != nil {
		l.grow(o, o.m.above-o.shift, o.m.below+o.shift)
	} else {
		l.grow(nil, l.strut.above, l.strut.below)
	}
}

// grow makes room above and below the baseline, in the group of an inline box when that is aligned by itself.
func (l *lineBox) grow(in *openBox, above, below Px) {
	if in != nil && in.group != nil {
		in.group.above, in.group.below = max(in.group.above, above), max(in.group.below, below)
		return
	}
	l.above, l.below = max(l.above, above), max(l.below, below)
}

func (l *lineBox) openBox(it *item) {
	style := it.box.style
	o := &openBox{box: it.box, m: l.e.metrics(style), x: l.x + it.box.margin[css.Left], spaces: l.spaces}
	o.shift = l.e.shiftOf(l.b, l.open, style, o.m)
	if in := last(l.open); in != nil {
		o.group = in.group
	}
	if v := style.VerticalAlign; v == "top" || v == "bottom" {
		o.group, o.shift = &alignedGroup{bottom: v == "bottom"}, 0
		l.groups = append(l.groups, o.group)
	}
	if o.group != nil {
		o.group.boxes = append(o.group.boxes, o)
	}
	l.open, l.boxes = append(l.open, o), append(l.boxes, o)
	if !l.bare() || it.edged() {
		l.grow(o, o.m.above-o.shift, o.m.below+o.shift)
	}
	l.x += it.edge
}

func (l *lineBox) closeBox(it *item) {
	if o := last(l.open); o != nil {
		l.open = l.open[:len(l.open)-1]
		l.pieces = append(l.pieces, piece{it: it, box: o, x: o.x, w: l.x + it.edge - it.box.margin[css.Right] - o.x})
	}
	l.x += it.edge
}

// text places what the line has of an item of text, item i.
func (l *lineBox) text(it *item, i int) {
	p, ln, style := l.p, l.ln, it.box.style
	from, to := max(it.start, ln.start.rune), it.end
	if i == ln.end.item {
		to = min(to, ln.end.rune)
	}
	end := to
	if t := p.trimEnd(from, to); t < to && p.endsLine(i, to, ln) {
		end = t
	}
	hangs := end < to && style.Collapse == "preserve" // they stay in the inline box, beyond the line
	if end <= from && !hangs {
		return
	}
	l.textIn()
	w := p.width(from, end)
	if hangs {
		l.hang += p.width(from, to) - w
	}
	if end < to || p.endsLine(i, to, ln) {
		w = p.broken(from, end)
	}
	if from == ln.start.rune && i == ln.start.item {
		w += p.leadAt(ln.start)
	}
	if to == ln.end.rune && i == ln.end.item {
		w += ln.hyphen
	}
	for _, r := range p.text[from:end] {
		if r == ' ' {
			l.spaces++
		}
	}
	if style.LineHeight.Normal { // fonts that stand in for letters reach as far as they do
		shift := l.e.currentShift(l.open)
		for _, f := range l.e.usedFaces(p, style, from, end) {
			m := lineMetrics(f, style)
			l.grow(last(l.open), m.above-shift, m.below+shift)
		}
	}
	if hangs {
		w = p.width(from, to)
	}
	l.pieces = append(l.pieces, piece{it: it, x: l.x, w: w, i: from, j: end, box: last(l.open)})
	l.x += w
}

func (l *lineBox) atom(it *item) {
	k, in := it.box, last(l.open)
	up, down := l.e.atomExtent(k)
	if v := k.style.VerticalAlign; v == "top" || v == "bottom" {
		l.late = append(l.late, aligned{box: k, above: up + down, bottom: v == "bottom"})
	} else {
		k.Y = l.e.currentShift(l.open) + l.e.atomShift(l.b, l.open, k, up, down) // commit makes a position of it
		if !k.sign {                                                             // one makes no line higher (measured)
			l.grow(in, up-k.Y, down+k.Y)
		}
		if in != nil && in.group != nil {
			in.group.atoms = append(in.group.atoms, k)
		}
	}
	l.pieces = append(l.pieces, piece{it: it, x: l.x, w: k.W, box: in})
	l.x += k.W + k.margin[css.Left] + k.margin[css.Right]
}

// standAligned makes room for what stands at the top or the bottom of the line, and puts groups there.
func (l *lineBox) standAligned() {
	room := func(bottom bool, height Px) {
		if bottom {
			l.above = max(l.above, height-l.below)
		} else {
			l.below = max(l.below, height-l.above)
		}
	}
	for _, a := range l.late {
		room(a.bottom, a.above)
	}
	for _, g := range l.groups {
		room(g.bottom, g.above+g.below)
	}
	for _, g := range l.groups {
		by := g.above - l.above
		if g.bottom {
			by = l.below - g.below
		}
		for _, o := range g.boxes {
			o.shift, o.grouped = o.shift+by, by
		}
		for _, k := range g.atoms {
			k.Y += by
		}
	}
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
		case openItem:
			if empty := j+1 < len(p.items) && p.items[j+1].kind == closeItem; it.edged() && !empty {
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

// align sets the line's start, and for justified lines the width to spread over its spaces.
func (l *lineBox) align() {
	l.offset, l.stretch = l.indent+l.left, 0
	free := l.cw - l.indent - (l.x - l.hang)
	if free <= 0 {
		return
	}
	align := l.b.textAlign()
	if ends := l.isLast || l.ln.forced; ends {
		if align == "justify" {
			align = "start"
		}
		if own := l.b.style.TextAlignLast; own != "auto" {
			align = own
			if l.b.rtl() && (own == "left" || own == "right") {
				align = map[string]string{"left": "end", "right": "start"}[own]
			}
		}
	}
	switch align {
	case "center", "-webkit-center":
		l.offset += free / 2
	case "right", "end", "-webkit-right":
		l.offset += free
	case "justify":
		if l.spaces > 0 {
			l.stretch = free
		}
	}
}

// spread is what of the stretch lies before a piece that has so many spaces before it.
func (l *lineBox) spread(spaces int) Px {
	if l.spaces == 0 || l.stretch == 0 {
		return 0
	}
	return Px(int64(l.stretch) * int64(spaces) / int64(l.spaces))
}

// commit writes the final places of a line's pieces into their boxes.
func (l *lineBox) commit() {
	left, top := l.b.contentX()+l.offset, l.b.contentY()+l.y
	base := top + l.above
	seen := 0 // spaces before, for justified lines
	for _, pc := range l.pieces {
		k := pc.it.box
		shift := Px(0)
		if pc.box != nil {
			shift = pc.box.shift
		}
		switch pc.it.kind {
		case textItem:
			before := l.spread(seen)
			for _, r := range l.p.text[pc.i:max(pc.i, pc.j)] {
				if r == ' ' {
					seen++
				}
			}
			m := l.e.metrics(k.style)
			ends := pc.j == l.ln.end.rune
			run := textRun{rect: Rect{left + pc.x + before, base + shift - m.asc,
				pc.w + l.spread(seen) - before, m.asc + m.desc}, line: l.n, cut: l.ln.cut && ends,
				hyphen: ends && l.ln.hyphen > 0, from: int32(pc.i), to: int32(pc.j)}
			run.rtl = l.p.runsLeft(pc.i)
			if l.stretch > 0 && l.spaces > 0 {
				run.gap = float32(l.stretch) / float32(l.spaces) / 64
			}
			k.runs = append(k.runs, run)
		case atomItem:
			up, _ := l.e.atomExtent(k)
			k.origin = l.b
			k.X = left + pc.x + k.margin[css.Left] + l.spread(seen)
			switch k.style.VerticalAlign {
			case "top":
				k.Y = top + k.margin[css.Top]
			case "bottom":
				k.Y = top + l.height - k.H - k.margin[css.Bottom]
			default:
				k.Y = base + k.Y - up + k.margin[css.Top]
			}
		case breakItem:
			m := l.e.metrics(k.style)
			k.fragments = append(k.fragments, Rect{left + pc.x, base + shift - m.asc, 0, m.asc + m.desc})
		case outItem:
			k.staticIn, k.staticX, k.staticY = l.b, left+pc.x, top
			outer := k.style.Outer
			blockLevel := outer != css.Inline && outer < css.InlineBlock || outer == css.Flex || outer == css.Grid
			if blockLevel { // below the preceding line
				k.staticX = l.b.contentX()
				if pc.x > 0 {
					k.staticY = top + l.height
				}
			}
		case closeItem:
			before, until := l.spread(pc.box.spaces), seen
			if pc.box.turned {
				until = pc.box.until
			}
			pc.box.fragment(left+pc.x+before, base, pc.w+l.spread(until)-before)
		}
	}
	for _, o := range l.boxes { // boxes that go on to the next line
		if slices.Contains(l.open, o) {
			before, end, until := l.spread(o.spaces), o.stop, seen
			if o.turned {
				end, until = o.end, o.until
			}
			o.fragment(left+o.x+before, base, end-o.x+l.spread(until)-before)
		}
	}
}

// fragment adds one line's piece of an inline box.
func (o *openBox) fragment(x, base, w Px) {
	k := o.box
	top := k.border[css.Top] + k.padding[css.Top]
	over, under := o.m.asc, o.m.desc
	if t := ownTrim(k.style); t != (trim{}) {
		if t.start {
			over = o.m.over
		}
		if t.end {
			under = o.m.under
		}
	}
	k.fragments = append(k.fragments, Rect{x, base + o.shift - over - top, w,
		over + under + top + k.padding[css.Bottom] + k.border[css.Bottom]})
}
