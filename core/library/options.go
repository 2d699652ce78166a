package library

import (
	"fmt"
	"slices"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/diag"
	"ziegel/core/markup"
	"ziegel/core/site"
)

// readOptions reads a map of options.
func readOptions(v *site.Value) []Option {
	var out []Option
	if v == nil {
		return nil
	}
	for _, e := range v.Entries {
		o := Option{Name: e.Key, Summary: e.Value.Get("summary").Str(), Default: e.Value.Get("default").Str(),
			Type: e.Value.Get("type").Str()}
		if c := e.Value.Get("choices"); c != nil {
			o.Type = "choice"
			for _, x := range c.Items {
				o.Choices = append(o.Choices, x.Str())
			}
		}
		if c := e.Value.Get("sets"); c != nil {
			for _, x := range c.Items {
				o.Sets = append(o.Sets, x.Str())
			}
		}
		out = append(out, o)
	}
	return out
}

// checkMeasured reports measured conditions that speak of parts that are not there.
func (s *Section) checkMeasured(file string) diag.Problems {
	var out diag.Problems
	for i := range s.Measured {
		m := &s.Measured[i]
		for _, part := range []string{m.Row, m.Fit, m.Room} {
			if part != "" && !s.HasPart(part) {
				out = append(out, diag.Problem{Position: diag.Position{File: file}, Severity: diag.Error,
					Rule: "unknown-part", Text: fmt.Sprintf("the measured condition %s speaks of a part %q",
						m.Name, part),
					Expected: "one of " + strings.Join(s.Parts, ", "), Try: diag.Nearest(part, s.Parts)})
			}
		}
		if (m.Row == "") == (m.Fit == "") {
			out = append(out, diag.Problem{Position: diag.Position{File: file}, Severity: diag.Error,
				Rule: "missing-key", Text: fmt.Sprintf("the measured condition %s asks nothing", m.Name),
				Expected: "row: PART or fit: PART"})
		}
		m.RoomClass = s.classOf(m.Room)
	}
	return out
}

// classOf gives the first class of a part in the section's files.
func (s *Section) classOf(part string) string {
	class := ""
	var walk func(n *html.Node)
	walk = func(n *html.Node) {
		if p, ok := markup.Attr(n, "data-part"); ok && p == part && class == "" && part != "" {
			c, _ := markup.Attr(n, "class")
			class, _, _ = strings.Cut(c, " ")
		}
		for c := n.FirstChild; c != nil; c = c.NextSibling {
			walk(c)
		}
	}
	walk(s.Root)
	return class
}

// Places are the nine places inside a cell.
var Places = []string{"top left", "top", "top right", "left", "center", "right", "bottom left", "bottom",
	"bottom right"}

// PlaceCSS gives the value of the place-* properties for one of the Places: block axis, then inline axis.
func PlaceCSS(place string) (string, bool) {
	if !slices.Contains(Places, place) {
		return "", false
	}
	axis := func(low, high string) string {
		switch {
		case strings.Contains(place, low):
			return "start"
		case strings.Contains(place, high):
			return "end"
		}
		return "center"
	}
	return axis("top", "bottom") + " " + axis("left", "right"), true
}
