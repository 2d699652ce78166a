package layout_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Inline boxes in pages of blocks of 20 px and letters of 10 px; all measured in Chromium.
const plainLines = `<style>body{font:10px/20px F}p{margin:0}b{display:block;height:20px}i{display:inline-block;width:10px;height:10px}</style>`

func TestInlineBoxesAreBrokenAroundBlocks(t *testing.T) {
	for _, c := range []struct{ what, page, want string }{
		{"text before and behind stays on the lines of what is around", `<p id=p><i></i><span><i></i><b id=b></b><i></i></span><i id=z></i></p>`,
			"p 0,0 300x60; b 0,20 300x20; z 10,43 10x10"},
		{"edges at its ends make lines", `<p id=p><span style="padding:0 4px"><b id=b></b></span></p>`,
			"p 0,0 300x60; b 0,20 300x20"},
		{"those above and below do not", `<p id=p><span style="padding:4px 0"><b id=b></b></span></p>`,
			"p 0,0 300x20; b 0,0 300x20"},
		{"margins of blocks stay between the lines", `<p id=p><span><i></i><b id=b style="margin:5px 0"></b><i id=z></i></span></p>`,
			"p 0,0 300x70; b 0,25 300x20; z 0,53 10x10"},
		{"boxes in boxes", `<p id=p><em><i></i><span><i></i><b id=b></b></span><i id=z></i></em></p>`,
			"p 0,0 300x60; b 0,20 300x20; z 0,43 10x10"},
		{"two blocks of one box", `<p id=p><span><i></i><b id=b></b> <b id=c></b></span></p>`,
			"p 0,0 300x60; b 0,20 300x20; c 0,40 300x20"},
		{"what moves the box moves the block", `<p id=p><span style="position:relative;left:7px"><i></i><b id=b></b></span></p>`,
			"p 0,0 300x40; b 7,20 300x20"},
	} {
		assert.Equal(t, c.want, inPx(boxes(t, plainLines+c.page, 300)), c.what)
	}
}

// The place of a broken box holds its pieces and the whole lines of its blocks, but no piece with nothing in it.
func TestPlacesOfBrokenInlineBoxes(t *testing.T) {
	for _, c := range []struct {
		what, page string
		y, h       float64
	}{
		{"from its first line to its last", `<i></i><span id=s>x<b></b>x</span>`, 4, 52},
		{"not on the line where nothing of it stands", `<i></i><span id=s><b></b>x</span>`, 20, 36},
		{"nor on the one that it ends on", `<i></i><span id=s>x<b></b></span>x`, 4, 36},
	} {
		d, e := engine(t, plainLines+"<p>"+c.page)
		r := e.Layout(300)
		el := d.Elements[len(d.Elements)-1]
		for _, k := range d.Elements {
			if k.ID == "s" {
				el = k
			}
		}
		at := r.Of(el)
		require.NotNil(t, at, c.what)
		assert.InDelta(t, c.y, at.Y.Float(), 1.5, c.what)
		assert.InDelta(t, c.h, at.H.Float(), 2.5, c.what)
		assert.Equal(t, 300.0, at.W.Float(), c.what)
	}
}

// A page that is laid out at one width after the other has the boxes of one that is laid out there first.
func TestBrokenInlineBoxesAtOtherWidths(t *testing.T) {
	page := plainLines + `<style>@media (width<200px){#b{display:inline}}</style><p id=p><i></i><span id=s style="padding:0 3px">words of it <b id=b></b> and more</span> end</p>`
	d, e := engine(t, page)
	for _, w := range []int{300, 150, 90, 300, 190, 210} {
		assert.Equal(t, boxes(t, page, w), namedBoxes(d, e.Layout(w)), w)
	}
}

// A space before the end of a padded box at the end of a line goes, and its padding with the line, room or not.
func TestSpacesBeforeTheEndOfInlineBoxes(t *testing.T) {
	width := func(page string, at int) string {
		parts := strings.Fields(inPx(boxes(t, plainLines+page, at)))
		return parts[len(parts)-1]
	}
	s := func(inner string) string { return `<span id=s style="padding:0 5px">` + inner + `</span>` }
	assert.Equal(t, width("<p>"+s("<i></i>"), 300), width("<p>"+s("<i></i> "), 300))
	assert.Equal(t, width("<p>"+s("<i></i>"), 300), width("<p>"+s("<i></i> ")+" <br>x", 300))
	assert.NotEqual(t, width("<p>"+s("<i></i>"), 300), width("<p>"+s("<i></i> ")+"x", 300))
	// where a space is inside it does the box stay, though its padding has no room
	p := `<p style="width:17px"><i></i>`
	assert.Contains(t, inPx(boxes(t, plainLines+`<p style="width:27px">x <span id=s style="padding-right:30px">y </span>z`, 300)), ",3 ")
	assert.Contains(t, inPx(boxes(t, plainLines+p+` `+s("<i></i>"), 300)), "s 0,2")
}

// Boxes that end right behind a forced break end on its line.
func TestBoxesThatEndBehindABreak(t *testing.T) {
	page := plainLines + `<p id=p><span id=s style="padding:0 5px"><i></i><br></span><i id=z></i></p>`
	assert.Contains(t, inPx(boxes(t, page, 300)), "20x")
	assert.Contains(t, inPx(boxes(t, page, 300)), "z 0,23")
}

// An inline box that draws nothing is as high as the boxes in it; one that does has its own height.
func TestInlineBoxesThatDrawNothing(t *testing.T) {
	high := func(style string) string {
		got := inPx(boxes(t, plainLines+`<p><a id=a style="`+style+`">x<s style="border:3px solid">y</s></a>`, 300))
		return got[strings.LastIndex(got, "x")+1:]
	}
	plain := high("background:#eee")
	for _, style := range []string{"", "color:red", "vertical-align:super", "text-decoration:underline"} {
		assert.NotEqual(t, plain, high(style), style)
		assert.Equal(t, high(""), high(style), style)
	}
	for _, style := range []string{"margin:0 1px", "position:relative", "outline:1px solid", "opacity:.5",
		"box-shadow:0 0 1px red"} {
		assert.Equal(t, plain, high(style), style)
	}
}
