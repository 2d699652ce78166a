package publish

import (
	"fmt"
	"path"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func sourceFrom(files map[string]string) Source {
	src := Source{Read: func(name string) ([]byte, error) {
		if text, ok := files[name]; ok {
			return []byte(text), nil
		}
		return nil, fmt.Errorf("no %s", name)
	}}
	for name := range files {
		src.Names = append(src.Names, name)
	}
	slices.Sort(src.Names)
	return src
}

func below(name string) bool {
	return path.Ext(name) == ".css" || strings.HasPrefix(name, "media/") && path.Ext(name) != ".pdf"
}

// What names a file names it by its new name, from wherever it stands, and nothing else is changed.
func TestNamesByContentAreFollowed(t *testing.T) {
	files := map[string]string{
		"site.css":           `a{background:url("media/Kite one.svg")}b{background:url('media/gone.svg')}c{background:url(data:image/png;base64,x)}`,
		"media/Kite one.svg": "<svg/>", "media/a.jpg": "JPEG", "media/a-480.jpg": "SMALL", "media/plan.pdf": "PDF", "favicon.svg": "<svg/>",
		"index.html": `<!doctype html><link href="site.css"><link href=favicon.svg><style>p{background:url(media/a.jpg)}</style><a href="media/plan.pdf#page=2">P</a><a href="courses/">site.css</a>` +
			`<img src="media/Kite%20one.svg" srcset="media/a-480.jpg 480w, media/a.jpg 960w" alt="media/a.jpg"><meta content="https://m.example/kites/media/a.jpg"><a href="https://o.example/site.css">o</a><use href="media/Kite%20one.svg#tail"/>`,
		"courses/index.html": `<link rel="stylesheet" href="../site.css"><p style="background: url(../media/a.jpg)">`,
		"404.html":           `<link href="/kites/site.css"><link href="/other/site.css">`,
	}
	src, err := Hashed(sourceFrom(files), "https://m.example/kites", below)
	require.NoError(t, err)
	read := func(name string) string {
		d, err := src.Read(name)
		require.NoError(t, err)
		return string(d)
	}
	as := func(start, end string) string {
		i := slices.IndexFunc(src.Names, func(n string) bool {
			return strings.HasPrefix(n, start+".") && strings.HasSuffix(n, end) && len(n) == len(start)+9+len(end)
		})
		require.GreaterOrEqual(t, i, 0, "%s in %v", start, src.Names)
		return src.Names[i]
	}
	css, kite, jpg, small := as(
		"site",
		".css",
	), as(
		"media/Kite one",
		".svg",
	), as(
		"media/a",
		".jpg",
	), as(
		"media/a-480",
		".jpg",
	)
	url := strings.ReplaceAll(kite, " ", "%20")
	assert.Len(t, src.Names, len(files))
	assert.Contains(t, src.Names, "media/plan.pdf")
	assert.Contains(t, src.Names, "favicon.svg")
	assert.Equal(
		t,
		`a{background:url("`+url+`")}b{background:url('media/gone.svg')}c{background:url(data:image/png;base64,x)}`,
		read(css),
	)
	assert.Equal(
		t,
		`<!doctype html><link href="`+css+`"><link href=favicon.svg><style>p{background:url(`+jpg+`)}</style><a href="media/plan.pdf#page=2">P</a><a href="courses/">site.css</a>`+
			`<img src="`+url+`" srcset="`+small+` 480w, `+jpg+` 960w" alt="media/a.jpg"><meta content="https://m.example/kites/`+jpg+`"><a href="https://o.example/site.css">o</a><use href="`+url+`#tail"/>`,
		read("index.html"),
	)
	assert.Equal(
		t,
		`<link rel="stylesheet" href="../`+css+`"><p style="background: url(../`+jpg+`)">`,
		read("courses/index.html"),
	)
	assert.Equal(t, `<link href="/kites/`+css+`"><link href="/other/site.css">`, read("404.html"))

	// a picture that changes gives what names it another name, too, and leaves the rest
	files["media/Kite one.svg"] = "<svg><path/></svg>"
	next, err := Hashed(sourceFrom(files), "", below)
	require.NoError(t, err)
	assert.NotContains(t, next.Names, kite)
	assert.NotContains(t, next.Names, css)
	assert.Contains(t, next.Names, jpg)
	delete(files, "media/a.jpg")
	_, err = Hashed(Source{Names: []string{"media/a.jpg"}, Read: sourceFrom(files).Read}, "", below)
	assert.Error(t, err)
}
