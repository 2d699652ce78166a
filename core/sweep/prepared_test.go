package sweep_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/layout"
	"ziegel/core/sweep"
	"ziegel/internal/testsite"
)

// The same page in a state, on another screen or standing still is another value: the page itself stays as it was.
func TestPagesInStatesAndOnOtherScreens(t *testing.T) {
	l, x := testsite.HTML(t,
		`<style>#x{width:100px;transform:scale(2)}#x:hover{width:200px}#y{height:50vh;width:9px}</style><p id=x>a</p><p id=y></p>`)
	at := func(l *sweep.Prepared, i int) layout.Rect {
		return l.Engine().Layout(800).Of(l.Doc.Elements[i]).Rect
	}
	y := x.Index + 1
	assert.Equal(t, layout.Px(200*64), at(l, x.Index).W, "scaled")
	hovered, err := l.In("hover")
	require.NoError(t, err)
	assert.Equal(t, layout.Px(400*64), at(hovered, x.Index).W)
	still, err := l.Still("hover")
	require.NoError(t, err)
	assert.Equal(t, layout.Px(200*64), at(still, x.Index).W, "without its transform")
	assert.Equal(t, layout.Px(450*64), at(l, y).H)
	assert.Equal(t, layout.Px(150*64), at(l.With(sweep.Screen{Height: 300}), y).H)
	assert.Equal(t, layout.Px(785*64), at(l.With(sweep.Screen{Scrollbar: 15}), 0).W)
	assert.Equal(t, layout.Px(200*64), at(l, x.Index).W)
}

// A declaration is traced to where the designer wrote it: the site's files, a shipped section, the built sheet.
func TestDeclarationsAreTraced(t *testing.T) {
	l := testsite.Swept(t, testsite.With(t, testsite.Plans+"      card:\n        padding: 9px\n"))
	r := l.Engine().Layout(900)
	origin := func(part, property string) string {
		for i := range r.Boxes {
			p := &r.Boxes[i]
			if p.Element.Attr("data-part") == part {
				pos, ok := l.Origin(p.Element, p.Style, property)
				if !ok {
					return "nobody"
				}
				return pos.String()
			}
		}
		return "no part " + part
	}
	source := l.Page.Blocks[0].File.Source
	line := strings.Count(source[:strings.Index(source, "padding: 9px")], "\n") + 1
	assert.Regexp(t, `^pages/home\.yaml:`+string(rune('0'+line%10))+`:9$`, origin("card", "padding-top"))
	assert.Regexp(t, `^shipped:sections/pricing/plans/section\.css:\d+:\d+$`, origin("card", "display"))
	assert.Equal(t, "nobody", origin("card", "float"))
	assert.Nil(t, l.Block("none"))
	assert.Equal(t, "pricing/plans", l.Block("plans").Section)
}

// Files of a page are found by their addresses on it.
func TestPicturesOfAPage(t *testing.T) {
	l := testsite.Swept(t, testsite.Demo(t))
	require.NotEmpty(t, l.Page.Media)
	name := "media/" + l.Page.Media[0]
	w, h, ok := l.Picture(name)
	require.True(t, ok, name)
	assert.Positive(t, w*h)
	data, ok := l.File(name)
	require.True(t, ok)
	assert.NotEmpty(t, data)
	w, h, ok = l.Picture("media/none.png")
	assert.True(t, ok, "one that is not there yet takes the room of a usual one")
	assert.InDelta(t, 4/3.0, w/h, 1e-9)
	_, _, ok = l.Picture("https://elsewhere.example/none.png")
	assert.False(t, ok)
	_, ok = l.File("media/none.png")
	assert.False(t, ok)
	style := l.Engine().Layout(900).Boxes[0].Style
	require.NotEmpty(t, l.Faces(style))
}

func TestOutlinesNameBlocksAndParts(t *testing.T) {
	l := testsite.Swept(t, testsite.With(t, testsite.Plans))
	r := l.Engine().Layout(900)
	list := l.Outline(r)
	require.NotEmpty(t, list)
	assert.Equal(t, "plans", list[0].Block)
	assert.Empty(t, list[0].Part, "the block first")
	cards := 0
	for _, b := range list {
		assert.False(t, b.Empty())
		if b.Part == "card" {
			cards++
			assert.GreaterOrEqual(t, b.X, list[0].X)
			assert.LessOrEqual(t, b.Right(), list[0].Right())
		}
	}
	assert.Equal(t, 3, cards)
	foreign, _ := testsite.HTML(t,
		`<section class="a b"><h2>Words</h2><div><p>deep<b>deeper<i>deepest</i></b></p></div></section>`)
	var parts []string
	for _, b := range foreign.Outline(foreign.Engine().Layout(900)) {
		parts = append(parts, b.Part)
	}
	assert.Contains(t, parts, "h2")
	assert.NotContains(t, parts, "i", "three levels are drawn of pages by other hands")
}

// Where pictures are drawn follows object-fit and the focus (CSS Images 3, sections 5.5 and 5.6).
func TestWhereAPictureIsDrawn(t *testing.T) {
	box := layout.Rect{X: 10 * 64, Y: 20 * 64, W: 200 * 64, H: 100 * 64}
	for _, tt := range []struct {
		w, h  float64
		fit   string
		focus [2]float64
		want  [4]float64
	}{
		{100, 100, "cover", [2]float64{.5, .5}, [4]float64{10, -30, 200, 200}},
		{100, 100, "cover", [2]float64{.5, 1}, [4]float64{10, -80, 200, 200}},
		{100, 100, "contain", [2]float64{.5, .5}, [4]float64{60, 20, 100, 100}},
		{100, 100, "fill", [2]float64{.5, .5}, [4]float64{10, 20, 200, 100}},
		{50, 50, "scale-down", [2]float64{0, 0}, [4]float64{10, 20, 50, 50}},
		{400, 400, "scale-down", [2]float64{1, 0}, [4]float64{110, 20, 100, 100}},
		{400, 100, "none", [2]float64{.25, 0}, [4]float64{-40, 20, 400, 100}},
	} {
		assert.Equal(t, tt.want, sweep.Drawn(box, tt.w, tt.h, tt.fit, tt.focus), "%s %v", tt.fit, tt.focus)
	}
	x0, y0, x1, y1 := sweep.CellsUnder(layout.Rect{X: 60 * 64, Y: 20 * 64, W: 49 * 64, H: 10 * 64},
		[4]float64{10, 20, 200, 100}, 4, 10)
	assert.Equal(t, []int{1, 0, 2, 2}, []int{x0, y0, x1, y1})
	x0, _, x1, _ = sweep.CellsUnder(layout.Rect{X: -90 * 64, W: 900 * 64, H: 64}, [4]float64{10, 20, 200, 100}, 4, 10)
	assert.Equal(t, []int{0, 4}, []int{x0, x1}, "no further than the picture goes")
}
