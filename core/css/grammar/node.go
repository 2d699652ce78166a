package grammar

import (
	"slices"
	"strings"
)

// op tells what a node of a definition does.
type op uint8

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

// rules are the definitions by name: kinds of values as <name>, properties as they are.
type rules map[string]*node

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
		if pos < len(m.terms) && m.terms[pos].kind == function && m.terms[pos].text == n.name &&
			full(m.rules, n.kids[0], m.terms[pos].inner) {
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
		ends = slices.DeleteFunc(next, func(e int) bool {
			return e <= slices.Min(append(from, unbounded)) &&
				count >= n.least
		})
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
		return t.kind == ident && !slices.Contains([]string{"inherit", "initial", "unset", "revert", "revert-layer",
			"default"}, t.text) && !slices.Contains(n.but, t.text)
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
		return t.kind == brackets && !slices.ContainsFunc(t.inner,
			func(k *term) bool { return k.kind != ident || k.text == "span" || k.text == "auto" })
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
		return have == "length" || have == "percentage" || have == name ||
			t.kind == amount && t.unit == "" && t.value == 0
	case "number-percentage":
		return have == "number" || have == "percentage"
	case "math":
		return t.kind == function
	}
	return have == name
}

func anyTerm(terms []*term, is func(*term) bool) bool {
	return slices.ContainsFunc(terms, func(t *term) bool { return is(t) || anyTerm(t.inner, is) })
}

// fetching are functions that name a file, in lower case and without escapes.
var fetching = []string{"url", "src", "image", "image-set", "-webkit-image-set", "cross-fade", "-webkit-cross-fade",
	"element", "paint", "attr"}

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
