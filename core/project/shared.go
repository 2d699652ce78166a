package project

import (
	"ziegel/core/site"
)

// StyleNames lists the shared looks that can be used: the site's own, then those that ship.
func (e *Project) StyleNames() []string {
	var out []string
	for _, s := range e.Site.Styles {
		out = append(out, s.Name)
	}
	for _, s := range e.Shipped {
		if e.Site.Style(s.Name) == nil {
			out = append(out, s.Name)
		}
	}
	return out
}

// SharedStyle finds a shared look of the site, or one that ships, nil when there is none. file is where it stands.
func (e *Project) SharedStyle(name string) (s *site.SharedStyle, file *site.File) {
	if s := e.Site.Style(name); s != nil {
		return s, e.Site.File
	}
	for i := range e.Shipped {
		if e.Shipped[i].Name == name {
			return &e.Shipped[i], e.shippedFile
		}
	}
	return nil, nil
}
