package build_test

import (
	"encoding/json"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/build"
	"ziegel/core/diag"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/stock"
)

func TestTheSameSiteGivesTheSameBytes(t *testing.T) {
	if testing.Short() {
		t.Skip("takes half of a second")
	}
	build := func() build.Files {
		e, problems, err := project.Open("../../stock/demo", stock.Files)
		require.NoError(t, err)
		require.NoError(t, problems.Err())
		files, problems := build.Build(e, build.Options{})
		require.NoError(t, problems.Err())
		return files
	}
	a := build()
	assert.Equal(t, a, build())
	assert.Equal(t, []string{"404.html", "courses.css", "courses/index.html", "favicon.png", "favicon.svg",
		"fonts/bricolage-grotesque-700.woff2", "fonts/bricolage-grotesque.LICENSE.txt", "fonts/instrument-sans-400.woff2", "fonts/instrument-sans-600.woff2", "fonts/instrument-sans.LICENSE.txt", "home.css", "index.html", "media/delta.svg", "media/loft.svg", "media/people/adaeze.svg", "media/people/ines.svg", "media/people/tomas.svg", "robots.txt", "share/courses.png", "share/home.png", "site.css", "sitemap.xml", "touch-icon.png"}, without(a.Names(), "404.css"))
	for name, f := range a {
		if filepath.Ext(name) == ".html" {
			assert.NotRegexp(t, `(src|href)="(https?:)?//[^l]`, string(f.Data), "%s asks another host", name)
		}
	}
}

func without(list []string, s string) []string {
	var out []string
	for _, x := range list {
		if x != s {
			out = append(out, x)
		}
	}
	return out
}

func TestHandEditsStayAndOldFilesGo(t *testing.T) {
	dir := t.TempDir()
	at := func(n string) string { return filepath.Join(dir, "built", n) }
	w, err := build.Write(dir, contents("a.html", "1", "b.css", "1", "old.css", "1"), nil, false)
	require.NoError(t, err)
	assert.Equal(t, []string{"a.html", "b.css", "old.css"}, w.Changed)
	require.NoError(t, os.WriteFile(at("b.css"), []byte("by hand"), 0o666))
	require.NoError(t, os.WriteFile(at("mine.txt"), []byte("not ours"), 0o666))
	w, err = build.Write(dir, contents("a.html", "2", "b.css", "2", "mine.txt", "2"), nil, false)
	require.NoError(t, err)
	assert.Equal(t, build.Written{Changed: []string{"a.html"}, Removed: []string{"old.css"},
		Kept: []string{"b.css", "mine.txt"}}, w)
	w, err = build.Write(dir, contents("a.html", "2", "b.css", "2"), nil, true)
	require.NoError(t, err)
	assert.Equal(t, []string{"b.css"}, w.Changed)
	data, err := os.ReadFile(at("mine.txt"))
	require.NoError(t, err)
	assert.Equal(t, "not ours", string(data))
}

// A build is killed after some of its files; then the site changes and is built again: everything is new, nothing was
// changed by hand, and what was half written is gone.
func TestABuildAfterOneThatWasKilled(t *testing.T) {
	dir := t.TempDir()
	at := func(n string) string { return filepath.Join(dir, "built", n) }
	_, err := build.Write(dir, contents("a.html", "1", "sub/b.html", "1", "c.html", "1"), nil, false)
	require.NoError(t, err)
	// killed: it has noted what comes, written one file, begun another and made one that no build has had before
	require.NoError(t, os.WriteFile(filepath.Join(dir, ".ziegel", "building.json"),
		hashes(map[string]string{"a.html": "2", "sub/b.html": "2", "new.html": "2"}), 0o666))
	require.NoError(t, os.WriteFile(at("a.html"), []byte("2"), 0o666))
	require.NoError(t, os.WriteFile(at("new.html"), []byte("2"), 0o666))
	require.NoError(t, os.WriteFile(at("sub/.ziegel-123"), []byte("hal"), 0o666))
	require.NoError(t, os.WriteFile(at("c.html"), []byte("by hand"), 0o666))
	w, err := build.Write(dir, contents("a.html", "3", "sub/b.html", "3", "c.html", "3"), nil, false)
	require.NoError(t, err)
	assert.Equal(t, build.Written{Changed: []string{"a.html", "sub/b.html"}, Removed: []string{"new.html"},
		Kept: []string{"c.html"}}, w)
	assert.NoFileExists(t, at("sub/.ziegel-123"))
	assert.NoFileExists(t, filepath.Join(dir, ".ziegel", "building.json"))
}

func hashes(contents map[string]string) []byte {
	for n, c := range contents {
		contents[n] = site.Hash(c)
	}
	data, _ := json.Marshal(contents)
	return data
}

// A manifest that somebody has written cannot make a build delete what is outside built/.
func TestAManifestDoesNotLeadOutOfTheFolder(t *testing.T) {
	dir := t.TempDir()
	require.NoError(t, os.MkdirAll(filepath.Join(dir, ".ziegel"), 0o777))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "ziegel.yaml"), []byte("name: L"), 0o666))
	require.NoError(t, os.WriteFile(filepath.Join(dir, ".ziegel", "built.json"),
		hashes(map[string]string{"../ziegel.yaml": "name: L", "/etc/hostname": "x",
			"a/../../ziegel.yaml": "name: L"}), 0o666))
	_, err := build.Write(dir, contents("a.html", "1"), nil, true)
	require.NoError(t, err)
	assert.FileExists(t, filepath.Join(dir, "ziegel.yaml"))
}

// No file of a built site takes the place of another one, whatever pages and files are called.
func TestNamesOfBuiltFilesNeverCollide(t *testing.T) {
	build := func(page, file string) diag.Problems {
		dir := t.TempDir()
		for name, text := range map[string]string{"ziegel.yaml": "name: L\n",
			"pages/home.yaml": "title: H\nblocks: [{name: a, section: hero/beside, content: {actions: [{label: x, to: media/" + file + "}]}}]\n", "pages/" + page + ".yaml": "title: M\nblocks: []\n", "media/" + file: "x"} {
			at := filepath.Join(dir, name)
			require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o777))
			require.NoError(t, os.WriteFile(at, []byte(text), 0o666))
		}
		e, problems, err := project.Open(dir, stock.Files)
		require.NoError(t, err)
		require.NoError(t, problems.Err())
		_, problems = build.Build(e, build.Options{})
		return problems
	}
	assert.ErrorContains(t, build("media", "index.html").Err(), "built/media/index.html is a page already")
	assert.NoError(t, build("media", "other.html").Err())
	assert.NoError(t, build("fonts", "index.html").Err())
}

// contents are files by name and text in turn.
func contents(list ...string) build.Files {
	out := build.Files{}
	for i := 0; i < len(list); i += 2 {
		out[list[i]] = build.File{Data: []byte(list[i+1])}
	}
	return out
}

// A file that nobody has touched is not read, be the build as large as it may; one that somebody has is, even when size
// and name stay. A file is taken for what it was only when it follows from the same, and not when it changed so short
// before the manifest was saved that clocks may not tell.
func TestFilesOfTheLastBuildAreKnownWithoutReading(t *testing.T) {
	dir := t.TempDir()
	at := func(n string) string { return filepath.Join(dir, "built", n) }
	long := time.Now().Add(-time.Hour)
	files := func(text, from string) build.Files {
		return build.Files{"a.html": {Data: []byte(text), From: from}}
	}
	write := func(f build.Files, last *build.Last) build.Written {
		w, err := build.Write(dir, f, last, false)
		require.NoError(t, err)
		return w
	}
	write(files("1", "one"), nil)
	assert.False(t, build.ReadLast(dir).Lies("a.html", "one"), "changed just before the manifest was saved")
	require.NoError(t, os.Chtimes(at("a.html"), long, long))
	assert.False(t, build.ReadLast(dir).Lies("a.html", "one"), "another time")
	assert.Equal(t, 1, write(files("1", "one"), nil).Same)
	last := build.ReadLast(dir)
	assert.True(t, last.Lies("a.html", "one"))
	assert.False(t, last.Lies("a.html", "two"), "made from something else")
	assert.False(t, last.Lies("a.html", ""))
	assert.False(t, last.Lies("b.html", "one"))
	assert.Equal(t, build.Written{Same: 1}, write(build.Files{"a.html": {From: "one", Lies: true}}, last))
	assert.True(t, build.ReadLast(dir).Lies("a.html", "one"), "and goes on being known")

	require.NoError(t, os.WriteFile(at("a.html"), []byte("x"), 0o666)) // by hand, of the same size
	assert.False(t, build.ReadLast(dir).Lies("a.html", "one"))
	assert.Equal(t, build.Written{Kept: []string{"a.html"}}, write(files("2", "two"), nil))
	require.NoError(t, os.Remove(at("a.html")))
	assert.False(t, build.ReadLast(dir).Lies("a.html", "one"))
	require.NoError(t, os.Symlink("../ziegel.yaml", at("a.html")))
	assert.False(t, build.ReadLast(dir).Lies("a.html", "one"))
	var none *build.Last
	assert.False(t, none.Lies("a.html", "one"))
}
