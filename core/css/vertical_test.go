package css

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Sides of an element count in the way of the lines around it: as if they stood below each other.
func TestSidesWhereLinesStandSideBySide(t *testing.T) {
	for _, c := range []struct {
		around, own string
		margin      [4]float64 // top, right, bottom, left of the inner paragraph, in its own coordinates
	}{
		{"", "margin: 1px 2px 3px 4px", [4]float64{1, 2, 3, 4}},
		{"writing-mode: vertical-rl", "margin: 1px 2px 3px 4px", [4]float64{2, 3, 4, 1}},
		{"writing-mode: vertical-lr", "margin: 1px 2px 3px 4px", [4]float64{4, 3, 2, 1}},
		{"writing-mode: sideways-lr", "margin: 1px 2px 3px 4px", [4]float64{4, 1, 2, 3}},
		{"writing-mode: vertical-rl", "margin-block: 1px 2px; margin-inline: 3px 4px", [4]float64{1, 4, 2, 3}},
		{"writing-mode: vertical-lr", "margin-block: 1px 2px; margin-inline: 3px 4px", [4]float64{1, 4, 2, 3}},
		{"writing-mode: sideways-lr", "margin-block: 1px 2px; margin-inline: 3px 4px", [4]float64{1, 4, 2, 3}},
		{"writing-mode: tb-rl", "margin-block: 1px 2px; margin-inline: 3px 4px", [4]float64{1, 4, 2, 3}},
		// the later one wins
		{"writing-mode: vertical-rl", "margin-top: 9px; margin-inline-start: 3px; margin-block: 0",
			[4]float64{0, 0, 0, 3}},
		// the browser's own
		{"writing-mode: vertical-rl", "", [4]float64{16, 0, 16, 0}},
		// outside it stands in rows
		{"", "writing-mode: vertical-rl; margin-block: 1px 2px; margin-inline: 3px 4px", [4]float64{3, 1, 4, 2}},
	} {
		d, err := Load(Source{File: "p.html", HTML: "<!doctype html><div style='" + c.around + "'><p id=x style='" +
			c.own + "'>x"})
		require.NoError(t, err)
		s := NewStyler(d)
		s.SetMedia(Media{Width: 500, Height: 900})
		st := s.Style(d.Root, s.Root(), nil)
		var found *Style
		var walk func(e *Element, st *Style)
		walk = func(e *Element, st *Style) {
			for _, k := range e.Kids() {
				ks := s.Style(k, st, nil)
				if k.ID == "x" {
					found = ks
				}
				walk(k, ks)
			}
		}
		walk(d.Root, st)
		var got [4]float64
		for i := range got {
			got[i] = found.Margin[i].Px
		}
		assert.Equal(t, c.margin, got, "%s | %s", c.around, c.own)
		assert.Empty(t, d.Unsupported)
	}
	d, err := Load(Source{File: "p.html", HTML: "<style>html{writing-mode:vertical-rl}</style><p>x"})
	require.NoError(t, err)
	require.Len(t, d.Unsupported, 1, "of a whole page it is told")
	assert.Equal(t, "vertical-rl on html", d.Unsupported[0].Value)
}
