package build

import (
	"encoding/json"
	"errors"
	"io/fs"
	"maps"
	"os"
	"path/filepath"
	"time"

	"ziegel/core/site"
)

// ReadLast reads what the last build of a site has left.
func ReadLast(dir string) *Last {
	l := &Last{dir: dir, files: readLays(dir, manifest), half: readLays(dir, coming)}
	if info, err := os.Stat(filepath.Join(dir, filepath.FromSlash(manifest))); err == nil {
		l.saved = info.ModTime().UnixNano()
	}
	return l
}

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

// ours reports a content that a build has written, be it the last whole one or one that was killed.
func (l *Last) ours(hash, name string) bool {
	return l.files[name].Hash == hash || l.half[name].Hash == hash
}

// stat notes size and time of a file as they are now.
func (l *lay) stat(target string) {
	if info, err := os.Lstat(target); err == nil {
		l.Size, l.Time = info.Size(), info.ModTime().UnixNano()
	}
}

// UnmarshalJSON also reads the bare hash that earlier programs have noted.
func (l *lay) UnmarshalJSON(data []byte) error {
	if json.Unmarshal(data, &l.Hash) == nil {
		return nil
	}
	type plain lay
	return json.Unmarshal(data, (*plain)(l))
}

// onDisk says how a file below built/ stands to what it is to be.
type onDisk struct {
	same bool
	now  string // hash; "" when it is not there
	next lay
	err  error
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

// The manifest tells of every file that a build has written. A build first notes what it is about to write, so that
// files of one that was killed are known as ours.
const (
	manifest = ".ziegel/built.json"
	coming   = ".ziegel/building.json"
)

// tick is the coarsest step in which the clocks of file systems tell apart two changes of a file of one size: what
// has changed so shortly before the manifest was saved is read.
const tick = 2 * time.Second
