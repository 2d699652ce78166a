// Package words lets the text of a site travel: all texts of pages, in reading order, as one Markdown document that
// anybody can edit, as a table or as XLIFF, and back. It reads pages and documents, and says what differs; core/edit
// writes it.
package words

import (
	"fmt"
	"slices"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/library"
	"ziegel/core/markup"
	"ziegel/core/project"
	"ziegel/core/site"
)

// Kind is what a text is.
type Kind string

// The kinds of texts.
const (
	Text    Kind = "text"    // inline Markdown
	Link    Kind = "link"    // the label of a link
	Picture Kind = "picture" // what a picture shows, for those who cannot see it
	List    Kind = "list"    // entries, which have texts of their own
)

// Node is a field of a block or of an entry, as far as it has words.
type Node struct {
	Field   string // its name; "." for an entry that is a text itself
	Path    string // in the content of its block: items[2].title; of a page, title
	Kind    Kind
	Text    string // of a text; label; alternative text
	To      string // of a link, or the file of a picture
	Sample  bool   // the section's own, which no page says yet
	Entries [][]*Node
}

// Block is a block of a page with its words, or the page itself.
type Block struct {
	Name  string // "" for what the page says of itself
	Nodes []*Node
}

// Page is a page with its words. The blocks on every page are a page named EveryPage.
type Page struct {
	Name   string
	Blocks []*Block
}

// EveryPage is what the blocks that stand on every page are called together.
const EveryPage = "every-page"

// Of gives the words of a page: its title and description, and its blocks in reading order. Blocks on every page are
// not its own.
func Of(e *project.Project, p *site.Page) *Page {
	out := &Page{Name: p.Name}
	own := &Block{}
	for _, kv := range [][2]string{{"title", p.Title}, {"description", p.Description}} {
		if kv[1] != "" {
			own.Nodes = append(own.Nodes, &Node{Field: kv[0], Path: kv[0], Kind: Text, Text: kv[1]})
		}
	}
	out.Blocks = append(out.Blocks, own)
	for _, b := range e.Site.All(p) {
		if b.EveryPage == "" {
			out.Blocks = append(out.Blocks, OfBlock(e, b))
		}
	}
	return out
}

// OfEveryPage gives the words of the blocks that stand on every page.
func OfEveryPage(e *project.Project) *Page {
	out := &Page{Name: EveryPage}
	own := &Block{}
	if e.Site.Name != "" {
		own.Nodes = append(own.Nodes, &Node{Field: "name", Path: "name", Kind: Text, Text: e.Site.Name})
	}
	out.Blocks = append(out.Blocks, own)
	for _, list := range [][]*site.Block{e.Site.Top, e.Site.Bottom} {
		for _, b := range list {
			out.Blocks = append(out.Blocks, within(e, b)...)
		}
	}
	return out
}

// within gives a block and those that it holds.
func within(e *project.Project, b *site.Block) []*Block {
	out := []*Block{OfBlock(e, b)}
	for _, s := range b.Holds {
		for _, h := range s.Blocks {
			out = append(out, within(e, h)...)
		}
	}
	return out
}

// All gives the words of a site: what stands on every page, then page by page.
func All(e *project.Project) []*Page {
	out := []*Page{OfEveryPage(e)}
	for _, p := range e.Site.Pages() {
		out = append(out, Of(e, p))
	}
	return out
}

// OfBlock gives the words of a block.
func OfBlock(e *project.Project, b *site.Block) *Block {
	out := &Block{Name: b.Name}
	sec := e.Library.Section(b.Section)
	if sec == nil {
		return out
	}
	for _, f := range sec.Fields {
		if slices.ContainsFunc(b.Without, func(v *site.Value) bool { return v.Str() == f.Name }) {
			continue
		}
		v, sample := b.Content.Get(f.Name), false
		if v == nil && !f.Off {
			if own := wordFields(sec); slices.Contains(own, f.Name) {
				continue // the page says it in its language
			}
			v, sample = sampleOf(f), true
		}
		if n := nodeOf(f, v, f.Name, sample); n != nil {
			out.Nodes = append(out.Nodes, n)
		}
	}
	return out
}

// wordFields lists the fields of a section that pages fill in by themselves, in their language.
func wordFields(sec *library.Section) []string {
	var out []string
	markup.Each(sec.Root, func(n *html.Node) {
		if markup.Has(n, "data-word") && markup.Has(n, "data-field") {
			out = append(out, markup.Value(n, "data-field"))
		}
	})
	return out
}

// sampleOf gives what a field shows until a page says something, as a page would write it; nil when it shows nothing
// that has words.
func sampleOf(f *library.Field) *site.Value {
	switch {
	case f.Type == library.ListOf && len(f.Samples) > 0:
		return &site.Value{Kind: site.List, Items: f.Samples}
	case f.Type == library.Link && f.Sample != "":
		return site.NewMap("label", site.NewText(f.Sample), "to", site.NewText("#"))
	case f.Type == library.RichText && f.Sample != "":
		return site.NewText(f.Sample)
	}
	return nil
}

// nodeOf gives the words of a field, nil when there are none.
func nodeOf(f *library.Field, v *site.Value, path string, sample bool) *Node {
	n := &Node{Field: f.Name, Path: path, Sample: sample}
	switch f.Type {
	case library.RichText:
		n.Kind, n.Text = Text, v.Str()
		if v != nil && v.Kind == site.Map { // an entry that is a text mostly
			n.Text = v.Get("text").Str()
		}
	case library.Link:
		n.Kind, n.Text, n.To = Link, v.Get("label").Str(), v.Get("to").Str()
	case library.Picture:
		file := v.Get("file").Str() + v.Str()
		if file == "" || sample {
			return nil
		}
		n.Kind, n.Text, n.To = Picture, v.Get("alt").Str(), file
		return n
	case library.ListOf:
		if v == nil || v.Kind != site.List {
			return nil
		}
		n.Kind = List
		for i, it := range v.Items {
			n.Entries = append(n.Entries, entryOf(f, it, fmt.Sprintf("%s[%d]", path, i+1), sample))
		}
		if !slices.ContainsFunc(n.Entries, func(e []*Node) bool { return len(e) > 0 }) {
			return nil
		}
		return n
	default:
		return nil
	}
	if strings.TrimSpace(n.Text) == "" {
		return nil
	}
	return n
}

// entryOf gives the words of an entry of a list.
func entryOf(f *library.Field, v *site.Value, path string, sample bool) []*Node {
	if self := f.Find("."); self != nil {
		var out []*Node
		if n := nodeOf(self, v, path, sample); n != nil {
			out = append(out, n)
		}
		return out
	}
	var out []*Node
	for _, x := range f.Of {
		if n := nodeOf(x, v.Get(x.Name), path+"."+x.Name, sample); n != nil {
			out = append(out, n)
		}
	}
	return out
}

// Each calls do for every text of a page, in reading order.
func (p *Page) Each(do func(b *Block, n *Node)) {
	for _, b := range p.Blocks {
		each(b.Nodes, func(n *Node) { do(b, n) })
	}
}

func each(list []*Node, do func(n *Node)) {
	for _, n := range list {
		if n.Kind != List {
			do(n)
			continue
		}
		for _, e := range n.Entries {
			each(e, do)
		}
	}
}

// Address calls a text of a page: home title, home/plans.items[2].title.
func Address(page, block, path string) string {
	if block == "" {
		return page + " " + path
	}
	return page + "/" + block + "." + path
}

// paragraphs cuts a text where blank lines stand, with every run of white space one space: two texts that differ in
// nothing else say the same.
func paragraphs(text string) []string {
	var out []string
	for _, p := range strings.Split(strings.ReplaceAll(text, "\r\n", "\n"), "\n\n") {
		if p = strings.Join(strings.Fields(p), " "); p != "" {
			out = append(out, p)
		}
	}
	return out
}

// Same reports that two texts say the same, but for the white space that they are broken by.
func Same(a, b string) bool { return slices.Equal(paragraphs(a), paragraphs(b)) }

// Some gives the pages with the texts that are wanted alone. Lists stay whole when one of their texts is: entries are
// known by what they say.
func Some(pages []*Page, wanted func(p *Page, b *Block, n *Node) bool) []*Page {
	var out []*Page
	for _, p := range pages {
		page := &Page{Name: p.Name}
		for _, b := range p.Blocks {
			block := &Block{Name: b.Name}
			for _, n := range b.Nodes {
				any := false
				each([]*Node{n}, func(x *Node) { any = any || wanted(p, b, x) })
				if any {
					block.Nodes = append(block.Nodes, n)
				}
			}
			if len(block.Nodes) > 0 {
				page.Blocks = append(page.Blocks, block)
			}
		}
		if len(page.Blocks) > 0 {
			out = append(out, page)
		}
	}
	return out
}
