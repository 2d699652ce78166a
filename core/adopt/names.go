package adopt

import (
	"encoding/base64"
	"fmt"
	"io/fs"
	"mime"
	"net/url"
	"path"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/markup"
	"ziegel/core/media"
	"ziegel/core/site"
)

// namer says what links, pictures and icons of one page are called in the site.
type namer struct {
	files fs.FS // the folder that pages come from; nothing outside of it is read
	dir   string
	pages map[string]string // names of pages that are taken, by path in files
	hosts []string          // that the pages themselves have
	media *Media
	page  *Page
}

var schemes = []string{"http", "https", "mailto", "tel", "sms"}

// to gives what a link leads to as fields have it: a page, page#block, #block, media/file or an address. "" for one
// that leads nowhere.
func (n *namer) to(href string) string {
	href = strings.TrimSpace(href)
	u, err := url.Parse(href)
	switch {
	case href == "" || href == "#":
		return ""
	case err != nil:
		n.page.leave("a link to %q, which is no address", short(href))
		return ""
	case u.Scheme == "javascript" || u.Scheme == "data" || u.Scheme == "vbscript":
		n.page.leave("a link that runs a script")
		return ""
	case u.Scheme == "file":
		n.page.leave("a link to a file of this computer")
		return ""
	case u.Scheme != "" && !slices.Contains(schemes, u.Scheme):
		n.page.leave("a link to %q", u.Scheme+":")
		return ""
	case u.Scheme == "mailto" || u.Scheme == "tel" || u.Scheme == "sms":
		return href
	}
	frag := ""
	if u.Fragment != "" && u.Fragment != "top" {
		frag = "#" + u.Fragment
	}
	if u.Host != "" {
		if !slices.Contains(n.hosts, strings.TrimPrefix(strings.ToLower(u.Host), "www.")) {
			if u.Scheme == "" {
				return "https:" + href
			}
			return href
		}
		u.Path = "/" + strings.TrimPrefix(u.Path, "/")
	}
	if u.Path == "" {
		return frag
	}
	return n.inside(u.Path, frag)
}

// inside gives what a path of the source is called in the site.
func (n *namer) inside(p, frag string) string {
	file := n.resolve(p)
	if file == "." && n.pages["index.html"] == "" {
		return "home" + frag
	}
	if file == "" {
		n.page.leave("a link to %s, which is outside of the folder", short(p))
		return ""
	}
	for _, try := range []string{file, path.Join(file, "index.html"), path.Join(file, "index.htm"), file + ".html"} {
		if name := n.pages[try]; name != "" {
			if frag != "" && name == n.page.Name {
				return frag
			}
			return name + frag
		}
	}
	if ext := strings.ToLower(path.Ext(file)); ext != "" && !pageKinds[ext] {
		if !fileKinds[ext] {
			n.page.leave("a link to %s: no file of its kind comes along", short(file))
			return ""
		}
		if name := n.media.take(n.files, file); name != "" {
			return "media/" + name
		}
		n.page.leave("a link to %s, which is not there", short(file))
		return ""
	}
	return nameOf(file) + frag // a page that is not taken yet
}

// pageKinds are the ends of addresses that lead to pages; fileKinds are those of files that links may lead to.
var (
	pageKinds = map[string]bool{".html": true, ".htm": true, ".php": true, ".asp": true, ".aspx": true, ".jsp": true,
		".shtml": true, ".xhtml": true}
	fileKinds = map[string]bool{".pdf": true, ".zip": true, ".doc": true, ".docx": true, ".xls": true, ".xlsx": true,
		".odt": true, ".ods": true, ".odp": true, ".ppt": true, ".pptx": true, ".csv": true, ".txt": true, ".rtf": true,
		".epub": true, ".ics": true, ".vcf": true, ".gpx": true, ".mp3": true, ".mp4": true, ".webm": true, ".ogg": true,
		".jpg": true, ".jpeg": true, ".png": true, ".gif": true, ".webp": true, ".avif": true, ".svg": true}
)

// resolve gives the path in the source that a path on the page means; "" when it leads out of it.
func (n *namer) resolve(p string) string {
	joined := path.Join(n.dir, p)
	if strings.HasPrefix(p, "/") {
		joined = path.Join(".", p)
	}
	if !fs.ValidPath(joined) {
		return ""
	}
	return joined
}

// link reads a link with its label.
func (n *namer) link(x *html.Node) *site.Value {
	label := strings.TrimSpace(collapse(textOf(x)))
	if label == "" {
		label = markup.Value(x, "aria-label")
	}
	to := n.to(markup.Value(x, "href"))
	if label == "" && to == "" {
		return nil
	}
	if to == "" {
		to = "#"
	}
	return site.NewMap("label", site.NewText(label), "to", site.NewText(to))
}

var (
	focusForm  = regexp.MustCompile(`object-position:\s*([\d.]+%\s+[\d.]+%)`)
	narrowForm = regexp.MustCompile(`^\(width < ([\d.]+)rem\)$`)
	wideForm   = regexp.MustCompile(`^\(width >= ([\d.]+)rem\)$`)
	spanForm   = regexp.MustCompile(`^\(([\d.]+)rem <= width < ([\d.]+)rem\)$`)
)

// picture reads an img, or a picture with sources: its file comes along. nil when there is none.
func (n *namer) picture(x *html.Node) *site.Value {
	img := markup.First(x, "img")
	if img == nil {
		return nil
	}
	file := n.file(img)
	if file == "" {
		return nil
	}
	v := site.NewMap("file", site.NewText(file))
	frame := x
	if frame.Data != "picture" && img.Parent != nil && img.Parent.Data == "picture" {
		frame = img.Parent
	}
	if frame.Data == "picture" {
		for k := frame.FirstChild; k != nil; k = k.NextSibling {
			at := rangeOf(markup.Value(k, "media"))
			if k.Data != "source" || at == "" {
				continue
			}
			if other := n.file(k); other != "" && other != file {
				v.Entries = append(v.Entries, site.Entry{Key: "file at " + at, Value: site.NewText(other)})
			}
		}
	}
	v.Entries = append(v.Entries, site.Entry{Key: "alt", Value: site.NewText(markup.Value(img, "alt"))})
	if m := focusForm.FindStringSubmatch(markup.Value(img, "style")); m != nil && m[1] != "50% 50%" {
		v.Entries = append(v.Entries, site.Entry{Key: "focus", Value: site.NewText(m[1])})
	}
	return v
}

// rangeOf writes a condition on the width of the screen as a range: ..599, 600..1023, 1024..
func rangeOf(query string) string {
	px := func(rem string) int {
		f, _ := strconv.ParseFloat(rem, 64)
		return int(f*16 + .5)
	}
	switch {
	case narrowForm.MatchString(query):
		return fmt.Sprintf("..%d", px(narrowForm.FindStringSubmatch(query)[1])-1)
	case wideForm.MatchString(query):
		return fmt.Sprintf("%d..", px(wideForm.FindStringSubmatch(query)[1]))
	case spanForm.MatchString(query):
		m := spanForm.FindStringSubmatch(query)
		return fmt.Sprintf("%d..%d", px(m[1]), px(m[2])-1)
	}
	return ""
}

// file brings the file of an img or source along, the largest of those that it offers.
func (n *namer) file(x *html.Node) string {
	var tried []string
	for _, src := range offered(x) {
		tried = append(tried, src)
		if name := n.source(src); name != "" {
			return name
		}
	}
	if len(tried) > 0 {
		n.page.leave("the picture %s, which is not in the folder", short(tried[len(tried)-1]))
	}
	return ""
}

// offered lists the files of an img or source, the largest first: candidates of srcset (HTML, 4.8.4.2.1), then src and
// where pages keep it until a script shows it.
func offered(x *html.Node) []string {
	type candidate struct {
		src  string
		size float64
	}
	var list []candidate
	for _, key := range []string{"srcset", "data-srcset"} {
		for _, part := range strings.Split(markup.Value(x, key), ", ") {
			f := strings.Fields(part)
			if len(f) == 0 {
				continue
			}
			size := 1.0
			if len(f) > 1 {
				size, _ = strconv.ParseFloat(strings.TrimRight(f[1], "wxh,"), 64)
			}
			list = append(list, candidate{strings.TrimSuffix(f[0], ","), size})
		}
	}
	slices.SortStableFunc(list, func(a, b candidate) int { return int(b.size*100) - int(a.size*100) })
	var out []string
	for _, c := range list {
		out = append(out, c.src)
	}
	for _, key := range []string{"src", "data-src", "poster"} {
		if src := strings.TrimSpace(markup.Value(x, key)); src != "" {
			out = append(out, src)
		}
	}
	return out
}

// source brings a picture along by its address on the page.
func (n *namer) source(src string) string {
	if strings.HasPrefix(src, "data:") {
		return n.written(src)
	}
	u, err := url.Parse(src)
	if err != nil || u.Scheme == "file" || u.Path == "" {
		return ""
	}
	if u.Host != "" && !slices.Contains(n.hosts, strings.TrimPrefix(strings.ToLower(u.Host), "www.")) {
		return "" // no host is asked
	}
	if file := n.resolve(u.Path); file != "" {
		return n.media.take(n.files, file)
	}
	return ""
}

// written keeps a picture that stands in the page itself (RFC 2397) as a file.
func (n *namer) written(src string) string {
	head, body, ok := strings.Cut(strings.TrimPrefix(src, "data:"), ",")
	if !ok || len(src) > mostFile || len(src) < 200 { // a pixel that only keeps a place
		return ""
	}
	kind, _, _ := mime.ParseMediaType(head)
	ext := map[string]string{"image/png": ".png", "image/jpeg": ".jpg", "image/gif": ".gif", "image/webp": ".webp",
		"image/svg+xml": ".svg"}[kind]
	var data []byte
	var err error
	if strings.HasSuffix(head, ";base64") {
		data, err = base64.StdEncoding.DecodeString(strings.TrimSpace(body))
	} else {
		var text string
		text, err = url.PathUnescape(body)
		data = []byte(text)
	}
	if ext == "" || err != nil {
		return ""
	}
	return n.media.free("picture"+ext, data)
}

// icon names a drawn icon: a shipped one by its shapes, else a file of its own. "" when nothing is drawn.
func (n *namer) icon(x *html.Node) string {
	svg := markup.First(x, "svg")
	if svg == nil || svg.FirstChild == nil {
		return ""
	}
	if use := markup.First(svg, "use"); use != nil {
		id := strings.TrimPrefix(markup.Value(use, "href"), "#")
		if name, ok := strings.CutPrefix(id, "icon-"); ok {
			if _, err := media.ReadIcon(n.media.stock, n.media.own, name); err == nil {
				return name
			}
		}
		symbol := byID(rootOf(x), id)
		if symbol == nil {
			return ""
		}
		svg = symbol
	}
	if name := n.media.shapes()[shapesOf(svg)]; name != "" {
		return name
	}
	return n.drawn(svg)
}

// drawn keeps an icon that did not ship as a file of the site.
func (n *namer) drawn(svg *html.Node) string {
	box := markup.Value(svg, "viewBox")
	if box == "" {
		box = "0 0 24 24"
	}
	shell := markup.Element("svg", "xmlns", "http://www.w3.org/2000/svg", "viewBox", box)
	for _, key := range []string{"fill", "stroke", "stroke-width", "stroke-linecap", "stroke-linejoin"} {
		if v := markup.Value(svg, key); v != "" {
			markup.Set(shell, key, v)
		}
	}
	for k := svg.FirstChild; k != nil; k = k.NextSibling {
		shell.AppendChild(markup.Clone(k))
	}
	var b strings.Builder
	markup.PrintNode(&b, shell, 0)
	data, _, err := media.Clean([]byte(b.String()))
	if err != nil || media.CheckSVG(data) != nil {
		n.page.leave("an icon that cannot be read")
		return ""
	}
	name := "mark"
	for _, c := range strings.Fields(markup.Value(svg, "class")) {
		if slug := media.Slug(c); slug != "" && slug != "icon" && slug != "svg" {
			name = slug
		}
	}
	file := n.media.free("icons/"+name+".svg", data)
	return strings.TrimSuffix(strings.TrimPrefix(file, "icons/"), ".svg")
}

func rootOf(n *html.Node) *html.Node {
	for n.Parent != nil {
		n = n.Parent
	}
	return n
}

func byID(n *html.Node, id string) *html.Node {
	var found *html.Node
	markup.Each(n, func(x *html.Node) {
		if found == nil && id != "" && markup.Value(x, "id") == id {
			found = x
		}
	})
	return found
}

// sheetOf gives the stylesheet that says the picture under an element, when it is a file.
func (n *namer) sheetOf(e *css.Element, r *layout.Result) (string, bool) {
	f := r.Of(e)
	if f == nil || f.Style == nil {
		return "", false
	}
	for _, property := range []string{"background-image", "background"} {
		if sheet, _, ok := f.Style.Declared(property); ok && sheet != nil && sheet.File != "" {
			return sheet.File, true
		}
	}
	return "", false
}

// under brings a picture along by its address in a stylesheet.
func (n *namer) under(sheet, src string) string {
	u, err := url.Parse(src)
	if err != nil || u.Scheme != "" || u.Host != "" || u.Path == "" {
		return ""
	}
	if file := path.Join(path.Dir(sheet), u.Path); fs.ValidPath(file) {
		return n.media.take(n.files, file)
	}
	return ""
}
