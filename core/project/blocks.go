package project

import (
	"fmt"
	"slices"

	"ziegel/core/site"
)

// All lists the blocks of a page in their order, what a block holds after it. A slot that the page says nothing of
// shows the sample of its section.
func (e *Project) All(p *site.Page) []*site.Block {
	var out []*site.Block
	for _, b := range e.Site.All(p) {
		out = append(out, e.listLinks(p, b))
		out = append(out, e.sampleHeld(b)...)
	}
	return e.takeTurns(p, out)
}

// sampleHeld makes the blocks that a section shows in slots which the page does not fill.
func (e *Project) sampleHeld(b *site.Block) []*site.Block {
	sec := e.Library.Section(b.Section)
	if sec == nil {
		return nil
	}
	var out []*site.Block
	for _, slot := range sec.Slots {
		if b.SlotOf(slot.Name) != nil {
			continue
		}
		for i, name := range slot.Sample {
			h := &site.Block{Name: fmt.Sprintf("%s-%s-%d", b.Name, slot.Name, i+1), Section: name,
				Options: map[string]*site.Value{}, Sample: true, Within: b.Name, Slot: slot.Name,
				EveryPage: b.EveryPage, File: b.File, Path: b.Path}
			h.Node = site.NewMap("name", site.NewText(h.Name), "section", site.NewText(name))
			h.Node.Pos = b.Node.Pos
			out = append(out, h)
		}
	}
	return out
}

// Wanted keeps the blocks that are asked for, with all that stands in the same holder: how a held block sits depends
// on what is beside it.
func Wanted(all []*site.Block, only []string) []*site.Block {
	if only == nil {
		return all
	}
	by := map[string]*site.Block{}
	for _, b := range all {
		by[b.Name] = b
	}
	outermost := func(b *site.Block) *site.Block {
		for by[b.Within] != nil {
			b = by[b.Within]
		}
		return b
	}
	keep := map[*site.Block]bool{}
	for _, b := range all {
		if slices.Contains(only, b.Name) {
			keep[outermost(b)] = true
		}
	}
	return slices.DeleteFunc(slices.Clone(all), func(b *site.Block) bool { return !keep[outermost(b)] })
}

// Outer lists the blocks that stand on the page itself.
func Outer(list []*site.Block) []*site.Block {
	return slices.DeleteFunc(slices.Clone(list), func(b *site.Block) bool { return b.Within != "" })
}
