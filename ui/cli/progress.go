package cli

import (
	"time"

	"github.com/schollz/progressbar/v3"

	"ziegel/core/sweep"
)

// patience is how long work may take before a terminal hears of it.
const patience = 500 * time.Millisecond

// working begins some work of a number of steps.
func (a *app) working(what string, total int) *work {
	w := &work{a: a, what: what, total: total, begun: time.Now()}
	w.stopped.Store(a.interrupted.Load()) // what comes after work that was interrupted is not begun
	a.work.Store(w)
	return w
}

// step counts one step. It answers false when the work is to end.
func (w *work) step() bool {
	n := w.done.Add(1)
	due := (n%16 == 0 || w.total < 200) && w.a.talk.Terminal && !w.a.quiet && time.Since(w.begun) > patience
	if due {
		w.mu.Lock()
		if w.bar == nil {
			w.bar = progressbar.NewOptions(w.total, progressbar.OptionSetWriter(w.a.err),
				progressbar.OptionSetDescription(w.what), progressbar.OptionSetWidth(24),
				progressbar.OptionThrottle(80*time.Millisecond), progressbar.OptionClearOnFinish(),
				progressbar.OptionSetPredictTime(false))
		}
		_ = w.bar.Set(min(int(n), w.total))
		w.mu.Unlock()
	}
	return !w.stopped.Load()
}

// skip counts steps that need no work.
func (w *work) skip(n int) { w.done.Add(int64(n)) }

// end takes the bar off the screen and lets an interrupt end the program again.
func (w *work) end() {
	w.mu.Lock()
	defer w.mu.Unlock()
	if w.ended {
		return
	}
	w.ended = true
	w.a.work.CompareAndSwap(w, nil)
	if w.bar != nil {
		_ = w.bar.Clear()
	}
}

// watch lets work follow the sweeps of some pages.
func (w *work) watch(list ...*sweep.Prepared) {
	for _, l := range list {
		l.Step = w.step
	}
}
