package comments

import (
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/compose"
	"ziegel/core/markup"
)

// Page is a composed page with marks, to find places in.
type Page struct {
	blocks []string
	root   map[string]*html.Node
}

// PageOf reads the HTML of a page that was composed with marks.
func PageOf(source string) (*Page, error) {
	doc, err := html.Parse(strings.NewReader(source))
	if err != nil {
		return nil, err
	}
	p := &Page{root: map[string]*html.Node{}}
	markup.Each(doc, func(n *html.Node) {
		if name, ok := markup.Attr(n, compose.MarkBlock); ok && p.root[name] == nil {
			p.blocks, p.root[name] = append(p.blocks, name), n
		}
	})
	return p, nil
}

// Found is where a comment is pinned now.
type Found struct {
	Pin
	Text  string // what stands there
	State string // what has changed since the comment was made, "" for nothing
}

// Find looks for the place of a comment: where it was, else where its words stand now.
func (p *Page) Find(t Target) Found {
	pin, _ := PinOf(t.Place())
	if pin.Block == "" {
		return Found{}
	}
	quote := flat(t.Quote())
	root := p.root[pin.Block]
	if root == nil { // its words may stand in another block
		for _, name := range p.blocks {
			if quote != "" && strings.Contains(flat(textOf(p.root[name])), quote) {
				return Found{
					Pin:   Pin{Block: name},
					Text:  quote,
					State: "the block " + pin.Block + " is gone; its words stand in " + name,
				}
			}
		}
		return Found{Pin: pin, State: "the block " + pin.Block + " is gone"}
	}
	if pin.Part == "" {
		return Found{Pin: pin, Text: flat(textOf(root))}
	}
	parts := partsOf(root, pin.Part)
	at := max(1, pin.Item) - 1
	if at < len(parts) {
		text := flat(textOf(parts[at]))
		if quote == "" || same(text, quote) {
			return Found{Pin: pin, Text: text}
		}
		for i, n := range parts { // an entry that has moved in its list
			if same(flat(textOf(n)), quote) {
				moved := pin
				moved.Item = i + 1
				return Found{Pin: moved, Text: quote}
			}
		}
		return Found{Pin: pin, Text: text, State: "it said: " + quote}
	}
	if quote != "" { // the block has another section: the part of it that says the same
		if n := saying(root, quote); n != nil {
			name, _ := markup.Attr(n, compose.MarkPart)
			found := Pin{Block: pin.Block, Part: name}
			if all := partsOf(root, name); len(all) > 1 {
				for i, x := range all {
					if x == n {
						found.Item = i + 1
					}
				}
			}
			return Found{Pin: found, Text: quote}
		}
	}
	return Found{
		Pin:   Pin{Block: pin.Block},
		Text:  flat(textOf(root)),
		State: "the part " + strings.TrimPrefix(pin.String(), pin.Block+".") + " is gone; it said: " + quote,
	}
}

func partsOf(root *html.Node, part string) []*html.Node {
	var out []*html.Node
	markup.Each(root, func(n *html.Node) {
		if name, ok := markup.Attr(n, compose.MarkPart); ok && name == part {
			out = append(out, n)
		}
	})
	return out
}

// saying finds the innermost part that says just the words.
func saying(root *html.Node, quote string) *html.Node {
	var out *html.Node
	markup.Each(root, func(n *html.Node) {
		if _, ok := markup.Attr(n, compose.MarkPart); ok && same(flat(textOf(n)), quote) {
			out = n
		}
	})
	return out
}

// textOf is what an element says: its text, or what its pictures say.
func textOf(n *html.Node) string {
	var b strings.Builder
	var walk func(n *html.Node)
	walk = func(n *html.Node) {
		switch {
		case n.Type == html.TextNode:
			b.WriteString(n.Data)
		case n.Data == "img":
			b.WriteString(" " + markup.Value(n, "alt") + " ")
		case n.Data == "script" || n.Data == "style":
			return
		}
		for c := n.FirstChild; c != nil; c = c.NextSibling {
			walk(c)
		}
	}
	walk(n)
	return b.String()
}

func flat(s string) string { return strings.Join(strings.Fields(s), " ") }

// MostQuote is how many letters of a place are kept as its words.
const MostQuote = 200

// same compares what stands somewhere with what was kept of it. Spaces between elements count for nothing.
func same(text, quote string) bool {
	a, b := []rune(strings.ReplaceAll(text, " ", "")), []rune(strings.ReplaceAll(quote, " ", ""))
	if len([]rune(quote)) >= MostQuote && len(a) > len(b) {
		a = a[:len(b)]
	}
	return string(a) == string(b)
}
