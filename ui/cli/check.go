package cli

import (
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"

	"github.com/spf13/cobra"

	"ziegel/core/audit"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/review"
	"ziegel/core/site"
	"ziegel/core/store"
	"ziegel/core/sweep"
	"ziegel/ui/report"
	"ziegel/ui/term"
)

func (a *app) checkCmd() *cobra.Command {
	var from, to, at int
	var list, suggest, apply, distances, reading, stress bool
	var file, since, part string
	var merge bool
	cmd := &cobra.Command{
		Use:   "check [PAGE|FILE]",
		Short: "Lay the page out at every width and say what breaks",
		Long: `Check lays the page out at every width from 240 to 2560 px and applies every
rule. Without an argument it checks all pages. The exit code is 1 when a finding
is an error.

What is meant so is accepted in ziegel.yaml, with a reason. It is listed and
counts no more:

  accept:
    - {rule: lone-item, at: home/plans, because: the team day is another thing}

A rule is tuned there in the same way, with another limit or severity:

  tune:
    - {rule: line-too-long, at: courses, limit: 100, because: the terms are set small}
    - {rule: seam, severity: note, because: our bands touch on purpose}`,
		Example: `  # everything on every page
  ziegel check

  # one page, for a script
  ziegel check home --json

  # what longer texts, other counts and larger letters break
  ziegel check home --stress

  # what changed since a report, or since the last commit
  ziegel check --since before.json
  ziegel check home --since HEAD

  # a report to look through, one for code review, one for CI
  ziegel check --report check.html
  ziegel check --report check.sarif
  ziegel check --report check.xml

  # a large site on several machines, then as one
  ziegel check --shard 2/8 --report part2.json
  ziegel check --merge part*.json --report all.sarif

  # the space between neighbours, and the page as it is read aloud
  ziegel check home --distances
  ziegel check home --reading --at 390

  # any HTML file
  ziegel check some/page.html

  # what would help: commands, each proved by another sweep
  ziegel check home --suggest
  ziegel check home --apply

  # what it looks for
  ziegel check --rules
  ziegel check --rules text-covered`,
		Args:              cobra.ArbitraryArgs,
		ValidArgsFunction: a.complete("page"),
		RunE: func(_ *cobra.Command, args []string) error {
			if list {
				return a.listRules(args)
			}
			if err := checkReportName(file); err != nil {
				return err
			}
			if err := a.mayWrite(file); err != nil {
				return err
			}
			if err := checkSpan(from, to); err != nil {
				return err
			}
			var pages []*audit.Subject
			if len(args) > 1 && !merge {
				return fmt.Errorf("check takes one page or file, or none for all pages; with --merge, the parts")
			}
			if len(args) == 1 && !merge {
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
			a.warnOfTheme(pages[0].Env)
			if distances || reading || suggest || apply || stress || strings.EqualFold(filepath.Ext(file), ".html") {
				if err := audit.PrepareAll(pages); err != nil {
					return err
				}
			}
			switch {
			case distances:
				return a.distances(pages, from, to)
			case reading:
				if err := checkSpan(at, at); err != nil {
					return fmt.Errorf("--at %d is no width: give 1 to 20000 CSS px", at)
				}
				return a.reading(pages, at)
			}
			for _, s := range pages {
				if s.Env == nil && (suggest || apply) {
					return errNoSiteToHeal
				}
			}
			a.fresh = suggest || apply || stress
			var before earlier
			if since != "" && len(pages) > 0 {
				var err error
				if before, err = a.earlier(since, pages, from, to); err != nil {
					return err
				}
			}
			var reports []*audit.Report
			var err error
			switch {
			case part != "":
				return a.shard(pages, part, file, from, to)
			case merge:
				reports, err = a.merged(pages, args, from, to)
			case apply:
				pages, reports, err = a.heal(pages, from, to)
			default:
				reports, err = a.auditAll(pages, from, to)
			}
			if err != nil {
				return err
			}
			if before != nil {
				return a.since(since, before, reports)
			}
			if stress {
				return a.stress(pages, reports, from, to)
			}
			if suggest && !apply {
				a.suggest(pages, reports, from, to)
			}
			if file != "" {
				if err := a.writeReport(file, pages, reports); err != nil {
					return err
				}
			}
			return a.check(pages, reports)
		},
	}
	spanFlags(cmd, &from, &to)
	cmd.Flags().BoolVar(&suggest, "suggest", false, "look for the smallest change that removes each finding, proved by another sweep")
	cmd.Flags().BoolVar(&apply, "apply", false, "make the proved changes, one after the other; undo takes each back")
	cmd.Flags().BoolVar(&distances, "distances", false, "list the space between neighbours, per range")
	cmd.Flags().BoolVar(&reading, "reading", false, "print the page as it is read aloud and tabbed through")
	cmd.Flags().IntVar(&at, "at", 1280, "screen width of --reading, CSS px")
	cmd.Flags().BoolVar(&stress, "stress", false, "sweep again with hostile content, large text and wide spacing")
	a.forceFlag(cmd)
	cmd.Flags().StringVar(&since, "since", "", "tell only what changed since a report (FILE.json) or a git commit")
	cmd.Flags().StringVar(&file, "report", "", "write a report: FILE.html, .json, .sarif or .xml (JUnit)")
	cmd.Flags().BoolVar(&list, "rules", false, "list the rules and what each finds")
	cmd.Flags().StringVar(&part, "shard", "", "check one of several parts of the site, such as 2/8, and write it with --report FILE.json")
	cmd.Flags().BoolVar(&merge, "merge", false, "put the parts together that --shard has written, as one check of the whole site")
	cmd.MarkFlagsMutuallyExclusive("distances", "reading", "suggest", "stress", "since", "rules", "shard", "merge")
	for _, other := range []string{"distances", "reading", "stress", "since", "shard", "merge"} {
		cmd.MarkFlagsMutuallyExclusive("apply", other)
	}
	return a.jsonFlag(cmd)
}

// listRules tells what rules look at: all of them, or those that are named.
func (a *app) listRules(named []string) error {
	all := audit.Rules()
	var names []string
	for _, r := range all {
		names = append(names, r.Name)
	}
	for _, n := range named {
		if !slices.Contains(names, n) {
			return diag.Unknown("rule", n, names, "")
		}
	}
	if len(named) > 0 {
		all = slices.DeleteFunc(all, func(r audit.Rule) bool { return !slices.Contains(named, r.Name) })
	}
	if a.json {
		return a.writeJSON(map[string]any{"rules": all})
	}
	for _, r := range all {
		a.say("%-18s  %s  %s", r.Name, a.style.Severity(r.Severity)+strings.Repeat(" ", max(0, 7-len(r.Severity))), a.style.Wrap(r.What, 29))
		a.say("%s", a.style.Dim(a.style.Wrap("    looks at "+r.Looks, 4)))
		if r.Not != "" {
			a.say("%s", a.style.Dim(a.style.Wrap("    not at   "+r.Not, 4)))
		}
	}
	return nil
}

// everyPage names all pages; they are laid out when that is needed.
func (a *app) everyPage() ([]*audit.Subject, error) {
	e, _, err := a.open()
	if err != nil {
		return nil, err
	}
	if len(e.Site.PageNames()) == 0 {
		return nil, fmt.Errorf("the site has no pages yet; `ziegel add home hero/beside` makes the first")
	}
	return pagesOf(e), nil
}

func pagesOf(e *compose.Env) []*audit.Subject {
	var list []*audit.Subject
	for _, n := range e.Site.PageNames() {
		list = append(list, &audit.Subject{Name: n, Env: e})
	}
	return list
}

// auditAll checks pages and sets aside what their site accepts. Entries that meet nothing are told when all pages
// were looked at.
func (a *app) auditAll(list []*audit.Subject, from, to int) ([]*audit.Report, error) {
	env := list[0].Env
	if env != nil {
		if err := audit.CheckAccepted(env.Site).Err(); err != nil {
			return nil, err
		}
	}
	reports, err := a.look(list, from, to)
	if err != nil || env == nil {
		return reports, err
	}
	return a.settled(list, reports, from, to)
}

// settled sets aside what the site accepts, and adds what only the whole site can tell.
func (a *app) settled(list []*audit.Subject, reports []*audit.Report, from, to int) ([]*audit.Report, error) {
	env := list[0].Env
	used := make([]bool, len(env.Site.Accepted))
	for _, r := range reports {
		r.Accept(env.Site.Accepted, used)
	}
	whole := len(reports) == len(env.Site.PageNames()) && !stopped(reports)
	if whole && !list[0].Past {
		reports = append(reports, audit.Unwritten(env, reports)...)
	}
	if whole && from <= sweep.DefaultFrom && to >= sweep.DefaultTo {
		reports[0].Findings = append(reports[0].Findings, audit.Unused(env.Site, used)...)
	}
	return reports, nil
}

// tunedBy lists the rules that the site of some pages tunes.
func tunedBy(list []*audit.Subject) []site.Tuned {
	if len(list) > 0 && list[0].Env != nil {
		return list[0].Env.Site.Tuned
	}
	return nil
}

func (a *app) check(list []*audit.Subject, reports []*audit.Report) error {
	var err error
	errors := 0
	for _, r := range reports {
		errors += r.Errors()
	}
	if a.json {
		err = a.writeJSON(jsonOf(reports))
		if err != nil {
			return err
		}
	} else {
		for _, r := range reports {
			if a.style.Terminal {
				a.grouped(r)
			} else {
				a.findings(r.Page, r.Findings)
			}
		}
		told := map[string]bool{} // once, however many widths it holds at
		for _, r := range reports {
			for _, f := range r.Accepted {
				line := fmt.Sprintf("accepted: %s: %s [%s]", a.style.Bold(report.Address(r.Page, f.Finding)), f.Because, f.Rule)
				if !told[line] {
					a.say("%s", line)
				}
				told[line] = true
			}
		}
		if tuned := tunedBy(list); len(tuned) > 0 {
			for _, t := range tuned {
				where := t.At
				if where == "" {
					where = "everywhere"
				}
				what := t.Severity
				if t.Limit != nil {
					what = strings.TrimPrefix(fmt.Sprintf("%s, limit %g", what, *t.Limit), ", ")
				}
				a.say("tuned: %s: %s: %s [%s]", a.style.Bold(where), what, t.Because, t.Rule)
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

// storeOf is where a site keeps its reports.
func storeOf(e *compose.Env) store.Store {
	return store.Store{Dir: filepath.Join(e.Site.Dir, ".ziegel", "cache"), Version: thisBuild()}
}

// thisBuild tells this program from any other one: what another one has kept may not be what this one would find.
var thisBuild = sync.OnceValue(func() string {
	id := version
	if file, err := os.Executable(); err == nil {
		if info, err := os.Stat(file); err == nil {
			id += fmt.Sprintf(" %d %d", info.Size(), info.ModTime().UnixNano())
		}
	}
	return id
})

// missingFonts finds the fonts that a site names and does not bring, once a site.
func (a *app) missingFonts(env *compose.Env) []review.MissingFont {
	once, _ := a.missing.LoadOrStore(env, sync.OnceValue(func() []review.MissingFont { return review.MissingFonts(env) }))
	return once.(func() []review.MissingFont)()
}

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

// grouped tells findings block by block, for a terminal: where each holds is drawn on a short ruler.
func (a *app) grouped(r *audit.Report) {
	block := "\x00"
	var last audit.Finding // what is behind several findings is told once
	for _, f := range report.Merge(report.ByBlock(r)) {
		if f.Block != block {
			block = f.Block
			title := a.style.Bold(r.Page)
			if block != "" {
				title = a.style.Bold(r.Page + "/" + block)
			}
			if f.Where != "" {
				title = a.style.Bold(r.Page + ": " + f.Where)
			}
			for _, b := range r.Blocks {
				if b.Name == block && b.Section != "" {
					title += a.style.Dim("  " + b.Section)
				}
			}
			a.say("%s", title)
		}
		head := fmt.Sprintf("  %s%s %s  %-10s ", a.style.Severity(f.Severity), strings.Repeat(" ", 8-len(f.Severity)), term.Strip(a.style, r.From, r.To, f.Spans), f.Widths())
		a.say("%s%s", head, a.style.Dim(f.Rule))
		a.say("%s", a.style.Wrap("      "+f.Text, 6))
		told := f.Finding
		if f.Block == last.Block && f.Rule == last.Rule && f.Part == last.Part {
			if f.Cause == last.Cause {
				told.Cause = ""
			}
			if f.Why == last.Why {
				told.Why = ""
			}
			if f.Cure == last.Cure {
				told.Cure = ""
			}
		}
		a.reasons(told, "      ")
		last = f.Finding
	}
}

func (a *app) findings(page string, list []audit.Finding) {
	for _, f := range report.Merge(list) {
		where := report.Address(page, f.Finding)
		widths := ""
		if w := f.Widths(); w != "" {
			widths = " at " + w
		}
		a.say("%s", a.style.Wrap(fmt.Sprintf("%s: %s%s: %s [%s]", a.style.Severity(f.Severity), a.style.Bold(where), widths, f.Text, f.Rule), 3))
		a.reasons(f.Finding, "   ")
	}
}

// reasons tells what is behind a finding and what would help.
func (a *app) reasons(f audit.Finding, indent string) {
	line := func(text string) { a.say("%s", a.style.Wrap(indent+text, len(indent)+7)) }
	if f.Cause != "" {
		a.say("%scause: %s", indent, f.Cause)
	}
	if f.Why != "" {
		line("why:   " + f.Why)
	}
	switch {
	case f.Proved && f.Cure != "":
		a.say("%scure:  %s", indent, a.style.Good(f.Cure)) // a command is never broken
	case f.Cure != "":
		line("try:   " + f.Cure)
	}
}

func (a *app) verdict(reports []*audit.Report) {
	text := report.Verdict(reports)
	word, rest, _ := strings.Cut(text, ":")
	switch word {
	case "fine":
		word = a.style.Good(word)
	case "found":
		word = a.style.Error(word)
	}
	a.say("%s:%s", word, rest)
}
