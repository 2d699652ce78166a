package term

import (
	"bytes"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"ziegel/core/layout"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

var blocks = []sweep.Stacking{{Name: "plans", Arrangements: []sweep.Span{{From: 240, To: 863, As: "1+1+1"},
	{From: 864, To: 2560, As: "3"}}},
	{Name: "foot", Arrangements: []sweep.Span{{From: 240, To: 2560, As: "2"}}}}

func TestTheMapIsPlainWithoutATerminal(t *testing.T) {
	var out bytes.Buffer
	Map(&out, NewStyle(&out, ""), sweep.Widths{From: 240, To: 2560}, site.DefaultRanges, blocks)
	assert.Equal(t, "plans\t240..863\t1+1+1\nplans\t864..2560\t3\nfoot\t240..2560\t2\n", out.String())
}

func TestTheMapStandsUnderOneRuler(t *testing.T) {
	var out bytes.Buffer
	s := NewStyle(&out, "never")
	s.Terminal, s.Width = true, 100
	Map(&out, s, sweep.Widths{From: 240, To: 2560}, site.DefaultRanges, blocks)
	lines := strings.Split(out.String(), "\n")
	assert.Contains(t, lines[0], "╷phone")
	assert.Contains(t, lines[1], "240")
	column := func(line, mark string) int { return len([]rune(line[:strings.Index(line, mark)])) }
	assert.Equal(t, column(lines[2], "┃━ 1+1+1"), column(lines[4], "┃━ 2"), "all bars begin at one column")
	assert.Contains(t, lines[3], "1+1+1 to 863, 3 from 864")
	assert.NotContains(t, out.String(), "\x1b", "no color when it is not wanted")
}

func TestTheOutlineIsToScale(t *testing.T) {
	box := func(block, part string, x, y, w, h int) sweep.OutlineBox {
		return sweep.OutlineBox{Block: block, Part: part, Rect: layout.Rect{X: layout.Px(x * 64),
			Y: layout.Px(y * 64), W: layout.Px(w * 64), H: layout.Px(h * 64)}}
	}
	var out bytes.Buffer
	s := NewStyle(&out, "never")
	s.Terminal, s.Width = true, 42
	Outline(&out, s, 400, []sweep.OutlineBox{box("plans", "", 0, 0, 400, 200), box("plans", "card", 20, 40, 180, 120),
		box("plans", "card", 200, 40, 180, 120)})
	lines := strings.Split(strings.TrimSpace(out.String()), "\n")
	assert.Equal(t, "400 px wide; one column is 10 px, one row 20 px", lines[0])
	assert.Contains(t, lines[1], "plans")
	assert.Equal(t, 2, strings.Count(lines[3], "card"))
	assert.Len(t, lines, 11)
}

func TestLongLinesBreakBetweenWords(t *testing.T) {
	s := Style{Terminal: true, Width: 30}
	assert.Equal(t, "error: home/plans at\n   240..392: the price reaches\n   149 px past the\n   [screen-edge]",
		s.Wrap("error: home/plans at 240..392: the price reaches 149 px past the [screen-edge]", 3))
	assert.Equal(t, "a price stands low\n   [off-one-line]", s.Wrap("a price stands low [off-one-line]", 3))
	assert.Equal(t, "a word and another one", Style{Width: 5}.Wrap("a word and another one", 3), "no terminal")
}
