package project

import (
	"io/fs"
	"path"
	"slices"
	"strings"

	"ziegel/core/site"
)

// KeptFolder is the folder of a site that holds what it uses of the program as it was when the site took it: sections,
// the theme, base styles, under the paths that they have in the program. A newer program reads these instead of its own
// and makes the same pages of them.
const KeptFolder = "kept"

// treatments are kept whole: the classes that any of them speaks of are shared with the sections (shareTreatments).
const treatments = "treatments"

// baseFiles are what all pages are made from, besides sections and theme.
var baseFiles = []string{"base.css", "motion.css", "options.yaml", "looks.yaml", "words.yaml"}

// keptOver gives the shipped files with those that a site keeps in their place.
func keptOver(dir, shipped fs.FS) fs.FS {
	if _, err := fs.Stat(dir, KeptFolder); err != nil {
		return shipped
	}
	out := layers{fs.FS(shipped), nil, map[string]bool{}}
	kept, err := fs.Sub(dir, KeptFolder)
	if err != nil {
		return shipped
	}
	out.over = kept
	_ = fs.WalkDir(kept, ".", func(p string, _ fs.DirEntry, err error) error {
		if err == nil {
			out.names[p] = true
		}
		return nil
	})
	return out
}

// layers are files with others in their place.
type layers struct {
	fs.FS
	over  fs.FS
	names map[string]bool // files and folders of over
}

// Open gives a file; of folders, ReadDir knows all that is in them.
func (l layers) Open(name string) (fs.File, error) {
	if l.names[name] {
		if f, err := l.over.Open(name); err == nil {
			return f, nil
		}
	}
	return l.FS.Open(name)
}

// ReadDir lists what is in a folder of either.
func (l layers) ReadDir(name string) ([]fs.DirEntry, error) {
	list, err := fs.ReadDir(l.FS, name)
	if !l.names[name] {
		return list, err
	}
	more, overErr := fs.ReadDir(l.over, name)
	if err != nil || name == treatments || strings.HasPrefix(name, treatments+"/") { // kept whole, see used
		return more, overErr
	}
	for _, d := range more {
		i, found := slices.BinarySearchFunc(list, d.Name(), func(x fs.DirEntry, n string) int {
			return strings.Compare(x.Name(), n)
		})
		if !found {
			list = slices.Insert(slices.Clone(list), i, d)
		}
	}
	return list, nil
}

// Keeps reports whether the site keeps what it uses of the program.
func (e *Project) Keeps() bool {
	_, err := fs.Stat(e.Dir, KeptFolder)
	return err == nil
}

// Unkept gives the files that the site would keep now: what its theme and these sections are made from, as far as it
// has not taken them yet.
func (e *Project) Unkept(sections []string) []site.FileChange {
	var out []site.FileChange
	for _, name := range e.used(sections) {
		at := path.Join(KeptFolder, name)
		if _, err := fs.Stat(e.Dir, at); err == nil {
			continue
		}
		if data, err := fs.ReadFile(e.Program, name); err == nil {
			out = append(out, site.FileChange{Path: at, After: string(data), New: true})
		}
	}
	return out
}

// used lists the shipped files that the site's theme and these sections are made from.
func (e *Project) used(sections []string) []string {
	out := slices.Clone(baseFiles)
	if _, err := fs.Stat(e.Dir, "theme.tokens.json"); err != nil {
		list, _ := fs.Glob(e.Program, "themes/"+e.Theme.Name+"/*.json") // the pattern is a good one
		out = append(out, list...)
	}
	list, _ := fs.Glob(e.Program, treatments+"/*/*.css") // the pattern is a good one
	out = append(out, list...)
	for _, s := range sections {
		if list, err := fs.ReadDir(e.Program, "sections/"+s); err == nil {
			for _, d := range list {
				out = append(out, path.Join("sections", s, d.Name()))
			}
		}
	}
	return out
}

// AsShipped reports that a section is that of the program: neither the site's own nor an earlier one that it keeps.
func (e *Project) AsShipped(section string) bool {
	dir := path.Join("sections", section)
	if _, err := fs.Stat(e.Dir, dir); err == nil {
		return false
	}
	files, err := fs.ReadDir(e.Program, dir)
	for _, f := range files {
		name := path.Join(dir, f.Name())
		was, _ := fs.ReadFile(e.Stock, name)
		is, _ := fs.ReadFile(e.Program, name)
		if string(was) != string(is) {
			return false
		}
	}
	return err == nil && len(files) > 0
}
