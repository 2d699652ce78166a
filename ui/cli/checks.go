package cli

import (
	"fmt"

	"ziegel/core/build"
	"ziegel/core/check"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/sweep"
	"ziegel/core/words"
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
	if err := a.inAmounts(list, reports, from, to); err != nil {
		return nil, err
	}
	more, err := a.inLanguages(list, reports, from, to)
	if err != nil {
		return nil, err
	}
	if reports, err = a.settled(list, reports, from, to, more); err != nil {
		return nil, err
	}
	return append(reports, more...), nil
}

// inOneLanguage tells that a request looks at the pages in their own language alone, where there are others.
func (a *app) inOneLanguage(env *project.Project) {
	if env == nil {
		return
	}
	if others := words.Languages(env); len(others) > 0 {
		a.alone = true
		a.talkf("in %s alone; --language %s looks at another language in the same way", env.Site.Language, others[0])
	}
}

// inAmounts checks pages whose lists come from data with none, one and all of the entries, and adds what they find
// besides.
func (a *app) inAmounts(list []*check.Subject, reports []*check.Report, from, to int) error {
	for i, s := range list {
		if s.Past || i >= len(reports) {
			continue
		}
		p := s.Env.Site.Page(s.Name)
		if p == nil {
			continue
		}
		for _, amount := range s.Env.Amounts(p) {
			one := &check.Subject{Name: s.Name, Env: amount.Env}
			if err := one.Prepare(); err != nil {
				return err
			}
			r := check.RunKept(storeOf(s.Env), one, from, to)
			r.Besides(reports[i])
			for _, f := range r.Findings {
				f.Text = fmt.Sprintf("with %s of its entries: %s", amount.Says, f.Text)
				reports[i].Findings = append(reports[i].Findings, f)
			}
		}
	}
	return nil
}

// inLanguages checks pages in the other languages of their site. What a page has in its own language, too, is not told
// again.
func (a *app) inLanguages(list []*check.Subject, reports []*check.Report, from, to int) ([]*check.Report, error) {
	env := list[0].Env
	if list[0].Past || a.alone {
		return nil, nil
	}
	var out []*check.Report
	for _, tag := range words.Languages(env) {
		in := words.In(env, tag)
		var pages []*check.Subject
		for _, s := range list {
			pages = append(pages, &check.Subject{Name: s.Name, Env: in})
		}
		found, err := a.look(pages, from, to)
		if err != nil {
			return nil, err
		}
		state := words.Translations(env, tag, nil)
		for i, r := range found {
			r.Language = tag
			r.Besides(reports[i])
			if i < len(list) {
				r.Findings = append(r.Findings, check.Untranslated(state, r.Page, tag)...)
			}
			if list[i].Block != "" {
				r.Narrow(list[i].Block)
			}
			out = append(out, r)
		}
	}
	return out, nil
}

// tunedBy lists the rules that the site of some pages tunes.
func tunedBy(list []*check.Subject) []site.Tuned {
	if len(list) > 0 && list[0].Env != nil {
		return list[0].Env.Site.Tuned
	}
	return nil
}

// settled sets aside what the site accepts, and adds what only the whole site can tell.
func (a *app) settled(list []*check.Subject, reports []*check.Report, from, to int,
	more []*check.Report) ([]*check.Report, error) {
	env := list[0].Env
	used := make([]bool, len(env.Site.Accepted))
	for _, r := range reports {
		r.Accept(env.Site.Accepted, used)
	}
	for _, r := range more {
		r.Accept(env.Site.Accepted, used)
		r.Page = build.PageIn(r.Page, r.Language)
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
