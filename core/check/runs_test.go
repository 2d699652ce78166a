package check

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"ziegel/core/layout"
)

// Runs say what a list of all hits would say, in whatever order workers see rows of widths.
func TestRunsSayWhatAllHitsSay(t *testing.T) {
	for seed := range uint64(300) {
		r := rand.New(rand.NewPCG(seed, 1))
		const from, rows, wide = 320, 12, 32
		amounts := map[int][]layout.Px{} // the hits of each width
		for w := from; w < from+rows*wide; w++ {
			for range max(0, r.IntN(9)-2) / 3 {
				amounts[w] = append(amounts[w], layout.Px(r.IntN(6)))
			}
		}
		var want runs
		for w := from; w < from+rows*wide; w++ {
			for i, a := range amounts[w] {
				switch last := len(want) - 1; {
				case i == 0 && (last < 0 || want[last].to < w-1):
					want = append(want, run{w, w, hit{amount: a}, w})
				default:
					want[last].to = w
					if a > want[last].worst.amount {
						want[last].worst, want[last].at = hit{amount: a}, w
					}
				}
			}
		}
		// some workers, each with rows of its own, take turns at single widths
		var got runs
		workers := make([][]int, 1+r.IntN(8))
		for row := range rows {
			k := row % len(workers)
			for w := range wide {
				workers[k] = append(workers[k], from+row*wide+w)
			}
		}
		for left := rows * wide; left > 0; {
			k := r.IntN(len(workers))
			if len(workers[k]) == 0 {
				continue
			}
			w := workers[k][0]
			workers[k], left = workers[k][1:], left-1
			for _, a := range amounts[w] {
				got.add(w, hit{amount: a})
			}
		}
		assert.Equal(t, want, got.joined(), "seed %d", seed)
	}
}

func TestTheEdgeThatMostShare(t *testing.T) {
	for _, tt := range []struct {
		edges []layout.Px
		best  layout.Px
		votes int
	}{
		{nil, 0, 0},
		{[]layout.Px{640}, 640, 1},
		{[]layout.Px{100, 640, 640, 100}, 100, 2}, // of as many, the first
		{[]layout.Px{640, 672, 704, 0}, 672, 3},   // half a pixel to each side
		{[]layout.Px{640, 673, 706, 0}, 640, 1},   // a 64th more
		{[]layout.Px{-64, 0, -64, 64, -64}, -64, 3},
	} {
		best, votes := mostShared(tt.edges)
		assert.Equal(t, tt.best, best, "%v", tt.edges)
		assert.Equal(t, tt.votes, votes, "%v", tt.edges)
	}
}
