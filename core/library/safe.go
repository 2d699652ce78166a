package library

import (
	"fmt"
	"net/url"
	"slices"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/css"
	"ziegel/core/css/grammar"
	"ziegel/core/diag"
	"ziegel/core/markup"
)

// never are elements that no section may have: they run, or change the page around them.
var never = []string{"script", "applet", "base", "meta", "link", "style", "frame", "frameset", "foreignobject",
	"title", "portal", "handler", "listener"}

// fetched are attributes whose address the browser asks for by itself; led to are those that it asks for when
// somebody follows them.
var (
	fetched = []string{"src", "srcset", "poster", "data", "background", "lowsrc", "dynsrc", "ping",
		"manifest", "xlink:href"}
	ledTo  = []string{"href", "cite", "longdesc"}
	sentTo = []string{"action", "formaction"}
)

// Unsafe tells what in the files of a section runs a script, or asks a host that the site does not list. Such a
// section never gets into a page. What a page says is escaped where it stands and cannot bring any of it; this is
// about sections that come from somebody else.
func Unsafe(s *Section, hosts []string) diag.Problems {
	g := &guard{s: s, hosts: hosts}
	g.markup(s.Root)
	g.sheet(s.CSS.Nodes)
	return g.out.Sorted()
}

type guard struct {
	s     *Section
	hosts []string
	out   diag.Problems
}

func (g *guard) add(file, source string, at int, text, expected string) {
	p := diag.At(g.s.Dir+"/"+file, source, max(0, at))
	g.out = append(g.out, diag.Problem{Position: p, Severity: diag.Error, Rule: "unsafe-section", Text: text,
		Expected: expected, Source: diag.LineOf(source, p.Line), Width: 1})
}

// inHTML adds a problem at the first place where some of these words are written.
func (g *guard) inHTML(text, expected string, words ...string) {
	lower := strings.ToLower(g.s.HTML)
	at := -1
	for _, w := range words {
		if at < 0 && w != "" {
			at = strings.Index(lower, strings.ToLower(w))
		}
	}
	g.add("section.html", g.s.HTML, at, text, expected)
}

func (g *guard) markup(n *html.Node) {
	if n.Type == html.ElementNode {
		tag := strings.ToLower(n.Data)
		if slices.Contains(never, tag) {
			g.inHTML(fmt.Sprintf("a section has no <%s>", n.Data), "elements of a page's body", "<"+tag)
		}
		for _, a := range n.Attr {
			name := strings.ToLower(a.Key)
			if a.Namespace != "" {
				name = a.Namespace + ":" + name
			}
			g.attribute(n, tag, name, a.Val)
		}
	}
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		g.markup(c)
	}
}

func (g *guard) attribute(n *html.Node, tag, name, value string) {
	list := "an address of the site itself, or of a host that ziegel.yaml lists under hosts"
	switch {
	case strings.HasPrefix(name, "on") && len(name) > 2:
		g.inHTML(fmt.Sprintf("%s=%q runs a script", name, value), "no handlers: sections work without scripts",
			name+"=", name)
	case name == "srcdoc":
		g.inHTML("srcdoc brings a page of its own", list, name)
	case name == "attributename" && (strings.HasPrefix(strings.ToLower(value), "on") ||
		strings.HasSuffix(strings.ToLower(value), "href")):
		g.inHTML(fmt.Sprintf("an animation changes %s", value), "an animation of a shape", name)
	case name == "style":
		nodes, _ := css.ParseDeclarations(value)
		for _, d := range nodes {
			if reason := g.value(css.Text(d.Value)); reason != "" {
				g.inHTML(reason, list, value)
			}
		}
	case name == "srcset":
		for part := range strings.SplitSeq(value, ",") {
			if f := strings.Fields(part); len(f) > 0 {
				g.asks(f[0], list, value)
			}
		}
	case slices.Contains(fetched, name), name == "href" && tag != "a" && tag != "area":
		g.asks(value, list, value)
	case slices.Contains(ledTo, name):
		if scheme := schemeOf(value); scheme != "" && !slices.Contains([]string{"http", "https", "mailto", "tel",
			"sms"}, scheme) {
			g.inHTML(fmt.Sprintf("%s=%q is no link that a page may have", name, value),
				"https, mailto, tel, or a place on the site", value, name)
		}
	case slices.Contains(sentTo, name):
		if _, field := markup.Attr(n, "data-to"); !field || name != "action" { // a page says where its form goes
			g.asks(value, list, value)
		}
	}
}

// asks adds a problem when an address runs something or belongs to a host that the site does not list.
func (g *guard) asks(address, expected string, words ...string) {
	if reason := g.address(address); reason != "" {
		g.inHTML(reason, expected, words...)
	}
}

// address says what is wrong with an address that a browser asks for by itself.
func (g *guard) address(v string) string {
	clean := squeeze(v)
	scheme := schemeOf(v)
	switch {
	case strings.HasPrefix(clean, "//"), scheme == "http", scheme == "https":
		u, err := url.Parse(clean)
		if err != nil || !slices.Contains(g.hosts, u.Hostname()) || scheme == "http" {
			return fmt.Sprintf("%q asks another host", v)
		}
	case strings.HasPrefix(clean, "data:image/"), scheme == "":
	default:
		return fmt.Sprintf("%q is no address of a file", v)
	}
	return ""
}

// value says what is wrong with a CSS value.
func (g *guard) value(text string) string {
	list, ok := grammar.Addresses(text)
	lower := strings.ToLower(text)
	suspect := !ok && (strings.Contains(text, `\`) || strings.Contains(lower, "url") ||
		strings.Contains(lower, "image-set") || strings.Contains(lower, "element(") ||
		strings.Contains(lower, "src("))
	if suspect {
		return fmt.Sprintf("nobody can tell what %q asks for", text)
	}
	for _, a := range list {
		if reason := g.address(a); reason != "" {
			return reason
		}
	}
	return ""
}

func (g *guard) sheet(nodes []*css.Node) {
	for _, n := range nodes {
		switch {
		case n.Kind == css.AtRule && (n.Name == "import" || n.Name == "font-face" || n.Name == "charset" ||
			n.Name == "namespace"):
			g.add("section.css", g.s.CSS.Source, n.Pos, fmt.Sprintf("a section has no @%s", n.Name),
				"rules of its own; fonts belong to the theme")
		case len(n.Value) > 0:
			if reason := g.value(css.Text(n.Value)); reason != "" {
				g.add("section.css", g.s.CSS.Source, n.Pos, reason,
					"an address of the site itself, or of a host that ziegel.yaml lists under hosts")
			}
		}
		g.sheet(n.Children)
	}
}

// schemeOf gives the scheme of an address as browsers read it, "" without one.
func schemeOf(v string) string {
	s, _, ok := strings.Cut(squeeze(v), ":")
	if !ok || strings.ContainsAny(s, "/?#.") {
		return ""
	}
	return strings.ToLower(s)
}

// squeeze drops what browsers drop before they read an address (URL Standard, section 4.4): white space, and control
// characters at its ends.
func squeeze(v string) string {
	return strings.Map(func(r rune) rune {
		if r <= ' ' {
			return -1
		}
		if r == '\\' {
			return '/'
		}
		return r
	}, v)
}
