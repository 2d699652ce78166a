package project

import (
	"errors"
	"fmt"
	"io/fs"
	"path"
	"slices"
	"strings"
	"sync"
	"time"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/media"
	"ziegel/core/site"
	"ziegel/core/theme"
)

// checkPairs reports pairs of the theme that no two kinds can meet.
func (e *Project) checkPairs() diag.Problems {
	var out diag.Problems
	kinds := append(e.Library.Kinds(), "any")
	for _, t := range e.Theme.Tokens {
		rest, ok := strings.CutPrefix(t.Name, "pair.")
		if !ok {
			continue
		}
		for _, k := range strings.SplitN(rest, ".", 2) {
			if !slices.Contains(kinds, k) {
				out = append(out, diag.Problem{Position: diag.Position{File: "theme.tokens.json"},
					Severity: diag.Warning, Rule: "unknown-pair",
					Text:     fmt.Sprintf("the token %s names no kind of section", t.Name),
					Expected: "pair.KIND.KIND with " + strings.Join(kinds, ", "), Try: diag.Nearest(k, kinds)})
			}
		}
	}
	return out
}

// DefaultTheme is used by sites that name none.
const DefaultTheme = "marram"

// Open reads a site with everything that its pages are made from, and all its pages.
func Open(dir string, stock fs.FS) (*Project, diag.Problems, error) {
	e, problems, err := Enter(dir, stock)
	if err != nil {
		return nil, nil, err
	}
	return e, append(problems, e.Mistakes(e.Site.Pages()...)...).Sorted(), nil
}

// Enter reads a site with everything that its pages are made from. A page is read when it is asked for; Mistakes
// tells what is wrong in its file.
func Enter(dir string, stock fs.FS) (*Project, diag.Problems, error) {
	s, problems, err := site.Open(dir)
	if err != nil {
		return nil, nil, err
	}
	return open(s, problems, site.Folder(dir), stock)
}

// Mistakes lists what is wrong in the files of pages, before anything is made of them.
func (e *Project) Mistakes(pages ...*site.Page) diag.Problems {
	var out diag.Problems
	for _, p := range pages {
		out = append(out, p.Problems...)
		out = append(out, e.checkTurns(p.Turns)...)
	}
	return out.Sorted()
}

// open reads the library, the theme and the shared looks of a site.
func open(s *site.Site, problems diag.Problems, dir, stock fs.FS) (*Project, diag.Problems, error) {
	program := stock
	stock = keptOver(dir, program)
	e := &Project{Site: s, Stock: stock, Program: program, Dir: dir, Looks: &media.Looks{}, Measures: &sync.Map{}}
	problems = append(problems, e.openLibrary()...)
	problems = append(problems, e.makePages()...)
	base, err := Base(stock)
	if err != nil {
		return nil, nil, err
	}
	e.SetBase(base)
	e.shareTreatments()
	ps, err := e.openStyles(stock)
	if err != nil {
		return nil, nil, err
	}
	problems = append(problems, ps...)
	ps, err = e.openTheme()
	if err != nil {
		return nil, nil, err
	}
	problems = append(problems, ps...)
	problems = append(problems, e.checkShared()...)
	problems = append(problems, e.checkPairs()...)
	problems = append(problems, e.checkTreatments()...)
	problems = append(problems, e.checkTurns(s.Turns)...)
	if _, err := fs.Stat(e.Dir, "theme.tokens.json"); err == nil {
		problems = append(problems, e.Theme.Notes("theme.tokens.json")...)
	}
	return e, problems.Sorted(), e.openFonts()
}

// DraftTheme is the theme of blocks that are drafts.
const DraftTheme = "outline"

// openFonts finds the fonts of the theme, and the theme of drafts with those that it needs beside them.
func (e *Project) openFonts() error {
	e.memo = &sync.Map{}
	e.Fonts = e.filesOf(e.Theme)
	e.DraftFonts = nil
	if e.Theme.Name == DraftTheme {
		e.Draft = nil
	} else {
		if e.Draft == nil { // else it is that of the project that this one varies
			t, err := theme.Load(DraftTheme, e.Stock, "themes/"+DraftTheme)
			if err != nil {
				return err
			}
			e.Draft = t
		}
		e.DraftFonts = slices.DeleteFunc(fontFiles(e.Stock, "fonts", e.Draft),
			func(f FontFile) bool { return slices.Contains(e.Fonts, f) })
	}
	e.shippedMatches()
	e.standIns()
	return nil
}

// checkShared checks the values of the site's shared looks, whether or not something uses them.
func (e *Project) checkShared() diag.Problems {
	var out diag.Problems
	check := func(p site.Entry) {
		if p.Value.Kind != site.Text || p.Key == "use" || p.Key == "lane" {
			return
		}
		if wrong := CheckProperty(e, p.Key, p.Value.Str()); wrong != nil {
			out = append(out, e.Site.File.Problem(p.Value, wrong.Rule, wrong.Text, wrong.Expected, wrong.Try))
		}
	}
	for _, s := range e.Site.Styles {
		for _, p := range s.Value.Entries {
			check(p)
			for _, k := range p.Value.Entries {
				check(k)
			}
		}
	}
	return out
}

// openLibrary reads the shipped sections and the site's own. A section of the site that runs a script, or asks a host
// that the site does not list, is an error wherever it stands: it never gets into a page.
func (e *Project) openLibrary() diag.Problems {
	lib, problems := library.Open("sections", e.Stock, e.Dir)
	if name := e.Site.Trade; name != "" {
		trade, err := library.OpenTrade(e.Stock, name)
		if err != nil {
			known := library.Trades(e.Stock)
			problems = append(problems, e.Site.File.Problem(e.Site.File.Root.Get("trade"), "unknown-trade",
				fmt.Sprintf("there are no samples of the trade %q", name), "one of "+strings.Join(known, ", "),
				diag.Nearest(name, known)))
		} else {
			lib = lib.Retold(trade)
		}
	}
	e.Library = lib
	for _, s := range lib.Own() {
		problems = append(problems, library.Unsafe(s, e.Site.Hosts)...)
	}
	return problems
}

// openStyles reads the shared looks that ship, and the keyframes that they speak of.
func (e *Project) openStyles(stock fs.FS) (diag.Problems, error) {
	motion, err := fs.ReadFile(stock, "motion.css")
	if err != nil {
		return nil, err
	}
	e.Motion = string(motion)
	if e.words, err = readWords(stock); err != nil {
		return nil, err
	}
	text, err := fs.ReadFile(stock, "looks.yaml")
	if err != nil {
		return nil, err
	}
	f, problems := site.ReadFile("looks.yaml", string(text))
	e.shippedFile = f
	for _, x := range f.Root.Entries {
		e.Shipped = append(e.Shipped, site.SharedStyle{Name: x.Key, Value: x.Value, KeyPos: x.KeyPos})
	}
	return problems, nil
}

// Shelf gives a site with nothing in it, for looking through the shipped sections.
func Shelf(stock fs.FS) (*Project, diag.Problems, error) {
	f, problems := site.ReadFile(site.FileName, "name: Shelf\n")
	s := &site.Site{File: f, Name: "Shelf", Language: "en", Ranges: site.DefaultRanges}
	return open(s, problems, noFiles{}, stock)
}

// With gives the site as it would be with these changes to its own files, of which nothing is written.
func (e *Project) With(changes []site.FileChange) (*Project, diag.Problems, error) {
	s, problems, err := site.OpenWith(e.Site.Dir, changes)
	if err != nil {
		return nil, nil, err
	}
	other := *e
	other.Site = s
	tokens, sections, kept := s.Theme != e.Site.Theme, false, false
	files := map[string]string{}
	gone := map[string]bool{}
	for _, c := range changes {
		if strings.HasPrefix(c.Path, KeptFolder+"/") {
			kept = true
			files[c.Path] = c.After
		}
		if strings.HasPrefix(c.Path, "sections/") {
			sections = true
			files[c.Path] = c.After
		}
		if strings.HasPrefix(c.Path, "media/") {
			tokens = true // a font of the theme
			files[c.Path] = c.After
		}
		if strings.HasSuffix(c.Path, ".tokens.json") {
			tokens = true
			files[c.Path] = c.After
		}
		if c.Gone {
			gone[c.Path] = true
			delete(files, c.Path)
		}
	}
	if kept {
		out, problems, err := open(s, problems, overlay{e.Dir, files, gone}, e.Program)
		if err != nil {
			return nil, nil, err
		}
		out.Memory, out.Measures, out.Today = e.Memory, e.Measures, e.Today
		return out, problems, nil
	}
	problems = append(problems, other.makePages()...)
	if !tokens && !sections {
		return &other, problems, other.openFonts()
	}
	other.Dir = overlay{e.Dir, files, gone}
	if sections {
		problems = append(problems, other.openLibrary()...)
	}
	if !tokens {
		return &other, problems, other.openFonts()
	}
	ps, err := other.openTheme()
	if err != nil {
		return nil, nil, err
	}
	return &other, append(problems, ps...), other.openFonts()
}

// noFiles is an empty folder.
type noFiles struct{}

// Open finds nothing.
func (noFiles) Open(name string) (fs.File, error) {
	return nil, &fs.PathError{Op: "open", Path: name, Err: fs.ErrNotExist}
}

// overlay is a folder with some files read as they would be.
type overlay struct {
	fs.FS
	files map[string]string
	gone  map[string]bool
}

// isGone is what there is to say of a file that will not be there.
func (o overlay) isGone(op, name string) error {
	if o.gone[name] {
		return &fs.PathError{Op: op, Path: name, Err: fs.ErrNotExist}
	}
	return nil
}

// Open gives a file, as it would be if it is one of those that change.
func (o overlay) Open(name string) (fs.File, error) {
	if err := o.isGone("open", name); err != nil {
		return nil, err
	}
	if text, ok := o.files[name]; ok {
		return &textFile{strings.NewReader(text), name}, nil
	}
	return o.FS.Open(name)
}

// Stat describes a file or a folder, also one that is not there yet.
func (o overlay) Stat(name string) (fs.FileInfo, error) {
	if err := o.isGone("stat", name); err != nil {
		return nil, err
	}
	if text, ok := o.files[name]; ok {
		return &textFile{strings.NewReader(text), name}, nil
	}
	info, err := fs.Stat(o.FS, name)
	if err == nil {
		return info, nil
	}
	for file := range o.files {
		if strings.HasPrefix(file, name+"/") {
			return comingFolder{&textFile{strings.NewReader(""), name}}, nil
		}
	}
	return nil, err
}

// comingFolder is a folder that is not there yet.
type comingFolder struct{ *textFile }

func (comingFolder) IsDir() bool { return true }

func (comingFolder) Mode() fs.FileMode { return fs.ModeDir | 0o555 }

// ReadDir lists a folder with the files that come.
func (o overlay) ReadDir(name string) ([]fs.DirEntry, error) {
	list, err := fs.ReadDir(o.FS, name)
	if errors.Is(err, fs.ErrNotExist) {
		if _, coming := o.Stat(name); coming == nil {
			err = nil
		}
	}
	list = slices.DeleteFunc(slices.Clone(list), func(d fs.DirEntry) bool { return o.gone[path.Join(name, d.Name())] })
	known := map[string]bool{}
	for _, d := range list {
		known[d.Name()] = true
	}
	for file := range o.files {
		rest, ok := strings.CutPrefix(file, name+"/")
		if !ok {
			continue
		}
		first, _, isDir := strings.Cut(rest, "/")
		if !known[first] {
			known[first] = true
			list, err = append(list, comingEntry{first, isDir}), nil
		}
	}
	return list, err
}

// comingEntry is a file or folder that is not there yet.
type comingEntry struct {
	name string
	dir  bool
}

func (e comingEntry) Name() string { return e.name }

func (e comingEntry) IsDir() bool { return e.dir }

func (e comingEntry) Info() (fs.FileInfo, error) { return nil, fs.ErrNotExist }

func (e comingEntry) Type() fs.FileMode {
	if e.dir {
		return fs.ModeDir
	}
	return 0
}

// textFile is a file of an overlay.
type textFile struct {
	*strings.Reader
	name string
}

func (f *textFile) Stat() (fs.FileInfo, error) { return f, nil }

func (f *textFile) Close() error { return nil }

func (f *textFile) Name() string { return path.Base(f.name) }

func (f *textFile) Mode() fs.FileMode { return 0o444 }

func (f *textFile) ModTime() time.Time { return time.Time{} }

func (f *textFile) IsDir() bool { return false }

func (f *textFile) Sys() any { return nil }

// openTheme reads theme.tokens.json of the site, or the shipped theme that it names.
func (e *Project) openTheme() (diag.Problems, error) {
	name := e.Site.Theme
	if _, err := fs.Stat(e.Dir, "theme.tokens.json"); err == nil {
		t, err := theme.Load(name, e.Dir, ".")
		if err == nil {
			e.Theme = t
			return nil, nil
		}
		fallback, ferr := theme.Load(DefaultTheme, e.Stock, "themes/"+DefaultTheme)
		e.Theme = fallback
		return diag.Problems{{Severity: diag.Error, Rule: "theme", Text: err.Error(),
			Expected: "design tokens in the DTCG format"}}, ferr
	}
	if name == "" {
		name = DefaultTheme
	}
	t, err := theme.Load(name, e.Stock, "themes/"+name)
	if err == nil {
		e.Theme = t
		return nil, nil
	}
	e.Theme, err = theme.Load(DefaultTheme, e.Stock, "themes/"+DefaultTheme)
	names := Themes(e.Stock)
	v := e.Site.File.Root.Get("theme")
	return diag.Problems{e.Site.File.Problem(v, "unknown-theme", fmt.Sprintf("there is no theme %q", name),
		"one of "+strings.Join(names, ", ")+", or a theme.tokens.json beside ziegel.yaml",
		diag.Nearest(name, names))}, err
}

// Themes lists the shipped themes.
func Themes(stock fs.FS) []string {
	var out []string
	list, _ := fs.ReadDir(stock, "themes")
	for _, d := range list {
		out = append(out, d.Name())
	}
	return out
}

// SamplePictures is the folder of the shipped pictures.
const SamplePictures = "pictures"

// MediaStamp names the content of a picture of the site without reading it, by size and time of its file; "" when it
// is not known that way: a picture that ships with the program, a drawing that takes the theme's colors.
func (e *Project) MediaStamp(name string) string {
	if !fs.ValidPath(name) || media.IsSVG(name) {
		return ""
	}
	info, err := fs.Stat(e.Dir, path.Join("media", name))
	if err != nil {
		return ""
	}
	return StampOf(info)
}

// StampOf tells apart the states of a file by size and time.
func StampOf(info fs.FileInfo) string {
	return fmt.Sprint(info.Size(), " ", info.ModTime().UnixNano())
}

// MediaFile reads a picture of a page: the site's own, or a sample's. Drawings that name the colors of pictures take
// those of the theme, and only draw: what else is in a file of the site does not come along.
func (e *Project) MediaFile(name string) ([]byte, error) {
	if !fs.ValidPath(name) { // ../ziegel.yaml
		return nil, &fs.PathError{Op: "read", Path: name, Err: fs.ErrNotExist}
	}
	data, err := fs.ReadFile(e.Dir, path.Join("media", name))
	switch {
	case err != nil:
		sample, serr := fs.ReadFile(e.Stock, path.Join(SamplePictures, name))
		if serr != nil {
			return nil, err
		}
		data = sample
	case media.IsSVG(name):
		if data, _, err = media.Clean(data); err != nil {
			return nil, err
		}
	}
	if media.IsSVG(name) && e.Theme != nil {
		light, dark := e.Theme.Pictures()
		data = media.Recolor(data, light, dark)
	}
	return data, nil
}

// MoreThanDrawn lists what a picture of the site has in it besides the drawing: scripts, addresses.
func (e *Project) MoreThanDrawn(name string) []string {
	if !media.IsSVG(name) {
		return nil
	}
	data, err := fs.ReadFile(e.Dir, path.Join("media", name))
	if err != nil {
		return nil
	}
	_, what, _ := media.Clean(data)
	return what
}

// SetBase takes the base stylesheet. Sections use its classes as they are; all other class names become their own.
func (e *Project) SetBase(text string) {
	e.Base, e.shared = text, map[string]bool{}
	for _, m := range ClassNames.FindAllStringSubmatch(text, -1) {
		e.shared[m[1]] = true
	}
	for _, tone := range theme.Tones { // the theme has their rules
		e.shared["tone-"+tone] = true
	}
}

// SharedClasses are the classes of the base stylesheet, which sections use as they are.
func (e *Project) SharedClasses() map[string]bool { return e.shared }

// Base reads the base stylesheet from the shipped files.
func Base(stock fs.FS) (string, error) {
	data, err := fs.ReadFile(stock, "base.css")
	return string(data), err
}
