package site

import (
	"fmt"
	"os"
	"path/filepath"

	"ziegel/core/diag"
)

// Find looks for ziegel.yaml in dir and its parents.
func Find(dir string) (string, error) {
	abs, err := filepath.Abs(dir)
	if err != nil {
		return "", err
	}
	for d := abs; ; d = filepath.Dir(d) {
		if info, err := os.Stat(filepath.Join(d, FileName)); err == nil && !info.IsDir() {
			return d, nil
		}
		if filepath.Dir(d) == d {
			return "", fmt.Errorf("%w: there is no %s in %s or a folder above it", ErrNoSite, FileName, dir)
		}
	}
}

// Open reads the file of a site; its pages are read when they are asked for. The error is about the folder; problems
// are about what is written in the file. A Site comes back even with problems, with what could be read.
func Open(dir string) (*Site, diag.Problems, error) { return OpenWith(dir, nil) }

// OpenWith reads a site as it would be with these changes, of which nothing is written.
func OpenWith(dir string, changes []FileChange) (*Site, diag.Problems, error) {
	s := &Site{Dir: dir, Language: "en", Ranges: DefaultRanges, changed: map[string]*FileChange{}}
	for i := range changes {
		s.changed[changes[i].Path] = &changes[i]
	}
	main, problems, err := s.read(FileName)
	if err != nil {
		return nil, nil, err
	}
	s.File = main
	s.pages, err = s.listPages()
	if problems.Err() == nil {
		main.modernize(s)
		problems = append(problems, s.loadMain()...)
	}
	return s, problems.Sorted(), err
}
