package adopt

import (
	"slices"
	"strconv"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/css"
	"ziegel/core/markup"
	"ziegel/core/site"
)

// Which elements of a section become fields, and what the page says in them.

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
			afterHeading = true
			m.put(n, p, "heading", m.out)
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
			m.link(n, p)
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
	taken := markup.Has(n, "data-field") || holdsFields(n) ||
		p.sort == picture && n.Data != "img" && markup.First(n, "img") == nil
	if taken {
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
func (m *maker) link(n *html.Node, p *piece) {
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
		name := map[sort]string{heading: "title", words: "text", picture: "media", icon: "icon", link: "link",
			button: "link"}[p.sort]
		switch {
		case p.sort == list:
			m.list(k, p, out, "points")
			continue
		case p.sort == words && p.bold && letters(p.plain) <= 80 && len(rd.pieces) > 1 && out["title"] == nil &&
			!hasHeading(rd):
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
