package vector_test

import (
	"bytes"
	"encoding/xml"
	"image"
	"io"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/paint"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
	"ziegel/core/paint/raster"
	"ziegel/core/paint/vector"
	"ziegel/core/sweep"
	"ziegel/stock"
)

func list(t testing.TB, html string) *display.List {
	t.Helper()
	file := filepath.Join(t.TempDir(), "t.html")
	require.NoError(t, os.WriteFile(file, []byte(html), 0o666))
	l, err := sweep.FromFile(file, stock.Files)
	require.NoError(t, err)
	e := l.Engine()
	r := e.Layout(300)
	return paint.Page(e, r, paint.Options{File: l.File, Source: r.Source})
}

const page = `<!doctype html><style>body{margin:10px;background:#f4f4ee;font:20px/28px arimo}
.a{width:200px;height:60px;background:linear-gradient(90deg,#c33,#fc3 40%,#06c);border-radius:20px;margin:8px}
.b{width:120px;height:40px;background:#fff;border:3px solid #246;box-shadow:0 6px 10px #0006;margin:14px}
.c{opacity:.5}.c i{display:block;width:80px;height:30px;background:#090}.c i+i{margin:-15px 0 0 30px;background:#909}
.d{width:100px;height:50px;background:radial-gradient(circle at 30% 50%,#fff,#036);transform:rotate(10deg);margin:20px}
.e{width:100px;height:40px;overflow:hidden;border-radius:10px}.e i{display:block;height:60px;background:repeating-linear-gradient(45deg,#333 0 6px,#eee 6px 12px)}</style>
<h1 style="font-size:32px;line-height:40px;margin:0">Kites &amp; wind</h1><div class=a></div><div class=b></div><div class=c><i></i><i></i></div><div class=d></div><div class=e><i></i></div>
<a href="https://larkspan.example">A link</a>
<svg width=60 height=40 viewBox="0 0 60 40"><path d="M5 35C20-10 40-10 55 35" fill=none stroke=#c06 stroke-width=4 /></svg>`

// alike gives the share of pixels that differ by more than a little.
func apart(a, b *image.RGBA) float64 {
	n := 0
	for i := 0; i < len(a.Pix); i += 4 {
		for k := range 3 {
			if d := int(a.Pix[i+k]) - int(b.Pix[i+k]); d > 24 || d < -24 {
				n++
				break
			}
		}
	}
	return float64(n) / float64(len(a.Pix)/4)
}

// A picture that was written as SVG and is drawn again is the same picture.
func TestSVGShowsWhatThePictureShows(t *testing.T) {
	l := list(t, page)
	var b bytes.Buffer
	require.NoError(t, vector.SVG(&b, l, vector.SVGOptions{Outlines: true, Title: "A & B"}))
	dec := xml.NewDecoder(bytes.NewReader(b.Bytes()))
	for {
		if _, err := dec.Token(); err == io.EOF {
			break
		} else {
			require.NoError(t, err)
		}
	}
	assert.Contains(t, b.String(), "<title>A &amp; B</title>")
	doc, err := css.Load(css.Source{File: "t", HTML: "<!doctype html><body style='margin:0'>" + b.String()})
	require.NoError(t, err)
	fonts, err := sweep.StockFonts(stock.Files)
	require.NoError(t, err)
	e := layout.New(doc, layout.Options{Fonts: fonts.Clone()})
	r := e.Layout(300)
	again, err := raster.Draw(paint.Page(e, r, paint.Options{}), raster.Options{Area: &geom.Rect{X1: 300, Y1: l.H}})
	require.NoError(t, err)
	first, err := raster.Draw(l, raster.Options{})
	require.NoError(t, err)
	require.Equal(t, first.Rect, again.Rect)
	assert.Less(t, apart(first, again), .02)
	blank := image.NewRGBA(first.Rect)
	assert.Greater(t, apart(first, blank), .5, "the comparison can fail")
}

func TestSVGKeepsLetters(t *testing.T) {
	l := list(t, page)
	var b bytes.Buffer
	area := geom.R(0, 0, 200, 60)
	require.NoError(t, vector.SVG(&b, l, vector.SVGOptions{Area: &area}))
	assert.Contains(t, b.String(), `viewBox="0 0 200 60"`)
	assert.Contains(t, b.String(), `>Kites &amp; wind</text>`)
	assert.NotContains(t, b.String(), "<use")
	assert.NotContains(t, b.String(), "NaN")
	var again bytes.Buffer
	require.NoError(t, vector.SVG(&again, list(t, page), vector.SVGOptions{Area: &area}))
	assert.Equal(t, b.String(), again.String(), "the same page gives the same bytes")
}

func TestPDF(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	l := list(t, page)
	write := func() []byte {
		var b bytes.Buffer
		require.NoError(t, vector.PDF(&b, "Kites", []vector.PDFPage{{List: l, Area: geom.R(0, 0, l.W, l.H),
			Links: func(to string) string { return to }}, {List: l, Area: geom.R(0, 0, 100, 50)}}))
		return b.Bytes()
	}
	data := write()
	assert.True(t, bytes.HasPrefix(data, []byte("%PDF-")))
	assert.Equal(t, 2, strings.Count(string(data), "/Type /Page\n"))
	assert.Contains(t, string(data), "https://larkspan.example")
	assert.Equal(t, data, write(), "no clock in it")
	err := vector.PDF(io.Discard, "Kites", []vector.PDFPage{{List: l, Area: geom.R(0, 0, 300, 30000)}})
	assert.ErrorContains(t, err, "19200 CSS px")
}
