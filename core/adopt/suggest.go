package adopt

import (
	"ziegel/core/layout"
	"ziegel/core/project"
	"ziegel/core/search"
	"ziegel/core/site"
)

// Sketched is a part of a drawn block: what it is and where it is drawn.
type Sketched struct {
	Word  string      // heading, text, picture ... as drawings name parts
	Where layout.Rect // on a page of Width
	Of    [][]Sketched
}

// sketchedAs are the sorts of parts with a text that stands for what they will say.
var sketchedAs = map[string]struct {
	sort  sort
	level int
	says  string
}{
	"eyebrow": {
		words,
		0,
		"A label over it",
	}, "heading": {heading, 2, "What this block is about"}, "lead": {words, 0, "What leads into it, in a sentence or two that say a little more."},
	"title": {
		heading,
		3,
		"What an entry is",
	}, "text": {words, 0, "What is said of it, in a sentence that is long enough to be one."}, "note": {words, 0, "A small note"},
	"figure": {
		words,
		0,
		"412",
	}, "price": {words, 0, "€85"}, "quote": {words, 0, "What somebody says of it, in their own words, and at some length."},
	"name": {
		words,
		0,
		"Ines Halloran",
	}, "role": {words, 0, "what they do"}, "picture": {sort: picture}, "icon": {sort: icon},
	"link": {link, 0, "Read on"}, "actions": {button, 0, "See more"}, "points": {list, 0, "One point of several"},
}

// Suggest finds sections for a block that was drawn, best first, three at the most. landmark is header or footer for
// what begins and ends a page.
func Suggest(env *project.Project, parts []Sketched, landmark string, first bool) []Near {
	rd := &reading{}
	for _, p := range parts {
		rd.sketch(p)
	}
	for _, p := range rd.pieces {
		rd.box = union(rd.box, p.box)
	}
	if first { // the first heading of a page is its title
		for _, p := range rd.pieces {
			if p.sort == heading && p.level == 2 {
				p.level = 1
				break
			}
		}
	}
	b := &Band{read: rd, Landmark: landmark}
	m := NewMedia(env.Stock, nil)
	var out []Near
	for _, x := range choose(env, search.Known(env.Stock), m, b, kindsOf(b, placeOf{first: first})) {
		if len(out) < 3 {
			out = append(out, Near{Section: x.sec.Name, Share: x.share})
		}
	}
	return out
}

// sketch adds what a part stands for.
func (o *reading) sketch(p Sketched) {
	if p.Word == "items" {
		piece := &piece{sort: list, box: p.Where}
		for _, entry := range p.Of {
			in := &reading{}
			for _, x := range entry {
				in.sketch(x)
				in.box = union(in.box, x.Where)
			}
			piece.lists = append(piece.lists, in)
		}
		o.add(piece)
		return
	}
	k, ok := sketchedAs[p.Word]
	if !ok {
		return
	}
	x := &piece{
		sort:  k.sort,
		level: k.level,
		plain: k.says,
		size:  16,
		value: site.NewText(k.says),
		box:   p.Where,
		quote: p.Word == "quote",
	}
	switch k.sort {
	case picture:
		x.value = site.NewMap("file", site.NewText("x.svg"), "alt", site.NewText(""))
	case icon:
		x.value = site.NewText("check")
	case link, button:
		x.value = site.NewMap("label", site.NewText(k.says), "to", site.NewText("#"))
	case list:
		for range 3 {
			x.lists = append(
				x.lists,
				&reading{pieces: []*piece{{sort: words, plain: k.says, value: site.NewText(k.says)}}, box: p.Where},
			)
		}
	}
	o.add(x)
}
