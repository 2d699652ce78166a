package cli

import (
	"fmt"
	"io/fs"
	"maps"
	"path/filepath"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/finder"
	"ziegel/core/library"
	"ziegel/core/site"
	"ziegel/stock"
)

func stockLibrary() (*library.Library, diag.Problems) { return library.Load("sections", stock.Files) }

func (a *app) newCmd() *cobra.Command {
	var name, brief, theme, template string
	cmd := &cobra.Command{
		Use:   "new DIR",
		Short: "Start a site",
		Long: `New makes a folder with ziegel.yaml and a first page. A brief in words, with
commas between, chooses sections for each wish and stays in the page, so that
check can compare.`,
		Example: `  # an empty site
  ziegel new larkspan

  # a whole one, several pages, to fill in
  ziegel new larkspan --template studio

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
			if template != "" {
				return a.fromTemplate(dir, template, name, theme)
			}
			if theme != "" && !contains(compose.Themes(stock.Files), theme) {
				return diag.Unknown("theme", theme, compose.Themes(stock.Files), "")
			}
			if theme == "" {
				theme = compose.DefaultTheme
			}
			lib, problems := stockLibrary()
			if err := problems.Err(); err != nil {
				return err
			}
			plan := fromBrief(lib, stock.Files, brief)
			main, err := plan.siteFile(name, theme)
			if err != nil {
				return err
			}
			home, err := plan.pageFile(name)
			if err != nil {
				return err
			}
			files := map[string]string{site.FileName: main, "pages/home.yaml": home}
			for _, n := range []string{"pages/home.yaml", site.FileName} {
				if err := site.WriteFile(filepath.Join(dir, filepath.FromSlash(n)), []byte(files[n])); err != nil {
					return fmt.Errorf("write %s: %w", filepath.Join(dir, n), err)
				}
			}
			a.answer("made %s with %s", dir, diag.Plural(len(plan.wishes), "block"))
			for _, w := range plan.wishes {
				a.answer("  %-10s %-18s %s%s", w.block, w.section, w.want, a.style.Dim(w.notes()))
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
	cmd.Flags().StringVar(&template, "template", "", "several pages to begin with: "+strings.Join(templates(), ", "))
	cmd.MarkFlagsMutuallyExclusive("brief", "template")
	cmd.Flags().StringVar(&theme, "theme", "", "a shipped theme (default saltwind)")
	return cmd
}

// templates lists the shipped page templates.
func templates() []string {
	var out []string
	list, _ := fs.ReadDir(stock.Files, "templates")
	for _, d := range list {
		out = append(out, d.Name())
	}
	return out
}

// fromTemplate writes the files of a page template.
func (a *app) fromTemplate(dir, template, name, theme string) error {
	if !contains(templates(), template) {
		return diag.Unknown("template", template, templates(), "")
	}
	root := "templates/" + template
	pages := 0
	err := fs.WalkDir(stock.Files, root, func(p string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		data, err := fs.ReadFile(stock.Files, p)
		if err != nil {
			return err
		}
		text, rel := string(data), strings.TrimPrefix(p, root+"/")
		if rel == site.FileName {
			var edits []site.Edit
			text = ownBrand(text, name)
			for _, kv := range [][2]string{{"name", name}, {"theme", theme}, {"template", template}} {
				if kv[1] != "" {
					edits = append(edits, site.Edit{Op: site.Set, Path: site.Keys(kv[0]), Value: site.NewText(kv[1])})
				}
			}
			if text, err = site.EditSource(rel, text, edits...); err != nil {
				return err
			}
		} else {
			pages++
		}
		return site.WriteFile(filepath.Join(dir, filepath.FromSlash(rel)), []byte(text))
	})
	if err != nil {
		return fmt.Errorf("write %s: %w", dir, err)
	}
	a.answer("made %s from the template %s: %s", dir, template, diag.Plural(pages, "page"))
	a.answer("next: cd %s, then `ziegel preview`, and `ziegel todo` for what still shows sample content", dir)
	return nil
}

// ownBrand puts the name of the site where a template has its own name as the brand.
func ownBrand(text, name string) string {
	root, _ := site.ParseValue(text)
	had := root.Get("name").Str()
	if had == "" || name == "" {
		return text
	}
	var edits []site.Edit
	for _, end := range []string{"top", "bottom"} {
		list := root.Get("every-page").Get(end)
		if list == nil {
			continue
		}
		for i, b := range list.Items {
			path := site.Keys("every-page", end, i, "content", "brand")
			brand := b.Get("content").Get("brand")
			if brand.Get("label") != nil {
				brand, path = brand.Get("label"), site.Keys(path, "label")
			}
			if strings.HasPrefix(brand.Str(), had) {
				edits = append(edits, site.Edit{Op: site.Set, Path: path, Value: site.NewText(name)})
			}
		}
	}
	out, err := site.EditSource(site.FileName, text, edits...)
	if err != nil {
		return text
	}
	return out
}

// wish is one piece of a brief with the section that answers it.
type wish struct {
	want, section, kind, block string
	options                    map[string]string
	items                      *site.Value // sample entries, when another number of them was asked for
	list                       string      // the field that they fill
	missed, close              []string
}

type briefPlan struct {
	wishes []wish
	open   []string
}

// fromBrief finds a section for each wish.
func fromBrief(lib *library.Library, shelf fs.FS, brief string) *briefPlan {
	p := &briefPlan{}
	used := map[string]int{}
	facts := finder.Known(shelf)
	for _, want := range strings.Split(brief, ",") {
		want = strings.TrimSpace(want)
		if want == "" {
			continue
		}
		w, ok := answer(lib, facts, want)
		if !ok {
			p.open = append(p.open, want)
			continue
		}
		if w.block = usualNames[w.kind]; w.block == "" {
			w.block = w.kind
		}
		if used[w.block]++; used[w.block] > 1 {
			w.block = fmt.Sprintf("%s-%d", w.block, used[w.block])
		}
		p.wishes = append(p.wishes, w)
	}
	return p
}

// answer finds the section that has most of a wish, with the options and the number of entries that the words ask for.
func answer(lib *library.Library, facts map[string]finder.Facts, want string) (wish, bool) {
	list := finder.Search(lib, facts, want)
	if len(list) == 0 || list[0].Nothing() {
		return wish{}, false
	}
	kind := ""
	for _, w := range strings.Fields(strings.ToLower(want)) {
		if k := finder.KindOf(strings.Trim(w, ".,;")); k != "" && kind == "" {
			kind = k
		}
	}
	best := list[0]
	if kind != "" && best.Section.Kind != kind { // what it is called goes before how it looks
		for _, m := range list {
			if m.Section.Kind == kind {
				best = m
				break
			}
		}
	}
	w := wish{want: want, section: best.Section.Name, kind: best.Section.Kind, options: best.Options, missed: best.Missed}
	for _, m := range list {
		if m.Section != best.Section && len(m.Missed) <= len(best.Missed) && m.Section.Kind == best.Section.Kind && len(w.close) < 2 {
			w.close = append(w.close, m.Section.Name)
		}
	}
	for _, f := range best.Section.Fields {
		if n := best.Entries; f.Type == library.ListOf && n > 0 && n != facts[best.Section.Name].Entries && len(f.Samples) > 0 && f.Name != "actions" && f.Name != "links" {
			w.list, w.items = f.Name, &site.Value{Kind: site.List}
			for i := range min(n, 24) {
				w.items.Items = append(w.items.Items, f.Samples[i%len(f.Samples)].Clone())
			}
			break
		}
	}
	return w, true
}

// blockOf writes the block that answers a wish.
func (w wish) blockOf() *site.Value {
	b := site.NewMap("name", site.NewText(w.block), "section", site.NewText(w.section))
	if len(w.options) > 0 {
		o := &site.Value{Kind: site.Map}
		for _, n := range slices.Sorted(maps.Keys(w.options)) {
			o.Entries = append(o.Entries, site.Entry{Key: n, Value: site.NewText(w.options[n])})
		}
		b.Entries = append(b.Entries, site.Entry{Key: "options", Value: o})
	}
	if w.items != nil {
		b.Entries = append(b.Entries, site.Entry{Key: "content", Value: site.NewMap(w.list, w.items)},
			site.Entry{Key: "sample", Value: &site.Value{Kind: site.List, Items: []*site.Value{site.NewText(w.list)}}})
	}
	return b
}

// notes tells what was chosen for a wish, what it lacks, and what else was close.
func (w wish) notes() string {
	var out []string
	for _, n := range slices.Sorted(maps.Keys(w.options)) {
		out = append(out, n+" "+w.options[n])
	}
	if w.items != nil {
		out = append(out, fmt.Sprintf("%d of them", len(w.items.Items)))
	}
	if len(w.missed) > 0 {
		out = append(out, "without: "+strings.Join(w.missed, ", "))
	}
	if len(w.close) > 0 {
		out = append(out, "or "+strings.Join(w.close, ", "))
	}
	if len(out) == 0 {
		return ""
	}
	return "; " + strings.Join(out, "; ")
}

func (p *briefPlan) siteFile(name, theme string) (string, error) {
	root := site.NewMap("name", site.NewText(name), "language", site.NewText("en"), "theme", site.NewText(theme))
	var top, bottom site.Value
	top.Kind, bottom.Kind = site.List, site.List
	for _, w := range p.wishes {
		b := w.blockOf()
		switch w.kind {
		case "nav", "announcement":
			top.Items = append(top.Items, b)
		case "footer":
			bottom.Items = append(bottom.Items, b)
		}
	}
	list := func(values ...string) *site.Value {
		v := &site.Value{Kind: site.List}
		for _, s := range values {
			v.Items = append(v.Items, site.NewText(s))
		}
		return v
	}
	if len(p.wishes) > 2 { // neighbours differ, whatever is added between them
		root.Entries = append(root.Entries, site.Entry{Key: "turns", Value: site.NewMap("tone", list("plain", "tinted"), "media", list("right", "left"))})
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

func (p *briefPlan) pageFile(name string) (string, error) {
	root := site.NewMap("title", site.NewText(name))
	brief := &site.Value{Kind: site.List}
	blocks := &site.Value{Kind: site.List}
	for _, w := range p.wishes {
		brief.Items = append(brief.Items, site.NewMap("want", site.NewText(w.want), "block", site.NewText(w.block)))
		if w.kind != "nav" && w.kind != "footer" && w.kind != "announcement" {
			blocks.Items = append(blocks.Items, w.blockOf())
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
func write(path string, root *site.Value) (string, error) {
	out := ""
	for _, e := range root.Entries {
		next, err := site.EditSource(path, out, site.Edit{Op: site.Set, Path: site.Keys(e.Key), Value: e.Value})
		if err != nil {
			return "", fmt.Errorf("%s: %s cannot be written: %w", path, e.Key, err)
		}
		out = next
	}
	return out, nil
}
