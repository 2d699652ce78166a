package term

import (
	"math/rand"
	"testing"

	"github.com/stretchr/testify/assert"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/sweep"
)

// lineEnds gives the lines that leave a character; ok is false for letters.
func lineEnds(r rune) (ends [4]int, ok bool) {
	for i, j := range joints {
		if j == r {
			return [4]int{i / 27, i / 9 % 3, i / 3 % 3, i % 3}, true
		}
	}
	return ends, false
}

// loose gives where a line ends in nothing.
func loose(rows []string) (out [][2]int) {
	at := func(x, y int) rune {
		if y < 0 || y >= len(rows) || x < 0 || x >= len([]rune(rows[y])) {
			return ' '
		}
		return []rune(rows[y])[x]
	}
	for y := range rows {
		for x := range []rune(rows[y]) {
			ends, ok := lineEnds(at(x, y))
			if !ok {
				continue
			}
			for d, step := range [4][2]int{{0, -1}, {1, 0}, {0, 1}, {-1, 0}} {
				if ends[d] == 0 {
					continue
				}
				other, line := lineEnds(at(x+step[0], y+step[1]))
				if line && other[(d+2)%4] == 0 {
					out = append(out, [2]int{x, y})
				}
			}
		}
	}
	return out
}

func outlined(part string, x, y, w, h float64) sweep.OutlineBox {
	px := func(v float64) layout.Px { return css.Px(v * 64) }
	return sweep.OutlineBox{Block: "b", Part: part, Rect: layout.Rect{X: px(x), Y: px(y), W: px(w), H: px(h)}}
}

func TestLinesMeet(t *testing.T) {
	assert.Equal(t, []string{
		"┏━b━━━━━━━┯━d━━━━━━━━┓",
		"┃┌─a──┐   │          ┃",
		"┃│    │   │          ┃",
		"┃│[c] │   │          ┃",
		"┃└────┘   │          ┃",
		"┗━━━━━━━━━┷━━━━━━━━━━┛",
	}, Lines(220, 22, []sweep.OutlineBox{outlined("", 0, 0, 220, 120), outlined("d", 100, 0, 120, 120),
		outlined("a", 10, 20, 60, 80), outlined("c", 20, 60, 30, 20)})[:6])
}

// However boxes lie, no line ends in nothing, every corner meets, and as many boxes as rows are drawn.
func TestNoLineEndsInNothing(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	rnd := rand.New(rand.NewSource(7))
	for range 400 {
		boxes := []sweep.OutlineBox{outlined("", 0, 0, 600, 50+rnd.Float64()*800)}
		for range rnd.Intn(12) {
			boxes = append(boxes, outlined("part"[:1+rnd.Intn(4)], rnd.Float64()*600-30, rnd.Float64()*700-20,
				rnd.Float64()*400, rnd.Float64()*300))
		}
		rows := Lines(600, 20+rnd.Intn(100), boxes)
		if bad := loose(rows); !assert.Empty(t, bad) {
			for _, r := range rows {
				t.Log(r)
			}
			return
		}
	}
}

func TestJointsAreWhatTheySay(t *testing.T) {
	for _, c := range []struct {
		lines [4]uint8
		want  rune
	}{{[4]uint8{0, 1, 1, 0}, '┌'}, {[4]uint8{2, 2, 2, 2}, '╋'}, {[4]uint8{1, 0, 1, 0}, '│'}, {[4]uint8{0, 2, 0, 2},
		'━'}, {[4]uint8{0, 2, 1, 2}, '┯'}} {
		assert.Equal(t, string(c.want), string(cell{lines: c.lines}.rune()))
	}
	assert.Len(t, joints, 81)
}
