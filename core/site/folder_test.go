//go:build unix

package site

import (
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"syscall"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// house makes a folder with a site in it and things beside it, and gives the site's folder.
func house(t *testing.T) string {
	t.Helper()
	dir := filepath.Join(t.TempDir(), "site")
	for name, text := range map[string]string{"pages/home.yaml": "title: Larkspan",
		"../beside/secret.txt": "not ours", "data/kites.csv": "name\nSkerry"} {
		at := filepath.Join(dir, name)
		require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o755))
		require.NoError(t, os.WriteFile(at, []byte(text), 0o644))
	}
	for at, to := range map[string]string{"out.txt": "../beside/secret.txt", "outer": "../beside",
		"in.csv": "data/kites.csv", "inner": "data", "nowhere.txt": "../beside/new.txt", "round": "round"} {
		require.NoError(t, os.Symlink(to, filepath.Join(dir, at)))
	}
	require.NoError(t, syscall.Mkfifo(filepath.Join(dir, "pipe.csv"), 0o600))
	large, err := os.Create(filepath.Join(dir, "large.csv"))
	require.NoError(t, err)
	require.NoError(t, large.Truncate(maxBytes+1))
	require.NoError(t, large.Close())
	return dir
}

func TestAFolderIsReadAsFarAsItGoes(t *testing.T) {
	dir := house(t)
	for name, want := range map[string]string{"pages/home.yaml": "title: Larkspan", "in.csv": "name\nSkerry",
		"inner/kites.csv": "name\nSkerry"} {
		got, err := ReadIn(dir, name)
		require.NoError(t, err, name)
		require.Equal(t, want, string(got), name)
	}
	for name, want := range map[string]error{"out.txt": errOutside, "outer/secret.txt": errOutside,
		"pipe.csv": errNoFile, "none.txt": fs.ErrNotExist, "../beside/secret.txt": fs.ErrInvalid} {
		_, err := ReadIn(dir, name)
		require.ErrorIs(t, err, want, name)
		_, err = fs.Stat(Folder(dir), name)
		require.ErrorIs(t, err, want, name)
	}
	_, err := ReadIn(dir, "large.csv")
	require.ErrorContains(t, err, "16 MB are the most")
	_, err = ReadIn(dir, "round")
	require.Error(t, err)
}

// Whatever lies below media/ may be published: no hidden file, and none that is a source of the site, by whatever way
// it gets there.
func TestSourcesAreNoMedia(t *testing.T) {
	dir := house(t)
	for name, text := range map[string]string{"media/kite.svg": "<svg/>", "media/.hidden/a.svg": "<svg/>",
		"shared/b.svg": "<svg/>", "ziegel.yaml": "name: L", ".ziegel/history": "{}", "theme.tokens.json": "{}", "media/pages/c.svg": "<svg/>"} {
		require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(dir, name)), 0o755))
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(text), 0o644))
	}
	for at, to := range map[string]string{"media/shared.svg": "../shared/b.svg", "media/all": "../shared",
		"media/site.svg": "../ziegel.yaml", "media/past": "../.ziegel", "media/home.svg": "../pages/home.yaml", "media/table.svg": "../data/kites.csv",
		"media/tokens.svg": "../theme.tokens.json", "media/secret.svg": ".hidden/a.svg"} {
		require.NoError(t, os.Symlink(to, filepath.Join(dir, at)))
	}
	for name, fine := range map[string]bool{"media/kite.svg": true, "media/shared.svg": true, "media/all/b.svg": true,
		"media/pages/c.svg": true, "media/.hidden/a.svg": false, "media/site.svg": false, "media/past/history": false,
		"media/home.svg": false, "media/table.svg": false, "media/tokens.svg": false, "media/secret.svg": false} {
		_, err := ReadIn(dir, name)
		if fine {
			require.NoError(t, err, name)
		} else {
			require.ErrorIs(t, err, errSource, name)
		}
	}
	for rel, source := range map[string]bool{"ziegel.yaml": true, "pages/a.yaml": true, "data/x.csv": true,
		".ziegel/seen.json": true, "theme.dark.tokens.json": true, "built/index.html": false, "out/ziegel.yaml": false, "report.html": false} {
		require.Equal(t, source, IsSource(rel), rel)
	}
}

func TestAFileSomebodyNamedIsNoPipe(t *testing.T) {
	dir := house(t)
	got, err := ReadRegular(filepath.Join(dir, "out.txt")) // whoever names a file may name any
	require.NoError(t, err)
	require.Equal(t, "not ours", string(got))
	_, err = ReadRegular(filepath.Join(dir, "pipe.csv"))
	require.ErrorIs(t, err, errNoFile)
	_, err = ReadRegular(dir)
	require.ErrorIs(t, err, errNoFile)
	_, err = ReadRegular(filepath.Join(dir, "large.csv"))
	require.ErrorContains(t, err, "the most for such a file")
}

func TestAPlaceIsInTheFolder(t *testing.T) {
	dir := house(t)
	real, err := filepath.EvalSymlinks(dir)
	require.NoError(t, err)
	for name, want := range map[string]string{"pages/home.yaml": "pages/home.yaml", "in.csv": "data/kites.csv",
		"inner/new/two.csv": "data/new/two.csv", "built/index.html": "built/index.html"} {
		got, err := Place(dir, name)
		require.NoError(t, err, name)
		require.Equal(t, filepath.Join(real, want), got, name)
	}
	for _, name := range []string{"out.txt", "outer/new.txt", "nowhere.txt", "../beside/secret.txt"} {
		_, err := Place(dir, name)
		require.Truef(t, errors.Is(err, errOutside), "%s: %v", name, err)
	}
}

func TestAChangeLeavesLinksAndWritesNothingOutside(t *testing.T) {
	dir := house(t)
	change := func(name, before string) error {
		files := []FileChange{{Path: "pages/home.yaml", Before: "title: Larkspan", After: "title: Kites"},
			{Path: name, Before: before, After: "changed"}}
		return (&step{Entry: Change{ID: 1}, Files: files}).run(dir)
	}
	require.ErrorIs(t, change("out.txt", "not ours"), errOutside)
	page, _ := os.ReadFile(filepath.Join(dir, "pages/home.yaml"))
	require.Equal(t, "title: Larkspan", string(page),
		"what was written before the one that failed has its old content again")
	secret, _ := os.ReadFile(filepath.Join(dir, "../beside/secret.txt"))
	require.Equal(t, "not ours", string(secret))

	require.NoError(t, change("in.csv", "name\nSkerry"))
	info, err := os.Lstat(filepath.Join(dir, "in.csv"))
	require.NoError(t, err)
	require.NotZero(t, info.Mode()&fs.ModeSymlink, "a link stays one")
	data, _ := os.ReadFile(filepath.Join(dir, "data/kites.csv"))
	require.Equal(t, "changed", string(data))
}

// A file may be as large as its kind, and not one byte more.
func TestFilesAreAsLargeAsTheirKind(t *testing.T) {
	dir := t.TempDir()
	for name, most := range map[string]int64{"a.css": 8 << 20, "b.yaml": maxBytes} {
		file := filepath.Join(dir, name)
		require.NoError(t, os.WriteFile(file, nil, 0o666))
		require.NoError(t, os.Truncate(file, most))
		data, err := ReadIn(dir, name)
		assert.NoError(t, err, name)
		assert.Len(t, data, int(most))
		require.NoError(t, os.Truncate(file, most+1))
		_, err = ReadIn(dir, name)
		assert.ErrorContains(t, err, "are the most for such a file", name)
	}
}
