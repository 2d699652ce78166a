package grammar

import (
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

func TestValuesAreReadWhole(t *testing.T) {
	for _, c := range []struct{ property, good, bad string }{
		{"color", "red|#123|#12345678|rgb(1 2 3 / 40%)|rgb(1, 2, 3, .5)|hsl(10 20% 30%)|oklch(50% .1 20)|oklch(from red l c h / 50%)|color-mix(in oklab, red, blue 30%)|currentColor|light-dark(#fff, #000)|inherit",
			"red/*|\"|#zzz|#12345|red blue|nope(1)|rgb(1,2)|rgb(1 2 3|red;}|red}|auto|1px|rgb(1 2 3 / 4 5)|color-mix(red, blue)|\\|red,"},
		{"border-radius", "1px|1px 2px / 3px|50%|calc(1px + 1rem)",
			"1px/*|1px /|-1px|1 2|1px 2px 3px 4px 5px|calc(1px + 2)|calc(1px+2px)"},
		{"border", "1px solid red|solid|thin dashed #123 |red 0 solid", "1px soild red|1px 2px|solid solid|solid 2 px"},
		{"padding", "1px|1px 2em|0|clamp(1px, 2vw, 3rem)|max(1px, 2%)", "auto|-1px|1|3 px|1px,2px|clamp(1px, 2)"},
		{"margin", "auto|-1px auto|0", "1|none"},
		{"width", "auto|50%|calc(100% - 2 * 3px)|min-content|round(up, 1px, 2px)",
			"fit-content(|100|-3px|12 em|calc(1px + )|calc(1px * 2px)|none"},
		{"opacity", "1|50%|.3|calc(1 / 2)", "zwei|1px|1 2|pi"},
		{"font-family", `Sora|"Sora", sans-serif|Open Sans, serif`, `"Sora|Sora,|,Sora|12px`},
		{"font-weight", "400|bold|1000|calc(300 + 100)", "1200|0|heavy|400px"},
		{"font", "italic 600 1rem/1.5 Sora, serif|1rem a|small-caps bold condensed 12px/2 x",
			"1rem|bold Sora|1rem/ Sora"},
		{"transform", "none|rotate(3deg)|translate(1px, 2%) scale(1.5)|rotate(0)",
			"rotate(3)|translate(1px 2px)|rotate(3deg),scale(2)|turn(1deg)"},
		{"filter", "blur(3px)|drop-shadow(1px 2px 3px red)|brightness(50%) contrast(2)",
			"blur(3)|blur(-1px)|drop-shadow(1px)"},
		{"transition", "all 1s|opacity .2s ease, transform 1s 2s linear|none",
			"all 1|1|all 1s 2s 3s|all 1s cubic-bezier(2, 0, 0, 1)"},
		{"animation", "2s spin infinite|spin 1s ease-in 2s 3 alternate both paused", "2px spin|spin 1s 2s 3s"},
		{"grid-template-columns",
			"1fr 2fr|repeat(3, minmax(0, 1fr))|[a] 1fr [b c] auto|repeat(auto-fit, minmax(10rem, 1fr))|subgrid|none", "1fr 1fx|repeat(0, 1fr)|repeat(auto-fit, 1fr)|1fr, 1fr|minmax(1fr, 2px)|[a 1fr"},
		{"grid-template-areas", `"a b" "c d"|none`, "a b"},
		{"grid-area", "a|1 / 2 / span 3 / -1|span 2", "1 / /|span|span -1"},
		{"aspect-ratio", "16/9|16 / 9|auto 1|1.5", "16:9|16 9|16px / 9"},
		{"background", "red|linear-gradient(red, blue)|url(a.png) center / cover no-repeat, #fff|none",
			"linear-gradient(red)|linear-gradient(red, blue|red, url(a.png)|center / / cover|url(a.png"},
		{"background-image", "linear-gradient(to top left, red 10%, 20%, blue)|radial-gradient(circle at 10% 20%, red, blue)|conic-gradient(from 10deg, red, blue)|linear-gradient(45deg in oklch longer hue, red, blue)|none, none",
			"linear-gradient(top, red, blue)|linear-gradient(45, red, blue)|radial-gradient(at, red, blue)|red"},
		{"box-shadow", "0 1px 2px red|inset 0 0 1px 2px #123, 1px 1px|none", "1px|0 0 -1px|red|1px 2px 3px 4px 5px"},
		{"clip-path", "polygon(0 0, 10% 10%, 5px 5px)|circle(50% at center)|inset(1px round 2px)|none",
			"polygon(0 0 10% 10%)|circle(1px 2px)|inset()"},
		{"content", `none|"kite"|counter(a) ". "|"" / "words"`, `kite|"|"a" /`},
		{"text-decoration", "underline|underline dotted red 2px|none", "underlined|underline underline"},
		{"display", "flex|grid|inline flex|none", "flux|flex grid"},
		{"z-index", "1|-3|auto|calc(1 + 1)", "1.5|1px"},
		{"letter-spacing", "normal|-.02em|1%", "2%%|tight|1"},
		{"white-space", "nowrap|pre-wrap", "wrap nowrap"},
		{"inset", "0|auto 1px", "1|none"},
		{"grid-row", "1 / -1|auto", "0.5|1 /"},
	} {
		for v := range strings.SplitSeq(c.good, "|") {
			require.True(t, Valid(c.property, v), "%s: %s", c.property, v)
		}
		for v := range strings.SplitSeq(c.bad, "|") {
			require.False(t, Valid(c.property, v), "%s: %s", c.property, v)
		}
	}
}

func TestFetches(t *testing.T) {
	for value, want := range map[string]bool{"red": false, "linear-gradient(red, blue)": false, "url(a.png)": true,
		`url("http://x.example/a")`: true, `u\72l(http://x.example/a)`: true, `u\72 l("a")`: true,
		`image-set("a.png" 1x)`: true, `IMAGE-SET("a.png" 1x)`: true, `cross-fade(red, "a.png")`: true, "src(var(--x))": true, "attr(x)": true, "1px /*": true, `"url(a)"`: false} {
		require.Equal(t, want, Fetches(value), value)
	}
}

func TestAddresses(t *testing.T) {
	for value, want := range map[string]string{"red": "", `url( "http://x.example/a" )`: "http://x.example/a",
		"url(a.png), linear-gradient(red, blue)":                 "a.png",
		`image-set("a.png" 1x type("image/png"), url(b.png) 2x)`: "a.png b.png", `-webkit-cross-fade(url(a), url('b'), 1)`: "a b", `content "http://x"`: "", `url(\68ttp://x.example)`: "http://x.example"} {
		list, ok := Addresses(value)
		require.True(t, ok, value)
		require.Equal(t, want, strings.Join(list, " "), value)
	}
	for _, value := range []string{"url(a", "/*", "element(#a)", "image-set(attr(data-x) 1x)", `u\72l(//x.example)`} {
		_, ok := Addresses(value)
		require.False(t, ok, value)
	}
}

func TestNames(t *testing.T) {
	bare, backed := Names("calc(var(--space-far) + var(--more, 1px)) VAR(--Ink)")
	require.Equal(t, []string{"--space-far", "--Ink"}, bare)
	require.Equal(t, []string{"--more"}, backed)
}

// What is made up from a definition fits it, and no definition names a kind that nobody defined.
func TestSamplesFit(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	r := rand.New(rand.NewPCG(1, 2))
	for _, p := range Properties() {
		for range 60 {
			if v := Sample(p, r); v != "" {
				require.True(t, Valid(p, v), "%s: %s", p, v)
			}
		}
	}
}

func TestDefinitionsThatCannotBeRead(t *testing.T) {
	for _, text := range []string{"a ]", "[ a", "f( a", "a | | b", "", "a{x}"} {
		_, err := parseDefinition(text)
		require.Error(t, err, text)
	}
}

// FuzzValid: a value that fits a property stays one with white space around it, and no value fits that would end its
// declaration.
func FuzzValid(f *testing.F) {
	for _, s := range []string{"red", "1px solid red", "calc(1px + 2%)", "url(a", "a/b", "rgb(1,2,3)", "\"a",
		"u\\72l(a)", "[a] 1fr", "((((", "1e3px", "-.5e-2em", "\\"} {
		f.Add(uint16(len(s)), s)
	}
	names := Properties()
	f.Fuzz(func(t *testing.T, at uint16, value string) {
		p := names[int(at)%len(names)]
		if !Valid(p, value) {
			return
		}
		require.True(t, Valid(p, " "+value+" "))
		require.True(t, strings.Count(value, "(") == strings.Count(value, ")") || strings.ContainsAny(value, `"'\`) ||
			strings.Contains(strings.ToLower(value), "url"), value)
		if !strings.ContainsAny(value, `"'\`) && !strings.Contains(strings.ToLower(value), "url(") {
			require.False(t, strings.ContainsAny(value, ";{}<"), value)
		}
	})
}

// What covers a property has every keyword of it, and nothing that is not a value.
func TestCoverHasEveryKeyword(t *testing.T) {
	for _, c := range []struct {
		property string
		words    []string
	}{
		{"text-align", []string{"start", "end", "left", "right", "center", "justify"}},
		{"overflow", []string{"visible", "hidden", "clip", "scroll", "auto"}},
		{"flex-flow", []string{"row-reverse", "column", "wrap-reverse"}},
		{"width", []string{"auto", "min-content", "calc", "fit-content"}},
	} {
		values := Cover(c.property, rand.New(rand.NewPCG(1, 3)))
		all := strings.Join(values, " | ")
		for _, w := range c.words {
			require.Contains(t, all, w, c.property)
		}
		for _, v := range values {
			require.True(t, Valid(c.property, v), "%s: %s", c.property, v)
		}
	}
	require.Less(t, len(Cover("background-color", rand.New(rand.NewPCG(1, 3)))), 3, "a color counts as one")
}
