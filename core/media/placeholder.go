package media

import (
	"fmt"
	"hash/fnv"
	"html"
	"math"
	"strings"
)

// Placeholder draws what stands for a picture that is not there yet, w by h CSS px, in greys: a horizon whose shape
// follows from a seed, so that the same picture has the same place holder, and lines of words in the middle where they
// fit.
func Placeholder(seed string, w, h float64, lines ...string) []byte {
	sum := fnv.New64a()
	_, _ = sum.Write([]byte(seed))
	bits := sum.Sum64()
	draw := func() float64 { // 0..1, one after another
		bits = bits*6364136223846793005 + 1442695040888963407
		return float64(bits>>40) / (1 << 24)
	}
	var b strings.Builder
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" width="%.4g" height="%.4g" viewBox="0 0 %.4g %.4g">`, w, h,
		w, h)
	fmt.Fprintf(&b, `<rect width="%.4g" height="%.4g" fill="#dde1e0"/>`, w, h)
	r := (.06 + .05*draw()) * math.Min(w, h)
	fmt.Fprintf(&b, `<circle cx="%.4g" cy="%.4g" r="%.4g" fill="#cdd3d1"/>`, w*(.15+.7*draw()), h*(.14+.16*draw()), r)
	for i, fill := range []string{"#c6cdcb", "#b7c0bd"} {
		y := h * (.58 + .16*float64(i) + .06*draw())
		left, right, bend := y+h*.08*(draw()-.5), y+h*.08*(draw()-.5), y-h*(.06+.14*draw())
		fmt.Fprintf(&b, `<path d="M0 %.4gQ%.4g %.4g %.4g %.4gV%.4gH0Z" fill="%s"/>`, left, w*(.25+.5*draw()), bend, w,
			right, h, fill)
	}
	size := math.Max(10, math.Min(16, w/22))
	room := int((w - 2*size) / (size * .56)) // letters on a line
	pitch := size * 1.4
	if room >= 8 && h >= pitch*float64(len(lines)+1) {
		y := h/2 - pitch*float64(len(lines)-1)/2 + size*.35
		for i, text := range lines {
			letters := []rune(text)
			if len(letters) > room {
				text = strings.TrimSpace(string(letters[:room-1])) + "…"
			}
			weight := 400
			if i == 0 {
				weight = 600
			}
			fmt.Fprintf(&b, `<text x="%.4g" y="%.4g" font-family="sans-serif" font-size="%.4g" font-weight="%d" text-anchor="middle" fill="#38423f">%s</text>`,
				w/2, y+pitch*float64(i), size, weight, html.EscapeString(text))
		}
	}
	b.WriteString("</svg>")
	return []byte(b.String())
}
