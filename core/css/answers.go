package css

import (
	"strconv"
	"strings"
)

// truth is the answer to a query. What nobody knows stays unknown under not, and is false in the end (Media Queries 4,
// "Evaluating Media Queries").
type truth int8

const (
	no truth = iota
	unknown
	yes
)

func truthOf(b bool) truth {
	if b {
		return yes
	}
	return no
}

// truthOfWord answers a feature whose values are words.
func truthOfWord(q *query, is bool, words ...string) truth {
	if word := strings.ToLower(Text(q.value)); q.cmp != "" && (q.cmp != "=" || !contains(words, word)) {
		return unknown
	}
	return truthOf(is)
}

func (q *query) eval(feature func(q *query) truth) truth {
	switch q.op {
	case "true":
		return yes
	case "unknown":
		return unknown
	case "not":
		return yes - q.kids[0].eval(feature)
	case "and":
		out := yes
		for _, k := range q.kids {
			out = min(out, k.eval(feature))
		}
		return out
	case "or":
		out := no
		for _, k := range q.kids {
			out = max(out, k.eval(feature))
		}
		return out
	case "feature":
		return feature(q)
	}
	return no
}

func (q *query) compare(have, em, rem, vw, zoom float64) truth {
	want, ok := q.length(em, rem, vw, zoom)
	if q.cmp == "" {
		return truthOf(have != 0)
	}
	if !ok {
		return unknown
	}
	switch q.cmp {
	case "<":
		return truthOf(have < want)
	case ">":
		return truthOf(have > want)
	case "<=":
		return truthOf(have <= want+queryTolerance)
	case ">=":
		return truthOf(have >= want-queryTolerance)
	}
	return truthOf(have-want <= queryTolerance && want-have <= queryTolerance)
}

func (q *query) compareRatio(have float64) truth {
	if q.cmp == "" {
		return truthOf(have != 0)
	}
	r, ok := parseRatio(q.value)
	if !ok {
		return unknown
	}
	return truthOf(q.cmp == ">=" && have >= r || q.cmp == "<=" && have <= r || q.cmp == "=" && have == r ||
		q.cmp == ">" && have > r || q.cmp == "<" && have < r)
}

// eval answers a media query.
func (m Media) eval(q *query) bool { return q.eval(m.feature) == yes }

// feature answers for one feature of the window, as a browser without a mouse does: hover is none, as on a phone.
func (m Media) feature(f *query) truth {
	word := strings.ToLower(Text(f.value))
	plain := f.cmp == ""
	switch f.feature {
	case "type":
		return truthOf((word == "print") == m.Print)
	case "width", "device-width": // the window is the screen
		return f.compare(float64(m.Width), m.text(), m.text(), float64(m.Width), 1)
	case "height", "device-height":
		return f.compare(float64(m.Height), m.text(), m.text(), float64(m.Width), 1)
	case "prefers-color-scheme":
		return truthOfWord(f, plain || (word == "dark") == m.Dark, "dark", "light")
	case "orientation":
		return truthOfWord(f, plain || (word == "portrait") == (m.Height >= m.Width), "portrait", "landscape")
	case "aspect-ratio", "device-aspect-ratio":
		return f.compareRatio(float64(m.Width) / float64(m.Height))
	case "color-gamut":
		return truthOfWord(f, plain || word == "srgb", "srgb", "p3", "rec2020")
	case "dynamic-range", "video-dynamic-range":
		return truthOfWord(f, plain || word == "standard", "standard", "high")
	case "monochrome", "color-index", "grid":
		return truthOf(!plain && (word == "0" && f.cmp != "<" && f.cmp != ">" || f.cmp == "<=" || f.cmp == "<"))
	case "hover", "any-hover":
		return truthOfWord(f, word == "none", "none", "hover")
	case "pointer", "any-pointer":
		return truthOfWord(f, word == "none", "none", "coarse", "fine")
	case "update":
		return truthOfWord(f, plain || word == "fast", "none", "slow", "fast")
	case "overflow-block":
		return truthOfWord(f, plain || word == "scroll", "none", "scroll", "paged")
	case "overflow-inline":
		return truthOfWord(f, plain || word == "scroll", "none", "scroll")
	case "color":
		return yes
	case "prefers-reduced-motion", "prefers-reduced-transparency":
		return truthOfWord(f, word == "no-preference", "no-preference", "reduce")
	case "prefers-contrast":
		return truthOfWord(f, word == "no-preference", "no-preference", "more", "less", "custom")
	case "forced-colors":
		return truthOfWord(f, word == "none", "none", "active")
	case "scripting":
		return truthOfWord(f, plain || word == "enabled", "none", "initial-only", "enabled")
	case "resolution", "-webkit-device-pixel-ratio":
		n, err := strconv.ParseFloat(strings.TrimRight(word, "dpixcm"), 64)
		if strings.HasSuffix(word, "dpi") {
			n /= 96
		}
		if err != nil {
			return truthOf(plain)
		}
		return truthOf(f.cmp == ">=" && 1 >= n || f.cmp == "<=" && 1 <= n || f.cmp == "=" && n == 1)
	case "display-mode":
		return truthOf(plain || word == "browser")
	}
	return unknown
}

// elsewhere are media features that browsers know and that nothing is known of here.
var elsewhere = map[string]bool{"environment-blending": true, "nav-controls": true, "device-posture": true,
	"horizontal-viewport-segments": true, "vertical-viewport-segments": true, "video-color-gamut": true}

// strange lists those of them in a query: what asks for them is never true.
func (q *query) strange() (out []string) {
	if q.op == "feature" && elsewhere[q.feature] {
		out = append(out, q.feature)
	}
	for _, k := range q.kids {
		out = append(out, k.strange()...)
	}
	return out
}

// text gives the size of text that nothing sets: what em and rem mean in media queries.
func (m Media) text() float64 {
	if m.Text == 0 {
		return 16
	}
	return m.Text
}

// evalContainer finds the container that a query asks about, innermost first, and answers it.
func (c *condition) evalContainer(stack []Container, rem float64, parent *vars) bool {
	if c.name == "" && c.query.onlyStyle() { // every element answers for its children
		return c.query.eval(func(f *query) truth { return truthOf(f.answersStyle(parent)) }) == yes
	}
	for i := len(stack) - 1; i >= 0; i-- {
		k := stack[i]
		if c.name != "" && !contains(k.Names, c.name) || !k.Sized && c.query.asksHeight() {
			continue
		}
		return c.query.eval(func(f *query) truth { return k.feature(f, rem) }) == yes
	}
	return false
}

// feature answers for one feature of a container.
func (k *Container) feature(f *query, rem float64) truth {
	switch f.feature {
	case "style":
		return truthOf(k.Style != nil && k.Style.spec != nil && f.answersStyle(k.Style.spec.vars))
	case "width", "inline-size":
		return f.compare(k.Width, k.FontSize, rem, k.Width, k.Zoom)
	}
	if !k.Sized {
		return unknown
	}
	switch f.feature {
	case "height", "block-size":
		return f.compare(k.Height, k.FontSize, rem, k.Width, k.Zoom)
	case "orientation":
		word := strings.ToLower(Text(f.value))
		return truthOfWord(f, f.cmp == "" || (word == "portrait") == (k.Height >= k.Width), "portrait", "landscape")
	case "aspect-ratio":
		if k.Height <= 0 {
			return no
		}
		return f.compareRatio(k.Width / k.Height)
	}
	return unknown
}

// answersStyle compares a custom property in force with what a style query asks.
func (q *query) answersStyle(v *vars) bool {
	have, ok := v.values[q.name]
	if q.cmp == "" {
		return ok
	}
	if q.cmp != "=" {
		return ok && q.inRange(have)
	}
	return ok && strings.TrimSpace(Text(have)) == strings.TrimSpace(Text(q.value))
}

// inRange compares two amounts of the same kind (css-conditional-5, "Style Ranges").
func (q *query) inRange(have []Token) bool {
	a, ok := parseExpr(have, exprAny)
	b, good := parseExpr(q.value, exprAny)
	if !ok || !good || a.dimension() != b.dimension() {
		return false
	}
	c := &unitContext{fontSize: 16, rootSize: 16}
	x, y := a.compute(c), b.compute(c)
	if x.Pct != 0 || y.Pct != 0 {
		x.Px, y.Px = x.Pct, y.Pct
	}
	return q.cmp == "<" && x.Px < y.Px || q.cmp == ">" && x.Px > y.Px || q.cmp == "<=" && x.Px <= y.Px ||
		q.cmp == ">=" && x.Px >= y.Px
}
