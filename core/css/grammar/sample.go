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
	return (&sampler{load(), r}).of(load()[property], 0)
}

type sampler struct {
	rules rules
	*rand.Rand
}

// mostNested is how deep kinds of values are made up in one another before a sampler prefers what ends soon.
const mostNested = 8

var sampleTerms = map[string][]string{
	"ident": {"up", "--kite"}, "dashed-ident": {"--kite"}, "string": {`"kite"`}, "url": {"url(kite.png)"},
	"hex": {"#fff", "#12345678"}, "bracketed-names": {"[left]", "[a b]"}, "zero": {"0"}, "tag": {`"wght"`},
	"number-percentage": {"50%", "2"}, "any": {"kite"},
	"integer": {"1", "3"}, "number": {"1", "0.5"}, "percentage": {"10%", "calc(50% - 10%)"},
	"length": {"0", "1px", "1.5rem", "calc(1px + 2vw)"}, "length-percentage": {"2px", "10%", "calc(1px + 5%)",
		"clamp(1px, 2vw, 3rem)"},
	"angle": {"45deg", "0.5turn"}, "time": {"1s", "100ms"}, "resolution": {"1x"}, "flex": {"1fr"},
}

func (s *sampler) of(n *node, depth int) string {
	switch n.op {
	case keyword, mark:
		return n.name
	case call:
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
		return s.of(d, depth+1)
	}
	if name == "math" || name == "nothing" {
		return ""
	}
	list := sampleTerms[name]
	fit := slices.DeleteFunc(slices.Clone(list), func(v string) bool {
		terms, ok := read(v)
		return !ok || !terms[0].is(n)
	})
	if len(fit) == 0 {
		return strconv.FormatFloat(n.low, 'f', -1, 64)
	}
	return fit[s.IntN(len(fit))]
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
