package layout

import (
	"ziegel/core/css"
)

const noNeed = Px(1 << 30)

// holds reports whether lines that stand stay as they are at another width.
func (f *fit) holds(b *Box, cw, indent Px) bool {
	return cw >= f.from && cw < f.to && indent == 0 && f.style == b.style && f.version == b.style.Version &&
		f.x == b.contentX() && f.y == b.contentY()
}

// fitOf gives the widths at which a paragraph stays as it was just placed: nothing in it depends on the width, every
// line fits, and no line has room for what begins the next one.
func (e *Engine) fitOf(b *Box, p *para, cw, indent Px) fit {
	s := b.style
	plain := s.WrapStyle != "balance" && s.WrapStyle != "pretty" || len(p.lines) <= 1
	fromLeft := !s.RTL && (s.TextAlign == "start" || s.TextAlign == "left") &&
		(s.TextAlignLast == "auto" || s.TextAlignLast == "start" || s.TextAlignLast == "left")
	slow := !plain || !fromLeft || e.cut || indent != 0 || s.LineClamp > 0
	if slow {
		return fit{}
	}
	for i := range p.items {
		switch it := &p.items[i]; it.kind {
		case atomItem, outItem, floatItem:
			return fit{}
		case openItem:
			if it.box.style.FluidEdges || it.box.style.Position != css.Static {
				return fit{}
			}
		}
	}
	from := Px(0)
	for _, ln := range p.lines {
		if ln.width > cw+textSlack {
			return fit{}
		}
		from = max(from, ln.width-textSlack)
	}
	return fit{from: from, to: e.need, height: b.contentH, first: b.first, last: b.last, baselines: b.baselines,
		x: b.contentX(), y: b.contentY(), style: s, version: s.Version}
}

// resolveEdges gives inline boxes with margins or padding in percent what these are in a container.
func (p *para) resolveEdges(cw Px) {
	for i := range p.items {
		it := &p.items[i]
		if it.kind != openItem && it.kind != closeItem || !it.box.style.FluidEdges {
			continue
		}
		k := it.box
		k.edges(cw)
		side := css.Left
		if it.kind == closeItem {
			side = css.Right
		}
		it.edge = k.padding[side] + k.border[side] + k.margin[side]
	}
}

// sizeAtoms lays out the atomic boxes of an inline subtree.
func (e *Engine) sizeAtoms(k *Box, inner space) {
	switch {
	case k.outOfFlow():
		k.staticIn = nil
	case k.sideways() != 0:
	case k.kind == inlineBox:
		k.relBaseW, k.relBaseH = inner.cbW, -1
		if inner.defCB {
			k.relBaseH = inner.cbH
		}
		if in := &k.style.Inset; in[css.Top].HasPercent() || in[css.Bottom].HasPercent() {
			e.percents++
		}
		for _, c := range e.children(k, 0) {
			e.sizeAtoms(c, inner)
		}
	case k.atomic():
		e.layout(k, space{cbW: inner.cbW, cbH: inner.cbH, defCB: inner.defCB, shrink: true})
	}
}
