package site

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// three is a step over a changed, a new and a removed file.
func three() (map[string]string, map[string]string, []FileChange) {
	before := map[string]string{"pages/a.yaml": "a: 1\n", "sections/own/x/section.css": ".x {}\n",
		"pages/c.yaml": "c: 1\n"}
	after := map[string]string{"pages/a.yaml": "a: 2\n", "pages/b.yaml": "b: 1\n", "pages/c.yaml": "c: 2\n"}
	return before, after, []FileChange{
		{Path: "pages/a.yaml", Before: "a: 1\n", After: "a: 2\n"},
		{Path: "pages/b.yaml", After: "b: 1\n", New: true},
		{Path: "sections/own/x/section.css", Before: ".x {}\n", Gone: true},
		{Path: "pages/c.yaml", Before: "c: 1\n", After: "c: 2\n"},
	}
}

func filesIn(t *testing.T, dir string) map[string]string {
	out := map[string]string{}
	require.NoError(t, filepath.WalkDir(dir, func(p string, d os.DirEntry, err error) error {
		if d.Name() == ".ziegel" {
			return filepath.SkipDir
		}
		if err == nil && !d.IsDir() {
			data, rerr := os.ReadFile(p)
			rel, _ := filepath.Rel(dir, p)
			out[filepath.ToSlash(rel)] = string(data)
			err = rerr
		}
		return err
	}))
	return out
}

// A process is killed after each write of a step: the next one finds the files as they were, or all of them as they
// should be, and the journal with them.
func TestAStepThatWasKilledIsDoneAsAWholeOrNotAtAll(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	for killed := range 6 {
		t.Run(fmt.Sprint("after ", killed), func(t *testing.T) {
			before, after, files := three()
			dir := write(t, before)
			st := step{Entry: Change{ID: 1, Label: "ziegel keep", Files: files}, Files: files}
			data, err := json.Marshal(st)
			require.NoError(t, err)
			require.NoError(t, WriteFile(stepPath(dir), data))
			_, err = writeAll(dir, files[:min(killed, 4)])
			require.NoError(t, err)
			if killed == 5 {
				require.NoError(t, writeEntry(dir, st.Entry))
			}
			assert.True(t, Interrupted(dir))
			unlock, told, err := Lock(dir)
			require.NoError(t, err)
			defer unlock()
			assert.Contains(t, told, `"ziegel keep" was interrupted`)
			assert.False(t, Interrupted(dir))
			if killed == 0 {
				assert.Equal(t, before, filesIn(t, dir))
				assert.Empty(t, History(dir))
				return
			}
			assert.Equal(t, after, filesIn(t, dir))
			require.Len(t, History(dir), 1)
			_, kept, err := Undo(dir, false)
			require.NoError(t, err)
			assert.Empty(t, kept)
			assert.Equal(t, before, filesIn(t, dir))
			_, err = Redo(dir)
			require.NoError(t, err)
			assert.Equal(t, after, filesIn(t, dir))
		})
	}
}

// What hands have written after the process was killed stays.
func TestHandsGoBeforeAnInterruptedStep(t *testing.T) {
	before, _, files := three()
	dir := write(t, before)
	data, err := json.Marshal(step{Entry: Change{ID: 1, Label: "ziegel keep", Files: files}, Files: files})
	require.NoError(t, err)
	require.NoError(t, WriteFile(stepPath(dir), data))
	_, err = writeAll(dir, files[:2])
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(filepath.Join(dir, "pages/c.yaml"), []byte("c: by hand\n"), 0o666))
	unlock, told, err := Lock(dir)
	require.NoError(t, err)
	unlock()
	assert.Contains(t, told, "pages/c.yaml was changed by hand meanwhile and stays")
	assert.Equal(t, map[string]string{"pages/a.yaml": "a: 2\n", "pages/b.yaml": "b: 1\n",
		"pages/c.yaml": "c: by hand\n"}, filesIn(t, dir))
}

// Each write of a step fails once: nothing is changed and nothing is left behind.
func TestAStepWhoseWriteFailsChangesNothing(t *testing.T) {
	for failing := range 4 {
		t.Run(fmt.Sprint("write ", failing), func(t *testing.T) {
			before, _, files := three()
			dir := write(t, before)
			st := step{Entry: Change{ID: 1, Label: "x", Files: files}, Files: files}
			if files[failing].Gone { // a folder with something in it can be neither replaced nor removed
				st.Files[failing].Path = "sections"
			} else {
				blocked := filepath.Join(dir, "blocked", "in")
				require.NoError(t, os.MkdirAll(blocked, 0o777))
				st.Files[failing].Path = "blocked"
			}
			require.ErrorContains(t, st.run(dir), "nothing was changed")
			assert.Equal(t, before, filesIn(t, dir))
			assert.False(t, Interrupted(dir))
			assert.Empty(t, History(dir))
		})
	}
	before, _, files := three()
	dir := write(t, before)
	require.NoError(t, os.MkdirAll(filepath.Join(dir, ".ziegel", "history", "00000001.json", "in"), 0o777))
	require.ErrorContains(t, (&step{Entry: Change{ID: 1, Label: "x", Files: files}, Files: files}).run(dir),
		"nothing was changed")
	assert.Equal(t, before, filesIn(t, dir))
	assert.False(t, Interrupted(dir))
}

// A file that somebody saves between the reading and the writing of an edit is not overwritten.
func TestAnEditDoesNotOverwriteWhatWasSavedMeanwhile(t *testing.T) {
	for name, hand := range map[string]func(dir string) error{
		"another text": func(dir string) error {
			return os.WriteFile(filepath.Join(dir, "p.yaml"), []byte("a: hand\n"), 0o666)
		},
		"gone":       func(dir string) error { return os.Remove(filepath.Join(dir, "p.yaml")) },
		"there once": func(dir string) error { return os.WriteFile(filepath.Join(dir, "q.yaml"), nil, 0o666) },
	} {
		t.Run(name, func(t *testing.T) {
			dir := write(t, map[string]string{"p.yaml": "a: 1\n"})
			require.NoError(t, hand(dir))
			was := filesIn(t, dir)
			err := Commit(dir, "set", time.Unix(0, 0), []FileChange{{Path: "p.yaml", Before: "a: 1\n",
				After: "a: 2\n"}, {Path: "q.yaml", After: "q", New: true}})
			require.ErrorIs(t, err, ErrChanged)
			assert.Equal(t, was, filesIn(t, dir))
			assert.Empty(t, History(dir))
		})
	}
}

func TestUndoAfterHandsHaveWorkedOnANewFile(t *testing.T) {
	dir := write(t, map[string]string{"p.yaml": "a: 1\n"})
	commit := func(files ...FileChange) { require.NoError(t, Commit(dir, "step", time.Unix(0, 0), files)) }
	commit(FileChange{Path: "p.yaml", Before: "a: 1\n", After: "a: 2\n"})
	commit(FileChange{Path: "p.yaml", Before: "a: 2\n", After: "a: 3\n"},
		FileChange{Path: "sections/own/x/section.css", After: ".x {}\n", New: true})
	require.NoError(t, os.WriteFile(filepath.Join(dir, "sections/own/x/section.css"),
		[]byte(".x { color: red }\n"), 0o666))
	_, kept, err := Undo(dir, false)
	require.NoError(t, err)
	assert.Equal(t, []string{"sections/own/x/section.css"}, kept)
	assert.Equal(t, map[string]string{"p.yaml": "a: 2\n", "sections/own/x/section.css": ".x { color: red }\n"},
		filesIn(t, dir))
	_, _, err = Undo(dir, false)
	require.NoError(t, err, "older edits are in reach")
	assert.Equal(t, "a: 1\n", filesIn(t, dir)["p.yaml"])
}

func TestAnEditInTheWayIsLeftOut(t *testing.T) {
	dir := write(t, map[string]string{"p.yaml": "a: 1\n", "q.yaml": "b: 1\n"})
	require.NoError(t, Commit(dir, "first", time.Unix(0, 0),
		[]FileChange{{Path: "p.yaml", Before: "a: 1\n", After: "a: 2\n"}}))
	require.NoError(t, Commit(dir, "second", time.Unix(0, 0),
		[]FileChange{{Path: "q.yaml", Before: "b: 1\n", After: "b: 2\n"}}))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "q.yaml"), []byte("b: hand\n"), 0o666))
	_, _, err := Undo(dir, false)
	require.ErrorContains(t, err, "ziegel undo --skip")
	c, _, err := Undo(dir, true)
	require.NoError(t, err)
	assert.Equal(t, "first", c.Label)
	assert.Equal(t, map[string]string{"p.yaml": "a: 1\n", "q.yaml": "b: hand\n"}, filesIn(t, dir))
}

// A patch finds whole lines only.
func TestPatchesMatchWholeLines(t *testing.T) {
	from, to := "b: 1\n", "b: 2\n"
	_, ok := patch("ab: 1\n", from, to)
	assert.False(t, ok)
	now, ok := patch("ab: 1\nb: 1\n", from, to)
	assert.True(t, ok)
	assert.Equal(t, "ab: 1\nb: 2\n", now)
	_, ok = patch("b: 1\nx\nb: 1\nx\n", "a\nb: 1\nx\n", "a\nb: 2\nx\n")
	assert.False(t, ok, "the line above is another one")
	_, ok = patch("c: 1\nb: 1\nc: 1\nd: 0\nc: 1\nb: 1\nc: 1\ne: 0\n", "c: 1\nb: 1\nc: 1\n\n", "c: 1\nb: 2\nc: 1\n\n")
	assert.False(t, ok, "it could be either")
}

// What is no text goes through the journal as it is.
func TestAFontGoesThroughTheJournal(t *testing.T) {
	was, now := "\x00\xff\xfe\x80old", "\x00\xff\xfe\x81new"
	dir := write(t, map[string]string{"media/fonts/a.woff2": was})
	require.NoError(t, Commit(dir, "theme font", time.Unix(0, 0),
		[]FileChange{{Path: "media/fonts/a.woff2", Before: was, After: now}}))
	assert.Equal(t, now, filesIn(t, dir)["media/fonts/a.woff2"])
	_, _, err := Undo(dir, false)
	require.NoError(t, err)
	assert.Equal(t, was, filesIn(t, dir)["media/fonts/a.woff2"])
	_, err = Redo(dir)
	require.NoError(t, err)
	assert.Equal(t, now, filesIn(t, dir)["media/fonts/a.woff2"])
}

// The journal of a site that comes from somebody else is not believed: no path in it leads out of the folder, neither
// by undo nor by a step that is said to have been interrupted.
func TestPathsOfTheJournalStayInTheFolder(t *testing.T) {
	for _, path := range []string{"../victim.txt", "pages/../../victim.txt", "link/victim.txt", "/victim.txt"} {
		for _, file := range []string{"history/00000001.json", "step.json"} {
			root := t.TempDir()
			dir := filepath.Join(root, "site")
			require.NoError(t, os.MkdirAll(filepath.Join(dir, ".ziegel", "history"), 0o777))
			require.NoError(t, os.MkdirAll(filepath.Join(dir, "pages"), 0o777))
			require.NoError(t, os.Symlink("..", filepath.Join(dir, "link")))
			require.NoError(t, os.WriteFile(filepath.Join(root, "victim.txt"), []byte("after"), 0o666))
			change := FileChange{Path: path, Before: "before", After: "after"}
			entry := Change{ID: 1, Label: "ziegel set", Files: []FileChange{change}}
			var text []byte
			var err error
			if file == "step.json" {
				text, err = json.Marshal(step{Entry: entry, Files: []FileChange{change}})
			} else {
				text, err = json.Marshal(entry)
			}
			require.NoError(t, err)
			require.NoError(t, os.WriteFile(filepath.Join(dir, ".ziegel", file), text, 0o666))
			unlock, _, err := Lock(dir)
			if err == nil {
				_, _, err = Undo(dir, false)
				unlock()
			}
			data, rerr := os.ReadFile(filepath.Join(root, "victim.txt"))
			require.NoError(t, rerr)
			require.Equal(t, "after", string(data), "%s by %s", path, file)
			require.Error(t, err, "%s by %s", path, file)
		}
	}
}

// An edit that changed lines in several places is taken back although hands have changed others between them; what
// they changed in the same lines is not.
func TestUndoBesideWhatHandsHaveChanged(t *testing.T) {
	before := "a: 1\nb: 1\nc: 1\nd: 1\ne: 1\nf: 1\n"
	after := "a: 2\nb: 1\nc: 1\nd: 1\ne: 2\nf: 1\n"
	for name, tt := range map[string]struct{ hand, want string }{
		"between":    {"a: 2\nb: 1\nc: hand\nd: 1\ne: 2\nf: 1\n", "a: 1\nb: 1\nc: hand\nd: 1\ne: 1\nf: 1\n"},
		"next to it": {"a: 2\nb: hand\nc: 1\nd: 1\ne: 2\nf: 1\n", "a: 1\nb: hand\nc: 1\nd: 1\ne: 1\nf: 1\n"},
		"new lines": {"x: 0\na: 2\nb: 1\nc: 1\nd: 1\ne: 2\nf: 1\ng: 1\n",
			"x: 0\na: 1\nb: 1\nc: 1\nd: 1\ne: 1\nf: 1\ng: 1\n"},
		"in one":       {"a: 2\nb: 1\nc: 1\nd: 1\ne: hand\nf: 1\n", ""},
		"broken by it": {"a: 2\nb: 1\nc: 1\nd: 1\nf: 1\n", ""},
	} {
		t.Run(name, func(t *testing.T) {
			dir := write(t, map[string]string{"p.yaml": before})
			require.NoError(t, Commit(dir, "rename", time.Unix(0, 0),
				[]FileChange{{Path: "p.yaml", Before: before, After: after}}))
			require.NoError(t, os.WriteFile(filepath.Join(dir, "p.yaml"), []byte(tt.hand), 0o666))
			_, _, err := Undo(dir, false)
			if tt.want == "" {
				assert.ErrorContains(t, err, "--skip")
				assert.Equal(t, tt.hand, filesIn(t, dir)["p.yaml"])
				return
			}
			require.NoError(t, err)
			assert.Equal(t, tt.want, filesIn(t, dir)["p.yaml"])
			_, err = Redo(dir)
			require.NoError(t, err)
			assert.Equal(t, tt.hand, filesIn(t, dir)["p.yaml"])
		})
	}
}
