package adopt

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/css"
	"ziegel/core/library"
	"ziegel/core/markup"
	"ziegel/core/project"
	"ziegel/core/site"
)

// A band that no section of the library shows becomes a section of the site's own: its markup with marks on what is
// content, its styles as they are in force (own_styles.go), under classes of its own.

// keptAttributes are what an element keeps of what it says in the old page.
var keptAttributes = map[string]bool{
	"href":         true,
	"src":          true,
	"alt":          true,
	"width":        true,
	"height":       true,
	"type":         true,
	"name":         true,
	"placeholder":  true,
	"value":        true,
	"aria-label":   true,
	"role":         true,
	"datetime":     true,
	"colspan":      true,
	"rowspan":      true,
	"scope":        true,
	"open":         true,
	"dir":          true,
	"lang":         true,
	"start":        true,
	"required":     true,
	"autocomplete": true,
	"rows":         true,
	"min":          true,
	"max":          true,
	"pattern":      true,
	"title":        true,
}

// modernTags are what old elements are called now.
var modernTags = map[string]string{"font": "span", "center": "div", "big": "span", "tt": "code", "acronym": "abbr",
	"strike": "s", "main": "div", "header": "div", "footer": "div", "section": "div", "nav": "div"}

// makeOwn makes a section of a band, and gives the band its content.
func (p *Page) makeOwn(env *project.Project, n *namer, b *Band, name string) (*Own, error) {
	kind, _, _ := strings.Cut(name, "/")
	m := &maker{
		env:    env,
		n:      n,
		page:   p,
		band:   b,
		kind:   kind,
		of:     map[*html.Node]*css.Element{},
		copies: map[*css.Element]*html.Node{},
		pieces: map[*css.Element]*piece{},
		marked: map[*css.Element]bool{},
		called: map[*html.Node]string{},
		out:    record{},
		level:  9,
		reader: newReader(p.result, n),
		runs:   map[*css.Element][]*html.Node{},
	}
	for _, x := range b.read.every() {
		if x.el != nil && m.pieces[x.el] == nil {
			m.pieces[x.el] = x
		}
	}
	for _, x := range b.read.pieces {
		if x.sort == heading {
			m.level = min(m.level, x.level)
		}
	}
	root := markup.Element("section", "class", "lanes root")
	for _, e := range m.inner(b.elements) {
		if k := m.clone(e); k != nil {
			root.AppendChild(k)
		}
	}
	m.mark(b.read, root)
	m.common(root)
	sheet := m.styles(root)
	b.Content = m.content()
	for _, e := range b.Content.Entries {
		if e.Value.Kind == site.List && e.Key != "actions" {
			b.Meant = append(b.Meant, e.Key)
		}
	}
	b.Section, b.Share, b.Lost, b.Options, b.Without, b.Near = name, 1, nil, nil, nil, nil
	for _, x := range b.read.every() {
		if m.used(x) || weightOf(x) == 0 {
			continue
		}
		b.Lost = append(b.Lost, x.String()+" (it stays in the section's markup)")
	}
	doc := &html.Node{Type: html.DocumentNode}
	doc.AppendChild(&html.Node{Type: html.DoctypeNode, Data: "html"})
	doc.AppendChild(markup.With(markup.Element("html", "lang", "en"),
		markup.With(markup.Element("head"), markup.Element("meta", "charset", "utf-8"),
			markup.Element("meta", "name", "viewport", "content", "width=device-width, initial-scale=1"),
			markup.With(markup.Element("title"), markup.Text(name)),
			markup.Element("link", "rel", "stylesheet", "href", "../../bench.css"),
			markup.Element("link", "rel", "stylesheet", "href", "section.css")),
		markup.With(markup.Element("body"), root)))
	return &Own{Name: name, Told: m.told, Files: library.Kept{HTML: markup.Print(doc), CSS: sheet,
		YAML: fmt.Sprintf(
			"name: %s\nkind: %s\nsummary: Taken from %s.\ntags: []\nversion: 1\n",
			name,
			kind,
			p.File,
		)}}, nil
}

// inner goes into boxes that hold but one: wrappers, whose width and distances the page gives. One that is drawn stays.
func (m *maker) inner(list []*css.Element) []*css.Element {
	for len(list) == 1 && !hasText(list[0]) && !isHeading(list[0].Tag) && !m.drawn(list[0]) {
		var kids []*css.Element
		for _, k := range list[0].Kids() {
			if !unseen[k.Tag] {
				kids = append(kids, k)
			}
		}
		if len(kids) != 1 || !containers[kids[0].Tag] || kids[0].Tag == "table" {
			break
		}
		list = kids
	}
	return list
}

// drawn reports a box with a line around it, or a ground that is not the page's whole width.
func (m *maker) drawn(e *css.Element) bool {
	f := m.page.result.Of(e)
	if f == nil || f.Style == nil {
		return false
	}
	_, colored := m.reader.color(e, "background-color")
	return f.Style.BorderWidth[0] > 0 && f.Style.BorderWidth[1] > 0 || colored && f.W < Width*64
}

// clone copies an element without what no section takes: scripts, handlers, names, styles.
func (m *maker) clone(e *css.Element) *html.Node {
	if unseen[e.Tag] || e.Tag == "iframe" || e.Tag == "object" || e.Tag == "embed" {
		return nil
	}
	if e.Tag == "svg" {
		return m.svg(e)
	}
	tag := e.Tag
	if now := modernTags[tag]; now != "" {
		tag = now
	}
	if isHeading(tag) {
		tag = "h3"
		if int(e.Tag[1]-'0') == m.level {
			tag = "h2"
		}
	}
	n := markup.Element(tag)
	for _, a := range e.Raw.Attr {
		if keptAttributes[a.Key] && a.Namespace == "" && !(a.Key == "width" && tag != "img") &&
			!(a.Key == "height" && tag != "img") {
			markup.Set(n, a.Key, a.Val)
		}
	}
	m.of[n], m.copies[e] = e, n
	switch tag {
	case "a":
		markup.Set(n, "href", "#") // the page says where it leads
	case "img":
		if v := m.n.picture(e.Raw); v != nil {
			markup.Set(n, "src", "../../../media/"+v.Get("file").Str())
		} else {
			return nil
		}
		if w, h := int(m.box(e)[0]), int(m.box(e)[1]); !markup.Has(n, "width") && w > 0 {
			markup.Set(n, "width", strconv.Itoa(w))
			markup.Set(n, "height", strconv.Itoa(h))
		}
	case "form":
		markup.Set(n, "action", "https://forms.example/")
		markup.Set(n, "data-to", "send-to")
	}
	m.children(e, n)
	return n
}

// children copies what stands in an element. Text beside boxes gets an element of its own, so that it can be a field.
func (m *maker) children(e *css.Element, n *html.Node) {
	mixed := false
	for _, k := range e.Kids() {
		mixed = mixed || hasText(e) && !m.reader.inline(k)
	}
	var run *html.Node
	for _, c := range e.Children {
		into := n
		if mixed &&
			(c.Element == nil && strings.TrimSpace(c.Text) != "" || c.Element != nil && m.reader.inline(c.Element)) {
			if run == nil {
				run = markup.Element("span")
				m.runs[e] = append(m.runs[e], run)
				n.AppendChild(run)
			}
			into = run
		} else if c.Element != nil {
			run = nil
		}
		if c.Element == nil {
			if strings.TrimSpace(c.Text) != "" || into.FirstChild != nil && !mixed {
				into.AppendChild(markup.Text(collapse(c.Text)))
			}
			continue
		}
		if k := m.clone(c.Element); k != nil {
			into.AppendChild(k)
		}
	}
}

func (m *maker) box(e *css.Element) [2]float64 {
	if f := m.page.result.Of(e); f != nil {
		return [2]float64{f.W.Float(), f.H.Float()}
	}
	return [2]float64{}
}

// svg copies a drawing that has no script in it.
func (m *maker) svg(e *css.Element) *html.Node {
	n := markup.Clone(e.Raw)
	bad := false
	markup.Each(n, func(x *html.Node) {
		bad = bad || x.Data == "script" || x.Data == "foreignObject" || x.Data == "style"
		x.Attr = slices.DeleteFunc(x.Attr, func(a html.Attribute) bool {
			return strings.HasPrefix(a.Key, "on") || a.Key == "class" || a.Key == "id" || a.Key == "style" ||
				strings.Contains(strings.ToLower(a.Val), "javascript:")
		})
	})
	if bad {
		m.told = append(m.told, "a drawing with styles or a script of its own is gone")
		return nil
	}
	m.of[n], m.copies[e] = e, n
	return n
}

// mark gives what is content its field, and the record what the page says in it.
func (m *maker) mark(rd *reading, root *html.Node) {
	afterHeading := false
	for _, p := range rd.pieces {
		n := m.place(root, p)
		if n == nil {
			continue
		}
		switch p.sort {
		case heading:
			if !afterHeading {
				afterHeading = true
				m.put(n, p, "heading", m.out)
			} else {
				m.put(n, p, "heading", m.out)
			}
		case words:
			name := "text"
			switch {
			case !afterHeading && letters(p.plain) <= 60 && m.out["eyebrow"] == nil && m.level < 9:
				name = "eyebrow"
			case m.out["lead"] == nil:
				name = "lead"
			}
			m.put(n, p, name, m.out)
		case picture:
			m.put(n, p, "media", m.out)
		case icon:
			m.put(n, p, "icon", m.out)
		case link, button:
			m.link(n, p, root)
		case list:
			m.list(n, p, m.out, "items")
		case form:
			if to := p.form.to; strings.Contains(to, ":") {
				m.out["send-to"] = site.NewText(strings.TrimPrefix(to, "mailto:"))
			}
			m.marked[p.el] = true
		}
	}
}

// place finds the copy of what a piece was read from.
func (m *maker) place(root *html.Node, p *piece) *html.Node {
	if p.bare {
		for _, run := range m.runs[p.el] {
			if !markup.Has(run, "data-field") {
				return run
			}
		}
	}
	return m.node(root, p.el)
}

// node finds the copy of an element.
func (m *maker) node(root *html.Node, e *css.Element) *html.Node {
	n := m.copies[e]
	for at := n; at != nil; at = at.Parent {
		if at == root {
			return n
		}
	}
	return nil
}

// put marks an element as a field of a name that is free.
func (m *maker) put(n *html.Node, p *piece, name string, out record) {
	if markup.Has(n, "data-field") || holdsFields(n) ||
		p.sort == picture && n.Data != "img" && markup.First(n, "img") == nil {
		return
	}
	base := name
	for i := 2; out[name] != nil; i++ {
		name = base + "-" + strconv.Itoa(i)
	}
	if p.sort == picture {
		n = markup.First(n, "img")
		frame := n.Parent
		if frame != nil && frame.Data == "picture" { // the page writes its own sources
			frame.Parent.InsertBefore(markup.Clone(n), frame)
			put := frame.PrevSibling
			m.of[put], m.copies[m.of[n]] = m.of[n], put
			frame.Parent.RemoveChild(frame)
			n = put
		}
	}
	markup.Set(n, "data-field", name)
	markup.Set(n, "data-part", name)
	out[name] = p.value
	m.marked[p.el] = true
}

// holdsFields reports an element in which something is a field already.
func holdsFields(n *html.Node) bool {
	is := false
	markup.Each(n, func(x *html.Node) {
		is = is || x != n && (markup.Has(x, "data-field") || markup.Has(x, "data-each"))
	})
	return is
}

// link marks a link: those that stand side by side are the section's actions.
func (m *maker) link(n *html.Node, p *piece, _ *html.Node) {
	if n.Data != "a" {
		if n = markup.First(n, "a"); n == nil {
			return
		}
	}
	if markup.Has(n, "data-field") {
		return
	}
	list := m.out["actions"]
	before := previousElement(n)
	switch {
	case list == nil:
		list = &site.Value{Kind: site.List}
		m.out["actions"] = list
		markup.Set(n, "data-part", "action")
	case before == nil || markup.Value(before, "data-each") != "actions":
		m.put(n, p, "link", m.out)
		return
	}
	markup.Set(n, "data-each", "actions")
	markup.Set(n, "data-field", ".")
	list.Items = append(list.Items, p.value)
	m.marked[p.el] = true
}

func previousElement(n *html.Node) *html.Node {
	for n = n.PrevSibling; n != nil && n.Type != html.ElementNode; n = n.PrevSibling {
		if n.Type == html.TextNode && strings.TrimSpace(n.Data) != "" {
			return nil
		}
	}
	return n
}

// list marks like entries: the fullest is the pattern and goes first.
func (m *maker) list(n *html.Node, p *piece, out record, name string) {
	if len(p.els) != len(p.lists) || len(p.els) == 0 {
		m.told = append(m.told, "a list whose entries have no box of their own stays as it is written")
		return
	}
	base := name
	for i := 2; out[name] != nil; i++ {
		name = base + "-" + strconv.Itoa(i)
	}
	v := &site.Value{Kind: site.List}
	fullest, most := (*html.Node)(nil), -1
	var first *html.Node
	for i, e := range p.els {
		k := m.node(n, e)
		if k == nil {
			continue
		}
		if first == nil {
			first = k
		}
		markup.Set(k, "data-each", name)
		in := record{}
		m.entry(k, p.lists[i], in)
		if len(in) > most {
			fullest, most = k, len(in)
		}
		if self := in["."]; self != nil && len(in) == 1 {
			v.Items = append(v.Items, self)
		} else {
			v.Items = append(v.Items, mapOf(in))
		}
	}
	if len(v.Items) == 0 || fullest == nil {
		return
	}
	markup.Set(fullest, "data-part", map[bool]string{true: "card", false: "entry"}[base == "items"])
	for k := first.Parent.FirstChild; k != nil; k = k.NextSibling {
		if markup.Value(k, "data-each") == name {
			m.called[k] = markup.Value(fullest, "data-part")
		}
	}
	if fullest != first { // the first one is the pattern
		parent := fullest.Parent
		parent.RemoveChild(fullest)
		parent.InsertBefore(fullest, first)
	}
	out[name] = v
	m.marked[p.el] = true
}

// entry marks what stands in one entry.
func (m *maker) entry(n *html.Node, rd *reading, out record) {
	for _, p := range rd.pieces {
		k := m.place(n, p)
		if k == nil {
			continue
		}
		name := map[sort]string{heading: "title", words: "text", picture: "media", icon: "icon", link: "link", button: "link"}[p.sort]
		switch {
		case p.sort == list:
			m.list(k, p, out, "points")
			continue
		case p.sort == words && p.bold && letters(p.plain) <= 80 && len(rd.pieces) > 1 && out["title"] == nil && !hasHeading(rd):
			name = "title"
		case p.sort == words && isMoney(p.plain):
			name = "price"
		case p.sort == words && isDate(p.plain):
			name = "meta"
		case p.sort == link || p.sort == button:
			if k.Data != "a" {
				if a := markup.First(k, "a"); a != nil {
					k = a
				}
			}
		}
		if k == n && p.sort == words && len(rd.pieces) == 1 {
			markup.Set(k, "data-field", ".")
			out["."] = p.value
			m.marked[p.el] = true
			continue
		}
		if k == n && p.sort == picture && len(rd.pieces) == 1 {
			markup.Set(k, "data-field", "media")
			out["media"] = p.value
			m.marked[p.el] = true
			continue
		}
		if k == n {
			continue // a field on the entry itself would throw the others away
		}
		m.put(k, p, name, out)
	}
}

// used reports a piece that a field shows.
func (m *maker) used(p *piece) bool { return p.el != nil && m.marked[p.el] }

// mapOf writes a record as a map, in the order of names that people read.
func mapOf(r record) *site.Value {
	order := []string{
		"eyebrow",
		"heading",
		"lead",
		"meta",
		"icon",
		"media",
		"title",
		"text",
		"price",
		"points",
		"link",
	}
	v := &site.Value{Kind: site.Map}
	var rest []string
	for k := range r {
		if !slices.Contains(order, k) {
			rest = append(rest, k)
		}
	}
	slices.Sort(rest)
	for _, k := range append(order, rest...) {
		if r[k] != nil {
			v.Entries = append(v.Entries, site.Entry{Key: k, Value: r[k]})
		}
	}
	return v
}

func (m *maker) content() *site.Value { return mapOf(m.out) }

// common adds the fields that every section takes and this one does not show: hidden until a page gives them.
func (m *maker) common(root *html.Node) {
	has := map[string]bool{}
	markup.Each(root, func(x *html.Node) {
		has[markup.Value(x, "data-field")] = true
		has[markup.Value(x, "data-each")] = true
	})
	first := root.FirstChild
	for _, f := range []struct{ name, tag, class, sample string }{
		{"eyebrow", "p", "type-label over-heading", "A label"},
		{"heading", "h2", "type-title", "A heading"},
		{"lead", "p", "type-lead", "What leads into it."},
	} {
		if has[f.name] {
			continue
		}
		n := markup.With(
			markup.Element(f.tag, "class", f.class, "hidden", "", "data-field", f.name, "data-part", f.name),
			markup.Text(f.sample),
		)
		root.InsertBefore(n, first)
	}
	if !has["actions"] {
		root.AppendChild(markup.With(
			markup.Element("p", "class", "actions", "hidden", "", "data-part", "actions"),
			markup.With(
				markup.Element(
					"a",
					"class",
					"action action-main",
					"href",
					"#",
					"data-each",
					"actions",
					"data-field",
					".",
					"data-part",
					"action",
				),
				markup.Text("Read on"),
			),
		))
	}
}
