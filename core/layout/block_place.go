package layout

import "ziegel/core/css"

// blockX gives the left edge of an in-flow block in its containing block, auto margins resolved.
func (e *Engine) blockX(k *Box, cw Px, parent *Box) Px {
	free := cw - k.W - k.margin[css.Left] - k.margin[css.Right]
	switch {
	case e.floats.floatSpace != nil && k.floatX != noFloatX && (k.kind != blockBox || k.bfc):
		return k.floatX
	case k.autoMargin[css.Left] && k.autoMargin[css.Right]:
		return max(0, free/2)
	case k.autoMargin[css.Left]:
		return max(0, free)
	}
	if a := k.selfAligned(parent); a != "" && !k.autoMargin[css.Right] {
		return k.margin[css.Left] + alignIn(a, free, false, false)
	}
	if free > 0 && !k.autoMargin[css.Right] {
		switch parent.style.TextAlign {
		case "-webkit-center":
			return k.margin[css.Left] + free/2
		case "-webkit-right":
			return k.margin[css.Left] + free
		}
	}
	return k.margin[css.Left]
}

// noFloatX says that floats do not say where a box begins.
const noFloatX = Px(-1 << 30)
