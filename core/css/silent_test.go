package css

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What a document says is read as browsers read it; each line was wrong once, and told by nobody.
func TestWhatWasReadOtherwise(t *testing.T) {
	const x = `<p id=x>`
	for _, c := range []struct {
		name, html string
		want       func(s *Style) any
		is         any
	}{
		{"a doctype in capitals", `<!DOCTYPE HTML><p>a<table></table>` + x, func(s *Style) any { return s.FontSize },
			16.0},
		{"a style of another type", `<style type=text/less>p{width:9px}</style>` + x,
			func(s *Style) any { return s.Width.IsAuto() }, true},
		{"a style in a template", `<template><style>p{width:9px}</style></template>` + x,
			func(s *Style) any { return s.Width.IsAuto() }, true},
		{"a style with its own type", `<style type=" Text/CSS ">p{width:9px}</style>` + x,
			func(s *Style) any { return s.Width.Px }, 9.0},
		{"a width below nothing", `<style>p{width:9px;width:-5px}</style>` + x,
			func(s *Style) any { return s.Width.Px }, 9.0},
		{"a margin below nothing", `<style>p{margin-left:9px;margin-left:-5px}</style>` + x,
			func(s *Style) any { return s.Margin[Left].Px }, -5.0},
		{"a border whose width is two words", `<style>p{border:1px solid;border:solid 2 px}</style>` + x,
			func(s *Style) any { return s.BorderWidth[Top] }, 1.0},
		{"a function of tracks as a width", `<style>p{width:9px;width:fit-content(5px)}</style>` + x,
			func(s *Style) any { return s.Width.Px }, 9.0},
		{"a safe area has a size", `<style>p{padding-left:env(safe-area-inset-left,9px)}</style>` + x,
			func(s *Style) any { return s.Padding[Left].Px }, 0.0},
		{"what no browser knows has none", `<style>p{padding-left:env(nothing,9px)}</style>` + x,
			func(s *Style) any { return s.Padding[Left].Px }, 9.0},
		{"a lone monospace, a share of the size", `<style>p{font:1em monospace;font-size:200%}</style>` + x,
			func(s *Style) any { return s.FontSize }, 26.0},
		{"a lone monospace, a keyword", `<style>p{font-family:monospace;font-size:large}</style>` + x,
			func(s *Style) any { return s.FontSize }, 16.0},
		{"a lone monospace, a length", `<style>p{font-family:monospace;font-size:1rem}</style>` + x,
			func(s *Style) any { return s.FontSize }, 16.0},
		{"a monospace that is not alone", `<style>p{font-family:monospace,serif}</style>` + x,
			func(s *Style) any { return s.FontSize }, 16.0},
		{"out of a lone monospace", `<style>body{font-family:monospace}p{font-family:serif;font-size:1em}</style>` + x,
			func(s *Style) any { return s.FontSize }, 16.0},
		{"out of one of a length", `<style>body{font:20px monospace}p{font-family:serif}</style>` + x,
			func(s *Style) any { return s.FontSize }, 20.0},
		{"a defined property has its value",
			`<style>@property --w{syntax:"<length>";inherits:false;initial-value:9px}p{width:var(--w)}</style>` +
				x, func(s *Style) any { return s.Width.Px }, 9.0},
		{"one that is not inherited",
			`<style>@property --w{syntax:"<length>";inherits:false;initial-value:9px}body{--w:5px}p{width:var(--w)}</style>` + x, func(s *Style) any { return s.Width.Px }, 9.0},
		{"a value of another kind",
			`<style>@property --w{syntax:"<length>";inherits:true;initial-value:9px}body{--w:5px}p{--w:red;width:var(--w)}</style>` + x, func(s *Style) any { return s.Width.Px }, 5.0},
		{"a definition without what it needs",
			`<style>@property --w{syntax:"<length>";inherits:true}p{--w:5%;width:var(--w)}</style>` +
				x, func(s *Style) any { return s.Width.Pct }, 5.0},
		{"pixels of a device, as they were asked for",
			`<style>@media (-webkit-min-device-pixel-ratio:1) and (color-gamut:srgb) and (min-device-width:10px){p{width:9px}}</style>` + x, func(s *Style) any { return s.Width.Px }, 9.0},
		{"more pixels than there are", `<style>@media (-webkit-min-device-pixel-ratio:2){p{width:9px}}</style>` + x,
			func(s *Style) any { return s.Width.IsAuto() }, true},
		{"names of boxes before writing modes", `<style>p{-webkit-logical-width:9px;-webkit-margin-after:3px}</style>` +
			x, func(s *Style) any { return []float64{s.Width.Px, s.Margin[Bottom].Px} }, []float64{9, 3}},
	} {
		t.Run(c.name, func(t *testing.T) {
			source := c.html
			if !strings.HasPrefix(source, "<!D") {
				source = "<!doctype html>" + source
			}
			d, err := Load(Source{File: "x.html", HTML: source})
			require.NoError(t, err)
			st := NewStyler(d)
			st.SetMedia(Media{Width: 800, Height: 800})
			styles := stylesOf(d, st, Container{})
			assert.Equal(t, c.is, c.want(styles["x"]))
			assert.False(t, d.Quirks)
			if strings.Contains(source, "<table>") {
				assert.Equal(t, "body", d.Elements[len(d.Elements)-1].Parent.Tag, "a table ends a paragraph")
			}
		})
	}
}

// An animation that leaves a box another size is told, one that leaves it another look is not.
func TestAnimationsThatStayAreTold(t *testing.T) {
	const frames = `<style>@keyframes wide{to{width:100px}}@keyframes pale{to{opacity:.5;translate:1px}}`
	for rule, told := range map[string]bool{
		"p{animation:wide 1s forwards}": true, "p{animation:pale 1s both}": false, "p{animation:wide 1s}": false,
		"p{animation:none 1s forwards}": false, "p{animation-name:wide;animation-fill-mode:both}": true,
		"b{animation:wide 1s forwards}": false,
	} {
		d, err := Load(Source{File: "x.html", HTML: "<!doctype html>" + frames + rule + "</style><p>"})
		require.NoError(t, err)
		assert.Equal(t, told, len(d.Unsupported) == 1 && d.Unsupported[0].Property == "animation-fill-mode", rule)
	}
}

// Where a box is turned is said by words and lengths in either order, with how deep it lies after them.
func TestTransformOrigins(t *testing.T) {
	for value, want := range map[string][2]float64{
		"left": {0, 50}, "top": {50, 0}, "center left": {0, 50}, "top right": {100, 0}, "right top 3px": {100, 0},
		"center left 1px": {0, 50}, "10% bottom": {10, 100},
	} {
		d, err := Load(Source{File: "x.html", HTML: "<!doctype html><p id=x style='transform-origin:" + value + "'>"})
		require.NoError(t, err)
		st := NewStyler(d)
		st.SetMedia(Media{Width: 800, Height: 800})
		got := stylesOf(d, st, Container{})["x"].TransformOrigin
		assert.Equal(t, want, [2]float64{got[0].Pct, got[1].Pct}, value)
	}
}
