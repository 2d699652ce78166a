package sweep_test

import (
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/layout"
	"ziegel/core/sweep"
	"ziegel/stock"
)

func TestTheDemoStacksAsItsSectionsSay(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	want := map[string][]sweep.Span{
		"menu":    {{From: 240, To: 644, As: "menu"}, {From: 645, To: 2560, As: "4"}},
		"opening": {{From: 240, To: 767, As: "below"}, {From: 768, To: 2560, As: "beside"}},
		"reasons": {{From: 240, To: 888, As: "1+1+1"}, {From: 889, To: 2560, As: "3"}},
		"plans":   {{From: 240, To: 837, As: "1+1+1"}, {From: 838, To: 2560, As: "3"}},
		"voices": {{From: 240, To: 703, As: "1+1+1"}, {From: 704, To: 1023, As: "1+2"},
			{From: 1024, To: 2560, As: "3"}},
		"foot": {{From: 240, To: 359, As: "1+1"}, {From: 360, To: 2560, As: "2"}},
	}
	for _, b := range demo(t).Map(sweep.DefaultFrom, sweep.DefaultTo, nil) {
		assert.Equal(t, want[b.Name], b.Arrangements, b.Name)
	}
}

// A box that is kept from the last width must come out as if it were new.
func TestTheOrderOfWidthsDoesNotMatter(t *testing.T) {
	if testing.Short() {
		t.Skip("takes half of a second")
	}
	l := demo(t)
	kept := l.Engine()
	for _, w := range []int{280, 320, 360, 390, 414, 480, 1280, 390, 391, 820, 600, 2560, 240, 1023, 1024, 645, 644} {
		a, b := kept.Layout(w), l.Engine().Layout(w)
		require.Equal(t, len(b.Boxes), len(a.Boxes), w)
		for i := range b.Boxes {
			require.Equal(t, b.Boxes[i].Rect, a.Boxes[i].Rect, "%d px: %s", w, b.Boxes[i].Element.Path())
			require.Equal(t, b.Boxes[i].Lines, a.Boxes[i].Lines, "%d px: %s", w, b.Boxes[i].Element.Path())
		}
	}
}

// On every page the text keeps its distance from the screen edge, and the left edges of the blocks are one line.
func TestTextNeverComesNearerToTheEdgeThanTheGutter(t *testing.T) {
	if testing.Short() {
		t.Skip("sweeps the demo")
	}
	l := demo(t)
	l.Each(240, 2560, func(w int, r *layout.Result) {
		for i := range r.Boxes {
			p := &r.Boxes[i]
			if p.Lines == 0 || p.Above {
				continue
			}
			assert.GreaterOrEqual(t, p.Text.X.Float(), 19.9, "%d px: %s", w, p.Element.Path())
			assert.LessOrEqual(t, p.Text.Right().Float(), float64(w)-19.9, "%d px: %s", w, p.Element.Path())
		}
	})
}

func TestForeignFilesHaveBlocksToo(t *testing.T) {
	file := filepath.Join(t.TempDir(), "p.html")
	require.NoError(t, os.WriteFile(file, []byte(`<!doctype html><link rel=stylesheet href=missing.css><header>H</header><main><section><h2>W</h2><img alt="" width=10 height=10></section>
<div style="display:flex;flex-wrap:wrap"><p class=c style="width:120px">1</p><p class=c style="width:120px">2</p></div></main>`), 0o666))
	l, err := sweep.FromFile(file, stock.Files)
	require.NoError(t, err)
	assert.Len(t, l.Doc.Missing, 1)
	blocks := l.Map(240, 300, nil)
	require.Len(t, blocks, 2)
	assert.Equal(t, []sweep.Span{{From: 240, To: 255, As: "1+1"}, {From: 256, To: 300, As: "2"}},
		blocks[1].Arrangements)
	_, err = sweep.FromFile(filepath.Join(t.TempDir(), "none.html"), stock.Files)
	assert.ErrorContains(t, err, "no such file")
}

func TestDoubtsHaveTheirPlaces(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	file := filepath.Join(t.TempDir(), "kite.html")
	require.NoError(t, os.WriteFile(file,
		[]byte("<!doctype html>\n<style>\np { shape-outside: margin-box; font-family: Gale }\n</style>\n<p style='initial-letter: 2'>Kite</p>\n"), 0o666))
	l, err := sweep.FromFile(file, stock.Files)
	require.NoError(t, err)
	var got []string
	for _, d := range l.Doubts() {
		got = append(got, fmt.Sprintf("%s %s %d:%d", d.Rule, d.Value, d.At.Line, d.At.Column))
	}
	assert.Equal(t, []string{"not-modelled margin-box 3:5", "not-modelled 2 5:11", "replaced-font Gale 0:0"}, got)
	assert.Empty(t, demo(t).Doubts(), "the demo uses nothing that the layout does not follow")
}

// TestAFolderIsNotLeft reads pages of a folder: what lies outside of it is not there, whatever a page calls it.
func TestAFolderIsNotLeft(t *testing.T) {
	page := func(text string) string { return "<!doctype html><title>x</title>" + text }
	folder := fstest.MapFS{
		"old/index.html": {Data: []byte(page(`<link rel=stylesheet href="../up.css"><link rel=stylesheet href="/in.css"><link rel=stylesheet href="css/in.css"><p>a</p>`))},
		"old/css/in.css": {Data: []byte(`p{width:100px}`)}, "in.css": {Data: []byte(`p{height:50px}`)}, "up.css": {Data: []byte(`p{padding:9px}`)},
		"latin.html": {Data: []byte("<!doctype html><meta charset=iso-8859-1><p>Caf\xe9</p>")},
		"wide.html":  {Data: []byte("\xff\xfe<\x00p\x00>\x00H\x00\xe4\x00")},
		"bytes.html": {Data: []byte("\x00\x01")}, "large.html": {Data: make([]byte, 17<<20)},
	}
	within, err := fs.Sub(folder, "old")
	require.NoError(t, err)
	l, err := sweep.FromFolder(within, "index.html", stock.Files)
	require.NoError(t, err)
	r := l.Engine().Layout(800)
	p := r.Of(l.Doc.Elements[len(l.Doc.Elements)-1])
	assert.Equal(t, 100.0, p.W.Float(), "the sheet of the folder holds, without padding of the one above")
	assert.NotEqual(t, 50.0, p.H.Float())
	assert.Len(t, l.Doc.Missing, 2)
	for name, want := range map[string]string{"latin.html": "Café", "wide.html": "Hä"} {
		l, err := sweep.FromFolder(folder, name, stock.Files)
		require.NoError(t, err, name)
		assert.Contains(t, l.Doc.Body.Text(), want)
	}
	for name, want := range map[string]string{"bytes.html": "not an HTML file", "large.html": "17 MB",
		"nope.html": "read nope.html"} {
		_, err := sweep.FromFolder(folder, name, stock.Files)
		assert.ErrorContains(t, err, want)
	}
}
