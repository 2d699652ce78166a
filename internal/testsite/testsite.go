// Package testsite sets up sites and pages for tests.
package testsite

import (
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/require"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/measure"
	"ziegel/core/project"
	"ziegel/core/sweep"
	"ziegel/stock"
)

// Plans is a home page with one block, to which styles are added.
const Plans = "title: T\nblocks:\n  - name: plans\n    section: pricing/plans\n    style:\n"

// Thorough reports whether every case of a large law is wanted, which a night has time for; else a fixed share of them
// is. ZIEGEL_THOROUGH=1 asks for it.
func Thorough() bool { return os.Getenv("ZIEGEL_THOROUGH") != "" }

// Write puts files into a folder of their own, by their paths with slashes, and gives the folder.
func Write(t testing.TB, files map[string]string) string {
	t.Helper()
	dir := t.TempDir()
	for name, text := range files {
		file := filepath.Join(dir, filepath.FromSlash(name))
		require.NoError(t, os.MkdirAll(filepath.Dir(file), 0o777))
		require.NoError(t, os.WriteFile(file, []byte(text), 0o666))
	}
	return dir
}

// Open opens a site that has no mistakes.
func Open(t testing.TB, dir string) *project.Project {
	t.Helper()
	env, problems, err := project.Open(dir, stock.Files)
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	return env
}

// Demo opens the shipped demo. It is not to be written to.
func Demo(t testing.TB) *project.Project {
	t.Helper()
	_, err := os.Stat("stock/demo")
	root := ""
	for ; err != nil && len(root) < 20; _, err = os.Stat(root + "stock/demo") {
		root += "../"
	}
	return Open(t, root+"stock/demo")
}

// With opens a site of one page, home. more is added to ziegel.yaml.
func With(t testing.TB, home string, more ...string) *project.Project {
	t.Helper()
	return Open(t, Write(t, map[string]string{"ziegel.yaml": "name: L\n" + strings.Join(more, ""),
		"pages/home.yaml": home}))
}

// Swept prepares the home page of a site for sweeps.
func Swept(t testing.TB, env *project.Project) *sweep.Prepared {
	t.Helper()
	page, problems := measure.Page(env, env.Site.Page("home"), compose.Options{Marks: true})
	require.NoError(t, problems.Err())
	l, err := sweep.FromPage(env, page)
	require.NoError(t, err)
	return l
}

// HTML prepares a page by its body, in which margins and fonts are plain; the element with the id x comes with it,
// nil when there is none.
func HTML(t testing.TB, body string) (*sweep.Prepared, *css.Element) {
	t.Helper()
	dir := Write(
		t,
		map[string]string{
			"page.html": "<!doctype html><style>body{margin:0;font:16px/1.5 'Instrument Sans'}p{margin:0}</style><main>" + body + "</main>",
		},
	)
	l, err := sweep.FromFile(filepath.Join(dir, "page.html"), stock.Files)
	require.NoError(t, err)
	for _, e := range l.Doc.Elements {
		if e.ID == "x" {
			return l, e
		}
	}
	return l, nil
}

// Files gives files as a file system, by their paths with slashes.
func Files(files map[string]string) fs.FS {
	out := fstest.MapFS{}
	for name, text := range files {
		out[name] = &fstest.MapFile{Data: []byte(text)}
	}
	return out
}

// Shipped gives the files of a site that ships: demo, demo-ar, templates/NAME.
func Shipped(t testing.TB, dir string) map[string]string {
	t.Helper()
	files := map[string]string{}
	require.NoError(t, fs.WalkDir(stock.Files, dir, func(p string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		data, err := fs.ReadFile(stock.Files, p)
		files[strings.TrimPrefix(p, dir+"/")] = string(data)
		return err
	}))
	return files
}

// ShippedSites names the demos and templates; with -short the demo alone.
func ShippedSites(t testing.TB) []string {
	t.Helper()
	if testing.Short() {
		return []string{"demo"}
	}
	out := []string{"demo", "demo-ar"}
	list, err := fs.ReadDir(stock.Files, "templates")
	require.NoError(t, err)
	for _, d := range list {
		out = append(out, "templates/"+d.Name())
	}
	return out
}
