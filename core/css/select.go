package css

import (
	"strconv"
	"strings"

	"github.com/tdewolff/parse/v2/css"
)

// Specificity counts ids, classes and types, after Selectors 4 "Calculating a selector's specificity".
type Specificity [3]int

func (a Specificity) less(b Specificity) bool {
	for i := range a {
		if a[i] != b[i] {
			return a[i] < b[i]
		}
	}
	return false
}

func (a Specificity) add(b Specificity) Specificity {
	return Specificity{a[0] + b[0], a[1] + b[1], a[2] + b[2]}
}

// Selector is one complex selector.
type Selector struct {
	Pseudo      string // pseudo-element without colons, "" for none
	Specificity Specificity
	Text        string     // as written
	compounds   []compound // from left to right
}

type compound struct {
	combinator byte // how it hangs on the one before: ' ', '>', '+', '~'; 0 for the first
	tests      []test
}

// test is one simple selector.
type test struct {
	kind  byte // 't' type, '#' id, '.' class, '[' attribute, ':' pseudo-class, '*' any
	name  string
	op    string // attribute operator
	value string
	fold  bool // attribute value compares without letter case
	a, b  int  // an+b
	list  []*Selector
}

// ParseSelectors reads a selector list. parent holds the selectors of the rule around it (CSS Nesting), nil at top
// level. One invalid selector makes the whole list invalid; ok is then false.
func ParseSelectors(v []Token, parent []*Selector) (list []*Selector, ok bool) {
	for _, part := range SplitCommas(v) {
		s, ok := parseSelector(part, parent, false)
		if !ok {
			return nil, false
		}
		s.Text = strings.TrimSpace(Text(part))
		list = append(list, s)
	}
	return list, len(list) > 0
}

// parseForgiving reads the list inside :is() and :where(), where invalid selectors are dropped alone.
func parseForgiving(v []Token, parent []*Selector, relative bool) []*Selector {
	var list []*Selector
	for _, part := range SplitCommas(v) {
		if s, ok := parseSelector(part, parent, relative); ok {
			list = append(list, s)
		}
	}
	return list
}

type selectorParser struct {
	v      []Token
	i      int
	parent []*Selector
	out    *Selector
	cur    compound
	nested bool
}

func parseSelector(v []Token, parent []*Selector, relative bool) (*Selector, bool) {
	p := &selectorParser{v: v, parent: parent, out: &Selector{}}
	if len(v) == 0 {
		return nil, false
	}
	if relative { // :has() starts with a combinator, a descendant one when none is written
		p.cur = compound{tests: []test{{kind: ':', name: "scope"}}}
		p.push(' ')
		if c := v[0].Text; c == ">" || c == "+" || c == "~" {
			p.cur.combinator = c[0]
			p.i++
			p.space()
		}
	} else if c := v[0].Text; parent != nil && (c == ">" || c == "+" || c == "~") {
		p.amp()
		p.push(c[0])
		p.i++
		p.space()
	}
	for p.i < len(p.v) {
		if !p.step() {
			return nil, false
		}
	}
	if len(p.cur.tests) == 0 && p.out.Pseudo == "" {
		return nil, false
	}
	p.out.compounds = append(p.out.compounds, p.cur)
	if parent != nil && !relative && !p.nested { // a nested selector without & is relative to the parent
		q := &selectorParser{parent: parent, out: &Selector{}}
		q.amp()
		q.push(' ')
		p.out.compounds[0].combinator = ' '
		p.out.compounds = append(q.out.compounds, p.out.compounds...)
		p.out.Specificity = p.out.Specificity.add(q.out.Specificity)
	}
	return p.out, true
}

func (p *selectorParser) space() {
	for p.i < len(p.v) && p.v[p.i].Kind == css.WhitespaceToken {
		p.i++
	}
}

func (p *selectorParser) push(combinator byte) {
	p.out.compounds = append(p.out.compounds, p.cur)
	p.cur = compound{combinator: combinator}
}

func (p *selectorParser) amp() {
	p.nested = true
	p.add(test{kind: ':', name: "is", list: p.parent}, maxSpecificity(p.parent))
}

func (p *selectorParser) add(t test, s Specificity) {
	p.cur.tests = append(p.cur.tests, t)
	p.out.Specificity = p.out.Specificity.add(s)
}

func (p *selectorParser) step() bool {
	t := p.v[p.i]
	if p.out.Pseudo != "" && t.Kind != css.WhitespaceToken {
		return false // nothing that we know follows a pseudo-element
	}
	switch {
	case t.Kind == css.WhitespaceToken:
		p.space()
		if p.i >= len(p.v) {
			return true
		}
		if c := p.v[p.i].Text; c == ">" || c == "+" || c == "~" {
			return true
		}
		if len(p.cur.tests) == 0 {
			return false
		}
		p.push(' ')
		return true
	case t.Text == ">" || t.Text == "+" || t.Text == "~":
		if len(p.cur.tests) == 0 {
			return false
		}
		p.i++
		p.space()
		p.push(t.Text[0])
		return p.i < len(p.v)
	case t.Text == "&":
		p.i++
		if p.parent == nil {
			p.add(test{kind: ':', name: "root"}, Specificity{})
			return true
		}
		p.amp()
		return true
	case t.Text == "*" && p.i+2 < len(p.v) && p.v[p.i+1].Text == "|" && (p.v[p.i+2].Text == "*" ||
		p.v[p.i+2].Text == "." || p.v[p.i+2].Kind == css.IdentToken || p.v[p.i+2].Kind == css.HashToken):
		p.i += 2 // of any namespace
		return true
	case t.Text == "*":
		p.i++
		p.add(test{kind: '*'}, Specificity{})
		return true
	case t.Kind == css.IdentToken || t.Kind == css.UnicodeRangeToken:
		if len(p.cur.tests) > 0 {
			return false
		}
		p.i++
		p.add(test{kind: 't', name: strings.ToLower(unescape(t.Text))}, Specificity{0, 0, 1})
		return true
	case t.Kind == css.HashToken:
		p.i++
		p.add(test{kind: '#', name: unescape(t.Text[1:])}, Specificity{1, 0, 0})
		return true
	case t.Text == ".":
		if p.i+1 >= len(p.v) || p.v[p.i+1].Kind != css.IdentToken {
			return false
		}
		p.add(test{kind: '.', name: unescape(p.v[p.i+1].Text)}, Specificity{0, 1, 0})
		p.i += 2
		return true
	case t.Kind == css.LeftBracketToken:
		return p.attribute()
	case t.Kind == css.ColonToken:
		return p.pseudo()
	}
	return false
}

func (p *selectorParser) attribute() bool {
	end := p.i
	for end < len(p.v) && p.v[end].Kind != css.RightBracketToken {
		end++
	}
	if end == len(p.v) {
		return false
	}
	var in []Token
	for _, t := range p.v[p.i+1 : end] {
		if t.Kind != css.WhitespaceToken {
			in = append(in, t)
		}
	}
	p.i = end + 1
	if len(in) == 0 || in[0].Kind != css.IdentToken {
		return false
	}
	a := test{kind: '[', name: strings.ToLower(unescape(in[0].Text))}
	if len(in) >= 3 {
		a.op, a.value = in[1].Text, unquote(in[2].Text)
		a.fold = len(in) > 3 && in[3].Is("i")
	} else if len(in) != 1 {
		return false
	}
	p.add(a, Specificity{0, 1, 0})
	return true
}

var legacyPseudoElements = map[string]bool{"before": true, "after": true, "first-line": true, "first-letter": true}

func (p *selectorParser) pseudo() bool {
	p.i++
	double := p.i < len(p.v) && p.v[p.i].Kind == css.ColonToken
	if double {
		p.i++
	}
	if p.i >= len(p.v) {
		return false
	}
	t := p.v[p.i]
	name := strings.ToLower(strings.TrimSuffix(t.Text, "("))
	if t.Kind == css.FunctionToken {
		depth, start := 1, p.i+1
		for p.i++; p.i < len(p.v) && depth > 0; p.i++ {
			switch p.v[p.i].Kind {
			case css.FunctionToken, css.LeftParenthesisToken:
				depth++
			case css.RightParenthesisToken:
				depth--
			}
		}
		end := p.i
		if depth == 0 {
			end--
		}
		if double {
			p.out.Pseudo = name
			return true
		}
		return p.functional(name, trim(p.v[start:end]))
	}
	if t.Kind != css.IdentToken {
		return false
	}
	p.i++
	if double || legacyPseudoElements[name] {
		p.out.Pseudo = name
		p.out.Specificity[2]++
		return pseudoElements[name] || strings.HasPrefix(name, "-webkit-")
	}
	if !pseudoClasses[name] && !strings.HasPrefix(name, "-internal-") {
		return false // an unknown one makes its list invalid, with all that is in it
	}
	p.add(test{kind: ':', name: name}, Specificity{0, 1, 0})
	return true
}

// pseudoClasses and pseudoElements are the names without arguments that browsers know.
var pseudoClasses, pseudoElements = map[string]bool{}, map[string]bool{}

func init() {
	for _, n := range strings.Fields(`active any-link autofill -webkit-autofill blank buffering checked closed
	current default defined disabled empty enabled first first-child first-of-type focus focus-visible
		focus-within fullscreen -webkit-full-screen future has-slotted host hover in-range indeterminate
		interest-source interest-target invalid last-child last-of-type left link local-link modal muted only-child
		only-of-type open
		optional out-of-range past paused picture-in-picture placeholder-shown playing popover-open read-only
		read-write required right root scope seeking stalled target target-current target-after target-before
		target-within user-invalid user-valid valid visited volume-locked xr-overlay -webkit-any-link -webkit-drag`) {
		pseudoClasses[n] = true
	}
	for _, n := range strings.Fields(`after backdrop before checkmark column cue details-content
	file-selector-button first-letter first-line grammar-error marker picker-icon placeholder scroll-marker
	scroll-marker-group
		search-text selection spelling-error target-text view-transition scroll-button interest-hint`) {
		pseudoElements[n] = true
	}
}

func (p *selectorParser) functional(name string, arg []Token) bool {
	t := test{kind: ':', name: name}
	switch name {
	case "is", "where", "matches", "-webkit-any":
		t.name = "is"
		t.list = parseForgiving(arg, p.parent, false)
		for _, x := range arg {
			if x.Text == "&" {
				p.nested = true
			}
		}
		s := maxSpecificity(t.list)
		if name == "where" {
			s = Specificity{}
		}
		p.add(t, s)
		return true
	case "not":
		list, ok := ParseSelectors(arg, p.parent0(arg))
		t.list = list
		p.add(t, maxSpecificity(list))
		return ok
	case "has":
		ok := true
		for _, part := range SplitCommas(arg) {
			s, good := parseSelector(part, p.parent0(arg), true)
			if ok = ok && good; ok {
				t.list = append(t.list, s)
			}
		}
		p.add(t, maxSpecificity(t.list))
		return ok && len(t.list) > 0
	case "nth-child", "nth-last-child", "nth-of-type", "nth-last-of-type":
		for i, x := range arg {
			if x.Is("of") {
				list, ok := ParseSelectors(trim(arg[i+1:]), nil)
				if !ok {
					return false
				}
				t.list = list
				arg = trim(arg[:i])
				break
			}
		}
		a, b, ok := parseNth(Text(arg))
		t.a, t.b = a, b
		p.add(t, Specificity{0, 1, 0}.add(maxSpecificity(t.list)))
		return ok
	case "lang", "dir", "state", "host":
		t.value = strings.ToLower(unquote(Text(arg)))
		p.add(t, Specificity{0, 1, 0})
		return true
	}
	return false
}

// parent0 hands the nesting parent on only where & is written.
func (p *selectorParser) parent0(arg []Token) []*Selector {
	for _, x := range arg {
		if x.Text == "&" {
			return p.parent
		}
	}
	return nil
}

func parseNth(s string) (a, b int, ok bool) {
	s = strings.ToLower(strings.ReplaceAll(s, " ", ""))
	switch s {
	case "odd":
		return 2, 1, true
	case "even":
		return 2, 0, true
	}
	n := strings.IndexByte(s, 'n')
	if n < 0 {
		b, err := strconv.Atoi(s)
		return 0, b, err == nil
	}
	switch s[:n] {
	case "", "+":
		a = 1
	case "-":
		a = -1
	default:
		v, err := strconv.Atoi(s[:n])
		if err != nil {
			return 0, 0, false
		}
		a = v
	}
	if rest := s[n+1:]; rest != "" {
		v, err := strconv.Atoi(rest)
		if err != nil {
			return 0, 0, false
		}
		b = v
	}
	return a, b, true
}

func maxSpecificity(list []*Selector) Specificity {
	var m Specificity
	for _, s := range list {
		if m.less(s.Specificity) {
			m = s.Specificity
		}
	}
	return m
}

// unescape resolves CSS escapes in a name.
func unescape(s string) string {
	if !strings.ContainsRune(s, '\\') {
		return s
	}
	var b strings.Builder
	r := []rune(s)
	for i := 0; i < len(r); i++ {
		if r[i] != '\\' || i+1 == len(r) {
			b.WriteRune(r[i])
			continue
		}
		j := i + 1
		for j < len(r) && j < i+7 && strings.ContainsRune("0123456789abcdefABCDEF", r[j]) {
			j++
		}
		if j == i+1 {
			b.WriteRune(r[j])
			i = j
			continue
		}
		code, _ := strconv.ParseInt(string(r[i+1:j]), 16, 32)
		b.WriteRune(rune(code))
		if j < len(r) && r[j] == ' ' {
			j++
		}
		i = j - 1
	}
	return b.String()
}

// unquote strips the quotes of a string token and resolves its escapes.
func unquote(s string) string {
	if len(s) >= 2 && (s[0] == '"' || s[0] == '\'') {
		s = s[1:]
		if q := s[len(s)-1]; q == '"' || q == '\'' {
			s = s[:len(s)-1]
		}
	}
	return unescape(s)
}

// Unquote strips the quotes of a string token and resolves its escapes.
func Unquote(s string) string { return unquote(s) }
