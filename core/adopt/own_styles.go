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
	"ziegel/core/theme"
)

// The styles of a section that was made of a band are those in force on its elements at each span of widths between
// two conditions of the old page. The narrow ones are the rule, the others stand under a condition on the section's own
// room. What the base stylesheet says anyway is left out; values that a token of the theme has, or nearly has, are that
// token.

var conditionWidth = regexp.MustCompile(`(?:(?:min|max)-width\s*:\s*|width\s*[<>]=?\s*)([\d.]+)(px|r?em)|([\d.]+)(px|r?em)\s*[<>]=?\s*width`)

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

// bases are the declarations that say what the base stylesheet and browsers say of a tag anyway.
func usualValue(tag, name, value string) bool {
	switch name {
	case "display":
		switch tag {
		case "li":
			return value == "list-item"
		case "img", "svg", "video":
			return value == "block" || value == "inline"
		case "a", "span", "em", "strong", "small", "b", "i", "code", "time", "cite", "s", "u", "sup", "sub", "label", "abbr", "q":
			return value == "inline"
		case "table", "tr", "td", "th", "tbody", "thead", "input", "button", "textarea", "select", "summary":
			return true
		}
		return value == "block"
	case "margin-top", "margin-right", "margin-bottom", "margin-left", "padding-top", "padding-right", "padding-bottom",
		"padding-left":
		return (value == "0" || value == "0px") || tag == "td" || tag == "input" || tag == "button" || tag == "textarea"
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
	case "border-collapse", "border-spacing", "vertical-align", "text-indent", "white-space-collapse", "text-wrap-mode":
		return tag == "table" || tag == "td" || tag == "th" || value == "baseline" || value == "0" || value == "collapse" || value == "wrap"
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
		if leftOut[name] || strings.HasPrefix(name, "-") || strings.HasPrefix(name, "animation") || value == "" ||
			strings.HasPrefix(name, "transition") || usualValue(e.Tag, name, value) || value == "initial" || value == "unset" {
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
	m.link1(e, out)
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
			isSide && (style == "" && slices.Contains([]string{"top", "right", "bottom", "left"}, side) || style == "none") &&
				!strings.HasSuffix(name, "-radius"),
			strings.HasPrefix(name, "border-image"), strings.HasPrefix(name, "outline"), initialValues[name] == v:
			delete(out, name)
		}
	}
	return out
}

// initialValues are values that a property has anyway; shorthands say them without being asked.
var initialValues = map[string]string{"list-style-image": "none", "list-style-position": "outside", "flex-wrap": "nowrap",
	"flex-direction": "row", "flex-grow": "0", "flex-shrink": "1", "flex-basis": "auto", "overflow-x": "visible",
	"overflow-y": "visible", "float": "none", "position": "static", "font-stretch": "normal", "font-variant-ligatures": "normal",
	"font-variant-caps": "normal", "font-variant-numeric": "normal", "font-variant-east-asian": "normal",
	"font-variant-alternates": "normal", "font-variant-position": "normal", "font-variant-emoji": "normal",
	"font-size-adjust": "none", "font-kerning": "auto", "font-feature-settings": "normal", "font-optical-sizing": "auto",
	"font-variation-settings": "normal", "text-decoration-thickness": "auto", "grid-auto-flow": "row",
	"grid-template-areas": "none", "grid-template-rows": "none", "grid-auto-rows": "auto", "grid-auto-columns": "auto",
	"opacity": "1", "order": "0", "z-index": "auto", "max-height": "none", "min-width": "0", "align-content": "normal",
	"justify-items": "normal", "border-collapse": "separate"}

// text reports an element that has text itself, or hands its size to what has.
func (m *maker) text(e *css.Element) bool { return strings.TrimSpace(e.Text()) != "" }

// link1 keeps links in text in the color of the text around them, as all sections have them.
func (m *maker) link1(e *css.Element, out map[string]string) {
	if e.Tag == "a" && out["background-color"] == "" {
		delete(out, "color")
	}
}

// value writes a value as a section has it; ok is false for one that it does not take.
func (m *maker) value(e *css.Element, name, value string, f *layout.Fragment) (string, bool) {
	switch {
	case strings.Contains(value, "url("):
		m.tellOnce("pictures under boxes are gone: a block's ground takes one")
		return "", false
	case name == "position" && value == "fixed":
		m.tellOnce("what was fixed to the screen stands in the section")
		return "", false
	case (name == "height" || name == "min-height") && fixed(value) && !replacedTags[e.Tag] && m.text(e):
		m.tellOnce("fixed heights of boxes with text are gone")
		return "", false
	case name == "width" && fixed(value) && !replacedTags[e.Tag]:
		return "min(100%, " + m.lengths(name, value) + ")", true
	}
	if colored(name) {
		if c, ok := css.ParseColor(css.Tokenize(value), css.ColorContext{}); ok {
			return m.color(e, name, c), true
		}
	}
	return m.lengths(name, value), true
}

var replacedTags = map[string]bool{"img": true, "svg": true, "video": true, "iframe": true, "input": true, "textarea": true,
	"canvas": true, "hr": true}

var fixedForm = regexp.MustCompile(`^[\d.]+(px|rem|em|pt)$`)

func fixed(value string) bool { return fixedForm.MatchString(value) && value != "0px" }

func colored(name string) bool { return name == "color" || strings.HasSuffix(name, "-color") }

func (m *maker) tellOnce(s string) {
	if !slices.Contains(m.told, s) {
		m.told = append(m.told, s)
	}
}

// color names the role of a color: the one that has it, or nearly, in the tone of the band; else the one that things
// of its use have, and that is told. A color by hand would stay as it is in another theme and in the dark.
func (m *maker) color(e *css.Element, name string, c css.Color) string {
	if c.A < .05 {
		return "transparent"
	}
	tone := m.band.Tone
	if tone == "" {
		tone = "plain"
	}
	best, least := "", .06
	for _, role := range theme.Roles {
		t, ok := css.ParseColor(css.Tokenize(m.env.Theme.Color(tone, role, false)), css.ColorContext{})
		if ok && fitsUse(role, name) && c.A > .95 && distance(c, t) < least {
			best, least = role, distance(c, t)
		}
	}
	if best == "" {
		best = m.roleOf(e, name, c)
		m.tellOnce(fmt.Sprintf("%s is now what the theme has for it, var(--%s)", hex(c), best))
	}
	return "var(--" + best + ")"
}

// fitsUse reports a role that a property may take: no text in the color of a ground.
func fitsUse(role, property string) bool {
	switch {
	case property == "color":
		return role == "ink" || role == "soft" || role == "accent" || role == "accent-ink"
	case property == "background-color":
		return role == "ground" || role == "surface" || role == "accent" || role == "ink"
	}
	return role == "line" || role == "accent" || role == "ink" || role == "soft"
}

// roleOf gives the role that a color has by its use.
func (m *maker) roleOf(e *css.Element, name string, c css.Color) string {
	vivid := chroma(c) > .25
	if strings.HasPrefix(name, "border") {
		vivid = chroma(c) > .45
	}
	switch {
	case name == "background-color" && vivid:
		return "accent"
	case name == "background-color":
		return "surface"
	case name == "color":
		for at := e; at != nil; at = at.Parent {
			if under, ok := m.reader.color(at, "background-color"); ok && under.A > .9 {
				if chroma(under) > .25 {
					return "accent-ink"
				}
				break
			}
		}
		if vivid {
			return "accent"
		}
		return "soft"
	case vivid:
		return "accent"
	}
	return "line"
}

var emForm = regexp.MustCompile(`(^|[^\w.-])(-?[\d.]+)em\b`)

var pxForm = regexp.MustCompile(`(^|[^\w.-])(-?[\d.]+)px\b`)

// lengths writes lengths in rem, as tokens where there is one, and shares of the screen as shares of the room.
func (m *maker) lengths(name, value string) string {
	group := ""
	switch {
	case strings.HasPrefix(name, "padding"), strings.HasPrefix(name, "margin"), strings.HasSuffix(name, "gap"):
		group = "space."
	case strings.HasSuffix(name, "radius"):
		group = "radius."
	}
	value = pxForm.ReplaceAllStringFunc(value, func(s string) string {
		parts := pxForm.FindStringSubmatch(s)
		px, err := strconv.ParseFloat(parts[2], 64)
		if err != nil || math.Abs(px) < 4 {
			return s
		}
		if token := m.tokenSize(group, px); group != "" && token != "" {
			return parts[1] + token
		}
		return parts[1] + remText(px)
	})
	return roomForm.ReplaceAllString(value, "${1}cqi")
}

var roomForm = regexp.MustCompile(`\b([\d.]+)[sld]?vw\b`)

func remText(px float64) string {
	return strconv.FormatFloat(math.Round(px/16*10000)/10000, 'f', -1, 64) + "rem"
}

var lastRem = regexp.MustCompile(`([\d.]+)rem\)?$`)

// tokenSize names the token of a group that has a length, or nearly: within a twentieth.
func (m *maker) tokenSize(group string, px float64) string {
	if group == "" {
		return ""
	}
	best, off := "", math.Max(.6, px*.05)
	for _, k := range m.env.Theme.Tokens {
		if !strings.HasPrefix(k.Name, group) {
			continue
		}
		found := lastRem.FindStringSubmatch(k.Value)
		if found == nil {
			continue
		}
		v, _ := strconv.ParseFloat(found[1], 64)
		if d := math.Abs(v*16 - px); d < off {
			best, off = k.Name, d
		}
	}
	if best == "" {
		return ""
	}
	return "var(" + theme.Property(best) + ")"
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
		if len(name) > 2 && len(name) < 24 && name[0] >= 'a' && name[0] <= 'z' && !m.env.SharedClasses()[name] && name != "root" && name != "lanes" {
			return name
		}
	}
	if name := tagNames[n.Data]; name != "" {
		return name
	}
	return "box"
}

var tagNames = map[string]string{"ul": "list", "ol": "list", "li": "entry", "img": "picture", "svg": "drawing", "a": "to",
	"p": "words", "h2": "heading", "h3": "title", "figure": "figure", "figcaption": "caption", "blockquote": "quote",
	"span": "span", "strong": "strong", "table": "table", "tr": "row", "td": "cell", "th": "head", "form": "form",
	"input": "input", "label": "label", "button": "send", "dl": "terms", "dt": "term", "dd": "said", "article": "entry",
	"aside": "aside", "small": "small", "time": "time", "details": "fold", "summary": "question"}

// written is the order in which people write declarations: where a box is, how it lays out, its size, its distances,
// its looks, its text.
var written = []string{"position", "inset", "top", "right", "bottom", "left", "z-index", "float", "clear", "display", "flex",
	"grid", "column", "align", "justify", "place", "gap", "row-gap", "order", "box-sizing", "width", "min-width", "max-width",
	"height", "min-height", "max-height", "aspect-ratio", "object", "margin", "padding", "border", "background", "box-shadow",
	"overflow", "opacity", "color", "font", "line-height", "letter-spacing", "text"}

// inOrder compares properties by that order.
func inOrder(a, b string) int {
	rank := func(name string) int {
		best, long := len(written), 0
		for i, w := range written {
			if (name == w || strings.HasPrefix(name, w+"-")) && len(w) > long {
				best, long = i, len(w)
			}
		}
		return best
	}
	return cmp.Or(cmp.Compare(rank(a), rank(b)), strings.Compare(a, b))
}

// sides are properties of which one word says all four.
var sides = []struct {
	short string
	long  [4]string
}{
	{"margin", [4]string{"margin-top", "margin-right", "margin-bottom", "margin-left"}},
	{"padding", [4]string{"padding-top", "padding-right", "padding-bottom", "padding-left"}},
	{"border-width", [4]string{"border-top-width", "border-right-width", "border-bottom-width", "border-left-width"}},
	{"border-style", [4]string{"border-top-style", "border-right-style", "border-bottom-style", "border-left-style"}},
	{"border-color", [4]string{"border-top-color", "border-right-color", "border-bottom-color", "border-left-color"}},
	{"border-radius", [4]string{"border-top-left-radius", "border-top-right-radius", "border-bottom-right-radius",
		"border-bottom-left-radius"}},
	{"inset", [4]string{"top", "right", "bottom", "left"}},
}

// declarations writes declarations, four sides as one where they are said.
func declarations(of map[string]string) string {
	list := maps.Clone(of)
	for _, s := range sides {
		var v [4]string
		all := true
		for i, name := range s.long {
			v[i] = list[name]
			all = all && v[i] != ""
		}
		if !all {
			continue
		}
		for _, name := range s.long {
			delete(list, name)
		}
		switch {
		case v[0] == v[1] && v[1] == v[2] && v[2] == v[3]:
			list[s.short] = v[0]
		case v[0] == v[2] && v[1] == v[3]:
			list[s.short] = v[0] + " " + v[1]
		default:
			list[s.short] = strings.Join(v[:], " ")
		}
	}
	if list["border-width"] != "" && list["border-style"] != "" && !strings.Contains(list["border-width"]+list["border-style"], " ") {
		list["border"] = strings.TrimSpace(list["border-width"] + " " + list["border-style"] + " " + list["border-color"])
		delete(list, "border-width")
		delete(list, "border-style")
		delete(list, "border-color")
	}
	if list["row-gap"] != "" && list["row-gap"] == list["column-gap"] {
		list["gap"] = list["row-gap"]
		delete(list, "row-gap")
		delete(list, "column-gap")
	}
	var out []string
	for _, k := range slices.SortedFunc(maps.Keys(list), inOrder) {
		out = append(out, k+": "+list[k]+";")
	}
	return strings.Join(out, " ")
}
