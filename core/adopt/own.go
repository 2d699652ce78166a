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
	return &Own{Name: name, Told: m.told, Files: library.Kept{HTML: library.Document(name, root), CSS: sheet,
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
		kept := keptAttributes[a.Key] && a.Namespace == "" && !(a.Key == "width" && tag != "img") &&
			!(a.Key == "height" && tag != "img")
		if kept {
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
		loose := mixed &&
			(c.Element == nil && strings.TrimSpace(c.Text) != "" || c.Element != nil && m.reader.inline(c.Element))
		if loose {
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
		root.AppendChild(library.Hidden(library.Actions("actions", "Read on")))
	}
}
