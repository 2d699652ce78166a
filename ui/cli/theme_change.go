package cli

import (
	"ziegel/core/edit"
	"ziegel/core/site"
)

// changeTheme writes the site's own token files and tells what changed for its texts.
func (a *app) changeTheme(dry bool, how func(t *edit.TokenFiles) error, done string, with ...site.FileChange) error {
	return a.change(dry, func(p *edit.Plan) error { return edit.Tokens(p, how, done, a.anyway, with...) })
}
