package layout

import (
	"ziegel/core/css"
	"ziegel/core/font"
)

// Drawn is a box with all that is needed to draw it. Places are in page coordinates, before any transform.
type Drawn struct {
	Element *css.Element // nil for anonymous and generated boxes
	Pseudo  string       // before, after, marker, or "" for the others; Of is its element then
	Of      *css.Element
	Style   *css.Style
	Inline  bool // an inline box: Rects has a rectangle for each line
	// Lies and Inside are the ways in which lines follow each other around the box and in it: it is drawn as if its
	// lines stood below each other, and turned as a whole. Letters are mirrored in VerticalLR, and pictures turned in
	// all.
	Lies, Inside css.Mode
	Turned       bool   // it holds what is turned, by Transform
	Shows        string // the address of a picture that a property put into the page; it fills the box
	Marker       string // disc, circle, square, disclosure-open, disclosure-closed: a drawn marker fills the box
	Rects        []Rect // border boxes
	Begun, Goes  bool   // a piece of an inline box that has begun before a block in it, that goes on behind one
	Border       [4]Px
	Padding      [4]Px
	// Transform is that of the box, around its origin; it moves all that is inside, too.
	Transform *Transform
	Room      [2]float64 // what container units refer to across and down, CSS px; 0 for the viewport
	Texts     []DrawnText
	Kids      []*Drawn
	Parent    *Drawn
	// Holder is the containing block of a box that is out of the flow: what clips that, clips the box. Nil is the page.
	Holder    *Drawn
	OutOfFlow bool
	Rules     []Rect      // of columns: the middle of the gaps between them, without width
	Joined    bool        // a table or a cell with collapsed borders: Edges of the table are drawn, not its own
	Edges     []DrawnEdge // of a table
	Cells     []Rect      // of a row, a row group, a column
	Legend    *Drawn      // the legend in the upper border of a fieldset, whose height Border has there; nil for none
}

// Transform maps x, y to A*x+C*y+E, B*x+D*y+F, in CSS px.
type Transform struct{ A, B, C, D, E, F float64 }

// DrawnText is a piece of text on one line.
type DrawnText struct {
	Rect   Rect
	Base   Px // y of the baseline
	Line   int
	Text   string
	Glyphs []DrawnGlyph
}

// DrawnGlyph is one glyph at its place. Face and size may differ from those of its neighbours.
type DrawnGlyph struct {
	Face    *font.Face
	ID      uint32
	Size    float64 // CSS px
	X, Y    float64 // of its origin, CSS px from the start of the text and from the baseline, down
	Advance float64 // CSS px
}

// drawer builds the tree of what is drawn.
type drawer struct {
	w      *walker
	boxes  map[*Box]*Drawn
	shaped map[*para][][]font.Glyph // of each piece
}

// DrawnEdge is a piece of a border between cells, where borders are collapsed: as long as a row is high or a column
// wide, half of it on each side.
type DrawnEdge struct {
	Rect  Rect
	Side  int // of the box that it is the border of
	Style string
	From  *Drawn
}
