package layout

import "ziegel/core/css"

// Where boxes lie in the frame of what holds them: moved, stuck, in columns, cut off.

// walker carries what flows down the box tree when places become final.
type walker struct {
	e      *Engine
	r      *Result
	right  Px
	bottom Px
	left   Px
	// leftmost reaches furthest to the left
	leftmost *css.Element
	slab     []Rect // memory for the rectangles of texts
	tops     [][]Px // upper edges of the lines of each element's own text
}

// frame is the state inherited by a box's descendants.
type frame struct {
	x, y    Px // page position of the border box that descendants with this origin refer to
	dx, dy  Px // what relative and sticky positions have added to x and y
	m       matrix
	clip    Rect
	clips   bool
	scrolls bool // what clip cuts off can be scrolled to
	fixed   bool
	above   bool
	turned  bool // lines stand side by side
	columns *columnFrame
	flow    Px // in the tall column of columns
}

func (f *frame) move(dx, dy Px) {
	f.x, f.y, f.dx, f.dy = f.x+dx, f.y+dy, f.dx+dx, f.dy+dy
}

func scrollable(overflow string) bool { return overflow == "auto" || overflow == "scroll" }

// inColumns gives where a box of a flow in columns lies, all its parts together. What is in one column moves with it.
func (f *frame) inColumns(rect Rect) Rect {
	if f.columns == nil {
		return rect
	}
	out := Rect{}
	for i, p := range f.partsOf(rect) {
		if i == 0 {
			out = p
			continue
		}
		x, y := min(out.X, p.X), min(out.Y, p.Y)
		out = Rect{x, y, max(out.Right(), p.Right()) - x, max(out.Bottom(), p.Bottom()) - y}
	}
	return out
}

// partsOf gives the rectangles of such a box.
func (f *frame) partsOf(rect Rect) []Rect {
	if f.columns == nil {
		return []Rect{rect}
	}
	parts, dx, dy := f.columns.parts(rect, f.flow)
	if len(parts) == 1 {
		f.columns = nil
		f.move(dx, dy)
	}
	return parts
}

// open begins the columns of a container.
func (f *frame) open(b *Box) {
	if b.columns != nil {
		f.columns, f.flow = columnsIn(b, f.x, f.y), -b.contentY()
	}
}

// line gives the shift of what stands on a line whose place in its block is y.
func (f *frame) line(y Px) (dx, dy Px) {
	if f.columns == nil {
		return 0, 0
	}
	return f.columns.shift(f.flow + y)
}

// frameOf gives the frame of a box in that of its origin.
func (w *walker) frameOf(b *Box, in frame) frame {
	f := in
	switch {
	case b.turned:
		f.m, f.x, f.y, f.columns, f.turned = in.m.mul(b.parent.turn(in.x, in.y)), 0, 0, nil, true
		return f
	case b.outOfFlow():
		return frameOutOfFlow(b, in)
	case b.kind == inlineBox || b.kind == textBox || b.kind == breakBox || b.kind == wordBreakBox:
		if b.kind == inlineBox && b.style.Position == css.Relative {
			f.move(w.offset(b))
		}
	default:
		f.x, f.y, f.flow = in.x+mirrored(b.origin, b.X, b.W), in.y+b.Y, in.flow+b.Y
		if b.style.Position == css.Relative {
			f.move(w.offset(b))
		}
		f.move(w.around(b))
		if b.style.Position == css.Sticky {
			f.above = true
			f.move(0, w.stick(b, f))
		}
	}
	return f
}

// frameOutOfFlow is that of a box whose place counts from the page. It moves with its containing block, and with what
// it would stand in where its place is the static one.
func frameOutOfFlow(b *Box, in frame) frame {
	f := in
	f.above = true
	if p := containing(b); p != nil {
		f.dx, f.dy = p.shiftX, p.shiftY
	} else {
		f.clips, f.scrolls, f.clip = false, false, Rect{}
		f.dx, f.dy = 0, 0
		f.fixed = f.fixed || b.style.Position == css.Fixed
	}
	if in, s := b.staticIn, b.style; in != nil {
		if s.Inset[css.Left].IsAuto() && s.Inset[css.Right].IsAuto() {
			f.dx = in.shiftX
		}
		if s.Inset[css.Top].IsAuto() && s.Inset[css.Bottom].IsAuto() {
			f.dy = in.shiftY
		}
	}
	f.x, f.y = b.X+f.dx, b.Y+f.dy
	if f.columns != nil { // what holds it goes over several columns
		f.flow = in.flow + f.y - in.y
		if !inColumnsOf(b.parent, containing(b)) {
			f.columns = nil
		}
	}
	return f
}

// inColumnsOf reports whether a box stands in the columns that are the nearest around another one.
func inColumnsOf(around, k *Box) bool {
	for around != nil && around.columns == nil {
		around = around.parent
	}
	return around != nil && k != nil && k != around && within(k, around)
}

// cut takes in that a box clips what is in it. What html and body say is for the page as a whole.
func (f *frame) cut(b *Box, rect Rect) {
	s := b.style
	unclipped := s.OverflowX == "visible" && s.OverflowY == "visible" ||
		b.el != nil && (b.el.Tag == "html" || b.el.Tag == "body")
	if unclipped {
		return
	}
	inner := f.m.rect(Rect{rect.X + b.leftBorder(), rect.Y + b.border[css.Top],
		b.W - b.border[css.Left] - b.border[css.Right], b.H - b.border[css.Top] - b.border[css.Bottom]})
	if s.OverflowX == "visible" {
		inner.X, inner.W = -1<<28, 1<<29
	}
	if s.OverflowY == "visible" {
		inner.Y, inner.H = -1<<28, 1<<29
	}
	if f.clips {
		inner = inner.Intersect(f.clip)
	}
	f.clip, f.clips = inner, true
	f.scrolls = f.scrolls || scrollable(s.OverflowX) || scrollable(s.OverflowY)
}

// around gives the shift of the relatively positioned inline boxes that a block breaks.
func (w *walker) around(b *Box) (dx, dy Px) {
	for _, p := range b.inside {
		if p.style.Position == css.Relative {
			x, y := w.offset(p)
			dx, dy = dx+x, dy+y
		}
	}
	return dx, dy
}

// offset gives the shift of a relatively positioned box.
func (w *walker) offset(b *Box) (dx, dy Px) {
	s := b.style
	switch {
	case !s.Inset[css.Left].IsAuto() && !(b.rtlAround() && !s.Inset[css.Right].IsAuto()):
		dx = s.Inset[css.Left].Resolve(b.relBaseW)
	case !s.Inset[css.Right].IsAuto():
		dx = -s.Inset[css.Right].Resolve(b.relBaseW)
	}
	ok := func(l css.Len) bool { return !l.IsAuto() && (!l.HasPercent() || b.relBaseH >= 0) }
	switch {
	case ok(s.Inset[css.Top]):
		dy = s.Inset[css.Top].Resolve(b.relBaseH)
	case ok(s.Inset[css.Bottom]):
		dy = -s.Inset[css.Bottom].Resolve(b.relBaseH)
	}
	return dx, dy
}

// scrollport gives where what scrolls around a box begins and ends: the padding box of its nearest scroll container
// without its padding (measured), or the window.
func (w *walker) scrollport(b *Box, f frame) (top, bottom Px) {
	for p := b.origin; p != nil; p = p.origin {
		o := p.style.OverflowY
		holdsWindow := p.el != nil && p.parent != nil && p.el.Tag != "html" && p.el.Tag != "body" &&
			(scrollable(o) || o == "hidden")
		if holdsWindow {
			_, own := w.e.at(b)
			_, y := w.e.at(p)
			y += f.y - own
			return y + p.border[css.Top] + p.padding[css.Top], y + p.H - p.border[css.Bottom] - p.padding[css.Bottom]
		}
	}
	return 0, w.e.height
}

// stick gives the shift of a sticky box while nothing is scrolled.
func (w *walker) stick(b *Box, f frame) Px {
	start, end := w.scrollport(b, f)
	if l := b.style.Inset[css.Top]; !l.IsAuto() {
		if want := start + l.Resolve(end-start); f.y < want {
			room := Px(1 << 28)
			if b.origin != nil {
				room = b.origin.H - b.origin.border[css.Bottom] - b.origin.padding[css.Bottom] - b.Y - b.H - b.margin[css.Bottom]
			}
			return max(0, min(want-f.y, room))
		}
	}
	if l := b.style.Inset[css.Bottom]; !l.IsAuto() {
		if want := end - l.Resolve(end-start) - b.H; f.y > want {
			room := Px(1 << 28)
			if b.origin != nil {
				room = b.Y - b.origin.contentY()
			}
			return -min(f.y-want, max(0, room))
		}
	}
	return 0
}
