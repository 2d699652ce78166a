package cli

import (
	"fmt"
	"strings"
	"unicode/utf8"

	"github.com/spf13/cobra"

	"ziegel/core/address"
	"ziegel/core/check"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/store"
)

func (a *app) showCmd() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "show [ADDRESS]",
		Short: "The tree of pages, blocks, parts and fields",
		Example: `  # pages and their blocks
  ziegel show

  # the fields of one block: own, sample or empty
  ziegel show home/plans`,
		Args: cobra.MaximumNArgs(1), ValidArgsFunction: a.complete("block"),
		RunE: func(_ *cobra.Command, args []string) error {
			e, _, err := a.open()
			if err != nil {
				return err
			}
			if len(args) == 0 {
				return a.showSite(e)
			}
			ad, err := address.OfBlock(args[0])
			if err != nil {
				return err
			}
			if ad, err = ad.In(e); err != nil {
				return err
			}
			p, err := address.FindPage(e, ad.Page)
			if err != nil {
				return err
			}
			if ad.Block == "" {
				return a.showPages(e, []string{p.Name})
			}
			_, b, err := address.FindBlock(e, ad)
			if err != nil {
				return err
			}
			return a.showBlock(e, p, b)
		},
	}
	return a.jsonFlag(cmd)
}

func (a *app) showSite(e *project.Project) error {
	if !a.json {
		a.say("%s  theme %s, %s", a.style.Bold(e.Site.Name), e.Theme.Name,
			diag.Plural(len(e.Site.PageNames()), "page"))
	}
	return a.showPages(e, e.Site.PageNames())
}

type shownField struct {
	Field string `json:"field"`
	State string `json:"state"`
	Text  string `json:"text,omitempty"`
}

type shownBlock struct {
	Name    string       `json:"name"`
	Section string       `json:"section"`
	Tone    string       `json:"tone"`
	On      string       `json:"on,omitempty"`
	Within  string       `json:"within,omitempty"` // block and slot that it stands in
	Draft   bool         `json:"draft,omitempty"`
	Styled  []string     `json:"styled,omitempty"`
	Changed bool         `json:"changed,omitempty"` // since it was checked
	Fields  []shownField `json:"fields"`
}

type shownPage struct {
	Page   string       `json:"page"`
	Title  string       `json:"title"`
	Blocks []shownBlock `json:"blocks"`
}

func shown(e *project.Project, p *site.Page) shownPage {
	page, _ := compose.Compose(e, p, compose.Options{Marks: true})
	out := shownPage{Page: p.Name, Title: p.Title, Blocks: []shownBlock{}}
	fields := map[string][]compose.FieldUse{}
	for _, u := range page.Fields {
		fields[u.Block] = append(fields[u.Block], u)
	}
	for _, b := range page.Blocks {
		if b.Sample {
			continue
		}
		s := shownBlock{Draft: b.Draft, Name: b.Name, Section: b.Section, Tone: b.Tone, Fields: []shownField{}}
		if s.Tone == "" {
			s.Tone = "plain"
		}
		if b.EveryPage != "" {
			s.On = "every page"
		}
		if b.Within != "" {
			s.Within = b.Within + "." + b.Slot
			if b.Tone == "" {
				s.Tone = ""
			}
		}
		if b.Style != nil {
			s.Styled = b.Style.Keys()
		}
		for _, u := range fields[b.Name] {
			state := string(u.State)
			if b.EveryPage != "" && p.Override[b.Name].Get(u.Field) != nil {
				state = "overridden"
			}
			s.Fields = append(s.Fields, shownField{u.Field, state, u.Text})
		}
		out.Blocks = append(out.Blocks, s)
	}
	return out
}

// showPages shows pages, those that have not changed since they were last shown from memory.
func (a *app) showPages(e *project.Project, names []string) error {
	all := []shownPage{}
	sources := compose.SourcesOf(e, thisBuild())
	keys := sources.Keys(names)
	known := store.ReadKnown[shownPage](storeOf(e), "show")
	var list []*check.Subject
	var problems diag.Problems
	for _, n := range names {
		list = append(list, &check.Subject{Name: n, Env: e})
		all = append(all, known.Of(n, keys[n], func() (shownPage, bool) {
			p := e.Site.Page(n)
			problems = append(problems, e.Mistakes(p)...)
			return shown(e, p), true
		}))
	}
	if err := problems.Sorted().Err(); err != nil {
		return err
	}
	known.Save(e.Site.PageNames())
	changed := changedSince(list)
	for i := range all {
		at := changed(all[i].Page)
		for k := range all[i].Blocks {
			all[i].Blocks[k].Changed = at[all[i].Blocks[k].Name]
		}
	}
	if a.json {
		return a.writeJSON(map[string]any{"site": e.Site.Name, "theme": e.Theme.Name, "pages": all})
	}
	for _, p := range all {
		a.say("%s  %s", a.style.Bold(p.Page), p.Title)
		depth := map[string]int{}
		for _, b := range p.Blocks {
			counts := map[string]int{}
			for _, f := range b.Fields {
				counts[f.State]++
			}
			var parts []string
			for _, s := range []string{"own", "overridden", "sample", "empty"} {
				if counts[s] > 0 {
					parts = append(parts, fmt.Sprintf("%d %s", counts[s], s))
				}
			}
			extra := ""
			if b.Draft {
				extra += "  draft"
			}
			if b.Tone != "plain" && b.Tone != "" {
				extra += "  tone " + b.Tone
			}
			if b.On != "" {
				extra += "  on every page"
			}
			if len(b.Styled) > 0 {
				extra += "  styled: " + strings.Join(b.Styled, ", ")
			}
			if b.Changed {
				extra += "  not checked since it changed"
			}
			name := b.Name
			if b.Within != "" {
				holder, slot, _ := strings.Cut(b.Within, ".")
				depth[b.Name] = depth[holder] + 1
				name = strings.Repeat("  ", depth[b.Name]) + name
				extra += "  in " + holder + "." + slot
			}
			a.say("  %-16s %-18s %s%s", name, b.Section, strings.Join(parts, ", "), a.style.Dim(extra))
		}
	}
	return nil
}

func (a *app) showBlock(e *project.Project, p *site.Page, b *site.Block) error {
	for _, s := range shown(e, p).Blocks {
		if s.Name != b.Name {
			continue
		}
		s.Changed = notSeen(&check.Subject{Name: p.Name, Env: e, Page: p})[s.Name]
		if a.json {
			return a.writeJSON(s)
		}
		a.say("%s  %s, tone %s", a.style.Bold(p.Name+"/"+s.Name), s.Section, s.Tone)
		for _, f := range s.Fields {
			text := strings.Join(strings.Fields(f.Text), " ")
			if utf8.RuneCountInString(text) > 60 {
				text = string([]rune(text)[:59]) + "…"
			}
			a.say("  %-14s %-10s %s", f.Field, f.State, text)
		}
		if sec := e.Library.Section(b.Section); sec != nil {
			a.say("%s", a.style.Wrap("  parts          "+strings.Join(sec.Parts, ", "), 17))
		}
		if b.Style != nil {
			for _, en := range b.Style.Entries {
				a.say("  style          %s: %s", en.Key, en.Value)
			}
		}
	}
	return nil
}
