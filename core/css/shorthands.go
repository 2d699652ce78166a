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
	shorthands["white-space"] = expandWhiteSpace
	shorthands["text-box"] = expandTextBox
	shorthands["text-wrap"] = byParse("text-wrap-mode", "text-wrap-style")
	shorthands["list-style"] = expandListStyle
	shorthands["contain-intrinsic-inline-size"],
		shorthands["contain-intrinsic-block-size"] = alias("contain-intrinsic-width"),
		alias("contain-intrinsic-height")
	shorthands["-webkit-line-break"] = alias("line-break")
	shorthands["font-variant"] = expandFontVariant
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
	shorthands["font"] = expandFont
	shorthands["grid-column"], shorthands["grid-row"] = expandLines("grid-column"), expandLines("grid-row")
	shorthands["grid-area"] = expandArea
	shorthands["grid-template"] = expandTemplate
	shorthands["grid"] = expandGrid
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

// expandTextBox takes text-box apart: normal, or where to trim and which edges to trim to; edges alone trim both sides
// (css-inline-3, section 6.3).
func expandTextBox(v []Token) ([]longhand, bool) {
	var trim, edges []Token
	for _, p := range split(v) {
		if _, ok := propertyTable["text-box-trim"].parse(p); ok && trim == nil {
			trim = p
		} else {
			if edges != nil {
				edges = append(edges, Token{Kind: css.WhitespaceToken, Text: " "})
			}
			edges = append(edges, p...)
		}
	}
	if ident(v) == "normal" {
		return []longhand{{"text-box-trim", nil}, {"text-box-edge", nil}}, true
	}
	if edges != nil {
		if _, ok := propertyTable["text-box-edge"].parse(edges); !ok {
			return nil, false
		}
		if trim == nil {
			trim = []Token{{Kind: css.IdentToken, Text: "trim-both"}}
		}
	}
	return []longhand{{"text-box-trim", trim}, {"text-box-edge", edges}}, true
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

func expandWhiteSpace(v []Token) ([]longhand, bool) {
	w, ok := map[string][2]string{"normal": {"collapse", "wrap"}, "nowrap": {"collapse", "nowrap"},
		"pre": {"preserve", "nowrap"}, "pre-wrap": {"preserve", "wrap"},
		"pre-line": {"preserve-breaks", "wrap"}, "break-spaces": {"break-spaces", "wrap"}}[ident(v)]
	if !ok {
		return byParse("white-space-collapse", "text-wrap-mode")(v)
	}
	return []longhand{{"white-space-collapse", word(w[0])}, {"text-wrap-mode", word(w[1])}}, true
}

// expandFontVariant sorts the words of font-variant into its longhands.
func expandFontVariant(v []Token) ([]longhand, bool) {
	groups := map[string][]string{}
	for _, p := range split(v) {
		w := strings.ToLower(Text(p))
		name := "font-variant-alternates"
		switch w {
		case "normal":
			continue
		case "none":
			name = "font-variant-ligatures"
		case "small-caps", "all-small-caps", "petite-caps", "all-petite-caps", "unicase", "titling-caps":
			name = "font-variant-caps"
		case "sub", "super":
			name = "font-variant-position"
		case "text", "emoji", "unicode":
			name = "font-variant-emoji"
		case "ruby", "jis78", "jis83", "jis90", "jis04", "simplified", "traditional", "full-width",
			"proportional-width":
			name = "font-variant-east-asian"
		}
		if strings.Contains(w, "ligatures") || strings.Contains(w, "contextual") {
			name = "font-variant-ligatures"
		}
		if strings.HasSuffix(w, "-nums") || strings.HasSuffix(w, "fractions") || w == "ordinal" ||
			w == "slashed-zero" {
			name = "font-variant-numeric"
		}
		groups[name] = append(groups[name], w)
	}
	var out []longhand
	for _, n := range []string{"caps", "numeric", "ligatures", "position", "emoji", "east-asian", "alternates"} {
		name := "font-variant-" + n
		value := word("normal")
		if g := groups[name]; len(g) > 0 {
			value = Tokenize(strings.Join(g, " "))
		}
		out = append(out, longhand{name, value})
	}
	return out, len(v) > 0
}

func expandListStyle(v []Token) ([]longhand, bool) {
	kind, place, image, typed := word("disc"), word("outside"), word("none"), false
	for _, p := range split(v) {
		switch w := ident(p); {
		case w == "inside" || w == "outside":
			place = p
		case w == "" && p[0].Kind != css.StringToken:
			image = p
		case w == "none" && typed: // of the picture
		case w == "none":
			kind = p
		default:
			kind, typed = p, true
		}
	}
	return []longhand{{"list-style-type", kind}, {"list-style-position", place}, {"list-style-image", image}}, true
}

// fontResets are what the font shorthand puts back (css-fonts-4, "Shorthand font property").
var fontResets = strings.Fields(`font-variant-caps font-variant-numeric font-variant-ligatures
	font-variant-position font-variant-emoji font-variant-east-asian font-variant-alternates font-kerning
	font-feature-settings font-variation-settings font-optical-sizing font-size-adjust font-language-override`)

func expandFont(v []Token) ([]longhand, bool) {
	pieces := split(v)
	out := map[string][]Token{}
	i := 0
	for ; i < len(pieces); i++ {
		p := pieces[i]
		if ident(p) == "normal" {
			continue
		}
		if ident(p) == "small-caps" {
			out["font-variant-caps"] = p
			continue
		}
		found := false
		for _, n := range []string{"font-style", "font-weight", "font-stretch"} {
			if _, ok := propertyTable[n].parse(p); ok && (n != "font-stretch" || p[0].Kind == css.IdentToken) {
				out[n], found = p, true
				break
			}
		}
		if !found {
			break
		}
	}
	if i >= len(pieces)-1 {
		return nil, false
	}
	out["font-size"] = pieces[i]
	i++
	if i+1 < len(pieces) && pieces[i][0].Text == "/" {
		out["line-height"] = pieces[i+1]
		i += 2
	}
	var family []Token
	for _, p := range pieces[i:] {
		family = append(append(family, p...), Token{Kind: css.WhitespaceToken, Text: " "})
	}
	out["font-family"] = trim(family)
	var list []longhand
	for _, n := range append([]string{"font-style", "font-weight", "font-stretch", "font-size", "line-height",
		"font-family"}, fontResets...) {
		list = append(list, longhand{n, out[n]})
	}
	return list, len(out["font-family"]) > 0
}

func expandLines(axis string) func(v []Token) ([]longhand, bool) {
	return func(v []Token) ([]longhand, bool) {
		p := slashed(v, 2)
		if p[1] == nil {
			p[1] = sameIfName(p[0])
		}
		return []longhand{{axis + "-start", p[0]}, {axis + "-end", p[1]}}, len(p[0]) > 0
	}
}

// sameIfName is the value of an omitted end line: the same name for a name, else auto.
func sameIfName(v []Token) []Token {
	if w := ident(v); w != "" && w != "auto" {
		return v
	}
	return word("auto")
}

func expandArea(v []Token) ([]longhand, bool) {
	p := slashed(v, 4)
	if p[1] == nil {
		p[1] = sameIfName(p[0])
	}
	if p[2] == nil {
		p[2] = sameIfName(p[0])
	}
	if p[3] == nil {
		p[3] = sameIfName(p[1])
	}
	return []longhand{{"grid-row-start", p[0]}, {"grid-column-start", p[1]}, {"grid-row-end", p[2]},
		{"grid-column-end", p[3]}}, len(p[0]) > 0
}

func expandTemplate(v []Token) ([]longhand, bool) {
	p := slashed(v, 2)
	hasArea := false
	for _, t := range p[0] {
		hasArea = hasArea || t.Kind == css.StringToken
	}
	cols := p[1]
	if cols == nil {
		cols = word("none")
	}
	if !hasArea {
		if p[1] == nil {
			return []longhand{{"grid-template-rows", word("none")}, {"grid-template-columns", word("none")},
				{"grid-template-areas", word("none")}}, ident(v) == "none"
		}
		return []longhand{{"grid-template-rows", p[0]}, {"grid-template-columns", cols},
			{"grid-template-areas", word("none")}}, true
	}
	var areas, rows []Token
	space := Token{Kind: css.WhitespaceToken, Text: " "}
	pieces := split(p[0])
	for i, x := range pieces {
		if x[0].Kind != css.StringToken {
			rows = append(append(rows, x...), space)
			continue
		}
		areas = append(areas, x[0], space)
		if i+1 == len(pieces) || pieces[i+1][0].Kind == css.StringToken ||
			pieces[i+1][0].Kind == css.LeftBracketToken {
			rows = append(rows, Token{Kind: css.IdentToken, Text: "auto"}, space)
		}
	}
	return []longhand{{"grid-template-rows", trim(rows)}, {"grid-template-columns", cols},
		{"grid-template-areas", trim(areas)}}, true
}

func expandGrid(v []Token) ([]longhand, bool) {
	p := slashed(v, 2)
	flow := func(side []Token, name string) ([]longhand, bool) {
		dir, size := name, []Token(nil)
		for _, x := range split(side) {
			switch ident(x) {
			case "auto-flow":
			case "dense":
				dir += " dense"
			default:
				size = append(size, x...)
			}
		}
		auto, tmpl, other := "grid-auto-rows", "grid-template-columns", p[1]
		if name == "column" {
			auto, tmpl, other = "grid-auto-columns", "grid-template-rows", p[0]
		}
		set := map[string][]Token{"grid-auto-flow": {{Kind: css.IdentToken, Text: dir}}, auto: size, tmpl: other}
		var out []longhand
		for _, n := range append(gridAuto, "grid-template-rows", "grid-template-columns", "grid-template-areas") {
			out = append(out, longhand{n, set[n]})
		}
		return out, true
	}
	for i, side := range p {
		for _, x := range split(side) {
			if ident(x) == "auto-flow" {
				return flow(side, [2]string{"row", "column"}[i])
			}
		}
	}
	out, ok := expandTemplate(v)
	for _, n := range gridAuto { // reset
		out = append(out, longhand{n, nil})
	}
	return out, ok
}

var gridAuto = []string{"grid-auto-flow", "grid-auto-rows", "grid-auto-columns"}

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
