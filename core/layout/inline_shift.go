package layout

import (
	"ziegel/core/css"
	"ziegel/core/font"
)

func (e *Engine) currentShift(open []*openBox) Px {
	if o := last(open); o != nil {
		return o.shift
	}
	return 0
}

// downIn is 1 where letters stand with their feet towards the next line, else -1.
func downIn(s *css.Style) Px {
	if s.Mode == css.VerticalLR {
		return -1
	}
	return 1
}

// shiftOf gives how far down the baseline of an inline box sits from the line's.
func (e *Engine) shiftOf(b *Box, open []*openBox, s *css.Style, m metrics) Px {
	parent := e.parentMetrics(b, open)
	base := e.currentShift(open)
	parentSize := b.style.FontSize
	if o := last(open); o != nil {
		parentSize = o.box.style.FontSize
	}
	switch s.VerticalAlign {
	case "sub":
		return base + downIn(s)*css.FromFloat(parentSize/5+1)
	case "super":
		return base - downIn(s)*css.FromFloat(parentSize/3+1)
	case "middle":
		mid := base - parent.xHeight/2
		return mid + (m.above-m.below)/2
	case "-webkit-baseline-middle":
		return base + (m.above-m.below)/2
	case "text-top":
		return base - parent.asc + m.above
	case "text-bottom":
		return base + parent.desc - m.below
	case "":
		return base - downIn(s)*s.VerticalLength.Resolve(e.usedLineHeight(s))
	}
	return base
}

func (e *Engine) parentMetrics(b *Box, open []*openBox) metrics {
	if o := last(open); o != nil {
		return o.m
	}
	return e.metrics(b.style)
}

// atomExtent gives how far an atomic box reaches above and below its baseline, margins included.
func (e *Engine) atomExtent(k *Box) (above, below Px) {
	total := k.H + k.margin[css.Top] + k.margin[css.Bottom]
	base, ok := e.atomBaseline(k)
	if !ok {
		if k.parent != nil && k.parent.style.Mode.Central() {
			return total / 2, total - total/2
		}
		return total, 0
	}
	return k.margin[css.Top] + base, total - k.margin[css.Top] - base
}

// areaScrolls reports a text area that can scroll: a table and one that only clips cannot (measured).
func areaScrolls(k *Box) bool { return k.style.OverflowY != "clip" && !k.style.Unscrolled }

// atomBaseline gives how far below its upper edge an atomic box has its baseline, if it has one.
func (e *Engine) atomBaseline(k *Box) (Px, bool) {
	if k.kind == replacedBox || !k.baselines {
		if k.kind == replacedBox && k.el.Tag == "textarea" {
			return k.first, k.baselines && !areaScrolls(k)
		}
		if k.kind == replacedBox && k.el.Tag == "select" && e.listed(k) { // it scrolls
			return 0, false
		}
		if k.kind == replacedBox && k.el.Tag == "progress" && k.el.HasPseudo("before") {
			if st := e.styler.Pseudo(k.el, "before", k.style, k.stack); st != nil && st.HasContent &&
				st.Float == 0 && !positioned(st) {
				return k.contentY() + e.metrics(st).above, true // (measured)
			}
		}
		if k.kind == replacedBox && k.baselines {
			return k.last, true
		}
		if k.el != nil && k.el.Tag == "button" { // an empty one: the lower edge of its content
			return k.H - k.padding[css.Bottom] - k.border[css.Bottom], true
		}
		return 0, false
	}
	if k.kind == flexBox || k.kind == gridBox || k.kind == tableBox {
		return k.first, true
	}
	if k.noLast {
		return 0, false
	}
	if o := k.style.OverflowY; o != "visible" && o != "clip" && !(k.el != nil && k.el.Tag == "button") {
		return 0, false
	}
	return k.last, true
}

func (e *Engine) atomShift(b *Box, open []*openBox, k *Box, up, down Px) Px {
	parent := e.parentMetrics(b, open)
	size := b.style.FontSize
	if o := last(open); o != nil {
		size = o.box.style.FontSize
	}
	switch k.style.VerticalAlign {
	case "middle":
		return -parent.xHeight/2 + (up-down)/2
	case "-webkit-baseline-middle":
		return (up - down) / 2
	case "sub":
		return downIn(k.style) * css.FromFloat(size/5+1)
	case "super":
		return -downIn(k.style) * css.FromFloat(size/3+1)
	case "text-top":
		return -parent.asc + up
	case "text-bottom":
		return parent.desc - down
	case "":
		return -downIn(k.style) * k.style.VerticalLength.Resolve(e.usedLineHeight(k.style))
	}
	return 0
}

func (e *Engine) usedFaces(p *para, s *css.Style, i, j int) []*font.Face {
	faces := e.fonts.Find(WantOf(s))
	var out []*font.Face
	for ; i < j; i++ {
		f := faceFor(faces, p.text[i])
		seen := f == nil || len(faces) > 0 && f == faces[0]
		for _, o := range out {
			seen = seen || o == f
		}
		if !seen {
			out = append(out, f)
		}
	}
	return out
}

func last(open []*openBox) *openBox {
	if len(open) == 0 {
		return nil
	}
	return open[len(open)-1]
}

func (e *Engine) clearFragments(b *Box) {
	var walk func(k *Box)
	walk = func(k *Box) {
		k.fragments, k.runs = k.fragments[:0], k.runs[:0]
		k.origin = b
		if k.kind == inlineBox {
			for _, c := range k.kids {
				walk(c)
			}
		}
	}
	for _, k := range b.kids {
		if k.inlineLevel() && !k.outOfFlow() {
			walk(k)
		}
	}
}
