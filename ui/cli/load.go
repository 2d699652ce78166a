package cli

import (
	"errors"
	"os"
	"path/filepath"
	"strings"

	"ziegel/core/audit"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/settle"
	"ziegel/core/site"
	"ziegel/core/sweep"
	"ziegel/stock"
)

// subject is what a reading command looks at: a page of the site, or any HTML file.
type subject struct {
	name     string // of the page
	laid     *sweep.Laid
	page     *site.Page
	env      *compose.Env
	problems diag.Problems // those that the check tells as findings
	past     bool          // the page as it was once
}

// isFile reports whether an argument means an HTML file.
func isFile(arg string) bool {
	ext := strings.ToLower(filepath.Ext(arg))
	return ext == ".html" || ext == ".htm"
}

// subject loads a page (all of it, or only some blocks) or a file.
func (a *app) subject(arg string, only ...string) (*subject, error) {
	if isFile(arg) {
		l, err := sweep.FromFile(arg, stock.Files)
		return &subject{name: arg, laid: l}, err
	}
	e, dir, err := a.open()
	if err != nil {
		return nil, err
	}
	p, err := findPage(e, arg)
	if err != nil {
		if _, statErr := os.Stat(filepath.Join(dir, arg)); statErr == nil {
			return nil, errNotPage(arg)
		}
		return nil, err
	}
	return lay(e, p, only)
}

type errNotPage string

func (e errNotPage) Error() string {
	if e == "" {
		return "a page needs a name: give one such as home, or a file that ends in .html"
	}
	return string(e) + " is a file, but no HTML file: give a page name such as home, or a file that ends in .html"
}

// lay composes a page for measuring.
func lay(e *compose.Env, p *site.Page, only []string) (*subject, error) {
	page, problems := settle.Page(e, p, compose.Options{Marks: true, Only: only})
	if err := audit.Blocking(problems).Err(); err != nil {
		return nil, err
	}
	l, err := sweep.FromPage(e, page)
	return &subject{name: p.Name, laid: l, page: p, env: e, problems: problems}, err
}

// prepare lays a page out that has only been named so far.
func (s *subject) prepare() error {
	if s.laid != nil {
		return nil
	}
	p, err := findPage(s.env, s.name)
	if err != nil {
		return err
	}
	full, err := lay(s.env, p, nil)
	if err != nil {
		return err
	}
	past := s.past
	*s = *full
	s.name, s.past = p.Name, past
	return nil
}

// prepared lays all pages of a list out. Mistakes of all of them are told at once.
func prepared(list []*subject) error {
	var problems diag.Problems
	for _, s := range list {
		var told diag.Problems
		if err := s.prepare(); errors.As(err, &told) {
			problems = append(problems, told...)
		} else if err != nil {
			return err
		}
	}
	return problems.Sorted().Err()
}
