package compose

import (
	"strings"
	"ziegel/core/library"

	"golang.org/x/net/html"
)

func cloneTree(n *html.Node) *html.Node {
	c := &html.Node{Type: n.Type, Data: n.Data, DataAtom: n.DataAtom, Namespace: n.Namespace, Attr: append([]html.Attribute(nil), n.Attr...)}
	for k := n.FirstChild; k != nil; k = k.NextSibling {
		c.AppendChild(cloneTree(k))
	}
	return c
}

// attr reads and removes an attribute.
func attr(n *html.Node, key string) (string, bool) {
	for i, a := range n.Attr {
		if a.Key == key {
			n.Attr = append(n.Attr[:i], n.Attr[i+1:]...)
			return a.Val, true
		}
	}
	return "", false
}

func set(n *html.Node, key, value string) {
	for i, a := range n.Attr {
		if a.Key == key {
			n.Attr[i].Val = value
			return
		}
	}
	n.Attr = append(n.Attr, html.Attribute{Key: key, Val: value})
}

func has(n *html.Node, key string) bool {
	_, ok := library.Attr(n, key)
	return ok
}

func addClass(n *html.Node, class string) {
	old, _ := library.Attr(n, "class")
	set(n, "class", strings.TrimSpace(old+" "+class))
}

func removeClass(n *html.Node, class string) {
	old, _ := library.Attr(n, "class")
	var keep []string
	for _, c := range strings.Fields(old) {
		if c != class {
			keep = append(keep, c)
		}
	}
	set(n, "class", strings.Join(keep, " "))
}

func signature(n *html.Node) string {
	if v, ok := library.Attr(n, "data-field"); ok {
		return "field " + v
	}
	if v, ok := library.Attr(n, "data-each"); ok {
		return "each " + v
	}
	c, _ := library.Attr(n, "class")
	return n.Data + " " + strings.SplitN(c, " ", 2)[0]
}

func walk(n *html.Node, f func(*html.Node)) {
	if n.Type == html.ElementNode {
		f(n)
	}
	for k := n.FirstChild; k != nil; {
		next := k.NextSibling
		walk(k, f)
		k = next
	}
}

// siblings collects neighbouring sample entries of one list; white space between them goes with them.
func siblings(first *html.Node, name string) (group []*html.Node, next *html.Node) {
	group = []*html.Node{first}
	for k := first.NextSibling; k != nil; k = k.NextSibling {
		if k.Type == html.TextNode && strings.TrimSpace(k.Data) == "" {
			continue
		}
		if k.Type == html.ElementNode {
			if e, ok := library.Attr(k, "data-each"); ok && e == name {
				group = append(group, k)
				continue
			}
		}
		return group, k
	}
	return group, nil
}

func clear(n *html.Node) {
	for n.FirstChild != nil {
		n.RemoveChild(n.FirstChild)
	}
}

func firstText(n *html.Node) *html.Node {
	for k := n.FirstChild; k != nil; k = k.NextSibling {
		if k.Type == html.TextNode && strings.TrimSpace(k.Data) != "" {
			return k
		}
		if m := firstText(k); m != nil {
			return m
		}
	}
	return nil
}

func headingOf(n *html.Node) *html.Node {
	var found *html.Node
	walk(n, func(x *html.Node) {
		if found == nil && (x.Data == "h1" || x.Data == "h2") {
			found = x
		}
	})
	return found
}
