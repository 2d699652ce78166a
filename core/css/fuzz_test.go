package css

import (
	"testing"
)

// FuzzSheet reads anything as a style sheet, its selectors and values included: no input may panic.
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
		d.addSheet(Parse("f.css", text), nil, nil, false)
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
			}
		}
	})
}

// FuzzSelector reads anything as a selector list.
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
		list, _ := ParseSelectors(Tokenize(text), nil)
		for _, s := range list {
			for _, e := range d.Elements {
				s.Matches(e)
			}
		}
	})
}

// FuzzValue reads anything as the value of every modelled property.
func FuzzValue(f *testing.F) {
	for _, s := range []string{"1px", "calc(1px + 2%)", "auto", "1 / 2", "span 2 / -1", "red", "repeat(2,[a] 1fr)",
		"'a' 'b'", "min(1px,", "clamp(none,1px,2px)", "round(up,1px,0px)", "1e999px", "-0"} {
		f.Add(s)
	}
	c := &computing{parent: &initialStyle}
	c.unitContext = unitContext{fontSize: 16, rootSize: 16, vw: 390, vh: 900, cqw: 390, cqh: 900}
	f.Fuzz(func(t *testing.T, text string) {
		v := trim(Tokenize(text))
		if len(v) == 0 {
			return
		}
		for name := range propertyTable {
			list, _ := parseLonghands(name, v)
			for _, l := range list {
				if l.set != nil {
					st := initialStyle
					inh := *initialInherited
					st.Inherited = &inh
					l.set(&st, c)
				}
			}
		}
		for name := range shorthands {
			parseLonghands(name, v)
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
