// Package compare holds a page against a design (a picture of it), against another page, or against an earlier state of
// itself, and lists what differs in the order in which a designer would mend it. Both sides become pieces: texts,
// pictures, boxes and blocks with their places. Colors are measured in the pictures of both, so that what a renderer
// does to edges counts on neither side.
package compare

import (
	"image"

	"ziegel/core/draw"
)

// Options say how a page is held against something else.
type Options struct {
	Against   string // what it is held against, as the report names it
	Tolerance Tolerance
	Mender    Mender
	ByAddress bool // of a page: match by address, not by text and structure
}

// WithPicture holds a page against the picture of a design, which shows it a pixel a CSS px.
func WithPicture(shot *draw.Shot, design *image.RGBA, o Options) (*Report, error) {
	ours, err := ourSide(shot)
	if err != nil {
		return nil, err
	}
	f := newFinder(shot, ours, design)
	pairs := f.all()
	r := &Report{Page: shot.Page.Name, Against: o.Against, Width: shot.Width, Tolerance: o.Tolerance,
		Ours: ours.pixels, Theirs: design, Differences: []Difference{}, Doubts: []string{}}
	d := &differ{report: r, ours: ours, theirs: design, pairs: pairs, tolerance: o.Tolerance, mender: o.Mender,
		shot:    shot,
		resized: map[int]bool{}, toned: map[int]bool{}, reflowed: map[int]bool{}}
	d.all()
	for _, e := range f.extra(pairs) {
		d.extra(e)
	}
	r.sort()
	return r, nil
}

// WithPage holds a page against another page, box by box: matched by text and structure, or by address when it is an
// earlier state of the same page.
func WithPage(shot, other *draw.Shot, o Options) (*Report, error) {
	ours, err := ourSide(shot)
	if err != nil {
		return nil, err
	}
	theirs, err := ourSide(other)
	if err != nil {
		return nil, err
	}
	var pairs []pair
	if o.ByAddress {
		pairs = matchAddresses(ours.pieces, theirs.pieces)
	} else {
		pairs = matchTexts(ours.pieces, theirs.pieces)
	}
	r := &Report{Page: shot.Page.Name, Against: o.Against, Width: shot.Width, Tolerance: o.Tolerance,
		Ours: ours.pixels, Theirs: theirs.pixels, Differences: []Difference{}, Doubts: []string{}}
	d := &differ{report: r, ours: ours, theirs: theirs.pixels, pairs: pairs, tolerance: o.Tolerance, mender: o.Mender,
		shot:    shot,
		resized: map[int]bool{}, toned: map[int]bool{}, reflowed: map[int]bool{}}
	d.all()
	taken := map[*piece]bool{}
	for _, p := range pairs {
		if p.piece != nil {
			taken[p.piece] = true
		}
	}
	for i := range theirs.pieces {
		p := &theirs.pieces[i]
		counts := p.kind == text || p.kind == picture || o.ByAddress && p.kind == block
		if counts && !taken[p] && !(o.ByAddress && theirs.holderFree(i, taken)) {
			d.extraPiece(p)
		}
	}
	r.sort()
	return r, nil
}

// holderFree reports a piece whose block is told to be extra already.
func (s *side) holderFree(i int, taken map[*piece]bool) bool {
	for h := s.pieces[i].holder; h >= 0; h = s.pieces[h].holder {
		if p := &s.pieces[h]; p.kind == block && p.name != "" && !taken[p] {
			return true
		}
	}
	return false
}
