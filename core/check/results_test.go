package check_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/check"
	"ziegel/internal/testsite"
)

// What is wrong with pages in lists of results, each fault alone.
func TestPagesInListsOfResults(t *testing.T) {
	const fine = "title: Kites\ndescription: Kites for real wind, sewn on the coast.\nblocks: []\n"
	long := strings.Repeat("Nine kites went up. ", 8)
	for _, c := range []struct {
		name, home, other string
		want              []string // rule: part of the text
	}{
		{"fine", fine, "title: Other\ndescription: Another one.\nblocks: []\n", nil},
		{"nothing", "blocks: []\n", "", []string{"no-title: no title",
			"no-description: no description for search results"}},
		{"the same twice", fine, fine, []string{"same-title: the title of home: Kites · Mine",
			"same-description: the description of home"}},
		{"none twice is told as missing", "title: A\nblocks: []\n", "title: B\nblocks: []\n",
			[]string{"no-description: ", "no-description: "}},
		{"too long", "title: " + strings.Repeat("kite ", 12) + "\ndescription: " + long + "\nblocks: []\n", "",
			[]string{"long-title: 66 characters long, and lists of results show about 60: kite kite kite kite kite kite kite kite kite kite kite…",
				"long-description: 159 characters long"}},
		{"as long as may be", "title: " + strings.Repeat("k", 53) + "\ndescription: " + strings.Repeat("d", 155) +
			"\nblocks: []\n", "", nil},
	} {
		t.Run(c.name, func(t *testing.T) {
			files := map[string]string{"ziegel.yaml": "name: Mine\n", "pages/home.yaml": c.home}
			if c.other != "" {
				files["pages/other.yaml"] = c.other
			}
			e := testsite.Open(t, testsite.Write(t, files))
			var got []string
			found := check.Results(e)
			for _, page := range []string{"home", "other"} {
				for _, f := range found[page] {
					got = append(got, f.Rule+": "+f.Text)
				}
			}
			require.Len(t, got, len(c.want), "%q", got)
			for i, w := range c.want {
				rule, text, _ := strings.Cut(w, ": ")
				assert.True(t, strings.HasPrefix(got[i], rule+": "), got[i])
				assert.Contains(t, got[i], text)
			}
		})
	}
}

// A description is drafted from whole sentences of the page, and can be given as it is told.
func TestDescriptionsAreDrafted(t *testing.T) {
	for _, c := range []struct{ name, blocks, want string }{
		{"from what introduces",
			"  - {name: a, section: hero/alone, content: {heading: H, lead: 'Sewn *here*, [flown](home) there. It is the wind that decides how long a kite lives, and no one else.'}}\n",
			"Sewn here, flown there. It is the wind that decides how long a kite lives, and no one else."},
		{"from leads first, then from entries",
			"  - {name: a, section: features/cards, content: {items: [{title: A, text: Cloth that holds}]}}\n  - {name: b, section: hero/alone, content: {lead: 'Ines sews'}}\n",
			"Ines sews. Cloth that holds."},
		{"not twice the same",
			"  - {name: a, section: hero/alone, content: {lead: One.}}\n  - {name: b, section: hero/alone, content: {lead: One.}}\n", "One."},
		{"not longer than is shown", "  - {name: a, section: hero/alone, content: {lead: 'Short. " +
			strings.Repeat("word ", 40) + ".'}}\n", "Short."},
		{"one long sentence is cut after a word", "  - {name: a, section: hero/alone, content: {lead: '" +
			strings.Repeat("word ", 40) + ".'}}\n",
			strings.TrimSpace(strings.Repeat("word ", 30)) + "…"},
		{"parked blocks say nothing", "  - {name: a, parked: yes, section: hero/alone, content: {lead: One.}}\n", ""},
		{"samples say nothing", "  - {name: a, section: hero/alone}\n", ""},
	} {
		t.Run(c.name, func(t *testing.T) {
			e := testsite.Open(t, testsite.Write(t, map[string]string{"ziegel.yaml": "name: Mine\n",
				"pages/home.yaml": "title: T\nblocks:\n" + c.blocks}))
			assert.Equal(t, c.want, check.Draft(e.Site.Page("home")))
		})
	}
}
