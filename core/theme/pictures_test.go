package theme_test

import (
	"math"
	"testing"

	"github.com/lucasb-eyer/go-colorful"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/internal/testsite"
)

// The second color of drawings lies an eighth of the circle from the first, and all are colors.
func TestColorsOfDrawings(t *testing.T) {
	light, dark := testsite.Demo(t).Theme.Pictures()
	require.NotEmpty(t, light)
	require.Len(t, dark, len(light))
	hue := func(list map[string]string, name string) float64 {
		c, err := colorful.Hex(list[name])
		require.NoError(t, err)
		_, _, h := c.OkLch()
		return h
	}
	for name := range light {
		hue(light, name)
		hue(dark, name)
	}
	apart := math.Mod(hue(light, "second")-hue(light, "main")+360, 360)
	assert.InDelta(t, 50.3165, apart, .01, "45 degrees, as far as the screen can show it")
}
