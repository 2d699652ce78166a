package compose_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/compose"
	"ziegel/core/project"
	"ziegel/stock"
)

// A page has another key when something has changed that it is made from, and the same one when something else has.
// Each row changes one file: of a table that never changed the key, none would be noticed.
func TestThePagesThatAChangeTouchesHaveAnotherKey(t *testing.T) {
	if testing.Short() {
		t.Skip("composes a site for every change")
	}
	files := map[string]string{
		"ziegel.yaml":          "name: L\nevery-page:\n  top:\n    - name: menu\n      section: nav/bar\n      content:\n        links:\n          - {label: Reasons, to: \"#reasons\"}\n          - {label: B, to: b}\n",
		"pages/a.yaml":         "title: A\nblocks:\n  - name: opening\n    section: hero/beside\n    content:\n      heading: One\n      media: {file: delta.svg, alt: A kite}\n      actions: [{label: Go, to: \"b#plans\"}]\n",
		"pages/b.yaml":         "title: B\nblocks:\n  - {name: plans, section: pricing/plans}\n  - {name: reasons, section: features/cards}\n",
		"pages/c.yaml":         "title: C\nblocks:\n  - {name: opening, section: hero/alone}\n",
		"media/delta.svg":      `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"/>`,
		"media/other.svg":      `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"/>`,
		"media/icons/kite.svg": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"/>`,
		"media/with space.svg": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"/>`,
		"data/team.csv":        "name\nInes\n",
	}
	for name, tt := range map[string]struct {
		change map[string]string
		other  string // pages whose key is another one afterwards
	}{
		"nothing":                         {nil, ""},
		"a heading":                       {map[string]string{"pages/a.yaml": files["pages/a.yaml"] + "# more\n"}, "a"},
		"words of a page that is linked":  {map[string]string{"pages/b.yaml": files["pages/b.yaml"] + "# more\n"}, "b"},
		"a name on a page that is linked": {map[string]string{"pages/b.yaml": "title: B\nblocks:\n  - {name: prices, section: pricing/plans}\n  - {name: reasons, section: features/cards}\n"}, "abc"},
		"the site": {map[string]string{"ziegel.yaml": files["ziegel.yaml"] + "language: de\n"},
			"abc"},
		"a picture that one shows":        {map[string]string{"media/delta.svg": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 20"/>`}, "a"},
		"a picture that none shows":       {map[string]string{"media/other.svg": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 20"/>`}, ""},
		"a picture whose name is no word": {map[string]string{"media/with space.svg": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 20"/>`}, "abc"},
		"an icon":                         {map[string]string{"media/icons/kite.svg": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 20"/>`}, "abc"},
		"tokens":                          {map[string]string{"theme.tokens.json": "{}"}, "abc"},
		"a section of the site's own":     {map[string]string{"sections/own/x/section.html": "<div></div>"}, "abc"},
		"another page":                    {map[string]string{"pages/d.yaml": "title: D\n"}, "abc"},
	} {
		t.Run(name, func(t *testing.T) {
			dir := t.TempDir()
			put := func(files map[string]string) {
				for n, text := range files {
					require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(dir, n)), 0o777))
					require.NoError(t, os.WriteFile(filepath.Join(dir, n), []byte(text), 0o666))
				}
			}
			keys := func(version string) map[string]string {
				e, _, err := project.Enter(dir, stock.Files)
				require.NoError(t, err)
				s := compose.SourcesOf(e, version)
				assert.Empty(t, e.Site.Read(), "no page is parsed")
				return map[string]string{"a": s.Key("a"), "b": s.Key("b"), "c": s.Key("c")}
			}
			put(files)
			was := keys("1")
			put(tt.change)
			now, other := keys("1"), ""
			for _, n := range []string{"a", "b", "c"} {
				if was[n] != now[n] {
					other += n
				}
			}
			assert.Equal(t, tt.other, other)
			assert.NotEqual(t, now, keys("2"), "another program")
		})
	}
}

// Blocks of two pages that look the same have one text, whatever the pages are called and wherever links lead. Words,
// pictures and styles that differ give another one, also where a word happens to be the name of the page.
func TestBlocksThatLookTheSameHaveOneText(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	block := func(text, more string) string {
		return "title: T\nblocks:\n  - name: opening\n    section: hero/beside\n    content:\n      heading: " +
			text + "\n      media: {file: delta.svg, alt: A kite}\n      actions: [{label: Go, to: kite}]\n" + more
	}
	of := func(page, yaml string) string {
		dir := t.TempDir()
		put := func(n, text string) {
			require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(dir, n)), 0o777))
			require.NoError(t, os.WriteFile(filepath.Join(dir, n), []byte(text), 0o666))
		}
		put("ziegel.yaml", "name: L\n")
		put("pages/kite.yaml", "title: K\n")
		put("media/delta.svg", `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"/>`)
		put("pages/"+page+".yaml", yaml)
		e, _, err := project.Open(dir, stock.Files)
		require.NoError(t, err)
		p, _ := compose.Compose(e, e.Site.Page(page), compose.Options{Marks: true})
		return compose.Faceless(e, p)
	}
	same := of("home", block("Made for wind", ""))
	assert.Equal(t, same, of("sail", block("Made for wind", "")))
	assert.NotEqual(t, same, of("sail", block("Made for winds", "")))
	assert.NotEqual(t, same, of("sail", block("Made for wind", "    style: {words: {padding: 1px}}\n")))
	assert.Equal(t, of("home", block("Made", "    style: {words: {padding: 1px}}\n")),
		of("sail", block("Made", "    style: {words: {padding: 1px}}\n")))
	assert.NotEqual(t, of("kite", block("The kite-maker", "")), of("sail", block("The sail-maker", "")))
	assert.NotEqual(t, of("kite", block("See ../kite-maker", "")), of("sail", block("See sail-maker", "")))
}
