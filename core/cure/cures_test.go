package cure_test

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/check"
	"ziegel/core/cure"
	"ziegel/core/store"
	"ziegel/internal/testsite"
)

// A cure keeps to the theme and to the order of type sizes: no color by hand, no heading smaller than those below it.
func TestCuresKeepTheThemeAndItsOrder(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	source, err := os.ReadFile("cure.go")
	require.NoError(t, err)
	assert.NotRegexp(t, `color=#`, string(source))

	const page = "title: T\nblocks:\n  - name: a\n    section: features/cards\n    content: {heading: Three things we will not hurry, items: [{title: Unaussprechlichkeiten und Donaudampfschiffe, text: a}, {title: B, text: b}]}\n    style:\n"
	env := testsite.With(t, page+"      heading: {color: '#f4f4f4'}\n")
	rep := check.Run(testsite.Swept(t, env), env.Site.Page("home"), nil, 600, 620)
	found := 0
	for _, f := range rep.Findings {
		if f.Rule != "contrast-low" {
			continue
		}
		found++
		assert.Equal(t, `heading: {color: "{color.ink}"}`, f.Cure)
		c, ok := cure.NewHealer(env, store.Store{Dir: t.TempDir()}, 600, 620, rep).Cure("home", f)
		require.True(t, ok)
		assert.Contains(t, c.Command, "{color.")
	}
	assert.Positive(t, found)

	// Nothing that is tried for a long word makes the heading smaller than the titles below it.
	env = testsite.With(t, strings.Replace(page, "Three things we will not hurry",
		"Donaudampfschifffahrtsgesellschaften", 1)+"      heading: {font-size: 4rem}\n      title: {font-size: 2rem}\n")
	rep = check.Run(testsite.Swept(t, env), env.Site.Page("home"), nil, 240, 320)
	for _, f := range rep.Findings {
		if f.Rule != "word-broken" || f.Part != "heading" {
			continue
		}
		if c, ok := cure.NewHealer(env, store.Store{Dir: t.TempDir()}, 240, 320, rep).Cure("home", f); ok {
			after, _, err := env.With(c.Changes)
			require.NoError(t, err)
			for _, x := range check.Run(testsite.Swept(t, after), after.Site.Page("home"), nil, 240, 320).Findings {
				assert.NotEqual(t, "type-order", x.Rule, c.Command)
			}
		}
	}
}
