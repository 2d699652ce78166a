package css

import (
	"reflect"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// FuzzSheet reads anything as a style sheet, its selectors and values included: no input may panic, and none may take
// the rule away that stands before it, nor change what that rule says of an element that nothing else can mean.
func FuzzSheet(f *testing.F) {
	for _, s := range []string{"p{width:1px}", "@media (min-width:1px){a:is(b,c)>d{color:red}}",
		"@layer a,b;@layer a{x{y:z}}", "a{b:c;&:hover{d:e}}", "@import url(x) layer(y) (z);", "p{width:calc(1px + (2em * 3))}",
		"@container n (width > 1px){p{}}", "@scope (a) to (b){c{}}", ":nth-child(2n+1 of .a)::before{content:counter(a)}", "a{grid:[a] 1fr / repeat(auto-fill,minmax(1px,1fr))}", "a{--b:var(--c,", "@supports (a:b) and (not (c:d)){}",
		"a{transform:rotate(1deg)translate(1px,2%)}", "a{font:italic 600 1em/1.2 'x',y}", "<!-- a{} -->", "a{b:\\", "/*", "\"", "a{aspect-ratio:1/0}"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		d, err := Load(Source{File: "f.html",
			HTML: "<!doctype html><style></style><div class=a id=b><p style='--c:1px'>x</p></div>"})
		if err != nil {
			t.Fatal(err)
		}
		const first = "#b{--kept:yes !important}\n"
		sheet := Parse("f.css", first+text)
		require.NotEmpty(t, sheet.Nodes)
		require.Equal(t, "#b", Text(sheet.Nodes[0].Prelude))
		d.addSheet(sheet, nil, nil, false)
		d.layers.number(0)
		d.matchAll()
		s := NewStyler(d)
		for _, w := range []int{320, 1280} {
			s.SetMedia(Media{Width: w, Height: 900})
			parents := map[*Element]*Style{}
			for _, e := range d.Elements {
				parent := s.Root()
				if e.Parent != nil {
					parent = parents[e.Parent]
				}
				parents[e] = s.Style(e, parent, nil)
				if e.ID == "b" && !strings.Contains(text, "--kept") && !strings.Contains(text, "all") {
					require.Equal(t, "yes", parents[e].Var("--kept"), "at %d px", w)
				}
			}
		}
	})
}

// FuzzSelector reads anything as a selector list. Inside :is() it means the same elements, inside :not() all others
// (Selectors 4, sections 4.2 and 4.3).
func FuzzSelector(f *testing.F) {
	for _, s := range []string{"a", "a > b ~ c", ":is(a,b):not(.c)", "[x^='y' i]", ":has(> a)",
		":nth-child(odd of b)", "a::before", "&.b", "\\31 a", "*|a", ":lang(de)"} {
		f.Add(s)
	}
	d, err := Load(Source{HTML: "<div class=a><p id=b x=y><span></span></p></div>"})
	if err != nil {
		f.Fatal(err)
	}
	f.Fuzz(func(t *testing.T, text string) {
		list, ok := ParseSelectors(Tokenize(text), nil)
		any := func(list []*Selector, e *Element) bool {
			return slices.ContainsFunc(list, func(s *Selector) bool { return s.Matches(e) })
		}
		matched := make([]bool, len(d.Elements))
		for i, e := range d.Elements {
			matched[i] = any(list, e)
		}
		whole := len(list) > 0 && ok && !strings.ContainsAny(text, "(){}[]\\\"'/&") &&
			!slices.ContainsFunc(list, func(s *Selector) bool { return s.Pseudo != "" })
		if !whole {
			return
		}
		is, ok := ParseSelectors(Tokenize(":is("+text+")"), nil)
		require.True(t, ok, text)
		not, ok := ParseSelectors(Tokenize(":not("+text+")"), nil)
		require.True(t, ok, text)
		for i, e := range d.Elements {
			require.Equal(t, matched[i], any(is, e), "%q and %s", text, e.Path())
			require.Equal(t, !matched[i], any(not, e), "%q and %s", text, e.Path())
		}
	})
}

// FuzzValue reads anything as the value of every modelled property. A value that is read sets the same when it is
// printed and read again.
func FuzzValue(f *testing.F) {
	for _, s := range []string{"1px", "calc(1px + 2%)", "auto", "1 / 2", "span 2 / -1", "red", "repeat(2,[a] 1fr)",
		"'a' 'b'", "min(1px,", "clamp(none,1px,2px)", "round(up,1px,0px)", "1e999px", "-0", "\v"} {
		f.Add(s)
	}
	c := &computing{parent: &initialStyle}
	c.unitContext = unitContext{fontSize: 16, rootSize: 16, vw: 390, vh: 900, cqw: 390, cqh: 900}
	f.Fuzz(func(t *testing.T, text string) {
		v := trim(Tokenize(text))
		if len(v) == 0 {
			return
		}
		set := func(list []parsedLonghand) Style {
			st := initialStyle
			inh := *initialInherited
			st.Inherited = &inh
			for _, l := range list {
				if l.set != nil {
					l.set(&st, c)
				}
			}
			return st
		}
		again := trim(Tokenize(Text(v)))
		for name := range propertyTable {
			list, ok := parseLonghands(name, v, Way{})
			st := set(list)
			if ok && !strings.ContainsAny(text, "\\\"'/") { // white space in texts and escapes is not ours to keep
				list, ok = parseLonghands(name, again, Way{})
				require.True(t, ok, "%s: %q, printed %q", name, text, Text(v))
				if reflect.DeepEqual(st, st) { // no number that is none
					require.True(t, reflect.DeepEqual(st, set(list)), "%s: %q, printed %q", name, text, Text(v))
				}
			}
		}
		for name := range shorthands {
			parseLonghands(name, v, Way{RTL: true, Mode: VerticalLR})
		}
	})
}

func FuzzColor(f *testing.F) {
	for _, s := range []string{"#c63a17", "rgb(1 2 3 / 50%)", "hsl(120deg 50% 50%)", "oklch(60% .2 20)",
		"color-mix(in oklab, red 20%, blue)", "light-dark(#000, #fff)", "color(display-p3 1 0 0)", "rgb(calc(1e400) nan none)"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		c, ok := ParseColor(Tokenize(text), ColorContext{})
		if !ok {
			return
		}
		for _, v := range []float64{c.R, c.G, c.B, c.A} {
			if !(v >= 0 && v <= 1) {
				t.Fatalf("%q is %v", text, c)
			}
		}
		if l := c.Luminance(); !(l >= 0 && l <= 1.0001) {
			t.Fatalf("%q has luminance %v", text, l)
		}
	})
}
