package compose

import (
	"fmt"
	"net/url"
	"slices"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/diag"
	"ziegel/core/markup"
	"ziegel/core/site"
)

// spoken writes a word of the page's language where an element has its text: as its label, its title, or in itself.
func (f *filler) spoken(n *html.Node, word string) {
	markup.Take(n, "data-word")
	for _, key := range []string{"aria-label", "title"} {
		if markup.Has(n, key) {
			text, _ := f.c.Env.Word(word)
			markup.Set(n, key, text)
			return
		}
	}
	markup.Empty(n)
	f.c.word(n, word)
}

// addressed says of an element with an address what attribute holds it, and what is said when it has none.
func addressed(n *html.Node) (attr, rule, text, expected string) {
	switch n.Data {
	case "iframe":
		return "src", "frame-nowhere", "the frame has no address to show", "with an https: address of a host that ziegel.yaml lists under hosts"
	case "video", "audio":
		return "src", "film-nowhere", "the film has no file to play", "with a file below media/, or an https: address of a host that ziegel.yaml lists under hosts"
	}
	return "action", "form-nowhere", "the form has no address to send to",
		"with an https: address or a mail address; `without` leaves out what a page does not want, not the address of a form"
}

// sendTo fills the address that a form sends to, or that a frame or a film shows.
func (f *filler) sendTo(n *html.Node, name string, sc scope) {
	attr, rule, text, expected := addressed(n)
	v, given := f.lookup(name, sc)
	sample, _ := markup.Take(n, attr) // a page is never built with the sample's address
	f.use(name, v, given, sample)
	if uses := f.c.out.Fields; len(uses) > 0 {
		uses[len(uses)-1].Address = true
	}
	switch {
	case !given:
		return
	case v.Empty():
		at := v
		if at == nil {
			at = f.b.Node
		}
		f.c.AddOnce(f.file(at).Problem(at, rule, text, name+": "+expected, ""))
		return
	}
	to := v.Str()
	if attr == "action" {
		to = receiver(to)
	}
	href, p := f.c.href(to, f.b)
	switch {
	case attr == "action" && !receives(to):
		href, p = "#", &diag.Problem{Severity: diag.Error, Rule: rule,
			Text: fmt.Sprintf("nobody receives what a form sends to %q",
				v.Str()), Expected: "an https: address or a mail address"}
	case p != nil:
	case attr == "src":
		p = f.shown(n, v, href)
	default:
		p = f.send(n, href, sc)
	}
	if p != nil {
		p.Position, p.Width, p.Source = v.Pos, max(1, v.Width), diag.LineOf(f.file(v).Source, v.Pos.Line)
		f.c.AddOnce(*p)
		if attr == "src" {
			return
		}
	}
	markup.Set(n, attr, href)
}

// shown tells what is wrong with an address that the page itself shows: another host must be one that the site lists.
func (f *filler) shown(n *html.Node, v *site.Value, href string) *diag.Problem {
	u, err := url.Parse(href)
	if err != nil || u.Scheme == "" {
		if n.Data == "iframe" && !strings.HasSuffix(href, ".html") && !strings.HasSuffix(href, "/") {
			return &diag.Problem{Severity: diag.Error, Rule: "dead-link",
				Text:     fmt.Sprintf("a frame shows pages, and %q is none", v.Str()),
				Expected: "a page, or an https: address of a host that ziegel.yaml lists under hosts"}
		}
		return nil
	}
	host := strings.ToLower(u.Hostname())
	if u.Scheme == "https" && slices.Contains(f.c.Env.Site.Hosts, host) {
		return nil
	}
	return &diag.Problem{Severity: diag.Error, Rule: "foreign-address",
		Text:     fmt.Sprintf("the page would ask %s for %s, and the site does not list that host", u.Host, v.Str()),
		Expected: "an https: address of a host that ziegel.yaml lists under hosts", Try: "hosts: [" + host + "]"}
}
