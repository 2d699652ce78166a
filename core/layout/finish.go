package layout

import (
	"slices"

	"ziegel/core/css"
)

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

// boxed counts the elements with a box.
func (e *Engine) boxed() int {
	n := 0
	for _, b := range e.boxes {
		n += bit(b != nil)
	}
	return n
}

func (f *frame) move(dx, dy Px) {
	f.x, f.y, f.dx, f.dy = f.x+dx, f.y+dy, f.dx+dx, f.dy+dy
}

// finish computes page coordinates, the scroll size and the list of boxes.
func (e *Engine) finish(root *Box, width int) *Result {
	r := e.spare
	if r == nil {
		r = &Result{}
	}
	e.spare = nil
	*r = Result{Width: width, ByIndex: e.none(r.ByIndex), Boxes: r.Boxes[:0], Generated: r.Generated[:0],
		slab: r.slab, styler: e.styler}
	if e.scratch.tops == nil {
		e.scratch.tops = make([][]Px, len(e.doc.Elements))
	}
	for i := range e.scratch.tops {
		e.scratch.tops[i] = e.scratch.tops[i][:0]
	}
	w := &walker{e: e, r: r, tops: e.scratch.tops, slab: r.slab}
	if n := e.boxed(); cap(r.Boxes) < n {
		r.Boxes = make([]Fragment, 0, n)
	}
	w.box(root, frame{m: identity}, frame{m: identity})
	r.Height = max(e.height, w.bottom)
	r.Overflow = max(0, w.right-e.width)
	if e.pageRTL() { // it scrolls to the other side
		r.Overflow, r.Leftward = max(0, -w.left), true
		r.Widest = w.leftmost
	}
	if r.Overflow < 32 { // a browser counts whole px, rounded (measured)
		r.Overflow = 0
	}
	if r.Overflow == 0 {
		r.Widest = nil
	}
	return r
}

// box places one box and what is in it. in is the frame of its origin, abs that of the page for out-of-flow boxes.
func (w *walker) box(b *Box, in, abs frame) {
	f := w.frameOf(b, in)
	b.shiftX, b.shiftY = f.dx, f.dy
	switch b.kind {
	case textBox:
		w.text(b, f)
		return
	case inlineBox, breakBox, wordBreakBox:
		w.inline(b, f, abs)
		return
	}
	rect := Rect{f.x, f.y, b.W, b.H}
	if b.unboxed {
		rect = w.parts(b, rect)
	}
	rect = f.inColumns(rect)
	b.shiftX, b.shiftY = f.dx, f.dy // with the column that it is in
	seen := f.m
	if b.style.MakesContaining {
		own, deep := transformIn(b.style, rect)
		f.m = f.m.mul(own)
		if !deep { // what is turned out of the plane scrolls as if it were not (measured)
			seen = f.m
		}
	}
	page := f.m.rect(rect)
	w.reach(b.el, seen.rect(rect), f)
	// the line it stands on ends after its margin, wherever the box itself is moved to (measured)
	if m := b.margin[css.Right]; m > 0 && b.atomic() {
		w.reach(b.el, in.m.rect(Rect{in.x + mirrored(b.origin, b.X, b.W), in.y + b.Y, b.W + m, b.H}), in)
	}
	for _, p := range b.inside { // they reach from side to side (measured)
		dx, dy := w.around(b)
		across := Rect{in.x + dx + b.origin.contentX(), in.y + dy + b.Y, b.sp.cbW, rect.H}
		w.extend(p, f.m.rect(f.inColumns(across)), f)
	}
	w.note(b, rect, page, f)
	f.cut(b, rect)
	if b.el != nil {
		if i := w.r.ByIndex[b.el.Index]; i >= 0 {
			p := &w.r.Boxes[i]
			p.Window, p.Cropped, p.Scrolls = f.clip, f.clips, f.scrolls
		}
	}
	// lines count as a whole, not as their text (measured)
	if b.para != nil && b.contentY()+b.contentH+b.para.trimmed > b.H {
		w.reach(b.el, f.m.rect(Rect{rect.X + b.contentX(), rect.Y + b.contentY(), 1, b.contentH + b.para.trimmed}), f)
	}
	if b.style.SnapType != "" {
		dx, dy := w.e.snapped(b)
		f.move(-dx, -dy)
	}
	f.open(b)
	for _, k := range b.kids {
		w.box(k, f, abs)
	}
}

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

// note puts a box on the list of what is seen: that of an element, or one of its ::before and ::after.
func (w *walker) note(b *Box, rect, page Rect, f frame) {
	if b.el != nil {
		content := Rect{rect.X + b.leftContent(), rect.Y + b.contentY(), b.W - b.inlineEdges(), b.H - b.blockEdges()}
		if f.turned {
			content = f.m.rect(content)
		}
		w.add(b.el, b.style, page, f, content)
		return
	}
	if key, ok := b.key.(pseudoKey); ok && (b.pseudo == "before" || b.pseudo == "after") {
		w.r.Generated = append(w.r.Generated, Fragment{Element: key.el, Pseudo: b.pseudo, Style: b.style, Rect: page,
			Clip: f.clip, Clipped: f.clips, Above: f.above, Content: page})
	}
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

// parts gives the rectangle around the pieces of an inline box that holds blocks: its first and last lines count by
// their letters, not by their line boxes.
func (w *walker) parts(b *Box, r Rect) Rect {
	if len(b.kids) == 0 {
		return r
	}
	m := w.e.metrics(b.style)
	first, last := b.kids[0], b.kids[len(b.kids)-1]
	bottom := r.Bottom()
	if first.el == nil && first.baselines {
		top := r.Y + first.Y + first.first - m.asc
		r.H -= top - r.Y
		r.Y = top
	}
	if last.el == nil && last.baselines {
		bottom = bottom - last.H + last.last + m.desc
	}
	r.H = bottom - r.Y
	return r
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

func (w *walker) reach(el *css.Element, r Rect, f frame) {
	if f.fixed {
		return
	}
	if f.clips {
		r = r.Intersect(f.clip)
		if r.Empty() {
			return
		}
	}
	if r.Right() > w.right {
		w.right = r.Right()
		if el != nil {
			w.r.Widest = el
		}
	}
	if r.X < w.left && r.W > 0 {
		w.left, w.leftmost = r.X, el
	}
	w.bottom = max(w.bottom, r.Bottom())
}

func scrollable(overflow string) bool { return overflow == "auto" || overflow == "scroll" }

func (w *walker) add(el *css.Element, s *css.Style, r Rect, f frame, content Rect) *Fragment {
	if el.Foreign && el.Tag != "svg" {
		return nil
	}
	w.r.ByIndex[el.Index] = len(w.r.Boxes)
	w.r.Boxes = append(w.r.Boxes, Fragment{Element: el, Style: s, Rect: r, Clip: f.clip, Clipped: f.clips,
		Above: f.above, Content: content, Window: f.clip, Cropped: f.clips, Scrolls: f.scrolls})
	return &w.r.Boxes[len(w.r.Boxes)-1]
}

// extend makes the place of a broken inline box hold another piece of it, or a block between its pieces.
func (w *walker) extend(b *Box, r Rect, f frame) {
	i := w.r.ByIndex[b.el.Index]
	if i < 0 {
		w.add(b.el, b.unbroken, r, f, r)
		return
	}
	p := &w.r.Boxes[i]
	p.Rect = p.Rect.union(r)
	p.Content = p.Rect
}

// owner finds the element whose own text a text box is; nil for generated text.
func owner(b *Box) *css.Element {
	if b.ownerless {
		return nil
	}
	for p := b.parent; p != nil; p = p.parent {
		if p.pseudo != "" && p.pseudo != firstLetter {
			return nil
		}
		if p.el != nil {
			return p.el
		}
	}
	return nil
}

// room gives a list of rectangles place for n more, from memory that all elements share.
func (w *walker) room(runs []Rect, n int) []Rect {
	if cap(runs) > len(runs) {
		return runs
	}
	need := len(runs) + max(n, len(runs)) // twice as many: an element may have thousands of texts of one run each
	if len(w.slab) < need {
		w.slab = make([]Rect, max(256, need, 2*len(w.r.slab)))
		w.r.slab = w.slab
	}
	out := w.slab[:len(runs):need]
	w.slab = w.slab[need:]
	copy(out, runs)
	return out
}

func (w *walker) text(b *Box, f frame) {
	el := owner(b)
	for _, run := range b.runs {
		dx, dy := f.line(run.rect.Y)
		r := f.m.rect(
			Rect{mirrored(b.origin, run.rect.X, run.rect.W) + f.x + dx, run.rect.Y + f.y + dy, run.rect.W, run.rect.H},
		)
		w.reach(el, r, f)
		if el == nil || w.r.ByIndex[el.Index] < 0 {
			continue
		}
		p := &w.r.Boxes[w.r.ByIndex[el.Index]]
		p.Text = p.Text.union(r)
		p.Runs = append(w.room(p.Runs, len(b.runs)), r)
		p.Cut += bit(run.cut)
		if blank(b.text) || r.W == 0 && r.H == 0 {
			continue
		}
		tops := w.tops[el.Index] // sorted
		at, _ := slices.BinarySearch(tops, r.Y)
		// pieces side by side are one line
		if (at == len(tops) || tops[at]-r.Y >= 64) && (at == 0 || r.Y-tops[at-1] >= 64) {
			w.tops[el.Index] = slices.Insert(tops, at, r.Y)
			p.Lines++
		}
	}
}

func (w *walker) inline(b *Box, f, abs frame) {
	generated := b.el == nil && b.kind == inlineBox && (b.pseudo == "before" || b.pseudo == "after")
	if b.el != nil && len(b.fragments) > 0 && b.kind == inlineBox {
		var r Rect
		for i, fr := range w.e.rectsOf(b) {
			dx, dy := f.line(fr.Y)
			fr.X, fr.Y = mirrored(b.origin, fr.X, fr.W)+f.x+dx, fr.Y+f.y+dy
			if i == 0 {
				r = fr
			} else {
				r = r.union(fr)
			}
		}
		page := f.m.rect(r)
		w.reach(b.el, page, f)
		switch {
		case b.silent:
		case b.pieceOf != nil:
			w.extend(b.pieceOf, page, f)
		default:
			w.add(b.el, b.style, page, f, page)
		}
	} else if key, ok := b.key.(pseudoKey); ok && generated && len(b.fragments) > 0 {
		r := b.fragments[0]
		for _, fr := range b.fragments[1:] {
			r = r.union(fr)
		}
		r.X, r.Y = mirrored(b.origin, r.X, r.W)+f.x, r.Y+f.y
		w.r.Generated = append(w.r.Generated, Fragment{Element: key.el, Pseudo: b.pseudo, Style: b.style,
			Rect: f.m.rect(r), Clip: f.clip, Clipped: f.clips, Above: f.above})
	} else if b.el != nil && b.kind == inlineBox && b.pieceOf == nil { // no line holds it
		x, y := f.x, f.y
		if b.style.Position == css.Relative {
			dx, dy := w.offset(b)
			x, y = x-dx, y-dy
		}
		w.add(b.el, b.style, Rect{x, y, 0, 0}, f, Rect{})
	}
	for _, k := range b.kids {
		w.box(k, f, abs)
	}
}

func (e *Engine) none(spare []int) []int {
	out := grown(&spare, len(e.doc.Elements))
	for i := range out {
		out[i] = -1
	}
	return out
}
