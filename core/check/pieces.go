package check

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"io"
	"runtime"
	"slices"

	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/parallel"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/store"
	"ziegel/core/sweep"
)

// A page of blocks that stand under each other is checked block by block: what is found in a block does not depend on
// the others, and rules about neighbours need only how each stands in its own box. So the pieces of blocks that have
// not changed are kept by their content, and a change costs the sweep of one block. Where that does not hold
// (something stays on the screen, reaches out of its block, or asks what other blocks say) the page is swept as a
// whole.

// RunKept checks a page of a site as Run does, block by block, taking the blocks that have not changed from the
// store.
func RunKept(st store.Store, s *Subject, from, to int) *Report {
	w := &inPieces{st, s.Env, s.Prepared, from, to}
	if r := w.run(s.Page, s.Problems); r != nil {
		return r
	}
	return Run(s.Prepared, s.Page, s.Problems, from, to)
}

// cuts gives the blocks of a page as pages of their own, nil when they cannot be looked at like that.
func (w *inPieces) cuts() []*compose.Page {
	if !oneByOne(w.l) {
		return nil
	}
	cuts, err := cutUp(w.env, w.l)
	if err != nil || len(cuts) != len(w.l.Blocks) {
		return nil
	}
	return cuts
}

// oneByOne reports a page whose blocks can be looked at one by one.
func oneByOne(l *sweep.Prepared) bool {
	return l.Page != nil && l.Screen == (sweep.Screen{}) && !l.Dark && !usesViewWidth(l.Doc) &&
		!l.Doc.Declares("position", "fixed", "sticky") && !l.Doc.DeclaresIn("vh", 1, "height", "max-height",
		"block-size", "max-block-size") && len(l.Blocks) > 0 && len(dialogs(l)) == 0
}

// StackKept tells how the blocks of a page stack, as a sweep of it does, block by block, taking those that have not
// changed from the store.
func StackKept(st store.Store, s *Subject, from, to int) []sweep.Stacking {
	w := &inPieces{st, s.Env, s.Prepared, from, to}
	if out := w.stack(); out != nil {
		return out
	}
	return s.Prepared.Map(from, to, nil)
}

func (w *inPieces) stack() []sweep.Stacking {
	cuts := w.cuts()
	if cuts == nil {
		return nil
	}
	pieces := w.find(cuts, func(key string) *piece {
		if pc := loadPiece(w.st, key); pc != nil && pc.Alone {
			return pc
		}
		return loadPiece(w.st, "stack-"+key)
	}, func(i int, key string, workers int) *piece {
		one, err := sweep.FromPage(w.env, cuts[i])
		if err != nil {
			return nil
		}
		one.Workers = workers
		pc := &piece{Stacking: one.Map(w.from, w.to, nil)}
		savePiece(w.st, "stack-"+key, pc)
		return pc
	})
	var out []sweep.Stacking
	for _, pc := range pieces {
		if pc == nil {
			return nil
		}
		out = append(out, pc.Stacking...)
	}
	return out
}

// find gives the pieces of a page: those that the store has, and the others made, several at once. Equal ones are made
// once. One that cannot be made is nil, and then others may be, too.
func (w *inPieces) find(cuts []*compose.Page, load func(key string) *piece,
	sweepOne func(i int, key string, workers int) *piece) []*piece {
	shared := w.sharedHash()
	out, keys := make([]*piece, len(cuts)), make([]string, len(cuts))
	first := map[string]int{}
	var todo []int
	for i, b := range w.l.Blocks {
		keys[i] = pieceKey(shared, w.env, b.Name, cuts[i])
		if _, twice := first[keys[i]]; twice {
			continue
		}
		first[keys[i]] = i
		if out[i] = load(keys[i]); out[i] == nil {
			todo = append(todo, i)
		}
	}
	cores := runtime.GOMAXPROCS(0)
	parallel.Each(cores, len(todo), func(_, n int) bool {
		i := todo[n]
		out[i] = sweepOne(i, keys[i], max(1, cores/len(todo)))
		return out[i] != nil
	})
	for i, key := range keys {
		out[i] = out[first[key]]
	}
	return out
}

// run checks the page; nil when it has to be looked at as a whole.
func (w *inPieces) run(p *site.Page, problems diag.Problems) *Report {
	cuts := w.cuts()
	if cuts == nil {
		return nil
	}
	pieces := w.find(cuts, func(key string) *piece { return loadPiece(w.st, key) },
		func(i int, key string, workers int) *piece {
			pc := w.sweep(cuts[i], workers)
			if pc != nil {
				savePiece(w.st, key, pc)
			}
			if pc != nil && !pc.Alone {
				return nil // the whole page is swept: the others need not be made
			}
			return pc
		})
	for _, pc := range pieces {
		if pc == nil || !pc.Alone || len(pc.Widths) != w.to-w.from+1 {
			return nil
		}
	}
	j := &joined{inPieces: w, s: NewScene(w.l), pieces: pieces}
	rep := j.report()
	if rep != nil {
		rep.complete(w.l, p, problems, slices.ContainsFunc(pieces, func(pc *piece) bool { return pc.States }))
	}
	return rep
}

// sharedHash hashes what all pieces of a page depend on.
func (w *inPieces) sharedHash() []byte {
	h := sha256.New()
	fmt.Fprintln(h, w.st.Version, w.from, w.to, w.env.Site.Language, w.env.Site.Ranges)
	for _, f := range w.env.FontsOf(w.l.Page.Blocks) {
		fmt.Fprintln(h, f.Name)
	}
	for _, t := range w.l.Page.Tuned {
		limit := 0.0
		if t.Limit != nil {
			limit = *t.Limit
		}
		fmt.Fprintln(h, t.Rule, t.At, limit)
	}
	if len(w.l.Page.Tuned) > 0 {
		fmt.Fprintln(h, w.l.Name)
	}
	return h.Sum(nil)
}

// pieceKey names one block by its markup, the rules that can reach it and the pictures that it shows. Blocks of
// several pages that look the same have the same key: neither the page's name nor where its links lead changes what a
// sweep finds.
func pieceKey(shared []byte, env *project.Project, block string, page *compose.Page) string {
	h := sha256.New()
	_, _ = h.Write(shared)
	fmt.Fprintln(h, block)
	_, _ = io.WriteString(h, compose.Faceless(env, page))
	for _, m := range page.Media {
		data, err := env.MediaFile(m)
		fmt.Fprintln(h, m, err == nil, len(data))
		_, _ = h.Write(data)
	}
	return "block-" + hex.EncodeToString(h.Sum(nil)[:16])
}
