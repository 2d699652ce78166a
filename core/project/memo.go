package project

import "sync"

// Once works something out when it is first asked for under a key; all who ask later, and meanwhile, get the same
// value. The key has a type of its own and holds all that the value follows from. It is safe for concurrent use.
func Once[T any](e *Project, key any, work func() T) T {
	if e.memo == nil {
		return work()
	}
	known, ok := e.memo.Load(key)
	if !ok {
		known, _ = e.memo.LoadOrStore(key, sync.OnceValue(work))
	}
	return known.(func() T)()
}
