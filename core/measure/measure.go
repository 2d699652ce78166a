// Package measure makes pages whose styles ask how they sit. Sections have measured conditions (the links stand in one
// row, as many columns fit), and styles may follow an arrangement (stacked, alone in its row). It composes a page
// without them, lays it out, hands the widths that it found to compose, and lays the outcome out once more: a style
// that moves its own edge is an error. It is safe for concurrent use; the same site gives the same bytes.
package measure

import (
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/styles"
)

// Page composes a page of a site with all that its layout decides.
func Page(e *project.Project, p *site.Page, opts compose.Options) (*compose.Page, diag.Problems) {
	m, problems := Measure(e, p, opts.Only, opts.Sheet)
	if !opts.Marks { // boxes do not depend on it
		m.Pictures = pictures(e, p, m, opts)
	}
	opts.Measured = m
	out, ps := compose.Compose(e, p, opts)
	return out, append(ps, problems...).Sorted()
}

// Measure lays out the blocks of a page that ask for it; only, unless nil, names those that count. The outcome is
// kept from call to call as long as nothing that it follows from has changed.
func Measure(e *project.Project, p *site.Page, only []string, sheet *styles.Sheet) (*styles.Measured, diag.Problems) {
	m := &styles.Measured{Thresholds: map[string][]styles.Threshold{}, When: map[styles.When][]styles.Sits{},
		Grounds: map[string]*styles.Covered{}}
	follows := map[string][]styles.When{}
	for _, w := range styles.Follows(e, p) {
		follows[w.Block] = append(follows[w.Block], w)
	}
	var problems diag.Problems
	for _, b := range project.Wanted(e.All(p), only) {
		sec := e.Library.Section(b.Section)
		_, _, pictured := styles.HasGroundPicture(b)
		if sec == nil || len(sec.Measured) == 0 && len(follows[b.Name]) == 0 && !pictured {
			continue
		}
		one := &measuring{env: e, page: p, block: b, sec: sec, follows: follows[b.Name], sheet: sheet}
		found := one.run()
		if len(found.Thresholds) > 0 {
			m.Thresholds[b.Name] = found.Thresholds
		}
		if found.Covered != nil {
			m.Grounds[b.Name] = found.Covered
		}
		for w, sits := range found.When {
			m.When[w] = sits
		}
		problems = append(problems, found.problems...)
	}
	return m, problems
}
