package css

import (
	"maps"
	"slices"
	"strings"
)

// SizeAdjust is what font-size-adjust says: fonts are set so that Of (ex-height, cap-height, ch-width, ic-width,
// ic-height; none is "") is To times the font size, or as much as in the first font (css-fonts-4, section 2.6).
type SizeAdjust struct {
	Of       string
	To       float64
	FromFont bool
}

// Inherited holds the computed values that children inherit. It is shared between elements that change none of them.
type Inherited struct {
	FontFamily    []string
	FontSize      float64 // px, not rounded
	sizeFrom      sizeFrom
	FontWeight    float64
	FontStretch   float64 // percent
	Italic        bool
	Slant         float64 // degrees, of oblique
	NoOptical     bool    // font-optical-sizing: none
	SizeAdjust    SizeAdjust
	NoKerning     bool
	NoLigatures   bool
	Numeric       map[string]uint32 // OpenType features of font-variant-numeric
	Features      map[string]uint32 // those of font-feature-settings, which go before
	Variations    map[string]float32
	LineHeight    LineHeight
	LetterSpacing float64 // px
	WordSpacing   float64 // px
	TextAlign     string  // start, end, left, right, center, justify
	TextAlignLast string
	TextTransform string
	Caps          string // font-variant-caps
	NoSmallCaps   bool   // font-synthesis-small-caps: none
	TextEdges     string // text-box-edge: auto, text, "cap alphabetic" ...
	TextIndent    Indent
	Collapse      string // white-space-collapse: collapse, preserve, preserve-breaks, break-spaces
	NoWrap        bool   // text-wrap-mode: nowrap
	WrapStyle     string // auto, balance, pretty, stable
	OverflowWrap  string
	WordBreak     string
	LineBreak     string
	Hyphens       string
	Hyphen        string // hyphenate-character, "" for auto
	ListStyleType string
	ListInside    bool
	ListImage     string   // address of list-style-image, "" for none
	Quotes        []string // pairs; nil is auto, empty none
	Visible       bool
	TabSize       Len // a number of spaces, or a length
	TabLength     bool
	RTL           bool // direction: rtl
	Mode          Mode // writing-mode
	Orphans       int
	Widows        int
	Gone          bool       // visibility: collapse
	Joined        bool       // border-collapse: collapse
	Spacing       [2]float64 // border-spacing between columns and between rows, px
	CaptionBelow  bool
	Zoom          float64 // what a CSS px comes to: device pixels and zoom; 0 means 1
}

// ZoomFactor is how many of the px that the layout counts in a CSS px takes: device pixels, and zoom of what the
// element stands in.
func (a *Inherited) ZoomFactor() float64 {
	if a.Zoom > 0 {
		return a.Zoom
	}
	return 1
}

// Zoomed gives a length in CSS px as the layout counts.
func (a *Inherited) Zoomed(v float64) Px { return FromFloat(v * a.ZoomFactor()) }

// zoomed gives what is inherited by an element that is zoomed by a factor: lengths grow with it (css-viewport-1,
// "zoom").
func (a *Inherited) zoomed(by float64) *Inherited {
	out := *a
	out.Zoom = a.ZoomFactor() * by
	out.FontSize *= by
	if out.LineHeight.Length {
		out.LineHeight.Px *= by
	}
	out.LetterSpacing *= by
	out.WordSpacing *= by
	out.TextIndent.Len = out.TextIndent.Len.zoomed(by)
	if out.TabLength {
		out.TabSize = out.TabSize.zoomed(by)
	}
	out.Spacing = [2]float64{out.Spacing[0] * by, out.Spacing[1] * by}
	return &out
}

// CSSSize gives the font size in CSS px, whatever the layout counts in.
func (a *Inherited) CSSSize() float64 {
	if a.Zoom > 0 {
		return a.FontSize / a.Zoom
	}
	return a.FontSize
}

// Indent is the computed text-indent: of first lines, with Each of those after forced breaks, too, with Hanging of all
// others instead (css-text-3, section 8.1).
type Indent struct {
	Len
	Hanging, Each bool
}

// At gives the indent of a line, of a length by.
func (i Indent) At(by Px, first, afterBreak bool) Px {
	if (first || i.Each && afterBreak) == i.Hanging {
		return 0
	}
	return by
}

// LineHeight is the computed line-height.
type LineHeight struct {
	Normal bool
	Number float64 // factor, when Px is 0 and Normal is false
	Px     float64
	Length bool
}

// Display is the computed display value.
type Display uint8

// The display values that the engine tells apart.
const (
	Inline Display = iota
	None
	Contents
	Block
	FlowRoot
	ListItem
	InlineBlock
	Flex
	InlineFlex
	Grid
	InlineGrid
	Table
	InlineTable
	TableRow
	TableGroup
	TableHeader
	TableFooter
	TableCell
	TableCaption
	TableColumn
	TableColumnGroup
	ClampBox // display: -webkit-box, laid out as a block that may clamp lines
)

// Position is the computed position value.
type Position uint8

// The position values.
const (
	Static Position = iota
	Relative
	Absolute
	Fixed
	Sticky
)

// Sides indexes top, right, bottom, left.
const (
	Top = iota
	Right
	Bottom
	Left
)

// Align is a computed alignment value: "start", "end", "center", "stretch", "baseline", "space-between" and so on; ""
// is the initial value (auto or normal).
type Align string

// At gives the alignment for so much free room (1/64 px): one that is safe begins at the start where there is none.
func (a Align) At(free Px) Align {
	if bare, safe := strings.CutPrefix(string(a), "safe "); safe {
		if free < 0 {
			return "start"
		}
		return Align(bare)
	}
	return Align(strings.TrimPrefix(string(a), "unsafe "))
}

// Unsafe reports an alignment that overflows at both sides where one without a word would not.
func (a Align) Unsafe() bool { return strings.HasPrefix(string(a), "unsafe ") || a == "anchor-center" }

// Physical makes left and right to start and end.
func (a Align) Physical(rtl bool) Align {
	for _, word := range []string{"left", "right"} {
		if before, is := strings.CutSuffix(string(a), word); is {
			if (word == "left") == rtl {
				return Align(before + "end")
			}
			return Align(before + "start")
		}
	}
	return a
}

// Line is a grid line in a placement property.
type Line struct {
	Auto bool
	Span int // above 0: span n
	N    int // line number, negative from the end
	Name string
}

// Track is one entry of a track list.
type Track struct {
	Min, Max Len
}

// TrackList is the computed value of grid-template-columns or -rows.
type TrackList struct {
	Items   []TrackItem
	Subgrid bool
	Names   []string // names after the last track
	// LineNames are the names of a subgrid's lines. FillNames stand before the one with the index FillAt, as often as
	// they fit between the others: repeat(auto-fill, ...).
	LineNames, FillNames [][]string
	FillAt               int
}

// TrackItem is a track, or a repeat() of tracks.
type TrackItem struct {
	Names  []string // line names before it
	Track  Track
	Repeat int // 0: a plain track; AutoFill, AutoFit, or the count of an expanded repeat
	Tracks []TrackItem
	Tail   []string // names after the last track of a repeat
}

// Special values of TrackItem.Repeat.
const (
	AutoFill = -1
	AutoFit  = -2
)

// Area is a named grid area, lines from 1.
type Area struct{ Row, RowEnd, Col, ColEnd int }

// Style is the computed style of one element or pseudo-element.
type Style struct {
	*Inherited
	Display       Display
	ownZoom       float64 // by zoom; 0 means 1
	Outer         Display // as specified, before being out of flow made it block-level
	Position      Position
	BorderBox     bool
	Width, Height Len
	MinW, MinH    Len
	MaxW, MaxH    Len
	Margin        [4]Len
	Padding       [4]Len
	BorderWidth   [4]float64
	BorderStyle   [4]string
	Inset         [4]Len
	AspectRatio   float64 // width / height, 0 none
	RatioAuto     bool    // "auto" beside the ratio: a picture's own ratio wins
	OverflowX     string
	OverflowY     string
	ContainerType string
	ContainerName []string
	ContainW      Len // contain-intrinsic-width, 0 for none
	ContainH      Len
	Contain       string
	// content-visibility: visible, hidden, or auto
	ContentVisibility string

	FlexDirection string
	FlexWrap      string
	FlexGrow      float64
	FlexShrink    float64
	FlexBasis     Len
	Order         int
	FixedTable    bool   // table-layout: fixed
	ColumnCount   int    // 0 auto
	ColumnWidth   Len    // LenPx, else auto
	ColumnFill    bool   // column-fill: auto
	ColumnSpan    bool   // column-span: all
	FitsField     bool   // field-sizing: content
	CloneEdges    bool   // box-decoration-break: clone
	TextTrim      string // text-box-trim: none, trim-start, trim-end, trim-both
	BreakBefore   string // "", avoid, column
	BreakAfter    string
	BreakInside   string // "", avoid
	Float         int8   // 1 left, 2 right, 5 where lines begin, 6 where they end
	Clear         int8   // so, and 3 both

	GridCols, GridRows       TrackList
	GridAreas                map[string]Area
	GridAreaRows             int
	GridAreaCols             int
	AutoCols, AutoRows       []Track
	AutoFlow                 string
	ColStart, ColEnd         Line
	RowStart, RowEnd         Line
	RowGap, ColGap           Len
	AlignItems, JustifyItems Align
	AlignSelf, JustifySelf   Align
	AlignContent             Align
	JustifyContent           Align

	VerticalAlign   string
	VerticalLength  Len // when VerticalAlign is ""
	Content         string
	HasContent      bool
	Counters        *Counters // nil: leaves counters alone
	LineClamp       int
	BoxVertical     bool // -webkit-box-orient: vertical
	OldBox          bool // display: -webkit-box, laid out as flex
	Transform       []TransformOp
	Translate       [2]Len
	Scale           [2]float64
	Deep            bool // scale or translate say something of the depth
	Depth           float64
	Rotate          float64 // radians, around RotateAxis
	RotateAxis      [3]float64
	TransformOrigin [2]Len
	Opacity         float64
	MakesContaining bool // transform, filter, will-change ...: containing block for absolute and fixed boxes
	Unscrolled      bool // overflow-y: clip beside an axis that scrolls, or a control that is a table
	Plain           bool // appearance: none
	UnicodeBidi     string
	ShapeOutside    Shape
	ShapeMargin     Len
	Scrollbar       string // scrollbar-width
	Control         bool   // appearance of another value
	SnapType        string // scroll-snap-type
	SnapAlign       string
	ScrollPadding   [4]Len
	ScrollMargin    [4]Len
	FluidEdges      bool // a margin or padding is a percentage
	spec            *specified
	// Version differs between any two styles that a Styler has computed. The memory of a style is used again for the
	// one after the next of its element, so that a pointer alone does not tell them apart.
	Version int
}

// TransformOp is one transform function with its arguments.
type TransformOp struct {
	Name string
	Len  [2]Len
	N    []float64
}

// BorderPx gives the used width of a border side: 0 stays 0, under 1 px becomes 1, else whole px (measured).
func (s *Style) BorderPx(side int) Px {
	w := s.BorderWidth[side]
	if s.BorderStyle[side] == "none" || s.BorderStyle[side] == "hidden" || w <= 0 {
		return 0
	}
	if w < 1 {
		return 64
	}
	return Px(int(w)) * 64
}

// sizeFrom is where a font size comes from: an absolute length, a share of what does not, or a keyword, which is its
// place in keywordSizes behind fromKeyword.
type sizeFrom int8

const (
	fromLength sizeFrom = iota
	fromShare
	fromKeyword
)

var initialInherited = &Inherited{
	FontFamily: []string{"serif"}, FontSize: 16, sizeFrom: fromKeyword + 3, FontWeight: 400, FontStretch: 100,
	LineHeight: LineHeight{Normal: true}, TextAlign: "start",
	TextAlignLast: "auto", TextTransform: "none", Caps: "normal", TextEdges: "auto", TextIndent: Indent{Len: Zero}, Collapse: "collapse", WrapStyle: "auto",
	OverflowWrap: "normal",
	WordBreak:    "normal", LineBreak: "auto", Hyphens: "manual", ListStyleType: "disc", Orphans: 2, Widows: 2, Visible: true,
	TabSize: Len{Kind: LenNumber, Px: 8},
}

var initialStyle = Style{
	Inherited: initialInherited, Display: Inline, MinW: Len{}, MinH: Len{}, MaxW: Len{Kind: LenNone},
	MaxH:   Len{Kind: LenNone},
	Margin: [4]Len{Zero, Zero, Zero, Zero}, Padding: [4]Len{Zero, Zero, Zero, Zero},
	BorderWidth: [4]float64{3, 3, 3, 3},
	BorderStyle: [4]string{"none", "none", "none", "none"}, OverflowX: "visible", OverflowY: "visible",
	TextTrim:      "none",
	ContainerType: "normal", Contain: "none", ContentVisibility: "visible", ContainW: Zero, ContainH: Zero,
	FlexDirection: "row", FlexWrap: "nowrap", FlexShrink: 1, AutoCols: []Track{{}}, AutoRows: []Track{{}},
	AutoFlow: "row",
	ColStart: Line{Auto: true}, ColEnd: Line{Auto: true}, RowStart: Line{Auto: true}, RowEnd: Line{Auto: true},
	RowGap: Len{
		Kind: LenNormal,
	}, ColumnWidth: Len{Kind: LenAuto}, ColGap: Len{Kind: LenNormal}, VerticalAlign: "baseline", Content: "normal",
	Translate: [2]Len{Zero, Zero}, Scale: [2]float64{1, 1}, TransformOrigin: [2]Len{{Kind: LenPx, Pct: 50},
		{Kind: LenPx, Pct: 50}}, Opacity: 1, UnicodeBidi: "normal", ShapeMargin: Zero, Scrollbar: "auto",
	ScrollPadding: [4]Len{Zero, Zero, Zero, Zero}, ScrollMargin: [4]Len{Zero, Zero, Zero, Zero},
}

// Collapses reports that white space in a row is one space, and none at a line's start.
func (a *Inherited) Collapses() bool {
	return a.Collapse == "collapse" || a.Collapse == "preserve-breaks"
}

// SameFace reports whether two sets of inherited values choose the same font and shape text alike, so that they may
// differ in size and spacing only.
func (a *Inherited) SameFace(b *Inherited) bool {
	return len(a.FontFamily) == len(b.FontFamily) && (len(a.FontFamily) == 0 ||
		&a.FontFamily[0] == &b.FontFamily[0]) && a.FontWeight == b.FontWeight && a.FontStretch == b.FontStretch &&
		a.Italic == b.Italic && a.Slant == b.Slant && a.NoOptical == b.NoOptical &&
		a.SizeAdjust == b.SizeAdjust && a.NoKerning == b.NoKerning &&
		a.NoLigatures == b.NoLigatures && maps.Equal(a.Numeric, b.Numeric) && maps.Equal(a.Features, b.Features) &&
		maps.Equal(a.Variations, b.Variations) &&
		a.TextTransform == b.TextTransform && a.Caps == b.Caps && a.NoSmallCaps == b.NoSmallCaps &&
		a.Collapse == b.Collapse && a.NoWrap == b.NoWrap &&
		(a.LetterSpacing == 0) == (b.LetterSpacing == 0) && a.OverflowWrap == b.OverflowWrap &&
		a.WordBreak == b.WordBreak && a.LineBreak == b.LineBreak && a.Hyphens == b.Hyphens
}

// Shape is what text beside a float keeps out of (shape-outside, css-shapes-1): a basic shape in one of the boxes of
// the float. Name is circle, ellipse, inset or polygon, "" for the margin box as it is.
type Shape struct {
	Name   string
	Box    string // margin-box, border-box, padding-box or content-box
	Radii  [2]ShapeRadius
	Center [2]Len
	Sides  [4]Len   // of inset: Top, Right, Bottom, Left
	Points [][2]Len // of polygon
}

// ShapeRadius is a length, or closest-side or farthest-side.
type ShapeRadius struct {
	Word string
	Len  Len
}

// setter writes one computed value.
type setter func(s *Style, c *computing)

// computing is what a setter may look at.
type computing struct {
	unitContext
	parent *Style
}

// specified holds what the cascade of one element yields in one state of its conditions: setters in the order they
// run.
type specified struct {
	vars         *vars
	mask         stateMask
	around       Way // lines run from right to left around the element
	setters      []parsedLonghand
	declared     map[string]*declaration
	values       map[string][]Token // of properties that the layout has no use for
	fluid        units              // of the viewport or a container, that it changes with
	setsInherits bool
	fluidInherit bool    // an inherited property changes with the width
	usesParent   bool    // an explicit inherit of a property that does not inherit
	zoom         float64 // by which the element is larger than what it stands in; 0 for not at all
	stacking     *Stacking
}

type parsedLonghand struct {
	name  string
	prop  *property
	set   setter
	wide  string  // inherit, initial, unset, revert, revert-layer
	value []Token // of a property that the layout has no use for
	fluid units   // of the viewport or a container, that the value changes with
}

// Count is one entry of counter-reset, counter-increment or counter-set.
type Count struct {
	Name string
	N    int
}

// Counters holds what an element does to counters, and its quotation marks (CSS Lists 3, section 4; CSS Content 3,
// section 3).
type Counters struct {
	Reset, Increment, Set []Count
}

// stateMask has a bit for each condition that concerns an element, true or not. Those beyond the first 256 are
// letters of a text.
type stateMask struct {
	first [4]uint64
	rest  string
}

// property is one longhand that the engine models.
type property struct {
	inherited bool
	first     int // 0 font size, 1 other font properties and line height, 2 all others
	parse     func(v []Token) (setter, bool)
	copy      func(dst, src *Style)
	// whether two styles of the same declarations agree on it; nil when nobody can tell
	same   func(a, b *Style) bool
	unused bool // read and checked only
}

// Stacking is how a box takes part in the painting order (CSS 2 Appendix E, css-position-3 "Painting Order and
// Stacking Contexts").
type Stacking struct {
	Makes bool // what is in it is painted as one, whatever its position and z-index
	Z     int  // z-index, 0 for auto
	Auto  bool // z-index: auto
}

// Mode is how lines follow each other (css-writing-modes-4, section 3.2).
type Mode uint8

// The modes of lines: below each other, or side by side as they are seen.
const (
	Horizontal Mode = iota
	VerticalRL
	VerticalLR
	SidewaysRL // as VerticalRL, but text stands on the baseline of its letters
	SidewaysLR // letters lie on their other side, and lines run upwards
)

// Way is how text runs in an element.
type Way struct {
	RTL  bool
	Mode Mode
}

// Contains reports whether a box keeps something in: layout, paint, size or inline-size (css-contain-2, section 3).
// What content-visibility adds is in section 4 of the same: all but the size while the content shows.
func (s *Style) Contains(what string) bool {
	switch s.ContentVisibility {
	case "hidden":
		return what != "inline-size"
	case "auto":
		if what == "layout" || what == "paint" {
			return true
		}
	}
	switch s.Contain {
	case "none":
		return false
	case "strict":
		return what != "inline-size"
	case "content":
		return what == "layout" || what == "paint"
	}
	return slices.Contains(strings.Fields(s.Contain), what)
}
