package edit_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/edit"
	"ziegel/core/site"
	"ziegel/core/store"
	"ziegel/internal/testsite"
)

// A range that gets another name is called by it wherever something speaks of it; one that goes takes what speaks of it
// along, or leaves it to another.
func TestNamesOfRangesAreFollowed(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	const home = `title: T
blocks:
  - name: plans
    section: pricing/plans
    options:
      columns at phone: "1"
    style:
      card at phone: {padding: 1rem}
      title: {color: red}
  - name: opening
    section: hero/beside
    content:
      media: {file: loft.svg, file at phone: delta.svg, alt: A loft}
`
	const main = "defaults:\n  features/cards:\n    style:\n      card at phone: {gap: 1px}\n"
	for name, tt := range map[string]struct {
		do        func(p *edit.Plan) error
		has, gone string
	}{
		"renamed": {func(p *edit.Plan) error { return edit.RenameRange(p, "phone=handset") }, "at handset",
			"at phone"},
		"left to tablet": {func(p *edit.Plan) error { return edit.RemoveRange(p, "phone", "tablet") }, "at tablet",
			"at phone"},
	} {
		t.Run(name, func(t *testing.T) {
			p := edit.New(testsite.With(t, home, main), store.Store{Dir: t.TempDir()})
			require.NoError(t, tt.do(p))
			trial, err := p.Trial()
			require.NoError(t, err)
			changes, _, err := p.Work()
			require.NoError(t, err)
			var text strings.Builder
			for _, c := range changes {
				text.WriteString(c.After)
			}
			assert.Equal(t, 4, strings.Count(text.String(), tt.has), text.String())
			assert.NotContains(t, text.String(), tt.gone)
			assert.Contains(t, text.String(), "title: {color: red}")
			assert.Equal(t, trial.Site.Page("home").File.Source, changeOf(changes, "pages/home.yaml"),
				"what is tried is what is written")
			assert.Contains(t, p.Touched["home"], "plans")
		})
	}
	p := edit.New(testsite.With(t, home, main), store.Store{Dir: t.TempDir()})
	err := edit.RemoveRange(p, "phone", "")
	require.Error(t, err, "something speaks of it")
	assert.Contains(t, err.Error(), "card at phone")
}

func changeOf(list []site.FileChange, path string) string {
	for _, c := range list {
		if c.Path == path {
			return c.After
		}
	}
	return ""
}

// A site made from a template has its own name where the template had its own.
func TestTheNameOfASiteTakesThePlaceOfTheTemplates(t *testing.T) {
	const text = `name: Larkspan
every-page:
  top:
    - {name: menu, section: nav/bar, content: {brand: Larkspan}}
  bottom:
    - {name: foot, section: footer/line, content: {brand: Somebody else}}
`
	got := edit.OwnBrand(text, "Tidewater")
	assert.Contains(t, got, "content: {brand: Tidewater}")
	assert.Contains(t, got, "Somebody else", "only the template's own name")
	assert.Equal(t, text, edit.OwnBrand(text, ""), "no name, no change")
}
