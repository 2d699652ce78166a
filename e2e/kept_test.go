package e2e

import (
	"path/filepath"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/sweep"
	"ziegel/e2e/equal"
	"ziegel/stock"
	"ziegel/ui/report"
)

// What an engine keeps from one width for the next never changes a box: a new engine finds the same.
func TestKeptBoxesEqualNewOnes(t *testing.T) {
	t.Parallel()
	if testing.Short() {
		t.Skip("lays all fixtures out twice")
	}
	root := t.TempDir()
	pages, err := equal.Fixtures(".", root)
	require.NoError(t, err)
	random, err := equal.RandomPages(root, 1, 120)
	require.NoError(t, err)
	older, err := equal.RandomPages(root, equal.Older, 120)
	require.NoError(t, err)
	for _, page := range slices.Concat(pages, random, older) {
		laid, err := sweep.FromFile(filepath.Join(root, filepath.FromSlash(page)), stock.Files)
		require.NoError(t, err)
		kept := laid.Engine()
		for _, w := range []int{1200, 1201, 1202, 700, 701, 360, 361} {
			want, got := report.Measure(nil, laid.Engine().Layout(w)), report.Measure(nil, kept.Layout(w))
			if !assert.Equal(t, want.Height, got.Height, "%s at %d px", page, w) {
				break
			}
			ok := true
			for i := range want.Boxes {
				ok = ok && i < len(got.Boxes) && assert.Equal(t, want.Boxes[i], got.Boxes[i], "%s at %d px", page, w)
				if !ok {
					break
				}
			}
			if !ok {
				break
			}
		}
	}
}
