package media

import (
	"bytes"
	"image"
	"image/png"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/stock"
)

func TestPicturesTellTheirSize(t *testing.T) {
	var buf bytes.Buffer
	require.NoError(t, png.Encode(&buf, image.NewGray(image.Rect(0, 0, 7, 5))))
	for _, tt := range []struct {
		name string
		data string
		w, h float64
	}{
		{"a.png", buf.String(), 7, 5},
		{"a.svg", `<?xml version="1.0"?><!-- x --><svg viewBox="0 0 40 30"/>`, 40, 30},
		{"a.svg", `<svg width="10px" height="20" viewBox="0 0 40 30"/>`, 10, 20},
		{"a.svg", `<svg/>`, 300, 150},
	} {
		w, h, err := Size(tt.name, []byte(tt.data))
		require.NoError(t, err)
		assert.Equal(t, []float64{tt.w, tt.h}, []float64{w, h}, tt.data)
	}
	for name, data := range map[string]string{"a.svg": "<html/>", "b.svg": "text", "c.png": "text"} {
		_, _, err := Size(name, []byte(data))
		assert.Error(t, err, name)
	}
}

func TestEveryIconIsLinesOnly(t *testing.T) {
	names := Icons(stock.Files, nil)
	assert.GreaterOrEqual(t, len(names), 300)
	for _, n := range names {
		icon, err := ReadIcon(stock.Files, nil, n)
		require.NoError(t, err)
		assert.NotContains(t, icon.Body, "stroke", n)
		assert.NotContains(t, icon.Body, "#", "%s has a color of its own", n)
	}
	_, err := ReadIcon(stock.Files, nil, "nothing")
	assert.ErrorContains(t, err, `no icon is called "nothing"`)
}

func TestSlugs(t *testing.T) {
	for in, want := range map[string]string{"Inès Hallöran": "ines-halloran", "  A -- b! ": "a-b",
		"Straße 5": "strasse-5", "漢": ""} {
		assert.Equal(t, want, Slug(in), in)
	}
}

// An icon of the site's own goes before a shipped one, and brings nothing but shapes.
func TestOwnIconsAreCleaned(t *testing.T) {
	own := fstest.MapFS{"media/icons/wind.svg": {Data: []byte(`<svg viewBox="0 0 24 24"><script>alert(1)</script><style>*{}</style><g onclick="x()"><path d="M1 1h2" style="fill:url(#a)" stroke="red"/><a href="javascript:x"><circle r="3"/></a></g><foreignObject><p>x</p></foreignObject></svg>`)}}
	icon, err := ReadIcon(stock.Files, own, "wind")
	require.NoError(t, err)
	assert.Equal(t, `<g fill="currentColor" stroke="none"><g><path d="M1 1h2" stroke="currentColor"></path></g></g>`,
		icon.Body)
	assert.Equal(t, []string{"HTML", "a style sheet", "gradients", "links", "scripts"}, icon.Dropped)
	assert.Equal(t, "0 0 24 24", icon.ViewBox)
	assert.Equal(t, "wind", Icons(stock.Files, own)[0])
	found := FindIcons([]string{"mail", "mail-open", "post", "wind"},
		map[string]string{"mail": "letter post"}, "post")
	assert.Equal(t, []string{"post", "mail"}, found)
}

// Icons of the site's own keep what they look like: their plane, fills, several colors, what they repeat.
func TestOwnIconsLookAsTheyDo(t *testing.T) {
	for name, c := range map[string]struct{ svg, body, box, dropped string }{
		"filled, one color": {`<svg viewBox="0 0 32 32"><path d="M0 0h9" fill="#000"/></svg>`,
			`<g fill="currentColor" stroke="none"><path d="M0 0h9" fill="currentColor"></path></g>`, "0 0 32 32", ""},
		"filled, nothing said": {`<svg width="48px" height="24"><path d="M0 0h9"/></svg>`,
			`<g fill="currentColor" stroke="none"><path d="M0 0h9"></path></g>`, "0 0 48 24", ""},
		"lines": {`<svg viewBox="0,0,16,16" fill="none" stroke="black" stroke-width="2"><path d="M0 0h9"/></svg>`,
			`<g fill="none" stroke="currentColor" stroke-width="2"><path d="M0 0h9"></path></g>`, "0 0 16 16", ""},
		"two colors": {`<svg viewBox="0 0 9 9"><path d="M0 0" fill="red"/><path d="M1 1" style="fill: #0f0; color:x"/></svg>`,
			`<g fill="currentColor" stroke="none"><path d="M0 0" fill="red"></path><path d="M1 1" fill="#0f0"></path></g>`, "0 0 9 9", ""},
		"repeated": {`<svg viewBox="0 0 9 9" xmlns:xlink="x"><defs><circle id="a" r="2"/></defs><use xlink:href="#a" x="3"/><use href="#a" y="4" fill="none" transform="scale(2)"/></svg>`,
			`<g fill="currentColor" stroke="none"><g transform="translate(3 0)"><circle r="2"></circle></g><g transform="scale(2) translate(0 4)" fill="none"><circle r="2"></circle></g></g>`, "0 0 9 9", ""},
		"a symbol": {`<svg viewBox="0 0 9 9"><symbol id="s"><path d="M2 2"/></symbol><use href="#s"/><use href="#none"/></svg>`,
			`<g fill="currentColor" stroke="none"><g><path d="M2 2"></path></g></g>`, "0 0 9 9", "uses of what is not in the file"},
		"a gradient": {`<svg viewBox="0 0 9 9"><title>x</title><defs><linearGradient id="g"/></defs><path d="M1 1" fill="url(#g)"/></svg>`,
			`<g fill="currentColor" stroke="none"><path d="M1 1"></path></g>`, "0 0 9 9", "gradients"},
		"a box that is none": {`<svg viewBox="a b c d"><path d="M1 1"/></svg>`,
			`<g fill="currentColor" stroke="none"><path d="M1 1"></path></g>`, "", ""},
	} {
		icon, err := ReadIcon(stock.Files, fstest.MapFS{"media/icons/x.svg": {Data: []byte(c.svg)}}, "x")
		require.NoError(t, err, name)
		assert.Equal(t, c.body, icon.Body, name)
		assert.Equal(t, c.box, icon.ViewBox, name)
		assert.Equal(t, c.dropped, strings.Join(icon.Dropped, " "), name)
	}
	for _, svg := range []string{`<svg><text>x</text></svg>`, `<p>x</p>`, `<svg><path`, ``} {
		_, err := ReadIcon(stock.Files, fstest.MapFS{"media/icons/x.svg": {Data: []byte(svg)}}, "x")
		assert.ErrorContains(t, err, "is not an SVG picture", svg)
	}
}
