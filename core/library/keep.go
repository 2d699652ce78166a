package library

import (
	"bytes"
	"fmt"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/markup"
)

// Kept are the three files of a section that is made of another one.
type Kept struct{ HTML, CSS, YAML string }

// Keep makes a section of its own of another one: its files under a new name, with changes to the marked sample and
// rules after the others. change is called with the parsed document's section; css is appended.
func Keep(s *Section, name, summary, css string, change func(root *html.Node)) (Kept, error) {
	doc, err := html.Parse(strings.NewReader(s.HTML))
	if err != nil {
		return Kept{}, err
	}
	body := markup.First(doc, "body")
	for c := body.FirstChild; c != nil; c = c.NextSibling {
		if c.Type == html.ElementNode {
			change(c)
			break
		}
	}
	if t := markup.First(doc, "title"); t != nil && t.FirstChild != nil {
		t.FirstChild.Data = name
	}
	var out bytes.Buffer
	if err := html.Render(&out, doc); err != nil {
		return Kept{}, err
	}
	k := Kept{HTML: strings.TrimSpace(out.String()) + "\n", CSS: strings.TrimSpace(s.CSS.Source) + "\n"}
	if css != "" {
		k.CSS += "\n" + strings.TrimSpace(css) + "\n"
	}
	kind, _, _ := strings.Cut(name, "/")
	lines := strings.Split(strings.TrimSpace(s.About), "\n")
	for i, l := range lines {
		switch {
		case strings.HasPrefix(l, "name:"):
			lines[i] = "name: " + name
		case strings.HasPrefix(l, "kind:"):
			lines[i] = "kind: " + kind
		case strings.HasPrefix(l, "summary:") && summary != "":
			lines[i] = fmt.Sprintf("summary: %q", summary)
		case strings.HasPrefix(l, "version:"):
			lines[i] = "version: 1"
		case strings.HasPrefix(l, "usual:"):
			lines[i] = ""
		}
	}
	k.YAML = strings.ReplaceAll(strings.Join(lines, "\n"), "\n\n", "\n") + "\n"
	return k, nil
}
