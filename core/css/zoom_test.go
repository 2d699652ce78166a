package css

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Lengths grow with zoom, and with that of what they stand in; what is inherited grows on its way; percentages stay.
func TestZoom(t *testing.T) {
	for _, c := range []struct {
		around, own          string
		size, width, border  float64 // px of the inner paragraph
		line, spacing, share float64
	}{
		{"", "", 16, 100, 2, 20, 1, 50},
		{"", "zoom: 2", 32, 200, 4, 40, 2, 50},
		{"zoom: 2", "", 32, 200, 4, 40, 2, 50},
		{"zoom: 2", "zoom: 150%", 48, 300, 6, 60, 3, 50},
		{"zoom: 2", "zoom: .5", 16, 100, 2, 20, 1, 50},
		{"", "zoom: normal", 16, 100, 2, 20, 1, 50},
		{"", "zoom: 0", 16, 100, 2, 20, 1, 50},  // as good as nothing
		{"", "zoom: -1", 16, 100, 2, 20, 1, 50}, // no value
		{"--z: 2", "zoom: var(--z)", 32, 200, 4, 40, 2, 50},
		{"zoom: 2", "width: 10em", 32, 320, 4, 40, 2, 50},
		{"zoom: 2", "width: 10rem", 32, 320, 4, 40, 2, 50},
		{"zoom: 2", "width: 10vw", 32, 100, 4, 40, 2, 50},
		{"zoom: 2", "font-size: 2em; width: 1em", 64, 64, 4, 40, 2, 50},
		{"zoom: 2", "font-size: large", 36, 200, 4, 40, 2, 50},
		{"zoom: 2", "border-width: medium", 32, 200, 6, 40, 2, 50},
		{"zoom: 2", "font: inherit; letter-spacing: 3px", 32, 200, 4, 40, 6, 50},
	} {
		d, err := Load(Source{File: "p.html", HTML: "<!doctype html><style>div{line-height:20px;letter-spacing:1px}" +
			"p{width:100px;border:2px solid;padding-left:50%}</style><div style='" + c.around + "'><p style='" + c.own +
			"'>x"})
		require.NoError(t, err)
		s := NewStyler(d)
		for _, width := range []int{500, 600, 500} { // what is kept from one width for the next is zoomed as well
			s.SetMedia(Media{Width: width, Height: 900})
			st := s.Style(d.Root, s.Root(), nil)
			for _, e := range d.Elements[1:] {
				if e.Parent == d.Root || e.Parent == d.Body || e.Parent.Tag == "div" {
					if e == d.Body || e.Tag == "div" || e.Tag == "p" {
						st = s.Style(e, st, nil)
					}
				}
			}
			if width != 500 {
				continue
			}
			name := c.around + " | " + c.own
			assert.InDelta(t, c.size, st.FontSize, 1e-9, "%s: size", name)
			assert.InDelta(t, c.width, st.Width.Px, 1e-9, "%s: width", name)
			assert.InDelta(t, c.border, st.BorderWidth[Top], 1e-9, "%s: border", name)
			assert.InDelta(t, c.line, st.LineHeight.Px, 1e-9, "%s: line", name)
			assert.InDelta(t, c.spacing, st.LetterSpacing, 1e-9, "%s: spacing", name)
			assert.InDelta(t, c.share, st.Padding[Left].Pct, 1e-9, "%s: percent", name)
		}
	}
}
