package sweep_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/compose"
	"ziegel/core/project"
	"ziegel/core/styles"
	"ziegel/core/sweep"
	"ziegel/stock"
)

// A page that is looked at has only the rules that it needs, and stands as the built one does, which has those of all
// pages.
func TestAPageWithItsOwnSheetStandsAsTheBuiltOne(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	e, problems, err := project.Open("../../stock/demo", stock.Files)
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	whole, _ := styles.SiteSheet(e)
	for _, p := range e.Site.Pages() {
		lay := func(sheet *styles.Sheet) *sweep.Prepared {
			page, problems := compose.Compose(e, p, compose.Options{Marks: true, Sheet: sheet})
			require.NoError(t, problems.Err())
			l, err := sweep.FromPage(e, page)
			require.NoError(t, err)
			return l
		}
		own, built := lay(nil), lay(whole)
		assert.Less(t, len(own.Page.Site.Text), len(whole.Text), p.Name)
		common := strings.Index(whole.Text, "@layer section {")
		require.Equal(t, whole.Text[:common], own.Page.Site.Text[:common],
			"what comes first has the same lines in every sheet")
		a, b := own.Engine(), built.Engine()
		for _, w := range []int{280, 390, 700, 820, 1024, 1280, 1920} {
			x, y := a.Layout(w), b.Layout(w)
			require.Equal(t, len(y.Boxes), len(x.Boxes))
			for i := range y.Boxes {
				require.Equal(t, y.Boxes[i].Rect, x.Boxes[i].Rect, "%s at %d: %s", p.Name, w,
					y.Boxes[i].Element.Path())
			}
		}
	}
}
