package site

import (
	"errors"
	"fmt"
	"io/fs"
	"path"
	"runtime"
	"slices"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/parallel"
)

func onShelf(p *Page) *shelved {
	at := &shelved{}
	at.once.Do(func() { at.page.Store(p) })
	return at
}

// listPages finds the pages of a site by the names of their files.
func (s *Site) listPages() (*shelf, error) {
	list, err := fs.ReadDir(Folder(s.Dir), "pages")
	if err != nil && !errors.Is(err, fs.ErrNotExist) {
		return nil, fmt.Errorf("read pages: %w", diag.Bare(err))
	}
	out := &shelf{pages: map[string]*shelved{}}
	for _, d := range list {
		if c := s.changed["pages/"+d.Name()]; path.Ext(d.Name()) == ".yaml" && (c == nil || !c.Gone) {
			out.names = append(out.names, strings.TrimSuffix(d.Name(), ".yaml"))
		}
	}
	for name, c := range s.changed {
		page := strings.TrimSuffix(path.Base(name), ".yaml")
		if path.Dir(name) == "pages" && path.Ext(name) == ".yaml" && !c.Gone && !slices.Contains(out.names, page) {
			out.names = append(out.names, page)
		}
	}
	slices.SortFunc(out.names, func(a, b string) int { return strings.Compare(a+".yaml", b+".yaml") })
	for _, n := range out.names {
		out.pages[n] = &shelved{}
	}
	return out, nil
}

// readPage reads the file of a page. One that cannot be read is a page with that problem.
func (s *Site) readPage(name string) *Page {
	rel := "pages/" + name + ".yaml"
	p := &Page{Name: name}
	f, problems, err := s.read(rel)
	if err != nil {
		p.File = &File{Path: rel, Root: &Value{Kind: Null}}
		p.Problems = diag.Problems{{Position: diag.Position{File: rel}, Severity: diag.Error, Rule: "unreadable",
			Text: strings.TrimPrefix(err.Error(), "read "+rel+": "), Expected: "a file that can be read"}}
		return p
	}
	p.File = f
	if problems.Err() == nil {
		f.modernize(s)
		problems = append(problems, s.loadPage(p)...)
	}
	p.Problems = problems.Sorted()
	return p
}

// Page gives a page by name, read when it is first asked for; nil when there is none.
func (s *Site) Page(name string) *Page {
	if !s.HasPage(name) {
		return nil
	}
	at := s.pages.pages[name]
	at.once.Do(func() {
		if at.make != nil {
			at.page.Store(at.make())
			return
		}
		at.page.Store(s.readPage(name))
	})
	return at.page.Load()
}

// Read lists the pages that have been read so far.
func (s *Site) Read() []*Page {
	var out []*Page
	for _, n := range s.PageNames() {
		if p := s.pages.pages[n].page.Load(); p != nil {
			out = append(out, p)
		}
	}
	return out
}

// Pages gives all pages, in the order of their files. It reads those that were not asked for yet: who needs one page
// asks for that.
func (s *Site) Pages() []*Page { return s.some(s.PageNames()) }

// some gives pages by name.
func (s *Site) some(names []string) []*Page {
	out := make([]*Page, len(names))
	each(len(names), func(i int) { out[i] = s.Page(names[i]) })
	return out
}

// each calls f with 0 to n-1, on all cores.
func each(n int, f func(i int)) {
	workers := min(runtime.GOMAXPROCS(0), n/8+1) // a few are not worth another goroutine
	parallel.Each(workers, n, func(_, i int) bool { f(i); return true })
}

// Problems lists what is wrong in the files of all pages.
func (s *Site) Problems() diag.Problems {
	var out diag.Problems
	for _, p := range s.Pages() {
		out = append(out, p.Problems...)
	}
	return out.Sorted()
}

// Mentioning gives the pages whose files have one of some words anywhere: no others can mean what the word names.
// Only those are parsed.
func (s *Site) Mentioning(words ...string) []*Page { return s.some(s.NamesMentioning(words...)) }

// NamesMentioning names the pages that Mentioning gives, and parses none.
func (s *Site) NamesMentioning(words ...string) []string {
	all := s.PageNames()
	hits := make([]bool, len(all))
	each(len(hits), func(i int) {
		text, err := s.source("pages/" + all[i] + ".yaml")
		hits[i] = err != nil || slices.ContainsFunc(words, func(w string) bool { return strings.Contains(text, w) })
	})
	var names []string
	for i, n := range all {
		if hits[i] {
			names = append(names, n)
		}
	}
	return names
}

// Source gives the text of a file of the site as it was when it was parsed, "" for one that was not.
func (s *Site) Source(rel string) string {
	if rel == FileName {
		return s.File.Source
	}
	if name, ok := strings.CutPrefix(rel, "pages/"); ok {
		if at := s.pages.pages[strings.TrimSuffix(name, ".yaml")]; at != nil {
			if p := at.page.Load(); p != nil {
				return p.File.Source
			}
		}
	}
	return ""
}

// PageSource gives the text of a page's file without parsing it. Of a page that is made from data it is the text of its
// pattern, with that data.
func (s *Site) PageSource(page string) (string, error) {
	if at := s.pages.pages[page]; at != nil && at.from != "" {
		return at.from, nil
	}
	return s.source("pages/" + page + ".yaml")
}

// MadePage is a page that is made from data, after the pattern of another one.
type MadePage struct {
	Name string
	Root *Value // of its file, as if it had one
	From string // all that it is made from
}

// WithMade gives the site with pages in the place of their pattern.
func (s *Site) WithMade(pattern string, made []MadePage) *Site {
	out := *s
	out.pages = &shelf{pages: map[string]*shelved{}}
	for _, n := range s.pages.names {
		if n != pattern {
			out.pages.names = append(out.pages.names, n)
			out.pages.pages[n] = s.pages.pages[n]
		}
	}
	for _, m := range made {
		out.pages.names = append(out.pages.names, m.Name)
		out.pages.pages[m.Name] = &shelved{from: m.From, make: func() *Page {
			of := s.Page(pattern)
			f := *of.File
			f.Root = m.Root
			p := &Page{Name: m.Name, File: &f, Problems: of.Problems}
			if p.Problems.Err() == nil {
				p.Problems = append(diag.Problems(nil), s.loadPage(p)...)
			}
			return p
		}}
	}
	slices.Sort(out.pages.names)
	return &out
}

// source gives the text of a file of the site as it is, or as it would be.
func (s *Site) source(rel string) (string, error) {
	if c := s.changed[rel]; c != nil && !c.Gone {
		return c.After, nil
	}
	data, err := ReadIn(s.Dir, rel)
	return string(data), err
}

// Only gives the site with these pages instead of its own.
func (s *Site) Only(pages ...*Page) *Site {
	out := *s
	out.pages = &shelf{pages: map[string]*shelved{}}
	for _, p := range pages {
		out.pages.names = append(out.pages.names, p.Name)
		out.pages.pages[p.Name] = onShelf(p)
	}
	return &out
}

// Instead gives the site with another page in the place of the one that has its name.
func (s *Site) Instead(p *Page) *Site {
	out := *s
	out.pages = &shelf{names: s.pages.names, pages: map[string]*shelved{}}
	for n, at := range s.pages.pages {
		out.pages.pages[n] = at
	}
	out.pages.pages[p.Name] = onShelf(p)
	return &out
}

// Renamed lists what the files that were read call as an earlier version did.
func (s *Site) Renamed() []Renamed {
	out := slices.Clone(s.File.Renamed)
	for _, p := range s.Read() {
		out = append(out, p.File.Renamed...)
	}
	return out
}

// Translated gives the site in another language: with other blocks on every page and other pages, each made of its
// original when it is asked for.
func (s *Site) Translated(tag, name string, block func(b *Block) *Block, page func(p *Page) *Page) *Site {
	out := *s
	out.Tag, out.Language, out.Name = tag, tag, name
	out.Top, out.Bottom = Replaced(s.Top, block), Replaced(s.Bottom, block)
	out.pages = &shelf{names: s.pages.names, pages: map[string]*shelved{}}
	for _, n := range s.pages.names {
		out.pages.pages[n] = &shelved{make: func() *Page { return page(s.Page(n)) }}
	}
	return &out
}
