package adopt

import (
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/sweep"
	"ziegel/stock"
)

// pageOf lays a body out.
func pageOf(t testing.TB, body string) *Page {
	t.Helper()
	files := fstest.MapFS{"a.html": {Data: []byte("<!doctype html><title>x</title><style>body{margin:0}</style><body>" +
		body)},
		"p.svg": {Data: []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="300" height="200"><path d="M0 0h9"/></svg>`)}}
	laid, err := sweep.FromFolder(files, "a.html", stock.Files)
	require.NoError(t, err)
	p := &Page{Name: "home", File: "a.html", laid: laid}
	p.result = laid.Engine().Layout(Width)
	return p
}

// texts names the strips of a page by what they say, with their landmarks.
func stripsOf(t testing.TB, body string) []string {
	var out []string
	for _, s := range pageOf(t, body).strips() {
		var words []string
		for _, e := range s.elements {
			words = append(words, strings.Join(strings.Fields(textOf(e.Raw)), " "))
		}
		out = append(out, strings.TrimSpace(s.landmark+" "+strings.Join(words, " ")))
	}
	return out
}

func TestBands(t *testing.T) {
	tall := ` style="height:600px"`
	tests := []struct {
		name, body string
		want       []string
	}{
		{"sections", "<section><h2>A</h2>a</section><section><h2>B</h2>b</section>", []string{"Aa", "Bb"}},
		{"header, main, footer", "<header>H</header><main><section" + tall + "><h2>A</h2></section><section" + tall +
			"><h2>B</h2></section></main><footer>F</footer>",
			[]string{"header H", "main A", "main B", "footer F"}},
		{"a wrapper", "<div><div><section" + tall + "><h2>A</h2></section><section" + tall +
			"><h2>B</h2></section></div></div>", []string{"A", "B"}},
		{"a flat run", "<h1>T</h1><p>a</p><h2>B</h2><p>b</p><h2>C</h2><p>c</p>", []string{"T a", "B b", "C c"}},
		{"a heading belongs to the box after it", "<h2>B</h2><div><p>b</p></div><h2>C</h2><div><p>c</p></div>",
			[]string{"B b", "C c"}},
		{"a heading in a box of its own",
			"<div><h2>B</h2></div><div class=g><p>b</p><p>d</p></div><div><h2>C</h2><p>c</p></div>", []string{"B bd",
				"Cc"}},
		{"lines part", "<p>a</p><hr><p>b</p>", []string{"a", "b"}},
		{"rows of a table", `<table width="100%"><tr><td` + tall + `><h2>A</h2></td></tr><tr><td` + tall +
			`><h2>B</h2></td></tr></table>`, []string{"A", "B"}},
		{"a header with an opening in it",
			`<header style="height:600px"><nav>N</nav><div style="height:500px"><h1>T</h1></div></header><section` +
				tall + "><h2>A</h2></section>",
			[]string{"header N", "header T", "A"}},
		{"what is not shown is no band",
			`<section><h2>A</h2></section><div style="display:none"><h2>B</h2></div><script>x</script><section><h2>C</h2></section>`, []string{"A", "C"}},
		{"an article is one",
			"<article><h1>T</h1><p>a</p><h2>B</h2><p>b</p><h2>C</h2><p>c</p></article><footer>F</footer>", []string{"TaBbCc", "footer F"}},
		{"columns of which one holds the page", `<div style="display:flex"><div style="width:800px"><section` + tall +
			"><h2>A</h2></section><section" + tall +
			`><h2>B</h2></section></div><aside style="width:300px"><h3>S</h3></aside></div>`,
			[]string{"A", "B", "S"}},
		{"a role", `<div role="banner">H</div><div><h2>A</h2></div><div role="contentinfo">F</div>`,
			[]string{"header H", "A", "footer F"}},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) { assert.Equal(t, tt.want, stripsOf(t, tt.body)) })
	}
}

// readingOf reads the band that a body is.
func readingOf(t testing.TB, body string) *reading {
	t.Helper()
	p := pageOf(t, body)
	n := testNamer()
	n.dir = "."
	n.files = fstest.MapFS{"p.svg": {Data: []byte(drawn)}}
	n.page = p
	return newReader(p.result, n).read(p.laid.Doc.Body.Kids())
}

// outlineOf writes what was read, for comparing.
func outlineOf(o *reading) string {
	var out []string
	for _, p := range o.pieces {
		kind := map[sort]string{heading: "h", words: "t", link: "l", button: "b", picture: "pic", icon: "icon",
			form: "form", frame: "frame", film: "film"}[p.sort]
		if p.sort == heading {
			kind += string(rune('0' + p.level))
		}
		if p.sort == list {
			var entries []string
			for _, e := range p.lists {
				entries = append(entries, outlineOf(e))
			}
			out = append(out, "["+strings.Join(entries, " | ")+"]")
			continue
		}
		if p.plain != "" {
			kind += ":" + p.plain
		}
		out = append(out, kind)
	}
	return strings.Join(out, " ")
}

func TestReading(t *testing.T) {
	tests := []struct{ name, body, want string }{
		{"heading and texts", "<div><h2>A</h2><p>b</p><p>c</p></div>", "h2:A t:b t:c"},
		{"links and buttons",
			`<div><p>t</p><a href="x.html">L</a> <a href="y.html" style="background:#000;padding:9px 20px">B</a></div>`, "t:t l:L b:B"},
		{"a link in a text is the text's", `<p>see <a href="x.html">this</a> now</p>`, "t:see this now"},
		{"a link alone in a paragraph", `<p><a href="x.html">go</a></p>`, "l:go"},
		{"links in a row", `<p><a href="x.html">a</a> | <a href="y.html">b</a></p>`, "l:a l:b"},
		{"a list of links", `<ul><li><a href="x.html">a</a></li><li><a href="y.html">b</a></li></ul>`, "[l:a | l:b]"},
		{"points", "<ul><li>a</li><li>b</li></ul>", "[t:a | t:b]"},
		{"cards", `<div class=g><div class=c><h3>A</h3><p>a</p></div><div class=c><h3>B</h3><p>b</p></div></div>`,
			"[h3:A t:a | h3:B t:b]"},
		{"rows of cards are one list",
			`<div><div class=r><div class=c><h3>A</h3><p>a</p></div><div class=c><h3>B</h3><p>b</p></div></div><div class=r><div class=c><h3>C</h3><p>c</p></div><div class=c><h3>D</h3><p>d</p></div></div></div>`,
			"[h3:A t:a | h3:B t:b | h3:C t:c | h3:D t:d]"},
		{"halves are no list",
			`<div style="display:flex"><div class=h><h2>A</h2><p>a</p></div><div class=h><img src="p.svg" width=300></div></div>`, "h2:A t:a pic"},
		{"headings that repeat", "<div><h2>T</h2><h3>A</h3><p>a</p><h3>B</h3><p>b</p></div>",
			"h2:T [h3:A t:a | h3:B t:b]"},
		{"terms", "<dl><dt>A</dt><dd>a</dd><dt>B</dt><dd>b</dd></dl>", "[h6:A t:a | h6:B t:b]"},
		{"a table of data", "<table><tr><th>x</th><th>y</th></tr><tr><td>A</td><td>a</td></tr><tr><td>B</td><td>b</td></tr></table>", "[h6:A t:a | h6:B t:b]"},
		{"times go before titles",
			"<table><tr><td>17:00</td><td>A</td></tr><tr><td>18:00</td><td>B</td></tr><tr><td>19:00</td><td>C</td></tr></table>", "[t:17:00 h6:A | t:18:00 h6:B | t:19:00 h6:C]"},
		{"folds", "<div><details><summary>A</summary><p>a</p></details><details open><summary>B</summary>b</details></div>", "[h6:A t:a | h6:B t:b]"},
		{"text beside boxes", "<div><b style='display:block'>A</b>a of it</div>", "t:A t:a of it"},
		{"two line breaks", "<p>a<br><br>b</p>", "t:a t:b"},
		{"one line break", "<p>a<br>b</p>", "t:a b"},
		{"a form", `<form action="https://x.example"><label>Mail <input type="email"></label><button>Go</button></form>`, "form:Mail Go"},
		{"a title that leads somewhere", `<h3><a href="x.html">A</a></h3>`, "h3:A l"},
		{"a card that is a link",
			`<div><a class=c href="x.html"><h3>A</h3><p>a</p></a><a class=c href="y.html"><h3>B</h3><p>b</p></a></div>`, "[h3:A t:a l | h3:B t:b l]"},
		{"a frame", `<iframe src="https://maps.example/x" title="Map"></iframe>`, "frame:Map"},
		{"a picture under a box", `<div style="height:300px;background:url(p.svg)"><h2>A</h2></div>`, "pic h2:A"},
		{"what counts visits is nothing", `<div><p>a</p><img src="p.svg" width=1 height=1></div>`, "t:a"},
		{"scripts are nothing", `<div><p>a</p><script>x()</script><a href="javascript:x()">b</a></div>`, "t:a"},
		{"boxes built alike",
			"<div><div><b style='display:block'>A</b><i>a</i></div><div><b style='display:block'>B</b><i>b</i></div><div><b style='display:block'>C</b><i>c</i></div></div>", "[t:A t:a | t:B t:b | t:C t:c]"},
		{"groups with lists",
			"<div><h2>T</h2><h3>A</h3><ul><li>a</li><li>b</li></ul><h3>B</h3><ul><li>c</li><li>d</li></ul></div>", "h2:T [h3:A [t:a | t:b] | h3:B [t:c | t:d]]"},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) { assert.Equal(t, tt.want, outlineOf(readingOf(t, tt.body))) })
	}
}

func TestKinds(t *testing.T) {
	cards := func(one string) string {
		return "<div><h2>T</h2><div class=g>" + strings.Repeat("<div class=c>"+one+"</div>", 3) + "</div></div>"
	}
	tests := []struct{ name, body, want string }{
		{"prices with points", cards("<h3>A</h3><p>€19</p><ul><li>a</li><li>b</li></ul>"), "pricing"},
		{"questions", cards("<h3>Is it?</h3><p>It is.</p>"), "questions"},
		{"folds", "<details><summary>A</summary>a</details><details><summary>B</summary>b</details>", "questions"},
		{"voices", cards("<blockquote>It flew at once, and stayed.</blockquote><p>Ida</p>"), "testimonials"},
		{"a voice", "<div><blockquote>It flew at once, and stayed.</blockquote><p>Ida</p></div>", "testimonials"},
		{"pictures", cards(`<img src="p.svg" width=300>`), "gallery"},
		{"small pictures", cards(`<img src="p.svg" width=60 height=40>`), "logos"},
		{"people", cards(`<img src="p.svg" width=200><h3>Ida Marle</h3><p>letters</p>`), "team"},
		{"figures", cards("<b style='display:block'>412</b><p>bridges</p>"), "statistics"},
		{"steps", "<ol><li><h3>A</h3><p>a</p></li><li><h3>B</h3><p>b</p></li></ol>", "steps"},
		{"times", "<table><tr><td>17:00</td><td>A</td></tr><tr><td>18:00</td><td>B</td></tr><tr><td>19:00</td><td>C</td></tr></table>", "schedule"},
		{"articles", cards(`<p>4 May 2024</p><h3><a href="x.html">A title</a></h3><p>And what it says.</p>`),
			"articles"},
		{"a letter", `<div><h2>T</h2><form><input type=email><button>Go</button></form></div>`, "newsletter"},
		{"a contact", `<div><h2>T</h2><form><input><input type=email><textarea></textarea><button>Go</button></form></div>`, "contact"},
		{"a call", `<div><h2>T</h2><p>a</p><a href="x.html">Go</a></div>`, "action"},
		{"a film", `<video src="https://x.example/a.mp4"></video>`, "video"},
		{"a map", `<iframe src="https://maps.example/x"></iframe>`, "embed"},
		{"what it is called", `<div class="pricing-table"><h2>T</h2><p>a</p></div>`, "pricing"},
		{"reasons", cards("<h3>A title</h3><p>And what it says of that, in a line.</p>"), "features"},
		{"a menu with prices",
			"<div><h2>T</h2><h3>A</h3><ul><li>Eel: €9</li><li>Hake: €24</li></ul><h3>B</h3><ul><li>Bread: €4</li><li>Soup: €6</li></ul></div>", "menu"},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) {
			p := pageOf(t, tt.body)
			n := testNamer()
			n.dir, n.files, n.page = ".", fstest.MapFS{"p.svg": {Data: []byte(drawn)}}, p
			b := &Band{elements: p.laid.Doc.Body.Kids(), Landmark: "main",
				read: newReader(p.result, n).read(p.laid.Doc.Body.Kids())}
			b.guess = kindsOf(b, placeOf{})
			assert.Equal(t, tt.want, b.kind(), "%v", b.guess)
		})
	}
	first := pageOf(t, "<h1>T</h1><p>a</p>")
	b := &Band{elements: first.laid.Doc.Body.Kids(), read: newReader(first.result,
		testNamer()).read(first.laid.Doc.Body.Kids())}
	b.guess = kindsOf(b, placeOf{first: true})
	assert.Equal(t, "hero", b.kind())
}
