package adopt

import (
	"net/url"
	"regexp"
	"strings"

	"ziegel/core/css"
)

// meta reads the head of a page.
func (p *Page) meta() {
	root := p.laid.Doc.Root
	p.Language = root.Attr("lang")
	for _, e := range p.laid.Doc.Elements {
		switch e.Tag {
		case "title":
			if p.Title == "" && !e.Foreign {
				p.Title = strings.TrimSpace(collapse(textOf(e.Raw)))
			}
		case "meta":
			switch {
			case strings.EqualFold(e.Attr("name"), "description"):
				p.Description = strings.TrimSpace(collapse(e.Attr("content")))
			case strings.EqualFold(e.Attr("property"), "og:site_name"):
				p.site = strings.TrimSpace(e.Attr("content"))
			}
		}
		p.dropped(e)
	}
}

// dropped notes what no page takes: scripts, handlers, frames of other hosts.
func (p *Page) dropped(e *css.Element) {
	switch {
	case e.Tag == "script" && strings.Contains(e.Attr("type"), "json"):
	case e.Tag == "script" && e.Attr("src") != "":
		p.leave("the script %s", short(e.Attr("src")))
	case e.Tag == "script":
		p.leave("a script in the page")
	case (e.Tag == "iframe" || e.Tag == "embed" || e.Tag == "object") &&
		!strings.HasPrefix(e.Attr("src")+e.Attr("data"), "https:"):
		p.leave("a frame of %s", short(e.Attr("src")+e.Attr("data")))
	case e.Tag == "base":
		p.leave("<base href=%q>: addresses are read from the file's own place", e.Attr("href"))
	case e.Tag == "img" && tracks(e.Raw):
		p.leave("a picture of one pixel that counts visits")
	}
	for _, a := range e.Raw.Attr {
		if strings.HasPrefix(a.Key, "on") && len(a.Val) > 0 {
			p.leave("a handler %s", a.Key)
		}
	}
}

// hosts gives the hosts that a page says it stands on.
func hosts(doc *css.Document) []string {
	var out []string
	for _, e := range doc.Elements {
		address := ""
		switch {
		case e.Tag == "link" && e.Attr("rel") == "canonical":
			address = e.Attr("href")
		case e.Tag == "meta" && e.Attr("property") == "og:url":
			address = e.Attr("content")
		}
		if _, rest, ok := strings.Cut(address, "://"); ok {
			host, _, _ := strings.Cut(rest, "/")
			out = append(out, strings.TrimPrefix(strings.ToLower(host), "www."))
		}
	}
	return out
}

// addressOf gives the address of the site that a page says it stands on, "" when it does not.
func addressOf(doc *css.Document) string {
	for _, e := range doc.Elements {
		if e.Tag != "link" || e.Attr("rel") != "canonical" {
			continue
		}
		if u, err := url.Parse(e.Attr("href")); err == nil && (u.Scheme == "https" || u.Scheme == "http") &&
			u.Host != "" {
			return "https://" + u.Host
		}
	}
	return ""
}

// siteName gives what the pages call the site: what they say, or what all titles end or begin with.
func (t *Taking) siteName() string {
	for _, p := range t.Pages {
		if p.site != "" {
			return p.site
		}
	}
	if len(t.Pages) < 2 {
		return ""
	}
	ends := regexp.MustCompile(` [·|–—-] `)
	count := map[string]int{}
	for _, p := range t.Pages {
		if parts := ends.Split(p.Title, -1); len(parts) > 1 {
			count[parts[0]]++
			count[parts[len(parts)-1]]++
		}
	}
	for _, p := range t.Pages {
		for _, part := range ends.Split(p.Title, -1) {
			if count[part] >= len(t.Pages)-1 && count[part] > 1 {
				return part
			}
		}
	}
	return ""
}
