package adopt

import (
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/compose"
	"ziegel/core/markup"
)

// Fields hold inline Markdown. What stands in an element becomes the text that gives the same element again.

// emphasis are the elements that inline Markdown has, and what stands around them.
var emphasis = map[string]string{"em": "_", "i": "_", "strong": "**", "b": "**"}

// special are the characters that Markdown may read as more than themselves.
const special = "\\`*_[]!&#~>+-"

// Inline writes the children of an element as a field has them: _em_, **strong**, `code`, [links](to), a line break,
// and an empty line for two of them. to tells what a link of a page leads to in the words of fields; "" leaves its
// text alone. Elements that Markdown does not have are gone, their text stays. Nothing is escaped that reads as itself.
func Inline(n *html.Node, to func(href string) string) string {
	for _, w := range []inlineWriter{{mark: "_"}, {mark: "*"}, {mark: "_", escape: true}, {mark: "*", escape: true}} {
		w.to = to
		if text := tidy(w.kids(n)); sameInline(text, n, to) {
			return text
		}
	}
	w := inlineWriter{to: func(string) string { return "" }, escape: true} // no Markdown says it: the letters alone
	return tidy(w.kids(n))
}

type inlineWriter struct {
	to     func(string) string
	mark   string // of emphasis; "" leaves it out
	escape bool
}

func (w *inlineWriter) kids(n *html.Node) string {
	var b strings.Builder
	for k := n.FirstChild; k != nil; k = k.NextSibling {
		b.WriteString(w.node(k))
	}
	return b.String()
}

func (w *inlineWriter) node(n *html.Node) string {
	if n.Type == html.TextNode {
		text := collapse(n.Data)
		if w.escape {
			text = escaped(text)
		}
		return text
	}
	if n.Type != html.ElementNode {
		return ""
	}
	switch n.Data {
	case "br":
		return "\\\n"
	case "svg", "img", "picture", "script", "style", "template", "button", "input", "select", "video", "iframe":
		return ""
	case "code", "kbd", "samp":
		if text := collapse(markup.TextOf(n)); text != "" && !strings.Contains(text, "`") {
			return "`" + text + "`"
		}
		return w.kids(n)
	case "a":
		inside := w.kids(n)
		href := w.to(markup.Value(n, "href"))
		if href == "" || strings.TrimSpace(inside) == "" || strings.ContainsAny(href, "() <>") {
			return inside
		}
		return around(inside, "[", "]("+href+")")
	}
	if markup.HasClass(n, "changing") { // words that take turns
		var words []string
		for k := n.FirstChild; k != nil; k = k.NextSibling {
			if k.Type == html.ElementNode {
				words = append(words, strings.TrimSpace(collapse(markup.TextOf(k))))
			}
		}
		return "[" + strings.Join(words, "|") + "]"
	}
	inside := w.kids(n)
	if mark := emphasis[n.Data]; mark != "" && w.mark != "" && strings.TrimSpace(inside) != "" {
		if mark == "_" {
			mark = w.mark
		}
		begins, ends := strings.HasPrefix(inside, " "), strings.HasSuffix(inside, " ")
		withinWord := mark == "_" && (!begins && touches(n.PrevSibling, true) || !ends && touches(n.NextSibling, false))
		if withinWord {
			mark = "*" // an underscore inside a word is one
		}
		return around(inside, mark, mark)
	}
	return inside
}

// touches reports text that goes on without a space on one side of an element.
func touches(n *html.Node, end bool) bool {
	if n == nil || n.Type != html.TextNode || n.Data == "" {
		return false
	}
	r := []rune(n.Data)
	c := r[0]
	if end {
		c = r[len(r)-1]
	}
	return isWord(c)
}

func isWord(c rune) bool {
	return c == '_' || c >= '0' && c <= '9' || c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c > 127
}

// around puts marks around a text, spaces at its ends outside of them.
func around(text, open, end string) string {
	inner := strings.TrimSpace(text)
	at := strings.Index(text, inner)
	return text[:at] + open + inner + end + text[at+len(inner):]
}

// collapse makes one space of white space, as normal flow does (CSS Text 3, 4.1.1). A no-break space is none.
func collapse(s string) string {
	var b strings.Builder
	space := false
	for _, r := range s {
		isSpace := r == ' ' || r == '\t' || r == '\n' || r == '\r' || r == '\f'
		if isSpace {
			space = true
			continue
		}
		if space {
			b.WriteByte(' ')
		}
		space = false
		b.WriteRune(r)
	}
	if space {
		b.WriteByte(' ')
	}
	return b.String()
}

func escaped(s string) string {
	var b strings.Builder
	for _, r := range s {
		if strings.ContainsRune(special, r) {
			b.WriteByte('\\')
		}
		b.WriteRune(r)
	}
	return b.String()
}

// tidy takes away space at the ends and around line breaks; two breaks begin a paragraph.
func tidy(s string) string {
	lines := strings.Split(collapseSpaces(s), "\\\n")
	var b strings.Builder
	empty := 0
	for _, l := range lines {
		l = strings.TrimSpace(l)
		if l == "" {
			empty++
			continue
		}
		switch {
		case b.Len() == 0:
		case empty > 0:
			b.WriteString("\n\n")
		default:
			b.WriteString("\\\n")
		}
		b.WriteString(l)
		empty = 0
	}
	return b.String()
}

// collapseSpaces joins the spaces of neighbouring pieces.
func collapseSpaces(s string) string {
	for strings.Contains(s, "  ") {
		s = strings.ReplaceAll(s, "  ", " ")
	}
	return s
}

// sameInline reports whether a text reads as what stands in an element: the same letters, the same emphasis.
func sameInline(text string, n *html.Node, to func(string) string) bool {
	again := markup.Element("p")
	for _, k := range compose.Inline(text) {
		again.AppendChild(k)
	}
	return outline(again, func(s string) string { return s }) == outline(n, to)
}

// outline writes what matters of inline markup, for comparing.
func outline(n *html.Node, to func(string) string) string {
	var b strings.Builder
	var walk func(n *html.Node)
	in := func(open string, k *html.Node) { // spaces at its ends stand outside
		whole := b.String()
		b.Reset()
		walk(k)
		text := b.String()
		b.Reset()
		b.WriteString(whole + around(text, "<"+open+">", "</>"))
	}
	walk = func(n *html.Node) {
		for k := n.FirstChild; k != nil; k = k.NextSibling {
			switch {
			case k.Type == html.TextNode:
				b.WriteString(k.Data)
			case k.Type != html.ElementNode:
			case k.Data == "br":
				b.WriteString("\n")
			case k.Data == "svg" || k.Data == "script" || k.Data == "style" || k.Data == "button":
			case emphasis[k.Data] != "":
				in(emphasis[k.Data], k)
			case k.Data == "code" || k.Data == "kbd" || k.Data == "samp":
				in("`", k)
			case k.Data == "a" && to(markup.Value(k, "href")) != "":
				in(to(markup.Value(k, "href")), k)
			default:
				walk(k)
			}
		}
	}
	walk(n)
	return strings.Join(strings.Fields(b.String()), " ")
}
