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

// Keep turns a block, with its styles, into a section of the site's own.
func Keep(p *Plan, arg, name, summary string) error {
	page, b, err := blockArg(p, arg)
	if err != nil {
		return err
	}
	if !sectionName.MatchString(name) {
		return fmt.Errorf("%q cannot be the name of a section: write KIND/NAME in small letters, such as pricing/tickets", name)
	}
	if p.Env.Library.Section(name) != nil {
		return fmt.Errorf("there is a section %s already; take another name", name)
	}
	return keepBlockAs(p, page, b, name, summary)
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
	dir := "sections/" + name + "/"
	for _, f := range [][2]string{{"section.html", kept.HTML}, {"section.css", kept.CSS},
		{"section.yaml", kept.YAML}} {
		p.files = append(p.files, site.FileChange{Path: dir + f[0], After: f[1], New: true})
	}
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
	p.Done = fmt.Sprintf("kept %s/%s as the section %s, in %s", page.Name, b.Name, name, strings.TrimSuffix(dir, "/"))
	if len(stay) > 0 {
		p.note("stays with the block, because it follows its own layout or shared looks: %s",
			strings.Join(stay, ", "))
	}
	p.Touch(page.Name, b.Name)
	return nil
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
