package edit

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/markup"
	"ziegel/core/site"
	"ziegel/core/styles"
)

var sectionName = regexp.MustCompile(`^[a-z][a-z0-9-]*/[a-z][a-z0-9-]*$`)

// Keep turns a block, with its styles, into a section of the site's own. Other blocks that look the same are told; with
// bind they are made of it as well.
func Keep(p *Plan, arg, name, summary string, bind bool) error {
	page, b, err := blockArg(p, arg)
	if err != nil {
		return err
	}
	if !sectionName.MatchString(name) {
		return fmt.Errorf(
			"%q cannot be the name of a section: write KIND/NAME in small letters, such as pricing/tickets",
			name,
		)
	}
	if p.Env.Library.Section(name) != nil {
		return fmt.Errorf("there is a section %s already; take another name", name)
	}
	if err := keepBlockAs(p, page, b, name, summary); err != nil {
		return err
	}
	var alike []string
	for _, x := range looksLike(p, b) {
		alike = append(alike, x.page.Name+"/"+x.block.Name)
		if bind {
			rebind(p, x.page, x.block, name)
		}
	}
	switch {
	case len(alike) > 0 && bind:
		p.note(
			"%s looked the same and %s made of it, too",
			diag.And(alike),
			map[bool]string{true: "is", false: "are"}[len(alike) == 1],
		)
	case len(alike) > 0:
		p.note("%s looks the same: --bind makes it of %s, too", diag.And(alike), name)
	}
	return nil
}

// looksLike finds the blocks of the site that are made of the same section with the same styles, options and tone as
// one. A block without styles looks like all others of its section, which says nothing.
func looksLike(p *Plan, b *site.Block) []blockOn {
	if b.Style == nil || len(b.Style.Entries) == 0 {
		return nil
	}
	var out []blockOn
	for _, page := range p.Env.Site.Mentioning(b.Section) {
		for _, x := range p.Env.Site.All(page) {
			otherwise := x.Node == b.Node || x.Section != b.Section || x.EveryPage != "" || x.Tone != b.Tone ||
				!x.Style.Equal(b.Style) || !x.Node.Get("options").Equal(b.Node.Get("options"))
			if otherwise {
				continue
			}
			out = append(out, blockOn{page, x})
		}
	}
	return out
}

// rebind makes a block of another section that has its styles already.
func rebind(p *Plan, page *site.Page, b *site.Block, name string) {
	_, _, stay := styles.KeptStyles(p.Env, page, b, p.Env.Library.Section(b.Section))
	now := b.Node.Clone()
	put(now, "section", site.NewText(name))
	if style := now.Get("style"); style != nil {
		style.Entries = slices.DeleteFunc(style.Entries,
			func(e site.Entry) bool { return !slices.Contains(stay, e.Key) })
		if len(style.Entries) == 0 {
			drop(now, "style")
		}
	}
	for _, e := range difference(b.Path, b.Node, now) {
		p.edit(b.File.Path, e)
	}
	p.Touch(page.Name, b.Name)
}

// keepBlockAs plans the files of the new section and the edit of the block.
func keepBlockAs(p *Plan, page *site.Page, b *site.Block, name, summary string) error {
	sec := p.Env.Library.Section(b.Section)
	if sec == nil {
		return diag.Unknown("section", b.Section, p.Env.Library.Names(), "")
	}
	css, parts, stay := styles.KeptStyles(p.Env, page, b, sec)
	if css != "" {
		css = "/* What " + page.Name + "/" + b.Name + " said of itself. */\n" + css
	}
	kept, err := library.Keep(sec, name, summary, css, func(root *html.Node) { classParts(root, parts) })
	if err != nil {
		return err
	}
	if slots := sampleSlots(b); slots != nil {
		kept.YAML, err = site.EditSource("section.yaml", kept.YAML,
			site.Edit{Op: site.Set, Path: site.Keys("holds"), Value: slots})
		if err != nil {
			return err
		}
		p.note("what stands in it is the sample of the slots %s", diag.And(slotNames(b)))
	}
	dir := "sections/" + name + "/"
	for _, f := range [][2]string{{"section.html", kept.HTML}, {"section.css", kept.CSS},
		{"section.yaml", kept.YAML}} {
		p.files = append(p.files, site.FileChange{Path: dir + f[0], After: f[1], New: true})
	}
	rebind(p, page, b, name)
	p.Done = fmt.Sprintf("kept %s/%s as the section %s, in %s", page.Name, b.Name, name, strings.TrimSuffix(dir, "/"))
	if len(stay) > 0 {
		p.note("stays with the block, because it follows its own layout or shared looks: %s",
			strings.Join(stay, ", "))
	}
	return nil
}

// sampleSlots gives what a block holds as samples of the slots of a section, nil when it holds nothing.
func sampleSlots(b *site.Block) *site.Value {
	holds := b.Node.Get("holds")
	if holds == nil {
		return nil
	}
	out := &site.Value{Kind: site.Map}
	for _, slot := range holds.Entries {
		list := &site.Value{Kind: site.List}
		for _, it := range slot.Value.Items {
			list.Items = append(list.Items, nameless(it))
		}
		out.Entries = append(out.Entries, site.Entry{Key: slot.Key, Value: list})
	}
	return out
}

// nameless gives a block without its name, and all that it holds without theirs: samples get names of their own.
func nameless(block *site.Value) *site.Value {
	out := block.Clone()
	out.Entries = slices.DeleteFunc(out.Entries, func(e site.Entry) bool {
		return e.Key == "name" || e.Key == "parked" || e.Key == "own" || e.Key == "sample"
	})
	if holds := out.Get("holds"); holds != nil {
		for _, slot := range holds.Entries {
			for i, it := range slot.Value.Items {
				slot.Value.Items[i] = nameless(it)
			}
		}
	}
	return out
}

func slotNames(b *site.Block) []string {
	var out []string
	for _, s := range b.Holds {
		out = append(out, s.Name)
	}
	return out
}

// classParts gives the elements of parts a class that rules can speak of.
func classParts(root *html.Node, parts []string) {
	classes := map[string]string{} // part by the class and tag that siblings of a list repeat without the mark
	var walk func(n *html.Node)
	walk = func(n *html.Node) {
		if n.Type == html.ElementNode {
			part, _ := markup.Attr(n, "data-part")
			field, _ := markup.Attr(n, "data-field")
			class, _ := markup.Attr(n, "class")
			key := n.Data + " " + field + " " + class
			if part != "" {
				classes[key] = part
			} else {
				part = classes[key]
			}
			if slices.Contains(parts, part) {
				markup.Set(n, "class", strings.TrimSpace(class+" kept-"+part))
			}
		}
		for c := n.FirstChild; c != nil; c = c.NextSibling {
			walk(c)
		}
	}
	walk(root)
}
