package emit

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
	"time"

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

// The manifest tells of every file that a build has written. A build first notes what it is about to write, so that
// files of one that was killed are known as ours.
const (
	manifest = ".ziegel/built.json"
	coming   = ".ziegel/building.json"
)

// lay is how a build left a file.
type lay struct {
	Hash string `json:"hash"`
	Size int64  `json:"size,omitempty"` // bytes
	Time int64  `json:"time,omitempty"` // of its last change, ns since 1970; 0 when it is not known
	From string `json:"from,omitempty"` // as in File
}

// Last is what the last build has left in built/. Its methods may be called by several goroutines at once; nil knows
// of nothing.
type Last struct {
	dir         string
	files, half map[string]lay // half: of a build that was killed
	saved       int64          // when the manifest was saved, as lay.Time
}

// ReadLast reads what the last build of a site has left.
func ReadLast(dir string) *Last {
	l := &Last{dir: dir, files: readLays(dir, manifest), half: readLays(dir, coming)}
	if info, err := os.Stat(filepath.Join(dir, filepath.FromSlash(manifest))); err == nil {
		l.saved = info.ModTime().UnixNano()
	}
	return l
}

// tick is the coarsest step in which the clocks of file systems tell apart two changes of a file of one size: what
// has changed so shortly before the manifest was saved is read.
const tick = 2 * time.Second

// Lies reports that a file of built/ lies there as the last build has left it, and was made from the same. Nothing of
// it is read.
func (l *Last) Lies(name, from string) bool {
	if l == nil || from == "" || l.files[name].From != from {
		return false
	}
	_, ok := l.hash(name)
	return ok
}

// hash gives the hash of a file that lies as the last build has left it, without reading it.
func (l *Last) hash(name string) (string, bool) {
	was, ok := l.files[name]
	if !ok || was.Time == 0 || was.Time > l.saved-int64(tick) {
		return "", false
	}
	target, err := site.Place(l.dir, "built/"+name)
	if err != nil {
		return "", false
	}
	info, err := os.Lstat(target)
	if err != nil || !info.Mode().IsRegular() || info.Size() != was.Size || info.ModTime().UnixNano() != was.Time {
		return "", false
	}
	return was.Hash, true
}

// read gives a file of built/ when it has a hash.
func (l *Last) read(name, hash string) ([]byte, bool) {
	if l == nil {
		return nil, false
	}
	data, err := site.ReadIn(l.dir, "built/"+name)
	return data, err == nil && site.Hash(string(data)) == hash
}

// onDisk says how a file below built/ stands to what it is to be.
type onDisk struct {
	same bool
	now  string // hash; "" when it is not there
	next lay
	err  error
}

func (l *Last) lookAt(name string, f File) onDisk {
	if f.Lies {
		was := l.files[name]
		return onDisk{same: true, now: was.Hash, next: was}
	}
	next := lay{Hash: site.Hash(string(f.Data)), From: f.From}
	target, err := site.Place(l.dir, "built/"+name)
	if err != nil {
		return onDisk{err: err}
	}
	now, known := l.hash(name)
	if !known {
		old, err := os.ReadFile(target)
		switch {
		case errors.Is(err, fs.ErrNotExist):
			return onDisk{next: next}
		case err != nil:
			return onDisk{err: err}
		}
		now = site.Hash(string(old))
	}
	if now == next.Hash {
		next.stat(target)
		return onDisk{same: true, now: now, next: next}
	}
	return onDisk{now: now, next: next}
}

// stat notes size and time of a file as they are now.
func (l *lay) stat(target string) {
	if info, err := os.Lstat(target); err == nil {
		l.Size, l.Time = info.Size(), info.ModTime().UnixNano()
	}
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
	if err := os.Remove(filepath.Join(dir, filepath.FromSlash(coming))); err != nil && !errors.Is(err, fs.ErrNotExist) {
		return w, err
	}
	return w, nil
}

// ours reports a content that a build has written, be it the last whole one or one that was killed.
func (l *Last) ours(hash, name string) bool {
	return l.files[name].Hash == hash || l.half[name].Hash == hash
}

// readLays reads a manifest. Names that would lead out of built/ are none that we have written.
func readLays(dir, name string) map[string]lay {
	out := map[string]lay{}
	if data, err := site.ReadIn(dir, name); err == nil && json.Unmarshal(data, &out) != nil {
		return map[string]lay{}
	}
	maps.DeleteFunc(out, func(n string, _ lay) bool { return !fs.ValidPath(n) })
	return out
}

// UnmarshalJSON also reads the bare hash that earlier programs have noted.
func (l *lay) UnmarshalJSON(data []byte) error {
	if json.Unmarshal(data, &l.Hash) == nil {
		return nil
	}
	type plain lay
	return json.Unmarshal(data, (*plain)(l))
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
