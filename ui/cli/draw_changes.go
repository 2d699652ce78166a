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

	"ziegel/core/address"
	"ziegel/core/check"
	"ziegel/core/diag"
	"ziegel/core/draw"
	"ziegel/core/paint"
	"ziegel/core/project"
	"ziegel/core/site"
)

// drawSince shows pages as they were at a commit and as they are.
func (a *app) drawSince(o *drawing, args []string) error {
	_, now, err := a.pagesNamed(args)
	if err != nil {
		return err
	}
	then, err := pagesAt(o.since, now)
	if err != nil {
		return err
	}
	return a.drawPairs(o, fmt.Sprintf("since %s", o.since), then, now)
}

// drawTrial shows what a command would change, before it is given: it is given to a copy of the site.
func (a *app) drawTrial(o *drawing, args []string) error {
	page, command := args[:0:0], args
	if len(args) > 0 {
		if e, _, err := a.open(); err == nil && e.Site.Page(args[0]) != nil {
			page, command = args[:1], args[1:]
		}
	}
	if len(command) == 0 {
		return errors.New("--dry-run needs a command: ziegel draw home --dry-run --to out.png -- style home/plans.card padding=3rem")
	}
	e, before, err := a.pagesNamed(page)
	if err != nil {
		return err
	}
	dir, err := os.MkdirTemp("", "ziegel-trial")
	if err != nil {
		return err
	}
	defer func() { _ = os.RemoveAll(dir) }()
	if err := copySite(e.Site.Dir, dir); err != nil {
		return err
	}
	var answer, complaint bytes.Buffer
	if code := a.again(append([]string{"--site", dir, "--color", "never"}, command...), bytes.NewReader(nil), &answer,
		&complaint); code == exitWrong {
		return fmt.Errorf("the command would be refused: %s", strings.TrimPrefix(strings.TrimSpace(complaint.String()),
			"error: "))
	}
	trial, err := a.openAt(dir)
	if err != nil {
		return err
	}
	var after []*check.Subject
	for _, s := range before {
		if p := trial.Site.Page(s.Name); p != nil {
			x, err := check.Lay(trial, p, nil)
			if err != nil {
				return err
			}
			after = append(after, x)
		}
	}
	return a.drawPairs(o, "ziegel "+strings.Join(quoteArgs(command), " "), before, after)
}

// copySite copies what a site is made from.
func copySite(from, to string) error {
	return filepath.WalkDir(from, func(path string, d fs.DirEntry, err error) error {
		if err != nil {
			return err
		}
		rel, err := filepath.Rel(from, path)
		if err != nil {
			return err
		}
		if d.IsDir() {
			if rel == "built" || rel == ".git" || rel == ".ziegel" {
				return filepath.SkipDir
			}
			return nil
		}
		if info, err := os.Stat(path); err != nil || !info.Mode().IsRegular() { // links to files are followed
			return nil
		}
		data, err := os.ReadFile(path)
		if err != nil {
			return err
		}
		return site.WriteFile(filepath.Join(to, rel), data)
	})
}

// pagesNamed lays out the page that is named, or all.
func (a *app) pagesNamed(args []string) (*project.Project, []*check.Subject, error) {
	e, _, err := a.open()
	if err != nil {
		return nil, nil, err
	}
	names := e.Site.PageNames()
	if len(args) > 0 {
		names = args
	}
	var out []*check.Subject
	for _, n := range names {
		p, err := address.FindPage(e, n)
		if err != nil {
			return nil, nil, err
		}
		s, err := check.Lay(e, p, nil)
		if err != nil {
			return nil, nil, err
		}
		out = append(out, s)
	}
	return e, out, nil
}

// drawPairs writes the sheet of pages before and after.
func (a *app) drawPairs(o *drawing, title string, before, after []*check.Subject) error {
	look := draw.Look{Dark: o.scheme == "dark", State: o.states(), Files: paint.NewFiles()}
	shot := func(list []*check.Subject, name string, width int) (*draw.Shot, error) {
		for _, s := range list {
			if s.Name == name {
				return draw.Of(s.Prepared, width, draw.Target{}, look)
			}
		}
		return nil, nil
	}
	var names []string
	for _, s := range append(append([]*check.Subject(nil), after...), before...) {
		if !slices.Contains(names, s.Name) {
			names = append(names, s.Name)
		}
	}
	var pairs []*draw.Pair
	changed, on := 0, map[string]bool{}
	for _, n := range names {
		for _, w := range o.widths {
			x, err := shot(before, n, w)
			if err != nil {
				return err
			}
			y, err := shot(after, n, w)
			if err != nil {
				return err
			}
			pair, err := draw.Compare(n, x, y)
			if err != nil {
				return err
			}
			if n := max(len(pair.Changed), len(pair.Was)); n > 0 || x == nil || y == nil {
				changed += n
				on[pair.Page] = true
			}
			pairs = append(pairs, pair)
		}
	}
	sheet := draw.BeforeAfter(title, pairs)
	if sheet == nil {
		a.answer("nothing looks different on %s at %s", diag.Plural(len(names), "page"), o.at)
		return nil
	}
	if err := a.writeSheet(o, title, sheet, look.Files); err != nil {
		return err
	}
	a.answer("%s changed on %d of %s", diag.Plural(changed, "place"), len(on), diag.Plural(len(names), "page"))
	return nil
}
