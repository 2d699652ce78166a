package check

import (
	"regexp"
	"slices"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/compose"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/styles"
	"ziegel/core/sweep"
)

// cutUp gives the page with each of its blocks alone: its markup, the rules that can reach it and the pictures that
// it shows.
func cutUp(env *project.Project, l *sweep.Prepared) ([]*compose.Page, error) {
	doc, err := html.Parse(strings.NewReader(l.Page.HTML))
	if err != nil {
		return nil, err
	}
	var nodes []*html.Node
	var walk func(n *html.Node)
	walk = func(n *html.Node) {
		for _, a := range n.Attr {
			if a.Key == compose.MarkBlock {
				nodes = append(nodes, n)
				return
			}
		}
		for k := n.FirstChild; k != nil; k = k.NextSibling {
			walk(k)
		}
	}
	walk(doc)
	if len(nodes) != len(l.Blocks) {
		return nil, nil
	}
	type place struct{ parent, next *html.Node }
	places := make([]place, len(nodes))
	for i := len(nodes) - 1; i >= 0; i-- { // from the end on: what comes next is still there
		places[i] = place{nodes[i].Parent, nodes[i].NextSibling}
		nodes[i].Parent.RemoveChild(nodes[i])
	}
	own := splitRules(l.Page.Own.Text)
	of := map[string]*site.Block{}
	within := map[string][]*site.Block{}
	for _, b := range l.Page.Blocks {
		of[b.Name] = b
		top := b
		for top.Within != "" && of[top.Within] != nil {
			top = of[top.Within]
		}
		within[top.Name] = append(within[top.Name], b)
	}
	var out []*compose.Page
	for i, n := range nodes {
		places[i].parent.InsertBefore(n, nil)
		var text strings.Builder
		err := html.Render(&text, doc)
		places[i].parent.RemoveChild(n)
		if err != nil {
			return nil, err
		}
		page := *l.Page
		page.HTML = text.String()
		page.Blocks = within[l.Blocks[i].Name]
		page.Site, _ = styles.SheetFor(env, page.Blocks)
		rules := *l.Page.Own
		rules.Text = own.reaching(page.HTML)
		page.Own, page.Media = &rules, nil
		for _, m := range l.Page.Media {
			if address := project.URLPath(m); strings.Contains(page.HTML, address) ||
				strings.Contains(rules.Text, address) || strings.Contains(rules.Text, m) {
				page.Media = append(page.Media, m)
			}
		}
		out = append(out, &page)
	}
	return out, nil
}

var (
	ruleForm  = regexp.MustCompile(`[^{};]*\{[^{}]*\}`)
	emptyForm = regexp.MustCompile(`@[^{};]*\{\s*\}\s*`)
	classForm = regexp.MustCompile(`\.(-?[_a-zA-Z][-_a-zA-Z0-9]*)`)
	classAttr = regexp.MustCompile(`class="([^"]*)"`)
)

// splitSheet is a stylesheet cut into rules without others in them, and what stands between these.
type splitSheet []splitRule

type splitRule struct {
	text string
	asks [][]string // classes of each alternative selector; nil for what always stays
}

func splitRules(sheet string) splitSheet {
	var out splitSheet
	at := 0
	for _, m := range ruleForm.FindAllStringIndex(sheet, -1) {
		if m[0] > at {
			out = append(out, splitRule{text: sheet[at:m[0]]})
		}
		at = m[1]
		rule := splitRule{text: sheet[m[0]:m[1]]}
		selector, _, _ := strings.Cut(rule.text, "{")
		if !strings.ContainsAny(selector, "(@") {
			for _, alternative := range strings.Split(selector, ",") {
				classes := []string{}
				for _, c := range classForm.FindAllStringSubmatch(alternative, -1) {
					classes = append(classes, c[1])
				}
				rule.asks = append(rule.asks, classes)
			}
		}
		out = append(out, rule)
	}
	return append(out, splitRule{text: sheet[at:]})
}

// reaching gives the sheet without the rules that name a class which nothing in some markup has: they cannot match.
// Rules with functions in their selectors stay.
func (s splitSheet) reaching(markup string) string {
	has := map[string]bool{}
	for _, m := range classAttr.FindAllStringSubmatch(markup, -1) {
		for _, c := range strings.Fields(m[1]) {
			has[c] = true
		}
	}
	var b strings.Builder
	for _, r := range s {
		stays := r.asks == nil
		for _, classes := range r.asks {
			stays = stays || !slices.ContainsFunc(classes, func(c string) bool { return !has[c] })
		}
		if stays {
			b.WriteString(r.text)
		}
	}
	left := b.String()
	for { // layers and conditions with nothing left in them
		less := emptyForm.ReplaceAllString(left, "")
		if less == left {
			return left
		}
		left = less
	}
}
