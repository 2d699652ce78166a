package css

import (
	"strings"

	"github.com/tdewolff/parse/v2/css"
)

// Media is what media queries ask about.
type Media struct {
	Width  int     // viewport width, CSS px
	Height int     // viewport height, CSS px
	Dark   bool    // prefers-color-scheme: dark
	Text   float64 // size of text that nothing sets, CSS px; 0 means 16
	Print  bool
	// Zoom is how many device pixels a CSS px takes when lengths are computed in those, as browsers do; 0 means 1.
	// Width, Height and Text stay CSS px.
	Zoom float64
}

// zoom gives the factor of lengths.
func (m Media) zoom() float64 {
	if m.Zoom > 0 {
		return m.Zoom
	}
	return 1
}

// Container is a size container that an element stands in.
type Container struct {
	Names    []string
	Width    float64 // content-box inline size, CSS px
	FontSize float64 // px, for em in its queries
	Height   float64 // content-box block size, CSS px, of a size container
	Sized    bool    // container-type: size
	Style    *Style  // of the container, for queries of its custom properties
	Zoom     float64 // what a px of its queries is, 0 for 1
}

// queryTolerance is added to inclusive comparisons: browsers let a width meet min-width when it is 1/64 px short.
const queryTolerance = 1.0 / 64

func parseMediaList(v []Token) *query {
	out := &query{op: "or"}
	for _, part := range SplitCommas(v) {
		out.kids = append(out.kids, parseMedia(part))
	}
	if len(out.kids) == 1 {
		return out.kids[0]
	}
	return out
}

func parseMedia(v []Token) *query {
	v = trim(v)
	if len(v) == 0 {
		return &query{op: "true"}
	}
	if v[0].Kind != css.IdentToken || (v[0].Is("not") && len(v) > 2 && v[2].Kind == css.LeftParenthesisToken) {
		p := &queryParser{v: v}
		return p.condition()
	}
	negate := false
	if v[0].Is("not") || v[0].Is("only") {
		negate = v[0].Is("not")
		v = trim(v[1:])
	}
	out := &query{op: "and", kids: []*query{mediaType(v[0].Text)}}
	rest := trim(v[1:])
	if len(rest) > 0 && rest[0].Is("and") {
		p := &queryParser{v: trim(rest[1:])}
		out.kids = append(out.kids, p.condition())
	}
	if negate {
		return &query{op: "not", kids: []*query{out}}
	}
	return out
}

func mediaType(name string) *query {
	switch strings.ToLower(name) {
	case "all":
		return &query{op: "true"}
	case "screen", "print":
		return &query{op: "feature", feature: "type", value: []Token{{Text: strings.ToLower(name)}}}
	}
	return &query{op: "false"}
}

type queryParser struct {
	v []Token
	i int
}

func (p *queryParser) space() {
	for p.i < len(p.v) && p.v[p.i].Kind == css.WhitespaceToken {
		p.i++
	}
}

func (p *queryParser) condition() *query {
	p.space()
	if p.i < len(p.v) && p.v[p.i].Is("not") {
		p.i++
		p.space()
		return &query{op: "not", kids: []*query{p.inParens()}}
	}
	out := &query{op: "and", kids: []*query{p.inParens()}}
	for {
		p.space()
		if p.i >= len(p.v) || !(p.v[p.i].Is("and") || p.v[p.i].Is("or")) {
			break
		}
		out.op = strings.ToLower(p.v[p.i].Text)
		p.i++
		p.space()
		out.kids = append(out.kids, p.inParens())
	}
	if p.i < len(p.v) {
		return &query{op: "false"}
	}
	if len(out.kids) == 1 {
		return out.kids[0]
	}
	return out
}

// inParens reads "( ... )": a nested condition or a feature. Of functions only style() with one custom property is
// known; what others ask is unknown.
func (p *queryParser) inParens() *query {
	if p.i >= len(p.v) {
		return &query{op: "unknown"}
	}
	open := p.v[p.i]
	if open.Kind != css.LeftParenthesisToken && open.Kind != css.FunctionToken {
		p.i++
		return &query{op: "unknown"}
	}
	depth, start := 0, p.i+1
	for ; p.i < len(p.v); p.i++ {
		switch p.v[p.i].Kind {
		case css.LeftParenthesisToken, css.FunctionToken:
			depth++
		case css.RightParenthesisToken:
			depth--
		}
		if depth == 0 {
			break
		}
	}
	in := trim(p.v[start:min(p.i, len(p.v))])
	p.i++
	if open.Is("style(") {
		return parseStyleFeature(in)
	}
	if open.Kind == css.FunctionToken || len(in) == 0 {
		return &query{op: "unknown"}
	}
	if in[0].Kind == css.LeftParenthesisToken || in[0].Is("not") {
		q := &queryParser{v: in}
		return q.condition()
	}
	return parseFeature(in)
}

// parseStyleFeature reads what stands in style(): "--fold: yes", or "--fold" alone (CSS Conditional 5, style
// queries).
func parseStyleFeature(in []Token) *query {
	if len(in) == 0 || !strings.HasPrefix(in[0].Text, "--") {
		return &query{op: "unknown"}
	}
	q := &query{op: "feature", feature: "style", name: in[0].Text}
	rest := trim(in[1:])
	switch {
	case len(rest) == 0:
		return q
	case rest[0].Kind == css.ColonToken:
		q.cmp, q.value = "=", trim(rest[1:])
		return q
	case strings.Contains("<>=", rest[0].Text) && len(rest) > 1:
		q.cmp, rest = rest[0].Text, rest[1:]
		if rest[0].Text == "=" {
			q.cmp, rest = q.cmp+"=", rest[1:]
		}
		q.value = trim(rest)
		return q
	}
	if i := strings.IndexByte(q.name, ':'); i > 0 {
		q.cmp, q.value, q.name = "=", in[1:], q.name[:i]
		return q
	}
	return &query{op: "unknown"}
}

// onlyStyle reports a query that asks for nothing but custom properties.
func (q *query) onlyStyle() bool {
	if q.op == "feature" {
		return q.feature == "style"
	}
	for _, k := range q.kids {
		if !k.onlyStyle() {
			return false
		}
	}
	return len(q.kids) > 0
}

var flipped = map[string]string{"<": ">", "<=": ">=", ">": "<", ">=": "<=", "=": "="}

// parseFeature reads "min-width: 40rem", "width < 40rem", "20rem <= width < 40rem" or "hover".
func parseFeature(v []Token) *query {
	if v[0].Kind == css.IdentToken {
		rest := trim(v[1:])
		name := strings.ToLower(v[0].Text)
		if len(rest) == 0 {
			return &query{op: "feature", feature: name}
		}
		if rest[0].Kind == css.ColonToken {
			value := trim(rest[1:])
			switch {
			case strings.HasPrefix(name, "-webkit-min-"):
				return &query{op: "feature", feature: "-webkit-" + name[12:], cmp: ">=", value: value}
			case strings.HasPrefix(name, "-webkit-max-"):
				return &query{op: "feature", feature: "-webkit-" + name[12:], cmp: "<=", value: value}
			case strings.HasPrefix(name, "min-"):
				return &query{op: "feature", feature: name[4:], cmp: ">=", value: value}
			case strings.HasPrefix(name, "max-"):
				return &query{op: "feature", feature: name[4:], cmp: "<=", value: value}
			}
			return &query{op: "feature", feature: name, cmp: "=", value: value}
		}
	}
	var parts [][]Token
	var ops []string
	start := 0
	for i := 0; i < len(v); i++ {
		t := v[i].Text
		if t != "<" && t != ">" && t != "=" {
			continue
		}
		parts = append(parts, trim(v[start:i]))
		if i+1 < len(v) && v[i+1].Text == "=" && t != "=" {
			t += "="
			i++
		}
		ops = append(ops, t)
		start = i + 1
	}
	parts = append(parts, trim(v[start:]))
	feature := func(name []Token, op string, value []Token) *query {
		return &query{op: "feature", feature: strings.ToLower(Text(name)), cmp: op, value: value}
	}
	switch {
	case len(parts) == 2 && len(parts[0]) == 1 && parts[0][0].Kind == css.IdentToken:
		return feature(parts[0], ops[0], parts[1])
	case len(parts) == 2:
		return feature(parts[1], flipped[ops[0]], parts[0])
	case len(parts) == 3:
		return &query{op: "and", kids: []*query{feature(parts[1], flipped[ops[0]], parts[0]),
			feature(parts[1], ops[1], parts[2])}}
	}
	return &query{op: "unknown"}
}

// asksHeight reports a container query that only size containers can answer.
func (q *query) asksHeight() bool {
	switch q.feature {
	case "height", "block-size", "orientation", "aspect-ratio":
		return true
	}
	for _, k := range q.kids {
		if k.asksHeight() {
			return true
		}
	}
	return false
}

// length evaluates the length in a query. em and rem are sizes in px, zoom is what a px is.
func (q *query) length(em, rem, vw, zoom float64) (float64, bool) {
	if q.expr == nil {
		return 0, false
	}
	l := q.expr.compute(&unitContext{fontSize: em, rootSize: rem, vw: vw, vh: 0, cqw: vw, zoom: zoom})
	return float64(l.Px), l.Kind == LenPx
}

// prepare reads the values of a query once.
func (q *query) prepare() *query {
	if e, ok := parseExpr(q.value, exprAny); ok && len(q.value) > 0 {
		q.expr = e
	}
	for _, k := range q.kids {
		k.prepare()
	}
	return q
}

// atRules are those that the browser knows (css-conditional-5, at-rule()).
var atRules = map[string]bool{"media": true, "container": true, "supports": true, "layer": true, "import": true,
	"font-face": true, "keyframes": true, "property": true, "scope": true, "starting-style": true,
	"counter-style": true, "page": true, "namespace": true, "function": true, "view-transition": true,
	"position-try": true, "font-palette-values": true, "font-feature-values": true}

// supports answers @supports (CSS Conditional 4): declarations that can be read, selectors that can be parsed.
func supports(v []Token) bool {
	v = trim(v)
	if len(v) == 0 {
		return false
	}
	if v[0].Is("not") {
		return !supports(v[1:])
	}
	end := endOfValue(v, 0)
	result := supportsOne(v[:end])
	for rest := trim(v[end:]); len(rest) > 0; {
		op, and := trim(rest[1:]), rest[0].Is("and")
		if !and && !rest[0].Is("or") || len(op) == 0 {
			return false
		}
		end := endOfValue(op, 0)
		next := supportsOne(op[:end])
		if and {
			result = result && next
		} else {
			result = result || next
		}
		rest = trim(op[end:])
	}
	return result
}

func supportsOne(v []Token) bool {
	if len(v) < 2 {
		return false
	}
	in := trim(inside(v, 0, len(v)))
	switch {
	case len(in) == 0:
		return false
	case v[0].Is("selector("):
		_, ok := ParseSelectors(in, nil)
		return ok
	case v[0].Is("at-rule("):
		return atRules[strings.ToLower(strings.TrimPrefix(Text(in), "@"))]
	case v[0].Is("font-tech(") || v[0].Is("font-format("):
		return true
	case v[0].Kind != css.LeftParenthesisToken:
		return false
	case in[0].Kind == css.LeftParenthesisToken || in[0].Is("not") || in[0].Kind == css.FunctionToken:
		return supports(in)
	}
	name, value := strings.ToLower(in[0].Text), trim(in[1:])
	if len(value) < 2 || value[0].Kind != css.ColonToken {
		return false
	}
	text := Text(trim(value[1:]))
	return in[0].Kind == css.CustomPropertyNameToken || strings.HasPrefix(name, "--") ||
		KnownProperty(name) && CheckValue(name, text)
}
