package build

import (
	"sort"

	"ziegel/core/diag"
	"ziegel/core/media"
	"ziegel/core/project"
	"ziegel/core/styles"
)

// Files are built files by path, with slashes.
type Files map[string]File

// Read gives the content of a file that was not told to lie in built/.
func (f Files) Read(name string) ([]byte, bool) {
	file, ok := f[name]
	return file.Data, ok && !file.Lies
}

// Names lists the paths, sorted.
func (f Files) Names() []string {
	out := make([]string, 0, len(f))
	for n := range f {
		out = append(out, n)
	}
	sort.Strings(out)
	return out
}

// File is one file of a built site.
type File struct {
	Data []byte
	From string // names all that the content follows from, when that is known without reading it; "" when it is not
	Lies bool   // the file lies in built/ as the last build has written it from the same; Data is not read
}

// Made is what a build made of one page, without the files themselves: those lie in built/.
type Made struct {
	Usage    *styles.Usage
	Files    map[string]string // hashes, by path
	Media    []string          // pictures that it shows as they are
	Copies   []media.Copy
	Fonts    []project.FontFile
	Problems diag.Problems // warnings and notes; errors, too, when a build was forced
	Samples  int           // fields that still show a section's sample, its own head included
}

// Known is what earlier builds have made. Pages are asked for and told by one goroutine, files by several at once.
type Known interface {
	// Made gives what was made of a page when nothing has changed that it is made from.
	Made(page string) (Made, bool)
	// Keep remembers what was made of a page now.
	Keep(page string, m Made)
}

// Options change how a site is built. The zero value is the usual choice.
type Options struct {
	Cache string // folder that keeps smaller copies of pictures; none when empty
	Known Known  // what earlier builds have made; all pages are made when it is nil
	Last  *Last  // the files of the last build: those that would be the same are not read; nil reads all
	Files bool   // links name the files of pages, so that they open from disk
	Force bool   // make what can be made in spite of mistakes
	// is told of every page, in their order; may be nil
	Each  func(page string, m Made)
	Maker string // names the program: smaller copies of pictures that another one has made are made anew
	// is told of every picture of which copies were made, by several goroutines at once; may be nil
	Step func(of int)
}

// Last is what the last build has left in built/. Its methods may be called by several goroutines at once; nil knows
// of nothing.
type Last struct {
	dir         string
	files, half map[string]lay // half: of a build that was killed
	saved       int64          // when the manifest was saved, as lay.Time
}

// lay is how a build left a file.
type lay struct {
	Hash string `json:"hash"`
	Size int64  `json:"size,omitempty"` // bytes
	Time int64  `json:"time,omitempty"` // of its last change, ns since 1970; 0 when it is not known
	From string `json:"from,omitempty"` // as in File
}
