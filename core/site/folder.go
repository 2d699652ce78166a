package site

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"ziegel/core/diag"
)

// A site is its folder and nothing else: what links in it lead to elsewhere is not read into pages, and nothing is
// written there.

var (
	errOutside = errors.New("it leads out of the site's folder, and nothing outside of it is read or written: put a copy of it into the site")
	errSource  = errors.New("it is a source of the site, or hidden: neither is ever published")
	errNoFile  = errors.New("it is no file, but a folder, a pipe or a device")
)

// mostBytes are how large files may be, by their ending, bytes; others may have 64 MB.
var mostBytes = map[string]int64{".yaml": maxBytes, ".yml": maxBytes, ".csv": maxBytes, ".json": maxBytes,
	".md": maxBytes, ".svg": 8 << 20, ".html": 8 << 20, ".css": 8 << 20,
	".woff2": 16 << 20, ".woff": 16 << 20, ".ttf": 32 << 20, ".otf": 32 << 20, ".mp4": 1 << 30, ".webm": 1 << 30}

// Folder gives a site's folder as far as it may be read: regular files of a sensible size, through no link that leads
// out of it.
func Folder(dir string) fs.FS { return folder{dir} }

type folder struct{ dir string }

// Open opens a file or a folder.
func (f folder) Open(name string) (fs.File, error) {
	root, _, err := f.look("open", name)
	if err != nil {
		return nil, err
	}
	defer root.Close()
	return root.Open(filepath.FromSlash(name))
}

// Stat describes a file or a folder.
func (f folder) Stat(name string) (fs.FileInfo, error) {
	root, info, err := f.look("stat", name)
	if err != nil {
		return nil, err
	}
	return info, root.Close()
}

// look opens the folder itself and describes what is to be read in it, once it is known to be something that can be.
func (f folder) look(op, name string) (*os.Root, fs.FileInfo, error) {
	fail := func(err error) (*os.Root, fs.FileInfo, error) {
		return nil, nil, &fs.PathError{Op: op, Path: name, Err: err}
	}
	if !fs.ValidPath(name) {
		return fail(fs.ErrInvalid)
	}
	root, err := os.OpenRoot(f.dir)
	if err != nil {
		return nil, nil, err
	}
	info, err := root.Stat(filepath.FromSlash(name))
	switch {
	case err != nil && strings.Contains(err.Error(), "escapes"):
		err = errOutside
	case err != nil:
		err = diag.Bare(err)
	case info.IsDir():
	case !info.Mode().IsRegular():
		err = errNoFile
	case isSource(f.dir, name):
		err = errSource
	default:
		err = tooLarge(name, info.Size())
	}
	if err != nil {
		root.Close()
		return fail(err)
	}
	return root, info, nil
}

// isSource reports a file below media/, all of which may be published, that is hidden or stands for a source of the
// site by a link.
func isSource(dir, name string) bool {
	if !strings.HasPrefix(name, "media/") {
		return false
	}
	if strings.Contains(name, "/.") {
		return true
	}
	at := filepath.Join(dir, filepath.FromSlash(name))
	real, err := filepath.EvalSymlinks(at)
	if err != nil || real == at {
		return err != nil
	}
	base, err := filepath.EvalSymlinks(dir)
	if err != nil {
		return true
	}
	rel, err := filepath.Rel(base, real)
	if err != nil {
		return true
	}
	rel = filepath.ToSlash(rel)
	return IsSource(rel) || strings.HasPrefix(rel, ".") || strings.Contains(rel, "/.")
}

// IsSource reports whether a file of a site, by its path below the site's folder with slashes, is one that pages are
// made from or that remembers what was done: none of them is published or written over by an output. Pictures are
// not.
func IsSource(rel string) bool {
	first, _, below := strings.Cut(rel, "/")
	return !below && (rel == FileName || strings.HasSuffix(rel, ".tokens.json")) || first == "pages" ||
		first == "sections" || first == "kept" || first == WordsFolder || first == "data" || first == ".ziegel"
}

func tooLarge(name string, size int64) error {
	most, ok := mostBytes[strings.ToLower(filepath.Ext(name))]
	if !ok {
		most = 64 << 20
	}
	if size > most {
		return fmt.Errorf("it has %d MB, and %d MB are the most for such a file", size>>20, most>>20)
	}
	return nil
}

// ReadIn reads a file of a site's folder.
func ReadIn(dir, name string) ([]byte, error) { return fs.ReadFile(Folder(dir), name) }

// ReadRegular reads a file that somebody named: no pipe and no device, and no more than its kind may have.
func ReadRegular(file string) ([]byte, error) {
	info, err := os.Stat(file)
	if err == nil && !info.Mode().IsRegular() {
		err = &fs.PathError{Op: "read", Path: file, Err: errNoFile}
	}
	if err == nil {
		if large := tooLarge(file, info.Size()); large != nil {
			err = &fs.PathError{Op: "read", Path: file, Err: large}
		}
	}
	if err != nil {
		return nil, err
	}
	return os.ReadFile(file)
}

// Place gives where a file of a site's folder is written: links inside are followed, so that they stay links; one
// that leads out is an error.
func Place(dir, name string) (string, error) {
	real, err := filepath.EvalSymlinks(dir)
	if err != nil {
		return "", err
	}
	at, rest := filepath.Join(dir, filepath.FromSlash(name)), ""
	for {
		found, err := filepath.EvalSymlinks(at)
		if err == nil {
			full := filepath.Join(found, rest)
			if rel, err := filepath.Rel(real, full); err != nil || rel == ".." ||
				strings.HasPrefix(rel, ".."+string(filepath.Separator)) {
				return "", &fs.PathError{Op: "write", Path: name, Err: errOutside}
			}
			return full, nil
		}
		if !errors.Is(err, fs.ErrNotExist) {
			return "", err
		}
		// it leads to what is not there
		if info, lerr := os.Lstat(at); lerr == nil && info.Mode()&fs.ModeSymlink != 0 {
			return "", &fs.PathError{Op: "write", Path: name, Err: errOutside}
		}
		at, rest = filepath.Dir(at), filepath.Join(filepath.Base(at), rest)
	}
}

// FileName is the file that makes a folder a site.
const FileName = "ziegel.yaml"

// WordsFolder holds the translations of a site, a file for each language.
const WordsFolder = "words"
