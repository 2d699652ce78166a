package project

import (
	"fmt"
	"regexp"
	"strings"

	"ziegel/core/css"
	"ziegel/core/css/grammar"
	"ziegel/core/diag"
	"ziegel/core/theme"
)

var TokenRef = regexp.MustCompile(`\{([^{}]*)\}`)

// CheckProperty checks a CSS property and its value, tokens in braces included. The problem has no position.
func CheckProperty(e *Project, name, value string) *diag.Problem {
	if !css.KnownProperty(name) || strings.HasPrefix(name, "--") {
		return &diag.Problem{Severity: diag.Error, Rule: "unknown-property",
			Text:     fmt.Sprintf("there is no CSS property %q", name),
			Expected: "a CSS property such as padding or font-size",
			Try:      diag.Nearest(name, css.PropertyNames())}
	}
	for _, m := range TokenRef.FindAllStringSubmatch(value, -1) {
		if _, ok := e.Theme.Reference(m[1]); !ok {
			p := &diag.Problem{Severity: diag.Error, Rule: "unknown-token",
				Text: fmt.Sprintf("the theme has no token %q", m[1]), Expected: "a token of the theme"}
			if n := diag.Nearest(m[1], e.Theme.Names()); n != "" {
				p.Try = "{" + n + "}"
			}
			return p
		}
	}
	bad := func(expected string) *diag.Problem {
		return &diag.Problem{Severity: diag.Error, Rule: "bad-value",
			Text: fmt.Sprintf("%s cannot be %q", name, value), Expected: expected}
	}
	resolved := TokenRef.ReplaceAllStringFunc(value,
		func(ref string) string { return e.sampleOf(strings.Trim(ref, "{}")) })
	if grammar.Fetches(resolved) && grammar.Readable(resolved) {
		return bad("a value without an address: pictures are content, and the ground of a block takes one (picture: media/NAME)")
	}
	bare, _ := grammar.Names(resolved)
	for _, n := range bare {
		token, ok := e.tokenOf(n)
		if !ok {
			p := bad("a token in braces such as {color.accent}: no custom property " + n + " exists")
			var forms []string
			for _, name := range e.Theme.Names() {
				forms = append(forms, theme.Property(name), "--"+strings.TrimPrefix(name, "color."))
			}
			if near, ok := e.tokenOf(diag.Nearest(n, forms)); ok {
				p.Try = "{" + near + "}"
			}
			return p
		}
		resolved = regexp.MustCompile(`(?i)var\(\s*`+regexp.QuoteMeta(n)+`\s*\)`).ReplaceAllLiteralString(resolved,
			e.sampleOf(token))
	}
	if !css.CheckValue(name, resolved) {
		p := bad("a value that CSS allows for " + name)
		if regexp.MustCompile(`^-?[0-9.]+$`).MatchString(value) && css.CheckValue(name, value+"rem") {
			p.Try = value + "rem or " + value + "px"
		}
		return p
	}
	return nil
}

// sampleOf gives a value of a token as CSS, with which a value that names it can be checked. The tone decides on
// roles; any color will do.
func (e *Project) sampleOf(token string) string {
	k, _ := e.Theme.Token(token)
	if strings.HasPrefix(k.Value, "var(") {
		return "#000"
	}
	return k.Value
}

// tokenOf gives the token that stands behind a custom property: --space-far is space.far, --accent is color.accent.
func (e *Project) tokenOf(property string) (string, bool) {
	for _, n := range e.Theme.Names() {
		if theme.Property(n) == property || "--"+strings.TrimPrefix(n, "color.") == property {
			return n, true
		}
	}
	return "", false
}
