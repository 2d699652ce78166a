package cli

import (
	"errors"
	"fmt"
	"slices"
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

// shelf is a list of blocks: those of a page, or of a slot of a block.
type shelf struct {
	path  site.Path // in the file
	names []string
}

// shelves lists the places of a page that blocks stand in.
func shelves(p *site.Page) []shelf {
	var out []shelf
	var add func(path site.Path, list []*site.Block)
	add = func(path site.Path, list []*site.Block) {
		s := shelf{path: path}
		for _, b := range list {
			s.names = append(s.names, b.Name)
		}
		out = append(out, s)
		for _, b := range list {
			for _, slot := range b.Holds {
				add(site.Keys(b.Path, "holds", slot.Name), slot.Blocks)
			}
		}
	}
	add(site.Keys("blocks"), p.Blocks)
	return out
}

// place gives where a block goes: the list and the position in it, counted without the block that moves. into is the slot that was
// asked for, nil for none.
func (s *spot) place(p *site.Page, into site.Path, moving string) (site.Path, int, error) {
	beside := s.before + s.after
	if beside != "" && beside == moving {
		return nil, 0, fmt.Errorf("a block cannot stand beside itself")
	}
	home := into
	if home == nil {
		home = site.Keys("blocks")
	}
	var all []string
	for _, l := range shelves(p) {
		names := slices.DeleteFunc(slices.Clone(l.names), func(n string) bool { return n == moving })
		all = append(all, names...)
		i := slices.Index(names, beside)
		switch {
		case beside != "" && i >= 0 && into != nil && into.String() != l.path.String():
			return nil, 0, fmt.Errorf("%s does not stand in that slot", beside)
		case beside != "" && i >= 0 && s.after != "":
			return l.path, i + 1, nil
		case beside != "" && i >= 0:
			return l.path, i, nil
		case beside == "" && !s.first && l.path.String() == home.String():
			return home, len(names), nil
		}
	}
	if beside != "" {
		return nil, 0, unknown("block", beside, all, " on "+p.Name)
	}
	return home, 0, nil // first, or a slot with nothing in it yet
}

// slotPath finds the slot of a block that an address means, such as home/two.left.
func slotPath(e *compose.Env, page *site.Page, b *site.Block, slot string) (site.Path, error) {
	sec := e.Library.Section(b.Section)
	if sec == nil || len(sec.Slots) == 0 {
		return nil, fmt.Errorf("%s/%s (%s) holds no other blocks; sections that do: %s", page.Name, b.Name, b.Section, strings.Join(holders(e), ", "))
	}
	if b.EveryPage != "" {
		return nil, fmt.Errorf("%s stands on every page: write what it holds into ziegel.yaml", b.Name)
	}
	names := sec.SlotNames()
	if slot == "" && len(names) == 1 {
		slot = names[0]
	}
	if slot == "" {
		return nil, fmt.Errorf("%s/%s has the slots %s; name one, such as %s/%s.%s", page.Name, b.Name, strings.Join(names, ", "), page.Name, b.Name, names[0])
	}
	if !slices.Contains(names, slot) {
		return nil, unknown("slot", slot, names, " in "+page.Name+"/"+b.Name)
	}
	return site.Keys(b.Path, "holds", slot), nil
}

// holders lists the sections that hold other blocks.
func holders(e *compose.Env) []string {
	var out []string
	for _, s := range e.Library.Sections {
		if len(s.Slots) > 0 {
			out = append(out, s.Name)
		}
	}
	return out
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

// addTarget finds the page that a block is added to, a new one if need be, and the slot when the address names one.
func addTarget(e *compose.Env, where string) (*site.Page, site.Path, error) {
	name, _, nested := strings.Cut(where, "/")
	page := e.Site.Page(name)
	if nested {
		ad, err := parseAddress(where)
		if err != nil {
			return nil, nil, err
		}
		_, b, err := findBlock(e, ad)
		if err != nil {
			return nil, nil, err
		}
		into, err := slotPath(e, page, b, ad.part)
		return page, into, err
	}
	if page != nil {
		return page, nil, nil
	}
	if !site.ValidName(name) {
		return nil, nil, fmt.Errorf("%q cannot be a page name: use small letters, digits and hyphens", name)
	}
	return &site.Page{Name: name}, nil, nil
}

func (a *app) addCmd() *cobra.Command {
	var at spot
	var as string
	var dry bool
	cmd := &cobra.Command{
		Use:   "add PAGE [SECTION]",
		Short: "Put a section on a page",
		Long: `Add puts a section on a page, with its sample content until you set your own.
A page that does not exist yet is made. A block that holds others takes them in its
slots: name the slot after a dot. Without a section, a terminal shows the library:
type to narrow it, with an outline of how each section stacks beside the list.`,
		Example: `  # at the end of home
  ziegel add home pricing/plans

  # look through the library and choose
  ziegel add home

  # into the left column of a block that holds others
  ziegel add home/two.left features/list

  # somewhere else, under a name of your own
  ziegel add home features/cards --as reasons --after opening`,
		Args:              cobra.RangeArgs(1, 2),
		ValidArgsFunction: a.complete("page", "section"),
		RunE: func(_ *cobra.Command, args []string) error {
			if len(args) == 1 {
				name, err := a.chooseSection(args[0])
				if err != nil {
					return err
				}
				args = append(args, name)
				a.args = append(a.args, name) // as undo will tell it
			}
			return a.change(dry, func(p *plan) error {
				sec := p.env.Library.Section(args[1])
				if sec == nil {
					return unknown("section", args[1], p.env.Library.Names(), "")
				}
				page, into, err := addTarget(p.env, args[0])
				if err != nil {
					return err
				}
				pageName, inside, nested := strings.Cut(args[0], "/")
				file := "pages/" + pageName + ".yaml"
				if page.File == nil {
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
				list, i, err := at.place(page, into, "")
				if err != nil {
					return err
				}
				p.edit(file, site.Edit{Op: site.Insert, Path: list, Index: i, Value: site.NewMap("name", site.NewText(name), "section", site.NewText(sec.Name))})
				p.done = fmt.Sprintf("added %s/%s (%s), with sample content", pageName, name, sec.Name)
				if nested {
					p.done = fmt.Sprintf("added %s/%s (%s) in %s, with sample content", pageName, name, sec.Name, inside)
				}
				if len(sec.Slots) > 0 {
					p.notes = append(p.notes, fmt.Sprintf("it holds other blocks: ziegel add %s/%s.%s SECTION", pageName, name, sec.Slots[0].Name))
				}
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
	var into string
	var dry bool
	cmd := &cobra.Command{
		Use:   "move PAGE/BLOCK",
		Short: "Move a block to another place on its page",
		Example: `  ziegel move home/voices --before plans
  ziegel move home/plans --last

  # into a slot of a block that holds others
  ziegel move home/voices --into two.right`,
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
				if at == (spot{}) && into == "" {
					return errors.New("where to? give --before NAME, --after NAME, --first, --last or --into BLOCK.SLOT")
				}
				var slot site.Path
				if into != "" {
					ad, err := parseAddress(page.Name + "/" + strings.TrimPrefix(into, page.Name+"/"))
					if err != nil {
						return err
					}
					_, holder, err := findBlock(p.env, ad)
					if err != nil {
						return err
					}
					if slot, err = slotPath(p.env, page, holder, ad.part); err != nil {
						return err
					}
				}
				list, i, err := at.place(page, slot, b.Name)
				if err != nil {
					return err
				}
				p.touch(page.Name, b.Name)
				return moveBlock(p, page, b, list, i)
			})
		},
	}
	cmd.Flags().StringVar(&into, "into", "", "put it into this slot of a block: BLOCK.SLOT")
	at.flags(cmd)
	dryRunFlag(cmd, &dry)
	return cmd
}

// moveBlock plans the edits that put a block into a list of its page, at a position counted without it.
func moveBlock(p *plan, page *site.Page, b *site.Block, list site.Path, i int) error {
	from := b.Path[:len(b.Path)-1]
	p.done = fmt.Sprintf("moved %s/%s to place %d", page.Name, b.Name, i+1)
	for _, s := range shelves(page) {
		if s.path.String() == list.String() {
			p.done += fmt.Sprintf(" of %d", len(s.names))
		}
	}
	if list.String() == from.String() {
		p.edit(page.File.Path, site.Edit{Op: site.Move, Path: b.Path, Index: i})
		return nil
	}
	if strings.HasPrefix(list.String(), b.Path.String()) {
		return fmt.Errorf("%s cannot stand in itself", b.Name)
	}
	p.done = fmt.Sprintf("moved %s/%s to %s", page.Name, b.Name, listName(page, list))
	last := b.Path[len(b.Path)-1].Index
	target := slices.Clone(list) // as it is when the block has gone
	if n := len(from); len(target) > n && target[:n].String() == from.String() && target[n].Key == "" && target[n].Index > last {
		target[n].Index--
	}
	if strings.Contains(b.File.Source, " #") {
		p.notes = append(p.notes, "comments inside the block stay behind when it changes its list; `undo` brings them back")
	}
	p.edit(page.File.Path, site.Edit{Op: site.Delete, Path: b.Path})
	p.edit(page.File.Path, site.Edit{Op: site.Insert, Path: target, Index: i, Value: b.Node})
	return nil
}

// listName calls a list of blocks as people do: the page, or a block and its slot.
func listName(page *site.Page, list site.Path) string {
	if len(list) == 1 {
		return page.Name
	}
	var at *site.Block
	var find func(blocks []*site.Block)
	find = func(blocks []*site.Block) {
		for _, b := range blocks {
			if b.Path.String() == list[:len(list)-2].String() {
				at = b
			}
			for _, s := range b.Holds {
				find(s.Blocks)
			}
		}
	}
	find(page.Blocks)
	if at == nil {
		return page.Name
	}
	return page.Name + "/" + at.Name + "." + list[len(list)-1].Key
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
				list, i, err := where.place(target, nil, "")
				if err != nil {
					return err
				}
				v := b.Node.Clone()
				put(v, "name", site.NewText(name))
				p.notes = append(p.notes, renameHeld(p.env, target, v, map[string]bool{name: true})...)
				p.edit(target.File.Path, site.Edit{Op: site.Insert, Path: list, Index: i, Value: v})
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

// renameHeld gives the blocks in a copy names that are free on a page, and says which got others.
func renameHeld(e *compose.Env, page *site.Page, v *site.Value, taken map[string]bool) []string {
	var out []string
	holds := v.Get("holds")
	if holds == nil {
		return nil
	}
	for _, slot := range holds.Entries {
		for _, it := range slot.Value.Items {
			want := it.Get("name").Str()
			name := want
			for i := 2; taken[name] || e.Site.Block(page, name) != nil; i++ {
				name = fmt.Sprintf("%s-%d", want, i)
			}
			taken[name] = true
			if name != want {
				put(it, "name", site.NewText(name))
				out = append(out, fmt.Sprintf("%s in it is called %s here", want, name))
			}
			out = append(out, renameHeld(e, page, it, taken)...)
		}
	}
	return out
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

// inBlock lists a block and all that it holds.
func inBlock(b *site.Block) []*site.Block {
	out := []*site.Block{b}
	for _, s := range b.Holds {
		for _, h := range s.Blocks {
			out = append(out, inBlock(h)...)
		}
	}
	return out
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
				gone := inBlock(b)
				if len(gone) > 1 {
					p.done += fmt.Sprintf(" with the %s in it", plural(len(gone)-1, "block"))
				}
				var refs []reference
				for _, g := range gone {
					refs = append(refs, references(p.env, page, g, "")...)
				}
				for _, r := range refs {
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
