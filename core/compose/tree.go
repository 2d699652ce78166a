package compose

import (
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/markup"
)

func signature(n *html.Node) string {
	if v, ok := markup.Attr(n, "data-field"); ok {
		return "field " + v
	}
	if v, ok := markup.Attr(n, "data-each"); ok {
		return "each " + v
	}
	c, _ := markup.Attr(n, "class")
	return n.Data + " " + strings.SplitN(c, " ", 2)[0]
}

// siblings collects neighbouring sample entries of one list; white space between them goes with them.
func siblings(first *html.Node, name string) (group []*html.Node, next *html.Node) {
	group = []*html.Node{first}
	for k := first.NextSibling; k != nil; k = k.NextSibling {
		if k.Type == html.TextNode && strings.TrimSpace(k.Data) == "" {
			continue
		}
		if k.Type == html.ElementNode {
			if e, ok := markup.Attr(k, "data-each"); ok && e == name {
				group = append(group, k)
				continue
			}
		}
		return group, k
	}
	return group, nil
}

func headingOf(n *html.Node) *html.Node {
	var found *html.Node
	markup.Each(n, func(x *html.Node) {
		if found == nil && (x.Data == "h1" || x.Data == "h2") {
			found = x
		}
	})
	return found
}
