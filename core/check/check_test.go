package check_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"math/rand"
	"os"
	"path/filepath"
	"regexp"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/check"
	"ziegel/core/sweep"
	"ziegel/stock"
)

// heavyPicture is a PNG of 900 by 400 pixels that does not become small.
var heavyPicture = sync.OnceValue(func() []byte {
	noise := image.NewNRGBA(image.Rect(0, 0, 900, 400))
	rand.New(rand.NewSource(1)).Read(noise.Pix)
	var out bytes.Buffer
	if err := png.Encode(&out, noise); err != nil {
		panic(err)
	}
	return out.Bytes()
})

// check runs all rules over an HTML page.
func reportOn(t *testing.T, body string, from, to int) *check.Report {
	t.Helper()
	file := filepath.Join(t.TempDir(), "page.html")
	var small bytes.Buffer
	require.NoError(t, png.Encode(&small, image.NewGray(image.Rect(0, 0, 100, 50))))
	require.NoError(t, os.WriteFile(filepath.Join(filepath.Dir(file), "small.png"), small.Bytes(), 0o666))
	require.NoError(t, os.WriteFile(filepath.Join(filepath.Dir(file), "heavy.png"), heavyPicture(), 0o666))
	require.NoError(t, os.WriteFile(filepath.Join(filepath.Dir(file), "half.svg"),
		[]byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 50" width="100" height="50"><path d="M0 0h50v50H0z" fill="#000"/><path d="M50 0h50v50H50z" fill="#fff"/></svg>`), 0o666))
	require.NoError(t, os.WriteFile(file,
		[]byte("<!doctype html><style>body{margin:0;font:16px/1.5 'Instrument Sans'}</style>"+body), 0o666))
	l, err := sweep.FromFile(file, stock.Files)
	require.NoError(t, err)
	return check.Run(l, nil, nil, from, to)
}

func TestRulesFindWhatBreaksAndWhere(t *testing.T) {
	tests := []struct{ name, body, rule, part, span string }{
		{"a fixed width pushes the page", `<main><div class=a><p class=w style="width:300px">x</p></div></main>`,
			"overflow-x", "p.w", "240..299"},
		{"a word does not fit", `<main><div><p class=w style="font-size:40px">Donaudampfschiff</p></div></main>`,
			"overflow-x", "p.w", "240..300"},
		{"text is cut off", `<main><div style="height:30px;overflow:hidden"><p class=t style="margin:0;width:200px">Several words that take more than one line of text</p></div></main>`, "text-clipped", "p.t", "240..400"},
		{"text lies on text",
			`<main><div><p class=a style="margin:0">Some words</p><p class=b style="margin:-20px 0 0">Other words</p></div></main>`, "text-overlaps", "p.a", "240..400"},
		{"no alternative text", `<main><img src="x.png"></main>`, "missing-alt", "", ""},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) {
			r := reportOn(t, tt.body, 240, 400)
			var found *check.Finding
			for i := range r.Findings {
				if r.Findings[i].Rule == tt.rule {
					found = &r.Findings[i]
				}
			}
			require.NotNil(t, found, "%+v", r.Findings)
			if tt.span == "" {
				return
			}
			assert.Equal(t, tt.part, found.Part)
			if tt.name != "a word does not fit" {
				assert.Equal(t, tt.span, fmt.Sprintf("%d..%d", found.From, found.To))
			}
			assert.Positive(t, r.Errors())
		})
	}
}

func TestAQuietPageHasNoFindings(t *testing.T) {
	r := reportOn(t, `<main style="padding:20px"><section><h1>Kites</h1><p>Made for real wind.</p></section><section><ul><li class=c>One</li><li class=c>Two</li></ul></section></main>`, 240, 320)
	assert.Empty(t, r.Findings)
	require.Len(t, r.Blocks, 2)
	assert.Equal(t, []sweep.Span{{From: 240, To: 320, As: "1+1"}}, r.Blocks[1].Arrangements)
}

func TestContrastLooksAtWhatLiesBelow(t *testing.T) {
	for _, c := range []struct {
		name, body string
		bad        bool
	}{
		{"gradient, its worst spot",
			`<p style="margin:20px;color:#fff;background:linear-gradient(#000, #eee)">Wind</p>`, true},
		{"gradient that is dark all over",
			`<p style="margin:20px;color:#fff;background:linear-gradient(#000, #333)">Wind</p>`, false},
		{"half-transparent ground",
			`<div style="padding:20px;background:rgb(0 0 0 / .2)"><p style="color:#777">Wind</p></div>`, true},
		{"opacity", `<div style="padding:20px;opacity:.4"><p style="color:#000">Wind</p></div>`, true},
		{"a picture under the text",
			`<div style="position:relative;padding:20px"><img src="small.png" alt="" style="position:absolute;inset:0;width:100%;height:100%"><p style="position:relative;color:#fff">Wind</p></div>`, false},
		{"the same picture, dark text",
			`<div style="position:relative;padding:20px"><img src="small.png" alt="" style="position:absolute;inset:0;width:100%;height:100%"><p style="position:relative;color:#222">Wind</p></div>`, true},
		{"a picture beside the text",
			`<div style="padding:20px"><img src="small.png" alt="" width=100><p style="color:#222">Wind</p></div>`, false},
		{"dark only", `<style>@media (prefers-color-scheme: dark){body{background:#111}}</style><p style="margin:20px;color:#333">Wind</p>`, true},
		{"light-dark()", `<style>:root{color-scheme:light dark}</style><p style="margin:20px;color:light-dark(#333, #ddd)">Wind</p>`, false},
		{"oklch and color-mix",
			`<p style="margin:20px;background:oklch(20% 0.05 250);color:color-mix(in oklab, white, black 10%)">Wind</p>`, false},
		{"large text needs less", `<p style="margin:20px;font-size:24px;color:#888">Wind</p>`, false},
		{"large text, still too little", `<p style="margin:20px;font-size:24px;color:#aaa">Wind</p>`, true},
		{"an unlike link", `<p style="margin:20px;background:#222;color:#fff">See <a href=x>this</a></p>`, true},
		{"nobody can tell", `<p style="margin:20px;color:#777;background:#777;mix-blend-mode:difference">Wind</p>`,
			false},
	} {
		t.Run(c.name, func(t *testing.T) {
			found := false
			for _, f := range reportOn(t, "<main><section>"+c.body+"</section></main>", 320, 322).Findings {
				if f.Rule == "contrast-low" {
					found = true
					assert.Regexp(t, `has a contrast of \d`, f.Text)
				}
			}
			assert.Equal(t, c.bad, found)
		})
	}
}

// Of a picture with several files the one that is shown is judged: small.png is 2 to 1, heavy.png 9 to 4.
func TestThePictureOfEachRangeIsJudged(t *testing.T) {
	r := reportOn(t, `<main><picture style="display:contents"><source media="(width < 300px)" srcset="heavy.png"><img src="small.png" alt="A kite" style="display:block;width:200px;height:100px"></picture></main>`, 240, 400)
	var spans []string
	for _, f := range r.Findings {
		if f.Rule == "picture-distorted" {
			spans = append(spans, fmt.Sprintf("%d..%d", f.From, f.To))
		}
	}
	assert.Equal(t, []string{"240..299"}, spans)
}

// Text on a picture is judged by the spot that it stands on: half.svg is black on its left and white on its right.
func TestTextIsJudgedByItsSpotOnAPicture(t *testing.T) {
	page := func(side, image string) string {
		return `<main style="width:400px"><div style="width:400px;height:200px;background:` + image +
			`;background-size:cover"><p style="margin:0;padding-` + side +
			`:220px;width:400px;box-sizing:border-box;color:#fff">Made for wind</p></div></main>`
	}
	low := func(body string) []string {
		var out []string
		for _, f := range reportOn(t, body, 400, 420).Findings {
			if f.Rule == "contrast-low" {
				out = append(out, f.Text)
			}
		}
		return out
	}
	assert.Empty(t, low(page("right", "url(half.svg)")), "white on black")
	assert.Len(t, low(page("left", "url(half.svg)")), 1, "white on white")
	assert.Empty(t, low(page("left", "linear-gradient(#000c, #000c), url(half.svg)")), "under a veil")
}

// A check says the same every time: which of several like boxes is told does not depend on which core was first.
func TestAReportIsTheSameEveryTime(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	cards := ""
	for range 6 {
		cards += `<div style="width:300px"><h3 style="font-size:40px">Delta</h3><p>Flown before it is sold</p></div>`
	}
	body := `<main><section><h2 style="font-size:20px">Kites</h2>` + cards + `</section></main>`
	told := func() string {
		data, err := json.Marshal(reportOn(t, body, 240, 700).Findings)
		require.NoError(t, err)
		return regexp.MustCompile(`"cause":"[^"]*"`).ReplaceAllString(string(data), "") // the folder is another one
	}
	first := told()
	require.Contains(t, first, "type-order")
	for range 8 {
		require.Equal(t, first, told())
	}
}

// A page from right to left scrolls to the other side, and says so; what stands beyond its right side cannot be
// reached.
func TestPagesFromRightToLeftOverflowToTheLeft(t *testing.T) {
	said := func(dir, style string) (out []string) {
		body := `<main dir=` + dir + `><style>body{direction:` + dir + `}</style><p class=w style="` + style +
			`">x</p></main>`
		for _, f := range reportOn(t, body, 240, 320).Findings {
			if f.Rule == "overflow-x" {
				out = append(out, f.Text)
			}
		}
		return out
	}
	const wide = "width:400px"
	require.Len(t, said("ltr", wide), 1)
	assert.Contains(t, said("ltr", wide)[0], "160 px past the right edge of the screen")
	require.Len(t, said("rtl", wide), 1)
	assert.Contains(t, said("rtl", wide)[0], "160 px past the left edge of the screen")
	assert.Empty(t, said("rtl", "width:100px;margin-right:-60px"))
	assert.Len(t, said("ltr", "width:100px;margin-left:220px"), 1)
}

// TestPricesStandOnOneLine holds the prices of cards against each other, with a sign that is an element of its own,
// raised or not. Rules that count lines mean lines below each other; the same content across has these findings.
func TestLinesThatStandSideBySideAreNotCounted(t *testing.T) {
	body := func(mode string) string {
		return "<style>main{padding:40px}div{height:70px;font:16px/24px sans-serif}.v{writing-mode:" + mode +
			"}</style><main><div class=v style='height:49px;width:300px'>Words that stand on two lines or more of the page</div>" +
			"<ul class=v style='height:120px'><li>one<li>two</ul></main>"
	}
	rules := func(mode string) (out []string) {
		for _, f := range reportOn(t, body(mode), 360, 370).Findings {
			out = append(out, f.Rule)
		}
		return out
	}
	assert.Contains(t, rules("horizontal-tb"), "room-small")
	for _, mode := range []string{"vertical-rl", "vertical-lr", "sideways-lr"} {
		assert.NotContains(t, rules(mode), "room-small", mode)
		assert.NotContains(t, rules(mode), "screen-order", mode)
	}
}

func TestPricesStandOnOneLine(t *testing.T) {
	card := func(price, margin string) string {
		return `<li class=c style="flex:1"><h3 style="margin:0">Kite</h3><p style="margin:` + margin +
			`px 0 0;font-size:30px">` + price + `</p></li>`
	}
	raised := `<span style="font-size:15px;vertical-align:super">€</span>`
	for _, c := range []struct {
		a, b, margin string
		off          bool
	}{
		{"€85", "€90", "0", false},
		{"€85", "€90", "20", true},
		{raised + "85", "€90", "0", false},
		{raised + "<b>85</b>", "€90", "0", false},
		{raised + "85", raised + "90", "20", true},
	} {
		r := reportOn(t, `<main><section><ul style="display:flex;gap:10px;padding:0;margin:20px;list-style:none">`+card(c.a, "0")+card(c.b, c.margin)+`</ul></section></main>`, 390, 400)
		off := false
		for _, f := range r.Findings {
			off = off || f.Rule == "off-one-line"
		}
		assert.Equal(t, c.off, off, "%+v", c)
	}
}
