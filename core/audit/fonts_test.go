package audit_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/audit"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/settle"
	"ziegel/core/sweep"
)

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

// What composing only warns of is a finding too: a drawing that holds more than a drawing, an overlay under which text is hard to read.
func TestWarningsOfComposingAreFindings(t *testing.T) {
	for block, want := range map[string]string{
		"content: {heading: H, media: {file: a.svg, alt: A kite}}": "unsafe-picture",
		"ground: {picture: a.svg, overlay: 0%}":                    "overlay-thin",
		"ground: {picture: b.svg}":                                 "",
	} {
		env := siteWith(t, "title: Home\nblocks:\n  - name: b\n    section: hero/beside\n    "+block+"\n")
		media := filepath.Join(env.Site.Dir, "media")
		require.NoError(t, os.MkdirAll(media, 0o777))
		for name, script := range map[string]string{"a.svg": "<script>a()</script>", "b.svg": ""} {
			require.NoError(t, os.WriteFile(filepath.Join(media, name), []byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 30" width="40" height="30">`+script+`<rect width="40" height="30" fill="#889"/></svg>`), 0o666))
		}
		page, problems := settle.Page(env, env.Site.Page("home"), compose.Options{Marks: true})
		require.NoError(t, problems.Err())
		l, err := sweep.FromPage(env, page)
		require.NoError(t, err)
		var got []string
		for _, f := range audit.Content(l, env.Site.Page("home"), problems) {
			if f.Rule == "unsafe-picture" || f.Rule == "overlay-thin" {
				got = append(got, f.Rule)
				assert.Equal(t, diag.Warning, f.Severity)
				assert.Equal(t, "b", f.Block)
			}
		}
		if want == "" {
			assert.Empty(t, got)
		} else {
			assert.Contains(t, got, want, block)
		}
	}
}
