package layout

import (
	"slices"

	"golang.org/x/text/unicode/bidi"

	"ziegel/core/css"
)

// Text of two directions on a line is put in the order in which it is seen (the Unicode Bidirectional Algorithm, UAX
// #9). Pieces of a line are reordered, those of text broken where the direction changes.

// ordered reports a paragraph whose order may differ from that of its text: something in it runs against the lines.
func (p *para) ordered(rtl bool) bool {
	if p.order == 0 {
		p.order = 1
		for _, r := range p.text {
			switch c, _ := bidi.LookupRune(r); c.Class() {
			case bidi.R, bidi.AL, bidi.RLE, bidi.RLO, bidi.RLI, bidi.FSI:
				p.order |= 2
			case bidi.L, bidi.EN, bidi.AN, bidi.LRE, bidi.LRO, bidi.LRI:
				p.order |= 4
			}
		}
		if len(p.isolates()) > 0 {
			p.order |= 8
		}
	}
	if p.order&8 != 0 || p.overridden() {
		return true
	}
	if rtl {
		return p.order&4 != 0
	}
	return p.order&2 != 0
}

// visual is a piece with the run that it is in.
type visual struct {
	piece
	run int
}

// reorder puts the pieces of the line in the order in which they are seen.
func (l *lineBox) reorder() {
	p := l.p
	rtl := l.b.rtl()
	if len(l.pieces) == 0 || !p.ordered(rtl) {
		return
	}
	from, to := len(p.text), 0
	for i := range l.pieces {
		switch pc := &l.pieces[i]; pc.it.kind {
		case textItem:
			from, to = min(from, pc.i), max(to, pc.j)
		case atomItem:
			from, to = min(from, pc.it.start), max(to, pc.it.end)
		}
	}
	if from >= to {
		return
	}
	runs := p.runsOf(from, to, rtl)
	if len(runs) < 2 && (len(runs) == 0 || !runs[0].against) {
		return
	}
	list, rest := l.visuals(runs)
	slices.SortStableFunc(list, func(a, b visual) int { return a.run - b.run })
	for i := 0; i < len(list); {
		j := i
		for j < len(list) && list[j].run == list[i].run {
			j++
		}
		if runs[list[i].run].against {
			slices.Reverse(list[i:j])
		}
		i = j
	}
	x := Px(0)
	l.pieces = l.pieces[:0]
	edges := l.edgesIn(list)
	for i, v := range list {
		x += edges[i][0]
		v.x = x
		x += v.w + edges[i][1]
		if v.it.kind == atomItem {
			x += v.it.box.margin[css.Left] + v.it.box.margin[css.Right]
		}
		l.pieces = append(l.pieces, v.piece)
	}
	l.enclose(rest)
}

// visuals breaks the text of the line where runs end. The rest are pieces without a width of their own: ends of inline
// boxes, breaks.
func (l *lineBox) visuals(runs []bidiRun) (list []visual, rest []piece) {
	for _, pc := range l.pieces {
		if pc.it.kind != textItem && pc.it.kind != atomItem {
			rest = append(rest, pc)
			continue
		}
		i, j := pc.i, pc.j
		if pc.it.kind == atomItem {
			i, j = pc.it.start, pc.it.end
		}
		left, last := pc.w, -1
		for k := range runs {
			a, z := max(i, runs[k].from), min(j, runs[k].to)
			if a >= z {
				continue
			}
			part := pc
			if pc.it.kind == textItem {
				part.i, part.j, part.w = a, z, l.p.width(a, z)
			}
			left -= part.w
			if pc.it.kind == textItem &&
				// letters are not kerned with those that run the other way
				(z < j || z == runs[k].to && len(runs) > 1) {
				part.w = l.p.broken(a, z)
			}
			last = len(list)
			list = append(list, visual{part, k})
		}
		if last >= 0 && left != 0 {
			list[last].w += left
		}
	}
	return list, rest
}

// edgesIn gives the edges of inline boxes before and after each of the pieces: a box begins before what is seen first
// of it, and ends after what is seen last.
func (l *lineBox) edgesIn(list []visual) [][2]Px {
	out := make([][2]Px, len(list))
	for i := l.ln.start.item; i < min(len(l.p.items), l.ln.end.item); i++ {
		it := &l.p.items[i]
		if !it.edged() {
			continue
		}
		first, last := -1, -1
		for k := range list {
			if within(list[k].it.box, it.box) {
				if last = k; first < 0 {
					first = k
				}
			}
		}
		switch {
		case first < 0:
		case it.kind == openItem:
			out[first][0] += it.edge
		default:
			out[last][1] += it.edge
		}
	}
	return out
}

// enclose gives inline boxes the extent of what stands in them now.
func (l *lineBox) enclose(rest []piece) {
	extent := func(o *openBox) (x0, x1 Px, ok bool) {
		k, spaces := o.box, 0
		for i := range l.pieces {
			pc := &l.pieces[i]
			before := spaces
			if pc.it.kind == textItem {
				for _, r := range l.p.text[pc.i:max(pc.i, pc.j)] {
					spaces += bit(r == ' ')
				}
			}
			if pc.it.kind != textItem && pc.it.kind != atomItem || !within(pc.it.box, k) {
				continue
			}
			z := pc.x + pc.w
			if pc.it.kind == atomItem {
				z += pc.it.box.margin[css.Left] + pc.it.box.margin[css.Right]
			}
			if !ok || pc.x < x0 {
				x0, o.spaces = pc.x, before
			}
			if !ok || z > x1 {
				x1, o.until = z, spaces
			}
			ok = true
		}
		o.turned = o.turned || ok
		return x0, x1, ok
	}
	for _, pc := range rest {
		if pc.it.kind == closeItem && pc.box != nil {
			k := pc.box.box
			if x0, x1, ok := extent(pc.box); ok {
				lead := l.leadOf(k)
				pc.x = x0 - lead
				pc.w = x1 - x0 + lead + k.padding[css.Right] + k.border[css.Right]
				pc.box.x = pc.x
			}
		}
		l.pieces = append(l.pieces, pc)
	}
	for _, o := range l.open {
		if x0, x1, ok := extent(o); ok {
			o.x, o.end = x0-l.leadOf(o.box), x1
		}
	}
}

// leadOf is what stands before the text of an inline box that begins on the line, nothing when it goes on.
func (l *lineBox) leadOf(k *Box) Px {
	for i := l.ln.start.item; i < min(len(l.p.items), l.ln.end.item); i++ {
		if it := &l.p.items[i]; it.kind == openItem && it.box == k {
			return k.padding[css.Left] + k.border[css.Left]
		}
	}
	return 0
}

// within reports whether a box stands in an inline box.
func within(k, in *Box) bool {
	for ; k != nil; k = k.parent {
		if k == in {
			return true
		}
	}
	return false
}
