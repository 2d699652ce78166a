package store_test

import (
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/store"
	"ziegel/core/sweep"
	"ziegel/internal/testsite"
)

func TestWhatIsKeptIsFoundAgain(t *testing.T) {
	s := store.Store{Dir: filepath.Join(t.TempDir(), "cache"), Version: "1"}
	_, ok := s.Read("a.json")
	assert.False(t, ok)
	s.Write("a.json", []byte("one"))
	s.Keep("a", []byte("two"))
	data, ok := s.Read("a.json")
	assert.True(t, ok)
	assert.Equal(t, "one", string(data))
	data, ok = s.Recall("a")
	assert.True(t, ok)
	assert.Equal(t, "two", string(data))
	other := store.Store{Dir: s.Dir, Version: "2"}
	_, ok = other.Recall("a")
	assert.False(t, ok, "another program may find other things")
	ignore, err := os.ReadFile(filepath.Join(s.Dir, ".gitignore"))
	require.NoError(t, err)
	assert.Equal(t, "*\n", string(ignore))
}

// What was asked for last stays; files that are not the store's are left alone.
func TestTrimTakesTheOldestFirst(t *testing.T) {
	s := store.Store{Dir: t.TempDir()}
	age := func(name string, hours int) {
		at := time.Now().Add(-time.Duration(hours) * time.Hour)
		require.NoError(t, os.Chtimes(filepath.Join(s.Dir, name), at, at))
	}
	for i, name := range []string{"a.json", "b.piece", "c.json", "d.gob"} {
		s.Write(name, make([]byte, 100))
		age(name, 10-i)
	}
	there := func() (out []string) {
		list, err := os.ReadDir(s.Dir)
		require.NoError(t, err)
		for _, e := range list {
			if e.Name() != ".gitignore" {
				out = append(out, e.Name())
			}
		}
		return out
	}
	s.Trim(300)
	assert.Equal(t, []string{"a.json", "b.piece", "c.json", "d.gob"}, there(), "it fits")
	_, ok := s.Read("a.json") // asked for: the newest now
	require.True(t, ok)
	s.Trim(200)
	assert.Equal(t, []string{"a.json", "c.json", "d.gob"}, there())
	s.Trim(0)
	assert.Equal(t, []string{"d.gob"}, there())
}

// What is known of a page holds as long as its key does; pages that are gone are forgotten.
func TestWhatIsKnownOfPages(t *testing.T) {
	s := store.Store{Dir: t.TempDir(), Version: "1"}
	k := store.ReadKnown[int](s, "count")
	made := 0
	of := func(page, key string, keep bool) int {
		return k.Of(page, key, func() (int, bool) { made++; return made, keep })
	}
	assert.Equal(t, 1, of("home", "k1", true))
	assert.Equal(t, 1, of("home", "k1", true))
	assert.Equal(t, 2, of("home", "k2", true), "its sources have changed")
	assert.Equal(t, 3, of("courses", "k", false))
	assert.Equal(t, 4, of("courses", "k", false), "not to be kept")
	assert.Equal(t, 5, of("about", "", true))
	assert.Equal(t, 6, of("about", "", true), "without a key nothing is known")
	k.Put("gone", "k", 9)
	k.Save([]string{"home", "courses"})
	k = store.ReadKnown[int](s, "count")
	v, ok := k.Get("home", "k2")
	assert.True(t, ok)
	assert.Equal(t, 2, v)
	_, ok = k.Get("gone", "k")
	assert.False(t, ok)
	_, ok = store.ReadKnown[int](s, "other").Get("home", "k2")
	assert.False(t, ok, "of another kind")
	require.NoError(t, os.WriteFile(filepath.Join(s.Dir, "known-count.gob"), []byte("broken"), 0o666))
	_, ok = store.ReadKnown[int](s, "count").Get("home", "k2")
	assert.False(t, ok)
}

// The marks of a check: a block that has changed since is told, one that was not looked at as well.
func TestBlocksThatHaveChangedSince(t *testing.T) {
	const page = "title: T\nblocks:\n  - {name: a, section: hero/beside}\n  - {name: b, section: steps/line}\n"
	env := testsite.With(t, page)
	home := env.Site.Page("home")
	file := filepath.Join(t.TempDir(), "seen.json")
	seen := store.ReadSeen(file)
	assert.Equal(t, []string{"a", "b"}, seen.Changed(env, home))
	seen.Mark(env, home, "key")
	require.NoError(t, seen.Write(file))
	seen = store.ReadSeen(file)
	assert.Empty(t, seen.Changed(env, home))
	assert.True(t, seen.Knows("home", "key"))
	assert.False(t, seen.Knows("home", "other"))
	assert.False(t, seen.Knows("home", ""))
	after := testsite.With(t,
		"title: T\nblocks:\n  - {name: a, section: hero/beside}\n  - {name: b, section: steps/line, content: {heading: Other}}\n")
	assert.Equal(t, []string{"b"}, seen.Changed(after, after.Site.Page("home")))
	fewer := testsite.With(t, "title: T\nblocks:\n  - {name: a, section: hero/beside}\n")
	seen.Mark(fewer, fewer.Site.Page("home"), "key2")
	assert.Equal(t, []string{"b"}, seen.Changed(env, home), "what was forgotten is new")
	require.NoError(t, os.WriteFile(file, []byte("{"), 0o666))
	assert.Empty(t, store.ReadSeen(file))
}

// A report has another key when anything changes that it follows from.
func TestKeysOfReports(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	s := store.Store{Version: "1"}
	key := func(s store.Store, page, main string, from int) string {
		env := testsite.With(t, page, main)
		return s.Key(env, testsite.Swept(t, env), env.Site.Page("home"), nil, sweep.Widths{From: from, To: 400})
	}
	const page = "title: T\nblocks:\n  - {name: a, section: hero/beside}\n"
	base := key(s, page, "", 300)
	assert.Equal(t, base, key(s, page, "", 300))
	for what, other := range map[string]string{
		"the version": key(store.Store{Version: "2"}, page, "", 300), "the span": key(s, page, "",
			301), "a word": key(s, page+"    # a word\n", "", 300), "the site": key(s, page, "language: de\n", 300),
	} {
		assert.NotEqual(t, base, other, what)
	}
}
