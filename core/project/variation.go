package project

import (
	"io/fs"

	"ziegel/core/library"
	"ziegel/core/site"
)

// A project is not changed once it is open: what differs is another project. These are the ways to one; they read
// nothing anew but what With changes, and share what is remembered.

// WithSite gives the project with another site in the place of its own.
func (e *Project) WithSite(s *site.Site) *Project {
	out := *e
	out.Site = s
	return &out
}

// WithLibrary gives the project with other sections.
func (e *Project) WithLibrary(l *library.Library) *Project {
	out := *e
	out.Library = l
	return &out
}

// WithFiles gives the project with another folder below it.
func (e *Project) WithFiles(dir fs.FS) *Project {
	out := *e
	out.Dir = dir
	return &out
}

// Only gives the project with some of its pages, or with others.
func (e *Project) Only(pages ...*site.Page) *Project { return e.WithSite(e.Site.Only(pages...)) }

// Alone gives the project with one page and nothing else on it than its own blocks, as the sections made them: what
// stands on every page is gone, with defaults and turns.
func (e *Project) Alone(p *site.Page) *Project {
	s := *e.Site
	s.Top, s.Bottom, s.Defaults, s.Turns = nil, nil, nil, nil
	return e.WithSite(s.Only(p))
}

// Vary gives the project and a page of it with every block of that page changed, those that stand on every page too.
func (e *Project) Vary(p *site.Page, change func(b *site.Block) *site.Block) (*Project, *site.Page) {
	page, s := *p, *e.Site
	s.Top, page.Blocks, s.Bottom = site.Replaced(s.Top, change), site.Replaced(p.Blocks, change),
		site.Replaced(s.Bottom, change)
	return e.WithSite(s.Instead(&page)), &page
}

// WithBlock gives the project and a page of it in which one block is another one of the same name.
func (e *Project) WithBlock(p *site.Page, b *site.Block) (*Project, *site.Page) {
	out, page := e.Vary(p, func(o *site.Block) *site.Block {
		if o.Name != b.Name {
			return o
		}
		c := *b
		c.Holds = o.Holds
		return &c
	})
	page.Override = nil // it is part of b
	return out, page
}
