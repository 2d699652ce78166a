package project_test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/internal/testsite"
	"ziegel/stock"
)

const twoBlocks = "title: T\nblocks:\n  - name: plans\n    section: pricing/plans\n  - name: words\n    section: piece/text\n"

func names(list []*site.Block) string {
	var out []string
	for _, b := range list {
		out = append(out, b.Name)
	}
	return strings.Join(out, " ")
}

// What differs from an open project is another one; the first stays as it was.
func TestVariationsLeaveTheProjectAsItIs(t *testing.T) {
	e := testsite.With(t, twoBlocks, "every-page:\n  bottom:\n    - name: end\n      section: footer/line\n")
	home := e.Site.Page("home")
	require.Equal(t, "plans words end", names(e.All(home)))

	changed := *e.All(home)[0]
	changed.Tone = "deep"
	other, page := e.WithBlock(home, &changed)
	assert.Equal(t, "deep", other.All(page)[0].Tone)
	assert.Equal(t, "plans words end", names(other.All(page)))
	assert.Same(t, page, other.Site.Page("home"), "the page is the site's")

	varied, page := e.Vary(home, func(b *site.Block) *site.Block {
		c := *b
		c.Name = "x-" + b.Name
		return &c
	})
	assert.Equal(t, "x-plans x-words x-end", names(varied.All(page)))

	alone := &site.Page{Name: "only", File: home.File, Blocks: home.Blocks[:1]}
	bare := e.Alone(alone)
	assert.Equal(t, []string{"only"}, bare.Site.PageNames())
	assert.Equal(t, "plans", names(bare.All(alone)), "nothing stands on every page")
	assert.Equal(t, []string{"home"}, e.Only(home).Site.PageNames())

	next, problems, err := e.With([]site.FileChange{{Path: "pages/home.yaml", Before: twoBlocks,
		After: "title: T\nblocks: []\n"}})
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	assert.Equal(t, "end", names(next.All(next.Site.Page("home"))))

	assert.Equal(t, "", e.All(home)[0].Tone)
	assert.Equal(t, "plans words end", names(e.All(home)))
}

// Changes that nobody has written yet are read as if they were: sections, tokens, files that are new or gone.
func TestUnwrittenChangesAreRead(t *testing.T) {
	e := testsite.With(t, twoBlocks)
	section := `<div class="lanes root"><p class="type-lead" data-field="text" data-part="text">Sample</p></div>`
	next, problems, err := e.With([]site.FileChange{
		{Path: "sections/own/note/section.html",
			After: "<!doctype html><html lang=en><head><title>x</title></head><body>" + section +
				"</body></html>", New: true},
		{Path: "sections/own/note/section.css", After: ".text { color: red }\n", New: true},
		{Path: "sections/own/note/section.yaml", After: "name: own/note\nsummary: a note\n", New: true},
	})
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	require.NotNil(t, next.Library.Section("own/note"))
	assert.Nil(t, e.Library.Section("own/note"))
	assert.NoFileExists(t, filepath.Join(e.Site.Dir, "sections/own/note/section.html"))
}

// Pages of a built site are those of the site and one for addresses that do not exist.
func TestPagesThatAreBuilt(t *testing.T) {
	e := testsite.With(t, twoBlocks)
	assert.Equal(t, []string{"404", "home"}, sorted(e.BuiltPages()))
	assert.False(t, e.Site.HasPage("404"))
	assert.Equal(t, "404", e.BuiltPage("404").Name)
	assert.Same(t, e.Site.Page("home"), e.BuiltPage("home"))
	for name, want := range map[string]string{"home": "index.html", "courses": "courses/index.html",
		"404": "404.html"} {
		assert.Equal(t, want, project.PagePath(name))
	}
}

func sorted(list []string) []string {
	out := append([]string{}, list...)
	for i := range out {
		for j := range i {
			if out[i] < out[j] {
				out[i], out[j] = out[j], out[i]
			}
		}
	}
	return out
}

func TestSpansAndRanges(t *testing.T) {
	e := testsite.With(t, twoBlocks, "ranges: {small: ..499, middle: 500..899, large: 900..}\n")
	for text, want := range map[string][2]int{"small": {0, 499}, "middle": {500, 899}, "large": {900, 0},
		"480..719": {480, 719}, "..599": {0, 599}, "1024..": {1024, 0}} {
		from, to, ok := e.Span(text)
		require.True(t, ok, text)
		assert.Equal(t, want, [2]int{from, to}, text)
	}
	for _, text := range []string{"phone", "", "x..y", "700..600"} {
		_, _, ok := e.Span(text)
		assert.False(t, ok, text)
	}
	assert.Equal(t, []string{"small", "middle", "large"}, e.RangeNames())
}

// A page speaks the site's language, the nearest there is, or English and says so.
func TestWordsOfPages(t *testing.T) {
	for language, marked := range map[string]string{"en": "", "de": "", "de-CH": "", "tlh": "en"} {
		word, lang := testsite.With(t, twoBlocks, "language: "+language+"\n").Word("skip")
		assert.NotEmpty(t, word)
		assert.Equal(t, marked, lang, language)
	}
}

// Every family of a theme that has files has a stand-in of the reader's machine, scaled to it.
func TestFontsHaveStandIns(t *testing.T) {
	e := testsite.With(t, twoBlocks)
	require.NotEmpty(t, e.Fonts)
	for _, f := range e.Fonts {
		local, m, ok := e.StandIn(f)
		require.True(t, ok, f.Name)
		assert.NotEmpty(t, local)
		assert.InDelta(t, 100, m.Size, 35, f.Name)
		assert.Positive(t, m.Ascent)
		data, err := e.FontData(f)
		require.NoError(t, err)
		assert.NotEmpty(t, data)
	}
	_, _, ok := e.StandIn(project.FontFile{Family: "None", Weight: 400, Name: "none.woff2"})
	assert.False(t, ok)
}

// Files below media/ are the site's own before those that ship; what only a browser would run is told and left out.
func TestMediaFiles(t *testing.T) {
	e := testsite.Open(t, testsite.Write(t, map[string]string{"ziegel.yaml": "name: L\n", "pages/home.yaml": twoBlocks,
		"media/wave.svg": `<svg xmlns="http://www.w3.org/2000/svg" width="40" height="30"><script>1</script></svg>`}))
	w, h, err := e.PictureSize("wave.svg")
	require.NoError(t, err)
	assert.Equal(t, []float64{40, 30}, []float64{w, h})
	data, err := e.MediaFile("wave.svg")
	require.NoError(t, err)
	assert.NotContains(t, string(data), "script")
	assert.NotEmpty(t, e.MoreThanDrawn("wave.svg"))
	assert.Empty(t, e.MediaStamp("wave.svg"), "a drawing takes the colors of the theme")
	photo := filepath.Join(e.Site.Dir, "media/a.png")
	require.NoError(t, os.WriteFile(photo, []byte("one"), 0o666))
	stamp := e.MediaStamp("a.png")
	require.NotEmpty(t, stamp)
	require.NoError(t, os.WriteFile(photo, []byte("other"), 0o666))
	assert.NotEqual(t, stamp, e.MediaStamp("a.png"))
	assert.Empty(t, e.MediaStamp("../ziegel.yaml"))
	_, err = e.MediaFile("../ziegel.yaml")
	require.Error(t, err)
	_, _, err = e.PictureSize("none.png")
	require.Error(t, err)
	for address, want := range map[string]string{"media/a%20b.png": "a b.png", "../media/x/y.svg": "x/y.svg"} {
		name, ok := project.MediaName(address)
		assert.True(t, ok)
		assert.Equal(t, want, name)
	}
	_, ok := project.MediaName("https://a.example/x.png")
	assert.False(t, ok)
	assert.Equal(t, "a%20b%2Cc%28d%29.png", project.URLPath("a b,c(d).png"),
		"no comma parts a srcset, no bracket ends an address")
}

// Mistakes of the site are told when it is opened, those of a page when it is asked for.
func TestMistakesOfASite(t *testing.T) {
	dir := testsite.Write(t, map[string]string{"ziegel.yaml": "name: L\nlooks:\n  note: {paddin: 1rem}\n",
		"pages/home.yaml": "title: T\nblocks: 3\n"})
	e, problems, err := project.Open(dir, stock.Files)
	require.NoError(t, err)
	var text []string
	for _, p := range problems {
		text = append(text, p.Text)
	}
	assert.Contains(t, strings.Join(text, "\n"), `there is no CSS property "paddin"`)
	assert.Error(t, e.Mistakes(e.Site.Page("home")).Err())
	_, _, err = project.Open(t.TempDir(), stock.Files)
	assert.ErrorIs(t, err, os.ErrNotExist)
}
