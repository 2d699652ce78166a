package parallel_test

import (
	"sync"
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/parallel"
)

func TestEachPieceIsDoneOnce(t *testing.T) {
	for _, workers := range []int{1, 3, 50} {
		var mu sync.Mutex
		seen, busy := map[int]int{}, map[int]bool{}
		parallel.Each(workers, 40, func(w, i int) bool {
			mu.Lock()
			assert.False(t, busy[w], "a worker does one piece at a time")
			busy[w] = true
			seen[i]++
			mu.Unlock()
			defer func() { mu.Lock(); busy[w] = false; mu.Unlock() }()
			return true
		})
		require.Len(t, seen, 40)
		for i, n := range seen {
			assert.Equal(t, 1, n, i)
		}
		assert.LessOrEqual(t, len(busy), workers)
	}
	parallel.Each(4, 0, func(int, int) bool { t.Fatal("there is nothing to do"); return true })
}

func TestNothingIsBegunAfterAStop(t *testing.T) {
	var done atomic.Int64
	parallel.Each(1, 100, func(_, i int) bool { done.Add(1); return i < 4 })
	assert.EqualValues(t, 5, done.Load())
}

func TestAPanicReachesTheCaller(t *testing.T) {
	var ended atomic.Int64
	defer func() {
		p, ok := recover().(*parallel.Panic)
		require.True(t, ok)
		assert.Equal(t, "inside", p.Error())
		assert.Contains(t, string(p.Stack), "TestAPanicReachesTheCaller")
		assert.Less(t, ended.Load(), int64(1000), "the others stop")
	}()
	parallel.Each(2, 1000, func(_, outer int) bool {
		if outer == 3 {
			parallel.Each(2, 2, func(_, i int) bool { panic("inside") })
		}
		ended.Add(1)
		return true
	})
	t.Fatal("the panic is gone")
}
