package cli

import (
	"fmt"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/check"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/measure"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/sweep"
	"ziegel/stock"
)

func (a *app) sectionsCheckCmd() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "check DIR|KIND/NAME...",
		Short: "What is wrong with a section: for those who write one",
		Long: `Check reads the files of a section and lays it out at every width, by itself and in
half of a page. It tells marks that nothing reads, fields that are missing, options
that change nothing, classes without rules and rules without classes, colors, fonts
and sizes written by hand, and everything that the check finds in a sweep. A section
that runs a script, or asks a host that the site does not list (hosts: in ziegel.yaml),
is an error, and no page is built with it.`,
		Example: `  # a folder with section.html, section.css and section.yaml
  ziegel sections check sections/pricing/tickets

  # one that ships
  ziegel sections check hero/beside`,
		Args:              cobra.MinimumNArgs(1),
		ValidArgsFunction: a.complete("section"),
		RunE: func(_ *cobra.Command, args []string) error {
			broken := false
			for _, arg := range args {
				e, err := a.shelfFor(arg)
				if err != nil {
					return err
				}
				problems, findings, name, err := a.reviewSection(e, arg)
				if err != nil {
					return err
				}
				if a.json {
					if err := a.writeJSON(map[string]any{"section": name, "problems": problems,
						"findings": findings}); err != nil {
						return err
					}
				} else {
					a.toldSection(name, problems, findings)
				}
				for _, p := range problems {
					broken = broken || p.Severity == diag.Error
				}
				for _, f := range findings {
					broken = broken || f.Severity == diag.Error
				}
			}
			if broken {
				return errFindings
			}
			return nil
		},
	}
	return a.jsonFlag(cmd)
}

// oneSectionFS shows a folder as the only section of a library.
type oneSectionFS struct {
	fs.FS
	as string // sections/KIND/NAME
}

// Open gives files of the folder below the name of the section.
func (o oneSectionFS) Open(name string) (fs.File, error) {
	if name == o.as {
		name = "."
	} else {
		rest, ok := strings.CutPrefix(name, o.as+"/")
		if !ok {
			return nil, &fs.PathError{Op: "open", Path: name, Err: fs.ErrNotExist}
		}
		name = rest
	}
	return o.FS.Open(name)
}

// ReadDir lists the way to the folder, and the folder.
func (o oneSectionFS) ReadDir(name string) ([]fs.DirEntry, error) {
	if name == o.as {
		return fs.ReadDir(o.FS, ".")
	}
	if rest, ok := strings.CutPrefix(o.as, name+"/"); ok {
		first, _, _ := strings.Cut(rest, "/")
		return []fs.DirEntry{folderEntry(first)}, nil
	}
	return nil, &fs.PathError{Op: "open", Path: name, Err: fs.ErrNotExist}
}

type folderEntry string

func (f folderEntry) Name() string             { return string(f) }
func (folderEntry) IsDir() bool                { return true }
func (folderEntry) Type() fs.FileMode          { return fs.ModeDir }
func (folderEntry) Info() (fs.FileInfo, error) { return nil, fs.ErrNotExist }

// shelfFor gives the library that a section stands in: the site's for a name, the shipped one for a folder, so that
// mistakes in a site's own sections do not stop the one who mends them.
func (a *app) shelfFor(arg string) (*project.Project, error) {
	if info, err := os.Stat(arg); err != nil || !info.IsDir() {
		return a.shelf()
	}
	e, problems, err := project.Shelf(stock.Files)
	if err != nil {
		return nil, err
	}
	return e, problems.Err()
}

// reviewSection checks the files of a section and sweeps it.
func (a *app) reviewSection(e *project.Project, arg string) (diag.Problems, []check.Finding, string, error) {
	sec := e.Library.Section(arg)
	var problems diag.Problems
	if info, err := os.Stat(arg); err == nil && info.IsDir() && sec == nil {
		full, err := filepath.Abs(arg)
		if err != nil {
			return nil, nil, "", err
		}
		name := path.Join(filepath.Base(filepath.Dir(full)), filepath.Base(full))
		lib, ps := library.Load("sections", e.Stock, oneSectionFS{os.DirFS(full), "sections/" + name})
		for _, p := range ps {
			if strings.HasPrefix(p.File, "sections/"+name+"/") {
				problems = append(problems, p)
			}
		}
		if sec = lib.Section(name); sec == nil || len(sec.HTML) == 0 {
			if len(problems) == 0 {
				return nil, nil, "",
					fmt.Errorf("%s is no section: expected section.html, section.css and section.yaml in it", arg)
			}
			return problems, nil, name, nil
		}
		e = e.WithLibrary(lib)
	}
	if sec == nil {
		if strings.Contains(arg, string(filepath.Separator)) && e.Library.Nearest(arg) == "" {
			return nil, nil, "", fmt.Errorf("there is neither a folder nor a section %s", arg)
		}
		return nil, nil, "", diag.Unknown("section", arg, e.Library.Names(), "")
	}
	problems = append(append(problems, library.Unsafe(sec, e.Site.Hosts)...),
		library.Review(sec, e.SharedClasses())...)
	if problems.Err() != nil && sec.Root == nil {
		return problems, nil, sec.Name, nil
	}
	findings, ps, err := sweepSection(e, sec)
	return append(problems, ps...).Sorted(), findings, sec.Name, err
}

// sweepSection lays a section out at every width, by itself and in half of a page.
func sweepSection(e *project.Project, sec *library.Section) ([]check.Finding, diag.Problems, error) {
	var out []check.Finding
	file, _ := site.ReadFile("pages/check.yaml", "title: Check\n")
	block := func(name, section string) *site.Block {
		return &site.Block{Name: name, Section: section, Options: map[string]*site.Value{}, File: file,
			Node: site.NewMap("name", site.NewText(name)), Path: site.Keys("blocks", 0)}
	}
	page := &site.Page{Name: "check", Title: "Check", File: file, Blocks: []*site.Block{block("alone", sec.Name)}}
	if len(sec.Slots) == 0 {
		held := block("in-half", sec.Name)
		held.Within, held.Slot = "holder", "left"
		holder := block("holder", "layout/columns")
		holder.Holds = []site.Slot{{Name: "left", Blocks: []*site.Block{held}}}
		page.Blocks = append(page.Blocks, holder)
	}
	other := e.Alone(page)
	composed, ps := measure.Page(other, page, compose.Options{Marks: true})
	l, err := sweep.FromPage(other, composed)
	if err != nil {
		return nil, ps, err
	}
	for _, f := range check.Run(l, nil, ps, sweep.DefaultFrom, sweep.DefaultTo).Findings {
		if f.Block == "alone" && f.Rule != "sample-content" || f.Block == "in-half" && f.Severity != diag.Note {
			out = append(out, f)
		}
	}
	var own diag.Problems
	for _, p := range ps {
		if strings.HasPrefix(p.File, sec.Dir+"/") {
			own = append(own, p)
		}
	}
	return out, own, nil
}

// toldSection prints what was found.
func (a *app) toldSection(name string, problems diag.Problems, findings []check.Finding) {
	counts := map[diag.Severity]int{}
	for _, p := range problems {
		counts[p.Severity]++
		a.say("%s", strings.TrimRight(a.style.Problem(p), "\n"))
	}
	for _, f := range findings {
		counts[f.Severity]++
	}
	a.findings(name, findings)
	verdict := a.style.Good("fine")
	if counts[diag.Error]+counts[diag.Warning] > 0 {
		verdict = "found"
	}
	a.say("%s: %s, %s, %s, %s", verdict, name, diag.Plural(counts[diag.Error], "error"),
		diag.Plural(counts[diag.Warning], "warning"), diag.Plural(counts[diag.Note], "note"))
}
