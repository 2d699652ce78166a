package sweep

import (
	"maps"
	"slices"
	"strings"

	"ziegel/core/css"
	"ziegel/core/layout"
)

// Which children of an element are alike, on pages without marks: cards, tiles, quotes, entries of a menu. They share
// a class, or are of a kind that repeats by itself, or are made of the same things.

// repeating are tags whose siblings are alike without a class.
var repeating = map[string]bool{"li": true, "article": true, "figure": true, "blockquote": true, "details": true,
	"a": true, "button": true, "img": true, "picture": true, "dt": true}

// Alike names the group of each child of an element that has fellows; "" for the others.
func Alike(parent *css.Element) map[*css.Element]string {
	out := map[*css.Element]string{}
	byTag := map[string][]*css.Element{}
	for _, k := range parent.Kids() {
		switch k.Tag {
		case "script", "style", "template", "br", "hr", "option", "source", "input", "label":
			continue
		}
		if !k.Foreign {
			byTag[k.Tag] = append(byTag[k.Tag], k)
		}
	}
	for tag, kids := range byTag {
		if len(kids) < 2 {
			continue
		}
		left := kids
		for len(left) > 1 { // the class that most share
			class, n := sharedClass(left)
			if n < 2 {
				break
			}
			var rest []*css.Element
			for _, k := range left {
				if k.HasClass(class) {
					out[k] = tag + "." + class
				} else {
					rest = append(rest, k)
				}
			}
			left = rest
		}
		groupByContent(tag, left, out)
	}
	return out
}

// sharedClass gives the class that most elements have; of several the one that comes first in them.
func sharedClass(list []*css.Element) (string, int) {
	count, first := map[string]int{}, map[string]int{}
	for i, e := range list {
		for j, c := range e.Classes {
			count[c]++
			if _, ok := first[c]; !ok {
				first[c] = i*100 + j
			}
		}
	}
	best, most := "", 0
	for _, c := range slices.Sorted(maps.Keys(count)) {
		if count[c] > most || count[c] == most && first[c] < first[best] {
			best, most = c, count[c]
		}
	}
	return best, most
}

// groupByContent groups elements that share no class: those of a kind that repeats by itself, and boxes made of the
// same things.
func groupByContent(tag string, list []*css.Element, out map[*css.Element]string) {
	if repeating[tag] {
		if len(list) > 1 {
			for _, k := range list {
				out[k] = tag
			}
		}
		return
	}
	speaks := tag != "div" && tag != "section" && tag != "span" && tag != "dl" && tag != "ul"
	if speaks {
		return
	}
	made := map[string][]*css.Element{}
	for _, k := range list {
		made[madeOf(k)] = append(made[madeOf(k)], k)
	}
	for what, alike := range made {
		if len(alike) > 1 && what != "" {
			for _, k := range alike {
				out[k] = tag + " of " + what
			}
		}
	}
}

// madeOf names what a box holds: its headings, pictures, texts, lists and fields, each once. "" for a box with bare
// text only.
func madeOf(e *css.Element) string {
	kinds := map[string]bool{}
	var walk func(x *css.Element, depth int)
	walk = func(x *css.Element, depth int) {
		for _, k := range x.Kids() {
			switch {
			case len(k.Tag) == 2 && k.Tag[0] == 'h' && k.Tag[1] >= '1' && k.Tag[1] <= '6':
				kinds[k.Tag] = true
			case k.Tag == "img" || k.Tag == "picture" || k.Tag == "video" || k.Tag == "svg":
				kinds["picture"] = true
			case k.Tag == "ul" || k.Tag == "ol" || k.Tag == "dl":
				kinds["list"] = true
				continue
			case k.Tag == "form" || k.Tag == "input" || k.Tag == "textarea" || k.Tag == "select":
				kinds["field"] = true
			case k.Tag == "blockquote":
				kinds["quote"] = true
			case k.Tag == "p":
				kinds["text"] = true
			}
			if depth < 4 {
				walk(k, depth+1)
			}
		}
	}
	walk(e, 0)
	return strings.Join(slices.Sorted(maps.Keys(kinds)), " ")
}

// opener reports whether a button that can be seen opens what is hidden around an element: by a popover, details, the
// attributes that name what a button controls, or by a checkbox with a label.
func opener(r *layout.Result, e *css.Element) bool {
	if opensMenu(r, e) {
		return true
	}
	ids := map[string]bool{}
	var around *css.Element
	for x := e; x != nil; x = x.Parent {
		if x.ID != "" {
			ids[x.ID] = true
		}
		if around == nil && (x.Tag == "nav" || x.Tag == "header") {
			around = x
		}
	}
	for i := range r.Boxes {
		p := &r.Boxes[i]
		b := p.Element
		noSwitch := p.Empty() || !p.Style.Visible || b.Tag != "button" && b.Tag != "label" && b.Tag != "summary" &&
			b.Attr("role") != "button"
		if noSwitch {
			continue
		}
		if ids[b.Attr("aria-controls")] || ids[strings.TrimPrefix(b.Attr("data-target"), "#")] &&
			b.Attr("data-target") != "" {
			return true
		}
		near := false
		for x := b.Parent; x != nil && around != nil; x = x.Parent {
			near = near || x == around || x == around.Parent &&
				(around.Parent.Tag == "header" || around.Parent.Tag == "nav")
		}
		if near && (b.Tag != "label" || b.Attr("for") != "") {
			return true
		}
	}
	return false
}

// group is a set of like boxes.
type group struct {
	part    string
	entries []*css.Element
}

// opensMenu reports whether a visible button opens the popover that e stands in.
func opensMenu(r *layout.Result, e *css.Element) bool {
	for x := e; x != nil; x = x.Parent {
		if _, pop := x.LookupAttr("popover"); !pop && x.Tag != "details" {
			continue
		}
		for i := range r.Boxes {
			p := &r.Boxes[i]
			if p.Empty() {
				continue
			}
			if t := p.Element.Attr("popovertarget"); t != "" && t == x.ID ||
				p.Element.Tag == "summary" && p.Element.Parent == x {
				return true
			}
		}
	}
	return false
}
