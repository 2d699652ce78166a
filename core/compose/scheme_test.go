package compose_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/compose"
	"ziegel/internal/testsite"
)

// A page, or a theme, that is dark for everybody says so to the browser, and has those colors in the light, too.
func TestAPageThatKeepsOneScheme(t *testing.T) {
	for _, c := range []struct{ page, site, meta, sheet string }{
		{"scheme: dark\n", "", `content="dark"`, "color-scheme: dark;"},
		{"scheme: light\n", "", "", "color-scheme: light;"},
		{"", "theme: lamplight\n", `content="dark"`, ""},
		{"scheme: light\n", "theme: lamplight\n", "", "color-scheme: light;"},
		{"", "", `content="light dark"`, ""},
	} {
		e := testsite.With(t, "title: T\n"+c.page+"blocks: [{name: a, section: hero/alone}]\n", c.site)
		page, problems := compose.Compose(e, e.Site.Page("home"), compose.Options{})
		require.NoError(t, problems.Err())
		if c.meta == "" {
			assert.NotContains(t, page.HTML, `name="color-scheme"`, c)
		} else {
			assert.Contains(t, page.HTML, `<meta name="color-scheme" `+c.meta, c)
		}
		if c.sheet == "" {
			assert.NotContains(t, page.Own.Text, "color-scheme", c)
		} else {
			assert.Contains(t, page.Own.Text, c.sheet, c)
			ground, _ := e.Theme.Token("color.plain.ground")
			want := map[bool]string{true: ground.Dark, false: ground.Value}[c.page == "scheme: dark\n"]
			assert.Contains(t, page.Own.Text, "--color-plain-ground: "+want+";", c)
		}
	}
}
