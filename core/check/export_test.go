package check

import (
	"slices"

	"ziegel/core/store"
)

// Pieced reports whether a page is checked block by block.
func Pieced(st store.Store, s *Subject, from, to int) bool {
	return (&inPieces{st, s.Env, s.Prepared, from, to}).run(s.Page, s.Problems) != nil
}

// OverContent reports a rule that holds at no particular width.
func OverContent(name string) bool {
	return slices.ContainsFunc(contentList, func(r Rule) bool { return r.Name == name })
}
