package build

import (
	"path"
	"strings"

	"ziegel/core/compose"
	"ziegel/core/measure"
	"ziegel/core/project"
	"ziegel/core/site"
)

// Alone makes one self-contained HTML file of a page, or of those blocks of it that only names: stylesheets, fonts
// and pictures are in it.
func Alone(e *project.Project, p *site.Page, only []string) (string, error) {
	page, problems := measure.Page(e, p, compose.Options{Only: only})
	if err := problems.Err(); err != nil {
		return "", err
	}
	return Single(page.Path, page.HTML, func(name string) ([]byte, bool) {
		switch {
		case name == page.Site.Name:
			return []byte(page.Site.Text), true
		case name == page.Own.Name:
			return []byte(page.Own.Text), true
		case strings.HasPrefix(name, "fonts/"):
			data, err := e.FontData(project.FontFile{Name: strings.TrimPrefix(name, "fonts/")})
			return data, err == nil
		case strings.HasPrefix(name, "media/"):
			data, err := e.MediaFile(strings.TrimPrefix(path.Clean(name), "media/"))
			return data, err == nil
		}
		return nil, false
	})
}
