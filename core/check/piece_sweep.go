package check

import (
	"strings"
	"sync"
	"sync/atomic"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/naming"
	"ziegel/core/sweep"
)

// pieceSweep is the sweep of one block by itself.
type pieceSweep struct {
	from, to int
	s        *Scene
	e        *css.Element // the block
	out      *piece
	apart    atomic.Bool // other blocks have a say: the whole page is swept anyway
	mu       sync.Mutex
	done     int
	hits     hits
	lefts    map[*css.Element]int32
}

// sweep sweeps one block. It returns nil when the sweep was stopped.
func (w *inPieces) sweep(page *compose.Page, workers int) *piece {
	l, err := sweep.FromPage(w.env, page)
	if err != nil || len(l.Blocks) != 1 {
		return nil
	}
	l.Workers = workers
	sw := &pieceSweep{from: w.from, to: w.to, s: NewScene(l), e: l.Blocks[0].Element,
		hits: hits{}, lefts: map[*css.Element]int32{},
		out: &piece{Alone: true, Widths: make([]pieceWidth, w.to-w.from+1)}}
	l.Step = func() bool { return (w.l.Step == nil || w.l.Step()) && !sw.apart.Load() }
	stacks := l.Map(w.from, w.to, sw.look)
	switch {
	case !sw.out.Alone:
		return &piece{}
	case sw.done < w.to-w.from+1:
		return nil
	}
	sw.out.Stacking = stacks
	found := lookInStates(l, func(s *Scene, r *layout.Result) {
		_, alone := s.alone(r, s.l.Blocks[0].Element)
		sw.out.States = sw.out.States || !alone
	})
	sw.out.States = sw.out.States || len(found) > 0
	sw.findings(l)
	return sw.out
}

// look takes in one width.
func (sw *pieceSweep) look(w int, r *layout.Result) {
	var found []hit
	var ids []int
	for i := range rules {
		if rules[i].pass != plainPass || rules[i].strips != nil {
			continue
		}
		for _, h := range rules[i].hits(sw.s, r) {
			found, ids = append(found, h), append(ids, i)
		}
	}
	st, seen := sw.s.stripOf(r, sw.e)
	need, alone := sw.s.alone(r, sw.e)
	sw.mu.Lock()
	defer sw.mu.Unlock()
	sw.done++
	for k, h := range found {
		alone = sw.take(w, ids[k], h) && alone
	}
	if sw.out.Alone = sw.out.Alone && alone; !sw.out.Alone {
		sw.apart.Store(true)
	}
	if box := r.Of(sw.e); box != nil {
		pw := pieceWidth{Seen: seen, Need: need, H: box.H, LeftOf: -1, Ground: st.ground}
		if seen {
			sw.measure(&pw, &st)
		}
		sw.out.Widths[w-sw.from] = pw
	}
}

// take notes a hit. It reports false when other blocks have a say in it.
func (sw *pieceSweep) take(w, rule int, h hit) (alone bool) {
	name := rules[rule].name
	if sw.e != h.el && !naming.Inside(h.el, sw.e) && name != overflowX.name {
		return true // beside the blocks: told by the whole page
	}
	sw.hits.add(rule, w, h)
	switch name {
	case hiddenContent.name, navigationGone.name, barRows.name, smallTarget.name, stickyCovers.name, overflowX.name:
		return false
	}
	return true
}

// measure notes where the block's ground, text and edges lie, from its upper edge.
func (sw *pieceSweep) measure(pw *pieceWidth, st *strip) {
	pw.Top, pw.Bottom, pw.Opens, pw.Closes, pw.LineUp, pw.LineAt = st.top-st.y, st.bottom-st.y, st.opens,
		st.closes, st.lineUp, st.lineAt
	if st.leftText == nil {
		return
	}
	i, ok := sw.lefts[st.leftText]
	if !ok {
		i = int32(len(sw.out.Lefts))
		sw.lefts[st.leftText] = i
		sw.out.Lefts = append(sw.out.Lefts, within(sw.e, st.leftText))
	}
	pw.Left, pw.LeftOf = st.left, i
}

// findings words the hits, with the elements that they speak of by their paths in the block.
func (sw *pieceSweep) findings(l *sweep.Prepared) {
	engine := l.Engine()
	for _, f := range sw.hits.findings(sw.s, engine) {
		pf := pieceFinding{Finding: f, Blame: f.worst.cause, Inside: within(sw.e, f.worst.el), Other: f.OtherPart}
		if o := f.worst.other; o != nil && !ruleNamed(f.Rule).merge && naming.Inside(o, sw.e) {
			pf.Second = within(sw.e, o)
		}
		if b := f.worst.blamed; b != nil {
			pf.Blamed = within(sw.e, b)
		}
		sw.out.Findings = append(sw.out.Findings, pf)
	}
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
		hangs := p.Lines > 0 && shown(p) && p.Text.Bottom() > box.Bottom()+64
		if out := p.Y < box.Y-64 || p.Bottom() > box.Bottom()+64; hangs ||
			out && naming.IsPicture(p.Element) && !p.Empty() {
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
