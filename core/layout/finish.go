package layout

import (
	"math"
	"slices"

	"ziegel/core/css"
)

// placeAbsolutes lays out-of-flow boxes out, from the outside in, when all in-flow boxes have their places.
func (e *Engine) placeAbsolutes(b *Box) {
	for _, k := range b.kids {
		if k.outOfFlow() {
			e.absolute(k)
		}
		e.placeAbsolutes(k)
	}
}

// containing finds the containing block of an out-of-flow box; nil is the viewport.
func containing(k *Box) *Box {
	for p := k.parent; p != nil; p = p.parent {
		if p.el == nil && p.pseudo == "" {
			continue
		}
		if p.style.MakesContaining || k.style.Position == css.Absolute && p.style.Position != css.Static {
			return p
		}
	}
	return nil
}

// at gives the position of a box's border box in the page, before relative offsets.
func (e *Engine) at(b *Box) (x, y Px) {
	for p := b; p != nil; p = p.origin {
		if p.kind == inlineBox && len(p.fragments) > 0 {
			x, y = x+p.fragments[0].X, y+p.fragments[0].Y
			continue
		}
		x, y = x+p.X, y+p.Y
	}
	return x, y
}

// absolute sizes and places one out-of-flow box after CSS Positioned Layout "Absolute Positioning Layout Model".
func (e *Engine) absolute(k *Box) {
	cb := containing(k)
	area := Rect{0, 0, e.width, e.height}
	if cb != nil {
		x, y := e.at(cb)
		area = Rect{x + cb.border[css.Left], y + cb.border[css.Top], cb.W - cb.border[css.Left] - cb.border[css.Right],
			cb.H - cb.border[css.Top] - cb.border[css.Bottom]}
		if cb.kind == inlineBox && len(cb.fragments) > 0 {
			r := cb.fragments[0]
			for _, f := range cb.fragments[1:] {
				r = r.union(f)
			}
			area.W, area.H = r.W, r.H
		}
		if k.area != nil && cb == k.parent {
			area = Rect{x + k.area.X, y + k.area.Y, k.area.W, k.area.H}
		}
	}
	sx, sy := area.X, area.Y
	if k.staticIn != nil {
		x, y := e.at(k.staticIn)
		sx, sy = x+k.staticX, y+k.staticY
	}
	s := k.style
	k.edges(area.W)
	h := k.insets(css.Left, css.Right, area.W, sx-area.X)
	v := k.insets(css.Top, css.Bottom, area.H, sy-area.Y)
	sp := space{cbW: area.W, cbH: area.H, defCB: true, shrink: true}
	stretchW := h.both() && s.Width.IsAuto() && k.kind != replacedBox
	switch {
	case stretchW && !(s.AspectRatio > 0 && v.both()):
		sp.forceW, sp.hasW = e.clampW(k, h.between(k), area.W, true), true
	case s.Width.IsAuto() && k.kind != replacedBox:
		avail := area.W
		switch {
		case h.hasStart:
			avail -= h.start
		case h.hasEnd:
			avail -= h.end
		default:
			avail -= h.static
		}
		lo, hi := e.intrinsic(k)
		w := min(max(lo, avail-k.margin[css.Left]-k.margin[css.Right]), hi)
		if s.AspectRatio > 0 && v.both() && s.Height.IsAuto() {
			w = e.ratioWidth(k, v.between(k))
		} else if h, ok := e.plainHeight(k, sp); ok && s.AspectRatio > 0 {
			w = e.ratioWidth(k, h)
		}
		sp.forceW, sp.hasW = e.clampW(k, w, area.W, true), true
	}
	if v.both() && s.Height.IsAuto() && k.kind != replacedBox && s.AspectRatio == 0 {
		sp.forceH = e.clampH(k, v.between(k), sp)
		sp.hasH, sp.defH = true, true
	}
	e.layout(k, sp)
	x, y := h.place(k, k.W), v.place(k, k.H)
	if k.staticIn != nil && (k.staticIn.kind == flexBox || k.staticIn.kind == gridBox) {
		x, y = e.soleItem(k, x, y, h.hasStart || h.hasEnd, v.hasStart || v.hasEnd)
	}
	k.origin = nil
	k.X, k.Y = area.X+x, area.Y+y
}

// insets are those of an absolutely positioned box along one axis (CSS 2, sections 10.3.7 and 10.6.4; css-position-3).
type insets struct {
	startSide, endSide int
	start, end         Px
	hasStart, hasEnd   bool // they are not auto
	room               Px   // of the containing block
	static             Px   // where the box would stand in flow, from the start of the containing block
}

func (k *Box) insets(start, end int, room, static Px) insets {
	in := insets{startSide: start, endSide: end, room: room, static: static}
	in.hasStart, in.hasEnd = !k.style.Inset[start].IsAuto(), !k.style.Inset[end].IsAuto()
	if in.hasStart {
		in.start = k.style.Inset[start].Resolve(room)
	}
	if in.hasEnd {
		in.end = k.style.Inset[end].Resolve(room)
	}
	return in
}

func (in *insets) both() bool { return in.hasStart && in.hasEnd }

// between is the size of a box that is stretched from one inset to the other.
func (in *insets) between(k *Box) Px {
	return in.room - in.start - in.end - k.margin[in.startSide] - k.margin[in.endSide]
}

// place gives where the box begins, from the start of the containing block.
func (in *insets) place(k *Box, size Px) Px {
	switch {
	case in.both():
		free := in.between(k) - size
		switch {
		case k.autoMargin[in.startSide] && k.autoMargin[in.endSide]:
			if free < 0 && in.startSide == css.Left {
				return in.start
			}
			return in.start + free/2
		case k.autoMargin[in.startSide]:
			return in.start + free
		}
		return in.start + k.margin[in.startSide]
	case in.hasStart:
		return in.start + k.margin[in.startSide]
	case in.hasEnd:
		return in.room - in.end - size - k.margin[in.endSide]
	}
	return in.static + k.margin[in.startSide]
}

// soleItem aligns an absolutely positioned child of a flex or grid container as if it were the only item.
func (e *Engine) soleItem(k *Box, x, y Px, fixedX, fixedY bool) (Px, Px) {
	p := k.staticIn
	roomX := p.W - p.inlineEdges() - k.W - k.margin[css.Left] - k.margin[css.Right]
	roomY := p.H - p.blockEdges() - k.H - k.margin[css.Top] - k.margin[css.Bottom]
	justify, align := p.style.JustifyContent, k.style.AlignSelf
	if align == "" {
		align = p.style.AlignItems
	}
	row := p.kind == gridBox || p.style.FlexDirection == "row" || p.style.FlexDirection == "row-reverse"
	if p.kind == gridBox {
		justify = k.style.JustifySelf
		if justify == "" {
			justify = p.style.JustifyItems
		}
	}
	h, v := justify, align
	if !row {
		h, v = align, justify
	}
	at := func(a css.Align, room Px) Px {
		switch a {
		case "center", "space-around", "space-evenly":
			return floorHalf(room)
		case "end", "flex-end":
			return room
		}
		return 0
	}
	// its own alignment looks at the padding box (measured)
	if p.kind == gridBox && k.style.JustifySelf != "" && !fixedX {
		x -= p.padding[css.Left]
		roomX += p.padding[css.Left] + p.padding[css.Right]
	}
	if p.kind == gridBox && k.style.AlignSelf != "" && !fixedY {
		y -= p.padding[css.Top]
		roomY += p.padding[css.Top] + p.padding[css.Bottom]
	}
	if !fixedX {
		x += at(h, roomX)
	}
	if !fixedY {
		y += at(v, roomY)
	}
	return x, y
}

// matrix is a 2D affine transform.
type matrix struct{ a, b, c, d, e, f float64 }

var identity = matrix{a: 1, d: 1}

func (m matrix) mul(n matrix) matrix {
	return matrix{m.a*n.a + m.c*n.b, m.b*n.a + m.d*n.b, m.a*n.c + m.c*n.d, m.b*n.c + m.d*n.d, m.a*n.e + m.c*n.f + m.e,
		m.b*n.e + m.d*n.f + m.f}
}

func (m matrix) rect(r Rect) Rect {
	if m == identity {
		return r
	}
	minX, minY, maxX, maxY := math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	for _, p := range [4][2]float64{{r.X.Float(), r.Y.Float()}, {r.Right().Float(), r.Y.Float()},
		{r.X.Float(), r.Bottom().Float()}, {r.Right().Float(), r.Bottom().Float()}} {
		x, y := m.a*p[0]+m.c*p[1]+m.e, m.b*p[0]+m.d*p[1]+m.f
		minX, maxX, minY, maxY = min(minX, x), max(maxX, x), min(minY, y), max(maxY, y)
	}
	return Rect{css.FromFloat(minX), css.FromFloat(minY), css.FromFloat(maxX - minX), css.FromFloat(maxY - minY)}
}

// transformOf gives a box's own transform around its origin, in page coordinates.
func transformOf(s *css.Style, r Rect) matrix {
	m := identity
	w, h := r.W, r.H
	ox, oy := r.X.Float()+s.TransformOrigin[0].Resolve(w).Float(), r.Y.Float()+s.TransformOrigin[1].Resolve(h).Float()
	m = m.mul(matrix{1, 0, 0, 1, ox, oy})
	m = m.mul(matrix{1, 0, 0, 1, s.Translate[0].Resolve(w).Float(), s.Translate[1].Resolve(h).Float()})
	m = m.mul(rotation(s.Rotate))
	m = m.mul(matrix{a: s.Scale[0], d: s.Scale[1]})
	for _, t := range s.Transform {
		n := func(i int, def float64) float64 {
			if i < len(t.N) {
				return t.N[i]
			}
			return def
		}
		x, y := t.Len[0].Resolve(w).Float(), t.Len[1].Resolve(h).Float()
		switch t.Name {
		case "translate", "translate3d":
			m = m.mul(matrix{1, 0, 0, 1, x, y})
		case "translatex":
			m = m.mul(matrix{1, 0, 0, 1, x, 0})
		case "translatey":
			m = m.mul(matrix{1, 0, 0, 1, 0, t.Len[0].Resolve(h).Float()})
		case "scale", "scale3d":
			m = m.mul(matrix{a: n(0, 1), d: n(1, n(0, 1))})
		case "scalex":
			m = m.mul(matrix{a: n(0, 1), d: 1})
		case "scaley":
			m = m.mul(matrix{a: 1, d: n(0, 1)})
		case "rotate", "rotatez":
			m = m.mul(rotation(n(0, 0)))
		case "skewx":
			m = m.mul(matrix{a: 1, d: 1, c: math.Tan(n(0, 0))})
		case "skewy":
			m = m.mul(matrix{a: 1, d: 1, b: math.Tan(n(0, 0))})
		case "matrix":
			m = m.mul(matrix{n(0, 1), n(1, 0), n(2, 0), n(3, 1), n(4, 0), n(5, 0)})
		}
	}
	return m.mul(matrix{1, 0, 0, 1, -ox, -oy})
}

func rotation(a float64) matrix {
	sin, cos := math.Sincos(a)
	return matrix{a: cos, b: sin, c: -sin, d: cos}
}

// walker carries what flows down the box tree when places become final.
type walker struct {
	e      *Engine
	r      *Result
	right  Px
	bottom Px
	slab   []Rect // memory for the rectangles of texts
	tops   [][]Px // upper edges of the lines of each element's own text
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
	if b.style.MakesContaining {
		f.m = f.m.mul(transformOf(b.style, rect))
	}
	page := f.m.rect(rect)
	w.reach(b.el, page, f)
	if m := b.margin[css.Right]; m > 0 && b.atomic() { // the line it stands on ends after its margin (measured)
		w.reach(b.el, f.m.rect(Rect{rect.X, rect.Y, rect.W + m, rect.H}), in)
	}
	w.note(b, rect, page, f)
	f.cut(b, rect)
	if b.el != nil {
		if i := w.r.ByIndex[b.el.Index]; i >= 0 {
			p := &w.r.Boxes[i]
			p.Window, p.Cropped, p.Scrolls = f.clip, f.clips, f.scrolls
		}
	}
	if b.para != nil && b.contentY()+b.contentH > b.H { // lines count as a whole, not as their text (measured)
		w.reach(b.el, f.m.rect(Rect{rect.X + b.contentX(), rect.Y + b.contentY(), 1, b.contentH}), f)
	}
	if b.style.SnapType != "" {
		dx, dy := w.e.snapped(b)
		f.move(-dx, -dy)
	}
	for _, k := range b.kids {
		w.box(k, f, abs)
	}
}

// frameOf gives the frame of a box in that of its origin.
func (w *walker) frameOf(b *Box, in frame) frame {
	f := in
	switch {
	case b.outOfFlow():
		return frameOutOfFlow(b, in)
	case b.kind == inlineBox || b.kind == textBox || b.kind == breakBox || b.kind == wordBreakBox:
		if b.kind == inlineBox && b.style.Position == css.Relative {
			f.move(w.offset(b))
		}
	default:
		f.x, f.y = in.x+b.X, in.y+b.Y
		if b.style.Position == css.Relative {
			f.move(w.offset(b))
		}
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
	return f
}

// note puts a box on the list of what is seen: that of an element, or one of its ::before and ::after.
func (w *walker) note(b *Box, rect, page Rect, f frame) {
	if b.el != nil {
		content := Rect{rect.X + b.contentX(), rect.Y + b.contentY(), b.W - b.inlineEdges(), b.H - b.blockEdges()}
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
	if s.OverflowX == "visible" && s.OverflowY == "visible" || b.el != nil && (b.el.Tag == "html" || b.el.Tag == "body") {
		return
	}
	inner := f.m.rect(Rect{rect.X + b.border[css.Left], rect.Y + b.border[css.Top],
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

// offset gives the shift of a relatively positioned box.
func (w *walker) offset(b *Box) (dx, dy Px) {
	s := b.style
	switch {
	case !s.Inset[css.Left].IsAuto():
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

// stick gives the shift of a sticky box while nothing is scrolled.
func (w *walker) stick(b *Box, f frame) Px {
	if l := b.style.Inset[css.Top]; !l.IsAuto() {
		if want := l.Resolve(w.e.height); f.y < want {
			room := Px(1 << 28)
			if b.origin != nil {
				room = b.origin.H - b.origin.border[css.Bottom] - b.origin.padding[css.Bottom] - b.Y - b.H - b.margin[css.Bottom]
			}
			return max(0, min(want-f.y, room))
		}
	}
	if l := b.style.Inset[css.Bottom]; !l.IsAuto() {
		if want := w.e.height - l.Resolve(w.e.height) - b.H; f.y > want {
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
	w.bottom = max(w.bottom, r.Bottom())
}

func scrollable(overflow string) bool { return overflow == "auto" || overflow == "scroll" }

func (w *walker) add(el *css.Element, s *css.Style, r Rect, f frame, content Rect) *Fragment {
	if el.Foreign && el.Tag != "svg" {
		return nil
	}
	w.r.ByIndex[el.Index] = len(w.r.Boxes)
	w.r.Boxes = append(w.r.Boxes, Fragment{Element: el, Style: s, Rect: r, Clip: f.clip, Clipped: f.clips,
		Above: f.above, Content: content})
	return &w.r.Boxes[len(w.r.Boxes)-1]
}

// owner finds the element whose own text a text box is; nil for generated text.
func owner(b *Box) *css.Element {
	if b.ownerless {
		return nil
	}
	for p := b.parent; p != nil; p = p.parent {
		if p.pseudo != "" {
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
		r := f.m.rect(Rect{run.rect.X + f.x, run.rect.Y + f.y, run.rect.W, run.rect.H})
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
	if b.el != nil && len(b.fragments) > 0 && b.kind == inlineBox {
		var r Rect
		for i, fr := range b.fragments {
			fr.X, fr.Y = fr.X+f.x, fr.Y+f.y
			if i == 0 {
				r = fr
			} else {
				r = r.union(fr)
			}
		}
		page := f.m.rect(r)
		w.reach(b.el, page, f)
		w.add(b.el, b.style, page, f, page)
	} else if key, ok := b.key.(pseudoKey); ok && b.el == nil && b.kind == inlineBox && len(b.fragments) > 0 &&
		(b.pseudo == "before" || b.pseudo == "after") {
		r := b.fragments[0]
		for _, fr := range b.fragments[1:] {
			r = r.union(fr)
		}
		r.X, r.Y = r.X+f.x, r.Y+f.y
		w.r.Generated = append(w.r.Generated, Fragment{Element: key.el, Pseudo: b.pseudo, Style: b.style,
			Rect: f.m.rect(r), Clip: f.clip, Clipped: f.clips, Above: f.above})
	} else if b.el != nil && b.kind == inlineBox { // no line holds it
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
