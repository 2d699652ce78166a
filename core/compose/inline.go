package compose

import (
	"bytes"
	"net/url"
	"regexp"
	"strings"

	"github.com/yuin/goldmark"
	"golang.org/x/net/html"

	"ziegel/core/diag"
	"ziegel/core/markup"
	"ziegel/core/site"
)

var markdown = goldmark.New()

// lessThan stands for < while Markdown is read, so that nothing becomes an element and code stays as it is written: a
// character that no text has (a noncharacter of Unicode).
const lessThan = "\ufdd0"

// inline reads inline Markdown. Everything else, HTML included, stays text.
func (f *filler) inline(v *site.Value) []*html.Node {
	if v.Runs != nil {
		return f.runs(v)
	}
	var out []*html.Node
	for i, para := range strings.Split(strings.ReplaceAll(strings.TrimSpace(f.c.dated(v.Text)), "\r\n", "\n"), "\n\n") {
		if i > 0 {
			out = append(out, markup.Element("br"), markup.Element("br"))
		}
		kept, alternatives := cutChanging(para)
		out = append(out, f.changing(f.paragraph(v, kept), alternatives)...)
	}
	return out
}

// runs writes a text that has pieces: those that a style asks for are elements, and so are days.
func (f *filler) runs(v *site.Value) []*html.Node {
	classes := f.styled()
	var out []*html.Node
	for _, r := range v.Runs {
		if r.Text == "" {
			continue
		}
		n := markup.Text(r.Text)
		switch {
		case r.Part == "" && r.Is != "":
			n = markup.With(markup.Element("time", "datetime", r.Is), n)
		case len(classes[r.Part]) > 0:
			n = markup.With(markup.Element("span", MarkPart, r.Part), n)
		}
		out = append(out, n)
	}
	return out
}

// dated puts the year of the build in the place of {year}.
func (c *composer) dated(text string) string {
	if c.Env.Today == "" {
		return text
	}
	year, _, _ := strings.Cut(c.Env.Today, "-")
	return strings.ReplaceAll(text, "{year}", year)
}

// paragraph reads one paragraph, with links that lead where they mean.
func (f *filler) paragraph(v *site.Value, para string) []*html.Node {
	out := paragraph(para)
	for _, k := range out {
		markup.Each(k, func(x *html.Node) {
			if x.Data == "a" {
				to, _ := markup.Attr(x, "href")
				href, p := f.c.href(to, f.b)
				if p != nil {
					p.Position, p.Source, p.Width = v.Pos, diag.LineOf(f.file(v).Source, v.Pos.Line), max(1, v.Width)
					f.c.AddOnce(*p)
				}
				markup.Set(x, "href", href)
			}
		})
	}
	return out
}

// Inline reads the inline Markdown of a text as a field has it: paragraphs with two line breaks between, words that
// take turns as the first of them, links to where they are written to lead.
func Inline(text string) []*html.Node {
	var out []*html.Node
	for i, para := range strings.Split(strings.ReplaceAll(strings.TrimSpace(text), "\r\n", "\n"), "\n\n") {
		if i > 0 {
			out = append(out, markup.Element("br"), markup.Element("br"))
		}
		out = append(out, paragraph(para)...)
	}
	return out
}

// Plain gives what a text of a page says without its inline Markdown.
func Plain(text string) string {
	var b strings.Builder
	for _, n := range paragraph(text) {
		b.WriteString(plain(markup.With(markup.Element("p"), n)))
	}
	return b.String()
}

// blockStart is how a line begins that Markdown reads as more than a paragraph (CommonMark, 4 and 5).
var blockStart = regexp.MustCompile(
	"^(?:#|[-+*](?:\\s|$)|\\d+[.)]|>|~~~|```|\\[[^\\]]*\\]:|(?:[-*_][ \\t]*){3,}(?:\n|$)|=)",
)

func paragraph(para string) []*html.Node {
	// A word joiner keeps a leading #, - or digit from starting a block; it is taken off again. Where nothing would
	// begin there is none: an underscore after it would not open emphasis.
	guard := ""
	if blockStart.MatchString(strings.TrimLeft(para, " \t")) {
		guard = "\u2060"
	}
	safe := strings.ReplaceAll(strings.TrimLeft(para, " \t"), "<", lessThan)
	var buf bytes.Buffer
	if err := markdown.Convert([]byte(guard+safe), &buf); err != nil {
		return []*html.Node{markup.Text(para)}
	}
	frag, err := html.ParseFragment(&buf, markup.Element("div"))
	if err != nil || len(frag) == 0 || frag[0].Data != "p" {
		return []*html.Node{markup.Text(para)}
	}
	p := frag[0]
	for _, extra := range frag[1:] { // a line that Markdown made a block of its own
		if extra.Type == html.ElementNode {
			return []*html.Node{markup.Text(para)}
		}
	}
	var out []*html.Node
	for p.FirstChild != nil {
		k := p.FirstChild
		p.RemoveChild(k)
		out = append(out, k)
	}
	if len(out) > 0 && out[0].Type == html.TextNode {
		out[0].Data = strings.TrimPrefix(out[0].Data, guard)
	}
	for _, k := range out {
		unguard(k)
		markup.Each(k, func(x *html.Node) {
			if x.Data == "img" { // pictures have fields of their own
				*x = html.Node{Type: html.TextNode, Data: "", Parent: x.Parent, PrevSibling: x.PrevSibling,
					NextSibling: x.NextSibling}
			}
		})
	}
	if len(out) > 0 && out[0].Type == html.TextNode && out[0].Data == "" {
		out = out[1:]
	}
	return out
}

// unguard puts < back where lessThan stood.
func unguard(n *html.Node) {
	if n.Type == html.TextNode {
		n.Data = strings.ReplaceAll(n.Data, lessThan, "<")
	}
	for i := range n.Attr {
		n.Attr[i].Val = strings.NewReplacer(lessThan, "<", url.PathEscape(lessThan), "%3C").Replace(n.Attr[i].Val)
	}
	for k := n.FirstChild; k != nil; k = k.NextSibling {
		unguard(k)
	}
}
