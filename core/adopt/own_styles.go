package adopt

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/markup"
	"ziegel/core/media"
)

// The styles of a section that was made of a band are those in force on its elements at each span of widths between
// two conditions of the old page. The narrow ones are the rule, the others stand under a condition on the section's own
// room. What the base stylesheet says anyway is left out; values that a token of the theme has, or nearly has, are that
// token.

var conditionWidth = regexp.MustCompile(
	`(?:(?:min|max)-width\s*:\s*|width\s*[<>]=?\s*)([\d.]+)(px|r?em)|([\d.]+)(px|r?em)\s*[<>]=?\s*width`,
)

// widthsOf gives the widths at which conditions of a page change, CSS px: from there on something else is in force.
func widthsOf(doc *css.Document) []edge {
	seen := map[edge]bool{}
	for _, s := range doc.Sheets {
		for _, m := range conditionWidth.FindAllStringSubmatch(s.Source, -1) {
			number, unit := m[1]+m[3], m[2]+m[4]
			v, err := strconv.ParseFloat(number, 64)
			if err != nil {
				continue
			}
			if unit != "px" {
				v *= 16
			}
			compact := strings.ReplaceAll(m[0], " ", "")
			at := edge{px: v, above: strings.HasPrefix(m[0], "max-") || strings.HasPrefix(compact, "width<=") ||
				strings.HasPrefix(compact, "width>") && !strings.HasPrefix(compact, "width>=")}
			if v >= 320 && v <= 2000 {
				seen[at] = true
			}
		}
	}
	list := slices.SortedFunc(maps.Keys(seen), func(a, b edge) int { return cmp.Compare(a.least(), b.least()) })
	if len(list) > 6 {
		list = list[len(list)-6:]
	}
	return list
}

// edge is a width from which on something else is in force.
type edge struct {
	px    float64 // CSS px
	above bool    // only above it, not at it
}

// least gives the first whole width on which it is.
func (e edge) least() int {
	if e.above {
		return int(math.Floor(e.px)) + 1
	}
	return int(math.Ceil(e.px))
}

// query writes the edge as a condition.
func (e edge) query() string {
	if e.above {
		return "(width > " + remText(e.px) + ")"
	}
	return "(width >= " + remText(e.px) + ")"
}

// leftOut are properties that no section of a site's own keeps: the theme's faces, movement that only a script starts.
var leftOut = map[string]bool{"font-family": true, "cursor": true, "zoom": true, "quotes": true, "speak": true,
	"text-rendering": true, "tab-size": true, "unicode-bidi": true, "direction": true, "overflow-anchor": true,
	"box-sizing": true, "content-visibility": true, "user-select": true, "pointer-events": true, "appearance": true}

// usualValue reports a declaration that says what the base stylesheet and browsers say of a tag anyway.
func usualValue(tag, name, value string) bool {
	switch name {
	case "display":
		switch tag {
		case "li":
			return value == "list-item"
		case "img", "svg", "video":
			return value == "block" || value == "inline"
		case "a",
			"span",
			"em",
			"strong",
			"small",
			"b",
			"i",
			"code",
			"time",
			"cite",
			"s",
			"u",
			"sup",
			"sub",
			"label",
			"abbr",
			"q":
			return value == "inline"
		case "table", "tr", "td", "th", "tbody", "thead", "input", "button", "textarea", "select", "summary":
			return true
		}
		return value == "block"
	case "margin-top",
		"margin-right",
		"margin-bottom",
		"margin-left",
		"padding-top",
		"padding-right",
		"padding-bottom",
		"padding-left":
		return (value == "0" || value == "0px") || tag == "td" || tag == "input" || tag == "button" ||
			tag == "textarea"
	case "max-width":
		return tag == "img" && value == "100%" || value == "none"
	case "height":
		return value == "auto"
	case "list-style-type":
		return tag != "ul" && tag != "ol" && tag != "li" || value == "none"
	case "font-style":
		return tag == "em" || tag == "i" || tag == "cite" || value == "normal"
	case "font-weight":
		return tag == "strong" || tag == "b" || tag == "th"
	case "text-decoration-line", "text-decoration", "text-decoration-style", "text-decoration-color":
		return tag == "a" && value != "none" || value == "currentcolor" || value == "solid"
	case "color":
		return value == "-webkit-link" || value == "linktext" || value == "inherit"
	case "border-collapse",
		"border-spacing",
		"vertical-align",
		"text-indent",
		"white-space-collapse",
		"text-wrap-mode":
		return tag == "table" || tag == "td" || tag == "th" || value == "baseline" || value == "0" ||
			value == "collapse" ||
			value == "wrap"
	}
	return false
}

// rule is what is in force on an element: declarations by span of widths, the narrowest first.
type ownRule []map[string]string

// styles writes the stylesheet of a section, and gives the elements their classes.
func (m *maker) styles(root *html.Node) string {
	edges := widthsOf(m.page.laid.Doc)
	var results []*layout.Result
	for i := range len(edges) + 1 {
		width := 360
		if i > 0 {
			width = edges[i-1].least()
			if i == len(edges) {
				width = max(width, Width)
			}
		}
		results = append(results, m.page.laid.Engine().Layout(width))
	}
	var order []string // of classes
	rules, known := map[string]ownRule{}, map[string]string{}
	markup.Each(root, func(n *html.Node) {
		e := m.of[n]
		if e == nil {
			return
		}
		top := n.Parent == root
		rule := make(ownRule, len(results))
		for i, r := range results {
			rule[i] = m.declared(e, r, top)
		}
		called := m.nameFor(n, e)
		sign := called + fmt.Sprint(rule)
		class := known[sign]
		if class == "" {
			class = called
			for i := 2; rules[class] != nil; i++ {
				class = called + "-" + strconv.Itoa(i)
			}
			if !rule.says() {
				return
			}
			known[sign], rules[class] = class, rule
			order = append(order, class)
		}
		markup.AddClass(n, class)
	})
	var b strings.Builder
	for _, class := range order {
		if text := declarations(rules[class][0]); text != "" {
			fmt.Fprintf(&b, ".%s { %s }\n", class, text)
		}
	}
	for i, edge := range edges {
		var in strings.Builder
		for _, class := range order {
			if text := declarations(changes(rules[class][i], rules[class][i+1])); text != "" {
				fmt.Fprintf(&in, "  .%s { %s }\n", class, text)
			}
		}
		if in.Len() > 0 {
			fmt.Fprintf(&b, "\n@container %s {\n%s}\n", edge.query(), in.String())
		}
	}
	return b.String()
}

func (r ownRule) says() bool {
	for _, m := range r {
		if len(m) > 0 {
			return true
		}
	}
	return false
}

// changes gives what is different in a wider span.
func changes(narrow, wide map[string]string) map[string]string {
	out := map[string]string{}
	for k, v := range wide {
		if narrow[k] != v {
			out[k] = v
		}
	}
	for k := range narrow {
		if _, ok := wide[k]; !ok {
			out[k] = cmp.Or(initialValues[k], "initial")
		}
	}
	return out
}

// handed are the properties that an element takes from those around it (CSS Cascade, inherited properties).
var handed = []string{"color", "text-align", "font-size", "font-weight", "font-style", "line-height", "letter-spacing",
	"text-transform"}

// declared lists what is in force on an element at one width and is not said anyway.
func (m *maker) declared(e *css.Element, r *layout.Result, top bool) map[string]string {
	out := map[string]string{}
	f := r.Of(e)
	if f == nil || f.Style == nil {
		if m.page.result.Of(e) != nil {
			out["display"] = "none"
		}
		return out
	}
	values := inForce(f.Style.Look())
	if top {
		for at := e.Parent; at != nil && at.Tag != "body" && at.Tag != "html"; at = at.Parent {
			g := r.Of(at)
			if g == nil || g.Style == nil {
				continue
			}
			around := inForce(g.Style.Look())
			for _, name := range handed {
				if _, ok := values[name]; !ok && around[name] != "" {
					values[name] = around[name]
				}
			}
		}
	}
	sized := false
	for name, value := range values {
		value = strings.TrimSpace(value)
		moves := strings.HasPrefix(name, "animation") || strings.HasPrefix(name, "transition")
		nothing := value == "" || value == "initial" || value == "unset" || usualValue(e.Tag, name, value)
		if moves || nothing || leftOut[name] || strings.HasPrefix(name, "-") {
			continue
		}
		if name == "font-size" { // em of the old page is no em of the new one
			value = fmt.Sprintf("%gpx", math.Round(f.Style.FontSize*100)/100)
			if at := m.tokenSize("type.", f.Style.FontSize); at != "" {
				value = at
			}
		}
		value = emForm.ReplaceAllStringFunc(value, func(s string) string { // of the size that the old page sets
			parts := emForm.FindStringSubmatch(s)
			v, err := strconv.ParseFloat(parts[2], 64)
			if err != nil || strings.HasPrefix(name, "letter") {
				return s
			}
			return fmt.Sprintf("%s%gpx", parts[1], math.Round(v*f.Style.FontSize*100)/100)
		})
		if v, ok := m.value(e, name, value, f); ok {
			out[name] = v
			sized = sized || name == "width" || name == "max-width" || name == "min-width"
		}
	}
	if (e.Tag == "ul" || e.Tag == "ol") && f.Style.ListStyleType != "none" && out["list-style-type"] == "" {
		out["list-style-type"] = f.Style.ListStyleType
	}
	if _, same := out["font-size"]; same && !m.text(e) {
		delete(out, "font-size")
	}
	if sized && !f.Style.BorderBox && (f.Content.W != f.W) {
		out["box-sizing"] = "content-box"
	}
	m.quietLinks(e, out)
	return out
}

// inForce lists what is declared on an element.
func inForce(look css.Look) map[string]string {
	out := map[string]string{}
	for _, name := range look.Longhands("all") {
		if v := look.InForce(name); v != "" {
			out[name] = v
		}
	}
	image := out["background-image"] != "" && out["background-image"] != "none"
	for name, v := range out {
		side, isSide := strings.CutPrefix(name, "border-")
		side, _, _ = strings.Cut(side, "-")
		style := out["border-"+side+"-style"]
		switch {
		case strings.HasPrefix(name, "background-") && name != "background-color" && !image,
			isSide && (style == "" && slices.Contains([]string{"top", "right", "bottom", "left"}, side) ||
				style == "none") &&
				!strings.HasSuffix(name, "-radius"),
			strings.HasPrefix(name, "border-image"), strings.HasPrefix(name, "outline"), initialValues[name] == v:
			delete(out, name)
		}
	}
	return out
}

// initialValues are values that a property has anyway; shorthands say them without being asked.
var initialValues = map[string]string{
	"list-style-image":          "none",
	"list-style-position":       "outside",
	"flex-wrap":                 "nowrap",
	"flex-direction":            "row",
	"flex-grow":                 "0",
	"flex-shrink":               "1",
	"flex-basis":                "auto",
	"overflow-x":                "visible",
	"overflow-y":                "visible",
	"float":                     "none",
	"position":                  "static",
	"font-stretch":              "normal",
	"font-variant-ligatures":    "normal",
	"font-variant-caps":         "normal",
	"font-variant-numeric":      "normal",
	"font-variant-east-asian":   "normal",
	"font-variant-alternates":   "normal",
	"font-variant-position":     "normal",
	"font-variant-emoji":        "normal",
	"font-size-adjust":          "none",
	"font-kerning":              "auto",
	"font-feature-settings":     "normal",
	"font-optical-sizing":       "auto",
	"font-variation-settings":   "normal",
	"text-decoration-thickness": "auto",
	"grid-auto-flow":            "row",
	"grid-template-areas":       "none",
	"grid-template-rows":        "none",
	"grid-auto-rows":            "auto",
	"grid-auto-columns":         "auto",
	"opacity":                   "1",
	"order":                     "0",
	"z-index":                   "auto",
	"max-height":                "none",
	"min-width":                 "0",
	"align-content":             "normal",
	"justify-items":             "normal",
	"border-collapse":           "separate",
}

// quietLinks keeps links in text in the color of the text around them, as all sections have them.
func (m *maker) quietLinks(e *css.Element, out map[string]string) {
	if e.Tag == "a" && out["background-color"] == "" {
		delete(out, "color")
	}
}

// nameFor names the class of an element: by its field, by the word that its author gave it, by what it is.
func (m *maker) nameFor(n *html.Node, e *css.Element) string {
	if name := m.called[n]; name != "" {
		return name
	}
	for _, key := range []string{"data-part", "data-field"} {
		if v := markup.Value(n, key); v != "" && v != "." {
			return v
		}
	}
	for _, c := range e.Classes {
		parts := strings.FieldsFunc(c, func(r rune) bool { return r == '_' || r == '-' })
		if len(parts) == 0 {
			continue
		}
		name := media.Slug(parts[len(parts)-1])
		word := len(name) > 2 && len(name) < 24 && name[0] >= 'a' && name[0] <= 'z'
		taken := name == "root" || name == "lanes" || m.env.SharedClasses()[name]
		if word && !taken {
			return name
		}
	}
	if name := tagNames[n.Data]; name != "" {
		return name
	}
	return "box"
}

var tagNames = map[string]string{
	"ul":         "list",
	"ol":         "list",
	"li":         "entry",
	"img":        "picture",
	"svg":        "drawing",
	"a":          "to",
	"p":          "words",
	"h2":         "heading",
	"h3":         "title",
	"figure":     "figure",
	"figcaption": "caption",
	"blockquote": "quote",
	"span":       "span",
	"strong":     "strong",
	"table":      "table",
	"tr":         "row",
	"td":         "cell",
	"th":         "head",
	"form":       "form",
	"input":      "input",
	"label":      "label",
	"button":     "send",
	"dl":         "terms",
	"dt":         "term",
	"dd":         "said",
	"article":    "entry",
	"aside":      "aside",
	"small":      "small",
	"time":       "time",
	"details":    "fold",
	"summary":    "question",
}
