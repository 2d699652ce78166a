package mutants_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/e2e/mutants"
)

const code = `package a

func Add(list []int, n int) []int {
	if n < 3 {
		list = append(list, n+1)
	}
	if err := check(n); err != nil {
		return nil
	}
	done(n)
	return list
}
`

// A file is broken where its code decides, counts and acts; each mutant is Go, differs from the code, and is the same
// one every time.
func TestPlacesToBreak(t *testing.T) {
	dir := t.TempDir()
	require.NoError(t, os.MkdirAll(filepath.Join(dir, "core", "a"), 0o777))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "core", "a", "a.go"), []byte(code), 0o666))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "core", "a", "a_test.go"),
		[]byte("package a\n\nfunc T() {\n\tif true {\n\t}\n}\n"), 0o666))
	list, err := mutants.Choose(dir, nil, 100)
	require.NoError(t, err)
	var what []string
	for _, m := range list {
		what = append(what, m.What)
		assert.NotEqual(t, code, string(m.Source))
		assert.Equal(t, "core/a", m.Package)
	}
	assert.ElementsMatch(t, []string{"n < 3 → !(n < 3)", "< → <=", "1 → 2", "list = append(list, n+1) → nothing",
		"done(n) → nothing"}, what)
	again, err := mutants.Choose(dir, nil, 2)
	require.NoError(t, err)
	assert.Equal(t, list[:2], again)
}
