// Package library reads sections: folders of plain HTML, CSS and a short YAML description. It infers their fields,
// parts and options from the marks in the HTML. A section is files, never code.
package library

import (
	"slices"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/css"
	"ziegel/core/markup"
	"ziegel/core/site"
)

// FieldType is what a field takes.
type FieldType string

// The types of fields. The element that carries the mark decides.
const (
	RichText FieldType = "text"    // a line of text with inline Markdown
	Link     FieldType = "link"    // {label, to, look}
	Picture  FieldType = "picture" // {file, alt, focus}
	Icon     FieldType = "icon"    // the name of an icon
	ListOf   FieldType = "list"    // entries with fields of their own
	Switch   FieldType = "switch"  // yes or no
	Address  FieldType = "address" // where a form sends what was typed
	Tone     FieldType = "tone"    // the ground of one entry
)

// Field is a piece of content that a section shows.
type Field struct {
	Name   string
	Type   FieldType
	Sample string // the sample's text, for people
	Off    bool   // not shown until a page gives it
	// fields of the entries of a list; one named "." when the entry itself is the value, or its text
	Of      []*Field
	Samples []*site.Value // sample entries of a list, as a page would write them
}

// Find returns the field of a list's entries by name.
func (f *Field) Find(name string) *Field { return find(f.Of, name) }

// Whole gives the fields of an entry that is written as a map although it is a text alone mostly: its text under that
// name, and the others. There are none when an entry has nothing but itself.
func (f *Field) Whole() []*Field {
	self := f.Find(".")
	if self == nil || self.Type != RichText || len(f.Of) < 2 {
		return nil
	}
	out := []*Field{{Name: "text", Type: RichText}}
	for _, x := range f.Of {
		if x != self {
			out = append(out, x)
		}
	}
	return out
}

func find(list []*Field, name string) *Field {
	for _, f := range list {
		if f.Name == name {
			return f
		}
	}
	return nil
}

// Option is a choice that a section offers.
type Option struct {
	Name    string
	Summary string
	Type    string // "choice", "ratio", "number", "aspect", "length", "scale" or "place"
	Choices []string
	Default string
	Sets    []string // custom properties that it sets on the root, one private to the section when there are none
}

// Change is what one version of a section brought.
type Change struct {
	Version string
	Says    string
	Renames map[string]map[string]string // old name to new one, by fields, parts, options or slots
}

// Renamed are the kinds of what a version can rename.
var Renamed = []string{"fields", "parts", "options", "slots"}

// Section is one entry of the library.
type Section struct {
	Name     string // KIND/NAME
	Kind     string
	Summary  string
	Tags     []string
	Version  string
	Changes  []Change // what its versions brought, the newest first
	Notes    string
	About    string // section.yaml as it was read
	Usual    bool   // what people mostly mean by its kind
	Above    string // distance that the section asks for, "" for the theme's
	Below    string
	Options  []Option
	Measured []Measure
	Fields   []*Field
	Parts    []string
	Slots    []Slot // places that take other blocks
	Root     *html.Node
	HTML     string
	CSS      *css.Sheet
	Former   bool   // its files call something as an earlier version did
	Dir      string // shown in positions: sections/KIND/NAME
}

// Field finds a top-level field.
func (s *Section) Field(name string) *Field { return find(s.Fields, name) }

// Option finds an option.
func (s *Section) Option(name string) *Option {
	for i := range s.Options {
		if s.Options[i].Name == name {
			return &s.Options[i]
		}
	}
	return nil
}

// OptionNames lists the options.
func (s *Section) OptionNames() []string {
	var out []string
	for _, o := range s.Options {
		out = append(out, o.Name)
	}
	return out
}

// Measure finds a measured condition.
func (s *Section) Measure(name string) *Measure {
	for i := range s.Measured {
		if s.Measured[i].Name == name {
			return &s.Measured[i]
		}
	}
	return nil
}

// FieldNames lists the top-level fields.
func (s *Section) FieldNames() []string {
	var out []string
	for _, f := range s.Fields {
		out = append(out, f.Name)
	}
	return out
}

// OwnContainers reports whether parts of the section are size containers of their own.
func (s *Section) OwnContainers() bool {
	var declares func(nodes []*css.Node) bool
	declares = func(nodes []*css.Node) bool {
		return slices.ContainsFunc(nodes, func(n *css.Node) bool {
			return n.Kind == css.Declaration && (n.Name == "container-type" || n.Name == "container") ||
				declares(n.Children)
		})
	}
	return s.CSS != nil && declares(s.CSS.Nodes)
}

// HasPart reports whether a part can be styled.
func (s *Section) HasPart(name string) bool {
	for _, p := range s.Parts {
		if p == name {
			return true
		}
	}
	return false
}

// Slot is a place of a section that takes other blocks.
type Slot struct {
	Name string
	// what stands in it until the page says what does: names of sections, or blocks without a name
	Sample []*site.Value
}

// SlotNames lists the slots.
func (s *Section) SlotNames() []string {
	var out []string
	for _, x := range s.Slots {
		out = append(out, x.Name)
	}
	return out
}

// TypeOf tells what a marked element takes.
func TypeOf(n *html.Node) FieldType {
	switch n.Data {
	case "a":
		return Link
	case "img":
		return Picture
	case "svg":
		return Icon
	}
	return RichText
}

// Then is the field of every form that is sent away: the page that is shown when it was.
const Then = "then"

// infer reads the fields below a node; those inside a repeated entry belong to its list.
func infer(root *html.Node) []*Field {
	var out []*Field
	add := func(f *Field) *Field {
		if old := find(out, f.Name); old != nil {
			return old
		}
		out = append(out, f)
		return f
	}
	var walk func(n *html.Node, off bool)
	walk = func(n *html.Node, off bool) {
		if n.Type == html.ElementNode {
			if _, hidden := markup.Attr(n, "hidden"); hidden {
				off = true
			}
			if name, ok := markup.Attr(n, "data-each"); ok {
				f := find(out, name)
				if f == nil {
					f = add(&Field{Name: name, Type: ListOf, Off: off, Of: inferEntry(n)})
				}
				f.Samples = append(f.Samples, entryValue(n))
				return
			}
			if name, ok := markup.Attr(n, "data-flag"); ok {
				add(&Field{Name: name, Type: Switch})
			}
			if name, ok := markup.Attr(n, "data-tone"); ok {
				add(&Field{Name: name, Type: Tone})
			}
			if name, ok := markup.Attr(n, "data-to"); ok {
				sample, _ := markup.Attr(n, "action")
				add(&Field{Name: name, Type: Address, Sample: sample})
				if method, _ := markup.Attr(n, "method"); strings.EqualFold(method, "post") {
					add(&Field{Name: Then, Type: Address, Off: true})
				}
			}
			if name, ok := markup.Attr(n, "data-field"); ok {
				f := &Field{Name: name, Type: TypeOf(n), Off: off, Sample: markup.TextOf(n)}
				if f.Type == Icon {
					f.Sample, _ = markup.Attr(n, "data-icon")
				}
				if f.Type == Picture {
					f.Sample, _ = markup.Attr(n, "alt")
				}
				add(f)
			}
		}
		for c := n.FirstChild; c != nil; c = c.NextSibling {
			walk(c, off)
		}
	}
	walk(root, false)
	return out
}

// entryValue writes a sample entry as a page would: texts, links that lead nowhere yet, pictures by file.
func entryValue(n *html.Node) *site.Value {
	if name, ok := markup.Attr(n, "data-field"); ok && name == "." {
		return sampleOf(n)
	}
	out := &site.Value{Kind: site.Map}
	set := func(key string, v *site.Value) { out.Entries = append(out.Entries, site.Entry{Key: key, Value: v}) }
	if flag, ok := markup.Attr(n, "data-flag"); ok {
		class, _ := markup.Attr(n, "class")
		if strings.Contains(" "+class+" ", " "+flag+" ") {
			set(flag, site.NewText("yes"))
		}
	}
	var whole *site.Value
	var walk func(x *html.Node)
	walk = func(x *html.Node) {
		for c := x.FirstChild; c != nil; c = c.NextSibling {
			if c.Type != html.ElementNode {
				continue
			}
			if each, ok := markup.Attr(c, "data-each"); ok {
				if list := out.Get(each); list != nil {
					list.Items = append(list.Items, entryValue(c))
				} else {
					set(each, &site.Value{Kind: site.List, Items: []*site.Value{entryValue(c)}})
				}
				continue
			}
			if name, ok := markup.Attr(c, "data-field"); ok {
				if name == "." {
					whole = sampleOf(c)
				} else {
					set(name, sampleOf(c))
				}
				continue
			}
			walk(c)
		}
	}
	walk(n)
	if whole != nil {
		return whole
	}
	return out
}

// sampleOf writes the sample of one marked element.
func sampleOf(n *html.Node) *site.Value {
	switch TypeOf(n) {
	case Link:
		to, _ := markup.Attr(n, "href")
		v := site.NewMap("label", site.NewText(markup.TextOf(n)), "to", site.NewText(to))
		class, _ := markup.Attr(n, "class")
		for _, c := range strings.Fields(class) {
			if look, ok := strings.CutPrefix(c, "action-"); ok {
				v.Entries = append(v.Entries, site.Entry{Key: "look", Value: site.NewText(look)})
			}
		}
		return v
	case Picture:
		src, _ := markup.Attr(n, "src")
		if _, name, ok := strings.Cut(src, "../pictures/"); ok { // a shipped one
			src = name
		} else if _, name, ok := strings.Cut(src, "media/"); ok {
			src = name
		}
		alt, _ := markup.Attr(n, "alt")
		return site.NewMap("file", site.NewText(src), "alt", site.NewText(alt))
	case Icon:
		icon, _ := markup.Attr(n, "data-icon")
		return site.NewText(icon)
	}
	return site.NewText(markup.TextOf(n))
}

// inferEntry reads the fields of one entry, the marks on its own element included.
func inferEntry(n *html.Node) []*Field {
	shell := &html.Node{Type: html.ElementNode, Data: "div"}
	copied := *n
	copied.Attr = nil
	for _, a := range n.Attr {
		if a.Key != "data-each" {
			copied.Attr = append(copied.Attr, a)
		}
	}
	copied.Parent, copied.NextSibling, copied.PrevSibling = nil, nil, nil
	shell.FirstChild = &copied
	return infer(shell)
}

// Parts that a price has which is a value of its own, in the sections that show prices: they are there by themselves,
// unless a section calls something else so. A section with a field for the unit has the period in it.
const (
	PartAmount   = "amount"
	PartCurrency = "currency"
	PartPeriod   = "period"
)

func parts(root *html.Node) []string {
	out := marked(root)
	price, unit := false, false
	markup.Each(root, func(n *html.Node) {
		switch markup.Value(n, "data-field") {
		case "price":
			price = true
		case "unit":
			unit = true
		}
	})
	for _, p := range []string{PartAmount, PartCurrency, PartPeriod} {
		if price && !slices.Contains(out, p) && !(unit && p == PartPeriod) {
			out = append(out, p)
		}
	}
	return out
}

// marked lists the parts that elements of a section are, in their order.
func marked(root *html.Node) []string {
	var out []string
	seen := map[string]bool{}
	var walk func(n *html.Node)
	walk = func(n *html.Node) {
		if n.Type == html.ElementNode {
			if p, ok := markup.Attr(n, "data-part"); ok && !seen[p] {
				seen[p] = true
				out = append(out, p)
			}
		}
		for c := n.FirstChild; c != nil; c = c.NextSibling {
			walk(c)
		}
	}
	walk(root)
	return out
}

// Measure is a condition of a section that the layout of its real content answers. The section reads it as a private
// property,
// --_NAME, which is only there where the condition holds.
type Measure struct {
	Name      string
	Row       string // part whose boxes are to stand in one row: the value is yes
	Fit       string // part of the entries of which as many as fit are to stand in a row: the value is their number
	Least     string // a narrowest width for Fit, CSS length in px or rem
	Most      string // number or the option that gives it, for Fit
	Room      string // part whose width is asked, a size container; "" for the section itself
	RoomClass string // of that part in the section's files
	Summary   string
}
