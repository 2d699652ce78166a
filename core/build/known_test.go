package build_test

import (
	"bytes"
	"image"
	"image/color"
	"image/draw"
	"image/png"
	"io/fs"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/build"
	"ziegel/core/project"
	"ziegel/stock"
)

// remembered keeps what was made in memory, and says which pages were made.
type remembered struct {
	made map[string]build.Made
	now  []string
}

func (r *remembered) Made(page string) (build.Made, bool) { m, ok := r.made[page]; return m, ok }
func (r *remembered) Keep(page string, m build.Made)      { r.made[page], r.now = m, append(r.now, page) }

// A page is made once from the same sources. What comes out is the same as if all were made anew: files, sheet,
// pictures, copies and fonts.
func TestPagesThatAreKnownAreNotMadeAgain(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	dir := t.TempDir()
	e, problems, err := project.Open("../../stock/demo", stock.Files)
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	all, problems := build.Build(e, build.Options{})
	require.NoError(t, problems.Err())
	r := &remembered{made: map[string]build.Made{}}
	read := func(files build.Files) map[string]string { // what lies there is read there
		out := map[string]string{}
		for name, f := range files {
			if f.Lies {
				f.Data, err = os.ReadFile(filepath.Join(dir, "built", name))
				require.NoError(t, err)
			}
			out[name] = string(f.Data)
		}
		return out
	}
	lying := 0
	builtAgain := func() map[string]string {
		r.now, lying = nil, 0
		last := build.ReadLast(dir)
		files, problems := build.Build(e, build.Options{Known: r, Last: last})
		require.NoError(t, problems.Err())
		for _, f := range files {
			if f.Lies {
				lying++
			}
		}
		_, err := build.Write(dir, files, last, false)
		require.NoError(t, err)
		return read(files)
	}
	whole := read(all)
	assert.Equal(t, whole, builtAgain())
	assert.Equal(t, []string{"courses", "home", "404"}, r.now)
	assert.Equal(t, whole, builtAgain())
	assert.Empty(t, r.now)
	assert.Zero(t, lying, "all is as new as the manifest")
	long := time.Now().Add(-time.Hour)
	require.NoError(t, filepath.WalkDir(filepath.Join(dir, "built"), func(p string, _ fs.DirEntry, err error) error {
		require.NoError(t, err)
		return os.Chtimes(p, long, long)
	}))
	assert.Equal(t, whole, builtAgain())
	assert.Equal(t, whole, builtAgain())
	assert.Equal(t, 8, lying, "pages and their sheets; drawings take colors from the theme")
	delete(r.made, "home") // something that it is made from has changed
	assert.Equal(t, whole, builtAgain())
	assert.Equal(t, []string{"home"}, r.now)
	require.NoError(t, os.WriteFile(filepath.Join(dir, "built", "courses.css"), []byte("by hand"), 0o666))
	files, problems := build.Build(e, build.Options{Known: r, Last: build.ReadLast(dir)})
	require.NoError(t, problems.Err())
	assert.Equal(t, whole, read(files), "what hands have changed is not taken for what the page is")
	w, err := build.Write(dir, files, nil, false)
	require.NoError(t, err)
	assert.Equal(t, []string{"courses.css"}, w.Kept)
	require.NoError(t, os.Remove(filepath.Join(dir, "built", "index.html")))
	assert.Equal(t, whole, builtAgain())
	assert.FileExists(t, filepath.Join(dir, "built", "index.html"))
}

// Pictures that have not changed, and their smaller copies, are not read again; one that has is, and so is every copy
// when another program made it.
func TestPicturesThatAreKnownAreNotRead(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	dir := t.TempDir()
	put := func(name string, data []byte) {
		at := filepath.Join(dir, name)
		require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o777))
		require.NoError(t, os.WriteFile(at, data, 0o666))
	}
	photo := func(w int, c color.Color) []byte {
		m := image.NewRGBA(image.Rect(0, 0, w, w/2))
		draw.Draw(m, m.Bounds(), image.NewUniform(c), image.Point{}, draw.Src)
		var b bytes.Buffer
		require.NoError(t, png.Encode(&b, m))
		return b.Bytes()
	}
	put("ziegel.yaml", []byte("name: L\n"))
	put("pages/home.yaml",
		[]byte("title: H\nblocks:\n  - {name: a, section: hero/beside, content: {heading: Kites, media: {file: loft.png, alt: A loft}}}\n"))
	put("media/loft.png", photo(1200, color.White))
	lie := func(maker string) (lying []string) {
		e, problems, err := project.Open(dir, stock.Files)
		require.NoError(t, err)
		require.NoError(t, problems.Err())
		last := build.ReadLast(dir)
		files, problems := build.Build(e, build.Options{Last: last, Maker: maker})
		require.NoError(t, problems.Err())
		_, err = build.Write(dir, files, last, false)
		require.NoError(t, err)
		for _, name := range files.Names() {
			if files[name].Lies {
				lying = append(lying, name)
			}
		}
		return lying
	}
	age := func() {
		long := time.Now().Add(-time.Hour)
		require.NoError(t, filepath.WalkDir(filepath.Join(dir, "built"),
			func(p string, _ fs.DirEntry, err error) error {
				return os.Chtimes(p, long, long)
			}))
		lie("this") // notes the times
	}
	assert.Empty(t, lie("this"))
	age()
	known := lie("this")
	assert.GreaterOrEqual(t, len(known), 3)
	assert.Contains(t, known, "media/loft.png")
	assert.Equal(t, []string{"media/loft.png"}, lie("another"), "copies are another program's")
	age()
	put("media/loft.png", photo(1200, color.Black))
	assert.Empty(t, lie("this"))
}
