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

// FieldAt names the field that the element of a part shows: text for the part quote. "" when it shows none.
func (s *Section) FieldAt(part string) string { return s.beside("data-part", part, "data-field") }

// PartAt names the part whose element shows a field, "" when none does.
func (s *Section) PartAt(field string) string { return s.beside("data-field", field, "data-part") }

// beside gives the value of another mark on the first element with a mark.
func (s *Section) beside(mark, value, other string) string {
	out := ""
	markup.Each(s.Root, func(n *html.Node) {
		if out == "" && markup.Value(n, mark) == value {
			out = markup.Value(n, other)
		}
	})
	return out
}
