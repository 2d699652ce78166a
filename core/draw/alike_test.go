package draw_test

import (
	"image"
	"image/color"
	"image/draw"
	"testing"

	"github.com/stretchr/testify/assert"

	drawing "ziegel/core/draw"
)

// TestAlike holds pictures against each other: what is moved a little is the same, what is elsewhere, of another color
// or beyond the other picture is not.
func TestAlike(t *testing.T) {
	white, ink, paper := color.RGBA{255, 255, 255, 255}, color.RGBA{20, 30, 60, 255}, color.RGBA{240, 230, 210, 255}
	picture := func(w, h int, ground color.Color, boxes ...image.Rectangle) *image.RGBA {
		out := image.NewRGBA(image.Rect(0, 0, w, h))
		draw.Draw(out, out.Rect, image.NewUniform(ground), image.Point{}, draw.Src)
		for _, b := range boxes {
			draw.Draw(out, b, image.NewUniform(ink), image.Point{}, draw.Src)
		}
		return out
	}
	alike := func(a, b *image.RGBA) float64 { return drawing.TilesOf(a, 8).Alike(drawing.TilesOf(b, 8)) }
	box := image.Rect(32, 32, 96, 64)
	base := picture(160, 80, white, box)
	assert.Equal(t, 1.0, alike(base, base))
	assert.Equal(t, 1.0, alike(base, picture(160, 80, white, box.Add(image.Pt(8, 8)))), "a square away")
	assert.Less(t, drawing.TilesOf(base, 4).Alike(drawing.TilesOf(picture(160, 80, white, box.Add(image.Pt(8, 8))), 4)),
		1.0, "two squares away")
	assert.Less(t, alike(base, picture(160, 80, white, box.Add(image.Pt(48, 0)))), 0.8, "elsewhere")
	assert.Less(t, alike(base, picture(160, 80, white)), 0.9, "not there")
	assert.Equal(t, alike(base, picture(160, 80, white)), alike(picture(160, 80, white), base), "either way")
	assert.Equal(t, 0.5, alike(picture(160, 80, white), picture(160, 160, white)), "half as high")
	assert.Zero(t, alike(picture(160, 80, white), picture(160, 80, paper)), "another ground")
	assert.Equal(t, 1.0, alike(image.NewRGBA(image.Rectangle{}), image.NewRGBA(image.Rectangle{})))
	part := picture(320, 160, paper)
	draw.Draw(part, base.Rect.Add(image.Pt(100, 50)), base, image.Point{}, draw.Src)
	assert.Equal(t, 1.0, alike(base, part.SubImage(base.Rect.Add(image.Pt(100, 50))).(*image.RGBA)),
		"a part of a picture")
	assert.Equal(t, 1.0, alike(picture(15, 9, white), picture(15, 9, white)), "squares that are cut off")
}
