package layout_test

import (
	"fmt"
	"os"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/css"
	"ziegel/core/font"
	"ziegel/core/layout"
	"ziegel/internal/testsite"
)

// oneFace is unpacked once for all tests: fuzzers lay thousands of pages out.
var oneFace = sync.OnceValues(func() (*font.Set, error) {
	data, err := os.ReadFile("../../stock/fonts/instrument-sans-400.woff2")
	return font.NewSet([]*font.Entry{font.Plain("F", 400, false, data)}, map[string][]string{"": {"F"}}), err
})

// face gives a set of one font, called F.
func face(t testing.TB) *font.Set {
	t.Helper()
	fonts, err := oneFace()
	require.NoError(t, err)
	return fonts
}

func engine(t testing.TB, html string) (*css.Document, *layout.Engine) {
	t.Helper()
	return engineOf(t, "<!doctype html><style>body{margin:0;font:16px/1.5 F}</style>"+html)
}

// engineOf does so for a whole document.
func engineOf(t testing.TB, html string) (*css.Document, *layout.Engine) {
	t.Helper()
	d, err := css.Load(css.Source{File: "t.html", HTML: html})
	require.NoError(t, err)
	fonts := face(t).Clone()
	picture := func(src string) (float64, float64, bool) { return 300, 200, src == "p.png" }
	return d, layout.New(d, layout.Options{Fonts: fonts, Picture: picture})
}

// boxes lays a fragment out and writes the boxes of all elements with an id, in 1/64 px: "a 0,0 64x64".
func boxes(t testing.TB, html string, width int) string {
	t.Helper()
	d, e := engine(t, html)
	return namedBoxes(d, e.Layout(width))
}

// boxesOf does so for a whole document.
func boxesOf(t testing.TB, html string, width int) string {
	t.Helper()
	d, e := engineOf(t, html)
	return namedBoxes(d, e.Layout(width))
}

func namedBoxes(d *css.Document, r *layout.Result) string {
	var out []string
	for _, el := range d.Elements {
		if p := r.Of(el); p != nil && el.ID != "" {
			out = append(out, fmt.Sprintf("%s %d,%d %dx%d", el.ID, p.X, p.Y, p.W, p.H))
		}
	}
	return strings.Join(out, "; ")
}

// widthsOf gives the widths of the children of #c, in 1/64 px.
func widthsOf(t testing.TB, html string) []layout.Px {
	t.Helper()
	d, e := engine(t, html)
	r := e.Layout(1000)
	var out []layout.Px
	for _, el := range d.Elements {
		if el.ID == "c" {
			for _, k := range el.Kids() {
				out = append(out, r.Of(k).W)
			}
		}
	}
	return out
}

func repeat(s string, n int) string { return strings.Repeat(s, n) }

// The numbers are a browser's (measured), in 1/64 px.
func TestLeftoversAreDealtAsBrowsersDo(t *testing.T) {
	flex := func(n int, style, width string) string {
		return `<div id=c style="display:flex;width:` + width + `">` +
			repeat(`<i style="`+style+`"></i>`, n) + `</div>`
	}
	grid := func(n int, cols, width string) string {
		return `<div id=c style="display:grid;grid-template-columns:` + cols + `;width:` + width + `">` +
			repeat(`<i></i>`, n) + `</div>`
	}
	tests := []struct {
		name, html string
		want       []layout.Px
	}{
		{"flex grow 1000/3", flex(3, "flex:1", "1000px"), []layout.Px{21333, 21334, 21333}},
		{"flex grow 100/6", flex(6, "flex:1", "100px"), []layout.Px{1066, 1067, 1066, 1067, 1067, 1067}},
		{"flex shrink 3x50 in 100", flex(3, "width:50px", "100px"), []layout.Px{2134, 2133, 2133}},
		{"flex grow under 1", flex(2, "flex-grow:.3", "100px"), []layout.Px{1920, 1920}},
		{"fr 1000/3", grid(3, "1fr 1fr 1fr", "1000px"), []layout.Px{21333, 21333, 21334}},
		{"fr 100/3 loses one", grid(3, "repeat(3,1fr)", "100px"), []layout.Px{2133, 2133, 2133}},
		{"fr 100/6", grid(6, "repeat(6,1fr)", "100px"), []layout.Px{1066, 1067, 1066, 1067, 1067, 1066}},
		{"auto 100/3 tail first", grid(3, "auto auto auto", "100px"), []layout.Px{2133, 2133, 2134}},
		{"auto 100/7", grid(7, "repeat(7,auto)", "100px"), []layout.Px{914, 914, 914, 914, 914, 915, 915}},
		{"growth to a maximum", grid(3, "repeat(3,minmax(100px,200px))", "500px"), []layout.Px{10666, 10667, 10667}},
		{"nested thirds", `<div id=c><div style="width:33.333%"></div><div style="width:66.6667%"></div><div style="width:calc(50% - .333px)"></div></div>`, []layout.Px{21333, 42666, 31978}},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) { assert.Equal(t, tt.want, widthsOf(t, tt.html)) })
	}
}

func TestBoxesLieWhereTheStandardPutsThem(t *testing.T) {
	tests := []struct{ name, html, want string }{
		{"margins of siblings collapse",
			`<p id=a style="margin:0 0 20px;height:10px"></p><p id=b style="margin:30px 0 0;height:10px"></p>`, "a 0,0 64000x640; b 0,2560 64000x640"},
		{"a negative margin adds",
			`<p id=a style="margin:0 0 30px;height:10px"></p><p id=b style="margin:-10px 0;height:10px"></p>`, "a 0,0 64000x640; b 0,1920 64000x640"},
		{"a first child's margin leaves its parent",
			`<div id=a><div id=b style="margin-top:10px;height:5px"></div></div>`, "a 0,640 64000x320; b 0,640 64000x320"},
		{"but not through padding",
			`<div id=a style="padding-top:1px"><div id=b style="margin-top:10px;height:5px"></div></div>`, "a 0,0 64000x1024; b 0,704 64000x320"},
		{"nor out of a flow root",
			`<div id=a style="display:flow-root"><div id=b style="margin:10px 0;height:5px"></div></div>`, "a 0,0 64000x1600; b 0,640 64000x320"},
		{"through an empty block",
			`<div id=a style="height:5px;margin-bottom:10px"></div><div style="margin:30px 0"></div><div id=b style="height:5px;margin-top:20px"></div>`, "a 0,0 64000x320; b 0,2240 64000x320"},
		{"a last child's margin leaves an auto height",
			`<div id=a><div style="height:5px;margin-bottom:10px"></div></div><div id=b style="height:5px"></div>`, "a 0,0 64000x320; b 0,960 64000x320"},
		{"auto margins centre", `<div id=a style="width:333px;height:10px;margin:0 auto"></div>`,
			"a 21344,0 21312x640"},
		{"percentages of padding refer to the width",
			`<div id=a style="width:100px"><div id=b style="padding:10% 0"></div></div>`, "a 0,0 6400x1280; b 0,0 6400x1280"},
		{"borders are whole px", `<div id=a style="border:1.9px solid;width:10px;height:10px"></div>`, "a 0,0 768x768"},
		{"border-box is never smaller than its edges",
			`<div id=a style="box-sizing:border-box;padding:10px;width:5px;height:5px"></div>`, "a 0,0 1280x1280"},
		{"a ratio", `<div id=a style="width:333.328125px;aspect-ratio:16/9"></div>`, "a 0,0 21333x11999"},
		{"a ratio grows with its content",
			`<div id=a style="width:100px;aspect-ratio:3/2"><div style="height:200px"></div></div>`, "a 0,0 6400x12800"},
		{"unless it hides", `<div id=a style="width:100px;aspect-ratio:3/2;overflow:hidden"><div style="height:200px"></div></div>`, "a 0,0 6400x4266"},
		{"min beats max", `<div id=a style="width:50px;min-width:80px;max-width:60px;height:1px"></div>`,
			"a 0,0 5120x64"},
		{"a picture keeps its ratio",
			`<div style="width:100px"><img id=a src=p.png style="display:block;max-width:100%;height:auto"></div>`, "a 0,0 6399x4266"},
		{"a picture with a width attribute",
			`<div style="width:100px"><img id=a src=p.png width=300 height=200 style="display:block;max-width:100%;height:auto"></div>`, "a 0,0 6400x4266"},
		{"svg without a size fills the width", `<svg id=a viewBox="0 0 4 1" style="display:block"></svg>`,
			"a 0,0 64000x16000"},
		{"wrapping compares exactly",
			`<div style="display:flex;flex-wrap:wrap;width:99.984375px"><i id=a style="width:50px;height:1px"></i><i id=b style="width:50px;height:1px"></i></div>`, "a 0,0 3200x64; b 0,64 3200x64"},
		{"flex centring goes negative",
			`<div style="display:flex;justify-content:center;width:100px"><i id=a style="flex:none;width:200px;height:1px"></i></div>`, "a -3200,0 12800x64"},
		{"stretch and margin auto",
			`<div style="display:flex;flex-direction:column;height:100px;width:50px"><i id=a style="height:10px"></i><i id=b style="margin-top:auto;height:10px"></i></div>`, "a 0,0 3200x640; b 0,5760 3200x640"},
		{"order and reverse",
			`<div style="display:flex;flex-direction:row-reverse;width:100px"><i id=a style="width:10px;height:1px"></i><i id=b style="width:20px;height:1px;order:-1"></i></div>`, "a 4480,0 640x64; b 5120,0 1280x64"},
		{"columns of equal cards",
			`<div style="display:flex;width:100px"><i id=a style="flex:1;height:30px"></i><i id=b style="flex:1"></i></div>`, "a 0,0 3200x1920; b 3200,0 3200x1920"},
		{"auto-fill counts exactly",
			`<div style="display:grid;grid-template-columns:repeat(auto-fill,minmax(200px,1fr));gap:10px;width:620px"><i id=a style="grid-column:3;height:1px"></i></div>`, "a 26880,0 12800x64"},
		{"named lines", `<div style="display:grid;grid-template-columns:[s] 10px [m-start] 20px [m-end] 30px;width:100px"><i id=a style="grid-column:m;height:1px"></i></div>`, "a 640,0 1280x64"},
		{"areas", `<div style="display:grid;grid-template:'a b' 10px 'a c' 20px / 30px 40px"><i id=a style="grid-area:c"></i></div>`, "a 1920,640 2560x1280"},
		{"dense packing", `<div style="display:grid;grid-template-columns:10px 10px;grid-auto-flow:dense;grid-auto-rows:5px"><i style="grid-column:span 2"></i><i></i><i style="grid-column:span 2"></i><i id=a></i></div>`, "a 640,320 640x320"},
		{"inset 0 and auto margins",
			`<div style="position:relative;width:100px;height:50px"><i id=a style="position:absolute;inset:0;margin:auto;width:10px;height:10px"></i></div>`, "a 2880,1280 640x640"},
		{"right and bottom", `<div style="position:relative;width:100px;height:50px"><i id=a style="position:absolute;right:10%;bottom:0;width:10px;height:10px"></i></div>`, "a 5120,2560 640x640"},
		{"a fixed box and a viewport of 900",
			`<i id=a style="position:fixed;bottom:0;left:50%;width:10px;height:10px"></i>`, "a 32000,56960 640x640"},
		{"relative moves nothing else",
			`<i id=a style="display:block;position:relative;top:5px;left:-5px;height:10px"></i><i id=b style="display:block;height:1px"></i>`, "a -320,320 64000x640; b 0,640 64000x64"},
		{"a transform", `<div id=a style="width:100px;height:100px;transform:translate(10px,50%) scale(.5)"></div>`,
			"a 2240,4800 3200x3200"},
		{"sticky at rest", `<div style="height:200px"><i id=a style="display:block;position:sticky;top:10px;height:5px"></i></div>`, "a 0,640 64000x320"},
		{"contents", `<div style="display:contents"><i id=a style="display:block;height:1px"></i></div>`,
			"a 0,0 64000x64"},
		{"a popover is closed", `<div popover><i id=a></i></div><i id=b style="display:block;height:1px"></i>`,
			"b 0,0 64000x64"},
		{"a container has no width of its own",
			`<div style="display:inline-block"><div id=a style="container-type:inline-size">text</div></div>`, "a 0,0 0x1536"},
		{"an empty inline makes no line", `<div id=a><span></span></div>`, "a 0,0 64000x0"},
		{"an empty inline-block makes one", `<div id=a><span style="display:inline-block"></span></div>`,
			"a 0,0 64000x1536"},
		{"line heights stack exactly", `<div id=a style="line-height:1.55">a<br>a<br>a<br>a<br>a</div>`,
			"a 0,0 64000x7935"},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) { assert.Equal(t, tt.want, boxes(t, tt.html, 1000), tt.html) })
	}
}

func lines(t testing.TB, html string, width int) int {
	t.Helper()
	d, e := engine(t, html)
	r := e.Layout(width)
	for _, el := range d.Elements {
		if el.ID == "a" {
			return r.Of(el).Lines
		}
	}
	return -1
}

func TestLinesBreakWhereBrowsersBreakThem(t *testing.T) {
	tests := []struct {
		name, html string
		want       int
	}{
		{"no break at a slash", `<p id=a>one/two/three/four</p>`, 1},
		{"a break after a hyphen", `<p id=a>well-known-and-long</p>`, 3},
		{"none before a digit after a space", `<p id=a>at -5 °</p>`, 1},
		{"no-break spaces hold", "<p id=a>one\u00a0two\u00a0three</p>", 1},
		{"zero width spaces do not", "<p id=a>oneoneone\u200btwotwotwo</p>", 2},
		{"nowrap", `<p id=a style="white-space:nowrap">one two three four five</p>`, 1},
		{"a forced break", `<p id=a>a<br>b<br></p>`, 2},
		{"pre-line keeps breaks", "<p id=a style='white-space:pre-line'>a\nb</p>", 2},
		{"anywhere", `<p id=a style="overflow-wrap:anywhere">Donaudampfschifffahrt</p>`, 3},
		{"ideographs", `<p id=a>漢字漢字漢字漢字漢字</p>`, 2},
		{"a soft hyphen", `<p id=a>extra&shy;ordinary</p>`, 2},
		{"spaces at the end hang", `<p id=a>hello      </p>`, 1},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) { assert.Equal(t, tt.want, lines(t, tt.html, 90), tt.html) })
	}
}

// twoWays gives the lines of a text at a width, as they are and with a text-wrap-style.
func twoWays(t *testing.T, text, style string, width int) (runs [2][]layout.Rect) {
	t.Helper()
	d, e := engine(t, `<p id=a>`+text+`</p><p id=b style="text-wrap:`+style+`">`+text+`</p>`)
	r := e.Layout(width)
	for _, el := range d.Elements {
		switch el.ID {
		case "a":
			runs[0] = r.Of(el).Runs
		case "b":
			runs[1] = r.Of(el).Runs
		}
	}
	return runs
}

// Balanced lines are as many as others, never less even, and at most widths evener.
func TestBalanceKeepsTheNumberOfLines(t *testing.T) {
	evener, several := 0, 0
	const text = "Kites that are made for real wind on a coast where it never stops"
	for w := 120; w < 700; w += 7 {
		runs := twoWays(t, text, "balance", w)
		require.Equal(t, len(runs[0]), len(runs[1]), "%d px", w)
		if n := len(runs[0]); n > 1 && n <= 6 {
			squares := func(list []layout.Rect) (sum int64) {
				for _, x := range list {
					free := int64(layout.Px(w)*64 - x.W)
					sum += free * free
				}
				return sum
			}
			assert.LessOrEqual(t, squares(runs[1]), squares(runs[0]), "%d px", w)
			several++
			if squares(runs[1]) < squares(runs[0]) {
				evener++
			}
		}
	}
	assert.Greater(t, evener*2, several, "evener at %d of %d widths", evener, several)
}

// A last line of one short word takes another word down; the lines stay as many, and no line is longer than its box.
func TestPrettyLinesEndWithTwoWords(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	const text = "Kites that are made for real wind on a coast where it never stops at all or so"
	mended := 0
	for w := 120; w < 700; w += 3 {
		runs := twoWays(t, text, "pretty", w)
		plain, pretty := runs[0], runs[1]
		require.Equal(t, len(plain), len(pretty), "%d px", w)
		n := len(plain) - 1
		short := n > 0 && plain[n].W < 20*64 // "so"
		switch {
		case !short:
			for i := range plain {
				assert.Equal(t, plain[i].W, pretty[i].W, "%d px: nothing to mend", w)
			}
		case pretty[n].W > plain[n].W:
			mended++
		}
		for _, x := range pretty {
			assert.LessOrEqual(t, int(x.W), w*64+1, "%d px", w)
		}
	}
	assert.Positive(t, mended)
}

func TestThePageTellsHowFarItScrolls(t *testing.T) {
	_, e := engine(t, `<div style="overflow:hidden"><p style="width:900px">x</p></div><p id=w style="width:500px;margin:0">y</p>`)
	r := e.Layout(400)
	assert.Equal(t, layout.Px(100*64), r.Overflow)
	require.NotNil(t, r.Widest)
	assert.Equal(t, "w", r.Widest.ID)
	assert.Equal(t, layout.Px(900*64), r.Height)
	assert.Equal(t, layout.Px(0), e.Layout(600).Overflow)
}

// Every character lands on exactly one line, and nothing panics.
func FuzzLines(f *testing.F) {
	f.Add("Kites for <real> wind — well-made", 120)
	f.Add("a\u00adb\u200b漢字 e\u0301 👩‍👩‍👧", 30)
	f.Fuzz(func(t *testing.T, text string, width int) {
		if len(text) > 300 || width < 1 || width > 3000 {
			return
		}
		esc := strings.NewReplacer("&", "&amp;", "<", "&lt;").Replace(text)
		_, e := engine(t, `<p id=a style="text-wrap:pretty">`+esc+
			`</p><h1 style="text-wrap:balance;overflow-wrap:anywhere">`+esc+`</h1>`)
		a, b := e.Layout(width), e.Layout(width)
		for i := range a.Boxes {
			require.Equal(t, a.Boxes[i].Rect, b.Boxes[i].Rect)
		}
	})
}

func BenchmarkLayout(b *testing.B) {
	_, e := engine(b, `<main style="display:grid;grid-template-columns:repeat(auto-fit,minmax(200px,1fr));gap:1vw">`+
		repeat(`<section style="display:flex;flex-direction:column"><h2>A heading of some words</h2><p>A text that is long enough to take more than one line in a card.</p><a style="margin-top:auto">More</a></section>`, 40)+`</main>`)
	for _, w := range []string{"sections=40/widths=64", "empty"} {
		b.Run(w, func(b *testing.B) {
			if w == "empty" {
				_, e = engine(b, "")
			}
			b.ReportAllocs()
			for b.Loop() {
				for i := range 64 {
					e.Layout(400 + i*20)
				}
			}
		})
	}
}

// Lines of an element are counted once, wherever its texts stand and in whatever order they come: what stands within
// a pixel of another is on its line.
func TestLinesAreCountedOnce(t *testing.T) {
	for html, want := range map[string]int{
		"<p id=a>one<br>two<br>three</p>":                                                              3,
		"<p id=a>" + repeat("x<br>", 300) + "</p>":                                                     300,
		"<p id=a>one <b>and</b> one</p>":                                                               1,
		"<p id=a>one<span style='position:relative;top:-60px'>up</span> one<br>two</p>":                2,
		"<p id=a style='display:flex;flex-direction:column-reverse'>one<i>between</i>two<i>x</i>three": 3,
	} {
		d, e := engine(t, html)
		r := e.Layout(800)
		for _, el := range d.Elements {
			if el.ID == "a" {
				require.Equal(t, want, r.Of(el).Lines, html)
			}
		}
	}
}

// Text whose features differ is shaped apart, whatever the feature: after plain text it is as wide as alone.
func TestFeaturesAreShapedApart(t *testing.T) {
	width := func(body string) layout.Px {
		l, e := testsite.HTML(t, body)
		require.NotNil(t, e)
		return l.Engine().Layout(800).Of(e).W
	}
	differ := 0
	for _, tag := range []string{"numr", "dnom", "dlig", "sups", "subs", "tnum", "ss07", "cv01", "hlig"} {
		style := `style="font:16px Figtree;font-feature-settings:'` + tag + `'"`
		alone := width(`<p><span id="x" ` + style + `>1234567890 ffi</span></p>`)
		after := width(`<p><span style="font:16px Figtree">1234567890 ffi</span><span id="x" ` + style +
			`>1234567890 ffi</span></p>`)
		assert.Equal(t, alone, after, tag)
		if alone != width(`<p><span id="x" style="font:16px Figtree">1234567890 ffi</span></p>`) {
			differ++
		}
	}
	assert.Positive(t, differ, "some of these features are in the font")
}

// An inline block is raised and lowered by the size of the text that it stands in, which need not be its block's
// (measured).
func TestInlineBlocksAreRaisedByTheTextAroundThem(t *testing.T) {
	d, e := engine(t, `<!doctype html><style>body{margin:0;font:10px/1.2 serif}i{display:inline-block;width:10px;height:10px}</style>
		<p><span style="font-size:40px">x<i style="vertical-align:sub"></i><i style="vertical-align:super"></i><i style="vertical-align:25%"></i></span></p>`)
	r := e.Layout(800)
	var got []float64
	for _, el := range d.Elements {
		if el.Tag == "i" {
			got = append(got, r.Of(el).Y.Float())
		}
	}
	require.Len(t, got, 3)
	assert.Equal(t, []float64{23.328125, 21}, []float64{got[0] - got[1], got[0] - got[2]})
}

// A generated box goes when its content does, whatever was laid out before.
func TestGeneratedBoxesComeAndGoWithTheirContent(t *testing.T) {
	_, e := engine(t, `<!doctype html><style>p::before{content:"x"} @media (width < 500px){p::before{content:none}} @media (width < 300px){p::before{content:"y";display:none}}</style><p>a</p>`)
	for _, c := range []struct{ width, boxes int }{{600, 1}, {400, 0}, {600, 1}, {250, 0}, {400, 0}, {600, 1}} {
		assert.Len(t, e.Layout(c.width).Generated, c.boxes, c.width)
	}
}

// TestSmallCapitalsAreSmallerCapitals: a face without small capitals shows capitals of a smaller size, whole px; which
// letters are small follows from the value. Text that is changed is laid out anew.
func TestSmallCapitalsAreSmallerCapitals(t *testing.T) {
	box := func(style, text string) string {
		return `<b style="display:inline-block;font:400 18px F;` + style + `">` + text + `</b>`
	}
	const small = "font-size:13px" // of 18 px, 12.6 to whole ones
	w := widthsOf(t, `<div id=c>`+box("font-variant:small-caps", "Wind 12")+box("", "W")+box(small, "IND")+box("",
		"&nbsp;12")+
		box("font-variant-caps:all-small-caps", "Wind 12")+box(small, "W")+box(small, "IND")+box(small, "&nbsp;12")+
		box("font-variant-caps:petite-caps", "Wind 12")+box("font-variant-caps:titling-caps", "Wind 12")+box("",
		"Wind 12")+
		box("font-variant-caps:unicase", "Wind 12")+box("font-variant:small-caps;text-transform:uppercase",
		"Wind 12")+box("", "WIND 12")+
		box("font-variant:small-caps;font-synthesis:weight",
			"Wind 12")+box("font-variant:small-caps;font-synthesis:small-caps", "Wind 12")+`</div>`)
	near := func(a, b layout.Px) { t.Helper(); assert.InDelta(t, int(a), int(b), 3) } // each box is rounded up
	near(w[1]+w[2]+w[3], w[0])
	near(w[5]+w[6]+w[7], w[4])
	assert.Less(t, w[4], w[0], "capitals and digits, too")
	assert.Equal(t, w[0], w[8], "petite ones are small ones")
	assert.Equal(t, w[10], w[9], "no face, no titling capitals")
	assert.Equal(t, w[10], w[11])
	assert.Equal(t, w[13], w[12], "capitals stay as they are")
	assert.Equal(t, []layout.Px{w[10], w[0]}, w[14:], "unless nothing is to be made")

	d, e := engine(t, `<style>@media (width < 500px){#x{font-variant:small-caps}}</style><b id=x style="display:inline-block">Wind</b>`)
	wide, narrow, again := place(d, e.Layout(800)), place(d, e.Layout(400)), place(d, e.Layout(800))
	assert.NotEqual(t, wide, narrow)
	assert.Equal(t, wide, again)
}
