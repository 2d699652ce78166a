package layout

import (
	"ziegel/core/css"
	"ziegel/core/font"
)

// Values that hold no boxes: lengths, rectangles, margins that collapse, places in a text, tracks, columns, floats.

// Px is a length in 1/64 CSS px.
type Px = css.Px

// Rect is a rectangle in page coordinates.
type Rect struct{ X, Y, W, H Px }

// textRun is a piece of an element's own text on one line.
type textRun struct {
	rtl      bool // its letters run from right to left
	rect     Rect // relative to the block container
	line     int
	cut      bool    // it ends inside a word, with the line
	hyphen   bool    // it ends with a hyphen
	from, to int32   // runes of the paragraph
	gap      float32 // what a justified line adds to each space, CSS px
}

// space is what a box is laid out into.
type space struct {
	cbW     Px   // content width of the containing block
	cbH     Px   // its height, when defCB
	defCB   bool // cbH is definite
	forceW  Px
	hasW    bool // border-box width is given
	forceH  Px
	hasH    bool // border-box height is given
	defH    bool // the given height is definite for percentages inside
	shrink  bool // auto width is fit-content
	room    Px   // what floats leave of the width, margins included
	hasRoom bool
}

// marginSet is a set of adjoining margins.
type marginSet struct{ pos, neg, quirk Px }

// Fragment is the box of one element.
type Fragment struct {
	Element *css.Element
	Pseudo  string // before or after: a generated box of the element
	Style   *css.Style
	Rect           // border box as getBoundingClientRect gives it, nothing scrolled
	Lines   int    // line boxes that the element's own text takes
	Text    Rect   // around the element's own text, as it is laid out, clipped by nothing
	Runs    []Rect // each line of the element's own text
	Cut     int    // lines of it that end inside a word
	Clip    Rect   // what ancestors let through; zero when nothing clips
	Clipped bool   // Clip is in force
	Window  Rect   // what ancestors and the box itself let through of its own text; zero when nothing clips
	Cropped bool   // Window is in force
	Scrolls bool   // what Window cuts off can be scrolled to
	Above   bool   // out of flow: fixed, absolute or sticky
	Content Rect   // content box
}

// metrics of a font in a line, 1/64 px: ascent and descent of the text, and of the line-height box around it.
type metrics struct {
	asc, desc    Px // of the glyph box
	letters      Px // above the baseline of letters, which is another one where lines stand side by side
	above, below Px // with half-leading
	xHeight      Px
	over, under  Px // the edges that text is trimmed to, from the baseline
}

// trim tells at which ends text is trimmed (css-inline-3, section 6.2): at the first line, at the last.
type trim struct{ start, end bool }

// cursor is a place in a paragraph: an item, and a rune inside a text item.
type cursor struct{ item, rune int }

// counted is the state of the counters where a piece of generated content stands.
type counted struct {
	counters map[string][]int
	depth    int // of quotation marks
	quotes   []string
}

type gridTrack struct {
	css.Track
	base, limit Px
	infinite    bool
	pos         Px
	collapsed   bool // an empty auto-fit track
	fromFit     bool
}

// span is an item as one axis of the grid sees it.
type span struct {
	from, to int
	lo, hi   Px // min- and max-content contributions
	least    Px // minimum contribution: the automatic minimum size
}

// hyphenOf is how wide a hyphen is in a style, kept from one break to the next.
type hyphenOf struct {
	style       *css.Inherited
	size, space float64
	width       Px
}

// planState is the best way to break a text up to a place.
type planState struct {
	cost int64
	prev int
}

// subAxis is what a parent grid gives to a subgrid in one axis.
type subAxis struct {
	n     int
	gap   Px   // between the parent's tracks
	sizes []Px // room for the subgrid's items in each track; nil until the parent has sized them
	names []lineName
}

// bidiRun is a part of a text that runs in one direction, in runes.
type bidiRun struct {
	from, to int
	against  bool // it runs against the direction of the lines
}

// axisTracks is one axis of a grid.
type axisTracks struct {
	tracks []gridTrack
	names  []lineName // of the explicit grid, in the order of their lines
	lines  int        // explicit tracks
	before int        // implicit tracks added in front
	gap    Px
	auto   []css.Track
	closed bool // of a subgrid: no implicit tracks
}

// lineName is a name of a line, counted from 0: name and side together, side "-start" or "-end" for those that areas
// give.
type lineName struct {
	name, side string
	at         int
}

// shapeKey says what may be shaped in one piece.
type shapeKey struct {
	face          *font.Face
	size          float64
	weight        float64 // asked for, as is the next: fonts may stand in for others
	italic        bool
	letter, word  float64
	feats         string
	small, raised bool // capitals that stand for small ones; of small letters
	rtl           bool // it runs from right to left: pairs are kerned within one direction (measured)
	script        font.Script
}

// gain is what a line gains that starts at a rune inside a word, in font units: text is shaped anew there, and fonts
// may move the second letter of a pair, too.
type gain struct {
	rune  int
	units float64
	face  *font.Face
	small bool // of letters that are small capitals
}

// fit is the span of widths in which a paragraph has the same lines at the same places.
type fit struct {
	from, to Px // to is not included; both 0 for a paragraph that may look different at any other width
	height   Px
	x, y     Px // of the content in its box
	// The baselines of its first and last line.
	first, last Px
	baselines   bool
	style       *css.Style
	version     int
}

type mainLimits struct {
	lo, hi Px
	hasHi  bool
}

// columnMap says where the parts of a flow stand that was laid out as one tall column: those from y on are moved by dx
// and dy. Places count from the content box of the container (css-multicol-1).
type columnMap struct {
	parts []columnPart
}

type columnPart struct {
	from, to   Px // in the tall column
	dx, dy     Px
	top, limit Px // of the row of columns that it stands in
}

// tableColumn is what one column asks for, border-box sizes.
type tableColumn struct {
	min, max   Px
	percent    float64
	hasPercent bool
	given      bool // its width is a length
	mergeable  bool // no cell begins in it
	beside     Px   // padding and borders beside a percentage
	gone       bool
	size, x    Px
	lost       Px // the width of a collapsed column
}

// axisRoom is what the tracks of one axis of a grid have: how much room, whether that is definite, and at least how
// much when it is not.
type axisRoom struct {
	avail Px
	def   bool
	least Px
}

// floatSpace holds the floats of one block formatting context (CSS 2, section 9.5), in coordinates of the content box
// of the box that makes the context.
type floatSpace struct {
	list   []exclusion
	top    Px    // of the last float: no later one begins above it
	bottom Px    // lower edge of the lowest
	clear  [2]Px // lower edges of the lowest on the left and on the right
	any    bool
}

// exclusion is the margin box of a float.
type exclusion struct {
	x0, x1, y0, y1 Px
	right          bool
	shape          *floatShape // that text keeps out of, nil for the box
}

// floatShape is the shape of a float that lines keep out of, CSS px from the upper left of its margin box.
type floatShape struct {
	margin        float64      // around it
	points        [][2]float64 // of a polygon
	center, radii [2]float64   // of an ellipse, when there are no points
}

// floatContext is the space that a block stands in, and where its content box begins in it.
type floatContext struct {
	*floatSpace
	x, y Px
}
