package layout

import (
	"slices"

	"ziegel/core/css"
)

// boxed counts the elements with a box.
func (e *Engine) boxed() int {
	n := 0
	for _, b := range e.boxes {
		n += bit(b != nil)
	}
	return n
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
