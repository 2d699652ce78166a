package compose

import (
	"golang.org/x/net/html"
	"golang.org/x/text/language"

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

// rightToLeft reports a language (BCP 47 tag) that is written in a script of which lines run from right to left.
func rightToLeft(tag string) bool {
	t, err := language.Parse(tag)
	if err != nil {
		return false
	}
	script, _ := t.Script()
	switch script.String() {
	case "Arab", "Hebr", "Syrc", "Thaa", "Nkoo", "Adlm", "Rohg", "Mand", "Samr":
		return true
	}
	return false
}
