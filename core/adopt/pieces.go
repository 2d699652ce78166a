package adopt

import (
	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/site"
)

// Sort is what a piece of content is.
type sort uint8

// The sorts of content.
const (
	heading sort = iota
	words        // a text
	link         // that stands by itself
	button
	picture
	icon
	list // like entries
	form
	frame
	film
)

// piece is one piece of content of a band, as fields would take it.
type piece struct {
	sort  sort
	value *site.Value // nil for a list
	plain string      // its letters
	level int         // of a heading
	size  float64     // of its letters, CSS px
	bold  bool
	quote bool           // it stands in a blockquote
	bare  bool           // a run of text beside boxes, without an element of its own
	lists []*reading     // the entries of a list
	like  *css.Element   // the first of them
	els   []*css.Element // of the entries, when each has one
	steps bool           // they are numbered
	fold  bool           // each opens and closes
	box   layout.Rect    // on the page, 1/64 px
	el    *css.Element
	form  *formRead
}

// formRead is what a form asks for.
type formRead struct {
	to     string
	search bool
	labels []string
	kinds  []string // text, email, tel, textarea, search ...
	send   string
}

// reading is what a band, or an entry of a list, says.
type reading struct {
	pieces []*piece
	box    layout.Rect
}

func (o *reading) add(p *piece) { o.pieces = append(o.pieces, p) }

// every lists all pieces of a reading, those of its lists as well.
func (o *reading) every() []*piece {
	var out []*piece
	for _, p := range o.pieces {
		out = append(out, p)
		for _, e := range p.lists {
			out = append(out, e.every()...)
		}
	}
	return out
}
