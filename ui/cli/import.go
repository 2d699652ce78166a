package cli

import (
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"

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
		StringVar(&o.within, "within", "",
			"folder that the pages' files may lie in (default: the one that holds the pages)")
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
		for _, f := range [][2]string{{"section.html", own.Files.HTML}, {"section.css", own.Files.CSS},
			{"section.yaml", own.Files.YAML}} {
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
	list := stress.Stress(alone, page, base, sweep.Widths{From: sweep.DefaultFrom, To: sweep.DefaultTo}, w.step)
	w.end()
	a.sayStress(w.stopped.Load(), func(visit func(page string, st stress.Strained)) {
		for _, st := range list {
			visit(name, st)
		}
	})
	return nil
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
		for _, l := range t.Against(p, s.Prepared) {
			a.answer("%s", a.style.Wrap(p.Name+"/"+likenessText(l), 3))
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

// likenessText says how a block looks against the band of the old page that it was made of.
func likenessText(l adopt.Likeness) string {
	out := l.Band + ": "
	if l.Texts > 0 {
		out += fmt.Sprintf(
			"%d of %d texts and pictures of the old page, %d of them within 4 px; ",
			l.Found,
			l.Texts,
			l.Near,
		)
	}
	out += fmt.Sprintf("%.0f px high, was %.0f", l.Is, l.Was)
	for i, share := range l.Seen {
		word := ";"
		if i > 0 {
			word = ","
		}
		out += fmt.Sprintf("%s %.0f %% looks alike at %d px", word, 100*share, adopt.Looked()[i])
	}
	return out
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
