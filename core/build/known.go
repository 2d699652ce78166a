package build

import (
	"slices"
	"strings"

	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/draw"
	"ziegel/core/measure"
	"ziegel/core/media"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/styles"
	"ziegel/core/sweep"
)

// files gives the files of a page that an earlier build has made, when they lie there as they were written.
func (m Made) files(last *Last) (Files, bool) {
	out := Files{}
	for name, hash := range m.Files {
		if last.Lies(name, hash) {
			out[name] = File{From: hash, Lies: true}
			continue
		}
		data, ok := last.read(name, hash)
		if !ok {
			return nil, false
		}
		out[name] = File{Data: data, From: hash}
	}
	return out, true
}

// Asset gives a file that a page shows, by its path in the built site: a picture, a smaller copy of one, a font.
// cache is the folder that keeps copies.
func (m Made) Asset(e *project.Project, name, cache string) ([]byte, bool) {
	if f, ok := strings.CutPrefix(name, "fonts/"); ok {
		for _, font := range m.Fonts {
			if font.Name == f {
				data, err := e.FontData(font)
				return data, err == nil
			}
		}
		return nil, false
	}
	f, ok := strings.CutPrefix(name, "media/")
	if !ok {
		return nil, false
	}
	if slices.Contains(m.Media, f) {
		data, err := e.MediaFile(f)
		return data, err == nil
	}
	var same []media.Copy
	for _, c := range m.Copies {
		if c.Name == f {
			same = append(same, c)
		}
	}
	if len(same) == 0 {
		return nil, false
	}
	if made := copiesOf(e, same[0].From, same[:1], cache); len(made) > 0 {
		return made[0], true
	}
	return nil, false
}

// drawShare draws the picture that others show with a link to a page.
func drawShare(e *project.Project, p *site.Page, s *compose.Share) ([]byte, error) {
	if s.From != "" {
		data, err := e.MediaFile(s.From)
		if err != nil {
			return nil, err
		}
		return draw.File(e.Stock, s.From, data,
			draw.Cover{W: compose.ShareWidth, H: compose.ShareHeight, Ground: "white"})
	}
	page, _ := measure.Page(e, p, compose.Options{Marks: true})
	l, err := sweep.FromPage(e, page)
	if err != nil {
		return nil, err
	}
	opening := ""
	for _, b := range page.Blocks {
		if b.EveryPage == "" {
			opening = b.Name
			break
		}
	}
	return draw.SharePicture(l, opening)
}

// MakePage makes the files of one page, its own style sheet included.
func MakePage(e *project.Project, p *site.Page, opts Options) (Made, Files) {
	page, problems := measure.Page(e, p, compose.Options{Files: opts.Files})
	m := Made{Usage: styles.UsageOf(e, p), Files: map[string]string{}, Copies: page.Copies,
		Fonts: e.FontsOf(page.Blocks), Problems: problems}
	m.Samples = len(page.Sample)
	for _, f := range page.Fields {
		if f.State == compose.Sample {
			m.Samples++
		}
	}
	texts := map[string]string{page.Path: page.HTML}
	if page.Own.Text != "" {
		texts[e.SheetName(p.Name)] = page.Own.Text
	}
	files := Files{}
	if page.Share != nil {
		data, err := drawShare(e, p, page.Share)
		if err != nil {
			m.Problems = append(m.Problems, diag.Problem{Position: diag.Position{File: p.File.Path},
				Severity: diag.Warning,
				Rule:     "share-picture", Text: "the picture for links to the page cannot be drawn: " + err.Error(),
				Expected: "a picture that can: ziegel set " + p.Name + " picture=FILE.jpg"})
		} else {
			m.Files[page.Share.Path] = site.Hash(string(data))
			files[page.Share.Path] = File{Data: data, From: m.Files[page.Share.Path]}
		}
	}
	for name, text := range texts {
		m.Files[name] = site.Hash(text)
		files[name] = File{Data: []byte(text), From: m.Files[name]}
	}
	for _, f := range page.Media { // a copy may stand for it everywhere
		address := "media/" + project.URLPath(f)
		if strings.Contains(page.HTML, address) || strings.Contains(page.Own.Text, address) ||
			strings.Contains(page.Own.Text, "media/"+f) {
			m.Media = append(m.Media, f)
		}
	}
	return m, files
}
