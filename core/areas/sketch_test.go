package areas_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/areas"
	"ziegel/core/check"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/internal/testsite"
	"ziegel/stock"
)

func sketched(t testing.TB) string {
	t.Helper()
	env := testsite.Demo(t)
	s, err := check.Lay(env, env.Site.Page("home"), nil)
	require.NoError(t, err)
	return areas.Sketch(s.Prepared, "Kites", env.Site.Ranges)
}

func TestAPageIsSketchedToScale(t *testing.T) {
	text := sketched(t)
	for _, want := range []string{
		"  - name: opening\n    section: hero/beside\n    areas:\n      desktop: |\n        words  words  words  words  words  words  .      media  media  media  media  media\n      phone: |\n        words\n        media\n    parts:\n      words: [eyebrow, heading, lead, actions]\n      media: [picture]\n",
		"        card    card    card    card    card-2  card-2  card-2  card-2  card-3  card-3  card-3  card-3\n",
		"        words\n        card\n        card-2\n        card-3\n",
		"      card: [title, text, price, points, actions]\n",
	} {
		assert.Contains(t, text, want)
	}
}

func page(t testing.TB, text string) ([]areas.Block, []string) {
	t.Helper()
	env, problems, err := project.Shelf(stock.Files)
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	f, problems := site.ReadFile("idea.yaml", text)
	require.NoError(t, problems.Err())
	_, blocks, problems := areas.Page(f, env)
	var rules []string
	for _, p := range problems {
		rules = append(rules, p.Rule)
	}
	return blocks, rules
}

// TestASketchIsAPage reads the sketch of a page again: the same blocks of the same sections, and of the same kinds when
// no section is named.
func TestASketchIsAPage(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	text := sketched(t)
	want := []string{"nav/bar", "hero/beside", "features/cards", "pricing/plans", "testimonials/row", "footer/columns"}
	blocks, rules := page(t, text)
	require.Empty(t, rules)
	var got []string
	for _, b := range blocks {
		got = append(got, b.Section)
	}
	assert.Equal(t, want, got)
	var lines []string
	for _, l := range strings.Split(text, "\n") {
		if !strings.HasPrefix(l, "    section:") {
			lines = append(lines, l)
		}
	}
	blocks, rules = page(t, strings.Join(lines, "\n"))
	require.Empty(t, rules)
	for i, b := range blocks {
		kind, _, _ := strings.Cut(want[i], "/")
		found, _, _ := strings.Cut(b.Section, "/")
		assert.Equal(t, kind, found, "%s: %s", b.Name, b.Section)
	}
}

func TestDrawnPages(t *testing.T) {
	if testing.Short() {
		t.Skip("takes half of a second")
	}
	blocks, rules := page(t, `blocks:
  - areas: |
      link link link
  - areas: |
      words words picture
    parts: {words: [eyebrow, heading, lead, actions]}
  - name: prices
    areas: |
      intro  intro  intro
      plan   plan-2 plan-3
    parts: {intro: [heading], plan: [title, price, points, actions]}
  - areas: |
      quote quote name
`)
	require.Empty(t, rules)
	require.Len(t, blocks, 4)
	assert.Equal(t, "nav/bar", blocks[0].Section)
	assert.Equal(t, "hero/beside", blocks[1].Section)
	assert.Equal(t, "pricing/plans", blocks[2].Section)
	assert.Equal(t, "prices", blocks[2].Name)
	assert.NotEmpty(t, blocks[2].Near)
	assert.True(t, strings.HasPrefix(blocks[3].Section, "testimonials/"), blocks[3].Section)
	for text, want := range map[string]string{
		"title: x\n": "missing-key", "blocks: []\n": "missing-key",
		"blocks: [{name: X, areas: heading}]\n":                            "bad-name",
		"blocks: [{section: hero/besides}]\n":                              "unknown-section",
		"blocks: [{areas: heading, name: a}, {areas: heading, name: a}]\n": "name-taken",
		"blocks: [{areas: headng}]\n":                                      "empty-cell",
		"blocks: [{areas: a, parts: {a: [headng]}}]\n":                     "unknown-part",
		"blocks:\n  - areas: |\n      heading text\n      heading\n":       "uneven-rows",
		"blocks:\n  - areas: |\n      heading text\n      text heading\n":  "no-rectangle",
		"blocks: [{areas: {desk: heading}}]\n":                             "unknown-range",
	} {
		_, rules := page(t, text)
		assert.Contains(t, rules, want, text)
	}
}
