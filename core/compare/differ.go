package compare

import (
	"image"
	"slices"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/draw"
)

// differ says what differs between pieces and where they were found.
type differ struct {
	report    *Report
	ours      *side
	theirs    *image.RGBA
	pairs     []pair
	tolerance Tolerance
	mender    Mender
	shot      *draw.Shot
	resized   map[int]bool // texts in another size of type
	shown     []shownColor
	toned     map[int]bool // blocks that take another tone: the colors of what they hold follow from it
	reflowed  map[int]bool // boxes with another width or padding: what they hold follows from it
}

// onTone reports a piece of a block that takes another tone.
func (d *differ) onTone(i int) bool {
	for h := d.ours.pieces[i].holder; h >= 0; h = d.ours.pieces[h].holder {
		if d.toned[h] {
			return true
		}
	}
	return false
}

// difference begins one about a piece.
func (d *differ) difference(kind Kind, i int) Difference {
	p := &d.ours.pieces[i]
	out := Difference{Kind: kind, Name: p.name}
	if p.address != "" && d.mender.Page != "" {
		out.Address = d.mender.Page + "/" + p.address
	}
	where := p.rect
	out.Where = &where
	if d.pairs[i].found {
		there := d.pairs[i].there
		out.There = &there
	}
	return out
}

// told reports a piece that is missing with what holds it.
func (d *differ) told(i int) bool {
	h := d.ours.pieces[i].holder
	return h >= 0 && (!d.pairs[h].found || d.told(h))
}

// holdsAny reports a box with something in it, from which its height follows.
func (d *differ) holdsAny(i int) bool {
	return slices.ContainsFunc(d.ours.pieces, func(q piece) bool { return q.holder == i })
}

// partOf gives the nearest part around an element up to some other, as a piece that styles can speak to.
func (d *differ) partOf(e, upTo *css.Element) *piece {
	for ; e != nil && e != upTo; e = e.Parent {
		if e.Attr(compose.MarkPart) != "" {
			break
		}
	}
	if e == nil || e == upTo {
		return nil
	}
	f := d.shot.Result.Of(e)
	if f == nil {
		return nil
	}
	p := &piece{kind: box, element: e, style: f.Style, rect: rectOf(f.Rect)}
	(&collector{shot: d.shot}).name(p)
	return p
}

// shownColor is a color that a part shows on both sides.
type shownColor struct {
	tone         string
	ours, theirs rgb
	within       float64 // ΔE up to which it is a role's
	difference   int     // that tells it, -1 for none
}
