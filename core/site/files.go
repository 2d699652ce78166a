package site

import (
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"strings"
	"unicode/utf8"

	"ziegel/core/diag"
)

// FileChange is the content of one file before and after an edit. Missing files have Exists false.
type FileChange struct {
	Path   string
	Before string
	After  string
	New    bool // the file did not exist before
	Gone   bool
}

// MarshalJSON writes a change for the journal.
func (f FileChange) MarshalJSON() ([]byte, error) {
	w := wire{Path: f.Path, Before: f.Before, After: f.After, New: f.New, Gone: f.Gone}
	if !utf8.ValidString(f.Before) {
		w.Before, w.Before64 = "", []byte(f.Before)
	}
	if !utf8.ValidString(f.After) {
		w.After, w.After64 = "", []byte(f.After)
	}
	return json.Marshal(w)
}

// UnmarshalJSON reads a change from the journal.
func (f *FileChange) UnmarshalJSON(data []byte) error {
	var w wire
	if err := json.Unmarshal(data, &w); err != nil {
		return err
	}
	*f = FileChange{Path: w.Path, Before: w.Before + string(w.Before64), After: w.After + string(w.After64),
		New: w.New, Gone: w.Gone}
	return nil
}

// same reports a change after which nothing is different.
func (f *FileChange) same() bool { return !f.New && !f.Gone && f.Before == f.After }

func (f *FileChange) state(dir string) fileState {
	data, err := ReadIn(dir, f.Path)
	missing := errors.Is(err, fs.ErrNotExist)
	switch {
	case f.Gone && missing, err == nil && !f.Gone && string(data) == f.After:
		return isAfter
	case f.New && missing, err == nil && !f.New && string(data) == f.Before:
		return isBefore
	}
	return isOther
}

// WriteFile writes a file whole or not at all: to a file beside it, which then takes its name. The mode of an
// existing file stays.
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

// removeEmpty takes away the folders that a file stood in and that hold nothing any more. Those right in the site
// stay: pages, sections.
func removeEmpty(dir, file string) {
	for at := path.Dir(file); strings.Contains(at, "/"); at = path.Dir(at) {
		if os.Remove(filepath.Join(dir, filepath.FromSlash(at))) != nil { // something is in it
			return
		}
	}
}

// ErrChanged says that a file is no longer what it was when a change of it was worked out.
var ErrChanged = errors.New("has changed meanwhile; nothing was written")

// Unchanged reports ErrChanged when a file that is to be changed is no longer what it was when the change was worked
// out.
func Unchanged(dir string, changes []FileChange) error {
	for _, c := range changes {
		data, err := ReadIn(dir, c.Path)
		missing := errors.Is(err, fs.ErrNotExist)
		if err != nil && !missing {
			return fmt.Errorf("read %s: %w", c.Path, diag.Bare(err))
		}
		if c.New != missing || string(data) != c.Before {
			return fmt.Errorf("%s %w", c.Path, ErrChanged)
		}
	}
	return nil
}

// wire is a change as the journal has it: what is no text, such as a font, is written in base64.
type wire struct {
	Path     string `json:"path"`
	Before   string `json:"before"`
	After    string `json:"after"`
	New      bool   `json:"new,omitempty"`
	Gone     bool   `json:"gone,omitempty"`
	Before64 []byte `json:"before64,omitempty"`
	After64  []byte `json:"after64,omitempty"`
}

// fileState tells where a file stands in a change.
type fileState int

const (
	isBefore fileState = iota
	isAfter
	isOther
)
