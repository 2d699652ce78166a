package areas

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"ziegel/core/adopt"
	"ziegel/core/diag"
	"ziegel/core/layout"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
)

// Block is a block of a page that was drawn, with the section that it becomes.
type Block struct {
	Name    string
	Section string
	Near    []string // sections that it could be as well, when none was named
}

// Page reads a page in the notation of Sketch: a title, and blocks with drawings. A block that names no section gets
// the one that shows what is drawn.
func Page(f *site.File, env *project.Project) (title string, blocks []Block, problems diag.Problems) {
	p := &parser{f: f, ranges: env.Site.Ranges}
	if len(p.ranges) == 0 {
		p.ranges = site.DefaultRanges
	}
	root := f.Root
	list := root.Get("blocks")
	if list == nil || list.Kind != site.List || len(list.Items) == 0 {
		at := root
		if list != nil {
			at = list
		}
		p.add(at, "missing-key", "no blocks are drawn", "blocks: - {name: opening, areas: ..., parts: ...}", "")
		return "", nil, p.problems
	}
	taken := map[string]bool{}
	for i, v := range list.Items {
		b := p.block(env, v, i, len(list.Items))
		if b.Name != "" && taken[b.Name] {
			p.add(v.Get("name"), "name-taken", fmt.Sprintf("two blocks are called %s", b.Name), "another name", "")
		}
		taken[b.Name] = true
		blocks = append(blocks, b)
	}
	return root.Get("title").Str(), blocks, p.problems.Sorted()
}

// block reads one block.
func (p *parser) block(env *project.Project, v *site.Value, i, of int) Block {
	b := Block{Name: v.Get("name").Str(), Section: v.Get("section").Str()}
	if n := v.Get("name"); n != nil && !site.ValidName(b.Name) {
		p.add(
			n,
			"bad-name",
			fmt.Sprintf("%q cannot be the name of a block", b.Name),
			"small letters, digits and hyphens",
			"",
		)
	}
	if s := v.Get("section"); s != nil {
		if !env.Library.Has(b.Section) {
			p.add(
				s,
				"unknown-section",
				fmt.Sprintf("unknown section %q", b.Section),
				"a section of the library",
				env.Library.Nearest(b.Section),
			)
		}
		return b
	}
	p.d = &Drawing{}
	p.layouts(v.Get("areas"))
	if len(p.d.Layouts) == 0 {
		return b
	}
	parts := p.sketched(v.Get("parts"))
	landmark := ""
	switch {
	case i == 0 && only(parts, "link", "actions", "icon", "text"):
		landmark = "header"
	case i == of-1 && i > 0 && only(parts, "link", "actions", "text", "note", "eyebrow", "icon"):
		landmark = "footer"
	}
	list := adopt.Suggest(env, parts, landmark, i == 0 || i == 1 && landmark == "")
	if len(list) == 0 {
		p.add(
			v,
			"nothing-fits",
			"no section shows what is drawn here",
			"section: KIND/NAME, or parts that `ziegel sections compose --help` tells",
			"",
		)
		return b
	}
	b.Section = list[0].Section
	for _, n := range list[1:] {
		b.Near = append(b.Near, n.Section)
	}
	if b.Name == "" {
		b.Name, _, _ = strings.Cut(b.Section, "/")
	}
	return b
}

// only reports parts that are all of some words.
func only(parts []adopt.Sketched, words ...string) bool {
	for _, x := range parts {
		for _, entry := range x.Of {
			if !only(entry, words...) {
				return false
			}
		}
		if x.Word != "items" && !slices.Contains(words, x.Word) {
			return false
		}
	}
	return len(parts) > 0
}

var numbered = regexp.MustCompile(`-\d+$`)

// sketched gives the parts of the cells where the widest drawing has them. Cells of one name with numbers are the
// entries of a list; a cell without parts is the part that it is called.
func (p *parser) sketched(parts *site.Value) []adopt.Sketched {
	rows := p.d.Layouts[len(p.d.Layouts)-1].Rows
	var out []adopt.Sketched
	lists := map[string]int{} // place in out
	all := names(rows)
	for _, name := range all {
		at := area(rows, name)
		box := layout.Rect{X: layout.Px(at.x0 * 1180 * 64 / len(rows[0])), Y: layout.Px(at.y0 * 200 * 64),
			W: layout.Px((at.x1 - at.x0) * 1180 * 64 / len(rows[0])), H: layout.Px((at.y1 - at.y0) * 200 * 64)}
		list := p.cellParts(parts, name)
		for i := range list {
			list[i].Where = box
			list[i].Where.Y += layout.Px(i * 20 * 64)
			list[i].Where.H = max(box.H-layout.Px(i*20*64), 20*64)
			if list[i].Word != "picture" {
				list[i].Where.H = min(list[i].Where.H, 40*64)
			}
		}
		base := numbered.ReplaceAllString(name, "")
		if base == name && !slices.Contains(all, name+"-2") {
			out = append(out, list...)
			continue
		}
		i, ok := lists[base]
		if !ok {
			i = len(out)
			lists[base] = i
			out = append(out, adopt.Sketched{Word: "items", Where: box})
		}
		out[i].Of = append(out[i].Of, list)
	}
	return out
}

// cellParts reads the parts of a cell, or takes its name for one.
func (p *parser) cellParts(parts *site.Value, name string) []adopt.Sketched {
	v := parts.Get(name)
	if v == nil {
		v = parts.Get(numbered.ReplaceAllString(name, ""))
	}
	var out []adopt.Sketched
	if v == nil {
		if word := numbered.ReplaceAllString(name, ""); slices.Contains(words(), word) {
			return []adopt.Sketched{{Word: word}}
		}
		p.add(
			p.d.Layouts[len(p.d.Layouts)-1].drawnAt(p.f.Root),
			"empty-cell",
			fmt.Sprintf("nothing stands in the cell %s", name),
			"parts: {"+name+": [heading, text]}, or a cell that is called as its part",
			diag.Nearest(name, words()),
		)
		return nil
	}
	items := v.Items
	if v.Kind == site.Text {
		items = []*site.Value{v}
	}
	for _, it := range items {
		if it.Kind == site.Map && it.Get("items") != nil {
			entry := []adopt.Sketched{}
			for _, in := range it.Get("items").Items {
				if w := p.word(in, words()); w != "" {
					entry = append(entry, adopt.Sketched{Word: w})
				}
			}
			out = append(out, adopt.Sketched{Word: "items", Of: [][]adopt.Sketched{entry, entry, entry}})
			continue
		}
		if w := p.word(it, words()); w != "" {
			out = append(out, adopt.Sketched{Word: w})
		}
	}
	return out
}

// drawnAt gives the place of a drawing in its file, that of the file when nobody drew it.
func (l Layout) drawnAt(root *site.Value) *site.Value {
	if l.At != nil {
		return l.At
	}
	return root
}

// Kind gives the kind of the section that a drawn block becomes.
func (b Block) Kind(lib *library.Library) string {
	if s := lib.Section(b.Section); s != nil {
		return s.Kind
	}
	return ""
}
