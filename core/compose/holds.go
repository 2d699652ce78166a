package compose

import (
	"fmt"
	"slices"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/markup"
	"ziegel/core/site"
)

// heldBy lists the blocks in a slot.
func (c *composer) heldBy(holder, slot string) []*site.Block {
	var out []*site.Block
	for _, b := range c.all {
		if b.Within == holder && b.Slot == slot {
			out = append(out, b)
		}
	}
	return out
}

// slots finds the elements of a section that take other blocks.
func slots(n *html.Node) map[*html.Node]string {
	out := map[*html.Node]string{}
	markup.Each(n, func(x *html.Node) {
		if name, ok := markup.Attr(x, "data-holds"); ok {
			out[x] = name
		}
	})
	return out
}

// hold puts the blocks of each slot into its element. Headings in it are a level below the one above them.
func (f *filler) hold(slots map[*html.Node]string, n *html.Node) {
	if len(slots) == 0 {
		return
	}
	level := f.c.level
	if f.title != nil && f.title.Data != "h1" {
		f.c.level++
	}
	markup.Each(n, func(x *html.Node) {
		name, ok := slots[x]
		if !ok {
			return
		}
		if f.c.opts.Marks {
			markup.Set(x, MarkHolds, name)
		}
		state, pos := Own, f.b.Node.Pos
		if s := f.b.SlotOf(name); s == nil {
			state = Sample
		} else if pos = s.KeyPos; len(s.Blocks) == 0 {
			state = Empty
		}
		f.note(FieldUse{Block: f.b.Name, Field: name, State: state, Pos: pos, Slot: true})
		var before *site.Block
		for _, b := range f.c.heldBy(f.b.Name, name) {
			if sec := f.c.Section(b); sec != nil {
				x.AppendChild(f.c.held(b, sec, before))
				x.AppendChild(markup.Text("\n"))
				before = b
			}
		}
	})
	f.c.level = level
}

// held makes the wrapper of a block that stands in another.
func (c *composer) held(b *site.Block, sec *library.Section, before *site.Block) *html.Node {
	classes := []string{"held"}
	if b.Tone != "" || b.Ground != nil {
		classes = append(classes, "toned", "tone-"+c.Tone(b))
	}
	if before != nil && sec.Kind == "piece" && strings.HasPrefix(before.Section, "piece/") {
		classes = append(classes, "near")
	}
	return c.wrap(b, sec, append(classes, c.ClassName(b, "")))
}

// checkHolds reports slots that the section does not have.
func (f *filler) checkHolds() {
	names := f.sec.SlotNames()
	for _, s := range f.b.Holds {
		if slices.Contains(names, s.Name) {
			continue
		}
		p := f.b.File.KeyProblem(site.Entry{Key: s.Name, KeyPos: s.KeyPos}, "unknown-slot",
			fmt.Sprintf("%s holds no other blocks", f.sec.Name),
			"a section that does; `ziegel sections layout` lists them", "")
		if len(names) > 0 {
			p.Text, p.Expected, p.Try = fmt.Sprintf("%s has no slot %q", f.sec.Name, s.Name),
				"one of "+strings.Join(names, ", "), diag.Nearest(s.Name, names)
		}
		f.c.AddOnce(p)
	}
}
