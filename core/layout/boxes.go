package layout

import (
	"strings"

	"ziegel/core/css"
)

type kind uint8

const (
	blockBox kind = iota
	inlineBox
	textBox
	flexBox
	gridBox
	replacedBox
	breakBox // br
	wordBreakBox
)

// Box is a node of the box tree. Its geometry is relative to the border box of its origin.
type Box struct {
	kind    kind
	off     bool         // out of the flow: kept here, because it is asked more often than anything else
	el      *css.Element // nil for anonymous boxes and text
	pseudo  string
	style   *css.Style
	version int // of style, when it was taken
	display css.Display
	parent  *Box
	kids    []*Box
	built   bool
	builtAt [2]Px
	builtIn int // the pass that has looked at the children of a size container
	stack   []css.Container
	text    string
	key     any // identity over widths, for caches

	origin      *Box
	X, Y, W, H  Px
	pad, bor    [4]Px
	mar         [4]Px
	autoMar     [4]bool
	first       Px // baseline from the top of the border box
	last        Px
	baselines   bool
	bfc         bool // establishes a block formatting context, so margins stay inside
	item        bool // flex or grid item
	sp          space
	valid       bool
	natural     space // the last space without a given height, and what came of it
	naturalH    Px
	hasNatural  bool
	edged       *css.Style // whose margins, borders and padding are resolved
	edgedAt     int        // its version
	unboxed     bool       // an inline box that holds blocks
	needsHeight bool       // a percentage inside looked at the height
	top, bot    strut
	through     bool // self-collapsing
	contentH    Px   // height of the content before the box's own height applies
	minmax      [2]Px
	sized       bool
	staticX     Px
	staticY     Px
	staticIn    *Box
	para        *para
	frags       []Rect // of an inline box, relative to origin
	runs        []textRun
	shiftX      Px // by relative and sticky positions, own and of what holds it
	shiftY      Px
	relBaseW    Px
	relBaseH    Px
	legend      bool          // stands in the border of its fieldset
	ownerless   bool          // text of an element with display: contents
	area        *Rect         // grid area for an absolutely positioned child
	sub         [2]*subAxis   // of a subgrid: columns, rows
	subDepth    int           // how many subgrids it stands in
	flex        *flexBoxState // of a flex container: its memory
	gridStore   []gridItem    // of a grid container: memory for its items
	gridRefs    []*gridItem
	gridMemory  *gridState
	grid        *gridState // of a subgrid: its items at the last layout
}

// textRun is a piece of an element's own text on one line.
type textRun struct {
	rect Rect // relative to the block container
	line int
	cut  bool // it ends inside a word, with the line
}

// space is what a box is laid out into.
type space struct {
	cbW    Px   // content width of the containing block
	cbH    Px   // its height, when defCB
	defCB  bool // cbH is definite
	forceW Px
	hasW   bool // border-box width is given
	forceH Px
	hasH   bool // border-box height is given
	defH   bool // the given height is definite for percentages inside
	shrink bool // auto width is fit-content
}

// strut is a set of adjoining margins.
type strut struct{ pos, neg Px }

func (s *strut) add(m Px) {
	if m > 0 {
		s.pos = max(s.pos, m)
	} else {
		s.neg = min(s.neg, m)
	}
}

func (s *strut) join(o strut) {
	s.pos, s.neg = max(s.pos, o.pos), min(s.neg, o.neg)
}

func (s strut) sum() Px { return s.pos + s.neg }

func (b *Box) outOfFlow() bool {
	return b.off
}

// positioned reports a style that takes its box out of the flow.
func positioned(s *css.Style) bool { return s.Position >= css.Absolute && s.Position <= css.Fixed }

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

func (b *Box) hpb() Px {
	return b.pad[css.Left] + b.pad[css.Right] + b.bor[css.Left] + b.bor[css.Right]
}

func (b *Box) vpb() Px {
	return b.pad[css.Top] + b.pad[css.Bottom] + b.bor[css.Top] + b.bor[css.Bottom]
}

func (b *Box) contentX() Px { return b.pad[css.Left] + b.bor[css.Left] }
func (b *Box) contentY() Px { return b.pad[css.Top] + b.bor[css.Top] }

var replacedTags = map[string]bool{"img": true, "svg": true, "video": true, "iframe": true, "canvas": true, "input": true, "textarea": true,
	"select": true, "object": true, "embed": true, "audio": true, "progress": true, "meter": true}

// element builds the box of an element, without its children; nil when it has none.
func (e *Engine) element(el *css.Element, parent *css.Style, stack []css.Container) *Box {
	st := e.styler.Style(el, parent, stack)
	if st.Display == css.None {
		e.boxes[el.Index] = nil
		return nil
	}
	b := e.fresh(el, st, stack)
	e.boxes[el.Index] = b
	return b
}

func (e *Engine) fresh(el *css.Element, st *css.Style, stack []css.Container) *Box {
	b := &Box{el: el, style: st, version: st.Version, display: st.Display, stack: stack, key: el}
	b.setKind()
	if replacedTags[el.Tag] && !(el.Tag == "object" && len(el.Kids()) > 0) {
		b.kind = replacedBox
		b.built = true
	}
	switch el.Tag {
	case "br":
		b.kind = breakBox
	case "wbr":
		b.kind = wordBreakBox
	}
	return b
}

func (b *Box) setKind() {
	switch b.display {
	case css.Inline:
		b.kind = inlineBox
	case css.Flex, css.InlineFlex:
		b.kind = flexBox
	case css.Grid, css.InlineGrid:
		b.kind = gridBox
	default:
		b.kind = blockBox
	}
	switch b.display {
	case css.FlowRoot, css.InlineBlock, css.TableCell, css.ClampBox, css.Table:
		b.bfc = true
	}
	st := b.style
	b.off = positioned(st)
	scrolls := func(v string) bool { return v != "visible" && v != "clip" }
	if scrolls(st.OverflowX) || scrolls(st.OverflowY) || st.ContainerType != "normal" || strings.Contains(st.Contain, "layout") ||
		strings.Contains(st.Contain, "paint") || st.Contain == "content" || st.Contain == "strict" || st.ContentHidden || b.outOfFlow() {
		b.bfc = true
	}
	if b.kind == blockBox && st.AlignContent != "" {
		b.bfc = true
	}
	if b.el != nil && (b.el.Tag == "button" || b.el.Tag == "fieldset" || b.el.Tag == "summary" && b.display != css.Block) {
		b.bfc = b.bfc || b.el.Tag != "summary"
	}
}

// sizeContainer reports a box whose descendants may ask for its width.
func (b *Box) sizeContainer() bool {
	return b.style.ContainerType == "inline-size" || b.style.ContainerType == "size"
}

// sizeContained reports a box that is as high as if it were empty.
func (b *Box) sizeContained() bool {
	s := b.style
	return s.ContainerType == "size" || s.ContentHidden || s.Contain == "strict" || s.Contain != "none" && hasWord(s.Contain, "size")
}

// widthContained reports a box that is as wide as if it were empty.
func (b *Box) widthContained() bool {
	return b.sizeContainer() || b.sizeContained() || b.style.Contain != "none" && hasWord(b.style.Contain, "inline-size")
}

func hasWord(list, word string) bool {
	for _, w := range strings.Fields(list) {
		if w == word {
			return true
		}
	}
	return false
}

// children returns the child boxes. Those of a size container depend on its content width.
func (e *Engine) children(b *Box, contentW Px) []*Box { return e.childrenIn(b, contentW, 0) }

func (e *Engine) childrenIn(b *Box, contentW, contentH Px) []*Box {
	if b.kind == textBox || b.kind == replacedBox || b.el == nil {
		return b.kids
	}
	if b.built && (!b.sizeContainer() || b.builtIn == e.pass && b.builtAt == [2]Px{contentW, contentH}) {
		return b.kids
	}
	b.builtIn = e.pass
	stack := b.stack
	if b.sizeContainer() {
		stack = append(append([]css.Container(nil), stack...), css.Container{Names: b.style.ContainerName, Width: contentW.Float(), FontSize: b.style.FontSize, Height: contentH.Float(), Sized: b.style.ContainerType == "size", Style: b.style})
	}
	if b.built {
		b.builtAt = [2]Px{contentW, contentH}
		if ok, _ := e.update(b, b.el, b.style, stack); ok {
			b.valid = true // it is being laid out
			return b.kids
		}
	}
	b.built, b.builtAt = true, [2]Px{contentW, contentH}
	b.para, b.sized = nil, false
	b.kids = e.arrange(b, e.generate(b.el, b.style, stack, true))
	return b.kids
}

// generate makes the boxes of an element's content, display: contents flattened.
func (e *Engine) generate(el *css.Element, st *css.Style, stack []css.Container, pseudos bool) []*Box {
	var out []*Box
	if m := e.insideMarker(el, st, stack); m != nil {
		out = append(out, m)
	}
	if pseudos {
		out = e.pseudo(out, el, "before", st, stack)
	}
	if el.Tag == "details" && !hasSummary(el) {
		out = append(out, e.anonymousText(el, st, "Details"))
	}
	for i := range el.Children {
		c := &el.Children[i]
		if c.Element == nil {
			if _, open := el.LookupAttr("open"); c.Text != "" && (el.Tag != "details" || open) {
				out = append(out, &Box{kind: textBox, style: st, text: c.Text, built: true, key: c})
			}
			continue
		}
		k := e.element(c.Element, st, stack)
		switch {
		case k == nil:
		case k.display == css.Contents && k.kind != replacedBox:
			inner := e.generate(c.Element, k.style, stack, true)
			for _, x := range inner {
				x.ownerless = x.ownerless || x.kind == textBox
			}
			out = append(out, inner...)
		default:
			out = append(out, k)
		}
	}
	if pseudos {
		out = e.pseudo(out, el, "after", st, stack)
	}
	return out
}

func (e *Engine) pseudo(out []*Box, el *css.Element, name string, st *css.Style, stack []css.Container) []*Box {
	ps := e.styler.Pseudo(el, name, st, stack)
	if ps == nil || !ps.HasContent || ps.Display == css.None {
		delete(e.pseudos, pseudoKey{el, name})
		return out
	}
	b := &Box{pseudo: name, style: ps, version: ps.Version, display: ps.Display, built: true, key: pseudoKey{el, name}}
	b.setKind()
	if text := e.contentText(el, name, ps.Content); text != "" {
		b.kids = []*Box{{kind: textBox, style: ps, text: text, built: true, parent: b, key: pseudoKey{el, name + " text"}}}
	}
	if b.kind == flexBox || b.kind == gridBox {
		b.kids = e.arrange(b, b.kids)
	}
	e.pseudos[pseudoKey{el, name}] = b
	return append(out, b)
}

type pseudoKey struct {
	el   *css.Element
	name string
}

func blank(s string) bool {
	return strings.Trim(s, " \t\n\r\f") == ""
}

// arrange gives children the parent they need: items in flex and grid containers, anonymous blocks around inline runs
// that stand beside blocks.
func (e *Engine) arrange(b *Box, kids []*Box) []*Box {
	for _, k := range kids {
		k.parent = b
	}
	if b.kind == flexBox || b.kind == gridBox {
		return e.items(b, kids)
	}
	if b.kind == inlineBox {
		for _, k := range kids {
			if e.holdsBlock(k) {
				b.kind, b.display = blockBox, css.Block // a block inside an inline box: its parts fill the line
				b.style, b.unboxed = e.unboxed(b.style), true
				break
			}
		}
		if b.kind == inlineBox {
			return kids
		}
	}
	anyBlock := false
	for _, k := range kids {
		if e.holdsBlock(k) && !k.outOfFlow() {
			anyBlock = true
		}
	}
	if !anyBlock {
		return kids
	}
	var out, run []*Box
	flush := func() {
		solid := false
		for _, r := range run {
			if !(r.kind == textBox && blank(r.text) && r.style.Collapse == "collapse") && !r.outOfFlow() {
				solid = true
			}
		}
		switch {
		case solid:
			a := e.anonymous(b, run)
			if len(out) > 0 && !a.style.TextIndent.IsZero() { // the first formatted line of b is gone (measured)
				inh := *a.style.Inherited
				inh.TextIndent = css.Zero
				a.style.Inherited = &inh
			}
			out = append(out, a)
		default:
			for _, r := range run {
				if r.outOfFlow() {
					out = append(out, r)
				}
			}
		}
		run = nil
	}
	for _, k := range kids {
		if k.inlineLevel() && !k.outOfFlow() || k.outOfFlow() && len(run) > 0 {
			run = append(run, k)
			continue
		}
		flush()
		out = append(out, k)
	}
	flush()
	return out
}

func hasSummary(el *css.Element) bool {
	for _, k := range el.Kids() {
		if k.Tag == "summary" {
			return true
		}
	}
	return false
}

// anonymousText makes a block with a text that the browser adds.
func (e *Engine) anonymousText(el *css.Element, st *css.Style, text string) *Box {
	style := e.styler.Anonymous(st, css.Block)
	b := &Box{kind: blockBox, off: positioned(style), style: style, display: css.Block, built: true, key: pseudoKey{el, text}}
	b.kids = []*Box{{kind: textBox, style: style, text: text, built: true, parent: b, ownerless: true, key: pseudoKey{el, text + " text"}}}
	return b
}

// holdsBlock reports a block-level box, or an inline box with one inside (which it then turns into a block).
func (e *Engine) holdsBlock(k *Box) bool {
	if k.kind == inlineBox && k.el != nil && !k.outOfFlow() {
		e.children(k, 0)
	}
	return !k.inlineLevel() && !k.outOfFlow()
}

func (e *Engine) unboxed(s *css.Style) *css.Style {
	c := *s
	for i := range 4 {
		c.Margin[i], c.Padding[i], c.BorderStyle[i] = css.Zero, css.Zero, "none"
	}
	c.Display = css.Block
	return &c
}

func (e *Engine) anonymous(parent *Box, kids []*Box) *Box {
	a := &Box{kind: blockBox, style: e.styler.Anonymous(parent.style, css.Block), display: css.Block, parent: parent, kids: kids, built: true, key: anonKey{kids[0].key}}
	for _, k := range kids {
		k.parent = a
	}
	return a
}

type anonKey struct{ first any }

// items blockifies the children of a flex or grid container and wraps its bare text.
func (e *Engine) items(b *Box, kids []*Box) []*Box {
	var out, run []*Box
	flush := func() {
		for _, r := range run {
			if r.kind != textBox || !blank(r.text) {
				a := e.anonymous(b, run)
				a.item, a.bfc = true, true
				out = append(out, a)
				break
			}
		}
		run = nil
	}
	for _, k := range kids {
		if k.kind == textBox {
			run = append(run, k)
			continue
		}
		if k.kind == breakBox || k.kind == wordBreakBox {
			run = append(run, k)
			continue
		}
		flush()
		k.display = css.Blockify(k.display)
		if k.kind == inlineBox {
			k.kind = blockBox
			if k.pseudo != "" && len(k.kids) > 0 {
				k.kids = e.arrange(k, k.kids)
			}
		}
		k.item, k.bfc = true, true
		out = append(out, k)
	}
	flush()
	return out
}

// edges resolves padding, border and margin; percentages refer to the containing block's width, vertical ones too.
func (b *Box) edges(cbW Px) {
	s := b.style
	if b.edged == s && b.edgedAt == s.Version && !s.FluidEdges {
		return
	}
	b.edged, b.edgedAt = s, s.Version
	for i := range 4 {
		b.pad[i] = max(0, s.Padding[i].Resolve(cbW))
		b.bor[i] = s.BorderPx(i)
		b.autoMar[i] = s.Margin[i].IsAuto()
		b.mar[i] = 0
		if !b.autoMar[i] {
			b.mar[i] = s.Margin[i].Resolve(cbW)
		}
	}
}
