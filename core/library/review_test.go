package library_test

import (
	"fmt"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/stock"
)

// sharedClasses are those of the shipped base stylesheet.
func sharedClasses(t *testing.T) map[string]bool {
	t.Helper()
	base, err := project.Base(stock.Files)
	require.NoError(t, err)
	e := &project.Project{}
	e.SetBase(base)
	return e.SharedClasses()
}

// The shipped sections are as authors are told to write theirs, and each takes eyebrow, heading, lead and actions.
func TestShippedSectionsPassTheReview(t *testing.T) {
	lib, problems := library.Load("sections", stock.Files)
	require.NoError(t, problems.Err())
	shared := sharedClasses(t)
	for _, s := range lib.All() {
		for _, p := range library.Review(s, shared) {
			assert.NotContains(t, []diag.Severity{diag.Error, diag.Warning}, p.Severity, "%s", p)
			assert.NotEqual(t, "missing-field", p.Rule, "%s", p)
		}
	}
}

// one loads a library of one section.
func one(t *testing.T, html, css, yaml string) *library.Section {
	t.Helper()
	files := fstest.MapFS{"sections/mine/one/section.html": {Data: []byte(html)},
		"sections/mine/one/section.css": {Data: []byte(css)}, "sections/mine/one/section.yaml": {Data: []byte("name: mine/one\nkind: mine\nsummary: Mine.\n" + yaml)}}
	lib, problems := library.Load("sections", files)
	require.NoError(t, problems.Err())
	return lib.Section("mine/one")
}

const whole = `<body><section class="lanes root"><p data-field="eyebrow"></p><h2 data-field="heading"></h2><p data-field="lead"></p><p><a data-each="actions" data-field="."></a></p>%s</section></body>`

// Each mistake of an author is told by its rule, at its line.
func TestMistakesOfAuthorsAreTold(t *testing.T) {
	shared := sharedClasses(t)
	for _, tt := range []struct {
		name, inside, css, yaml string
		rule, file, text        string
	}{
		{"a mark that nothing reads", `<p data-feild="x"></p>`, "", "", "unknown-mark", "section.html",
			"nothing reads the mark data-feild"},
		{"a type that pages do not tell", `<p data-means="FaqPage"></p>`, "", "", "unknown-mark", "section.html",
			`the type "FaqPage"`},
		{"a property of another type", `<p data-means="Product price"></p>`, "", "", "unknown-mark", "section.html",
			`Product has no property "price"`},
		{"a property of nothing", `<p data-means="name"></p>`, "", "", "unknown-mark", "section.html",
			"no element around it begins an item"},
		{"a property of an item in an item", `<p data-means="Product offers Offer price"></p>`, "", "", "", "", ""},
		{"an input that nobody fills in", `<form><input type="email" name="mail" data-part="mail"></form>`, "", "",
			"no-autofill", "section.html", "of the type email"},
		{"one that browsers fill in", `<form><input type="tel" name="t" autocomplete="tel"></form>`, "", "", "", "",
			""},
		{"a mark without a name", `<p data-part=""></p>`, "", "", "unknown-mark", "section.html",
			"data-part names nothing"},
		{"a condition on no field", `<p data-when="picture"></p>`, "", "", "unknown-field", "section.html",
			`data-when asks for a field "picture"`},
		{"a field in a field", `<p data-field="text">A <em data-field="name">b</em></p>`, "", "", "nested-field",
			"section.html", "the field text has another field inside"},
		{"a color by hand", `<p class="a"></p>`, ".a { color: #123 }", "", "by-hand", "section.css",
			"writes a color by hand"},
		{"a color in a rule within another", `<p class="a"></p>`, ".a { &:hover { color: #123 } }", "", "by-hand",
			"section.css", "writes a color by hand"},
		{"a font by hand", `<p class="a"></p>`, ".a { font-family: Georgia }", "", "by-hand", "section.css",
			"writes a font by hand"},
		{"a size of text by hand", `<p class="a"></p>`, ".a { font-size: 18px }", "", "by-hand", "section.css",
			"writes a size of text by hand"},
		{"a distance by hand", `<p class="a"></p>`, ".a { padding-top: 2rem }", "", "by-hand", "section.css",
			"writes a distance by hand"},
		{"a hairline is none", `<p class="a"></p>`, ".a { margin-top: 3px; gap: .5rem }", "", "", "", ""},
		{"the screen is asked", `<p class="a"></p>`, "@media (width < 600px) { .a { order: 1 } }", "", "asks-screen",
			"section.css", "stacks wrong in half of a page"},
		{"the room is asked", `<p class="a"></p>`, "@container (width < 40rem) { .a { order: 1 } }", "", "", "", ""},
		{"motion may be asked for", `<p class="a"></p>`, "@media (prefers-reduced-motion: reduce) { .a { order: 1 } }",
			"", "", "", ""},
		{"a class that nothing has", "", ".b { order: 1 }", "", "unused-class", "section.css",
			"nothing in section.html has the class b"},
		{"a class that no rule has", `<p class="c" data-part="c"></p>`, "", "", "unused-class", "section.html",
			"no rule asks for the class c"},
		{"a part that no rule has", `<p class="c" data-part="cell"></p>`, "", "", "unstyled-part", "section.html",
			"no rule speaks of the part cell"},
		{"an id", `<p id="x"></p>`, "#x { order: 1 }", "", "id-selector", "section.css",
			"a second block of the section would have it too"},
		{"a tag", `<p class="a"></p>`, ".a p { order: 1 }", "", "tag-selector", "section.css", "a rule for every p"},
		{"a pseudo-class is no tag", `<p class="a"></p>`, ".a:first-child { order: 1 }", "", "", "", ""},
		{"important", `<p class="a"></p>`, ".a { order: 1 !important }", "", "important", "section.css",
			"keeps sites and blocks from changing it"},
		{"a width of its own", `<p class="a"></p>`, ".a { min-width: max-content }", "", "own-width", "section.css",
			"takes a width that the room does not give"},
		{"a share of the screen", `<p class="a"></p>`, ".a { width: 50vw }", "", "own-width", "section.css",
			"takes a width that the room does not give"},
		{"an option that does nothing", "", "",
			"options: {side: {summary: a, choices: [left, right], default: left}}\n", "dead-option", "section.yaml", "no rule asks for the option side"},
		{"a default that is no choice", "", `.root[data-side="left"] { order: 1 }`,
			"options: {side: {summary: a, choices: [left, right], default: top}}\n", "bad-option", "section.yaml", `the default "top" of side is none of its choices`},
	} {
		t.Run(tt.name, func(t *testing.T) {
			s := one(t, fmt.Sprintf(whole, "\n"+tt.inside), "\n"+tt.css, tt.yaml)
			var told []string
			for _, p := range library.Review(s, shared) {
				told = append(told, p.String())
				if p.Rule == tt.rule && strings.Contains(p.Text, tt.text) {
					assert.True(t, strings.HasSuffix(p.File, tt.file), p.File)
					assert.Positive(t, p.Line)
					return
				}
			}
			if tt.rule == "" {
				assert.Empty(t, told)
				return
			}
			assert.Fail(t, "not told", "%s: %s\ntold: %s", tt.rule, tt.text, strings.Join(told, "\n"))
		})
	}
}

func TestASectionWithoutLanesIsTold(t *testing.T) {
	s := one(t, `<body><section class="root"><h2 data-field="heading">A</h2></section></body>`, "", "")
	rules := map[string]int{}
	for _, p := range library.Review(s, nil) {
		rules[p.Rule]++
	}
	assert.Equal(t, map[string]int{"no-root": 1, "missing-field": 3}, rules)
}

// Files that a section lacks or that cannot be read are told, and the others of the library are there all the same.
func TestBrokenSectionsLeaveTheOthersAlone(t *testing.T) {
	good := func(files fstest.MapFS) fstest.MapFS {
		files["sections/mine/good/section.html"] = &fstest.MapFile{Data: []byte(`<body><p class="lanes root" data-field="text">A</p></body>`)}
		files["sections/mine/good/section.css"] = &fstest.MapFile{Data: []byte("")}
		files["sections/mine/good/section.yaml"] = &fstest.MapFile{Data: []byte("name: mine/good\nkind: mine\nsummary: Good.\n")}
		return files
	}
	for _, tt := range []struct {
		name  string
		files fstest.MapFS
		want  string
	}{
		{"a file missing", fstest.MapFS{"sections/mine/bad/section.html": {Data: []byte("<body><p>A</p></body>")}},
			"a section needs this file"},
		{"an empty body", fstest.MapFS{"sections/mine/bad/section.html": {Data: []byte("<body></body>")},
			"sections/mine/bad/section.css": {}, "sections/mine/bad/section.yaml": {Data: []byte("summary: A\n")}}, "the body is empty"},
		{"a measured condition on no part",
			fstest.MapFS{"sections/mine/bad/section.html": {Data: []byte(`<body><p class="lanes root">A</p></body>`)},
				"sections/mine/bad/section.css": {}, "sections/mine/bad/section.yaml": {Data: []byte("summary: A\nmeasured: {columns: {summary: a, fit: card}}\n")}}, "card"},
	} {
		t.Run(tt.name, func(t *testing.T) {
			lib, problems := library.Load("sections", good(tt.files))
			require.NotNil(t, lib.Section("mine/good"))
			assert.ErrorContains(t, problems.Err(), tt.want)
			for _, p := range problems {
				assert.True(t, strings.HasPrefix(p.File, "sections/mine/bad/"), p.File)
			}
		})
	}
}

// A site's own section of the same name goes before a shipped one.
func TestOwnSectionsGoFirst(t *testing.T) {
	own := fstest.MapFS{"sections/hero/beside/section.html": {Data: []byte(`<body><section class="lanes root"><h2 data-field="heading">Mine</h2></section></body>`)}, "sections/hero/beside/section.css": {}, "sections/hero/beside/section.yaml": {Data: []byte("name: hero/beside\nkind: hero\nsummary: Mine.\n")}}
	lib, problems := library.Load("sections", stock.Files, own)
	require.NoError(t, problems.Err())
	assert.Equal(t, "Mine.", lib.Section("hero/beside").Summary)
	assert.NotNil(t, lib.Section("hero/alone"))
	assert.Equal(t, "hero/beside", lib.Nearest("hero/besid"))
}
