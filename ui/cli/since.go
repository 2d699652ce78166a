package cli

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"

	"ziegel/core/check"
	"ziegel/core/diag"
	"ziegel/core/site"
)

// earlier are the reports that a check is compared with, made when they are asked for.
type earlier func() (map[string]*check.Report, error)

// earlier finds what to compare with: a report in JSON, or the site as git has it at a commit, branch or tag. What is
// not there is told now, before anything is swept.
func (a *app) earlier(given string, list []*check.Subject, from, to int) (earlier, error) {
	if strings.EqualFold(filepath.Ext(given), ".json") {
		old, err := readReports(given)
		return func() (map[string]*check.Report, error) { return old, nil }, err
	}
	then, err := pagesAt(given, list)
	if errors.Is(err, errNoCommit) {
		err = fmt.Errorf("%w; a report is a file that ends in .json", err)
	}
	return func() (map[string]*check.Report, error) {
		out := map[string]*check.Report{}
		if len(then) == 0 {
			return out, nil
		}
		reports, err := a.auditAll(then, from, to)
		for _, r := range reports {
			out[r.Page] = r
		}
		return out, err
	}, err
}

// since compares a check with an earlier one.
func (a *app) since(given string, before earlier, reports []*check.Report) error {
	old, err := before()
	if err != nil {
		return err
	}
	var out []check.Difference
	for _, r := range reports {
		out = append(out, check.Compare(r.Page, old[r.Page], r))
	}
	fresh := 0
	for _, d := range out {
		for _, f := range d.New {
			if f.Severity == "error" {
				fresh++
			}
		}
	}
	if a.json {
		if err := a.writeJSON(map[string]any{"since": given, "pages": out}); err != nil {
			return err
		}
	} else {
		a.sayDifferences(given, out)
	}
	if fresh > 0 {
		return errFindings
	}
	return nil
}

func (a *app) sayDifferences(given string, list []check.Difference) {
	moved, fresh, gone := 0, 0, 0
	for _, d := range list {
		for _, m := range d.Moved {
			name := d.Page + "/" + m.Block
			if m.Part != "" {
				name += "." + m.Part
			}
			switch {
			case m.Was == nil:
				a.say("%s stacks: %s", name, spansText(m.Now))
			case m.Now == nil:
				a.say("%s is gone", name)
			default:
				a.say("%s moved: %s (was %s)", name, spansText(m.Now), spansText(m.Was))
			}
			moved++
		}
		for _, f := range d.New {
			a.say("%s", a.style.Wrap(fmt.Sprintf("new %s: %s", a.style.Severity(f.Severity),
				findingLine(d.Page, f)), 3))
			fresh++
		}
		for _, f := range d.Gone {
			a.say("%s", a.style.Wrap("gone: "+findingLine(d.Page, f), 3))
			gone++
		}
	}
	if moved+fresh+gone == 0 {
		a.say("%s: nothing has changed since %s", a.style.Good("same"), given)
		return
	}
	a.say("since %s: %s moved, %d new, %d gone", given, diag.Plural(moved, "arrangement"), fresh, gone)
}

// readReports reads what --report FILE.json wrote.
func readReports(file string) (map[string]*check.Report, error) {
	data, err := os.ReadFile(file)
	if err != nil {
		return nil, fmt.Errorf("read %s: %w; `ziegel check --report %s` writes one", file, diag.Bare(err), file)
	}
	var doc struct {
		check.Report
		Pages []*check.Report `json:"pages"`
	}
	if err := json.Unmarshal(data, &doc); err != nil || doc.Page == "" && doc.Pages == nil {
		return nil, fmt.Errorf("%s is no report of a check: `ziegel check --report FILE.json` writes one", file)
	}
	out := map[string]*check.Report{}
	for _, r := range doc.Pages {
		out[r.Page] = r
	}
	if doc.Page != "" {
		one := doc.Report
		out[one.Page] = &one
	}
	return out, nil
}

// errNoCommit is said of what was given for a commit and is none.
var errNoCommit = errors.New("nothing that git knows here")

// pagesAt lays the pages out as git has them. Media, sections and theme are those of today.
func pagesAt(ref string, list []*check.Subject) ([]*check.Subject, error) {
	env := list[0].Env
	if env == nil {
		return nil, fmt.Errorf("--since %s: an HTML file can be compared with a report: --since FILE.json", ref)
	}
	git := func(args ...string) ([]byte, error) {
		var stderr bytes.Buffer
		cmd := exec.Command("git", append([]string{"-C", env.Site.Dir}, args...)...)
		cmd.Stderr = &stderr
		out, err := cmd.Output()
		if err != nil {
			text, _, _ := strings.Cut(strings.TrimSpace(stderr.String()), "\n")
			if text == "" {
				text = err.Error()
			}
			return nil, fmt.Errorf("--since %s is %w: %s", ref, errNoCommit, strings.TrimPrefix(text, "fatal: "))
		}
		return out, nil
	}
	if strings.HasPrefix(ref, "-") {
		return nil, fmt.Errorf("--since %s: give a report or a commit", ref)
	}
	names, err := git("ls-tree", "-r", "--name-only", ref, "--", ".")
	if err != nil {
		return nil, err
	}
	var changes []site.FileChange
	had := map[string]bool{}
	for _, name := range strings.Fields(string(names)) {
		if name != site.FileName && (filepath.Dir(name) != "pages" || filepath.Ext(name) != ".yaml") {
			continue
		}
		text, err := git("show", ref+":./"+name)
		if err != nil {
			return nil, err
		}
		had[name] = true
		changes = append(changes, site.FileChange{Path: name, After: string(text)})
	}
	if !had[site.FileName] {
		return nil, fmt.Errorf("--since %s: there was no %s in this folder then", ref, site.FileName)
	}
	for _, n := range env.Site.PageNames() {
		if file := "pages/" + n + ".yaml"; !had[file] {
			changes = append(changes, site.FileChange{Path: file, Gone: true})
		}
	}
	before, problems, err := env.With(changes)
	if err != nil {
		return nil, err
	}
	if err := problems.Err(); err != nil {
		return nil, fmt.Errorf("the site as it was at %s has mistakes: %w", ref, err)
	}
	var then []*check.Subject
	for _, s := range list {
		if p := before.Site.Page(s.Name); p != nil {
			x, err := check.Lay(before, p, nil)
			if err != nil {
				return nil, err
			}
			x.Past = true
			then = append(then, x)
		}
	}
	return then, nil
}
