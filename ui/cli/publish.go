package cli

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"ziegel/core/build"
	"ziegel/core/check"
	"ziegel/core/diag"
	"ziegel/core/project"
	"ziegel/core/publish"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

func (a *app) publishCmd() *cobra.Command {
	var list, back, dry, over bool
	var state string
	cmd := &cobra.Command{
		Use:   "publish PLACE",
		Short: "Put the built site where it is read, with a way back",
		Long: `Publish builds the site, shows what decides, and sends what has changed to a place
that ziegel.yaml names:

  places:
    live: "sftp://ines@host/var/www/site"
    near: "folder:../out"
    drive: "webdav:https://ines@host/sites/site"
    pages: "git:git@host:site.git#pages"
    file: "archive:../site.zip"

Errors and warnings of the check, samples, missing descriptions, links to nowhere,
weight over the budget (budget: {page: 300 kB}), open comments and blocks that
nobody has looked at since they changed stop it, unless each is accepted with a
reason (accept: in ziegel.yaml). What readers see changes in one step: after a cut,
a full disk or a kill it is what it was, and the next run goes on. Ten states stay.`,
		Example: `  # what decides, and nothing sent
  ziegel publish live --dry-run

  ziegel publish live

  # what was published there; the state before, or that one
  ziegel publish live --list
  ziegel publish live --back
  ziegel publish live --back --state 2026-03-01T12-00-00Z`,
		Args: cobra.ExactArgs(1),
		RunE: func(_ *cobra.Command, args []string) error {
			dir, err := a.find()
			if err != nil {
				return err
			}
			e, err := a.enter(dir)
			if err != nil {
				return err
			}
			target, err := placeNamed(e, args[0], over)
			if err != nil {
				return err
			}
			ctx := context.Background()
			switch {
			case list && back:
				return errors.New("--list shows the states, --back goes to one: say one of them")
			case a.json && !list:
				return errors.New("--json goes with --list")
			case state != "" && !back:
				return errors.New("--state says where --back goes to")
			case list:
				return a.listStates(ctx, target, args[0])
			case back:
				s, err := target.Back(ctx, state)
				if err != nil {
					return err
				}
				a.answer(
					"%s shows the state %s again (%s, %s)",
					args[0],
					s.ID,
					diag.Plural(len(s.Files), "file"),
					s.Verdict,
				)
				return nil
			}
			return a.publish(ctx, dir, args[0], target, dry)
		},
	}
	a.nowFlag(cmd)
	cmd.Flags().BoolVar(&list, "list", false, "what was published there, with date and verdict")
	cmd.Flags().BoolVar(&back, "back", false, "the state before is seen again")
	cmd.Flags().StringVar(&state, "state", "", "with --back: this state, one that --list shows")
	cmd.Flags().BoolVar(&over, "over", false, "publish over a branch that somebody else has changed")
	dryRunFlag(cmd, &dry)
	return a.jsonFlag(cmd)
}

// placeNamed finds a place of the site.
func placeNamed(e *project.Project, name string, over bool) (publish.Target, error) {
	var names []string
	for _, p := range e.Site.Places {
		names = append(names, p.Name)
		if p.Name != name {
			continue
		}
		place, err := publish.ParsePlace(p.Name, p.Text)
		if err == nil {
			var target publish.Target
			if target, err = publish.Open(place, e.Site.Dir, filepath.Join(e.Site.Dir, ".ziegel", "cache"),
				over); err == nil {
				return target, nil
			}
		}
		return nil, diag.Problems{
			e.Site.File.Problem(
				p.Node,
				"wrong-place",
				err.Error(),
				"sftp://USER@HOST/DIR, webdav:https://USER@HOST/DIR, folder:DIR, git:REPOSITORY#BRANCH or archive:FILE.zip",
				"",
			),
		}
	}
	if len(names) == 0 {
		return nil, fmt.Errorf("the site names no places yet: places: {%s: folder:../out} in ziegel.yaml", name)
	}
	return nil, diag.Unknown("place", name, names, "")
}

func (a *app) listStates(ctx context.Context, target publish.Target, name string) error {
	states, err := target.States(ctx)
	if err != nil {
		return err
	}
	if a.json {
		out := []any{}
		for _, s := range states {
			out = append(
				out,
				map[string]any{
					"state":   s.ID,
					"time":    s.Time,
					"verdict": s.Verdict,
					"files":   len(s.Files),
					"bytes":   s.Bytes,
					"current": s.Current,
				},
			)
		}
		return a.writeJSON(map[string]any{"place": name, "states": out})
	}
	if len(states) == 0 {
		a.say("nothing was published to %s yet", name)
	}
	for _, s := range states {
		seen := ""
		if s.Current {
			seen = a.style.Good("  is seen")
		}
		a.say("%s  %s, %s: %s%s", s.ID, diag.Plural(len(s.Files), "file"), inBytes(int(s.Bytes)), s.Verdict, seen)
	}
	return nil
}

// decider is one line of what decides.
type decider struct {
	what, none string
	rules      []string
	found      []check.Finding
}

// deciders are the lines, in the order of their weight; the last one takes what the others leave.
func deciders() []*decider {
	return []*decider{
		{what: "sample content", none: "none left", rules: []string{"sample-content"}},
		{
			what: "titles and descriptions",
			none: "every page has them",
			rules: []string{"no-description", "no-title", "missing-alt", "same-title", "same-description", "long-title",
				"long-description"},
		},
		{
			what:  "links and forms to nowhere",
			none:  "none",
			rules: []string{"dead-link", "form-nowhere", "frame-nowhere", "film-nowhere", "missing-file"},
		},
		{what: "weight", none: "within the budget", rules: []string{"page-heavy"}},
		{what: "changed and not looked at", none: "nothing", rules: []string{"not-looked-at"}},
		{what: "open comments", none: "none", rules: []string{"comment"}},
		{what: "errors and warnings", none: "none at any width"},
	}
}

// stops reports whether a finding stops publishing: errors and warnings do, and notes of the lines above.
func (d *decider) takes(f check.Finding) bool {
	if len(d.rules) == 0 {
		return f.Severity == diag.Error || f.Severity == diag.Warning
	}
	return slices.Contains(d.rules, f.Rule)
}

// publish builds, decides and sends.
func (a *app) publish(ctx context.Context, dir, name string, target publish.Target, dry bool) error {
	unlock, err := a.lock(dir)
	if err != nil {
		return err
	}
	defer unlock()
	e, err := a.enter(dir)
	if err != nil {
		return err
	}
	pages := pagesOf(e)
	changed := changedSince(pages) // before the check below looks at them
	unseen := map[string][]string{}
	for _, s := range pages {
		for b := range changed(s.Name) {
			unseen[s.Name] = append(unseen[s.Name], b)
		}
		slices.Sort(unseen[s.Name])
	}
	o, err := a.build(e, dir, build.Options{})
	if err != nil {
		return err
	}
	if wrong := o.problems.Err(); wrong != nil {
		a.tell(wrong)
		a.answer("nothing was published: the site cannot be built")
		return errFindings
	}
	if len(o.written.Kept) > 0 {
		return fmt.Errorf(
			"built/%s was changed by hand: what is published is what was built; `ziegel build --force` builds it anew",
			o.written.Kept[0],
		)
	}
	reports, err := a.auditAll(pages, sweep.DefaultFrom, sweep.DefaultTo)
	if err != nil {
		return err
	}
	reports = append(reports, a.beforehand(e, pages, unseen, o)...)
	lines := deciders()
	var accepted []string
	for _, r := range reports {
		for _, f := range r.Accepted {
			accepted = append(accepted, f.Rule+": "+f.Because)
		}
		for _, f := range r.Findings {
			for _, d := range lines {
				if d.takes(f) {
					d.found = append(d.found, f)
					break
				}
			}
		}
	}
	a.tellUntil(e)
	verdict, red := a.decide(lines, e, accepted)
	if red {
		a.answer(
			"nothing was published; mend it, or accept it singly: accept: [{rule: ..., at: home/plans, because: ...}] in ziegel.yaml",
		)
		return errFindings
	}
	if dry {
		a.answer("%s would be published to %s", diag.Plural(len(o.files), "file"), name)
		return nil
	}
	done := a.pass("publish")
	begun := time.Now()
	source := sourceOf(dir, o)
	if e.Site.Host.Hashed {
		if source, err = publish.Hashed(source, e.Site.Address, site.Hashable); err != nil {
			return err
		}
	}
	sent, err := target.Publish(ctx, source, begun, verdict)
	if done(); err != nil {
		return err
	}
	if sent.Tidied > 0 {
		a.answer("an attempt that did not end had left something there; it is gone")
	}
	if sent.Nothing {
		a.answer("nothing has changed since it was published: %s shows the state %s", name, sent.State.ID)
		return nil
	}
	a.answer(
		"published to %s: %s sent, %d as they were, %d gone, in %d ms; the state is %s",
		name,
		diag.Plural(len(sent.Changed), "file"),
		sent.Same,
		sent.Gone,
		time.Since(begun).Milliseconds(),
		sent.State.ID,
	)
	for _, m := range sent.Mended {
		a.answer(
			"%s: %s had been changed there since; it is as it was built again, and the state %s keeps the other",
			a.style.Warning("note"),
			m,
			sent.Back,
		)
	}
	if sent.Back != "" {
		a.answer("%s", a.style.Dim("the way back: ziegel publish "+name+" --back"))
	}
	return nil
}

// beforehand finds what only publishing asks for, as reports that the site may accept singly.
func (a *app) beforehand(
	e *project.Project,
	pages []*check.Subject,
	unseen map[string][]string,
	o *outcome,
) []*check.Report {
	said, listed := a.commentTasks(e, pages), check.Results(e)
	var out []*check.Report
	for _, s := range pages {
		r := &check.Report{Page: s.Name, Findings: slices.Concat(said[s.Name], listed[s.Name])}
		add := func(f check.Finding) { r.Findings = append(r.Findings, f) }
		for _, b := range unseen[s.Name] {
			add(
				check.Finding{
					Rule:     "not-looked-at",
					Severity: diag.Note,
					Block:    b,
					Text:     "it has changed since the last check: look at it",
				},
			)
		}
		if w := o.weights[s.Name]; e.Site.PageBudget > 0 && w > e.Site.PageBudget {
			add(check.Finding{Rule: "page-heavy", Severity: diag.Error,
				Text: fmt.Sprintf(
					"it is %s with its styles and fonts, and the budget %s",
					inBytes(w),
					inBytes(e.Site.PageBudget),
				)})
		}
		r.Accept(e.Site.Accepted, make([]bool, len(e.Site.Accepted)))
		for i := range r.Findings {
			r.Findings[i].Text = s.Name + at(r.Findings[i]) + ": " + r.Findings[i].Text
		}
		out = append(out, r)
	}
	return append(out, &check.Report{Findings: said[""]})
}

// tellUntil says when whom to write to about holes holds no longer, or not much longer.
func (a *app) tellUntil(e *project.Project) {
	until, err := time.Parse(time.DateOnly, e.Site.Host.Until)
	if err != nil {
		return
	}
	switch left := time.Until(until); {
	case left < 0:
		a.talkf("%s: security.txt holds up to %s, which is past: until: in ziegel.yaml", a.talk.Warning("warning"),
			e.Site.Host.Until)
	case left < 30*24*time.Hour:
		a.talkf("%s: security.txt holds up to %s: until: in ziegel.yaml", a.talk.Warning("note"), e.Site.Host.Until)
	}
}

func at(f check.Finding) string {
	if f.Block == "" {
		return ""
	}
	return "/" + f.Block
}

// mostDecided is how many of a line's findings are told.
const mostDecided = 3

// decide tells what decides, and gives the verdict in words and whether something stops it.
func (a *app) decide(lines []*decider, e *project.Project, accepted []string) (verdict string, red bool) {
	for _, d := range lines {
		if len(d.found) == 0 {
			a.answer("  %s %-28s%s", a.style.Good("ok"), d.what, a.style.Dim(d.none))
			continue
		}
		red = true
		a.answer("  %s %-28s%d", a.style.Error("no"), d.what, len(d.found))
		for i, f := range d.found {
			if i == mostDecided {
				a.answer("       %s", a.style.Dim(fmt.Sprintf("and %d more", len(d.found)-mostDecided)))
				break
			}
			a.answer("       %s", strings.SplitN(f.Text, "\n", 2)[0])
		}
	}
	verdict = "fine"
	if n := len(accepted); n > 0 {
		verdict = "fine, " + diag.Plural(n, "thing") + " accepted"
		slices.Sort(accepted)
		a.answer("  accepted: %s", strings.Join(slices.Compact(accepted), "; "))
	}
	if len(e.Site.Hosts) > 0 {
		a.answer("  hosts that pages may ask: %s", strings.Join(e.Site.Hosts, ", "))
	}
	return verdict, red
}

// sourceOf gives the built files.
func sourceOf(dir string, o *outcome) publish.Source {
	built := filepath.Join(dir, "built")
	return publish.Source{Names: o.files.Names(), Read: func(name string) ([]byte, error) {
		if data, ok := o.files.Read(name); ok {
			return data, nil
		}
		return os.ReadFile(filepath.Join(built, filepath.FromSlash(name)))
	}}
}
