package library

import (
	"golang.org/x/net/html"

	"ziegel/core/markup"
)

// Document writes section.html around a section, as authors write it: a whole document that any browser shows.
func Document(name string, root *html.Node) string {
	head := markup.With(markup.Element("head"),
		markup.Element("meta", "charset", "utf-8"),
		markup.Element("meta", "name", "viewport", "content", "width=device-width, initial-scale=1"),
		markup.With(markup.Element("title"), markup.Text(name)),
		markup.Element("link", "rel", "stylesheet", "href", "../../bench.css"),
		markup.Element("link", "rel", "stylesheet", "href", "section.css"))
	doc := &html.Node{Type: html.DocumentNode}
	doc.AppendChild(&html.Node{Type: html.DoctypeNode, Data: "html"})
	doc.AppendChild(markup.With(markup.Element("html", "lang", "en"), head, markup.With(markup.Element("body"), root)))
	return markup.Print(doc)
}

// Actions makes the row of buttons that every section takes, under the name of its field: one for each label, the
// first of them the main one.
func Actions(field string, labels ...string) *html.Node {
	row := markup.Element("p", "class", "actions", "data-part", field)
	for i, label := range labels {
		look := "action action-main"
		if i > 0 {
			look = "action action-quiet"
			row.AppendChild(markup.Text("\n"))
		}
		a := markup.With(markup.Element("a", "class", look, "href", "#"), markup.Text(label))
		markup.Set(a, "data-each", field)
		markup.Set(a, "data-field", ".")
		if i == 0 {
			markup.Set(a, "data-part", "action")
		}
		row.AppendChild(a)
	}
	return row
}

// Hidden keeps an element out of sight until a page gives a field in it.
func Hidden(n *html.Node) *html.Node {
	markup.Set(n, "hidden", "")
	return n
}

// blockNames are what people call blocks of a kind.
var blockNames = map[string]string{"hero": "opening", "nav": "menu", "features": "reasons", "pricing": "plans",
	"testimonials": "voices", "footer": "foot"}

// BlockName gives what a block of a section of some kind is called until somebody names it.
func BlockName(kind string) string {
	if name := blockNames[kind]; name != "" {
		return name
	}
	return kind
}
