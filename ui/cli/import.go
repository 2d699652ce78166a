package cli

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"ziegel/core/adopt"
	"ziegel/core/check"
	"ziegel/core/diag"
	"ziegel/core/edit"
	"ziegel/core/project"
	"ziegel/core/search"
	"ziegel/core/site"
	"ziegel/core/stress"
	"ziegel/core/sweep"
	"ziegel/stock"
)

// importing is what import was asked for.
type importing struct {
	to, into, within, as string

	first string // of the files, as it was named
	dry   bool
}

func (a *app) importCmd() *cobra.Command {
	o := &importing{}
	cmd := &cobra.Command{
		Use:   "import FILE.html|FOLDER|-...",
		Short: "Take existing pages into the site",
		Long: `Import lays old pages out, cuts them into bands, and finds the section of the
library that shows most of what each band says. It writes a page of the site for
each file, with all content in fields, pictures copied and links by name. What is
the same above and below on all of them stands on every page.

With --as a piece of HTML with its CSS becomes a section of the site's own: what is
content is in fields, like entries are a list, colors and distances are the theme's
where it has them, conditions on the screen are ones on the section's room. It is
checked, and tried with hostile content.

Nothing outside the folder of the files is read, no host is asked and no script is
run; what is left out is told. --dry-run tells what it would make of the pages, and
writes nothing.`,
		Example: `  # what would become of it
  ziegel import old/index.html --dry-run

  # a page of this site
  ziegel import old/about.html --to workshop

  # a new site from all old pages at once, or from those of a folder
  ziegel import old/*.html --new larkspan
  ziegel import old --new larkspan

  # one good piece as a section of the site's own: a file, a folder, or from the clipboard
  ziegel import card.html --as features/card
  wl-paste | ziegel import - --as features/card`,
		Args: cobra.MinimumNArgs(1),
		RunE: func(_ *cobra.Command, args []string) error { return a.importPages(o, args) },
		PostRunE: func(_ *cobra.Command, _ []string) error {
			if o.into == "" || o.dry {
				return nil
			}
			return a.keepShipped(o.into)
		},
	}
	cmd.Flags().StringVar(&o.to, "to", "", "name of the page, for one file (default: the file's)")
	cmd.Flags().StringVar(&o.into, "new", "", "make a new site of the pages in this folder")
	cmd.Flags().StringVar(&o.as, "as", "", "make a section of the site's own of the whole file: KIND/NAME")
	cmd.Flags().
		StringVar(&o.within, "within", "", "folder that the pages' files may lie in (default: the one that holds the pages)")
	dryRunFlag(cmd, &o.dry)
	return a.jsonFlag(cmd)
}

func (a *app) importPages(o *importing, args []string) error {
	folder, files, err := o.files(args)
	if err != nil {
		return err
	}
	if o.as == "" && slices.Contains(args, "-") {
		return errors.New(
			"a page from standard input has no name and no files beside it: give a file, or --as KIND/NAME",
		)
	}
	if a.json && !o.dry {
		return errors.New("--json tells what would become of the pages: add --dry-run")
	}
	if o.to != "" && len(files) > 1 {
		return errors.New("--to names one page: take the files one by one, or without it")
	}
	if o.to != "" && !site.ValidName(o.to) {
		return fmt.Errorf(
			"--to %q cannot be a page name: use small letters, digits and hyphens, beginning with a letter",
			o.to,
		)
	}
	root, err := os.OpenRoot(folder)
	if err != nil {
		return fmt.Errorf("read %s: %w", folder, diag.Bare(err))
	}
	defer root.Close()
	source := root.FS()
	if args[0] == "-" {
		text, err := io.ReadAll(io.LimitReader(a.stdin, mostTyped+1))
		if err != nil {
			return fmt.Errorf("read standard input: %w", err)
		}
		if len(text) > mostTyped {
			return fmt.Errorf("read standard input: more than %d MB are no snippet", mostTyped>>20)
		}
		source = withFile{source, typedFile, text}
	}
	env, own, err := a.importInto(o)
	if err != nil {
		return err
	}
	if o.as != "" {
		return a.importSnippet(o, env, adopt.Wanted{Folder: source, Files: files, Own: own})
	}
	t, err := adopt.Take(env, adopt.Wanted{Folder: source, Files: files, To: o.to, Own: own})
	if err != nil {
		return err
	}
	if a.json {
		return a.writeJSON(importDoc(t))
	}
	a.tellTaken(t)
	if o.dry {
		return nil
	}
	return a.writeTaken(o, t)
}

// importSnippet makes a section of a piece of HTML, and looks at it.
func (a *app) importSnippet(o *importing, env *project.Project, w adopt.Wanted) error {
	kind, name, ok := strings.Cut(o.as, "/")
	switch {
	case !ok || !site.ValidName(kind) || !site.ValidName(name):
		return fmt.Errorf("--as %q cannot be the name of a section: write KIND/NAME, such as features/card", o.as)
	case len(w.Files) > 1:
		return errors.New("--as makes one section: give one file")
	case o.into != "" || o.to != "":
		return errors.New("--as makes a section, no page: leave out --new and --to")
	case env.Library.Has(o.as):
		return fmt.Errorf("there is a section %q already; take another name", o.as)
	}
	t, err := adopt.Snippet(env, w, o.as)
	if err != nil {
		return err
	}
	if o.dry {
		own := t.Own[0]
		for _, f := range [][2]string{{"section.html", own.Files.HTML}, {"section.css", own.Files.CSS}, {"section.yaml", own.Files.YAML}} {
			a.say("%s", a.style.Bold("sections/"+own.Name+"/"+f[0]))
			a.say("%s", strings.TrimSuffix(f[1], "\n"))
		}
		for _, told := range own.Told {
			a.talkf("%s", told)
		}
		return nil
	}
	for _, l := range t.Pages[0].Left {
		a.say("left out: %s", l.What)
	}
	if err := a.writeTaken(o, t); err != nil {
		return err
	}
	return a.lookAtOwn(o.as)
}

// lookAtOwn checks a section that was just made, and tries it with hostile content.
func (a *app) lookAtOwn(name string) error {
	e, err := a.shelf()
	if err != nil {
		return err
	}
	problems, findings, _, err := a.reviewSection(e, name)
	if err != nil {
		return err
	}
	a.toldSection(name, problems, findings)
	alone, page := search.Alone(e, e.Library.Section(name))
	s, err := check.Lay(alone, page, nil)
	if err != nil {
		return err
	}
	base := check.Run(s.Prepared, s.Page, s.Problems, sweep.DefaultFrom, sweep.DefaultTo)
	strains, _ := stress.Strains()
	w := a.working("hostile content", len(strains)*(sweep.DefaultTo-sweep.DefaultFrom+1))
	defer w.end()
	list := stress.Stress(alone, page, base, sweep.DefaultFrom, sweep.DefaultTo, w.step)
	w.end()
	a.sayStress(w.stopped.Load(), func(visit func(page string, st stress.Strained)) {
		for _, st := range list {
			visit(name, st)
		}
	})
	return nil
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

// importInto opens the site that takes the pages; a new one has nothing but the shipped sections yet.
func (a *app) importInto(o *importing) (*project.Project, fs.FS, error) {
	if o.into != "" || o.dry {
		if _, err := a.find(); o.into != "" || err != nil {
			if o.into != "" {
				if err := emptyDir(o.into); err != nil {
					return nil, nil, err
				}
			}
			env, problems, err := project.Shelf(stock.Files)
			if err == nil {
				err = problems.Err()
			}
			return env, nil, err
		}
	}
	env, dir, err := a.open()
	if errors.Is(err, site.ErrNoSite) {
		return nil, nil, fmt.Errorf("%w: --new DIR makes a site of the pages", err)
	}
	if err != nil {
		return nil, nil, err
	}
	return env, site.Folder(dir), nil
}

// tellTaken says what becomes of the pages.
func (a *app) tellTaken(t *adopt.Taking) {
	outside := false
	for _, p := range t.Pages {
		a.say("%s", a.style.Bold(fmt.Sprintf("%s -> %s", p.File, p.Name)))
		for _, b := range p.Bands {
			a.tellBand(b, "")
		}
		for _, l := range p.Left {
			times := ""
			if l.Count > 1 {
				times = fmt.Sprintf(" (%d times)", l.Count)
			}
			a.say("%s", a.style.Wrap("  left out: "+l.What+times, 4))
			outside = outside || strings.Contains(l.What, "outside of the folder")
		}
	}
	for _, end := range []struct {
		where string
		bands []*adopt.Band
	}{{"above", t.Top}, {"below", t.Bottom}} {
		if len(end.bands) == 0 {
			continue
		}
		a.say("%s", a.style.Bold("every page, "+end.where))
		for _, b := range end.bands {
			a.tellBand(b, "")
		}
	}
	if outside {
		a.talkf("what lies outside of the folder of the pages is not read; --within FOLDER names a wider one")
	}
}

func (a *app) tellBand(b *adopt.Band, indent string) {
	near := ""
	if len(b.Near) > 0 {
		var list []string
		for _, n := range b.Near {
			list = append(list, fmt.Sprintf("%s %.0f %%", n.Section, 100*n.Share))
		}
		near = "  or " + strings.Join(list, ", ")
	}
	share := fmt.Sprintf("%3.0f %%", 100*b.Share)
	if b.Exact {
		share, near = "as is", ""
	}
	a.say("%s  %-14s %-20s %s%s", indent, b.Name, b.Section, share, a.style.Dim(near))
	for _, l := range b.Lost {
		a.say("%s", a.style.Wrap(indent+"    not shown: "+l, len(indent)+6))
	}
	for _, h := range b.Holds {
		for _, x := range h.Bands {
			a.tellBand(x, indent+"  ")
		}
	}
}

// writeTaken writes the files that come along, then the pages.
func (a *app) writeTaken(o *importing, t *adopt.Taking) error {
	dir := o.into
	if dir == "" {
		found, err := a.find()
		if err != nil {
			return err
		}
		dir = found
	} else {
		abs, err := filepath.Abs(dir)
		if err != nil {
			return err
		}
		first, err := t.NewSite(edit.TitleCase(filepath.Base(abs)))
		if err != nil {
			return err
		}
		if err := site.WriteFile(filepath.Join(dir, site.FileName), []byte(first)); err != nil {
			return fmt.Errorf("write %s: %w", dir, diag.Bare(err))
		}
		a.siteDir = dir
	}
	var written []string
	for _, name := range t.Media.Names() {
		file := filepath.Join(dir, "media", filepath.FromSlash(name))
		if _, err := os.Stat(file); err == nil {
			continue // the same file
		}
		if err := site.WriteFile(file, t.Media.Files[name]); err != nil {
			return fmt.Errorf("write %s: %w", file, diag.Bare(err))
		}
		written = append(written, file)
	}
	take := edit.Take
	if o.as != "" {
		take = edit.TakeSnippet
	}
	err := a.change(false, func(p *edit.Plan) error { return take(p, t) })
	if err != nil {
		for _, f := range written {
			_ = os.Remove(f)
		}
		if o.into != "" { // it was empty, or not there
			_ = os.RemoveAll(dir)
		}
		return err
	}
	if n := len(written); n > 0 {
		a.answer("copied %s to media/", diag.Plural(n, "file"))
	}
	if o.as != "" {
		return nil
	}
	return a.tellAgainst(o, t)
}

// tellAgainst holds the new pages against the old ones.
func (a *app) tellAgainst(o *importing, t *adopt.Taking) error {
	e, _, err := a.open()
	if err != nil {
		return err
	}
	for _, p := range t.Pages {
		page := e.Site.Page(p.Name)
		if page == nil {
			continue
		}
		s, err := check.Lay(e, page, nil)
		if err != nil {
			a.answer("%s: not held against the old page: %v", p.Name, err)
			continue
		}
		for _, l := range p.Against(s.Prepared) {
			a.answer(
				"%s",
				a.style.Wrap(
					fmt.Sprintf(
						"%s/%s: %d of %d texts and pictures of the old page, %d of them within 4 px; %.0f px high, was %.0f",
						p.Name,
						l.Band,
						l.Found,
						l.Texts,
						l.Near,
						l.Is,
						l.Was,
					),
					3,
				),
			)
		}
	}
	a.answer(
		"next: ziegel check, ziegel todo; to see both: ziegel compare %s %s --at %d --to overlay.html",
		t.Pages[0].Name,
		o.first,
		adopt.Width,
	)
	return nil
}

// importDoc is the answer for machines.
func importDoc(t *adopt.Taking) any {
	type band struct {
		Name    string       `json:"name"`
		Section string       `json:"section"`
		Share   float64      `json:"share"`
		Exact   bool         `json:"exact,omitempty"`
		Near    []adopt.Near `json:"near,omitempty"`
		Lost    []string     `json:"lost,omitempty"`
		Y       float64      `json:"y"`
		H       float64      `json:"h"`
	}
	type page struct {
		File  string       `json:"file"`
		Page  string       `json:"page"`
		Bands []band       `json:"bands"`
		Left  []adopt.Left `json:"left,omitempty"`
	}
	bands := func(list []*adopt.Band) []band {
		out := []band{}
		for _, b := range list {
			out = append(
				out,
				band{b.Name, b.Section, b.Share, b.Exact, b.Near, b.Lost, b.Where.Y.Float(), b.Where.H.Float()},
			)
		}
		return out
	}
	out := struct {
		Pages  []page `json:"pages"`
		Top    []band `json:"top"`
		Bottom []band `json:"bottom"`
	}{Pages: []page{}, Top: bands(t.Top), Bottom: bands(t.Bottom)}
	for _, p := range t.Pages {
		out.Pages = append(out.Pages, page{p.File, p.Name, bands(p.Bands), p.Left})
	}
	return out
}
