package cli

import (
	"fmt"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/audit"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/sweep"
)

func (a *app) checkCmd() *cobra.Command {
	var from, to int
	var list, suggest, apply bool
	cmd := &cobra.Command{
		Use:   "check [PAGE|FILE]",
		Short: "Lay the page out at every width and say what breaks",
		Long: `Check lays the page out at every width from 240 to 2560 px and applies every
rule. Without an argument it checks all pages. The exit code is 1 when a finding
is an error.

What is meant so is accepted in ziegel.yaml, with a reason. It is listed and
counts no more:

  accept:
    - {rule: lone-item, at: home/plans, because: the team day is another thing}`,
		Example: `  # everything on every page
  ziegel check

  # one page, for a script
  ziegel check home --json

  # any HTML file
  ziegel check some/page.html

  # what would help: commands, each proved by another sweep
  ziegel check home --suggest
  ziegel check home --apply

  # what it looks for
  ziegel check --rules`,
		Args:              cobra.MaximumNArgs(1),
		ValidArgsFunction: a.complete("page"),
		RunE: func(_ *cobra.Command, args []string) error {
			if list {
				return a.listRules()
			}
			if err := checkSpan(from, to); err != nil {
				return err
			}
			var pages []*subject
			if len(args) == 1 {
				s, err := a.subject(args[0])
				if err != nil {
					return err
				}
				pages = append(pages, s)
			} else {
				var err error
				if pages, err = a.everyPage(); err != nil {
					return err
				}
			}
			for _, s := range pages {
				if s.env == nil && (suggest || apply) {
					return errNoSiteToHeal
				}
			}
			var reports []*audit.Report
			var err error
			if apply {
				pages, reports, err = a.heal(pages, from, to)
			} else {
				reports, err = a.auditAll(pages, from, to)
			}
			if err != nil {
				return err
			}
			if suggest && !apply {
				a.suggest(pages, reports, from, to)
			}
			return a.check(reports)
		},
	}
	spanFlags(cmd, &from, &to)
	cmd.Flags().BoolVar(&suggest, "suggest", false, "look for the smallest change that removes each finding, proved by another sweep")
	cmd.Flags().BoolVar(&apply, "apply", false, "make the proved changes, one after the other; undo takes each back")
	cmd.Flags().BoolVar(&list, "rules", false, "list the rules and what each finds")
	return a.jsonFlag(cmd)
}

func (a *app) listRules() error {
	if a.json {
		return a.writeJSON(map[string]any{"rules": audit.Rules()})
	}
	for _, r := range audit.Rules() {
		a.say("%-16s  %s  %s", r.Name, a.style.Severity(r.Severity)+strings.Repeat(" ", max(0, 7-len(r.Severity))), r.What)
	}
	return nil
}

// everyPage lays all pages out; mistakes of all of them are told at once.
func (a *app) everyPage() ([]*subject, error) {
	e, _, err := a.open()
	if err != nil {
		return nil, err
	}
	if len(e.Site.Pages) == 0 {
		return nil, fmt.Errorf("the site has no pages yet; `ziegel add home hero/beside` makes the first")
	}
	return pagesOf(e)
}

func pagesOf(e *compose.Env) ([]*subject, error) {
	var list []*subject
	var problems diag.Problems
	for _, p := range e.Site.Pages {
		page, ps := compose.Compose(e, p, compose.Options{Marks: true})
		problems = append(problems, audit.Blocking(ps)...)
		l, err := sweep.FromPage(e, page)
		if err != nil {
			return nil, err
		}
		list = append(list, &subject{laid: l, page: p, env: e, problems: ps})
	}
	return list, problems.Err()
}

// auditAll checks pages and sets aside what their site accepts. Entries that meet nothing are told when all pages were looked at.
func (a *app) auditAll(list []*subject, from, to int) ([]*audit.Report, error) {
	var reports []*audit.Report
	var used []bool
	w := a.working("looking at every width", len(list)*(to-from+1))
	defer w.end()
	for _, s := range list {
		w.watch(s.laid)
		if len(reports) > 0 && w.stopped.Load() {
			break
		}
		r := audit.Run(s.laid, s.page, s.problems, from, to)
		if s.env != nil {
			if err := audit.CheckAccepted(s.env.Site).Err(); err != nil {
				return nil, err
			}
			if used == nil {
				used = make([]bool, len(s.env.Site.Accepted))
			}
			r.Accept(s.env.Site.Accepted, used)
		}
		reports = append(reports, r)
	}
	if e := list[0].env; e != nil && len(reports) == len(e.Site.Pages) && !w.stopped.Load() && from <= sweep.DefaultFrom && to >= sweep.DefaultTo {
		reports[0].Findings = append(reports[0].Findings, audit.Unused(e.Site, used)...)
	}
	return reports, nil
}

func (a *app) check(reports []*audit.Report) error {
	var err error
	errors := 0
	for _, r := range reports {
		errors += r.Errors()
	}
	if a.json {
		if len(reports) == 1 {
			err = a.writeJSON(report1(reports[0]))
		} else {
			all := make([]*audit.Report, len(reports))
			for i, r := range reports {
				all[i] = report1(r)
			}
			err = a.writeJSON(map[string]any{"pages": all})
		}
		if err != nil {
			return err
		}
	} else {
		for _, r := range reports {
			a.findings(r.Page, r.Findings)
		}
		told := map[string]bool{} // once, however many widths it holds at
		for _, r := range reports {
			for _, f := range r.Accepted {
				line := fmt.Sprintf("accepted: %s: %s [%s]", a.style.Bold(addressOf(r.Page, f.Finding)), f.Because, f.Rule)
				if !told[line] {
					a.say("%s", line)
				}
				told[line] = true
			}
		}
		a.verdict(reports)
	}
	if errors > 0 {
		return errFindings
	}
	return nil
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

func (a *app) findings(page string, list []audit.Finding) {
	for _, f := range list {
		where := addressOf(page, f)
		widths := ""
		if f.To > 0 {
			widths = fmt.Sprintf(" at %d..%d", f.From, f.To)
			if f.From == f.To {
				widths = fmt.Sprintf(" at %d", f.From)
			}
		}
		a.say("%s", a.style.Wrap(fmt.Sprintf("%s: %s%s: %s [%s]", a.style.Severity(f.Severity), a.style.Bold(where), widths, f.Text, f.Rule), 3))
		if f.Cause != "" {
			a.say("   cause: %s", f.Cause)
		}
		switch {
		case f.Proved:
			a.say("   cure:  %s", a.style.Good(f.Cure)) // a command is never broken
		case f.Cure != "":
			a.say("%s", a.style.Wrap("   try:   "+f.Cure, 10))
		}
	}
}

// addressOf gives the address of what a finding is about.
func addressOf(page string, f audit.Finding) string {
	where := page
	if f.Block != "" {
		where += "/" + f.Block
	}
	if f.Part != "" && !strings.Contains(f.Part, ">") {
		where += "." + f.Part
		if f.Item > 0 {
			where += fmt.Sprintf("[%d]", f.Item)
		}
	}
	return where
}

func (a *app) verdict(reports []*audit.Report) {
	counts := map[diag.Severity]int{}
	widths, blocks := 0, 0
	for _, r := range reports {
		widths += r.To - r.From + 1
		blocks += len(r.Blocks)
		for _, f := range r.Findings {
			counts[f.Severity]++
		}
	}
	what := fmt.Sprintf("%d blocks at %d widths", blocks, widths/max(1, len(reports)))
	if len(reports) > 1 {
		what = fmt.Sprintf("%d pages, %s", len(reports), what)
	}
	if last := reports[len(reports)-1]; last.Stopped {
		a.say("stopped: %s was looked at from %d to %d only: %s, %s%s", last.Page, last.From, last.To, plural(counts[diag.Error], "error"), plural(counts[diag.Warning], "warning"), notes(counts[diag.Note]))
		return
	}
	if counts[diag.Error]+counts[diag.Warning] == 0 {
		a.say("%s: %s, nothing breaks%s", a.style.Good("fine"), what, notes(counts[diag.Note]))
		return
	}
	a.say("%s: %s, %s%s", a.style.Error("found"), what, plural(counts[diag.Error], "error")+", "+plural(counts[diag.Warning], "warning"), notes(counts[diag.Note]))
}

func notes(n int) string {
	if n == 0 {
		return ""
	}
	return ", " + plural(n, "note")
}

func plural(n int, word string) string {
	if n == 1 {
		return "1 " + word
	}
	return fmt.Sprintf("%d %ss", n, word)
}

func (a *app) todoCmd() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "todo [PAGE]",
		Short: "What is left to do: samples, pictures, links, brief",
		Example: `  # for the whole site
  ziegel todo

  # for one page
  ziegel todo home`,
		Args:              cobra.MaximumNArgs(1),
		ValidArgsFunction: a.complete("page"),
		RunE: func(_ *cobra.Command, args []string) error {
			var list []*subject
			var err error
			if len(args) == 1 {
				var s *subject
				s, err = a.subject(args[0])
				list = []*subject{s}
			} else {
				list, err = a.everyPage()
			}
			if err != nil {
				return err
			}
			return a.todo(list)
		},
	}
	return a.jsonFlag(cmd)
}

func (a *app) todo(list []*subject) error {
	type task struct {
		Page string `json:"page"`
		audit.Finding
	}
	tasks := []task{}
	seen := map[string]bool{}
	for _, s := range list {
		found := audit.Content(s.laid, s.page, s.problems)
		if s.page != nil && s.page.Description == "" {
			found = append(found, audit.Finding{Rule: "no-description", Severity: diag.Note, Text: "the page has no description for search results", Cure: fmt.Sprintf("ziegel set %s description=...", s.page.Name)})
		}
		if s.page != nil && s.page.Title == "" {
			found = append(found, audit.Finding{Rule: "no-title", Severity: diag.Note, Text: "the page has no title", Cure: fmt.Sprintf("ziegel set %s title=...", s.page.Name)})
		}
		for _, f := range found {
			key := f.Rule + f.Cause + f.Text
			if f.Rule == "not-modelled" || f.Rule == "brief" && f.Severity == diag.Note || seen[key] && f.Cause != "" {
				continue
			}
			seen[key] = true
			tasks = append(tasks, task{s.laid.Name, f})
		}
	}
	if a.json {
		return a.writeJSON(map[string]any{"todo": tasks})
	}
	for _, t := range tasks {
		a.findings(t.Page, []audit.Finding{t.Finding})
	}
	if len(tasks) == 0 {
		a.say("%s: nothing is left to do", a.style.Good("fine"))
	} else {
		a.say("%s left to do", plural(len(tasks), "thing"))
	}
	return nil
}
