package theme_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/theme"
)

// Whatever color a palette begins with, every text of it can be read on every ground of its tone.
func TestDerivedPalettesCanBeRead(t *testing.T) {
	seeds := []string{"#000000", "#ffffff", "#808080"}
	for h := 0; h < 16; h++ {
		for _, l := range []int{0x30, 0x90, 0xe0} {
			seeds = append(seeds, fmt.Sprintf("#%02x%02x%02x", (l+h*37)%256, (l*h)%256, (255-l+h*61)%256))
		}
	}
	pairs := 0
	for _, seed := range seeds {
		for _, neutral := range []string{"", "#2b4a6f", "#808080"} {
			for _, dark := range []bool{false, true} {
				p, err := theme.Derive(seed, neutral, dark)
				require.NoError(t, err)
				for _, tone := range theme.Tones {
					for _, pair := range [][2]string{{"ink", "ground"}, {"ink", "surface"}, {"soft", "ground"}, {"soft", "surface"}, {"accent", "ground"}, {"accent", "surface"}, {"on-accent", "accent"}} {
						pairs++
						assert.GreaterOrEqual(t, theme.ContrastOf(p[tone][pair[0]], p[tone][pair[1]]), 4.5, "%s, neutral %q, dark %v: %s on %s of %s (%s on %s)", seed, neutral, dark, pair[0], pair[1], tone, p[tone][pair[0]], p[tone][pair[1]])
					}
				}
			}
		}
	}
	assert.Greater(t, pairs, 5000)
	_, err := theme.Derive("sea", "", false)
	assert.ErrorContains(t, err, "write #rrggbb")
}
