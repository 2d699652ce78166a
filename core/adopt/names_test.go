package adopt

import (
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"ziegel/core/markup"
	"ziegel/stock"
)

// testNamer names what stands on the page docs/about.html of a folder.
func testNamer() *namer {
	files := fstest.MapFS{}
	for name, text := range map[string]string{"docs/price.pdf": "%PDF", "docs/x.js": "1", "docs/a.svg": drawn,
		"docs/b.svg": drawn + " ",
		"top.svg":    drawn + "\n", "docs/bad.svg": "<svg", "docs/media/people/ida.svg": drawn + "\t"} {
		files[name] = &fstest.MapFile{Data: []byte(text)}
	}
	return &namer{files: files, dir: "docs", hosts: []string{"larkspan.example"}, media: NewMedia(stock.Files, nil),
		pages: map[string]string{"docs/about.html": "about", "index.html": "home",
			"docs/courses/index.html": "courses"},
		page: &Page{Name: "about"}}
}

const drawn = `<svg xmlns="http://www.w3.org/2000/svg" width="40" height="30"><path d="M0 0h9"/></svg>`

func TestWhereLinksLead(t *testing.T) {
	tests := []struct{ href, want, told string }{
		{"", "", ""}, {"#", "", ""}, {"#top", "", ""}, {" #team ", "#team", ""},
		{"about.html#team", "#team", ""}, {"about.html", "about", ""},
		{"../index.html", "home", ""}, {"../index.html#plans", "home#plans", ""}, {"/", "home", ""}, {"/index.html",
			"home", ""},
		{"courses/", "courses", ""}, {"courses", "courses", ""}, {"courses/index.html#prices", "courses#prices", ""},
		{"https://larkspan.example/docs/courses/", "courses", ""}, {"https://www.larkspan.example/", "home", ""},
		{"https://other.example/x?y=1#z", "https://other.example/x?y=1#z", ""}, {"//other.example/x",
			"https://other.example/x", ""},
		{"http://other.example", "http://other.example", ""},
		{"mailto:ines@larkspan.example", "mailto:ines@larkspan.example", ""}, {"tel:+100", "tel:+100", ""},
		{"later.html", "later", ""}, {"later.html#x", "later#x", ""}, {"later.php", "later", ""},
		{"price.pdf", "media/price.pdf", ""}, {"price.pdf?v=2", "media/price.pdf", ""},
		{"x.js", "", "no file of its kind comes along"}, {"gone.pdf", "", "not there"},
		{"../../etc/passwd", "", "outside of the folder"}, {"/../x.pdf", "", "no file of its kind|not there|outside"},
		{"file:///etc/passwd", "", "a file of this computer"}, {"javascript:alert(1)", "", "runs a script"},
		{"JavaScript:alert(1)", "", "runs a script"}, {"data:text/html,x", "", "runs a script"}, {"gopher://x", "",
			`"gopher:"`},
		{"http://[", "", "no address"},
	}
	for _, tt := range tests {
		t.Run(tt.href, func(t *testing.T) {
			n := testNamer()
			assert.Equal(t, tt.want, n.to(tt.href))
			if tt.told == "" {
				assert.Empty(t, n.page.Left)
				return
			}
			require.Len(t, n.page.Left, 1)
			assert.Regexp(t, tt.told, n.page.Left[0].What)
		})
	}
}

// element reads one element.
func element(t testing.TB, text string) *html.Node {
	t.Helper()
	list, err := html.ParseFragment(strings.NewReader(text), markup.Element("body"))
	require.NoError(t, err)
	return list[0]
}

func TestWhichPictureIsTaken(t *testing.T) {
	tests := []struct{ html, want string }{
		{`<img src="a.svg" alt="A kite">`, "{file: a.svg, alt: A kite}"},
		{`<img src="a.svg">`, `{file: a.svg, alt: ""}`},
		{`<img src="a.svg" srcset="a.svg 1x, b.svg 2x" alt="">`, `{file: b.svg, alt: ""}`},
		{`<img src="a.svg" srcset="b.svg 200w, a.svg 100w" alt="">`, `{file: b.svg, alt: ""}`},
		{`<img data-src="a.svg" src="data:image/gif;base64,R0lGODlh" alt="">`, `{file: a.svg, alt: ""}`},
		{`<img src="/top.svg" alt="">`, `{file: top.svg, alt: ""}`},
		{`<img src="media/people/ida.svg" alt="Ida">`, "{file: people/ida.svg, alt: Ida}"},
		{`<img src="a.svg" alt="" style="object-position: 30% 60%">`, `{file: a.svg, alt: "", focus: 30% 60%}`},
		{`<img src="a.svg" alt="" style="object-position: 50% 50%">`, `{file: a.svg, alt: ""}`},
		{`<picture><source media="(width < 37.5rem)" srcset="b.svg"><img src="a.svg" alt="x"></picture>`,
			`{file: a.svg, "file at ..599": b.svg, alt: x}`},
		{`<picture><source type="image/webp" srcset="b.svg"><img src="a.svg" alt="x"></picture>`,
			"{file: a.svg, alt: x}"},
		{`<img src="gone.svg" alt="">`, ""}, {`<img src="bad.svg" alt="">`, ""}, {`<img alt="">`, ""},
		{`<img src="https://other.example/a.svg" alt="">`, ""}, {`<img src="file:///a.svg" alt="">`, ""},
		{`<img src="../../a.svg" alt="">`, ""},
		{`<img src="https://larkspan.example/docs/a.svg" alt="">`, `{file: a.svg, alt: ""}`},
	}
	for _, tt := range tests {
		t.Run(tt.html, func(t *testing.T) {
			n := testNamer()
			v := n.picture(element(t, tt.html))
			if tt.want == "" {
				assert.Nil(t, v)
				assert.Empty(t, n.media.Names())
				return
			}
			require.NotNil(t, v)
			var parts []string
			for _, e := range v.Entries {
				key, text := e.Key, e.Value.Str()
				if strings.Contains(key, " ") {
					key = `"` + key + `"`
				}
				if text == "" {
					text = `""`
				}
				parts = append(parts, key+": "+text)
			}
			assert.Equal(t, tt.want, "{"+strings.Join(parts, ", ")+"}")
			assert.Contains(t, n.media.Names(), v.Get("file").Str())
		})
	}
}

func TestWhatIconsAreCalled(t *testing.T) {
	n := testNamer()
	assert.Equal(t, "check", n.icon(element(t, `<svg viewBox="0 0 24 24"><path d="M5 13L9 17L19 7"/></svg>`)),
		"by its shapes")
	page := element(t, `<div><svg class="icon"><use href="#icon-check"/></svg><svg id="s"><symbol id="own" viewBox="0 0 9 9"><path d="M0 0h9"/></symbol></svg><svg class="star"><use href="#own"/></svg></div>`)
	assert.Equal(t, "check", n.icon(page.FirstChild), "by the name of its symbol")
	assert.Equal(t, "mark", n.icon(page.LastChild), "a symbol of the page's own")
	assert.Contains(t, string(n.media.Files["icons/mark.svg"]), "M0 0h9")
	assert.Equal(t, "bird", n.icon(element(t,
		`<svg class="icon bird" viewBox="0 0 9 9"><path d="M1 1h7" onclick="x()"/><script>x()</script></svg>`)))
	assert.NotContains(t, string(n.media.Files["icons/bird.svg"]), "x()")
	assert.Empty(t, n.icon(element(t, `<svg></svg>`)))
	assert.Empty(t, n.icon(element(t, `<span>x</span>`)))
}

func TestNamesOfFilesDoNotCollide(t *testing.T) {
	m := NewMedia(stock.Files, fstest.MapFS{"media/a.svg": {Data: []byte("there")}})
	assert.Equal(t, "a.svg", m.free("a.svg", []byte("there")), "the same file")
	assert.Equal(t, "a-2.svg", m.free("a.svg", []byte("another")))
	assert.Equal(t, "a-2.svg", m.free("a.svg", []byte("another")))
	assert.Equal(t, "a-3.svg", m.free("a.svg", []byte("a third")))
	assert.Equal(t, "one-two/big-picture.jpg", cleanPath("One Two/Big Picture.JPG"))
}

func TestRanges(t *testing.T) {
	for query, want := range map[string]string{"(width < 37.5rem)": "..599", "(width >= 64rem)": "1024..",
		"(37.5rem <= width < 64rem)": "600..1023", "(min-width: 600px)": "", "": "", "print": ""} {
		assert.Equal(t, want, rangeOf(query), query)
	}
}
