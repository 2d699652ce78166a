package search_test

import (
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/media"
	"ziegel/core/search"
	"ziegel/stock"
)

// People name things by everyday words: 95 of 100 words that no icon is called by have an icon that is meant among the
// first five.
func TestIconsAreFoundByEverydayWords(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	names := media.Icons(stock.Files, nil)
	require.Greater(t, len(names), 600)
	text, err := os.ReadFile("testdata/everyday.txt")
	require.NoError(t, err)
	words, problems := search.IconWords(stock.Files)
	require.NoError(t, problems.Err())
	for name := range words {
		assert.Contains(t, names, name, "there is no such icon")
	}
	asked, found := 0, 0
	var missed []string
	for _, line := range strings.Split(strings.TrimSpace(string(text)), "\n") {
		word, meant, ok := strings.Cut(line, ": ")
		if !ok || strings.HasPrefix(line, "#") || slices.Contains(names, word) {
			continue // a name finds itself
		}
		asked++
		hits := media.FindIcons(names, words, word)
		hits = hits[:min(5, len(hits))]
		if slices.ContainsFunc(strings.Fields(meant), func(m string) bool { return slices.Contains(hits, m) }) {
			found++
		} else {
			missed = append(missed, fmt.Sprintf("%s: %v", word, hits))
		}
	}
	assert.GreaterOrEqual(t, asked, 300)
	assert.GreaterOrEqual(t, float64(found), .95*float64(asked), "%d of %d; not: %s", found, asked,
		strings.Join(missed, ", "))
}
