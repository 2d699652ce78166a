package paint_test

import (
	"fmt"
	"image"
	"image/color"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/paint"
	"ziegel/core/paint/display"
	"ziegel/core/paint/raster"
	"ziegel/core/sweep"
	"ziegel/stock"
)

const pattern = `<svg xmlns="http://www.w3.org/2000/svg" width="20" height="10"><path fill="#00f" d="M0 0h10v10H0z"/><path fill="#0f0" d="M10 0h10v10H10z"/></svg>`

const schemes = `<svg xmlns="http://www.w3.org/2000/svg" width="20" height="10"><style>path{fill:#f00}@media(prefers-color-scheme:dark){path{fill:#0f0}}</style><path d="M0 0h20v10H0z"/></svg>`

func list(t testing.TB, html string, o paint.Options) *display.List {
	t.Helper()
	doc, err := css.Load(css.Source{File: "t.html", HTML: "<!doctype html><style>body{margin:0}</style>" + html})
	require.NoError(t, err)
	fonts, err := sweep.StockFonts(stock.Files)
	require.NoError(t, err)
	e := layout.New(doc, layout.Options{Fonts: fonts.Clone(), Height: 200, Dark: o.Dark,
		Picture: func(string) (float64, float64, bool) { return 20, 10, true }})
	r := e.Layout(200)
	o.File = func(src string) ([]byte, bool) {
		if src == "s.svg" {
			return []byte(schemes), true
		}
		return []byte(pattern), strings.HasSuffix(src, ".svg")
	}
	return paint.Page(e, r, o)
}

func drawn(t testing.TB, html string) *image.RGBA {
	t.Helper()
	img, err := raster.Draw(list(t, html, paint.Options{}), raster.Options{})
	require.NoError(t, err)
	return img
}

// What is seen at a point of a page of 200 px.
func TestWhatIsPainted(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	const box = `<style>div{width:100px;height:100px}</style>`
	for name, c := range map[string]struct {
		html string
		want string // "x,y #color" and more of them
	}{
		"a ground":              {`<div style="background:#f00"></div>`, "50,50 #ff0000; 150,50 #ffffff"},
		"the body's covers all": {`<body style="background:#0f0">`, "5,190 #00ff00"},
		"the root's goes before": {`<style>html{background:#f00}body{background:#0f0;height:40px}</style>`,
			"5,20 #00ff00; 5,150 #ff0000"},
		"currentcolor": {`<div style="color:#00f;background:currentcolor"></div>`, "50,50 #0000ff"},
		"a color of the parent": {`<section style="color:#f0f"><div style="border:10px solid"></div></section>`,
			"5,50 #ff00ff"},
		"sides of a border": {`<div style="border:solid;border-width:10px 20px;border-color:#f00 #0f0 #00f #ff0"></div>`, "70,4 #ff0000; 130,60 #00ff00; 70,116 #0000ff; 8,60 #ffff00"},
		"mitered corners":   {`<div style="width:0;height:0;border:20px solid;border-color:#f00 #0f0 #00f #ff0"></div>`, "20,5 #ff0000; 35,20 #00ff00; 20,35 #0000ff; 5,20 #ffff00"},
		"round corners": {`<div style="background:#f00;border-radius:50px"></div>`,
			"3,3 #ffffff; 50,50 #ff0000"},
		"an ellipse": {`<div style="background:#f00;border-radius:50px/20px"></div>`,
			"12,5 #ffffff; 2,50 #ff0000"},
		"clipped to the padding": {`<div style="background:#f00 padding-box;border:10px solid #0000"></div>`,
			"5,50 #ffffff; 15,50 #ff0000"},
		"a picture, repeated": {`<div style="background:url(p.svg)"></div>`,
			"5,5 #0000ff; 15,5 #00ff00; 45,95 #0000ff"},
		"not repeated": {`<div style="background:#f00 url(p.svg) no-repeat right bottom"></div>`,
			"5,5 #ff0000; 85,95 #0000ff; 95,95 #00ff00"},
		"as large as it gets": {`<div style="background:url(p.svg) 0 0/100% 100%"></div>`,
			"45,95 #0000ff; 55,5 #00ff00"},
		"cover": {`<div style="background:url(p.svg) 0 0/cover"></div>`, "95,50 #0000ff"},
		"contain": {`<div style="background:url(p.svg) center/contain no-repeat"></div>`,
			"50,10 #ffffff; 20,50 #0000ff; 80,50 #00ff00"},
		"the first layer is on top": {`<div style="background:linear-gradient(#f00,#f00) 0 0/50% 100% no-repeat,#00f"></div>`, "25,50 #ff0000; 75,50 #0000ff"},
		"a gradient's hard stop": {`<div style="background:linear-gradient(90deg,#f00 50%,#00f 50%)"></div>`,
			"49,50 #ff0000; 51,50 #0000ff"},
		"to a side": {`<div style="background:linear-gradient(to left,#f00 50%,#00f 0)"></div>`,
			"49,50 #0000ff; 51,50 #ff0000"},
		"a cone": {`<div style="background:conic-gradient(#f00 25%,#00f 0)"></div>`,
			"75,25 #ff0000; 25,25 #0000ff"},
		"rings": {`<div style="background:radial-gradient(circle,#f00 20px,#00f 0)"></div>`,
			"50,40 #ff0000; 50,20 #0000ff"},
		"overflow":                 {`<div style="overflow:hidden"><p style="margin:0;width:150px;height:150px;background:#f00"></div>`, "95,95 #ff0000; 105,50 #ffffff"},
		"overflow with corners":    {`<div style="overflow:hidden;border-radius:50px"><p style="margin:0;height:150px;background:#f00"></div>`, "50,50 #ff0000; 3,3 #ffffff"},
		"out of a box that clips":  {`<div style="overflow:hidden"><p style="position:absolute;margin:0;left:150px;width:20px;height:20px;background:#f00"></div>`, "155,5 #ff0000"},
		"z-index":                  {`<div style="position:absolute;z-index:2;background:#f00"></div><div style="position:absolute;z-index:1;background:#00f"></div>`, "50,50 #ff0000"},
		"positioned over the rest": {`<div style="position:relative;top:50px;background:#f00"></div><div style="background:#00f"></div>`, "50,125 #ff0000; 50,175 #0000ff"},
		"below its context":        {`<div style="position:relative;z-index:0;background:#00f"><p style="position:absolute;z-index:-1;margin:0;left:50px;top:0;width:100px;height:50px;background:#f00"></div>`, "75,25 #ff0000"},
		"below a box that is none": {`<div style="background:#00f"><p style="position:absolute;z-index:-1;margin:0;left:50px;top:0;width:100px;height:50px;background:#f00"></div>`, "75,25 #0000ff; 125,25 #ff0000"},
		"the order of items":       {`<section style="display:flex"><div style="background:#f00;flex:none;order:1;margin-left:-50px"></div><div style="background:#00f;flex:none"></div></section>`, "75,50 #ff0000"},
		"opacity of what overlaps": {`<section style="opacity:.5"><div style="background:#f00"></div><div style="background:#000;margin-top:-100px"></div></section>`, "50,50 #808080"},
		"multiply":                 {`<div style="background:#ff0"></div><div style="margin-top:-100px;background:#0ff;mix-blend-mode:multiply"></div>`, "50,50 #00ff00"},
		"a transform": {`<div style="background:#f00;transform:translate(50px,50px)"></div>`,
			"25,25 #ffffff; 125,125 #ff0000"},
		"about its origin": {`<div style="background:#f00;transform:scale(.5);transform-origin:0 0"></div>`,
			"40,40 #ff0000; 60,60 #ffffff"},
		"clip-path": {`<div style="background:#f00;clip-path:circle(30px)"></div>`,
			"50,50 #ff0000; 50,10 #ffffff"},
		"a polygon": {`<div style="background:#f00;clip-path:polygon(0 0,100% 0,0 100%)"></div>`,
			"20,20 #ff0000; 80,80 #ffffff"},
		"inset": {`<div style="background:#f00;clip-path:inset(10px 20px 30px 40px)"></div>`,
			"50,15 #ff0000; 30,50 #ffffff; 50,75 #ffffff; 85,50 #ffffff"},
		"a mask": {`<div style="background:#f00;mask-image:linear-gradient(90deg,#000 50%,#0000 50%)"></div>`, "25,50 #ff0000; 75,50 #ffffff"},
		"hidden": {`<div style="background:#f00;visibility:hidden"><p style="visibility:visible;margin:0;height:50px;background:#00f"></div>`, "50,25 #0000ff; 50,75 #ffffff"},
		"a shadow": {`<div style="box-shadow:50px 50px 0 #00f"></div>`,
			"125,125 #0000ff; 75,75 #ffffff"},
		"the first shadow on top": {`<div style="box-shadow:0 0 0 5px #f00,0 0 0 10px #00f;margin:20px"></div>`,
			"18,70 #ff0000; 12,70 #0000ff"},
		"an inner shadow": {`<div style="background:#fff;box-shadow:inset 10px 0 0 #f00"></div>`,
			"5,50 #ff0000; 15,50 #ffffff"},
		"an outline": {`<div style="margin:20px;outline:5px solid #f00;outline-offset:5px"></div>`,
			"12,70 #ff0000; 17,70 #ffffff"},
		"before and after": {`<style>i::before{content:"";display:block;width:50px;height:50px;background:#f00}</style><i style="display:block"></i>`, "25,25 #ff0000"},
		"a picture in its box": {`<img src=p.svg style="width:100px;height:100px;object-fit:contain">`,
			"50,10 #ffffff; 20,50 #0000ff"},
		"cut":                {`<img src=p.svg style="width:100px;height:100px;object-fit:cover;object-position:100% 0">`, "10,50 #00ff00"},
		"a drawing":          {`<svg width=100 height=100 viewBox="0 0 10 10" style="color:#f00;display:block"><rect width=5 height=10 fill=currentColor /><use href="#c" x=5 /><defs><circle id=c r=2 cy=5 cx=2 fill=#00f /></defs></svg>`, "25,50 #ff0000; 70,50 #0000ff; 95,5 #ffffff"},
		"a drawing's styles": {`<style>.k{fill:#0f0;stroke:#f00;stroke-width:20}</style><svg width=100 height=100 style="display:block"><path class=k d="M30 30h40v40h-40z"/></svg>`, "50,50 #00ff00; 25,50 #ff0000"},
		"even and odd":       {`<svg width=100 height=100 style="display:block"><path fill-rule=evenodd fill=#f00 d="M0 0h100v100H0zM25 25h50v50H25z"/></svg>`, "10,10 #ff0000; 50,50 #ffffff"},
		"a turned group":     {`<svg width=100 height=100 style="display:block"><g transform="translate(100 0) rotate(90)"><rect width=20 height=100 fill=#f00 /></g></svg>`, "50,10 #ff0000; 50,50 #ffffff"},
		"an accent":          {`<input type=checkbox checked style="accent-color:#f00;width:100px;height:100px;margin:0">`, "12,12 #ff0000"},
		"dashes have gaps":   {`<div style="border-top:10px dashed #f00"></div>`, "5,5 #ff0000; 24,5 #ffffff"},
		"two lines of a double": {`<div style="border-top:9px double #f00"></div>`,
			"50,1 #ff0000; 50,4 #ffffff; 50,7 #ff0000"},
		"the gap of a legend":    {`<fieldset style="margin:0;border:4px solid #f00;background:#0f0;padding:0;width:100px;height:40px"><legend style="padding:0;margin-left:20px"><i style="display:block;width:40px;height:20px"></i></legend></fieldset>`, "10,10 #ff0000; 40,10 #00ff00; 80,10 #ff0000; 80,4 #ffffff; 40,4 #ffffff; 10,13 #00ff00"},
		"a drawing in the dark":  {`<style>:root{color-scheme:dark}</style><img src=s.svg style="width:100px;height:100px">`, "50,50 #00ff00"},
		"a drawing in the light": {`<img src=s.svg style="width:100px;height:100px">`, "50,50 #ff0000"},
		"scaled colors": {`<div style="background:color-mix(in srgb,#f00 50%,#00f)"></div>`,
			"50,50 #800080"},
	} {
		img := drawn(t, box+c.html)
		for _, p := range strings.Split(c.want, "; ") {
			var x, y int
			var color string
			_, err := fmt.Sscanf(p, "%d,%d %s", &x, &y, &color)
			require.NoError(t, err)
			got := img.RGBAAt(x, y)
			var r, g, b int
			_, err = fmt.Sscanf(color, "#%02x%02x%02x", &r, &g, &b)
			require.NoError(t, err)
			assert.True(t, near(r, got.R) && near(g, got.G) && near(b, got.B), "%s: %s and not #%02x%02x%02x", name, p,
				got.R, got.G, got.B)
		}
	}
}

func near(want int, got uint8) bool { return want-int(got) <= 1 && int(got)-want <= 1 }

func TestDarkColors(t *testing.T) {
	const page = `<html style="color-scheme:light dark"><div style="width:100px;height:100px;background:light-dark(#f00,#0f0)"></div></html>`
	for _, dark := range []bool{false, true} {
		img, err := raster.Draw(list(t, page, paint.Options{Dark: dark}), raster.Options{})
		require.NoError(t, err)
		want := map[bool][2]uint8{false: {255, 255}, true: {0, 0x12}}[dark]
		assert.Equal(t, want[0], img.RGBAAt(50, 50).R)
		assert.Equal(t, want[1], img.RGBAAt(150, 150).R, "the page itself")
	}
}

// Letters stand on whole pixels, where the layout put them, in their color.
// each visits all items of a list but groups, in the order in which they are painted.
func each(items []display.Item, visit func(display.Item)) {
	for _, it := range items {
		if g, ok := it.(*display.Group); ok {
			each(g.Items, visit)
			continue
		}
		visit(it)
	}
}

// What a font has for a tab is not drawn: a tab is room.
func TestTabsAreRoom(t *testing.T) {
	l := list(t, "<pre style='font:20px arimo;margin:0'>a\tb\tc</pre>", paint.Options{})
	glyphs := 0
	each(l.Items, func(it display.Item) {
		if text, ok := it.(*display.Text); ok {
			glyphs += len(text.Glyphs)
		}
	})
	assert.Equal(t, 3, glyphs)
}

// Letters that shipped faces only have widths for are told, once for each element.
func TestLettersWithoutShapes(t *testing.T) {
	for text, want := range map[string]int{
		"Δρα, To":                  1,
		"Київ <b>Та</b> Киев":      2,
		"a b&nbsp;c&#8239;d – é":   0,
		"a&shy;b&#8205;c &#8206;d": 0,
		"<span style='font-family:dejavu sans'>سلام שלום</span>": 0,
	} {
		l := list(t, "<p style='font:20px sans-serif'>"+text, paint.Options{})
		letters := 0
		for _, m := range l.Missed {
			if strings.HasPrefix(m.What, "letters ") {
				letters++
			}
		}
		assert.Equal(t, want, letters, "%s: %v", text, l.Missed)
	}
}

// Rules, frames of fieldsets and tables and bars of progress in the browser's own colors, whatever color text has.
func TestTheBrowsersOwnColors(t *testing.T) {
	for _, c := range []struct {
		html string
		x, y int
		want string
	}{
		{`<hr style="margin:0;border-width:4px;color:red">`, 50, 1, "#9a9a9a"},
		{`<hr style="margin:0;border-width:4px">`, 50, 6, "#eeeeee"},
		{`<hr style="margin:0;border-width:4px;border-color:red">`, 50, 1, "#ab0000"},
		{`<hr style="margin:0;border-width:4px;border-color:#f00">`, 50, 1, "#ab0000"},
		{`<table border=4 cellspacing=0><tr><td style="width:50px;height:20px"></table>`, 20, 1, "#a8a8a8"},
		{`<table border=4 cellspacing=0><tr><td style="width:50px;height:20px"></table>`, 20, 4, "#545454"},
		{`<fieldset style="margin:0;height:50px;border-width:4px"></fieldset>`, 50, 0, "#9b9b9b"},
		{`<progress value=.5 style="display:block;width:100px"></progress>`, 25, 8, "#0075ff"},
		{`<progress value=.5 style="display:block;width:100px"></progress>`, 75, 8, "#efefef"},
		{`<progress value=.5 style="display:block;width:100px"></progress>`, 25, 2, "#ffffff"},
		{`<progress style="display:block;width:100px"></progress>`, 15, 8, "#0075ff"},
		{`<progress style="display:block;width:100px"></progress>`, 30, 8, "#efefef"},
		{`<progress value=.5 style="color-scheme:dark;display:block;width:100px"></progress>`, 25, 8, "#99c8ff"},
		{`<progress value=.5 style="color-scheme:dark;display:block;width:100px"></progress>`, 75, 8, "#3b3b3b"},
		{`<meter value=.5 style="color-scheme:dark;display:block;width:100px"></meter>`, 25, 8, "#74b374"},
	} {
		img, err := raster.Draw(list(t, "<body style='margin:0'>"+c.html, paint.Options{}), raster.Options{})
		require.NoError(t, err)
		at := img.RGBAAt(c.x, c.y)
		assert.Equal(t, c.want, fmt.Sprintf("#%02x%02x%02x", at.R, at.G, at.B), "%s at %d, %d", c.html, c.x, c.y)
	}
}

func TestTextIsPainted(t *testing.T) {
	l := list(t, `<p style="margin:0;font:40px/50px arimo;color:#f00">Hi <u style="text-decoration-color:#00f">go</u></p>`, paint.Options{})
	var words []string
	var lines int
	each(l.Items, func(it display.Item) {
		switch it := it.(type) {
		case *display.Text:
			words = append(words, it.Words)
			require.NotEmpty(t, it.Glyphs)
			for i := 1; i < len(it.Glyphs); i++ {
				assert.Greater(t, it.Glyphs[i].X, it.Glyphs[i-1].X)
			}
			assert.Equal(t, 40.0, it.Size)
		case *display.Fill:
			if s, ok := it.Brush.(display.Solid); ok && s.B == 1 && s.R == 0 {
				lines++
			}
		}
	})
	assert.Equal(t, []string{"Hi ", "go"}, words)
	assert.Equal(t, 1, lines, "the line begins after the descender of the g")
	img, err := raster.Draw(l, raster.Options{})
	require.NoError(t, err)
	ink := 0
	for x := range 60 {
		if c := img.RGBAAt(x, 25); c.R > 200 && c.G < 60 {
			ink++
		}
	}
	assert.Greater(t, ink, 5)
}

func TestLinesThatEndInAnEllipsis(t *testing.T) {
	text := func(style string) string {
		var out []string
		for _, it := range list(t,
			`<p style="margin:0;width:90px;font:16px arimo;`+style+`">Kites over the wide sands at noon</p>`, paint.Options{}).Items {
			collect(it, &out)
		}
		return strings.Join(out, "|")
	}
	assert.NotContains(t, text(""), "…")
	assert.Contains(t, text("white-space:nowrap;overflow:hidden;text-overflow:ellipsis"), "…")
	clamped := text("display:-webkit-box;-webkit-box-orient:vertical;-webkit-line-clamp:2;overflow:hidden")
	assert.Equal(t, 1, strings.Count(clamped, "…"))
	assert.NotContains(t, clamped, "noon")
}

// Dates show their parts, or what stands for them, and a picture; files a button and a text.
func TestFieldsOfParts(t *testing.T) {
	for html, want := range map[string]string{
		`<input type=date>`:                             "mm|/|dd|/|yyyy",
		`<input type=date value=2026-08-09>`:            "08|/|09|/|2026",
		`<input type=time value=15:30>`:                 "03|:|30|\u202f|PM",
		`<input type=week value=2026-W07 dir=rtl>`:      "Week |07|, |2026",
		`<input type=file>`:                             "Choose File|No file chosen",
		`<input type=file multiple style="width:50px">`: "Choose Files|No file chosen",
	} {
		var out []string
		for _, it := range list(t, html, paint.Options{}).Items {
			collect(it, &out)
		}
		assert.Equal(t, want, strings.Join(out, "|"), html)
	}
}

// A field has the browser's own frame, 1 px of gray, until the page gives it a ground or a border.
func TestFramesOfFields(t *testing.T) {
	frame := func(html string) color.RGBA {
		img, err := raster.Draw(list(t, `<body style="margin:0">`+html, paint.Options{}), raster.Options{})
		require.NoError(t, err)
		return img.RGBAAt(20, 0)
	}
	gray := color.RGBA{R: 118, G: 118, B: 118, A: 255}
	assert.Equal(t, gray, frame(`<input>`))
	assert.Equal(t, gray, frame(`<button style="width:60px;margin:0">b</button>`))
	assert.Equal(t, gray, frame(`<input style="padding:9px">`))
	assert.Equal(t, color.RGBA{R: 255, A: 255}, frame(`<input style="border:2px solid #f00">`))
	assert.NotEqual(t, gray, frame(`<input style="background:#ff0">`))
	assert.NotEqual(t, gray, frame(`<input style="appearance:none">`))
	assert.NotEqual(t, gray, frame(`<input disabled>`))
}

func collect(it display.Item, out *[]string) {
	switch it := it.(type) {
	case *display.Group:
		for _, k := range it.Items {
			collect(k, out)
		}
	case *display.Text:
		*out = append(*out, it.Words)
	}
}

// What is not drawn as a browser draws it is told, each once for its element.
func TestWhatIsNotDrawnIsTold(t *testing.T) {
	for html, want := range map[string]string{
		`<div style="transform:rotateX(20deg)">a</div>`:    "rotatex",
		`<div style="background:url(p.svg) fixed">a</div>`: "background-attachment: fixed",
		`<iframe></iframe>`:  "what <iframe> shows",
		`<input type=color>`: "a field of type color",
		`<input type=date>`:  "",
		`<svg width=10 height=10><foreignObject width=5 height=5 /></svg>`:   "foreignObject",
		`<svg width=10 height=10><path d="M0 0 L 5 X"/></svg>`:               "a path of a drawing from its fault on",
		`<div style="background:linear-gradient(in oklch,red,blue)">a</div>`: "a gradient in oklch",
		`<div style="border:4px solid;border-image:url(p.svg) 3">a</div>`:    "",
		`<video></video>`: "the film of a video",
		`<svg width=9 height=9><rect width=9 height=9 filter="url(#f)"/></svg>`:      "a filter element",
		`<div style="filter:url(#x)">a</div>`:                                        "the filter",
		`<p style="-webkit-text-stroke:2px red">a</p>`:                               "text-stroke",
		`<div style="background:#eee;box-shadow:0 0 4px lightness(3)">a</div>`:       "a shadow: 0 0 4px lightness(3)",
		`<div style="background:#fff">plain</div>`:                                   "",
		`<div style="background:url(gone.png)">a picture that is not there</div>`:    "",
		`<select multiple><option>a</select>`:                                        "a select of several rows",
		`<svg width=9 height=9><text x=1 y=8><textPath href="#p">t</textPath></svg>`: "text along a path",
	} {
		l := list(t, html, paint.Options{})
		var told []string
		for _, m := range l.Missed {
			told = append(told, m.What)
		}
		if want == "" {
			assert.Empty(t, told, html)
			continue
		}
		assert.Contains(t, strings.Join(told, "; "), want, html)
	}
}

// An element alone has nothing behind it.
func TestOneElementAlone(t *testing.T) {
	doc, err := css.Load(css.Source{File: "t.html",
		HTML: `<!doctype html><body style="margin:0;background:#f00"><div style="height:100px;background:#00f"><i style="display:block;width:20px;height:20px;background:#0f0"></i></div>`})
	require.NoError(t, err)
	fonts, err := sweep.StockFonts(stock.Files)
	require.NoError(t, err)
	e := layout.New(doc, layout.Options{Fonts: fonts.Clone(), Height: 200})
	r := e.Layout(200)
	var el *css.Element
	for _, x := range doc.Elements {
		if x.Tag == "i" {
			el = x
		}
	}
	img, err := raster.Draw(paint.Page(e, r, paint.Options{Only: el}), raster.Options{})
	require.NoError(t, err)
	assert.Equal(t, uint8(255), img.RGBAAt(10, 10).G)
	assert.Zero(t, img.RGBAAt(100, 50).A)
}

func TestLinksAreKept(t *testing.T) {
	l := list(t, `<a href="https://larkspan.example" style="display:block;width:50px;height:20px">x</a><a>no link</a>`,
		paint.Options{})
	require.Len(t, l.Links, 1)
	assert.Equal(t, "https://larkspan.example", l.Links[0].To)
	assert.InDelta(t, 50, l.Links[0].Rect.W(), 1e-9)
}

// Pages of any kind are painted in time.
func FuzzPage(f *testing.F) {
	for _, s := range []string{`<div style="filter:blur(9e9px)">a</div>`,
		`<div style="border:9e9px dotted red">a</div>`,
		`<svg viewBox="0 0 0 0"><use href="#a"/><g id=a><use href="#a"/></g></svg>`, `<p style="font-size:9999px;text-shadow:0 0 99px">a</p>`,
		`<div style="background:repeating-linear-gradient(red 0 .0001px,blue 0 .0002px)">a</div>`,
		`<div style="background:linear-gradient(red,blue) 0 0/.01px .01px;height:500px">a</div>`,
		`<div style="transform:scale(1e9) rotate(1e9deg)">a</div>`, `<div style="mask-image:linear-gradient(red,blue);mask-size:0">a</div>`,
		`<ul><li style="list-style:inside disclosure-open">a</ul>`, `<div style="clip-path:polygon(1e9px 0,0 1e9px)">a</div>`} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, html string) {
		if testing.Short() {
			t.Skip("takes over a second")
		}
		if len(html) > 2000 {
			return
		}
		begun := time.Now()
		l := list(t, html, paint.Options{})
		area := l
		if area.H > 2000 {
			area.H = 2000
		}
		if _, err := raster.Draw(l, raster.Options{}); err != nil {
			t.Fatal(err)
		}
		if took := time.Since(begun); took > 20*time.Second {
			t.Fatalf("%v for %q", took, html)
		}
	})
}
