package site

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"path/filepath"
	"time"
)

// Change is one journaled edit.
type Change struct {
	ID     int          `json:"id"`
	Label  string       `json:"label"` // the command, as it was typed
	Time   time.Time    `json:"time"`
	Undone bool         `json:"undone"`
	Files  []FileChange `json:"files"`
}

func historyDir(dir string) string { return filepath.Join(dir, ".ziegel", "history") }

func writeEntry(dir string, c Change) error {
	data, err := json.Marshal(c)
	if err != nil {
		return err
	}
	return WriteFile(entryPath(dir, c.ID), data)
}

func entryPath(dir string, id int) string {
	return filepath.Join(historyDir(dir), fmt.Sprintf("%08d.json", id))
}

func hash(s string) string {
	h := sha256.Sum256([]byte(s))
	return hex.EncodeToString(h[:8])
}

// Hash names a content shortly, to notice changes.
func Hash(s string) string { return hash(s) }
