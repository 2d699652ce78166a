// Package library reads sections: folders of plain HTML, CSS and a short YAML description. It infers their fields,
// parts and options from the marks in the HTML. A section is files, never code.
package library

import (
	"bytes"
	"errors"
	"fmt"
	"io/fs"
	"path"
	"slices"
	"sort"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/css"
	"ziegel/core/diag"
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
)

// Field is a piece of content that a section shows.
type Field struct {
	Name    string
	Type    FieldType
	Sample  string        // the sample's text, for people
	Off     bool          // not shown until a page gives it
	Of      []*Field      // fields of the entries of a list; one named "." when the entry itself is the value
	Samples []*site.Value // sample entries of a list, as a page would write them
}

// Find returns the field of a list's entries by name.
func (f *Field) Find(name string) *Field { return find(f.Of, name) }

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

// Section is one entry of the library.
type Section struct {
	Name     string // KIND/NAME
	Kind     string
	Summary  string
	Tags     []string
	Version  string
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
	Name   string
	Sample []string // the sections that stand in it until the page says what does
}

// SlotNames lists the slots.
func (s *Section) SlotNames() []string {
	var out []string
	for _, x := range s.Slots {
		out = append(out, x.Name)
	}
	return out
}

// Library is a set of sections.
type Library struct {
	Sections []*Section // by name
}

// Section finds a section by its full name.
func (l *Library) Section(name string) *Section {
	i := sort.Search(len(l.Sections), func(i int) bool { return l.Sections[i].Name >= name })
	if i < len(l.Sections) && l.Sections[i].Name == name {
		return l.Sections[i]
	}
	return nil
}

// Names lists all sections.
func (l *Library) Names() []string {
	out := make([]string, len(l.Sections))
	for i, s := range l.Sections {
		out[i] = s.Name
	}
	return out
}

// Kinds lists the kinds in use.
func (l *Library) Kinds() []string {
	var out []string
	for _, s := range l.Sections {
		if len(out) == 0 || out[len(out)-1] != s.Kind {
			out = append(out, s.Kind)
		}
	}
	return out
}

// Nearest finds the section name closest to what was typed.
func (l *Library) Nearest(typed string) string {
	if n := diag.Nearest(typed, l.Names()); n != "" {
		return n
	}
	for _, s := range l.Sections {
		if s.Kind == typed || strings.HasSuffix(s.Name, "/"+typed) {
			return s.Name
		}
	}
	return ""
}

// Load reads all sections below the folder root of each file system; later ones win over earlier ones of the same
// name. A missing folder is no error.
func Load(root string, from ...fs.FS) (*Library, diag.Problems) {
	byName := map[string]*Section{}
	var problems diag.Problems
	var shared []Option
	for _, fsys := range from {
		if data, err := fs.ReadFile(fsys, "options.yaml"); err == nil && shared == nil {
			v, ps := site.ParseValue(string(data))
			problems = append(problems, ps...)
			shared = readOptions(v)
		}
	}
	for _, fsys := range from {
		kinds, err := fs.ReadDir(fsys, root)
		if err != nil {
			if !errors.Is(err, fs.ErrNotExist) {
				problems = append(problems, diag.Problem{Position: diag.Position{File: root}, Severity: diag.Error, Rule: "unreadable", Text: "the sections cannot be read: " + err.Error()})
			}
			continue
		}
		for _, k := range kinds {
			if !k.IsDir() {
				continue
			}
			names, _ := fs.ReadDir(fsys, path.Join(root, k.Name()))
			for _, n := range names {
				if !n.IsDir() || empty(fsys, path.Join(root, k.Name(), n.Name())) {
					continue
				}
				s, ps := read(fsys, path.Join(root, k.Name(), n.Name()), k.Name()+"/"+n.Name(), shared)
				problems = append(problems, ps...)
				if s != nil {
					byName[s.Name] = s
				}
			}
		}
	}
	l := &Library{}
	for _, s := range byName {
		l.Sections = append(l.Sections, s)
	}
	sort.Slice(l.Sections, func(i, j int) bool { return l.Sections[i].Name < l.Sections[j].Name })
	return l, problems.Sorted()
}

// empty reports a folder with nothing in it: not a section that lacks its files, but none.
func empty(fsys fs.FS, dir string) bool {
	list, err := fs.ReadDir(fsys, dir)
	return err == nil && len(list) == 0
}

func read(fsys fs.FS, dir, name string, shared []Option) (*Section, diag.Problems) {
	var problems diag.Problems
	file := func(n string) string {
		data, err := fs.ReadFile(fsys, path.Join(dir, n))
		if err != nil {
			problems = append(problems, diag.Problem{Position: diag.Position{File: path.Join(dir, n)}, Severity: diag.Error, Rule: "missing-file",
				Text: "a section needs this file", Expected: "section.html, section.css and section.yaml in its folder"})
		}
		return string(data)
	}
	s := &Section{Name: name, Dir: dir, HTML: file("section.html")}
	sheet, about := file("section.css"), file("section.yaml")
	if len(problems) > 0 {
		return nil, problems
	}
	s.CSS = css.Parse(path.Join(dir, "section.css"), sheet)
	for _, e := range s.CSS.Errors {
		p := diag.At(s.CSS.File, sheet, e.Pos)
		problems = append(problems, diag.Problem{Position: p, Severity: diag.Error, Rule: "css", Text: e.Text, Source: diag.LineOf(sheet, p.Line)})
	}
	s.About = about
	problems = append(problems, s.describe(path.Join(dir, "section.yaml"), about, shared)...)
	doc, err := html.Parse(bytes.NewReader([]byte(s.HTML)))
	if err != nil {
		return nil, append(problems, diag.Problem{Position: diag.Position{File: path.Join(dir, "section.html")}, Severity: diag.Error, Rule: "html", Text: err.Error()})
	}
	body := Element(doc, "body")
	for c := body.FirstChild; c != nil; c = c.NextSibling {
		if c.Type == html.ElementNode {
			s.Root = c
			break
		}
	}
	if s.Root == nil {
		return nil, append(problems, diag.Problem{Position: diag.Position{File: path.Join(dir, "section.html")}, Severity: diag.Error, Rule: "html",
			Text: "the body is empty", Expected: "one element, the section itself"})
	}
	s.Fields = infer(s.Root)
	s.Parts = parts(s.Root)
	problems = append(problems, s.readSlots(path.Join(dir, "section.yaml"))...)
	return s, append(problems, s.checkMeasured(path.Join(dir, "section.yaml"))...)
}

func (s *Section) describe(file, source string, shared []Option) diag.Problems {
	v, problems := site.ParseValue(source)
	for i := range problems {
		problems[i].File = file
	}
	if problems.Err() != nil || v == nil {
		return problems
	}
	s.Kind = strings.SplitN(s.Name, "/", 2)[0]
	s.Summary, s.Version, s.Notes = v.Get("summary").Str(), v.Get("version").Str(), v.Get("notes").Str()
	s.Usual = v.Get("usual").Str() == "yes"
	s.Above, s.Below = v.Get("above").Str(), v.Get("below").Str()
	if t := v.Get("tags"); t != nil {
		for _, x := range t.Items {
			s.Tags = append(s.Tags, x.Str())
		}
	}
	if n := v.Get("name").Str(); n != s.Name {
		problems = append(problems, diag.Problem{Position: diag.Position{File: file, Line: 1, Column: 1}, Severity: diag.Error, Rule: "bad-name",
			Text: fmt.Sprintf("the section calls itself %q", n), Expected: "the name of its folder", Try: "name: " + s.Name})
	}
	at := func(p diag.Position) diag.Position {
		return diag.Position{File: file, Line: p.Line, Column: p.Column}
	}
	for i, o := range readOptions(v.Get("options")) {
		if o.Type == "" || o.Default == "" {
			problems = append(problems, diag.Problem{Position: at(v.Get("options").Entries[i].KeyPos), Severity: diag.Error, Rule: "bad-option",
				Text: fmt.Sprintf("the option %q has no choices or no default", o.Name), Expected: "choices: [a, b] or type: ratio, and a default"})
			continue
		}
		s.Options = append(s.Options, o)
	}
	if list := v.Get("shares"); list != nil {
		for _, n := range list.Items {
			i := slices.IndexFunc(shared, func(o Option) bool { return o.Name == n.Str() })
			if i < 0 {
				var names []string
				for _, o := range shared {
					names = append(names, o.Name)
				}
				problems = append(problems, diag.Problem{Position: at(n.Pos), Severity: diag.Error, Rule: "bad-option", Text: fmt.Sprintf("sections share no option %q", n.Str()), Expected: "one of " + strings.Join(names, ", "), Try: diag.Nearest(n.Str(), names)})
				continue
			}
			s.Options = append(s.Options, shared[i])
		}
	}
	if m := v.Get("measured"); m != nil {
		for _, e := range m.Entries {
			get := func(k string) string { return e.Value.Get(k).Str() }
			s.Measured = append(s.Measured, Measure{Name: e.Key, Row: get("row"), Fit: get("fit"), Least: get("least"), Most: get("most"), Room: get("room"), Summary: get("summary")})
		}
	}
	return problems
}

// readSlots finds the places that take other blocks, and what section.yaml puts into them as a sample.
func (s *Section) readSlots(file string) diag.Problems {
	var walk func(n *html.Node)
	walk = func(n *html.Node) {
		if name, ok := Attr(n, "data-holds"); ok {
			s.Slots = append(s.Slots, Slot{Name: name})
		}
		for c := n.FirstChild; c != nil; c = c.NextSibling {
			walk(c)
		}
	}
	walk(s.Root)
	v, ps := site.ParseValue(s.About)
	samples := v.Get("holds")
	if ps.Err() != nil || samples == nil {
		return nil
	}
	var problems diag.Problems
	for _, e := range samples.Entries {
		i := slices.IndexFunc(s.Slots, func(x Slot) bool { return x.Name == e.Key })
		if i < 0 {
			problems = append(problems, diag.Problem{Position: diag.Position{File: file, Line: e.KeyPos.Line, Column: e.KeyPos.Column}, Severity: diag.Error, Rule: "unknown-slot",
				Text: fmt.Sprintf("nothing in section.html has data-holds=%q", e.Key), Expected: "one of its slots: " + strings.Join(s.SlotNames(), ", "), Try: diag.Nearest(e.Key, s.SlotNames())})
			continue
		}
		for _, it := range e.Value.Items {
			s.Slots[i].Sample = append(s.Slots[i].Sample, it.Str())
		}
	}
	return problems
}

// Element finds the first element with a tag.
func Element(n *html.Node, tag string) *html.Node {
	if n.Type == html.ElementNode && n.Data == tag {
		return n
	}
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		if m := Element(c, tag); m != nil {
			return m
		}
	}
	return nil
}

// Attr returns an attribute of a node.
func Attr(n *html.Node, key string) (string, bool) {
	for _, a := range n.Attr {
		if a.Key == key {
			return a.Val, true
		}
	}
	return "", false
}

// TextOf returns all text inside, white space collapsed; an accent is written _so_.
func TextOf(n *html.Node) string {
	var b strings.Builder
	var walk func(n *html.Node)
	walk = func(n *html.Node) {
		if n.Type == html.TextNode {
			b.WriteString(n.Data)
		}
		em := n.Type == html.ElementNode && n.Data == "em"
		if em {
			b.WriteByte('_')
		}
		for c := n.FirstChild; c != nil; c = c.NextSibling {
			walk(c)
		}
		if em {
			b.WriteByte('_')
		}
	}
	walk(n)
	return strings.Join(strings.Fields(b.String()), " ")
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
			if _, hidden := Attr(n, "hidden"); hidden {
				off = true
			}
			if name, ok := Attr(n, "data-each"); ok {
				f := find(out, name)
				if f == nil {
					f = add(&Field{Name: name, Type: ListOf, Off: off, Of: inferEntry(n)})
				}
				f.Samples = append(f.Samples, entryValue(n))
				return
			}
			if name, ok := Attr(n, "data-flag"); ok {
				add(&Field{Name: name, Type: Switch})
			}
			if name, ok := Attr(n, "data-to"); ok {
				sample, _ := Attr(n, "action")
				add(&Field{Name: name, Type: Address, Sample: sample})
			}
			if name, ok := Attr(n, "data-field"); ok {
				f := &Field{Name: name, Type: TypeOf(n), Off: off, Sample: TextOf(n)}
				if f.Type == Icon {
					f.Sample, _ = Attr(n, "data-icon")
				}
				if f.Type == Picture {
					f.Sample, _ = Attr(n, "alt")
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
	if name, ok := Attr(n, "data-field"); ok && name == "." {
		return sampleOf(n)
	}
	out := &site.Value{Kind: site.Map}
	set := func(key string, v *site.Value) { out.Entries = append(out.Entries, site.Entry{Key: key, Value: v}) }
	if flag, ok := Attr(n, "data-flag"); ok {
		class, _ := Attr(n, "class")
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
			if each, ok := Attr(c, "data-each"); ok {
				if list := out.Get(each); list != nil {
					list.Items = append(list.Items, entryValue(c))
				} else {
					set(each, &site.Value{Kind: site.List, Items: []*site.Value{entryValue(c)}})
				}
				continue
			}
			if name, ok := Attr(c, "data-field"); ok {
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
		to, _ := Attr(n, "href")
		v := site.NewMap("label", site.NewText(TextOf(n)), "to", site.NewText(to))
		class, _ := Attr(n, "class")
		for _, c := range strings.Fields(class) {
			if look, ok := strings.CutPrefix(c, "action-"); ok {
				v.Entries = append(v.Entries, site.Entry{Key: "look", Value: site.NewText(look)})
			}
		}
		return v
	case Picture:
		src, _ := Attr(n, "src")
		if _, name, ok := strings.Cut(src, "../pictures/"); ok { // a shipped one
			src = name
		} else if _, name, ok := strings.Cut(src, "media/"); ok {
			src = name
		}
		alt, _ := Attr(n, "alt")
		return site.NewMap("file", site.NewText(src), "alt", site.NewText(alt))
	case Icon:
		icon, _ := Attr(n, "data-icon")
		return site.NewText(icon)
	}
	return site.NewText(TextOf(n))
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

func parts(root *html.Node) []string {
	var out []string
	seen := map[string]bool{}
	var walk func(n *html.Node)
	walk = func(n *html.Node) {
		if n.Type == html.ElementNode {
			if p, ok := Attr(n, "data-part"); ok && !seen[p] {
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
