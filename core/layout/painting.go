package layout

import (
	"sort"

	"ziegel/core/css"
)

// Painting is the order in which the boxes of a result are painted, each with a rank: what has a greater one lies
// above.
type Painting struct {
	Ground    []int // of each box in Result.Boxes: its background and borders
	Words     []int // of its own text, or of its picture
	Generated []int // of each box in Result.Generated
}

// Painting works out the painting order (CSS 2 Appendix E; css-flexbox-1 "Flex Item Z-Ordering", css-grid-1 "Z-axis
// Ordering"): stacking contexts, then positioned boxes, then blocks below lines. Floats count as blocks.
func (r *Result) Painting() *Painting {
	n := len(r.Boxes)
	p := &painter{r: r, n: n, parent: make([]int, n+len(r.Generated)), ground: make([]int, n+len(r.Generated)),
		words: make([]int, n+len(r.Generated))}
	p.tree()
	if n > 0 {
		p.context(0)
	}
	return &Painting{Ground: p.ground[:n], Words: p.words[:n], Generated: p.ground[n:]}
}

// painter numbers boxes; those that are generated come after the others.
type painter struct {
	r             *Result
	n             int
	parent        []int
	kids          [][]int
	ground, words []int
	rank          int
}

func (p *painter) box(i int) *Fragment {
	if i < p.n {
		return &p.r.Boxes[i]
	}
	return &p.r.Generated[i-p.n]
}

// tree finds the children of every box in the order in which they are painted.
func (p *painter) tree() {
	p.kids = make([][]int, p.n+len(p.r.Generated))
	first := make([][]int, p.n)
	var last [][2]int
	up := func(e *css.Element) int {
		for ; e != nil; e = e.Parent {
			if i := p.r.ByIndex[e.Index]; i >= 0 {
				return i
			}
		}
		return -1
	}
	for g := range p.r.Generated {
		i := p.n + g
		if p.parent[i] = up(p.r.Generated[g].Element); p.parent[i] < 0 {
			continue
		}
		if p.r.Generated[g].Pseudo == "before" {
			first[p.parent[i]] = append(first[p.parent[i]], i)
		} else {
			last = append(last, [2]int{p.parent[i], i})
		}
	}
	for i := range p.n {
		p.kids[i] = append(p.kids[i], first[i]...)
	}
	for i := range p.n {
		if p.parent[i] = up(p.r.Boxes[i].Element.Parent); p.parent[i] >= 0 {
			p.kids[p.parent[i]] = append(p.kids[p.parent[i]], i)
		}
	}
	for _, l := range last {
		p.kids[l[0]] = append(p.kids[l[0]], l[1])
	}
	for i := range p.n {
		if kids := p.kids[i]; arranges(p.box(i).Style.Display) {
			sort.SliceStable(kids, func(a, b int) bool { return p.order(kids[a]) < p.order(kids[b]) })
		}
	}
}

// order gives the order of an item; what is out of the flow keeps its place in the document (measured).
func (p *painter) order(i int) int {
	if s := p.box(i).Style; s.Position != css.Absolute && s.Position != css.Fixed {
		return s.Order
	}
	return 0
}

func arranges(d css.Display) bool {
	return d == css.Flex || d == css.InlineFlex || d == css.Grid || d == css.InlineGrid
}

func (p *painter) item(i int) bool {
	return p.parent[i] >= 0 && arranges(p.box(p.parent[i]).Style.Display)
}

// stacks tells whether a box is painted with the positioned ones, whether it is a stacking context, and its z-index.
func (p *painter) stacks(i int) (positioned, context bool, z int) {
	b := p.box(i)
	s := b.Style.Stacking()
	positioned = b.Style.Position != css.Static
	layered := (positioned || p.item(i)) && !s.Auto
	if layered {
		z = s.Z
	}
	context = s.Makes && b.Style.Display != css.Inline || s.Makes && b.Style.Opacity < 1 || layered
	return positioned || context, context, z
}

// lists are the boxes of a stacking context that leave the flow of painting, by z-index.
type lists struct{ below, level, over []int }

// gather finds the positioned boxes and stacking contexts in a box that belong to the context around it.
func (p *painter) gather(i int, into *lists) {
	for _, k := range p.kids[i] {
		apart, context, z := p.stacks(k)
		if apart {
			switch {
			case z < 0:
				into.below = append(into.below, k)
			case z > 0:
				into.over = append(into.over, k)
			default:
				into.level = append(into.level, k)
			}
		}
		if !context {
			p.gather(k, into)
		}
	}
}

func (p *painter) next() int {
	p.rank++
	return p.rank
}

// context paints a stacking context.
func (p *painter) context(i int) {
	var l lists
	p.gather(i, &l)
	byZ := func(list []int) {
		sort.SliceStable(list, func(a, b int) bool {
			_, _, za := p.stacks(list[a])
			_, _, zb := p.stacks(list[b])
			return za < zb
		})
	}
	byZ(l.below)
	byZ(l.over)
	p.ground[i] = p.next()
	for _, k := range l.below {
		p.context(k)
	}
	p.blocks(i)
	p.lines(i)
	for _, k := range l.level {
		if _, context, _ := p.stacks(k); context {
			p.context(k)
		} else {
			p.whole(k)
		}
	}
	for _, k := range l.over {
		p.context(k)
	}
}

// whole paints a box and what is in it in one go, but for what belongs to the context around it.
func (p *painter) whole(i int) {
	p.ground[i] = p.next()
	p.blocks(i)
	p.lines(i)
}

// atomic reports boxes that are painted in one go among the lines: inline blocks, items, inline pictures.
func (p *painter) atomic(i int) bool {
	if p.item(i) {
		return true
	}
	b := p.box(i)
	switch b.Style.Display {
	case css.InlineBlock, css.InlineFlex, css.InlineGrid, css.InlineTable:
		return true
	case css.Inline:
		return b.Pseudo == "" && isReplaced(b.Element.Tag)
	}
	return false
}

func isReplaced(tag string) bool {
	switch tag {
	case "img", "video", "iframe", "canvas", "svg", "object", "embed":
		return true
	}
	return false
}

// blocks paints the grounds of the blocks in a box.
func (p *painter) blocks(i int) {
	for _, k := range p.kids[i] {
		if apart, _, _ := p.stacks(k); apart || p.atomic(k) {
			continue
		}
		if p.box(k).Style.Display != css.Inline {
			p.ground[k] = p.next()
		}
		p.blocks(k)
	}
}

// lines paints the text, the inline boxes and the pictures in a box.
func (p *painter) lines(i int) {
	p.words[i] = p.next()
	for _, k := range p.kids[i] {
		if apart, _, _ := p.stacks(k); apart {
			continue
		}
		if p.atomic(k) {
			p.whole(k)
			continue
		}
		if p.box(k).Style.Display == css.Inline {
			p.ground[k] = p.next()
		}
		p.lines(k)
	}
}
