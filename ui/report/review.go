package report

import (
	"embed"
	"html/template"
	"io"

	"ziegel/core/comments"
)

//go:embed review.html review.css review.js
var reviewFiles embed.FS

// ReviewPage is a page that goes out for comments.
type ReviewPage struct {
	Site, Page, Title string
	Made              string // the day, for people
	HTML              string // the page in one piece, with marks
	Annotations       []*comments.Annotation
	Pins              map[string]ReviewPin // by the id of a comment
}

// ReviewPin is where a comment is pinned now, and what has changed since it was made.
type ReviewPin struct {
	Place string `json:"place"`
	State string `json:"state,omitempty"`
}

// Review writes one self-contained file that shows a page at any width and takes comments on it. It asks no host and
// sends nothing: what is said leaves it as a W3C annotation document.
func Review(w io.Writer, p *ReviewPage) error {
	t, err := template.ParseFS(reviewFiles, "review.html")
	if err != nil {
		return err
	}
	css, err := reviewFiles.ReadFile("review.css")
	if err != nil {
		return err
	}
	js, err := reviewFiles.ReadFile("review.js")
	if err != nil {
		return err
	}
	list := p.Annotations
	if list == nil {
		list = []*comments.Annotation{}
	}
	return t.Execute(
		w,
		map[string]any{
			"CSS":   template.CSS(css),
			"JS":    template.JS(js),
			"Title": p.Title,
			"Site":  p.Site,
			"Made":  p.Made,
			"Data": map[string]any{"site": p.Site, "page": p.Page, "html": p.HTML, "annotations": list, "pins": p.Pins,
				"quote": comments.MostQuote},
		},
	)
}
