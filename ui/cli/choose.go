package cli

import (
	"errors"
	"fmt"
	"os"
	"strings"

	"github.com/charmbracelet/x/ansi"
	"github.com/mattn/go-isatty"

	"ziegel/core/compose"
	"ziegel/core/edit"
	"ziegel/core/library"
	"ziegel/core/measure"
	"ziegel/core/project"
	"ziegel/core/search"
	"ziegel/core/sweep"
	"ziegel/ui/term"
)

// errNoneChosen is what leaving the chooser means.
var errNoneChosen = errors.New("nothing chosen, nothing added")

// chooseSection lets somebody look through the library in the terminal. Without one the section has to be named.
func (a *app) chooseSection(where string) (string, error) {
	in, ok := a.stdin.(*os.File)
	if !ok || !isatty.IsTerminal(in.Fd()) || !a.talk.Terminal {
		return "", fmt.Errorf("name a section: ziegel add %s hero/beside; `ziegel sections` lists all (in a terminal, add lets you choose)", where)
	}
	e, _, err := a.open()
	if err != nil {
		return "", err
	}
	if _, _, err := edit.AddTarget(e, where); err != nil {
		return "", err
	}
	facts := search.All(e)
	c := term.Chooser{Title: "add to " + where, Style: a.talk}
	c.Search = func(words string) []term.Entry { return choices(e.Library, facts, words) }
	c.Draw = func(name string, width int) []string { return a.sectionDrawing(e, e.Library.Section(name), width) }
	name, ok, err := c.Choose(in, a.err)
	switch {
	case err != nil:
		return "", err
	case !ok:
		return "", errNoneChosen
	}
	return name, nil
}

// choices lists the sections that have all that words ask for, else the nearest with the wish that each misses.
func choices(lib *library.Library, facts map[string]search.Facts, words string) []term.Entry {
	var out []term.Entry
	if strings.TrimSpace(words) == "" {
		for _, s := range lib.All() {
			out = append(out, term.Entry{Name: s.Name})
		}
		return out
	}
	ranked := search.Search(lib, facts, words)
	if all := search.Meeting(ranked); len(all) > 0 {
		for _, m := range all {
			out = append(out, term.Entry{Name: m.Section.Name})
		}
		return out
	}
	for _, m := range ranked[:min(8, len(ranked))] {
		if !m.Nothing() {
			out = append(out, term.Entry{Name: m.Section.Name, Note: "no " + strings.Join(m.Missed, ", ")})
		}
	}
	if len(out) > 0 {
		return out
	}
	for _, s := range lib.All() { // a word that is not finished yet: parts of names do
		if strings.Contains(s.Name, strings.ToLower(strings.TrimSpace(words))) {
			out = append(out, term.Entry{Name: s.Name})
		}
	}
	return out
}

// sectionDrawing says what a section is and how it stacks, with outlines of it on a phone and on a desktop, in the
// theme of the site.
func (a *app) sectionDrawing(e *project.Project, s *library.Section, width int) []string {
	out := strings.Split(ansi.Wordwrap(s.Summary, width, ""), "\n")
	env, page := search.Alone(e, s)
	composed, problems := measure.Page(env, page, compose.Options{Marks: true})
	if problems.Err() != nil {
		return append(out, "", problems.Err().Error())
	}
	l, err := sweep.FromPage(env, composed)
	if err != nil {
		return append(out, "", err.Error())
	}
	if st := l.Map(sweep.DefaultFrom, sweep.DefaultTo, nil); len(st) > 0 {
		out = append(out, strings.Split(ansi.Wordwrap("stacks: "+spansText(st[0].Arrangements), width, ""), "\n")...)
	}
	if len(s.Options) > 0 {
		var names []string
		for _, o := range s.Options {
			names = append(names, o.Name)
		}
		out = append(out, strings.Split(ansi.Wordwrap("options: "+strings.Join(names, ", "), width, ""), "\n")...)
	}
	out = append(out, "")
	phone := max(18, min(28, width/4))
	desktop := width - phone - 3
	engine := l.Engine()
	outline := func(px, cols int) []string {
		if term.TrueColor(a.err, a.talk) {
			if lines := halfBlocks(l, px, l.Blocks[0].Name, cols-2); lines != nil {
				return append([]string{a.talk.Dim(fmt.Sprintf("%d px", px))}, lines...)
			}
		}
		boxes := l.Outline(engine.Layout(px))
		for i := range boxes {
			boxes[i].Block = s.Name
		}
		lines := term.Lines(px, cols-2, boxes)
		return append([]string{a.talk.Dim(fmt.Sprintf("%d px", px))}, lines...)
	}
	small := outline(390, phone)
	if desktop < 24 {
		return append(out, small...)
	}
	return append(out, term.Beside([][]string{small, outline(1280, desktop)}, phone+3)...)
}
