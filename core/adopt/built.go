package adopt

import (
	"slices"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/css"
	"ziegel/core/library"
	"ziegel/core/markup"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/styles"
)

// What a section of the library made is read back by laying the section's file beside it: both are trees, and the
// classes of the page name the elements of the section.

// madeBy finds the section that made an element by its root class: hero-beside. nil when none did.
func madeBy(lib *library.Library, n *html.Node) *library.Section {
	for _, c := range strings.Fields(markup.Value(n, "class")) {
		kind, name, ok := strings.Cut(c, "-")
		if !ok || strings.Contains(c, "__") || strings.Contains(c, "--") || !lib.Has(kind+"/"+name) {
			continue
		}
		if sec := lib.Section(kind + "/" + name); sec != nil && sec.Root != nil && sec.Root.Data == n.Data {
			return sec
		}
	}
	return nil
}

// built reads a block back from its wrapper: a div with the block's name as id. nil when it is none.
func built(env *project.Project, names *namer, page *Page, wrapper *html.Node) *Band {
	if !markup.HasClass(wrapper, "page-block") && !markup.HasClass(wrapper, "held") {
		return nil
	}
	root := onlyElement(wrapper)
	if root == nil {
		return nil
	}
	sec := madeBy(env.Library, root)
	if sec == nil {
		return nil
	}
	u := &unbuild{env: env, sec: sec, names: names, page: page}
	b := &Band{Name: validName(markup.Value(wrapper, "id"), sec.Kind), Section: sec.Name, Exact: true, Share: 1,
		Landmark: project.Landmark(sec.Kind)}
	if e := page.elementOf(wrapper); e != nil {
		b.elements = []*css.Element{e}
		if f := page.result.Of(e); f != nil {
			b.Where = f.Rect
		}
	}
	for _, c := range strings.Fields(markup.Value(wrapper, "class")) {
		if tone, ok := strings.CutPrefix(c, "tone-"); ok && tone != "plain" {
			b.Tone = tone
		}
	}
	for _, lane := range styles.Lanes {
		if markup.HasClass(root, "lane-"+lane) {
			b.Lane = lane
		}
	}
	b.Options = append(u.options(wrapper, root), u.values(root)...)
	out := record{}
	u.element(sec.Root, root, out)
	b.Content = ordered(sec.Fields, out)
	for _, f := range sec.Fields {
		if out[f.Name] == nil && !f.Off && !u.spoken(f.Name) {
			b.Without = append(b.Without, f.Name)
		}
	}
	b.Holds = u.holds(root)
	b.Style, b.Lost = u.styles(wrapper)
	return b
}

// onlyElement gives the one element in a wrapper, nil when there are others.
func onlyElement(n *html.Node) *html.Node {
	var only *html.Node
	for k := n.FirstChild; k != nil; k = k.NextSibling {
		if k.Type == html.ElementNode {
			if only != nil {
				return nil
			}
			only = k
		}
	}
	return only
}

// ordered writes a record as a map, in the order of the fields.
func ordered(fields []*library.Field, r record) *site.Value {
	out := &site.Value{Kind: site.Map}
	for _, f := range fields {
		if v := r[f.Name]; v != nil {
			out.Entries = append(out.Entries, site.Entry{Key: f.Name, Value: v})
		}
	}
	return out
}

// options reads the choices of a block from the classes of its root. A choice without a rule leaves none.
func (u *unbuild) options(wrapper, root *html.Node) []site.Entry {
	var out []site.Entry
	for _, o := range u.sec.Options {
		if o.Type != "choice" {
			continue
		}
		found, ruled := "", ""
		for _, c := range o.Choices {
			if markup.HasClass(root, styles.Modifier(u.sec.Name, o.Name, c)) {
				found = c
			}
			if !styles.Ruled(u.sec, o.Name, c) && (ruled == "" || c == o.Default) {
				ruled = c
			}
		}
		if found == "" {
			found = ruled
		}
		if o.Name == "stays" && markup.HasClass(wrapper, "stays") {
			found = "yes"
		}
		if found != "" && found != o.Default {
			out = append(out, site.Entry{Key: o.Name, Value: site.NewText(found)})
		}
	}
	return out
}

// spoken reports a field that says a word of the page's language until a page gives it.
func (u *unbuild) spoken(field string) bool {
	is := false
	markup.Each(u.sec.Root, func(x *html.Node) {
		is = is || markup.Value(x, "data-field") == field && markup.Has(x, "data-word")
	})
	return is
}

// holds reads the blocks that stand in the slots of a block.
func (u *unbuild) holds(root *html.Node) []Held {
	var out []Held
	markup.Each(u.sec.Root, func(x *html.Node) {
		slot, ok := markup.Attr(x, "data-holds")
		if !ok {
			return
		}
		held := Held{Slot: slot}
		if place := u.find(root, x); place != nil {
			for k := place.FirstChild; k != nil; k = k.NextSibling {
				if k.Type != html.ElementNode {
					continue
				}
				if b := built(u.env, u.names, u.page, k); b != nil {
					held.Bands = append(held.Bands, b)
				}
			}
		}
		out = append(out, held)
	})
	return out
}

// find finds the element that an element of the section became, by its first own class.
func (u *unbuild) find(root, t *html.Node) *html.Node {
	var found *html.Node
	markup.Each(root, func(x *html.Node) {
		if found == nil && u.like(t, x) > 1 {
			found = x
		}
	})
	return found
}

// like says how much an element looks like one of the section: 0 not at all, 1 by its tag alone.
func (u *unbuild) like(t, n *html.Node) int {
	otherTag := t.Data != n.Data && !(isHeading(t.Data) && isHeading(n.Data)) &&
		!(t.Data == "img" && n.Data == "picture")
	if otherTag {
		return 0
	}
	if n.Data == "picture" {
		if n = markup.First(n, "img"); n == nil {
			return 0
		}
	}
	hits, misses := 0, 0
	flag := markup.Value(t, "data-flag")
	for _, c := range strings.Fields(markup.Value(t, "class")) {
		switch {
		case c == flag, strings.HasPrefix(c, "action-"), strings.HasPrefix(c, "kin-"):
		case markup.HasClass(n, styles.ScopedClass(u.env, u.sec, c)):
			hits++
		default:
			misses++
		}
	}
	if misses > hits {
		return 0
	}
	if hits == 0 && markup.Has(n, "class") && t.Data != "a" && t.Data != "svg" {
		return 1
	}
	return 1 + 2*hits - misses
}

// element reads an element of the page with that of the section beside it.
func (u *unbuild) element(t, n *html.Node, out record) {
	if name, ok := markup.Attr(t, "data-flag"); ok && markup.HasClass(n, styles.ScopedClass(u.env, u.sec, name)) {
		out[name] = site.NewText("yes")
	}
	if name, ok := markup.Attr(t, "data-tone"); ok && markup.HasClass(n, "toned") {
		for _, c := range strings.Fields(markup.Value(n, "class")) {
			if tone, ok := strings.CutPrefix(c, "tone-"); ok {
				out[name] = site.NewText(tone)
			}
		}
	}
	if name, ok := markup.Attr(t, "data-to"); ok {
		u.address(name, n, out)
	}
	if name, ok := markup.Attr(t, "data-field"); ok {
		if v := u.field(t, n, name); v != nil {
			out[name] = v
		}
		return
	}
	if !markup.Has(t, "data-holds") {
		u.children(t, n, out)
	}
}

// address reads where a form is sent to, or what a frame or film shows.
func (u *unbuild) address(name string, n *html.Node, out record) {
	attr := "action"
	if n.Data != "form" {
		attr = "src"
	}
	to := u.names.to(markup.Value(n, attr))
	if to == "" {
		return
	}
	out[name] = site.NewText(strings.TrimPrefix(to, "mailto:"))
	markup.Each(n, func(x *html.Node) {
		if x.Data == "input" && markup.Value(x, "type") == "hidden" && markup.Value(x, "name") == library.Then {
			if then := u.names.to(markup.Value(x, "value")); then != "" {
				out[library.Then] = site.NewText(then)
			}
		}
	})
}

// step is a child of an element of a section: an element, or the samples of a list.
type step struct {
	pattern *html.Node
	each    string
}

func steps(t *html.Node) []step {
	var out []step
	for k := t.FirstChild; k != nil; k = k.NextSibling {
		if k.Type != html.ElementNode {
			continue
		}
		each := markup.Value(k, "data-each")
		if each != "" && len(out) > 0 && out[len(out)-1].each == each {
			continue // a further sample
		}
		out = append(out, step{k, each})
	}
	return out
}

// children finds out which child of the page's element each child of the section's became, in order, and reads them.
func (u *unbuild) children(t, n *html.Node, out record) {
	list := steps(t)
	var kids []*html.Node
	for k := n.FirstChild; k != nil; k = k.NextSibling {
		if k.Type == html.ElementNode {
			kids = append(kids, k)
		}
	}
	for i, at := range u.align(list, kids) {
		s := list[i]
		if s.each == "" {
			if len(at) > 0 {
				u.element(s.pattern, kids[at[0]], out)
			}
			continue
		}
		v := &site.Value{Kind: site.List}
		for pos, j := range at {
			if e := u.entry(s, kids[j], pos); e != nil {
				v.Items = append(v.Items, e)
			}
		}
		if len(v.Items) > 0 {
			out[s.each] = v
		}
	}
}

// align gives the kids that each step became. The best sum of likenesses wins; a list takes any number of neighbours.
func (u *unbuild) align(list []step, kids []*html.Node) [][]int {
	type cell struct {
		score int
		move  byte // s: leave the step, k: leave the kid, m: they match, and the step may take more
	}
	rows, cols := len(list)+1, len(kids)+1
	best := make([]cell, rows*cols)
	at := func(i, j int) *cell { return &best[i*cols+j] }
	for i := len(list); i >= 0; i-- {
		for j := len(kids); j >= 0; j-- {
			c := at(i, j)
			if i < len(list) {
				*c = cell{at(i+1, j).score, 's'}
			}
			if j < len(kids) && (i == len(list) || at(i, j+1).score > c.score) {
				*c = cell{at(i, j+1).score, 'k'}
			}
			if i == len(list) || j == len(kids) {
				continue
			}
			if like := u.like(list[i].pattern, kids[j]); like > 0 {
				next := at(i+1, j+1).score
				if list[i].each != "" {
					next = max(next, at(i, j+1).score)
				}
				if like+next >= c.score {
					*c = cell{like + next, 'm'}
				}
			}
		}
	}
	out := make([][]int, len(list))
	for i, j := 0, 0; i < len(list) && j < len(kids); {
		switch at(i, j).move {
		case 's':
			i++
		case 'k':
			j++
		default:
			out[i] = append(out[i], j)
			if list[i].each == "" || at(i+1, j+1).score > at(i, j+1).score {
				i++
			}
			j++
		}
	}
	return out
}

// entry reads one entry of a list, the pos-th from 0.
func (u *unbuild) entry(s step, n *html.Node, pos int) *site.Value {
	out := record{}
	u.element(s.pattern, n, out)
	self := out["."]
	if self != nil && self.Kind == site.Map { // a link: the first of a row is the main one, the others follow it
		usual := lookOf(s.pattern)
		if pos > 0 {
			usual = "other"
		}
		setLook(self, lookOf(n), usual)
	}
	if len(out) == 1 && self != nil {
		return self
	}
	if self != nil {
		delete(out, ".")
		out["text"] = self
	}
	if len(out) == 0 {
		return nil
	}
	var fields []*library.Field
	if f := findList(u.sec.Fields, s.each); f != nil {
		fields = f.Of
		if whole := f.Whole(); whole != nil {
			fields = whole
		}
	}
	v := ordered(fields, out)
	for name, x := range out { // fields that the samples do not show
		if v.Get(name) == nil {
			v.Entries = append(v.Entries, site.Entry{Key: name, Value: x})
		}
	}
	return v
}

// findList finds a list by its name, one of the section before those in lists.
func findList(fields []*library.Field, name string) *library.Field {
	for _, f := range fields {
		if f.Name == name {
			return f
		}
	}
	for _, f := range fields {
		if in := findList(f.Of, name); in != nil {
			return in
		}
	}
	return nil
}

// field reads what an element shows.
func (u *unbuild) field(t, n *html.Node, name string) *site.Value {
	switch library.TypeOf(t) {
	case library.Link:
		v := u.names.link(n)
		if v != nil && name != "." {
			setLook(v, lookOf(n), lookOf(t))
		}
		return v
	case library.Picture:
		return u.names.picture(n)
	case library.Icon:
		icon := u.names.icon(n)
		if icon == "" || markup.Has(t, "data-usual") && icon == markup.Value(t, "data-icon") {
			return nil
		}
		return site.NewText(icon)
	}
	text := Inline(n, u.names.to)
	if word := markup.Value(t, "data-word"); word != "" {
		if said, _ := u.env.Word(word); said == text {
			return nil
		}
	}
	if text == "" {
		return nil
	}
	return site.NewText(text)
}

// lookOf gives the look of a link that is a button: main, other or quiet.
func lookOf(n *html.Node) string {
	for _, look := range []string{"main", "other", "quiet"} {
		if markup.HasClass(n, "action-"+look) {
			return look
		}
	}
	return ""
}

func setLook(v *site.Value, look, usual string) {
	if look != "" && look != usual && !slices.Contains(v.Keys(), "look") {
		v.Entries = append(v.Entries, site.Entry{Key: "look", Value: site.NewText(look)})
	}
}
