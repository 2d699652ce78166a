package compose_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/compose"
	"ziegel/internal/testsite"
)

// An entry may have a ground of its own, buttons, and points with another mark; what it does not say stays as it is
// drawn.
func TestWhatSingleEntriesSay(t *testing.T) {
	env := testsite.With(t, `title: H
blocks:
  - name: plans
    section: pricing/plans
    content:
      items:
        - {title: One, tone: deep, points: [a, {text: b, icon: xmark}, {icon: xmark}]}
        - {title: Two}
  - name: grid
    section: features/mosaic
    content:
      items:
        - {title: Three, actions: [{label: Go, to: home}]}
        - {title: Four, tone: deeep}
`)
	page, problems := compose.Compose(env, env.Site.Page("home"), compose.Options{})
	require.Len(t, problems, 1)
	assert.Equal(t, "unknown-tone", problems[0].Rule)
	assert.Equal(t, "deep", problems[0].Try)
	assert.Regexp(t, `class="panel pricing-plans__card toned tone-deep"`, page.HTML)
	assert.NotContains(t, page.HTML, "toned tone-deeep")
	assert.Regexp(t, `icon-check|M5 13L9 17L19 7`, page.HTML, "a is marked as the section draws it")
	assert.Contains(t, page.HTML, `<span>b</span>`)
	assert.Contains(t, page.HTML, ">Go</a>")
	for _, gone := range []string{"data-tone", "data-usual", "data-word"} {
		assert.NotContains(t, page.HTML, gone)
	}
}

// What a menu calls its buttons is said in the language of the page, and is no sample.
func TestWordsOfAMenuAreNoSamples(t *testing.T) {
	env := testsite.With(t, "title: H\nblocks:\n  - {name: menu, section: nav/bar}\n",
		"language: de\n")
	page, problems := compose.Compose(env, env.Site.Page("home"), compose.Options{})
	require.NoError(t, problems.Err())
	assert.Contains(t, page.HTML, `aria-label="Hauptmenü"`)
	assert.Contains(t, page.HTML, ">Menü</span>")
	assert.Contains(t, page.HTML, ">Schließen</span>")
	for _, f := range page.Fields {
		if f.Field == "menu-label" || f.Field == "close-label" {
			assert.Equal(t, compose.Word, f.State, f.Field)
		}
	}
}
