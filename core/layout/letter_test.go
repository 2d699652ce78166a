package layout_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// Each letter-spacing of 100 px is one rune of the first letter (measured in Chromium, all of them).
func TestWhatAFirstLetterIs(t *testing.T) {
	for text, want := range map[string]int{"Words": 1, "“Quoted”": 2, "A. dot": 2, "(a) br": 3, "1st": 1, "A” x": 2,
		"A(b) x": 1, "A-b": 1, "-A b": 2, "— A b": 3, "…A b": 2, "$A b": 1, "'A' b": 3, "«A»» b": 4, "A— b": 1, ".. A": 4,
		"A_b": 2, "+A": 1, "<b>A</b>.b": 1, "<b></b> A": 1, ".": 0, "(<b>b</b>)": 1, "<br>A": 0, "<img>A": 0,
		"<s style='display:inline-block'>A</s>": 0, "<s style='float:left'>f</s>A": 1, "  A": 1} {
		t.Run(text, func(t *testing.T) {
			width := func(rule string) float64 {
				var x, y, w, h float64
				_, err := fmt.Sscanf(at(t, "<style>"+rule+"</style><p id=x style='width:max-content'>"+text, 3000),
					"%f %f %f %f", &x, &y, &w, &h)
				assert.NoError(t, err)
				return w
			}
			got := width("p::first-letter{letter-spacing:100px}") - width("")
			assert.InDelta(t, 100*want, got, 20)
		})
	}
}

func TestWhereFirstLettersAre(t *testing.T) {
	const big = "<style>.l::first-letter{font-size:100px;line-height:1}</style>"
	for html, higher := range map[string]bool{
		"<p id=x class=l>A":                                       true,
		"<div class=l><p id=x>A":                                  true,
		"<div class=l><p>A<p id=x>B":                              false,
		"<div class=l><div style='display:flow-root' id=x>A":      true,
		"<div class=l><div style='display:flex'><p id=x>A":        false,
		"<div class=l><div style='float:left'>A</div><p id=x>B":   true,
		"<span class=l id=x>A":                                    false,
		"<div style='display:flex'><p class=l id=x>A":             true,
		"<table><td class=l id=x>A</table>":                       true,
		"<style>.l::before{content:'A'}</style><p id=x class=l>B": true,
		"<style>.l::first-letter{float:left;height:1px}</style><p id=x class=l style='overflow:hidden'>A": true,
	} {
		var x, y, w, h float64
		_, err := fmt.Sscanf(at(t, big+html, 500), "%f %f %f %f", &x, &y, &w, &h)
		assert.NoError(t, err)
		assert.Equal(t, higher, h > 90, html)
	}
}

// A letter whose size follows the width and that floats on wide pages only is where a new layout puts it.
func TestFirstLettersFollowTheWidth(t *testing.T) {
	const html = `<style>p::first-letter{font-size:6vw}@media(min-width:700px){p::first-letter{float:left}}
		i{font-size:2vw}</style><p id=x>Words that run on and on until they fill a few lines of the page`
	d, e := engine(t, html)
	for _, w := range []int{1000, 400, 900, 640, 1200} {
		assert.Equal(t, at(t, html, w), place(d, e.Layout(w)), w)
	}
}

// Where a line begins, cloned edges stand again; where it ends they take no room from the words, but move what is
// aligned (measured in Chromium, x and y of #x).
func TestEdgesAreCloned(t *testing.T) {
	for html, want := range map[string]string{
		"<p style='width:80px'><s style='padding:0 10px'>long words <u id=x>on</u></s>":                               "0 66",
		"<p style='width:80px'><s class=c style='padding:0 10px'>long words <u id=x>on</u></s>":                       "10 66",
		"<p style='width:80px'><s class=c style='margin:0 5px;border:2px solid'>long words <u id=x>on</u></s>":        "7 66",
		"<p style='width:80px'><s class=c style='padding:0 9px'><b class=c style='padding:3px'>long words <u id=x>on": "12 66",
	} {
		got := at(t, "<style>p{margin:0;margin-top:16px;white-space:pre-line}.c{box-decoration-break:clone}</style>"+strings.ReplaceAll(html, "words ", "words\n"), 500)
		assert.True(t, strings.HasPrefix(got, want+" "), "%s: %s", html, got)
	}
}

func TestTextIsTrimmedToItsEdges(t *testing.T) {
	const cap, line = "text-box:trim-both cap alphabetic", 40.0
	height := func(html string) float64 {
		var x, y, w, h float64
		_, err := fmt.Sscanf(at(t, "<style>div,p{margin:0}</style><main style='font-size:20px;line-height:2'>"+html,
			500), "%f %f %f %f", &x, &y, &w, &h)
		assert.NoError(t, err)
		return h
	}
	one := height("<div id=x style='" + cap + "'>A")
	assert.InDelta(t, 14, one, .5, "a capital is 0.7 em high")
	assert.InDelta(t, line+one, height("<div id=x style='"+cap+"'>A<br>B"), .02)
	for html, want := range map[string]float64{
		"<div id=x style='text-box:normal'>A":                                       line,
		"<div id=x style='text-box:trim-both'>A":                                    24, // ascent and descent
		"<div id=x style='text-box-trim:trim-start;text-box-edge:cap alphabetic'>A": one + 13,
		"<div style='" + cap + "'><p id=x>A":                                        one,
		// the border, and the end alone
		"<div style='" + cap + "'><p id=x style='border-top:1px solid'>A": 28,
		"<div style='" + cap + "'><p>A<p id=x>A<p>B":                      line,
		// an empty block takes the start
		"<div style='" + cap + "'><p></p><p id=x>A":                                           27,
		"<div style='display:flex;" + cap + "'><p id=x>A":                                     line,
		"<div id=x>A<span style='display:inline-block;" + cap + "'>B</span>":                  line,
		"<div style='text-box-edge:cap alphabetic'><p id=x style='text-box-trim:trim-both'>A": one,
		"<div id=x style='line-height:.5;" + cap + "'>A":                                      one,
		"<div id=x style='height:77px;" + cap + "'>A":                                         77,
		"<div id=x style='text-box:cap nonsense'>A":                                           line,
		"<div id=x style='" + cap + "'><i style='float:right'>f</i>A":                         one,
		"<div><span id=x style='text-box:trim-both cap alphabetic;padding:1px'>A</span>":      one + 2,
	} {
		assert.InDelta(t, want, height(html), .02, html)
	}
}
