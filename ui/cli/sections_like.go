package cli

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"ziegel/core/address"
	"ziegel/core/compose"
	"ziegel/core/draw"
	"ziegel/core/library"
	"ziegel/core/measure"
	"ziegel/core/project"
	"ziegel/core/search"
	"ziegel/core/site"
	"ziegel/core/sweep"
	"ziegel/ui/term"
)

// mostLike is how many sections are told that are like a block.
const mostLike = 5

// likeBlock ranks what could stand in a block's place.
func (a *app) likeBlock(e *project.Project, like string, but []string, pictures bool) error {
	ad, err := address.Parse(like)
	if err != nil {
		return err
	}
	if ad, err = ad.In(e); err != nil {
		return err
	}
	_, b, err := address.FindBlock(e, ad)
	if err != nil {
		return err
	}
	changes := map[string]string{}
	for _, x := range but {
		name, value, ok := strings.Cut(x, "=")
		if !ok {
			return fmt.Errorf("--but takes what is to be different and how, such as picture=left; it takes %s",
				strings.Join(search.Changes, ", "))
		}
		changes[name] = value
	}
	facts := search.All(e)
	from := e.Library.Section(b.Section)
	list, err := search.Near(e.Library, facts, from, used(b.Content, ""), changes)
	if err != nil {
		return err
	}
	list = list[:min(mostLike, len(list))]
	if a.json {
		out := []any{}
		for _, l := range list {
			j := sectionJSON(l.Section)
			j["measured"], j["lost"], j["choose"] = facts[l.Section.Name], append([]string{}, l.Lost...), l.Options
			out = append(out, j)
		}
		return a.writeJSON(map[string]any{"like": like, "sections": out})
	}
	if len(list) == 0 {
		return fmt.Errorf("no section is like %s (%s) but with %s", like, from.Name, strings.Join(but, ", "))
	}
	for _, l := range list {
		more := ""
		for _, n := range slices.Sorted(keysOfMap(l.Options)) {
			more += "  (with options." + n + "=" + l.Options[n] + ")"
		}
		if len(l.Lost) > 0 {
			more += "  would not show " + strings.Join(l.Lost, ", ")
		}
		a.sectionLine(l.Section, more)
		if pictures {
			if err := a.showSection(e, l.Section); err != nil {
				return err
			}
		}
	}
	if next := list[0]; next.Section != from {
		a.answer("%s", a.style.Dim(fmt.Sprintf("see it there: ziegel try %s %s", like, next.Section.Name)))
	} else {
		a.answer("%s", a.style.Dim(fmt.Sprintf("the same section can: ziegel set %s options.%s", like,
			first(next.Options))))
	}
	return nil
}

func first(options map[string]string) string {
	for _, n := range slices.Sorted(keysOfMap(options)) {
		return n + "=" + options[n]
	}
	return ""
}

// used lists the fields that a block fills, those of entries as items.title.
func used(v *site.Value, before string) []string {
	var out []string
	add := func(name string) {
		if !slices.Contains(out, name) {
			out = append(out, name)
		}
	}
	if v == nil || v.Kind != site.Map {
		return nil
	}
	for _, x := range v.Entries {
		if x.Value.Empty() {
			continue
		}
		add(before + x.Key)
		if x.Value.Kind == site.List && before == "" {
			for _, item := range x.Value.Items {
				for _, name := range used(item, x.Key+".") {
					if name != x.Key+".label" && name != x.Key+".to" && name != x.Key+".look" {
						add(name)
					}
				}
			}
		}
	}
	return out
}

// sectionWidth is the width of screen at which sections are shown in a terminal, CSS px.
const sectionWidth = 1280

// showSection shows a section with its samples as a picture, as the terminal can; a terminal that cannot says so.
func (a *app) showSection(e *project.Project, s *library.Section) error {
	how := term.PicturesOf(a.stdin, a.out, a.style)
	if how == term.PicturesNone {
		return errors.New(
			"this terminal shows no pictures: leave --pictures out, or write a page to look through with `ziegel sections --page sections.html`",
		)
	}
	alone, page := search.Alone(e, s)
	composed, problems := measure.Page(alone, page, compose.Options{Marks: true})
	if err := problems.Err(); err != nil {
		return err
	}
	l, err := sweep.FromPage(alone, composed)
	if err != nil {
		return err
	}
	shot, err := draw.Of(l, sectionWidth, draw.Target{Block: "block"}, draw.Look{})
	if err != nil {
		return err
	}
	shot.Name = s.Name
	return a.showShot(how, shot)
}
