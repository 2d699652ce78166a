package compose

import (
	"fmt"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/library"
)

// shareIcons writes the shapes of icons that stand on a page several times once, as symbols at the end of the body,
// and lets every icon refer to its symbol. names gives the names of icons by their shapes; others are counted.
func shareIcons(body *html.Node, names map[string]string) {
	used := map[string][]*html.Node{}
	var order []string
	walk(body, func(n *html.Node) {
		if n.Data != "svg" || n.FirstChild == nil || !hasClass(n, "icon") {
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
	store := element("svg", "aria-hidden", "true")
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
		box, _ := library.Attr(list[0], "viewBox")
		symbol := element("symbol", "id", id, "viewBox", box)
		for k := list[0].FirstChild; k != nil; k = list[0].FirstChild {
			list[0].RemoveChild(k)
			symbol.AppendChild(k)
		}
		store.AppendChild(symbol)
		for _, n := range list {
			clear(n)
			n.AppendChild(element("use", "href", "#"+id))
		}
	}
	if store.FirstChild != nil {
		body.AppendChild(with(element("div", "hidden", ""), store))
	}
}

// inside writes what is in an element, as HTML.
func inside(n *html.Node) string {
	var b strings.Builder
	for k := n.FirstChild; k != nil; k = k.NextSibling {
		printNode(&b, k, 0)
	}
	return strings.Join(strings.Fields(b.String()), " ")
}

func hasClass(n *html.Node, class string) bool {
	list, _ := library.Attr(n, "class")
	return strings.Contains(" "+list+" ", " "+class+" ")
}
