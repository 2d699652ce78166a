package theme_test

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/theme"
	"ziegel/stock"
)

// shipped loads a shipped theme.
func shipped(t testing.TB, name string) *theme.Theme {
	t.Helper()
	th, err := theme.Load(name, stock.Files, "themes/"+name)
	require.NoError(t, err)
	return th
}

func object(t *testing.T, text string) map[string]any {
	t.Helper()
	out := map[string]any{}
	require.NoError(t, json.Unmarshal([]byte(text), &out), text)
	return out
}

func TestMergingKeepsWhatNobodyKnows(t *testing.T) {
	into := object(t, `{"space": {"$type": "dimension", "far": {"$value": {"value": 3, "unit": "rem"}, "$extensions": {"ziegel": {"phone": {"value": 2, "unit": "rem"}}, "studio.example": {"grid": 8}}}}}`)
	taken, err := theme.Merge(into,
		object(t, `{"$description": "Brand", "space": {"$type": "dimension", "far": {"$value": {"value": 5, "unit": "rem"}}, "near": {"$value": {"value": 1, "unit": "rem"}}}, "motif": {"$type": "gradient", "sail": {"$value": []}}}`))
	require.NoError(t, err)
	assert.Equal(t, theme.Taken{Changed: []string{"space.far"}, Added: []string{"motif.sail", "space.near"}}, taken)
	far := into["space"].(map[string]any)["far"].(map[string]any)
	assert.Equal(t, map[string]any{"studio.example": map[string]any{"grid": 8.0}}, far["$extensions"],
		"what another program noted stays; the size on phones belonged to the old value")
	assert.Equal(t, "Brand", into["$description"])
	again, err := theme.Merge(into, object(t, `{"space": {"near": {"$value": {"value": 1, "unit": "rem"}}}}`))
	require.NoError(t, err)
	assert.Equal(t, theme.Taken{Same: 1}, again)
}

func TestMergingRefusesWhatDoesNotFit(t *testing.T) {
	for from, want := range map[string]string{
		`{"space": {"far": {"deep": {"$value": 1}}}}`: "space.far is a group of tokens there and a token here",
		`{"space": {"$value": 3}}`:                    "space is a token there and a group of tokens here",
		`{"space": 3}`:                                "space is neither a token nor a group of tokens",
	} {
		_, err := theme.Merge(object(t, `{"space": {"far": {"$value": {"value": 3, "unit": "rem"}}}}`),
			object(t, from))
		assert.ErrorContains(t, err, want, from)
	}
	var out map[string]any
	assert.ErrorContains(t, theme.Decode("brand.json", []byte("{\n  \"a\": }"), &out), "brand.json:2:9")
}

// What a theme writes as custom properties is what it reads: nothing changes on the way out and back in.
func TestStylesheetsComeBackAsTheyWere(t *testing.T) {
	for _, name := range []string{"marram", "lamplight", "outline"} {
		th := shipped(t, name)
		light, dark, same, left := th.FromCSS(th.Stylesheet())
		assert.Empty(t, light, name)
		assert.Empty(t, dark, name)
		assert.Empty(t, left, name)
		assert.Greater(t, same, 80, name)
	}
}

func TestCustomPropertiesBecomeTokens(t *testing.T) {
	th := shipped(t, "marram")
	light, dark, _, left := th.FromCSS(`/* --type-body: 9px; */ :root { --color-plain-accent: #ABC; --space-far: clamp(2rem, 1rem + 2vw, 4rem); --face-body: "Marlow Sans", sans-serif; --brand-hem: 12px; --motion-quick: .2s; --odd: calc(1px + 1em) }
	@media (prefers-color-scheme: dark) { :root { --color-plain-accent: #ffeedd } }`)
	get := func(m map[string]any, path string) any {
		var at any = m
		for _, s := range strings.Split(path, ".") {
			at = at.(map[string]any)[s]
		}
		return at
	}
	assert.Equal(t, "#aabbcc", get(light, "color.plain.accent.$value.hex"))
	assert.Equal(t, "#ffeedd", get(dark, "color.plain.accent.$value.hex"))
	assert.Equal(t, 4.0, get(light, "space.far.$value.value"))
	assert.Equal(t, 2.0, get(light, "space.far.$extensions.ziegel.phone.value"))
	assert.Equal(t, []string{"Marlow Sans", "sans-serif"}, get(light, "face.body.$value"))
	assert.Equal(t, "dimension", get(light, "brand-hem.$type"), "a name that the theme does not have stays whole")
	assert.Equal(t, "s", get(light, "motion.quick.$value.unit"))
	assert.Nil(t, light["type"], "comments say nothing")
	require.Len(t, left, 1)
	assert.Contains(t, left[0], "--odd: calc(1px + 1em)")
}

func TestTypedTokens(t *testing.T) {
	for _, tt := range []struct {
		kind, typed string
		want        any
		err         string
	}{
		{"color", "#1F6B4F", theme.ColorValue("#1f6b4f"), ""},
		{"color", "green", nil, "write #rrggbb"},
		{"color", "{brand.sea}", "{brand.sea}", ""},
		{"dimension", "1.5rem", map[string]any{"value": 1.5, "unit": "rem"}, ""},
		{"dimension", "160ms", nil, "such as 1.5rem"},
		{"duration", "160ms", map[string]any{"value": 160.0, "unit": "ms"}, ""},
		{"duration", "1rem", nil, "such as 160ms"},
		{"number", "1.25", 1.25, ""},
		{"number", "wide", nil, "is no number"},
		{"fontFamily", `"Marlow Sans", sans-serif`, []string{"Marlow Sans", "sans-serif"}, ""},
		{"shadow", "0 1px", nil, "are changed in theme.tokens.json"},
	} {
		got, err := theme.ParseToken(tt.kind, tt.typed)
		if tt.err != "" {
			assert.ErrorContains(t, err, tt.err, tt.typed)
			continue
		}
		require.NoError(t, err, tt.typed)
		assert.Equal(t, tt.want, got, tt.typed)
	}
}

func TestColorsNamedByTheirHueGetARole(t *testing.T) {
	files := marram(t)
	root := object(t, string(files["theme.tokens.json"].Data))
	root["brand"] = map[string]any{"$type": "color", "red-500": map[string]any{"$value": "#c23815"},
		"ink-blue": map[string]any{"$value": "#112a30"}, "sailcloth": map[string]any{"$value": "#c23815"}}
	data, err := json.Marshal(root)
	require.NoError(t, err)
	files["theme.tokens.json"].Data = data
	th, err := theme.Load("s", files, ".")
	require.NoError(t, err)
	names, roles := th.HueNamed()
	assert.Equal(t, []string{"brand.ink-blue", "brand.red-500"}, names)
	assert.Equal(t, []string{"ink", "accent"}, roles, "the role of the nearest color")
}

// FuzzTokens: whatever stands in a token file, it is read or refused, and what was read can be written as CSS and
// read again.
func FuzzTokens(f *testing.F) {
	files, _ := filepath.Glob("../../stock/themes/*/theme*.json")
	for _, name := range files {
		data, err := os.ReadFile(name)
		if err != nil {
			f.Fatal(err)
		}
		f.Add(data)
	}
	f.Add([]byte(`{"a": {"$type": "color", "$value": "{b}"}, "b": {"$value": "{a}"}}`))
	base := shipped(f, "marram")
	f.Fuzz(func(t *testing.T, data []byte) {
		th, err := theme.Load("fuzz", fstest.MapFS{"theme.tokens.json": {Data: data}}, ".")
		if err != nil {
			if th != nil {
				t.Fatal("a theme and an error")
			}
			return
		}
		_ = th.CSS()
		_ = th.Unreadable()
		_, _ = th.Pictures()
		_, _, _, _ = base.FromCSS(th.Stylesheet())
	})
}

// FuzzProperties: a stylesheet gives tokens that the theme itself can load.
func FuzzProperties(f *testing.F) {
	base := shipped(f, "marram")
	f.Add(base.Stylesheet())
	f.Add(":root{--a:#fff;--b: clamp(1rem, 2vw, 3rem)} @media (prefers-color-scheme: dark) { :root { --a: #000; ")
	f.Fuzz(func(t *testing.T, source string) {
		light, dark, _, _ := base.FromCSS(source)
		for _, m := range []map[string]any{light, dark} {
			data, err := json.Marshal(m)
			if err != nil {
				t.Fatal(err)
			}
			var back map[string]any
			if err := theme.Decode("a.json", data, &back); err != nil {
				t.Fatal(err)
			}
			if _, err := theme.Merge(map[string]any{}, back); err != nil {
				t.Fatalf("%v\n%s", err, data)
			}
		}
	})
}

// Tokens nested thousands deep are refused with their place before anything is made of them; braces in texts do not
// count.
func TestTokensAreNotNestedForEver(t *testing.T) {
	deep := strings.Repeat(`{"a":`, 9000) + "1" + strings.Repeat("}", 9000)
	_, err := theme.Load("deep", fstest.MapFS{"theme.tokens.json": {Data: []byte("{\n" + deep[1:])}}, ".")
	require.ErrorContains(t, err, "theme.tokens.json:2:160: tokens are nested over 32 deep")
	var out map[string]any
	require.ErrorContains(t, theme.Decode("in.json", []byte(deep), &out), "in.json:1:161: tokens are nested")
	require.NoError(t, theme.Decode("in.json", []byte(`{"$description": "`+strings.Repeat("{[", 90)+`\"{"}`), &out))
	require.NoError(t, theme.Decode("in.json", []byte("{"+strings.Repeat(`"a": {"b": {"$value": [1]}}, `, 90)+
		`"c": {}}`), &out))
}
