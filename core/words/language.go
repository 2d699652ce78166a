package words

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/project"
	"ziegel/core/site"
)

// In gives the site in another of its languages: with the translations in the place of the originals, as far as there
// are any. The language of the page files gives the site itself.
func In(e *project.Project, tag string) *project.Project {
	w := e.Site.Words[tag]
	if w == nil || tag == e.Site.Tag {
		return e
	}
	t := &translator{e: e, words: w, blocks: map[string][]site.Word{}}
	for _, x := range w.Entries {
		if page, block, _, ok := ParseAddress(x.Address); ok && block != "" {
			key := page + "/" + block
			t.blocks[key] = append(t.blocks[key], x)
		}
	}
	name := e.Site.Name
	if x, ok := w.Get(Address(EveryPage, "", "name")); ok && x.Is != "" {
		name = x.Is
	}
	everywhere := func(b *site.Block) *site.Block { return t.block(EveryPage, b) }
	return e.WithSite(e.Site.Translated(tag, name, everywhere, t.page))
}

// Languages lists the languages of a site besides that of its page files.
func Languages(e *project.Project) []string {
	if len(e.Site.Languages) < 2 || e.Site.Tag != "" {
		return nil
	}
	return e.Site.Languages[1:]
}

type translator struct {
	e      *project.Project
	words  *site.Words
	blocks map[string][]site.Word // by PAGE/BLOCK
}

// page translates what a page says of itself, and its blocks.
func (t *translator) page(p *site.Page) *site.Page {
	if p == nil {
		return nil
	}
	out := *p
	for key, at := range map[string]*string{"title": &out.Title, "description": &out.Description} {
		if w, ok := t.words.Get(Address(p.Name, "", key)); ok && w.Is != "" && *at != "" {
			*at = w.Is
		}
	}
	out.Blocks = site.Replaced(p.Blocks, func(b *site.Block) *site.Block { return t.block(p.Name, b) })
	return &out
}

// block translates a block.
func (t *translator) block(page string, b *site.Block) *site.Block {
	list := t.blocks[page+"/"+b.Name]
	if len(list) == 0 {
		return b
	}
	var content *site.Value
	each(OfBlock(t.e, b).Nodes, func(n *Node) {
		w, ok := find(list, page, b.Name, n)
		if !ok {
			return
		}
		if content == nil {
			if content = b.Content.Clone(); content == nil {
				content = &site.Value{Kind: site.Map}
			}
		}
		t.put(b, content, n, w)
	})
	if content == nil {
		return b
	}
	c := *b
	c.Content = content
	return &c
}

var index = regexp.MustCompile(`\[\d+\]`)

// find gives the translation of a text: that of its address, unless it is one of another text that stood there before;
// then that of the same words elsewhere in the block.
func find(list []site.Word, page, block string, n *Node) (site.Word, bool) {
	address := Address(page, block, n.Path)
	i := slices.IndexFunc(list, func(w site.Word) bool { return w.Address == address })
	if i >= 0 && (list[i].Of == "" || Same(list[i].Of, n.Text)) {
		return list[i], list[i].Is != ""
	}
	pattern := index.ReplaceAllString(address, "[]")
	for _, w := range list {
		if w.Of != "" && Same(w.Of, n.Text) && index.ReplaceAllString(w.Address, "[]") == pattern {
			return w, w.Is != ""
		}
	}
	if i >= 0 && !strings.Contains(pattern, "[]") { // the original has changed; its entry cannot have been another
		return list[i], list[i].Is != ""
	}
	if i >= 0 && likeness(list[i].Of, n.Text) >= nearly {
		return list[i], list[i].Is != ""
	}
	return site.Word{}, false
}

// put writes a translation into the content of a block. It stands where it was written, for messages.
func (t *translator) put(b *site.Block, content *site.Value, n *Node, w site.Word) {
	text := site.NewText(w.Is)
	text.Pos, text.Width = w.Node.Pos, w.Node.Width
	if is := w.Node.Get("is"); is != nil {
		text.Pos, text.Width = is.Pos, is.Width
	}
	sec := t.e.Library.Section(b.Section)
	if sec == nil {
		return
	}
	if n.Sample {
		name, _, _ := strings.Cut(n.Path, "[")
		name, _, _ = strings.Cut(name, ".")
		if content.Get(name) == nil {
			if f := sec.Field(name); f != nil {
				v := sampleOf(f).Clone()
				if v == nil {
					return
				}
				content.Entries = append(content.Entries, site.Entry{Key: name, Value: v, KeyPos: b.Node.Pos})
			}
		}
	}
	at := at(content, n.Path)
	if at == nil {
		return
	}
	v := *at
	switch {
	case v.Kind == site.Map && n.Kind == Link:
		set(v, "label", text)
	case n.Kind == Picture:
		if v.Kind == site.Text { // a file name alone
			file := *v
			v = &site.Value{
				Kind:    site.Map,
				Pos:     file.Pos,
				Entries: []site.Entry{{Key: "file", Value: &file, KeyPos: file.Pos}},
			}
			*at = v
		}
		set(v, "alt", text)
		if file := w.Node.Get("file"); file.Str() != "" {
			set(v, "file", file)
		}
	case v.Kind == site.Map: // an entry that is a text mostly
		set(v, "text", text)
	default:
		*at = text
	}
}

func set(m *site.Value, key string, v *site.Value) {
	for i := range m.Entries {
		if m.Entries[i].Key == key {
			m.Entries[i].Value = v
			return
		}
	}
	m.Entries = append(m.Entries, site.Entry{Key: key, Value: v, KeyPos: v.Pos})
}

var step = regexp.MustCompile(`([a-z][a-z0-9-]*)|\[(\d+)\]`)

// at gives the place of a value in content, nil when there is none.
func at(v *site.Value, path string) **site.Value {
	place := &v
	for _, m := range step.FindAllStringSubmatch(path, -1) {
		here := *place
		if m[1] != "" {
			i := slices.IndexFunc(here.Entries, func(e site.Entry) bool { return e.Key == m[1] })
			if here.Kind != site.Map || i < 0 {
				return nil
			}
			place = &here.Entries[i].Value
			continue
		}
		n := 0
		_, _ = fmt.Sscan(m[2], &n)
		if here.Kind != site.List || n < 1 || n > len(here.Items) {
			return nil
		}
		place = &here.Items[n-1]
	}
	return place
}

// State says how a text stands in a language.
type State string

// The states of translations.
const (
	Open   State = "open"  // there is none
	Stale  State = "stale" // the original has changed since
	Ready  State = "ready"
	Orphan State = "orphan" // a translation of what is not there any more
)

// Translation is a text with its translation.
type Translation struct {
	Row
	State  State
	Sample bool // the original is a section's sample
}

// Translations lists the texts of a site in reading order with their translations to a language, then those of which
// the original is gone.
func Translations(e *project.Project, tag string, note Note) []Translation {
	w := e.Site.Words[tag]
	by := map[string][]site.Word{}
	for _, x := range w.Entries {
		page, block, _, _ := ParseAddress(x.Address)
		by[page+"/"+block] = append(by[page+"/"+block], x)
	}
	var out []Translation
	used := map[string]bool{}
	for _, p := range All(e) {
		p.Each(func(b *Block, n *Node) {
			if strings.TrimSpace(n.Text) == "" { // a picture that says nothing
				return
			}
			t := Translation{Row: Row{Page: p.Name, Block: b.Name, Path: n.Path, Kind: n.Kind,
				Text: strings.Join(paragraphs(n.Text), "\n\n")}, State: Open, Sample: n.Sample}
			if note != nil {
				t.Note = note(p, b, n)
			}
			if x, ok := find(by[p.Name+"/"+b.Name], p.Name, b.Name, n); ok {
				used[x.Address] = true
				t.State, t.Target = Ready, x.Is
				if x.Of != "" && !Same(x.Of, n.Text) {
					t.State, t.Was = Stale, x.Of
				}
			}
			out = append(out, t)
		})
	}
	for _, x := range w.Entries {
		page, block, path, ok := ParseAddress(x.Address)
		if !ok || used[x.Address] || block == "" && path == "address" {
			continue
		}
		if x.Is != "" {
			out = append(out, Translation{Row: Row{Page: page, Block: block, Path: path, Text: x.Of, Target: x.Is,
				Line: x.KeyPos.Line}, State: Orphan})
		}
	}
	return out
}

// Mistakes lists what is wrong with the translations of a site: addresses of nothing, addresses of pages that two have,
// marks of the original that a translation has not.
func Mistakes(e *project.Project) diag.Problems {
	var out diag.Problems
	for _, tag := range Languages(e) {
		w := e.Site.Words[tag]
		slugs := map[string]string{}
		for _, p := range e.Site.PageNames() {
			slug := e.Site.Slug(tag, p)
			if x, ok := w.Get(p + " address"); ok {
				at := site.Entry{Key: x.Address, Value: x.Node, KeyPos: x.KeyPos}
				if !site.ValidName(x.Is) {
					out = append(
						out,
						w.File.KeyProblem(at, "bad-name", fmt.Sprintf("%q cannot be the address of a page", x.Is),
							"small letters, digits and hyphens, beginning with a letter", ""),
					)
				}
			}
			if other := slugs[slug]; other != "" {
				out = append(
					out,
					diag.Problem{Position: diag.Position{File: w.File.Path, Line: 1, Column: 1}, Severity: diag.Error,
						Rule: "duplicate-name", Text: fmt.Sprintf("the pages %s and %s have the same address in %s: %s",
							other, p, tag, slug),
						Expected: "another address for one of them"},
				)
			}
			slugs[slug] = p
		}
		for _, x := range w.Entries {
			page, block, _, ok := ParseAddress(x.Address)
			at := site.Entry{Key: x.Address, Value: x.Node, KeyPos: x.KeyPos}
			switch {
			case !ok:
				out = append(
					out,
					w.File.KeyProblem(at, "unknown-address", fmt.Sprintf("%q is no address of a text", x.Address),
						"such as home title, home/plans.heading or every-page/menu.links[1]", ""),
				)
			case page != EveryPage && !e.Site.HasPage(page):
				p := w.File.KeyProblem(at, "unknown-address", fmt.Sprintf("there is no page %q", page),
					"a page of the site, or "+EveryPage, diag.Nearest(page, append(e.Site.PageNames(), EveryPage)))
				p.Severity = diag.Warning
				out = append(out, p)
			case block != "" && page != EveryPage && e.Site.Block(e.Site.Page(page), block) == nil:
				p := w.File.KeyProblem(
					at,
					"unknown-address",
					fmt.Sprintf("the page %s has no block %q", page, block),
					"one of its blocks",
					"",
				)
				p.Severity = diag.Warning
				out = append(out, p)
			}
		}
	}
	return out.Sorted()
}
