package layout_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
)

// The hyphen counts where a line ends with it and where the narrowest width is asked for.
func TestHyphensAreWhatStylesSay(t *testing.T) {
	width := func(style, text string) (w float64) {
		var x, y, h float64
		_, err := fmt.Sscanf(at(t, "<p id=x style='width:min-content;"+style+"'>"+text, 900), "%f %f %f %f", &x, &y, &w,
			&h)
		assert.NoError(t, err)
		return w
	}
	for style, text := range map[string]string{"": "hyphen-", "hyphenate-character:auto": "hyphen-",
		"hyphenate-character:\"~~\"": "hyphen~~", "hyphenate-character:\"\"": "hyphen-"} {
		assert.InDelta(t, width("", text), width(style, "hyphen&shy;ate"), 1.2, style)
	}
}

// The picture p.png of these pages is 300 px wide and 200 px high. Lines are 24 px: 18 above the baseline, 6 below.
func TestPicturesThatStylesBring(t *testing.T) {
	size := func(html string) (w, h float64) {
		var x, y float64
		_, err := fmt.Sscanf(at(t,
			"<style>p,ul,li{margin:0;padding:0;font:16px/24px F}.i{list-style-position:inside}</style>"+html, 900), "%f %f %f %f", &x, &y, &w, &h)
		assert.NoError(t, err)
		return w, h
	}
	for html, high := range map[string]float64{
		"<style>p::before{content:url(p.png)}</style><p id=x>A":                      206,
		"<style>p::before{content:'a' url(p.png) 'b'}</style><p id=x>A":              206,
		"<style>p::before{content:url(p.png) / 'read aloud'}</style><p id=x>A":       206,
		"<style>p::after{content:url(p.png);display:block}</style><p id=x>A":         230,
		"<style>p::before{content:url(none.png)}</style><p id=x>A":                   24,
		"<style>p::before{content:url(p.png);width:9px;height:9px}</style><p id=x>A": 206,
		"<style>p::before{content:url(p.png);float:left}</style><p id=x>A":           24,
		"<ul><li id=x style='list-style-image:url(p.png)'>A</ul>":                    206,
		"<ul><li id=x style='list-style:none url(p.png)'>A</ul>":                     206,
		"<ul class=i><li id=x style='list-style-image:url(p.png)'>A</ul>":            206,
		"<ul><li id=x style='list-style-image:url(none.png)'>A</ul>":                 24,
		// above the baseline alone
		"<style>li::marker{font-size:100px;line-height:1}</style><ul><li id=x>A</ul>":                         87 + 6,
		"<style>li::marker{font-size:100px;line-height:1}</style><ul class=i><li id=x>A</ul>":                 100,
		"<style>li::marker{font-size:100px;line-height:1}</style><ul><li id=x style='list-style:none'>A</ul>": 24,
	} {
		_, h := size(html)
		assert.InDelta(t, high, h, 1, html)
	}
	plain, _ := size("<p id=x style='width:max-content'>A")
	wide, _ := size("<style>p::before{content:url(p.png)}</style><p id=x style='width:max-content'>A")
	assert.InDelta(t, 300, wide-plain, .02)
}
