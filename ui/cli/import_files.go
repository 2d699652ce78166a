package cli

import (
	"bytes"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"ziegel/core/diag"
)

// importing is what import was asked for.
type importing struct {
	to, into, within, as string

	first string // of the files, as it was named
	dry   bool
}

// mostTyped is how large a snippet from standard input may be, bytes; typedFile is what it is called.
const (
	mostTyped = 4 << 20
	typedFile = "snippet.html"
)

// withFile is a folder with one file more.
type withFile struct {
	fs.FS
	name string
	data []byte
}

// Open gives the file, or one of the folder.
func (w withFile) Open(name string) (fs.File, error) {
	if name != w.name {
		return w.FS.Open(name)
	}
	return &openFile{name: name, Reader: bytes.NewReader(w.data)}, nil
}

type openFile struct {
	name string
	*bytes.Reader
}

func (f *openFile) Stat() (fs.FileInfo, error) { return f, nil }
func (*openFile) Close() error                 { return nil }
func (f *openFile) Name() string               { return f.name }
func (*openFile) Mode() fs.FileMode            { return 0o444 }
func (*openFile) ModTime() time.Time           { return time.Time{} }
func (*openFile) IsDir() bool                  { return false }
func (*openFile) Sys() any                     { return nil }

// inFolder gives the page of a folder: index.html, or the only one that there is.
func inFolder(dir string) (string, error) {
	list, err := os.ReadDir(dir)
	if err != nil {
		return "", fmt.Errorf("read %s: %w", dir, diag.Bare(err))
	}
	var pages []string
	for _, f := range list {
		if isFile(f.Name()) {
			pages = append(pages, f.Name())
		}
		if strings.EqualFold(f.Name(), "index.html") {
			return filepath.Join(dir, f.Name()), nil
		}
	}
	if len(pages) != 1 {
		return "", fmt.Errorf("the folder %s has %s: name the file", dir, diag.Plural(len(pages), "HTML file"))
	}
	return filepath.Join(dir, pages[0]), nil
}

// mostPages is how many pages one command takes.
const mostPages = 200

// pagesBelow lists the HTML files of a folder and of those in it; hidden ones and those of packages are left out.
func pagesBelow(dir string) ([]string, error) {
	root, err := filepath.Abs(dir)
	if err != nil {
		return nil, err
	}
	var out []string
	err = filepath.WalkDir(root, func(p string, d fs.DirEntry, err error) error {
		name := d.Name()
		switch {
		case err != nil:
			return err
		case d.IsDir() && p != root && (strings.HasPrefix(name, ".") || name == "node_modules"):
			return fs.SkipDir
		case d.Type().IsRegular() && isFile(name):
			out = append(out, p)
		}
		return nil
	})
	switch {
	case err != nil:
		return nil, fmt.Errorf("read %s: %w", dir, diag.Bare(err))
	case len(out) == 0:
		return nil, fmt.Errorf("the folder %s has no HTML files", dir)
	case len(out) > mostPages:
		return nil, fmt.Errorf(
			"the folder %s has %d pages, and %d are the most at once: name those to take",
			dir,
			len(out),
			mostPages,
		)
	}
	return out, nil
}

// files gives the folder that is read and the pages in it, as paths with slashes.
func (o *importing) files(args []string) (folder string, files []string, err error) {
	var full []string
	for _, arg := range args {
		if strings.TrimSpace(arg) == "" {
			return "", nil, errors.New(
				"a page needs a file: give one that ends in .html, a folder, or - for standard input",
			)
		}
		if arg == "-" {
			dir, err := os.Getwd()
			return dir, []string{typedFile}, err
		}
		if info, err := os.Stat(arg); err == nil && info.IsDir() && o.as != "" {
			if arg, err = inFolder(arg); err != nil {
				return "", nil, err
			}
		} else if err == nil && info.IsDir() {
			pages, err := pagesBelow(arg)
			if err != nil {
				return "", nil, err
			}
			full = append(full, pages...)
			continue
		}
		if !isFile(arg) {
			return "", nil, fmt.Errorf("%s: import takes HTML files, which end in .html or .htm", arg)
		}
		abs, err := filepath.Abs(arg)
		if err != nil {
			return "", nil, err
		}
		if info, err := os.Stat(abs); err != nil {
			return "", nil, fmt.Errorf("read %s: %w", arg, diag.Bare(err))
		} else if !info.Mode().IsRegular() {
			return "", nil, fmt.Errorf("read %s: this is not a file", arg)
		}
		full = append(full, abs)
	}
	folder, o.first = filepath.Dir(full[0]), full[0]
	if here, err := os.Getwd(); err == nil && below(here, full[0]) {
		o.first, _ = filepath.Rel(here, full[0])
	}
	if o.within != "" {
		if folder, err = filepath.Abs(o.within); err != nil {
			return "", nil, err
		}
	}
	for _, f := range full {
		for o.within == "" && !below(folder, f) && filepath.Dir(folder) != folder {
			folder = filepath.Dir(folder)
		}
		if !below(folder, f) {
			return "", nil, fmt.Errorf("%s does not lie in --within %s", f, o.within)
		}
		rel, err := filepath.Rel(folder, f)
		if err != nil {
			return "", nil, err
		}
		if rel = filepath.ToSlash(rel); !slices.Contains(files, rel) {
			files = append(files, rel)
		}
	}
	return folder, files, nil
}

// below reports whether a file lies in a folder.
func below(folder, file string) bool {
	rel, err := filepath.Rel(folder, file)
	return err == nil && rel != ".." && !strings.HasPrefix(rel, ".."+string(filepath.Separator))
}
