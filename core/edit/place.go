package edit

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"ziegel/core/address"
	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
)

// Spot is where a block goes.
type Spot struct {
	Before, After string
	First, Last   bool
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

// place gives where a block goes: the list and the position in it, counted without the block that moves. into is the
// slot that was asked for, nil for none.
func (s *Spot) place(p *site.Page, into site.Path, moving string) (site.Path, int, error) {
	beside := s.Before + s.After
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
		case beside != "" && i >= 0 && s.After != "":
			return l.path, i + 1, nil
		case beside != "" && i >= 0:
			return l.path, i, nil
		case beside == "" && !s.First && l.path.String() == home.String():
			return home, len(names), nil
		}
	}
	if beside != "" {
		return nil, 0, diag.Unknown("block", beside, all, " on "+p.Name)
	}
	return home, 0, nil // first, or a slot with nothing in it yet
}

// slotPath finds the slot of a block that an address means, such as home/two.left.
func slotPath(e *project.Project, page *site.Page, b *site.Block, slot string) (site.Path, error) {
	sec := e.Library.Section(b.Section)
	if sec == nil || len(sec.Slots) == 0 {
		return nil, fmt.Errorf("%s/%s (%s) holds no other blocks; sections that do: %s", page.Name, b.Name, b.Section,
			strings.Join(holders(e), ", "))
	}
	if b.EveryPage != "" {
		return nil, fmt.Errorf("%s stands on every page: write what it holds into ziegel.yaml", b.Name)
	}
	names := sec.SlotNames()
	if slot == "" && len(names) == 1 {
		slot = names[0]
	}
	if slot == "" {
		return nil, fmt.Errorf("%s/%s has the slots %s; name one, such as %s/%s.%s", page.Name, b.Name,
			strings.Join(names, ", "), page.Name, b.Name, names[0])
	}
	if !slices.Contains(names, slot) {
		return nil, diag.Unknown("slot", slot, names, " in "+page.Name+"/"+b.Name)
	}
	return site.Keys(b.Path, "holds", slot), nil
}

// holders lists the sections that hold other blocks.
func holders(e *project.Project) []string {
	var out []string
	for _, s := range e.Library.All() {
		if len(s.Slots) > 0 {
			out = append(out, s.Name)
		}
	}
	return out
}

// freeName finds an unused block name.
func freeName(e *project.Project, p *site.Page, want string) string {
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
func newName(e *project.Project, p *site.Page, given, want string) (string, error) {
	switch {
	case given == "":
		return freeName(e, p, want), nil
	case given == "main":
		return "", errors.New("the page itself calls its content main; take another name for the block")
	case !site.ValidName(given):
		return "", fmt.Errorf("%q cannot be a block name: use small letters, digits and hyphens, beginning with a letter", given)
	case e.Site.Block(p, given) != nil:
		return "", fmt.Errorf("%s already has a block %q; take another name, such as %s", p.Name, given,
			freeName(e, p, given))
	}
	return given, nil
}

// AddTarget finds the page that a block is added to, a new one if need be, and the slot when the address names one.
func AddTarget(e *project.Project, where string) (*site.Page, site.Path, error) {
	name, _, nested := strings.Cut(where, "/")
	page := e.Site.Page(name)
	if nested {
		ad, err := address.Parse(where)
		if err != nil {
			return nil, nil, err
		}
		_, b, err := address.FindBlock(e, ad)
		if err != nil {
			return nil, nil, err
		}
		into, err := slotPath(e, page, b, ad.Part)
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

// Add puts a section on a page, which is made when there is none of the name, or into a slot of a block on it.
func Add(p *Plan, where, section, as string, at Spot) error {
	sec := p.Env.Library.Section(section)
	if sec == nil {
		return diag.Unknown("section", section, p.Env.Library.Names(), "")
	}
	page, into, err := AddTarget(p.Env, where)
	if err != nil {
		return err
	}
	pageName, inside, nested := strings.Cut(where, "/")
	file := "pages/" + pageName + ".yaml"
	if page.File == nil {
		p.edit(file, site.Edit{Op: site.Set, Path: site.Keys("title"), Value: site.NewText(TitleCase(pageName))})
		p.note("made the page %s", file)
	} else {
		file = page.File.Path
	}
	name, err := newName(p.Env, page, as, usualName(p.Env, page, sec.Kind, map[string]bool{}))
	if err != nil {
		return err
	}
	list, i, err := at.place(page, into, "")
	if err != nil {
		return err
	}
	p.edit(file, site.Edit{Op: site.Insert, Path: list, Index: i,
		Value: site.NewMap("name", site.NewText(name), "section", site.NewText(sec.Name))})
	p.Done = fmt.Sprintf("added %s/%s (%s), with sample content", pageName, name, sec.Name)
	if nested {
		p.Done = fmt.Sprintf("added %s/%s (%s) in %s, with sample content", pageName, name, sec.Name, inside)
	}
	if len(sec.Slots) > 0 {
		p.note("it holds other blocks: ziegel add %s/%s.%s SECTION", pageName, name, sec.Slots[0].Name)
	}
	p.Touch(pageName, name)
	return nil
}

// TitleCase makes a title of a name: winter-plans, Winter plans.
func TitleCase(s string) string {
	s = strings.ReplaceAll(s, "-", " ")
	first, n := utf8.DecodeRuneInString(s)
	if n == 0 {
		return s
	}
	return strings.ToUpper(string(first)) + s[n:]
}

// usualName gives a block of a kind the name that people would, a free one.
func usualName(e *project.Project, page *site.Page, kind string, taken map[string]bool) string {
	want := library.BlockName(kind)
	name := freeName(e, page, want)
	for i := 2; taken[name]; i++ {
		name = fmt.Sprintf("%s-%d", want, i)
	}
	taken[name] = true
	return name
}
