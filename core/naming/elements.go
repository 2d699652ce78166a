package naming

import (
	"strings"

	"ziegel/core/css"
	"ziegel/core/layout"
)

// IsPicture reports an element that shows something that is not text.
func IsPicture(e *css.Element) bool {
	switch e.Tag {
	case "img", "video", "iframe", "canvas", "svg":
		return true
	}
	return false
}

// Abs gives the distance from zero.
func Abs(p layout.Px) layout.Px { return max(p, -p) }

// Clickable reports an element that is clicked or tapped.
func Clickable(e *css.Element) bool {
	switch e.Tag {
	case "a":
		_, ok := e.LookupAttr("href")
		return ok
	case "input":
		return e.Attr("type") != "hidden"
	case "button", "select", "textarea", "summary":
		return true
	}
	return false
}

// Inside reports an element that stands in another one.
func Inside(e, of *css.Element) bool {
	for x := e.Parent; x != nil; x = x.Parent {
		if x == of {
			return true
		}
	}
	return false
}

// Headings are the levels of heading elements.
var Headings = map[string]int{"h1": 1, "h2": 2, "h3": 3, "h4": 4, "h5": 5, "h6": 6}

// OwnText gives an element's own text, without that of the elements in it.
func OwnText(e *css.Element) string {
	var b strings.Builder
	for i := range e.Children {
		if e.Children[i].Element == nil {
			b.WriteString(e.Children[i].Text)
		}
	}
	return strings.Join(strings.Fields(b.String()), " ")
}
