package compose

import (
	"fmt"
	"io/fs"
	"regexp"
	"strings"

	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/styles"
)

var tagForm = regexp.MustCompile(`<[a-zA-Z][^>]*>`)

// faceless writes tags as they would be on any page: classes of the page's own, links to elsewhere and the way to the
// site's root are the same everywhere. Words are never touched.
func faceless(markup, page string, links bool) string {
	return tagForm.ReplaceAllStringFunc(markup, func(tag string) string {
		return styles.AttrForm.ReplaceAllStringFunc(tag, func(attr string) string {
			m := styles.AttrForm.FindStringSubmatch(attr)
			name, value := m[1], m[2]
			switch {
			case name == "class":
				list := strings.Fields(value)
				for i, c := range list {
					if rest, ok := strings.CutPrefix(c, page+"-"); ok {
						list[i] = "page-" + rest
					}
				}
				value = strings.Join(list, " ")
			case name == "href" && !strings.HasPrefix(value, "#"):
				if links {
					value = "far"
				}
			default:
				value = strings.ReplaceAll(value, "../", "")
			}
			return " " + name + `="` + value + `"`
		})
	})
}

// addressesOnPaper is whom base.css asks for their address to print it: on a screen no box follows from it.
const addressesOnPaper = `.page-block a[href^="http"]`

// Faceless writes down all that the boxes of a page follow from, pictures and fonts included, so that blocks of
// several pages that look the same have the same text: neither the page's name, nor what its head says, nor where its
// links lead changes a box.
func Faceless(e *project.Project, page *Page) string {
	sheets := page.Site.Text + "\x00" + page.Own.Text
	_, body, _ := strings.Cut(page.HTML, "<body>")
	asks := strings.Contains(strings.ReplaceAll(sheets, addressesOnPaper, ""), "[href")
	body = faceless(body, page.Name, !asks)
	same := strings.NewReplacer("."+page.Name+"-", ".page-", `"../`, `"`, "(../", "(")
	var b strings.Builder
	fmt.Fprintln(&b, e.Site.Language, e.Site.Ranges)
	for _, f := range e.FontsOf(page.Blocks) {
		b.WriteString(f.Name + " " + fontHash(e, f.Name) + "\n")
	}
	for _, m := range page.Media {
		w, h, err := e.PictureSize(m)
		fmt.Fprintln(&b, m, w, h, err == nil)
	}
	b.WriteString(body + "\x00" + same.Replace(sheets))
	return b.String()
}

// fontHash names the content of a font file of the site's own.
func fontHash(e *project.Project, name string) string {
	return project.Once(e, fontKey(name), func() string {
		if _, err := fs.Stat(e.Stock, "fonts/"+name); err == nil { // those that ship change with the program only
			return ""
		}
		data, err := fs.ReadFile(e.Dir, "media/fonts/"+name)
		if err != nil {
			return ""
		}
		return site.Hash(string(data))
	})
}

type fontKey string
