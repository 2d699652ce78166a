package build

import (
	_ "embed"
	"encoding/base64"
	"fmt"
	"html"
	"regexp"
	"strings"

	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/measure"
	"ziegel/core/project"
	"ziegel/core/search"
	"ziegel/core/site"
	"ziegel/core/styles"
)

//go:embed catalogue.css
var catalogueCSS string

//go:embed catalogue.js
var catalogueJS string

var bodyOf = regexp.MustCompile(`(?s)<body[^>]*>(.*)</body>`)

// Catalogue makes one self-contained HTML file that shows every section of a library in the site's theme, on a phone
// and on a desktop, with its fields, its options and the command that adds it. Stylesheets and fonts are in it once.
func Catalogue(e *project.Project, facts map[string]search.Facts) (string, diag.Problems) {
	env, page := shelfPage(e)
	sheet, problems := styles.SiteSheet(env)
	shared := sheet.Text
	for _, f := range env.FontsOf(page.Blocks) {
		if data, err := env.FontData(f); err == nil {
			shared = strings.ReplaceAll(shared, fmt.Sprintf("url(%q)", "fonts/"+f.Name),
				fmt.Sprintf("url(%q)", "data:font/woff2;base64,"+base64.StdEncoding.EncodeToString(data)))
		}
	}
	var b strings.Builder
	fmt.Fprintf(&b, "<!doctype html>\n<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\">\n<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">\n%s\n<title>Sections in %s</title>\n<style>\n%s</style>\n</head>\n<body>\n", Policy("\n"+catalogueJS), html.EscapeString(env.Theme.Name), catalogueCSS)
	fmt.Fprintf(&b, "<template id=\"shared\"><style>%s</style></template>\n", StyleText(shared))
	fmt.Fprintf(&b, "<header><h1>%d sections</h1><p>in the theme %s. Each with its sample content, on a phone and on a desktop.</p><nav>", len(page.Blocks), html.EscapeString(env.Theme.Name))
	for _, k := range env.Library.Kinds() {
		fmt.Fprintf(&b, "<a href=\"#%s\">%s</a> ", k, k)
	}
	b.WriteString("</nav></header>\n")
	kind := ""
	for _, block := range page.Blocks {
		sec := env.Library.Section(block.Section)
		one, ps := measure.Page(env, page, compose.Options{Only: []string{block.Name}, Sheet: sheet})
		problems = append(problems, ps...)
		text, err := Single(one.Path, one.HTML, func(name string) ([]byte, bool) {
			data, err := env.MediaFile(strings.TrimPrefix(name, "media/"))
			return data, err == nil && strings.HasPrefix(name, "media/")
		})
		if err != nil {
			continue
		}
		body := bodyOf.FindStringSubmatch(text)
		if body == nil {
			continue
		}
		id := ""
		if sec.Kind != kind {
			kind = sec.Kind
			id = fmt.Sprintf(" id=%q", kind)
		}
		f := facts[sec.Name]
		fmt.Fprintf(&b, "<section%s>\n<h2>%s</h2><p>%s</p>\n<p><code>ziegel add home %s</code></p>\n", id,
			html.EscapeString(sec.Name), html.EscapeString(sec.Summary), html.EscapeString(sec.Name))
		fmt.Fprintf(&b, "<template class=\"body\"><style>%s</style>%s</template>\n<div class=\"views\">",
			StyleText(one.Own.Text), body[1])
		for i, w := range []int{390, 1280} {
			h := f.Heights[i*2]
			if h == 0 {
				h = 800
			}
			fmt.Fprintf(&b, "<div class=\"view\" data-width=\"%d\" data-height=\"%d\"></div>", w, h)
		}
		fmt.Fprintf(&b, "</div>\n<dl><dt>fields</dt><dd>%s</dd>",
			html.EscapeString(strings.Join(sec.FieldNames(), ", ")))
		if len(sec.Options) > 0 {
			fmt.Fprintf(&b, "<dt>options</dt><dd>%s</dd>", html.EscapeString(optionsText(sec)))
		}
		b.WriteString("</dl>\n</section>\n")
	}
	fmt.Fprintf(&b, "<script>\n%s</script>\n</body>\n</html>\n", catalogueJS)
	return b.String(), problems
}

// shelfPage gives the environment with one page on which every section stands once.
func shelfPage(e *project.Project) (*project.Project, *site.Page) {
	f, _ := site.ReadFile("pages/home.yaml", "title: Sections\n")
	page := &site.Page{Name: "home", Title: "Sections", File: f}
	for _, s := range e.Library.All() {
		name := strings.ReplaceAll(s.Name, "/", "-")
		page.Blocks = append(page.Blocks, &site.Block{Name: name, Section: s.Name, Options: map[string]*site.Value{},
			Node: site.NewMap("name", site.NewText(name)), File: f, Path: site.Keys("blocks", len(page.Blocks))})
	}
	return e.Alone(page), page
}

func optionsText(s *library.Section) string {
	var out []string
	for _, o := range s.Options {
		t := o.Name
		if len(o.Choices) > 0 {
			t += ": " + strings.Join(o.Choices, " | ")
		}
		out = append(out, t)
	}
	return strings.Join(out, ", ")
}
