package layout_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// CSS Writing Modes 4, section 6, in px; the page is 400 px wide.
func TestRightToLeft(t *testing.T) {
	for _, c := range []struct{ what, page, want string }{
		{"blocks begin at the right", `<div dir=rtl><div id=a style="width:100px;height:10px"></div></div>`,
			"a 300,0 100x10"},
		{"a margin that is told stays at its side",
			`<div dir=rtl><div id=a style="width:100px;height:10px;margin-left:30px;margin-right:7px"></div></div>`, "a 293,0 100x10"},
		{"one that is named by the direction does not",
			`<div dir=rtl><div id=a style="width:100px;height:10px;margin-inline-start:30px"></div></div>`, "a 270,0 100x10"},
		{"the direction may come from a style",
			`<div style="direction:rtl"><p id=a style="margin:0;width:9px;height:9px">`, "a 391,0 9x9"},
		{"and go back", `<div dir=rtl><div dir=ltr style="width:200px"><div id=a style="width:9px;height:9px">`,
			"a 200,0 9x9"},
		{"items of a row", `<div dir=rtl style="display:flex;gap:5px"><i id=a style="width:20px;height:9px"></i><i id=b style="width:30px;height:9px"></i></div>`,
			"a 380,0 20x9; b 345,0 30x9"},
		{"tracks of a grid", `<div dir=rtl style="display:grid;grid-template-columns:100px 1fr"><i id=a style="height:9px"></i><i id=b style="height:9px"></i></div>`,
			"a 300,0 100x9; b 0,0 300x9"},
		{"columns of a table", plainCells +
			`<table dir=rtl><tr><td id=a style="width:20px"><i></i><td id=b style="width:30px"></table>`,
			"a 30,0 20x10; b 0,0 30x10"},
		{"floats stay at their sides",
			`<div dir=rtl><i id=a style="float:left;width:20px;height:9px"></i><i id=b style="float:right;width:30px;height:9px"></i></div>`,
			"a 0,0 20x9; b 370,0 30x9"},
		{"unless they are named by the direction",
			`<div dir=rtl><i id=a style="float:inline-start;width:20px;height:9px"></i></div>`, "a 380,0 20x9"},
		{"insets are told sides",
			`<div dir=rtl style="position:relative"><i id=a style="position:absolute;left:4px;width:9px;height:9px"></i><i id=b style="position:absolute;inset-inline-start:4px;width:9px;height:9px"></i></div>`,
			"a 4,0 9x9; b 387,0 9x9"},
		{"what has none stands where it would",
			`<div dir=rtl><i id=a style="position:absolute;width:9px;height:9px"></i></div>`, "a 391,0 9x9"},
		{"boxes on a line", `<div dir=rtl style="font-size:0;line-height:0"><i id=a style="display:inline-block;width:20px;height:9px"></i><i id=b style="display:inline-block;width:30px;height:9px"></i></div>`,
			"a 380,0 20x9; b 350,0 30x9"},
		{"automatic direction",
			`<div dir=auto><b hidden>1</b>&#x5e2;<i id=a style="display:block;width:20px;height:9px"></i></div>`, "a 380,24 20x9"},
		{"padding of the box itself",
			`<div dir=rtl style="padding-left:50px"><i id=a style="display:block;height:9px"></i></div>`, "a 50,0 350x9"},
	} {
		assert.Equal(t, c.want, inPx(boxes(t, c.page, 400)), c.what)
	}
}

// UAX #9: text of two directions is put in the order in which it is seen.
func TestTextOfTwoDirections(t *testing.T) {
	box := func(id string) string {
		return `<i id=` + id + ` style="display:inline-block;width:10px;height:10px;vertical-align:top"></i>`
	}
	const alef, bet = "&#x5d0;", "&#x5d1;"
	order := func(page string) string {
		d, e := engine(t, `<div style="width:max-content;font-size:1px;line-height:1px">`+page+`</div>`)
		r := e.Layout(800)
		out := ""
		for x := -1; ; {
			next, name := 1<<30, ""
			for _, el := range d.Elements {
				if p := r.Of(el); p != nil && el.ID != "" && int(p.X) > x && int(p.X) < next {
					next, name = int(p.X), el.ID
				}
			}
			if name == "" {
				return out
			}
			out, x = out+name, next
		}
	}
	assert.Equal(t, "ab", order(box("a")+"x"+box("b")), "one direction is as it is written")
	assert.Equal(t, "abcd", order(box("a")+"x"+box("b")+alef+" "+bet+"x"+box("c")+"y"+box("d")),
		"boxes between letters of two directions")
	assert.Equal(t, "cba", order("<div dir=rtl>"+box("a")+alef+box("b")+bet+box("c")+"</div>"))
	assert.Equal(t, "abc", order("x"+box("a")+"x"+box("b")+"x"+box("c")+alef))
	assert.Equal(t, "ba", order("x"+alef+box("a")+bet+box("b")+alef+"x"),
		"what stands among letters from right to left goes with them")
	assert.Equal(t, "cabd", order("<div dir=rtl>"+alef+box("d")+" x"+box("a")+"y"+box("b")+"z "+box("c")+bet+"</div>"),
		"words from left to right keep their order among others")
}
