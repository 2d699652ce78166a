package layout

import (
	"strconv"
	"strings"

	"ziegel/core/css"
)

// Markers and generated content: what stands before a list item, and the counters and quotation marks in it.

// marked reports a list item with a marker.
func (b *Box) marked() bool {
	return b.display == css.ListItem && (b.style.ListStyleType != "none" || b.style.ListImage != "") && b.el != nil &&
		b.el.Tag != "button"
}

// markerAbove gives how far the line of an outside marker reaches above its baseline, and its height.
func (e *Engine) markerAbove(b *Box) (above, height Px) {
	m := e.metrics(b.style)
	above = max(m.above, e.markerRoom(b))
	return above, above + m.below
}

// markerRoom gives how far an outside marker reaches above the baseline: its picture, or the line of its own font. What
// reaches below makes no line higher (measured).
func (e *Engine) markerRoom(b *Box) Px {
	if src := b.style.ListImage; src != "" {
		if _, _, h, ok := e.named(b.style, "list-style-image", src); ok {
			return css.FromFloat(h * b.style.ZoomFactor())
		}
	}
	if !b.el.HasPseudo("marker") || b.style.ListStyleType == "none" {
		return 0
	}
	return e.metrics(e.styler.Pseudo(b.el, "marker", b.style, b.stack)).above
}

// settleMarker makes room for the line of an outside marker beside the first line of block content: the content moves
// down when the marker's line is higher (measured).
func (e *Engine) settleMarker(b, k *Box) Px {
	above, _ := e.markerAbove(b)
	return max(0, above-k.first)
}

// insideMarker makes the inline box of a marker with list-style-position: inside; nil when there is none.
func (e *Engine) insideMarker(el *css.Element, st *css.Style, stack []css.Container) *Box {
	kind := st.ListStyleType
	if el.Tag == "button" {
		return nil
	}
	if st.Display != css.ListItem || !st.ListInside || kind == "none" && st.ListImage == "" {
		return nil
	}
	if k := e.pictureBox(st, "list-style-image", st.ListImage); k != nil {
		k.pseudo, k.key = "marker", pseudoKey{el, "marker"}
		k.style.Margin[css.Right] = css.PxLen(7 * st.ZoomFactor()) // measured
		return k
	}
	if kind == "none" {
		return nil
	}
	style := e.styler.Pseudo(el, "marker", st, stack)
	if style == nil {
		style = e.styler.Anonymous(st, css.Inline)
	} else if style.HasContent && style.Content == "none" {
		return nil
	}
	own := *style
	inh := *own.Inherited
	inh.Numeric = map[string]uint32{"tnum": 1} // markers have figures of equal width (measured)
	inh.Collapse, inh.NoWrap, inh.TextTransform, inh.TextIndent = "preserve", false, "none", css.Indent{Len: css.Zero}
	own.Inherited, own.Display = &inh, css.Inline
	for i := range 4 {
		own.Margin[i], own.Padding[i], own.BorderStyle[i] = css.Zero, css.Zero, "none"
	}
	b := madeBox(node{kind: inlineBox, off: positioned(&own), pseudo: "marker", style: &own, display: css.Inline,
		key: pseudoKey{el, "marker"}})
	text := ""
	switch {
	case style.HasContent && style.Content != "normal":
		text = e.contentText(el, "marker", style.Content)
	case strings.HasPrefix(kind, `"`) || strings.HasPrefix(kind, "'"):
		text = css.Unquote(kind)
	case kind == "disc" || kind == "circle" || kind == "square":
		asc := int(e.metrics(&own).asc / 64)
		own.Margin[css.Left], own.Margin[css.Right] = css.PxLen(-1), css.PxLen(own.FontSize)
		own.Width = css.PxLen(float64((asc*2/3+1)/2 + 2)) // measured
		b.sign = true
		if !el.HasPseudo("marker") {
			return b.asAtom()
		}
		line := *style // in a font of its own it has a line of its own, too (measured)
		line.Display = css.Inline
		around := madeBox(node{kind: inlineBox, pseudo: "marker", style: &line, display: css.Inline,
			key: pseudoKey{el, "marker line"}})
		b.parent, around.kids = around, []*Box{b.asAtom()}
		return around
	case kind == "disclosure-open" || kind == "disclosure-closed":
		own.Width, own.Margin[css.Right] = css.PxLen(.66*own.FontSize), css.PxLen(.4*own.FontSize) // measured
		b.sign = true
		return b.asAtom()
	default:
		text = css.FormatCounter(e.counter(el, "list-item"), kind) + ". "
	}
	inner, unbroken := own, inh
	unbroken.NoWrap = true
	inner.Inherited = &unbroken
	b.kids = []*Box{
		madeBox(node{kind: textBox, style: &inner, text: text, parent: b, key: pseudoKey{el, "marker text"}}),
	}
	return b.asAtom()
}

// asAtom makes an atomic box of a marker: a line may break after it.
func (b *Box) asAtom() *Box {
	b.kind, b.display, b.bfc = blockBox, css.InlineBlock, true
	b.style.Display = css.InlineBlock
	return b
}

// contentText evaluates the strings, attributes, counters and quotation marks of a content value.
func (e *Engine) contentText(el *css.Element, pseudo, value string) string {
	var b strings.Builder
	toks := css.Tokenize(value)
	at := e.counted[pseudoKey{el, pseudo}]
	for i := 0; i < len(toks); i++ {
		t := toks[i].Text
		switch {
		case t == "/":
			return b.String() // what follows is read aloud, not shown
		case strings.HasPrefix(t, `"`) || strings.HasPrefix(t, "'"):
			b.WriteString(css.Unquote(t))
		case strings.EqualFold(t, "attr(") && i+1 < len(toks):
			b.WriteString(el.Attr(strings.ToLower(toks[i+1].Text)))
			i++
		case strings.EqualFold(t, "counter(") || strings.EqualFold(t, "counters("):
			name, between, style := "", "", "decimal"
			n := 0
			for i++; i < len(toks) && toks[i].Text != ")"; i++ {
				switch a := toks[i].Text; {
				case a == "," || strings.TrimSpace(a) == "":
					continue
				case n == 0:
					name = a
				case n == 1 && strings.EqualFold(t, "counters("):
					between = css.Unquote(a)
				default:
					style = strings.ToLower(a)
				}
				n++
			}
			var values []int
			if at != nil {
				values = at.counters[name]
			}
			if len(values) == 0 {
				values = []int{0}
			}
			if strings.EqualFold(t, "counter(") {
				values = values[len(values)-1:]
			}
			for k, v := range values {
				if k > 0 {
					b.WriteString(between)
				}
				b.WriteString(css.FormatCounter(v, style))
			}
		case strings.EqualFold(t, "open-quote") || strings.EqualFold(t, "close-quote"):
			if at != nil && len(at.quotes) > 0 {
				depth := at.depth
				if strings.EqualFold(t, "close-quote") {
					if depth--; depth < 0 { // nothing is open
						continue
					}
				}
				k := min(max(0, depth)*2, len(at.quotes)-2)
				if strings.EqualFold(t, "close-quote") {
					k++
				}
				b.WriteString(at.quotes[k])
			}
		}
	}
	return b.String()
}

// counter gives the innermost value of a counter at an element's marker.
func (e *Engine) counter(el *css.Element, name string) int {
	if at := e.counted[pseudoKey{el, "marker"}]; at != nil && len(at.counters[name]) > 0 {
		v := at.counters[name]
		return v[len(v)-1]
	}
	return 0
}

// count walks the document in order and notes the counters wherever content is generated (CSS Lists 3, section 4). It
// returns false when nothing has changed since the last width.
func (e *Engine) count() bool {
	return e.doc.Counts && e.recount()
}

// recount is count for a document whose counters are drawn but do not change any box.
func (e *Engine) recount() bool {
	if e.counting == nil {
		e.counting = e.doc.Counting()
	}
	w := &counter{e: e, values: map[string][]scoped{}, out: map[pseudoKey]*counted{}}
	w.element(e.doc.Root, e.styler.Root(), 0)
	changed := e.counted == nil || len(e.counted) != len(w.out)
	for k, v := range w.out {
		changed = changed || !v.equal(e.counted[k])
	}
	e.counted = w.out
	return changed
}

func (c *counted) equal(o *counted) bool {
	if o == nil || c.depth != o.depth || len(c.counters) != len(o.counters) {
		return false
	}
	for n, v := range c.counters {
		if len(v) != len(o.counters[n]) {
			return false
		}
		for i := range v {
			if v[i] != o.counters[n][i] {
				return false
			}
		}
	}
	return true
}

// scoped is one instance of a counter; it ends with the parent of the element that made it.
type scoped struct{ n, level int }

type counter struct {
	e      *Engine
	values map[string][]scoped
	depth  int
	out    map[pseudoKey]*counted
}

func (w *counter) element(el *css.Element, parent *css.Style, level int) {
	var stack []css.Container
	if b := w.e.boxes[el.Index]; b != nil {
		stack = b.stack
	}
	st := w.e.styler.Style(el, parent, stack)
	if st.Display == css.None {
		return
	}
	w.apply(el, st, level)
	if st.Display == css.ListItem {
		w.note(el, "marker", "", st)
	}
	w.pseudo(el, "before", st, stack, level+1)
	for _, k := range el.Kids() {
		if w.e.counting[k.Index] { // what is in the others is not asked for its style before its turn
			w.element(k, st, level+1)
		}
	}
	w.pseudo(el, "after", st, stack, level+1)
	w.leave(level + 1)
}

func (w *counter) pseudo(el *css.Element, name string, parent *css.Style, stack []css.Container, level int) {
	st := w.e.styler.Pseudo(el, name, parent, stack)
	if st == nil || !st.HasContent || st.Display == css.None {
		return
	}
	w.apply(nil, st, level)
	w.note(el, name, st.Content, st)
	for _, t := range strings.Fields(strings.ToLower(st.Content)) {
		switch t {
		case "open-quote", "no-open-quote":
			w.depth++
		case "close-quote", "no-close-quote":
			w.depth = max(0, w.depth-1)
		}
	}
}

// leave ends the counters made by the children of a parent.
func (w *counter) leave(level int) {
	for n, list := range w.values {
		for len(list) > 0 && list[len(list)-1].level >= level {
			list = list[:len(list)-1]
		}
		w.values[n] = list
	}
}

func (w *counter) apply(el *css.Element, st *css.Style, level int) {
	c := css.Counters{}
	if st.Counters != nil {
		c = *st.Counters
	}
	if el != nil {
		c = listCounters(el, st, c)
	}
	for _, r := range c.Reset {
		list := w.values[r.Name]
		if n := len(list); n > 0 && list[n-1].level == level {
			list = list[:n-1] // a sibling's counter is replaced
		}
		w.values[r.Name] = append(list, scoped{r.N, level})
	}
	for _, r := range c.Increment {
		w.instance(r.Name, level).n += r.N
	}
	for _, r := range c.Set {
		w.instance(r.Name, level).n = r.N
	}
}

func (w *counter) instance(name string, level int) *scoped {
	list := w.values[name]
	if len(list) == 0 {
		list = append(list, scoped{0, level})
		w.values[name] = list
	}
	return &list[len(list)-1]
}

// listCounters adds what the browser's stylesheet and the attributes of lists do to the counter list-item (HTML,
// section 15.3.8).
func listCounters(el *css.Element, st *css.Style, c css.Counters) css.Counters {
	has := func(list []css.Count) bool {
		for _, x := range list {
			if x.Name == "list-item" {
				return true
			}
		}
		return false
	}
	number := func(attr string) (int, bool) {
		n, err := strconv.Atoi(strings.TrimSpace(el.Attr(attr)))
		return n, err == nil
	}
	switch el.Tag {
	case "ol", "ul", "menu", "dir":
		if has(c.Reset) {
			break
		}
		n := 0
		if start, ok := number("start"); ok && el.Tag == "ol" {
			n = start - 1
		}
		if _, ok := el.LookupAttr("reversed"); ok && el.Tag == "ol" {
			n++
			if _, given := number("start"); given {
				n++
			} else {
				for _, k := range el.Kids() {
					if k.Tag == "li" {
						n++
					}
				}
			}
		}
		c.Reset = append([]css.Count{{Name: "list-item", N: n}}, c.Reset...)
	}
	if st.Display == css.ListItem && !has(c.Increment) {
		step := 1
		if p := el.Parent; p != nil && p.Tag == "ol" {
			if _, ok := p.LookupAttr("reversed"); ok {
				step = -1
			}
		}
		c.Increment = append([]css.Count{{Name: "list-item", N: step}}, c.Increment...)
		if n, ok := number("value"); ok && el.Tag == "li" {
			c.Set = append([]css.Count{{Name: "list-item", N: n}}, c.Set...)
		}
	}
	return c
}

func (w *counter) note(el *css.Element, name, content string, st *css.Style) {
	at := &counted{counters: map[string][]int{}, depth: w.depth}
	if name == "marker" || strings.Contains(content, "counter") {
		for n, list := range w.values {
			for _, s := range list {
				at.counters[n] = append(at.counters[n], s.n)
			}
		}
	}
	if strings.Contains(content, "quote") {
		at.quotes = st.Quotes
		if at.quotes == nil {
			at.quotes = languageQuotes(el)
		}
	}
	w.out[pseudoKey{el, name}] = at
}

// languageQuotes gives the quotation marks of the language that an element is in.
func languageQuotes(el *css.Element) []string {
	for x := el; x != nil; x = x.Parent {
		lang, ok := x.LookupAttr("lang")
		if !ok {
			continue
		}
		switch lang, _, _ := strings.Cut(strings.ToLower(lang), "-"); lang {
		case "de", "cs", "sk", "sl":
			return []string{"„", "“", "‚", "‘"}
		case "fr":
			return []string{"«", "»", "«", "»"}
		case "es", "it", "pt", "el":
			return []string{"«", "»", "“", "”"}
		case "nb", "no", "nn":
			return []string{"«", "»", "‘", "’"}
		case "pl":
			return []string{"„", "”", "«", "»"}
		case "sv", "fi":
			return []string{"”", "”", "’", "’"}
		case "da", "ru", "uk":
			return []string{"«", "»", "„", "“"}
		}
		break
	}
	return []string{"“", "”", "‘", "’"}
}
