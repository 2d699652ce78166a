package words

import (
	"fmt"
	"regexp"
	"strings"
	"unicode"

	"golang.org/x/text/language"
)

// quotes are the marks of quotations by language: outer ones, then inner ones (Unicode CLDR 44, delimiters).
var quotes = map[string][4]string{
	"en": {
		"“",
		"”",
		"‘",
		"’",
	}, "de": {"„", "“", "‚", "‘"}, "fr": {"«\u00a0", "\u00a0»", "“", "”"}, "es": {"«", "»", "“", "”"},
	"it": {"«", "»", "“", "”"}, "nl": {"‘", "’", "“", "”"}, "pt": {"“", "”", "‘", "’"}, "pl": {"„", "”", "«", "»"},
	"sv": {"”", "”", "’", "’"}, "da": {"“", "”", "‘", "’"}, "nb": {"«", "»", "‘", "’"}, "fi": {"”", "”", "’", "’"},
	"cs": {"„", "“", "‚", "‘"}, "ar": {"”", "“", "’", "‘"}, "he": {"”", "”", "’", "’"},
}

const (
	noBreak = "\u00a0" // a space that does not break
	narrow  = "\u202f" // the same, thin
)

var (
	// what is not touched: code, targets of links, addresses of the web and of mail
	verbatim = regexp.MustCompile("`[^`]*`|\\]\\([^)]*\\)|https?://\\S+|\\S+@\\S+")
	dots     = regexp.MustCompile(`\.\.\.`)
	dashes   = regexp.MustCompile(`(\s)-{1,2}(\s)`)
	double   = regexp.MustCompile(`--`)
	sign     = regexp.MustCompile(`\([cC]\)(\s*\d{4})`)
	unit     = regexp.MustCompile(
		`(\d) (kg|g|mg|km|m|cm|mm|l|ml|px|h|min|kW|W|V|°C|°F|€|£|kr|zł|Kč|Uhr|%)($|[^\p{L}\d])`,
	)
	groups = regexp.MustCompile(`(^|[^\d.,+/-]\s?)([1-9]\d{0,2})((?: \d{3})+)($|[^\d\s]|\s\D)`)
	high   = regexp.MustCompile(`(\S) ?([;!?])($|\s|[”»])`)
)

// Tidy sets a text as its language (BCP 47 tag) is typeset: quotation marks, dashes, ellipses, spaces that do not break
// before units and thin ones in numbers, the copyright sign. It gives what it did, a word for each kind. Code, addresses
// and targets of links stay as they are; a text that is tidy already stays as it is.
func Tidy(text, tag string) (string, []string) {
	base := "en"
	if t, err := language.Parse(tag); err == nil {
		b, _ := t.Base()
		base = b.String()
	}
	marks, known := quotes[base]
	var did []string
	note := func(what string, before, after string) string {
		if before != after {
			did = append(did, what)
		}
		return after
	}
	kept := []string{}
	s := verbatim.ReplaceAllStringFunc(text, func(m string) string {
		kept = append(kept, m)
		return fmt.Sprintf("\ue000%d\ue001", len(kept)-1)
	})
	s = note("ellipsis", s, dots.ReplaceAllString(s, "…"))
	s = note("dash", s, double.ReplaceAllString(dashes.ReplaceAllString(s, "$1–$2"), "–"))
	s = note("copyright sign", s, sign.ReplaceAllString(s, "©$1"))
	s = note("space before a unit", s, unit.ReplaceAllString(s, "$1"+noBreak+"$2$3"))
	s = note("thin space in a number", s, groups.ReplaceAllStringFunc(s, func(m string) string {
		p := groups.FindStringSubmatch(m)
		return p[1] + p[2] + strings.ReplaceAll(p[3], " ", narrow) + p[4]
	}))
	if known {
		s = note("quotes", s, quoteMarks(s, marks))
	}
	if base == "fr" {
		s = note("space before a mark", s, high.ReplaceAllString(s, "$1"+narrow+"$2$3"))
	}
	for i, k := range kept {
		s = strings.ReplaceAll(s, fmt.Sprintf("\ue000%d\ue001", i), k)
	}
	return s, did
}

// quoteMarks puts the marks of a language in the place of straight ones. What stands after a letter or a digit closes, or
// is an apostrophe; an inch or a foot, 5", is left.
func quoteMarks(s string, marks [4]string) string {
	if strings.Count(s, `"`)%2 == 1 { // one of them is something else
		s = apostrophes(s)
		return s
	}
	var b strings.Builder
	open := false
	runes := []rune(s)
	for i, r := range runes {
		switch {
		case r != '"':
			b.WriteRune(r)
		case open:
			b.WriteString(marks[1])
			open = false
		case i > 0 && unicode.IsDigit(runes[i-1]):
			return apostrophes(s)
		default:
			b.WriteString(marks[0])
			open = true
		}
	}
	return apostrophes(b.String())
}

// apostrophes bends those between letters, and those that stand for what is left out at the beginning of a year.
func apostrophes(s string) string {
	runes := []rune(s)
	for i, r := range runes {
		apostrophe := r == '\'' && i > 0 && unicode.IsLetter(runes[i-1]) && i+1 < len(runes) &&
			unicode.IsLetter(runes[i+1])
		if apostrophe {
			runes[i] = '’'
		}
	}
	return string(runes)
}
