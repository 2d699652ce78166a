package cli

import (
	"fmt"
	"strings"
	"unicode/utf8"

	"github.com/spf13/cobra"

	"ziegel/core/compose"
	"ziegel/core/library"
	"ziegel/core/settle"
	"ziegel/core/site"
)

func (a *app) sectionsCmd() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "sections [WORDS | KIND/NAME]",
		Short: "Browse and search the library of sections",
		Example: `  # all of them
  ziegel sections

  # search
  ziegel sections prices

  # fields, options and parts of one
  ziegel sections pricing/plans`,
		ValidArgsFunction: a.complete("section"),
		RunE: func(_ *cobra.Command, args []string) error {
			lib, err := a.library()
			if err != nil {
				return err
			}
			if len(args) == 1 {
				if s := lib.Section(args[0]); s != nil {
					return a.oneSection(s)
				}
				if strings.Contains(args[0], "/") {
					return unknown("section", args[0], lib.Names(), "")
				}
			}
			words := strings.Join(args, " ")
			list := lib.Sections
			if words != "" {
				list = lib.Search(words)
			}
			if a.json {
				out := []any{}
				for _, s := range list {
					out = append(out, sectionJSON(s))
				}
				return a.writeJSON(map[string]any{"sections": out})
			}
			if len(list) == 0 {
				return fmt.Errorf("no section speaks of %q; kinds are %s", words, strings.Join(lib.Kinds(), ", "))
			}
			width := 0
			for _, s := range list {
				width = max(width, len(s.Name))
			}
			for _, s := range list {
				a.say("%s  %s", a.style.Bold(s.Name+strings.Repeat(" ", width-len(s.Name))), s.Summary)
			}
			return nil
		},
	}
	return a.jsonFlag(cmd)
}

// library is that of the site around us, else the shipped one.
func (a *app) library() (*library.Library, error) {
	if _, err := a.find(); err != nil && a.siteDir == "" {
		lib, problems := stockLibrary()
		return lib, problems.Err()
	}
	e, _, err := a.open()
	if e == nil {
		return nil, err
	}
	return e.Library, nil
}

func sectionJSON(s *library.Section) map[string]any {
	var fields func(list []*library.Field) []any
	fields = func(list []*library.Field) []any {
		out := []any{}
		for _, f := range list {
			m := map[string]any{"name": f.Name, "type": f.Type}
			if f.Sample != "" {
				m["sample"] = f.Sample
			}
			if f.Of != nil {
				m["of"] = fields(f.Of)
			}
			out = append(out, m)
		}
		return out
	}
	opts := []any{}
	for _, o := range s.Options {
		m := map[string]any{"name": o.Name, "summary": o.Summary, "type": o.Type, "default": o.Default}
		if len(o.Choices) > 0 {
			m["choices"] = o.Choices
		}
		opts = append(opts, m)
	}
	return map[string]any{"name": s.Name, "kind": s.Kind, "summary": s.Summary, "tags": s.Tags, "fields": fields(s.Fields), "options": opts, "parts": s.Parts}
}

func (a *app) oneSection(s *library.Section) error {
	if a.json {
		return a.writeJSON(sectionJSON(s))
	}
	a.say("%s: %s", a.style.Bold(s.Name), s.Summary)
	if s.Notes != "" {
		a.say("%s", s.Notes)
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
			a.say("%s", strings.TrimRight(fmt.Sprintf("%s%-*s %-8s %s", indent, 22-len(indent), name, f.Type, a.style.Dim(sample)), " "))
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
	a.say("\nparts\n  %s", strings.Join(s.Parts, ", "))
	return nil
}

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
			ad, err := parseAddress(args[0])
			if err != nil {
				return err
			}
			p, err := findPage(e, ad.page)
			if err != nil {
				return err
			}
			if ad.block == "" {
				return a.showPages(e, []*site.Page{p})
			}
			_, b, err := findBlock(e, ad)
			if err != nil {
				return err
			}
			return a.showBlock(e, p, b)
		},
	}
	return a.jsonFlag(cmd)
}

func (a *app) showSite(e *compose.Env) error {
	if !a.json {
		a.say("%s  theme %s, %s", a.style.Bold(e.Site.Name), e.Theme.Name, plural(len(e.Site.Pages), "page"))
	}
	return a.showPages(e, e.Site.Pages)
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
	Styled  []string     `json:"styled,omitempty"`
	Changed bool         `json:"changed,omitempty"` // since it was checked
	Fields  []shownField `json:"fields"`
}

type shownPage struct {
	Page   string       `json:"page"`
	Title  string       `json:"title"`
	Blocks []shownBlock `json:"blocks"`
}

func shown(e *compose.Env, p *site.Page) shownPage {
	page, _ := settle.Page(e, p, compose.Options{})
	out := shownPage{Page: p.Name, Title: p.Title, Blocks: []shownBlock{}}
	fields := map[string][]compose.FieldUse{}
	for _, u := range page.Fields {
		fields[u.Block] = append(fields[u.Block], u)
	}
	changed := notSeen(&subject{env: e, page: p})
	for _, b := range page.Blocks {
		s := shownBlock{Changed: changed[b.Name], Name: b.Name, Section: b.Section, Tone: b.Tone, Fields: []shownField{}}
		if s.Tone == "" {
			s.Tone = "plain"
		}
		if b.EveryPage != "" {
			s.On = "every page"
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

func (a *app) showPages(e *compose.Env, pages []*site.Page) error {
	all := []shownPage{}
	for _, p := range pages {
		all = append(all, shown(e, p))
	}
	if a.json {
		return a.writeJSON(map[string]any{"site": e.Site.Name, "theme": e.Theme.Name, "pages": all})
	}
	for _, p := range all {
		a.say("%s  %s", a.style.Bold(p.Page), p.Title)
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
			if b.Tone != "plain" {
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
			a.say("  %-16s %-18s %s%s", b.Name, b.Section, strings.Join(parts, ", "), a.style.Dim(extra))
		}
	}
	return nil
}

func (a *app) showBlock(e *compose.Env, p *site.Page, b *site.Block) error {
	for _, s := range shown(e, p).Blocks {
		if s.Name != b.Name {
			continue
		}
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
			a.say("  parts          %s", strings.Join(sec.Parts, ", "))
		}
		if b.Style != nil {
			for _, en := range b.Style.Entries {
				a.say("  style          %s: %s", en.Key, en.Value)
			}
		}
	}
	return nil
}
