package layout

import (
	"slices"

	"ziegel/core/css"
)

// element builds the box of an element, without its children; nil when it has none.
func (e *Engine) element(el *css.Element, parent *css.Style, stack []css.Container) *Box {
	st := e.styler.Style(el, parent, stack)
	if st.Display == css.None {
		e.boxes[el.Index] = nil
		return nil
	}
	b := e.fresh(el, st, stack)
	if turnsIn(st, parent) && b.kind != replacedBox && b.kind != breakBox && st.Display != css.Contents {
		b.makeTurning()
	}
	e.boxes[el.Index] = b
	return b
}

func (e *Engine) fresh(el *css.Element, st *css.Style, stack []css.Container) *Box {
	b := &Box{node: node{el: el, style: st, display: st.Display, key: el}}
	b.version, b.stack = st.Version, stack
	e.floating = e.floating || st.Float != 0
	if el.Tag == "button" && b.display == css.Inline {
		b.display = css.InlineBlock
	}
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
		stack = append(append([]css.Container(nil), stack...),
			css.Container{Names: b.style.ContainerName, Width: contentW.Float(), FontSize: b.style.FontSize,
				Height: contentH.Float(), Sized: b.style.ContainerType == "size", Style: b.style,
				Zoom: e.opts.Zoom})
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
	if b.turning {
		b.kids = []*Box{e.innerOf(b, stack)}
		return b.kids
	}
	b.kids = e.arrange(b, e.generate(b.el, b.style, stack, true))
	if b.kind == blockBox && e.doc.HasLetters {
		e.splitLetter(b, stack)
	}
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
				out = append(out, madeBox(node{kind: textBox, style: st, text: c.Text, key: c}))
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
	b := madeBox(node{pseudo: name, style: ps, display: ps.Display, key: pseudoKey{el, name}})
	b.version = ps.Version
	e.floating = e.floating || ps.Float != 0
	b.setKind()
	b.kids = e.contentKids(b, el)
	if b.kind == flexBox || b.kind == gridBox {
		b.kids = e.arrange(b, b.kids)
	}
	e.pseudos[pseudoKey{el, name}] = b
	return append(out, b)
}

// arrange gives children the parent they need: items in flex and grid containers, anonymous blocks around inline runs
// that stand beside blocks.
func (e *Engine) arrange(b *Box, kids []*Box) []*Box {
	for _, k := range kids {
		k.parent = b
	}
	kids = legendFirst(b, kids)
	if b.kind == flexBox || b.kind == gridBox {
		return e.items(b, kids)
	}
	switch b.kind {
	case tableBox, sectionBox, rowBox, columnBox:
		return e.partsOf(b, kids)
	}
	kids = e.tablesAround(b, kids)
	if b.kind == inlineBox {
		for _, k := range kids {
			if e.holdsBlock(k) {
				b.breaks(kids)
				break
			}
		}
		if b.kind == inlineBox {
			return kids
		}
	}
	anyBlock := false
	for _, k := range kids {
		if !k.aside() && e.holdsBlock(k) {
			anyBlock = true
		}
	}
	if !anyBlock {
		return kids
	}
	kids = pieces(kids)
	for _, k := range kids {
		k.parent = b
	}
	var out, run []*Box
	flush := func() {
		solid := false
		for _, r := range run {
			if !(r.kind == textBox && blank(r.text) && r.style.Collapse == "collapse") && !r.aside() {
				solid = true
			}
		}
		switch {
		case solid:
			a := e.anonymous(b, run)
			begun := slices.ContainsFunc(out, func(k *Box) bool { return k.el == nil || k.el.Tag != "legend" })
			if begun && !a.style.TextIndent.IsZero() { // the first formatted line of b is gone (measured)
				inh := *a.style.Inherited
				inh.TextIndent = css.Indent{Len: css.Zero}
				a.style.Inherited = &inh
			}
			out = append(out, a)
		default:
			for _, r := range run {
				if r.aside() {
					out = append(out, r)
				}
			}
		}
		run = nil
	}
	for _, k := range kids {
		if k.inlineLevel() && !k.aside() || k.aside() && len(run) > 0 {
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
	b := madeBox(node{off: positioned(style), style: style, display: css.Block, key: pseudoKey{el, text}})
	b.kids = []*Box{madeBox(node{kind: textBox, style: style, text: text, parent: b, ownerless: true,
		key: pseudoKey{el, text + " text"}})}
	return b
}

// holdsBlock reports a block-level box, or an inline box with one inside (which then becomes a block, or is broken).
func (e *Engine) holdsBlock(k *Box) bool {
	if k.kind == inlineBox && k.el != nil && !k.aside() {
		e.children(k, 0)
	}
	return (!k.inlineLevel() || k.broken) && !k.aside()
}

// legendFirst takes the legend of a fieldset out of what stands around it: it is shown in the border (HTML, 15.3.13).
func legendFirst(b *Box, kids []*Box) []*Box {
	if b.el == nil || b.el.Tag != "fieldset" || b.kind == inlineBox {
		return kids
	}
	i := slices.IndexFunc(kids, func(k *Box) bool { return k.el != nil && k.el.Tag == "legend" && !k.aside() })
	if i < 0 {
		return kids
	}
	kids[i].bfc = true
	if i == 0 {
		return kids
	}
	out := append([]*Box{kids[i]}, kids[:i]...)
	return append(out, kids[i+1:]...)
}

func (e *Engine) anonymous(parent *Box, kids []*Box) *Box {
	a := madeBox(node{style: e.styler.Anonymous(parent.style, css.Block), display: css.Block, parent: parent,
		kids: kids, key: anonKey{kids[0].key}})
	for _, k := range kids {
		k.parent = a
	}
	return a
}

// items blockifies the children of a flex or grid container and wraps its bare text.
func (e *Engine) items(b *Box, kids []*Box) []*Box {
	var out, run []*Box
	legend := false
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
		inLine := k.kind == breakBox || k.kind == wordBreakBox || b.style.OldBox && k.inlineLevel() && !k.off
		if inLine {
			run = append(run, k)
			continue
		}
		flush()
		k.display = css.Blockify(k.display)
		isLegend := k.el != nil && k.el.Tag == "legend" && !k.off && k.style.Float == 0
		if isLegend && !legend && b.el != nil && b.el.Tag == "fieldset" {
			k.legend, k.bfc, legend = true, true, true // it stands in the border
			if k.kind == inlineBox {
				k.kind = blockBox
			}
			out = append(out, k)
			continue
		}
		if k.kind == sectionBox || k.kind == rowBox || k.kind == columnBox {
			k.kind = blockBox
		}
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

// partsOf gives the boxes that a table, a row group, a row or a column group needs between itself and its children
// (CSS Tables 3, section 2.2.2).
func (e *Engine) partsOf(b *Box, kids []*Box) []*Box {
	switch {
	case b.kind == rowBox:
		return e.wrapped(b, kids, func(k *Box) bool { return k.display == css.TableCell && k.tablePart() },
			css.TableCell)
	case b.isSection():
		return e.wrapped(b, kids, func(k *Box) bool { return k.kind == rowBox }, css.TableRow)
	case b.kind == columnBox:
		var out []*Box
		for _, k := range kids {
			if k.kind == columnBox && k.display == css.TableColumn && b.display == css.TableColumnGroup {
				out = append(out, k)
			}
		}
		return out
	}
	rows := e.wrapped(b, kids, func(k *Box) bool { return k.tablePart() && k.display != css.TableCell }, css.TableRow)
	return e.wrapped(b, rows, func(k *Box) bool { return k.tablePart() && k.kind != rowBox }, css.TableGroup)
}

// wrapped puts runs of children that are not proper into anonymous parts; white space around them goes.
func (e *Engine) wrapped(b *Box, kids []*Box, proper func(*Box) bool, d css.Display) []*Box {
	var out, run []*Box
	flush := func() {
		for len(run) > 0 && run[len(run)-1].space() {
			run = run[:len(run)-1]
		}
		if len(run) > 0 {
			out = append(out, e.anonymousPart(b, run, d))
		}
		run = nil
	}
	for _, k := range kids {
		switch {
		case proper(k):
			flush()
			out = append(out, k)
		case len(run) > 0 || !k.space():
			run = append(run, k)
		}
	}
	flush()
	return out
}

// tablesAround puts parts of a table that stand in something else into anonymous tables.
func (e *Engine) tablesAround(b *Box, kids []*Box) []*Box {
	found := false
	for _, k := range kids {
		found = found || k.tablePart()
	}
	if !found {
		return kids
	}
	var out, run []*Box
	flush := func() {
		last := len(run)
		for last > 0 && !run[last-1].tablePart() {
			last--
		}
		if last > 0 {
			d := css.Table
			if b.kind == inlineBox {
				d = css.InlineTable
			}
			out = append(out, e.anonymousPart(b, run[:last:last], d))
		}
		out = append(out, run[last:]...)
		run = nil
	}
	for _, k := range kids {
		switch {
		case k.tablePart(), len(run) > 0 && (k.space() || k.outOfFlow()):
			run = append(run, k)
		default:
			flush()
			out = append(out, k)
		}
	}
	flush()
	return out
}

// anonymousPart makes an anonymous box that takes part in a table.
func (e *Engine) anonymousPart(parent *Box, kids []*Box, d css.Display) *Box {
	a := e.anonymous(parent, kids)
	a.style, a.display = e.styler.Anonymous(parent.style, d), d
	a.setKind()
	a.kids = e.arrange(a, kids)
	return a
}

// innerOf makes the box of what stands in a turning one.
func (e *Engine) innerOf(b *Box, stack []css.Container) *Box {
	in := madeBox(node{style: innerStyle(b.style), key: pseudoKey{b.el, "turned"}, parent: b, turned: true})
	in.display = in.style.Display
	in.setKind()
	in.bfc = true
	in.kids = e.arrange(in, e.generate(b.el, b.style, stack, true))
	return in
}
