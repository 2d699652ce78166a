package grammar

import (
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/tdewolff/parse/v2"
	"github.com/tdewolff/parse/v2/css"
)

// shape tells what a term is.
type shape uint8

const (
	ident    shape = iota // text in lower case, escapes resolved
	amount                // value and unit, in lower case
	quoted                // a string
	address               // url(...)
	hash                  // #rgb, #rgba, #rrggbb or #rrggbbaa
	sign                  // one character: , / + - *
	function              // text( inner )
	brackets              // [ inner ]
	parens                // ( inner )
)

// term is one component of a value (CSS Syntax 3, section 5.4.7).
type term struct {
	kind   shape
	text   string
	value  float64
	unit   string // "%" of a percentage
	whole  bool   // written without a fraction
	inner  []*term
	spaced bool // white space stands before it
}

// read splits a value into terms. It fails at whatever may not stand in a value: comments, strings, brackets and
// addresses that stay open, braces and semicolons, characters that CSS has no use for.
func read(value string) ([]*term, bool) {
	if !utf8.ValidString(value) { // an escape before half a letter takes more with it than a browser lets it
		return nil, false
	}
	if strings.ContainsAny(value, "\x00\n\r\f") || strings.Contains(value, "/*") || strings.Contains(value, "</") {
		return nil, false
	}
	r := &reader{lex: css.NewLexer(parse.NewInputString(value))}
	terms, ok := r.until(0)
	return terms, ok && r.count <= mostTerms
}

type reader struct {
	lex   *css.Lexer
	count int
	depth int
}

const mostDeep = 32

// until reads up to a closing bracket, or to the end when there is none.
func (r *reader) until(closing byte) ([]*term, bool) {
	var out []*term
	if r.depth++; r.depth > mostDeep {
		return nil, false
	}
	defer func() { r.depth-- }()
	spaced := false
	for {
		kind, data := r.lex.Next()
		text := string(data)
		if r.count++; r.count > mostTerms {
			return nil, false
		}
		t := &term{text: text, spaced: spaced}
		spaced = false
		switch kind {
		case css.ErrorToken:
			return out, closing == 0
		case css.WhitespaceToken:
			spaced = true
			continue
		case css.RightParenthesisToken, css.RightBracketToken:
			return out, closing == text[0]
		case css.IdentToken, css.CustomPropertyNameToken, css.UnicodeRangeToken:
			t.kind, t.text = ident, unescape(text)
			if !strings.HasPrefix(t.text, "--") {
				t.text = strings.ToLower(t.text)
			}
		case css.NumberToken, css.PercentageToken, css.DimensionToken:
			if !t.number() {
				return nil, false
			}
		case css.StringToken:
			if t.kind = quoted; !closed(text) {
				return nil, false
			}
		case css.URLToken:
			if t.kind = address; !strings.HasSuffix(text, ")") {
				return nil, false
			}
		case css.HashToken:
			if t.kind = hash; !hexColor(text[1:]) {
				return nil, false
			}
		case css.DelimToken, css.CommaToken:
			if t.kind = sign; !strings.Contains(",/+-*", text) {
				return nil, false
			}
		case css.FunctionToken:
			t.kind, t.text = function, strings.ToLower(unescape(strings.TrimSuffix(text, "(")))
			var ok bool
			if t.inner, ok = r.until(')'); !ok {
				return nil, false
			}
		case css.LeftParenthesisToken, css.LeftBracketToken:
			t.kind = parens
			closing := byte(')')
			if kind == css.LeftBracketToken {
				t.kind, closing = brackets, ']'
			}
			var ok bool
			if t.inner, ok = r.until(closing); !ok {
				return nil, false
			}
		default:
			return nil, false
		}
		out = append(out, t)
	}
}

func hexColor(s string) bool {
	return slices.Contains([]int{3, 4, 6, 8}, len(s)) && strings.Trim(strings.ToLower(s), "0123456789abcdef") == ""
}

// number reads the text of a number, percentage or dimension.
func (t *term) number() bool {
	i := 0
	for i < len(t.text) && strings.IndexByte("+-.0123456789", t.text[i]) >= 0 {
		i++
	}
	if i+1 < len(t.text) && (t.text[i] == 'e' || t.text[i] == 'E') { // an exponent, unless the unit begins with e
		j := i + 1
		if t.text[j] == '+' || t.text[j] == '-' {
			j++
		}
		if k := j; k < len(t.text) && t.text[k] >= '0' && t.text[k] <= '9' {
			for i = k; i < len(t.text) && t.text[i] >= '0' && t.text[i] <= '9'; i++ {
			}
		}
	}
	v, err := strconv.ParseFloat(t.text[:i], 64)
	t.kind, t.value, t.unit = amount, v, strings.ToLower(unescape(t.text[i:]))
	t.whole = !strings.ContainsAny(t.text[:i], ".eE")
	return err == nil
}

// unescape resolves the escapes of a name (CSS Syntax 3, section 4.3.7).
func unescape(s string) string {
	if !strings.Contains(s, `\`) {
		return s
	}
	var b strings.Builder
	for i := 0; i < len(s); i++ {
		if s[i] != '\\' || i+1 == len(s) {
			b.WriteByte(s[i])
			continue
		}
		j := i + 1
		for j < len(s) && j < i+7 && strings.IndexByte("0123456789abcdefABCDEF", s[j]) >= 0 {
			j++
		}
		if j == i+1 {
			b.WriteByte(s[j])
			i = j
			continue
		}
		v, _ := strconv.ParseUint(s[i+1:j], 16, 32)
		b.WriteRune(rune(v))
		if j < len(s) && s[j] == ' ' {
			j++
		}
		i = j - 1
	}
	return b.String()
}

// measures are the units of each kind of amount (CSS Values and Units 4, sections 5 to 7).
var measures = map[string]string{}

func init() {
	for kind, units := range map[string]string{
		"length": `px cm mm q in pc pt em rem ex rex cap rcap ch rch ic ric lh rlh vw vh vi vb vmin vmax svw svh svi svb svmin svmax lvw lvh lvi lvb lvmin lvmax
			dvw dvh dvi dvb dvmin dvmax cqw cqh cqi cqb cqmin cqmax`,
		"angle": "deg grad rad turn", "time": "s ms", "resolution": "dpi dpcm dppx x", "flex": "fr",
		"percentage": "%",
	} {
		for _, u := range strings.Fields(units) {
			measures[u] = kind
		}
	}
	measures[""] = "number"
}

// measure gives what an amount or a math function comes to: number, length, percentage, length-percentage, angle,
// time, resolution or flex; "" for everything else, and for a function that does not add up (CSS Values and Units 4,
// section 10).
func (t *term) measure() string {
	switch t.kind {
	case amount:
		return measures[t.unit]
	case parens:
		return sum(t.inner)
	case ident:
		switch t.text {
		case "e", "pi", "infinity", "-infinity", "nan":
			return "number"
		}
	case function:
		return t.math()
	}
	return ""
}

// math gives what a math function comes to.
func (t *term) math() string {
	args := split(t.inner)
	count := func(least, most int) bool { return len(args) >= least && len(args) <= most }
	var kinds []string
	for i, a := range args {
		if i == 0 && t.text == "round" && len(a) == 1 && slices.Contains([]string{"nearest", "up", "down",
			"to-zero"}, a[0].text) {
			continue
		}
		if t.text == "clamp" && i != 1 && len(a) == 1 && a[0].text == "none" {
			continue
		}
		kinds = append(kinds, sum(a))
	}
	if len(kinds) == 0 {
		return ""
	}
	same := kinds[0]
	for _, k := range kinds[1:] {
		same = joined(same, k)
	}
	if same == "flex" {
		return ""
	}
	switch t.text {
	case "calc", "-webkit-calc", "abs":
		if count(1, 1) {
			return same
		}
	case "min", "max", "hypot":
		return same
	case "clamp":
		if count(3, 3) {
			return same
		}
	case "mod", "rem":
		if count(2, 2) {
			return same
		}
	case "round":
		if count(2, 3) || count(1, 1) && same == "number" {
			return same
		}
	case "sin", "cos", "tan":
		if count(1, 1) && (same == "number" || same == "angle") {
			return "number"
		}
	case "asin", "acos", "atan":
		if count(1, 1) && same == "number" {
			return "angle"
		}
	case "atan2":
		if count(2, 2) && same != "" {
			return "angle"
		}
	case "pow":
		if count(2, 2) && same == "number" {
			return "number"
		}
	case "sqrt", "exp":
		if count(1, 1) && same == "number" {
			return "number"
		}
	case "log":
		if count(1, 2) && same == "number" {
			return "number"
		}
	case "progress":
		if count(3, 3) && same != "" {
			return "number"
		}
	case "sign":
		if count(1, 1) && same != "" {
			return "number"
		}
	case "env":
		return ""
	}
	return ""
}

// split cuts at commas.
func split(terms []*term) [][]*term {
	out := [][]*term{nil}
	for _, t := range terms {
		if t.kind == sign && t.text == "," {
			out = append(out, nil)
			continue
		}
		out[len(out)-1] = append(out[len(out)-1], t)
	}
	return out
}

// sum gives what terms with + and - (spaces around them), * and / between them come to.
func sum(terms []*term) string {
	if len(terms)%2 == 0 {
		return ""
	}
	total, product := "", terms[0].measure()
	if product == "" {
		return ""
	}
	for i := 1; i < len(terms); i += 2 {
		o, k := terms[i], terms[i+1].measure()
		if o.kind != sign || k == "" {
			return ""
		}
		switch o.text {
		case "+", "-":
			if !o.spaced || !terms[i+1].spaced {
				return ""
			}
			if total = added(total, product); total == "" {
				return ""
			}
			product = k
		case "*":
			switch {
			case product == "number":
				product = k
			case k != "number":
				return ""
			}
		case "/":
			if k != "number" {
				if k != product { // a length by a length is a number, and nothing else is
					return ""
				}
				product = "number"
			}
		default:
			return ""
		}
	}
	return added(total, product)
}

// added gives what a sum so far and one more part come to; a sum of nothing is "".
func added(total, part string) string {
	if total == "" {
		return part
	}
	return joined(total, part)
}

// joined gives what two amounts of one sum come to, "" when they do not go together.
func joined(a, b string) string {
	if a == b {
		return a
	}
	long := func(s string) bool { return s == "length" || s == "percentage" || s == "length-percentage" }
	if long(a) && long(b) {
		return "length-percentage"
	}
	return ""
}

// most values have a few terms; more than these is refused instead of matched.
const (
	mostTerms = 400
	unbounded = 1 << 20
)

// closed reports a string that ends with the mark that it begins with: one behind an odd number of backslashes is
// part of it.
func closed(text string) bool {
	if len(text) < 2 || text[len(text)-1] != text[0] {
		return false
	}
	inner := text[:len(text)-1]
	return (len(inner)-len(strings.TrimRight(inner, `\`)))%2 == 0
}
