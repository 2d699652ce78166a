package words

import (
	"slices"
	"strings"
)

// Change is a text that a document says otherwise.
type Change struct {
	Path   string // in the content of the block
	Kind   Kind
	Was    string
	Is     string
	To     string // where a link leads now, "" when that did not change
	Sample bool   // the page has shown the section's own so far
	Line   int    // of the document
}

// Reorder is a list whose entries are others, or stand in another order.
type Reorder struct {
	Path  string
	Items []Item
}

// Item is an entry of such a list.
type Item struct {
	From  int       // its index so far, -1 for a new one
	Texts []Change  // of a new one: Path is the name of the field
	Lists []Reorder // of a new one
}

// Diff is what a document says otherwise of a block.
type Diff struct {
	Page, Block string
	Changes     []Change
	Lists       []Reorder
	Aside       []string // what belongs to no field
	Missing     []string // paths of texts that are not in the document: they stay
	Conflicts   []Change // changed on both sides: the page's stays
}

// Nothing reports that a block is as it was, and all of it was found.
func (d *Diff) Nothing() bool {
	return len(d.Changes)+len(d.Lists)+len(d.Aside)+len(d.Missing)+len(d.Conflicts) == 0
}

// Compare says what a document says otherwise of a page.
func (d *Document) Compare(p *Page, have *FoundPage) []Diff {
	by := map[string][]*Found{}
	for _, b := range have.Blocks {
		by[b.Name] = append(by[b.Name], b.Found...)
	}
	var out []Diff
	diffs := map[string]*comparing{}
	for _, b := range p.Blocks {
		c := &comparing{doc: d, page: p, block: b, diff: Diff{Page: p.Name, Block: b.Name}}
		c.scope(b.Nodes, by[b.Name])
		diffs[b.Name] = c
	}
	moved(p, diffs)
	for _, b := range p.Blocks {
		c := diffs[b.Name]
		for _, f := range c.aside {
			c.diff.Aside = append(c.diff.Aside, markdownOf(f))
		}
		for _, n := range c.missing {
			c.diff.Missing = append(c.diff.Missing, n.Path)
		}
		if !c.diff.Nothing() {
			out = append(out, c.diff)
		}
	}
	return out
}

// moved looks for texts that stand under the heading of another block.
func moved(p *Page, diffs map[string]*comparing) {
	for _, b := range p.Blocks {
		c := diffs[b.Name]
		c.missing = slices.DeleteFunc(c.missing, func(n *Node) bool {
			for _, other := range p.Blocks {
				o := diffs[other.Name]
				for i, f := range o.aside {
					if fits(n, f) && n.Kind != List && alike(n, f) > .7 {
						o.aside = slices.Delete(o.aside, i, i+1)
						c.text(n, []*Found{f})
						return true
					}
				}
			}
			return false
		})
	}
}

// comparing compares one block.
type comparing struct {
	doc     *Document
	page    *Page
	block   *Block
	diff    Diff
	aside   []*Found
	missing []*Node
}

func (c *comparing) scope(want []*Node, have []*Found) {
	p := pair(want, have)
	for _, n := range want {
		found := p.of[n]
		switch {
		case len(found) == 0:
			each([]*Node{n}, func(x *Node) { c.missing = append(c.missing, x) })
		case n.Kind == List:
			c.list(n, found[0])
		default:
			c.text(n, found)
		}
	}
	c.aside = append(c.aside, p.left...)
}

// text compares one text.
func (c *comparing) text(n *Node, found []*Found) {
	var parts []string
	for _, f := range found {
		parts = append(parts, f.Text)
	}
	is := strings.Join(parts, "\n\n")
	ch := Change{Path: n.Path, Kind: n.Kind, Was: n.Text, Is: is, Sample: n.Sample, Line: found[0].Line}
	if n.Kind == Link && found[0].To != n.To {
		ch.To = found[0].To
	}
	if Same(n.Text, is) ||
		n.Kind != Text && slices.Equal(strings.Fields(n.Text), strings.Fields(is)) { // labels have one line
		ch.Is = n.Text
		if ch.To == "" {
			return
		}
	} else if same, known := c.doc.asWritten(Address(c.page.Name, c.block.Name, n.Path), is); same {
		return // the writer has left it as it was; the page has changed since
	} else if asOf, _ := c.doc.asWritten(Address(c.page.Name, c.block.Name, n.Path), n.Text); known && !asOf {
		c.diff.Conflicts = append(c.diff.Conflicts, ch)
		c.aside = append(c.aside, found...)
		return
	}
	c.diff.Changes = append(c.diff.Changes, ch)
}

// list compares the entries of a list.
func (c *comparing) list(n *Node, f *Found) {
	from := pairEntries(n.Entries, f.Items)
	seen := make([]bool, len(n.Entries))
	last, ordered := -1, true
	var items []Item
	for i, it := range f.Items {
		k := from[i]
		if k < 0 {
			if len(it) == 0 {
				continue
			}
			ordered = false
			items = append(items, c.newItem(n, it))
			continue
		}
		seen[k] = true
		ordered = ordered && k > last
		last = k
		items = append(items, Item{From: k})
		c.scope(n.Entries[k], it)
	}
	for k, e := range n.Entries { // what is not in the document keeps its place
		if seen[k] {
			continue
		}
		each(e, func(x *Node) { c.missing = append(c.missing, x) })
		at := 0
		for i, it := range items {
			if it.From >= 0 && it.From < k {
				at = i + 1
			}
		}
		items = slices.Insert(items, at, Item{From: k})
	}
	if !ordered {
		c.diff.Lists = append(c.diff.Lists, Reorder{Path: n.Path, Items: items})
	}
}

// newItem reads an entry that the writer has added, after the fullest of the others.
func (c *comparing) newItem(n *Node, found []*Found) Item {
	var like []*Node
	for _, e := range n.Entries {
		if len(e) > len(like) {
			like = e
		}
	}
	it := Item{From: -1}
	blank := make([]*Node, len(like))
	for i, x := range like {
		blank[i] = &Node{Field: x.Field, Path: x.Field, Kind: x.Kind, To: ""}
		if x.Kind == List && len(x.Entries) > 0 {
			blank[i].Entries = x.Entries
		}
	}
	p := pair(blank, found)
	for i, b := range blank {
		f := p.of[b]
		if len(f) == 0 {
			continue
		}
		if b.Kind == List {
			r := Reorder{Path: b.Field}
			for _, inner := range f[0].Items {
				r.Items = append(r.Items, c.newItem(like[i], inner))
			}
			it.Lists = append(it.Lists, r)
			continue
		}
		var parts []string
		for _, x := range f {
			parts = append(parts, x.Text)
		}
		it.Texts = append(it.Texts, Change{Path: b.Field, Kind: b.Kind, Is: strings.Join(parts, "\n\n"), To: f[0].To,
			Line: f[0].Line})
	}
	c.aside = append(c.aside, p.left...)
	return it
}

// markdownOf gives a piece of a document as it can be kept aside.
func markdownOf(f *Found) string {
	switch f.Kind {
	case Link:
		return "[" + escapeLabel(f.Text) + "](" + escapeTo(f.To) + ")"
	case Picture:
		return "![" + escapeLabel(f.Text) + "](" + escapeTo(f.To) + ")"
	case List:
		var out []string
		for _, it := range f.Items {
			var in []string
			for _, x := range it {
				in = append(in, markdownOf(x))
			}
			out = append(out, "- "+strings.ReplaceAll(strings.Join(in, "\n"), "\n", "\n  "))
		}
		return strings.Join(out, "\n")
	}
	return f.Text
}
