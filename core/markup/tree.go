// Package markup holds what is done with trees of golang.org/x/net/html over and over: reading and setting attributes
// and classes, making, copying and finding nodes (tree.go), and printing a document so that people like to read it
// (print.go). It knows nothing of sections and pages.
package markup

import (
	"strings"

	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"
)

// First finds the first element with a tag, the node itself included; nil when there is none.
func First(n *html.Node, tag string) *html.Node {
	if n.Type == html.ElementNode && n.Data == tag {
		return n
	}
	for d := range n.Descendants() {
		if d.Type == html.ElementNode && d.Data == tag {
			return d
		}
	}
	return nil
}

// Attr returns an attribute of a node.
func Attr(n *html.Node, key string) (string, bool) {
	for _, a := range n.Attr {
		if a.Key == key {
			return a.Val, true
		}
	}
	return "", false
}

// Value gives an attribute of a node, "" when it has none.
func Value(n *html.Node, key string) string {
	v, _ := Attr(n, key)
	return v
}

// TextOf returns all text inside, white space collapsed; an accent is written _so_.
func TextOf(n *html.Node) string {
	var b strings.Builder
	var walk func(n *html.Node)
	walk = func(n *html.Node) {
		if n.Type == html.TextNode {
			b.WriteString(n.Data)
		}
		em := n.Type == html.ElementNode && n.Data == "em"
		if em {
			b.WriteByte('_')
		}
		for c := n.FirstChild; c != nil; c = c.NextSibling {
			walk(c)
		}
		if em {
			b.WriteByte('_')
		}
	}
	walk(n)
	return strings.Join(strings.Fields(b.String()), " ")
}

// Element makes a node; attrs alternate names and values.
func Element(tag string, attrs ...string) *html.Node {
	n := &html.Node{Type: html.ElementNode, Data: tag, DataAtom: atom.Lookup([]byte(tag))}
	for i := 0; i+1 < len(attrs); i += 2 {
		n.Attr = append(n.Attr, html.Attribute{Key: attrs[i], Val: attrs[i+1]})
	}
	return n
}

// Text makes a text node.
func Text(s string) *html.Node { return &html.Node{Type: html.TextNode, Data: s} }

// With appends children to a node and returns it.
func With(n *html.Node, kids ...*html.Node) *html.Node {
	for _, k := range kids {
		n.AppendChild(k)
	}
	return n
}

// HasClass reports whether an element has a class.
func HasClass(n *html.Node, class string) bool {
	list, _ := Attr(n, "class")
	return strings.Contains(" "+list+" ", " "+class+" ")
}

// Clone copies a node with all in it; the copy has no parent.
func Clone(n *html.Node) *html.Node {
	c := &html.Node{Type: n.Type, Data: n.Data, DataAtom: n.DataAtom, Namespace: n.Namespace,
		Attr: append([]html.Attribute(nil), n.Attr...)}
	for k := n.FirstChild; k != nil; k = k.NextSibling {
		c.AppendChild(Clone(k))
	}
	return c
}

// Take reads and removes an attribute.
func Take(n *html.Node, key string) (string, bool) {
	for i, a := range n.Attr {
		if a.Key == key {
			n.Attr = append(n.Attr[:i], n.Attr[i+1:]...)
			return a.Val, true
		}
	}
	return "", false
}

// Set gives an attribute a value, and adds it when it is missing.
func Set(n *html.Node, key, value string) {
	for i, a := range n.Attr {
		if a.Key == key {
			n.Attr[i].Val = value
			return
		}
	}
	n.Attr = append(n.Attr, html.Attribute{Key: key, Val: value})
}

// Has reports whether a node has an attribute.
func Has(n *html.Node, key string) bool {
	_, ok := Attr(n, key)
	return ok
}

// AddClass adds a class after those that an element has.
func AddClass(n *html.Node, class string) {
	old, _ := Attr(n, "class")
	Set(n, "class", strings.TrimSpace(old+" "+class))
}

// RemoveClass takes a class from an element.
func RemoveClass(n *html.Node, class string) {
	old, _ := Attr(n, "class")
	var keep []string
	for _, c := range strings.Fields(old) {
		if c != class {
			keep = append(keep, c)
		}
	}
	Set(n, "class", strings.Join(keep, " "))
}

// Each calls f for every element of a tree, the node itself first. f may take the element out of the tree.
func Each(n *html.Node, f func(*html.Node)) {
	if n.Type == html.ElementNode {
		f(n)
	}
	for k := n.FirstChild; k != nil; {
		next := k.NextSibling
		Each(k, f)
		k = next
	}
}

// Empty takes all children from a node.
func Empty(n *html.Node) {
	for n.FirstChild != nil {
		n.RemoveChild(n.FirstChild)
	}
}

// FirstText finds the first text that is not only white space; nil when there is none.
func FirstText(n *html.Node) *html.Node {
	for d := range n.Descendants() {
		if d.Type == html.TextNode && strings.TrimSpace(d.Data) != "" {
			return d
		}
	}
	return nil
}
