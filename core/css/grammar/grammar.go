// Package grammar says whether text is a value of a CSS property, as a whole: it matches values against definitions
// in the value definition syntax of CSS Values and Units 4 (section 2), which stand in values.txt. It knows nothing
// of pages; var() is for the caller to resolve.
package grammar

import (
	_ "embed"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"sync"
)

//go:embed values.txt
var source string

// rules are the definitions by name: kinds of values as <name>, properties as they are.
type rules map[string]*node

// load parses values.txt once; nothing changes it afterwards.
var load = sync.OnceValue(func() rules {
	r, err := parseRules(source)
	if err != nil {
		panic(err) // the file is part of the program, and a test reads it
	}
	return r
})

// Knows reports whether the values of a property are defined.
func Knows(property string) bool { return load()[strings.ToLower(property)] != nil }

// Properties lists the properties whose values are defined, sorted.
func Properties() []string {
	var out []string
	for n := range load() {
		if n[0] != '<' {
			out = append(out, n)
		}
	}
	slices.Sort(out)
	return out
}

// Valid reports whether a value is one of a property that Knows knows, from its first character to its last. A value
// with a comment, an open string or bracket, or of unreasonable length is none. The keywords that every property
// takes (inherit, initial ...) are values.
func Valid(property, value string) bool {
	n := load()[strings.ToLower(property)]
	terms, ok := read(value)
	if n == nil || !ok || len(terms) == 0 {
		return false
	}
	if len(terms) == 1 && terms[0].kind == ident {
		switch terms[0].text {
		case "inherit", "initial", "unset", "revert", "revert-layer":
			return true
		}
	}
	return full(load(), n, terms)
}

// Readable reports whether text can stand as a value at all, or as part of one: balanced, without a comment, and with
// nothing in it that would end a declaration or a style element.
func Readable(value string) bool {
	_, ok := read(value)
	return ok
}

// Is reports whether text is a value of some kind: color, length, shadow, easing and so on, as values.txt names them.
func Is(kind, value string) bool {
	terms, ok := read(value)
	return ok && len(terms) > 0 && full(load(), &node{op: reference, name: "<" + kind + ">"}, terms)
}

// fetching are functions that name a file, in lower case and without escapes.
var fetching = []string{"url", "src", "image", "image-set", "-webkit-image-set", "cross-fade", "-webkit-cross-fade", "element", "paint", "attr"}

// Fetches reports whether a value asks for a file, or could: an address in it, however it is escaped.
func Fetches(value string) bool {
	terms, ok := read(value)
	return !ok || anyTerm(terms, func(t *term) bool {
		return t.kind == address || t.kind == function && slices.Contains(fetching, t.text)
	})
}

// Addresses lists the addresses that a value names, in whatever function and however they are escaped. A value that
// cannot be read, and one that takes an address from elsewhere (attr, a name of an element), is not ok.
func Addresses(value string) (list []string, ok bool) {
	terms, ok := read(value)
	var within func(terms []*term, asked bool)
	within = func(terms []*term, asked bool) {
		for _, t := range terms {
			switch {
			case t.kind == address:
				list = append(list, strings.Trim(unescape(strings.TrimSpace(t.text[strings.IndexByte(t.text, '(')+1:len(t.text)-1])), `"'`))
			case t.kind == quoted && asked:
				list = append(list, unescape(t.text[1:len(t.text)-1]))
			case t.kind == function && (t.text == "attr" || t.text == "element" || t.text == "paint"):
				ok = ok && t.text == "attr" && !asked
			case t.kind == function:
				within(t.inner, asked && t.text != "type" || slices.Contains(fetching, t.text))
			default:
				within(t.inner, asked)
			}
		}
	}
	within(terms, false)
	return list, ok
}

// Names gives the custom properties that a value takes with var(), with and without a fallback.
func Names(value string) (bare, backed []string) {
	terms, _ := read(value)
	anyTerm(terms, func(t *term) bool {
		if t.kind == function && t.text == "var" && len(t.inner) > 0 {
			if len(t.inner) > 1 {
				backed = append(backed, t.inner[0].text)
			} else {
				bare = append(bare, t.inner[0].text)
			}
		}
		return false
	})
	return bare, backed
}

func anyTerm(terms []*term, is func(*term) bool) bool {
	return slices.ContainsFunc(terms, func(t *term) bool { return is(t) || anyTerm(t.inner, is) })
}

// op tells what a node of a definition does.
type op uint8

const (
	keyword   op = iota // name
	mark                // name: , or /
	reference           // <name>
	call                // name( kids[0] )
	sequence            // kids one after another
	every               // && all kids, in any order
	some                // || at least one of the kids, in any order
	choice              // | one of the kids
	repeat              // kids[0] from least to most times, with commas between when list is set
	filled              // ! kids[0] that is not empty
)

type node struct {
	op          op
	name        string
	kids        []*node
	words       map[string]bool // of a choice between words only
	least, most int
	list        bool
	low, high   float64 // of a reference with a range
	ranged      bool
	but         []string // of a name: what it may not be
}

// full reports whether a node matches all terms.
func full(r rules, n *node, terms []*term) bool {
	m := &matcher{rules: r, terms: terms, ends: map[at][]int{}}
	return slices.Contains(m.match(n, 0), len(terms))
}

type at struct {
	node *node
	pos  int
}

// matcher finds at which terms the match of a node can end. What it has found for a node at a place it keeps, so that
// its work grows with the length of the value and not with the ways to read it.
type matcher struct {
	rules rules
	terms []*term
	ends  map[at][]int
}

func (m *matcher) match(n *node, pos int) []int {
	if n.op == keyword || n.op == mark || n.words != nil {
		return m.one(n, pos)
	}
	key := at{n, pos}
	if e, ok := m.ends[key]; ok {
		return e
	}
	m.ends[key] = nil // a kind that begins with itself ends nowhere
	e := m.find(n, pos)
	slices.Sort(e)
	e = slices.Compact(e)
	m.ends[key] = e
	return e
}

// one matches what takes a single word or mark.
func (m *matcher) one(n *node, pos int) []int {
	if pos >= len(m.terms) {
		return nil
	}
	t := m.terms[pos]
	switch {
	case n.op == mark:
		if t.kind != sign || t.text != n.name {
			return nil
		}
	case t.kind != ident:
		return nil
	case n.words != nil:
		if !n.words[t.text] {
			return nil
		}
	case t.text != n.name:
		return nil
	}
	return []int{pos + 1}
}

func (m *matcher) find(n *node, pos int) []int {
	switch n.op {
	case reference:
		return m.kind(n, pos)
	case call:
		if pos < len(m.terms) && m.terms[pos].kind == function && m.terms[pos].text == n.name && full(m.rules, n.kids[0], m.terms[pos].inner) {
			return []int{pos + 1}
		}
		return nil
	case sequence:
		ends := []int{pos}
		for _, k := range n.kids {
			ends = m.after(ends, k)
		}
		return ends
	case choice:
		var out []int
		for _, k := range n.kids {
			out = append(out, m.match(k, pos)...)
		}
		return out
	case every, some:
		return m.anyOrder(n, pos)
	case repeat:
		return m.times(n, pos)
	}
	return slices.DeleteFunc(slices.Clone(m.match(n.kids[0], pos)), func(e int) bool { return e == pos }) // filled
}

// after matches a node behind each of the ends.
func (m *matcher) after(ends []int, n *node) []int {
	var out []int
	for _, e := range ends {
		out = append(out, m.match(n, e)...)
	}
	slices.Sort(out)
	return slices.Compact(out)
}

func (m *matcher) times(n *node, pos int) []int {
	ends, out := []int{pos}, []int(nil)
	comma := &node{op: mark, name: ","}
	for count := 0; len(ends) > 0; count++ {
		if count >= n.least {
			out = append(out, ends...)
		}
		if count == n.most {
			break
		}
		from := ends
		if n.list && count > 0 {
			from = m.after(from, comma)
		}
		next := m.after(from, n.kids[0])
		// what is empty does not repeat
		ends = slices.DeleteFunc(next, func(e int) bool { return e <= slices.Min(append(from, unbounded)) && count >= n.least })
	}
	return out
}

// anyOrder matches kids in any order, each at most once.
func (m *matcher) anyOrder(n *node, pos int) []int {
	type state struct{ done, pos int }
	seen := map[state]bool{{0, pos}: true}
	queue := []state{{0, pos}}
	all := 1<<len(n.kids) - 1
	var out []int
	for len(queue) > 0 {
		s := queue[0]
		queue = queue[1:]
		if n.op == every && s.done == all || n.op == some && s.done != 0 {
			out = append(out, s.pos)
		}
		for i, k := range n.kids {
			if s.done&(1<<i) != 0 {
				continue
			}
			for _, e := range m.match(k, s.pos) {
				if next := (state{s.done | 1<<i, e}); !seen[next] {
					seen[next] = true
					queue = append(queue, next)
				}
			}
		}
	}
	return out
}

// kind matches <name>: what values.txt defines, or one of the kinds that stand for single terms.
func (m *matcher) kind(n *node, pos int) []int {
	if d := m.rules[n.name]; d != nil {
		return m.match(d, pos)
	}
	if d := m.rules[strings.Trim(n.name, "<'>")]; d != nil && strings.HasPrefix(n.name, "<'") {
		return m.match(d, pos)
	}
	if n.name == "<any>" {
		if pos < len(m.terms) {
			return []int{len(m.terms)}
		}
		return nil
	}
	if pos < len(m.terms) && m.terms[pos].is(n) {
		return []int{pos + 1}
	}
	return nil
}

// within reports whether a number lies in the range of a reference.
func (n *node) within(v float64) bool { return !n.ranged || n.low <= v && v <= n.high }

// is reports whether a term is of a kind that stands for single terms.
func (t *term) is(n *node) bool {
	name := strings.Trim(n.name, "<>")
	switch name {
	case "ident":
		return t.kind == ident && !slices.Contains([]string{"inherit", "initial", "unset", "revert", "revert-layer", "default"}, t.text) && !slices.Contains(n.but, t.text)
	case "dashed-ident":
		return t.kind == ident && strings.HasPrefix(t.text, "--")
	case "string":
		return t.kind == quoted
	case "tag": // of a font: four characters
		return t.kind == quoted && len(t.text) == 6
	case "url":
		return t.kind == address
	case "hex":
		return t.kind == hash
	case "bracketed-names":
		return t.kind == brackets && !slices.ContainsFunc(t.inner, func(k *term) bool { return k.kind != ident || k.text == "span" || k.text == "auto" })
	case "zero":
		return t.kind == amount && t.unit == "" && t.value == 0
	case "integer":
		if t.kind == amount {
			return t.unit == "" && t.whole && n.within(t.value)
		}
		return t.kind == function && t.math() == "number"
	}
	have := ""
	if t.kind == amount || t.kind == function {
		have = t.measure()
	}
	if have == "" {
		return false
	}
	if t.kind == amount && !n.within(t.value) {
		return false
	}
	switch name {
	case "length":
		return have == "length" || t.kind == amount && t.unit == "" && t.value == 0
	case "length-percentage":
		return have == "length" || have == "percentage" || have == name || t.kind == amount && t.unit == "" && t.value == 0
	case "number-percentage":
		return have == "number" || have == "percentage"
	case "math":
		return t.kind == function
	}
	return have == name
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

func parseDefinition(text string) (*node, error) {
	p := &parser{pieces: pieceForm.FindAllString(text, -1), text: text}
	n, err := p.alternatives(0)
	if err == nil && len(p.pieces) > 0 {
		err = fmt.Errorf("%q: what is %q there for", text, p.pieces[0])
	}
	return n, err
}
