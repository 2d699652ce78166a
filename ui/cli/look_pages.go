package cli

import (
	"errors"
	"fmt"
	"path/filepath"
	"runtime"
	"sync"

	"ziegel/core/address"
	"ziegel/core/check"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/parallel"
	"ziegel/core/store"
	"ziegel/core/sweep"
)

// look checks pages, a few at a time: those that have not changed since they were last checked are known by their
// sources, and nothing of them is read. Mistakes that keep pages from being laid out are told of all pages at once.
func (a *app) look(list []*check.Subject, from, to int) ([]*check.Report, error) {
	w := a.working("looking at every width", len(list)*(to-from+1))
	defer w.end()
	done := a.pass("what is known")
	k := a.keeper(list, from, to)
	reports := make([]*check.Report, len(list))
	errs := make([]error, len(list))
	parallel.Each(runtime.GOMAXPROCS(0), len(list), func(_, i int) bool {
		reports[i] = k.known(list[i])
		return true
	})
	var todo []int
	for i := range list {
		if reports[i] == nil {
			todo = append(todo, i)
			continue
		}
		w.skip(to - from + 1)
	}
	done()
	one := func(i int) {
		s := list[i]
		named := s.Prepared == nil
		done := a.pass("compose and measure")
		errs[i] = s.Prepare()
		if done(); errs[i] != nil {
			return
		}
		w.watch(s.Prepared)
		r := a.kept(s, from, to)
		if r == nil {
			done = a.pass("sweep and rules")
			r = a.run(s, from, to)
			done()
		}
		k.keep(s, r)
		reports[i] = r
		if named && len(list) > 1 { // a thousand pages do not fit into memory at once
			*s = check.Subject{Name: s.Name, Env: s.Env, Past: s.Past}
		}
	}
	k.swept = len(todo) > 0
	parallel.Each(atOnce, len(todo), func(_, n int) bool {
		if n > 0 && w.stopped.Load() {
			return false
		}
		one(todo[n])
		return true
	})
	k.end()
	var problems diag.Problems
	var out []*check.Report
	for i := range list {
		var told diag.Problems
		switch {
		case errors.As(errs[i], &told):
			problems = append(problems, told...)
		case errs[i] != nil:
			return nil, errs[i]
		case reports[i] == nil: // stopped before it
			return out, problems.Sorted().Err()
		default:
			out = append(out, reports[i])
		}
	}
	return out, problems.Sorted().Err()
}

// atOnce is how many pages are looked at at a time: while one is composed, another is swept.
const atOnce = 2

// keeper keeps reports of pages for the next check.
type keeper struct {
	a        *app
	st       store.Store
	from, to int
	sources  *compose.Sources
	seen     store.Seen
	keys     map[string]string // of the pages, made before they are looked at at the same time
	mu       sync.Mutex        // of the marks
	marked   bool
	swept    bool
}

// keeper gives what keeps the reports of some pages; of files and of pages as they once were nothing is kept.
func (a *app) keeper(list []*check.Subject, from, to int) *keeper {
	k := &keeper{a: a, from: from, to: to}
	if s := list[0]; s.Env != nil && !s.Past {
		k.st = storeOf(s.Env)
		k.sources = compose.SourcesOf(s.Env, thisBuild())
		k.seen = store.ReadSeen(seenFile(s.Env.Site.Dir))
		names := make([]string, len(list))
		for i, s := range list {
			names[i] = s.Name
		}
		k.keys = k.sources.Keys(names)
	}
	return k
}

func (k *keeper) key(s *check.Subject) string {
	key := k.keys[s.Name]
	if key == "" {
		return ""
	}
	return fmt.Sprintf("page-%s-%d-%d", key, k.from, k.to)
}

func (k *keeper) known(s *check.Subject) *check.Report {
	key := k.key(s)
	if key == "" || k.a.fresh {
		return nil
	}
	r := check.LoadReport(k.st, key)
	if r != nil && k.whole() {
		k.mark(s)
	}
	return r
}

func (k *keeper) whole() bool { return k.from <= sweep.DefaultFrom && k.to >= sweep.DefaultTo }

// mark notes what a page was when it was checked at every width.
func (k *keeper) mark(s *check.Subject) {
	k.mu.Lock()
	defer k.mu.Unlock()
	if key := k.keys[s.Name]; !k.seen.Knows(s.Name, key) {
		p, err := address.FindPage(s.Env, s.Name)
		if err != nil {
			return
		}
		k.seen.Mark(s.Env, p, key)
		k.marked = true
	}
}

func (k *keeper) keep(s *check.Subject, r *check.Report) {
	if k.sources == nil || s.Page == nil || r.Stopped {
		return
	}
	check.SaveReport(k.st, k.st.Key(s.Env, s.Prepared, s.Page, s.Problems, sweep.Widths{From: k.from, To: k.to}), r)
	if key := k.key(s); key != "" {
		check.SaveReport(k.st, key, r)
	}
	if k.whole() {
		k.mark(s)
	}
}

func (k *keeper) end() {
	if k.marked {
		// a folder that cannot be written is checked all the same
		_ = k.seen.Write(seenFile(filepath.Dir(filepath.Dir(k.st.Dir))))
	}
	if k.swept && k.sources != nil {
		k.st.Trim(store.MostKept)
	}
}
