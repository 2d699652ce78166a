package review_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"ziegel/core/review"
	"ziegel/internal/testsite"
)

// remarks lists what a review says of the styles of one block.
func remarks(t *testing.T, style string) []string {
	t.Helper()
	env := testsite.With(t, testsite.Plans+style)
	var out []string
	for _, r := range review.Effects(env, "home", "plans") {
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

// A font that a style names and the site has no file for is told, with its place and the faces that are there.
func TestFontsThatNothingBringsAreTold(t *testing.T) {
	for style, want := range map[string][]string{
		"heading: {font-family: Marlow}":                                    {"Marlow"},
		"heading: {font-family: 'Marlow, \"Instrument Sans\", serif'}":      {"Marlow"},
		"heading: {font-family: '\"Instrument Sans\", Marlow'}":             nil,
		"heading: {font-family: '{face.body}'}":                             nil,
		"heading: {font-family: serif}":                                     nil,
		"heading: {font: 'italic 700 2rem/1.2 \"Marlow Two\", sans-serif'}": {"Marlow Two"},
		"'heading at phone': {font: 20px Marlow}":                           {"Marlow"},
		"heading: {font-weight: '700'}":                                     nil,
	} {
		env := testsite.With(t, testsite.Plans+"      "+style+"\n")
		var got []string
		for _, m := range review.MissingFonts(env) {
			got = append(got, m.Family)
			assert.Equal(t, "home", m.Page)
			assert.Equal(t, 6, m.Pos.Line)
			assert.Equal(t, []string{"{face.body}", "{face.display}"}, m.Faces)
		}
		assert.Equal(t, want, got, style)
	}
	env := testsite.With(t, "title: T\nblocks: []\n", "styles: {loud: {font-family: Marlow}}\n")
	assert.Len(t, review.MissingFonts(env), 1, "shared styles count")
}
