package term

import (
	"bytes"
	"image"
	"image/color"
	"strings"
	"testing"

	"github.com/charmbracelet/x/ansi"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestHalfBlocks(t *testing.T) {
	img := image.NewRGBA(image.Rect(0, 0, 40, 20))
	for y := range 20 {
		for x := range 40 {
			c := color.RGBA{255, 0, 0, 255}
			if y >= 10 {
				c = color.RGBA{0, 0, 255, 255}
			}
			img.Set(x, y, c)
		}
	}
	lines := HalfBlocks(img, 8, 0)
	require.Len(t, lines, 2, "four rows of pixels are two of cells")
	for _, l := range lines {
		assert.Equal(t, 8, ansi.StringWidth(l))
		assert.True(t, strings.HasSuffix(l, "\x1b[0m"), "the colors end with the line")
	}
	assert.Contains(t, lines[0], "\x1b[38;2;255;0;0;48;2;")
	assert.Equal(t, 1, strings.Count(lines[0], "38;2"), "a color is said once")
	assert.Contains(t, lines[1], ";48;2;0;0;255m▀")
	assert.Len(t, HalfBlocks(img, 40, 3), 3, "no more rows than there is room for")
	assert.Len(t, HalfBlocks(img, 400, 0), 10, "not enlarged")
	assert.Nil(t, HalfBlocks(image.NewRGBA(image.Rectangle{}), 8, 0))
}

func TestWhatTerminalsAnswer(t *testing.T) {
	for answer, want := range map[string]Pictures{
		"":                                      PicturesBlocks,
		"\x1b[?62;22c":                          PicturesBlocks,
		"\x1b[?64;4;6;22c":                      PicturesSixel,
		"\x1b[?4c":                              PicturesBlocks, // the first number is the kind of terminal
		"\x1b_Gi=31;OK\x1b\\\x1b[?62;c":         PicturesKitty,
		"\x1b_Gi=31;ENOTSUPPORTED\x1b\\\x1b[?c": PicturesBlocks,
	} {
		assert.Equal(t, want, answered(answer, PicturesBlocks), "%q", answer)
	}
	assert.Equal(t, PicturesNone, PicturesOf(nil, &bytes.Buffer{}, Style{}), "no terminal, no question")
	assert.False(t, TrueColor(&bytes.Buffer{}, Style{Terminal: true}))
}

func TestPicturesAreWrittenInTheProtocolOfTheTerminal(t *testing.T) {
	img := image.NewRGBA(image.Rect(0, 0, 30, 12))
	for i := range img.Pix {
		img.Pix[i] = 200
	}
	for how, want := range map[Pictures]string{PicturesKitty: "\x1b_G", PicturesSixel: "\x1bP", PicturesBlocks: "▀"} {
		var b bytes.Buffer
		require.NoError(t, Show(&b, how, img, 10))
		assert.Contains(t, b.String(), want)
		assert.True(t, strings.HasSuffix(b.String(), "\n"))
	}
	assert.Equal(t, 8, fitted(img, 8).Bounds().Dx())
	assert.Equal(t, img.Bounds(), fitted(img, 80).Bounds())
}
