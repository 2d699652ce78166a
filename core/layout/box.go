package layout

import (
	"strings"

	"ziegel/core/css"
	"ziegel/core/font"
)

// madeBox is a box whose children need not be looked for in the document.
func madeBox(n node) *Box { return &Box{node: n, memory: memory{built: true}} }

// Right gives the right edge.
func (r Rect) Right() Px { return r.X + r.W }

// Bottom gives the lower edge.
func (r Rect) Bottom() Px { return r.Y + r.H }

// Empty reports a rectangle without area.
func (r Rect) Empty() bool { return r.W <= 0 || r.H <= 0 }

func (r Rect) union(o Rect) Rect {
	if r == (Rect{}) {
		return o
	}
	x, y := min(r.X, o.X), min(r.Y, o.Y)
	return Rect{x, y, max(r.Right(), o.Right()) - x, max(r.Bottom(), o.Bottom()) - y}
}

// Intersect gives the common area, empty when there is none.
func (r Rect) Intersect(o Rect) Rect {
	x, y := max(r.X, o.X), max(r.Y, o.Y)
	return Rect{x, y, max(0, min(r.Right(), o.Right())-x), max(0, min(r.Bottom(), o.Bottom())-y)}
}

func (s *marginSet) add(m Px) {
	if m > 0 {
		s.pos = max(s.pos, m)
	} else {
		s.neg = min(s.neg, m)
	}
}

// addOf adds a margin of a box. In old documents those that browsers give by themselves vanish at the edges of the
// page and of cells (Quirks Mode, section 3.5).
func (s *marginSet) addOf(e *Engine, b *Box, side int) {
	if m := b.margin[side]; m > 0 && e.doc.Quirks && b.ownMargin(side) {
		s.quirk = max(s.quirk, m)
		return
	}
	s.add(b.margin[side])
}

// ownMargins are the margins above that browsers give elements and that vanish, in em; of those below, only that of a
// paragraph does (measured).
var ownMargins = map[string]float64{"p": 1, "dl": 1, "blockquote": 1, "pre": 1, "ul": 1, "ol": 1, "menu": 1, "dir": 1,
	"h1": .67, "h2": .83, "h3": 1, "h4": 1.33, "h5": 1.67, "h6": 2.33, "xmp": 1, "listing": 1}

// ownMargin reports a margin that is what browsers give.
func (b *Box) ownMargin(side int) bool {
	if b.el == nil {
		return false
	}
	em, ok := ownMargins[b.el.Tag]
	m := b.style.Margin[side]
	return ok && (side == css.Top || b.el.Tag == "p") && m.Kind == css.LenPx && !m.HasPercent() &&
		css.FromFloat(m.Px) == css.FromFloat(em*b.style.FontSize)
}

func (s *marginSet) join(o marginSet) {
	s.pos, s.neg, s.quirk = max(s.pos, o.pos), min(s.neg, o.neg), max(s.quirk, o.quirk)
}

// quirky reports a box at whose edges the browser's own margins vanish.
func (e *Engine) quirky(b *Box) bool {
	return e.doc.Quirks && b.el != nil && (b.el == e.doc.Body || b.el.Tag == "td" || b.el.Tag == "th")
}

func (s marginSet) sum() Px { return max(s.pos, s.quirk) + s.neg }

// positioned reports a style that takes its box out of the flow.
func positioned(s *css.Style) bool { return s.Position >= css.Absolute && s.Position <= css.Fixed }

func (b *Box) outOfFlow() bool {
	return b.off
}

// inlineLevel reports boxes that take part in inline layout.
func (b *Box) inlineLevel() bool {
	switch b.kind {
	case textBox, inlineBox, breakBox, wordBreakBox:
		return true
	}
	if b.item {
		return false
	}
	switch b.display {
	case css.Inline, css.InlineBlock, css.InlineFlex, css.InlineGrid, css.InlineTable:
		return true
	}
	return false
}

func (b *Box) atomic() bool {
	return b.inlineLevel() && b.kind != textBox && b.kind != inlineBox && b.kind != breakBox && b.kind != wordBreakBox
}

func (b *Box) inlineEdges() Px {
	return b.padding[css.Left] + b.padding[css.Right] + b.border[css.Left] + b.border[css.Right]
}

func (b *Box) blockEdges() Px {
	return b.padding[css.Top] + b.padding[css.Bottom] + b.border[css.Top] + b.border[css.Bottom]
}

func (b *Box) contentX() Px { return b.padding[css.Left] + b.border[css.Left] }

func (b *Box) contentY() Px { return b.padding[css.Top] + b.border[css.Top] }

// borderW turns a specified width into a border-box width.
func (b *Box) borderW(v Px) Px {
	if b.style.BorderBox {
		return max(v, b.inlineEdges())
	}
	return max(0, v) + b.inlineEdges()
}

func (b *Box) borderH(v Px) Px {
	if b.style.BorderBox {
		return max(v, b.blockEdges())
	}
	return max(0, v) + b.blockEdges() - b.legendRoom
}

// heightPercent reports a box whose own height looks at its containing block's.
func (b *Box) heightPercent() bool {
	s := b.style
	return s.Height.HasPercent() || s.MinH.HasPercent() || s.MaxH.HasPercent()
}

// selfAligned gives the alignment of a block-level box in its container's inline axis, "" when it fills it (CSS Align
// 3, section 6.1; browsers follow it for blocks, too).
func (b *Box) selfAligned(parent *Box) css.Align {
	apart := b.item || b.inlineLevel() || b.outOfFlow() || parent.kind != blockBox || b.el == nil
	if apart {
		return ""
	}
	a := b.style.JustifySelf
	if a == "" && !b.legend {
		a = parent.style.JustifyItems
	}
	if a == "stretch" {
		return ""
	}
	return a.Physical(parent.rtl())
}

func (b *Box) hasLines() bool { return b.para != nil && len(b.para.lines) > 0 }

// lastBaseline gives the last baseline of a laid out box from its upper edge: the lower edge when it has none.
func (b *Box) lastBaseline() Px {
	if b.baselines {
		return b.last
	}
	return b.H
}

// baseline gives the first baseline of a laid out box from its upper edge: the lower edge when it has none.
func (b *Box) baseline() Px {
	if b.baselines {
		return b.first
	}
	return b.H
}

// edges resolves padding, border and margin; percentages refer to the containing block's width, vertical ones too.
func (b *Box) edges(cbW Px) {
	s := b.style
	if b.edged == s && b.edgedAt == s.Version && !s.FluidEdges {
		return
	}
	b.edged, b.edgedAt, b.edgedIn, b.legendRoom = s, s.Version, cbW, 0
	for i := range 4 {
		b.padding[i] = max(0, s.Padding[i].Resolve(cbW))
		b.border[i] = s.BorderPx(i)
		b.autoMargin[i] = s.Margin[i].IsAuto()
		b.margin[i] = 0
		if !b.autoMargin[i] {
			b.margin[i] = s.Margin[i].Resolve(cbW)
		}
	}
	b.turnEdges()
	b.tableEdges()
	if t := b.el; t != nil && t.Tag == "input" && !s.Plain && b.pseudo == "" {
		switch strings.ToLower(t.Attr("type")) {
		case "checkbox", "radio": // as the browser draws them, they have neither (measured)
			b.padding, b.border = [4]Px{}, [4]Px{}
		}
	}
}

// tableEdges takes from parts of tables what they do not have: cells margins, rows and columns padding and borders,
// too (CSS 2, sections 8.1 and 17.6).
func (b *Box) tableEdges() {
	if b.joined != nil {
		b.border = *b.joined
		if b.kind == tableBox {
			b.padding = [4]Px{}
		}
	}
	switch b.kind {
	case sectionBox, rowBox, columnBox:
		b.padding, b.border = [4]Px{}, [4]Px{}
	case tableBox:
		return
	default:
		if b.display != css.TableCell || b.off {
			return
		}
	}
	b.margin, b.autoMargin = [4]Px{}, [4]bool{}
}

// grown gives n entries of a scratch slice.
func grown[T any](s *[]T, n int) []T {
	if cap(*s) < n {
		*s = make([]T, n)
	}
	return (*s)[:n]
}

// resize notes that a box may have another size, and so may what it stands in. only tells that its text has another
// size and nothing else.
func (b *Box) resize(only bool) {
	b.sized = false
	for p := b.parent; p != nil; p = p.parent {
		p.sized = false
		switch {
		case p.para == nil:
		case b.sideways() != 0: // its text stays, and what it asks for does not
			p.para.sized = false
		case b.inlineLevel():
			p.rescale(only)
		}
		if p.el != nil {
			return
		}
	}
}

// rescale keeps the shaped text of a box for another size where only that has changed, else drops it.
func (b *Box) rescale(only bool) {
	if b.para != nil && only && b.para.resizable() {
		b.para.stale = true
	} else {
		b.para = nil
	}
}

// sizeContainer reports a box whose descendants may ask for its width.
func (b *Box) sizeContainer() bool {
	return b.style.ContainerType == "inline-size" || b.style.ContainerType == "size"
}

// sizeContained reports a box that is as high as if it were empty. Tables and their parts never are (css-contain-2,
// section 3.1).
func (b *Box) sizeContained() bool {
	s := b.style
	isTable := b.kind == tableBox || b.kind == sectionBox || b.kind == rowBox || b.kind == columnBox ||
		b.display == css.TableCell
	if isTable {
		return false
	}
	return s.ContainerType == "size" || s.Contains("size")
}

// widthContained reports a box that is as wide as if it were empty.
func (b *Box) widthContained() bool {
	if b.kind == tableBox || b.display == css.TableCell {
		return false
	}
	return b.sizeContainer() || b.sizeContained() || b.style.Contains("inline-size")
}

// Of returns the box of an element, nil when it has none.
func (r *Result) Of(e *css.Element) *Fragment {
	if i := r.ByIndex[e.Index]; i >= 0 {
		return &r.Boxes[i]
	}
	return nil
}

// DarkLook gives the look of a box for those who ask for dark colors, parent being that of its parent. It holds as
// long as the result.
func (r *Result) DarkLook(p *Fragment, parent css.Look) css.Look {
	return r.styler.DarkLook(p.Element, p.Pseudo, p.Style, parent)
}

// DarkState tells apart the widths at which looks may have different twins in the dark.
func (r *Result) DarkState() uint64 { return r.styler.DarkState() }

// resizable reports whether the shaped text holds when only sizes and spacing change.
func (p *para) resizable() bool {
	for _, pc := range p.pieces {
		if pc.face.Sized() {
			return false
		}
	}
	return true
}

// textSlack is how much wider than its room a line may be: browsers allow 1/64 px (measured).
const textSlack = 1

// WantOf describes the face that a style asks for.
func WantOf(s *css.Style) font.Want {
	return font.Want{Families: s.FontFamily, Weight: s.FontWeight, Stretch: s.FontStretch, Italic: s.Italic,
		Slant: s.Slant, Size: s.CSSSize(), NoSize: s.NoOptical, Axes: s.Variations,
		Adjust: font.Adjust{Of: s.SizeAdjust.Of, To: s.SizeAdjust.To}}
}

func (b *Box) setKind() {
	switch b.display {
	case css.Inline:
		b.kind = inlineBox
	case css.Flex, css.InlineFlex:
		b.kind = flexBox
	case css.Grid, css.InlineGrid:
		b.kind = gridBox
	case css.Table, css.InlineTable:
		b.kind = tableBox
	case css.TableGroup, css.TableHeader, css.TableFooter:
		b.kind = sectionBox
	case css.TableRow:
		b.kind = rowBox
	case css.TableColumn, css.TableColumnGroup:
		b.kind = columnBox
	default:
		b.kind = blockBox
	}
	switch b.display {
	case css.FlowRoot, css.InlineBlock, css.TableCell, css.TableCaption, css.ClampBox, css.Table,
		css.InlineTable, css.TableRow, css.TableGroup, css.TableHeader, css.TableFooter:
		b.bfc = true
	}
	st := b.style
	b.off = positioned(st)
	if st.Float != 0 || st.ColumnCount > 0 || st.ColumnWidth.Kind == css.LenPx || st.ColumnSpan {
		b.bfc = true
	}
	scrolls := func(v string) bool { return v != "visible" && v != "clip" }
	independent := scrolls(st.OverflowX) || scrolls(st.OverflowY) || st.ContainerType != "normal" ||
		st.Contains("layout") || st.Contains("paint") || b.outOfFlow()
	if independent {
		b.bfc = true
	}
	if b.kind == blockBox && st.AlignContent != "" {
		b.bfc = true
	}
	special := b.el != nil && (b.el.Tag == "button" || b.el.Tag == "fieldset" ||
		b.el.Tag == "summary" && b.display != css.Block)
	if special {
		b.bfc = b.bfc || b.el.Tag != "summary"
	}
}

var replacedTags = map[string]bool{"img": true, "svg": true, "video": true, "iframe": true, "canvas": true,
	"input": true, "textarea": true,
	"select": true, "object": true, "embed": true, "audio": true, "progress": true, "meter": true}

// sideways reports whether a box floats: 1 to the left, 2 to the right, 0 not.
func (b *Box) sideways() int {
	noFloat := b.style.Float == 0 || b.off || b.item || b.kind == textBox || b.kind == breakBox
	if noFloat {
		return 0
	}
	return int(b.floatSide(b.style.Float))
}

// aside reports boxes that are no part of the flow: those that float, and those out of it.
func (b *Box) aside() bool { return b.off || b.sideways() != 0 }

// tablePart reports boxes that only make sense in a table: its rows, cells, columns and captions.
func (b *Box) tablePart() bool {
	switch b.display {
	case css.TableRow, css.TableGroup, css.TableHeader, css.TableFooter, css.TableCell, css.TableCaption,
		css.TableColumn, css.TableColumnGroup:
		return b.kind != replacedBox && !b.off
	}
	return false
}

func (b *Box) isSection() bool { return b.kind == sectionBox }

// space reports text that makes no box between the parts of a table.
func (b *Box) space() bool {
	return b.kind == textBox && blank(b.text) && b.style.Collapse == "collapse"
}

func allInline(kids []*Box) bool {
	for _, k := range kids {
		if !k.inlineLevel() && !k.aside() {
			return false
		}
	}
	for _, k := range kids {
		if !k.aside() {
			return true
		}
	}
	return false
}

func blank(s string) bool {
	return strings.Trim(s, " \t\n\r\f") == ""
}

// firstLetter names the box of a first letter.
const firstLetter = "first-letter"

// turnsIn reports an element whose lines follow each other in another way than those around it.
func turnsIn(st, parent *css.Style) bool { return parent != nil && st.Mode != parent.Mode }

// makeTurning makes a box the outer one of two.
func (b *Box) makeTurning() {
	b.turning = true
	switch b.display {
	case css.Inline, css.InlineFlex, css.InlineGrid, css.InlineTable:
		b.display = css.InlineBlock
	case css.TableCell, css.TableCaption, css.InlineBlock:
	default:
		b.display = css.Block
	}
	b.setKind()
	b.bfc = true
}

// innerStyle leaves of a style what is for the content.
func innerStyle(st *css.Style) *css.Style {
	own := css.InitialStyle()
	c := *st
	c.Margin, c.Padding, c.BorderStyle, c.Inset = own.Margin, own.Padding, own.BorderStyle, own.Inset
	c.Width, c.MinW, c.MaxW, c.Height, c.MinH, c.MaxH = own.Width, own.MinW, own.MaxW, own.Height, own.MinH, own.MaxH
	c.Position, c.Float, c.Clear, c.OverflowX, c.OverflowY = own.Position, own.Float, own.Clear, own.OverflowX, own.OverflowY
	c.Transform, c.MakesContaining, c.AspectRatio = nil, false, 0
	c.Scale, c.Rotate, c.Translate = own.Scale, own.Rotate, own.Translate
	c.ContainerType, c.Contain, c.ContentVisibility = own.ContainerType, own.Contain, "visible"
	c.FluidEdges, c.AlignSelf, c.JustifySelf, c.SnapType = false, own.AlignSelf, own.JustifySelf, own.SnapType
	switch st.Display {
	case css.Flex, css.InlineFlex:
		c.Display = css.Flex
	case css.Grid, css.InlineGrid:
		c.Display = css.Grid
	default:
		c.Display = css.FlowRoot
	}
	return &c
}
