package schema_test

import (
	"path/filepath"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"go.yaml.in/yaml/v3"

	"ziegel/core/project"
	"ziegel/core/schema"
	"ziegel/core/site"
	"ziegel/internal/testsite"
)

// compiled makes the schemas of a site ready.
func compiled(t testing.TB, e *project.Project, all bool) (page, main *jsonschema.Schema) {
	t.Helper()
	of := func(make func(*project.Project, bool) ([]byte, error)) *jsonschema.Schema {
		data, err := make(e, all)
		require.NoError(t, err)
		doc, err := jsonschema.UnmarshalJSON(strings.NewReader(string(data)))
		require.NoError(t, err)
		c := jsonschema.NewCompiler()
		require.NoError(t, c.AddResource("x.json", doc))
		s, err := c.Compile("x.json")
		require.NoError(t, err)
		return s
	}
	return of(schema.Page), of(schema.Site)
}

func read(t testing.TB, text string) any {
	t.Helper()
	var v any
	require.NoError(t, yaml.Unmarshal([]byte(text), &v))
	return v
}

// TestWhatShipsHoldsItsSchema holds the demos and templates against the schemas of their sites.
func TestWhatShipsHoldsItsSchema(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	for _, dir := range testsite.ShippedSites(t) {
		t.Run(dir, func(t *testing.T) {
			files := testsite.Shipped(t, dir)
			page, main := compiled(t, testsite.Open(t, testsite.Write(t, files)), false)
			require.NoError(t, main.Validate(read(t, files[site.FileName])))
			pages := 0
			for name, text := range files {
				if filepath.Dir(name) == "pages" {
					pages++
					assert.NoError(t, page.Validate(read(t, text)), name)
				}
			}
			require.NotZero(t, pages)
		})
	}
}

// TestWhatASchemaRefuses gives pages with a mistake each.
func TestWhatASchemaRefuses(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	page, main := compiled(t, testsite.With(t, "title: T\nblocks: []\n"), true)
	block := func(s string) string { return "blocks:\n  - {name: x, section: pricing/plans, " + s + "}\n" }
	for name, tt := range map[string]struct {
		text string
		ok   bool
	}{
		"a plain page":            {"title: T\nblocks:\n  - {name: x, section: hero/beside}\n", true},
		"a misspelt key":          {"titel: T\n", false},
		"no such section":         {"blocks: [{name: x, section: hero/nope}]\n", false},
		"no name":                 {"blocks: [{section: hero/beside}]\n", false},
		"a name in capitals":      {"blocks: [{name: X, section: hero/beside}]\n", false},
		"no such field":           {block("content: {headin: a}"), false},
		"a field":                 {block("content: {heading: 12}"), true},
		"a field of entries":      {block("content: {items: [{title: a, price: 1.50, points: [b, {text: c, icon: check}], link: {label: d, to: home}}]}"), true},
		"no field of entries":     {block("content: {items: [{titel: a}]}"), false},
		"an empty list":           {block("content: {items: }"), true},
		"a link with another key": {block("content: {items: [{link: {lable: d}}]}"), false},
		"a choice":                {block("options: {rows: own}"), true},
		"no choice":               {block("options: {rows: odd}"), false},
		"no option":               {block("options: {media: left}"), false},
		"an option at a range":    {block("options: {columns at phone: 1}"), true},
		"a part":                  {block("style: {card: {padding: 1rem}}"), true},
		"a part in states": {block("style: {'card[2]:hover': {padding: 1rem}, card at phone: {color: red}}"),
			true},
		"no part":             {block("style: {crad: {padding: 1rem}}"), false},
		"no property":         {block("style: {card: {paddin: 1rem}}"), false},
		"a private property":  {block("style: {card: {--x: 1}}"), true},
		"no tone":             {block("tone: dark"), false},
		"a slot":              {"blocks: [{name: x, section: layout/columns, holds: {left: [{name: y, section: piece/text}]}}]\n", true},
		"no slot":             {"blocks: [{name: x, section: layout/columns, holds: {middle: []}}]\n", false},
		"a mistake in a slot": {"blocks: [{name: x, section: layout/columns, holds: {left: [{name: y, section: piece/text, tone: z}]}}]\n", false},
	} {
		err := page.Validate(read(t, tt.text))
		assert.Equal(t, tt.ok, err == nil, "%s: %v", name, err)
	}
	for text, ok := range map[string]bool{"name: X\n": true, "nam: X\n": false, "address: https://x\n": false,
		"name: X\ntheme: nope\n": false, "name: X\nranges: {phone: ..599, wide: 1024..}\n": true, "name: X\nranges: {phone: small}\n": false,
		"name: X\naccept: [{rule: lone-item}]\n": false, "name: X\ntune: [{rule: a, because: b, severity: note, limit: 3}]\n": true,
		"name: X\nlooks: {lifted: {box-shadow: none}}\n": true, "name: X\nlooks: {lifted: {shadow: none}}\n": false,
		"name: X\ndefaults: {pricing/plans: {options: {rows: own}}}\n": true, "name: X\ndefaults: {pricing/plans: {options: {rows: x}}}\n": false,
		"name: X\nevery-page: {top: [{name: menu, section: nav/bar}]}\n": true, "name: X\nevery-page: {tops: []}\n": false} {
		err := main.Validate(read(t, text))
		assert.Equal(t, ok, err == nil, "%s: %v", text, err)
	}
}

// TestOnlyWhatIsUsedIsDescribed keeps the schema of a small site small.
func TestOnlyWhatIsUsedIsDescribed(t *testing.T) {
	e := testsite.With(t, "title: T\nblocks:\n  - {name: x, section: hero/beside}\n")
	few, err := schema.Page(e, false)
	require.NoError(t, err)
	all, err := schema.Page(e, true)
	require.NoError(t, err)
	assert.Contains(t, string(few), `"section hero/beside"`)
	assert.NotContains(t, string(few), `"section pricing/plans"`)
	assert.Contains(t, string(few), `"pricing/plans"`, "the others are named")
	assert.Contains(t, string(few), "home#x", "links complete to blocks of the site")
	assert.Greater(t, len(all), 3*len(few))
	again, err := schema.Page(e, false)
	require.NoError(t, err)
	assert.Equal(t, string(few), string(again), "the same site gives the same bytes")
}
