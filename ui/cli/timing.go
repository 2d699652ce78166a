package cli

import (
	"fmt"
	"sync"
	"time"
)

// timing adds up how long the passes of a run take. The zero value measures nothing.
type timing struct {
	on    bool
	begun time.Time
	mu    sync.Mutex
	order []string
	took  map[string]time.Duration
	times map[string]int
}

// pass begins one; the returned function ends it. Passes that run at the same time are added up.
func (a *app) pass(name string) func() {
	t := &a.timing
	if !t.on {
		return func() {}
	}
	start := time.Now()
	return func() {
		t.mu.Lock()
		defer t.mu.Unlock()
		if t.took == nil {
			t.took, t.times = map[string]time.Duration{}, map[string]int{}
		}
		if t.times[name] == 0 {
			t.order = append(t.order, name)
		}
		t.took[name] += time.Since(start)
		t.times[name]++
	}
}

// sayTiming prints one line a pass.
func (a *app) sayTiming() {
	t := &a.timing
	if !t.on {
		return
	}
	for _, n := range t.order {
		fmt.Fprintf(a.err, "%-24s %9.1f ms  %d times\n", n, float64(t.took[n].Microseconds())/1000, t.times[n])
	}
	fmt.Fprintf(a.err, "%-24s %9.1f ms\n", "the whole command", float64(time.Since(t.begun).Microseconds())/1000)
}
