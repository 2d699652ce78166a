package compose

import (
	"fmt"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/markup"
)

// shareIcons writes the shapes of icons that stand on a page several times once, as symbols at the end of the body,
// and lets every icon refer to its symbol. names gives the names of icons by their shapes; others are counted.
func shareIcons(body *html.Node, names map[string]string) {
	used := map[string][]*html.Node{}
	var order []string
	markup.Each(body, func(n *html.Node) {
		if n.Data != "svg" || n.FirstChild == nil || !markup.HasClass(n, "icon") {
			return
		}
		shapes := inside(n)
		if strings.Contains(shapes, "class=") || strings.Contains(shapes, "id=") {
			return // styled or referred to one by one
		}
		if used[shapes] == nil {
			order = append(order, shapes)
		}
		used[shapes] = append(used[shapes], n)
	})
	store := markup.Element("svg", "aria-hidden", "true")
	for _, shapes := range order {
		list := used[shapes]
		if len(list) < 2 {
			continue
		}
		id := "icon-" + names[shapes]
		if id == "icon-" {
			id = fmt.Sprintf("icon-%d", len(names)+1)
			names[shapes] = fmt.Sprint(len(names) + 1)
		}
		box, _ := markup.Attr(list[0], "viewBox")
		symbol := markup.Element("symbol", "id", id, "viewBox", box)
		for k := list[0].FirstChild; k != nil; k = list[0].FirstChild {
			list[0].RemoveChild(k)
			symbol.AppendChild(k)
		}
		store.AppendChild(symbol)
		for _, n := range list {
			markup.Empty(n)
			n.AppendChild(markup.Element("use", "href", "#"+id))
		}
	}
	if store.FirstChild != nil {
		body.AppendChild(markup.With(markup.Element("div", "hidden", ""), store))
	}
}

// inside writes what is in an element, as HTML.
func inside(n *html.Node) string {
	var b strings.Builder
	for k := n.FirstChild; k != nil; k = k.NextSibling {
		markup.PrintNode(&b, k, 0)
	}
	return strings.Join(strings.Fields(b.String()), " ")
}
