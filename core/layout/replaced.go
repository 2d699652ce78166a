package layout

import (
	"cmp"
	"math"
	"strings"

	"ziegel/core/css"
)

func (e *Engine) layoutReplaced(b *Box, sp space) {
	if b.heightPercent() {
		e.percents++
	}
	switch b.el.Tag {
	case "input", "textarea", "select", "progress", "meter", "audio":
		e.layoutControl(b, sp)
		return
	}
	nw, nh, ratio := e.naturalContained(b)
	s := b.style
	wholeBox := false
	if s.AspectRatio > 0 && (!s.RatioAuto || ratio == 0) {
		ratio, wholeBox = s.AspectRatio, s.BorderBox && !s.RatioAuto
	}
	if b.el.Tag == "img" && nw == 0 && !b.widthContained() {
		e.layoutBroken(b, sp)
		return
	}
	h, hok := Px(0), false
	if sp.hasH {
		h, hok = sp.forceH, true
	} else if l := s.Height; l.Kind == css.LenPx && (!l.HasPercent() || sp.defCB) {
		h, hok = b.borderH(l.Resolve(sp.cbH)), true
		h = e.clampH(b, h, sp)
	}
	w, wok := Px(0), false
	switch {
	case sp.hasW:
		w, wok = sp.forceW, true
	case s.Width.Kind == css.LenPx:
		w, wok = e.clampW(b, b.borderW(s.Width.Resolve(sp.cbW)), sp.cbW, true), true
	}
	fromW := func(w Px) Px { return max(0, css.FromFloat((w-b.inlineEdges()).Float()/ratio)) + b.blockEdges() }
	fromH := func(h Px) Px { return max(0, css.FromFloat((h-b.blockEdges()).Float()*ratio)) + b.inlineEdges() }
	if wholeBox { // the ratio is that of the box that box-sizing names
		fromW = func(w Px) Px { return max(b.blockEdges(), css.FromFloat(w.Float()/ratio)) }
		fromH = func(h Px) Px { return max(b.inlineEdges(), css.FromFloat(h.Float()*ratio)) }
	} else if b.el.Tag == "img" && nw > 0 &&
		ratio == nw/nh { // whole natural sizes: browsers multiply before they divide
		fromW = func(w Px) Px { return max(0, css.FromFloat((w-b.inlineEdges()).Float()*nh/nw)) + b.blockEdges() }
		fromH = func(h Px) Px { return max(0, css.FromFloat((h-b.blockEdges()).Float()*nw/nh)) + b.inlineEdges() }
	}
	switch {
	case wok && hok:
	case wok && ratio > 0:
		h = e.clampH(b, fromW(w), sp)
	case wok:
		if nh == 0 && b.el.Tag == "svg" { // CSS 2, 10.6.2
			nh = 150 * b.style.ZoomFactor()
		}
		h = e.clampH(b, css.FromFloat(max(nh, 0))+b.blockEdges(), sp)
	case hok && ratio > 0:
		w = e.clampW(b, fromH(h), sp.cbW, true)
	default:
		given := h
		w, h = css.FromFloat(nw)+b.inlineEdges(), css.FromFloat(nh)+b.blockEdges()
		if nw == 0 && ratio > 0 {
			w = sp.cbW - b.margin[css.Left] - b.margin[css.Right]
			if b.el.Tag == "svg" && nh > 0 {
				w = fromH(h)
			}
		} else if nw == 0 && !b.widthContained() {
			w = b.style.Zoomed(300) + b.inlineEdges()
		}
		if (nh == 0 || ratio == s.AspectRatio && s.AspectRatio > 0) && ratio > 0 {
			h = fromW(w)
		} else if nh == 0 && !b.sizeContained() {
			h = b.style.Zoomed(150) + b.blockEdges()
		}
		cw := e.clampW(b, w, sp.cbW, true)
		if hok {
			w, h = cw, given
			break
		}
		if cw != w && ratio > 0 {
			h = fromW(cw)
			if ch := e.clampH(b, h, sp); ch != h {
				h, cw = ch, e.clampW(b, fromH(ch), sp.cbW, true)
			} else if b.el.Tag == "img" {
				cw = min(cw, max(fromH(h), cw-1)) // the size is derived twice, each time truncated (measured)
			}
			w = cw
		} else {
			w = cw
			if ch := e.clampH(b, h, sp); ch != h {
				h = ch
				if ratio > 0 {
					w = e.clampW(b, fromH(h), sp.cbW, true)
				}
			}
		}
	}
	if natural := css.FromFloat(nh) + b.blockEdges(); !sp.hasH && (asksContent(s.MinH) || asksContent(s.MaxH)) {
		if ratio > 0 && (wok || nh == 0) {
			natural = fromW(w)
		}
		b.contentH = natural - b.blockEdges()
		if limited := b.byContent(h); limited != h {
			if h = limited; !wok && ratio > 0 {
				w = e.clampW(b, fromH(h), sp.cbW, true)
			}
		}
	}
	b.W, b.H = w, h
}

// naturalContained is natural, but for boxes that are as large as if they were empty.
func (e *Engine) naturalContained(b *Box) (w, h, ratio float64) {
	w, h, ratio = e.natural(b)
	if b.widthContained() {
		w, ratio = max(0, b.style.ContainW.Resolve(0)).Float(), 0
	}
	if b.sizeContained() {
		h = max(0, b.style.ContainH.Resolve(0)).Float()
	}
	return w, h, ratio
}

// layoutBroken sizes a picture that cannot be loaded: in a line its alternative text on one line, or nothing.
func (e *Engine) layoutBroken(b *Box, sp space) {
	if !b.inlineLevel() {
		e.layoutBrokenBlock(b, sp)
		return
	}
	w, h := b.style.Zoomed(16)+b.inlineEdges(), b.style.Zoomed(16)+b.blockEdges()
	alt, named := b.el.LookupAttr("alt")
	switch _, src := b.el.LookupAttr("src"); {
	case alt != "": // an icon and the text
		w += e.textWidth(b.style, alt)
		m := e.metrics(b.style)
		b.W, b.H = w, max(m.above+m.below, b.style.Zoomed(16))+b.blockEdges()
		b.first, b.baselines = b.contentY()+m.above, true
		b.last = b.first
		return
	case !src || named:
		w, h = b.inlineEdges(), b.blockEdges()
	}
	if sp.hasW {
		w = sp.forceW
	} else if b.style.Width.Kind == css.LenPx {
		w = b.borderW(b.style.Width.Resolve(sp.cbW))
	}
	if sp.hasH {
		h = sp.forceH
	} else if l := b.style.Height; l.Kind == css.LenPx && (!l.HasPercent() || sp.defCB) {
		h = b.borderH(l.Resolve(sp.cbH))
	}
	b.W, b.H = e.clampW(b, w, sp.cbW, true), e.clampH(b, h, sp)
}

// controlSize gives the content size of a form control (measured in Chromium for the default look).
func (e *Engine) controlSize(b *Box) (w, h Px) {
	s := b.style
	m := e.metrics(s)
	line := m.above + m.below
	if !s.LineHeight.Normal {
		line = max(m.asc+m.desc, line)
	}
	char, widest := s.FontSize/2, 0.0
	if faces := e.fonts.Find(WantOf(s)); len(faces) > 0 {
		f := faces[0]
		char = f.AvgWidth * f.Scaled(s.FontSize) / f.Upem
		char = max(char, math.Round(char)) // measured, as is all that follows
		widest = math.Round(f.MaxWidth * f.Scaled(s.FontSize) / f.Upem)
	}
	field := func(chars float64) Px {
		return css.FromFloat(math.Ceil(char*chars + max(0, widest-char)))
	}
	switch b.el.Tag {
	case "textarea":
		rows, cols := 2.0, 20.0
		if n := attrNumber(b.el, "rows"); n > 0 {
			rows = n
		}
		if n := attrNumber(b.el, "cols"); n > 0 {
			cols = n
		}
		room := Px(0)                                                             // for a scroll bar
		if (s.OverflowY != "hidden" && s.OverflowY != "clip") && areaScrolls(b) { // visible is as auto
			room = e.px(map[string]float64{"auto": 15, "thin": 10}[s.Scrollbar])
		}
		below := Px(0)
		if s.OverflowX == "scroll" {
			below = e.px(map[string]float64{"auto": 15, "thin": 10}[s.Scrollbar])
		}
		if !s.LineHeight.Normal {
			line = m.above + m.below
		}
		return css.FromFloat(math.Ceil(cols*char)) + room, Px(rows)*line + below
	case "select":
		return e.selectSize(b, line)
	case "progress", "meter":
		return 0, 0
	case "audio":
		return b.style.Zoomed(300), b.style.Zoomed(54)
	}
	if isDate(b.el) {
		return e.dateSize(b)
	}
	switch strings.ToLower(b.el.Attr("type")) {
	case "checkbox", "radio":
		if s.Plain {
			return 0, 0
		}
		if s.Display == css.Grid || s.Display == css.InlineGrid { // (measured)
			return 0, max(0, b.style.Zoomed(13)-b.blockEdges())
		}
		// with its edges (measured)
		return max(0, b.style.Zoomed(13)-b.inlineEdges()), max(0, b.style.Zoomed(13)-b.blockEdges())
	case "image":
		if w, h, _ := e.naturalPicture(b, b.el.Attr("src")); w > 0 {
			return css.FromFloat(w * b.style.ZoomFactor()), css.FromFloat(h * b.style.ZoomFactor())
		}
		return b.style.Zoomed(16) + e.textWidth(s, cmp.Or(b.el.Attr("alt"), "Submit")), b.style.Zoomed(16)
	case "range":
		return b.style.Zoomed(129), b.style.Zoomed(16)
	case "submit", "button", "reset":
		label, given := b.el.LookupAttr("value")
		if kind := strings.ToLower(b.el.Attr("type")); !given && kind != "button" {
			label = map[string]string{"submit": "Submit", "reset": "Reset"}[kind]
		}
		m := e.metrics(e.buttonLine(b))
		return e.textWidth(s, label), m.above + m.below
	case "file":
		w, above, below := e.file(b.el, s)
		return w, above + below
	case "number":
		if lo, hi := b.el.Attr("min"), b.el.Attr("max"); lo != "" && hi != "" && b.el.Attr("size") == "" {
			return field(float64(max(len(lo), len(hi)))) + b.style.Zoomed(15), line
		}
	}
	size := 20.0
	if n := attrNumber(b.el, "size"); n > 0 {
		size = n
	}
	return field(size), line
}

// normalLine gives a style the height of lines that its font has.
func normalLine(s *css.Style) *css.Style {
	own, inh := *s, *s.Inherited
	inh.LineHeight = css.LineHeight{Normal: true}
	own.Inherited = &inh
	return &own
}

// buttonLine gives the style of the label of an input that is a button: its line has its own height as long as the
// browser draws the button (measured).
func (e *Engine) buttonLine(b *Box) *css.Style {
	if b.style.Plain || b.el.FramedByPage() {
		return b.style
	}
	return normalLine(b.style)
}

// isButton reports an input that is a button with a label.
func isButton(el *css.Element) bool {
	switch strings.ToLower(el.Attr("type")) {
	case "submit", "button", "reset":
		return el.Tag == "input"
	}
	return false
}

// boldOf gives a style in bold letters, those of the labels of groups.
func boldOf(s *css.Style) *css.Style {
	own, inh := *s, *s.Inherited
	inh.FontWeight = 700
	own.Inherited = &inh
	return &own
}

// selectSize gives the content size of a select: as wide as its longest option and an arrow, or a list of rows
// (measured).
func (e *Engine) selectSize(b *Box, line Px) (w, h Px) {
	s, list := b.style, e.listed(b)
	options, groups := 0, false
	inside := b.style.Zoomed(1) // below the text of a row
	var walk func(el *css.Element)
	walk = func(el *css.Element) {
		for _, k := range el.Kids() {
			switch text := k.Text(); {
			case k.Tag == "option" && list:
				if options++; options == 1 {
					if st := e.styler.Style(k, s, b.stack); st.BorderBox {
						inside = 0
					}
				}
				own := e.textWidth(s, transformed(s.TextTransform, text))
				if el.Tag == "optgroup" {
					own += b.style.Zoomed(18)
				}
				w = max(w, own)
			case k.Tag == "option":
				options++
				if el.Tag == "optgroup" {
					text = "    " + text
				}
				w = max(w, e.textWidth(s, transformed(s.TextTransform, text)))
			case k.Tag == "optgroup" && list:
				groups = true
				w = max(w, e.textWidth(boldOf(s), k.Attr("label")))
			}
			walk(k)
		}
	}
	walk(b.el)
	if b.sizeContained() {
		w = 0
	}
	m := e.metrics(s)
	normal := m.asc + m.desc
	rows := attrNumber(b.el, "size")
	if list {
		switch {
		case s.FitsField:
			rows = float64(options)
		case rows == 0:
			rows = 4
		}
		least := css.FromFloat(1.2*s.FontSize + 1.0/1024)
		row := max(normal+b.style.Zoomed(1), least+inside)
		switch {
		case groups:
			row = max(row, least+b.style.Zoomed(1))
		case options == 0:
			row = max(normal, least)
		}
		if options > 0 || groups {
			w += b.style.Zoomed(4)
		}
		return w, Px(rows) * row
	}
	w = (w + 63) / 64 * 64
	if s.Plain {
		return w, line
	}
	// whole px around the text, and an arrow that does not become smaller than 15 (measured)
	zoom := b.style.ZoomFactor()
	return w + Px(int(4*zoom)+max(15, int(16*zoom)))*64, normal + Px(2*int(zoom))*64
}

func (e *Engine) layoutControl(b *Box, sp space) {
	w, h := e.controlSize(b)
	if b.sizeContained() && !b.style.ContainW.IsZero() {
		w = max(0, b.style.ContainW.Resolve(0))
	}
	if b.sizeContained() && !b.style.ContainH.IsZero() {
		h = max(0, b.style.ContainH.Resolve(0))
	}
	if fits, ok := e.fieldWidth(b); ok {
		if w = fits; b.el.Tag == "textarea" {
			w = min(w, max(0, sp.cbW-b.inlineEdges()-b.margin[css.Left]-b.margin[css.Right]))
		}
	}
	b.W, b.H = w+b.inlineEdges(), h+b.blockEdges()
	switch {
	case sp.hasW:
		b.W = sp.forceW
	case b.style.Width.Kind == css.LenPx:
		b.W = b.borderW(b.style.Width.Resolve(sp.cbW))
	case b.style.AspectRatio > 0 && b.style.Width.IsAuto():
		b.W = e.controlByRatio(b, sp)
	}
	b.W = e.clampW(b, b.W, sp.cbW, true)
	if high, ok := e.fieldHeight(b, b.W-b.inlineEdges()); ok {
		h = high
		b.H = h + b.blockEdges()
	}
	if sp.hasH {
		b.H = sp.forceH
	} else {
		if l := b.style.Height; l.Kind == css.LenPx && (!l.HasPercent() || sp.defCB) {
			b.H = b.borderH(l.Resolve(sp.cbH))
		} else if b.style.AspectRatio > 0 && l.IsAuto() {
			if own := b.H; isMark(b.el) && b.style.Width.IsAuto() {
				b.H = max(own, e.ratioHeight(b, b.W))
			} else {
				b.H = e.ratioHeight(b, b.W)
			}
		}
		b.contentH = h
		b.H = b.byContent(e.clampH(b, b.H, sp))
	}
	m := e.metrics(b.style)
	switch { // text with a line of its own height (measured)
	case b.el.Tag == "select" && !b.style.Plain:
		m = e.metrics(normalLine(b.style))
		m.above, m.below = m.asc, m.desc // without what a font wants between lines
	case isButton(b.el):
		m = e.metrics(e.buttonLine(b))
	}
	if b.el.Tag == "input" && fieldType(b.el) != "file" && !isDate(b.el) &&
		m.above+m.below < m.asc+m.desc { // lines of fields are not lower than their text (measured)
		m.above, m.below = m.asc, m.desc
	}
	inner := b.H - b.blockEdges()
	b.first = b.contentY() + (inner-m.above-m.below)/2 + m.above
	if b.el.Tag == "select" && !b.style.Plain && !e.listed(b) { // text that is too high begins at the top (measured)
		b.first = max(b.first, b.contentY()+Px(int(b.style.ZoomFactor()))*64+m.above)
	}
	b.last, b.baselines = b.first, true
	switch b.el.Tag + " " + strings.ToLower(b.el.Attr("type")) {
	case "input checkbox", "input radio", "input range":
		b.baselines = !b.style.Plain || strings.EqualFold(b.el.Attr("type"), "range")
		b.first, b.last = b.H, b.H // they stand on the baseline, their margin below it (measured)
	case "input color":
		inside := b.H - b.blockEdges() // the lower edge of the sample, which stands in the middle
		b.first = b.contentY() + (inside+max(b.style.Zoomed(4), inside-b.style.Zoomed(8)))/2
		b.last = b.first
	case "input file":
		b.first = b.contentY() + e.FileBaseline(b.el, b.style)
		b.last = b.first
	case "input image":
		b.first = b.contentY() + m.asc
		if w, _, _ := e.naturalPicture(b, b.el.Attr("src")); w > 0 {
			b.first = b.H
		}
		b.last = b.first
	}
	if b.el.Tag == "select" && e.listed(b) { // that of its last row (measured)
		b.last = b.H - b.padding[css.Bottom] - b.border[css.Bottom] - m.desc
	}
	switch b.el.Tag {
	case "progress", "meter", "audio":
		b.baselines = false
	case "textarea": // that of its first line, but not among text
		b.first = b.contentY() + m.above
	}
}

// isMark reports a box to tick, or one of several to choose from.
func isMark(el *css.Element) bool {
	kind := fieldType(el)
	return kind == "checkbox" || kind == "radio"
}

// controlByRatio gives the width of a control with a ratio: by its height where that is given, which only text areas
// and marks follow below their own width, and not less than its least height asks for (measured).
func (e *Engine) controlByRatio(b *Box, sp space) Px {
	w := b.W
	if h, ok := e.plainHeight(b, sp); ok {
		if w = max(w, e.ratioWidth(b, h)); b.el.Tag == "textarea" || isMark(b.el) {
			w = e.ratioWidth(b, h)
		}
	}
	return e.transferred(b, w, sp)
}

// intrinsicReplaced gives the natural width as both contributions.
func (e *Engine) intrinsicReplaced(b *Box) (Px, Px) {
	switch b.el.Tag {
	case "input", "textarea", "select", "progress", "meter", "audio":
		w, _ := e.controlSize(b)
		return w + b.inlineEdges(), w + b.inlineEdges()
	}
	nw, nh, ratio := e.naturalContained(b)
	s := b.style
	if b.widthContained() && ratio == 0 {
		w := css.FromFloat(nw) + b.inlineEdges()
		return w, w
	}
	if b.el.Tag == "img" && nw == 0 && nh == 0 && ratio == 0 {
		if alt := b.el.Attr("alt"); alt != "" && b.inlineLevel() {
			w := b.style.Zoomed(16) + e.textWidth(s, alt) + b.inlineEdges()
			return w, w
		}
		if !b.inlineLevel() {
			lo, hi := e.intrinsic(e.standsIn(b))
			return lo + b.inlineEdges(), hi + b.inlineEdges()
		}
	}
	if s.AspectRatio > 0 && (!s.RatioAuto || ratio == 0) {
		ratio = s.AspectRatio
		// the ratio is that of the border box
		if l := s.Height; s.BorderBox && l.Kind == css.LenPx && !l.HasPercent() {
			w := max(b.inlineEdges(), css.FromFloat(b.borderH(l.Resolve(0)).Float()*ratio))
			return w, w
		}
	}
	if l := s.Height; l.Kind == css.LenPx && !l.HasPercent() && ratio > 0 {
		w := css.FromFloat((b.borderH(l.Resolve(0))-b.blockEdges()).Float()*ratio) + b.inlineEdges()
		return w, w
	}
	if nw == 0 && nh > 0 && ratio > 0 {
		nw = nh * ratio
	}
	if nw == 0 && b.el.Tag == "svg" {
		if ratio > 0 {
			return b.inlineEdges(), b.inlineEdges() + b.style.Zoomed(300)
		}
		nw = 300 * b.style.ZoomFactor()
	}
	if m := s.MaxH; m.Kind == css.LenPx && !m.HasPercent() && ratio > 0 && nh > 0 {
		if hi := m.Resolve(0).Float(); nh > hi {
			nw = hi * ratio
		}
	}
	w := css.FromFloat(nw) + b.inlineEdges()
	return w, w
}
