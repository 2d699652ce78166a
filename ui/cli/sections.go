package cli

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"github.com/spf13/cobra"

	"ziegel/core/build"
	"ziegel/core/check"
	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/search"
	"ziegel/core/stress"
)

func (a *app) sectionsCmd() *cobra.Command {
	var page, like string
	var but []string
	var pictures bool
	cmd := &cobra.Command{
		Use:   "sections [WORDS | KIND/NAME]",
		Short: "Browse and search the library of sections",
		Long: `Sections lists the library by kind. Words narrow it: kinds, sides of the picture,
numbers of columns, entries and buttons, form, icons, slides, what stands in it
(price, date, quote, logo, video), moods (loud, calm, dense, airy, picture-led) and
anything that a section says of itself. What they ask for is measured in the
laid-out section. --like ranks the others by how near they come to a block.`,
		Example: `  # all of them
  ziegel sections

  # search
  ziegel sections picture left two buttons
  ziegel sections 3 plans
  ziegel sections opening, no picture

  # by look and by what stands in them
  ziegel sections loud hero
  ziegel sections calm, price, no picture --pictures

  # what could stand in a block's place, and what it would not show
  ziegel sections --like home/plans --but columns=4
  ziegel sections --like home/opening --but picture=left

  # fields, options, parts and measures of one
  ziegel sections pricing/plans

  # a page to look through
  ziegel sections --page sections.html`,
		ValidArgsFunction: a.complete("section"),
		RunE: func(_ *cobra.Command, args []string) error {
			e, err := a.shelf()
			if err != nil {
				return err
			}
			lib := e.Library
			if page != "" {
				return a.catalogue(e, page)
			}
			if like != "" {
				return a.likeBlock(e, like, but, pictures)
			}
			if len(but) > 0 {
				return errors.New("--but says what is to be different from a block: name it with --like home/plans")
			}
			if len(args) == 1 {
				if s := lib.Section(args[0]); s != nil {
					return a.oneSection(e, s)
				}
				if strings.Contains(args[0], "/") {
					return diag.Unknown("section", args[0], lib.Names(), "")
				}
			}
			words := strings.Join(args, " ")
			if words != "" {
				return a.findSections(e, words, pictures)
			}
			if a.json {
				out := []any{}
				for _, s := range lib.All() {
					out = append(out, sectionJSON(s))
				}
				return a.writeJSON(map[string]any{"sections": out, "missing": search.Missing(lib)})
			}
			kind := ""
			for _, s := range lib.All() {
				if s.Kind != kind {
					kind = s.Kind
					a.say("%s", a.style.Bold(kind))
				}
				a.sectionLine(s, a.usedBy(e, s))
			}
			missing := search.Missing(lib)
			for i, kind := range missing {
				if instead := search.Instead[kind]; instead != "" {
					missing[i] += " (" + instead + " comes near)"
				}
			}
			if len(missing) > 0 {
				a.say("%s", a.style.Dim("usual kinds that are not here: "+strings.Join(missing, ", ")))
			}
			return nil
		},
	}
	cmd.Flags().StringVar(&page, "page", "", "write a catalogue to look through: one HTML file in the site's theme")
	cmd.Flags().StringVar(&like, "like", "", "a block: rank the sections that could stand in its place")
	cmd.Flags().
		StringArrayVar(&but, "but", nil,
			"what is to be different from it: picture=left, columns=4, mood=calm (repeatable)")
	cmd.Flags().BoolVar(&pictures, "pictures", false, "show each as a picture, in terminals that can")
	a.forceFlag(cmd)
	cmd.AddCommand(a.sectionsCheckCmd(), a.sectionsComposeCmd())
	return a.jsonFlag(cmd)
}

// catalogue writes one self-contained page with every section.
func (a *app) catalogue(e *project.Project, file string) error {
	text, problems := build.Catalogue(e, search.All(e))
	if err := problems.Err(); err != nil {
		return err
	}
	if err := a.save(file, []byte(text)); err != nil {
		return err
	}
	a.answer("%s in the theme %s: %s (%.1f MB)", diag.Plural(len(e.Library.All()), "section"), e.Theme.Name, file,
		float64(len(text))/1e6)
	return nil
}

// findSections lists what meets every wish, or the nearest three and what each of them misses.
func (a *app) findSections(e *project.Project, words string, pictures bool) error {
	facts := search.All(e)
	list := search.Search(e.Library, facts, words)
	met := search.Meeting(list)
	if a.json {
		out := []any{}
		for i, m := range list {
			if i >= max(len(met), 3) {
				break
			}
			j := sectionJSON(m.Section)
			j["measured"], j["missed"], j["choose"] = facts[m.Section.Name],
				append([]string{}, m.Missed...), m.Options
			out = append(out, j)
		}
		return a.writeJSON(map[string]any{"words": words, "sections": out})
	}
	for _, m := range met {
		more := ""
		for _, n := range slices.Sorted(keysOfMap(m.Options)) {
			more += "  (with options." + n + "=" + m.Options[n] + ")"
		}
		a.sectionLine(m.Section, more)
		if pictures {
			if err := a.showSection(e, m.Section); err != nil {
				return err
			}
		}
	}
	if len(met) > 0 {
		return nil
	}
	if len(list) == 0 || list[0].Nothing() {
		near := ""
		if n := diag.Nearest(words, append(e.Library.Kinds(), e.Library.Names()...)); n != "" {
			near = " (did you mean " + n + "?)"
		}
		return fmt.Errorf("no section speaks of %q%s; kinds are %s", words, near,
			strings.Join(e.Library.Kinds(), ", "))
	}
	a.say("no section has all of it; the nearest are")
	for _, m := range list[:min(3, len(list))] {
		a.sectionLine(m.Section, "  misses: "+strings.Join(m.Missed, ", "))
	}
	return nil
}

// measures prints what is measured in a section.
func (a *app) measures(e *project.Project, s *library.Section) {
	f, err := search.Measure(e, s)
	if err != nil {
		return
	}
	a.say("\nmeasured with its sample content")
	if f.Picture != "" {
		a.say("  picture             %s, %d %% of the block at %d px", f.Picture, f.Share, search.Widths[2])
	}
	if f.Columns != [3]int{} {
		a.say("  columns             %d, %d and %d at %d, %d and %d px", f.Columns[0], f.Columns[1], f.Columns[2],
			search.Widths[0], search.Widths[1], search.Widths[2])
	}
	a.say("  height              %d, %d and %d px there", f.Heights[0], f.Heights[1], f.Heights[2])
	env, page := search.Alone(e, s)
	if l, err := check.Lay(env, page, nil); err == nil {
		const from, to = 160, 400
		narrow := from
		for _, x := range check.Run(l.Prepared, nil, nil, from, to).Findings {
			if x.Severity == diag.Error && x.To < to {
				narrow = max(narrow, x.To+1)
			}
		}
		a.say("  narrowest room      %d px", narrow)
	}
	if s.Field("heading") != nil {
		if n := stress.LettersIn(env, stress.TextOf{Page: page, Block: page.Blocks[0], Field: "heading"},
			search.Widths[2], 2); n > 0 {
			a.say("  heading             about %d letters before a third line at %d px", n, search.Widths[2])
		}
	}
	script := "no script"
	if f.Script {
		script = "with script"
	}
	a.say("  weight              %.1f kB of HTML and CSS, %s", float64(f.Weight)/1000, script)
}

func (a *app) oneSection(e *project.Project, s *library.Section) error {
	if a.json {
		return a.writeJSON(sectionJSON(s))
	}
	a.say("%s: %s", a.style.Bold(s.Name), s.Summary)
	if s.Notes != "" {
		a.say("%s", s.Notes)
	}
	for _, c := range s.Changes {
		a.say("%s", a.style.Wrap(a.style.Dim("version "+c.Version)+"  "+c.Says, 2))
	}
	a.say("\nfields")
	var list func(fields []*library.Field, indent string)
	list = func(fields []*library.Field, indent string) {
		for _, f := range fields {
			name := f.Name
			if name == "." {
				name = "(itself)"
			}
			sample := f.Sample
			if utf8.RuneCountInString(sample) > 44 {
				sample = string([]rune(sample)[:43]) + "…"
			}
			a.say("%s", strings.TrimRight(fmt.Sprintf("%s%-*s %-8s %s", indent, 22-len(indent), name, f.Type,
				a.style.Dim(sample)), " "))
			list(f.Of, indent+"  ")
		}
	}
	list(s.Fields, "  ")
	if len(s.Options) > 0 {
		a.say("\noptions")
		for _, o := range s.Options {
			what := strings.Join(o.Choices, " | ")
			if o.Type != "choice" {
				what = o.Type
			}
			name := o.Name
			if o.Default != "" {
				name += "=" + o.Default
			}
			a.say("  %-19s %-18s %s", name, what, o.Summary)
		}
	}
	if len(s.Measured) > 0 {
		a.say("\nmeasured with your content")
		for _, m := range s.Measured {
			a.say("  %-19s %s", m.Name, m.Summary)
		}
	}
	a.measures(e, s)
	a.say("\nparts\n  %s", strings.Join(s.Parts, ", "))
	return nil
}
