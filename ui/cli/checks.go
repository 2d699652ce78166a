package cli

import (
	"fmt"

	"ziegel/core/check"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

// everyPage names all pages; they are laid out when that is needed.
func (a *app) everyPage() ([]*check.Subject, error) {
	e, _, err := a.open()
	if err != nil {
		return nil, err
	}
	if len(e.Site.PageNames()) == 0 {
		return nil, fmt.Errorf("the site has no pages yet; `ziegel add home hero/beside` makes the first")
	}
	return pagesOf(e), nil
}

func pagesOf(e *project.Project) []*check.Subject {
	var list []*check.Subject
	for _, n := range e.Site.PageNames() {
		list = append(list, &check.Subject{Name: n, Env: e})
	}
	return list
}

// auditAll checks pages and sets aside what their site accepts. Entries that meet nothing are told when all pages
// were looked at.
func (a *app) auditAll(list []*check.Subject, from, to int) ([]*check.Report, error) {
	env := list[0].Env
	if env != nil {
		if err := check.CheckAccepted(env.Site).Err(); err != nil {
			return nil, err
		}
	}
	reports, err := a.look(list, from, to)
	if err != nil || env == nil {
		return reports, err
	}
	return a.settled(list, reports, from, to)
}

// tunedBy lists the rules that the site of some pages tunes.
func tunedBy(list []*check.Subject) []site.Tuned {
	if len(list) > 0 && list[0].Env != nil {
		return list[0].Env.Site.Tuned
	}
	return nil
}

// settled sets aside what the site accepts, and adds what only the whole site can tell.
func (a *app) settled(list []*check.Subject, reports []*check.Report, from, to int) ([]*check.Report, error) {
	env := list[0].Env
	used := make([]bool, len(env.Site.Accepted))
	for _, r := range reports {
		r.Accept(env.Site.Accepted, used)
	}
	whole := len(reports) == len(env.Site.PageNames()) && !stopped(reports)
	if whole && !list[0].Past {
		reports = append(reports, check.Unwritten(env, reports)...)
	}
	if whole && from <= sweep.DefaultFrom && to >= sweep.DefaultTo {
		reports[0].Findings = append(reports[0].Findings, check.Unused(env.Site, used)...)
	}
	return reports, nil
}
