package adopt

import (
	"slices"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/markup"
	"ziegel/core/site"
)

// newReader reads bands of a page that is laid out.
func newReader(result *layout.Result, n *namer) *reader {
	r := &reader{r: result, n: n}
	r.into, r.kidsInto = r.walk, r.walkKids
	return r
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
			out.box = union(out.box, f.Rect)
		}
	}
	out.pieces = r.flat(out.pieces)
	return out
}

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
	if tracks(img) {
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
		out.add(
			&piece{
				sort:  form,
				form:  fr,
				plain: strings.Join(append(slices.Clone(fr.labels), fr.send), " "),
				box:   r.at(e),
				el:    e,
			},
		)
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
