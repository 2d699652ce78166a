package project

import (
	"slices"

	"ziegel/core/site"
)

// PagePath gives the built file of a page: home is index.html, others have a folder each.
func PagePath(name string) string {
	switch name {
	case "home":
		return "index.html"
	case Lost:
		return "404.html"
	}
	return name + "/index.html"
}

// Landmark tells which part of the page a kind of section belongs to.
func Landmark(kind string) string {
	switch {
	case kind == "nav" || kind == "announcement":
		return "header"
	case kind == "footer":
		return "footer"
	}
	return "main"
}

// PageWith finds the page that has a block: home when it does, else the first.
func (e *Project) PageWith(block string) *site.Page {
	if home := e.Site.Page("home"); home != nil && e.Site.Block(home, block) != nil {
		return home
	}
	for _, p := range e.Site.Mentioning(block) { // no other page is parsed
		if e.Site.Block(p, block) != nil {
			return p
		}
	}
	return nil
}

// Pages lists the pages that a build writes: those of the site, and one for addresses that do not exist.
func (e *Project) Pages() []*site.Page {
	pages := slices.Clone(e.Site.Pages())
	if !e.Site.HasPage(Lost) {
		pages = append(pages, e.BuiltPage(Lost))
	}
	return pages
}

// Lost is the page for addresses that do not exist.
const Lost = "404"

// BuiltPages lists the names of the pages that a build makes: those of the site, and one for addresses that do not
// exist.
func (e *Project) BuiltPages() []string {
	names := slices.Clone(e.Site.PageNames())
	if !e.Site.HasPage(Lost) {
		names = append(names, Lost)
	}
	return names
}

// BuiltPage gives one of them.
func (e *Project) BuiltPage(name string) *site.Page {
	if name == Lost && !e.Site.HasPage(Lost) {
		return &site.Page{Name: Lost, Title: Lost, File: e.Site.File}
	}
	return e.Site.Page(name)
}
