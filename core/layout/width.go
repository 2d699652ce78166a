package layout

import "ziegel/core/css"

// usedWidth gives the border-box width.
func (e *Engine) usedWidth(b *Box, sp space) Px {
	if b.kind == tableBox { // never narrower than what its columns hold
		lo, _ := e.intrinsic(b)
		if sp.hasW {
			return max(sp.forceW, lo)
		}
		sp.shrink = true
		if b.style.Width.IsAuto() && b.style.MinW.Kind != css.LenMinContent && b.hollow {
			b.edges(sp.cbW)
			// though it asks for the room between its columns (measured)
			lo = max(b.inlineEdges(), b.captions)
			return max(lo, e.clampW(b, lo, sp.cbW, true))
		}
		return max(lo, e.askedWidth(b, sp))
	}
	if sp.hasW {
		return sp.forceW
	}
	return e.askedWidth(b, sp)
}
