package library

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"unicode"

	"golang.org/x/net/html"

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
	"LocalBusiness":  {[]string{"name"}, []string{"url", "logo", "openingHoursSpecification"}},

	"OpeningHoursSpecification": {[]string{"dayOfWeek", "opens", "closes"}, nil},
}

// misread is something of data-means that nobody would read.
type misread struct {
	words, text, expected, word string
	known                       []string
}

// misreadIn finds what is wrong with data-means in an element and below; of is the type of the item around it, "" for
// none.
func misreadIn(n *html.Node, of string) (out []misread) {
	if words, ok := markup.Attr(n, "data-means"); ok {
		out, of = misreadWords(words, of)
	}
	for k := n.FirstChild; k != nil; k = k.NextSibling {
		if k.Type == html.ElementNode {
			out = append(out, misreadIn(k, of)...)
		}
	}
	return out
}

// misreadWords checks the words of one data-means, and gives the type that is around what is in its element.
func misreadWords(words, of string) (out []misread, inside string) {
	for _, w := range strings.Fields(words) {
		if unicode.IsUpper(rune(w[0])) {
			if _, ok := Meanings[w]; !ok {
				known := slices.Sorted(maps.Keys(Meanings))
				out = append(
					out,
					misread{words, fmt.Sprintf("data-means speaks of the type %q, which pages do not tell", w),
						"one of " + strings.Join(known, ", "), w, known},
				)
			}
			of = w
			continue
		}
		if of == "" {
			out = append(
				out,
				misread{
					words,
					fmt.Sprintf("data-means gives the property %q, and no element around it begins an item", w),
					"a type before it or around it, such as FAQPage",
					"",
					nil,
				},
			)
			continue
		}
		known := slices.Concat(Meanings[of].Needs, Meanings[of].Takes)
		if !slices.Contains(known, w) {
			out = append(
				out,
				misread{
					words,
					fmt.Sprintf("%s has no property %q", of, w),
					"one of " + strings.Join(known, ", "),
					w,
					known,
				},
			)
		}
	}
	return out, of
}
