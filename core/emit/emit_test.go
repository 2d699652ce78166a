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

func TestTheSameSiteGivesTheSameBytes(t *testing.T) {
	build := func() emit.Files {
		e, problems, err := compose.Open("../../stock/demo", stock.Files)
		require.NoError(t, err)
		require.NoError(t, problems.Err())
		files, problems := emit.Build(e, emit.Options{})
		require.NoError(t, problems.Err())
		return files
	}
	a := build()
	assert.Equal(t, a, build())
	assert.Equal(t, []string{"404.html", "courses.css", "courses/index.html", "favicon.svg", "fonts/bricolage-grotesque-700.woff2", "fonts/instrument-sans-400.woff2", "fonts/instrument-sans-600.woff2",
		"home.css", "index.html", "media/delta.svg", "media/festival.svg", "media/loft.svg", "media/people/adaeze.svg", "media/people/ines.svg", "media/people/tomas.svg", "site.css"}, without(a.Names(), "404.css"))
	for name, data := range a {
		if filepath.Ext(name) == ".html" {
			assert.NotRegexp(t, `(src|href)="(https?:)?//[^l]`, string(data), "%s asks another host", name)
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
	w, err := emit.Write(dir, emit.Files{"a.html": []byte("1"), "b.css": []byte("1"), "old.css": []byte("1")}, false)
	require.NoError(t, err)
	assert.Equal(t, []string{"a.html", "b.css", "old.css"}, w.Changed)
	require.NoError(t, os.WriteFile(at("b.css"), []byte("by hand"), 0o666))
	require.NoError(t, os.WriteFile(at("mine.txt"), []byte("not ours"), 0o666))
	w, err = emit.Write(dir, emit.Files{"a.html": []byte("2"), "b.css": []byte("2"), "mine.txt": []byte("2")}, false)
	require.NoError(t, err)
	assert.Equal(t, emit.Written{Changed: []string{"a.html"}, Removed: []string{"old.css"}, Kept: []string{"b.css", "mine.txt"}}, w)
	w, err = emit.Write(dir, emit.Files{"a.html": []byte("2"), "b.css": []byte("2")}, true)
	require.NoError(t, err)
	assert.Equal(t, []string{"b.css"}, w.Changed)
	data, err := os.ReadFile(at("mine.txt"))
	require.NoError(t, err)
	assert.Equal(t, "not ours", string(data))
}
