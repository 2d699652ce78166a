package cli

import (
	"errors"
	"fmt"
	"io/fs"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"github.com/spf13/cobra"

	"ziegel/core/areas"
	"ziegel/core/diag"
	"ziegel/core/edit"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/stock"
)

func stockLibrary() (*library.Library, diag.Problems) { return library.Load("sections", stock.Files) }

func (a *app) newCmd() *cobra.Command {
	var name, brief, theme, template, trade, sketch, from string
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

  # with the samples of another trade than a kite workshop
  ziegel new heron --trade inn --theme pebble --brief "nav, opening, gallery, prices, contact, footer"

  # as it was drawn, in rows of names
  ziegel new larkspan --sketch idea.yaml

  # as another site of the studio, which ziegel outdated looks at later
  ziegel new larkspan --from ../studio-base

  # with a rough idea
  ziegel new larkspan --brief "nav, opening with picture, three reasons, plans, voices, footer"`,
		Args:     cobra.ExactArgs(1),
		PostRunE: func(_ *cobra.Command, args []string) error { return a.keepShipped(args[0]) },
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
				name = edit.TitleCase(filepath.Base(abs))
			}
			if from != "" {
				return a.fromSite(dir, from, name)
			}
			told, err := openTrade(trade)
			if err != nil {
				return err
			}
			if template != "" {
				return a.fromTemplate(dir, template, [][2]string{{"name", name}, {"theme", theme},
					{"template", template}, {"trade", trade}})
			}
			if theme != "" && !slices.Contains(project.Themes(stock.Files), theme) {
				return diag.Unknown("theme", theme, project.Themes(stock.Files), "")
			}
			if theme == "" {
				theme = project.DefaultTheme
			}
			lib, problems := stockLibrary()
			if err := problems.Err(); err != nil {
				return err
			}
			if told != nil {
				lib = lib.Retold(told)
			}
			plan := edit.Brief(lib, stock.Files, brief)
			if sketch != "" {
				if plan, err = drawnPage(sketch); err != nil {
					return err
				}
			}
			main, err := plan.SiteFile(name, theme)
			if err != nil {
				return err
			}
			if told != nil {
				if main, err = site.EditSource(site.FileName, main, site.Edit{Op: site.Set, Path: site.Keys("trade"),
					Value: site.NewText(trade)}); err != nil {
					return err
				}
			}
			home, err := plan.PageFile(name)
			if err != nil {
				return err
			}
			files := map[string]string{site.FileName: main, "pages/home.yaml": home}
			for _, n := range []string{"pages/home.yaml", site.FileName} {
				if err := site.WriteFile(filepath.Join(dir, filepath.FromSlash(n)), []byte(files[n])); err != nil {
					return fmt.Errorf("write %s: %w", filepath.Join(dir, n), err)
				}
			}
			a.answer("made %s with %s", dir, diag.Plural(len(plan.Wishes), "block"))
			for _, w := range plan.Wishes {
				a.answer("  %-10s %-18s %s%s", w.Block, w.Section, w.Want, a.style.Dim(w.Notes()))
			}
			for _, w := range plan.Open {
				a.answer("%s: no section answers %q yet; it stays in the brief", a.style.Warning("open"), w)
			}
			if len(plan.Wishes) == 0 {
				a.answer("next: cd %s, then `ziegel sections` and `ziegel add home hero/beside`", dir)
			} else {
				a.answer("next: cd %s, then `ziegel preview`, and `ziegel todo` for what still shows sample content",
					dir)
			}
			return nil
		},
	}
	cmd.Flags().StringVar(&name, "name", "", "name of the site (default: the folder's)")
	cmd.Flags().StringVar(&brief, "brief", "", "what the page is to have, in words with commas between")
	cmd.Flags().StringVar(&template, "template", "", "several pages to begin with: "+strings.Join(templates(), ", "))
	cmd.Flags().StringVar(&sketch, "sketch", "", "a file that draws the page, as the command sketch prints one")
	cmd.Flags().
		StringVar(&from, "from", "",
			"folder of a site to begin as: its theme, sections, fonts and blocks on every page")
	cmd.MarkFlagsMutuallyExclusive("brief", "template", "sketch", "from")
	cmd.Flags().
		StringVar(&trade, "trade", "", "whose samples the sections show: "+strings.Join(library.Trades(stock.Files),
			", ")+
			" (default a kite workshop's)")
	cmd.Flags().StringVar(&theme, "theme", "", "a shipped theme (default marram)")
	cmd.MarkFlagsMutuallyExclusive("from", "theme")
	cmd.MarkFlagsMutuallyExclusive("from", "trade")
	return cmd
}

// fromSite makes a site that begins as another one.
func (a *app) fromSite(dir, from, name string) error {
	abs, err := filepath.Abs(dir)
	if err != nil {
		return err
	}
	base, err := filepath.Abs(from)
	if err != nil {
		return err
	}
	if info, err := os.Stat(base); err != nil || !info.IsDir() {
		return fmt.Errorf("--from %s is no folder", from)
	}
	rel, err := filepath.Rel(abs, base)
	if err != nil {
		rel = base
	}
	files, err := edit.Starter(site.Folder(base), rel, name)
	if err != nil {
		return err
	}
	files["pages/home.yaml"] = "title: " + name + "\nblocks: []\n"
	for _, n := range slices.Sorted(maps.Keys(files)) {
		if err := site.WriteFile(filepath.Join(dir, filepath.FromSlash(n)), []byte(files[n])); err != nil {
			return fmt.Errorf("write %s: %w", filepath.Join(dir, n), diag.Bare(err))
		}
	}
	a.answer("made %s as %s: %s", dir, from, diag.Plural(len(files), "file"))
	a.answer(
		"next: cd %s, then `ziegel sections` and `ziegel add home hero/beside`; `ziegel outdated` tells what changes in %s",
		dir,
		from,
	)
	return nil
}

// drawnPage reads a page that is drawn.
func drawnPage(file string) (*edit.Outline, error) {
	text, err := os.ReadFile(file)
	if err != nil {
		return nil, fmt.Errorf("read %s: %w", file, diag.Bare(err))
	}
	f, problems := site.ReadFile(file, string(text))
	if err := problems.Err(); err != nil {
		return nil, err
	}
	e, problems, err := project.Shelf(stock.Files)
	if err != nil {
		return nil, err
	}
	if err := problems.Err(); err != nil {
		return nil, err
	}
	_, blocks, problems := areas.Page(f, e)
	return edit.Drawn(e.Library, blocks), problems.Err()
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

// openTrade reads the samples of a trade, nil when none is asked for.
func openTrade(name string) (*library.Trade, error) {
	if name == "" {
		return nil, nil
	}
	if known := library.Trades(stock.Files); !slices.Contains(known, name) {
		return nil, diag.Unknown("trade", name, known, "")
	}
	return library.OpenTrade(stock.Files, name)
}

// fromTemplate writes the files of a page template. keys are those of the site's file that are set, by name; the
// first is the site's name.
func (a *app) fromTemplate(dir, template string, keys [][2]string) error {
	if !slices.Contains(templates(), template) {
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
			text = edit.OwnBrand(text, keys[0][1])
			for _, kv := range keys {
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

// emptyDir refuses a folder that already holds something, and a name that is none.
func emptyDir(dir string) error {
	switch {
	case strings.TrimSpace(dir) == "":
		return errors.New("a folder needs a name: name one that is not there yet, such as larkspan")
	case !utf8.ValidString(dir) || strings.ContainsFunc(dir, unicode.IsControl):
		return fmt.Errorf("%q cannot be the name of a folder: use letters, digits and hyphens", dir)
	}
	list, err := os.ReadDir(filepath.Clean(dir)) // nope/.. is this folder
	switch {
	case errors.Is(err, fs.ErrNotExist):
		return nil
	case err != nil:
		return fmt.Errorf("write %s: %w", dir, diag.Bare(err))
	case len(list) > 0:
		return fmt.Errorf("the folder %s is not empty; nothing was written: name another one", dir)
	}
	return nil
}
