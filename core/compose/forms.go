package compose

import (
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/markup"
	"ziegel/core/site"
)

// Trap is the name of a field that people do not see and that programs fill in: what comes with text in it is no
// letter.
const Trap = "homepage"

// Then is the name of the field that tells the receiver of a form which page is shown when it was sent.
const Then = library.Then

// receiver gives the address that a form sends to: a mail address may stand alone.
func receiver(to string) string {
	if site.MailAddress.MatchString(to) {
		return "mailto:" + to
	}
	return to
}

// receives reports an address to which a form can be sent: pages of the site are files, which take nothing.
func receives(to string) bool {
	scheme, _, ok := strings.Cut(strings.ToLower(to), ":")
	return ok && (scheme == "https" || scheme == "http" || scheme == "mailto")
}

// send notes a form that is sent to an address, and reads the page that is shown afterwards.
func (f *filler) send(n *html.Node, href string, sc scope) *diag.Problem {
	method, _ := markup.Attr(n, "method")
	post, mail := strings.EqualFold(method, "post"), strings.HasPrefix(strings.ToLower(href), "mailto:")
	if mail && !post {
		return &diag.Problem{Severity: diag.Error, Rule: "form-nowhere",
			Text: "a search cannot be sent as a mail", Expected: "an https: address that answers it"}
	}
	if mail {
		markup.Set(n, "enctype", "text/plain") // the mail is lines of name and text (HTML, 4.10.21.4)
	}
	s := sent{n: n}
	if v, given := f.lookup(Then, sc); given && !v.Empty() {
		f.use(Then, v, given, "")
		to, p := f.c.href(v.Str(), f.b)
		if p == nil && mail {
			p = &diag.Problem{Severity: diag.Warning, Rule: "then-unseen",
				Text:     "no page follows a form that is sent as a mail: the mail program opens",
				Expected: "an https: address in send-to, or no then"}
		}
		if p == nil && f.c.Env.Site.Address == "" && !strings.Contains(to, ":") {
			p = &diag.Problem{Severity: diag.Warning, Rule: "then-unseen",
				Text:     "the receiver of the form cannot find the page after it: the site has no address",
				Expected: "address: https://... in " + f.c.Env.Site.File.Path}
		}
		if p != nil {
			p.Position, p.Width, p.Source = v.Pos, max(1, v.Width), diag.LineOf(f.file(v).Source, v.Pos.Line)
			f.c.AddOnce(*p)
		}
		s.then = f.whole(to)
	}
	f.forms = append(f.forms, s)
	return nil
}

// whole makes an address within the site one that others can ask for, when the site has an address.
func (f *filler) whole(to string) string {
	base := f.c.Env.Site.Address
	if base == "" || strings.Contains(to, ":") {
		return to
	}
	here := strings.TrimSuffix(f.c.Env.Path(f.c.Page.Name), "index.html")
	if strings.HasPrefix(to, "#") {
		return base + "/" + here + to
	}
	return base + "/" + strings.TrimPrefix(strings.TrimPrefix(to, "./"), f.c.depth)
}

// ready gives the forms of a block that are sent somewhere what they need beyond what the section draws: what each
// control says when it cannot be sent so, in the page's language (browsers speak their own), the page that follows,
// and a trap for programs that fill in whatever they find.
func (f *filler) ready() {
	for _, s := range f.forms {
		markup.Each(s.n, func(x *html.Node) { f.objection(x) })
		if action, _ := markup.Attr(s.n, "action"); !strings.HasPrefix(action, "http") {
			continue
		}
		if method, _ := markup.Attr(s.n, "method"); !strings.EqualFold(method, "post") {
			continue
		}
		if s.then != "" {
			s.n.AppendChild(markup.Element("input", "type", "hidden", "name", Then, "value", s.then))
		}
		label := f.c.word(markup.Element("label", "class", "trap", "aria-hidden", "true"), "trap")
		label.AppendChild(markup.Element("input", "type", "text", "name", Trap, "tabindex", "-1",
			"autocomplete", "off"))
		s.n.AppendChild(label)
	}
}

// objection puts after a control what is said when what was typed will not do.
func (f *filler) objection(x *html.Node) {
	kind, _ := markup.Attr(x, "type")
	word := "needed"
	switch {
	case x.Data == "input" && kind == "email":
		word = "needed-mail"
	case x.Data == "input" && (kind == "hidden" || kind == "radio" || kind == "checkbox"),
		x.Data != "input" && x.Data != "textarea" && x.Data != "select",
		!markup.Has(x, "required"):
		return
	}
	say := f.c.word(markup.Element("span", "class", "objection"), word)
	x.Parent.InsertBefore(say, x.NextSibling)
}
