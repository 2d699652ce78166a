package adopt

import (
	"regexp"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

// What is asked of one element of a page that is read: where it lies, its colors, whether it is text or a link.

// reader takes bands apart.
type reader struct {
	r *layout.Result
	n *namer
	// what is in an element is read by these; they stand above, in reading.go
	into, kidsInto func(e *css.Element, out *reading)
	known          map[*css.Element]map[*css.Element]string
	// what was read of elements as entries of a list that was none, so that nothing is read twice, and twice again
	// inside
	tried map[*css.Element][]*piece
}

// at gives the box of an element, that around what it holds when it has none.
func (r *reader) at(e *css.Element) layout.Rect { return boxOf(r.r, e) }

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

// inline reports an element that flows with text.
func (r *reader) inline(e *css.Element) bool {
	switch e.Tag {
	case "a",
		"em",
		"strong",
		"b",
		"i",
		"span",
		"small",
		"sup",
		"sub",
		"code",
		"br",
		"mark",
		"abbr",
		"cite",
		"q",
		"time",
		"u",
		"s",
		"del",
		"ins",
		"kbd",
		"samp",
		"var",
		"font",
		"bdi",
		"bdo",
		"wbr",
		"data",
		"big",
		"tt",
		"dfn":
	default:
		return false
	}
	if f := r.r.Of(e); f != nil && f.Style != nil && f.Style.Display != css.Inline &&
		f.Style.Display != css.InlineBlock {
		return false
	}
	for _, k := range e.Kids() {
		if !r.inline(k) {
			return false
		}
	}
	return true
}

// rows reports an element whose children are boxes of their own.
func (r *reader) rows(e *css.Element) bool {
	f := r.r.Of(e)
	return f != nil && f.Style != nil && f.Style.Display != css.Block && f.Style.Display != css.Inline
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

// separates reports text that only stands between links.
func separates(text string) bool {
	return strings.Trim(text, " \t\r\n\u00a0|·•/–—,»›>") == ""
}

// said makes the piece of a text.
func (r *reader) said(e *css.Element, raw *html.Node, text string) *piece {
	p := &piece{
		sort:  words,
		value: site.NewText(text),
		plain: strings.TrimSpace(collapse(textOf(raw))),
		box:   r.at(e),
		el:    e,
	}
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

func (r *reader) anyShown(e *css.Element) bool {
	for _, k := range e.Kids() {
		if r.r.Of(k) != nil || r.anyShown(k) {
			return true
		}
	}
	return false
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
