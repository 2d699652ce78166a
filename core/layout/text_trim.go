package layout

import "ziegel/core/css"

// ownTrim gives what a box trims by its own style.
func ownTrim(s *css.Style) trim {
	switch s.TextTrim {
	case "trim-start":
		return trim{start: true}
	case "trim-end":
		return trim{end: true}
	case "trim-both":
		return trim{true, true}
	}
	return trim{}
}

// trims gives what is trimmed of the lines of b: by its own style, and by that of the boxes around it.
func (b *Box) trims() trim {
	if b.el == nil { // an anonymous box has no style of its own
		return b.handed
	}
	if b.el.Tag == "fieldset" { // its content is a box of its own (measured)
		return trim{}
	}
	t := ownTrim(b.style)
	return trim{t.start || b.handed.start, t.end || b.handed.end}
}

// handTrims hands what b trims to the first and the last of the blocks in it. Padding or a border between keeps lines
// as they are; a flex or grid container and a table have no lines of their own. An empty first block takes it, too
// (measured).
func (e *Engine) handTrims(b *Box) {
	t := b.trims()
	var first, last *Box
	for _, k := range b.kids {
		if k.outOfFlow() || k.legend || k.sideways() != 0 {
			continue
		}
		if first == nil {
			first = k
		}
		last = k
	}
	for _, k := range b.kids {
		var h trim
		if k.kind == blockBox && t != (trim{}) {
			s := k.style
			h.start = t.start && k == first && s.Padding[css.Top] == css.Zero && s.BorderPx(css.Top) == 0
			h.end = t.end && k == last && s.Padding[css.Bottom] == css.Zero && s.BorderPx(css.Bottom) == 0
		}
		if k.handed != h {
			k.handed, k.valid = h, false
			if k.para != nil {
				k.para.fit = fit{}
			}
		}
	}
}
