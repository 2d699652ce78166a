package check

import (
	"errors"

	"ziegel/core/address"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/measure"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

// Subject is what a reading command looks at: a page of the site, or any HTML file.
type Subject struct {
	Name     string // of the page
	Prepared *sweep.Prepared
	Page     *site.Page
	Env      *project.Project
	Problems diag.Problems // those that the check tells as findings
	Past     bool          // the page as it was once
	Block    string        // the one block of it that was asked for, "" for all
}

// Lay composes a page for measuring.
func Lay(e *project.Project, p *site.Page, only []string) (*Subject, error) {
	page, problems := measure.Page(e, p, compose.Options{Marks: true, Only: only})
	if err := Blocking(problems).Err(); err != nil {
		return nil, err
	}
	l, err := sweep.FromPage(e, page)
	return &Subject{Name: p.Name, Prepared: l, Page: p, Env: e, Problems: problems}, err
}

// Prepare lays a page out that has only been named so far.
func (s *Subject) Prepare() error {
	if s.Prepared != nil {
		return nil
	}
	p, err := address.FindPage(s.Env, s.Name)
	if err != nil {
		return err
	}
	full, err := Lay(s.Env, p, nil)
	if err != nil {
		return err
	}
	past := s.Past
	*s = *full
	s.Name, s.Past = p.Name, past
	return nil
}

// PrepareAll lays all pages of a list out. Mistakes of all of them are told at once.
func PrepareAll(list []*Subject) error {
	var problems diag.Problems
	for _, s := range list {
		var told diag.Problems
		if err := s.Prepare(); errors.As(err, &told) {
			problems = append(problems, told...)
		} else if err != nil {
			return err
		}
	}
	return problems.Sorted().Err()
}
