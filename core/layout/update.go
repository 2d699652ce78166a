package layout

import "ziegel/core/css"

// update readies the boxes below b for another width: styles are asked for again, boxes whose style changed take the new one, and
// measured text stays wherever its style does. ok is false when boxes would come and go; then all below b are made anew. changed
// tells that something below may have another size.
func (e *Engine) update(b *Box, el *css.Element, st *css.Style, stack []css.Container) (ok, changed bool) {
	if b.unboxed || e.recounted && len(el.Pseudos()) > 0 || st.Display == css.ListItem && st.ListInside || !e.samePseudos(el, st, stack) {
		return false, true
	}
	kept := true // the layout of all that is in b
	for _, k := range el.Kids() {
		ks := e.styler.Style(k, st, stack)
		old := e.boxes[k.Index]
		if ks.Display == css.None || old == nil {
			if ks.Display == css.None && old == nil {
				continue
			}
			return false, true
		}
		if ks.Display == css.Contents {
			return false, true
		}
		touched, resized := false, true
		if old.style != ks || old.version != ks.Version {
			s := old.style
			if old.version != s.Version || s.Display != ks.Display || s.Position != ks.Position || old.unboxed { // the old style may be gone
				return false, true
			}
			resized = resized && old.kind == inlineBox && old.style.Inherited.SameFace(ks.Inherited) && sameEdges(old.style, ks)
			e.restyle(old, ks)
			touched = true
		}
		old.stack = stack
		if w, h, ratio, kept := e.keptNature(old); !kept {
			e.nature[k.Index] = &[3]float64{w, h, ratio}
			touched, resized = true, false
		}
		if old.built && !old.sizeContainer() && old.kind != replacedBox {
			good, ch := e.update(old, k, ks, stack)
			if !good {
				return false, true
			}
			touched = touched || ch
		}
		if touched || old.sizeContainer() { // what is in a container is readied when its size is known
			old.valid = false
		}
		kept = kept && old.valid
		if touched {
			changed, old.sized = true, false
			for p := old.parent; p != nil; p = p.parent {
				p.sized = false
				if old.inlineLevel() && p.para != nil {
					p.rescale(resized)
				}
				if p.el != nil {
					break
				}
			}
		}
	}
	if !kept {
		b.valid = false
		e.invalidate(b)
	}
	return true, changed
}

// keptNature reports whether an img that chooses its file by the width still shows one of the same size, else it gives the new one.
func (e *Engine) keptNature(b *Box) (w, h, ratio float64, kept bool) {
	old := e.nature[b.el.Index]
	if old == nil || b.el.Tag != "img" || !choosesPicture(b.el) {
		return 0, 0, 0, true
	}
	w, h, ratio = e.readNature(b)
	return w, h, ratio, *old == [3]float64{w, h, ratio}
}

// sameEdges reports whether two styles have the same inline-axis margins, borders and padding.
func sameEdges(a, b *css.Style) bool {
	return a.Margin == b.Margin && a.Padding == b.Padding && a.BorderWidth == b.BorderWidth && a.BorderStyle == b.BorderStyle && a.VerticalAlign == b.VerticalAlign
}

// restyle gives a box and its bare text another computed style.
func (e *Engine) restyle(b *Box, st *css.Style) {
	old := b.style
	b.style, b.version = st, st.Version
	item := b.item
	kind, display := b.kind, b.display
	b.bfc = false
	b.setKind()
	b.kind, b.display = kind, display
	b.bfc = b.bfc || item
	e.invalidate(b)
	resize := old.Inherited.SameFace(st.Inherited)
	if old.Inherited != st.Inherited {
		b.sized = false
		b.rescale(resize)
	}
	for _, k := range b.kids {
		switch {
		case k.kind == textBox:
			k.style = st
		case k.el == nil && k.pseudo == "":
			k.style = e.styler.Anonymous(st, css.Block)
			if old.Inherited != st.Inherited {
				k.sized = false
				k.rescale(resize)
			}
			for _, t := range k.kids {
				if t.kind == textBox {
					t.style = st
				}
			}
		}
	}
}

// rescale keeps the shaped text of a box for another size where only that has changed, else drops it.
func (b *Box) rescale(only bool) {
	if b.para != nil && only && b.para.resizable() {
		b.para.stale = true
	} else {
		b.para = nil
	}
}

// invalidate marks the anonymous boxes directly below as not laid out.
func (e *Engine) invalidate(b *Box) {
	for _, k := range b.kids {
		if k.el == nil {
			k.valid = false
			e.invalidate(k)
		}
	}
}

// samePseudos reports whether the generated boxes of an element can stay as they are.
func (e *Engine) samePseudos(el *css.Element, st *css.Style, stack []css.Container) bool {
	for _, name := range el.Pseudos() {
		switch name {
		case "before", "after":
			ps := e.styler.Pseudo(el, name, st, stack)
			if ps != nil && (!ps.HasContent || ps.Display == css.None) {
				ps = nil
			}
			had, ok := e.pseudos[pseudoKey{el, name}]
			if ok != (ps != nil) || ok && had != ps.Version {
				return false
			}
		}
	}
	return true
}
