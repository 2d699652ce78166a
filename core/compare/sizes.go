package compare

import (
	"fmt"
	"math"
)

// size compares the sides of a picture or a box.
func (d *differ) size(i int) {
	p, at := &d.ours.pieces[i], d.pairs[i]
	if at.other && at.piece == nil {
		out := d.difference(Words, i)
		out.Text = fmt.Sprintf("something else stands where %s is", p.name)
		d.report.add(out)
		return
	}
	if p.kind == block {
		return // as wide as the page; as high as what it holds
	}
	side := func(axis string, ours, theirs float64, known, command bool) {
		if !known || near(ours, theirs, d.tolerance.Px) {
			return
		}
		out := d.difference(Size, i)
		out.Axis, out.Ours, out.Theirs, out.By, out.Unit = axis, px(ours), px(theirs), math.Abs(ours-theirs), "px"
		word := "wide"
		if axis == "height" {
			word = "high"
		}
		out.Text = fmt.Sprintf("%s is %s %s, there %s", p.name, out.Ours, word, out.Theirs)
		if command {
			out.Command = d.mender.style(p, axis, length(theirs), true)
		}
		d.report.add(out)
	}
	side("width", p.rect.W(), at.there.W(), at.seen[left] && at.seen[right], p.kind == picture)
	if p.kind == picture || !d.holdsAny(i) {
		side("height", p.rect.H(), at.there.H(), at.seen[top] && at.seen[bottom], p.kind == picture)
	}
}
