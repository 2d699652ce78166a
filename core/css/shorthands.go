package css

import (
	"strings"

	"github.com/tdewolff/parse/v2/css"
)

// longhand is one piece of an expanded shorthand. A nil value means the initial value.
type longhand struct {
	name  string
	value []Token
}

// shorthands maps a shorthand, or a logical name, to its expansion. Logical names assume horizontal left-to-right
// text; other directions are reported as unsupported.
var shorthands = map[string]func(v []Token) ([]longhand, bool){}

func word(s string) []Token { return []Token{{Kind: css.IdentToken, Text: s}} }

// split cuts at top-level white space.
func split(v []Token) [][]Token {
	var out [][]Token
	for i := 0; i < len(v); {
		if v[i].Kind == css.WhitespaceToken {
			i++
			continue
		}
		end := endOfValue(v, i)
		out = append(out, v[i:end])
		i = end
	}
	return out
}

func box(names [4]string) func(v []Token) ([]longhand, bool) {
	return func(v []Token) ([]longhand, bool) {
		p := split(v)
		if len(p) < 1 || len(p) > 4 {
			return nil, false
		}
		pick := [][4]int{{0, 0, 0, 0}, {0, 1, 0, 1}, {0, 1, 2, 1}, {0, 1, 2, 3}}[len(p)-1]
		var out []longhand
		for i, n := range names {
			out = append(out, longhand{n, p[pick[i]]})
		}
		return out, true
	}
}

func pair(a, b string) func(v []Token) ([]longhand, bool) {
	return func(v []Token) ([]longhand, bool) {
		p := split(v)
		switch len(p) {
		case 1:
			return []longhand{{a, p[0]}, {b, p[0]}}, true
		case 2:
			return []longhand{{a, p[0]}, {b, p[1]}}, true
		}
		return nil, false
	}
}

// joined sets values beside each other.
func joined(parts ...[]Token) []Token {
	var out []Token
	for i, p := range parts {
		if i > 0 {
			out = append(out, Token{Kind: css.WhitespaceToken, Text: " "})
		}
		out = append(out, p...)
	}
	return out
}

// alignPair reads one or two alignments, each of which may be of two words.
func alignPair(a, b string) func(v []Token) ([]longhand, bool) {
	return func(v []Token) ([]longhand, bool) {
		p := split(v)
		for n := 1; n <= 2 && n <= len(p); n++ {
			first, rest := joined(p[:n]...), p[n:]
			if _, ok := propertyTable[a].parse(first); !ok {
				continue
			}
			second := joined(rest...)
			if len(rest) == 0 {
				second = first
				if w := Text(first); b == "justify-content" && strings.HasSuffix(w, "baseline") {
					second = []Token{{Kind: css.IdentToken, Text: "start"}} // it has none
				}
			}
			if _, ok := propertyTable[b].parse(second); ok {
				return []longhand{{a, first}, {b, second}}, true
			}
		}
		return nil, false
	}
}

func alias(name string) func(v []Token) ([]longhand, bool) {
	return func(v []Token) ([]longhand, bool) { return []longhand{{name, v}}, true }
}

// slashed splits "a / b / c"; missing pieces are nil.
func slashed(v []Token, n int) [][]Token {
	out := make([][]Token, n)
	k, start := 0, 0
	for i, t := range v {
		if t.Text == "/" && k < n-1 {
			out[k] = trim(v[start:i])
			start = i + 1
			k++
		}
	}
	out[k] = trim(v[start:])
	return out
}

func borderSides(sides ...string) func(v []Token) ([]longhand, bool) {
	return func(v []Token) ([]longhand, bool) {
		width, style, color := word("medium"), word("none"), word("currentcolor")
		for _, p := range split(v) {
			if _, ok := borderWidth(p); ok {
				width = p
			} else if _, ok := propertyTable["border-top-style"].parse(p); ok {
				style = p
			} else {
				color = p
			}
		}
		var out []longhand
		for _, s := range sides {
			out = append(out, longhand{"border-" + s + "-width", width}, longhand{"border-" + s + "-style", style},
				longhand{"border-" + s + "-color", color})
		}
		return out, true
	}
}

func init() {
	for name, stem := range map[string]string{"margin": "margin-%", "padding": "padding-%",
		"border-width": "border-%-width", "border-style": "border-%-style",
		"border-color": "border-%-color", "inset": "%",
		"scroll-padding": "scroll-padding-%", "scroll-margin": "scroll-margin-%"} {
		var names [4]string
		for i, s := range sideNames {
			names[i] = strings.Replace(stem, "%", s, 1)
		}
		shorthands[name] = box(names)
	}
	logical := map[string]string{"inline-start": "left", "inline-end": "right", "block-start": "top",
		"block-end": "bottom"}
	for log, phys := range logical {
		shorthands["margin-"+log] = alias("margin-" + phys)
		shorthands["padding-"+log] = alias("padding-" + phys)
		shorthands["inset-"+log] = alias(phys)
		shorthands["scroll-padding-"+log] = alias("scroll-padding-" + phys)
		shorthands["scroll-margin-"+log] = alias("scroll-margin-" + phys)
		shorthands["border-"+log] = borderSides(phys)
		for _, k := range []string{"width", "style", "color"} {
			shorthands["border-"+log+"-"+k] = alias("border-" + phys + "-" + k)
		}
	}
	for _, axis := range []struct{ name, a, b string }{{"inline", "left", "right"}, {"block", "top", "bottom"}} {
		shorthands["margin-"+axis.name] = pair("margin-"+axis.a, "margin-"+axis.b)
		shorthands["padding-"+axis.name] = pair("padding-"+axis.a, "padding-"+axis.b)
		shorthands["inset-"+axis.name] = pair(axis.a, axis.b)
		shorthands["scroll-padding-"+axis.name] = pair("scroll-padding-"+axis.a, "scroll-padding-"+axis.b)
		shorthands["scroll-margin-"+axis.name] = pair("scroll-margin-"+axis.a, "scroll-margin-"+axis.b)
		shorthands["border-"+axis.name] = borderSides(axis.a, axis.b)
		for _, k := range []string{"width", "style", "color"} {
			shorthands["border-"+axis.name+"-"+k] = pair("border-"+axis.a+"-"+k, "border-"+axis.b+"-"+k)
		}
	}
	for _, p := range []string{"", "min-", "max-"} {
		shorthands[p+"inline-size"] = alias(p + "width")
		shorthands[p+"block-size"] = alias(p + "height")
	}
	for _, s := range sideNames {
		shorthands["border-"+s] = borderSides(s)
	}
	shorthands["overflow"] = pair("overflow-x", "overflow-y")
	shorthands["overflow-inline"], shorthands["overflow-block"] = alias("overflow-x"), alias("overflow-y")
	shorthands["gap"], shorthands["grid-gap"] = pair("row-gap", "column-gap"), pair("row-gap", "column-gap")
	shorthands["grid-row-gap"], shorthands["grid-column-gap"] = alias("row-gap"), alias("column-gap")
	shorthands["place-items"] = alignPair("align-items", "justify-items")
	shorthands["place-self"] = alignPair("align-self", "justify-self")
	shorthands["place-content"] = alignPair("align-content", "justify-content")
	shorthands["word-wrap"] = alias("overflow-wrap")
	shorthands["line-clamp"] = alias("-webkit-line-clamp")
	shorthands["font-width"] = alias("font-stretch")
	shorthands["flex"] = expandFlex
	shorthands["flex-flow"] = byParse("flex-direction", "flex-wrap")
	shorthands["container"] = expandContainer
	shorthands["text-wrap"] = byParse("text-wrap-mode", "text-wrap-style")
	shorthands["contain-intrinsic-inline-size"],
		shorthands["contain-intrinsic-block-size"] = alias("contain-intrinsic-width"),
		alias("contain-intrinsic-height")
	shorthands["-webkit-line-break"] = alias("line-break")
	for _, n := range []string{"flex", "flex-grow", "flex-shrink", "flex-basis", "flex-direction", "flex-wrap",
		"flex-flow", "order", "align-items", "align-self", "align-content", "justify-content",
		"box-sizing", "transform", "transform-origin", "filter", "perspective", "font-feature-settings",
		"margin-start", "margin-end", "padding-start", "padding-end"} {
		plain := strings.NewReplacer("margin-", "margin-inline-", "padding-", "padding-inline-").Replace(n)
		shorthands["-webkit-"+n] = alias(plain)
	}
	for old, now := range map[string]string{"logical-width": "inline-size", "logical-height": "block-size",
		"min-logical-width": "min-inline-size", "min-logical-height": "min-block-size",
		"max-logical-width": "max-inline-size", "max-logical-height": "max-block-size",
		"margin-before": "margin-block-start", "margin-after": "margin-block-end",
		"padding-before": "padding-block-start", "padding-after": "padding-block-end"} {
		shorthands["-webkit-"+old] = alias(now)
	}
	shorthands["contain-intrinsic-size"] = func(v []Token) ([]longhand, bool) {
		var sizes [][]Token
		for _, p := range split(v) {
			if n := len(sizes); n > 0 && ident(sizes[n-1]) == "auto" {
				sizes[n-1] = append(append([]Token(nil), sizes[n-1]...), p...)
				continue
			}
			sizes = append(sizes, p)
		}
		if len(sizes) == 0 || len(sizes) > 2 {
			return nil, false
		}
		return []longhand{{"contain-intrinsic-width", sizes[0]},
			{"contain-intrinsic-height", sizes[len(sizes)-1]}}, true
	}
	shorthands["columns"] = func(v []Token) ([]longhand, bool) {
		var count, width []Token
		for _, p := range split(v) {
			if _, ok := integer(p); ok && Text(p) != "0" {
				count = p
			} else if ident(p) != "auto" {
				width = p
			}
		}
		return []longhand{{"column-count", count}, {"column-width", width}}, len(v) > 0
	}
	for old, now := range map[string]string{"-webkit-flex": "flex",
		"-webkit-box-decoration-break": "box-decoration-break",
		"-webkit-box-sizing":           "box-sizing",
		"-webkit-transform":            "transform",
		"-webkit-align-items":          "align-items", "-webkit-justify-content": "justify-content",
		"-webkit-order": "order"} {
		if f, ok := shorthands[now]; ok {
			shorthands[old] = f
		} else {
			shorthands[old] = alias(now)
		}
	}
}

// byParse gives each piece to the first longhand that can read it; the others become initial.
func byParse(names ...string) func(v []Token) ([]longhand, bool) {
	return func(v []Token) ([]longhand, bool) {
		got := map[string][]Token{}
	next:
		for _, p := range split(v) {
			for _, n := range names {
				if _, ok := propertyTable[n].parse(p); ok && got[n] == nil {
					got[n] = p
					continue next
				}
			}
			return nil, false
		}
		var out []longhand
		for _, n := range names {
			out = append(out, longhand{n, got[n]})
		}
		return out, true
	}
}

func expandFlex(v []Token) ([]longhand, bool) {
	num := func(s string) []Token { return []Token{{Kind: css.NumberToken, Text: s}} }
	out := func(g, s, b []Token) ([]longhand, bool) {
		return []longhand{{"flex-grow", g}, {"flex-shrink", s}, {"flex-basis", b}}, true
	}
	switch ident(v) {
	case "none":
		return out(num("0"), num("0"), word("auto"))
	case "auto":
		return out(num("1"), num("1"), word("auto"))
	}
	var grow, shrink, basis []Token
	for _, p := range split(v) {
		if _, ok := number(0)(p); ok && grow == nil {
			grow = p
		} else if ok && shrink == nil {
			shrink = p
		} else if _, ok := propertyTable["flex-basis"].parse(p); ok && basis == nil {
			basis = p
		} else {
			return nil, false
		}
	}
	if grow == nil {
		grow = num("1")
	}
	if shrink == nil {
		shrink = num("1")
	}
	if basis == nil {
		basis = []Token{{Kind: css.PercentageToken, Text: "0%"}}
	}
	return out(grow, shrink, basis)
}

func expandContainer(v []Token) ([]longhand, bool) {
	p := slashed(v, 2)
	if p[1] == nil {
		p[1] = word("normal")
	}
	return []longhand{{"container-name", p[0]}, {"container-type", p[1]}}, true
}

// wideLonghands lists the longhands of a property, using samples that every shorthand can read.
func wideLonghands(name string) []longhand {
	if _, ok := shorthands[name]; !ok {
		return []longhand{{name: name}}
	}
	for _, sample := range []string{"0", "auto", "none", "normal", "1px solid", "a", "16px serif", "visible", "row",
		"none / none"} {
		if list, ok := expand(name, Tokenize(sample)); ok && len(list) > 0 {
			return list
		}
	}
	return nil
}

// expand resolves shorthands, also those that expand to shorthands.
func expand(name string, v []Token) ([]longhand, bool) {
	f, ok := shorthands[name]
	if !ok {
		return []longhand{{name, v}}, true
	}
	list, ok := f(v)
	if !ok {
		return nil, false
	}
	var out []longhand
	for _, l := range list {
		if _, again := shorthands[l.name]; again && l.value != nil {
			more, ok := expand(l.name, l.value)
			if !ok {
				return nil, false
			}
			out = append(out, more...)
			continue
		}
		out = append(out, l)
	}
	return out, true
}
