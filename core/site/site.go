// Package site reads the designer's folder: ziegel.yaml, pages, data and media. It validates shapes with the position
// of every mistake, changes values in place without touching other bytes, and keeps a journal so that every edit can
// be taken back. What a section or a field means is the business of library and compose.
package site

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"ziegel/core/diag"
)

// FileName is the file that makes a folder a site.
const FileName = "ziegel.yaml"

// Errors that callers tell apart.
var (
	ErrNoSite = errors.New("no site here")
)

// Range is a named span of screen widths, CSS px, both ends included. To 0 means without end.
type Range struct {
	Name     string
	From, To int
}

// DefaultRanges are in force when a site names none.
var DefaultRanges = []Range{{"phone", 0, 599}, {"tablet", 600, 1023}, {"desktop", 1024, 0}}

// Block is a section placed on a page.
type Block struct {
	Name    string
	Section string
	Options map[string]*Value
	Tone    string
	Above   *Value // distance or nil
	Below   *Value
	Lane    string
	Content *Value // a Map, or nil
	Without []*Value
	// fields that a command filled with the section's samples: what still says that is no content yet
	Seeded []*Value
	// content that says what a sample says and is meant so, by address in the block: items[2].price
	Own       []*Value
	Style     *Value // a Map, or nil
	Ground    *Value // a picture, gradient or color under it: a Map, or nil
	Node      *Value
	Path      Path // in its file
	File      *File
	EveryPage string // "top" or "bottom" for a block on every page
	Parked    *Value
	Holds     []Slot
	Draft     bool   // shown in the wireframe theme
	Sample    bool   // stands for what a slot may hold, until the page says what does
	Within    string // the block that holds it, "" on the page itself
	Slot      string // of that block
}

// Slot is a place of a block that takes other blocks.
type Slot struct {
	Name   string
	Blocks []*Block
	KeyPos diag.Position
}

// names collects the names of a block and of all that it holds.
func (b *Block) names(seen map[string]*Value) {
	seen[b.Name] = b.Node
	for i := range b.Holds {
		for _, h := range b.Holds[i].Blocks {
			h.names(seen)
		}
	}
}

// onEveryPage marks a block and all that it holds.
func (b *Block) onEveryPage(where string) {
	b.EveryPage = where
	for i := range b.Holds {
		for _, h := range b.Holds[i].Blocks {
			h.onEveryPage(where)
		}
	}
}

// SlotOf finds a slot that the page fills, nil when it says nothing of it.
func (b *Block) SlotOf(name string) *Slot {
	for i := range b.Holds {
		if b.Holds[i].Name == name {
			return &b.Holds[i]
		}
	}
	return nil
}

// Want is one line of a brief.
type Want struct {
	Text  string
	Block string
	Node  *Value
}

// Page is one page of a site.
type Page struct {
	Name        string
	Title       string
	Description string
	Brief       []Want
	Blocks      []*Block
	LeaveOut    []string // names of blocks on every page that this page does not have
	Override    map[string]*Value
	Defaults    []Default // for sections, on this page
	Turns       []Turn
	File        *File
	Problems    diag.Problems // of what is written in its file
}

// Site is a folder with its files read.
type Site struct {
	Dir      string
	File     *File
	Name     string
	Address  string
	Language string
	Theme    string
	Template string // the shipped template that it began as, whose words count as samples
	Ranges   []Range
	Styles   []SharedStyle
	Defaults []Default // for sections, on every page
	Turns    []Turn
	Top      []*Block
	Bottom   []*Block
	Favicon  string
	Hosts    []string // that sections may ask, by https
	Accepted []Accepted
	Tuned    []Tuned

	changed map[string]*FileChange // read instead of the files
	pages   *shelf
}

// Turn is a list of values that blocks take one after the other when they say nothing themselves: of their tone, or
// of an option.
type Turn struct {
	Name   string
	Values []*Value
	KeyPos diag.Position
	File   *File
}

// Tuned is an entry of tune: another limit or severity for a rule of the check, with its reason. At is a page, a
// block or a part of one; none means everywhere.
type Tuned struct {
	Rule, At, Because string
	Limit             *float64 // in the unit of the rule
	Severity          string   // error, warning or note
	Node              *Value
}

// Accepted is an entry of accept: a finding of the check that is meant so. At is a page, a block or a part of one;
// none means everywhere.
type Accepted struct {
	Rule, At, Because string
	Node              *Value
}

// Find looks for ziegel.yaml in dir and its parents.
func Find(dir string) (string, error) {
	abs, err := filepath.Abs(dir)
	if err != nil {
		return "", err
	}
	for d := abs; ; d = filepath.Dir(d) {
		if info, err := os.Stat(filepath.Join(d, FileName)); err == nil && !info.IsDir() {
			return d, nil
		}
		if filepath.Dir(d) == d {
			return "", fmt.Errorf("%w: there is no %s in %s or a folder above it", ErrNoSite, FileName, dir)
		}
	}
}

// Open reads the file of a site; its pages are read when they are asked for. The error is about the folder; problems
// are about what is written in the file. A Site comes back even with problems, with what could be read.
func Open(dir string) (*Site, diag.Problems, error) { return OpenWith(dir, nil) }

// OpenWith reads a site as it would be with these changes, of which nothing is written.
func OpenWith(dir string, changes []FileChange) (*Site, diag.Problems, error) {
	s := &Site{Dir: dir, Language: "en", Ranges: DefaultRanges, changed: map[string]*FileChange{}}
	for i := range changes {
		s.changed[changes[i].Path] = &changes[i]
	}
	main, problems, err := s.read(FileName)
	if err != nil {
		return nil, nil, err
	}
	s.File = main
	if problems.Err() == nil {
		problems = append(problems, s.loadMain()...)
	}
	s.pages, err = s.listPages()
	return s, problems.Sorted(), err
}

func (s *Site) read(rel string) (*File, diag.Problems, error) {
	if c := s.changed[rel]; c != nil && !c.Gone {
		return parsed(rel, c.After)
	}
	if info, err := fs.Stat(Folder(s.Dir), rel); err == nil && info.Size() > maxBytes {
		return &File{Path: rel, Root: &Value{Kind: Null}}, diag.Problems{{Position: diag.Position{File: rel}, Severity: diag.Error, Rule: "too-large",
			Text: fmt.Sprintf("the file has %d MB", info.Size()>>20), Expected: "at most 16 MB; is this the right file?"}}, nil
	}
	data, err := ReadIn(s.Dir, rel)
	if err != nil {
		return nil, nil, fmt.Errorf("read %s: %w", rel, diag.Bare(err))
	}
	return parsed(rel, string(data))
}

// ReadFile reads the text of a YAML file that is shown by this name.
func ReadFile(name, text string) (*File, diag.Problems) {
	f, problems, _ := parsed(name, text)
	return f, problems
}

func parsed(rel, text string) (*File, diag.Problems, error) {
	f, problems := parseFile(rel, strings.TrimPrefix(text, "\ufeff"))
	if f.Root == nil {
		f.Root = &Value{Kind: Null}
	}
	return f, problems, nil
}

// All returns the blocks of a page in their order on screen, those on every page included. What a block holds follows
// it.
func (s *Site) All(p *Page) []*Block {
	var out []*Block
	var add func(list []*Block)
	add = func(list []*Block) {
		for _, b := range list {
			if b.EveryPage != "" {
				if has(p.LeaveOut, b.Name) {
					continue
				}
				if o := p.Override[b.Name]; o != nil {
					c := *b
					c.Content = mergeMaps(b.Content, o)
					b = &c
				}
			}
			out = append(out, s.defaulted(p, b))
			for i := range b.Holds {
				add(b.Holds[i].Blocks)
			}
		}
	}
	add(s.Top)
	add(p.Blocks)
	add(s.Bottom)
	return out
}

// Replaced gives a copy of a list of blocks in which every block is what change makes of it, those held by others
// first; nil leaves one out.
func Replaced(list []*Block, change func(b *Block) *Block) []*Block {
	var out []*Block
	for _, b := range list {
		if len(b.Holds) > 0 {
			c := *b
			c.Holds = append([]Slot(nil), b.Holds...)
			for i := range c.Holds {
				c.Holds[i].Blocks = Replaced(c.Holds[i].Blocks, change)
			}
			b = &c
		}
		if b = change(b); b != nil {
			out = append(out, b)
		}
	}
	return out
}

func mergeMaps(a, b *Value) *Value {
	out := &Value{Kind: Map}
	if a != nil {
		out.Entries = append(out.Entries, a.Entries...)
		out.Pos = a.Pos
	}
	for _, e := range b.Entries {
		found := false
		for i := range out.Entries {
			if out.Entries[i].Key == e.Key {
				out.Entries[i], found = e, true
			}
		}
		if !found {
			out.Entries = append(out.Entries, e)
		}
	}
	return out
}

// Block finds a block of a page by name.
func (s *Site) Block(p *Page, name string) *Block {
	for _, b := range s.All(p) {
		if b.Name == name {
			return b
		}
	}
	return nil
}
