package cli

import (
	"sync"

	"ziegel/core/check"
	"ziegel/core/project"
	"ziegel/core/review"
	"ziegel/core/sweep"
)

// run checks a page, block by block where blocks that have not changed are known.
func (a *app) run(s *check.Subject, from, to int) *check.Report {
	if s.Env == nil || s.Page == nil {
		return check.Run(s.Prepared, s.Page, s.Problems, from, to)
	}
	var r *check.Report
	if a.fresh {
		r = check.Run(s.Prepared, s.Page, s.Problems, from, to)
	} else {
		r = check.RunKept(storeOf(s.Env), s, from, to)
	}
	r.AddSite(s.Env, a.missingFonts(s.Env), s.Page, s.Prepared)
	return r
}

// kept gives the report of a page that has not changed since it was last checked.
func (a *app) kept(s *check.Subject, from, to int) *check.Report {
	if s.Env == nil || s.Page == nil || a.fresh {
		return nil
	}
	return check.LoadReport(storeOf(s.Env), storeOf(s.Env).Key(s.Env, s.Prepared, s.Page, s.Problems,
		sweep.Widths{From: from, To: to}))
}

// report1 makes empty lists of missing ones, for JSON.
func report1(r *check.Report) *check.Report {
	if r.Findings == nil {
		r.Findings = []check.Finding{}
	}
	if r.Blocks == nil {
		r.Blocks = []sweep.Stacking{}
	}
	return r
}

// stopped reports whether the user ended a check early.
func stopped(reports []*check.Report) bool {
	return len(reports) == 0 || reports[len(reports)-1].Stopped
}

// missingFonts finds the fonts that a site names and does not bring, once a site.
func (a *app) missingFonts(env *project.Project) []review.MissingFont {
	once, _ := a.missing.LoadOrStore(env,
		sync.OnceValue(func() []review.MissingFont { return review.MissingFonts(env) }))
	return once.(func() []review.MissingFont)()
}
