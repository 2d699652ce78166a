package font

import (
	"math"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The outlines of every shipped font are unpacked whole: letters stand within the font's own reach, and close to where
// their side bearings say.
func TestOutlinesOfShippedFonts(t *testing.T) {
	files, err := filepath.Glob("../../stock/fonts/*.woff2")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, file := range files {
		data, err := os.ReadFile(file)
		require.NoError(t, err)
		f, err := Parse("t", data)
		require.NoError(t, err)
		var high float64
		for _, g := range f.Glyphs([]rune("Haxgo&8"), Features{}) {
			steps, colored := f.Outline(g.ID)
			assert.False(t, colored)
			require.NotEmpty(t, steps, file)
			left, right, top := math.Inf(1), math.Inf(-1), math.Inf(-1)
			for _, s := range steps {
				for k := range [4]int{1, 1, 2, 3}[s.Op] {
					left, right, top = min(left, s.At[k][0]), max(right, s.At[k][0]), max(top, s.At[k][1])
				}
			}
			assert.Greater(t, left, -.2*f.Upem, file)
			assert.Less(t, right, g.Advance+.2*f.Upem, file)
			high = max(high, top)
		}
		assert.InDelta(t, f.CapHeight, high, .12*f.Upem, "%s: the H is as high as capitals", file)
	}
}

// The same font packed and not packed has the same outlines.
func TestPackedOutlinesAreThoseOfTheFont(t *testing.T) {
	const dir = "../../e2e/testdata/boxes/assets/"
	plain, err := os.ReadFile(dir + "marlow.ttf")
	require.NoError(t, err)
	f, err := Parse("t", plain)
	require.NoError(t, err)
	for _, g := range f.Glyphs([]rune("Kite über 8§"), Features{}) {
		steps, _ := f.Outline(g.ID)
		if g.Advance > 0 && len(steps) == 0 {
			continue // a space
		}
		assert.Equal(t, OutlineMove, steps[0].Op)
	}
	space := f.Glyphs([]rune(" "), Features{})
	require.Len(t, space, 1)
	steps, _ := f.Outline(space[0].ID)
	assert.Empty(t, steps)
	steps, _ = f.Outline(1 << 20)
	assert.Empty(t, steps, "a glyph that is not there")
}

// Outlines that are cut off anywhere are an error or nothing, never a crash.
func TestBrokenOutlines(t *testing.T) {
	data, err := os.ReadFile("../../stock/fonts/figtree-400.woff2")
	require.NoError(t, err)
	plain, err := decodeWOFF2(data, true)
	require.NoError(t, err)
	assert.Greater(t, len(plain), len(data))
	body := make([]byte, 400)
	for n := range body {
		body[n] = byte(n * 37)
	}
	for n := range 400 {
		_, _ = restoreGlyf(body[:n])
	}
	head := make([]byte, 60)
	for n := range head {
		_, err := restoreGlyf(head[:n])
		if n < 36 {
			assert.Error(t, err, n)
		}
	}
}
