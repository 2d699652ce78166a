package layout

import (
	"strconv"
	"strings"

	"ziegel/core/css"
)

// askedWidth gives the border-box width that a box asks for.
func (e *Engine) askedWidth(b *Box, sp space) Px {
	s := b.style
	avail := sp.cbW - b.margin[css.Left] - b.margin[css.Right]
	if sp.hasRoom {
		avail = sp.room - b.margin[css.Left] - b.margin[css.Right]
	}
	shrink := sp.shrink || b.el != nil && b.el.Tag == "button" && !b.inlineLevel() ||
		b.parent != nil && b.selfAligned(b.parent) != ""
	var w Px
	switch s.Width.Kind {
	case css.LenPx:
		w = b.borderW(s.Width.Resolve(sp.cbW))
	case css.LenMinContent:
		w, _ = e.intrinsic(b)
	case css.LenMaxContent:
		_, w = e.intrinsic(b)
	case css.LenFitContent:
		lo, hi := e.shrinks(b)
		limit := avail
		if s.Width.Arg {
			l := s.Width
			l.Kind = css.LenPx
			limit = b.borderW(l.Resolve(sp.cbW))
		}
		w = min(max(lo, limit), hi)
	default:
		if s.AspectRatio > 0 {
			if h, ok := e.plainHeight(b, sp); ok {
				w = e.widthByRatio(b, h)
				break
			}
		}
		if shrink {
			lo, hi := e.shrinks(b)
			w = min(max(lo, avail), hi)
		} else {
			w = max(avail, b.inlineEdges())
		}
		w = e.transferred(b, w, sp)
	}
	return e.clampW(b, w, sp.cbW, true)
}

// shrinks gives the least and the greatest width of a box that is as wide as its content. A table is up to as wide as
// the percentages of its columns ask for, also where it does not hand that on to what holds it.
func (e *Engine) shrinks(b *Box) (lo, hi Px) {
	lo, hi = e.intrinsic(b)
	if b.kind == tableBox {
		hi = max(hi, b.shrunkTo+b.inlineEdges())
	}
	return lo, hi
}

// widthByRatio gives the width that a ratio makes of a height: not less than what is in the box, but for fieldsets
// (css-sizing-4, section 4.3; measured).
func (e *Engine) widthByRatio(b *Box, h Px) Px {
	w := e.ratioWidth(b, h)
	if s := b.style; s.MinW.IsAuto() && s.OverflowX == "visible" && (b.el == nil || b.el.Tag != "fieldset") {
		lo, _ := e.intrinsic(b)
		w = max(w, lo)
	}
	return w
}

// transferred limits an automatic width by the min- and max-height of a box with an aspect-ratio, which is never less
// high than its edges.
func (e *Engine) transferred(b *Box, w Px, sp space) Px {
	s := b.style
	if s.AspectRatio == 0 {
		return w
	}
	if m := s.MaxH; m.Kind == css.LenPx && (!m.HasPercent() || sp.defCB) {
		w = min(w, e.ratioWidth(b, b.borderH(m.Resolve(sp.cbH))))
	}
	if m := s.MinH; m.Kind == css.LenPx && (!m.HasPercent() || sp.defCB) {
		w = max(w, e.ratioWidth(b, b.borderH(m.Resolve(sp.cbH))))
	}
	if b.kind != replacedBox {
		w = max(w, e.ratioWidth(b, b.blockEdges()))
	}
	return w
}

// limit resolves a min- or max- size to a border-box length; ok is false for none and auto.
func (e *Engine) limitW(b *Box, l css.Len, base Px) (Px, bool) {
	h := b.style.Height
	byRatio := asksContent(l) && b.style.AspectRatio > 0 && b.kind != replacedBox &&
		h.Kind == css.LenPx && !h.HasPercent()
	if byRatio { // the ratio says how large the content is (css-sizing-4, section 4.3)
		return e.ratioWidth(b, b.borderH(h.Resolve(0))), true
	}
	switch l.Kind {
	case css.LenPx:
		return b.borderW(l.Resolve(b.filled(l, base, 0))), true
	case css.LenMinContent:
		lo, _ := e.intrinsic(b)
		return lo, true
	case css.LenMaxContent:
		_, hi := e.intrinsic(b)
		return hi, true
	case css.LenFitContent:
		lo, hi := e.intrinsic(b)
		return min(max(lo, base-b.margin[css.Left]-b.margin[css.Right]), hi), true
	}
	return 0, false
}

// clampW applies min-width and max-width. Percentages need a base.
func (e *Engine) clampW(b *Box, w, base Px, definite bool) Px {
	if hi, ok := e.limitW(b, b.style.MaxW, base); ok && (definite || !b.style.MaxW.HasPercent()) {
		w = min(w, hi)
	}
	if lo, ok := e.limitW(b, b.style.MinW, base); ok && (definite || !b.style.MinW.HasPercent()) {
		w = max(w, lo)
	}
	return max(w, b.inlineEdges())
}

func (e *Engine) clampH(b *Box, h Px, sp space) Px {
	if b.style.MaxH.HasPercent() || b.style.MinH.HasPercent() {
		e.percents++
	}
	if m := b.style.MaxH; m.Kind == css.LenPx && (!m.HasPercent() || sp.defCB) {
		h = min(h, b.borderH(m.Resolve(b.filled(m, sp.cbH, 1))))
	}
	if m := b.style.MinH; m.Kind == css.LenPx && (!m.HasPercent() || sp.defCB) {
		h = max(h, b.borderH(m.Resolve(b.filled(m, sp.cbH, 1))))
	}
	if b.sizeContained() { // a legend counts for nothing, either
		return max(h, b.blockEdges()-b.legendRoom)
	}
	return max(h, b.blockEdges())
}

// filled gives what a limit refers to in an axis: the containing block, and for stretch what insets leave of it.
func (b *Box) filled(l css.Len, room Px, axis int) Px {
	if l.Fill {
		return room - b.taken[axis]
	}
	return room
}

// plainHeight gives the border-box height that a height property sets by itself.
func (e *Engine) plainHeight(b *Box, sp space) (Px, bool) {
	if sp.hasH {
		return sp.forceH, true
	}
	l := b.style.Height
	if l.HasPercent() {
		e.percents++
	}
	if l.Kind != css.LenPx || l.HasPercent() && !sp.defCB {
		return 0, false
	}
	return e.clampH(b, b.borderH(l.Resolve(sp.cbH)), sp), true
}

// givenHeight gives the border-box height when it is known before the content, and whether percentages inside may use
// it.
func (e *Engine) givenHeight(b *Box, sp space) (Px, bool) {
	if sp.hasH {
		return sp.forceH, sp.defH
	}
	if h, ok := e.plainHeight(b, sp); ok {
		return h, true
	}
	if b.style.AspectRatio > 0 && b.style.Height.IsAuto() && !e.growsByContent(b) {
		return e.clampH(b, e.ratioHeight(b, b.W), sp), true
	}
	return 0, false
}

// growsByContent reports the automatic minimum height of boxes with an aspect-ratio. Fieldsets and containers of
// columns have none (measured).
func (e *Engine) growsByContent(b *Box) bool {
	o := b.style.OverflowY
	return b.style.MinH.IsAuto() && (o == "visible" || o == "clip") && !b.multicol() &&
		(b.el == nil || b.el.Tag != "fieldset")
}

// ratioOfBorder reports a ratio that is one of the border box: that of `auto 2` is always one of the content
// (css-sizing-4, section 6.1).
func (b *Box) ratioOfBorder() bool { return b.style.BorderBox && !b.style.RatioAuto }

func (e *Engine) ratioHeight(b *Box, w Px) Px {
	if b.ratioOfBorder() {
		return css.FromFloat(w.Float() / b.style.AspectRatio)
	}
	return css.FromFloat((w-b.inlineEdges()).Float()/b.style.AspectRatio) + b.blockEdges() - b.legendRoom
}

func (e *Engine) ratioWidth(b *Box, h Px) Px {
	if b.ratioOfBorder() {
		return css.FromFloat(h.Float() * b.style.AspectRatio)
	}
	return css.FromFloat((h-b.blockEdges()+b.legendRoom).Float()*b.style.AspectRatio) + b.inlineEdges()
}

// asksContent reports a size that is one of the content.
func asksContent(l css.Len) bool {
	return l.Kind == css.LenMinContent || l.Kind == css.LenMaxContent || l.Kind == css.LenFitContent
}

// byContent clamps a height by limits that are those of the content (CSS Sizing 3, 3.1: in the block axis each keyword
// is the height that auto has).
func (b *Box) byContent(h Px) Px {
	if b.el != nil && b.el.Tag == "fieldset" { // they take no limits of this kind (measured)
		return h
	}
	content := b.contentH + b.blockEdges()
	if asksContent(b.style.MaxH) {
		if h = min(h, content); b.style.MinH.Kind == css.LenPx && !b.style.MinH.HasPercent() {
			h = max(h, b.borderH(b.style.MinH.Resolve(0)))
		}
	}
	if asksContent(b.style.MinH) {
		h = max(h, content)
	}
	return h
}

// finalHeight gives the border-box height of a box whose content is contentH high.
func (e *Engine) finalHeight(b *Box, sp space) Px {
	if sp.hasH {
		return sp.forceH
	}
	if b.display == css.TableCell { // what it asks for is the least
		h := b.contentH + b.blockEdges()
		if l := b.style.Height; l.Kind == css.LenPx && !l.HasPercent() {
			if e.doc.Quirks { // (Quirks Mode, section 3.9)
				h = max(h, l.Resolve(0))
			} else {
				h = max(h, b.borderH(l.Resolve(0)))
			}
		}
		return h
	}
	if h, ok := e.plainHeight(b, sp); ok {
		return b.byContent(h)
	}
	if b.sizeContained() {
		b.contentH = max(0, b.style.ContainH.Resolve(0))
	}
	h := b.contentH + b.blockEdges()
	if b.sizeContained() {
		h -= b.legendRoom
	}
	if b.style.AspectRatio > 0 && (b.style.Height.IsAuto() || b.style.Height.HasPercent()) {
		r := e.ratioHeight(b, b.W)
		if e.growsByContent(b) && b.style.Height.IsAuto() { // a percentage of nothing does not grow (measured)
			h = max(h, r)
		} else {
			h = r
		}
	}
	if e.doc.Quirks && b.style.Height.IsAuto() && b.el != nil {
		h = max(h, e.quirkHeight(b))
	}
	return e.clampH(b, h, sp)
}

// quirkHeight is how high html and body are at least in old documents: they fill the window (Quirks Mode, sections 3.6
// and 3.7).
func (e *Engine) quirkHeight(b *Box) Px {
	r := e.root
	if r == nil || b != r && (b.el != e.doc.Body || b.aside()) {
		return 0
	}
	h := e.height - r.margin[css.Top] - r.margin[css.Bottom]
	if b != r {
		h -= r.blockEdges() + b.margin[css.Top] + max(b.margin[css.Bottom], b.endMargin)
	}
	return max(0, h)
}

// natural gives a replaced element's natural size and ratio, CSS px; zero means it has none.
func (e *Engine) natural(b *Box) (w, h, ratio float64) {
	w, h, ratio = e.asSeen(b)
	if b.parent != nil && b.parent.style.Mode != css.Horizontal { // laid out as if it lay on its side
		if w, h = h, w; ratio > 0 {
			ratio = 1 / ratio
		}
	}
	return w, h, ratio
}

func (e *Engine) asSeen(b *Box) (w, h, ratio float64) {
	el := b.el
	if n := e.nature[el.Index]; n != nil && !(el.Tag == "img" && choosesPicture(el)) {
		return n[0], n[1], n[2]
	}
	w, h, ratio = e.readNature(b)
	w, h = w*b.style.ZoomFactor(), h*b.style.ZoomFactor()
	e.nature[el.Index] = &[3]float64{w, h, ratio}
	return w, h, ratio
}

// keptNature reports whether an img that chooses its file by the width still shows one of the same size, else it
// gives the new one.
func (e *Engine) keptNature(b *Box) (w, h, ratio float64, kept bool) {
	old := e.nature[b.el.Index]
	if old == nil || b.el.Tag != "img" || !choosesPicture(b.el) {
		return 0, 0, 0, true
	}
	w, h, ratio = e.readNature(b)
	w, h = w*b.style.ZoomFactor(), h*b.style.ZoomFactor()
	return w, h, ratio, *old == [3]float64{w, h, ratio}
}

func (e *Engine) readNature(b *Box) (w, h, ratio float64) {
	el := b.el
	switch el.Tag {
	case "img":
		src, density := pictureSource(e.styler, el)
		w, h, ratio = e.naturalPicture(b, src)
		return w / density, h / density, ratio
	case "svg":
		return naturalSVG(el)
	case "video", "canvas", "iframe", "object", "embed":
		w, h = 300, 150
		if el.Tag == "canvas" {
			if aw := attrNumber(el, "width"); aw > 0 {
				w = aw
			}
			if ah := attrNumber(el, "height"); ah > 0 {
				h = ah
			}
			return w, h, w / h
		}
		return w, h, 0
	}
	return 0, 0, 0
}

func (e *Engine) naturalPicture(b *Box, src string) (w, h, ratio float64) {
	if src != "" && e.opts.Picture != nil {
		if w, h, ok := e.opts.Picture(src); ok && w > 0 && h > 0 {
			return w, h, w / h
		}
	}
	return 0, 0, 0
}

func naturalSVG(el *css.Element) (w, h, ratio float64) {
	w, h = attrNumber(el, "width"), attrNumber(el, "height")
	box := strings.FieldsFunc(el.Attr("viewBox"), func(r rune) bool { return r == ' ' || r == ',' })
	if len(box) == 0 {
		box = strings.FieldsFunc(el.Attr("viewbox"), func(r rune) bool { return r == ' ' || r == ',' })
	}
	if len(box) == 4 {
		bw, _ := strconv.ParseFloat(box[2], 64)
		bh, _ := strconv.ParseFloat(box[3], 64)
		if bw > 0 && bh > 0 {
			ratio = bw / bh
		}
	}
	if w > 0 && h > 0 {
		ratio = w / h
	}
	return w, h, ratio
}

func attrNumber(el *css.Element, name string) float64 {
	n, _ := strconv.ParseFloat(strings.TrimSuffix(el.Attr(name), "px"), 64)
	return n
}

// clampHeight gives the height of the first LineClamp lines.
func (b *Box) clampHeight() Px {
	if len(b.para.lines) <= b.style.LineClamp || len(b.para.bottoms) < b.style.LineClamp {
		return b.contentH
	}
	return b.para.bottoms[b.style.LineClamp-1]
}

// mainLimit gives min- and max-height of a column container with auto height, content-box.
func (f *flexBoxState) mainLimit(sp space) mainLimits {
	if f.row {
		return mainLimits{}
	}
	b, s := f.b, f.b.style
	var m mainLimits
	if s.MinH.Kind == css.LenPx && (!s.MinH.HasPercent() || sp.defCB) {
		m.lo = max(0, b.borderH(s.MinH.Resolve(sp.cbH))-b.blockEdges())
	}
	if s.MaxH.Kind == css.LenPx && (!s.MaxH.HasPercent() || sp.defCB) {
		m.hi, m.hasHi = max(0, b.borderH(s.MaxH.Resolve(sp.cbH))-b.blockEdges()), true
	}
	if s.AspectRatio > 0 && s.Height.IsAuto() {
		m.lo = max(m.lo, f.e.ratioHeight(b, b.W)-b.blockEdges())
	}
	return m
}

const (
	colAxis = 0
	rowAxis = 1
)

// subgridIn reports whether a box is a subgrid in an axis.
func subgridIn(k *Box, axis int) bool {
	if k.kind != gridBox || k.outOfFlow() {
		return false
	}
	if axis == colAxis {
		return k.style.GridCols.Subgrid
	}
	return k.style.GridRows.Subgrid
}

// widths gives an item's width contributions, margins included.
func (g *gridState) widths(it *gridItem, base Px) (Px, Px) {
	lo, hi := g.e.contribution(it.b, base)
	k := it.b
	if h, ok := g.fixedRows(it); ok && k.kind == replacedBox && k.style.Height.HasPercent() &&
		k.style.Width.IsAuto() {
		if _, _, ratio := g.e.natural(k); ratio > 0 {
			w := css.FromFloat((k.borderH(k.style.Height.Resolve(h))-k.blockEdges()).Float()*ratio) + k.inlineEdges()
			w = g.e.clampW(k, w, 0, false) + k.margin[css.Left] + k.margin[css.Right]
			return w, w
		}
	}
	return lo, hi
}

// fixedRows gives the height of an item's rows when all have a fixed size.
func (g *gridState) fixedRows(it *gridItem) (Px, bool) {
	h := g.rows.gap * Px(it.rowEnd-it.row-1)
	for _, t := range g.rows.tracks[it.row:it.rowEnd] {
		if t.Min.Kind != css.LenPx || t.Max.Kind != css.LenPx || t.Min.HasPercent() || t.Max.HasPercent() {
			return 0, false
		}
		h += max(t.Min.Resolve(0), t.Max.Resolve(0))
	}
	return h, true
}

// minFor gives the minimum contribution of an item to a track. A min-content constraint does not raise automatic
// minimums (measured).
func (g *gridState) minFor(t *gridTrack, it span, mode byte) Px {
	switch t.Min.Kind {
	case css.LenMinContent:
		return it.lo
	case css.LenMaxContent:
		return it.hi
	}
	if mode == 'M' {
		return max(it.least, it.hi*Px(bit(t.Max.Kind != css.LenPx)))
	}
	if t.Max.Kind == css.LenPx { // the automatic minimum is limited by a fixed maximum
		return min(it.least, max(t.limit, 0))
	}
	return it.least
}

// contribution gives the min- and max-content contributions of a child to its container, margins included.
// Percentages of the unknown width count as auto.
func (e *Engine) contribution(k *Box, base Px) (Px, Px) {
	k.edges(base)
	lo, hi := e.outerSizes(k)
	m := k.margin[css.Left] + k.margin[css.Right]
	return max(0, lo+m), max(0, hi+m)
}

// outerSizes gives border-box contributions without margins.
func (e *Engine) outerSizes(k *Box) (Px, Px) {
	s := k.style
	var lo, hi Px
	switch w := s.Width; {
	case k.kind == tableBox:
		lo, hi = e.intrinsic(k)
		if w.Kind == css.LenPx && !w.HasPercent() {
			lo = max(lo, e.clampW(k, k.borderW(w.Resolve(0)), 0, false))
			return lo, lo
		}
	case w.Kind == css.LenPx && !w.HasPercent():
		lo = k.borderW(w.Resolve(0))
		hi = lo
	case w.Kind == css.LenMinContent:
		lo, _ = e.intrinsic(k)
		hi = lo
	case w.Kind == css.LenMaxContent:
		_, lo = e.intrinsic(k)
		hi = lo
	default:
		lo, hi = e.intrinsic(k)
		if s.AspectRatio == 0 || k.kind == replacedBox {
			break
		}
		if s.Height.Kind == css.LenPx && !s.Height.HasPercent() {
			lo = e.widthByRatio(k, k.borderH(s.Height.Resolve(0)))
			hi = lo
			break
		}
		lo, hi = e.transferred(k, lo, space{}), e.transferred(k, hi, space{})
	}
	if k.kind == replacedBox && (s.Width.HasPercent() || s.MaxW.Kind == css.LenPx && s.MaxW.HasPercent()) {
		// compressible: a percentage makes its minimum 0, whatever its width attribute says (measured)
		lo = k.inlineEdges()
		if s.MinW.Kind != css.LenPx { // keywords do not raise it either (measured)
			return lo, e.clampW(k, hi, 0, false)
		}
	}
	return e.clampW(k, lo, 0, false), e.clampW(k, hi, 0, false)
}
