package adopt

import (
	"strings"
	"unicode/utf8"

	"golang.org/x/net/html"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/markup"
)

// What is asked of elements and of the text in them, wherever they stand.

// containers are the tags that hold a band; others stand in one.
var containers = map[string]bool{"section": true, "header": true, "footer": true, "nav": true, "main": true,
	"article": true, "aside": true, "div": true, "form": true, "center": true, "table": true, "tbody": true,
	"tr": true, "td": true, "fieldset": true, "search": true, "thead": true, "tfoot": true}

// unseen are tags that show nothing by themselves.
var unseen = map[string]bool{"script": true, "style": true, "template": true, "noscript": true, "link": true,
	"meta": true, "title": true, "base": true, "source": true, "track": true, "param": true, "datalist": true}

func hasText(e *css.Element) bool {
	for _, k := range e.Children {
		if k.Element == nil && strings.TrimSpace(k.Text) != "" {
			return true
		}
	}
	return false
}

// headed gives the level of the first heading in an element, 0 for none.
func headed(e *css.Element) int {
	if isHeading(e.Tag) {
		return int(e.Tag[1] - '0')
	}
	for _, k := range e.Kids() {
		if l := headed(k); l > 0 {
			return l
		}
	}
	return 0
}

func pictured(e *css.Element) bool {
	switch e.Tag {
	case "img", "picture", "video", "svg", "iframe":
		return true
	}
	for _, k := range e.Kids() {
		if pictured(k) {
			return true
		}
	}
	return false
}

// union is the box around two; an empty one counts as none.
func union(a, b layout.Rect) layout.Rect {
	if a.Empty() {
		return b
	}
	x, y := min(a.X, b.X), min(a.Y, b.Y)
	return layout.Rect{X: x, Y: y, W: max(a.Right(), b.Right()) - x, H: max(a.Bottom(), b.Bottom()) - y}
}

func isHeading(tag string) bool {
	return len(tag) == 2 && tag[0] == 'h' && tag[1] >= '1' && tag[1] <= '6'
}

// textOf gives the text in an element as it is read, without drawings.
func textOf(n *html.Node) string {
	var b strings.Builder
	var walk func(n *html.Node)
	walk = func(n *html.Node) {
		for k := n.FirstChild; k != nil; k = k.NextSibling {
			switch {
			case k.Type == html.TextNode:
				b.WriteString(k.Data)
			case k.Type != html.ElementNode,
				k.Data == "svg",
				k.Data == "script",
				k.Data == "style",
				k.Data == "template":
			case k.Data == "br":
				b.WriteByte(' ')
			default:
				walk(k)
			}
		}
	}
	walk(n)
	return b.String()
}

// short cuts a long address for telling.
func short(s string) string {
	if r := []rune(s); len(r) > 60 {
		return string(r[:57]) + "..."
	}
	return s
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
		case k.Type == html.ElementNode && (k.Data == "strong" || k.Data == "b" || k.Data == "span" ||
			k.Data == "em") && a == nil:
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

func inForm(e *css.Element) bool {
	for ; e != nil; e = e.Parent {
		if e.Tag == "form" {
			return true
		}
	}
	return false
}

func letters(s string) int { return utf8.RuneCountInString(s) }

// boxOf gives the place of an element, around what is in it when it has none of its own, such as one around floats.
func boxOf(r *layout.Result, e *css.Element) layout.Rect {
	var out layout.Rect
	if f := r.Of(e); f != nil {
		out = f.Rect
	}
	if out.W > 0 && out.H > 0 {
		return out
	}
	for _, k := range e.Kids() {
		if in := boxOf(r, k); !in.Empty() {
			out = union(out, in)
		}
	}
	return out
}

// tracks reports a picture that nobody sees: it counts visits.
func tracks(img *html.Node) bool {
	w, h := markup.Value(img, "width"), markup.Value(img, "height")
	return (w == "1" || w == "0") && (h == "1" || h == "0")
}
