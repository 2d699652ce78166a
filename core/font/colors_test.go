package font

import (
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/internal/testfont"
)

func TestColorsOfGlyphs(t *testing.T) {
	if testing.Short() {
		t.Skip("takes half of a second")
	}
	plain, err := os.ReadFile("../../e2e/testdata/boxes/assets/marlow.ttf")
	require.NoError(t, err)
	f, err := Parse("t", plain)
	require.NoError(t, err)
	g := f.Glyphs([]rune("ABo"), Features{})
	a, b, dot := g[0].ID, g[1].ID, g[2].ID
	_, whole := f.Layers(a)
	assert.False(t, whole, "a font without colors")

	data := testfont.Colored(plain, uint16(a), uint16(b), uint16(dot))
	f, err = Parse("t", data)
	require.NoError(t, err)
	layers, whole := f.Layers(a)
	require.True(t, whole)
	require.Len(t, layers, 2)
	alone, _ := f.Outline(dot)
	assert.Equal(t, [4]float64{1, 0, 0, 1}, layers[0].Color)
	assert.True(t, layers[1].Ink)
	assert.Equal(t, alone, layers[1].Outline)

	layers, whole = f.Layers(b)
	require.True(t, whole)
	require.Len(t, layers, 2)
	assert.Equal(t, [4]float64{0, 0, 1, 1}, layers[0].Color)
	assert.Equal(t, .5, layers[1].Color[3])
	for i, s := range layers[1].Outline {
		assert.Equal(t, alone[i].At[0][0]+250, s.At[0][0])
		assert.Equal(t, alone[i].At[0][1]+150, s.At[0][1])
	}
	outline, colored := f.Outline(b)
	assert.True(t, colored)
	assert.NotEmpty(t, outline, "in one color it is its outline")
	_, whole = f.Layers(dot)
	assert.False(t, whole)

	// tables that are cut off, or turned over anywhere, are an error or nothing, never a crash
	for i := range data {
		if i%7 == 0 {
			bent := append([]byte(nil), data...)
			bent[i] ^= 0xFF
			if f, err := Parse("t", bent); err == nil {
				_, _ = f.Layers(a)
				_, _ = f.Layers(b)
			}
		}
	}
}
