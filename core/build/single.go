package build

import (
	"encoding/base64"
	"net/http"
	"path"
	"regexp"
	"strings"

	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"

	"ziegel/core/markup"
)

// cssURL finds what a stylesheet refers to.
var cssURL = regexp.MustCompile(`url\(\s*(?:"([^"]*)"|'([^']*)'|([^)"'\s]*))\s*\)`)

// Single puts all that a page needs into its HTML: stylesheets, pictures and fonts. load gives a file by its path, as
// written in the page at from, slashes; what it does not have stays a link. Scripts from elsewhere go.
func Single(from, source string, load func(path string) ([]byte, bool)) (string, error) {
	doc, err := html.Parse(strings.NewReader(source))
	if err != nil {
		return "", err
	}
	s := &single{load: load}
	s.walk(doc, path.Dir(from))
	var out strings.Builder
	if err := html.Render(&out, doc); err != nil {
		return "", err
	}
	return out.String(), nil
}

type single struct {
	load func(path string) ([]byte, bool)
}

func (s *single) walk(n *html.Node, dir string) {
	for k := n.FirstChild; k != nil; {
		next := k.NextSibling
		switch {
		case k.Type == html.ElementNode && k.DataAtom == atom.Link:
			s.link(k, dir)
		case k.Type == html.ElementNode && k.DataAtom == atom.Script && markup.Value(k, "src") != "":
			n.RemoveChild(k)
		case k.Type == html.ElementNode && k.DataAtom == atom.Style && k.FirstChild != nil:
			k.FirstChild.Data = StyleText(s.css(k.FirstChild.Data, dir))
		}
		oneSource(k)
		for i := range k.Attr {
			a := &k.Attr[i]
			switch a.Key {
			case "src", "poster", "srcset":
				if data, ok := s.data(a.Val, dir); ok {
					a.Val = data
				}
			case "style":
				a.Val = s.css(a.Val, dir)
			}
		}
		s.walk(k, dir)
		k = next
	}
}

// link turns a stylesheet into a style element; other links that name files go.
func (s *single) link(n *html.Node, dir string) {
	href := markup.Value(n, "href")
	if strings.EqualFold(markup.Value(n, "rel"), "stylesheet") {
		p, ok := local(dir, href)
		if !ok {
			return
		}
		data, ok := s.load(p)
		if !ok {
			return
		}
		media := markup.Value(n, "media")
		n.DataAtom, n.Data, n.Attr = atom.Style, "style", nil
		if media != "" {
			n.Attr = []html.Attribute{{Key: "media", Val: media}}
		}
		n.AppendChild(&html.Node{Type: html.TextNode, Data: StyleText(s.css(string(data), path.Dir(p)))})
		return
	}
	if _, ok := local(dir, href); ok && n.Parent != nil {
		n.DataAtom, n.Data, n.Attr = atom.Meta, "meta", nil
	}
}

func (s *single) css(text, dir string) string {
	return cssURL.ReplaceAllStringFunc(text, func(m string) string {
		g := cssURL.FindStringSubmatch(m)
		if data, ok := s.data(g[1]+g[2]+g[3], dir); ok {
			return `url("` + data + `")`
		}
		return m
	})
}

// oneSource leaves one file of a picture that has several sizes: a page in one piece would carry all of them. The
// last one named is the largest.
func oneSource(n *html.Node) {
	if n.Type != html.ElementNode || markup.Value(n, "srcset") == "" ||
		n.DataAtom != atom.Img && n.DataAtom != atom.Source {
		return
	}
	var keep []html.Attribute
	for _, a := range n.Attr {
		switch {
		case a.Key == "sizes", a.Key == "srcset" && markup.Value(n, "src") != "":
			continue
		case a.Key == "srcset":
			list := strings.Split(a.Val, ",")
			if f := strings.Fields(list[len(list)-1]); len(f) > 0 {
				a.Val = f[0]
			}
		}
		keep = append(keep, a)
	}
	n.Attr = keep
}

func (s *single) data(href, dir string) (string, bool) {
	p, ok := local(dir, href)
	if !ok {
		return "", false
	}
	data, ok := s.load(p)
	if !ok {
		return "", false
	}
	kind := kinds[strings.ToLower(path.Ext(p))]
	if kind == "" {
		kind = http.DetectContentType(data)
	}
	return "data:" + kind + ";base64," + base64.StdEncoding.EncodeToString(data), true
}

var kinds = map[string]string{".svg": "image/svg+xml", ".jpg": "image/jpeg", ".jpeg": "image/jpeg",
	".png": "image/png", ".avif": "image/avif", ".woff2": "font/woff2", ".woff": "font/woff", ".ttf": "font/ttf",
	".otf": "font/otf", ".webp": "image/webp"}

// local resolves a link to a file of the site. Addresses elsewhere are none.
func local(dir, href string) (string, bool) {
	href, _, _ = strings.Cut(href, "#")
	href, _, _ = strings.Cut(href, "?")
	if href == "" || strings.Contains(href, ":") || strings.HasPrefix(href, "//") {
		return "", false
	}
	if strings.HasPrefix(href, "/") {
		return strings.TrimPrefix(path.Clean(href), "/"), true
	}
	return path.Join(dir, href), true
}
