package media_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/media"
)

// The same picture has the same place holder, another one has another; words stand in it where they fit, whatever they
// are.
func TestPlaceholder(t *testing.T) {
	one := media.Placeholder("fair.jpg", 600, 400, "fair.jpg", "at least 1200 x 800 px", `<b>"tents" & flags</b>`)
	assert.Equal(t, one, media.Placeholder("fair.jpg", 600, 400, "fair.jpg", "at least 1200 x 800 px",
		`<b>"tents" & flags</b>`))
	assert.NotEqual(t, one, media.Placeholder("fest.jpg", 600, 400, "fair.jpg", "at least 1200 x 800 px",
		`<b>"tents" & flags</b>`))
	w, h, err := media.Size("x.svg", one)
	require.NoError(t, err)
	assert.Equal(t, [2]float64{600, 400}, [2]float64{w, h})
	text := string(one)
	assert.Contains(t, text, ">at least 1200 x 800 px</text>")
	assert.Contains(t, text, "&lt;b&gt;")
	require.NoError(t, media.CheckSVG(one))
	assert.NotContains(t, string(media.Placeholder("a", 60, 60, "fair.jpg")), "<text", "no room")
	assert.NotContains(t, string(media.Placeholder("a", 600, 20, "fair.jpg")), "<text")
	long := string(media.Placeholder("a", 300, 200, strings.Repeat("wind ", 40)))
	assert.Contains(t, long, "…</text>")
	assert.NotContains(t, text, "href")
}
