package media

import (
	"bytes"
	"image"
	"image/png"
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
		body, err := IconBody(stock.Files, nil, n)
		require.NoError(t, err)
		assert.NotContains(t, body, "stroke", n)
		assert.NotContains(t, body, "#", "%s has a color of its own", n)
	}
	_, err := IconBody(stock.Files, nil, "nothing")
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
	body, err := IconBody(stock.Files, own, "wind")
	require.NoError(t, err)
	assert.Equal(t, `<g><path d="M1 1h2"></path></g>`, body)
	assert.Equal(t, "wind", Icons(stock.Files, own)[0])
	found := FindIcons([]string{"mail", "mail-open", "post", "wind"},
		map[string]string{"mail": "letter post"}, "post")
	assert.Equal(t, []string{"post", "mail"}, found)
}
