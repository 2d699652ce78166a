package layout

// lineBox is the line box at work (CSS 2, section 10.8): what stands on a line, and how far it reaches above and below
// the line's baseline. One serves all lines of a paragraph, as inline boxes go on from line to line.
type lineBox struct {
	e         *Engine
	b         *Box
	p         *para
	ln        line
	n         int // of the line
	trims     trim
	isLast    bool
	y         Px // upper edge, from that of the content
	cw        Px // room for lines
	indent    Px
	x         Px // where the next piece begins
	hang      Px // of spaces beyond the end of the line
	spaces    int
	above     Px // the baseline, down to the line's upper edge
	below     Px
	pieces    []piece
	open      []*openBox // inline boxes around the next piece, the innermost last
	boxes     []*openBox // all that have a fragment on the line
	strut     metrics
	groups    []*alignedGroup // those that stand at the top or the bottom of the line, with all in them
	late      []aligned       // atomic boxes that do
	height    Px
	offset    Px   // of the first piece
	stretch   Px   // to spread over the spaces of a justified line
	left      Px   // what floats take before it
	last      bool // it is the last line, where that is not the last of the paragraph's yet
	piecewise bool // lines are broken one by one
	trial     bool // only the height is asked for
}
