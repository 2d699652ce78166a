package css

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/text/unicode/bidi"
)

// hints collects the declarations that the presentational attributes of an element stand for (HTML, chapter 15).
type hints struct {
	e    *Element
	text strings.Builder
}

// presentationalHints turns presentational attributes into rules below all author rules.
func (d *Document) presentationalHints(e *Element) []match {
	h := &hints{e: e}
	h.direction()
	h.alignment()
	h.sizes()
	h.colors()
	if read := hintsOf[e.Tag]; read != nil {
		read(h)
	}
	if h.text.Len() == 0 {
		return nil
	}
	nodes, _ := ParseDeclarations(h.text.String())
	r := &rule{layer: &layerNode{order: -1}, order: -1}
	for _, n := range nodes {
		r.decls = append(r.decls, d.declare(&Sheet{File: d.File}, n, true))
	}
	return []match{{r, Specificity{}}}
}

// hintsOf are the elements that have attributes of their own.
var hintsOf = map[string]func(*hints){"font": (*hints).font, "hr": (*hints).rule, "ol": (*hints).list,
	"ul": (*hints).list, "li": (*hints).list, "table": (*hints).table, "td": (*hints).cell, "th": (*hints).cell,
	"thead": (*hints).rowGroup, "tbody": (*hints).rowGroup, "tfoot": (*hints).rowGroup,
	"colgroup": (*hints).colGroup, "caption": (*hints).caption, "body": (*hints).body, "br": (*hints).br}

func (h *hints) say(property, value string) { fmt.Fprintf(&h.text, "%s: %s;", property, value) }

// word gives an attribute in small letters.
func (h *hints) word(attr string) string { return strings.ToLower(strings.TrimSpace(h.e.Attr(attr))) }

func (h *hints) has(attr string) bool {
	_, ok := h.e.LookupAttr(attr)
	return ok
}

// size takes an attribute over as a length or a percentage.
func (h *hints) size(attr string, properties ...string) {
	if v, ok := dimension(h.e.Attr(attr)); ok {
		for _, p := range properties {
			h.say(p, v)
		}
	}
}

// dimension reads an old length: a number, what follows it ignored but for a percent sign (HTML, 2.3.4.4).
func dimension(v string) (string, bool) {
	v = strings.TrimLeft(v, " \t\n\f\r+")
	n := 0
	for n < len(v) {
		digit := v[n] >= '0' && v[n] <= '9'
		point := v[n] == '.' && n > 0 && !strings.Contains(v[:n], ".")
		if !digit && !point {
			break
		}
		n++
	}
	if n == 0 {
		return "", false
	}
	number := strings.TrimSuffix(v[:n], ".")
	if strings.HasPrefix(v[n:], "%") {
		return number + "%", true
	}
	return number + "px", true
}

// wholePx reads an old number of px, not negative.
func wholePx(v string) (int, bool) {
	text, ok := dimension(v)
	if !ok {
		return 0, false
	}
	n, err := strconv.ParseFloat(strings.TrimRight(text, "px%"), 64)
	return int(n), err == nil
}

// direction takes dir over. Where it is auto, the first letter that has a direction says it (HTML, 3.2.6.4).
func (h *hints) direction() {
	d := h.word("dir")
	if d == "" && h.e.Tag == "bdi" {
		d = "auto"
	}
	switch d {
	case "ltr", "rtl":
		h.say("direction", d)
	case "auto":
		if firstRight(h.e.Text()) {
			h.say("direction", "rtl")
		} else {
			h.say("direction", "ltr")
		}
	}
}

// firstRight reports a text whose first letter with a direction runs from right to left.
func firstRight(text string) bool {
	for _, r := range text {
		switch p, _ := bidi.LookupRune(r); p.Class() {
		case bidi.L:
			return false
		case bidi.R, bidi.AL:
			return true
		}
	}
	return false
}

func (h *hints) alignment() {
	a := h.word("align")
	switch h.e.Tag {
	case "p", "h1", "h2", "h3", "h4", "h5", "h6", "div":
		aligned := h.e.Tag == "div" && (a == "center" || a == "middle" || a == "left" || a == "right")
		if aligned {
			a = "-webkit-" + strings.Replace(a, "middle", "center", 1)
		}
		known := a == "left" || a == "right" || a == "justify" || strings.Contains(a, "-webkit-") || a == "center"
		if known {
			h.say("text-align", a)
		}
	case "col", "colgroup", "thead", "tbody", "tfoot", "tr", "td", "th":
		switch a {
		case "left", "right", "center":
			h.say("text-align", "-webkit-"+a)
		case "middle":
			h.say("text-align", "-webkit-center")
		case "absmiddle":
			h.say("text-align", "center")
		case "justify":
			h.say("text-align", a)
		}
		switch v := h.word("valign"); v {
		case "top", "middle", "bottom", "baseline":
			h.say("vertical-align", v)
		}
	case "img", "object", "embed", "iframe", "input":
		switch a {
		case "left", "right":
			h.say("float", a)
		case "top", "middle", "bottom":
			h.say("vertical-align", map[string]string{"top": "top", "middle": "middle", "bottom": "baseline"}[a])
		case "texttop":
			h.say("vertical-align", "text-top")
		case "absmiddle", "abscenter", "center":
			h.say("vertical-align", "middle")
		}
	}
}

func (h *hints) sizes() {
	switch e := h.e; e.Tag {
	case "canvas": // its attributes are its natural size, not styles (HTML, 15.4.3)
		if w, v := e.Attr("width"), e.Attr("height"); w != "" && v != "" && strings.Trim(w+v, "0123456789") == "" {
			h.say("aspect-ratio", "auto "+w+"/"+v)
		}
	case "img", "video", "iframe", "object", "embed":
		h.size("hspace", "margin-inline")
		h.size("vspace", "margin-block")
		h.size("width", "width")
		h.size("height", "height")
		if w, v := e.Attr("width"), e.Attr("height"); w != "" && v != "" && e.Tag != "iframe" &&
			strings.Trim(w+v, "0123456789.") == "" {
			h.say("aspect-ratio", "auto "+w+"/"+v)
		}
		if n, ok := wholePx(e.Attr("border")); ok && (e.Tag == "img" || e.Tag == "object") {
			h.say("border", fmt.Sprintf("%dpx solid", n))
		}
	case "svg":
		for _, side := range []string{"width", "height"} {
			if v := strings.TrimSpace(e.Attr(side)); v != "" {
				if strings.Trim(v, "0123456789.") == "" {
					v += "px"
				}
				h.say(side, v)
			}
		}
	case "td", "th":
		for _, side := range []string{"width", "height"} {
			if n, ok := wholePx(e.Attr(side)); ok && n > 0 {
				h.size(side, side)
			}
		}
	case "table":
		h.size("width", "width")
		h.size("height", "height")
	case "col", "colgroup":
		h.size("width", "width")
	case "tr", "thead", "tbody", "tfoot":
		h.size("height", "height")
	}
}

func (h *hints) colors() {
	h.color("bgcolor", "background-color", "body table thead tbody tfoot tr td th")
	h.color("color", "color", "font hr")
	h.color("text", "color", "body")
	h.color("bordercolor", "border-color", "table")
}

func (h *hints) color(attr, property, tags string) {
	v := strings.TrimSpace(h.e.Attr(attr))
	if v == "" || !slices.Contains(strings.Fields(tags), h.e.Tag) {
		return
	}
	if _, err := strconv.ParseUint(v, 16, 32); err == nil && len(v) == 6 { // a color without its mark
		v = "#" + v
	}
	if _, ok := ParseColor(Tokenize(v), ColorContext{}); ok {
		h.say(property, v)
	}
}

func (h *hints) font() {
	e := h.e
	if v := strings.TrimSpace(e.Attr("size")); v != "" {
		n, err := strconv.Atoi(v)
		if v[0] == '+' || v[0] == '-' {
			n += 3
		}
		if err == nil {
			h.say("font-size", [...]string{"x-small", "small", "medium", "large", "x-large", "xx-large",
				"xxx-large"}[max(1, min(n, 7))-1])
		}
	}
	if face := e.Attr("face"); face != "" {
		h.say("font-family", face)
	}
}

func (h *hints) rule() {
	h.size("width", "width")
	switch h.word("align") {
	case "left":
		h.say("margin-left", "0")
		h.say("margin-right", "auto")
	case "right":
		h.say("margin-left", "auto")
		h.say("margin-right", "0")
	case "center":
		h.say("margin-inline", "auto")
	}
	if h.has("noshade") || h.has("color") {
		h.say("border-style", "solid")
	}
	switch n, ok := wholePx(h.e.Attr("size")); {
	case ok && n > 1:
		h.say("height", fmt.Sprintf("%dpx", n-2))
	case ok:
		h.say("border-bottom-width", "0")
	}
}

func (h *hints) list() {
	kind := map[string]string{"1": "decimal", "a": "lower-alpha", "A": "upper-alpha", "i": "lower-roman",
		"I": "upper-roman"}[h.e.Attr("type")]
	switch w := h.word("type"); w {
	case "disc", "circle", "square", "none":
		kind = w
	}
	marked := kind != "" && (h.e.Tag != "ul" || len(kind) > 4 && kind != "decimal" || h.e.Attr("type") != "1")
	if marked {
		h.say("list-style-type", kind)
	}
}

func (h *hints) caption() {
	if a := h.word("align"); a == "bottom" || a == "top" {
		h.say("caption-side", a)
	}
}

func (h *hints) body() {
	h.size("marginwidth", "margin-left", "margin-right")
	h.size("leftmargin", "margin-left", "margin-right")
	h.size("rightmargin", "margin-right")
	h.size("marginheight", "margin-top", "margin-bottom")
	h.size("topmargin", "margin-top", "margin-bottom")
	h.size("bottommargin", "margin-bottom")
}

func (h *hints) br() {
	switch c := h.word("clear"); c {
	case "left", "right", "both":
		h.say("clear", c)
	case "all":
		h.say("clear", "both")
	}
}

// tableBorder gives what the border attribute of a table says, in px.
func tableBorder(t *Element) int {
	v, ok := t.LookupAttr("border")
	if !ok {
		return 0
	}
	if n, ok := wholePx(v); ok {
		return n
	}
	return 1
}

// tableRules gives a known value of the rules attribute of a table.
func tableRules(t *Element) string {
	switch w := strings.ToLower(strings.TrimSpace(t.Attr("rules"))); w {
	case "none", "groups", "rows", "cols", "all":
		return w
	}
	return ""
}

// frames says which sides of a table the frame attribute draws: top, right, bottom, left.
var frames = map[string]string{"void": "hidden hidden hidden hidden", "above": "solid hidden hidden hidden",
	"below": "hidden hidden solid hidden", "hsides": "solid hidden solid hidden",
	"vsides": "hidden solid hidden solid", "lhs": "hidden hidden hidden solid", "rhs": "hidden solid hidden hidden",
	"box": "solid solid solid solid", "border": "solid solid solid solid"}

func (h *hints) table() {
	border, rules := tableBorder(h.e), tableRules(h.e)
	if h.has("border") {
		h.say("border-width", fmt.Sprintf("%dpx", border))
	}
	if rules != "" {
		h.say("border-collapse", "collapse")
	}
	if n, ok := wholePx(h.e.Attr("cellspacing")); ok {
		h.say("border-spacing", fmt.Sprintf("%dpx", n))
	}
	frame := frames[h.word("frame")]
	switch {
	case frame != "":
		h.say("border-style", frame)
		if !h.has("border") {
			h.say("border-width", "thin")
		}
	case !h.has("border") && rules != "":
		h.say("border-style", "hidden")
	case h.has("border") && h.has("bordercolor"):
		h.say("border-style", "solid")
	case h.has("border"):
		h.say("border-style", "outset")
		h.say("border-color", "canvastext")
	}
	switch a := h.word("align"); a {
	case "center":
		h.say("margin-inline", "auto")
	case "left", "right":
		h.say("float", a)
	}
	h.size("hspace", "margin-left", "margin-right")
	h.size("vspace", "margin-top", "margin-bottom")
}

// ownTable gives the table that a part belongs to, nil when there is none.
func (h *hints) ownTable() *Element {
	for p := h.e.Parent; p != nil; p = p.Parent {
		if p.Tag == "table" {
			return p
		}
	}
	return nil
}

func (h *hints) cell() {
	if h.has("nowrap") {
		h.say("white-space", "nowrap")
	}
	t := h.ownTable()
	if t == nil {
		return
	}
	if n, ok := wholePx(t.Attr("cellpadding")); ok {
		h.say("padding", fmt.Sprintf("%dpx", n))
	}
	switch rules := tableRules(t); {
	case rules == "all":
		h.say("border", "1px solid")
	case rules == "cols":
		h.say("border-inline", "thin solid")
	case rules == "rows":
		h.say("border-block", "thin solid")
	case rules == "" && tableBorder(t) > 0 && t.Attr("bordercolor") != "":
		h.say("border", "1px solid")
	case rules == "" && tableBorder(t) > 0:
		h.say("border", "1px inset canvastext")
	}
}

func (h *hints) rowGroup() {
	if t := h.ownTable(); t != nil && tableRules(t) == "groups" {
		h.say("border-block", "thin solid")
	}
}

func (h *hints) colGroup() {
	if t := h.ownTable(); t != nil && tableRules(t) == "groups" {
		h.say("border-inline", "thin solid")
	}
}
