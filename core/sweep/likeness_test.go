package sweep_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/sweep"
	"ziegel/stock"
)

// arrangementsOf gives how the only block of a page stands at a phone's and at a desktop's width.
func arrangementsOf(t *testing.T, body string) [2]string {
	t.Helper()
	file := filepath.Join(t.TempDir(), "page.html")
	require.NoError(t, os.WriteFile(file, []byte(`<!doctype html><style>*{box-sizing:border-box}body{margin:0}img{width:100px;height:60px}.g{display:grid;gap:10px}
		@media (width >= 700px){.g{grid-template-columns:repeat(3,1fr)}.f{display:flex}.f>*{flex:1}}</style><main><section>`+body+`</section></main>`), 0o666))
	l, err := sweep.FromFile(file, stock.Files)
	require.NoError(t, err)
	e := l.Engine()
	return [2]string{l.Blocks[0].Arrangement(e.Layout(390)), l.Blocks[0].Arrangement(e.Layout(1280))}
}

// Groups are found in foreign hand-writing: without a common class, beside other children, tiles that are links,
// quotes, menus that open.
func TestGroupsOfForeignPages(t *testing.T) {
	card := `<h3>Kite</h3><p>Words about it</p>`
	for _, c := range []struct{ name, body, phone, desk string }{
		{"cards with classes of their own", `<div class=g><div class=red>` + card + `</div><div class=blue>` + card +
			`</div><div class=lime>` + card + `</div></div>`, "1+1+1", "3"},
		{"cards without classes", `<h2>Kites</h2><div class=g><div>` + card + `</div><div>` + card + `</div><div>` +
			card + `</div></div>`, "1+1+1", "3"},
		{"one card larger than its fellows", `<div class=g><div class="card wide">` + card + `</div><div class=card>` +
			card + `</div><div class="card last">` + card + `</div></div>`, "1+1+1", "3"},
		{"in a grid with a heading", `<div class=g><h2>Kites</h2><p>Lead</p><p>More</p><article>` + card +
			`</article><article>` + card + `</article><article>` + card + `</article></div>`, "1+1+1", "3"},
		{"quotes", `<div class=f><blockquote>One</blockquote><blockquote>Two</blockquote></div>`, "1+1", "2"},
		{"quotes in figures",
			`<h2>Voices</h2><div class=g><figure><blockquote>One</blockquote></figure><figure><blockquote>Two</blockquote></figure><figure><blockquote>Three</blockquote></figure></div>`, "1+1+1", "3"},
		{"tiles that are links, words over pictures",
			`<h2>Works</h2><div class=g><a href=a style="position:relative;display:block"><img src=x.png alt=""><b style="position:absolute;bottom:0;left:0">A</b></a><a href=b style="position:relative;display:block"><img src=x.png alt=""><b style="position:absolute;bottom:0">B</b></a><a href=c style="position:relative;display:block"><img src=x.png alt=""><b>C</b></a></div>`, "1+1+1", "3"},
		{"words and a picture are no group",
			`<div class=f><div><h2>Kites</h2><p>Words</p></div><div><img src=x.png alt=""></div></div>`, "below", "beside"},
		{"a menu behind a button",
			`<nav><button aria-controls=m aria-expanded=false>Menu</button><div id=m class=m><a href=a>A</a><a href=b>B</a><a href=c>C</a></div></nav><style>@media (width < 700px){.m{display:none}}@media (width >= 700px){button{display:none}}</style>`, "menu", "3"},
		{"a menu behind a checkbox",
			`<header><input type=checkbox id=c hidden><label for=c>Menu</label><nav class=m><ul><li>A</li><li>B</li></ul></nav></header><style>li{display:inline-block}@media (width < 700px){.m{display:none}}@media (width >= 700px){label{display:none}}</style>`, "menu", "2"},
		{"hidden with nothing to open it",
			`<div class=m><article>A</article><article>B</article></div><style>@media (width < 700px){.m{display:none}}</style>`, "hidden", "1+1"},
	} {
		t.Run(c.name, func(t *testing.T) { assert.Equal(t, [2]string{c.phone, c.desk}, arrangementsOf(t, c.body)) })
	}
}
