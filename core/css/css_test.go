package css

import (
	"fmt"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func load(t testing.TB, html string) *Document {
	t.Helper()
	d, err := Load(Source{File: "p.html", HTML: html})
	require.NoError(t, err)
	return d
}

// styleOf computes the style of the first element with an id, at a viewport width.
func styleOf(t testing.TB, d *Document, id string, width int) *Style {
	t.Helper()
	s := NewStyler(d)
	s.SetMedia(Media{Width: width, Height: 900})
	var walk func(e *Element, parent *Style) *Style
	walk = func(e *Element, parent *Style) *Style {
		st := s.Style(e, parent, nil)
		if e.ID == id {
			return st
		}
		for _, k := range e.Kids() {
			if found := walk(k, st); found != nil {
				return found
			}
		}
		return nil
	}
	st := walk(d.Root, s.Root())
	require.NotNil(t, st, id)
	return st
}

func TestTheCascadePicksTheRightDeclaration(t *testing.T) {
	tests := []struct {
		name, css string
		want      Px // width of #x inside a 1000 px wide box
	}{
		{"later wins", "#x{width:1px}#x{width:2px}", 128},
		{"specificity beats order", "#x{width:1px}p{width:2px}", 64},
		{"layers: the later one wins", "@layer a,b;@layer b{p{width:2px}}@layer a{#x{width:1px}}", 128},
		{"unlayered beats layers", "@layer a{#x{width:1px}}p{width:2px}", 128},
		{"important reverses layers", "@layer a,b;@layer a{p{width:1px!important}}@layer b{#x{width:2px!important}}",
			64},
		{"where() has no weight", "p{width:1px}:where(#x){width:2px}", 64},
		{"is() has the heaviest weight", ":is(#x,b){width:1px}p.c{width:2px}", 64},
		{"nesting", "body{& p{width:3px}}", 192},
		{"nesting without an ampersand", "body{p{width:3px}}", 192},
		{"custom properties", ":root{--a:calc(var(--b)*2);--b:5px}#x{width:var(--a)}", 640},
		{"a fallback", "#x{width:var(--none,7px)}", 448},
		{"a cycle makes the property unset", ":root{--a:var(--b);--b:var(--a)}#x{width:var(--a,9px)}", 576},
		{"an invalid value is ignored", "#x{width:4px;width:red}", 256},
		{"revert-layer", "@layer a,b;@layer a{#x{width:5px}}@layer b{#x{width:revert-layer}}", 320},
		{"supports", "@supports (display:grid){#x{width:6px}}@supports (nonsense:1){#x{width:7px}}", 384},
		{"media", "@media (min-width:600px){#x{width:8px}}@media (width<600px){#x{width:9px}}", 512},
		{"a broken rule does not take the next one along", "p{width:1px;}} #x{color:} #x{width:2px}", 128},
		{"math", "#x{width:clamp(10px,50% - 495px,20px)}", 640},
		{"min of percentages", "#x{width:min(100%,30px)}", 1920},
		{"nth-child of", "p:nth-child(1 of .c){width:11px}", 704},
		{"has", "body:has(> p.c) p{width:12px}", 768},
		{"not", "p:not(.d):not(:first-child:last-child){width:13px}", 832},
		{"attributes", `[class~="c"][id^="X" i]{width:14px}`, 896},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) {
			d := load(t, `<!doctype html><style>`+tt.css+`</style><body><p id=x class="c e"></p><p></p></body>`)
			st := styleOf(t, d, "x", 1000)
			assert.Equal(t, tt.want, st.Width.Resolve(1000*64), tt.css)
		})
	}
}

func TestLengthsTruncateOnce(t *testing.T) {
	tests := map[string]Px{"100.99px": 6463, "-0.333px": -21, "33.333%": 21333, "66.6667%": 42666,
		"calc(50% - .333px)": 31978, "1.5em": 1536, "3.33vw": 2131, "2rem": 2048, "calc(1px + 2 * (3px - 1px))": 320}
	for in, want := range tests {
		e, ok := parseExpr(Tokenize(in), exprAny)
		require.True(t, ok, in)
		assert.Equal(t, want, e.compute(&unitContext{fontSize: 16, rootSize: 16, vw: 1000, vh: 900,
			cqw: 1000}).Resolve(1000*64), in)
	}
}

func TestQueriesCompareAsMeasured(t *testing.T) {
	for query, want := range map[string]bool{"(width<600px)": false, "(width<=600px)": true,
		"(min-width:600.0156px)": true, "(min-width:600.016px)": false, "(max-width:599.985px)": true,
		"(max-width:599.98px)": false, "(400px<width<=600px)": true, "not (width>700px)": true, "screen and (min-width:37.5em)": true, "print": false, "(width<700px) and (orientation:portrait)": true} {
		assert.Equal(t, want, Media{Width: 600, Height: 900}.eval(parseMediaList(Tokenize(query)).prepare()), query)
	}
}

func TestWhatIsNotModelledIsTold(t *testing.T) {
	d := load(t, "<style>p{shape-outside:path('M0 0');color:red;initial-letter:3}\nb{colour:red;float:none}</style><p>")
	var got []string
	for _, u := range d.Unsupported {
		got = append(got, u.Property)
	}
	assert.Equal(t, []string{"shape-outside", "initial-letter"}, got,
		"no element is a b, so its colour is of no account")
}

// What nothing is known of is never passed over in silence: it is told, once, at its place.
func TestNothingIsPassedOverInSilence(t *testing.T) {
	for page, want := range map[string]string{
		"<p><ruby>a<rt>b</ruby><ruby>c</ruby>":                                 "display: ruby at 1:4",
		"<math><mi>x</math>":                                                   "display: math at 1:1",
		"<p>x\n<marquee>x</marquee>":                                           "display: marquee at 2:1",
		"<p dir=rtl>\u05e2":                                                    "",
		"<style>@media (nav-controls: back) {p{color:red}}</style><p>":         "@media: nav-controls at 1:8",
		"<style>@media (max-widht: 9em) and (hover) {p{color:red}}</style><p>": "",
		"<style>@media (-ms-high-contrast: active) {p{color:red}}</style><p>":  "",
		"<style>@container scroll-state(stuck: top) {p{color:red}}</style><p>": "@container: scroll-state() at 1:8",
	} {
		d := load(t, page)
		var got []string
		for _, u := range d.Unsupported {
			before := u.Sheet.Source[:u.Pos]
			line := strings.Count(before, "\n")
			got = append(got, fmt.Sprintf("%s: %s at %d:%d", u.Property, u.Value, line+1,
				utf8.RuneCountInString(before[strings.LastIndex(before, "\n")+1:])+1))
		}
		assert.Equal(t, want, strings.Join(got, "; "), page)
	}
}

func TestValuesAreChecked(t *testing.T) {
	for in, want := range map[string]bool{"padding:2rem": true, "padding:rubbish": false, "color:var(--x)": true,
		"color:rde": false, "width:calc(1px + )": false, "margin:auto": true, "display:flexx": false,
		"background:red;} body{display:none": false, "grid-template-columns:1fr 2fr": true, "box-shadow:0 1px red": true} {
		name, value, _ := strings.Cut(in, ":")
		assert.Equal(t, want, CheckValue(name, value), in)
	}
}

// FuzzParse holds the law: every token lies where it says, in order, and printing a stylesheet then parsing it gives
// the same.
func FuzzParse(f *testing.F) {
	for _, s := range []string{"a{b:c}", "@media (x){a{b:c!important}}", "a{b:c;d{e:f}}",
		".x::before{content:'\\'}'}", "@layer a,b;a{--x:{}}", "/* c */ a > b + c{}}", "u+a{} U+4?"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, source string) {
		at := 0
		for _, tok := range Tokenize(source) {
			require.GreaterOrEqual(t, tok.Pos, at)
			require.Equal(t, tok.Text, source[tok.Pos:tok.Pos+len(tok.Text)])
			at = tok.Pos + len(tok.Text)
		}
		sheet := Parse("f.css", source)
		var walk func(nodes []*Node)
		walk = func(nodes []*Node) {
			for _, n := range nodes {
				require.LessOrEqual(t, n.Pos, len(source))
				walk(n.Children)
			}
		}
		walk(sheet.Nodes)
		d, err := Load(Source{File: "f.html", HTML: "<style>" + source + "</style><p id=x class=c>t"})
		require.NoError(t, err)
		for _, e := range d.Elements {
			if e.ID == "x" {
				styleOf(t, d, "x", 600)
			}
		}
	})
}

func BenchmarkParse(b *testing.B) {
	source := strings.Repeat("@media (width >= 40rem) { .card > p:not(.x) { padding: calc(1rem + 2vw) var(--gap, 3px); } }\n", 200)
	b.SetBytes(int64(len(source)))
	b.ReportAllocs()
	for b.Loop() {
		Parse("b.css", source)
	}
}

// A value that opens a comment, a string or a tag reaches no sheet (found by attack).
func TestValuesCloseWhatTheyOpen(t *testing.T) {
	for name, values := range map[string][]string{
		"padding-top": {"1px/*", "1px /* x */", "1px<b>", "1px\n}"}, "color": {"red/*",
			"red</style>"}, "border-radius": {"1px/*"}, "content": {"\"a", "'a\nb'", "<script>alert(1)</script>"},
		"background": {"url(a b", "red /*"}, "transition": {"color 1s /*"},
	} {
		for _, v := range values {
			assert.False(t, CheckValue(name, v), "%s: %s", name, v)
		}
	}
	assert.True(t, CheckValue("border-radius", "1px / 2px"))
	assert.True(t, CheckValue("content", `"a \\3c b"`))
}

func TestUnitsOfAValue(t *testing.T) {
	for text, want := range map[string]units{
		"12px":                       0,
		"50%":                        0,
		"1e2px":                      0,
		"1.5rem":                     unitsOfRoot,
		"2em":                        unitsOfFont,
		"1lh":                        unitsOfFont,
		"3ch":                        unitsOfFace,
		"10dvh":                      unitsOfView,
		"calc(1rem + 2VW)":           unitsOfRoot | unitsOfView,
		"clamp(1px, 3cqi, 4vmax)":    unitsOfBox | unitsOfView,
		"1e1vw":                      unitsOfView,
		"minmax(2rem, 1fr)":          unitsOfRoot,
		"repeat(auto-fill, 10cqmin)": unitsOfBox,
	} {
		assert.Equal(t, want, unitsIn(Tokenize(text)), text)
	}
	assert.NotZero(t, unitsIn(Tokenize("1e3em"))&unitsOfFont)
}

func TestColors(t *testing.T) {
	for text, want := range map[string]string{
		"#c63a17": "#c63a17", "#C31": "#cc3311", "rebeccapurple": "#663399", "rgb(198 58 23)": "#c63a17", "rgb(198, 58, 23)": "#c63a17", "rgb(100% 0% 0% / 50%)": "#ff0000",
		"hsl(120 100% 25%)": "#008000", "hsl(0.5turn 100% 50%)": "#00ffff", "hwb(0 0% 0%)": "#ff0000", "oklch(62.8% 0.2577 29.23)": "#ff0000", "oklab(0 0 0)": "#000000", "lab(100 0 0)": "#ffffff",
		"color(srgb 1 0.5 0)": "#ff8000", "color-mix(in srgb, red, blue)": "#800080", "color-mix(in srgb, red 25%, blue)": "#4000bf", "light-dark(red, blue)": "#ff0000", "currentcolor": "#123456",
		"canvas": "#ffffff", "hsl(none 0% 50%)": "#808080",
	} {
		c, ok := ParseColor(Tokenize(text), ColorContext{Current: Color{18. / 255, 52. / 255, 86. / 255, 1}})
		assert.True(t, ok, text)
		assert.Equal(t, want, c.Hex(), text)
	}
	for _, text := range []string{"", "#12", "reddish", "rgb(1 2)", "rgb(from red r g b)", "url(x)", "red blue",
		"color-mix(in srgb, red)", strings.Repeat("light-dark(red,", 100000)} {
		_, ok := ParseColor(Tokenize(text), ColorContext{})
		assert.False(t, ok, text)
	}
	white, black := Color{1, 1, 1, 1}, Color{0, 0, 0, 1}
	assert.InDelta(t, 21, Contrast(white, black), .001)
	assert.InDelta(t, 4.54, Contrast(white, Color{.4627, .4627, .4627, 1}), .01) // #767676
	assert.Equal(t, "#808080", Color{1, 1, 1, .5}.Over(black).Hex())
}

// TestBorderImageIsTakenApart reads slices, widths and outsets between slashes, the picture and its repetition
// anywhere.
func TestBorderImageIsTakenApart(t *testing.T) {
	for text, want := range map[string]string{
		"url(a.png) 8":                                "8|||url(a.png)|",
		"url(a.png) 8 fill / 12px / 6px repeat":       "8 fill|12px|6px|url(a.png)|repeat",
		"round stretch 25% linear-gradient(red,#00f)": "25%|||linear-gradient(red,#00f)|round stretch",
		"8 10 / / 5px none":                           "8 10||5px|none|",
		"url(a.png) calc(1 + 7) / auto 2":             "calc(1 + 7)|auto 2||url(a.png)|",
	} {
		list, ok := shorthands["border-image"](Tokenize(text))
		require.True(t, ok, text)
		var got []string
		for _, l := range list {
			got = append(got, Text(l.value))
		}
		assert.Equal(t, want, strings.Join(got, "|"), text)
	}
	_, ok := shorthands["border-image"](nil)
	assert.False(t, ok)
}
