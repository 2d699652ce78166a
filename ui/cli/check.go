package cli

import (
	"errors"
	"fmt"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"ziegel/core/check"
	"ziegel/core/diag"
	"ziegel/core/site"
	"ziegel/ui/report"
)

func (a *app) checkCmd() *cobra.Command {
	o := &checking{}
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

  # one page, for a script; one block of it
  ziegel check home --json
  ziegel check home/plans

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
		RunE: func(cmd *cobra.Command, args []string) error {
			o.atGiven = cmd.Flags().Changed("at")
			return a.runCheck(o, args)
		},
	}
	spanFlags(cmd, &o.from, &o.to)
	cmd.Flags().BoolVar(&o.suggest, "suggest", false,
		"look for the smallest change that removes each finding, proved by another sweep")
	cmd.Flags().DurationVar(&o.within, "within", 20*time.Second,
		"how long --suggest may look, such as 5s or 2m; what is not reached is told")
	cmd.Flags().BoolVar(&o.apply, "apply", false, "make the proved changes, one after the other; undo takes each back")
	cmd.Flags().BoolVar(&o.distances, "distances", false, "list the space between neighbours, per range")
	cmd.Flags().BoolVar(&o.reading, "reading", false, "print the page as it is read aloud and tabbed through")
	cmd.Flags().IntVar(&o.at, "at", 1280, "screen width of --reading, CSS px")
	cmd.Flags().BoolVar(&o.stress, "stress", false, "sweep again with hostile content, large text and wide spacing")
	a.forceFlag(cmd)
	a.allFlag(cmd, "findings")
	cmd.Flags().StringVar(&o.since, "since", "", "tell only what changed since a report (FILE.json) or a git commit")
	cmd.Flags().StringVar(&o.file, "report", "", "write a report: FILE.html, .json, .sarif or .xml (JUnit)")
	cmd.Flags().StringVar(&o.picture, "draw", "",
		"draw what was found: FILE.png, .svg or .pdf, each in a frame where it is worst")
	cmd.Flags().BoolVar(&o.list, "rules", false, "list the rules and what each finds")
	cmd.Flags().StringVar(&o.part, "shard", "",
		"check one of several parts of the site, such as 2/8, and write it with --report FILE.json")
	cmd.Flags().BoolVar(&o.merge, "merge", false,
		"put the parts together that --shard has written, as one check of the whole site")
	cmd.MarkFlagsMutuallyExclusive("distances", "reading", "suggest", "stress", "since", "rules", "shard", "merge")
	for _, other := range []string{"distances", "reading", "stress", "since", "shard", "merge"} {
		cmd.MarkFlagsMutuallyExclusive("apply", other)
	}
	return a.jsonFlag(cmd)
}

// checking is what a check is asked for.
type checking struct {
	from, to, at                                            int
	suggest, apply, distances, reading, stress, list, merge bool
	within                                                  time.Duration // for --suggest
	picture                                                 string        // file of --draw
	atGiven                                                 bool
	since, file, part                                       string
}

// valid reports what of a request cannot be done, before anything is looked at.
func (o *checking) valid(a *app, args []string) error {
	if err := checkReportName(o.file); err != nil {
		return err
	}
	if err := a.mayWrite(o.file); err != nil {
		return err
	}
	if err := checkSpan(o.from, o.to); err != nil {
		return err
	}
	if o.atGiven && !o.reading {
		return errors.New("--at goes with --reading; --from and --to say at which widths a check looks")
	}
	if o.reading && checkSpan(o.at, o.at) != nil {
		return fmt.Errorf("--at %d is no width: give 1 to 20000 CSS px", o.at)
	}
	if len(args) > 1 && !o.merge {
		return errors.New("check takes one page or file, or none for all pages; with --merge, the parts")
	}
	return nil
}

// subjects gives the pages to look at: the one that is named, or all of the site.
func (o *checking) subjects(a *app, args []string) ([]*check.Subject, error) {
	if len(args) != 1 || o.merge {
		return a.everyPage()
	}
	s, err := a.subject(args[0])
	return []*check.Subject{s}, err
}

// needsAll reports a request that needs every page laid out, also those that are known.
func (o *checking) needsAll() bool {
	return o.distances || o.reading || o.suggest || o.apply || o.stress ||
		strings.EqualFold(filepath.Ext(o.file), ".html")
}

func (a *app) runCheck(o *checking, args []string) error {
	if o.list {
		return a.listRules(args)
	}
	if err := o.valid(a, args); err != nil {
		return err
	}
	pages, err := o.subjects(a, args)
	if err != nil {
		return err
	}
	a.warnOfTheme(pages[0].Env)
	if o.needsAll() || o.part != "" || o.merge || o.picture != "" {
		a.inOneLanguage(pages[0].Env)
	}
	if o.needsAll() {
		if err := check.PrepareAll(pages); err != nil {
			return err
		}
	}
	switch {
	case o.distances:
		return a.distances(pages, o.from, o.to)
	case o.reading:
		return a.reading(pages, o.at)
	}
	for _, s := range pages {
		if s.Env == nil && (o.suggest || o.apply) {
			return errNoSiteToHeal
		}
	}
	a.fresh = o.suggest || o.apply || o.stress
	var before earlier
	if o.since != "" {
		if before, err = a.earlier(o.since, pages, o.from, o.to); err != nil {
			return err
		}
	}
	var reports []*check.Report
	switch {
	case o.part != "":
		return a.shard(pages, o.part, o.file, o.from, o.to)
	case o.merge:
		reports, err = a.merged(pages, args, o.from, o.to)
	case o.apply:
		pages, reports, err = a.heal(pages, o.from, o.to)
	default:
		reports, err = a.auditAll(pages, o.from, o.to)
	}
	if err != nil {
		return err
	}
	for i, s := range pages {
		if s.Block != "" && i < len(reports) {
			reports[i].Narrow(s.Block)
		}
	}
	return a.answerCheck(o, pages, reports, before)
}

// answerCheck tells what was found in the way that was asked for.
func (a *app) answerCheck(o *checking, pages []*check.Subject, reports []*check.Report, before earlier) error {
	switch {
	case before != nil:
		return a.since(o.since, before, reports)
	case o.stress:
		return a.stress(pages, reports, o.from, o.to)
	case o.suggest && !o.apply:
		a.suggest(pages, reports, o.from, o.to, o.within)
	}
	if o.file != "" {
		if err := a.writeReport(o.file, pages, reports); err != nil {
			return err
		}
	}
	if o.picture != "" {
		if err := a.drawFound(o.picture, pages, reports); err != nil {
			return err
		}
	}
	return a.check(pages, reports)
}

// listRules tells what rules look at: all of them, or those that are named.
func (a *app) listRules(named []string) error {
	all := check.Rules()
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
		all = slices.DeleteFunc(all, func(r check.Rule) bool { return !slices.Contains(named, r.Name) })
	}
	if a.json {
		return a.writeJSON(map[string]any{"rules": all})
	}
	for _, r := range all {
		a.say("%-18s  %s  %s", r.Name, a.style.Severity(r.Severity)+strings.Repeat(" ", max(0, 7-len(r.Severity))),
			a.style.Wrap(r.What, 29))
		a.say("%s", a.style.Dim(a.style.Wrap("    looks at "+r.Looks, 4)))
		if r.Not != "" {
			a.say("%s", a.style.Dim(a.style.Wrap("    not at   "+r.Not, 4)))
		}
	}
	return nil
}

// check tells what was found. The exit code is that of findings when one is an error.
func (a *app) check(list []*check.Subject, reports []*check.Report) error {
	if a.json {
		if err := a.writeJSON(jsonOf(reports)); err != nil {
			return err
		}
	} else {
		told := groups(list[0].Env, reports)
		a.found(reports, told)
		a.tellRenamed(list[0].Env)
		a.accepted(reports)
		a.tuned(tunedBy(list))
		a.verdict(reports, told)
	}
	for _, r := range reports {
		if r.Errors() > 0 {
			return errFindings
		}
	}
	return nil
}

// accepted tells what the site accepts, once, however many widths it holds at.
func (a *app) accepted(reports []*check.Report) {
	told := map[string]bool{}
	for _, r := range reports {
		for _, f := range r.Accepted {
			line := fmt.Sprintf("accepted: %s: %s [%s]", a.style.Bold(report.Address(r.Page, f.Finding)),
				f.Because, f.Rule)
			if !told[line] {
				a.say("%s", line)
			}
			told[line] = true
		}
	}
}

// tuned tells which rules the site has tuned.
func (a *app) tuned(list []site.Tuned) {
	for _, t := range list {
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
