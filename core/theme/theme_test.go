package theme_test

import (
	"fmt"
	"math"
	"strconv"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/project"
	"ziegel/core/theme"
	"ziegel/stock"
)

// luminance follows WCAG 2.2 "relative luminance".
func luminance(t *testing.T, hex string) float64 {
	t.Helper()
	n, err := strconv.ParseUint(hex[1:], 16, 32)
	require.NoError(t, err, hex)
	lin := func(v uint64) float64 {
		c := float64(v&255) / 255
		if c <= .04045 {
			return c / 12.92
		}
		return math.Pow((c+.055)/1.055, 2.4)
	}
	return .2126*lin(n>>16) + .7152*lin(n>>8) + .0722*lin(n)
}

func TestEveryTextCanBeReadOnEveryToneLightAndDark(t *testing.T) {
	for _, name := range project.Themes(stock.Files) {
		th, err := theme.Load(name, stock.Files, "themes/"+name)
		require.NoError(t, err)
		for _, dark := range []bool{false, true} {
			for _, tone := range theme.Tones {
				hex := func(role string) string {
					k, ok := th.Token("color." + tone + "." + role)
					require.True(t, ok)
					if dark && k.Dark != "" {
						return k.Dark
					}
					return k.Value
				}
				pairs := [][2]string{{"accent-ink", "accent"}}
				for _, ink := range []string{"ink", "soft", "accent"} {
					pairs = append(pairs, [2]string{ink, "ground"}, [2]string{ink, "surface"})
				}
				for _, p := range pairs {
					a, b := luminance(t, hex(p[0])), luminance(t, hex(p[1]))
					ratio := (math.Max(a, b) + .05) / (math.Min(a, b) + .05)
					assert.GreaterOrEqual(t, ratio, 4.5, fmt.Sprintf("%s, dark %v: %s on %s of tone %s", name, dark,
						p[0], p[1], tone))
				}
			}
		}
	}
}

// marram gives the token files of a shipped theme, to be changed.
func marram(t *testing.T) fstest.MapFS {
	t.Helper()
	files := fstest.MapFS{}
	for _, f := range []string{"theme.tokens.json", "theme.dark.tokens.json"} {
		data, err := stock.Files.ReadFile("themes/marram/" + f)
		require.NoError(t, err)
		files[f] = &fstest.MapFile{Data: data}
	}
	return files
}

func TestTokensBecomeCSS(t *testing.T) {
	files := marram(t)
	th, err := theme.Load("s", files, ".")
	require.NoError(t, err)
	k, ok := th.Token("type.display")
	require.True(t, ok)
	assert.Equal(t, "min(clamp(2.625rem, 1.5978rem + 4.5652vw, 5.25rem), 17.8vw)", k.Value)
	ref, ok := th.Reference("color.ink")
	assert.True(t, ok)
	assert.Equal(t, "var(--ink)", ref)
	files["theme.tokens.json"] = &fstest.MapFile{Data: []byte("{\n \"a\": {\"$type\": \"dimension\", \"$value\": \"{b}\"}}")}
	_, err = theme.Load("s", files, ".")
	assert.ErrorContains(t, err, "the token a refers to b, which does not exist")
	files["theme.tokens.json"] = &fstest.MapFile{Data: []byte("{\n \"a\": }")}
	_, err = theme.Load("s", files, ".")
	assert.ErrorContains(t, err, "theme.tokens.json:2:")
}
