package draw_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"ziegel/core/draw"
)

func TestIslands(t *testing.T) {
	grid := "" +
		"#..#...." +
		".#......" +
		"......##"
	marked := func(k int) bool { return grid[k] == '#' }
	assert.Equal(t, [][]int{{0, 9}, {3}, {22, 23}}, draw.Islands(8, 3, 1, marked))
	assert.Len(t, draw.Islands(8, 3, 3, marked), 2, "what lies further apart across belongs together, too")
	assert.Empty(t, draw.Islands(8, 3, 1, func(int) bool { return false }))
}
