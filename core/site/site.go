// Package site reads the designer's folder: ziegel.yaml, pages, data and media. It validates shapes with the position
// of every mistake, changes values in place without touching other bytes, and keeps a journal so that every edit can
// be taken back. What a section or a field means is the business of library and compose.
package site

import (
	"errors"
	"fmt"
	"io/fs"
	"strings"

	"ziegel/core/diag"
)

// Errors that callers tell apart.
var (
	ErrNoSite = errors.New("no site here")
)

func (s *Site) read(rel string) (*File, diag.Problems, error) {
	if c := s.changed[rel]; c != nil && !c.Gone {
		return parsed(rel, c.After)
	}
	if info, err := fs.Stat(Folder(s.Dir), rel); err == nil && info.Size() > maxBytes {
		return &File{Path: rel, Root: &Value{Kind: Null}}, diag.Problems{{Position: diag.Position{File: rel},
			Severity: diag.Error, Rule: "too-large",
			Text:     fmt.Sprintf("the file has %d MB", info.Size()>>20),
			Expected: "at most 16 MB; is this the right file?"}}, nil
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

// hasLook reports a shared look that the site's file has.
func (s *Site) hasLook(name string) bool { return s.File.Root.Get("looks").Get(name) != nil }

// hasIcon reports an icon that the site has drawn itself.
func (s *Site) hasIcon(name string) bool {
	_, err := fs.Stat(Folder(s.Dir), "media/icons/"+name+".svg")
	return err == nil
}
