package layout

import "ziegel/core/css"

// update readies the boxes below b for another width: styles are asked for again, boxes whose style changed take the
// new one, and measured text stays wherever its style does. ok is false when boxes would come and go; then all below
// b are made anew. changed tells that something below may have another size.
func (e *Engine) update(b *Box, el *css.Element, st *css.Style, stack []css.Container) (ok, changed bool) {
	renewed := b.unboxed || e.recounted && len(el.Pseudos()) > 0 || st.Display == css.ListItem && st.ListInside
	if renewed {
		return false, true
	}
	ok, changed = e.updatePseudos(el, st, stack)
	if !ok {
		return false, true
	}
	kept := !changed // the layout of all that is in b
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
			// the old style may be gone
			otherBox := old.version != s.Version || s.Display != ks.Display || s.Position != ks.Position ||
				s.Float != ks.Float || s.Mode != ks.Mode ||
				old.unboxed
			if otherBox {
				return false, true
			}
			resized = resized && old.kind == inlineBox && old.style.Inherited.SameFace(ks.Inherited) &&
				sameEdges(old.style, ks)
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
			changed = true
			old.resize(resized)
		}
	}
	if el.HasPseudo(firstLetter) {
		fits, other := e.updateLetter(el, stack)
		if !fits {
			return false, true
		}
		kept, changed = kept && !other, changed || other
	}
	if !kept {
		b.valid = false
		e.invalidate(b)
	}
	return true, changed
}

// sameEdges reports whether two styles have the same inline-axis margins, borders and padding.
func sameEdges(a, b *css.Style) bool {
	return a.Margin == b.Margin && a.Padding == b.Padding && a.BorderWidth == b.BorderWidth &&
		a.BorderStyle == b.BorderStyle && a.VerticalAlign == b.VerticalAlign
}

// restyle gives a box and its bare text another computed style.
func (e *Engine) restyle(b *Box, st *css.Style) {
	old := b.style
	e.floating = e.floating || st.Float != 0
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
			e.restyleAnonymous(k, st, old.Inherited != st.Inherited, resize)
		}
	}
}

// restyleAnonymous gives an anonymous box, and those in it, what it inherits of an element whose style has changed.
func (e *Engine) restyleAnonymous(k *Box, st *css.Style, changed, resize bool) {
	if k.turned {
		k.style = innerStyle(st)
	} else {
		k.style = e.styler.Anonymous(st, k.style.Display)
	}
	if changed {
		k.sized = false
		k.rescale(resize)
	}
	for _, t := range k.kids {
		switch {
		case t.kind == textBox:
			t.style = st
		case t.el == nil && t.pseudo == "":
			e.restyleAnonymous(t, st, changed, resize)
		}
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

// updatePseudos gives the generated boxes of an element their styles. ok is false when they cannot stay; changed
// tells that one may have another size.
func (e *Engine) updatePseudos(el *css.Element, st *css.Style, stack []css.Container) (ok, changed bool) {
	for _, name := range el.Pseudos() {
		if name != "before" && name != "after" {
			continue
		}
		ps := e.styler.Pseudo(el, name, st, stack)
		if ps != nil && (!ps.HasContent || ps.Display == css.None) {
			ps = nil
		}
		old := e.pseudos[pseudoKey{el, name}]
		switch {
		case ps == nil && old == nil || ps != nil && old != nil && old.style == ps && old.version == ps.Version:
			continue
		case ps == nil || old == nil || old.parent == nil:
			return false, true
		}
		s := old.style
		// the old style may be gone
		otherBox := old.version != s.Version || s.Display != ps.Display || s.Position != ps.Position ||
			s.Float != ps.Float ||
			s.Content != ps.Content || old.unboxed
		if otherBox {
			return false, true
		}
		resized := old.kind == inlineBox && s.Inherited.SameFace(ps.Inherited) && sameEdges(s, ps)
		e.restyle(old, ps)
		old.valid = false
		old.resize(resized)
		changed = true
	}
	return true, changed
}

// updateLetter gives the first letter of an element its style at another width. ok is false when its box cannot stay.
func (e *Engine) updateLetter(el *css.Element, stack []css.Container) (ok, changed bool) {
	f := e.pseudos[pseudoKey{el, firstLetter}]
	if f == nil {
		return true, false
	}
	st := e.styler.Pseudo(el, firstLetter, f.letterOf.style, stack)
	if f.style == st && f.version == st.Version {
		return true, false
	}
	s := f.style
	if f.version != s.Version || s.Float != st.Float { // the old style may be gone
		return false, true
	}
	resized := f.kind == inlineBox && s.Inherited.SameFace(st.Inherited) && sameEdges(s, st)
	e.restyle(f, st)
	f.valid = false
	f.resize(resized)
	return true, true
}
