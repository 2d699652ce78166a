package audit

import (
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/site"
	"ziegel/core/store"
	"ziegel/core/sweep"
)

// Pieced reports whether a page is checked block by block.
func Pieced(st store.Store, env *compose.Env, l *sweep.Laid, p *site.Page, problems diag.Problems, from, to int) bool {
	return runPieces(st, env, l, p, problems, from, to) != nil
}
