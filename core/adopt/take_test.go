package adopt_test

import (
	"io/fs"
	"os"
	"path"
	"regexp"
	"strings"
	"testing"
	"testing/fstest"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"ziegel/core/adopt"
	"ziegel/core/check"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/internal/testsite"
	"ziegel/stock"
)

func shelf(t testing.TB) *project.Project {
	t.Helper()
	env, problems, err := project.Shelf(stock.Files)
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	return env
}

// folder makes a source of pages.
func folder(files map[string]string) fstest.MapFS {
	out := fstest.MapFS{}
	for name, text := range files {
		out[name] = &fstest.MapFile{Data: []byte(text)}
	}
	return out
}

const picture = `<svg xmlns="http://www.w3.org/2000/svg" width="40" height="30"><path d="M0 0h9"/></svg>`

func take(t testing.TB, files map[string]string, names ...string) *adopt.Taking {
	t.Helper()
	got, err := adopt.Take(shelf(t), adopt.Wanted{Folder: folder(files), Files: names})
	require.NoError(t, err)
	return got
}

func TestPagesShareWhatTheyHaveInCommon(t *testing.T) {
	page := func(title, here, body string) string {
		return `<!doctype html><title>` + title +
			` | Pike Lane</title><header><a href="/index.html">Pike Lane</a> <nav><a href="/index.html#rooms">Rooms</a> <a href="` + here + `">Way</a> <a href="tel:+1">Call</a></nav></header><main>` + body + `</main><footer><p>© 2020 Pike Lane</p></footer>`
	}
	got := take(t, map[string]string{
		"index.html": page(
			"Rooms",
			"/way/index.html",
			`<section id="top"><h1>Sleep late</h1><p>Nobody rings.</p></section><section id="rooms"><h2>Rooms</h2><div class="g"><div><h3>One</h3><p>Small.</p></div><div><h3>Two</h3><p>Large.</p></div></div></section>`,
		),
		"way/index.html": page(
			"Way",
			"/way/",
			`<section><h1>Behind the mill</h1><p><a href="../index.html#rooms">The rooms</a></p></section>`,
		),
	}, "index.html", "way/index.html")
	require.Len(t, got.Pages, 2)
	assert.Equal(t, "Pike Lane", got.Name)
	assert.Equal(t, []string{"home", "way"}, []string{got.Pages[0].Name, got.Pages[1].Name})
	assert.Equal(t, []string{"Rooms", "Way"}, []string{got.Pages[0].Title, got.Pages[1].Title})
	require.Len(t, got.Top, 1)
	require.Len(t, got.Bottom, 1)
	links := got.Top[0].Content.Get("links")
	require.NotNil(t, links)
	assert.Equal(t, "home#rooms", links.Items[0].Get("to").Str())
	assert.Equal(t, "home#rooms", got.Pages[1].Bands[0].Content.Get("actions").Items[0].Get("to").Str())
	assert.Equal(t, "home", got.Top[0].Content.Get("brand").Get("to").Str())
}

// TestNothingOutsideIsRead gives pages that point everywhere; the source notes what is asked for.
func TestNothingOutsideIsRead(t *testing.T) {
	files := folder(map[string]string{
		"old/index.html": `<!doctype html><title>x</title><link rel="stylesheet" href="/../../etc/passwd"><link rel="stylesheet" href="file:///etc/passwd"><link rel="stylesheet" href="https://h.example/a.css">
<style>@import "../../up.css";@import "in.css";@font-face{font-family:F;src:url(../../f.woff2)}section{background:url(../../../etc/shadow)}</style>
<section><h1>Hello there</h1><p>Some words</p><img src="../../x.svg" alt="x"><img src="C:\x.png" alt="y"><img src="%2e%2e/%2e%2e/z.svg" alt="z"><img src="in.svg" width="400" alt="in">
<a href="../../../../etc/passwd">a</a><a href="file:///etc/hosts">b</a><a href="javascript:alert(1)">c</a><a href="data:text/html,x">d</a><a href="gopher://x">e</a><a href="https://h.example/x">out</a></section>`,
		"old/in.css": "p{color:red}", "old/in.svg": `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="300" onload="x()"><script>alert(1)</script><path d="M0 0h9"/></svg>`,
		"x.svg": picture, "up.css": "p{color:blue}"})
	asked := &noted{FS: files}
	sub, err := fs.Sub(asked, "old")
	require.NoError(t, err)
	got, err := adopt.Take(shelf(t), adopt.Wanted{Folder: sub, Files: []string{"index.html"}})
	require.NoError(t, err)
	for _, name := range asked.names {
		assert.True(t, strings.HasPrefix(name, "old/"), "%s was asked for", name)
	}
	assert.Equal(t, []string{"in.svg"}, got.Media.Names())
	assert.NotContains(t, string(got.Media.Files["in.svg"]), "script")
	assert.NotContains(t, string(got.Media.Files["in.svg"]), "onload")
	all := written(got)
	for _, bad := range []string{"javascript:", "file:", "data:", "gopher:", "passwd ->"} {
		assert.NotContains(t, strings.Split(all, "left out")[0], bad)
	}
	assert.Contains(t, all, "left out: a link that runs a script")
	assert.Contains(t, all, "left out: a link to a file of this computer")
	assert.Contains(t, all, `out -> https://h.example/x`)
}

type noted struct {
	fs.FS
	names []string
}

func (n *noted) Open(name string) (fs.File, error) {
	n.names = append(n.names, name)
	return n.FS.Open(name)
}

func TestWhatCannotBeTaken(t *testing.T) {
	tests := []struct{ name, html, want string }{
		{"nothing", "<!doctype html><title>x</title>", "it shows nothing"},
		{"no page", "\x00\x01\x02\x03", "not an HTML file"},
		{"too deep", strings.Repeat("<div>", 5000) + "x", "nested deeper"},
		{"too much", strings.Repeat("x", 17<<20), "17 MB"},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) {
			_, err := adopt.Take(
				shelf(t),
				adopt.Wanted{Folder: folder(map[string]string{"a.html": tt.html}), Files: []string{"a.html"}},
			)
			require.ErrorContains(t, err, tt.want)
			require.ErrorContains(t, err, "a.html")
		})
	}
}

func TestPicturesComeAlongOnce(t *testing.T) {
	got := take(t, map[string]string{
		"index.html":    `<!doctype html><title>x</title><section><h1>One of two</h1><p>Words</p><img src="a/Big One.svg" srcset="a/small.svg 200w, a/Big%20One.svg 800w" alt="A"></section><section><h2>More</h2><p>Words</p><img src="b/small.svg" alt="B"></section><section><h2>Last</h2><p>Words</p><img src="a/Big%20One.svg" alt="C"></section>`,
		"a/Big One.svg": picture, "a/small.svg": picture + " ", "b/small.svg": picture + "\n"}, "index.html")
	assert.Equal(t, []string{"big-one.svg", "small.svg"}, got.Media.Names())
	bands := got.Pages[0].Bands
	assert.Equal(t, "big-one.svg", bands[0].Content.Get("media").Get("file").Str())
	assert.Equal(t, "big-one.svg", bands[2].Content.Get("media").Get("file").Str())
}

// TestMostWordsAreKept counts what of the letters that pages show ends in fields.
func TestMostWordsAreKept(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	const dir = "testdata/pages"
	list, err := os.ReadDir(dir)
	require.NoError(t, err)
	env := shelf(t)
	pages, words, kept := 0, 0, 0
	for _, f := range list {
		if path.Ext(f.Name()) != ".html" {
			continue
		}
		pages++
		got, err := adopt.Take(env, adopt.Wanted{Folder: os.DirFS(dir), Files: []string{f.Name()}})
		require.NoError(t, err)
		said := map[string]bool{}
		for _, b := range append(append(got.Pages[0].Every(), got.Top...), got.Bottom...) {
			values := map[string]string{}
			leaves(values, "", b.Content)
			for _, v := range values {
				for _, w := range strings.FieldsFunc(v, notLetter) {
					said[w] = true
				}
			}
		}
		data, err := os.ReadFile(dir + "/" + f.Name())
		require.NoError(t, err)
		here, have := 0, 0
		for _, w := range wordsOf(t, string(data)) {
			here++
			if said[w] {
				have++
			}
		}
		if have*100 < here*80 {
			t.Errorf("%s: %d of %d words", f.Name(), have, here)
		}
		words, kept = words+here, kept+have
	}
	t.Logf("%d pages: %d of %d words are in fields (%.1f %%)", pages, kept, words, 100*float64(kept)/float64(words))
	require.GreaterOrEqual(t, pages, 25)
	require.GreaterOrEqual(t, float64(kept), .97*float64(words))
}

func notLetter(r rune) bool {
	return !(r >= '0' && r <= '9' || r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r > 0xbf && r != '–' && r != '—' &&
		r != '“' && r != '”' && r != '„')
}

// wordsOf lists the words of a page's body.
func wordsOf(t testing.TB, page string) []string {
	doc, err := html.Parse(strings.NewReader(page))
	require.NoError(t, err)
	var out []string
	var walk func(n *html.Node)
	walk = func(n *html.Node) {
		switch {
		case n.Type == html.TextNode:
			out = append(out, strings.FieldsFunc(strings.ToValidUTF8(n.Data, ""), notLetter)...)
		case n.Data == "script" || n.Data == "style" || n.Data == "head":
			return
		}
		for k := n.FirstChild; k != nil; k = k.NextSibling {
			walk(k)
		}
	}
	walk(doc)
	return out
}

// TestALongPage takes a page of many bands: each once, in order.
func TestALongPage(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	var b strings.Builder
	b.WriteString("<!doctype html><title>Long</title>")
	for range 120 {
		b.WriteString(
			`<section><h2>Heading</h2><p>A text about it.</p><ul class="g"><li><h3>A</h3><p>x of it</p></li><li><h3>B</h3><p>y of it</p></li></ul></section>`,
		)
	}
	got := take(t, map[string]string{"long.html": b.String()}, "long.html")
	assert.Len(t, got.Pages[0].Bands, 120)
	names := map[string]bool{}
	for _, x := range got.Pages[0].Bands {
		names[x.Name] = true
		assert.Len(t, x.Content.Get("items").Items, 2)
	}
	assert.Len(t, names, 120, "every block has a name of its own")
}

func TestTokens(t *testing.T) {
	got := take(t, map[string]string{"index.html": `<!doctype html><title>x</title><style>
@font-face{font-family:"Own Face";src:url(own.woff2);font-weight:400}
body{margin:0;background:#fdf6ec;color:#2a1f14;font:18px/1.5 "Own Face",serif}h1{font-size:64px;line-height:1.1;margin:0}h2{font-size:36px;margin:0}section{padding:80px 5vw}
.deep{background:#12324a;color:#f0f4f8}.btn{background:#b3261e;color:#fff;padding:12px 24px;border-radius:8px}.g{display:grid;grid-template-columns:1fr 1fr;gap:20px}.g>div{border:1px solid #d8cbb8;border-radius:12px;padding:20px}
@media(max-width:600px){h1{font-size:40px}}</style>
<section><h1>Warm bread</h1><p>It is on the table at seven.</p><p>Come early, or call.</p><a class="btn" href="tel:+1">Call us</a></section>
<section><h2>Two kinds</h2><div class="g"><div><h3 style="font-size:24px">Rye</h3><p>Dark and sour bread.</p></div><div><h3 style="font-size:25px">White</h3><p>Light and sweet bread.</p></div></div></section>
<section class="deep"><h2>At night</h2><p>We bake while you sleep.</p></section>`, "own.woff2": "not a font"}, "index.html").Tokens()
	value := func(name string) any {
		var at any = got.Values
		for _, step := range append(strings.Split(name, "."), "$value") {
			m, ok := at.(map[string]any)
			if !ok {
				return nil
			}
			at = m[step]
		}
		return at
	}
	color := func(name string) any {
		m, _ := value(name).(map[string]any)
		return m["hex"]
	}
	size := func(name string) any {
		m, _ := value(name).(map[string]any)
		return m["value"]
	}
	assert.Equal(t, "#fdf6ec", color("color.plain.ground"))
	assert.Equal(t, "#2a1f14", color("color.plain.ink"))
	assert.Equal(t, "#b3261e", color("color.plain.accent"))
	assert.Equal(t, "#ffffff", color("color.plain.accent-ink"))
	assert.Equal(t, "#d8cbb8", color("color.plain.line"))
	assert.Equal(t, "#12324a", color("color.deep.ground"))
	assert.Equal(t, "#f0f4f8", color("color.deep.ink"))
	assert.Equal(t, 4.0, size("type.display"))
	assert.Equal(t, 2.25, size("type.title"))
	assert.Equal(t, 1.125, size("type.body"))
	assert.Equal(t, 1.1, value("line-height.display"))
	assert.Equal(t, .75, size("radius.card"))
	assert.Equal(t, .5, size("radius.small"))
	assert.Equal(t, 5.0, size("space.section"))
	assert.Equal(t, "light", got.Scheme)
	all := strings.Join(got.Told, "\n")
	assert.Contains(t, all, "24 and 25 px are one size now", "near values are joined, and that is told")
	phone := got.Values["type"].(map[string]any)["display"].(map[string]any)["$extensions"].(map[string]any)["ziegel"].(map[string]any)["phone"].(map[string]any)
	assert.Equal(t, 2.5, phone["value"])
}

// TestAgainst holds a page that was taken against the old one.
func TestAgainst(t *testing.T) {
	if testing.Short() {
		t.Skip("takes half of a second")
	}
	page := `<!doctype html><title>x</title><main><section id="a"><h1>Warm bread</h1><p>It is on the table at seven.</p></section><section id="b"><h2>Asked often</h2><details><summary>Is it warm?</summary><p>Until eight.</p></details><details><summary>Is it rye?</summary><p>On Fridays.</p></details></section></main>`
	got := take(t, map[string]string{"index.html": page}, "index.html")
	env := testsite.With(t, `title: T
blocks:
  - name: a
    section: hero/alone
    content: {heading: Warm bread, lead: Nobody said it.}
    without: [eyebrow, actions]
  - name: b
    section: questions/list
    content:
      heading: Asked often
      items: [{title: "Is it warm?", text: Until eight.}, {title: "Is it rye?", text: On Fridays.}]
    without: [eyebrow, lead, actions]
`)
	s, err := check.Lay(env, env.Site.Page("home"), nil)
	require.NoError(t, err)
	list := got.Against(got.Pages[0], s.Prepared)
	require.Len(t, list, 2)
	assert.Equal(t, []int{2, 1}, []int{list[0].Texts, list[0].Found}, "a text that is not there is not found")
	assert.Equal(t, []int{5, 5}, []int{list[1].Texts, list[1].Found}, "what is closed is there")
	assert.Positive(t, list[0].Height)
	require.Len(t, list[0].Seen, len(adopt.Looked()), "seen at each width")
	for _, share := range list[0].Seen {
		assert.Greater(t, share, .1)
		assert.Less(t, share, .9, "another face, another picture")
	}
	itself := taken(t, env)
	require.Len(t, itself.Against(itself.Pages[0], s.Prepared), 2)
	for _, l := range itself.Against(itself.Pages[0], s.Prepared) {
		assert.Equal(t, []float64{1, 1}, l.Seen, "%s is taken as it is", l.Band)
		assert.Equal(t, l.Was, l.Is)
		assert.Positive(t, l.Is)
	}
	voice := take(t, map[string]string{"index.html": `<!doctype html><title>x</title><main><section id="v"><blockquote>It flew at once, and stayed.</blockquote><p>Ida Marle, letters</p></section></main>`}, "index.html")
	for role, found := range map[string]int{"letters": 2, "numbers": 1} {
		env := testsite.With(t,
			"title: T\nblocks:\n  - name: voices\n    section: testimonials/single\n    content: {heading: \"It flew at once, and stayed.\", name: Ida Marle, role: "+role+"}\n    without: [media, eyebrow, lead, actions]\n")
		s, err := check.Lay(env, env.Site.Page("home"), nil)
		require.NoError(t, err)
		list := voice.Against(voice.Pages[0], s.Prepared)
		require.Len(t, list, 1)
		assert.Equal(t, found, list[0].Found, "a text that two fields share: %s", role)
	}
	same := got.Against(got.Pages[0], got.Pages[0].Laid())
	assert.Empty(t, same, "a page without the blocks")
}

// snippet makes a section of a piece of HTML.
func snippet(t testing.TB, files map[string]string) (*adopt.Own, *library.Section) {
	t.Helper()
	env := shelf(t)
	got, err := adopt.Snippet(env, adopt.Wanted{Folder: folder(files), Files: []string{"a.html"}}, "features/offer")
	require.NoError(t, err)
	own := got.Own[0]
	lib, problems := library.Load("sections", folder(map[string]string{
		"sections/features/offer/section.html": own.Files.HTML, "sections/features/offer/section.css": own.Files.CSS,
		"sections/features/offer/section.yaml": own.Files.YAML}))
	require.NoError(t, problems.Err())
	sec := lib.Section("features/offer")
	require.NotNil(t, sec)
	require.NoError(t, library.Review(sec, env.SharedClasses()).Err())
	require.NoError(t, library.Unsafe(sec, nil).Err())
	return own, sec
}

func TestASnippetBecomesASection(t *testing.T) {
	own, sec := snippet(t, map[string]string{"pic.svg": picture, "a.html": `<style>
.offer{background:#fff7e6;border:1px solid #e2c48d;padding:32px;display:flex;gap:24px;height:420px;transition:none}
.offer img{width:40%;border-radius:8px}.offer h2{font-size:36px;margin:0 0 12px}.days{display:grid;grid-template-columns:repeat(3,1fr);list-style:none;padding:0}
.days strong{display:block}.go{background:#c63a17;color:#fff;padding:12px 20px}@media (max-width:720px){.offer{flex-direction:column}.days{grid-template-columns:1fr}}</style>
<div class="offer" onclick="x()"><img src="pic.svg" alt="The sands"><div><h2>A weekend</h2><p>Two nights, one kite.</p><ul class="days"><li><strong>Friday</strong>Arrive</li><li><strong>Saturday</strong>Sew</li><li><strong>Sunday</strong>Fly</li></ul><a class="go" href="book.html">Book a bed</a></div></div>`})
	assert.ElementsMatch(t, []string{"eyebrow", "heading", "lead", "media", "items", "actions"}, sec.FieldNames())
	items := sec.Field("items")
	require.NotNil(t, items)
	assert.Equal(t, []string{"title", "text"}, []string{items.Of[0].Name, items.Of[1].Name})
	assert.Len(t, items.Samples, 3)
	assert.Equal(t, library.Picture, sec.Field("media").Type)
	css := own.Files.CSS
	assert.Contains(t, css, "@container (width > 45rem)", "a condition on the screen is one on the room")
	assert.Contains(t, css, "flex-direction: column;")
	assert.NotContains(t, css, "#", "colors are the theme's")
	assert.NotContains(t, css, "height: 26.25rem")
	assert.NotContains(t, css, "@media")
	assert.NotContains(t, own.Files.HTML, "onclick")
	assert.Contains(t, strings.Join(own.Told, "\n"), "fixed heights")
	assert.Contains(t, strings.Join(own.Told, "\n"), "#fff7e6 is now what the theme has for it")
}

// linkTarget is where a link in a text leads to: a block of the site.
var linkTarget = regexp.MustCompile(`\]\([^)]*\)`)

// FuzzTake holds that any page is taken or refused with a word about it, and that fields say nothing that the page does
// not say.
func FuzzTake(f *testing.F) {
	list, err := os.ReadDir("testdata/pages")
	require.NoError(f, err)
	for _, x := range list {
		if data, err := os.ReadFile("testdata/pages/" + x.Name()); err == nil && path.Ext(x.Name()) == ".html" {
			f.Add(string(data))
		}
	}
	env := shelf(f)
	f.Fuzz(func(t *testing.T, page string) {
		if len(page) > 20000 || !utf8.ValidString(page) {
			t.Skip()
		}
		got, err := adopt.Take(
			env,
			adopt.Wanted{Folder: folder(map[string]string{"a.html": page}), Files: []string{"a.html"}},
		)
		if err != nil {
			require.NotEmpty(t, err.Error())
			return
		}
		doc, err := html.Parse(strings.NewReader(page))
		if err != nil {
			return
		}
		says := squeeze(letters(doc) + attributes(doc))
		for _, b := range append(append(got.Pages[0].Every(), got.Top...), got.Bottom...) {
			require.True(t, site.ValidName(b.Name), b.Name)
			for _, e := range b.Content.Entries {
				if e.Value.Kind != site.Text || strings.HasSuffix(e.Key, "-to") || e.Key == "icon" {
					continue
				}
				for _, w := range strings.FieldsFunc(linkTarget.ReplaceAllString(e.Value.Text, "]"), notLetter) {
					require.Contains(t, says, squeeze(w), "%s.%s", b.Name, e.Key)
				}
			}
		}
		got.Tokens()
	})
}

func squeeze(s string) string {
	return strings.ToLower(strings.Join(strings.FieldsFunc(s, notLetter), ""))
}

// attributes gives what the attributes of a page say.
func attributes(n *html.Node) string {
	var b strings.Builder
	for _, a := range n.Attr {
		b.WriteString(a.Val)
	}
	for k := n.FirstChild; k != nil; k = k.NextSibling {
		b.WriteString(attributes(k))
	}
	return b.String()
}

func BenchmarkTake(b *testing.B) {
	env := shelf(b)
	one := `<section><h2>Heading</h2><p>A text about it.</p><ul class="g"><li><h3>A</h3><p>x of it</p></li><li><h3>B</h3><p>y of it</p></li></ul></section>`
	for name, n := range map[string]int{"bands=30": 30, "bands=300": 300} { // ten times the bands, ten times the time
		b.Run(name, func(b *testing.B) {
			files := folder(map[string]string{"a.html": "<!doctype html><title>x</title>" + strings.Repeat(one, n)})
			for b.Loop() {
				_, err := adopt.Take(env, adopt.Wanted{Folder: files, Files: []string{"a.html"}})
				require.NoError(b, err)
			}
		})
	}
}

// TestLinksToWhatStandsAroundBands follows links to ids of boxes around several bands and of marks between them.
func TestLinksToWhatStandsAroundBands(t *testing.T) {
	page := `<!doctype html><title>x</title><header><b>Pike Lane</b> <nav><a href="#all">All</a> <a href="#rooms">Rooms</a> <a href="#kitchen">Kitchen</a> <a href="#end">End</a> <a href="#gone">Gone</a></nav></header>
<main id="all"><section><h1>Sleep late</h1><p>Nobody rings here before ten.</p></section>
<div id="rooms"><section style="padding:200px 0"><h2>Small rooms</h2><p>Four of them look at the lane.</p><p>They have a bed and a chair.</p></section><section style="padding:200px 0"><h2>Asked often</h2><details><summary>Is it quiet?</summary><p>Until eight.</p></details><details><summary>Is it warm?</summary><p>On Fridays.</p></details></section></div>
<a id="kitchen"></a><section id="bread"><h2>Bread</h2><p>It is warm until nine o'clock.</p></section><a name="end"></a></main>`
	got := take(t, map[string]string{"index.html": page}, "index.html")
	var names, to []string
	for _, b := range got.Pages[0].Bands {
		names = append(names, b.Name)
	}
	require.Len(t, names, 4, "%v", names)
	for _, l := range got.Top[0].Content.Get("links").Items {
		to = append(to, l.Get("to").Str())
	}
	assert.Equal(t, []string{"home#" + names[0], "home#" + names[1], "home#bread", "home#bread", "home"}, to)
}
