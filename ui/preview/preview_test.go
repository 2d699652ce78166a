package preview

import (
	"bufio"
	"context"
	"io"
	"io/fs"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/stock"
)

func copyDemo(t *testing.T) string {
	t.Helper()
	dir := t.TempDir()
	require.NoError(t, fs.WalkDir(stock.Files, "demo", func(p string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		data, err := fs.ReadFile(stock.Files, p)
		require.NoError(t, err)
		to := filepath.Join(dir, strings.TrimPrefix(p, "demo/"))
		require.NoError(t, os.MkdirAll(filepath.Dir(to), 0o777))
		return os.WriteFile(to, data, 0o666)
	}))
	return dir
}

func TestPreviewFollowsSavesAndKeepsTheLastGoodPage(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	dir := copyDemo(t)
	ctx, stop := context.WithCancel(context.Background())
	defer stop()
	url := make(chan string, 1)
	done := make(chan error, 1)
	go func() { done <- New(dir, stock.Files).Serve(ctx, 0, func(u string) { url <- u }) }()
	base := strings.TrimSuffix(<-url, "/-/")
	get := func(path string) string {
		r, err := http.Get(base + path)
		require.NoError(t, err)
		defer r.Body.Close()
		b, err := io.ReadAll(r.Body)
		require.NoError(t, err)
		return string(b)
	}
	assert.Contains(t, get("/"), "Made for <em>real</em> wind")
	assert.Contains(t, get("/nowhere/"), "There is no page here")
	assert.Contains(t, get("/-/"), "side by side")

	events, err := http.Get(base + "/-/events")
	require.NoError(t, err)
	defer events.Body.Close()
	lines := bufio.NewScanner(events.Body)
	next := func() {
		for lines.Scan() {
			if strings.HasPrefix(lines.Text(), "data:") {
				return
			}
		}
	}
	next() // the first tells the state
	home := filepath.Join(dir, "pages", "home.yaml")
	good, err := os.ReadFile(home)
	require.NoError(t, err)
	saved := time.Now()
	require.NoError(t, os.WriteFile(home, []byte(strings.Replace(string(good), "_real_", "_more_", 1)), 0o666))
	next()
	t.Logf("told %v after the save", time.Since(saved).Round(time.Millisecond))
	assert.Contains(t, get("/"), "<em>more</em>")

	require.NoError(t, os.WriteFile(home, []byte(strings.Replace(string(good), "hero/beside",
		"hero/besid", 1)), 0o666))
	next()
	assert.Contains(t, get("/-/state"), `unknown section \"hero/besid\"`)
	assert.Contains(t, get("/"), "<em>more</em>", "the last good page stays")
	require.NoError(t, os.WriteFile(home, good, 0o666))
	next()
	assert.Contains(t, get("/-/state"), `"mistake":""`)
	assert.Contains(t, get("/"), "<em>real</em>")

	req, err := http.NewRequest(http.MethodGet, base+"/", nil)
	require.NoError(t, err)
	req.Host = "evil.example"
	r, err := http.DefaultClient.Do(req)
	require.NoError(t, err)
	defer r.Body.Close()
	assert.Equal(t, http.StatusForbidden, r.StatusCode)
	stop()
	require.NoError(t, <-done)
}

// Pages are made when somebody asks for them; what is wrong on one that nobody looks at is told all the same, and
// goes when it is mended.
func TestPagesAreMadeWhenSomebodyAsks(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	dir := copyDemo(t)
	s := New(dir, stock.Files)
	defer func() { s.stop() }()
	get := func(name string) string {
		data, _ := s.find(name)
		return string(data)
	}
	assert.Contains(t, get("index.html"), "Larkspan")
	assert.Contains(t, get("courses/index.html"), "<title>Weekend courses")
	assert.Contains(t, get("courses.css"), "@layer")
	assert.Contains(t, get("site.css"), ".pricing-plans")
	assert.Contains(t, get("404.html"), "There is no page here")
	assert.NotEmpty(t, get("favicon.svg"))
	assert.Contains(t, get("media/delta.svg"), "<svg")
	assert.NotEmpty(t, get("fonts/instrument-sans-400.woff2"))
	for _, none := range []string{"ziegel.yaml", "media/nothing.svg", "pages/home.yaml", "fonts/nothing.woff2",
		"media/../ziegel.yaml", ".ziegel/lock"} {
		_, ok := s.find(none)
		assert.False(t, ok, none)
	}
	courses := filepath.Join(dir, "pages", "courses.yaml")
	good, err := os.ReadFile(courses)
	require.NoError(t, err)
	broken := New(dir, stock.Files)
	defer func() { broken.stop() }()
	require.NoError(t, os.WriteFile(courses, append(good, "\nblocks: []\n"...), 0o666))
	broken.rebuild()
	assert.Eventually(t, func() bool { return strings.Contains(broken.Mistake(), "pages/courses.yaml") },
		5*time.Second, 10*time.Millisecond)
	require.NoError(t, os.WriteFile(courses, good, 0o666))
	broken.rebuild()
	assert.Never(t, func() bool { return broken.Mistake() != "" }, 300*time.Millisecond, 50*time.Millisecond)
}

// Pages are seen in every language of the site, and follow saves of its words.
func TestPreviewSpeaksAllLanguages(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	dir := copyDemo(t)
	write := func(name, text string) {
		at := filepath.Join(dir, filepath.FromSlash(name))
		require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o777))
		require.NoError(t, os.WriteFile(at, []byte(text), 0o666))
	}
	main, err := os.ReadFile(filepath.Join(dir, "ziegel.yaml"))
	require.NoError(t, err)
	write("ziegel.yaml", strings.Replace(string(main), "language: en", "languages: [en, de]", 1))
	write("words/de.yaml", "courses address: kurse\nhome/opening.heading: Für den Wind\n")
	s := New(dir, stock.Files)
	get := func(name string) string {
		data, ok := s.find(name)
		require.True(t, ok, name)
		return string(data)
	}
	assert.Contains(t, get("de/index.html"), "Für den Wind")
	assert.Contains(t, get("de/kurse/index.html"), `<html lang="de">`)
	assert.Contains(t, get("index.html"), "Made for")
	assert.Contains(t, get("site.de.css"), "@layer")
	assert.Contains(t, get("home.de.css"), "nav-bar_open")
	_, ok := s.find("de/courses/index.html")
	assert.False(t, ok, "its address is another one there")
	write("words/de.yaml", "home/opening.heading: Für den Sturm\n")
	s.rebuild()
	assert.Contains(t, get("de/index.html"), "Für den Sturm")
}
