package build

import (
	"encoding/xml"
	"fmt"
	"net/url"
	"path"
	"regexp"
	"slices"
	"strings"

	"ziegel/core/project"
	"ziegel/core/site"
)

// HashedName is the form of the names that files get when they are published by their content: a point, eight digits
// of the sum, and the suffix. What is called so never changes.
const HashedName = `\.[0-9a-f]{8}\.[a-z0-9]+$`

const (
	forever = "public, max-age=31536000, immutable" // a year: what RFC 9111 readers keep at the longest
	asked   = "no-cache"                            // kept, and asked for whether it has changed
)

// security headers that fit every built page: it has no script, and shows itself in no frame of others.
var always = [][2]string{{"X-Content-Type-Options", "nosniff"}, {"Referrer-Policy", "strict-origin-when-cross-origin"}}

// hostFiles adds what servers and programs that read sites look for: which pages there are, what has moved, how long
// what they have read holds.
func hostFiles(e *project.Project, out Files) {
	s := e.Site
	add := func(name, text string) { out[name] = File{Data: []byte(text)} }
	if s.Address != "" {
		add("robots.txt", "User-agent: *\nAllow: /\n\nSitemap: "+s.Address+"/sitemap.xml\n")
		add("sitemap.xml", sitemap(e))
		for _, f := range e.Feeds {
			if data, err := feedOf(e, f); err == nil && data != nil {
				out[e.FeedPath(f.Pattern)] = File{Data: data}
			}
		}
	}
	if s.Host.Security != "" {
		text := "Contact: " + s.Host.Security + "\nExpires: " + s.Host.Until + "T00:00:00Z\n"
		if s.Language != "" {
			text += "Preferred-Languages: " + s.Language + "\n"
		}
		if s.Address != "" {
			text += "Canonical: " + s.Address + "/.well-known/security.txt\n"
		}
		add(".well-known/security.txt", text)
	}
	moved := Moved(e)
	for _, form := range s.Host.Reads {
		switch form {
		case ".htaccess":
			add(".htaccess", htaccess(root(s), moved))
		case "_headers":
			add("_headers", headers(root(s), s.Host.Hashed, hashedPaths(out)))
			if len(moved) > 0 {
				add("_redirects", redirects(moved))
			}
		case "nginx":
			add("nginx-include.conf", nginx(root(s), moved))
		}
	}
}

// hashedPaths gives patterns of the paths of files that are published under names by their content.
func hashedPaths(out Files) (list []string) {
	for name := range out {
		if folder, _, _ := strings.Cut(name, "/"); site.Hashable(name) {
			if folder != "fonts" && folder != "media" {
				folder = ""
			}
			list = site.AppendNew(list, path.Join("/", folder, "*"+path.Ext(name)))
		}
	}
	slices.Sort(list)
	return list
}

// root gives the path of a site on its host, without a slash at its end.
func root(s *site.Site) string {
	u, err := url.Parse(s.Address)
	if err != nil {
		return ""
	}
	return strings.TrimSuffix(u.EscapedPath(), "/")
}

// Moved gives the addresses that were once, as paths on the host, and what they lead to.
func Moved(e *project.Project) (out [][2]string) {
	for _, m := range e.Site.Host.Moved {
		to := m.To
		if m.Page {
			page, place, has := strings.Cut(m.To, "#")
			to = root(e.Site) + "/" + strings.TrimSuffix(project.PagePath(page), "index.html")
			if has {
				to += "#" + place
			}
		}
		out = append(out, [2]string{root(e.Site) + m.From, to})
	}
	return out
}

// sitemap lists the pages (sitemaps.org, protocol 0.9).
func sitemap(e *project.Project) string {
	var b strings.Builder
	b.WriteString(xml.Header + `<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"`)
	if len(e.Site.Languages) > 1 {
		b.WriteString(` xmlns:xhtml="http://www.w3.org/1999/xhtml"`)
	}
	b.WriteString(">\n")
	for _, name := range e.Site.PageNames() {
		if name == project.Lost {
			continue
		}
		for i := range max(1, len(e.Site.Languages)) {
			b.WriteString("  <url><loc>" + address(e, name, i) + "</loc>")
			for k := 0; len(e.Site.Languages) > 1 && k < len(e.Site.Languages); k++ {
				fmt.Fprintf(&b, `<xhtml:link rel="alternate" hreflang="%s" href="%s"/>`, e.Site.Languages[k],
					address(e, name, k))
			}
			b.WriteString("</url>\n")
		}
	}
	b.WriteString("</urlset>\n")
	return b.String()
}

// address gives where a page stands in one of the languages of the site, for XML.
func address(e *project.Project, page string, language int) string {
	tag := ""
	if language > 0 {
		tag = e.Site.Languages[language]
	}
	var b strings.Builder
	_ = xml.EscapeText(&b, []byte(e.Site.Address+"/"+strings.TrimSuffix(e.PathIn(tag, page), "index.html")))
	return b.String()
}

// exactly gives a regular expression for a path and nothing else, with or without a slash at its end.
func exactly(path string) string {
	return "^" + regexp.QuoteMeta(strings.TrimSuffix(path, "/")) + "/?$"
}

// htaccess writes for servers that read a file in the folder (Apache httpd 2.4 and those that follow it).
func htaccess(root string, moved [][2]string) string {
	var b strings.Builder
	fmt.Fprintf(&b, "ErrorDocument 404 %s/404.html\n", root)
	b.WriteString("<IfModule mod_headers.c>\n")
	for _, h := range always {
		fmt.Fprintf(&b, "  Header always set %s %q\n", h[0], h[1])
	}
	fmt.Fprintf(&b, "  Header set Cache-Control %q\n", asked)
	fmt.Fprintf(
		&b,
		"  <FilesMatch \"%s\">\n    Header set Cache-Control %q\n  </FilesMatch>\n</IfModule>\n",
		HashedName,
		forever,
	)
	for _, m := range moved {
		fmt.Fprintf(&b, "RedirectMatch 301 \"%s\" \"%s\"\n", exactly(m[0]), strings.ReplaceAll(m[1], "%", `\%`))
	}
	return b.String()
}

// headers writes the plain form of rules: a pattern of paths, and below it what is sent with them.
func headers(root string, hashed bool, paths []string) string {
	var b strings.Builder
	fmt.Fprintf(&b, "%s/*\n", root)
	for _, h := range always {
		fmt.Fprintf(&b, "  %s: %s\n", h[0], h[1])
	}
	if hashed { // of several rules that meet a path all are sent, so that each path has one
		for _, p := range paths {
			fmt.Fprintf(&b, "\n%s%s\n  Cache-Control: %s\n", root, p, forever)
		}
	}
	fmt.Fprintf(&b, "\n%s/\n  Cache-Control: %s\n\n%s/*.html\n  Cache-Control: %s\n", root, asked, root, asked)
	return b.String()
}

// redirects writes the plain form of what has moved: from, to, and the status.
func redirects(moved [][2]string) string {
	var b strings.Builder
	for _, m := range moved {
		fmt.Fprintf(&b, "%s  %s  301\n", m[0], m[1])
	}
	return b.String()
}

// nginx writes what stands in a server block of nginx, by an include.
func nginx(root string, moved [][2]string) string {
	var b strings.Builder
	b.WriteString("# in the server block: include .../nginx-include.conf;\n")
	fmt.Fprintf(&b, "error_page 404 %s/404.html;\n", root)
	for _, h := range always {
		fmt.Fprintf(&b, "add_header %s %q always;\n", h[0], h[1])
	}
	fmt.Fprintf(&b, "location = %s/nginx-include.conf { return 404; }\n", root)
	fmt.Fprintf(&b, "location ~ \"%s\" {\n", HashedName)
	for _, h := range append(always, [2]string{"Cache-Control", forever}) {
		fmt.Fprintf(&b, "  add_header %s %q always;\n", h[0], h[1])
	}
	b.WriteString("}\n")
	for _, m := range moved {
		fmt.Fprintf(&b, "location ~ \"%s\" { return 301 \"%s\"; }\n", exactly(m[0]), m[1])
	}
	return b.String()
}
