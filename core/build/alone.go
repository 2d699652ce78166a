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
	return alone(e, p, compose.Options{Only: only}, func(data []byte, _ string) []byte { return data })
}

// ForComments makes one self-contained file of a page that says of its elements which blocks and parts they are, so
// that it can be spoken of them. shrink makes pictures lighter; it is given their data and names.
func ForComments(e *project.Project, p *site.Page, shrink func(data []byte, name string) []byte) (string, error) {
	return alone(e, p, compose.Options{Marks: true}, shrink)
}

func alone(e *project.Project, p *site.Page, o compose.Options, shrink func(data []byte, name string) []byte) (string,
	error) {
	page, problems := measure.Page(e, p, o)
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
			if err != nil {
				return nil, false
			}
			return shrink(data, name), true
		}
		return nil, false
	})
}
