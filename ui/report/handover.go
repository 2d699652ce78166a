package report

import (
	"embed"
	"encoding/base64"
	"fmt"
	"html"
	"html/template"
	"io"
	"math"
	"mime"
	"path"
	"strconv"
	"strings"

	"ziegel/core/build"
	"ziegel/core/handover"
)

//go:embed handover.html handover.css handover.js
var handoverFiles embed.FS

// handoverPage is what the page of a handover is made from.
type handoverPage struct {
	Book   *handover.Book
	Made   string
	Policy template.HTML
	CSS    template.CSS
	JS     template.JS
	one    bool
}

// Handover writes the page of a handover. Its files lie beside it; with one they are in it.
func Handover(w io.Writer, b *handover.Book, made string, one bool) error {
	t, err := template.ParseFS(handoverFiles, "handover.html")
	if err != nil {
		return err
	}
	css, err := handoverFiles.ReadFile("handover.css")
	if err != nil {
		return err
	}
	js, err := handoverFiles.ReadFile("handover.js")
	if err != nil {
		return err
	}
	policy := build.Policy(string(js))
	if !one { // its files lie beside it
		policy = strings.NewReplacer("img-src data:", "img-src data: 'self' file:", "font-src data:",
			"font-src data: 'self' file:").Replace(policy)
	}
	p := &handoverPage{Book: b, Made: made, Policy: template.HTML(policy), JS: template.JS(js), one: one}
	p.CSS = template.CSS(p.faces() + string(css))
	return t.Execute(w, p)
}

// Widths are the screens of the pictures.
func (p *handoverPage) Widths() []int { return handover.Widths }

// Src gives the address of a file: its path, or all of it.
func (p *handoverPage) Src(file string) template.URL {
	if !p.one {
		return template.URL(file)
	}
	kind := map[string]string{".png": "image/png", ".svg": "image/svg+xml", ".css": "text/css",
		".json": "application/json", ".woff2": "font/woff2"}[path.Ext(file)]
	if kind == "" {
		kind = mime.TypeByExtension(path.Ext(file))
	}
	return template.URL("data:" + kind + ";base64," + base64.StdEncoding.EncodeToString(p.Book.Files[file]))
}

// Px writes a length.
func (p *handoverPage) Px(v float64) string {
	return strconv.FormatFloat(math.Round(v*100)/100, 'f', -1, 64)
}

// Swatch draws a color, which prints as it is seen.
func (p *handoverPage) Swatch(color string) template.HTML {
	return template.HTML(
		fmt.Sprintf(
			`<svg preserveAspectRatio="none" viewBox="0 0 1 1" aria-hidden="true"><rect width="1" height="1" fill="%s"/></svg>`,
			html.EscapeString(color),
		),
	)
}

// Specimen gives the style of a line in a size of type, on the widest screen.
func (p *handoverPage) Specimen(t handover.TypeStyle) template.CSS {
	size := 0.0
	if n := len(t.Px); n > 0 {
		size = t.Px[n-1]
	}
	return template.CSS(fmt.Sprintf("font:%s %spx/%s %q", t.Weight, p.Px(size), t.LineHeight, t.Face))
}

// faces lets the page show the theme's own type.
func (p *handoverPage) faces() string {
	var b strings.Builder
	for _, f := range p.Book.Fonts {
		weight, style := strconv.Itoa(f.Weight), "normal"
		if f.To > 0 {
			weight += " " + strconv.Itoa(f.To)
		}
		if f.Italic {
			style = "italic"
		}
		fmt.Fprintf(
			&b,
			"@font-face { font-family: %q; font-weight: %s; font-style: %s; src: url(%q); }\n",
			f.Family,
			weight,
			style,
			p.Src("fonts/"+f.File),
		)
	}
	return b.String()
}

// lengthTable is a table of lengths.
type lengthTable struct {
	*handoverPage
	Title string
	List  []handover.Length
}

// Lengths gives a table of lengths.
func (p *handoverPage) Lengths(title string, list []handover.Length) lengthTable {
	return lengthTable{p, title, list}
}

// Round writes a length.
func (t lengthTable) Round(v float64) string { return t.Px(v) }

// Bar gives the style of a bar that is as long as a length on the widest screen.
func (t lengthTable) Bar(l handover.Length) template.CSS {
	if n := len(l.Px); n > 0 {
		return template.CSS("width:" + t.Px(l.Px[n-1]) + "px")
	}
	return ""
}
