package areas

import (
	"slices"

	"golang.org/x/net/html"

	"ziegel/core/library"
	"ziegel/core/markup"
	"ziegel/core/theme"
)

var tones = theme.Tones

// kind is what a part word becomes.
type kind struct {
	word, field string // the field that it fills, the word itself when empty
	make        func(field string) *html.Node
}

// el makes an element of a part that shows a field.
func el(tag, class, field, sample string) *html.Node {
	return markup.With(
		markup.Element(tag, "class", class, "data-field", field, "data-part", field),
		markup.Text(sample),
	)
}

// kinds are the words for parts, in the order in which they are told.
var kinds = []kind{
	{"eyebrow", "", func(f string) *html.Node { return el("p", "type-label soft over-heading", f, "Kite workshop") }},
	{"heading", "", func(f string) *html.Node { return el("h2", "type-title", f, "Made for real wind") }},
	{"lead", "", func(f string) *html.Node {
		return el("p", "type-lead soft", f, "Every kite is cut, sewn and flown here before it leaves.")
	}},
	{"title", "", func(f string) *html.Node { return el("h3", "type-heading", f, "Cut by hand") }},
	{"text", "", func(f string) *html.Node {
		return el("p", "text", f, "A hot knife seals the cloth along the warp, so that no edge frays.")
	}},
	{"note", "", func(f string) *html.Node { return el("p", "type-small soft", f, "Six people at the most.") }},
	{"figure", "", func(f string) *html.Node { return el("p", "type-figure", f, "412") }},
	{"price", "", func(f string) *html.Node { return el("p", "type-figure", f, "€85") }},
	{"quote", "", func(f string) *html.Node {
		return markup.With(
			markup.Element("blockquote"),
			el("p", "type-lead", f, "It did not come down until I asked it to."),
		)
	}},
	{"name", "", func(f string) *html.Node { return el("p", "name", f, "Ines Halloran") }},
	{"role", "", func(f string) *html.Node { return el("p", "type-small soft", f, "Delta weekend, in May") }},
	{"picture", "media", func(f string) *html.Node {
		return markup.With(
			markup.Element("figure", "class", "media", "data-when", f, "data-part", f),
			markup.Element(
				"img",
				"class",
				"picture soft-corners shown",
				"src",
				"../../../pictures/delta.svg",
				"width",
				"960",
				"height",
				"1200",
				"alt",
				"A red delta kite over dunes",
				"data-field",
				f,
				"data-part",
				"picture",
			),
		)
	}},
	{"icon", "", func(f string) *html.Node { return icon(f) }},
	{"link", "", func(f string) *html.Node {
		return markup.With(
			markup.Element("a", "class", "action action-quiet", "href", "#", "data-field", f, "data-part", f),
			markup.Text("How we build"),
		)
	}},
	{"actions", "", func(f string) *html.Node { return library.Actions(f, "See the courses", "How we build") }},
	{"points", "", func(f string) *html.Node {
		list := markup.Element("ul", "class", "points", "data-part", f)
		for i, text := range []string{"Sewing machines and all tools", "Supper at the slipway"} {
			li := markup.With(
				markup.Element("li", "class", "point", "data-each", f, "data-field", "."),
				markup.Text(text),
			)
			if i == 0 {
				markup.Set(li, "data-part", "point")
			}
			list.AppendChild(li)
		}
		return list
	}},
}

// entryWords are the parts that entries of items can have.
var entryWords = []string{"icon", "picture", "title", "text", "note", "figure", "price", "link"}

func words() []string {
	var out []string
	for _, k := range kinds {
		out = append(out, k.word)
	}
	return out
}

func kindOf(word string) kind {
	return kinds[slices.IndexFunc(kinds, func(k kind) bool { return k.word == word })]
}

func fieldOf(word string) string {
	if f := kindOf(word).field; f != "" {
		return f
	}
	return word
}

// icon draws the check mark, as a section's file has it.
func icon(field string) *html.Node {
	svg := markup.Element(
		"svg",
		"class",
		"icon",
		"viewBox",
		"0 0 24 24",
		"aria-hidden",
		"true",
		"data-field",
		field,
		"data-part",
		field,
		"data-icon",
		"check",
		"fill",
		"none",
		"stroke",
		"currentColor",
		"stroke-width",
		"1.5",
		"stroke-linecap",
		"round",
		"stroke-linejoin",
		"round",
	)
	return markup.With(svg, markup.Element("path", "d", "M5 13L9 17L19 7"))
}
