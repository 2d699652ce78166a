package publish

import (
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"time"

	"github.com/rogpeppe/go-internal/lockedfile"
)

// disk is where the states of a folder lie: this machine's, or a server's.
type disk interface {
	join(parts ...string) string
	mkdir(dir string) error // with those above it
	list(dir string) ([]fs.FileInfo, error)
	info(name string) (fs.FileInfo, error) // of a link itself
	linked(name string) (string, error)    // where a link leads
	read(name string) ([]byte, error)
	write(name string, data []byte) error // it is on the disk when this returns
	rename(from, to string) error         // over what is there, in one step
	symlink(to, name string) error
	share(from, to string) error // a second name of a file
	remove(name string) error
	removeAll(name string) error
	lock(name string) (func(), error)
	far() bool // reading costs a way over the net
}

// here is the disk of this machine.
type here struct{}

func (here) join(parts ...string) string           { return filepath.Join(parts...) }
func (here) mkdir(dir string) error                { return os.MkdirAll(dir, 0o777) }
func (here) info(name string) (fs.FileInfo, error) { return os.Lstat(name) }
func (here) linked(name string) (string, error)    { return os.Readlink(name) }
func (here) read(name string) ([]byte, error)      { return os.ReadFile(name) }
func (here) rename(from, to string) error          { return os.Rename(from, to) }
func (here) symlink(to, name string) error         { return os.Symlink(filepath.FromSlash(to), name) }
func (here) share(from, to string) error           { return os.Link(from, to) }
func (here) remove(name string) error              { return os.Remove(name) }
func (here) removeAll(name string) error           { return os.RemoveAll(name) }
func (here) far() bool                             { return false }
func (here) write(name string, data []byte) error  { return put(name, data) }
func (here) list(dir string) ([]fs.FileInfo, error) {
	entries, err := os.ReadDir(dir)
	if err != nil {
		return nil, err
	}
	var out []fs.FileInfo
	for _, e := range entries {
		if i, err := e.Info(); err == nil {
			out = append(out, i)
		}
	}
	return out, nil
}

func (here) lock(name string) (func(), error) { return lockedfile.MutexAt(name).Lock() }

// put writes a file that is on the disk when it returns.
func put(to string, data []byte) error {
	file, err := os.Create(to)
	if err != nil {
		return err
	}
	if _, err = file.Write(data); err == nil {
		err = file.Sync()
	}
	return errors.Join(err, file.Close())
}

// stale is after what time a lock on a server is that of a program that has ended. One that works renews it.
const stale = 2 * time.Minute
