package layout_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// CSS 2, section 9.5, in px; the page is 400 px wide.
func TestFloats(t *testing.T) {
	f := func(id, style string) string { return `<div id=` + id + ` style="float:left;` + style + `"></div>` }
	block := func(id, style string) string { return `<div id=` + id + ` style="height:10px;` + style + `"></div>` }
	for _, c := range []struct{ what, page, want string }{
		{"side by side", f("a", "width:50px;height:20px") + f("b", "width:60px;height:30px"),
			"a 0,0 50x20; b 50,0 60x30"},
		{"to the right", f("a", "float:right;width:50px;height:20px"), "a 350,0 50x20"},
		{"below when there is no room", f("a", "width:300px;height:20px") + f("b", "width:150px;height:10px"),
			"a 0,0 300x20; b 0,20 150x10"},
		{"beside one that is still there", f("a", "width:100px;height:50px") + f("b", "width:250px;height:20px") +
			f("c", "width:80px;height:9px"), "a 0,0 100x50; b 100,0 250x20; c 100,20 80x9"},
		{"never above one before it", f("a", "width:300px;height:20px") + f("b", "width:200px;height:10px") +
			f("c", "width:50px;height:10px;float:right"), "a 0,0 300x20; b 0,20 200x10; c 350,20 50x10"},
		{"wider than the page", f("a", "width:500px;height:20px"), "a 0,0 500x20"},
		{"margins count", f("a", "width:50px;height:20px;margin:5px 7px") + f("b", "width:9px;height:9px"),
			"a 7,5 50x20; b 64,0 9x9"},
		{"blocks go under it", f("a", "width:50px;height:20px") + block("b", ""), "a 0,0 50x20; b 0,0 400x10"},
		{"what keeps to itself stands beside it", f("a", "width:50px;height:20px") + block("b", "overflow:hidden"),
			"a 0,0 50x20; b 50,0 350x10"},
		{"or below", f("a", "width:50px;height:20px") + block("b", "display:flow-root;width:380px"),
			"a 0,0 50x20; b 0,20 380x10"},
		{"cleared", f("a", "width:50px;height:20px") + block("b", "clear:left"), "a 0,0 50x20; b 0,20 400x10"},
		{"on the other side", f("a", "width:50px;height:20px") + block("b", "clear:right"),
			"a 0,0 50x20; b 0,0 400x10"},
		{"clearance is more than the margin", f("a", "width:50px;height:20px") +
			block("b", "clear:both;margin-top:15px"),
			"a 0,0 50x20; b 0,20 400x10"},
		{"the margins of an empty block that is cleared meet what follows, not its float", f("a", "width:50px;height:20px") +
			`<p id=p style="clear:both;margin:8px 0 15px"></p>` + block("b", ""), "a 0,0 50x20; p 0,20 400x0; b 0,27 400x10"},
		{"nor the end of what holds it", `<div id=o>` + f("a", "width:50px;height:20px") +
			`<p id=p style="clear:both;margin:8px 0 15px"></p></div>` + block("b", "margin-top:9px"),
			"o 0,0 400x27; a 0,0 50x20; p 0,20 400x0; b 0,36 400x10"},
		{"it stands at its upper margin below floats that have ended", f("a", "width:50px;height:5px") + block("b", "") +
			`<p id=p style="clear:both;margin:8px 0 15px">` + "\n" + `</p>` + block("c", "clear:both"),
			"a 0,0 50x5; b 0,0 400x10; p 0,18 400x0; c 0,25 400x10"},
		{"margins inside it count as its own", f("a", "width:50px;height:20px") +
			`<div id=p style="clear:both;margin:5px 0 27px"><p style="margin:10px 0 18px"></p></div>` + block("b", ""),
			"a 0,0 50x20; p 0,20 400x0; b 0,29 400x10"},
		{"a context holds its floats", `<div id=o style="display:flow-root">` + f("a", "width:5px;height:20px") +
			`</div>`,
			"o 0,0 400x20; a 0,0 5x20"},
		{"others do not", `<div id=o>` + f("a", "width:5px;height:20px") + `</div>`, "o 0,0 400x0; a 0,0 5x20"},
		{"through nested blocks", f("a", "width:50px;height:20px") +
			`<div style="padding-left:10px"><div style="margin:4px 0 0">` + f("b", "width:9px;height:9px") +
			`</div></div>`,
			"a 0,4 50x20; b 50,4 9x9"},
		{"items do not float", `<div style="display:flex">` + f("a", "width:50px;height:20px") +
			f("b", "float:right;width:50px;height:20px") + `</div>`, "a 0,0 50x20; b 50,0 50x20"},
		{"as wide as what it holds", `<div id=a style="float:left">` + block("b", "width:33px") + `</div>`,
			"a 0,0 33x10; b 0,0 33x10"},
		{"what shrinks counts them side by side", `<div id=o style="display:inline-block">` +
			f("a", "width:50px;height:20px") +
			f("b", "width:60px;height:20px") + `</div>`, "o 0,0 110x20; a 0,0 50x20; b 50,0 60x20"},
		{"after a line break that clears", `<div style="line-height:10px;font-size:5px">x` +
			f("a", "width:50px;height:25px") +
			`<br style="clear:both"><i id=i style="display:inline-block;width:9px;height:9px;vertical-align:top"></i></div>`,
			"a 0,0 50x25; i 0,25 9x9"},
	} {
		assert.Equal(t, c.want, inPx(boxes(t, c.page, 400)), c.what)
	}
}

// Lines are as short as what floats leave.
func TestLinesBesideFloats(t *testing.T) {
	atom := `<i id=%s style="display:inline-block;width:100px;height:20px;vertical-align:top"></i>`
	line := func(ids ...string) (out string) {
		for _, id := range ids {
			out += atom[:6] + id + atom[8:] + " "
		}
		return `<div style="font-size:0;line-height:0">` + out + `</div>`
	}
	side := `<div style="float:left;width:150px;height:30px"></div>`
	assert.Equal(t, "a 150,0 100x20; b 250,0 100x20; c 150,20 100x20; d 250,20 100x20; e 0,40 100x20",
		inPx(boxes(t, side+line("a", "b", "c", "d", "e"), 400)))
	assert.Equal(t, "a 0,30 100x20", inPx(boxes(t, side+line("a"), 200)), "a line that has no room goes below")
	assert.Equal(t, "a 0,0 100x20; f 100,0 60x9", inPx(boxes(t, `<div style="font-size:0;line-height:0">`+
		atom[:6]+"a"+atom[8:]+` <span id=f style="float:right;width:60px;height:9px"></span></div>`, 160)),
		"a float stands beside the line that it is on")
	assert.Equal(t, "a 0,0 100x20; f 99,20 60x9", inPx(boxes(t, `<div style="font-size:0;line-height:0">`+
		atom[:6]+"a"+atom[8:]+` <span id=f style="float:right;width:60px;height:9px"></span></div>`, 159)), "or below it")
}
