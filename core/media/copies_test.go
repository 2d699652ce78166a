package media

import (
	"bytes"
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/stock"
)

func TestCopiesAreSmallerAndKeepTheRatio(t *testing.T) {
	list := Copies("beach.JPG", 2400, 1597)
	require.Len(t, list, 4)
	for _, c := range list {
		assert.Less(t, float64(c.Width), 2400*.8)
		assert.InDelta(t, 2400.0/1597, float64(c.Width)/float64(c.Height), .0005, c.Name)
		assert.Regexp(t, `^sized/beach-\d+\.JPG$`, c.Name)
	}
	assert.Empty(t, Copies("small.jpg", 500, 400), "nothing to save")
	assert.Empty(t, Copies("delta.svg", 2400, 1600), "drawings need none")
	assert.Empty(t, Copies("wave.gif", 2400, 1600), "animations would stand still")
	assert.Equal(t, "sized/a-webp-480.jpg", Copies("a.webp", 1600, 1000)[0].Name)
}

// sideways makes a JPEG that is red on its left, with a camera's note that it was held sideways.
func sideways(t *testing.T, w, h int, orientation byte) []byte {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			img.Set(x, y, color.White)
			if x < w/2 {
				img.Set(x, y, color.RGBA{200, 0, 0, 255})
			}
		}
	}
	return noted(t, img, orientation)
}

// noted makes a JPEG with a camera's note of how it was held.
func noted(t *testing.T, img image.Image, orientation byte) []byte {
	var buf bytes.Buffer
	require.NoError(t, jpeg.Encode(&buf, img, nil))
	note := append([]byte("Exif\x00\x00MM\x00*\x00\x00\x00\x08\x00\x01\x01\x12\x00\x03\x00\x00\x00\x01\x00"),
		orientation, 0, 0, 0, 0, 0, 0)
	head := append([]byte{0xff, 0xd8, 0xff, 0xe1, 0, byte(len(note) + 2)}, note...)
	return append(head, buf.Bytes()[2:]...)
}

func TestPicturesStandUpright(t *testing.T) {
	data := sideways(t, 60, 40, 6) // its top is the right side: turned clockwise
	w, h, err := Size("a.jpg", data)
	require.NoError(t, err)
	assert.Equal(t, []float64{40, 60}, []float64{w, h})
	made, err := Resize(data, []Copy{{Name: "sized/a-10.jpg", Width: 10, Height: 15},
		{Name: "sized/a-20.jpg", Width: 20, Height: 30}})
	require.NoError(t, err)
	require.Len(t, made, 2)
	img, err := jpeg.Decode(bytes.NewReader(made[1]))
	require.NoError(t, err)
	assert.Equal(t, image.Rect(0, 0, 20, 30), img.Bounds())
	_, g, _, _ := img.At(10, 3).RGBA()
	assert.Less(t, g>>8, uint32(80), "what was on the left is above now")
	_, g, _, _ = img.At(10, 27).RGBA()
	assert.Greater(t, g>>8, uint32(200))
	w, h, _ = Size("a.jpg", sideways(t, 60, 40, 1))
	assert.Equal(t, []float64{60, 40}, []float64{w, h})
}

// Exif 2.32, tag 274: which side of what is seen the first row and the first column of the file are.
func TestEachWayOfHoldingACameraIsTurned(t *testing.T) {
	of := map[byte]color.RGBA{'r': {220, 0, 0, 255}, 'g': {0, 220, 0, 255}, 'b': {0, 0, 220, 255},
		'w': {255, 255, 255, 255}}
	for held, seen := range []string{"", "rg bw", "gr wb", "wb gr", "bw rg", "rb gw", "br wg", "wg br", "gw rb"} {
		if held == 0 {
			continue
		}
		stored := image.NewRGBA(image.Rect(0, 0, 64, 48))
		for i, c := range []byte("rgbw") {
			r := image.Rect(i%2*32, i/2*24, i%2*32+32, i/2*24+24)
			draw.Draw(stored, r, image.NewUniform(of[c]), image.Point{}, draw.Src)
		}
		data := noted(t, stored, byte(held))
		w, h, err := Size("a.jpg", data)
		require.NoError(t, err)
		made, err := Resize(data, []Copy{{Name: "a.jpg", Width: int(w) / 2, Height: int(h) / 2}})
		require.NoError(t, err)
		img, err := jpeg.Decode(bytes.NewReader(made[0]))
		require.NoError(t, err)
		b := img.Bounds()
		for i, c := range []byte(strings.ReplaceAll(seen, " ", "")) {
			r, g, bl, _ := img.At(b.Dx()/4+i%2*b.Dx()/2, b.Dy()/4+i/2*b.Dy()/2).RGBA()
			want := of[c]
			assert.InDeltaSlice(t, []float64{float64(want.R), float64(want.G), float64(want.B)},
				[]float64{float64(r >> 8), float64(g >> 8), float64(bl >> 8)}, 30, "held %d: %c is at %d", held, c, i)
		}
	}
}

func TestDrawingsTakeTheColorsOfATheme(t *testing.T) {
	in := []byte(`<svg><style>:root { --picture-sky: #aaa; --picture-own: #bbb }</style><rect fill="var(--picture-sky)"/></svg>`)
	out := string(Recolor(in, map[string]string{"sky": "#123456"}, map[string]string{"sky": "#000001"}))
	assert.Contains(t, out, "--picture-sky: #123456; --picture-own: #bbb }")
	assert.Contains(t, out, "@media (prefers-color-scheme: dark) { :root { --picture-sky: #000001 } }")
	assert.Equal(t, []string{"#123456", "#bbb", "#000001"}, SVGColors([]byte(out)), "contrast is judged by them")
	plain := []byte(`<svg><rect fill="#aaa"/></svg>`)
	assert.Equal(t, plain, Recolor(plain, map[string]string{"sky": "#123456"}, nil))
}

// A drawing is looked at as it is seen: its colors where they lie, in the light and in the dark.
func TestDrawingsAreLookedAt(t *testing.T) {
	svg := []byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 50"><style>:root { --picture-sky: #ffffff; --picture-ink: #000000 } @media (prefers-color-scheme: dark) { :root { --picture-sky: #202020 } }</style><path d="M0 0h50v50H0z" fill="var(--picture-sky)"/><path d="M50 0h50v50H50z" fill="var(--picture-ink)"/></svg>`)
	light, err := ReadDrawnColors(svg, false)
	require.NoError(t, err)
	dark, err := ReadDrawnColors(svg, true)
	require.NoError(t, err)
	at := func(c *Colors, x, y float64) color.NRGBA {
		return c.Cells[int(y*float64(c.Rows))*c.Columns+int(x*float64(c.Columns))]
	}
	assert.Equal(t, color.NRGBA{255, 255, 255, 255}, at(light, .2, .5))
	assert.Equal(t, color.NRGBA{0, 0, 0, 255}, at(light, .8, .5))
	assert.Equal(t, color.NRGBA{32, 32, 32, 255}, at(dark, .2, .5))
	for _, bad := range []string{`<svg/>`, `text`,
		`<svg viewBox="0 0 4 3"><filter id="a"/><path filter="url(#a)" d="M0 0h4"/></svg>`} {
		_, err := ReadDrawnColors([]byte(bad), false)
		assert.Error(t, err, bad)
	}
	for _, name := range List(stock.Files, "pictures") {
		if !IsSVG(name) {
			continue
		}
		data, err := stock.Files.ReadFile("pictures/" + name)
		require.NoError(t, err)
		_, err = ReadDrawnColors(data, false)
		assert.NoError(t, err, name)
	}
}
