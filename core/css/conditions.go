package css

import (
	"strconv"
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
}

// Container is a size container that an element stands in.
type Container struct {
	Names    []string
	Width    float64 // content-box inline size, CSS px
	FontSize float64 // px, for em in its queries
	Height   float64 // content-box block size, CSS px, of a size container
	Sized    bool    // container-type: size
	Style    *Style  // of the container, for queries of its custom properties
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
	}
	if i := strings.IndexByte(q.name, ':'); i > 0 {
		q.cmp, q.value, q.name = "=", in[1:], q.name[:i]
		return q
	}
	return &query{op: "unknown"}
}

// answersStyle compares a custom property in force with what a style query asks.
func (q *query) answersStyle(v *vars) bool {
	have, ok := v.values[q.name]
	if q.cmp == "" {
		return ok
	}
	return ok && strings.TrimSpace(Text(have)) == strings.TrimSpace(Text(q.value))
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

func (q *query) compare(have, em, rem, vw float64) truth {
	want, ok := q.length(em, rem, vw)
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

// length evaluates the length in a query. em and rem are sizes in CSS px.
func (q *query) length(em, rem, vw float64) (float64, bool) {
	if q.expr == nil {
		return 0, false
	}
	l := q.expr.compute(&unitContext{fontSize: em, rootSize: rem, vw: vw, vh: 0, cqw: vw})
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

// text gives the size of text that nothing sets: what em and rem mean in media queries.
func (m Media) text() float64 {
	if m.Text == 0 {
		return 16
	}
	return m.Text
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
	case "width":
		return f.compare(float64(m.Width), m.text(), m.text(), float64(m.Width))
	case "height":
		return f.compare(float64(m.Height), m.text(), m.text(), float64(m.Width))
	case "prefers-color-scheme":
		return truthOfWord(f, plain || (word == "dark") == m.Dark, "dark", "light")
	case "orientation":
		return truthOfWord(f, plain || (word == "portrait") == (m.Height >= m.Width), "portrait", "landscape")
	case "aspect-ratio":
		return f.compareRatio(float64(m.Width) / float64(m.Height))
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
	case "prefers-reduced-motion", "prefers-reduced-transparency", "prefers-reduced-data":
		return truthOfWord(f, word == "no-preference", "no-preference", "reduce")
	case "prefers-contrast":
		return truthOfWord(f, word == "no-preference", "no-preference", "more", "less", "custom")
	case "forced-colors":
		return truthOfWord(f, word == "none", "none", "active")
	case "inverted-colors":
		return truthOfWord(f, word == "none", "none", "inverted")
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
		return f.compare(k.Width, k.FontSize, rem, k.Width)
	}
	if !k.Sized {
		return unknown
	}
	switch f.feature {
	case "height", "block-size":
		return f.compare(k.Height, k.FontSize, rem, k.Width)
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
