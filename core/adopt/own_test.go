package adopt

import (
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/css"
	"ziegel/core/project"
	"ziegel/stock"
)

func TestDeclarationsAreWrittenAsPeopleDo(t *testing.T) {
	tests := []struct {
		in   map[string]string
		want string
	}{
		{map[string]string{"color": "red", "display": "grid"}, "display: grid; color: red;"},
		{map[string]string{"margin-top": "1px", "margin-right": "1px", "margin-bottom": "1px", "margin-left": "1px"},
			"margin: 1px;"},
		{map[string]string{"margin-top": "1px", "margin-right": "2px", "margin-bottom": "1px", "margin-left": "2px"},
			"margin: 1px 2px;"},
		{map[string]string{"margin-top": "1px", "margin-right": "2px", "margin-bottom": "3px", "margin-left": "2px"},
			"margin: 1px 2px 3px 2px;"},
		{map[string]string{"margin-top": "1px", "margin-left": "2px"}, "margin-left: 2px; margin-top: 1px;"},
		{map[string]string{"row-gap": "1rem", "column-gap": "1rem"}, "gap: 1rem;"},
		{map[string]string{"row-gap": "1rem", "column-gap": "2rem"}, "column-gap: 2rem; row-gap: 1rem;"},
		{map[string]string{}, ""},
	}
	for _, tt := range tests {
		assert.Equal(t, tt.want, declarations(tt.in))
	}
	border := map[string]string{}
	for _, side := range []string{"top", "right", "bottom", "left"} {
		border["border-"+side+"-width"], border["border-"+side+"-style"], border["border-"+side+"-color"] = "1px", "solid", "var(--line)"
	}
	assert.Equal(t, "border: 1px solid var(--line);", declarations(border))
	assert.Equal(t, map[string]string{"a": "2", "flex-direction": "row", "width": "initial"},
		changes(map[string]string{"a": "1", "b": "1", "flex-direction": "column", "width": "1px"},
			map[string]string{"a": "2", "b": "1"}),
		"what is gone in a wider span has its initial value")
}

func TestWidthsOfConditions(t *testing.T) {
	doc, err := css.Load(css.Source{File: "x.html", HTML: `<style>@media (max-width: 720px){p{color:red}}@media (min-width:60em) and (max-width:80em){p{color:blue}}
@media (width >= 900px){p{color:red}}@media (400px <= width < 500px){p{color:red}}@media print{p{color:red}}@media (min-width:100px){p{color:red}}</style><p>x</p>`})
	require.NoError(t, err)
	var got []string
	for _, e := range widthsOf(doc) {
		got = append(got, e.query())
	}
	assert.Equal(t, []string{"(width >= 25rem)", "(width > 45rem)", "(width >= 56.25rem)", "(width >= 60rem)",
		"(width > 80rem)"}, without(got, "(width >= 31.25rem)"))
	assert.Equal(t, 721, edge{px: 720, above: true}.least())
	assert.Equal(t, 720, edge{px: 720}.least())
	assert.Equal(t, 721, edge{px: 720.5}.least())
}

// without leaves one text out: a condition with two ends gives two widths, the second as its reader likes.
func without(list []string, s string) []string {
	var out []string
	for _, x := range list {
		if x != s {
			out = append(out, x)
		}
	}
	return out
}

// ownOf makes a section of a piece of HTML and gives its files.
func ownOf(t testing.TB, html string) *Own {
	t.Helper()
	env, problems, err := project.Shelf(stock.Files)
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	got, err := Snippet(env, Wanted{Folder: fstest.MapFS{"a.html": {Data: []byte(html)},
		"p.svg": {Data: []byte(drawn)}}, Files: []string{"a.html"}}, "features/x")
	require.NoError(t, err)
	return got.Own[0]
}

func TestStylesOfASection(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	tests := []struct {
		name, html string
		has, hasNo []string
	}{
		{"lengths are rem, and tokens where there is one",
			`<style>.a{padding:16px;gap:20px;display:grid;border:1px solid}</style><div class="a"><h2>A</h2><p>b</p></div>`,
			[]string{"padding: var(--space-room)", "gap: 1.25rem"}, []string{"16px", "20px"}},
		{"shares of the screen are of the room",
			`<style>h2{font-size:clamp(1rem,5vw,3rem);margin:0 0 4vw}</style><div><h2>A</h2><p>b</p></div>`, []string{"4cqi"}, []string{"vw"}},
		{"fixed widths shrink",
			`<style>.a{width:480px;border:1px solid}</style><div class="a"><h2>A</h2><p>b</p></div>`, []string{"width: min(100%, 30rem)"}, nil},
		{"faces are the theme's",
			`<style>.a{font-family:Comic;border:1px solid}</style><div class="a"><h2>A</h2><p>b</p></div>`, nil, []string{"Comic", "font-family"}},
		{"grounds are roles",
			`<style>.a{background:#c63a17;color:#fff;padding:20px;width:50%}</style><div class="a"><h2>A</h2><p>b</p></div>`,
			[]string{"background-color: var(--accent)", "color: var(--accent-ink)"}, []string{"#"}},
		{"conditions become those of the room",
			`<style>.a{display:grid;grid-template-columns:1fr 1fr}@media(max-width:600px){.a{grid-template-columns:1fr}}</style><div class="a"><div><h2>A</h2></div><div><p>b</p></div></div>`,
			[]string{"grid-template-columns: 1fr;", "@container (width > 37.5rem)",
				"grid-template-columns: 1fr 1fr;"}, []string{"@media"}},
		{"pictures under boxes go",
			`<style>.a{background-image:url(p.svg);border:1px solid}</style><div class="a"><h2>A</h2><p>b</p></div>`, nil, []string{"url("}},
		{"what is fixed to the screen stands",
			`<style>.a{position:fixed;border:1px solid}</style><div class="a"><h2>A</h2><p>b</p></div>`, nil, []string{"fixed"}},
		{"old tags and attributes",
			`<center><font size=5 color="#333333">Hello there</font><p align=center>text of it</p></center>`, nil, nil},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) {
			own := ownOf(t, tt.html)
			for _, s := range tt.has {
				assert.Contains(t, own.Files.CSS, s)
			}
			for _, s := range tt.hasNo {
				assert.NotContains(t, own.Files.CSS, s)
			}
			assert.NotContains(t, own.Files.HTML, "style=")
			assert.NotContains(t, own.Files.HTML, "<font")
		})
	}
}

func TestMarkupOfASection(t *testing.T) {
	own := ownOf(t, `<div class="x" id="y" onclick="z()" data-old="1"><p>Over it</p><h2>Heading</h2><p>Lead of it</p><p>More of it</p><img src="p.svg" alt="P" onerror="z()"><script>z()</script>
<ul><li>one</li><li>two</li></ul><div class="c"><div class="k"><h3>A</h3><p>x of it</p></div><div class="k"><h3>B</h3><p>y of it</p><a href="l.html">go</a></div></div><a href="m.html">On</a> <a href="n.html">Off</a></div>`)
	h := own.Files.HTML
	for _, s := range []string{`data-field="eyebrow"`, `data-field="heading"`, `data-field="lead"`, `data-field="text"`,
		`data-field="media"`,
		`data-each="items"`, `data-each="items-2"`, `data-field="title"`, `data-each="actions"`} {
		assert.Contains(t, h, s)
	}
	for _, s := range []string{"z()", "onclick", "data-old", `id="y"`, "<script", "l.html", "m.html"} {
		assert.NotContains(t, h, s)
	}
	assert.Less(t, strings.Index(h, "B</h3>"), strings.Index(h, "A</h3>"), "the fullest entry is the pattern")
	assert.Contains(t, own.Files.YAML, "name: features/x\nkind: features\n")
}
