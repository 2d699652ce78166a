package cli

import (
	"sync"

	"ziegel/core/audit"
	"ziegel/core/project"
	"ziegel/core/review"
	"ziegel/core/sweep"
)

// run checks a page, block by block where blocks that have not changed are known.
func (a *app) run(s *audit.Subject, from, to int) *audit.Report {
	if s.Env == nil || s.Page == nil {
		return audit.Run(s.Laid, s.Page, s.Problems, from, to)
	}
	var r *audit.Report
	if a.fresh {
		r = audit.Run(s.Laid, s.Page, s.Problems, from, to)
	} else {
		r = audit.RunKept(storeOf(s.Env), s.Env, s.Laid, s.Page, s.Problems, from, to)
	}
	r.AddSite(s.Env, a.missingFonts(s.Env), s.Page, s.Laid)
	return r
}

// kept gives the report of a page that has not changed since it was last checked.
func (a *app) kept(s *audit.Subject, from, to int) *audit.Report {
	if s.Env == nil || s.Page == nil || a.fresh {
		return nil
	}
	return audit.LoadReport(storeOf(s.Env), storeOf(s.Env).Key(s.Env, s.Laid, s.Page, s.Problems, from, to))
}

// report1 makes empty lists of missing ones, for JSON.
func report1(r *audit.Report) *audit.Report {
	if r.Findings == nil {
		r.Findings = []audit.Finding{}
	}
	if r.Blocks == nil {
		r.Blocks = []sweep.Stacking{}
	}
	return r
}

// stopped reports whether the user ended a check early.
func stopped(reports []*audit.Report) bool {
	return len(reports) == 0 || reports[len(reports)-1].Stopped
}

// missingFonts finds the fonts that a site names and does not bring, once a site.
func (a *app) missingFonts(env *project.Project) []review.MissingFont {
	once, _ := a.missing.LoadOrStore(env,
		sync.OnceValue(func() []review.MissingFont { return review.MissingFonts(env) }))
	return once.(func() []review.MissingFont)()
}
