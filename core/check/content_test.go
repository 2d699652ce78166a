package check_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/check"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/measure"
	"ziegel/core/sweep"
	"ziegel/internal/testsite"
)

// What composing only warns of is a finding too: a drawing that holds more than a drawing, an overlay under which
// text is hard to read.
func TestWarningsOfComposingAreFindings(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	for block, want := range map[string]string{
		"content: {heading: H, media: {file: a.svg, alt: A kite}}": "unsafe-picture",
		"ground: {picture: a.svg, overlay: 0%}":                    "overlay-thin",
		"ground: {picture: b.svg}":                                 "",
	} {
		env := testsite.With(t, "title: Home\nblocks:\n  - name: b\n    section: hero/beside\n    "+block+"\n")
		media := filepath.Join(env.Site.Dir, "media")
		require.NoError(t, os.MkdirAll(media, 0o777))
		for name, script := range map[string]string{"a.svg": "<script>a()</script>", "b.svg": ""} {
			require.NoError(t, os.WriteFile(filepath.Join(media, name),
				[]byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 30" width="40" height="30">`+script+
					`<rect width="40" height="30" fill="#889"/></svg>`), 0o666))
		}
		page, problems := measure.Page(env, env.Site.Page("home"), compose.Options{Marks: true})
		require.NoError(t, problems.Err())
		l, err := sweep.FromPage(env, page)
		require.NoError(t, err)
		var got []string
		for _, f := range check.Content(l, env.Site.Page("home"), problems) {
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
