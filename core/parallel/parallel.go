// Package parallel does independent pieces of work on several cores. A panic in one of them ends the caller, not the
// program: it is raised again where Each was called, when all others have ended.
package parallel

import (
	"fmt"
	"runtime/debug"
	"sync"
	"sync/atomic"
)

// Panic is what a piece of work panicked with.
type Panic struct {
	Value any
	Stack []byte // of the goroutine that panicked
}

func (p *Panic) Error() string { return fmt.Sprint(p.Value) }

// Each calls do with 0 to n-1, each once, from several goroutines at once, in about this order. worker tells them
// apart: each worker does one piece after the other. When do returns false nothing more is begun.
func Each(workers, n int, do func(worker, i int) (goOn bool)) {
	var next atomic.Int64
	var failed atomic.Pointer[Panic]
	var wg sync.WaitGroup
	for w := range min(workers, n) {
		wg.Go(func() {
			defer func() {
				if v := recover(); v != nil {
					p, ok := v.(*Panic)
					if !ok {
						p = &Panic{v, debug.Stack()}
					}
					failed.CompareAndSwap(nil, p)
					next.Store(int64(n))
				}
			}()
			for {
				i := int(next.Add(1)) - 1
				if i >= n {
					return
				}
				if !do(w, i) {
					next.Store(int64(n))
					return
				}
			}
		})
	}
	wg.Wait()
	if p := failed.Load(); p != nil {
		panic(p)
	}
}
