package compare

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/paint/geom"
)

func (d *differ) all() {
	d.report.Pieces = len(d.ours.pieces)
	for i := range d.ours.pieces {
		if d.pairs[i].found {
			d.report.Found++
		} else if !d.told(i) {
			d.missing(i)
		}
	}
	d.order()
	for i, p := range d.ours.pieces {
		if d.pairs[i].found && (p.kind == box || p.kind == block) && !d.onTone(i) {
			d.ground(i)
		}
	}
	for i, p := range d.ours.pieces {
		if d.pairs[i].found && p.kind == text {
			d.letters(i)
		}
	}
	d.tokens()
	d.distances()
	if n := len(d.resized); n > 0 {
		d.report.Doubts = append(d.report.Doubts,
			fmt.Sprintf("distances beside %s in another size are not told: they follow from it",
				diag.Plural(n, "text")))
	}
	if n := len(d.toned); n > 0 {
		d.report.Doubts = append(d.report.Doubts,
			fmt.Sprintf("colors of what stands on %s of another tone are not told: they follow from that",
				diag.Plural(n, "block")))
	}
	if n := len(d.reflowed); n > 0 {
		d.report.Doubts = append(d.report.Doubts,
			fmt.Sprintf("what stands where inside %s of another width or padding is not told: it follows from that",
				strings.Replace(diag.Plural(n, "box"), "boxs", "boxes", 1)))
	}
	d.report.Differences = d.together(d.report.Differences)
}

func (d *differ) missing(i int) {
	p := d.ours.pieces[i]
	out := d.difference(Missing, i)
	out.Text = fmt.Sprintf("%s is not there", p.name)
	if p.kind == box {
		out.Text = fmt.Sprintf("nothing of %s is there", p.name)
	}
	if entry := p.kind == box && p.element.Attr(compose.MarkEach) != ""; d.mender.Page != "" &&
		(p.kind == block || entry) {
		out.Command = []string{"remove", d.mender.Page + "/" + p.address}
	}
	d.report.add(out)
}

// extra tells of an area that only the design has.
func (d *differ) extra(r geom.Rect) {
	out := Difference{Kind: Extra, There: &r, Name: fmt.Sprintf("%.0f x %.0f px", r.W(), r.H())}
	out.Text = fmt.Sprintf("something of %.0f x %.0f px at %.0f, %.0f that the page has not%s", r.W(), r.H(), r.X0,
		r.Y0,
		d.beside(r))
	d.report.add(out)
}

// beside says by what something stands that only the design has.
func (d *differ) beside(r geom.Rect) string {
	best, out := math.Inf(1), ""
	for i, p := range d.ours.pieces {
		if !d.pairs[i].found || p.kind == block || p.kind == box {
			continue
		}
		t := d.pairs[i].there
		if far := apart(t, r); far < best {
			best = far
			where := "beside"
			switch {
			case r.Y0 >= t.Y1-2:
				where = "below"
			case r.Y1 <= t.Y0+2:
				where = "above"
			}
			out = fmt.Sprintf(", %s %s", where, p.name)
		}
	}
	return out
}

// extraPiece tells of a piece that only the other page has.
func (d *differ) extraPiece(p *piece) {
	r := p.rect
	d.report.add(Difference{Kind: Extra, There: &r, Name: p.name, Text: p.name + " is only there" + d.beside(r)})
}

// order tells of blocks that come one after another otherwise.
func (d *differ) order() {
	var here, there []int
	for i, p := range d.ours.pieces {
		if p.kind == block && d.pairs[i].found && p.holder < 0 {
			here = append(here, i)
		}
	}
	there = slices.Clone(here)
	slices.SortStableFunc(there, func(a, b int) int {
		return int(math.Round(d.pairs[a].there.Y0 - d.pairs[b].there.Y0))
	})
	if slices.Equal(here, there) {
		return
	}
	var names, was []string
	for k := range here {
		was = append(was, d.ours.pieces[here[k]].address)
		names = append(names, d.ours.pieces[there[k]].address)
	}
	out := d.difference(Order, here[0])
	out.Name, out.Where, out.There, out.Address = "the blocks", nil, nil, d.mender.Page
	out.Ours, out.Theirs = strings.Join(was, ", "), strings.Join(names, ", ")
	out.Text = "the blocks come in another order: " + out.Theirs
	if d.mender.Page != "" {
		out.Command = append([]string{"order", d.mender.Page}, names...)
	}
	d.report.add(out)
}

// letters compares a text: its words, its size, its color, its weight.
func (d *differ) letters(i int) {
	p, at := &d.ours.pieces[i], d.pairs[i]
	if at.other {
		out := d.difference(Words, i)
		out.Text = fmt.Sprintf("something else stands where %s is", p.name)
		if at.piece != nil {
			out.Ours, out.Theirs = p.text, at.piece.text
			out.Text = fmt.Sprintf("%s says %q there", p.name, at.piece.text)
		}
		d.report.add(out)
		if at.piece == nil {
			return
		}
	}
	theirs := math.Round(p.size*at.factor*4) / 4
	sized := math.Abs(theirs-p.size) >= max(.3, p.size*.012)
	if sized {
		d.resized[i] = true
		out := d.difference(TypeSize, i)
		out.Ours, out.Theirs, out.By, out.Unit = px(p.size), px(theirs), math.Abs(theirs-p.size), "px"
		out.Text = fmt.Sprintf("%s is set in %s, there in %s", p.name, out.Ours, out.Theirs)
		out.Command = d.mender.style(p, "font-size", length(theirs), true)
		d.report.add(out)
	}
	here, there := d.beginning(i)
	a, ok := shadesOf(d.ours.pixels, here, nil)
	b, found := shadesOf(d.theirs, there, nil)
	if !ok || !found || !a.hasInk || !b.hasInk {
		return
	}
	tolerance := d.tolerance.DeltaE
	if deltaE(a.ground, b.ground) > tolerance { // what the edges of letters mix with differs
		tolerance = max(tolerance, sameInk)
	}
	if by := deltaE(a.ink, b.ink); by > tolerance && !a.softer(b, tolerance) && !d.onTone(i) {
		out := d.difference(Color, i)
		out.Ours, out.Theirs, out.By, out.Unit = a.ink.hex(), b.ink.hex(), by, "ΔE"
		out.Text = fmt.Sprintf("%s is %s, there %s", p.name, out.Ours, out.Theirs)
		out.Command = d.mender.style(p, "color", d.mender.color(p, b.ink, sameInk), false)
		d.report.add(out)
		d.show(p, a.ink, b.ink, sameInk, true)
	} else if !d.onTone(i) {
		d.show(p, a.ink, b.ink, sameInk, false)
	}
	switch {
	case at.piece != nil && at.piece.weight != p.weight:
		out := d.difference(Weight, i)
		out.Ours, out.Theirs = fmt.Sprintf("%g", p.weight), fmt.Sprintf("%g", at.piece.weight)
		out.By, out.Unit = math.Abs(p.weight-at.piece.weight), ""
		out.Text = fmt.Sprintf("%s has the weight %s, there %s", p.name, out.Ours, out.Theirs)
		out.Command = d.mender.style(p, "font-weight", out.Theirs, false)
		d.report.add(out)
	case at.piece == nil && !sized && at.likely > sure && p.size >= 14:
		if more := b.density/a.density - 1; math.Abs(more) > heavier {
			out := d.difference(Weight, i)
			out.Ours, out.Unit, out.By = fmt.Sprintf("%g", p.weight), "% of ink", math.Abs(more)*100
			word := "heavier"
			if more < 0 {
				word = "lighter"
			}
			out.Text = fmt.Sprintf("%s is %s there: %.0f %% ink at the weight %g", p.name, word, (more+1)*100, p.weight)
			d.report.add(out)
		}
	}
}

// heavier is how much more ink than ours letters of another weight have.
const heavier = .14

// beginning gives where the same letters stand on both sides: the first line of a text, or as much of it as was found.
func (d *differ) beginning(i int) (here, there geom.Rect) {
	p, at := d.ours.pieces[i], d.pairs[i]
	if at.piece != nil {
		return p.first, at.piece.first
	}
	here = p.first.Intersect(at.part)
	x, y := at.there.X0, at.there.Y0
	if !at.rewrap {
		x, y = x+(here.X0-p.rect.X0)*at.factor, y+(here.Y0-p.rect.Y0)*at.factor
	}
	return here, geom.R(x, y, here.W()*at.factor, here.H()*at.factor)
}

// ground compares the color behind a box or a block.
func (d *differ) ground(i int) {
	p := &d.ours.pieces[i]
	var here, there []geom.Rect
	for j, q := range d.ours.pieces {
		if j != i && holds(d.ours.pieces, j, i) {
			here = append(here, q.rect.Grow(1))
			if d.pairs[j].found {
				there = append(there, d.pairs[j].there.Grow(1))
			}
		}
	}
	a, ok := shadesOf(d.ours.pixels, p.rect.Grow(-2), here)
	b, found := shadesOf(d.theirs, d.pairs[i].there.Grow(-2), there)
	if !ok || !found || a.share < .3 || b.share < .3 {
		return
	}
	if h := p.holder; h >= 0 && p.kind == box { // what shows what lies behind it
		outer, ok := shadesOf(d.ours.pixels, d.ours.pieces[h].rect.Grow(-2), nil)
		if ok && outer.ground == a.ground && !d.pairs[i].seen[top] {
			return
		}
	}
	if by := deltaE(a.ground, b.ground); by > d.tolerance.DeltaE {
		out := d.difference(Ground, i)
		out.Ours, out.Theirs, out.By, out.Unit = a.ground.hex(), b.ground.hex(), by, "ΔE"
		out.Text = fmt.Sprintf("%s stands on %s, there on %s", p.name, out.Ours, out.Theirs)
		out.Command = d.mender.ground(p, b.ground)
		if len(out.Command) > 0 && out.Command[0] == "set" {
			d.toned[i] = true
		}
		d.report.add(out)
		if !d.toned[i] {
			d.show(p, a.ground, b.ground, sameColor, true)
		}
	} else {
		d.show(p, a.ground, b.ground, sameColor, false)
	}
}
