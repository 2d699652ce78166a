package explain

import (
	"strconv"
	"strings"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/naming"
	"ziegel/core/sweep"
)

// Heard is one thing of a page as a screen reader says it, in the order that it is read.
type Heard struct {
	Role  string `json:"role"`            // heading, link, button, picture, text, list, region ...
	Text  string `json:"text,omitempty"`  // its name or words
	Level int    `json:"level,omitempty"` // of a heading; how many entries a list has
	Tab   int    `json:"tab,omitempty"`   // which press of the tab key reaches it, 0 for none
	Depth int    `json:"depth"`           // how deep in regions and lists
	Path  string `json:"path"`
}

var landmarks = map[string]string{"header": "banner", "nav": "navigation", "main": "main", "footer": "footer",
	"aside": "aside", "form": "form", "section": "region", "dialog": "dialog", "search": "search"}

// Reading gives a page as it is read aloud and tabbed through at one width: what has no box or is hidden from readers
// is left out.
func Reading(l *sweep.Prepared, r *layout.Result) []Heard {
	v := &reader{r: r}
	if l.Doc.Body != nil {
		v.children(l.Doc.Body, 0)
	}
	return v.out
}

type reader struct {
	r   *layout.Result
	out []Heard
	tab int
}

func (v *reader) children(e *css.Element, depth int) {
	text := ""
	flush := func() {
		p := v.r.Of(e)
		if t := strings.Join(strings.Fields(text), " "); t != "" && (p == nil || p.Style.Visible) {
			v.add(e, "text", t, 0, depth)
		}
		text = ""
	}
	for i := range e.Children {
		k := e.Children[i].Element
		switch {
		case k == nil:
			text += e.Children[i].Text
		case k.Tag == "br":
			text += " "
		case !hasBox(v.r, k):
		case naming.Phrases[k.Tag] && !naming.Clickable(k) && v.runsOn(k) && !holdsMore(k):
			text += v.words(k)
		default:
			flush()
			v.element(k, depth)
		}
	}
	flush()
}

// holdsMore reports an inline element with something in it that is read on its own.
func holdsMore(e *css.Element) bool {
	for _, k := range e.Kids() {
		if naming.Clickable(k) || k.Tag == "img" || !naming.Phrases[k.Tag] || holdsMore(k) {
			return true
		}
	}
	return false
}

// runsOn reports a phrase that stands in a line with the words around it, and is read in one go with them.
func (v *reader) runsOn(e *css.Element) bool {
	p := v.r.Of(e)
	if p == nil {
		return e.Attr("aria-hidden") == "true" // nothing of it is read
	}
	if around := v.r.Of(e.Parent); around != nil && arranges(around.Style) {
		return false
	}
	switch p.Style.Display {
	case css.Inline, css.InlineBlock, css.InlineFlex, css.InlineGrid:
		return true
	}
	return false
}

// words gives the text of an element as it is read: what is hidden from readers is left out, what stands in boxes of
// its own is set apart.
func (v *reader) words(e *css.Element) string {
	var b strings.Builder
	var walk func(e *css.Element)
	walk = func(e *css.Element) {
		p := v.r.Of(e)
		unread := e.Attr("aria-hidden") == "true" || p == nil && !hasBox(v.r, e) || e.Tag == "script" ||
			e.Tag == "style"
		if unread {
			return
		}
		around := v.r.Of(e.Parent)
		apart := p != nil && p.Style.Display != css.Inline && p.Style.Display != css.Contents ||
			around != nil && arranges(around.Style)
		if apart {
			b.WriteByte(' ')
		}
		for i := range e.Children {
			switch k := e.Children[i].Element; {
			case k != nil && k.Tag == "br":
				b.WriteByte(' ')
			case k != nil && k.Tag == "img":
				b.WriteString(" " + k.Attr("alt") + " ")
			case k != nil:
				walk(k)
			case p == nil || p.Style.Visible:
				b.WriteString(e.Children[i].Text)
			}
		}
		if apart {
			b.WriteByte(' ')
		}
	}
	walk(e)
	return b.String()
}

// arranges reports a flex or grid container, whose children stand apart.
func arranges(s *css.Style) bool {
	return s.Display == css.Flex || s.Display == css.InlineFlex || grid(s)
}

func (v *reader) plain(e *css.Element) string {
	return strings.Join(strings.Fields(v.words(e)), " ")
}

func (v *reader) add(e *css.Element, role, text string, level, depth int) *Heard {
	v.out = append(v.out, Heard{Role: role, Text: text, Level: level, Depth: depth, Path: e.Path()})
	return &v.out[len(v.out)-1]
}

func (v *reader) element(e *css.Element, depth int) {
	if e.Attr("aria-hidden") == "true" || e.Tag == "script" || e.Tag == "style" || e.Tag == "template" {
		return
	}
	p := v.r.Of(e)
	if p == nil {
		for _, k := range e.Kids() { // display: contents has no box, and what is in it may have
			if hasBox(v.r, k) {
				v.element(k, depth)
			}
		}
		return
	}
	if !p.Style.Visible {
		v.children(e, depth)
		return
	}
	role := e.Attr("role")
	switch {
	case role == "presentation" || role == "none":
		v.children(e, depth)
	case e.Tag == "img" || role == "img":
		if alt := strings.TrimSpace(naming.First(e.Attr("aria-label"), e.Attr("alt"))); alt != "" {
			v.add(e, "picture", alt, 0, depth)
		} else if _, empty := e.LookupAttr("alt"); !empty && e.Tag == "img" {
			v.add(e, "picture", "(no text)", 0, depth)
		}
	case e.Tag == "svg":
		if name := e.Attr("aria-label"); name != "" {
			v.add(e, "picture", name, 0, depth)
		}
	case naming.Headings[e.Tag] > 0 && !anyClickable(e):
		v.add(e, "heading", v.plain(e), naming.Headings[e.Tag], depth)
	case naming.Clickable(e) && e.Attr("tabindex") != "-1":
		v.clicked(e, depth)
	case e.Tag == "ul" || e.Tag == "ol" || e.Tag == "dl":
		n := 0
		for _, k := range e.Kids() {
			if v.r.Of(k) != nil {
				n++
			}
		}
		v.add(e, "list", "", n, depth)
		v.children(e, depth+1)
	case naming.Headings[e.Tag] > 0:
		v.add(e, "heading", "", naming.Headings[e.Tag], depth)
		v.children(e, depth+1)
	case landmarks[e.Tag] != "":
		name := e.Attr("aria-label")
		noLandmark := e.Tag == "section" && name == "" && e.Attr("aria-labelledby") == "" ||
			(e.Tag == "header" || e.Tag == "footer") && withinSection(e)
		if noLandmark {
			v.children(e, depth)
			return
		}
		v.add(e, landmarks[e.Tag], name, 0, depth)
		v.children(e, depth+1)
	default:
		v.children(e, depth)
	}
}

func hasBox(r *layout.Result, e *css.Element) bool {
	if r.Of(e) != nil {
		return true
	}
	for _, k := range e.Kids() {
		if hasBox(r, k) {
			return true
		}
	}
	return false
}

func anyClickable(e *css.Element) bool {
	for _, k := range e.Kids() {
		if naming.Clickable(k) || anyClickable(k) {
			return true
		}
	}
	return false
}

func withinSection(e *css.Element) bool {
	for x := e.Parent; x != nil; x = x.Parent {
		switch x.Tag {
		case "article", "aside", "main", "nav", "section":
			return true
		}
	}
	return false
}

// clicked reads a link, button or field.
func (v *reader) clicked(e *css.Element, depth int) {
	role := map[string]string{"a": "link", "summary": "button", "select": "choice", "textarea": "field",
		"input": "field", "button": "button"}[e.Tag]
	name := naming.First(e.Attr("aria-label"), v.plain(e), e.Attr("value"), v.labelOf(e), e.Attr("placeholder"))
	switch e.Attr("type") {
	case "checkbox":
		role = "checkbox"
	case "radio":
		role = "radio"
	case "submit", "reset", "button":
		role = "button"
	}
	if e.Attr("popovertarget") != "" || e.Tag == "summary" {
		name += " (closed)"
	}
	h := v.add(e, role, strings.TrimSpace(name), 0, depth)
	if _, off := e.LookupAttr("disabled"); !off {
		v.tab++
		h.Tab = v.tab
	}
	if headings := headingIn(e); headings > 0 {
		h.Level = headings
	}
}

func headingIn(e *css.Element) int {
	for _, k := range e.Kids() {
		if n := max(naming.Headings[k.Tag], headingIn(k)); n > 0 {
			return n
		}
	}
	return 0
}

// labelOf gives the words of the label of a field.
func (v *reader) labelOf(e *css.Element) string {
	for x := e.Parent; x != nil; x = x.Parent {
		if x.Tag == "label" {
			return v.plain(x)
		}
		if x.Tag == "form" || x.Parent == nil {
			break
		}
	}
	if e.ID == "" {
		return ""
	}
	root := e
	for root.Parent != nil {
		root = root.Parent
	}
	found := ""
	var walk func(x *css.Element)
	walk = func(x *css.Element) {
		if x.Tag == "label" && x.Attr("for") == e.ID && found == "" {
			found = v.plain(x)
		}
		for _, k := range x.Kids() {
			walk(k)
		}
	}
	walk(root)
	return found
}

// String says it in a line, without its depth.
func (h Heard) String() string {
	s := h.Role
	switch {
	case h.Role == "list":
		return s + " of " + strconv.Itoa(h.Level)
	case h.Level > 0:
		s += " " + strconv.Itoa(h.Level)
	}
	if h.Text != "" {
		s += ": " + h.Text
	}
	return s
}
