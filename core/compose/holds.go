package compose

import (
	"fmt"
	"slices"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/markup"
	"ziegel/core/project"
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
			if sec := f.c.section(b); sec != nil {
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
		classes = append(classes, "toned", "tone-"+c.tone(b))
	}
	if before != nil && sec.Kind == "piece" && strings.HasPrefix(before.Section, "piece/") {
		classes = append(classes, "near")
	}
	return c.wrap(b, sec, append(classes, c.className(b, "")))
}

// checkHolds reports slots that the section does not have.
func (f *filler) checkHolds() {
	names := f.sec.SlotNames()
	for _, s := range f.b.Holds {
		if slices.Contains(names, s.Name) {
			continue
		}
		p := f.b.File.KeyProblem(site.Entry{Key: s.Name, KeyPos: s.KeyPos}, "unknown-slot", fmt.Sprintf("%s holds no other blocks", f.sec.Name), "a section that does; `ziegel sections layout` lists them", "")
		if len(names) > 0 {
			p.Text, p.Expected, p.Try = fmt.Sprintf("%s has no slot %q", f.sec.Name, s.Name), "one of "+strings.Join(names, ", "), diag.Nearest(s.Name, names)
		}
		f.c.addOnce(p)
	}
}

// heldDistances writes what blocks in slots keep above and below, where they say so.
func (c *styling) heldDistances(w *sheetWriter, blocks []*site.Block) {
	for _, b := range blocks {
		if b.Within == "" {
			continue
		}
		var decls []decl
		for _, d := range []struct {
			property, what string
			v              *site.Value
		}{{"margin-block-start", "above", b.Above}, {"margin-block-end", "below", b.Below}} {
			if d.v == nil || d.v.Str() == "" {
				continue
			}
			if value, ok := c.length(b, d.v, d.v.Str(), d.what); ok {
				decls = append(decls, decl{name: d.property, value: value, pos: d.v.Pos})
			}
		}
		if len(decls) > 0 {
			w.rule("."+c.className(b, ""), decls...)
		}
	}
}

// heldSheet writes the look of blocks in others: headings one step smaller, no gutter of their own.
func heldSheet(e *project.Project, w *sheetWriter) {
	var decls []decl
	for _, step := range [][2]string{{"type.display", "type.title"}, {"type.title", "type.heading"}, {"type.figure", "type.title"}} {
		if t, ok := e.Theme.Token(step[1]); ok {
			decls = append(decls, decl{name: "--" + strings.ReplaceAll(step[0], ".", "-"), value: "min(" + t.Value + ", 16cqi)"})
		}
	}
	w.raw("\n")
	w.open("@layer theme")
	w.rule(".held", append(decls, decl{name: "--space-gutter", value: "0px"})...)
	w.rule(".held + .held", decl{name: "margin-block-start", value: "var(--space-wide)"})
	w.rule(".held + .near", decl{name: "margin-block-start", value: "var(--space-apart)"})
	w.rule(".toned", decl{name: "padding", value: "min(var(--space-apart), 6cqi)"}, decl{name: "border-radius", value: "var(--radius-card)"}, decl{name: "background", value: "var(--ground)"}, decl{name: "color", value: "var(--ink)"})
	w.close()
}
