package theme_test

import (
	"encoding/json"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/theme"
)

// with puts one more token into the light or the dark file of a shipped theme.
func with(t *testing.T, file, token string) fstest.MapFS {
	t.Helper()
	files := marram(t)
	text := strings.TrimRight(strings.TrimSpace(string(files[file].Data)), "}")
	for strings.Count(text, "{") != strings.Count(text, "}")+1 {
		text += "}"
	}
	files[file] = &fstest.MapFile{Data: []byte(strings.TrimRight(text, " \n,") + ",\n  " + token + "\n}\n")}
	require.True(t, json.Valid(files[file].Data), string(files[file].Data[max(0, len(files[file].Data)-300):]))
	return files
}

// No value of a token ends its declaration, asks another host, or is of another type than it says; the message has
// its line.
func TestValuesOfTokensAreOfTheirTypes(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	for _, c := range []struct{ token, want string }{
		{`"x": {"$type": "color", "$value": "red;}body{display:none}"}`, "not a color"},
		{`"x": {"$type": "color", "$value": "</style><script>alert(1)</script>"}`, "not a color"},
		{`"x": {"$type": "color", "$value": "url(http://x.example/a.png)"}`, "not a color"},
		{`"x": {"$type": "color", "$value": "red/*"}`, "not a color"},
		{`"x": {"$type": "color", "$value": {"colorSpace": "srgb", "components": [1, 0, 0], "hex": "#fff;}a{b:c"}}`,
			"not a color"},
		{`"x": {"$type": "dimension", "$value": {"value": 1, "unit": "px;}body{display:none}"}}`, "not a length"},
		{`"x": {"$type": "dimension", "$value": {"value": 1, "unit": "deg"}}`, "not a length"},
		{`"x": {"$type": "duration", "$value": {"value": 1, "unit": "px"}}`, "not a time"},
		{`"x": {"$type": "dimension", "$value": {"value": 2, "unit": "px;"}, "$extensions": {"ziegel": {"phone": {"value": 1, "unit": "px;"}}}}`, "not a length"},
		{`"x": {"$type": "fontFamily", "$value": ["Sora\";}a{b:c"]}`, "not the name of a family"},
		{`"x": {"$type": "fontFamily", "$value": "</style>"}`, "not the name of a family"},
		{`"x": {"$type": "fontFamily", "$value": []}`, "not the name of a family"},
		{`"x": {"$type": "shadow", "$value": {"color": {"colorSpace": "srgb", "components": [1, 0, 0]}, "offsetX": {"value": 1, "unit": "px"}, "offsetY": {"value": 1, "unit": "url(a)"}, "blur": {"value": 0, "unit": "px"}, "spread": {"value": 0, "unit": "px"}}}`, "not a shadow"},
		{`"x": {"$type": "cubicBezier", "$value": [2, 0, 0, 1]}`, "not a curve"},
		{`"x": {"$type": "fontWeight", "$value": 1200}`, "not a weight"},
		{`"type-display": {"$type": "number", "$value": 2}`, "both become --type-display"},
	} {
		for _, file := range []string{"theme.tokens.json", "theme.dark.tokens.json"} {
			if strings.Contains(c.want, "both") && strings.Contains(file, "dark") {
				continue
			}
			files := with(t, file, c.token)
			_, err := theme.Load("s", files, ".")
			require.ErrorContains(t, err, c.want, c.token)
			assert.Regexp(t, `^theme(\.dark)?\.tokens\.json:\d+:\d+: `, err.Error())
		}
	}
}

func TestTokensFromElsewhereAreCheckedWhereTheyStand(t *testing.T) {
	into := map[string]any{}
	err := theme.Decode("brand.tokens.json",
		[]byte("{\n  \"brand\": {\n    \"$type\": \"color\",\n    \"x\": {\"$value\": \"red;}body{display:none}\"}}}"), &into)
	require.ErrorContains(t, err,
		`brand.tokens.json:4:5: the token brand.x: "red;}body{display:none}" is not a color`)
	require.NoError(t, theme.Decode("brand.tokens.json",
		[]byte(`{"a": {"$type": "color", "$value": "{color.plain.ink}"}, "b": {"$value": "typed elsewhere"}, "c": {"$type": "typography", "$value": {}}}`), &into))
	require.ErrorContains(t, theme.Decode("brand.tokens.json", []byte("{\n}}"), &into), "brand.tokens.json:2:")
	require.ErrorContains(t, theme.Decode("brand.tokens.json", []byte("{\n\"a\": {\n \"b\": 1}}"), &into),
		"brand.tokens.json:3:2: a.b is neither a token nor a group of tokens")
	require.ErrorContains(t, theme.Decode("brand.tokens.json", []byte("{\n\"a\": {\"$type\": 1}}"), &into),
		"brand.tokens.json:2:1: a has a $type that is not a text")
	require.ErrorContains(t, theme.Decode("brand.tokens.json", []byte("[]"), &into), "this is a JSON array")
}

func TestNamesOfTokensStayInTheirDeclaration(t *testing.T) {
	for name, want := range map[string]string{"Brand / Primary": "--Brand---Primary: #112233;",
		"x;}body{display:none": "--x--body-display-none: #112233;", "größe": "--größe: #112233;", "a": "--a: #112233;"} {
		quoted, err := json.Marshal(name)
		require.NoError(t, err)
		th, err := theme.Load("s", with(t, "theme.tokens.json",
			string(quoted)+`: {"$type": "color", "$value": "#112233"}`), ".")
		require.NoError(t, err, name)
		assert.Contains(t, th.CSS(), want)
	}
}

func TestValuesThatAreFine(t *testing.T) {
	for token, want := range map[string]string{
		`"x": {"$type": "color", "$value": "rgb(1 2 3 / 40%)"}`:                                                                          "--x: rgb(1 2 3 / 40%);",
		`"x": {"$type": "color", "$value": {"colorSpace": "hsl", "components": [210, 40, 50]}}`:                                          "--x: hsl(210 40% 50%);",
		`"x": {"$type": "color", "$value": {"colorSpace": "display-p3", "components": [0.2, 0.4, 0.5], "alpha": 0.5}}`:                   "--x: color(display-p3 0.2 0.4 0.5 / 0.5);",
		`"x": {"$type": "color", "$value": {"colorSpace": "oklch", "components": [0.6, "none", 120]}}`:                                   "--x: oklch(0.6 none 120);",
		`"x": {"$type": "fontFamily", "$value": ["Atkinson Hyperlegible", "sans-serif", "2K Sans"]}`:                                     `--x: "Atkinson Hyperlegible", sans-serif, "2K Sans";`,
		`"x": {"$type": "fontWeight", "$value": "semi-bold"}`:                                                                            "--x: 600;",
		`"x": {"$type": "dimension", "$value": {"value": -1.5, "unit": "rem"}}`:                                                          "--x: -1.5rem;",
		`"x": {"$type": "shadow", "$value": {"color": "#00000033", "offsetX": "0px", "offsetY": "1px", "blur": "2px", "spread": "0px"}}`: "--x: 0px 1px 2px 0px #00000033;",
	} {
		th, err := theme.Load("s", with(t, "theme.tokens.json", token), ".")
		if assert.NoError(t, err, token) {
			assert.Contains(t, th.CSS(), want)
		}
	}
}

// A theme that keeps one scheme writes its colors once, for everybody.
func TestAThemeThatKeepsOneScheme(t *testing.T) {
	lamp := shipped(t, "lamplight")
	assert.Equal(t, "dark", lamp.Kept())
	css := lamp.CSS()
	assert.Contains(t, css, "color-scheme: dark;")
	assert.NotContains(t, css, "prefers-color-scheme")
	ground, _ := lamp.Token("color.plain.ground")
	assert.Contains(t, css, "--color-plain-ground: "+ground.Dark+";")
	assert.NotContains(t, css, "--treatment", "a treatment is no property")
	assert.Contains(t, lamp.Stylesheet(), "prefers-color-scheme", "what is exported has both")

	paper := shipped(t, "marram")
	assert.Empty(t, paper.Kept())
	assert.Contains(t, paper.CSS(), "prefers-color-scheme")
}
