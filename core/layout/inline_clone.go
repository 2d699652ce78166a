package layout

import "ziegel/core/css"

// Boxes with box-decoration-break: clone have their edges on every line (css-break-3, section 5.4). Those at the end of
// a line take no room when it is broken, and may hang over (measured).

// countClones adds up what begins a line again at each item.
func (p *para) countClones() {
	p.clones, p.cloneEnds = nil, nil
	for i := range p.items {
		it := &p.items[i]
		if it.kind != openItem || !it.box.style.CloneEdges {
			continue
		}
		if p.clones == nil {
			p.clones, p.cloneEnds = make([]Px, len(p.items)+1), make([]Px, len(p.items)+1)
		}
		break
	}
	if p.clones == nil {
		return
	}
	var begins, ends Px
	for i := range p.items {
		p.clones[i], p.cloneEnds[i] = begins, ends
		if it := &p.items[i]; it.box.style.CloneEdges {
			k := it.box
			start := k.margin[css.Left] + k.padding[css.Left] + k.border[css.Left]
			end := k.margin[css.Right] + k.padding[css.Right] + k.border[css.Right]
			switch it.kind {
			case openItem:
				begins, ends = begins+start, ends+end
			case closeItem:
				begins, ends = begins-start, ends-end
			}
		}
	}
	p.clones[len(p.items)], p.cloneEnds[len(p.items)] = begins, ends
}

// again gives the edges that boxes have again on a line that begins at c.
func (p *para) again(c cursor) Px {
	if p.clones == nil {
		return 0
	}
	return p.clones[min(c.item, len(p.items))]
}

// until gives the edges of those that go on where a line ends at c. They count for the min-content width
// alone (measured).
func (p *para) until(c cursor) Px {
	if p.cloneEnds == nil {
		return 0
	}
	return p.cloneEnds[min(c.item, len(p.items))]
}

// closeClones ends the boxes that go on to the next line, the innermost first: those that are cloned have their edges
// here, too.
func (l *lineBox) closeClones() {
	for i := len(l.open) - 1; i >= 0; i-- {
		o := l.open[i]
		o.stop = l.x
		if k := o.box; k.style.CloneEdges {
			o.stop += k.padding[css.Right] + k.border[css.Right]
			l.x = o.stop + k.margin[css.Right]
		}
	}
}
