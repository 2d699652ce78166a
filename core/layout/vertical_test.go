package layout_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
)

// Lines are 24 px; "x y w h" of #x. More of it is compared with Chromium in e2e/testdata/boxes/vertical.txtar.
func TestLinesThatStandSideBySide(t *testing.T) {
	for html, want := range map[string]string{
		"<p style='writing-mode:vertical-rl;height:100px'>A<br>B<b id=x>C</b><br>D":    "26 10 20 12",
		"<p style='writing-mode:vertical-lr;height:100px'>A<br>B<b id=x>C</b><br>D":    "26 10 20 12",
		"<p style='writing-mode:vertical-lr;height:100px'>A<br>B<b>C</b><br><b id=x>D": "50 0 20 12",
		"<p style='writing-mode:vertical-rl;height:100px'>A<br>B<br><b id=x>D":         "2 0 20 12",
		"<p style='writing-mode:sideways-lr;height:100px'><b id=x>D</b>A":              "2 88 20 12",
		"<p id=x style='writing-mode:vertical-rl;height:100px'>A<br>B<br>C":            "0 0 72 100",
		"<p id=x style='writing-mode:vertical-rl;height:100px;width:200px'>A":          "0 0 200 100",
		// of the window
		"<p id=x style='writing-mode:vertical-rl;height:50%'>A":                                                                           "0 0 24 450",
		"<p id=x style='writing-mode:vertical-rl;padding:1px 2px 3px 4px;border-left:5px solid;height:50px'>":                             "0 0 11 54",
		"<p id=x style='writing-mode:vertical-rl;padding-block:1px 2px;padding-inline:3px 4px;height:50px'>A":                             "0 0 27 57",
		"<p id=x style='writing-mode:vertical-rl;inline-size:50px;block-size:60px'>A":                                                     "0 0 60 50",
		"<p id=x style='writing-mode:vertical-rl;margin-block-start:10px;margin-inline:7px'>":                                             "0 7 0 0",
		"<div style='writing-mode:vertical-rl;height:90px'><p id=x style='margin-block:6px'>A":                                            "6 0 24 90",
		"<div style='writing-mode:vertical-rl;height:90px'><p id=x style='margin-top:6px;width:30px'>A":                                   "0 6 30 84",
		"<div style='writing-mode:vertical-lr;height:90px'><p>A<p id=x>B":                                                                 "24 0 24 90",
		"<div style='writing-mode:vertical-rl;height:90px'><img id=x src=p.png width=30 height=10>A":                                      "0 0 30 10",
		"<div style='writing-mode:vertical-rl;height:90px'><p style='writing-mode:horizontal-tb;width:50px;height:20px' id=x>":            "0 0 50 20",
		"<div style='writing-mode:vertical-rl;height:90px;display:flex'><i style='width:20px'></i><i id=x style='flex:1;width:20px'></i>": "0 0 20 90",
		"<div style='display:flex'><p style='writing-mode:vertical-rl'>A</p><p id=x>B":                                                    "24 0 10 24",
		"<div style='display:grid;grid-template-columns:auto 1fr'><p style='writing-mode:vertical-rl'>A</p><p id=x>B":                     "24 0 476 24",
		"<div style='position:relative;height:80px'><p id=x style='writing-mode:vertical-rl;position:absolute;right:0;height:60px'>A":     "476 0 24 60",
		"<p>B<b id=x style='writing-mode:vertical-rl;height:40px'>A":                                                                      "10 0 24 40",
		"<p style='writing-mode:vertical-lr;transform:translate(10px,5px);height:40px' id=x>A":                                            "10 5 24 40",
		"<p style='writing-mode:vertical-rl;min-width:min-content;max-width:max-content;height:40px' id=x>A":                              "0 0 24 40",
		"<fieldset style='writing-mode:vertical-rl;border:0;height:40px' id=x>A":                                                          "0 0 24 40",
		"<p style='writing-mode:vertical-rl;min-width:50px;height:40px' id=x>A":                                                           "0 0 50 40",
	} {
		var x, y, w, h float64
		_, err := fmt.Sscanf(at(t, "<style>*{margin:0;padding:0}body{font:16px/24px F}i{display:block}</style>"+html,
			500), "%f %f %f %f", &x, &y, &w, &h)
		assert.NoError(t, err)
		assert.Equal(t, want, fmt.Sprintf("%.0f %.0f %.0f %.0f", x, y, w, h), html)
	}
}

// What follows the width is laid out anew as by a new layout.
func TestTurnedLinesFollowTheWidth(t *testing.T) {
	const html = `<style>div{writing-mode:vertical-rl;height:20vw;padding:1vw}@media(min-width:700px){div{writing-mode:horizontal-tb}}
		p{margin:0 2vw;padding-left:3vw}</style><div><p id=x>Words that run on and on until they fill a few lines`
	d, e := engine(t, html)
	for _, w := range []int{690, 400, 900, 640, 1200, 500} {
		assert.Equal(t, at(t, html, w), place(d, e.Layout(w)), w)
	}
}
