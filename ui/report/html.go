package report

import (
	"embed"
	"html/template"
	"io"

	"ziegel/core/build"
	"ziegel/core/check"
	"ziegel/core/sweep"
)

//go:embed check.html check.css check.js
var htmlFiles embed.FS

// PageReport is a checked page with all that a picture of it needs.
type PageReport struct {
	*check.Report
	HTML   string  // the page in one piece, shown at any width
	Ranges []Range // those of the site
}

// Range is a named span of screen widths, CSS px. To is 0 without an end.
type Range struct {
	Name string `json:"name"`
	From int    `json:"from"`
	To   int    `json:"to"`
}

// htmlPage is what the script of the report reads.
type htmlPage struct {
	Page     string           `json:"page"`
	From     int              `json:"from"`
	To       int              `json:"to"`
	Verdict  string           `json:"verdict"`
	Ranges   []Range          `json:"ranges"`
	Blocks   []sweep.Stacking `json:"blocks"`
	Findings []htmlFinding    `json:"findings"`
	Accepted []check.Accepted `json:"accepted"`
	HTML     string           `json:"html"`
}

type htmlFinding struct {
	check.Finding
	Address string `json:"address"`
}

// HTML writes reports as one self-contained file: how the blocks stack, over a ruler of all widths, beside the page
// itself; what was found lights up at the widths where it holds.
func HTML(w io.Writer, list []PageReport) error {
	t, err := template.ParseFS(htmlFiles, "check.html")
	if err != nil {
		return err
	}
	css, err := htmlFiles.ReadFile("check.css")
	if err != nil {
		return err
	}
	js, err := htmlFiles.ReadFile("check.js")
	if err != nil {
		return err
	}
	var pages []htmlPage
	for _, p := range list {
		h := htmlPage{Page: p.Page, From: p.From, To: p.To, Verdict: Verdict([]*check.Report{p.Report},
			singly(p.Report)),
			Ranges: p.Ranges, Blocks: p.Blocks, Findings: []htmlFinding{}, Accepted: p.Accepted, HTML: p.HTML}
		for _, f := range ByBlock(p.Report) {
			h.Findings = append(h.Findings, htmlFinding{f, Address(p.Page, f)})
		}
		pages = append(pages, h)
	}
	return t.Execute(w, map[string]any{"CSS": template.CSS(css), "JS": template.JS(js),
		"Policy": template.HTML(build.Policy(string(js))), "Pages": pages})
}

// singly gives the findings of a report without putting any together.
func singly(r *check.Report) []Group {
	out := make([]Group, len(r.Findings))
	for i, f := range r.Findings {
		out[i] = Group{Told: Told{Finding: f}, Page: r.Page}
	}
	return out
}
