package cli

import (
	"crypto/rand"
	"errors"
	"fmt"
	"runtime"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"ziegel/core/check"
	"ziegel/core/comments"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/edit"
	"ziegel/core/parallel"
	"ziegel/core/project"
	"ziegel/core/store"
)

func (a *app) todoCmd() *cobra.Command {
	var done, open, reply int
	var answer, by string
	cmd := &cobra.Command{
		Use:   "todo [PAGE|PAGE/BLOCK]",
		Short: "What is left to do: samples, pictures, links, brief",
		Example: `  # for the whole site
  ziegel todo

  # for one page, for one block
  ziegel todo home
  ziegel todo home/voices

  # a client's comment is done, with an answer; one more to answer
  ziegel todo --done 3 --answer "It is 22 px now"
  ziegel todo --reply 4 --answer "Which of the two?"`,
		Args:              cobra.MaximumNArgs(1),
		ValidArgsFunction: a.complete("block"),
		RunE: func(_ *cobra.Command, args []string) error {
			if done+open+reply != 0 {
				return a.answerComment(args, max(done, open, reply),
					edit.Answer{By: by, Text: strings.TrimSpace(answer), Mark: markOf(done, open)})
			}
			if answer != "" {
				return errors.New("--answer answers a comment: say which with --done 3, --open 3 or --reply 3")
			}
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
	cmd.Flags().IntVar(&done, "done", 0, "the comment of this number is done")
	cmd.Flags().IntVar(&open, "open", 0, "the comment of this number is open again")
	cmd.Flags().IntVar(&reply, "reply", 0, "answer the comment of this number, which stays open")
	cmd.Flags().StringVar(&answer, "answer", "", "what the next review page says to it")
	cmd.Flags().StringVar(&by, "by", "", "who says it (default the site's name)")
	cmd.MarkFlagsMutuallyExclusive("done", "open", "reply")
	a.allFlag(cmd, "things")
	return a.jsonFlag(cmd)
}

// markOf gives the mark that a comment gets from two flags with its number.
func markOf(done, open int) string {
	switch {
	case done > 0:
		return "done"
	case open > 0:
		return "open"
	}
	return ""
}

// answerComment answers a client's comment, or marks it.
func (a *app) answerComment(args []string, number int, answer edit.Answer) error {
	switch {
	case len(args) > 0:
		return errors.New("a comment is named by its number alone: leave the page out")
	case number < 1:
		return errors.New("comments have numbers from 1 on; `ziegel todo` shows them")
	case answer.Mark == "" && answer.Text == "":
		return fmt.Errorf("--reply needs what is said: --answer %q", "…")
	}
	return a.change(false, func(p *edit.Plan) error {
		if answer.By == "" {
			answer.By = p.Env.Site.Name
		}
		return edit.AnswerComment(p, number, answer, time.Now(), annotationID)
	})
}

// annotationID makes the id of an annotation: a UUID of version 4 (RFC 9562, section 5.4).
func annotationID() string {
	var b [16]byte
	_, _ = rand.Read(b[:]) // it never fails
	b[6], b[8] = b[6]&0x0f|0x40, b[8]&0x3f|0x80
	return fmt.Sprintf("urn:uuid:%x-%x-%x-%x-%x", b[:4], b[4:6], b[6:8], b[8:10], b[10:])
}

// commentTasks are the comments that are open, by the page that they speak of. Those of pages that are gone are under
// the empty name.
func (a *app) commentTasks(e *project.Project, of []*check.Subject) map[string][]check.Finding {
	out := map[string][]check.Finding{}
	if e == nil {
		return out
	}
	files, err := comments.Kept(e.Dir)
	if err != nil {
		a.talkf("%s: %v", a.talk.Warning("warning"), err)
	}
	places := map[string]*comments.Page{}
	for _, t := range comments.Threads(files) {
		if t.Done {
			continue
		}
		f := check.Finding{Rule: "comment", Severity: diag.Note, Cure: fmt.Sprintf("ziegel todo --done %d", t.Number),
			Text: fmt.Sprintf("comment %d, %s%s: %s", t.Number, t.By(), day(t.Created), t.Body.Value)}
		for _, s := range t.Answers {
			f.Text += fmt.Sprintf(" | %s: %s", s.By, s.Text)
		}
		page := e.Site.Page(t.Target.Source)
		if page == nil {
			f.Text += fmt.Sprintf(" (of the page %s, which is gone)", t.Target.Source)
			out[""] = append(out[""], f)
			continue
		}
		if !slices.ContainsFunc(of, func(s *check.Subject) bool { return s.Name == page.Name }) {
			continue
		}
		if places[page.Name] == nil {
			if places[page.Name], err = placesOf(e, page); err != nil {
				places[page.Name] = &comments.Page{}
			}
		}
		found := places[page.Name].Find(t.Target)
		f.Block, f.Part, f.Item = found.Block, found.Part, found.Item
		if found.State != "" {
			f.Text += " (changed since: " + found.State + ")"
		}
		out[page.Name] = append(out[page.Name], f)
	}
	return out
}

// day gives the day of a time, in brackets.
func day(when string) string {
	t, err := time.Parse(time.RFC3339, when)
	if err != nil {
		return ""
	}
	return t.Format(" (2 January)")
}

// task is something that is left to do on a page.
type task struct {
	Page string `json:"page"`
	check.Finding
}

// tasksOf lists what is left to do on a page.
func tasksOf(s *check.Subject) []check.Finding {
	found := check.Unfinished(s.Prepared, s.Page, s.Problems)
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
	said := a.commentTasks(list[0].Env, list)
	listed := map[string][]check.Finding{}
	if e := list[0].Env; e != nil {
		listed = check.Results(e)
	}
	for i, s := range list {
		for _, f := range slices.Concat(said[s.Name], pages[i].Tasks, listed[s.Name]) {
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
	if len(list) > 1 || list[0].Block == "" {
		for _, f := range said[""] {
			tasks = append(tasks, task{"", f})
		}
	}
	if a.json {
		return a.writeJSON(map[string]any{"todo": tasks})
	}
	for _, t := range tasks {
		if t.Page == "" {
			a.say("%s: %s", a.style.Warning("note"), t.Text)
		}
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
