package layout

import (
	"math"

	"ziegel/core/css"
)

func gapOf(l css.Len, base Px, def bool) Px {
	if l.Kind != css.LenPx {
		return 0
	}
	if !def {
		base = 0 // a percentage of nothing is nothing, what is added to it stays
	}
	return max(0, l.Resolve(base))
}

func abs(p Px) Px {
	if p < 0 {
		return -p
	}
	return p
}

func roundAway(v float64) float64 {
	if v < 0 {
		return -math.Floor(-v + .5)
	}
	return math.Floor(v + .5)
}

func floorHalf(v Px) Px {
	return v / 2 // toward zero: negative free space truncates (measured)
}

func bit(b bool) int {
	if b {
		return 1
	}
	return 0
}

// distribute gives where the first of n pieces starts and the space added between two, for a content alignment.
func distribute(a css.Align, free, n Px) (pos Px, between float64) {
	a = a.At(free)
	switch a {
	case "center":
		return floorHalf(free), 0
	case "end", "flex-end":
		return free, 0
	}
	if free <= 0 {
		return 0, 0
	}
	switch a {
	case "space-between":
		if n > 1 {
			between = float64(free) / float64(n-1)
		}
	case "space-around":
		between = float64(free) / float64(n)
		pos = Px(between / 2)
	case "space-evenly":
		between = float64(free) / float64(n+1)
		pos = Px(between)
	}
	return pos, between
}

// over notes how wide a line would be with what it has no room for.
func (e *Engine) over(width Px) { e.need = min(e.need, width-textSlack) }
