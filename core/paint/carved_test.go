package paint

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"ziegel/core/css"
)

// The two colors of carved borders, as Chromium has them.
func TestShadesOfCarvedBorders(t *testing.T) {
	for of, want := range map[string][2]string{
		"#808080": {"#2c2c2c", "#d4d4d4"}, "#000000": {"#545454", "#a8a8a8"}, "#202020": {"#747474", "#c8c8c8"},
		"#333333": {"#000000", "#878787"}, "#ff0000": {"#ab0000", "#ff0000"}, "#ffffff": {"#ababab", "#ffffff"},
		"#c0c0c0": {"#6c6c6c", "#ffffff"}, "#eeeeee": {"#9a9a9a", "#eeeeee"}, "#000080": {"#00002c", "#0000d4"},
	} {
		c, ok := css.ParseColor(css.Tokenize(of), css.ColorContext{})
		assert.True(t, ok, of)
		dark, light := shades(c)
		assert.Equal(t, want, [2]string{dark.Hex(), light.Hex()}, of)
	}
}
