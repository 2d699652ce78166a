package audit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"ziegel/core/audit"
)

// A font that a style names and the site has no file for is told, with its place and the faces that are there (issue 14).
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
		env := siteWith(t, plansPage+"      "+style+"\n")
		var got []string
		for _, m := range audit.MissingFonts(env) {
			got = append(got, m.Family)
			assert.Equal(t, "home", m.Page)
			assert.Equal(t, 6, m.Pos.Line)
			assert.Equal(t, []string{"{face.body}", "{face.display}"}, m.Faces)
		}
		assert.Equal(t, want, got, style)
	}
	env := siteWith(t, "title: T\nblocks: []\n", "styles: {loud: {font-family: Marlow}}\n")
	assert.Len(t, audit.MissingFonts(env), 1, "shared styles count")
}
