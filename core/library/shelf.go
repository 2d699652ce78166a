package library

import (
	"errors"
	"io/fs"
	"path"
	"slices"
	"strings"
	"sync"

	"ziegel/core/diag"
	"ziegel/core/site"
)

// Library is a set of sections, each read when it is first asked for. It may be asked by several goroutines.
type Library struct {
	entries []*entry // by name
}

// entry is a section that may not have been read yet.
type entry struct {
	name     string
	own      bool // it stands in the folder of a site
	read     func() (*Section, diag.Problems)
	once     sync.Once
	section  *Section // nil when it cannot be read
	problems diag.Problems
}

func (e *entry) get() *Section {
	e.once.Do(func() { e.section, e.problems = e.read() })
	return e.section
}

// Load reads all sections below the folder root of each file system; later ones win over earlier ones of the same
// name. A missing folder is no error.
func Load(root string, from ...fs.FS) (*Library, diag.Problems) {
	l, problems := list(root, from...)
	for _, e := range l.entries {
		e.get()
		problems = append(problems, e.problems...)
	}
	return l, problems.Sorted()
}

// Open gives shipped sections, each read when it is first asked for, and those of a site, which are read at once and
// win over shipped ones of the same name. A missing folder is no error.
func Open(root string, shipped, own fs.FS) (*Library, diag.Problems) {
	l, problems := list(root, shipped, own)
	for _, e := range l.entries {
		if e.own {
			e.get()
			problems = append(problems, e.problems...)
		}
	}
	return l, problems.Sorted()
}

// list finds the folders of sections.
func list(root string, from ...fs.FS) (*Library, diag.Problems) {
	byName := map[string]*entry{}
	var problems diag.Problems
	shared := sync.OnceValue(func() []Option {
		for _, fsys := range from {
			if data, err := fs.ReadFile(fsys, "options.yaml"); err == nil {
				v, _ := site.ParseValue(string(data))
				return readOptions(v)
			}
		}
		return nil
	})
	for i, fsys := range from {
		kinds, err := fs.ReadDir(fsys, root)
		if err != nil {
			if !errors.Is(err, fs.ErrNotExist) {
				problems = append(problems, diag.Problem{Position: diag.Position{File: root}, Severity: diag.Error,
					Rule: "unreadable", Text: "the sections cannot be read: " + err.Error()})
			}
			continue
		}
		for _, k := range kinds {
			if !k.IsDir() {
				continue
			}
			names, _ := fs.ReadDir(fsys, path.Join(root, k.Name()))
			for _, n := range names {
				dir, name := path.Join(root, k.Name(), n.Name()), k.Name()+"/"+n.Name()
				if !n.IsDir() || empty(fsys, dir) {
					continue
				}
				byName[name] = &entry{name: name, own: i > 0,
					read: func() (*Section, diag.Problems) { return read(fsys, dir, name, shared()) }}
			}
		}
	}
	l := &Library{}
	for _, e := range byName {
		l.entries = append(l.entries, e)
	}
	slices.SortFunc(l.entries, func(a, b *entry) int { return strings.Compare(a.name, b.name) })
	return l, problems
}

// empty reports a folder with nothing in it: not a section that lacks its files, but none.
func empty(fsys fs.FS, dir string) bool {
	list, err := fs.ReadDir(fsys, dir)
	return err == nil && len(list) == 0
}

// All gives every section, by name; those that were not read yet are.
func (l *Library) All() []*Section { return l.those(func(*entry) bool { return true }) }

// Own gives the sections that stand in the folder of a site, by name.
func (l *Library) Own() []*Section { return l.those(func(e *entry) bool { return e.own }) }

func (l *Library) those(want func(*entry) bool) []*Section {
	var out []*Section
	for _, e := range l.entries {
		if !want(e) {
			continue
		}
		if s := e.get(); s != nil {
			out = append(out, s)
		}
	}
	return out
}

// Has reports whether there is a folder for a section of this name.
func (l *Library) Has(name string) bool {
	_, ok := l.find(name)
	return ok
}

func (l *Library) find(name string) (int, bool) {
	return slices.BinarySearchFunc(l.entries, name, func(e *entry, name string) int {
		return strings.Compare(e.name, name)
	})
}

// Section finds a section by its full name.
func (l *Library) Section(name string) *Section {
	if i, ok := l.find(name); ok {
		return l.entries[i].get()
	}
	return nil
}

// Names lists all sections.
func (l *Library) Names() []string {
	out := make([]string, len(l.entries))
	for i, e := range l.entries {
		out[i] = e.name
	}
	return out
}

// Kinds lists the kinds in use.
func (l *Library) Kinds() []string {
	var out []string
	for _, e := range l.entries {
		if kind, _, _ := strings.Cut(e.name, "/"); len(out) == 0 || out[len(out)-1] != kind {
			out = append(out, kind)
		}
	}
	return out
}

// Nearest finds the section name closest to what was typed: of the kind that was named, when there is such a kind.
func (l *Library) Nearest(typed string) string {
	names := l.Names()
	if kind, _, ok := strings.Cut(typed, "/"); ok && slices.Contains(l.Kinds(), kind) {
		names = slices.DeleteFunc(names, func(n string) bool { return !strings.HasPrefix(n, kind+"/") })
		if n := diag.Nearest(typed, names); n != "" {
			return n
		}
		return names[0]
	}
	if n := diag.Nearest(typed, names); n != "" {
		return n
	}
	for _, e := range l.entries {
		if strings.HasPrefix(e.name, typed+"/") || strings.HasSuffix(e.name, "/"+typed) {
			return e.name
		}
	}
	return ""
}
