package markup

import (
	"strings"

	"golang.org/x/net/html"
)

// Print writes a document: structure indented, text as it is.
func Print(doc *html.Node) string {
	var b strings.Builder
	for c := doc.FirstChild; c != nil; c = c.NextSibling {
		if c.Type == html.DoctypeNode {
			b.WriteString("<!doctype html>\n")
			continue
		}
		PrintNode(&b, c, 0)
	}
	return strings.TrimSpace(b.String()) + "\n"
}

var blockTags = map[string]bool{"html": true, "head": true, "body": true, "header": true, "main": true,
	"footer": true, "section": true, "div": true, "nav": true, "ul": true, "ol": true,
	"li": true, "p": true, "h1": true, "h2": true, "h3": true, "h4": true, "figure": true, "blockquote": true,
	"meta": true, "link": true, "title": true, "article": true, "aside": true, "form": true,
	"style": true, "dl": true, "dt": true, "dd": true, "img": true, "picture": true, "source": true, "button": true}

var voidTags = map[string]bool{"area": true, "base": true, "br": true, "col": true, "embed": true, "hr": true,
	"img": true, "input": true, "link": true, "meta": true, "source": true, "track": true, "wbr": true}

// PrintNode writes a node at a depth of the document; blocks begin lines of their own.
func PrintNode(b *strings.Builder, n *html.Node, depth int) {
	switch n.Type {
	case html.TextNode:
		if n.Parent != nil && n.Parent.Data == "style" {
			b.WriteString(n.Data)
			return
		}
		b.WriteString(escapeText.Replace(n.Data))
		return
	case html.CommentNode:
		return
	}
	b.WriteString("<" + n.Data)
	for _, a := range n.Attr {
		b.WriteString(" ")
		if a.Namespace != "" {
			b.WriteString(a.Namespace + ":")
		}
		b.WriteString(a.Key)
		if a.Val != "" || a.Key == "alt" || a.Key == "href" {
			b.WriteString(`="` + escapeAttr.Replace(a.Val) + `"`)
		}
	}
	b.WriteString(">")
	if voidTags[n.Data] && n.Namespace == "" {
		return
	}
	inner := depth + 1
	if n.Data == "html" {
		inner = 0
	}
	broke := false
	var before *html.Node
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		if c.Type == html.TextNode && blank(c.Data) && n.Data != "style" {
			continue
		}
		gap := spaceBetween(before, c)
		block := isBlock(c) || before != nil && isBlock(before)
		breaks := before == nil && (isBlock(c) || holdsBlock(n)) || before != nil && (gap || block)
		if breaks {
			b.WriteString("\n" + strings.Repeat("  ", inner))
			broke = true
		}
		PrintNode(b, c, inner)
		before = c
	}
	closes := broke && before != nil && (isBlock(before) || before.NextSibling != nil &&
		blank(before.NextSibling.Data))
	if closes {
		b.WriteString("\n" + strings.Repeat("  ", max(0, inner-1)))
	}
	b.WriteString("</" + n.Data + ">")
}

// blank reports a text that is white space of HTML (ASCII whitespace, Infra 4.6) and nothing else: a space that does
// not break is none.
func blank(text string) bool { return strings.Trim(text, " \t\n\f\r") == "" }

// holdsBlock reports a block whose children stand on lines of their own.
func holdsBlock(n *html.Node) bool {
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		if isBlock(n) && isBlock(c) {
			return true
		}
	}
	return false
}

func isBlock(n *html.Node) bool { return n.Type == html.ElementNode && blockTags[n.Data] }

// spaceBetween reports white space between two kept nodes.
func spaceBetween(a, b *html.Node) bool {
	if a == nil {
		return false
	}
	for c := a.NextSibling; c != nil && c != b; c = c.NextSibling {
		if c.Type == html.TextNode && c.Data != "" {
			return true
		}
	}
	return false
}

var escapeText = strings.NewReplacer("&", "&amp;", "<", "&lt;", ">", "&gt;")

var escapeAttr = strings.NewReplacer("&", "&amp;", `"`, "&quot;", "<", "&lt;", ">", "&gt;")
