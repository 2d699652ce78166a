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
	if testing.Short() {
		t.Skip("tries every option of a site")
	}
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
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
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
	env := testsite.With(t, "title: T\nblocks: []\n", "looks: {loud: {font-family: Marlow}}\n")
	assert.Len(t, review.MissingFonts(env), 1, "shared looks count")
}

// What a review says of a whole site: values by hand more than once and nearly alike, with the token that is meant;
// looks that are one; shared looks that serve nobody. What a token says, or a shared look, is no value by hand.
func TestReviewsOfSites(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	page := func(styles ...string) string {
		out := "title: T\nblocks:\n"
		for i, s := range styles {
			out += "  - {name: b" + string(rune('a'+i)) + ", section: pricing/plans, style: {" + s + "}}\n"
		}
		return out
	}
	for name, c := range map[string]struct {
		home, site string
		want       []string // KIND TEXT TRY
	}{
		"nothing": {page("card: {padding: '{space.near}'}", "card: {gap: '{space.near}'}"), "", nil},
		"twice by hand": {page("card: {padding: 33px}", "card: {margin-top: 33px}"), "", []string{
			"repeated 33px is written by hand 2 times: home/ba.card padding, home/bb.card margin-top | a shared look"}},
		"rem and px are one": {page("card: {padding: 2.5rem}", "card: {gap: 40px}"), "", []string{
			"repeated 2.5rem is written by hand 2 times: home/ba.card padding, home/bb.card gap | a shared look"}},
		"of two scales": {page("card: {padding: 33px}", "heading: {font-size: 33px}"), "", nil},
		"no length":     {page("card: {padding: 0}", "card: {padding: 0}"), "", nil},
		"not a scale":   {page("card: {max-width: 301px}", "card: {max-width: 301px}"), "", nil},
		"nearly alike": {page("card: {padding: 301px}", "card: {padding: 302px}"), "",
			[]string{"nearly-alike 301, 302 px are nearly alike: home/ba.card padding, home/bb.card padding | 301px for all, or a shared look"}},
		"not so near": {page("card: {padding: 10px}", "card: {padding: 12px}"), "", nil},
		"the same look": {page("card: {padding: 33px, opacity: .9}", "lead: {opacity: .9, padding: 33px}"),
			"", []string{"repeated 33px is written by hand 2 times: home/ba.card padding, home/bb.lead padding | a shared look", "same-look these look the same and share no style: home/ba.card, home/bb.lead | ziegel style --from home/ba.card --for look NAME"}},
		"one property is no look": {page("card: {opacity: .9}", "lead: {opacity: .9}"), "", nil},
		"unused": {page(), "looks: {loud: {opacity: .9}}\n",
			[]string{"unused-style nothing uses the shared look loud | ziegel style --reset --for look loud"}},
		"used": {page("card: {use: loud}"), "looks: {loud: {opacity: .9}}\n", nil},
		"used by defaults": {page("lead: {opacity: .9}"),
			"looks: {loud: {opacity: .8}}\ndefaults: {pricing/plans: {style: {card: {use: [loud]}}}}\n", nil},
		"five times": {page("card: {padding: 33px}", "card: {padding: 33px}", "card: {padding: 33px}",
			"card: {padding: 33px}", "card: {padding: 33px}"), "", []string{
			"repeated 33px is written by hand 5 times: home/ba.card padding, home/bb.card padding, home/bc.card padding, home/bd.card padding, and 1 more | a shared look"}},
	} {
		var got []string
		for _, r := range review.Review(testsite.With(t, c.home, c.site)) {
			got = append(got, r.Kind+" "+r.Text+" | "+r.Try)
			assert.NotEmpty(t, r.At, name)
		}
		assert.Equal(t, c.want, got, name)
	}
}

// The color and the distance of a token are named when somebody writes them by hand.
func TestTokensThatAreMeant(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	env := testsite.With(t, "title: T\nblocks: []\n")
	accent, _ := env.Theme.Token("color.plain.accent")
	style := "card: {color: '" + accent.Value + "'}"
	env = testsite.With(t, "title: T\nblocks:\n  - {name: a, section: pricing/plans, style: {"+style+
		"}}\n  - {name: b, section: pricing/plans, style: {"+style+"}}\n")
	list := review.Review(env)
	if assert.Len(t, list, 1) {
		assert.Equal(t, "{color.accent}", list[0].Try)
		assert.Equal(t, []string{"pages/home.yaml:3:54", "pages/home.yaml:4:54"}, list[0].At)
	}
}

// A role is another color in another tone: it is named only where it is the one that was written.
func TestRolesOfTones(t *testing.T) {
	if testing.Short() {
		t.Skip("takes half of a second")
	}
	env := testsite.With(t, "title: T\nblocks: []\n")
	ground, _ := env.Theme.Token("color.deep.ground")
	for tone, want := range map[string]string{"deep": "{color.ground}", "plain": "{color.ink}",
		"accent": "a shared look"} {
		style := "tone: " + tone + ", style: {card: {color: '" + ground.Value + "'}}"
		list := review.Review(testsite.With(t, "title: T\nblocks:\n  - {name: a, section: pricing/plans, "+style+
			"}\n  - {name: b, section: pricing/plans, "+style+"}\n"))
		if assert.NotEmpty(t, list, tone) {
			assert.Equal(t, want, list[0].Try, tone)
		}
	}
}

// Styles for parts by their position, for defaults and for conditions are judged where they apply.
func TestEffectsOfConditions(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	for style, says := range map[string]string{
		"'card[2]': {padding: 9px}":                               "",
		"'card when stacked': {padding: 9px}":                     "",
		"'card in ..300': {padding: 9px}":                         "",
		"heading: {display: block}":                               "says what",
		"card: {width: 9px}\n      'card at phone': {width: 9px}": "home/plans.card at phone: width says what this block says anyway",
	} {
		got := remarks(t, "      "+style+"\n")
		if says == "" {
			assert.Empty(t, got, style)
		} else if assert.NotEmpty(t, got, style) {
			assert.Contains(t, got[0], says)
		}
	}
}
