package adopt

import (
	"fmt"
	"math"

	"ziegel/core/css"
)

func distance(a, b css.Color) float64 {
	return math.Abs(a.R-b.R) + math.Abs(a.G-b.G) + math.Abs(a.B-b.B)
}

func luminance(c css.Color) float64 { return .2126*c.R + .7152*c.G + .0722*c.B }

func chroma(c css.Color) float64 { return max(c.R, c.G, c.B) - min(c.R, c.G, c.B) }

func hex(c css.Color) string {
	b := func(x float64) int { return int(math.Round(255 * min(1, max(0, x)))) }
	return fmt.Sprintf("#%02x%02x%02x", b(c.R), b(c.G), b(c.B))
}
