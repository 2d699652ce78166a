package library

import (
	"golang.org/x/net/html"

	"ziegel/core/markup"
)

// ListsOf names the lists whose entries a part stands in, the outermost first: items of a card, items and points of a
// point. There are none for a part that stands in the section once.
func (s *Section) ListsOf(part string) []string {
	var out []string
	found := false
	markup.Each(s.Root, func(n *html.Node) {
		if found || markup.Value(n, "data-part") != part {
			return
		}
		found = true
		for ; n != nil; n = n.Parent {
			if list, ok := markup.Attr(n, "data-each"); ok {
				out = append([]string{list}, out...)
			}
		}
	})
	return out
}

// PartsOf names the parts that stand in each entry of a list once, not in lists inside it.
func (s *Section) PartsOf(list string) []string {
	var out []string
	for _, part := range s.Parts {
		if lists := s.ListsOf(part); len(lists) == 1 && lists[0] == list {
			out = append(out, part)
		}
	}
	return out
}
