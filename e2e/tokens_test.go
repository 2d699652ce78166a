package e2e

import (
	"encoding/json"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/stock"
	"ziegel/ui/cli"
)

// run runs the program in a site and gives what it answers.
func run(t *testing.T, dir string, args ...string) string {
	t.Helper()
	var out, errs strings.Builder
	code := cli.Run(append(args, "--site", dir), strings.NewReader(""), &out, &errs)
	require.LessOrEqual(t, code, 1, "%v: %s", args, errs.String())
	return out.String()
}

// demoWith writes the demo with a theme of its own, in which some pieces of text are replaced.
func demoWith(t *testing.T, replace ...string) string {
	t.Helper()
	dir := filepath.Join(t.TempDir(), "larkspan")
	var out, errs strings.Builder
	require.Equal(t, 0, cli.Run([]string{"demo", dir}, strings.NewReader(""), &out, &errs), errs.String())
	tokens, err := stock.Files.ReadFile("themes/marram/theme.tokens.json")
	require.NoError(t, err)
	text := strings.NewReplacer(replace...).Replace(string(tokens))
	require.NotEqual(t, string(tokens), text)
	require.NoError(t, os.WriteFile(filepath.Join(dir, "theme.tokens.json"), []byte(text), 0o666))
	return dir
}

// boxOf measures the first box of a built page whose class list has a class.
func heightOf(t *testing.T, dir, page string, width string) float64 {
	t.Helper()
	var got struct {
		Widths []struct {
			Height float64 `json:"height"`
		} `json:"widths"`
	}
	require.NoError(t, json.Unmarshal([]byte(run(t, dir, "measure", page, "--at", width, "--json")), &got))
	return got.Widths[0].Height
}

// One token changed shows in the chain behind a value, in what is built and in what the engine measures.
func TestAChangedTokenShowsEverywhere(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("builds the site for every token")
	}
	const apart = "\"apart\": {\n      \"$value\": {\n        \"value\": 1.5,"
	plain, wide := demoWith(t, "Marram:", "Marram :"), demoWith(t, apart, strings.Replace(apart, "1.5", "4", 1))
	assert.Contains(t, run(t, wide, "explain", "home/plans.card", "padding", "--at", "1280"),
		"wins   padding: 4rem ({space.apart}), the section pricing/plans")
	assert.Greater(t, heightOf(t, wide, "home", "1280"), heightOf(t, plain, "home", "1280")+100)
	run(t, wide, "build")
	css, err := os.ReadFile(filepath.Join(wide, "built", "site.css"))
	require.NoError(t, err)
	assert.Contains(t, string(css), "--space-apart: 4rem;")
}

// The theme's table of pairs sets the distance of two neighbours, unless a block says its own.
func TestPairsSetDistances(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("measures many pairs")
	}
	dir := demoWith(t, `"lane": {`, `"pair": {"$type": "dimension", "hero": {"features": {"$value": {"value": 1, "unit": "rem"}}}, "any": {"footer": {"$value": {"value": 9, "unit": "rem"}}}},
  "lane": {`)
	run(t, dir, "build")
	css, err := os.ReadFile(filepath.Join(dir, "built", "home.css"))
	require.NoError(t, err)
	assert.Contains(t, string(css), "padding-block-end: var(--pair-hero-features);")
	assert.Contains(t, string(css), ".home-voices { padding-block-end: var(--pair-any-footer); }")
	run(t, dir, "set", "home/opening", "below=5rem")
	run(t, dir, "build")
	css, err = os.ReadFile(filepath.Join(dir, "built", "home.css"))
	require.NoError(t, err)
	assert.Contains(t, string(css), "max(5rem, var(--pair-hero-features))")
}

var (
	ruleForm    = regexp.MustCompile(`(?m)^\s*([^@{}\n][^{}\n]*) \{`)
	simpleParts = regexp.MustCompile(`\.[a-zA-Z][\w-]*|:(?:hover|focus-visible|focus-within|active)|\[[^\]]*\]`)
)

// What is built for styles stays small and flat: no !important, at most one class and a state for a rule of a block,
// nothing said twice.
func TestStylesAreBuiltFlat(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("builds many styles")
	}
	dir := demoWith(t, "Marram:", "Marram :")
	for _, s := range [][]string{
		{"home/plans.card", "padding=2rem"}, {"courses/prices.card", "padding=2rem"}, {"home/plans.card",
			"padding=1rem", "--at", "phone"}, {"home/voices.voice[odd]", "background={color.surface}"},
		{"home/reasons.card", "use=hover-lift"}, {"home/voices.voice", "use=hover-lift"}, {"home/plans.lead",
			"color={color.ink}"}, {"home/reasons.lead", "color={color.ink}"},
		{"home/plans.link", "background={color.surface}", "--state", "hover"}, {"home/opening.words", "gap=2rem",
			"--when", "stacked"},
	} {
		run(t, dir, append([]string{"style", "--quiet"}, s...)...)
	}
	run(t, dir, "build")
	for _, name := range []string{"site.css", "home.css", "courses.css"} {
		data, err := os.ReadFile(filepath.Join(dir, "built", name))
		require.NoError(t, err)
		css := string(data)
		assert.NotContains(t, css, "!important")
		if name == "site.css" {
			assert.Equal(t, 1, strings.Count(css, ".style-hover-lift {"), "a shared look is written once")
			continue
		}
		assert.Less(t, len(css), 3000, name)
		at := strings.Index(css, "@layer block")
		require.Positive(t, at)
		said := map[string]bool{}
		for _, m := range ruleForm.FindAllStringSubmatch(css[at:], -1) {
			for _, sel := range strings.Split(m[1], ", ") {
				parts := simpleParts.FindAllString(sel, -1)
				assert.LessOrEqual(t, len(parts), 2, sel)
				assert.NotContains(t, sel, "#")
			}
			assert.False(t, said[m[1]], "%s has two rules under one condition in %s", m[1], name)
			if !strings.Contains(css[at:], "@media") {
				said[m[1]] = true
			}
		}
	}
	css, err := os.ReadFile(filepath.Join(dir, "built", "home.css"))
	require.NoError(t, err)
	assert.Contains(t, string(css), ".home-reasons-lead, .home-plans-lead { color: var(--ink); }",
		"what two parts share is said once")
}

// Words that take turns keep the room of the longest, whatever the font.
func TestChangingWordsKeepTheRoomOfTheLongest(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("sweeps texts in several languages")
	}
	dir := demoWith(t, "Marram:", "Marram :")
	run(t, dir, "set", "home/opening", "heading=Made for [real|very honest|salty] wind")
	run(t, dir, "build")
	for _, width := range []string{"390", "1280"} {
		var got struct {
			Widths []struct {
				Boxes []struct {
					Path string  `json:"path"`
					W    float64 `json:"w"`
				} `json:"boxes"`
			} `json:"widths"`
		}
		require.NoError(t, json.Unmarshal([]byte(run(t, dir, "measure", "home", "--at", width, "--json")), &got))
		room, longest := 0.0, 0.0
		for _, b := range got.Widths[0].Boxes {
			switch {
			case strings.HasSuffix(b.Path, "h1:nth-child(2) > span:nth-child(1)"):
				room = b.W
			case strings.Contains(b.Path, "h1:nth-child(2) > span:nth-child(1) > span"):
				longest = max(longest, b.W)
			}
		}
		assert.Positive(t, room)
		assert.Equal(t, longest, room, width)
	}
	assert.NotContains(t, run(t, dir, "check", "home"), "moves-layout")
}

// Actions take the whole row, 44 px high or more, where their own room is narrow, and stand side by side where it is
// not.
func TestActionsTakeTheRowOfANarrowRoom(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("sweeps many labels")
	}
	dir := demoWith(t, "Marram:", "Marram :")
	var got struct {
		Widths []struct {
			Boxes []struct {
				Path string  `json:"path"`
				W    float64 `json:"w"`
				H    float64 `json:"h"`
			} `json:"boxes"`
		} `json:"widths"`
	}
	require.NoError(t, json.Unmarshal([]byte(run(t, dir, "measure", "home", "--at", "300,600", "--json")), &got))
	for i, full := range []bool{true, false} {
		row := 0.0
		for _, b := range got.Widths[i].Boxes {
			switch {
			case strings.HasSuffix(b.Path, "div:nth-child(1) > p:nth-child(4)") && row == 0:
				row = b.W
			case strings.HasSuffix(b.Path, "div:nth-child(1) > p:nth-child(4) > a:nth-child(1)"):
				require.Positive(t, row)
				assert.Equal(t, full, b.W == row, "%v of %v", b.W, row)
				assert.GreaterOrEqual(t, b.H, 44.0)
			}
		}
		assert.Positive(t, row)
	}
}
