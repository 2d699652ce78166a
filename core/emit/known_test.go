package emit_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/compose"
	"ziegel/core/emit"
	"ziegel/stock"
)

// remembered keeps what was made in memory, and says which pages were made.
type remembered struct {
	dir  string
	made map[string]emit.Made
	now  []string
}

func (r *remembered) Made(page string) (emit.Made, bool) { m, ok := r.made[page]; return m, ok }
func (r *remembered) Keep(page string, m emit.Made)      { r.made[page], r.now = m, append(r.now, page) }
func (r *remembered) Built(name string) ([]byte, bool) {
	data, err := os.ReadFile(filepath.Join(r.dir, "built", name))
	return data, err == nil
}

// A page is made once from the same sources. What comes out is the same as if all were made anew: files, sheet, pictures, copies and fonts.
func TestPagesThatAreKnownAreNotMadeAgain(t *testing.T) {
	dir := t.TempDir()
	e, problems, err := compose.Open("../../stock/demo", stock.Files)
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	whole, problems := emit.Build(e, emit.Options{})
	require.NoError(t, problems.Err())
	r := &remembered{dir: dir, made: map[string]emit.Made{}}
	build := func() emit.Files {
		r.now = nil
		files, problems := emit.Build(e, emit.Options{Known: r})
		require.NoError(t, problems.Err())
		_, err := emit.Write(dir, files, false)
		require.NoError(t, err)
		return files
	}
	assert.Equal(t, whole, build())
	assert.Equal(t, []string{"courses", "home", "404"}, r.now)
	assert.Equal(t, whole, build())
	assert.Empty(t, r.now)
	delete(r.made, "home") // something that it is made from has changed
	assert.Equal(t, whole, build())
	assert.Equal(t, []string{"home"}, r.now)
	require.NoError(t, os.WriteFile(filepath.Join(dir, "built", "courses.css"), []byte("by hand"), 0o666))
	files, problems := emit.Build(e, emit.Options{Known: r})
	require.NoError(t, problems.Err())
	assert.Equal(t, whole, files, "what hands have changed is not taken for what the page is")
	w, err := emit.Write(dir, files, false)
	require.NoError(t, err)
	assert.Equal(t, []string{"courses.css"}, w.Kept)
	require.NoError(t, os.Remove(filepath.Join(dir, "built", "index.html")))
	assert.Equal(t, whole, build())
	assert.FileExists(t, filepath.Join(dir, "built", "index.html"))
}
