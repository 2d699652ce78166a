package check

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"io"
	"runtime"
	"slices"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/layout"
	"ziegel/core/naming"
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

// piece is what a sweep of one block alone tells.
type piece struct {
	Alone    bool             // what is found in it does not depend on other blocks
	Stacking []sweep.Stacking // of the block and of what it holds
	Findings []pieceFinding
	Widths   []pieceWidth
	// something is wrong with it in a state, or it reaches out of its box there: the page is looked at in all states
	States bool
	Lefts  []string // paths inside the block that Left speaks of
}

// pieceFinding is a finding with what is asked again of the whole page.
type pieceFinding struct {
	Finding Finding
	Blame   string // property
	Blamed  string // path of the element that has it from the block on, "" for the finding's own
	Inside  string // path of the element from the block on
	Other   string // part of a second element
	Second  string // path of that from the block on, "" for none or one elsewhere
}

// pieceWidth is how a block stands at one width, from its upper edge, 1/64 px.
type pieceWidth struct {
	Seen                          bool
	H, Top, Bottom, Left          layout.Px
	Need                          layout.Px // free space above it at which it can be looked at alone
	LeftOf                        int32     // index in Lefts, -1 for none
	Ground                        css.Color
	Opens, Closes, LineUp, LineAt bool
}

// RunKept checks a page of a site as Run does, block by block, taking the blocks that have not changed from the
// store.
func RunKept(st store.Store, s *Subject, from, to int) *Report {
	w := &inPieces{st, s.Env, s.Prepared, from, to}
	if r := w.run(s.Page, s.Problems); r != nil {
		return r
	}
	return Run(s.Prepared, s.Page, s.Problems, from, to)
}

// inPieces looks at a page block by block.
type inPieces struct {
	st       store.Store
	env      *project.Project
	l        *sweep.Prepared
	from, to int
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

// alone reports whether all that is seen of a block stands in its box. need is the free space above it at which that
// holds, and at which no heading that begins it is adrift.
func (s *Scene) alone(r *layout.Result, e *css.Element) (need layout.Px, ok bool) {
	box := r.Of(e)
	if box == nil || box.Above {
		return 0, false
	}
	for _, p := range s.sight(r).layers {
		if naming.Inside(p.p.Element, e) && (p.at.Y < box.Y-64 || p.at.Bottom() > box.Bottom()+64) {
			return 0, false
		}
	}
	for i := r.ByIndex[e.Index]; i < len(r.Boxes) && r.Boxes[i].Element.Index < s.end[e.Index]; i++ {
		p := &r.Boxes[i]
		if over := box.Y - p.Text.Y; p.Lines > 0 && shown(p) && over > 64 && over <= reachUp {
			// a tight line height: nothing is painted there but letters, over what is above
			need = max(need, over+clearOf)
		} else if p.Lines > 0 && shown(p) && over > reachUp {
			return 0, false
		}
		if p.Lines > 0 && shown(p) && p.Text.Bottom() > box.Bottom()+64 ||
			naming.IsPicture(p.Element) && !p.Empty() && (p.Y < box.Y-64 || p.Bottom() > box.Bottom()+64) {
			return 0, false
		}
		if s.kind[p.Element.Index] != headingKind || !shown(p) || p.Above || p.Element.Parent == nil {
			continue
		}
		if below := s.nextText(r, p); below != nil && s.lastAbove(r, i) == nil {
			need = max(need, below.Text.Y-p.Text.Bottom()-(p.Text.Y-box.Y)-4*64)
		}
	}
	return need, true
}

// How far text may reach out of the top of its block that is still looked at alone, and how far from it the words
// above have to end.
const reachUp, clearOf = layout.Px(8 * 64), layout.Px(16 * 64)

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
