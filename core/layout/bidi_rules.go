package layout

import (
	"slices"

	"golang.org/x/text/unicode/bidi"

	"ziegel/core/font"
)

// The rules by which text without isolates comes to its levels (UAX #9, sections 3.3.4 to 3.3.6).

// mostEmbedded is how deep levels go (UAX #9, BD2).
const mostEmbedded = 124

// bidiText is a text whose classes are resolved, rule by rule.
type bidiText struct {
	runes   []rune
	classes []bidi.Class
	own     bidi.Class // the direction around it, L or R
}

// resolveLevels gives the levels of a text, base where nothing says otherwise. Signs in it that begin an embedding
// begin an isolate.
func resolveLevels(seq []rune, base int8) []int8 {
	t := &bidiText{runes: seq, classes: make([]bidi.Class, len(seq)), own: bidi.L}
	if base%2 == 1 {
		t.own = bidi.R
	}
	for i, r := range seq {
		p, _ := bidi.LookupRune(r)
		t.classes[i] = p.Class()
	}
	inner := t.embeddings(base)
	plain := slices.Clone(t.classes)
	t.marks()
	t.numbers()
	t.brackets()
	t.neutrals()
	out := make([]int8, len(seq))
	blank := true // only spaces up to what stands at the level of the whole (rule L1)
	for i := len(seq) - 1; i >= 0; i-- {
		out[i] = base
		switch c := t.classes[i]; {
		case plain[i] == bidi.S || plain[i] == bidi.B:
			blank = true
			continue
		case blank && i < len(seq)-1 && plain[i] == bidi.WS:
			continue
		case base%2 == 0 && c == bidi.R, base%2 == 1 && c != bidi.R:
			out[i]++
		case base%2 == 0 && c != bidi.L:
			out[i] += 2
		}
		blank = false
	}
	for _, in := range inner {
		copy(out[in.from:], in.levels)
	}
	return out
}

// embedding is a part of a text that is put in order by itself.
type embedding struct {
	from   int
	levels []int8
}

// embeddings resolves what stands between the signs that begin and end embeddings, and leaves neutral signs in its
// place (rules X1 to X8).
func (t *bidiText) embeddings(base int8) (out []embedding) {
	open, from := 0, 0
	for i, c := range t.classes {
		switch c {
		case bidi.LRE, bidi.RLE, bidi.LRO, bidi.RLO, bidi.LRI, bidi.RLI, bidi.FSI:
			if open++; open == 1 {
				from = i
			}
		case bidi.PDF, bidi.PDI:
			if open > 0 {
				if open--; open == 0 {
					out = append(out, t.embedding(from, i, base))
				}
			}
		}
	}
	if open > 0 {
		out = append(out, t.embedding(from, len(t.runes), base))
	}
	for i, c := range t.classes { // those that close nothing
		if c == bidi.PDF || c == bidi.PDI {
			t.classes[i] = bidi.BN
		}
	}
	return out
}

// embedding resolves what is behind the sign at from and before the one at to.
func (t *bidiText) embedding(from, to int, base int8) embedding {
	sign, text := t.classes[from], t.runes[from+1:to]
	rtl := sign == bidi.RLE || sign == bidi.RLO || sign == bidi.RLI || sign == bidi.FSI && against(text)
	level := base + 1
	if (level%2 == 1) != rtl {
		level++
	}
	in := embedding{from: from + 1}
	switch {
	case level > mostEmbedded:
		in.levels = make([]int8, len(text))
		fill(in.levels, base)
	case sign == bidi.LRO || sign == bidi.RLO:
		in.levels = make([]int8, len(text))
		fill(in.levels, level)
	default:
		in.levels = resolveLevels(text, level)
	}
	for i := from; i < min(to+1, len(t.classes)); i++ {
		t.classes[i] = bidi.ON
	}
	return in
}

// marks gives what stands on letters their class (rule W1). Signs that are not seen are as those.
func (t *bidiText) marks() {
	last := t.own
	for i, c := range t.classes {
		if c == bidi.NSM || c == bidi.BN {
			t.classes[i] = last
		}
		last = t.classes[i]
	}
}

// numbers resolves numbers and the signs in and at them (rules W2 to W7).
func (t *bidiText) numbers() {
	c := t.classes
	strong := t.own
	for i := range c {
		switch c[i] {
		case bidi.L, bidi.R, bidi.AL:
			strong = c[i]
		case bidi.EN:
			if strong == bidi.AL {
				c[i] = bidi.AN
			}
		}
	}
	for i := range c {
		switch {
		case c[i] == bidi.AL:
			c[i] = bidi.R
		case i == 0 || i == len(c)-1 || c[i-1] != c[i+1]:
		case c[i] == bidi.ES && c[i-1] == bidi.EN,
			c[i] == bidi.CS && (c[i-1] == bidi.EN || c[i-1] == bidi.AN):
			c[i] = c[i-1]
		}
	}
	for i := range c {
		if c[i] == bidi.ET && i > 0 && c[i-1] == bidi.EN {
			c[i] = bidi.EN
		}
	}
	for i := len(c) - 2; i >= 0; i-- {
		if c[i] == bidi.ET && c[i+1] == bidi.EN {
			c[i] = bidi.EN
		}
	}
	strong = t.own
	for i := range c {
		switch c[i] {
		case bidi.ES, bidi.ET, bidi.CS:
			c[i] = bidi.ON
		case bidi.L, bidi.R:
			strong = c[i]
		case bidi.EN:
			if strong == bidi.L {
				c[i] = bidi.L
			}
		}
	}
}

// sided gives the side that a class counts for where signs without one stand beside it; ON for none.
func sided(c bidi.Class) bidi.Class {
	switch c {
	case bidi.L:
		return bidi.L
	case bidi.R, bidi.EN, bidi.AN:
		return bidi.R
	}
	return bidi.ON
}

// mostBrackets is how many may be open at once (UAX #9, BD16).
const mostBrackets = 63

// bracketPairs finds the brackets that belong together, in the order of those that open.
func (t *bidiText) bracketPairs() (pairs [][2]int) {
	type opener struct {
		closes string
		at     int
	}
	var open []opener
	for i, r := range t.runes {
		p, _ := bidi.LookupRune(r)
		switch {
		case t.classes[i] != bidi.ON || !p.IsBracket():
		case p.IsOpeningBracket():
			if len(open) == mostBrackets {
				return nil
			}
			open = append(open, opener{bidi.ReverseString(string(r)), i})
		default:
			for k := len(open) - 1; k >= 0; k-- {
				if open[k].closes == string(r) {
					pairs = append(pairs, [2]int{open[k].at, i})
					open = open[:k]
					break
				}
			}
		}
	}
	slices.SortFunc(pairs, func(a, b [2]int) int { return a[0] - b[0] })
	return pairs
}

// brackets gives brackets the direction of what they hold (rule N0).
func (t *bidiText) brackets() {
	pairs := t.bracketPairs()
	if len(pairs) == 0 {
		return
	}
	other := bidi.L + bidi.R - t.own
	own, against := make([]int, len(t.classes)+1), make([]int, len(t.classes)+1) // how many are before each rune
	for i, c := range t.classes {
		own[i+1] = own[i] + bit(sided(c) == t.own)
		against[i+1] = against[i] + bit(sided(c) == other)
	}
	before := t.own
	for i := range t.classes {
		if len(pairs) > 0 && pairs[0][0] == i {
			to := pairs[0][1]
			switch {
			case own[to] > own[i]:
				t.bracket(pairs[0], t.own)
			case against[to] > against[i]: // as what is before them, when it runs like what is in them
				t.bracket(pairs[0], before)
			}
			pairs = pairs[1:]
		}
		if s := sided(t.classes[i]); s != bidi.ON {
			before = s
		}
	}
}

// bracket gives two brackets, and what stands on them, a direction.
func (t *bidiText) bracket(pair [2]int, is bidi.Class) {
	for _, i := range pair {
		t.classes[i] = is
		for i++; i < len(t.runes); i++ {
			if p, _ := bidi.LookupRune(t.runes[i]); p.Class() != bidi.NSM {
				break
			}
			t.classes[i] = is
		}
	}
}

// neutrals gives what has no direction that of what is on both its sides, or else that around (rules N1 and N2).
func (t *bidiText) neutrals() {
	before := t.own
	for i := 0; i < len(t.classes); {
		if s := sided(t.classes[i]); s != bidi.ON {
			before = s
			i++
			continue
		}
		j := i
		for j < len(t.classes) && sided(t.classes[j]) == bidi.ON {
			j++
		}
		after := t.own
		if j < len(t.classes) {
			after = sided(t.classes[j])
		}
		is := t.own
		if before == after {
			is = before
		}
		for ; i < j; i++ {
			t.classes[i] = is
		}
	}
}

func fill(levels []int8, with int8) {
	for i := range levels {
		levels[i] = with
	}
}

// against reports text whose first letter runs from right to left.
func against(text []rune) bool {
	for _, r := range text {
		if rtl, strong := font.RightToLeft(r); strong {
			return rtl
		}
	}
	return false
}
