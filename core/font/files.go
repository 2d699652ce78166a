package font

import (
	"crypto/sha256"
	"sync"
)

// mostFiles is how many font files are kept at once: those of a large site, and of the pages that are read beside it.
const mostFiles = 128

// files are the font files that were read, by family and content: unpacking one takes longer than laying out a page,
// and pages of a folder share them. They are for any number of goroutines.
type files struct {
	sync.Mutex
	list map[fileKey]*readFile
}

type fileKey struct {
	family string
	sum    [sha256.Size]byte
}

type readFile struct {
	once sync.Once
	file *file // nil when it cannot be read
}

func (f *files) read(family string, data []byte) *file {
	key := fileKey{family, sha256.Sum256(data)}
	f.Lock()
	r := f.list[key]
	if r == nil {
		if r = new(readFile); len(f.list) >= mostFiles {
			f.list = nil
		}
		if f.list == nil {
			f.list = map[fileKey]*readFile{}
		}
		f.list[key] = r
	}
	f.Unlock()
	r.once.Do(func() { r.file, _ = read(family, data) })
	return r.file
}
