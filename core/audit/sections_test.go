package audit_test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"ziegel/core/compose"
	"ziegel/core/settle"
	"ziegel/core/sweep"
	"ziegel/stock"
)

// site writes a site with one page and opens it.
func siteWith(t *testing.T, home string, more ...string) *compose.Env {
	t.Helper()
	dir := t.TempDir()
	require.NoError(t, os.MkdirAll(filepath.Join(dir, "pages"), 0o777))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "ziegel.yaml"), []byte("name: L\n"+strings.Join(more, "")), 0o666))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "pages", "home.yaml"), []byte(home), 0o666))
	e, problems, err := compose.Open(dir, stock.Files)
	require.NoError(t, err)
	require.NoError(t, problems.Err(), home)
	return e
}

// swept prepares the home page of a site.
func swept(t *testing.T, env *compose.Env) *sweep.Laid {
	t.Helper()
	page, problems := settle.Page(env, env.Site.Page("home"), compose.Options{Marks: true})
	require.NoError(t, problems.Err())
	l, err := sweep.FromPage(env, page)
	require.NoError(t, err)
	return l
}
