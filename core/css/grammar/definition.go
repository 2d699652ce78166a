package grammar

import (
	_ "embed"
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
)

// pieceForm splits a definition: <kind [0,]>, a repeat, combinators, marks, names and functions.
var pieceForm = regexp.MustCompile(`<[^>]+>|#?\{[0-9,]+\}|\|\||&&|[\[\]|,/)*+?#!]|[-a-zA-Z0-9]+\(?|\S`)

// parser reads one definition.
type parser struct {
	pieces []string
	text   string
}

func (p *parser) peek() string {
	if len(p.pieces) == 0 {
		return ""
	}
	return p.pieces[0]
}

func (p *parser) next() string {
	s := p.peek()
	if s != "" {
		p.pieces = p.pieces[1:]
	}
	return s
}

// combinators from the loosest to the tightest; sequence has none.
var combinators = []struct {
	sign string
	op   op
}{{"|", choice}, {"||", some}, {"&&", every}}

// alternatives reads what combinators of one level and tighter ones join.
func (p *parser) alternatives(level int) (*node, error) {
	if level == len(combinators) {
		return p.inSequence()
	}
	first, err := p.alternatives(level + 1)
	if err != nil || p.peek() != combinators[level].sign {
		return first, err
	}
	n := &node{op: combinators[level].op, kids: []*node{first}}
	for p.peek() == combinators[level].sign {
		p.next()
		k, err := p.alternatives(level + 1)
		if err != nil {
			return nil, err
		}
		n.kids = append(n.kids, k)
	}
	if n.op == choice && !slices.ContainsFunc(n.kids, func(k *node) bool { return k.op != keyword }) {
		n.words = map[string]bool{}
		for _, k := range n.kids {
			n.words[k.name] = true
		}
	}
	return n, nil
}

func (p *parser) inSequence() (*node, error) {
	n := &node{op: sequence}
	for {
		switch p.peek() {
		case "", "]", ")", "|", "||", "&&":
			if len(n.kids) == 0 {
				return nil, fmt.Errorf("%q: nothing stands before %q", p.text, p.peek())
			}
			if len(n.kids) == 1 {
				return n.kids[0], nil
			}
			return n, nil
		}
		k, err := p.single()
		if err != nil {
			return nil, err
		}
		n.kids = append(n.kids, k)
	}
}

// single reads one thing with what says how often it comes.
func (p *parser) single() (*node, error) {
	var n *node
	s := p.next()
	switch {
	case s == "[":
		inner, err := p.alternatives(0)
		if err != nil {
			return nil, err
		}
		if p.next() != "]" {
			return nil, fmt.Errorf("%q: a group stays open", p.text)
		}
		n = inner
	case s[0] == '<':
		n = parseReference(s)
	case s == "," || s == "/":
		n = &node{op: mark, name: s}
	case strings.HasSuffix(s, "("):
		inner, err := p.alternatives(0)
		if err != nil {
			return nil, err
		}
		if p.next() != ")" {
			return nil, fmt.Errorf("%q: %s stays open", p.text, s)
		}
		n = &node{op: call, name: strings.ToLower(strings.TrimSuffix(s, "(")), kids: []*node{inner}}
	default:
		n = &node{op: keyword, name: s}
	}
	for {
		s := p.peek()
		switch {
		case s == "*":
			n = &node{op: repeat, kids: []*node{n}, most: unbounded}
		case s == "+":
			n = &node{op: repeat, kids: []*node{n}, least: 1, most: unbounded}
		case s == "?":
			n = &node{op: repeat, kids: []*node{n}, most: 1}
		case s == "!":
			n = &node{op: filled, kids: []*node{n}}
		case s == "#":
			n = &node{op: repeat, kids: []*node{n}, least: 1, most: unbounded, list: true}
		case strings.HasSuffix(s, "}"):
			least, most, err := parseCount(strings.TrimPrefix(s, "#"))
			if err != nil {
				return nil, fmt.Errorf("%q: %w", p.text, err)
			}
			n = &node{op: repeat, kids: []*node{n}, least: least, most: most, list: s[0] == '#'}
		default:
			return n, nil
		}
		p.next()
	}
}

// parseReference reads <kind> or <kind [0,1]>; an end that is left out is open; or <ident !none,auto>, a name that is
// not one of these.
func parseReference(s string) *node {
	name, span, ranged := strings.Cut(strings.Trim(s, "<>"), " ")
	n := &node{op: reference, name: "<" + name + ">", ranged: ranged, low: math.Inf(-1), high: math.Inf(1)}
	if words, ok := strings.CutPrefix(span, "!"); ok {
		n.ranged, n.but = false, strings.Split(words, ",")
		return n
	}
	if ranged {
		lo, hi, _ := strings.Cut(strings.Trim(span, "[]"), ",")
		if v, err := strconv.ParseFloat(lo, 64); err == nil {
			n.low = v
		}
		if v, err := strconv.ParseFloat(hi, 64); err == nil {
			n.high = v
		}
	}
	return n
}

func parseDefinition(text string) (*node, error) {
	p := &parser{pieces: pieceForm.FindAllString(text, -1), text: text}
	n, err := p.alternatives(0)
	if err == nil && len(p.pieces) > 0 {
		err = fmt.Errorf("%q: what is %q there for", text, p.pieces[0])
	}
	return n, err
}

// parseRules reads definitions: a name or several with commas, =, and what they are. A line that begins with white
// space goes on.
func parseRules(text string) (rules, error) {
	r := rules{}
	var lines []string
	for _, l := range strings.Split(text, "\n") {
		switch {
		case strings.HasPrefix(l, "#") || strings.TrimSpace(l) == "":
		case l[0] == ' ' && len(lines) > 0:
			lines[len(lines)-1] += l
		default:
			lines = append(lines, l)
		}
	}
	for _, l := range lines {
		names, body, _ := strings.Cut(l, " = ")
		n, err := parseDefinition(body)
		if err != nil {
			return nil, err
		}
		for _, name := range strings.Split(names, ",") {
			r[strings.TrimSpace(name)] = n
		}
	}
	return r, nil
}

// parseCount reads {2}, {1,4} or {2,}.
func parseCount(s string) (least, most int, err error) {
	lo, hi, two := strings.Cut(strings.Trim(s, "{}"), ",")
	if least, err = strconv.Atoi(lo); err != nil {
		return 0, 0, err
	}
	switch {
	case !two:
		return least, least, nil
	case hi == "":
		return least, unbounded, nil
	}
	most, err = strconv.Atoi(hi)
	return least, most, err
}

// load parses values.txt once; nothing changes it afterwards.
var load = sync.OnceValue(func() rules {
	r, err := parseRules(source)
	if err != nil {
		panic(err) // the file is part of the program, and a test reads it
	}
	return r
})

//go:embed values.txt
var source string
