package cli

import (
	"fmt"

	"ziegel/core/check"
	"ziegel/core/diag"
	"ziegel/core/stress"
	"ziegel/core/sweep"
	"ziegel/ui/report"
)

// stress sweeps pages with hostile content and tells what that breaks.
func (a *app) stress(list []*check.Subject, reports []*check.Report, from, to int) error {
	type doc struct {
		Page   string            `json:"page"`
		From   int               `json:"from"`
		To     int               `json:"to"`
		Stress []stress.Strained `json:"stress"`
	}
	names, _ := stress.Strains()
	w := a.working("hostile content", len(reports)*len(names)*(to-from+1))
	defer w.end()
	docs := []doc{}
	errors := 0
	for i, r := range reports {
		s := list[i]
		if s.Env == nil {
			return fmt.Errorf("--stress fills the fields of a site's pages; an HTML file has none")
		}
		d := doc{r.Page, from, to, stress.Stress(s.Env, s.Page, r, sweep.Widths{From: from, To: to}, w.step)}
		docs = append(docs, d)
		for _, st := range d.Stress {
			for _, f := range st.Findings {
				if f.Severity == diag.Error {
					errors++
				}
			}
		}
		if w.stopped.Load() {
			break
		}
	}
	w.end()
	if a.json {
		if err := a.writeJSON(map[string]any{"pages": docs}); err != nil {
			return err
		}
	} else {
		a.sayStress(w.stopped.Load(), func(visit func(page string, st stress.Strained)) {
			for _, d := range docs {
				for _, st := range d.Stress {
					visit(d.Page, st)
				}
			}
		})
	}
	if errors > 0 {
		return errFindings
	}
	return nil
}

func (a *app) sayStress(stopped bool, each func(func(string, stress.Strained))) {
	kinds, broken := 0, 0
	each(func(page string, st stress.Strained) {
		kinds++
		if len(st.Findings) == 0 {
			a.say("%s: %s %s: nothing breaks", a.style.Good("fine"), a.style.Bold(page), st.What)
			return
		}
		broken++
		first := ""
		if st.Breaks > 0 && st.Breaks < 1 {
			first = fmt.Sprintf("; begins at %.0f %% of it, with %s", st.Breaks*100, st.First)
		}
		a.say("%s: %s %s: %s%s", a.style.Error("breaks"), a.style.Bold(page), st.What,
			diag.Plural(len(st.Findings), "finding"), first)
		for _, f := range st.Findings {
			a.say("%s", a.style.Wrap(fmt.Sprintf("   %s: %s%s: %s [%s]", a.style.Severity(f.Severity),
				a.style.Bold(report.Address(page, f)), widthsOf(f), f.Text, f.Rule), 6))
			if f.Why != "" {
				a.say("%s", a.style.Wrap("      why: "+f.Why, 11))
			}
		}
	})
	verdict := fmt.Sprintf("%d of %s of stress break something", broken, diag.Plural(kinds, "kind"))
	if stopped {
		verdict = "stopped: " + verdict
	}
	a.say("%s", verdict)
}
