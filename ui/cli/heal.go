package cli

import (
	"errors"
	"fmt"
	"time"

	"ziegel/core/check"
	"ziegel/core/cure"
	"ziegel/core/diag"
	"ziegel/core/edit"
	"ziegel/core/project"
	"ziegel/core/site"
)

// mostCures bounds what one run applies.
const mostCures = 50

// suggest looks for a proved cure of every finding of the site's own pages, for as long as was allowed. Findings that
// have one carry its command.
func (a *app) suggest(list []*check.Subject, reports []*check.Report, from, to int,
	within time.Duration) {
	w := a.searching(reports)
	var late []string // addresses of blocks whose findings were not reached
	end := time.Now().Add(within)
	for i := range reports {
		h := cure.NewHealer(list[i].Env, storeOf(list[i].Env), from, to, reports...)
		for _, f := range cure.Curable(reports[i]) {
			if time.Now().After(end) {
				late = append(late, reports[i].Page+"/"+f.Block)
				continue
			}
			for range 16 {
				if !w.step() {
					w.end()
					return
				}
			}
			c, ok := h.Cure(reports[i].Page, f)
			if !ok {
				continue
			}
			for k := range reports[i].Findings {
				x := &reports[i].Findings[k]
				same := x.Rule == f.Rule && x.Block == f.Block && x.Part == f.Part && x.From <= f.To && x.To >= f.From
				if same {
					x.Cure, x.Proved = c.Command, true
				}
			}
		}
	}
	w.end()
	if len(late) > 0 {
		a.talkf("after %s no cure was looked for any more; %s left", within, diag.Plural(len(late), "finding"))
		a.talkf("try:   ziegel check %s --suggest, or --within 2m", late[0])
	}
}

// searching begins the search for cures; the bar moves by sixteenths.
func (a *app) searching(reports []*check.Report) *work {
	total := 0
	for _, r := range reports {
		total += len(cure.Curable(r))
	}
	return a.working("looking for cures", total*16)
}

// heal applies proved cures one after the other until none is left, and checks anew after each.
func (a *app) heal(list []*check.Subject, from, to int) ([]*check.Subject, []*check.Report, error) {
	dir, err := a.find()
	if err != nil {
		return nil, nil, err
	}
	given := map[string]bool{}
	for range mostCures {
		reports, err := a.auditAll(list, from, to)
		if err != nil {
			return nil, nil, err
		}
		if stopped(reports) {
			return list, reports, nil
		}
		c, page, ok := a.firstCure(list, reports, from, to, given)
		if !ok {
			return list, reports, nil
		}
		if err := a.applyCure(dir, c); err != nil {
			return nil, nil, err
		}
		a.say("applied: %s", a.style.Bold(c.Command))
		a.say("   for:  %s", findingLine(page, c.Finding))
		e, err := a.openAt(dir)
		if err != nil {
			return nil, nil, err
		}
		if list, err = again(e, list); err != nil {
			return nil, nil, err
		}
	}
	reports, err := a.auditAll(list, from, to)
	return list, reports, err
}

// firstCure finds the first finding that has a cure; those that have none are in given from then on.
func (a *app) firstCure(list []*check.Subject, reports []*check.Report, from, to int,
	given map[string]bool) (cure.Cure, string, bool) {
	w := a.searching(reports)
	defer w.end()
	for i := range reports {
		h := cure.NewHealer(list[i].Env, storeOf(list[i].Env), from, to, reports...)
		for _, f := range cure.Curable(reports[i]) {
			key := reports[i].Page + " " + edit.SubjectOf(f)
			for range 16 {
				if !w.step() {
					return cure.Cure{}, "", false
				}
			}
			if given[key] {
				continue
			}
			c, ok := h.Cure(reports[i].Page, f)
			if ok {
				return c, reports[i].Page, true
			}
			given[key] = true
		}
	}
	return cure.Cure{}, "", false
}

// applyCure writes a cure, journaled, if the files are still those that it was proved on.
func (a *app) applyCure(dir string, c cure.Cure) error {
	unlock, err := a.lock(dir)
	if err != nil {
		return err
	}
	defer unlock()
	return site.Commit(dir, c.Command, time.Now(), c.Changes)
}

// again prepares the same pages of a site that has changed.
func again(e *project.Project, list []*check.Subject) ([]*check.Subject, error) {
	var out []*check.Subject
	for _, s := range list {
		p := e.Site.Page(s.Page.Name)
		if p == nil {
			return nil, fmt.Errorf("the page %s is gone", s.Page.Name)
		}
		next, err := check.Lay(e, p, nil)
		if err != nil {
			return nil, err
		}
		out = append(out, next)
	}
	return out, nil
}

var errNoSiteToHeal = errors.New("--suggest and --apply change pages of a site; an HTML file has no blocks that they could change")
