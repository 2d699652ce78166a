package draw_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/draw"
	"ziegel/core/layout"
	"ziegel/internal/testsite"
	"ziegel/stock"
)

// Distances are those between boxes that stand beside or below one another, and from the edges of the block to its
// parts.
func TestDistancesAreMeasured(t *testing.T) {
	l, _ := testsite.HTML(t, `<section id=b style="width:400px;padding:30px 20px 50px">
<div data-part=row style="display:flex;gap:24px"><div data-part=card style="width:100px;height:60px"></div><div data-part=card style="width:80px;height:40px"></div></div>
<div data-part=foot style="margin-top:16px;height:20px;width:200px"></div></section>`)
	shot, err := draw.Of(l, 800, draw.Target{}, draw.Look{})
	require.NoError(t, err)
	section := shot.Page.Blocks[0].Element
	list := draw.Distances(shot, section)
	var got []string
	for _, d := range list {
		kind := "across"
		if d.X0 == d.X1 {
			kind = "down"
		}
		got = append(got, fmt.Sprintf("%s %.0f", kind, d.Px))
	}
	assert.ElementsMatch(t, []string{"down 30", "across 20", "across 24", "down 16", "down 50"}, got)
	fonts, err := draw.SheetFonts(stock.Files)
	require.NoError(t, err)
	drawn := draw.Measured(shot, list, layout.Options{Fonts: fonts})
	assert.Len(t, drawn.List.Items, len(shot.List.Items)+len(list)*4, "a line, two strokes and a number each")
	assert.Equal(t, shot.Area, drawn.Area)
}

// Every stop of the tab key has one number, what cannot be reached has none.
func TestTheTabOrderIsNumbered(t *testing.T) {
	l, _ := testsite.HTML(
		t,
		`<section><a href="#x">A</a><button disabled>no</button><p>text</p><button>B</button><input type=hidden><a>no</a><input></section>`,
	)
	shot, err := draw.Of(l, 800, draw.Target{}, draw.Look{})
	require.NoError(t, err)
	fonts, err := draw.SheetFonts(stock.Files)
	require.NoError(t, err)
	drawn, n := draw.TabOrder(l, shot, layout.Options{Fonts: fonts})
	assert.Equal(t, 3, n)
	assert.Len(t, drawn.List.Items, len(shot.List.Items)+3+3+2, "frames, numbers, and lines between them")
}
