package compose

import (
	"golang.org/x/net/html"

	"ziegel/core/markup"
)

// word puts a word of a page itself into an element. One of another language than the site's says so.
func (c *composer) word(n *html.Node, name string) *html.Node {
	word, language := c.Env.Word(name)
	if language != "" {
		n.Attr = append(n.Attr, html.Attribute{Key: "lang", Val: language})
	}
	return markup.With(n, markup.Text(word))
}
