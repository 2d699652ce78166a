package words

import (
	"math"
	"slices"
	"strings"
	"unicode"
)

// pairing says which piece of a document is which field.
type pairing struct {
	of   map[*Node][]*Found // a text can have several paragraphs
	left []*Found           // nobody's
}

// pair finds the fields of a scope in what a document has there: by the names in comments, by what they say, then by
// their place among the others.
func pair(want []*Node, have []*Found) *pairing {
	p := &pairing{of: map[*Node][]*Found{}}
	owner := make([]*Node, len(have))
	take := func(n *Node, i int) {
		p.of[n] = append(p.of[n], have[i])
		owner[i] = n
	}
	for i, f := range have { // a comment says it
		for _, n := range want {
			if f.Name == n.Field && fits(n, f) && p.of[n] == nil {
				take(n, i)
				break
			}
		}
	}
	// the same words, or nearly
	type likely struct {
		n     *Node
		i     int
		score float64
	}
	var list []likely
	for k, n := range want {
		for i, f := range have {
			if p.of[n] != nil || owner[i] != nil || !fits(n, f) {
				continue
			}
			if s := alike(n, f); s >= nearly {
				list = append(list, likely{n, i, s - 1e-6*math.Abs(float64(k-i))})
			}
		}
	}
	slices.SortStableFunc(list, func(a, b likely) int {
		switch {
		case a.score > b.score:
			return -1
		case a.score < b.score:
			return 1
		}
		return 0
	})
	for _, l := range list {
		if p.of[l.n] == nil && owner[l.i] == nil {
			take(l.n, l.i)
		}
	}
	p.gaps(want, have, owner, take)
	for i, f := range have { // written anew and moved: a word in common has to do
		var best *Node
		most := distant
		for _, n := range want {
			if owner[i] == nil && p.of[n] == nil && fits(n, f) {
				if s := alike(n, f); s > most {
					best, most = n, s
				}
			}
		}
		if best != nil {
			take(best, i)
		}
	}
	for i, f := range have { // more paragraphs of a text
		if i == 0 || owner[i] != nil || owner[i-1] == nil {
			continue
		}
		before := owner[i-1]
		goesOn := len([]rune(before.Text)) >= running || len(paragraphs(before.Text)) > len(p.of[before])
		if f.Kind == Text && f.alone && before.Kind == Text && goesOn {
			take(before, i)
		}
	}
	for i, f := range have {
		if owner[i] == nil {
			p.left = append(p.left, f)
		}
	}
	return p
}

// nearly is from which likeness on two texts are versions of each other; distant is what a text that nothing else can
// be has to have in common with its field.
const (
	nearly  = .45
	distant = .15
)

// running is from how many letters on a text is running text, to which a writer may add a paragraph.
const running = 60

// gaps pairs what is left between fields that were found: one for one by place.
func (p *pairing) gaps(want []*Node, have []*Found, owner []*Node, take func(n *Node, i int)) {
	place := func(n *Node) int { return slices.Index(want, n) }
	from := -1 // index of the last field that was found
	for i := 0; i < len(have); i++ {
		if owner[i] != nil {
			from = place(owner[i])
			continue
		}
		to := len(want)
		for k := i; k < len(have); k++ {
			if owner[k] != nil && place(owner[k]) > from {
				to = place(owner[k])
				break
			}
		}
		f := have[i]
		if f.alone && i > 0 && owner[i-1] != nil && have[i-1].Name != "" {
			continue // a second paragraph under a comment
		}
		for k := from + 1; k < to; k++ {
			if n := want[k]; p.of[n] == nil && fits(n, f) {
				take(n, i)
				from = k
				break
			}
		}
	}
}

// fits reports whether a piece can be a field at all.
func fits(n *Node, f *Found) bool { return n.Kind == f.Kind }

// alike tells how much two texts have in common, from 0 to 1.
func alike(n *Node, f *Found) float64 {
	switch n.Kind {
	case List:
		return likeness(sayOf(n), sayOfFound(f))
	case Picture:
		if n.To == f.To {
			return 1
		}
		return 0
	case Link:
		s := likeness(n.Text, f.Text)
		if n.To == f.To && n.To != "#" {
			s = max(s, .8)
		}
		return s
	}
	first := n.Text
	if p := paragraphs(n.Text); len(p) > 0 {
		first = p[0]
	}
	return likeness(first, f.Text)
}

func sayOf(n *Node) string {
	var out []string
	each([]*Node{n}, func(n *Node) { out = append(out, n.Text) })
	return strings.Join(out, " ")
}

func sayOfFound(f *Found) string {
	if f.Kind != List {
		return f.Text
	}
	var out []string
	for _, it := range f.Items {
		out = append(out, sayOfAll(it))
	}
	return strings.Join(out, " ")
}

func sayOfAll(list []*Found) string {
	var out []string
	for _, f := range list {
		out = append(out, sayOfFound(f))
	}
	return strings.Join(out, " ")
}

// likeness compares texts by their words (Dice): 1 for the same, 0 for nothing in common.
func likeness(a, b string) float64 {
	x, y := bag(a), bag(b)
	all, both := 0, 0
	for w, n := range x {
		all += n
		both += min(n, y[w])
	}
	for _, n := range y {
		all += n
	}
	if all == 0 {
		return 0
	}
	return 2 * float64(both) / float64(all)
}

func bag(s string) map[string]int {
	out := map[string]int{}
	for _, w := range strings.FieldsFunc(strings.ToLower(s), func(r rune) bool {
		return !unicode.IsLetter(r) && !unicode.IsDigit(r)
	}) {
		out[w]++
	}
	return out
}

// pairEntries finds the entries of a list in the items of a document: from gives, for each item, the entry that it
// is, -1 for a new one.
func pairEntries(want [][]*Node, have [][]*Found) []int {
	from, taken := make([]int, len(have)), make([]bool, len(want))
	says := make([]string, len(want))
	for k, e := range want {
		var out []string
		each(e, func(n *Node) { out = append(out, n.Text) })
		says[k] = strings.Join(out, " ")
	}
	type likely struct {
		i, k  int
		score float64
	}
	var list []likely
	for i, it := range have {
		from[i] = -1
		said := sayOfAll(it)
		for k := range want {
			if s := likeness(says[k], said); s >= nearly || says[k] == "" && said == "" {
				list = append(list, likely{i, k, s - 1e-6*math.Abs(float64(k-i))})
			}
		}
	}
	slices.SortStableFunc(list, func(a, b likely) int {
		if a.score > b.score {
			return -1
		}
		if a.score < b.score {
			return 1
		}
		return 0
	})
	for _, l := range list {
		if from[l.i] < 0 && !taken[l.k] {
			from[l.i], taken[l.k] = l.k, true
		}
	}
	// what was written anew stands where the old one stood, when as many are left between their neighbors
	for i := 0; i < len(have); i++ {
		if from[i] >= 0 {
			continue
		}
		end := i
		for end < len(have) && from[end] < 0 {
			end++
		}
		lo, hi := -1, len(want)
		if i > 0 {
			lo = from[i-1]
		}
		if end < len(have) {
			hi = from[end]
		}
		var open []int
		for k := lo + 1; k < hi; k++ {
			if !taken[k] {
				open = append(open, k)
			}
		}
		for n, k := range open {
			if i+n < end {
				from[i+n], taken[k] = k, true
			}
		}
		i = end
	}
	return from
}
