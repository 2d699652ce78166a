package project

import (
	"slices"

	"ziegel/core/site"
)

// Path gives the built file of a page: see PagePath. Those of a translation stand in a folder of its language, under
// their addresses there.
func (e *Project) Path(name string) string { return e.PathIn(e.Site.Tag, name) }

// PathIn gives the built file of a page in a language, "" for that of the page files.
func (e *Project) PathIn(tag, name string) string {
	if tag == "" {
		return PagePath(name)
	}
	if name != "home" && name != Lost {
		name = e.Site.Slug(tag, name)
	}
	return tag + "/" + PagePath(name)
}

// SheetName gives the built style sheet of a page, or of the site.
func (e *Project) SheetName(name string) string {
	if e.Site.Tag != "" {
		name += "." + e.Site.Tag
	}
	return name + ".css"
}

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
