package site

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"sort"
	"strings"
	"time"

	"github.com/rogpeppe/go-internal/lockedfile"
)

// Lock makes this process the only one that edits the site, waiting for others. Call the returned function to let go.
func Lock(dir string) (func(), error) {
	hidden := filepath.Join(dir, ".ziegel")
	if err := os.MkdirAll(hidden, 0o777); err != nil {
		return nil, fmt.Errorf("the site's folder cannot be written: %w", cause(err))
	}
	unlock, err := lockedfile.MutexAt(filepath.Join(hidden, "lock")).Lock()
	if err != nil {
		return nil, fmt.Errorf("the site's folder cannot be written: %w", cause(err))
	}
	for _, sub := range []string{".", "pages", ".ziegel/history", "built"} { // what a killed process left half written
		left, _ := filepath.Glob(filepath.Join(dir, filepath.FromSlash(sub), ".ziegel-*"))
		for _, n := range left {
			_ = os.Remove(n)
		}
	}
	return unlock, nil
}

// FileChange is the content of one file before and after an edit. Missing files have Exists false.
type FileChange struct {
	Path   string `json:"path"`
	Before string `json:"before"`
	After  string `json:"after"`
	New    bool   `json:"new,omitempty"` // the file did not exist before
	Gone   bool   `json:"gone,omitempty"`
}

// Unchanged reports an error when a file that is to be changed is no longer what it was when the change was worked out.
func Unchanged(dir string, changes []FileChange) error {
	for _, c := range changes {
		data, err := ReadIn(dir, c.Path)
		if err != nil && !c.New {
			return fmt.Errorf("read %s: %w", c.Path, cause(err))
		}
		if string(data) != c.Before {
			return fmt.Errorf("%s has changed meanwhile; nothing was written", c.Path)
		}
	}
	return nil
}

// Change is one journaled edit.
type Change struct {
	ID     int          `json:"id"`
	Label  string       `json:"label"` // the command, as it was typed
	Time   time.Time    `json:"time"`
	Undone bool         `json:"undone"`
	Files  []FileChange `json:"files"`
}

func historyDir(dir string) string { return filepath.Join(dir, ".ziegel", "history") }

func hash(s string) string {
	h := sha256.Sum256([]byte(s))
	return hex.EncodeToString(h[:8])
}

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

// Commit journals a change and writes its files. Call it under Lock. Files whose content does not change are left out; with none left
// nothing happens. The journal entry comes first, so that a killed process leaves either the old files and an entry that undo
// ignores, or the new files and a way back.
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
	list := History(dir)
	id := 1
	for _, c := range list {
		id = max(id, c.ID+1)
		if c.Undone { // a new edit ends what could be done again
			_ = os.Remove(entryPath(dir, c.ID))
		}
	}
	if err := writeEntry(dir, Change{ID: id, Label: label, Time: now.UTC(), Files: real}); err != nil {
		return fmt.Errorf("write .ziegel/history: %w; nothing was changed", cause(err))
	}
	for i := 0; i < len(list)-keepHistory; i++ {
		_ = os.Remove(entryPath(dir, list[i].ID))
	}
	if err := writeAll(dir, real); err != nil {
		_ = os.Remove(entryPath(dir, id))
		return err
	}
	return nil
}

func entryPath(dir string, id int) string {
	return filepath.Join(historyDir(dir), fmt.Sprintf("%08d.json", id))
}

func writeEntry(dir string, c Change) error {
	data, err := json.Marshal(c)
	if err != nil {
		return err
	}
	return WriteFile(entryPath(dir, c.ID), data)
}

// writeAll writes files; when one fails, those written before get their old content back.
func writeAll(dir string, files []FileChange) error {
	for i, f := range files {
		name, err := Place(dir, f.Path)
		switch {
		case err != nil:
		case f.Gone:
			err = os.Remove(name)
		default:
			err = WriteFile(name, []byte(f.After))
		}
		if err != nil {
			for _, done := range files[:i] {
				p, err := Place(dir, done.Path)
				if err != nil {
					continue
				}
				if done.New {
					_ = os.Remove(p)
				} else {
					_ = WriteFile(p, []byte(done.Before))
				}
			}
			return fmt.Errorf("write %s: %w; nothing was changed", f.Path, cause(err))
		}
	}
	for _, f := range files {
		if f.Gone {
			removeEmpty(dir, f.Path)
		}
	}
	return nil
}

// removeEmpty takes away the folders that a file stood in and that hold nothing any more. Those right in the site stay: pages, sections.
func removeEmpty(dir, file string) {
	for at := path.Dir(file); strings.Contains(at, "/"); at = path.Dir(at) {
		if os.Remove(filepath.Join(dir, filepath.FromSlash(at))) != nil { // something is in it
			return
		}
	}
}

// WriteFile writes a file whole or not at all: to a file beside it, which then takes its name. The mode of an existing file stays.
func WriteFile(path string, data []byte) error {
	if err := os.MkdirAll(filepath.Dir(path), 0o777); err != nil {
		return err
	}
	mode := fs.FileMode(0o666)
	if info, err := os.Stat(path); err == nil {
		mode = info.Mode().Perm()
		if mode&0o200 == 0 {
			return &fs.PathError{Op: "write", Path: path, Err: errors.New("the file is read-only")}
		}
	}
	f, err := os.CreateTemp(filepath.Dir(path), ".ziegel-*")
	if err != nil {
		return err
	}
	tmp := f.Name()
	_, err = f.Write(data)
	if err == nil {
		err = f.Sync()
	}
	if cerr := f.Close(); err == nil {
		err = cerr
	}
	if err == nil && mode != 0o666 {
		err = os.Chmod(tmp, mode)
	} else if err == nil {
		err = os.Chmod(tmp, 0o644)
	}
	if err == nil {
		err = os.Rename(tmp, path)
	}
	if err != nil {
		_ = os.Remove(tmp)
	}
	return err
}

// ErrNothing says that there is no edit to take back, or to do again.
var ErrNothing = errors.New("nothing to take back")

// Undo takes the newest edit back. It refuses when hands have changed the place since. Call it under Lock.
func Undo(dir string) (Change, error) {
	list := History(dir)
	for i := len(list) - 1; i >= 0; i-- {
		c := list[i]
		if c.Undone {
			continue
		}
		if untouched(dir, c) { // killed before its files were written
			_ = os.Remove(entryPath(dir, c.ID))
			continue
		}
		err := swap(dir, c, true)
		c.Undone = err == nil
		return c, err
	}
	return Change{}, ErrNothing
}

// Redo does the edit again that was taken back last.
func Redo(dir string) (Change, error) {
	for _, c := range History(dir) {
		if c.Undone {
			err := swap(dir, c, false)
			c.Undone = err != nil
			return c, err
		}
	}
	return Change{}, errors.New("nothing to do again")
}

// untouched reports an entry whose files all still have their old content.
func untouched(dir string, c Change) bool {
	for _, f := range c.Files {
		data, err := ReadIn(dir, f.Path)
		if f.New && errors.Is(err, fs.ErrNotExist) {
			continue
		}
		if err != nil || string(data) != f.Before || f.New {
			return false
		}
	}
	return true
}

func swap(dir string, c Change, back bool) error {
	var out []FileChange
	for _, f := range c.Files {
		from, to, appears, goes := f.After, f.Before, f.Gone, f.New
		if !back {
			from, to, appears, goes = f.Before, f.After, f.New, f.Gone
		}
		data, err := ReadIn(dir, f.Path)
		switch {
		case appears && errors.Is(err, fs.ErrNotExist):
			out = append(out, FileChange{Path: f.Path, After: to, New: true})
			continue
		case err != nil:
			return fmt.Errorf("read %s: %w", f.Path, cause(err))
		}
		now := string(data)
		if goes {
			if now != from {
				return fmt.Errorf("%s has been changed by hand since %q; it stays as it is", f.Path, c.Label)
			}
			out = append(out, FileChange{Path: f.Path, Before: now, Gone: true})
			continue
		}
		text, ok := patch(now, from, to)
		if !ok {
			return fmt.Errorf("%s has been changed by hand at the place of %q; change it by hand, or restore the file first", f.Path, c.Label)
		}
		out = append(out, FileChange{Path: f.Path, Before: now, After: text})
	}
	c.Undone = back
	if err := writeAll(dir, out); err != nil {
		return err
	}
	return writeEntry(dir, c)
}

// patch turns the part of now that changed from -> to. It succeeds when now is from, or holds the changed lines with their
// neighbours exactly once.
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
	old := strings.Join(a[before:after], "")
	if old == "" || strings.Count(now, old) != 1 {
		return "", false
	}
	fresh := strings.Join(b[before:len(b)-tail+(after-(len(a)-tail))], "")
	return strings.Replace(now, old, fresh, 1), true
}

// Hash names a content shortly, to notice changes.
func Hash(s string) string { return hash(s) }
