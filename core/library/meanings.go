package library

import (
	"fmt"
	"slices"
	"strings"
	"unicode"

	"golang.org/x/net/html"

	"ziegel/core/diag"
	"ziegel/core/markup"
)

// Meaning is a type of schema.org that data-means can give to an element.
type Meaning struct {
	// Needs are the properties without which an item says nothing to those who read it; one that lacks them is left
	// out of the page's data.
	Needs []string
	Takes []string
}

// Meanings are the types that pages can speak of. What is not among them is told to the author of a section, since
// nobody would read it.
var Meanings = map[string]Meaning{
	"FAQPage":        {[]string{"mainEntity"}, nil},
	"Question":       {[]string{"name", "acceptedAnswer"}, nil},
	"Answer":         {[]string{"text"}, nil},
	"Product":        {[]string{"name", "offers"}, []string{"description", "image"}},
	"Offer":          {[]string{"price"}, []string{"url"}},
	"BreadcrumbList": {[]string{"itemListElement"}, nil},
	"ListItem":       {[]string{"name"}, []string{"item"}},
	"Article":        {[]string{"headline"}, []string{"description", "image"}},
	"Organization":   {[]string{"name"}, []string{"url", "logo"}},
}

// meanings checks data-means in an element and below.
func (r *reviewing) meanings(n *html.Node, of string) {
	if words, ok := markup.Attr(n, "data-means"); ok {
		of = r.means(words, of)
	}
	for k := n.FirstChild; k != nil; k = k.NextSibling {
		if k.Type == html.ElementNode {
			r.meanings(k, of)
		}
	}
}

// means checks the words of data-means, in an item of type of, "" for none, and gives the type that is around what is
// in the element.
func (r *reviewing) means(words, of string) string {
	wrong := func(text, expected, word string, known []string) {
		r.add("section.html", r.inHTML("data-means", words), diag.Error, "unknown-mark", text, expected,
			diag.Nearest(word, known))
	}
	for _, w := range strings.Fields(words) {
		if unicode.IsUpper(rune(w[0])) {
			if _, ok := Meanings[w]; !ok {
				var known []string
				for k := range Meanings {
					known = append(known, k)
				}
				slices.Sort(known)
				wrong(fmt.Sprintf("data-means speaks of the type %q, which pages do not tell", w),
					"one of "+strings.Join(known, ", "), w, known)
			}
			of = w
			continue
		}
		if of == "" {
			wrong(fmt.Sprintf("data-means gives the property %q, and no element around it begins an item", w),
				"a type before it or around it, such as FAQPage", "", nil)
			continue
		}
		known := append(append([]string{}, Meanings[of].Needs...), Meanings[of].Takes...)
		if !slices.Contains(known, w) {
			wrong(fmt.Sprintf("%s has no property %q", of, w), "one of "+strings.Join(known, ", "), w, known)
		}
	}
	return of
}
