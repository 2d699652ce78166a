package check

import (
	"slices"

	"ziegel/core/diag"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/store"
	"ziegel/core/sweep"
)

// Pieced reports whether a page is checked block by block.
func Pieced(st store.Store, env *project.Project, l *sweep.Prepared, p *site.Page, problems diag.Problems, from,
	to int) bool {
	return runPieces(st, env, l, p, problems, from, to) != nil
}

// OverContent reports a rule that holds at no particular width.
func OverContent(name string) bool {
	return slices.ContainsFunc(contentList, func(r Rule) bool { return r.Name == name })
}
