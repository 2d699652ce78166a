package paint

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// TestSidesAreLaidOut puts tiles along a side, as each word for it says.
func TestSidesAreLaidOut(t *testing.T) {
	for _, c := range []struct {
		how        string
		room, size float64
		want       string // first tile, step
	}{
		{"stretch", 100, 30, "10..110 step 0"},
		{"repeat", 100, 30, "-15..15 step 30"}, // one from 45 to 75, in the middle of 10 to 110
		{"repeat", 30, 30, "10..40 step 30"},
		{"round", 100, 30, "10..43.3333 step 33.3333"},
		{"round", 100, 45, "10..60 step 50"},
		{"round", 10, 30, "10..20 step 10"},
		{"space", 100, 30, "12.5..42.5 step 32.5"},
		{"space", 90, 30, "10..40 step 30"},
		{"space", 20, 30, "-50..-20 step 0"}, // none fits
	} {
		x0, x1, step := laidOut(c.how, 10, c.room, c.size)
		assert.Equal(t, c.want, fmt.Sprintf("%.6g..%.6g step %.6g", x0, x1, step), "%+v", c)
	}
}

// TestNinePieces cuts a picture of 30 by 20 px and looks where its pieces lie.
func TestNinePieces(t *testing.T) {
	im := &image{w: 30, h: 20, draw: func(at geom.Rect) []display.Item {
		return []display.Item{&display.Fill{Rect: &at}}
	}}
	n := &nine{im: im, w: 30, h: 20, area: geom.R(0, 0, 100, 60), slice: [4]float64{5, 10, 5, 10},
		wide:   [4]float64{10, 20, 10, 20},
		across: "stretch", down: "stretch"}
	places := func() []string {
		var out []string
		for _, it := range n.items() {
			f := it.(*display.Fill)
			tiles := f.Brush.(*display.Tiles)
			whole := tiles.Items[0].(*display.Fill).Rect
			out = append(out, fmt.Sprintf("%g,%g %gx%g of %g,%g %gx%g", f.Rect.X0, f.Rect.Y0, f.Rect.W(), f.Rect.H(),
				whole.X0, whole.Y0, whole.W(), whole.H()))
		}
		return out
	}
	got := places()
	assert.Len(t, got, 8, "the middle is left out")
	assert.Equal(t, "0,0 20x10 of 0,0 60x40", got[0], "a corner is twice as large")
	assert.Equal(t, "20,0 60x10 of -40,0 180x40", got[1], "the upper side is stretched along")
	assert.Equal(t, "80,50 20x10 of 40,20 60x40", got[7])
	n.fill = true
	assert.Len(t, places(), 9)
	n.slice = [4]float64{0, 10, 0, 10}
	assert.Len(t, places(), 3, "what has no height is not there")
	n.across, n.slice = "round", [4]float64{5, 10, 5, 10}
	assert.Equal(t, "20,0 60x10 of 0,0 60x40", places()[1], "three tiles of 20 px, scaled as the side is thick")
}
