package cli

import (
	"fmt"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/site"
	"ziegel/stock"
)

func stockLibrary() (*library.Library, diag.Problems) { return library.Load("sections", stock.Files) }

func (a *app) newCmd() *cobra.Command {
	var name, brief, theme string
	cmd := &cobra.Command{
		Use:   "new DIR",
		Short: "Start a site",
		Long: `New makes a folder with ziegel.yaml and a first page. A brief in words, with
commas between, chooses sections for each wish and stays in the page, so that
check can compare.`,
		Example: `  # an empty site
  ziegel new larkspan

  # with a rough idea
  ziegel new larkspan --brief "nav, opening with picture, three reasons, plans, voices, footer"`,
		Args: cobra.ExactArgs(1),
		RunE: func(_ *cobra.Command, args []string) error {
			dir := args[0]
			if err := emptyDir(dir); err != nil {
				return err
			}
			if name == "" {
				abs, err := filepath.Abs(dir)
				if err != nil {
					return err
				}
				name = titleCase(filepath.Base(abs))
			}
			if theme != "" && !contains(compose.Themes(stock.Files), theme) {
				return unknown("theme", theme, compose.Themes(stock.Files), "")
			}
			if theme == "" {
				theme = compose.DefaultTheme
			}
			lib, problems := stockLibrary()
			if err := problems.Err(); err != nil {
				return err
			}
			plan := fromBrief(lib, brief)
			files := map[string]string{site.FileName: plan.siteFile(name, theme), "pages/home.yaml": plan.pageFile(name)}
			for _, n := range []string{"pages/home.yaml", site.FileName} {
				if err := site.WriteFile(filepath.Join(dir, filepath.FromSlash(n)), []byte(files[n])); err != nil {
					return fmt.Errorf("write %s: %w", filepath.Join(dir, n), err)
				}
			}
			a.answer("made %s with %s", dir, plural(len(plan.wishes), "block"))
			for _, w := range plan.wishes {
				a.answer("  %-10s %-18s %s", w.block, w.section, w.want)
			}
			for _, w := range plan.open {
				a.answer("%s: no section answers %q yet; it stays in the brief", a.style.Warning("open"), w)
			}
			if len(plan.wishes) == 0 {
				a.answer("next: cd %s, then `ziegel sections` and `ziegel add home hero/beside`", dir)
			} else {
				a.answer("next: cd %s, then `ziegel preview`, and `ziegel todo` for what still shows sample content", dir)
			}
			return nil
		},
	}
	cmd.Flags().StringVar(&name, "name", "", "name of the site (default: the folder's)")
	cmd.Flags().StringVar(&brief, "brief", "", "what the page is to have, in words with commas between")
	cmd.Flags().StringVar(&theme, "theme", "", "a shipped theme (default saltwind)")
	return cmd
}

// wish is one piece of a brief with the section that answers it.
type wish struct{ want, section, kind, block string }

type briefPlan struct {
	wishes []wish
	open   []string
}

// synonyms are words that people use for kinds of sections.
var synonyms = map[string]string{"nav": "nav", "navigation": "nav", "navbar": "nav", "menu": "nav", "header": "nav", "hero": "hero", "opening": "hero", "intro": "hero", "welcome": "hero",
	"features": "features", "reasons": "features", "benefits": "features", "services": "features", "plans": "pricing", "prices": "pricing", "pricing": "pricing", "offers": "pricing", "cost": "pricing",
	"voices": "testimonials", "quotes": "testimonials", "testimonials": "testimonials", "reviews": "testimonials", "footer": "footer", "foot": "footer"}

// fromBrief finds a section for each wish.
func fromBrief(lib *library.Library, brief string) *briefPlan {
	p := &briefPlan{}
	used := map[string]int{}
	for _, want := range strings.Split(brief, ",") {
		want = strings.TrimSpace(want)
		if want == "" {
			continue
		}
		s := answer(lib, want)
		if s == nil {
			p.open = append(p.open, want)
			continue
		}
		block := usualNames[s.Kind]
		if block == "" {
			block = s.Kind
		}
		if used[block]++; used[block] > 1 {
			block = fmt.Sprintf("%s-%d", block, used[block])
		}
		p.wishes = append(p.wishes, wish{want, s.Name, s.Kind, block})
	}
	return p
}

func answer(lib *library.Library, want string) *library.Section {
	words := strings.FieldsFunc(strings.ToLower(want), func(r rune) bool { return r < 'a' || r > 'z' })
	for _, w := range words {
		kind := synonyms[w]
		if kind == "" {
			kind = synonyms[w+"s"]
		}
		for _, s := range lib.Sections {
			if s.Kind == kind {
				return s
			}
		}
	}
	for _, w := range words {
		if list := lib.Search(w); len(w) > 3 && len(list) > 0 {
			return list[0]
		}
	}
	return nil
}

func (p *briefPlan) siteFile(name, theme string) string {
	root := site.NewMap("name", site.NewText(name), "language", site.NewText("en"), "theme", site.NewText(theme))
	var top, bottom site.Value
	top.Kind, bottom.Kind = site.List, site.List
	for _, w := range p.wishes {
		b := site.NewMap("name", site.NewText(w.block), "section", site.NewText(w.section))
		switch w.kind {
		case "nav", "announcement":
			top.Items = append(top.Items, b)
		case "footer":
			bottom.Items = append(bottom.Items, b)
		}
	}
	every := &site.Value{Kind: site.Map}
	if len(top.Items) > 0 {
		every.Entries = append(every.Entries, site.Entry{Key: "top", Value: &top})
	}
	if len(bottom.Items) > 0 {
		every.Entries = append(every.Entries, site.Entry{Key: "bottom", Value: &bottom})
	}
	if len(every.Entries) > 0 {
		root.Entries = append(root.Entries, site.Entry{Key: "every-page", Value: every})
	}
	return write(site.FileName, root)
}

func (p *briefPlan) pageFile(name string) string {
	root := site.NewMap("title", site.NewText(name))
	brief := &site.Value{Kind: site.List}
	blocks := &site.Value{Kind: site.List}
	for _, w := range p.wishes {
		brief.Items = append(brief.Items, site.NewMap("want", site.NewText(w.want), "block", site.NewText(w.block)))
		if w.kind != "nav" && w.kind != "footer" && w.kind != "announcement" {
			blocks.Items = append(blocks.Items, site.NewMap("name", site.NewText(w.block), "section", site.NewText(w.section)))
		}
	}
	for _, w := range p.open {
		brief.Items = append(brief.Items, site.NewMap("want", site.NewText(w)))
	}
	if len(brief.Items) > 0 {
		root.Entries = append(root.Entries, site.Entry{Key: "brief", Value: brief})
	}
	if len(blocks.Items) > 0 {
		root.Entries = append(root.Entries, site.Entry{Key: "blocks", Value: blocks})
	}
	return write("pages/home.yaml", root)
}

// write renders a new file.
func write(path string, root *site.Value) string {
	out := ""
	for _, e := range root.Entries {
		next, err := site.EditSource(path, out, site.Edit{Op: site.Set, Path: site.Keys(e.Key), Value: e.Value})
		if err != nil {
			panic(err) // we made both the text and the edit
		}
		out = next
	}
	return out
}
