package layout

import "ziegel/core/css"

// The layout counts from the side where lines begin: Left is the right side in a box whose direction is rtl. Styles and
// what is told of a page are physical: edges turns what a style says, and mirrored what is told (CSS Writing Modes 4,
// section 6).

// rtl reports a box in which lines run from right to left. Parts of a table are in the order of the table.
func (b *Box) rtl() bool {
	for b.parent != nil && (b.kind == rowBox || b.kind == sectionBox || b.kind == columnBox) {
		b = b.parent
	}
	return b.style.RTL
}

// rtlAround reports a box that stands in such a box.
func (b *Box) rtlAround() bool { return b.parent != nil && b.parent.rtl() }

// turn exchanges what belongs to the sides.
func turn[T any](v *[4]T) { v[css.Left], v[css.Right] = v[css.Right], v[css.Left] }

// turnEdges puts edges that a style gives into the directions in which the layout counts: margins into that around the
// box, unless its place counts from the page.
func (b *Box) turnEdges() {
	if b.rtl() {
		turn(&b.padding)
		turn(&b.border)
	}
	if b.rtlAround() && !b.off {
		turn(&b.margin)
		turn(&b.autoMargin)
	}
}

// mirrored gives the physical x of what is w px wide and stands x px from where lines begin in the box o.
func mirrored(o *Box, x, w Px) Px {
	if o != nil && o.rtl() {
		return o.W - x - w
	}
	return x
}

// pageRTL reports a page whose direction, that of body, is rtl.
func (e *Engine) pageRTL() bool {
	if e.doc.Body != nil && e.boxes[e.doc.Body.Index] != nil {
		return e.boxes[e.doc.Body.Index].rtl()
	}
	return e.root != nil && e.root.rtl()
}

// leftBorder and leftContent are physical.
func (b *Box) leftBorder() Px {
	if b.rtl() {
		return b.border[css.Right]
	}
	return b.border[css.Left]
}

func (b *Box) leftContent() Px {
	if b.rtl() {
		return b.padding[css.Right] + b.border[css.Right]
	}
	return b.padding[css.Left] + b.border[css.Left]
}

// physical gives edges of the box as a style has them.
func (b *Box) physical(v [4]Px) [4]Px {
	if b.rtl() {
		turn(&v)
	}
	return v
}

// floatSide turns left and right into the directions in which the layout counts, for bits of float and clear.
func (b *Box) floatSide(v int8) int8 {
	switch {
	case v > 3:
		return v - 4
	case v == 0 || v == 3 || !b.rtlAround():
		return v
	}
	return 3 - v
}

// textAlign is that of a block, start and end for left and right.
func (b *Box) textAlign() string {
	a := b.style.TextAlign
	if !b.rtl() {
		return a
	}
	switch a {
	case "left", "-webkit-left":
		return "end"
	case "right", "-webkit-right":
		return "start"
	}
	return a
}
