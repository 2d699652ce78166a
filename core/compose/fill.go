package compose

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/markup"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/styles"
)

func (f *filler) fill() *html.Node {
	n := markup.Clone(f.sec.Root)
	f.check()
	f.checkHolds()
	top := scope{value: f.b.Content, fields: f.sec.Fields}
	f.options(n)
	f.parts(n)
	kept, _ := f.node(n, top)
	if !kept {
		return nil
	}
	f.headings(n)
	f.shares()
	f.ids(n)
	slots := slots(n)
	f.means(n, nil)
	f.finish(n)
	f.ready()
	f.fitPictures(n)
	f.hold(slots, n)
	return n
}

// options turns the choices of the block into classes on the root: hero-beside--media-left.
func (f *filler) options(n *html.Node) {
	for _, o := range f.sec.Options {
		markup.Take(n, "data-"+o.Name)
		if o.Type != "choice" {
			continue
		}
		if v := styles.Choice(f.b, &o); styles.Ruled(f.sec, o.Name, v) {
			markup.AddClass(n, styles.Modifier(f.sec.Name, o.Name, v))
		}
	}
}

// parts carries part names from the first sample entry to its siblings, which do not repeat them.
func (f *filler) parts(n *html.Node) {
	var first *html.Node
	var name string
	for k := n.FirstChild; k != nil; k = k.NextSibling {
		if k.Type != html.ElementNode {
			continue
		}
		f.parts(k)
		each, ok := markup.Attr(k, "data-each")
		if !ok {
			continue
		}
		if first == nil || each != name {
			first, name = k, each
			continue
		}
		known := map[string]string{}
		markup.Each(first, func(x *html.Node) {
			if p, ok := markup.Attr(x, "data-part"); ok {
				known[signature(x)] = p
			}
		})
		markup.Each(k, func(x *html.Node) {
			if p := known[signature(x)]; p != "" && !markup.Has(x, "data-part") {
				markup.Set(x, "data-part", p)
			}
		})
	}
}

// node fills an element and what is in it. It returns whether it shows anything, and whether it carried any marks.
func (f *filler) node(n *html.Node, sc scope) (shows, marked bool) {
	if n.Type == html.TextNode {
		return strings.TrimSpace(n.Data) != "", false
	}
	if n.Type != html.ElementNode {
		return false, false
	}
	if markup.Has(n, "hidden") && !sc.entry && !sc.sample {
		if !f.filled(n, sc) {
			f.unused(n)
			return false, true
		}
		markup.Take(n, "hidden")
	}
	if when, ok := markup.Take(n, "data-when"); ok {
		any := false
		for _, name := range strings.Fields(when) {
			v, given := f.lookup(name, sc)
			any = any || !given || !v.Empty()
		}
		if !any {
			return false, true
		}
	}
	if flag, ok := markup.Take(n, "data-flag"); ok {
		f.flag(n, flag, sc)
	}
	if name, ok := markup.Take(n, "data-tone"); ok {
		f.tone(n, sc.value.Get(name))
	}
	if word, ok := markup.Attr(n, "data-word"); ok && !markup.Has(n, "data-field") {
		f.spoken(n, word)
	}
	if name, ok := markup.Take(n, "data-kin"); ok {
		f.kin(n, name, sc)
	}
	if name, ok := markup.Take(n, "data-share"); ok {
		f.share(n, name, sc)
	}
	if name, ok := markup.Take(n, "data-to"); ok {
		f.sendTo(n, name, sc)
	}
	if name, ok := markup.Attr(n, "data-holds"); ok {
		markup.Empty(n)
		return len(f.c.heldBy(f.b.Name, name)) > 0, true
	}
	if name, ok := markup.Take(n, "data-field"); ok {
		return f.field(n, name, sc), true
	}
	if icon, ok := markup.Take(n, "data-icon"); ok {
		f.c.icons[inside(n)] = icon
	}
	for k := n.FirstChild; k != nil; {
		next := k.NextSibling
		each, isEach := "", false
		if k.Type == html.ElementNode {
			each, isEach = markup.Attr(k, "data-each")
		}
		if isEach {
			var group []*html.Node
			group, next = siblings(k, each)
			s := f.each(n, group, each, sc)
			shows, marked = shows || s, true
			k = next
			continue
		}
		s, m := f.node(k, sc)
		if m && !s {
			n.RemoveChild(k)
		}
		decorative := k.Type == html.ElementNode && k.Data == "svg" && !m
		shows = shows || s && !decorative
		marked = marked || m
		k = next
	}
	void := n.Data == "img" || n.Data == "svg" || n.Data == "br" || n.Data == "input" || n.Data == "textarea"
	if void {
		return true, marked
	}
	return shows, marked
}

// filled reports whether the page gives some field of an element that is hidden until then.
func (f *filler) filled(n *html.Node, sc scope) bool {
	any := false
	markup.Each(n, func(x *html.Node) {
		for _, mark := range []string{"data-field", "data-each"} {
			if name, ok := markup.Attr(x, mark); ok && name != "." {
				v, given := f.lookup(name, sc)
				any = any || given && !v.Empty()
			}
		}
	})
	return any
}

// unused notes the fields of a hidden element as empty.
func (f *filler) unused(n *html.Node) {
	markup.Each(n, func(x *html.Node) {
		for _, mark := range []string{"data-field", "data-each"} {
			if name, ok := markup.Attr(x, mark); ok && findField(f.sec.Fields, name) != nil {
				f.note(FieldUse{Block: f.b.Name, Field: name, State: Empty, Pos: f.b.Node.Pos})
			}
		}
	})
}

// each repeats the pattern of a list for its entries.
func (f *filler) each(parent *html.Node, group []*html.Node, name string, sc scope) bool {
	v, given := f.lookup(name, sc)
	fd := findField(sc.fields, name)
	var inner []*library.Field
	if fd != nil {
		inner = fd.Of
	}
	if !sc.entry && !sc.sample {
		f.use(name, v, given, "")
	}
	anchor := group[len(group)-1].NextSibling
	if !given {
		for i, g := range group {
			silent(g)
			f.node(g, scope{sample: true, fields: inner, index: i})
		}
		return true
	}
	pattern := markup.Clone(group[0])
	for _, g := range group {
		parent.RemoveChild(g)
	}
	if v == nil || v.Kind != site.List {
		return false
	}
	if fd != nil && !sc.entry && !sc.sample {
		f.ownSamples(fd, v)
	}
	shows := false
	for i, it := range v.Items {
		n := markup.Clone(pattern)
		s, _ := f.node(n, scope{value: it, entry: true, fields: inner, index: i, whole: fd != nil && fd.Whole() != nil,
			path: sc.path + name + "[" + strconv.Itoa(i+1) + "]."})
		if !s {
			continue
		}
		shows = true
		parent.InsertBefore(n, anchor)
		parent.InsertBefore(markup.Text("\n"), anchor)
	}
	return shows
}

// field fills one element. It returns whether there is something to show.
func (f *filler) field(n *html.Node, name string, sc scope) bool {
	v, given := f.lookup(name, sc)
	icon, _ := markup.Take(n, "data-icon")
	if _, usual := markup.Take(n, "data-usual"); usual && v == nil { // it stays as it is drawn
		f.c.icons[inside(n)] = icon
		return true
	}
	// the page says it in its language; a button has a name
	if word, ok := markup.Take(n, "data-word"); ok && (!given || v.Empty()) {
		markup.Empty(n)
		f.c.word(n, word)
		text, _ := f.c.Env.Word(word)
		silent(n)
		if !sc.entry && !sc.sample {
			f.note(FieldUse{Block: f.b.Name, Field: name, State: Word, Text: text, Pos: f.b.Node.Pos})
		}
		return true
	}
	if !sc.entry && !sc.sample {
		sample := markup.TextOf(n)
		if icon != "" {
			sample = icon
		}
		f.use(name, v, given, sample)
		if fd := findField(sc.fields, name); given && fd != nil {
			f.ownSamples(fd, v)
		}
	}
	kind := library.TypeOf(n)
	if !given {
		silent(n)
		switch kind {
		case library.Link:
			markup.Set(n, "href", "#") // a sample leads nowhere
		case library.Picture:
			f.samplePicture(n)
		case library.Icon:
			f.c.icons[inside(n)] = icon
		}
		return true
	}
	if v.Empty() {
		return false
	}
	switch kind {
	case library.Link:
		return f.link(n, v, sc)
	case library.Picture:
		return f.picture(n, v)
	case library.Icon:
		return f.icon(n, v)
	}
	if v.Kind != site.Text {
		return false
	}
	markup.Empty(n)
	for _, k := range f.inline(v) {
		n.AppendChild(k)
	}
	for _, r := range v.Runs { // for what the element means
		if r.Part != "" && r.Is != "" {
			markup.Set(n, "data-"+r.Part, r.Is)
		}
	}
	return true
}

func (f *filler) link(n *html.Node, v *site.Value, sc scope) bool {
	if v.Kind != site.Map {
		return false
	}
	label, to := v.Get("label"), v.Get("to")
	if label.Empty() && to.Empty() {
		return false
	}
	href := "#"
	if to.Empty() || strings.TrimSpace(to.Str()) == "#" && !f.sampleLink(label.Str()) {
		f.c.AddOnce(f.file(v).Problem(v, "dead-link", fmt.Sprintf("the link %q leads nowhere", label.Str()),
			"to: with a page, #block, file or address", "to: home"))
	} else if strings.TrimSpace(to.Str()) != "#" { // that of a sample
		var p *diag.Problem
		href, p = f.c.href(to.Str(), f.b)
		if p != nil {
			p.Position, p.Width = to.Pos, max(1, to.Width)
			p.Source = diag.LineOf(f.file(v).Source, to.Pos.Line)
			f.c.AddOnce(*p)
		}
		f.c.out.Links = append(f.c.out.Links, LinkUse{f.b.Name, to.Str(), href, to.Pos})
	}
	markup.Set(n, "href", href)
	if tag, ok := strings.CutPrefix(to.Str(), project.LanguageLink); ok { // its label is of that language
		markup.Set(n, "lang", tag)
		markup.Set(n, "hreflang", tag)
		if tag == f.c.Env.Site.Language {
			markup.Set(n, "aria-current", "true")
		}
	}
	if to.Str() == f.c.Page.Name {
		markup.Set(n, "aria-current", "page")
	}
	if markup.HasClass(n, "action") {
		look := v.Get("look").Str()
		if look == "" && sc.entry && sc.index > 0 && sc.value == v {
			look = "other"
		}
		if slices.Contains(looks, look) {
			for _, l := range looks {
				markup.RemoveClass(n, "action-"+l)
			}
			markup.AddClass(n, "action-"+look)
		}
	}
	name := f.c.dated(label.Str())
	if name == "" {
		name = to.Str()
	}
	for k := n.FirstChild; k != nil; k = k.NextSibling {
		if k.Type == html.ElementNode {
			if t := markup.FirstText(n); t != nil {
				t.Data = name
			}
			return true
		}
	}
	markup.Empty(n)
	n.AppendChild(markup.Text(name))
	return true
}

// headings gives levels by position: the first block heading of main is the page's h1, later ones are h2, entries h3.
// A block without a heading of its own lifts its entries.
func (f *filler) headings(n *html.Node) {
	f.title = headingOf(n)
	if project.Landmark(f.sec.Kind) != "main" {
		return
	}
	var h2, h3 []*html.Node
	markup.Each(n, func(x *html.Node) {
		switch x.Data {
		case "h2":
			h2 = append(h2, x)
		case "h3":
			h3 = append(h3, x)
		}
	})
	rename := func(list []*html.Node, tag string) {
		for _, x := range list {
			x.Data, x.DataAtom = tag, 0
		}
	}
	if deeper := min(f.c.level, 3); deeper > 0 {
		if len(h2) == 0 {
			deeper--
		}
		rename(h3, fmt.Sprintf("h%d", 3+deeper))
		rename(h2, fmt.Sprintf("h%d", 2+deeper))
		return
	}
	if len(h2) == 0 {
		rename(h3, "h2")
		return
	}
	if f.c.headings == 0 && len(f.c.opts.Only) == 0 {
		rename(h2[:1], "h1")
		f.c.headings++
	}
}

// ids makes ids and what refers to them the block's own, and the names by which folds and choices outside of a form
// exclude one another.
func (f *filler) ids(n *html.Node) {
	type place struct {
		id    string
		entry *html.Node
	}
	own := map[place]string{}
	markup.Each(n, func(x *html.Node) {
		if id, ok := markup.Attr(x, "id"); ok {
			entry, at := entryOf(x)
			name := f.b.Name + "-" + id
			if at > 0 {
				name += "-" + strconv.Itoa(at)
			}
			own[place{id, entry}] = name
			markup.Set(x, "id", name)
		}
	})
	markup.Each(n, func(x *html.Node) {
		kind, _ := markup.Attr(x, "type")
		name, ok := markup.Attr(x, "name")
		grouped := ok && (x.Data == "details" ||
			x.Data == "input" && kind == "radio" && !inForm(x))
		if grouped {
			markup.Set(x, "name", f.b.Name+"-"+name)
		}
		known := func(id string) (string, bool) {
			entry, _ := entryOf(x)
			to, ok := own[place{id, entry}]
			if !ok {
				to, ok = own[place{id, nil}]
			}
			return to, ok
		}
		for i, a := range x.Attr {
			switch a.Key {
			case "popovertarget", "for", "aria-labelledby", "aria-controls", "aria-describedby", "list", "commandfor":
				if to, ok := known(a.Val); ok {
					x.Attr[i].Val = to
				}
			case "href":
				if to, ok := known(strings.TrimPrefix(a.Val, "#")); ok && strings.HasPrefix(a.Val, "#") &&
					a.Val != "#" {
					x.Attr[i].Val = "#" + to
				}
			}
		}
	})
}

// entryOf finds the entry of a list in which an element stands, and which one it is of its list, from 1.
func entryOf(n *html.Node) (entry *html.Node, at int) {
	for entry = n; entry != nil; entry = entry.Parent {
		list, ok := markup.Attr(entry, "data-each")
		if !ok {
			continue
		}
		for k := entry; k != nil; k = k.PrevSibling {
			if name, ok := markup.Attr(k, "data-each"); ok && name == list {
				at++
			}
		}
		return entry, at
	}
	return nil, 0
}

func inForm(n *html.Node) bool {
	for n = n.Parent; n != nil; n = n.Parent {
		if n.Data == "form" {
			return true
		}
	}
	return false
}

// finish scopes class names, gives overridden parts their class and takes the marks off.
func (f *filler) finish(n *html.Node) {
	classes, places := f.styled(), listPlaces{}
	count := map[string]int{}
	markup.Each(n, func(x *html.Node) {
		if cls, ok := markup.Attr(x, "class"); ok {
			var out []string
			for _, c := range strings.Fields(cls) {
				out = append(out, styles.ScopedClass(f.c.Env, f.sec, c))
			}
			markup.Set(x, "class", strings.Join(out, " "))
		}
		if part, ok := markup.Attr(x, "data-part"); ok {
			count[part]++
			at, of := places.of(x)
			for _, d := range classes[part] {
				here := d.index == 0 && d.place == "" || d.index == count[part] ||
					d.place != "" && styles.Takes(d.place, at, of)
				if here {
					markup.AddClass(x, d.class)
				}
			}
		}
	})
	markup.Each(n, func(x *html.Node) {
		if !f.c.opts.Marks {
			markup.Take(x, "data-part")
		}
		if cls, ok := markup.Attr(x, "class"); ok && cls == "" {
			markup.Take(x, "class")
		}
		for i := 0; i < len(x.Attr); i++ {
			if strings.HasPrefix(x.Attr[i].Key, "data-") && !(f.c.opts.Marks &&
				(x.Attr[i].Key == MarkPart || x.Attr[i].Key == MarkEach)) {
				x.Attr = append(x.Attr[:i], x.Attr[i+1:]...)
				i--
			}
		}
	})
	for _, d := range classes[styles.PartRoot] {
		markup.AddClass(n, d.class)
	}
	if h := f.title; h != nil && (n.Data == "section" || n.Data == "aside") {
		id := f.b.Name + "-heading"
		if old, ok := markup.Attr(h, "id"); ok {
			id = old
		} else {
			markup.Set(h, "id", id)
		}
		markup.Set(n, "aria-labelledby", id)
	}
	if f.b.Lane != "" {
		if slices.Contains(styles.Lanes, f.b.Lane) {
			markup.AddClass(n, "lane-"+f.b.Lane)
		} else {
			v := f.b.Node.Get("lane")
			f.c.AddOnce(f.b.File.Problem(v, "unknown-lane", fmt.Sprintf("there is no lane %q", f.b.Lane),
				"one of "+strings.Join(styles.Lanes, ", "), diag.Nearest(f.b.Lane, styles.Lanes)))
		}
	}
}
