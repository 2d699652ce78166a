package css

import (
	"strings"

	"github.com/tdewolff/parse/v2/css"
)

func ident(v []Token) string {
	if len(v) == 1 && (v[0].Kind == css.IdentToken) {
		return strings.ToLower(v[0].Text)
	}
	return ""
}

// endOfValue gives the index after the component value at i.
func endOfValue(v []Token, i int) int {
	depth := 0
	for ; i < len(v); i++ {
		switch v[i].Kind {
		case css.FunctionToken, css.LeftParenthesisToken, css.LeftBracketToken:
			depth++
		case css.RightParenthesisToken, css.RightBracketToken:
			depth--
		}
		if depth == 0 {
			return i + 1
		}
	}
	return len(v)
}

// inside gives what stands between the brackets of the component value from i to end; what is not closed ends there.
func inside(v []Token, i, end int) []Token {
	if end > i+1 {
		switch v[end-1].Kind {
		case css.RightParenthesisToken, css.RightBracketToken:
			end--
		}
	}
	return v[min(i+1, end):end]
}

// arbitrary reports a function that is replaced for each element.
func arbitrary(t Token) bool {
	return t.Kind == css.FunctionToken && (t.Is("attr(") || t.Is("if(") || t.Is("sibling-index(") ||
		t.Is("sibling-count(") || strings.HasPrefix(t.Text, "--"))
}

func hasArbitrary(v []Token) bool {
	for _, t := range v {
		if arbitrary(t) {
			return true
		}
	}
	return false
}

func hasVar(v []Token) bool {
	for _, t := range v {
		open := t.Kind == css.FunctionToken && (t.Is("var(") || t.Is("env(")) || arbitrary(t) && !t.Is("attr(")
		if open {
			return true
		}
	}
	return false
}

func mentions(v []Token, words ...string) bool {
	for _, t := range v {
		for _, w := range words {
			if t.Is(w) {
				return true
			}
		}
	}
	return false
}

func hasWord(list, w string) bool {
	for _, x := range strings.Fields(strings.ToLower(list)) {
		if x == w {
			return true
		}
	}
	return false
}

func urlText(s string) string {
	s = strings.TrimSuffix(s[4:], ")")
	return unquote(strings.TrimSpace(s))
}

var sideNames = [4]string{"top", "right", "bottom", "left"}

func contains(list []string, s string) bool {
	for _, x := range list {
		if x == s {
			return true
		}
	}
	return false
}

func shift(nodes []*Node, by int) {
	for _, n := range nodes {
		n.Pos += by
		shift(n.Children, by)
	}
}

// longestValue is how many tokens a value may have after var() is replaced, so that variables that double each other
// stay harmless.
const longestValue = 1 << 14

// Address gives the address of a value that is one url().
func Address(v []Token) (string, bool) {
	v = trim(v)
	switch {
	case len(v) == 1 && v[0].Kind == css.URLToken:
		return urlText(v[0].Text), true
	case len(v) == 1 && len(v[0].Text) > 4 && strings.EqualFold(v[0].Text[:4], "url("):
		return urlText(v[0].Text), true
	case len(v) > 1 && v[0].Is("url(") && v[1].Kind == css.StringToken:
		return Unquote(v[1].Text), true
	}
	return "", false
}
