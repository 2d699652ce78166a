package measure

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// What sizes says is never less than the picture is wide, and seldom much more.
func TestSizesCoverWhatIsMeasured(t *testing.T) {
	widths := func(at func(w float64) float64) []float64 {
		var out []float64
		for w := 240.0; w <= 2560; w += sizeStep {
			out = append(out, at(w))
		}
		return out
	}
	assert.Equal(t, "100vw", sizesText(widths(func(w float64) float64 { return w })))
	assert.Equal(t, "96px", sizesText(widths(func(float64) float64 { return 96 })))
	assert.Equal(t, "(width < 50rem) 100vw, 50vw", sizesText(widths(func(w float64) float64 {
		if w < 800 {
			return w
		}
		return w / 2
	})))
	assert.Equal(t, "(width < 85rem) 100vw, 1200px",
		sizesText(widths(func(w float64) float64 { return min(w, 1200) })))
	assert.Equal(t, "40vw", sizesText(widths(func(w float64) float64 {
		if w < 800 {
			return 0
		}
		return w * .4
	})), "hidden on small screens")
}
