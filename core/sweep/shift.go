package sweep

import (
	"maps"
	"math"
	"slices"
	"strings"

	"ziegel/core/css"
	"ziegel/core/layout"
)

// Shift is how parts of a block differ between two versions of a page at one width.
type Shift struct {
	Part  string
	Index int // from 1, 0 when all boxes of the part, or the only one, shift alike
	How   Way
	By    float64 // CSS px: growth of a size, way of a move to the right or down
}

// Way is how a box differs.
type Way int

// The ways, from that which tells most.
const (
	Height Way = iota
	Width
	Down
	Across
	Shown // it was not there
	Hidden
)

// Shifts are the differences of one block at one width.
type Shifts struct {
	Block    string
	At       int     // screen width, CSS px
	Parts    []Shift // those that follow from no other, the largest first
	Longer   float64 // growth of the page's height, CSS px
	Mirrored [2]string
}

// Most is the largest difference of any part, or of the page, CSS px.
func (s *Shifts) Most() float64 {
	most := math.Abs(s.Longer)
	for _, p := range s.Parts {
		most = max(most, math.Abs(p.By))
	}
	return most
}

// Redraw tells which parts of a block are drawn in another way, without having moved for it.
type Redraw struct {
	Block      string
	Properties map[string][]string // that differ, by part; the block itself is ""
}

// node is a box of a block that can be named: its root or a part.
type node struct {
	el     *css.Element
	part   string
	index  int // from 0, among those of the part
	parent int // in the list; -1 for the root
	rect   layout.Rect
	shown  bool
}

// nodes lists the root of a block and its parts in document order.
func (b *Block) nodes(r *layout.Result) []node {
	seen := map[string]int{}
	var out []node
	add := func(e *css.Element, part string, parent int) {
		n := node{el: e, part: part, index: seen[part], parent: parent}
		if f := r.Of(e); f != nil && !f.Empty() {
			n.rect, n.shown = f.Rect, true
		}
		seen[part]++
		out = append(out, n)
	}
	var walk func(e *css.Element, parent int)
	walk = func(e *css.Element, parent int) {
		for _, k := range e.Kids() {
			if _, other := k.LookupAttr("data-block"); other {
				continue
			}
			at := parent
			if part := k.Attr("data-part"); part != "" {
				add(k, part, parent)
				at = len(out) - 1
			}
			walk(k, at)
		}
	}
	add(b.Element, "", -1)
	walk(b.Element, 0)
	return out
}

// least is the smallest difference that is told, CSS px: rounding makes smaller ones.
const least = 0.5

// pairing holds the boxes of a block in two versions of its page. Parts of which there are more or fewer now have no
// counterpart.
type pairing struct {
	old, now []node
	was      []int // for each of now, its counterpart in old; -1 for none
}

func pair(old, now []node) *pairing {
	p := &pairing{old: old, now: now, was: make([]int, len(now))}
	count := map[string]int{}
	type key struct {
		part  string
		index int
	}
	at := map[key]int{}
	for i, n := range old {
		count[n.part]++
		at[key{n.part, n.index}] = i
	}
	for _, n := range now {
		count[n.part]--
	}
	for i, n := range now {
		p.was[i] = -1
		if k, ok := at[key{n.part, n.index}]; ok && count[n.part] == 0 && (n.parent < 0 || p.was[n.parent] >= 0) {
			p.was[i] = k
		}
	}
	return p
}

// grown gives how much a box grew.
func (p *pairing) grown(i int) (w, h float64) {
	if i < 0 || p.was[i] < 0 || !p.now[i].shown || !p.old[p.was[i]].shown {
		return 0, 0
	}
	o, n := p.old[p.was[i]].rect, p.now[i].rect
	return px(n.W - o.W), px(n.H - o.H)
}

func px(v css.Px) float64 { return v.Float() }

// shifts lists the differences that do not follow from those of other parts: a box that is taller because what is in
// it is, one that is narrower because what it stands in is, one that is pushed down by what stands above it.
func (p *pairing) shifts() []Shift {
	var out []Shift
	kids := make([][]int, len(p.now))
	for i, n := range p.now {
		if n.parent >= 0 {
			kids[n.parent] = append(kids[n.parent], i)
		}
	}
	for i, n := range p.now {
		if p.was[i] < 0 {
			continue
		}
		was := p.old[p.was[i]]
		s := Shift{Part: n.part, Index: n.index + 1}
		switch {
		case n.shown && !was.shown:
			s.How = Shown
			out = append(out, s)
			continue
		case !n.shown && was.shown:
			s.How = Hidden
			out = append(out, s)
			continue
		case !n.shown:
			continue
		}
		w, h := p.grown(i)
		outerW, _ := p.grown(n.parent)
		if math.Abs(h) >= least && !p.follows(h, kids[i]) && !p.stretched(i, h, kids) {
			s.How, s.By = Height, h
			out = append(out, s)
		}
		if math.Abs(w) >= least && math.Abs(w-outerW) >= least {
			s.How, s.By = Width, w
			out = append(out, s)
		}
	}
	if len(out) == 0 {
		out = p.moves()
	}
	return p.merged(out)
}

// follows reports a growth that is that of the boxes inside, one below another or beside each other.
func (p *pairing) follows(h float64, kids []int) bool {
	sum, most := 0.0, 0.0
	for _, k := range kids {
		_, kh := p.grown(k)
		sum += kh
		if math.Abs(kh) > math.Abs(most) {
			most = kh
		}
	}
	return math.Abs(h-sum) < least || math.Abs(h-most) < least
}

// stretched reports a box that grew with one like it beside it, for which there is a reason inside.
func (p *pairing) stretched(i int, h float64, kids [][]int) bool {
	n := p.now[i]
	if n.parent < 0 {
		return false
	}
	return slices.ContainsFunc(kids[n.parent], func(k int) bool {
		_, kh := p.grown(k)
		return k != i && p.now[k].part == n.part && math.Abs(kh-h) < least && p.follows(kh, kids[k])
	})
}

// moves lists boxes that stand elsewhere in what they stand in, but for what something before them pushed along.
func (p *pairing) moves() []Shift {
	var out []Shift
	pushed := map[int][2]float64{} // by parent, how far the last box in it moved
	for i, n := range p.now {
		if n.parent < 0 || p.was[i] < 0 || !n.shown || !p.old[p.was[i]].shown {
			continue
		}
		was := p.old[p.was[i]]
		pn, po := p.now[n.parent].rect, p.old[p.was[n.parent]].rect
		dx, dy := px((n.rect.X-pn.X)-(was.rect.X-po.X)), px((n.rect.Y-pn.Y)-(was.rect.Y-po.Y))
		before := pushed[n.parent]
		pushed[n.parent] = [2]float64{dx, dy}
		if math.Abs(dy) >= least && math.Abs(dy-before[1]) >= least {
			out = append(out, Shift{Part: n.part, Index: n.index + 1, How: Down, By: dy})
		}
		if math.Abs(dx) >= least && math.Abs(dx-before[0]) >= least {
			out = append(out, Shift{Part: n.part, Index: n.index + 1, How: Across, By: dx})
		}
	}
	return out
}

// merged says once what all boxes of a part do alike, by the largest of them, and puts the largest first.
func (p *pairing) merged(list []Shift) []Shift {
	count := map[string]int{}
	for _, n := range p.now {
		count[n.part]++
	}
	type key struct {
		part string
		how  Way
	}
	by := map[key][]Shift{}
	var order []key
	for _, s := range list {
		k := key{s.Part, s.How}
		if by[k] == nil {
			order = append(order, k)
		}
		by[k] = append(by[k], s)
	}
	var out []Shift
	for _, k := range order {
		same := by[k]
		most := same[0]
		for _, s := range same {
			if math.Abs(s.By) > math.Abs(most.By) {
				most = s
			}
		}
		if len(same) == count[k.part] || len(same) > 1 {
			most.Index = 0
		}
		out = append(out, most)
	}
	slices.SortStableFunc(out, func(a, b Shift) int {
		return int(math.Abs(b.By)*64) - int(math.Abs(a.By)*64)
	})
	return out
}

// mirrored names two parts of one box that stood beside each other and have changed sides, left of right as it is now.
func (p *pairing) mirrored() [2]string {
	for i, a := range p.now {
		for j := i + 1; j < len(p.now); j++ {
			b := p.now[j]
			if a.parent != b.parent || a.part == b.part || p.was[i] < 0 || p.was[j] < 0 {
				continue
			}
			now, was := beside(a, b), beside(p.old[p.was[i]], p.old[p.was[j]])
			if now*was < 0 {
				if now > 0 {
					return [2]string{a.part, b.part}
				}
				return [2]string{b.part, a.part}
			}
		}
	}
	return [2]string{}
}

// beside tells whether a box stands left (1) or right (-1) of another in the same row; 0 for neither.
func beside(a, b node) int {
	if !a.shown || !b.shown || a.rect.Y+a.rect.H <= b.rect.Y || b.rect.Y+b.rect.H <= a.rect.Y {
		return 0
	}
	switch {
	case a.rect.X+a.rect.W <= b.rect.X:
		return 1
	case b.rect.X+b.rect.W <= a.rect.X:
		return -1
	}
	return 0
}

// redrawn lists the properties of parts that draw in another way. They may have moved, too.
func (p *pairing) redrawn(old, now *layout.Result) map[string][]string {
	out := map[string][]string{}
	for i, n := range p.now {
		if p.was[i] < 0 || !n.shown || !p.old[p.was[i]].shown {
			continue
		}
		was, is := old.Of(p.old[p.was[i]].el), now.Of(n.el)
		a, b := was.Style.Look().Drawn(), is.Style.Look().Drawn()
		for name := range maps.Keys(b) {
			if _, ok := a[name]; !ok {
				a[name] = ""
			}
		}
		for _, name := range slices.Sorted(maps.Keys(a)) {
			same := a[name] == b[name] || a[name]+b[name] != "" && initials[a[name]] && initials[b[name]]
			if !strings.HasPrefix(name, "--") && !same && !slices.Contains(out[n.part], name) {
				out[n.part] = append(out[n.part], name)
			}
		}
	}
	return out
}

// foot is where the last block of a page ends. The page itself is at least as high as the screen.
func (l *Prepared) foot(r *layout.Result) css.Px {
	foot := css.Px(0)
	for _, b := range l.Every() {
		if f := r.Of(b.Element); f != nil {
			foot = max(foot, f.Y+f.H)
		}
	}
	return foot
}

// initials are what shorthands set that name only a color: the same as nothing said.
var initials = map[string]bool{"": true, "initial": true, "none": true, "scroll": true, "border-box": true,
	"padding-box": true, "0%": true, "repeat": true, "auto": true}

// Differences compares two versions of a page at some widths: what shifts in each block that both have, and what is
// drawn in another way.
func Differences(old, now *Prepared, widths []int) ([]Shifts, []Redraw) {
	var out []Shifts
	redrawn := map[string]map[string][]string{}
	var names []string
	was := map[string]*Block{}
	for _, b := range old.Every() {
		was[b.Name] = b
	}
	a, b := old.Engine(), now.Engine()
	for _, w := range widths {
		ra, rb := a.Layout(w), b.Layout(w)
		for _, block := range now.Every() {
			o := was[block.Name]
			if o == nil {
				continue
			}
			p := pair(o.nodes(ra), block.nodes(rb))
			out = append(out, Shifts{Block: block.Name, At: w, Parts: p.shifts(),
				Longer: px(now.foot(rb) - old.foot(ra)), Mirrored: p.mirrored()})
			for part, list := range p.redrawn(ra, rb) {
				if redrawn[block.Name] == nil {
					redrawn[block.Name] = map[string][]string{}
					names = append(names, block.Name)
				}
				for _, n := range list {
					if !slices.Contains(redrawn[block.Name][part], n) {
						redrawn[block.Name][part] = append(redrawn[block.Name][part], n)
					}
				}
			}
		}
	}
	var drawn []Redraw
	for _, n := range names {
		drawn = append(drawn, Redraw{n, redrawn[n]})
	}
	return out, drawn
}
