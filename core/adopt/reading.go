package adopt

import (
	"regexp"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"golang.org/x/net/html"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/markup"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

// Sort is what a piece of content is.
type sort uint8

const (
	heading sort = iota
	words        // a text
	link         // that stands by itself
	button
	picture
	icon
	list // like entries
	form
	frame
	film
)

// piece is one piece of content of a band, as fields would take it.
type piece struct {
	sort  sort
	value *site.Value // nil for a list
	plain string      // its letters
	level int         // of a heading
	size  float64     // of its letters, CSS px
	bold  bool
	quote bool           // it stands in a blockquote
	bare  bool           // a run of text beside boxes, without an element of its own
	lists []*reading     // the entries of a list
	like  *css.Element   // the first of them
	els   []*css.Element // of the entries, when each has one
	steps bool           // they are numbered
	fold  bool           // each opens and closes
	box   layout.Rect    // on the page, 1/64 px
	el    *css.Element
	form  *formRead
}

// formRead is what a form asks for.
type formRead struct {
	to     string
	search bool
	labels []string
	kinds  []string // text, email, tel, textarea, search ...
	send   string
}

// reading is what a band, or an entry of a list, says.
type reading struct {
	pieces []*piece
	box    layout.Rect
}

// reader takes bands apart.
type reader struct {
	r     *layout.Result
	n     *namer
	base  float64 // size of most text on the page, CSS px
	known map[*css.Element]map[*css.Element]string
	// what was read of elements as entries of a list that was none, so that nothing is read twice, and twice again inside
	tried map[*css.Element][]*piece
}

// read takes what stands in some elements apart, in the order in which it is written.
func (r *reader) read(list []*css.Element) *reading {
	out := &reading{}
	if parent := list[0].Parent; len(list) > 1 && parent != nil {
		r.among(parent, list, out)
	} else {
		r.walk(list[0], out)
	}
	for _, e := range list {
		if f := r.r.Of(e); f != nil {
			out.box = around2(out.box, f.Rect)
		}
	}
	out.pieces = r.flat(out.pieces)
	return out
}

func (o *reading) add(p *piece) { o.pieces = append(o.pieces, p) }

// walk reads an element.
func (r *reader) walk(e *css.Element, out *reading) {
	if pieces, ok := r.tried[e]; ok {
		out.pieces = append(out.pieces, pieces...)
		return
	}
	if unseen[e.Tag] || e.Foreign && e.Tag != "svg" {
		return
	}
	f := r.r.Of(e)
	if f == nil && !r.hiddenButMeant(e) {
		if f == nil && r.anyShown(e) {
			r.walkKids(e, out)
		}
		return
	}
	switch e.Tag {
	case "img", "picture", "svg", "video", "audio", "iframe", "embed", "object":
		r.picture(e, out)
		return
	case "form":
		r.form(e, out)
		return
	case "table":
		if rows := r.table(e); rows != nil {
			out.add(rows)
			return
		}
	case "dl":
		if p := r.terms(e); p != nil {
			out.add(p)
			return
		}
	case "details":
		out.add(&piece{sort: list, lists: []*reading{r.fold(e)}, fold: true, box: r.at(e), el: e})
		return
	case "hr", "input", "select", "textarea", "label":
		return
	}
	if r.ground(e) != "" && r.at(e).H > 200*64 {
		r.groundPicture(e, out)
	}
	if r.isText(e) {
		r.text(e, out)
		return
	}
	r.walkKids(e, out)
}

// hiddenButMeant reports what is closed until somebody opens it, and is content none the less.
func (r *reader) hiddenButMeant(e *css.Element) bool {
	for x := e.Parent; x != nil; x = x.Parent {
		if x.Tag == "details" {
			return true
		}
	}
	return false
}

func (r *reader) anyShown(e *css.Element) bool {
	for _, k := range e.Kids() {
		if r.r.Of(k) != nil || r.anyShown(k) {
			return true
		}
	}
	return false
}

// at gives the box of an element, that around what it holds when it has none.
func (r *reader) at(e *css.Element) layout.Rect { return (&cutter{r: r.r}).box(e) }

// walkKids reads the children of an element.
func (r *reader) walkKids(e *css.Element, out *reading) {
	bare := false
	for _, c := range e.Children {
		bare = bare || c.Element == nil && !separates(c.Text)
	}
	if bare {
		r.mixed(e, out)
		return
	}
	r.among(e, e.Kids(), out)
}

// among reads some children of an element; like ones become a list.
func (r *reader) among(e *css.Element, kids []*css.Element, out *reading) {
	like := r.alike(e)
	done := map[*css.Element]bool{}
	for _, k := range kids {
		if done[k] {
			continue
		}
		name := like[k]
		if name == "" {
			r.walk(k, out)
			continue
		}
		var group []*css.Element
		begun := false
		for _, x := range kids { // up to the next heading
			begun = begun || x == k
			if begun && isHeading(x.Tag) && len(group) > 0 {
				break
			}
			if begun && like[x] == name {
				group = append(group, x)
			}
		}
		if p := r.list(e, group); p != nil {
			for _, x := range group {
				done[x] = true
			}
			out.add(p)
			continue
		}
		r.walk(k, out)
	}
}

// separates reports text that only stands between links.
func separates(text string) bool {
	return strings.Trim(text, " \t\r\n\u00a0|·•/–—,»›>") == ""
}

// mixed reads an element in which text stands beside blocks: each run of text is one.
func (r *reader) mixed(e *css.Element, out *reading) {
	run, breaks := markup.Element("p"), 0
	var set []*css.Element // that the run is set in
	flush := func() {
		if text := strings.TrimSpace(Inline(run, r.n.to)); text != "" {
			in := e
			if len(set) == 1 {
				in = set[0]
			}
			p := r.said(in, run, text)
			p.bare, p.el = in == e, in
			out.add(p)
		}
		run, set, breaks = markup.Element("p"), nil, 0
	}
	for _, c := range e.Children {
		if c.Element == nil {
			if strings.TrimSpace(c.Text) != "" {
				set, breaks = append(set, e), 0
			}
			run.AppendChild(markup.Text(c.Text))
			continue
		}
		if c.Element.Tag == "br" {
			if breaks++; breaks == 2 { // an empty line
				flush()
				continue
			}
		} else if r.inline(c.Element) {
			set, breaks = append(set, c.Element), 0
		}
		if r.inline(c.Element) && !pictured(c.Element) {
			run.AppendChild(markup.Clone(c.Element.Raw))
			continue
		}
		flush()
		r.walk(c.Element, out)
	}
	flush()
}

func (r *reader) alike(e *css.Element) map[*css.Element]string {
	if r.known == nil {
		r.known = map[*css.Element]map[*css.Element]string{}
	}
	if r.known[e] == nil {
		r.known[e] = sweep.Alike(e)
		built := map[string][]*css.Element{}
		for _, k := range e.Kids() { // boxes without classes that are built alike, three at least
			if r.known[e][k] == "" && len(k.Kids()) > 0 && !unseen[k.Tag] {
				tags := k.Tag
				for _, x := range k.Kids() {
					tags += " " + x.Tag
				}
				built[tags] = append(built[tags], k)
			}
		}
		for tags, list := range built {
			for _, k := range list {
				if len(list) > 2 {
					r.known[e][k] = "built " + tags
				}
			}
		}
	}
	return r.known[e]
}

// inline reports an element that flows with text.
func (r *reader) inline(e *css.Element) bool {
	switch e.Tag {
	case "a", "em", "strong", "b", "i", "span", "small", "sup", "sub", "code", "br", "mark", "abbr", "cite", "q", "time",
		"u", "s", "del", "ins", "kbd", "samp", "var", "font", "bdi", "bdo", "wbr", "data", "big", "tt", "dfn":
	default:
		return false
	}
	if f := r.r.Of(e); f != nil && f.Style != nil && f.Style.Display != css.Inline && f.Style.Display != css.InlineBlock {
		return false
	}
	for _, k := range e.Kids() {
		if !r.inline(k) {
			return false
		}
	}
	return true
}

// isText reports an element with text in it and nothing but what flows with text.
func (r *reader) isText(e *css.Element) bool {
	if strings.TrimSpace(textOf(e.Raw)) == "" {
		return false
	}
	links, others, bare, breaks := 0, false, false, 0
	for _, c := range e.Children {
		if c.Element != nil && c.Element.Tag == "br" {
			if breaks++; breaks == 2 && !isHeading(e.Tag) {
				return false // an empty line: more than one text
			}
			continue
		}
		if c.Element != nil || strings.TrimSpace(c.Text) != "" {
			breaks = 0
		}
		switch {
		case c.Element == nil:
			bare = bare || !separates(c.Text)
			others = others || bare
		case c.Element.Tag == "svg" || c.Element.Tag == "img":
			return isHeading(e.Tag) && c.Element.Tag == "svg"
		case !r.inline(c.Element):
			return false
		default:
			if c.Element.Tag == "a" {
				links++
			} else if c.Element.Tag != "br" {
				others = true
			}
			if pictured(c.Element) {
				return false
			}
		}
	}
	switch {
	case !bare && len(e.Kids()) > 1 && r.rows(e) && !isHeading(e.Tag): // boxes side by side
		return false
	case e.Tag == "a" || links == 0 || loneLink(e.Raw) != nil:
		return true
	case !bare && links > 1: // links side by side
		return false
	}
	return others
}

// rows reports an element whose children are boxes of their own.
func (r *reader) rows(e *css.Element) bool {
	f := r.r.Of(e)
	return f != nil && f.Style != nil && f.Style.Display != css.Block && f.Style.Display != css.Inline
}

// text reads an element of text.
func (r *reader) text(e *css.Element, out *reading) {
	if e.Tag == "a" || e.Tag == "button" && !inForm(e) {
		r.link(e, out)
		return
	}
	only := loneLink(e.Raw)
	if only != nil && !isHeading(e.Tag) {
		r.link(elementOf(e, only), out)
		return
	}
	text := Inline(e.Raw, r.n.to)
	if text == "" {
		return
	}
	p := r.said(e, e.Raw, text)
	if isHeading(e.Tag) {
		p.sort, p.level = heading, int(e.Tag[1]-'0')
		if only != nil { // a title that leads somewhere: the title, then the link
			p.value.Text = Inline(only, r.n.to)
			out.add(p)
			if v := r.n.link(only); v != nil && v.Get("to").Str() != "#" {
				out.add(&piece{sort: link, value: v, plain: "", box: p.box, el: e, size: p.size})
			}
			return
		}
	}
	out.add(p)
}

func inForm(e *css.Element) bool {
	for ; e != nil; e = e.Parent {
		if e.Tag == "form" {
			return true
		}
	}
	return false
}

// said makes the piece of a text.
func (r *reader) said(e *css.Element, raw *html.Node, text string) *piece {
	p := &piece{sort: words, value: site.NewText(text), plain: strings.TrimSpace(collapse(textOf(raw))), box: r.at(e), el: e}
	for at := e; at != nil; at = at.Parent {
		if at.Tag == "blockquote" || at.Tag == "q" {
			p.quote = true
		}
	}
	if f := r.r.Of(deepest(e)); f != nil && f.Style != nil {
		p.size, p.bold = f.Style.FontSize, f.Style.FontWeight >= 600
	}
	return p
}

// deepest follows an element that holds but one element: its text is set in that.
func deepest(e *css.Element) *css.Element {
	for !hasText(e) && len(e.Kids()) == 1 {
		e = e.Kids()[0]
	}
	return e
}

// loneLink gives the link in an element that has nothing else.
func loneLink(n *html.Node) *html.Node {
	var a *html.Node
	for k := n.FirstChild; k != nil; k = k.NextSibling {
		switch {
		case k.Type == html.TextNode && strings.TrimSpace(k.Data) == "":
		case k.Type == html.CommentNode:
		case k.Type == html.ElementNode && k.Data == "a" && a == nil:
			a = k
		case k.Type == html.ElementNode && (k.Data == "strong" || k.Data == "b" || k.Data == "span" || k.Data == "em") && a == nil:
			if a = loneLink(k); a == nil {
				return nil
			}
		default:
			return nil
		}
	}
	return a
}

// elementOf finds the element of a node.
func elementOf(e *css.Element, n *html.Node) *css.Element {
	if e.Raw == n {
		return e
	}
	for _, k := range e.Kids() {
		if x := elementOf(k, n); x != nil {
			return x
		}
	}
	return nil
}

// link reads a link that stands by itself; one that looks like a button is one.
func (r *reader) link(e *css.Element, out *reading) {
	if strings.HasPrefix(strings.ToLower(strings.TrimSpace(e.Attr("href"))), "javascript:") {
		r.n.to(e.Attr("href")) // it is told
		return
	}
	v := r.n.link(e.Raw)
	if v == nil || v.Get("label").Str() == "" && v.Get("to").Str() == "#" {
		return
	}
	if v.Get("label").Str() == "" {
		return
	}
	p := &piece{sort: link, value: v, plain: v.Get("label").Str(), box: r.at(e), el: e}
	if f := r.r.Of(e); f != nil && f.Style != nil {
		p.size = f.Style.FontSize
		if r.looksPressed(e, f) {
			p.sort = button
		}
	}
	out.add(p)
}

// looksPressed reports a link with a ground or a line around it and room inside.
func (r *reader) looksPressed(e *css.Element, f *layout.Fragment) bool {
	if e.Tag == "button" {
		return true
	}
	padding := func(side int) float64 { return f.Style.Padding[side].At(float64(Width)) }
	padded := padding(1) >= 6 && padding(3) >= 6
	_, solid := r.color(e, "background-color")
	lined := f.Style.BorderWidth[0] > 0 && f.Style.BorderWidth[1] > 0 && f.Style.BorderWidth[2] > 0
	return padded && (solid || lined || r.ground(e) != "")
}

// color reads a color of an element itself; ok is false when it is none, or cannot be seen.
func (r *reader) color(e *css.Element, property string) (css.Color, bool) {
	f := r.r.Of(e)
	if f == nil || f.Style == nil {
		return css.Color{}, false
	}
	c, ok := css.ParseColor(f.Style.Look().Value(property), css.ColorContext{})
	return c, ok && c.A > .05
}

// ground gives the address of the picture under an element, "" for none.
func (r *reader) ground(e *css.Element) string {
	f := r.r.Of(e)
	if f == nil || f.Style == nil {
		return ""
	}
	m := groundURL.FindStringSubmatch(css.Text(f.Style.Look().Value("background-image")))
	if m == nil {
		return ""
	}
	return strings.Trim(m[1], `"' `)
}

var groundURL = regexp.MustCompile(`url\(([^)]*)\)`)

// groundPicture takes a picture that lies under an element as one of the band's.
func (r *reader) groundPicture(e *css.Element, out *reading) {
	src := r.ground(e)
	if strings.HasPrefix(src, "data:") {
		return
	}
	file := ""
	if sheet, ok := r.n.sheetOf(e, r.r); ok && !strings.HasPrefix(src, "/") {
		file = r.n.under(sheet, src)
	} else {
		file = r.n.source(src)
	}
	if file == "" {
		r.n.page.leave("the picture %s, which is not in the folder", short(src))
		return
	}
	v := site.NewMap("file", site.NewText(file), "alt", site.NewText(e.Attr("aria-label")))
	out.add(&piece{sort: picture, value: v, box: r.at(e), el: e, level: 1})
}

// picture reads a picture, an icon, a film or a frame.
func (r *reader) picture(e *css.Element, out *reading) {
	box := r.at(e)
	small := box.W <= 72*64 && box.H <= 72*64
	switch e.Tag {
	case "iframe", "embed", "object":
		if src := r.n.to(e.Attr("src") + e.Attr("data")); strings.HasPrefix(src, "https:") {
			out.add(&piece{sort: frame, value: site.NewText(src), plain: e.Attr("title"), box: box, el: e})
		}
		return
	case "video":
		src := e.Attr("src")
		if s := markup.First(e.Raw, "source"); src == "" && s != nil {
			src = markup.Value(s, "src")
		}
		if to := r.n.to(src); to != "" {
			out.add(&piece{sort: film, value: site.NewText(to), box: box, el: e})
		}
		return
	case "audio":
		r.n.page.leave("a sound file")
		return
	case "svg":
		if box.W > 160*64 {
			r.drawing(e, box, out)
		} else if name := r.n.icon(e.Raw); name != "" {
			out.add(&piece{sort: icon, value: site.NewText(name), box: box, el: e})
		}
		return
	}
	img := markup.First(e.Raw, "img")
	if img == nil {
		return
	}
	if tracksNode(img) {
		return
	}
	v := r.n.picture(e.Raw)
	if v == nil {
		return
	}
	p := &piece{sort: picture, value: v, box: box, el: e}
	if small && strings.HasSuffix(v.Get("file").Str(), ".svg") {
		p.level = 9 // it may serve as an icon
	}
	out.add(p)
}

func tracksNode(n *html.Node) bool {
	w, h := markup.Value(n, "width"), markup.Value(n, "height")
	return (w == "1" || w == "0") && (h == "1" || h == "0")
}

// drawing keeps a large drawing that stands in the page as a file.
func (r *reader) drawing(e *css.Element, box layout.Rect, out *reading) {
	name := r.n.drawn(e.Raw)
	if name == "" {
		return
	}
	file := "icons/" + name + ".svg"
	label := e.Attr("aria-label")
	if t := markup.First(e.Raw, "title"); t != nil && label == "" {
		label = strings.TrimSpace(textOf(t))
	}
	v := site.NewMap("file", site.NewText(file), "alt", site.NewText(label))
	out.add(&piece{sort: picture, value: v, box: box, el: e})
}

// form reads a form: what it asks, and where it is sent.
func (r *reader) form(e *css.Element, out *reading) {
	fr := &formRead{to: r.n.to(e.Attr("action"))}
	inner := &reading{}
	var walk func(x *css.Element)
	walk = func(x *css.Element) {
		switch x.Tag {
		case "input", "textarea", "select":
			kind := x.Attr("type")
			if x.Tag != "input" {
				kind = x.Tag
			}
			switch kind {
			case "hidden", "checkbox", "radio":
				return
			case "submit", "button", "image":
				fr.send = x.Attr("value")
				return
			}
			fr.kinds = append(fr.kinds, kind)
			fr.labels = append(fr.labels, labelOf(e, x))
			return
		case "button":
			fr.send = strings.TrimSpace(collapse(textOf(x.Raw)))
			return
		case "label", "legend":
			for _, k := range x.Kids() {
				walk(k)
			}
			return
		}
		if !hasControl(x) {
			r.walk(x, inner)
			return
		}
		for _, k := range x.Kids() {
			walk(k)
		}
	}
	for _, k := range e.Kids() {
		walk(k)
	}
	fr.search = e.Attr("role") == "search" || slices.Contains(fr.kinds, "search")
	out.pieces = append(out.pieces, inner.pieces...)
	if len(fr.kinds) > 0 {
		out.add(&piece{sort: form, form: fr, plain: strings.Join(append(slices.Clone(fr.labels), fr.send), " "), box: r.at(e), el: e})
	}
}

func hasControl(e *css.Element) bool {
	switch e.Tag {
	case "input", "textarea", "select", "button", "label":
		return true
	}
	return slices.ContainsFunc(e.Kids(), hasControl)
}

// labelOf gives what a control asks for.
func labelOf(within, control *css.Element) string {
	for at := control; at != nil && at != within; at = at.Parent {
		if at.Tag == "label" {
			return strings.TrimSpace(collapse(textOf(at.Raw)))
		}
	}
	found := ""
	if control.ID != "" {
		markup.Each(within.Raw, func(n *html.Node) {
			if n.Data == "label" && markup.Value(n, "for") == control.ID {
				found = strings.TrimSpace(collapse(textOf(n)))
			}
		})
	}
	for _, s := range []string{found, control.Attr("aria-label"), control.Attr("placeholder"), control.Attr("name")} {
		if s != "" {
			return s
		}
	}
	return ""
}

// fold reads details: a title and what opens.
func (r *reader) fold(e *css.Element) *reading {
	out := &reading{box: r.at(e)}
	for _, k := range e.Kids() {
		if k.Tag == "summary" {
			text := Inline(deepest(k).Raw, r.n.to)
			out.add(&piece{sort: heading, level: 6, value: site.NewText(text), plain: strings.TrimSpace(collapse(textOf(k.Raw))), el: k})
		}
	}
	rest := markup.Element("p")
	blocks := false
	for _, c := range e.Children {
		switch {
		case c.Element == nil:
			rest.AppendChild(markup.Text(c.Text))
		case c.Element.Tag == "summary":
		default:
			blocks = true
			r.walk(c.Element, out)
		}
	}
	if text := Inline(rest, r.n.to); !blocks && text != "" {
		out.add(&piece{sort: words, value: site.NewText(text), plain: text, el: e})
	}
	return out
}

// terms reads a list of terms: each with what is said of it.
func (r *reader) terms(e *css.Element) *piece {
	p := &piece{sort: list, box: r.at(e), el: e}
	var walk func(e *css.Element)
	walk = func(e *css.Element) {
		for _, k := range e.Kids() {
			switch k.Tag {
			case "div":
				walk(k)
			case "dt":
				in := &reading{box: r.at(k)}
				r.walkText(k, in)
				for _, x := range in.pieces {
					if x.sort == words {
						x.sort, x.level = heading, 6
						break
					}
				}
				p.lists = append(p.lists, in)
			case "dd":
				if n := len(p.lists); n > 0 {
					r.walkText(k, p.lists[n-1])
				}
			}
		}
	}
	walk(e)
	if len(p.lists) == 0 {
		return nil
	}
	return p
}

// walkText reads an element as text when it is nothing else.
func (r *reader) walkText(e *css.Element, out *reading) {
	if text := Inline(e.Raw, r.n.to); r.isText(e) || len(e.Kids()) == 0 && text != "" {
		if only := loneLink(e.Raw); only != nil && e.Tag != "dt" {
			r.link(elementOf(e, only), out)
			return
		}
		out.add(r.said(e, e.Raw, text))
		return
	}
	r.walkKids(e, out)
}

// table reads a table of data as entries: of each row the first cell and the others. One that lays a page out is nil.
func (r *reader) table(e *css.Element) *piece {
	rows, head := tableRows(e)
	if len(rows) < 2 || !head && (len(rows) < 3 || len(rows[0]) < 2) {
		return nil
	}
	p := &piece{sort: list, box: r.at(e), el: e}
	for _, row := range rows {
		in := &reading{box: r.at(row[0])}
		onlyHead, titled := true, false
		for _, cell := range row {
			if pictured(cell) && !r.isText(cell) || hasBlocks(cell) {
				return nil
			}
			onlyHead = onlyHead && cell.Tag == "th"
			before := len(in.pieces)
			r.walkText(cell, in)
			if !titled && len(in.pieces) > before && in.pieces[before].sort == words && !isDate(in.pieces[before].plain) {
				in.pieces[before].sort, in.pieces[before].level, titled = heading, 6, true
			}
		}
		if onlyHead && len(row) > 1 || len(in.pieces) == 0 {
			continue // the names of the columns
		}
		p.lists = append(p.lists, in)
	}
	if len(p.lists) < 2 {
		return nil
	}
	return p
}

// tableRows lists the cells of a table by row, and whether it has head cells.
func tableRows(e *css.Element) (rows [][]*css.Element, head bool) {
	var walk func(x *css.Element)
	walk = func(x *css.Element) {
		for _, k := range x.Kids() {
			switch k.Tag {
			case "thead", "tbody", "tfoot":
				walk(k)
			case "tr":
				var row []*css.Element
				for _, c := range k.Kids() {
					if c.Tag == "td" || c.Tag == "th" {
						row = append(row, c)
						head = head || c.Tag == "th"
					}
				}
				if len(row) > 0 {
					rows = append(rows, row)
				}
			}
		}
	}
	walk(e)
	return rows, head
}

func hasBlocks(e *css.Element) bool {
	for _, k := range e.Kids() {
		switch {
		case containers[k.Tag], isHeading(k.Tag), k.Tag == "ul", k.Tag == "ol", k.Tag == "form":
			return true
		}
		if hasBlocks(k) {
			return true
		}
	}
	return false
}

// list reads like elements as the entries of a list. nil when they are not one: links of a row, halves of a band, a box
// beside another one that shares a class with it.
func (r *reader) list(parent *css.Element, group []*css.Element) *piece {
	p := &piece{sort: list, steps: parent.Tag == "ol", box: r.at(parent), el: parent, like: group[0]}
	for _, e := range group {
		in := &reading{box: r.at(e)}
		switch {
		case e.Tag == "details":
			in, p.fold = r.fold(e), true
		case e.Tag == "li":
			r.walkText(e, in)
		default:
			r.walk(e, in)
		}
		if r.tried == nil {
			r.tried = map[*css.Element][]*piece{}
		}
		r.tried[e] = in.pieces
		in.pieces = r.flat(in.pieces)
		if e.Tag == "a" && len(in.pieces) > 0 { // a card that is a link as a whole
			r.whole(e, in)
		}
		if len(in.pieces) > 0 {
			p.lists, p.els = append(p.lists, in), append(p.els, e)
		}
	}
	switch group[0].Tag {
	case "a", "button", "span", "p", "br": // those that hold more than a text
		if slices.ContainsFunc(p.lists, func(o *reading) bool { return len(o.pieces) < 2 && !o.pictured() }) {
			return nil
		}
	}
	if len(p.lists) < 2 || len(p.lists) == 2 && unlike(p.lists[0], p.lists[1]) {
		if len(p.lists) == 1 && p.fold {
			return p
		}
		return nil
	}
	if rows := joined(p.lists); rows != nil {
		p.lists, p.els = rows, nil
	}
	return p
}

// whole adds the link that an entry is as a whole.
func (r *reader) whole(e *css.Element, in *reading) {
	to := r.n.to(e.Attr("href"))
	if to == "" || slices.ContainsFunc(in.pieces, func(p *piece) bool { return p.sort == link || p.sort == button }) {
		return
	}
	label := ""
	for _, p := range in.pieces {
		if p.sort == heading && label == "" {
			label = p.plain
		}
	}
	if label == "" && len(in.pieces) == 1 {
		label = in.pieces[0].plain
	}
	if label == "" {
		return
	}
	in.add(&piece{sort: link, value: site.NewMap("label", site.NewText(label), "to", site.NewText(to)), box: in.box, el: e})
}

// pictured reports a reading that is a picture alone.
func (o *reading) pictured() bool { return len(o.pieces) == 1 && o.pieces[0].sort == picture }

// unlike reports two boxes of which one has what the other lacks: words beside a picture.
func unlike(a, b *reading) bool {
	sorts := func(o *reading) (pictures, texts bool) {
		for _, p := range o.pieces {
			pictures = pictures || p.sort == picture || p.sort == frame || p.sort == film || p.sort == form
			texts = texts || p.sort == heading || p.sort == words || p.sort == list
		}
		return
	}
	ap, at := sorts(a)
	bp, bt := sorts(b)
	heads := func(o *reading) int {
		n := 0
		for _, p := range o.pieces {
			if p.sort == heading {
				n++
			}
		}
		return n
	}
	return ap && !at && bt || bp && !bt && at || (heads(a) == 0) != (heads(b) == 0) && (at || bt)
}

// joined gives the entries of rows that hold nothing but a list each.
func joined(rows []*reading) []*reading {
	var out []*reading
	for _, row := range rows {
		if len(row.pieces) != 1 || row.pieces[0].sort != list {
			return nil
		}
		out = append(out, row.pieces[0].lists...)
	}
	return out
}

// flat makes a list of what repeats without a box of its own: several headings of one level, each with what follows;
// a list with one entry is none. Folds that follow one another are one list.
func (r *reader) flat(pieces []*piece) []*piece {
	var out []*piece
	for _, p := range pieces {
		if n := len(out); p.fold && n > 0 && out[n-1].fold {
			out[n-1].lists = append(out[n-1].lists, p.lists...)
			continue
		}
		out = append(out, p)
	}
	if slices.ContainsFunc(out, func(p *piece) bool { return p.sort == list && len(p.lists) > 1 && entriesHeaded(p) }) &&
		!eachHasList(out) {
		return out
	}
	least := 9
	for _, p := range out {
		if p.sort == heading {
			least = min(least, p.level)
		}
	}
	for level := least; level < 7; level++ {
		var starts []int
		for i, p := range out {
			if p.sort == heading && p.level == level {
				starts = append(starts, i)
			}
		}
		if len(starts) < 2 {
			continue
		}
		if level == least && starts[0] == 0 && r.first(out, level) {
			continue
		}
		p := &piece{sort: list, box: out[starts[0]].box, el: out[starts[0]].el}
		for k, from := range starts {
			to := len(out)
			if k+1 < len(starts) {
				to = starts[k+1]
			}
			in := &reading{pieces: out[from:to]}
			for _, x := range in.pieces {
				in.box = around2(in.box, x.box)
			}
			p.lists = append(p.lists, in)
		}
		return append(slices.Clone(out[:starts[0]]), p)
	}
	return out
}

// eachHasList reports headings of one level, two at least, each with a list under it: groups.
func eachHasList(pieces []*piece) bool {
	lists := map[int]int{} // by the level of the heading before
	count, level := map[int]int{}, 0
	for _, p := range pieces {
		switch p.sort {
		case heading:
			level = p.level
			count[level]++
		case list:
			lists[level]++
		}
	}
	for l, n := range count {
		if n > 1 && lists[l] >= n {
			return true
		}
	}
	return false
}

// first reports that the headings of a level are all there are, so that the first of them is the band's.
func (r *reader) first(pieces []*piece, level int) bool {
	n := 0
	for _, p := range pieces {
		if p.sort == heading && p.level == level {
			n++
		}
	}
	return n == 1
}

func entriesHeaded(p *piece) bool {
	for _, e := range p.lists {
		if len(e.pieces) > 1 {
			return true
		}
	}
	return false
}

// Words about what a text is.
var (
	moneyForm  = regexp.MustCompile(`^(?:(?:from|ab|dès|von)\s+)?(?:[€$£¥₹]\s?\d[\d.,' ]*|\d[\d.,' ]*\s?(?:€|\$|£|¥|₹|EUR|USD|GBP|CHF|kr|zł)|(?:EUR|USD|GBP|CHF)\s?\d[\d.,' ]*)(?:\s?[.,]?-{1,2})?$`)
	moneyEnd   = regexp.MustCompile(`^(.{2,60}?)\s*[:.…–—-]*\s+([€$£¥₹]\s?\d[\d.,']*|\d[\d.,']*\s?(?:€|\$|£|EUR|USD|GBP|CHF))$`)
	moneyStart = regexp.MustCompile(`^([€$£¥₹]\s?\d[\d.,']*|\d[\d.,']*\s?(?:€|\$|£|¥|₹|EUR|USD|GBP|CHF))\s*(/?\s*\D.*)$`)
	figureForm = regexp.MustCompile(`^[~≈<>+]?\s?\d[\d.,' ]*\s?(?:%|\+|k|K|m|M|×|x|°|h|km|kg)?\+?$`)
	dateForm   = regexp.MustCompile(`(?i)^(?:\w+,? )?(?:\d{1,2}[./-]\d{1,2}[./-]\d{2,4}|\d{4}-\d{2}-\d{2}|\d{1,2}\.? (?:jan|feb|mar|mär|apr|may|mai|jun|jul|aug|sep|oct|okt|nov|dec|dez)\w*\.?(?: \d{4})?|(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)\w* \d{1,2}(?:, \d{4})?|(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)\w* \d{4}|(?:19|20)\d{2}(?:[–-](?:\d{2,4}|today|now))?)\b`)
	timeForm   = regexp.MustCompile(`^\d{1,2}[:.h]\d{2}(?:\s?(?:am|pm|Uhr))?(?:\s?[–-]\s?\d{1,2}[:.h]\d{2})?|^\d{1,2}\s?(?:am|pm)\b`)
)

func letters(s string) int { return utf8.RuneCountInString(s) }

// isMoney, isFigure and isDate tell what a short text is.
func isMoney(s string) bool  { return moneyForm.MatchString(s) }
func isFigure(s string) bool { return letters(s) <= 12 && figureForm.MatchString(s) }
func isDate(s string) bool {
	return letters(s) <= 32 && (dateForm.MatchString(s) || timeForm.MatchString(s))
}

// isName reports a text that could be somebody's name: two or three words that begin large.
func isName(s string) bool {
	w := strings.Fields(s)
	if len(w) < 1 || len(w) > 4 || letters(s) > 40 || strings.ContainsAny(s, ".!?:") && !strings.Contains(s, ". ") {
		return false
	}
	large := 0
	for _, x := range w {
		r, _ := utf8.DecodeRuneInString(x)
		if unicode.IsUpper(r) || !unicode.IsLower(r) && unicode.IsLetter(r) {
			large++
		}
	}
	return large*2 > len(w)
}
