package audit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"ziegel/core/audit"
)

const plansPage = "title: T\nblocks:\n  - name: plans\n    section: pricing/plans\n    style:\n"

// remarks lists what a review says of the styles of one block.
func remarks(t *testing.T, style string) []string {
	t.Helper()
	env := siteWith(t, plansPage+style)
	var out []string
	for _, r := range audit.Effects(env, "home", "plans") {
		out = append(out, r.Text)
	}
	return out
}

// A style that works is never said to do nothing, whatever it changes; one that does nothing is.
func TestTheReviewKnowsWhatWorks(t *testing.T) {
	for _, style := range []string{
		"card: {border-radius: 9px}", "card: {box-shadow: 0 0 4px red}", "card: {border-color: red}", "card: {outline: 1px solid red}", "heading: {text-decoration: underline}",
		"card: {transition: opacity .2s}", "card: {animation: drift 2s}", "card: {cursor: pointer}", "card: {background: 'linear-gradient(red, blue)'}", "card: {clip-path: circle(50%)}",
		"'link:hover': {text-decoration: underline}", "'card:hover': {transform: translateY(-2px)}", "'card::before': {content: '\"x\"', color: red}", "'link:hover at phone': {color: red}",
		"root: {font-family: serif}\n      heading: {font-family: serif}", "'card:checked': {color: red}",
	} {
		assert.Empty(t, remarks(t, "      "+style+"\n"), style)
	}
	for style, says := range map[string]string{
		"card: {border-top-left-radius: 3px, border-radius: 9px}":                               "home/plans.card: border-top-left-radius never wins",
		"card: {padding: 3px}\n      'card at ..20000': {padding: 4px}":                         "home/plans.card: padding never wins",
		"'link:hover': {color: red}\n      'link:hover at ..20000': {color: blue}":              "home/plans.link:hover: color never wins",
		"'card::after': {content: '\"a\"'}\n      'card::after at ..20000': {content: '\"b\"'}": "home/plans.card::after: content never wins",
	} {
		got := remarks(t, "      "+style+"\n")
		if assert.Len(t, got, 1, style) {
			assert.Contains(t, got[0], says)
		}
	}
}

// Rules that say the same are built once and keep the place where each was written.
func TestSharedRulesKeepTheirPlaces(t *testing.T) {
	env := siteWith(t, plansPage+"      root: {font-family: serif}\n      heading: {font-family: serif}\n")
	l := swept(t, env)
	r := l.Engine().Layout(800)
	for part, line := range map[string]string{"root": "pages/home.yaml:6:14", "heading": "pages/home.yaml:7:17"} {
		links, _ := audit.Chain(l, r, audit.Find(l, "plans", part, 0)[0], "font-family")
		assert.Equal(t, line, links[0].At, part)
		assert.True(t, links[0].Wins, part)
	}
}
