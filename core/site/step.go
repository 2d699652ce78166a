package site

import (
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"ziegel/core/diag"
)

// step is one change of several files and of the journal, that is made as a whole or not at all: what it will do is
// written down first.
type step struct {
	Entry Change       `json:"entry"` // as the journal has it afterwards
	Files []FileChange `json:"files"` // what is written
	Drop  []int        `json:"drop,omitempty"`
}

func stepPath(dir string) string { return filepath.Join(dir, ".ziegel", "step.json") }

func (st *step) run(dir string) error {
	data, err := json.Marshal(st)
	if err == nil {
		err = WriteFile(stepPath(dir), data)
	}
	if err != nil {
		return fmt.Errorf("write .ziegel/step.json: %w; nothing was changed", diag.Bare(err))
	}
	written, err := writeAll(dir, st.Files)
	if err == nil {
		if err = st.note(dir); err == nil {
			return nil
		}
		err = fmt.Errorf("write .ziegel/history: %w; nothing was changed", diag.Bare(err))
	}
	if restore(dir, st.Files[:written]) == nil {
		_ = os.Remove(entryPath(dir, st.Entry.ID))
		_ = os.Remove(stepPath(dir))
	}
	return err
}

// note brings the journal up to date and ends the step.
func (st *step) note(dir string) error {
	if err := writeEntry(dir, st.Entry); err != nil {
		return err
	}
	for _, id := range st.Drop {
		_ = os.Remove(entryPath(dir, id))
	}
	return os.Remove(stepPath(dir))
}

// Interrupted reports a step that a process was killed in. The next Lock puts it right.
func Interrupted(dir string) bool {
	_, err := os.Lstat(stepPath(dir))
	return err == nil
}

// recoverStep ends a step that a process was killed in. With none of its files written it has not begun; else those
// that are left are written too. A file that is neither what it was nor what it should become was changed by hand
// since, and stays.
func recoverStep(dir string) (string, error) {
	data, err := ReadIn(dir, ".ziegel/step.json")
	if errors.Is(err, fs.ErrNotExist) {
		return "", nil
	}
	var st step
	if err == nil {
		err = json.Unmarshal(data, &st)
	}
	if err != nil || st.Entry.ID == 0 { // it is written whole or not at all: this is not one of ours
		return "", os.Remove(stepPath(dir))
	}
	begun := false
	var left []FileChange
	var hands []string
	for _, f := range st.Files {
		switch state := f.state(dir); {
		case state == isAfter && !f.same():
			begun = true
		case state == isBefore:
			left = append(left, f)
		case state == isOther:
			hands = append(hands, f.Path)
		}
	}
	if !begun {
		if err := os.Remove(stepPath(dir)); err != nil {
			return "", fmt.Errorf("end the step that was interrupted: %w", diag.Bare(err))
		}
		return fmt.Sprintf("%q was interrupted before it changed anything", st.Entry.Label), nil
	}
	if _, err := writeAll(dir, left); err != nil {
		return "", fmt.Errorf("end the step that was interrupted: %w", err)
	}
	if err := st.note(dir); err != nil {
		return "", fmt.Errorf("end the step that was interrupted: %w", diag.Bare(err))
	}
	text := fmt.Sprintf("%q was interrupted; it is done now", st.Entry.Label)
	if st.Entry.Undone {
		text = fmt.Sprintf("taking back %q was interrupted; it is done now", st.Entry.Label)
	}
	if len(hands) > 0 {
		text += ", but " + strings.Join(hands, ", ") + " was changed by hand meanwhile and stays"
	}
	return text, nil
}

// writeAll writes files, one after the other, and says how many it has written before one failed.
func writeAll(dir string, files []FileChange) (int, error) {
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
			return i, fmt.Errorf("write %s: %w; nothing was changed", f.Path, diag.Bare(err))
		}
	}
	for _, f := range files {
		if f.Gone {
			removeEmpty(dir, f.Path)
		}
	}
	return len(files), nil
}

// restore gives files their old content back.
func restore(dir string, files []FileChange) error {
	var first error
	for _, f := range files {
		p, err := Place(dir, f.Path)
		switch {
		case err != nil:
		case f.New:
			if err = os.Remove(p); err == nil {
				removeEmpty(dir, f.Path)
			}
		default:
			err = WriteFile(p, []byte(f.Before))
		}
		if first == nil {
			first = err
		}
	}
	return first
}
