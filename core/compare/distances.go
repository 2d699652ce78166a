package compare

import (
	"fmt"
	"math"
	"slices"

	"ziegel/core/css"
	"ziegel/core/naming"
	"ziegel/core/paint/geom"
)

// gap is a distance between neighbours, or from the edge of what holds a piece.
type gap struct {
	axis     string // above, left, below, right: where it lies, seen from the piece
	piece    int
	to       int  // the neighbour, or what holds it
	inside   bool // to is what holds the piece
	ours     float64
	theirs   float64
	property string       // what makes it
	on       *piece       // the part that has the property
	old      float64      // its value, CSS px
	box      *css.Element // that has the property, when all gaps in it are one
}

// distances compares the room around each piece.
func (d *differ) distances() {
	var gaps []*gap
	for i, p := range d.ours.pieces {
		if !d.measurable(i) || p.holder < 0 && p.kind == block {
			continue
		}
		gaps = append(gaps, d.around(i)...)
	}
	gaps = append(gaps, d.between()...)
	d.shared(gaps)
	for i, p := range d.ours.pieces {
		at := d.pairs[i]
		wider := p.kind == box && at.found && at.seen[left] && at.seen[right] &&
			!near(p.rect.W(), at.there.W(), d.tolerance.Px)
		if wider {
			d.reflowed[i] = true
		}
	}
	for _, g := range gaps {
		apart := g.inside && g.property != "" && d.ours.pieces[g.to].kind == box &&
			(g.axis == "left" || g.axis == "right") &&
			!near(g.ours, g.theirs, d.tolerance.Px)
		if apart {
			d.reflowed[g.to] = true
		}
	}
	for i := range d.reflowed { // inside another, it follows from that one
		if d.follow(i) {
			delete(d.reflowed, i)
		}
	}
	for i, p := range d.ours.pieces {
		if (p.kind == picture || p.kind == box) && d.pairs[i].found && !d.follow(i) {
			d.size(i)
		}
	}
	for _, g := range gaps {
		if !near(g.ours, g.theirs, d.tolerance.Px) && !d.follow(g.to) &&
			(!d.reflowed[d.ours.pieces[g.piece].holder] || g.inside) {
			d.tell(g, gaps)
		}
	}
}

// follow reports a piece whose place follows from the width or the padding of what holds it.
func (d *differ) follow(i int) bool {
	for h := d.ours.pieces[i].holder; h >= 0; h = d.ours.pieces[h].holder {
		if d.reflowed[h] {
			return true
		}
	}
	return false
}

// measurable reports a piece whose edges are known on both sides. Room around a text follows from its size: it is told
// when that is right.
func (d *differ) measurable(i int) bool {
	at := d.pairs[i]
	return at.found && (at.piece != nil || !at.other && !d.resized[i])
}

// around gives the distances of a piece above it and on its left, and to the ends of a box when it is the last in it.
func (d *differ) around(i int) []*gap {
	p := d.ours.pieces[i]
	var out []*gap
	above, beside := -1, -1
	for j, q := range d.ours.pieces {
		if j == i || q.holder != p.holder || !d.pairs[j].found || q.kind == block {
			continue
		}
		across := q.rect.X0 < p.rect.X1 && q.rect.X1 > p.rect.X0
		along := q.rect.Y0 < p.rect.Y1-1 && q.rect.Y1 > p.rect.Y0+1
		switch {
		case across && q.rect.Y1 <= p.rect.Y0+2:
			if above < 0 || q.rect.Y1 > d.ours.pieces[above].rect.Y1 {
				above = j
			}
		case along && q.rect.X1 <= p.rect.X0+2:
			if beside < 0 || q.rect.X1 > d.ours.pieces[beside].rect.X1 {
				beside = j
			}
		}
	}
	add := func(g gap) {
		g.piece = i
		out = append(out, &g)
	}
	at := d.pairs[i].there
	h := p.holder
	switch {
	case above >= 0 && d.measurable(above) && d.pairs[above].seen[bottom] && d.pairs[i].seen[top]:
		q := d.ours.pieces[above]
		add(gap{axis: "above", to: above, ours: p.rect.Y0 - q.rect.Y1, theirs: at.Y0 - d.pairs[above].there.Y1})
	case above < 0 && h >= 0 && d.pairs[h].found && d.pairs[h].seen[top] && d.pairs[i].seen[top]:
		add(gap{axis: "above", to: h, inside: true, ours: p.rect.Y0 - d.ours.pieces[h].rect.Y0,
			theirs: at.Y0 - d.pairs[h].there.Y0})
	}
	below := h >= 0 && d.ours.pieces[h].kind == box && d.outermost(i, bottom) && d.pairs[h].seen[bottom] &&
		d.pairs[i].seen[bottom]
	if below {
		add(gap{axis: "below", to: h, inside: true, ours: d.ours.pieces[h].rect.Y1 - p.rect.Y1,
			theirs: d.pairs[h].there.Y1 - at.Y1})
	}
	switch {
	case beside >= 0 && d.measurable(beside) && d.pairs[beside].seen[right] && d.pairs[i].seen[left]:
		q := d.ours.pieces[beside]
		add(gap{axis: "left", to: beside, ours: p.rect.X0 - q.rect.X1, theirs: at.X0 - d.pairs[beside].there.X1})
	case beside < 0 && h >= 0 && d.pairs[h].found && d.pairs[i].seen[left] &&
		(d.pairs[h].seen[left] && d.outermost(i, left) || d.ours.pieces[h].kind == block):
		add(gap{axis: "left", to: h, inside: true, ours: p.rect.X0 - d.ours.pieces[h].rect.X0,
			theirs: at.X0 - d.pairs[h].there.X0})
	}
	toRight := h >= 0 && d.ours.pieces[h].kind == box && p.kind != text && d.outermost(i, right) &&
		d.pairs[h].seen[right] &&
		d.pairs[i].seen[right]
	if toRight {
		add(gap{axis: "right", to: h, inside: true, ours: d.ours.pieces[h].rect.X1 - p.rect.X1,
			theirs: d.pairs[h].there.X1 - at.X1})
	}
	return out
}

// outermost reports the piece that lies nearest to an edge of what holds it, the first of those that do.
func (d *differ) outermost(i, edge int) bool {
	at := func(j int) float64 {
		r := d.ours.pieces[j].rect
		return [4]float64{r.Y0, -r.X1, -r.Y1, r.X0}[edge]
	}
	for j, q := range d.ours.pieces {
		if j == i || q.holder != d.ours.pieces[i].holder || !d.measurable(j) || !d.pairs[j].seen[edge] {
			continue
		}
		if at(j) < at(i)-.5 || at(j) < at(i)+.5 && j < i {
			return false
		}
	}
	return true
}

// between gives the distances between what blocks hold, where no edge lies between them.
func (d *differ) between() []*gap {
	var out []*gap
	last := -1 // the block before
	for i, p := range d.ours.pieces {
		if p.kind != block || p.holder >= 0 || !d.pairs[i].found {
			continue
		}
		if last >= 0 && !d.pairs[i].seen[top] && d.follows(last, i) {
			foot, head := d.extreme(last, true), d.extreme(i, false)
			if foot >= 0 && head >= 0 {
				a, b := d.ours.pieces[foot].rect, d.ours.pieces[head].rect
				out = append(out, &gap{axis: "above", piece: head, to: foot, ours: b.Y0 - a.Y1,
					theirs: d.pairs[head].there.Y0 - d.pairs[foot].there.Y1, property: "above", on: &d.ours.pieces[i],
					old: p.style.Padding[top].Px})
			}
		}
		last = i
	}
	return out
}

// follows reports a block that comes right after another there, too.
func (d *differ) follows(a, b int) bool {
	y, z := d.pairs[a].there.Y0, d.pairs[b].there.Y0
	for i, p := range d.ours.pieces {
		neighbour := p.kind == block && p.holder < 0 && d.pairs[i].found && i != a && i != b
		if neighbour {
			if w := d.pairs[i].there.Y0; w >= y && w < z {
				return false
			}
		}
	}
	return y <= z
}

// extreme gives the piece of a block that reaches furthest up or down.
func (d *differ) extreme(b int, down bool) int {
	best := -1
	for j, q := range d.ours.pieces {
		if q.kind == block || !holds(d.ours.pieces, j, b) {
			continue
		}
		further := best < 0 || down && q.rect.Y1 > d.ours.pieces[best].rect.Y1 || !down &&
			q.rect.Y0 < d.ours.pieces[best].rect.Y0
		if further {
			best = j
		}
	}
	unmeasurable := best >= 0 && (!d.measurable(best) || down && !d.pairs[best].seen[bottom] || !down &&
		!d.pairs[best].seen[top])
	if unmeasurable {
		return -1
	}
	return best
}

// shared finds the property behind each distance: padding of what holds a piece, the gap of a row or column when all
// distances in it are off alike, else a margin.
func (d *differ) shared(gaps []*gap) {
	for _, g := range gaps {
		switch {
		case g.property != "":
		case g.inside:
			d.padding(g)
		default:
			d.inGap(g)
		}
	}
	for _, g := range gaps {
		if g.box == nil {
			continue
		}
		for _, o := range gaps {
			if o.box == g.box && o.property == g.property && !near(o.theirs-o.ours, g.theirs-g.ours, 1) {
				g.box = nil
				break
			}
		}
	}
	for _, g := range gaps {
		if !g.inside && g.box == nil && g.property != "above" {
			d.margin(g)
		}
	}
}

// padding takes a distance inside a box for its padding.
func (d *differ) padding(g *gap) {
	h := &d.ours.pieces[g.to]
	side := map[string]int{"above": top, "right": right, "below": bottom, "left": left}[g.axis]
	v := h.style.Padding[side]
	if !v.IsLength() {
		return
	}
	// what stands in the middle, or at the far end, is not held there by the padding
	f := d.shot.Result.Of(d.ours.pieces[g.piece].element)
	edges := func(r geom.Rect) [4]float64 { return [4]float64{r.Y0, r.X1, r.Y1, r.X0} }
	if f == nil || !near(math.Abs(edges(rectOf(f.Rect))[side]-edges(h.rect)[side]), v.Px+border(h.style, side), 1) {
		return
	}
	if h.kind == block {
		if g.axis == "above" {
			g.property, g.on, g.old = "above", h, v.Px
		}
		return
	}
	g.property, g.on, g.old = "padding-"+[4]string{"top", "right", "bottom", "left"}[side], h, v.Px
}

// border gives the width of a border that is drawn, CSS px.
func border(s *css.Style, side int) float64 {
	if b := s.BorderStyle[side]; b == "" || b == "none" || b == "hidden" {
		return 0
	}
	return s.BorderWidth[side]
}

// inGap looks whether a distance is the gap of a row or column.
func (d *differ) inGap(g *gap) {
	a, b := d.ours.pieces[g.to].element, d.ours.pieces[g.piece].element
	common := a
	for common != nil && !naming.Inside(b, common) {
		common = common.Parent
	}
	if common == nil {
		return
	}
	f := d.shot.Result.Of(common)
	noLayout := f == nil || f.Style == nil || f.Style.Display != css.Flex && f.Style.Display != css.InlineFlex &&
		f.Style.Display != css.Grid && f.Style.Display != css.InlineGrid
	if noLayout {
		return
	}
	property, v := "column-gap", f.Style.ColGap
	if g.axis == "above" {
		property, v = "row-gap", f.Style.RowGap
	}
	if !v.IsLength() || v.Px == 0 {
		return
	}
	on := d.partOf(common, nil)
	if on == nil || on.element != common {
		return
	}
	g.property, g.on, g.old, g.box = property, on, v.Px, common
}

// margin takes a distance between two pieces for a margin of the second.
func (d *differ) margin(g *gap) {
	g.property, g.on = "", nil
	a, b := d.ours.pieces[g.to].element, d.ours.pieces[g.piece].element
	common := a
	for common != nil && !naming.Inside(b, common) {
		common = common.Parent
	}
	var on *piece
	for e := b; e != nil && e != common; e = e.Parent { // the outermost part that does not hold the first
		if p := d.partOf(e, common); p != nil && p.element == e {
			on = p
		}
	}
	side, property := top, "margin-top"
	if g.axis == "left" {
		side, property = left, "margin-left"
	}
	if on == nil || on.style == nil || on.style.Margin[side].IsAuto() || !on.style.Margin[side].IsLength() {
		return
	}
	g.property, g.on, g.old = property, on, on.style.Margin[side].Px
}

// tell writes a distance that differs.
func (d *differ) tell(g *gap, all []*gap) {
	out := d.difference(Distance, g.piece)
	p, to := d.ours.pieces[g.piece], d.ours.pieces[g.to]
	out.Axis, out.Ours, out.Theirs, out.By, out.Unit = g.axis, px(g.ours), px(g.theirs), math.Abs(g.ours-g.theirs), "px"
	words := map[string]string{"above": "below", "left": "right of"}[g.axis]
	if g.inside {
		words = map[string]string{"above": "from the upper edge of", "below": "from the lower edge of",
			"left":  "from the left edge of",
			"right": "from the right edge of"}[g.axis]
	}
	out.Text = fmt.Sprintf("%s stands %s %s %s, there %s", p.name, out.Ours, words, to.name, out.Theirs)
	if g.inside && to.kind == block && g.axis == "left" {
		out.Kind, out.Axis = Position, "x"
		out.Text = fmt.Sprintf("%s begins at %s, there at %s", p.name, out.Ours, out.Theirs)
	}
	if !g.inside && g.theirs < -2 {
		out.Text = fmt.Sprintf("%s stands %s %s %s, there not %s it", p.name, out.Ours, words, to.name, words)
		d.report.add(out)
		return
	}
	if v := g.old + g.theirs - g.ours; g.on != nil && g.property != "" && (v >= 0 || g.property[0] == 'm') {
		if g.property == "above" {
			if d.mender.Page != "" {
				out.Command = []string{"set", d.mender.Page + "/" + g.on.address, "above=" + length(v)}
			}
		} else {
			property := g.property
			if g.inside && d.allSides(g, all) {
				property = "padding"
			}
			out.Command = d.mender.style(g.on, property, length(v), true)
		}
	}
	d.report.add(out)
}

// allSides reports a box whose content lies equally far from all its edges, there as here.
func (d *differ) allSides(g *gap, all []*gap) bool {
	sides := map[string]bool{}
	for _, o := range all {
		if o.inside && o.to == g.to && o.property != "" {
			if !near(o.old+o.theirs-o.ours, g.old+g.theirs-g.ours, 1) || !near(o.old, g.old, .5) {
				return false
			}
			sides[o.axis] = true
		}
	}
	return len(sides) >= 3 && slices.ContainsFunc([]string{"above", "below"}, func(s string) bool { return sides[s] })
}
