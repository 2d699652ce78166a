package cli

import (
	"errors"
	"fmt"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/compose"
	"ziegel/core/site"
)

// spot is where a block goes.
type spot struct {
	before, after string
	first, last   bool
}

func (s *spot) flags(cmd *cobra.Command) {
	cmd.Flags().StringVar(&s.before, "before", "", "put it before this block")
	cmd.Flags().StringVar(&s.after, "after", "", "put it after this block")
	cmd.Flags().BoolVar(&s.first, "first", false, "put it first")
	cmd.Flags().BoolVar(&s.last, "last", false, "put it last")
	cmd.MarkFlagsMutuallyExclusive("before", "after", "first", "last")
}

// index gives the position in the page's list, counted without the block that moves.
func (s *spot) index(p *site.Page, moving string) (int, error) {
	var names []string
	for _, b := range p.Blocks {
		if b.Name != moving {
			names = append(names, b.Name)
		}
	}
	find := func(name string) (int, error) {
		for i, n := range names {
			if n == name {
				return i, nil
			}
		}
		if name == moving {
			return 0, fmt.Errorf("a block cannot stand beside itself")
		}
		return 0, unknown("block", name, names, " on "+p.Name)
	}
	switch {
	case s.before != "":
		return find(s.before)
	case s.after != "":
		i, err := find(s.after)
		return i + 1, err
	case s.first:
		return 0, nil
	}
	return len(names), nil
}

// freeName finds an unused block name.
func freeName(e *compose.Env, p *site.Page, want string) string {
	names := map[string]bool{"main": true}
	for _, b := range e.Site.All(p) {
		names[b.Name] = true
	}
	name := want
	for i := 2; names[name]; i++ {
		name = fmt.Sprintf("%s-%d", want, i)
	}
	return name
}

// newName checks a name that somebody gave a block, or finds a free one like want.
func newName(e *compose.Env, p *site.Page, given, want string) (string, error) {
	switch {
	case given == "":
		return freeName(e, p, want), nil
	case given == "main":
		return "", errors.New("the page itself calls its content main; take another name for the block")
	case !site.ValidName(given):
		return "", fmt.Errorf("%q cannot be a block name: use small letters, digits and hyphens, beginning with a letter", given)
	case e.Site.Block(p, given) != nil:
		return "", fmt.Errorf("%s already has a block %q; take another name, such as %s", p.Name, given, freeName(e, p, given))
	}
	return given, nil
}

// usualNames gives blocks the names that people would.
var usualNames = map[string]string{"hero": "opening", "nav": "menu", "features": "reasons", "pricing": "plans", "testimonials": "voices", "footer": "foot"}

func (a *app) addCmd() *cobra.Command {
	var at spot
	var as string
	var dry bool
	cmd := &cobra.Command{
		Use:   "add PAGE SECTION",
		Short: "Put a section on a page",
		Long: `Add puts a section on a page, with its sample content until you set your own.
A page that does not exist yet is made.`,
		Example: `  # at the end of home
  ziegel add home pricing/plans

  # somewhere else, under a name of your own
  ziegel add home features/cards --as reasons --after opening`,
		Args:              cobra.ExactArgs(2),
		ValidArgsFunction: a.complete("page", "section"),
		RunE: func(_ *cobra.Command, args []string) error {
			return a.change(dry, func(p *plan) error {
				sec := p.env.Library.Section(args[1])
				if sec == nil {
					return unknown("section", args[1], p.env.Library.Names(), "")
				}
				pageName, _, _ := strings.Cut(args[0], "/")
				page := p.env.Site.Page(pageName)
				file := "pages/" + pageName + ".yaml"
				if page == nil {
					if !site.ValidName(pageName) {
						return fmt.Errorf("%q cannot be a page name: use small letters, digits and hyphens", pageName)
					}
					page = &site.Page{Name: pageName}
					p.edit(file, site.Edit{Op: site.Set, Path: site.Keys("title"), Value: site.NewText(titleCase(pageName))})
					p.notes = append(p.notes, "made the page "+file)
				} else {
					file = page.File.Path
				}
				want := usualNames[sec.Kind]
				if want == "" {
					want = sec.Kind
				}
				name, err := newName(p.env, page, as, want)
				if err != nil {
					return err
				}
				i, err := at.index(page, "")
				if err != nil {
					return err
				}
				p.edit(file, site.Edit{Op: site.Insert, Path: site.Keys("blocks"), Index: i, Value: site.NewMap("name", site.NewText(name), "section", site.NewText(sec.Name))})
				p.done = fmt.Sprintf("added %s/%s (%s), with sample content", pageName, name, sec.Name)
				p.touch(pageName, name)
				return nil
			})
		},
	}
	cmd.Flags().StringVar(&as, "as", "", "name of the block")
	at.flags(cmd)
	dryRunFlag(cmd, &dry)
	return cmd
}

func titleCase(s string) string {
	s = strings.ReplaceAll(s, "-", " ")
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}

// blockArg finds the block that a command is about, on the page itself.
func blockArg(p *plan, arg string) (*site.Page, *site.Block, error) {
	ad, err := parseAddress(arg)
	if err != nil {
		return nil, nil, err
	}
	page, b, err := findBlock(p.env, ad)
	return page, b, err
}

func ownBlock(page *site.Page, b *site.Block, verb string) error {
	if b.EveryPage != "" {
		return fmt.Errorf("%s stands on every page (ziegel.yaml, every-page); it cannot be %s on %s alone. `leave-out: [%s]` in pages/%s.yaml takes it off this page", b.Name, verb, page.Name, b.Name, page.Name)
	}
	return nil
}

func (a *app) moveCmd() *cobra.Command {
	var at spot
	var dry bool
	cmd := &cobra.Command{
		Use:   "move PAGE/BLOCK",
		Short: "Move a block to another place on its page",
		Example: `  ziegel move home/voices --before plans
  ziegel move home/plans --last`,
		Args:              cobra.ExactArgs(1),
		ValidArgsFunction: a.complete("block"),
		RunE: func(_ *cobra.Command, args []string) error {
			return a.change(dry, func(p *plan) error {
				page, b, err := blockArg(p, args[0])
				if err != nil {
					return err
				}
				if err := ownBlock(page, b, "moved"); err != nil {
					return err
				}
				if at == (spot{}) {
					return errors.New("where to? give --before NAME, --after NAME, --first or --last")
				}
				i, err := at.index(page, b.Name)
				if err != nil {
					return err
				}
				p.edit(page.File.Path, site.Edit{Op: site.Move, Path: b.Path, Index: i})
				p.done = fmt.Sprintf("moved %s/%s to place %d of %d", page.Name, b.Name, i+1, len(page.Blocks))
				p.touch(page.Name, b.Name)
				return nil
			})
		},
	}
	at.flags(cmd)
	dryRunFlag(cmd, &dry)
	return cmd
}

func (a *app) copyCmd() *cobra.Command {
	var at spot
	var as string
	var dry bool
	cmd := &cobra.Command{
		Use:   "copy PAGE/BLOCK [PAGE]",
		Short: "Copy a block, on its page or to another",
		Example: `  ziegel copy home/plans --as winter-plans
  ziegel copy home/plans courses --last`,
		Args:              cobra.RangeArgs(1, 2),
		ValidArgsFunction: a.complete("block", "page"),
		RunE: func(_ *cobra.Command, args []string) error {
			return a.change(dry, func(p *plan) error {
				page, b, err := blockArg(p, args[0])
				if err != nil {
					return err
				}
				target := page
				if len(args) == 2 {
					if target, err = findPage(p.env, args[1]); err != nil {
						return err
					}
				}
				name, err := newName(p.env, target, as, b.Name)
				if err != nil {
					return err
				}
				where := at
				if where == (spot{}) && target == page && b.EveryPage == "" {
					where.after = b.Name
				}
				i, err := where.index(target, "")
				if err != nil {
					return err
				}
				v := *b.Node
				v.Entries = append([]site.Entry(nil), b.Node.Entries...)
				for k := range v.Entries {
					if v.Entries[k].Key == "name" {
						v.Entries[k].Value = site.NewText(name)
					}
				}
				p.edit(target.File.Path, site.Edit{Op: site.Insert, Path: site.Keys("blocks"), Index: i, Value: &v})
				p.done = fmt.Sprintf("copied %s/%s to %s/%s", page.Name, b.Name, target.Name, name)
				p.touch(target.Name, name)
				return nil
			})
		},
	}
	cmd.Flags().StringVar(&as, "as", "", "name of the copy")
	at.flags(cmd)
	dryRunFlag(cmd, &dry)
	return cmd
}

// reference is a text in the site's files that names a block.
type reference struct {
	file string
	path site.Path
	old  *site.Value
	text string
	key  bool // the name is a key, not a value
}

// references finds links, wishes, overrides and leave-outs that name a block of a page.
func references(e *compose.Env, page *site.Page, b *site.Block, name string) []reference {
	var out []reference
	every := b.EveryPage != ""
	scan := func(f *site.File, on *site.Page) {
		var walk func(v *site.Value, at site.Path, key string)
		walk = func(v *site.Value, at site.Path, key string) {
			switch v.Kind {
			case site.Text:
				here := on == page || on == nil && every || every
				switch {
				case key == "to" && v.Text == "#"+b.Name && here:
					out = append(out, reference{f.Path, at, v, "#" + name, false})
				case key == "to" && strings.HasSuffix(v.Text, "#"+b.Name):
					p := strings.TrimSuffix(v.Text, "#"+b.Name)
					if p == page.Name || every && e.Site.Page(p) != nil {
						out = append(out, reference{f.Path, at, v, p + "#" + name, false})
					}
				case key == "block" && v.Text == b.Name && len(at) == 3 && at[0].Key == "brief" && on != nil && (on == page || every):
					out = append(out, reference{f.Path, at, v, name, false})
				case len(at) == 2 && at[0].Key == "leave-out" && v.Text == b.Name && every:
					out = append(out, reference{f.Path, at, v, name, false})
				}
			case site.List:
				for i, it := range v.Items {
					walk(it, site.Keys(at, i), key)
				}
			case site.Map:
				for _, en := range v.Entries {
					next := site.Keys(at, en.Key)
					if len(next) == 2 && next[0].Key == "override" && en.Key == b.Name && every {
						out = append(out, reference{f.Path, next, en.Value, name, true})
					}
					walk(en.Value, next, en.Key)
				}
			}
		}
		walk(f.Root, nil, "")
	}
	scan(e.Site.File, nil)
	for _, p := range e.Site.Pages {
		scan(p.File, p)
	}
	return out
}

func (a *app) renameCmd() *cobra.Command {
	var dry bool
	cmd := &cobra.Command{
		Use:     "rename PAGE/BLOCK NAME",
		Short:   "Give a block another name; links to it follow",
		Example: `  ziegel rename home/plans prices`,
		Args:    cobra.ExactArgs(2), ValidArgsFunction: a.complete("block"),
		RunE: func(_ *cobra.Command, args []string) error {
			return a.change(dry, func(p *plan) error {
				page, b, err := blockArg(p, args[0])
				if err != nil {
					return err
				}
				name, err := newName(p.env, page, args[1], "")
				if err != nil {
					return err
				}
				refs := references(p.env, page, b, name)
				p.edit(b.File.Path, site.Edit{Op: site.Set, Path: site.Keys(b.Path, "name"), Value: site.NewText(name)})
				for _, r := range refs {
					e := site.Edit{Op: site.Set, Path: r.path, Value: site.NewText(r.text)}
					if r.key {
						e.Op = site.Rename
					}
					p.edit(r.file, e)
				}
				p.done = fmt.Sprintf("renamed %s/%s to %s/%s; %s followed", page.Name, b.Name, page.Name, name, plural(len(refs), "reference"))
				return nil
			})
		},
	}
	dryRunFlag(cmd, &dry)
	return cmd
}

func (a *app) removeCmd() *cobra.Command {
	var dry bool
	cmd := &cobra.Command{
		Use:               "remove PAGE/BLOCK",
		Short:             "Take a block off its page; `undo` brings it back",
		Example:           `  ziegel remove home/voices`,
		Args:              cobra.ExactArgs(1),
		ValidArgsFunction: a.complete("block"),
		RunE: func(_ *cobra.Command, args []string) error {
			return a.change(dry, func(p *plan) error {
				page, b, err := blockArg(p, args[0])
				if err != nil {
					return err
				}
				if err := ownBlock(page, b, "removed"); err != nil {
					return err
				}
				p.edit(b.File.Path, site.Edit{Op: site.Delete, Path: b.Path})
				p.done = fmt.Sprintf("removed %s/%s (%s)", page.Name, b.Name, b.Section)
				for _, r := range references(p.env, page, b, "") {
					if !strings.HasPrefix(r.path.String(), b.Path.String()) {
						p.notes = append(p.notes, fmt.Sprintf("%s: %s: %q still points there", r.old.Pos, a.style.Warning("warning"), r.old.Text))
					}
				}
				p.touch(page.Name, b.Name)
				return nil
			})
		},
	}
	dryRunFlag(cmd, &dry)
	return cmd
}
