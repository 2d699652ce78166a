// Package grammar says whether text is a value of a CSS property, as a whole: it matches values against definitions
// in the value definition syntax of CSS Values and Units 4 (section 2), which stand in values.txt. It knows nothing
// of pages; var() is for the caller to resolve.
package grammar

import (
	"slices"
	"strings"
)

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
				list = append(list, strings.Trim(unescape(strings.TrimSpace(t.text[strings.IndexByte(t.text, '(')+
					1:len(t.text)-1])), `"'`))
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
