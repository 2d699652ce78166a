package grammar

import (
	"math/rand/v2"
	"slices"
	"strconv"
	"strings"
)

// Sample makes up a value of a property that Knows knows, the same for the same random numbers: what a test asks a
// browser about.
func Sample(property string, r *rand.Rand) string {
	return (&sampler{rules: load(), Rand: r}).of(load()[property], 0)
}

// Cover makes up values of a property that Knows knows until each keyword and kind of value that its definition names
// is in one of them at least, the same for the same random numbers. Of what only paints (colors, images, shapes) the
// kind counts, not what it is made of.
func Cover(property string, r *rand.Rand) []string {
	var out []string
	met := map[string]bool{}
	for range 600 {
		s := &sampler{rules: load(), Rand: r, leaves: map[string]bool{}}
		v, more := s.of(load()[property], 0), false
		for leaf := range s.leaves {
			more = more || !met[leaf]
		}
		if !more || v == "" || len(v) > mostLong {
			continue
		}
		for leaf := range s.leaves {
			met[leaf] = true
		}
		out = append(out, v)
	}
	return out
}

// mostLong is how long a value of Cover is at most, bytes.
const mostLong = 120

type sampler struct {
	rules rules
	*rand.Rand
	leaves map[string]bool // what was met of a definition; nil when nobody asks
	inside int             // how many kinds that count as a whole we are in
}

// leaf counts a keyword or kind as met.
func (s *sampler) leaf(name string) {
	if s.leaves != nil && s.inside == 0 {
		s.leaves[name] = true
	}
}

// whole are kinds that count as one for Cover.
var whole = []string{"<color>", "<image>", "<shape>", "<filter-function>", "<transform-function>", "<easing>",
	"<position>", "<shadow>", "<text-shadow>", "<family>"}

// mostNested is how deep kinds of values are made up in one another before a sampler prefers what ends soon.
const mostNested = 8

var sampleTerms = map[string][]string{
	"ident": {"up", "--kite"}, "dashed-ident": {"--kite"}, "string": {`"kite"`}, "url": {"url(kite.png)"},
	"hex": {"#fff", "#12345678"}, "bracketed-names": {"[left]", "[a b]"}, "zero": {"0"}, "tag": {`"wght"`},
	"number-percentage": {"50%", "2"},
	"integer":           {"1", "3"}, "number": {"1", "0.5"}, "percentage": {"10%", "calc(50% - 10%)"},
	"length": {"0", "1px", "1.5rem", "calc(1px + 2vw)"}, "length-percentage": {"2px", "10%", "calc(1px + 5%)",
		"clamp(1px, 2vw, 3rem)"},
	"angle": {"45deg", "0.5turn"}, "time": {"1s", "100ms"}, "resolution": {"1x"}, "flex": {"1fr"},
}

func (s *sampler) of(n *node, depth int) string {
	switch n.op {
	case keyword, mark:
		s.leaf(n.name)
		return n.name
	case call:
		s.leaf(n.name + "()")
		return n.name + "(" + s.of(n.kids[0], depth+1) + ")"
	case sequence:
		var out []string
		for _, k := range n.kids {
			out = append(out, s.of(k, depth+1))
		}
		return join(out)
	case choice:
		if depth > mostNested {
			return s.of(n.kids[0], depth+1)
		}
		return s.of(n.kids[s.IntN(len(n.kids))], depth+1)
	case every, some:
		var out []string
		for i, at := range s.Perm(len(n.kids)) {
			if n.op == every || i == 0 || depth <= mostNested && s.IntN(3) == 0 {
				out = append(out, s.of(n.kids[at], depth+1))
			}
		}
		return join(out)
	case filled:
		for range 50 {
			if v := s.of(n.kids[0], min(depth, mostNested-2)); v != "" {
				return v
			}
		}
		return ""
	case repeat:
		count := n.least
		if depth <= mostNested {
			count = min(n.most, n.least+s.IntN(3))
		}
		var out []string
		for range count {
			out = append(out, s.of(n.kids[0], depth+1))
		}
		if n.list {
			return strings.Join(out, ", ")
		}
		return join(out)
	}
	name := strings.Trim(n.name, "<'>")
	if strings.HasPrefix(n.name, "<'") {
		return s.of(s.rules[name], depth+1)
	}
	if d := s.rules[n.name]; d != nil {
		if slices.Contains(whole, n.name) {
			s.leaf(n.name)
			s.inside++
			defer func() { s.inside-- }()
		}
		return s.of(d, depth+1)
	}
	switch name {
	case "math", "nothing":
		return ""
	case "any":
		return "kite"
	}
	list := sampleTerms[name]
	fit := slices.DeleteFunc(slices.Clone(list), func(v string) bool {
		terms, ok := read(v)
		return !ok || !terms[0].is(n)
	})
	if len(fit) == 0 {
		return strconv.FormatFloat(n.low, 'f', -1, 64)
	}
	v := fit[s.IntN(len(fit))]
	s.leaf(name + " " + v)
	return v
}

func join(parts []string) string {
	var out []string
	for _, p := range parts {
		if p != "" {
			out = append(out, p)
		}
	}
	return strings.Join(out, " ")
}
