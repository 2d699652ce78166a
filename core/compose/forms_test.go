package compose_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/compose"
)

// A form that is sent by the web has a trap for programs and the page that follows; one that is sent as a mail has
// neither; each required control says in the page's language what it wants.
func TestFormsAreReadyToBeSent(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	const trap = `<label class="trap" aria-hidden="true">Leave this empty<input type="text" name="homepage" tabindex="-1" autocomplete="off"></label>`
	for _, c := range []struct {
		name, section, site, content string
		has, hasNot                  []string
		rule, at                     string
	}{
		{"to an endpoint", "contact/details", "address: https://mine.example",
			"{send-to: 'https://f.example/post', then: thanks}",
			[]string{`action="https://f.example/post"`, trap, "Please fill this in.", "Please write an e-mail address",
				`<input type="hidden" name="then" value="https://mine.example/thanks/">`},
			[]string{"enctype"}, "", ""},
		{"a place of its own page", "contact/details", "address: https://mine.example",
			"{send-to: 'https://f.example/post', then: '#write'}",
			[]string{`name="then" value="https://mine.example/#write"`}, nil, "", ""},
		{"a page of others", "contact/details", "name: Mine",
			"{send-to: 'https://f.example/post', then: 'https://o.example/'}",
			[]string{`name="then" value="https://o.example/"`}, nil, "", ""},
		{"to a mail address", "contact/details", "address: https://mine.example", "{send-to: ines@mine.example}",
			[]string{`action="mailto:ines@mine.example"`, `enctype="text/plain"`, "objection"},
			[]string{"trap", `name="then"`}, "", ""},
		{"a mail and a page after it", "contact/details", "address: https://mine.example",
			"{send-to: ines@mine.example, then: thanks}", nil, []string{`name="then"`}, "then-unseen", "5:49"},
		{"a page after it and no address", "contact/details", "name: Mine",
			"{send-to: 'https://f.example/post', then: thanks}", []string{trap}, nil, "then-unseen", "5:56"},
		{"a page that is not there", "contact/details", "address: https://mine.example",
			"{send-to: 'https://f.example/post', then: thank}", nil, nil, "dead-link", "5:56"},
		{"to a page of the site", "contact/details", "address: https://mine.example", "{send-to: thanks}", nil,
			nil, "form-nowhere", "5:24"},
		{"to half a mail address", "contact/details", "address: https://mine.example", "{send-to: ines@mine}", nil,
			nil, "form-nowhere", "5:24"},
		{"a search", "hero/search", "address: https://mine.example", "{send-to: 'https://f.example/find'}",
			[]string{`action="https://f.example/find"`}, []string{"trap"}, "", ""},
		{"a search by mail", "hero/search", "name: Mine", "{send-to: ines@mine.example}", nil, nil, "form-nowhere",
			"5:24"},
		{"in German", "newsletter/line", "address: https://mine.example\nlanguage: de",
			"{send-to: 'https://f.example/post'}",
			[]string{"Bitte leer lassen",
				`<span class="objection">Bitte geben Sie eine E-Mail-Adresse an`}, nil, "", ""},
	} {
		t.Run(c.name, func(t *testing.T) {
			files := map[string]string{"ziegel.yaml": "theme: marram\n" + c.site + "\n",
				"pages/thanks.yaml": "title: Thanks\nblocks: []\n",
				"pages/home.yaml": "title: T\nblocks:\n  - name: write\n    section: " + c.section +
					"\n    content: " + c.content + "\n"}
			env, wrong := open(t, files)
			require.NoError(t, wrong.Err())
			p, problems := compose.Compose(env, env.Site.Page("home"), compose.Options{})
			for _, want := range c.has {
				assert.Contains(t, p.HTML, want)
			}
			for _, not := range c.hasNot {
				assert.NotContains(t, p.HTML, not)
			}
			if c.rule == "" {
				assert.Empty(t, problems)
				return
			}
			require.Len(t, problems, 1)
			assert.Equal(t, c.rule, problems[0].Rule)
			assert.True(
				t,
				strings.HasPrefix(problems[0].Position.String(), "pages/home.yaml:"+c.at),
				problems[0].Position,
			)
		})
	}
}
