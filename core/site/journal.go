package site

import (
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"sort"
	"strings"
	"time"

	"github.com/aymanbagabas/go-udiff"
	"github.com/rogpeppe/go-internal/lockedfile"

	"ziegel/core/diag"
)

// Lock makes this process the only one that edits the site, waiting for others. Call the returned function to let go.
// What a process that was killed has left is put right first; told says so in one line, and is empty when there was
// nothing.
func Lock(dir string) (unlock func(), told string, err error) {
	hidden := filepath.Join(dir, ".ziegel")
	if err := os.MkdirAll(hidden, 0o777); err != nil {
		return nil, "", fmt.Errorf("the site's folder cannot be written: %w", diag.Bare(err))
	}
	unlock, err = lockedfile.MutexAt(filepath.Join(hidden, "lock")).Lock()
	if err != nil {
		return nil, "", fmt.Errorf("the site's folder cannot be written: %w", diag.Bare(err))
	}
	// what a killed process left half written
	for _, sub := range []string{".", "pages", ".ziegel", ".ziegel/history"} {
		left, _ := filepath.Glob(filepath.Join(dir, filepath.FromSlash(sub), tempForm))
		for _, n := range left {
			_ = os.Remove(n)
		}
	}
	if told, err = recoverStep(dir); err != nil {
		unlock()
		return nil, "", err
	}
	return unlock, told, nil
}

// tempForm is the form of names of files that are being written.
const tempForm = ".ziegel-*"

// IsTemp reports the name of a file that is being written, or that a killed process has left so.
func IsTemp(name string) bool { return strings.HasPrefix(name, ".ziegel-") }

// keepHistory is how many edits can be taken back.
const keepHistory = 500

// History returns the journal, oldest first. Entries that cannot be read are skipped.
func History(dir string) []Change {
	names, _ := filepath.Glob(filepath.Join(historyDir(dir), "*.json"))
	sort.Strings(names)
	var out []Change
	for _, n := range names {
		data, err := os.ReadFile(n)
		if err != nil {
			continue
		}
		var c Change
		if json.Unmarshal(data, &c) == nil {
			out = append(out, c)
		}
	}
	return out
}

// Commit journals a change and writes its files. Call it under Lock. Files whose content does not change are left
// out; with none left nothing happens. It refuses with ErrChanged when a file is no longer what it was when the
// change was worked out.
func Commit(dir, label string, now time.Time, files []FileChange) error {
	var real []FileChange
	for _, f := range files {
		if f.Before != f.After || f.New || f.Gone {
			real = append(real, f)
		}
	}
	if len(real) == 0 {
		return nil
	}
	if err := Unchanged(dir, real); err != nil {
		return err
	}
	list := History(dir)
	st := step{Entry: Change{ID: 1, Label: label, Time: now.UTC(), Files: real}, Files: real}
	for _, c := range list {
		st.Entry.ID = max(st.Entry.ID, c.ID+1)
		if c.Undone { // a new edit ends what could be done again
			st.Drop = append(st.Drop, c.ID)
		}
	}
	for i := 0; i < len(list)-keepHistory; i++ {
		st.Drop = append(st.Drop, list[i].ID)
	}
	return st.run(dir)
}

// ErrNothing says that there is no edit to take back, or to do again.
var ErrNothing = errors.New("nothing to take back")

// Undo takes the newest edit back. It refuses when hands have changed the place since; with skip, that edit stays as
// it is and is left out from now on. Files that the edit has made and hands have changed stay; kept names them. Call
// it under Lock.
func Undo(dir string, skip bool) (c Change, kept []string, err error) {
	list := History(dir)
	for i := len(list) - 1; i >= 0; i-- {
		c := list[i]
		if c.Undone {
			continue
		}
		if untouched(dir, c) { // killed before its files were written, by a program that wrote no step
			_ = os.Remove(entryPath(dir, c.ID))
			continue
		}
		if skip {
			_ = os.Remove(entryPath(dir, c.ID))
			skip = false
			continue
		}
		kept, err := swap(dir, &c, true)
		return c, kept, err
	}
	return Change{}, nil, ErrNothing
}

// Redo does the edit again that was taken back last.
func Redo(dir string) (Change, error) {
	for _, c := range History(dir) {
		if c.Undone {
			_, err := swap(dir, &c, false)
			return c, err
		}
	}
	return Change{}, errors.New("nothing to do again")
}

// untouched reports an entry whose files all still have their old content.
func untouched(dir string, c Change) bool {
	for _, f := range c.Files {
		if f.same() || f.state(dir) != isBefore {
			return false
		}
	}
	return true
}

// swap makes the files of a change what they were before it, or after it.
func swap(dir string, c *Change, back bool) (kept []string, err error) {
	var st step
	for _, f := range c.Files {
		from, to, appears, goes := f.After, f.Before, f.Gone, f.New
		if !back {
			from, to, appears, goes = f.Before, f.After, f.New, f.Gone
		}
		data, err := ReadIn(dir, f.Path)
		now, missing := string(data), errors.Is(err, fs.ErrNotExist)
		switch {
		case appears && missing:
			st.Files = append(st.Files, FileChange{Path: f.Path, After: to, New: true})
		case appears && err == nil && now == to, goes && missing: // by hand, already
		case err != nil:
			return nil, fmt.Errorf("read %s: %w", f.Path, diag.Bare(err))
		case goes && now != from && back: // the edit made it, and hands have worked on it since
			kept = append(kept, f.Path)
		case goes && now != from, appears:
			return nil, fmt.Errorf("%s has been changed by hand since %q; it stays as it is", f.Path, c.Label)
		case goes:
			st.Files = append(st.Files, FileChange{Path: f.Path, Before: now, Gone: true})
		default:
			text, ok := patch(now, from, to)
			if !ok {
				text, ok = merge(f.Path, now, from, to)
			}
			if !ok {
				return nil, fmt.Errorf("%s has been changed by hand at the place of %q; change it by hand, or leave that edit as it is: ziegel undo --skip", f.Path, c.Label)
			}
			st.Files = append(st.Files, FileChange{Path: f.Path, Before: now, After: text})
		}
	}
	st.Entry = *c
	st.Entry.Undone = back
	if err := st.run(dir); err != nil {
		return nil, err
	}
	c.Undone = back
	return kept, nil
}

// patch turns the part of now that changed from -> to. It succeeds when now is from, or holds the changed lines with
// their neighbours exactly once.
func patch(now, from, to string) (string, bool) {
	if now == from {
		return to, true
	}
	a, b := strings.SplitAfter(from, "\n"), strings.SplitAfter(to, "\n")
	head := 0
	for head < len(a) && head < len(b) && a[head] == b[head] {
		head++
	}
	tail := 0
	for tail < len(a)-head && tail < len(b)-head && a[len(a)-1-tail] == b[len(b)-1-tail] {
		tail++
	}
	before, after := max(0, head-2), min(len(a), len(a)-tail+2)
	old, lines := a[before:after], strings.SplitAfter(now, "\n")
	at := -1
	for i := 0; len(old) > 0 && i+len(old) <= len(lines); i++ {
		if slices.Equal(lines[i:i+len(old)], old) {
			if at >= 0 {
				return "", false
			}
			at = i
		}
	}
	if at < 0 || strings.Join(old, "") == "" {
		return "", false
	}
	fresh := b[before : len(b)-tail+(after-(len(a)-tail))]
	return strings.Join(slices.Concat(lines[:at], fresh, lines[at+len(old):]), ""), true
}

// merge does the change from -> to on a text that hands have made of from, line by line: both changes stand when they
// touch other lines. What comes of it must be as sound as what was there.
func merge(path, now, from, to string) (string, bool) {
	both, ok := udiff.Merge(udiff.Lines(from, to), udiff.Lines(from, now))
	if !ok {
		return "", false
	}
	text, err := udiff.Apply(from, both)
	if err != nil {
		return "", false
	}
	if strings.HasSuffix(path, ".yaml") {
		_, was := parseFile(path, now)
		_, is := parseFile(path, text)
		if is.Err() != nil && was.Err() == nil {
			return "", false
		}
	}
	return text, true
}
