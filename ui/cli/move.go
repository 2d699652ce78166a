package cli

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/address"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/site"
)

// blockArg finds the block that a command is about, on the page itself.
func blockArg(p *plan, arg string) (*site.Page, *site.Block, error) {
	ad, err := address.OfBlock(arg)
	if err != nil {
		return nil, nil, err
	}
	page, b, err := address.FindBlock(p.env, ad)
	return page, b, err
}

// ownBlock finds a block that stands on its page alone. verb says what is to be done to it.
func ownBlock(p *plan, arg, verb string) (*site.Page, *site.Block, error) {
	page, b, err := blockArg(p, arg)
	if err == nil && b.EveryPage != "" {
		err = fmt.Errorf("%s stands on every page (ziegel.yaml, every-page); it cannot be %s on %s alone. `leave-out: [%s]` in pages/%s.yaml takes it off this page", b.Name, verb, page.Name, b.Name, page.Name)
	}
	return page, b, err
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
			return a.change(dry, func(p *plan) error { return move(p, args[0], at, into) })
		},
	}
	cmd.Flags().StringVar(&into, "into", "", "put it into this slot of a block: BLOCK.SLOT")
	spotFlags(cmd, &at)
	dryRunFlag(cmd, &dry)
	return cmd
}

// move puts a block elsewhere on its page, or into a slot of a block that holds others.
func move(p *plan, arg string, at spot, into string) error {
	page, b, err := ownBlock(p, arg, "moved")
	if err != nil {
		return err
	}
	if at == (spot{}) && into == "" {
		return errors.New("where to? give --before NAME, --after NAME, --first, --last or --into BLOCK.SLOT")
	}
	var slot site.Path
	if into != "" {
		ad, err := address.Parse(page.Name + "/" + strings.TrimPrefix(into, page.Name+"/"))
		if err != nil {
			return err
		}
		_, holder, err := address.FindBlock(p.env, ad)
		if err != nil {
			return err
		}
		if slot, err = slotPath(p.env, page, holder, ad.Part); err != nil {
			return err
		}
	}
	list, i, err := at.place(page, slot, b.Name)
	if err != nil {
		return err
	}
	p.touch(page.Name, b.Name)
	return moveBlock(p, page, b, list, i)
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
		p.note("comments inside the block stay behind when it changes its list; `undo` brings them back")
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
			onto := ""
			if len(args) == 2 {
				onto = args[1]
			}
			return a.change(dry, func(p *plan) error { return copyBlock(p, args[0], onto, as, at) })
		},
	}
	cmd.Flags().StringVar(&as, "as", "", "name of the copy")
	spotFlags(cmd, &at)
	dryRunFlag(cmd, &dry)
	return cmd
}

// copyBlock copies a block, on its page or onto another, under a name that is free there.
func copyBlock(p *plan, arg, onto, as string, where spot) error {
	page, b, err := blockArg(p, arg)
	if err != nil {
		return err
	}
	target := page
	if onto != "" {
		if target, err = address.FindPage(p.env, onto); err != nil {
			return err
		}
	}
	name, err := newName(p.env, target, as, b.Name)
	if err != nil {
		return err
	}
	if where == (spot{}) && target == page && b.EveryPage == "" {
		where.after = b.Name
	}
	list, i, err := where.place(target, nil, "")
	if err != nil {
		return err
	}
	v := b.Node.Clone()
	put(v, "name", site.NewText(name))
	for _, n := range renameHeld(p.env, target, v, map[string]bool{name: true}) {
		p.note("%s", n)
	}
	p.edit(target.File.Path, site.Edit{Op: site.Insert, Path: list, Index: i, Value: v})
	p.done = fmt.Sprintf("copied %s/%s to %s/%s", page.Name, b.Name, target.Name, name)
	p.touch(target.Name, name)
	return nil
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
	for _, p := range e.Site.Mentioning(b.Name) {
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
			return a.change(dry, func(p *plan) error { return rename(p, args[0], args[1]) })
		},
	}
	dryRunFlag(cmd, &dry)
	return cmd
}

// rename gives a block another name; what speaks of it follows.
func rename(p *plan, arg, want string) error {
	page, b, err := blockArg(p, arg)
	if err != nil {
		return err
	}
	name, err := newName(p.env, page, want, "")
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
	p.done = fmt.Sprintf("renamed %s/%s to %s/%s; %s followed", page.Name, b.Name, page.Name, name, diag.Plural(len(refs), "reference"))
	return nil
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
			return a.change(dry, func(p *plan) error { return remove(p, args[0]) })
		},
	}
	dryRunFlag(cmd, &dry)
	return cmd
}

// remove takes a block off its page. What still speaks of it is told.
func remove(p *plan, arg string) error {
	page, b, err := ownBlock(p, arg, "removed")
	if err != nil {
		return err
	}
	p.edit(b.File.Path, site.Edit{Op: site.Delete, Path: b.Path})
	p.removes = true
	p.done = fmt.Sprintf("removed %s/%s (%s)", page.Name, b.Name, b.Section)
	gone := inBlock(b)
	if len(gone) > 1 {
		p.done += fmt.Sprintf(" with the %s in it", diag.Plural(len(gone)-1, "block"))
	}
	for _, g := range gone {
		for _, r := range references(p.env, page, g, "") {
			if !strings.HasPrefix(r.path.String(), b.Path.String()) {
				p.notes = append(p.notes, note{r.old.Pos, diag.Warning, fmt.Sprintf("%q still points there", r.old.Text)})
			}
		}
	}
	p.touch(page.Name, b.Name)
	return nil
}
