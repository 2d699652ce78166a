package adopt

import (
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
)

// unbuild reads a section back from what it made.
type unbuild struct {
	env   *project.Project
	sec   *library.Section
	names *namer
	page  *Page
}

// record is what fields say, by name.
type record map[string]*site.Value
