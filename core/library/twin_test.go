package library_test

import (
	"io/fs"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/css"
	"ziegel/stock"
)

// What shows under the pointer shows for the keyboard: every hover in shipped styles has its focus twin in the same
// rule.
func TestShippedHoversHaveFocusTwins(t *testing.T) {
	hovers := 0
	err := fs.WalkDir(stock.Files, ".", func(name string, d fs.DirEntry, err error) error {
		if err != nil || !strings.HasSuffix(name, ".css") || strings.HasSuffix(name, "bench.css") {
			return err
		}
		data, err := fs.ReadFile(stock.Files, name)
		require.NoError(t, err)
		var walk func(nodes []*css.Node)
		walk = func(nodes []*css.Node) {
			for _, n := range nodes {
				if text := css.Text(n.Prelude); n.Kind == css.QualifiedRule && strings.Contains(text, ":hover") {
					hovers++
					assert.Regexp(t, `:focus-(visible|within)`, text, name)
				}
				walk(n.Children)
			}
		}
		walk(css.Parse(name, string(data)).Nodes)
		return nil
	})
	require.NoError(t, err)
	assert.Greater(t, hovers, 3)
}
