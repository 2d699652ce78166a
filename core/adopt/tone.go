package adopt

import "ziegel/core/css"

// tone says on which ground a band stands, seen from the page's own.
func (r *reader) tone(b *Band) string {
	under, ok := r.under(b)
	if !ok {
		return ""
	}
	page := css.Color{R: 1, G: 1, B: 1, A: 1}
	for at := b.elements[0]; at != nil; at = at.Parent {
		if at.Tag == "body" || at.Tag == "html" {
			if c, ok := r.color(at, "background-color"); ok {
				page = c
				break
			}
		}
	}
	switch {
	case distance(under, page) < .02:
		return ""
	case chroma(under) > .3 && luminance(under) < .7:
		return "accent"
	case luminance(under) < .25 && luminance(page) > .4:
		return "deep"
	}
	return "tinted"
}

// under gives the color that a band stands on, over most of the width.
func (r *reader) under(b *Band) (css.Color, bool) {
	for at := b.elements[0]; at != nil && at.Tag != "body" && at.Tag != "html"; at = at.Parent {
		if c, ok := r.color(at, "background-color"); ok && c.A > .9 && r.at(at).W > Width*64*8/10 {
			return c, true
		}
	}
	for _, e := range b.elements {
		for _, k := range e.Kids() {
			box := r.at(k)
			if c, ok := r.color(k, "background-color"); ok && c.A > .9 && box.W > Width*64*8/10 &&
				box.H*10 > b.Where.H*7 {
				return c, true
			}
		}
	}
	return css.Color{}, false
}
