package compose

import (
	"path"
	"strconv"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/markup"
	"ziegel/core/media"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/styles"
)

// Title gives the title of a page as browsers show it.
func Title(e *project.Project, name string) string {
	p := e.Site.Page(name)
	if p == nil {
		return e.Site.Name
	}
	switch {
	case p.Title == "" || p.Title == e.Site.Name:
		return e.Site.Name
	case e.Site.Name == "":
		return p.Title
	}
	return p.Title + " · " + e.Site.Name
}

// head makes the head of a page. Nothing in it asks any other host.
func (c *composer) head() *html.Node {
	s := c.Env.Site
	h := markup.Element("head")
	meta := func(attrs ...string) {
		h.AppendChild(markup.Element("meta", attrs...))
	}
	meta("charset", "utf-8")
	meta("name", "viewport", "content", "width=device-width, initial-scale=1")
	title := Title(c.Env, c.Page.Name)
	h.AppendChild(markup.With(markup.Element("title"), markup.Text(title)))
	if c.Page.Description != "" {
		meta("name", "description", "content", c.Page.Description)
	}
	url := ""
	if s.Address != "" && c.Page.Name != project.Lost {
		url = s.Address + "/" + strings.TrimSuffix(c.Env.Path(c.Page.Name), "index.html")
		h.AppendChild(markup.Element("link", "rel", "canonical", "href", url))
		c.alternates(h)
	}
	for _, f := range c.Env.Feeds {
		if url != "" && f.Dated() {
			h.AppendChild(markup.Element("link", "rel", "alternate", "type", "application/atom+xml", "title", s.Name,
				"href", c.depth+c.Env.FeedPath(f.Pattern)))
		}
	}
	if c.Page.Name == project.Lost {
		meta("name", "robots", "content", "noindex")
	}
	meta("property", "og:type", "content", "website")
	meta("property", "og:title", "content", title)
	if s.Name != "" {
		meta("property", "og:site_name", "content", s.Name)
	}
	if c.Page.Description != "" {
		meta("property", "og:description", "content", c.Page.Description)
	}
	if url != "" {
		meta("property", "og:url", "content", url)
	}
	if file, w, h := c.sharePicture(); file != "" {
		meta("property", "og:image", "content", s.Address+"/"+file)
		if w > 0 {
			meta("property", "og:image:width", "content", strconv.Itoa(w))
			meta("property", "og:image:height", "content", strconv.Itoa(h))
		}
		meta("property", "og:image:alt", "content", title)
		meta("name", "twitter:card", "content", "summary_large_image")
	} else {
		meta("name", "twitter:card", "content", "summary")
	}
	c.schemes(meta)
	icon := "favicon.svg"
	if s.Favicon != "" {
		icon = "media/" + project.URLPath(strings.TrimPrefix(s.Favicon, "media/"))
		c.shown(s.File, s.File.Root.Get("favicon"), strings.TrimPrefix(s.Favicon, "media/"))
	}
	kind := map[string]string{".svg": "image/svg+xml", ".png": "image/png",
		".ico": "image/x-icon"}[strings.ToLower(path.Ext(icon))]
	link := markup.Element("link", "rel", "icon", "href", c.depth+icon)
	if kind != "" {
		markup.Set(link, "type", kind)
	}
	h.AppendChild(link)
	h.AppendChild(markup.Element("link", "rel", "icon", "href", c.depth+FaviconPNG, "type", "image/png"))
	h.AppendChild(markup.Element("link", "rel", "apple-touch-icon", "href", c.depth+TouchIcon))
	for _, f := range c.Env.FontsOf(c.out.Blocks) {
		if f.Weight == 400 || f.Weight == 700 {
			h.AppendChild(markup.Element("link", "rel", "preload", "href", c.depth+"fonts/"+f.Name, "as", "font",
				"type", "font/"+strings.TrimPrefix(path.Ext(f.Name), "."), "crossorigin", ""))
		}
	}
	h.AppendChild(markup.Element("link", "rel", "stylesheet", "href", c.depth+c.Env.SheetName("site")))
	if c.out.Own.Text != "" {
		h.AppendChild(markup.Element("link", "rel", "stylesheet", "href", c.depth+c.Env.SheetName(c.Page.Name)))
	}
	if data := c.data(); data != nil {
		h.AppendChild(data)
	}
	return h
}

// alternates names the page in the other languages of the site (HTML, 4.6.6.1; Google's x-default for whoever has none
// of them). They need the address of the site.
func (c *composer) alternates(h *html.Node) {
	for i, tag := range c.Env.Site.Languages {
		in := tag
		if i == 0 {
			in = ""
		}
		url := c.Env.Site.Address + "/" + strings.TrimSuffix(c.Env.PathIn(in, c.Page.Name), "index.html")
		h.AppendChild(markup.Element("link", "rel", "alternate", "hreflang", tag, "href", url))
		if i == 0 {
			h.AppendChild(markup.Element("link", "rel", "alternate", "hreflang", "x-default", "href", url))
		}
	}
}

// schemes says which color schemes the page has, and the color of what the browser paints around it in each.
func (c *composer) schemes(meta func(attrs ...string)) {
	ground, ok := c.Env.Theme.Token("color.plain.ground")
	kept := c.Env.Theme.Kept()
	if c.Page.Scheme != "" {
		kept = c.Page.Scheme
	}
	switch {
	case kept == "dark" && c.hasDark():
		meta("name", "color-scheme", "content", "dark")
		if ground.Dark != "" {
			ground.Value = ground.Dark
		}
		meta("name", "theme-color", "content", ground.Value)
	case kept == "light":
		meta("name", "theme-color", "content", ground.Value)
	default:
		if c.hasDark() {
			meta("name", "color-scheme", "content", "light dark")
		}
		if !ok {
			return
		}
		meta("name", "theme-color", "content", ground.Value, "media", "(prefers-color-scheme: light)")
		if ground.Dark != "" {
			meta("name", "theme-color", "content", ground.Dark, "media", "(prefers-color-scheme: dark)")
		}
	}
}

func (c *composer) hasDark() bool {
	for _, k := range c.Env.Theme.Tokens {
		if k.Dark != "" {
			return true
		}
	}
	return false
}

// ShareWidth and ShareHeight are the size of the picture that is drawn for those who show a link to a page, px: that
// which the Open Graph readers of today take whole.
const (
	ShareWidth  = 1200
	ShareHeight = 630
)

// sharePicture gives the file that others show with a link to the page, "" for none, and its size when it is known. A
// drawing, which they do not show, and a page without a picture have one drawn.
func (c *composer) sharePicture() (file string, w, h int) {
	if c.Env.Site.Address == "" || c.Page.Name == project.Lost {
		return "", 0, 0
	}
	name := c.preview()
	if name == "" || media.IsSVG(name) {
		file := strings.TrimSuffix(c.Env.SheetName(c.Page.Name), ".css") + ".png"
		c.out.Share = &Share{Path: "share/" + file, From: name}
		return "share/" + project.URLPath(file), ShareWidth, ShareHeight
	}
	if data, err := c.Env.MediaFile(name); err == nil {
		if pw, ph, err := media.Size(name, data); err == nil {
			w, h = int(pw), int(ph)
		}
	}
	return "media/" + project.URLPath(name), w, h
}

// preview chooses the picture that other sites show with a link: the page's, the site's, else none.
func (c *composer) preview() string {
	for _, f := range []*site.File{c.Page.File, c.Env.Site.File} {
		v := f.Root.Get("picture")
		if v.Str() == "" {
			continue
		}
		if name := strings.TrimPrefix(v.Str(), "media/"); c.shown(f, v, name) {
			return name
		}
	}
	return ""
}

// shown takes a picture along that the head of the page names. One that is missing is told.
func (c *composer) shown(f *site.File, v *site.Value, name string) bool {
	if _, err := c.Env.MediaFile(name); err != nil {
		c.AddOnce(c.MissingPicture(f, v, name, err))
		return false
	}
	c.TellMore(f, v, name)
	c.out.Media = styles.AppendOnce(c.out.Media, name)
	return true
}
