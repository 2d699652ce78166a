package css

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// selected lists the ids of the elements that a selector selects in a small page.
func selected(t *testing.T, selector string) string {
	t.Helper()
	d, err := Load(Source{HTML: `<!doctype html><body id=body><div id=a class="x y"><p id=p1 class=n>1</p><p id=p2 data-w="ab cd">2</p><h2 id=h lang=en-GB></h2><p id=p3 class=n>3</p></div>
<form id=f><fieldset id=fs disabled><input id=i1></fieldset><input id=i2 required><input id=i3 type=checkbox checked><textarea id=ta placeholder=x></textarea><button id=b>b</button><input id=i4 readonly></form>
<section id=s><a id=l href=#>l</a><a id=nl>n</a><div id=c class=card><div id=st class=stop><b id=deep></b></div><b id=near></b></div></section>`})
	require.NoError(t, err)
	list, ok := ParseSelectors(Tokenize(selector), nil)
	if !ok {
		return "invalid"
	}
	var out []string
	for _, e := range d.Elements {
		for _, s := range list {
			if e.ID != "" && s.Matches(e) {
				out = append(out, e.ID)
				break
			}
		}
	}
	return strings.Join(out, " ")
}

func TestSelectorsSelect(t *testing.T) {
	for selector, want := range map[string]string{
		"p": "p1 p2 p3", "P": "p1 p2 p3", ".x.y > p": "p1 p2 p3", "#a p + p": "p2", "p ~ p": "p2 p3", "h2 ~ p": "p3", "div > div > div": "", "*#h": "h",
		":is(h2, .n):not(#p1)": "h p3", ":where(#a) .n": "p1 p3", "div:has(> h2)": "a", "p:has(+ h2)": "p2", "section:has(.stop b)": "s", "p:nth-child(odd)": "p1", "p:nth-of-type(3)": "p3",
		"p:nth-last-child(1)": "p3", "p:nth-child(2 of .n)": "p3", "p:nth-child(-n + 2)": "p1 p2", "h2:empty": "h", ":only-of-type:is(h2)": "h", "[data-w]": "p2", "[data-w~=cd]": "p2", "[data-w^=ab]": "p2",
		"[data-w$=CD i]": "p2", "[data-w*='b c']": "p2", "[lang|=en]": "h", "a:link": "l", "a:any-link": "l", "a:not([href])": "nl", "input:disabled": "i1", "input:enabled": "i2 i3 i4", "input:required": "i2",
		"input:invalid": "i2", "form:invalid": "f", "input:checked": "i3", "textarea:placeholder-shown": "ta", "input:read-only": "i1 i3 i4", "button:enabled": "b", "a:hover": "", "p:nonsense": "invalid",
		":is(p:nonsense, h2)": "h", "p::before": "p1 p2 p3", "p,": "invalid", "> p": "invalid", "p:nth-child(0)": "", ":root": "", "h2:lang(en)": "h",
	} {
		assert.Equal(t, want, selected(t, selector), selector)
	}
}

// matching tells which width the cascade gives to #x.
func width(t *testing.T, sheet, body string) string {
	t.Helper()
	d, err := Load(Source{HTML: "<!doctype html><style>" + sheet + "</style>" + body})
	require.NoError(t, err)
	s := NewStyler(d)
	s.SetMedia(Media{Width: 800, Height: 900})
	styles := map[*Element]*Style{}
	out := ""
	for _, e := range d.Elements {
		parent := s.Root()
		if e.Parent != nil {
			parent = styles[e.Parent]
		}
		styles[e] = s.Style(e, parent, nil)
		if e.ID == "x" {
			out = fmt.Sprint(styles[e].Width.Resolve(0).Float())
		}
	}
	return out
}

func TestScopesEndAtTheirLimits(t *testing.T) {
	const body = "<div class=card><b id=%s></b><div class=stop><b id=%s></b></div></div><b id=%s></b>"
	sheet := "b{width:1px}@scope (.card) to (.stop){b{width:2px}:scope{width:3px}}"
	assert.Equal(t, "2", width(t, sheet, fmt.Sprintf(body, "x", "y", "z")))
	assert.Equal(t, "1", width(t, sheet, fmt.Sprintf(body, "y", "x", "z")), "below the limit")
	assert.Equal(t, "1", width(t, sheet, fmt.Sprintf(body, "y", "z", "x")), "outside")
	assert.Equal(t, "3", width(t, sheet, "<div class=card id=x></div>"))
}

func TestManyConditionsStayApart(t *testing.T) {
	var b strings.Builder
	for i := range 600 {
		fmt.Fprintf(&b, "@media (min-width: %dpx) { b { width: %dpx } }", 500+i, i)
	}
	assert.Equal(t, "300", width(t, b.String(), "<b id=x>"), "the last condition that holds at 800 px")
}

func TestSupportsIsAnswered(t *testing.T) {
	for condition, want := range map[string]bool{"(display: grid)": true, "(display: nonsense)": false,
		"not (display: grid)": false, "(gap: 1px) and (width: 1vw)": true, "(nope: 1) or (color: red)": true,
		"selector(:has(a))": true, "selector(:nonsense)": false, "(--x: 1)": true, "((width: 1px) and (not (nope: 1)))": true, "(width: 1qq)": false, "": false, "(": false, "(width)": false} {
		assert.Equal(t, want, supports(Tokenize(condition)), condition)
	}
}

func TestVariablesThatDoubleAreCut(t *testing.T) {
	sheet := ":root{--a0:1px"
	for i := range 40 {
		sheet += fmt.Sprintf(";--a%d:var(--a%d) var(--a%[2]d)", i+1, i)
	}
	assert.Equal(t, "7", width(t, sheet+"}b{width:var(--a40, 7px)}", "<b id=x>"), "the fallback")
}

func TestCountersAreWritten(t *testing.T) {
	for style, want := range map[string]string{"decimal": "12", "decimal-leading-zero": "12", "lower-alpha": "l",
		"upper-roman": "XII", "lower-roman": "xii", "lower-greek": "μ", "none": "", "disc": "•", "nonsense": "12"} {
		assert.Equal(t, want, FormatCounter(12, style), style)
	}
	assert.Equal(t, "-3", FormatCounter(-3, "lower-alpha"))
	assert.Equal(t, "-03", FormatCounter(-3, "decimal-leading-zero"))
	assert.Equal(t, "aa", FormatCounter(27, "lower-alpha"))
	assert.Equal(t, "4000", FormatCounter(4000, "upper-roman"))
}

func TestUnicodeRangesAreRead(t *testing.T) {
	assert.Equal(t, [][2]rune{{0x41, 0x5a}, {0x400, 0x4ff}, {0x20, 0x20}}, unicodeRanges("U+41-5A, u+4??, U+20"))
	assert.Empty(t, unicodeRanges("U+zz, U+110000, "))
}

func TestPicturesAreGivenTheirRoom(t *testing.T) {
	d, err := Load(Source{HTML: "<p>"})
	require.NoError(t, err)
	s := NewStyler(d)
	s.SetMedia(Media{Width: 500, Height: 900})
	for sizes, want := range map[string]float64{"": 500, "200px": 200, "50vw": 250,
		"(max-width: 600px) 100vw, 50vw": 500, "(min-width: 600px) 10px, calc(50vw - 10px)": 240, "(min-width: 600px) 10px": 500,
		"(max-width: 100px) 1px, (max-width: 600px) 30em": 480, "nonsense": 500} {
		assert.InDelta(t, want, s.SourceSize(sizes), .01, sizes)
	}
}

func TestFontFacesKeepTheirDescriptors(t *testing.T) {
	d, err := Load(Source{HTML: "<style>@font-face{font-family:'K';src:local(x),url(a.woff2) format('woff2'),url('b.ttf');font-weight:100 900;font-stretch:50% 150%;font-style:oblique 0deg 12deg;unicode-range:U+41;size-adjust:90%;ascent-override:80%;line-gap-override:normal}</style>"})
	require.NoError(t, err)
	require.Len(t, d.FontFaces, 1)
	f := d.FontFaces[0]
	assert.Equal(t, []string{"a.woff2", "b.ttf"}, f.Sources)
	assert.Equal(t, [4]float64{100, 900, 50, 150}, [4]float64{f.WeightLow, f.WeightHigh, f.Stretch[0], f.Stretch[1]})
	assert.InDelta(t, 12, f.Slant[1], 1e-9)
	assert.Equal(t, [3]float64{.8, -1, -1}, f.Overrides)
	assert.InDelta(t, .9, f.SizeAdjust, 1e-9)
}

func TestNestingTooDeepIsToldWithItsPlace(t *testing.T) {
	_, err := Load(Source{File: "p.html", HTML: "<p>\n" + strings.Repeat("<div>", 600)})
	require.ErrorContains(t, err, "p.html:2:2501: elements are nested deeper than 500 levels")
	_, err = Load(Source{File: "p.html", HTML: strings.Repeat("<div><br><img><p>", 400)})
	require.NoError(t, err, "elements without an end tag do not count")
}
