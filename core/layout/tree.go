package layout

import (
	"ziegel/core/css"
	"ziegel/core/font"
)

// scratch is memory that one layout after the other uses.
type scratch struct {
	tops   [][]Px
	plan   []planState
	spans  []Px
	cand   []cursor
	pieces []piece
	onLine []*openBox
	tracks []gridTrack
	bases  []Px
	wide   []span // items over several tracks
	flexes []span // items in flexible tracks
}

// Engine lays one document out at any width.
type Engine struct {
	doc      *css.Document
	styler   *css.Styler
	fonts    *font.Set
	opts     Options
	width    Px
	height   Px
	root     *Box
	paras    map[paraKey]*para
	nature   []*[3]float64 // natural sizes of replaced elements
	boxes    []*Box        // of each element at the last width
	met      map[*css.Inherited]metrics
	percents int // how often a percentage of a height was looked at

	pseudos   map[pseudoKey]*Box // the generated boxes there are
	counted   map[pseudoKey]*counted
	need      Px   // the least width at which a line of the paragraph at work would hold more
	cut       bool // a line of it ends inside a word
	hyphen    hyphenOf
	recounted bool   // since the last width
	counting  []bool // elements that may count, by index; nil until asked
	pass      int    // counts layouts
	scratch   scratch
	spare     *Result
	floating  bool         // something floats at some width
	floats    floatContext // that the block at work is in
}

// Options are the surroundings of a page.
type Options struct {
	Fonts *font.Set
	// Picture gives the natural size of a picture in CSS px; ok is false when it cannot be loaded.
	Picture func(src string) (w, h float64, ok bool)
	Height  int // viewport height, CSS px; 0 means 900
	// Scrollbar is what a scrollbar takes of the width, CSS px. Conditions and units of the viewport count it in.
	Scrollbar int
	Dark      bool
	Text      float64 // size of text that nothing sets, CSS px; 0 means 16
	// Zoom is how many device pixels a CSS px takes; 0 means 1. The layout then is in device pixels, and lengths are
	// rounded in those, as browsers do on screens that have more of them.
	Zoom float64
}

type kind uint8

const (
	blockBox kind = iota
	inlineBox
	textBox
	flexBox
	gridBox
	replacedBox
	breakBox // br
	wordBreakBox
	tableBox
	sectionBox // a row group
	rowBox
	columnBox // a column or a column group
)

// Box is a box of the tree: what it is, where it lies, and what it remembers from one width to the next.
type Box struct {
	node
	geometry
	memory
}

// node is what a box is: its place in the tree, and the styles that say so.
type node struct {
	kind    kind
	off     bool         // out of the flow: kept here, because it is asked more often than anything else
	el      *css.Element // nil for anonymous boxes and text
	pseudo  string
	style   *css.Style
	display css.Display
	parent  *Box
	kids    []*Box
	text    string
	key     any  // identity over widths, for caches
	bfc     bool // establishes a block formatting context, so margins stay inside
	item    bool // flex or grid item
	unboxed bool // an inline box that holds blocks
	broken  bool // one that is broken into pieces around them
	// pieceOf is the box that a piece is of, inside the boxes that a block lies in the pieces of. unbroken is the style of
	// the box that the pieces are of.
	pieceOf  *Box
	inside   []*Box
	silent   bool // a piece with nothing in it: it makes its line higher, but is not seen (measured)
	begun    bool // a piece that is not the first
	goes     bool // a piece that is not the last
	unbroken *css.Style
	legend   bool // stands in the border of its fieldset
	// legendRoom is how much higher the upper border of a fieldset is for its legend.
	legendRoom Px
	turning    bool   // its lines follow each other in another way than those around it
	turned     bool   // it holds the content of one that does
	shows      string // the address of a picture that a property brought
	letterOf   *Box   // of a first letter: the text that it begins
	sign       bool   // a marker that is drawn
	ownerless  bool   // text of an element with display: contents
}

// geometry is where a box lies at this width: X and Y from the border box of its origin.
type geometry struct {
	origin           *Box
	X, Y, W, H       Px
	padding, border  [4]Px
	margin           [4]Px
	autoMargin       [4]bool
	first, last      Px // baselines from the top of the border box
	baselines        bool
	noLast           bool // what ends it has no last baseline
	marginsAbove     marginSet
	marginsBelow     marginSet
	collapsesThrough bool // the margins above and below meet
	handed           trim // what the box around it trims of its lines
	endMargin        Px   // of body: that of what ends it, in old documents
	contentH         Px   // height of the content before the box's own height applies
	staticX, staticY Px   // where it would stand in flow
	staticIn         *Box
	fragments        []Rect // of an inline box, relative to origin
	runs             []textRun
	taken            [2]Px // by its insets, of the room that it may fill
	shiftX, shiftY   Px    // by relative and sticky positions, own and of what holds it
	relBaseW         Px    // what percentages of relative positions refer to
	relBaseH         Px
	area             *Rect       // grid area for an absolutely positioned child
	sub              [2]*subAxis // of a subgrid: columns, rows
	subDepth         int         // how many subgrids it stands in
	grid             *gridState  // of a subgrid: its items at the last layout
	table            *tableState // of a table, as laid out last
	joined           *[4]Px      // borders of a table or cell whose borders are collapsed
	across           Px          // the whole width of a container of columns, while it is laid out
	breakInto        func()      // breaks its content into columns
	columns          *columnMap  // of a container of columns
	beside           bool        // laid out where floats are
	floatX           Px          // where floats let a box begin, from the content box; noFloatX when they do not say
	cellShift        Px          // how far the content of a cell is moved down
	frame            Rect        // of a table: its borders and background, without captions, from its border box
}

// memory is what a box keeps from one width to the next, to be built, measured and laid out again only when something
// that it follows from has changed.
type memory struct {
	shown *shownMemory // of a control or a broken picture

	version     int // of the style, when it was taken
	built       bool
	builtAt     [2]Px
	builtIn     int // the pass that has looked at the children of a size container
	stack       []css.Container
	sp          space
	valid       bool
	natural     space // the last space without a given height, and what came of it
	naturalH    Px
	hasNatural  bool
	edged       *css.Style // whose margins, borders and padding are resolved
	edgedAt     int        // its version
	edgedIn     Px         // what their percentages refer to
	floatPass   int        // when floatsIn was asked for
	floatsIn    bool
	needsHeight bool // a percentage inside looked at the height
	minmax      [2]Px
	sized       bool
	hollow      bool // a table without anything that has a width
	captions    Px   // how wide its captions are at least
	shrunkTo    Px   // of a table: how wide the percentages of its columns make it at most
	para        *para
	flex        *flexBoxState // of a flex container
	gridStore   []gridItem    // of a grid container: room for its items
	gridRefs    []*gridItem
	gridMemory  *gridState
}

// Result is a page laid out at one width. Its styles hold until the engine has laid out twice more.
type Result struct {
	Width    int
	Height   Px   // scroll height of the document
	Overflow Px   // how far it scrolls sideways
	Leftward bool // it does so to the left: a page from right to left
	Boxes    []Fragment
	// Generated are the boxes of ::before and ::after, without their text.
	Generated []Fragment
	Widest    *css.Element // the element that reaches furthest to that side, when Overflow is above 0
	ByIndex   []int        // element index to position in Boxes, -1 for none

	slab   []Rect // memory for Runs
	styler *css.Styler
}

// inlineBoxState is an inline box that is open while a line is placed.
type openBox struct {
	end     Px   // where it ends on this line, when turned
	turned  bool // the line was put in the order in which it is seen
	box     *Box
	m       metrics
	shift   Px // of its baseline from the line's, down
	x       Px // left edge of the fragment on this line
	group   *alignedGroup
	grouped Px  // part of the shift that its group added
	stop    Px  // where it ends on a line on which it is not closed
	spaces  int // before it on this line
	until   int // and up to its end, once the line is in the order in which it is seen
}

// piece is something on a line, x from the line's start.
type piece struct {
	it   *item
	box  *openBox
	x, w Px
	i, j int
}

// paraKey finds the shaped text of a container again at other widths.
type paraKey struct {
	key any
}

// para is the inline content of one block container, shaped and ready to be broken at any width.
type para struct {
	rtl    bool // the way that its lines run
	text   []rune
	items  []item
	soft   []bool     // a line may break before rune i
	sum    []int64    // width before rune i, 1/65536 px
	kern   []int64    // kerning that ends with rune i and is lost when a line breaks after it
	gains  []gain     // at the breaks inside words
	lead   map[int]Px // what a line gains there, at the sizes in force
	owner  []*Box     // text box of each rune
	inner  []bool     // rune continues a cluster
	pieces []shapedPiece
	stale  bool // the font size or spacing has changed since
	fit    fit

	// Before each item: the edges that boxes have again on a line that begins there, and on one that ends there; nil
	// for none.
	clones, cloneEnds []Px

	order     uint8  // what directions its letters have, 0 while nobody has asked
	levels    []int8 // of its runes (UAX #9), for lines that run as levelsRTL says
	levelsRTL bool
	trimmed   Px   // what is trimmed of the last line, which scrolls all the same (measured)
	bottoms   []Px // lower edges of the lines, from the upper edge of the content
	lines     []line
	spare     []line // memory for them
	minW      Px
	maxW      Px
	sized     bool
}

type item struct {
	kind       itemKind
	box        *Box
	start, end int            // runes; a position for all but text
	edge       Px             // inline-axis margin, border and padding of an open or close item
	shaped     *css.Inherited // what the text was shaped with
}

type itemKind uint8

// line is one finished line.
type line struct {
	start, end cursor
	width      Px // without trailing spaces
	forced     bool
	cut        bool // it ends inside a word
	hyphen     Px
}

type gridState struct {
	e     *Engine
	b     *Box
	cols  axisTracks
	rows  axisTracks
	items []*gridItem

	colSpans, rowSpans []span // memory
}

// gridItem is one item with the tracks that it covers, counted from 0; end is after the last.
type gridItem struct {
	b           *Box
	col, colEnd int
	row, rowEnd int
	lo, hi      Px // width contributions, margins included
	justify     css.Align
	alignV      css.Align
	height      Px
}

type flexBoxState struct {
	e        *Engine
	b        *Box
	inner    space
	row      bool
	rev      bool
	gap      Px
	lineGap  Px
	mainDef  bool
	main     Px // inner main size, when definite
	cross    Px
	crossDef bool
	store    []flexItem
	items    []*flexItem
	lines    []*flexLine

	lineStore []flexLine
}

// flexItem is one item while a flex container is laid out. Main sizes are border-box sizes.
type flexItem struct {
	b         *Box
	base      Px // flex base size
	hypo      Px // base clamped
	min, max  Px
	mainMar   Px
	crossMar  Px
	target    Px
	frozen    bool
	violation Px
	cross     Px
	mainPos   Px
	crossPos  Px
	baseline  Px
}

type flexLine struct {
	items    []*flexItem
	cross    Px
	pos      Px
	base     Px // baseline of baseline-aligned items
	lastDown Px // from the common last baseline to the end of the line
}

// shapedPiece is a run of text in one face, shaped at once.
type shapedPiece struct {
	start, end int
	face       *font.Face
	shape      *font.Shape
	feats      font.Features
	small      bool     // letters of small capitals that the face does not have
	run        font.Run // how it was shaped
	box        *Box     // a text box in it, for its style
}

type pseudoKey struct {
	el   *css.Element
	name string
}

type anonKey struct{ first any }

// alignedGroup is an inline box with vertical-align top or bottom, and what is in it: it waits for the line's height.
type alignedGroup struct {
	above, below Px
	bottom       bool
	boxes        []*openBox
	atoms        []*Box
}

// aligned waits for the line's height: vertical-align top and bottom.
type aligned struct {
	box    *Box
	above  Px // full height
	bottom bool
}

// zoom is how many device pixels a CSS px takes.
func (e *Engine) zoom() float64 {
	if e.opts.Zoom > 0 {
		return e.opts.Zoom
	}
	return 1
}

// px gives a length in CSS px as the layout counts.
func (e *Engine) px(v float64) Px { return css.FromFloat(v * e.zoom()) }

// tableState is a table while it is laid out: its grid of cells (CSS Tables 3, chapter 3), the sizes of its columns
// and rows.
type tableState struct {
	e              *Engine
	b              *Box
	captions       []*Box
	sections       []*Box // in the order in which they are shown
	columns        []*Box // column groups, and columns outside of any
	rows           []tableRow
	cells          []tableCell
	cols           []tableColumn
	gapX, gapY     Px // border-spacing
	joined         bool
	fixed          bool
	edges          *joinedEdges
	groupOf        []*Box // column group of each column, nil where there is none
	colOf          []*Box // column box of each column
	heights        bool   // the height of the table is given
	rowsOf         [][2]int
	ownHeights     []Px // of row groups without rows
	percentsOfRows Px   // what percentages of rows refer to, -1 when nothing
}

type tableRow struct {
	b           *Box
	section     int
	first, last int // its cells
	size        Px
	baseline    Px
	hasBaseline bool
	percent     float64
	constrained bool
	spanStart   bool // a cell that spans several rows begins here
	gone        bool // visibility: collapse
	y           Px
}

type tableCell struct {
	b          *Box
	row, col   int
	rows, cols int // spans
	height     Px  // of its content and its own height
}

// joinedEdge is one piece of the lines between cells where borders are collapsed: as long as a row is high or a column
// wide.
type joinedEdge struct {
	width Px
	style string
	rank  int8 // of what it comes from: a cell wins over a row, and so on
	from  *Box
	side  int
}

// joinedEdges are the lines of a table with collapsed borders.
type joinedEdges struct {
	rows, cols int
	start      int          // the side at which lines begin
	across     []joinedEdge // (rows+1) * cols, above each row
	down       []joinedEdge // rows * (cols+1), before each column
	reach      int          // the columns up to the last with a border
}

// shownMemory is what a control or a broken picture shows in a style: sizes of a date (0 until they are asked for), the
// box that stands in for a picture.
type shownMemory struct {
	style   *css.Style
	version int
	w, h    Px
	standIn *Box
}
