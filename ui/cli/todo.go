package cli

import (
	"errors"
	"fmt"
	"runtime"
	"slices"

	"github.com/spf13/cobra"

	"ziegel/core/check"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/parallel"
	"ziegel/core/store"
)

func (a *app) todoCmd() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "todo [PAGE|PAGE/BLOCK]",
		Short: "What is left to do: samples, pictures, links, brief",
		Example: `  # for the whole site
  ziegel todo

  # for one page, for one block
  ziegel todo home
  ziegel todo home/voices`,
		Args:              cobra.MaximumNArgs(1),
		ValidArgsFunction: a.complete("block"),
		RunE: func(_ *cobra.Command, args []string) error {
			var list []*check.Subject
			var err error
			if len(args) == 1 {
				var s *check.Subject
				s, err = a.subject(args[0])
				list = []*check.Subject{s}
			} else {
				list, err = a.everyPage()
			}
			if err != nil {
				return err
			}
			return a.todo(list)
		},
	}
	a.allFlag(cmd, "things")
	return a.jsonFlag(cmd)
}

// task is something that is left to do on a page.
type task struct {
	Page string `json:"page"`
	check.Finding
}

// tasksOf lists what is left to do on a page.
func tasksOf(s *check.Subject) []check.Finding {
	found := check.Unfinished(s.Prepared, s.Page, s.Problems)
	if s.Page != nil && s.Page.Description == "" {
		found = append(found, check.Finding{Rule: "no-description", Severity: diag.Note,
			Text: "the page has no description for search results",
			Cure: fmt.Sprintf("ziegel set %s description=...", s.Page.Name)})
	}
	if s.Page != nil && s.Page.Title == "" {
		found = append(found, check.Finding{Rule: "no-title", Severity: diag.Note, Text: "the page has no title",
			Cure: fmt.Sprintf("ziegel set %s title=...", s.Page.Name)})
	}
	return slices.DeleteFunc(found, func(f check.Finding) bool {
		return f.Rule == "not-modelled" || f.Rule == "brief" && f.Severity == diag.Note
	})
}

// left is what is left to do on a page, kept from one time to the next.
type left struct {
	Tasks  []check.Finding
	Wishes int // lines of its brief
	Blocks []string
}

// leftOn tells what is left to do on pages, those that have not changed from memory.
func leftOn(list []*check.Subject) ([]left, error) {
	out := make([]left, len(list))
	work := func(s *check.Subject) left {
		x := left{Tasks: tasksOf(s)}
		if s.Page != nil {
			x.Wishes = len(s.Page.Brief)
		}
		for _, b := range s.Prepared.Every() {
			x.Blocks = append(x.Blocks, b.Name)
		}
		return x
	}
	if list[0].Env == nil || list[0].Prepared != nil {
		for i, s := range list {
			out[i] = work(s)
		}
		return out, nil
	}
	sources := compose.SourcesOf(list[0].Env, thisBuild())
	known := store.ReadKnown[left](storeOf(list[0].Env), "todo")
	keys := make([]string, len(list))
	var unknown []int
	for i, s := range list {
		keys[i] = sources.Key(s.Name)
		var ok bool
		if out[i], ok = known.Get(s.Name, keys[i]); !ok {
			unknown = append(unknown, i)
		}
	}
	errs := make([]error, len(list))
	parallel.Each(runtime.GOMAXPROCS(0), len(unknown), func(_, n int) bool {
		i := unknown[n]
		one := &check.Subject{Name: list[i].Name, Env: list[i].Env}
		if errs[i] = one.Prepare(); errs[i] == nil {
			out[i] = work(one)
		}
		return true
	})
	var problems diag.Problems
	for _, i := range unknown {
		var told diag.Problems
		switch {
		case errs[i] == nil:
			known.Put(list[i].Name, keys[i], out[i])
		case errors.As(errs[i], &told):
			problems = append(problems, told...)
		default:
			return nil, errs[i]
		}
	}
	known.Save(list[0].Env.Site.PageNames())
	return out, problems.Sorted().Err()
}

func (a *app) todo(list []*check.Subject) error {
	tasks := []task{}
	seen := map[string]bool{}
	pages, err := leftOn(list)
	if err != nil {
		return err
	}
	for i, s := range list {
		for _, f := range pages[i].Tasks {
			if s.Block != "" && f.Block != s.Block {
				continue
			}
			key := f.Rule + f.Cause.String() + f.Text
			if seen[key] && !f.Cause.IsZero() {
				continue
			}
			seen[key] = true
			tasks = append(tasks, task{s.Name, f})
		}
	}
	if a.json {
		return a.writeJSON(map[string]any{"todo": tasks})
	}
	reports := make([]*check.Report, len(list))
	for i, s := range list {
		reports[i] = &check.Report{Page: s.Name}
		for _, t := range tasks {
			if t.Page == s.Name {
				reports[i].Findings = append(reports[i].Findings, t.Finding)
			}
		}
	}
	told := groups(list[0].Env, reports)
	a.found(reports, told)
	a.tellRenamed(list[0].Env)
	changed := changedSince(list)
	for i, s := range list {
		if n := pages[i].Wishes; n > 0 && s.Block == "" {
			unmet := 0
			for _, t := range tasks {
				if t.Page == s.Name && t.Rule == "brief" {
					unmet++
				}
			}
			a.say("brief of %s: %d of %d met", s.Name, n-unmet, n)
		}
		for _, b := range pages[i].Blocks {
			if changed(s.Name)[b] && (s.Block == "" || s.Block == b) {
				a.say("not checked since it changed: %s/%s", s.Name, b)
			}
		}
	}
	if len(tasks) == 0 {
		a.say("%s: nothing is left to do", a.style.Good("fine"))
	} else {
		a.say("%s left to do", diag.Plural(len(told), "thing"))
	}
	return nil
}
