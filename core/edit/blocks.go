package edit

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"ziegel/core/address"
	"ziegel/core/diag"
	"ziegel/core/project"
	"ziegel/core/site"
)

// ownBlock finds a block that stands on its page alone. verb says what is to be done to it.
func ownBlock(p *Plan, arg, verb string) (*site.Page, *site.Block, error) {
	page, b, err := blockArg(p, arg)
	if err == nil && b.EveryPage != "" {
		err = fmt.Errorf(
			"%s stands on every page (ziegel.yaml, every-page); it cannot be %s on %s alone. `leave-out: [%s]` in pages/%s.yaml takes it off this page",
			b.Name,
			verb,
			page.Name,
			b.Name,
			page.Name,
		)
	}
	return page, b, err
}

// Move puts a block elsewhere on its page, or into a slot of a block that holds others, or an entry elsewhere in its
// list.
func Move(p *Plan, arg string, at Spot, into string) error {
	if _, inside := address.Inside(arg); inside != "" {
		if into != "" {
			return errors.New("an entry stays in its list; --into takes blocks")
		}
		return moveEntry(p, arg, at)
	}
	page, b, err := ownBlock(p, arg, "moved")
	if err != nil {
		return err
	}
	if at == (Spot{}) && into == "" {
		return errors.New("where to? give --before NAME, --after NAME, --first, --last or --into BLOCK.SLOT")
	}
	var slot site.Path
	if into != "" {
		ad, err := address.Parse(page.Name + "/" + strings.TrimPrefix(into, page.Name+"/"))
		if err != nil {
			return err
		}
		_, holder, err := address.FindBlock(p.Env, ad)
		if err != nil {
			return err
		}
		if slot, err = slotPath(p.Env, page, holder, ad.Part); err != nil {
			return err
		}
	}
	list, i, err := at.place(page, slot, b.Name)
	if err != nil {
		return err
	}
	p.Touch(page.Name, b.Name)
	return moveBlock(p, page, b, list, i)
}

// moveBlock plans the edits that put a block into a list of its page, at a position counted without it.
func moveBlock(p *Plan, page *site.Page, b *site.Block, list site.Path, i int) error {
	from := b.Path[:len(b.Path)-1]
	p.Done = fmt.Sprintf("moved %s/%s to place %d", page.Name, b.Name, i+1)
	for _, s := range shelves(page) {
		if s.path.String() == list.String() {
			p.Done += fmt.Sprintf(" of %d", len(s.names))
		}
	}
	if list.String() == from.String() {
		p.edit(page.File.Path, site.Edit{Op: site.Move, Path: b.Path, Index: i})
		return nil
	}
	if strings.HasPrefix(list.String(), b.Path.String()) {
		return fmt.Errorf("%s cannot stand in itself", b.Name)
	}
	p.Done = fmt.Sprintf("moved %s/%s to %s", page.Name, b.Name, listName(page, list))
	last := b.Path[len(b.Path)-1].Index
	target := slices.Clone(list) // as it is when the block has gone
	if n := len(from); len(target) > n && target[:n].String() == from.String() && target[n].Key == "" &&
		target[n].Index > last {
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

// Copy copies a block, on its page or onto another, under a name that is free there; or an entry in its list.
func Copy(p *Plan, arg, onto, as string, where Spot) error {
	if _, inside := address.Inside(arg); inside != "" {
		if onto != "" || as != "" {
			return errors.New(
				"an entry is copied in its list and has no name: --before, --after, --first or --last say where to",
			)
		}
		return copyEntry(p, arg, where)
	}
	page, b, err := blockArg(p, arg)
	if err != nil {
		return err
	}
	target := page
	if onto != "" {
		if target, err = address.FindPage(p.Env, onto); err != nil {
			return err
		}
	}
	name, err := newName(p.Env, target, as, b.Name)
	if err != nil {
		return err
	}
	if where == (Spot{}) && target == page && b.EveryPage == "" {
		where.After = b.Name
	}
	list, i, err := where.place(target, nil, "")
	if err != nil {
		return err
	}
	v := b.Node.Clone()
	put(v, "name", site.NewText(name))
	for _, n := range renameHeld(p.Env, target, v, map[string]bool{name: true}) {
		p.note("%s", n)
	}
	p.edit(target.File.Path, site.Edit{Op: site.Insert, Path: list, Index: i, Value: v})
	p.Done = fmt.Sprintf("copied %s/%s to %s/%s", page.Name, b.Name, target.Name, name)
	p.Touch(target.Name, name)
	return nil
}

// renameHeld gives the blocks in a copy names that are free on a page, and says which got others.
func renameHeld(e *project.Project, page *site.Page, v *site.Value, taken map[string]bool) []string {
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

// Rename gives a block another name; what speaks of it follows.
func Rename(p *Plan, arg, want string) error {
	page, b, err := blockArg(p, arg)
	if err != nil {
		return err
	}
	name, err := newName(p.Env, page, want, "")
	if err != nil {
		return err
	}
	refs := references(p.Env, page, b, name)
	p.edit(b.File.Path, site.Edit{Op: site.Set, Path: site.Keys(b.Path, "name"), Value: site.NewText(name)})
	for _, r := range refs {
		e := site.Edit{Op: site.Set, Path: r.path, Value: site.NewText(r.text)}
		if r.key {
			e.Op = site.Rename
		}
		p.edit(r.file, e)
	}
	p.Done = fmt.Sprintf("renamed %s/%s to %s/%s; %s followed", page.Name, b.Name, page.Name, name,
		diag.Plural(len(refs), "reference"))
	if n := p.followBlock(page.Name, b, name); n > 0 {
		p.Done += ", and " + diag.Plural(n, "comment")
	}
	return nil
}

// Remove takes a block off its page, or an entry out of its list. What still speaks of it is told.
func Remove(p *Plan, arg string) error {
	if _, inside := address.Inside(arg); inside != "" {
		return removeEntry(p, arg)
	}
	page, b, err := ownBlock(p, arg, "removed")
	if err != nil {
		return err
	}
	p.edit(b.File.Path, site.Edit{Op: site.Delete, Path: b.Path})
	p.removes = true
	p.Done = fmt.Sprintf("removed %s/%s (%s)", page.Name, b.Name, b.Section)
	gone := inBlock(b)
	if len(gone) > 1 {
		p.Done += fmt.Sprintf(" with the %s in it", diag.Plural(len(gone)-1, "block"))
	}
	for _, g := range gone {
		for _, r := range references(p.Env, page, g, "") {
			if !strings.HasPrefix(r.path.String(), b.Path.String()) {
				p.Notes = append(p.Notes, Note{r.old.Pos, diag.Warning,
					fmt.Sprintf("%q still points there", r.old.Text)})
			}
		}
	}
	p.Touch(page.Name, b.Name)
	return nil
}
