package build

import (
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"maps"
	"os"
	"path/filepath"
	"runtime"
	"slices"
	"sort"

	"ziegel/core/diag"
	"ziegel/core/parallel"
	"ziegel/core/site"
)

// Written says what Write did.
type Written struct {
	Changed []string
	Same    int
	Removed []string
	Kept    []string // changed by hand, left alone
}

// Write brings dir/built up to date. Files changed by hand since the last build, and files that we did not make, stay
// unless force. What the files say of the last build is taken from last; nil reads it.
func Write(dir string, files Files, last *Last, force bool) (Written, error) {
	var w Written
	if last == nil {
		last = ReadLast(dir)
	}
	if len(last.half) > 0 { // the last build was killed
		cleanUp(filepath.Join(dir, "built"))
	}
	next := map[string]lay{}
	now := maps.Clone(last.files)
	var changed []string
	names := files.Names()
	there := make([]onDisk, len(names))
	parallel.Each(runtime.GOMAXPROCS(0), len(names), func(_, i int) bool {
		there[i] = last.lookAt(names[i], files[names[i]])
		return true
	})
	for i, n := range names {
		t := there[i]
		switch {
		case t.err != nil:
			return w, fmt.Errorf("read built/%s: %w", n, diag.Bare(t.err))
		case t.same:
			w.Same++
			now[n] = t.next
			continue
		case t.now != "" && !force && !last.ours(t.now, n):
			w.Kept = append(w.Kept, n)
			continue
		}
		next[n] = t.next
		changed = append(changed, n)
	}
	var gone []string
	for _, list := range []map[string]lay{last.files, last.half} {
		for n := range list {
			if _, still := files[n]; !still && !slices.Contains(gone, n) {
				gone = append(gone, n)
			}
		}
	}
	sort.Strings(gone)
	if len(changed) > 0 {
		for n, h := range last.half { // what that one has written may still be there
			if _, anew := next[n]; !anew {
				next[n] = h
			}
		}
		if err := save(dir, coming, next); err != nil {
			return w, fmt.Errorf("write %s: %w", coming, diag.Bare(err))
		}
	}
	for _, n := range changed {
		target, err := site.Place(dir, "built/"+n)
		if err == nil {
			err = site.WriteFile(target, files[n].Data)
		}
		if err != nil {
			_ = save(dir, manifest, now)
			return w, fmt.Errorf("write built/%s: %w", n, diag.Bare(err))
		}
		left := next[n]
		left.stat(target)
		now[n] = left
		w.Changed = append(w.Changed, n)
	}
	for _, n := range gone {
		target, err := site.Place(dir, "built/"+n)
		if err != nil {
			return w, fmt.Errorf("remove built/%s: %w", n, diag.Bare(err))
		}
		old, err := os.ReadFile(target)
		if err == nil && !force && !last.ours(site.Hash(string(old)), n) {
			w.Kept = append(w.Kept, n)
			continue
		}
		if err == nil {
			if err := os.Remove(target); err != nil {
				return w, fmt.Errorf("remove built/%s: %w", n, diag.Bare(err))
			}
			w.Removed = append(w.Removed, n)
		}
		delete(now, n)
	}
	if err := save(dir, manifest, now); err != nil {
		return w, err
	}
	if err := os.Remove(filepath.Join(dir, filepath.FromSlash(coming))); err != nil &&
		!errors.Is(err, fs.ErrNotExist) {
		return w, err
	}
	return w, nil
}

// cleanUp removes what a build that was killed has left half written.
func cleanUp(built string) {
	_ = filepath.WalkDir(built, func(p string, d fs.DirEntry, err error) error {
		if err == nil && !d.IsDir() && site.IsTemp(d.Name()) {
			_ = os.Remove(p)
		}
		return nil
	})
}

func save(dir, name string, files map[string]lay) error {
	data, err := json.MarshalIndent(files, "", " ")
	if err != nil {
		return err
	}
	return site.WriteFile(filepath.Join(dir, filepath.FromSlash(name)), data)
}
