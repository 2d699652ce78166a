package css

import (
	"strconv"
	"strings"

	"github.com/tdewolff/parse/v2/css"
)

func counts(otherwise int) func(v []Token) ([]Count, bool) {
	return func(v []Token) ([]Count, bool) {
		if ident(v) == "none" {
			return nil, true
		}
		var out []Count
		for _, t := range v {
			switch {
			case t.Kind == css.WhitespaceToken:
			case t.Kind == css.IdentToken:
				out = append(out, Count{t.Text, otherwise})
			case t.Kind == css.NumberToken && len(out) > 0:
				n, err := strconv.Atoi(t.Text)
				if err != nil {
					return nil, false
				}
				out[len(out)-1].N = n
			default:
				return nil, false
			}
		}
		return out, len(out) > 0
	}
}

func defineLists() {
	edit := func(s *Style) *Counters {
		c := Counters{}
		if s.Counters != nil {
			c = *s.Counters
		}
		s.Counters = &c
		return s.Counters
	}
	part := func(name string, otherwise int, at func(c *Counters) *[]Count) {
		parse := counts(otherwise)
		define(name, false, func(v []Token) (setter, bool) {
			list, ok := parse(v)
			return func(s *Style, _ *computing) { *at(edit(s)) = list }, ok
		}, func(dst, src *Style) {
			var list []Count
			if src.Counters != nil {
				list = *at(src.Counters)
			}
			*at(edit(dst)) = list
		})
	}
	part("counter-reset", 0, func(c *Counters) *[]Count { return &c.Reset })
	part("counter-increment", 1, func(c *Counters) *[]Count { return &c.Increment })
	part("counter-set", 0, func(c *Counters) *[]Count { return &c.Set })
	field("quotes", true, func(s *Style) *[]string { return &s.Inherited.Quotes },
		func(v []Token) (func(*computing) []string, bool) {
			out := []string{}
			switch ident(v) {
			case "auto":
				return func(*computing) []string { return nil }, true
			case "none":
				return func(*computing) []string { return out }, true
			}
			for _, t := range v {
				if t.Kind == css.StringToken {
					out = append(out, unquote(t.Text))
				} else if t.Kind != css.WhitespaceToken {
					return nil, false
				}
			}
			return func(*computing) []string { return out }, len(out) > 0 && len(out)%2 == 0
		})
}

// FormatCounter writes a counter's value in a counter style, without prefix and suffix (CSS Counter Styles 3,
// sections 6 and 7). Unknown styles are decimal.
func FormatCounter(n int, style string) string {
	abs := n
	if n < 0 {
		abs = -n
	}
	switch style {
	case "none":
		return ""
	case "disc":
		return "•"
	case "circle":
		return "◦"
	case "square":
		return "▪"
	case "decimal-leading-zero":
		s := strconv.Itoa(abs)
		if len(s) < 2 {
			s = "0" + s
		}
		if n < 0 {
			s = "-" + s
		}
		return s
	case "lower-alpha", "lower-latin":
		return alphabetic(n, "abcdefghijklmnopqrstuvwxyz")
	case "upper-alpha", "upper-latin":
		return alphabetic(n, "ABCDEFGHIJKLMNOPQRSTUVWXYZ")
	case "lower-greek":
		return alphabetic(n, "αβγδεζηθικλμνξοπρστυφχψω")
	case "lower-roman":
		return strings.ToLower(roman(n))
	case "upper-roman":
		return roman(n)
	}
	return strconv.Itoa(n)
}

func alphabetic(n int, letters string) string {
	list := []rune(letters)
	if n < 1 {
		return strconv.Itoa(n)
	}
	var out []rune
	for ; n > 0; n = (n - 1) / len(list) {
		out = append([]rune{list[(n-1)%len(list)]}, out...)
	}
	return string(out)
}

func roman(n int) string {
	if n < 1 || n > 3999 {
		return strconv.Itoa(n)
	}
	var b strings.Builder
	for _, d := range []struct {
		n int
		s string
	}{{1000, "M"}, {900, "CM"}, {500, "D"}, {400, "CD"}, {100, "C"}, {90, "XC"}, {50, "L"}, {40, "XL"}, {10, "X"},
		{9, "IX"}, {5, "V"}, {4, "IV"}, {1, "I"}} {
		for ; n >= d.n; n -= d.n {
			b.WriteString(d.s)
		}
	}
	return b.String()
}

// knownCounterStyles are the values of list-style-type that markers are measured for.
var knownCounterStyles = map[string]bool{}

func init() {
	for _, n := range strings.Fields(`none disc circle square disclosure-open disclosure-closed decimal
	decimal-leading-zero lower-alpha lower-latin upper-alpha upper-latin
	lower-greek lower-roman upper-roman inherit initial unset revert`) {
		knownCounterStyles[n] = true
	}
}
