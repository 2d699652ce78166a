package layout_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// css-multicol-1 and css-break-3, in px; the container is 320 px wide, with gaps of 10.
func TestColumns(t *testing.T) {
	block := func(id, style string) string { return `<div id=` + id + ` style="` + style + `"></div>` }
	solid := func(id, h string) string { return block(id, "height:"+h+"px;break-inside:avoid") }
	for _, c := range []struct{ what, style, page, want string }{
		{"as many as told", "column-count:3", solid("a", "10") + solid("b", "10") + solid("c", "10"),
			"o 0,0 320x10; a 0,0 100x10; b 110,0 100x10; c 220,0 100x10"},
		{"as many as there is room for", "column-width:150px", solid("a", "10") + solid("b", "10"),
			"o 0,0 320x10; a 0,0 155x10; b 165,0 155x10"},
		{"no more than both say", "columns:2 90px", solid("a", "10") + solid("b", "10") + solid("c", "10"),
			"o 0,0 320x20; a 0,0 155x10; b 0,10 155x10; c 165,0 155x10"},
		{"as high as the least that holds all", "column-count:2", solid("a", "30") + solid("b", "20") +
			solid("c", "20"),
			"o 0,0 320x40; a 0,0 155x30; b 165,0 155x20; c 165,20 155x20"},
		{"one after the other, where a height is given", "column-count:2;height:50px;column-fill:auto",
			solid("a", "30") + solid("b", "20") + solid("c", "20"),
			"o 0,0 320x50; a 0,0 155x30; b 0,30 155x20; c 165,0 155x20"},
		{"an empty box is cut", "column-count:2", block("a", "height:30px"), "o 0,0 320x15; a 0,0 320x15"},
		{"more columns than there is room for", "column-count:2;height:10px", solid("a", "10") + solid("b", "10") +
			solid("c", "10"),
			"o 0,0 320x10; a 0,0 155x10; b 165,0 155x10; c 330,0 155x10"},
		{"margins between columns vanish", "column-count:2", block("a",
			"height:10px;margin-bottom:7px;break-inside:avoid") + solid("b", "10"),
			"o 0,0 320x13.5; a 0,0 155x10; b 165,0 155x10"},
		{"a break that is asked for keeps them", "column-count:2", solid("a", "10") +
			block("b", "height:10px;margin-top:7px;break-before:column"), "o 0,0 320x17; a 0,0 155x10; b 165,7 155x10"},
		{"what spans all stands between", "column-count:2", solid("a", "10") + solid("b", "10") +
			block("s", "column-span:all;height:5px;margin:3px 0") + solid("c", "10"),
			"o 0,0 320x31; a 0,0 155x10; b 165,0 155x10; s 0,13 320x5; c 0,21 155x10"},
		{"a box with a border goes on", "column-count:2",
			`<div id=p style="border:1px solid">` + solid("a", "10") + solid("b", "10") + `</div>`,
			"o 0,0 320x11; p 0,0 320x11; a 1,1 153x10; b 166,0 153x10"},
	} {
		got := inPx(boxes(t, `<div id=o style="width:320px;column-gap:10px;`+c.style+`">`+c.page+`</div>`, 800))
		assert.Equal(t, c.want, got, c.what)
	}
}

// Two lines stay together at the end and at the beginning of a column, unless the page asks for others.
func TestLinesInColumns(t *testing.T) {
	lines := func(n int, style string) string {
		return `<div id=o style="width:210px;column-gap:10px;columns:2;font-size:0;line-height:0"><p id=p style="margin:0;` + style + `">` +
			strings.Repeat(
				`<i style="display:inline-block;width:90px;height:10px;vertical-align:top"></i> `,
				n,
			) + `</p></div>`
	}
	for _, c := range []struct {
		n           int
		style, want string
	}{
		{2, "", "o 0,0 210x20; p 0,0 100x20"},
		{3, "", "o 0,0 210x20; p 0,0 210x20"},
		{4, "", "o 0,0 210x20; p 0,0 210x20"},
		{2, "orphans:1;widows:1", "o 0,0 210x10; p 0,0 210x10"},
		{6, "orphans:4", "o 0,0 210x40; p 0,0 210x40"},
		{6, "break-inside:avoid", "o 0,0 210x60; p 0,0 100x60"},
	} {
		assert.Equal(t, c.want, inPx(boxes(t, lines(c.n, c.style), 800)), "%d %s", c.n, c.style)
	}
}

// Old documents are laid out as old browsers did (the Quirks Mode standard).
func TestOldDocuments(t *testing.T) {
	const old, mixed = `<!doctype html public "-//W3C//DTD HTML 3.2//EN">`,
		`<!doctype html public "-//W3C//DTD XHTML 1.0 Transitional//EN" "x">`
	reset := `<style>body{margin:0;font:16px/1.5 F}img{width:5px;height:5px}</style>`
	for _, c := range []struct{ what, doctype, page, want string }{
		{"a line with a picture is as high as that", old, `<div id=a><img src=p.png></div>`, "a 0,0 400x5"},
		{"so where only lines are old", mixed, `<div id=a><img src=p.png></div>`, "a 0,0 400x5"},
		{"text makes it higher", mixed, `<div id=a>x<img src=p.png></div>`, "a 0,0 400x24"},
		{"not today", `<!doctype html>`, `<div id=a><img src=p.png></div>`, "a 0,0 400x24"},
		{"the first margin of a page vanishes", old, `<p id=a style="height:10px">`, "a 0,0 400x10"},
		{"not one that the page gives", old, `<p id=a style="height:10px;margin:7px 0">`, "a 0,7 400x10"},
		{"nor where only lines are old", mixed, `<p id=a style="height:10px">`, "a 0,16 400x10"},
		{"numbers are px", old, `<div id=a style="width:30;height:9">`, "a 0,0 30x9"},
		{"but not of what came later", old, `<div id=a style="width:30px;height:9px;aspect-ratio:1;gap:5">`,
			"a 0,0 30x9"},
		{"heights look through boxes without one", old, `<div><div id=a style="height:10%">`, "a 0,0 400x90"},
		{"cells are as high as they say", old,
			`<table cellspacing=0><td id=a height=40 style="padding:5px;width:20px">`, "a 0,0 30x40"},
	} {
		assert.Equal(t, c.want, inPx(boxesOf(t, c.doctype+reset+c.page, 400)), c.what)
	}
}
