package theme_test

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/project"
	"ziegel/core/theme"
	"ziegel/stock"
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
					for _, pair := range [][2]string{{"ink", "ground"}, {"ink", "surface"}, {"soft", "ground"},
						{"soft", "surface"}, {"accent", "ground"}, {"accent", "surface"}, {"accent-ink", "accent"}} {
						pairs++
						assert.GreaterOrEqual(t, theme.ContrastOf(p[tone][pair[0]], p[tone][pair[1]]), 4.5,
							"%s, neutral %q, dark %v: %s on %s of %s (%s on %s)", seed, neutral, dark, pair[0], pair[1], tone, p[tone][pair[0]], p[tone][pair[1]])
					}
				}
			}
		}
	}
	assert.Greater(t, pairs, 5000)
	_, err := theme.Derive("sea", "", false)
	assert.ErrorContains(t, err, "write #rrggbb")
}

// A tone whose text cannot be read is found, and the nearest color that can be is named.
func TestUnreadablePairsAreFoundAndMended(t *testing.T) {
	files := marram(t)
	light := files["theme.tokens.json"]
	light.Data = bytes.Replace(light.Data, []byte(`"hex": "#4a5d60"`), []byte(`"hex": "#9aa9aa"`), 1)
	th, err := theme.Load("s", files, ".")
	require.NoError(t, err)
	bad := th.Unreadable()
	require.Len(t, bad, 1, "soft text of the plain tone, on its ground; it has a little more contrast on its surface")
	assert.Equal(t, "ground", bad[0].Ground)
	assert.Equal(t, "color.plain.soft", bad[0].Token())
	mended := th.Readable(bad[0])
	for _, p := range bad {
		assert.GreaterOrEqual(t, theme.ContrastOf(mended, p.On), theme.LeastContrast)
		assert.Less(t, theme.ContrastOf(mended, p.On), 5.2, "and no darker than it must be")
	}
	notes := th.Notes("theme.tokens.json")
	require.NotEmpty(t, notes)
	assert.Equal(t, "unreadable-pair", notes[0].Rule)
	assert.Equal(t, "color.plain.soft="+mended, notes[0].Try)
	lines := strings.Split(string(light.Data), "\n")
	assert.Contains(t, lines[notes[0].Line-1], `"soft"`)
	assert.Equal(t, strings.Index(lines[notes[0].Line-1], `"`)+1, notes[0].Column)
	dark := files["theme.dark.tokens.json"]
	dark.Data = bytes.Replace(dark.Data, []byte(`"hex": "#a2b5b4"`), []byte(`"hex": "#4a5d60"`), 1)
	th, err = theme.Load("s", files, ".")
	require.NoError(t, err)
	last := th.Notes("theme.tokens.json")
	assert.Equal(t, "theme.dark.tokens.json", last[len(last)-1].File)
	assert.Contains(t, strings.Split(string(dark.Data), "\n")[last[len(last)-1].Line-1], `"soft"`)
}

// Pictures follow from the colors of a theme that says nothing of them.
func TestPicturesHaveColorsInEveryTheme(t *testing.T) {
	for _, name := range append(project.Themes(stock.Files), "") {
		th := &theme.Theme{}
		if name != "" {
			var err error
			th, err = theme.Load(name, stock.Files, "themes/"+name)
			require.NoError(t, err)
		}
		light, dark := th.Pictures()
		for _, role := range theme.PictureRoles {
			assert.Regexp(t, `^#[0-9a-f]{6}$`, light[role], "%s %s", name, role)
			assert.Regexp(t, `^#[0-9a-f]{6}$`, dark[role], "%s %s", name, role)
		}
	}
}
