package check

import (
	"bytes"
	"crypto/sha256"
	"encoding/gob"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"io"
	"runtime"
	"slices"
	"strings"
	"sync"
	"sync/atomic"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/explain"
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
func RunKept(st store.Store, env *project.Project, l *sweep.Prepared, p *site.Page, problems diag.Problems, from,
	to int) *Report {
	if r := runPieces(st, env, l, p, problems, from, to); r != nil {
		return r
	}
	return Run(l, p, problems, from, to)
}

// oneByOne reports a page whose blocks can be looked at one by one.
func oneByOne(l *sweep.Prepared) bool {
	return l.Page != nil && l.Screen == (sweep.Screen{}) && !l.Dark && !usesViewWidth(l.Doc) &&
		!l.Doc.Declares("position", "fixed", "sticky") && !l.Doc.DeclaresIn("vh", 1, "height", "max-height",
		"block-size", "max-block-size") && len(l.Blocks) > 0 && len(dialogs(l)) == 0
}

// StackKept tells how the blocks of a page stack, as a sweep of it does, block by block, taking those that have not
// changed from the store.
func StackKept(st store.Store, env *project.Project, l *sweep.Prepared, from, to int) []sweep.Stacking {
	if out := stackPieces(st, env, l, from, to); out != nil {
		return out
	}
	return l.Map(from, to, nil)
}

func stackPieces(st store.Store, env *project.Project, l *sweep.Prepared, from, to int) []sweep.Stacking {
	if !oneByOne(l) {
		return nil
	}
	cuts, err := cutUp(env, l)
	if err != nil || len(cuts) != len(l.Blocks) {
		return nil
	}
	pieces := findPieces(st, env, l, cuts, from, to, func(key string) *piece {
		if pc := loadPiece(st, key); pc != nil && pc.Alone {
			return pc
		}
		return loadPiece(st, "stack-"+key)
	}, func(i int, key string, workers int) *piece {
		one, err := sweep.FromPage(env, cuts[i])
		if err != nil {
			return nil
		}
		one.Workers = workers
		pc := &piece{Stacking: one.Map(from, to, nil)}
		savePiece(st, "stack-"+key, pc)
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

// findPieces gives the pieces of a page: those that the store has, and the others made, several at once. Equal ones
// are made once. One that cannot be made is nil, and then others may be, too.
func findPieces(st store.Store, env *project.Project, l *sweep.Prepared, cuts []*compose.Page, from, to int,
	load func(key string) *piece,
	sweepOne func(i int, key string, workers int) *piece) []*piece {
	shared := sharedHash(st, env, l, from, to)
	out, keys := make([]*piece, len(cuts)), make([]string, len(cuts))
	first := map[string]int{}
	var todo []int
	for i, b := range l.Blocks {
		keys[i] = pieceKey(shared, env, b.Name, cuts[i])
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

func runPieces(st store.Store, env *project.Project, l *sweep.Prepared, p *site.Page, problems diag.Problems, from,
	to int) *Report {
	if !oneByOne(l) {
		return nil
	}
	cuts, err := cutUp(env, l)
	if err != nil || len(cuts) != len(l.Blocks) {
		return nil
	}
	pieces := findPieces(st, env, l, cuts, from, to, func(key string) *piece { return loadPiece(st, key) },
		func(i int, key string, workers int) *piece {
			pc := sweepPiece(env, l, cuts[i], from, to, workers)
			if pc != nil {
				savePiece(st, key, pc)
			}
			if pc != nil && !pc.Alone {
				return nil // the whole page is swept: the others need not be made
			}
			return pc
		})
	for _, pc := range pieces {
		if pc == nil || !pc.Alone || len(pc.Widths) != to-from+1 {
			return nil
		}
	}
	return join(l, p, problems, pieces, from, to)
}

// sweepPiece sweeps one block. It returns nil when the sweep was stopped.
func sweepPiece(env *project.Project, whole *sweep.Prepared, page *compose.Page, from, to, workers int) *piece {
	l, err := sweep.FromPage(env, page)
	if err != nil || len(l.Blocks) != 1 {
		return nil
	}
	l.Workers = workers
	var apart atomic.Bool // other blocks have a say: the whole page is swept anyway
	l.Step = func() bool { return (whole.Step == nil || whole.Step()) && !apart.Load() }
	s := NewScene(l)
	e := l.Blocks[0].Element
	out := &piece{Alone: true, Widths: make([]pieceWidth, to-from+1)}
	lefts := map[*css.Element]int32{}
	var mu sync.Mutex
	hits := map[hitKey][]hitAt{}
	done := 0
	stacks := l.Map(from, to, func(w int, r *layout.Result) {
		var found []hit
		var ids []int
		for i := range rules {
			if rules[i].pass != plainPass || rules[i].strips != nil {
				continue
			}
			for _, h := range rules[i].hits(s, r) {
				found, ids = append(found, h), append(ids, i)
			}
		}
		st, seen := s.stripOf(r, e)
		need, alone := s.alone(r, e)
		mu.Lock()
		defer mu.Unlock()
		done++
		for k, h := range found {
			if e != h.el && !naming.Inside(h.el, e) {
				if rules[ids[k]].name != overflowX.name {
					continue // beside the blocks: told by the whole page
				}
				alone = false
			}
			key := keyOf(ids[k], h)
			hits[key] = append(hits[key], hitAt{w, h})
			switch rules[ids[k]].name {
			// other blocks have a say
			case hiddenContent.name, navigationGone.name, barRows.name, smallTarget.name, stickyCovers.name,
				overflowX.name:
				alone = false
			}
		}
		if out.Alone = out.Alone && alone; !out.Alone {
			apart.Store(true)
		}
		box := r.Of(e)
		if box == nil {
			return
		}
		pw := pieceWidth{Seen: seen, Need: need, H: box.H, LeftOf: -1, Ground: st.ground}
		if seen {
			pw.Top, pw.Bottom, pw.Opens, pw.Closes, pw.LineUp, pw.LineAt = st.top-st.y, st.bottom-st.y, st.opens,
				st.closes, st.lineUp, st.lineAt
			if st.leftText != nil {
				i, ok := lefts[st.leftText]
				if !ok {
					i = int32(len(out.Lefts))
					lefts[st.leftText] = i
					out.Lefts = append(out.Lefts, within(e, st.leftText))
				}
				pw.Left, pw.LeftOf = st.left, i
			}
		}
		out.Widths[w-from] = pw
	})
	switch {
	case !out.Alone:
		return &piece{}
	case done < to-from+1:
		return nil
	}
	out.Stacking = stacks
	found := lookInStates(l, func(s *Scene, r *layout.Result) {
		_, alone := s.alone(r, s.l.Blocks[0].Element)
		out.States = out.States || !alone
	})
	out.States = out.States || len(found) > 0
	engine := l.Engine()
	for k, list := range hits {
		second := ""
		if k.other != nil && naming.Inside(k.other, e) {
			second = within(e, k.other)
		}
		for _, f := range spans(s, engine, rules[k.rule], list) {
			pf := pieceFinding{Finding: f, Blame: f.worst.cause, Inside: within(e, k.el), Other: f.OtherPart,
				Second: second}
			if b := f.worst.blamed; b != nil {
				pf.Blamed = within(e, b)
			}
			out.Findings = append(out.Findings, pf)
		}
	}
	return out
}

// within gives the path of an element from the one around it.
func within(around, e *css.Element) string { return strings.TrimPrefix(e.Path(), around.Path()) }

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

// join puts the pieces of a page together. It returns nil when the page does not stand as they say.
func join(l *sweep.Prepared, p *site.Page, problems diag.Problems, pieces []*piece, from, to int) *Report {
	s := NewScene(l)
	rep := &Report{Page: l.Name, From: from, To: to}
	elements := map[string]*css.Element{}
	for _, e := range l.Doc.Elements {
		elements[e.Path()] = e
	}
	lefts := make([][]*css.Element, len(pieces))
	for i, pc := range pieces {
		rep.Blocks = append(rep.Blocks, pc.Stacking...)
		for _, path := range pc.Lefts {
			e := elements[l.Blocks[i].Element.Path()+path]
			if e == nil {
				return nil
			}
			lefts[i] = append(lefts[i], e)
		}
	}
	hits := map[hitKey][]hitAt{}
	heights := make([][]layout.Px, to-from+1)
	strips := func(w int) ([]strip, layout.Px) {
		var list []strip
		y := layout.Px(0)
		for i, pc := range pieces {
			pw := &pc.Widths[w-from]
			if pw.Seen {
				st := strip{el: l.Blocks[i].Element, y: y, end: y + pw.H, top: y + pw.Top, bottom: y + pw.Bottom,
					opens: pw.Opens, closes: pw.Closes, ground: pw.Ground, lineUp: pw.LineUp, lineAt: pw.LineAt}
				if pw.LeftOf >= 0 {
					st.left, st.leftText = pw.Left, lefts[i][pw.LeftOf]
				}
				list = append(list, st)
			}
			y += pw.H
		}
		return list, y
	}
	for w := from; w <= to; w++ {
		for i := 1; i < len(pieces); i++ {
			if above := &pieces[i-1].Widths[w-from]; pieces[i].Widths[w-from].Need > 0 &&
				(!above.Seen || above.H-above.Bottom < pieces[i].Widths[w-from].Need) {
				return nil // what stands above the block decides
			}
		}
		list, bottom := strips(w)
		row := []layout.Px{max(bottom, 900*64)}
		for _, pc := range pieces {
			row = append(row, pc.Widths[w-from].H)
		}
		heights[w-from] = row
		for i := range rules {
			if rules[i].strips != nil {
				for _, h := range rules[i].strips(s, list) {
					k := hitKey{i, h.el, h.other}
					hits[k] = append(hits[k], hitAt{w, h})
				}
			}
		}
	}
	engine := l.Engine()
	for _, w := range []int{min(max(from, 1280), to), from, (from + to) / 2, to} { // the whole page has the last word
		r := engine.Layout(w)
		want, _ := strips(w)
		got := s.findStrips(r)
		if len(got) != len(want) || r.Height != heights[w-from][0] {
			return nil
		}
		for i := range got {
			got[i].above = false
			if got[i] != want[i] {
				return nil
			}
		}
		for i := range rules {
			if rules[i].pass != plainPass || rules[i].strips != nil {
				continue
			}
			for _, h := range rules[i].hits(s, r) {
				if naming.BlockOf(l, h.el) == nil {
					return nil // beside the blocks
				}
			}
		}
	}
	for k, list := range hits {
		rep.Findings = append(rep.Findings, spans(s, engine, rules[k.rule], list)...)
	}
	for i, pc := range pieces {
		for _, pf := range pc.Findings {
			e := elements[l.Blocks[i].Element.Path()+pf.Inside]
			if e == nil {
				return nil
			}
			f := pf.Finding
			at := engine.Layout(max(f.From, from))
			f.Path = e.Path()
			blamed := elements[l.Blocks[i].Element.Path()+pf.Blamed]
			if pf.Blamed == "" {
				blamed = e
			}
			f.Cause = cause(l, at, hit{el: e, blamed: blamed, cause: pf.Blame})
			var other *css.Element
			if pf.Second != "" {
				other = elements[l.Blocks[i].Element.Path()+pf.Second]
			}
			if r := ruleNamed(f.Rule); r != nil {
				f.Why = explain.Why(l, at, r.axis, e, other)
			}
			f.Around, f.OtherPart = naming.PartsAround(e, f.Part), pf.Other
			rep.Findings = append(rep.Findings, f)
		}
	}
	rep.Findings = append(rep.Findings, s.jumps(from, heights)...)
	rep.Findings = append(rep.Findings, s.missingLetters(engine.Layout(min(max(from, 1280), to)))...)
	rep.complete(l, p, problems, slices.ContainsFunc(pieces, func(pc *piece) bool { return pc.States }))
	return rep
}

// sharedHash hashes what all pieces of a page depend on.
func sharedHash(st store.Store, env *project.Project, l *sweep.Prepared, from, to int) []byte {
	h := sha256.New()
	fmt.Fprintln(h, st.Version, from, to, env.Site.Language, env.Site.Ranges)
	for _, f := range env.FontsOf(l.Page.Blocks) {
		fmt.Fprintln(h, f.Name)
	}
	for _, t := range l.Page.Tuned {
		limit := 0.0
		if t.Limit != nil {
			limit = *t.Limit
		}
		fmt.Fprintln(h, t.Rule, t.At, limit)
	}
	if len(l.Page.Tuned) > 0 {
		fmt.Fprintln(h, l.Name)
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

// loadPiece gives a piece that was kept, nil when there is none.
func loadPiece(st store.Store, key string) *piece {
	data, ok := st.Read(key + ".piece")
	p := &piece{}
	if !ok || gob.NewDecoder(bytes.NewReader(data)).Decode(p) != nil {
		return nil
	}
	return p
}

func savePiece(st store.Store, key string, p *piece) {
	var out bytes.Buffer
	if st.Dir == "" || gob.NewEncoder(&out).Encode(p) != nil {
		return
	}
	st.Write(key+".piece", out.Bytes())
}

// LoadReport gives a report that was kept, nil when there is none.
func LoadReport(st store.Store, key string) *Report {
	data, ok := st.Read(key + ".json")
	r := &Report{}
	if !ok || json.Unmarshal(data, r) != nil || r.Page == "" {
		return nil
	}
	return r
}

// SaveReport keeps a report, unless its sweep was stopped.
func SaveReport(st store.Store, key string, r *Report) {
	if r.Stopped {
		return
	}
	if data, err := json.Marshal(r); err == nil {
		st.Write(key+".json", data)
	}
}
