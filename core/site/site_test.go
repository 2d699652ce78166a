package site

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func write(t *testing.T, files map[string]string) string {
	t.Helper()
	dir := t.TempDir()
	for n, s := range files {
		require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(dir, n)), 0o777))
		require.NoError(t, os.WriteFile(filepath.Join(dir, n), []byte(s), 0o666))
	}
	return dir
}

func TestMistakesAreToldAllAtOnceWithTheirPlace(t *testing.T) {
	dir := write(t, map[string]string{"ziegel.yaml": "name: L\ncolour: red\nlanguage: english!\naddress: larkspan.example\n", "pages/home.yaml": `title: [a]
blocks:
  - {name: One, section: hero/beside}
  - {name: a, section: hero/beside}
  - {name: a, section: hero/beside}
  - {section: hero/beside}
  - name: c
  - name: d
    section: hero/beside
    content: text
    sectoin: x
    options: {media: [left]}
`})
	s, problems, err := Open(dir)
	require.NoError(t, err)
	problems = append(problems, s.Problems()...).Sorted()
	var got []string
	for _, p := range problems {
		got = append(got, p.Position.String()+" "+p.Rule)
	}
	assert.Equal(t, []string{"pages/home.yaml:1:8 wrong-type", "pages/home.yaml:3:12 bad-name",
		"pages/home.yaml:5:12 duplicate-name", "pages/home.yaml:6:5 missing-key",
		"pages/home.yaml:7:5 missing-key", "pages/home.yaml:10:14 wrong-type", "pages/home.yaml:11:5 unknown-key", "pages/home.yaml:12:22 wrong-type",
		"ziegel.yaml:2:1 unknown-key", "ziegel.yaml:3:11 wrong-type", "ziegel.yaml:4:10 wrong-type"}, got)
}

func TestAccidentsOfYAMLGetTheirOwnWords(t *testing.T) {
	tests := []struct{ name, in, text, try string }{
		{"a hash", "to: #how\n", "a text that starts with # is a comment in YAML", `to: "#how"`},
		{"a star", "a: *bold* move\n", "a text that starts with * means something else in YAML", `"*bold* move"`},
		{"a brace", "padding: {space.far}\n", "a text that starts with { is a map in YAML", `padding: "{space.far}"`},
		{"a colon", "title: Kites: made here\n", "a text with a colon in it looks like a second key",
			`title: "Kites: made here"`},
		{"a tab", "a:\n\tb: 1\n", "a tab stands where YAML wants spaces", ""},
		{"a second document", "a: 1\n---\nb: 2\n",
			"a second document begins here, and only the first of a file is read", ""},
		{"lines of old machines", "a: 1\rb: 2\ra: 3\r", `the key "a" stands here a second time`, ""},
		{"binary", "\x00\x01\x02", "this is not a text file in UTF-8", ""},
		{"a second key", "a: 1\na: 2\n", `the key "a" stands here a second time`, ""},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) {
			_, problems := parseFile("p.yaml", tt.in)
			require.NotEmpty(t, problems)
			assert.Equal(t, tt.text, problems[0].Text)
			assert.Equal(t, tt.try, problems[0].Try)
			assert.Positive(t, problems[0].Line)
		})
	}
}

func TestUndoTakesBackAndRefusesWhereHandsHaveBeen(t *testing.T) {
	dir := write(t, map[string]string{"p.yaml": "a: 1\nb: 2\nc: 3\nd: 4\ne: 5\nf: 6\n"})
	read := func() string {
		b, err := os.ReadFile(filepath.Join(dir, "p.yaml"))
		require.NoError(t, err)
		return string(b)
	}
	edit := func(key, value string) {
		text, err := EditSource("p.yaml", read(), set(value, key))
		require.NoError(t, err)
		require.NoError(t, Commit(dir, "set "+key, time.Unix(0, 0),
			[]FileChange{{Path: "p.yaml", Before: read(), After: text}}))
	}
	_, _, err := Undo(dir, false)
	require.ErrorIs(t, err, ErrNothing)
	edit("a", "10")
	edit("f", "60")
	_, _, err = Undo(dir, false)
	require.NoError(t, err)
	assert.Equal(t, "a: 10\nb: 2\nc: 3\nd: 4\ne: 5\nf: 6\n", read())
	_, err = Redo(dir)
	require.NoError(t, err)
	assert.Contains(t, read(), "f: 60")

	// a change by hand elsewhere does not stop undo, one at the place does
	require.NoError(t, os.WriteFile(filepath.Join(dir, "p.yaml"),
		[]byte("a: hand\nb: 2\nc: 3\nd: 4\ne: 5\nf: 60\n"), 0o666))
	_, _, err = Undo(dir, false)
	require.NoError(t, err)
	assert.Equal(t, "a: hand\nb: 2\nc: 3\nd: 4\ne: 5\nf: 6\n", read())
	_, _, err = Undo(dir, false)
	require.ErrorContains(t, err, "changed by hand")
	assert.Equal(t, "a: hand\nb: 2\nc: 3\nd: 4\ne: 5\nf: 6\n", read())
}

func TestAnEntryOfAKilledProcessIsPassedOver(t *testing.T) {
	dir := write(t, map[string]string{"p.yaml": "a: 1\n"})
	require.NoError(t, writeEntry(dir, Change{ID: 1, Label: "killed",
		Files: []FileChange{{Path: "p.yaml", Before: "a: 1\n", After: "a: 2\n"}}}))
	_, _, err := Undo(dir, false)
	require.ErrorIs(t, err, ErrNothing)
	assert.Empty(t, History(dir))
}

func TestSpans(t *testing.T) {
	for in, want := range map[string][3]int{"480..719": {480, 719, 1}, "..599": {0, 599, 1}, "1024..": {1024, 0, 1},
		"720": {720, 720, 1}, "x": {0, 0, 0}, "9..3": {9, 3, 0}, "..": {0, 0, 0}} {
		from, to, ok := ParseSpan(in)
		assert.Equal(t, want[2] == 1, ok, in)
		if ok {
			assert.Equal(t, want[:2], []int{from, to}, in)
		}
	}
}

func TestLanguagesOfASite(t *testing.T) {
	open := func(main, words string, pages ...string) (*Site, string) {
		dir := t.TempDir()
		require.NoError(t, os.MkdirAll(filepath.Join(dir, "pages"), 0o777))
		require.NoError(t, os.MkdirAll(filepath.Join(dir, "words"), 0o777))
		require.NoError(t, os.WriteFile(filepath.Join(dir, "ziegel.yaml"), []byte("name: L\n"+main), 0o666))
		require.NoError(t, os.WriteFile(filepath.Join(dir, "words", "de.yaml"), []byte(words), 0o666))
		for _, p := range append(pages, "home") {
			require.NoError(t, os.WriteFile(filepath.Join(dir, "pages", p+".yaml"), []byte("title: T\nblocks: []\n"),
				0o666))
		}
		s, problems, err := Open(dir)
		require.NoError(t, err)
		var all []string
		for _, p := range problems {
			all = append(all, p.String())
		}
		return s, strings.Join(all, "\n")
	}
	s, told := open("languages: [en, de]\n", "home title: {of: T, is: U}\nhome address: start\nabout address: Über\n")
	assert.Empty(t, told)
	assert.Equal(t, "en", s.Language)
	w, ok := s.Words["de"].Get("home title")
	assert.True(t, ok)
	assert.Equal(t, []string{"T", "U"}, []string{w.Of, w.Is})
	assert.Equal(t, []string{"start", "about", "courses"}, []string{s.Slug("de", "home"), s.Slug("de", "about"),
		s.Slug("de", "courses")},
		"what cannot be an address is none")
	for main, want := range map[string]string{
		"languages: [en, xq]\n":               `there is no language "xq"`,
		"languages: [en, en]\n":               "the language en stands here twice",
		"language: fr\nlanguages: [en, de]\n": "the language of the pages is fr, and the first of languages is en",
		"languages: de\n":                     "languages is a text",
		"languages: [en, about]\n":            `there is no language "about"`,
		"languages: [en, fr]\n":               "the page fr would stand where the pages in fr do: /fr/",
	} {
		_, told := open(main, "", "fr")
		assert.Contains(t, told, want)
	}
	for words, want := range map[string]string{
		"- a\n": "words/de.yaml:1:1: error: the file of translations is a list", "a b: {iss: x}\n": `a translation has no "iss"`,
		"a b: [x]\n": "a translation is a list", "a b: \"x\n": "the YAML cannot be read here",
	} {
		_, told := open("languages: [en, de]\n", words)
		assert.Contains(t, told, want)
	}
}
