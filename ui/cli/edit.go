package cli

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/aymanbagabas/go-udiff"
	"github.com/spf13/cobra"

	"ziegel/core/check"
	"ziegel/core/diag"
	"ziegel/core/edit"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/store"
	"ziegel/core/words"
	"ziegel/ui/report"
)

// mostTries is how often an edit is worked out anew because a file was saved meanwhile by somebody else.
const mostTries = 4

// change runs an editing command: under the site's lock, journaled, and told with what moved.
func (a *app) change(dryRun bool, prepare func(p *edit.Plan) error) error {
	if a.language != "" {
		return errors.New("this changes the page files, which are in the first language: `ziegel words --language` changes translations")
	}
	dir, err := a.find()
	if err != nil {
		return err
	}
	for try := 1; ; try++ {
		p, after, err := a.commit(dir, dryRun, prepare)
		if errors.Is(err, site.ErrChanged) && try < mostTries {
			continue
		}
		if err != nil || after == nil || a.quiet { // nobody asks what moved
			return err
		}
		if p.Done != "" {
			a.answer("%s", p.Done)
		}
		a.matches(p.Matches)
		a.tellNotes(p.Notes)
		for _, f := range p.After {
			for _, n := range f(after) {
				a.answer("%s", a.style.Wrap(n, 3))
			}
		}
		done := a.pass("look what moved")
		a.moved(p.Store, p.Touched, words.In(p.Env, p.Language), words.In(after, p.Language))
		done()
		return nil
	}
}

// matches shows which picture was found for which entry of a table, to look over.
func (a *app) matches(list []edit.Match) {
	wide := 0
	for _, m := range list {
		wide = max(wide, len([]rune(m.Entry)))
	}
	for _, m := range list {
		a.answer("%s", strings.TrimRight(fmt.Sprintf("  %-*s  %-28s  %s", wide, m.Entry, m.File, m.How), " "))
	}
}

// tellNotes prints the notes of an edit.
func (a *app) tellNotes(notes []edit.Note) {
	for _, n := range notes {
		text := n.Text
		if n.Severity != "" {
			text = a.style.Severity(n.Severity) + ": " + text
		}
		if n.At != (diag.Position{}) {
			text = n.At.String() + ": " + text
		}
		a.answer("%s", text)
	}
}

// commit works an edit out and writes it, under the site's lock. It gives the site as it is afterwards, nil when
// nothing changes.
func (a *app) commit(dir string, dryRun bool,
	prepare func(p *edit.Plan) error) (*edit.Plan, *project.Project, error) {
	unlock, err := a.lock(dir)
	if err != nil {
		return nil, nil, err
	}
	defer unlock()
	done := a.pass("read the site")
	before, err := a.enter(dir)
	if done(); err != nil {
		return nil, nil, err
	}
	p := edit.New(before, storeOf(before))
	if err := prepare(p); err != nil {
		return nil, nil, err
	}
	done = a.pass("look for mistakes")
	changes, after, err := p.Work()
	if done(); err != nil {
		return nil, nil, err
	}
	if len(changes) == 0 {
		a.tellNotes(p.Notes)
		a.answer("nothing to change")
		return nil, nil, nil
	}
	if dryRun {
		var kept []string
		for _, c := range changes {
			if strings.HasPrefix(c.Path, project.KeptFolder+"/") { // long, and nobody's own words
				kept = append(kept, c.Path)
				continue
			}
			a.say("%s", strings.TrimSuffix(diff(c), "\n"))
		}
		if len(kept) > 0 {
			a.say("%s of what ships with the program: %s", diag.Plural(len(kept), "file"), strings.Join(kept, ", "))
		}
		return p, after, nil
	}
	defer a.pass("write")()
	return p, after, site.Commit(dir, "ziegel "+strings.Join(quoteArgs(a.args), " "), time.Now(), changes)
}

func quoteArgs(args []string) []string {
	out := make([]string, len(args))
	for i, s := range args {
		out[i] = s
		if strings.ContainsAny(s, " \"'$\n") {
			out[i] = "'" + strings.ReplaceAll(s, "'", `'\''`) + "'"
		}
	}
	return out
}

// moved answers what an edit did to the layout: arrangements that changed, findings that came or went.
func (a *app) moved(st store.Store, touched map[string][]string, before, after *project.Project) {
	pages, all := edit.Effects(st, touched, before, after)
	if all > len(pages) {
		a.answer("looked at %d of the %d pages that it reaches; `ziegel check` looks at all", len(pages), all)
	}
	var told []toldEffect
	var still []string
	var widths []int
	var fresh, gone []*check.Report
	for _, page := range pages {
		if page.Still {
			still, widths = append(still, page.Page), page.Widths
		}
		in, out := &check.Report{Page: page.Page}, &check.Report{Page: page.Page}
		for _, e := range page.Effects {
			switch e.Kind {
			case edit.NewFinding:
				in.Findings = append(in.Findings, *e.Finding)
			case edit.GoneFinding:
				out.Findings = append(out.Findings, *e.Before)
			default:
				told = tell(told, page.Page, a.effect(page.Page, e))
			}
		}
		fresh, gone = append(fresh, in), append(gone, out)
	}
	if len(still) > 0 {
		where := ""
		if len(pages) > 1 {
			where = " on " + diag.And(still)
		}
		a.answer("%s", a.style.Wrap(stillText(where, widths), 3))
	}
	for _, t := range told {
		a.answer("%s", a.style.Wrap(t.text(), 3))
	}
	a.tellFound("new %s: ", groups(after, fresh))
	a.tellFound("gone: ", groups(before, gone))
}

// tellFound tells findings that an edit raised or removed, a line for each, ten at most.
func (a *app) tellFound(word string, list []report.Group) {
	for i, g := range list {
		if i == mostTold && len(list) > mostTold+1 {
			a.answer("and %d more; `ziegel check --all` tells them", len(list)-i)
			return
		}
		head := word
		if strings.Contains(word, "%s") {
			head = fmt.Sprintf(word, a.style.Severity(g.Severity))
		}
		text := head + report.Address(g.Page, g.Finding) + ": " + g.Text
		if w := g.Widths(); w != "" {
			text += " at " + w
		}
		text += " [" + g.Rule + "]"
		if n := len(g.Also); n > 0 {
			names := g.Also
			if n > mostAlso+1 {
				names = append(slices.Clone(names[:mostAlso]), fmt.Sprintf("%d more", n-mostAlso))
			}
			text += "; also " + diag.And(names)
		}
		if len(g.Pages) > 0 {
			text += " (and on " + diag.And(g.Pages) + ")"
		}
		a.answer("%s", a.style.Wrap(text, 3))
	}
}

// toldEffect is what an edit did, on all pages where it did the same.
type toldEffect struct {
	said  string // with pageMark in the place of the page's name
	pages []string
}

// pageMark stands for the name of a page in the text of an effect: a character that no text has.
const pageMark = "\ufdd1"

// tell adds the text of an effect, to that of another page when it says the same.
func tell(list []toldEffect, page, text string) []toldEffect {
	for i := range list {
		if list[i].said == text && strings.Contains(text, pageMark) {
			if slices.Contains(list[i].pages, page) {
				return list
			}
			list[i].pages = append(list[i].pages, page)
			return list
		}
	}
	return append(list, toldEffect{text, []string{page}})
}

func (t toldEffect) text() string {
	text := strings.ReplaceAll(t.said, pageMark, t.pages[0])
	if len(t.pages) > 1 {
		text += " (and on " + diag.And(t.pages[1:]) + ")"
	}
	return text
}

// effect words one effect of an edit. pageMark stands for the page that it is on.
func (a *app) effect(page string, e edit.Effect) string {
	if block, ok := strings.CutPrefix(e.Where, page+"/"); ok {
		e.Where = pageMark + "/" + block
	}
	if e.Where == page {
		e.Where = pageMark
	}
	if block, ok := strings.CutPrefix(e.Where, page+"."); ok {
		e.Where = pageMark + "." + block
	}
	switch e.Kind {
	case edit.StacksNow:
		return fmt.Sprintf("%s stacks: %s", e.Where, spansText(e.Arrangements))
	case edit.StacksAnew:
		return fmt.Sprintf("%s moved: %s (was %s)", e.Where, spansText(e.Arrangements), spansText(e.Earlier))
	case edit.Shifted:
		return shiftsText(e)
	case edit.Mirrored:
		return mirroredText(e)
	case edit.Recolored, edit.Restyled:
		return redrawnText(e)
	case edit.TakesTurn:
		return fmt.Sprintf("%s takes its turn: %s %s (was %s)", e.Where, e.Choice, e.Now, e.Was)
	case edit.StandsTwice:
		return fmt.Sprintf("new %s: %s [twice]", a.style.Severity(diag.Warning), e.Now)
	}
	return fmt.Sprintf("%s now: %s (was%s)", a.style.Severity(e.Finding.Severity),
		findingLine(pageMark, *e.Finding), widthsOf(*e.Before))
}

// diff shows the changed lines of a file.
func diff(c site.FileChange) string {
	if !utf8.ValidString(c.Before) || !utf8.ValidString(c.After) { // a font: nobody reads its lines
		return fmt.Sprintf("--- %s\n+++ %s: %d kB\n", c.Path, c.Path, (len(c.After)+999)/1000)
	}
	out, err := udiff.ToUnified(c.Path, c.Path, c.Before, udiff.Strings(c.Before, c.After), 0)
	if err != nil {
		return err.Error()
	}
	return out
}

func dryRunFlag(cmd *cobra.Command, v *bool) {
	cmd.Flags().BoolVar(v, "dry-run", false, "show the change and its effect, write nothing")
}
