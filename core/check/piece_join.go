package check

import (
	"ziegel/core/css"
	"ziegel/core/explain"
	"ziegel/core/layout"
	"ziegel/core/naming"
)

// joined is a page put together from its pieces.
type joined struct {
	*inPieces
	s        *Scene
	pieces   []*piece
	elements map[string]*css.Element // by their paths
	lefts    [][]*css.Element        // of each piece, texts that stand leftmost at some width
	hits     hits
	heights  [][]layout.Px // of the page and its blocks, by width
}

// report puts the pieces together. It returns nil when the page does not stand as they say.
func (j *joined) report() *Report {
	rep := &Report{Page: j.l.Name, From: j.from, To: j.to}
	for _, pc := range j.pieces {
		rep.Blocks = append(rep.Blocks, pc.Stacking...)
	}
	engine := j.l.Engine()
	if !j.place() || !j.stand() || !j.agrees(engine) {
		return nil
	}
	rep.Findings = append(rep.Findings, j.hits.findings(j.s, engine)...)
	for i, pc := range j.pieces {
		for _, pf := range pc.Findings {
			f, ok := j.finding(engine, i, pf)
			if !ok {
				return nil
			}
			rep.Findings = append(rep.Findings, f)
		}
	}
	rep.Findings = append(rep.Findings, j.s.jumps(j.from, j.heights)...)
	rep.Findings = append(rep.Findings, j.s.missingLetters(engine.Layout(min(max(j.from, 1280), j.to)))...)
	return rep
}

// of gives an element of a piece by its path in it, nil when the page has none there.
func (j *joined) of(piece int, path string) *css.Element {
	return j.elements[j.l.Blocks[piece].Element.Path()+path]
}

// place finds the elements that pieces speak of on the page.
func (j *joined) place() bool {
	j.elements = map[string]*css.Element{}
	for _, e := range j.l.Doc.Elements {
		j.elements[e.Path()] = e
	}
	j.lefts = make([][]*css.Element, len(j.pieces))
	for i, pc := range j.pieces {
		for _, path := range pc.Lefts {
			e := j.of(i, path)
			if e == nil {
				return false
			}
			j.lefts[i] = append(j.lefts[i], e)
		}
	}
	return true
}

// strips gives how the blocks stand under each other at a width, and where the last one ends.
func (j *joined) strips(w int) (list []strip, y layout.Px) {
	for i, pc := range j.pieces {
		pw := &pc.Widths[w-j.from]
		if pw.Seen {
			st := strip{el: j.l.Blocks[i].Element, y: y, end: y + pw.H, top: y + pw.Top, bottom: y + pw.Bottom,
				opens: pw.Opens, closes: pw.Closes, ground: pw.Ground, lineUp: pw.LineUp, lineAt: pw.LineAt}
			if pw.LeftOf >= 0 {
				st.left, st.leftText = pw.Left, j.lefts[i][pw.LeftOf]
			}
			list = append(list, st)
		}
		y += pw.H
	}
	return list, y
}

// stand puts the blocks under each other at every width and asks the rules about that. It reports false when what
// stands above a block decides something in it.
func (j *joined) stand() bool {
	j.hits = hits{}
	j.heights = make([][]layout.Px, j.to-j.from+1)
	for w := j.from; w <= j.to; w++ {
		for i := 1; i < len(j.pieces); i++ {
			above, here := &j.pieces[i-1].Widths[w-j.from], &j.pieces[i].Widths[w-j.from]
			if here.Need > 0 && (!above.Seen || above.H-above.Bottom < here.Need) {
				return false
			}
		}
		list, bottom := j.strips(w)
		row := []layout.Px{max(bottom, 900*64)}
		for _, pc := range j.pieces {
			row = append(row, pc.Widths[w-j.from].H)
		}
		j.heights[w-j.from] = row
		for i := range rules {
			if rules[i].strips == nil {
				continue
			}
			for _, h := range rules[i].strips(j.s, list) {
				j.hits.add(i, w, h)
			}
		}
	}
	return true
}

// agrees lays the whole page out at some widths: it has the last word.
func (j *joined) agrees(engine *layout.Engine) bool {
	for _, w := range []int{min(max(j.from, 1280), j.to), j.from, (j.from + j.to) / 2, j.to} {
		r := engine.Layout(w)
		want, _ := j.strips(w)
		got := j.s.findStrips(r)
		if len(got) != len(want) || r.Height != j.heights[w-j.from][0] {
			return false
		}
		for i := range got {
			got[i].above = false
			if got[i] != want[i] {
				return false
			}
		}
		for i := range rules {
			if rules[i].pass != plainPass || rules[i].strips != nil {
				continue
			}
			for _, h := range rules[i].hits(j.s, r) {
				if naming.BlockOf(j.l, h.el) == nil {
					return false // beside the blocks
				}
			}
		}
	}
	return true
}

// finding gives a finding of a piece on the page.
func (j *joined) finding(engine *layout.Engine, i int, pf pieceFinding) (f Finding, ok bool) {
	e := j.of(i, pf.Inside)
	if e == nil {
		return f, false
	}
	f = pf.Finding
	at := engine.Layout(max(f.From, j.from))
	f.Path = e.Path()
	blamed := e
	if pf.Blamed != "" {
		blamed = j.of(i, pf.Blamed)
	}
	f.Cause = cause(j.l, at, hit{el: e, blamed: blamed, cause: pf.Blame})
	var other *css.Element
	if pf.Second != "" {
		other = j.of(i, pf.Second)
	}
	if r := ruleNamed(f.Rule); r != nil {
		f.Why = explain.Why(j.l, at, r.axis, e, other)
	}
	f.Around, f.OtherPart = naming.PartsAround(e, f.Part), pf.Other
	return f, true
}
