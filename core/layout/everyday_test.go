package layout_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// Boxes of everyday pages that had other sizes than in a browser once; the sizes are Chromium's.
func TestEverydayBoxes(t *testing.T) {
	const (
		grid  = "<div style='display:grid;width:300px;grid-auto-rows:60px'>"
		place = "<div style='position:relative;width:300px;height:60px'>"
		edges = "id=x style='position:absolute;inset:4px 20px 6px 10px;box-sizing:border-box;margin:0'>"
		row   = "<div style='display:flex;width:50px'>"
		wide  = "<b style='flex:none;width:60px'></b>"
		whole = "id=x style='box-sizing:border-box;margin:0'>"
		float = "<i style='float:left;width:60px;height:30px'></i><b id=x style='display:inline-block;vertical-align:top;width:70px;height:5px'></b>"
		high  = "<b style='height:40px;flex:none'></b><div><b style='display:block;height:90px'></b></div>"
		bare  = "style='border:0;padding:0;margin:0"
	)
	for html, want := range map[string]string{
		grid + "<input " + whole: "0 0 300 60",
		grid + "<input type=date " +
			whole: "0 0 300 60",
		grid + "<input type=checkbox " +
			whole: "0 0 300 60",
		grid + "<input type=range " +
			whole: "0 0 300 60",
		grid + "<textarea " +
			whole: "0 0 300 60",
		grid + "<select " + whole:                        "0 0 300 60",
		grid + "<input type=color id=x>":                 "0 0 50 27",
		grid + "<progress id=x></progress>":              "0 0 160 16",
		grid + "<img src=p.png id=x width=20 height=10>": "0 0 20 10",
		place + "<input " + edges:                        "10 4 270 50",
		place + "<textarea " +
			edges: "10 4 270 50",
		place + "<input type=color " +
			edges: "10 4 50 27",
		row + "<svg id=x width=16 height=16></svg>" + wide:                                     "0 0 0 16",
		row + "<svg id=x width=16 height=16 style='flex:none'></svg>" + wide:                   "0 0 16 16",
		row + "<img id=x src=p.png width=16 height=16>" + wide:                                 "0 0 16 16",
		"<div style='width:100px'>" + float:                                                    "0 30 70 5",
		"<div style='width:100px;white-space:nowrap'>" + float:                                 "60 0 70 5",
		"<img id=x style='display:block;font-size:10px;line-height:20px' src=no.png alt=Kite>": "0 0 800 20",
		"<img id=x style='display:block' src=no.png>":                                          "0 0 800 16",
		"<img id=x style='display:block' src=no.png alt=''>":                                   "0 0 800 0",
		"<img id=x style='display:block;height:auto' src=no.png alt=a width=200 height=100>":   "0 0 200 100",
		"<div id=x style='display:flex;flex-direction:column;height:5px;min-height:min-content'>" +
			high: "0 0 800 130",
		"<div id=x style='display:flex;flex-direction:column;height:300px;max-height:min-content'>" +
			high: "0 0 800 130",
		"<div id=x style='display:flex;height:5px;min-height:min-content'>" +
			high: "0 0 800 40",
		"<div id=x style='display:flex;align-items:center;height:5px;min-height:min-content'>" +
			high: "0 0 800 90",
		"<div style='display:grid;grid-template-columns:1fr 1fr;width:200px'><b id=x style='aspect-ratio:2'></b><b style='height:60px'></b></div>":     "0 0 120 60",
		"<div style='display:grid;grid-template-columns:100px 100px;width:200px'><b id=x style='aspect-ratio:2'></b><b style='height:60px'></b></div>": "0 0 100 50",
		"<div style='display:grid;grid-template-columns:1fr 1fr;width:200px'><b id=x style='aspect-ratio:1/2;height:30px'></b></div>":                  "0 0 15 30",
		"<div id=x style='aspect-ratio:auto 2;box-sizing:border-box;width:100px;padding:10px'></div>":                                                  "0 0 100 60",
		"<div id=x style='aspect-ratio:2;box-sizing:border-box;width:100px;padding:10px'></div>":                                                       "0 0 100 50",
		"<div id=x style='position:absolute;aspect-ratio:1/10;height:30px'><b style='display:block;width:50px'></b></div>":                             "0 0 50 30",
		"<div id=x style='columns:2;aspect-ratio:4;width:200px'><div style='height:300px'></div></div>":                                                "0 0 200 50",
		"<table id=x style='aspect-ratio:2;width:200px'><tr><td></table>":                                                                              "0 0 200 100",
		"<fieldset id=x " + bare +
			";aspect-ratio:2;width:100px'><div style='height:200px'></div></fieldset>": "0 0 100 50",
		"<fieldset id=x " + bare +
			";border-top:2px solid;contain:size'><legend style='height:30px;padding:0'></legend></fieldset>": "0 0 800 2",
		"<fieldset " + bare +
			"'><legend style='float:left;width:100%;height:20px;padding:0'></legend><div id=x style='clear:both;height:5px'></fieldset>": "0 20 800 5",
		"<details open><summary id=x style='font-size:10px;line-height:4px'>s</summary></details>": "0 0 800 4",
	} {
		assert.Equal(t, want, at(t, html, 800), html)
	}
}

// What is before a positioned box decides whether its text begins a word.
func TestCapitalsAfterWhatIsBefore(t *testing.T) {
	width := func(before, text string) string {
		return at(t, "<style>.a{position:absolute;left:0;top:0;font:20px arimo;text-transform:capitalize}</style>"+
			before+"<span class=a id=x>"+text+"</span>", 800)
	}
	large, small := width("", "Ma"), width("", "!ma")
	assert.NotEqual(t, large, small)
	assert.Equal(t, large, width("", "ma"))
	assert.Equal(t, large, width("<h4>Title.</h4>", "ma"))
	assert.Equal(t, large, width("words ", "ma"))
	plain := at(t, "<span style='position:absolute;left:0;top:0;font:20px arimo' id=x>ma</span>", 800)
	assert.NotEqual(t, large, plain)
	assert.Equal(t, plain, width("<h4>Title</h4>", "ma"))
	assert.Equal(t, plain, width("words", "ma"))
	assert.Equal(t, plain, width("<p hidden>.</p>words<b hidden>.</b>", "ma"))
}
