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
		out = append(out, e.spoken(e.liveLists(e.listLinks(p, b)), func(*site.Value, error) {}))
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
		for i, v := range slot.Sample {
			out = append(out, sampleBlock(b, slot.Name, i, v)...)
		}
	}
	return out
}

// sampleBlock makes a block, and what stands in it, of what a section says of its slot: a name of a section, or a block
// without a name.
func sampleBlock(holder *site.Block, slot string, i int, v *site.Value) []*site.Block {
	name := fmt.Sprintf("%s-%s-%d", holder.Name, slot, i+1)
	node := site.NewMap("name", site.NewText(name), "section", site.NewText(v.Str()))
	if v.Kind == site.Map {
		node.Entries = node.Entries[:1]
		for _, e := range v.Entries {
			if e.Key != "name" && e.Key != "holds" {
				node.Entries = append(node.Entries, e)
			}
		}
	}
	node.Pos = holder.Node.Pos
	h := site.BlockOf(holder.File, node)
	if h == nil {
		return nil
	}
	h.Sample, h.Within, h.Slot, h.EveryPage, h.Path = true, holder.Name, slot, holder.EveryPage, holder.Path
	out := []*site.Block{h}
	if inner := v.Get("holds"); inner != nil {
		for _, s := range inner.Entries {
			h.Holds = append(h.Holds, site.Slot{Name: s.Key, KeyPos: node.Pos})
			for k, it := range s.Value.Items {
				out = append(out, sampleBlock(h, s.Key, k, it)...)
			}
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
