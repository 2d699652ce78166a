package cure_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/check"
	"ziegel/core/compose"
	"ziegel/core/cure"
	"ziegel/core/measure"
	"ziegel/core/site"
	"ziegel/core/store"
	"ziegel/core/sweep"
	"ziegel/internal/testsite"
)

func TestCureIsProved(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	e := testsite.Demo(t)
	p := e.Site.Page("home")
	changed, problems, err := e.With([]site.FileChange{{Path: "pages/home.yaml",
		After: strings.Replace(p.File.Source, "    section: features/cards\n",
			"    section: features/cards\n    style: {card: {width: 500px}}\n", 1)}})
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	page := changed.Site.Page("home")
	c, ps := measure.Page(changed, page, compose.Options{Marks: true})
	l, err := sweep.FromPage(changed, c)
	require.NoError(t, err)
	r := check.Run(l, page, ps, 300, 340)
	require.NotEmpty(t, cure.Curable(r))
	f := cure.Curable(r)[0]
	assert.Equal(t, "overflow-x", f.Rule)
	assert.Contains(t, f.Why, "has a width of its own: 500 px")
	assert.Equal(t, 300, f.Worst, "it is worst where the screen is narrowest")
	healed, ok := cure.NewHealer(changed, store.Store{Dir: t.TempDir()}, 300, 340, r).Cure("home", f)
	require.True(t, ok)
	assert.Equal(t, "ziegel style home/reasons.card max-width=100%", healed.Command)
	require.Len(t, healed.Changes, 1)
	assert.Contains(t, healed.Changes[0].After, "max-width: 100%")
	_, ok = cure.NewHealer(changed, store.Store{Dir: t.TempDir()}, 300, 340, r).Cure("home",
		check.Finding{Rule: "missing-alt", Block: "reasons"})
	assert.False(t, ok)
}
