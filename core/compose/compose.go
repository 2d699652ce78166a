// Package compose puts a page together: sections with the page's content, options, tones and styles become one HTML
// document and its stylesheets. Content is data: nothing typed into a field becomes markup or script. Every
// declaration keeps the place where it was written. The same site gives the same bytes.
package compose

import (
	"fmt"
	"slices"
	"sort"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/markup"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/styles"
)

// rel gives the prefix that leads from a page to the site's root.
func rel(e *project.Project, name string) string {
	if name == project.Lost { // shown at whatever address was asked for
		return "/"
	}
	return strings.Repeat("../", strings.Count(e.Path(name), "/"))
}

// Compose makes one page. The page comes back as far as it could be made, with all problems.
func Compose(env *project.Project, p *site.Page, opts Options) (*Page, diag.Problems) {
	c := &composer{Writer: &styles.Writer{Env: env, Page: p, Measured: opts.Measured, Turns: map[int]bool{}},
		opts: opts, depth: rel(env, p.Name), out: &Page{Name: p.Name, Path: env.Path(p.Name)},
		icons: map[string]string{}}
	if opts.Files && p.Name == project.Lost { // it is opened where it lies
		c.depth = strings.Repeat("../", strings.Count(env.Path(p.Name), "/"))
	}
	c.all = project.Wanted(env.All(p), opts.Only)
	c.Problems = append(append(c.Problems, env.LiveMistakes(p)...), env.CompoundMistakes(p)...)
	c.out.Site = opts.Sheet
	if c.out.Site == nil {
		var ps diag.Problems
		c.out.Site, ps = styles.SheetFor(env, c.all)
		c.Problems = append(c.Problems, ps...)
	}
	blocks := c.all
	c.out.Blocks, c.out.Tuned = blocks, env.Site.Tuned
	doc := &html.Node{Type: html.DocumentNode}
	doc.AppendChild(&html.Node{Type: html.DoctypeNode, Data: "html"})
	root := markup.Element("html", "lang", env.Site.Language)
	if rightToLeft(env.Site.Language) {
		root.Attr = append(root.Attr, html.Attribute{Key: "dir", Val: "rtl"})
	}
	doc.AppendChild(root)
	body := markup.Element("body")
	c.assemble(body, project.Outer(blocks))
	if !opts.Marks { // what is only measured has the same boxes
		shareIcons(body, c.icons)
	}
	c.out.Own = c.PageSheet(blocks)
	for _, file := range c.Media {
		c.out.Media = styles.AppendOnce(c.out.Media, file)
	}
	for _, h := range [][2]string{{"title", c.Page.Title}, {"description", c.Page.Description}} {
		if h[1] != "" && templateWords(env)[h[0]][h[1]] {
			c.out.Sample = append(c.out.Sample, h[0])
		}
	}
	root.AppendChild(c.head())
	root.AppendChild(body)
	c.out.HTML = markup.Print(doc)
	sort.Strings(c.out.Media)
	return c.out, c.Problems.Sorted()
}

// assemble puts the blocks into header, main and footer.
func (c *composer) assemble(body *html.Node, blocks []*site.Block) {
	skip := c.word(markup.Element("a", "class", "skip", "href", "#main"), "skip")
	body.AppendChild(skip)
	main := markup.Element("main", "id", "main")
	var header, footer *html.Node
	seenMain := false
	var before *site.Block
	for _, b := range blocks {
		sec := c.Section(b)
		if sec == nil {
			continue
		}
		n := c.block(b, sec, before)
		before = b
		switch project.Landmark(sec.Kind) {
		case "header":
			if !seenMain {
				if header == nil {
					header = markup.Element("header")
				}
				header.AppendChild(n)
				continue
			}
			main.AppendChild(n)
		case "footer":
			if footer == nil {
				footer = markup.Element("footer")
			}
			footer.AppendChild(n)
		default:
			seenMain = true
			main.AppendChild(n)
		}
	}
	if c.Page.Name == project.Lost && main.FirstChild == nil {
		main.AppendChild(c.lost())
	}
	for _, n := range []*html.Node{header, main, footer} {
		if n != nil {
			body.AppendChild(n)
		}
	}
	closeGaps(body)
}

// closeGaps lifts headings that leave out a level, with those below them: the levels follow from the page, whatever a
// section says.
func closeGaps(body *html.Node) {
	type level struct{ was, is int }
	var open []level
	markup.Each(body, func(n *html.Node) {
		if len(n.Data) != 2 || n.Data[0] != 'h' || n.Data[1] < '1' || n.Data[1] > '6' {
			return
		}
		l := level{int(n.Data[1] - '0'), int(n.Data[1] - '0')}
		for len(open) > 0 && open[len(open)-1].was >= l.was {
			open = open[:len(open)-1]
		}
		if len(open) > 0 {
			l.is = min(l.was, open[len(open)-1].is+1)
		}
		open = append(open, l)
		if l.is != l.was {
			n.Data, n.DataAtom = fmt.Sprintf("h%d", l.is), 0
		}
	})
}

// homeHref is the address of the site's first page.
func (c *composer) homeHref() string {
	if c.opts.Files {
		return c.pageHref("home")
	}
	return "/" + strings.TrimSuffix(c.Env.Path("home"), "index.html")
}

// lost is the content of the page for addresses that do not exist, when the site has none of its own.
func (c *composer) lost() *html.Node {
	home := c.word(markup.Element("a", "class", "action action-main", "href", c.homeHref()), "home")
	return markup.With(markup.Element("div", "class", "page-block tone-plain"),
		markup.With(markup.Element("div", "class", "lanes spaced"),
			c.word(markup.Element("h1", "class", "type-title"), "lost"),
			c.word(markup.Element("p", "class", "type-lead"), "lost-why"),
			markup.With(markup.Element("p", "class", "actions"), home)))
}

// block makes the wrapper of one block of the page, with its section inside.
func (c *composer) block(b *site.Block, sec *library.Section, before *site.Block) *html.Node {
	classes := []string{"page-block", "tone-" + c.Tone(b), c.ClassName(b, "")}
	if before != nil && c.Joins(before, b) {
		classes = append(classes, "joined")
	}
	if v, ok := b.Options["stays"]; ok && v.Str() == "yes" && sec.Option("stays") != nil {
		classes = append(classes, "stays")
	}
	return c.wrap(b, sec, classes)
}

// wrap puts a filled section into its wrapper.
func (c *composer) wrap(b *site.Block, sec *library.Section, classes []string) *html.Node {
	f := &filler{c: c, b: b, sec: sec}
	for _, d := range f.partClasses()[styles.PartBlock] {
		if d.class != c.ClassName(b, styles.PartBlock) && !slices.Contains(classes, d.class) {
			classes = append(classes, d.class)
		}
	}
	if b.Draft {
		classes = append(classes, "draft")
	}
	w := markup.Element("div", "class", strings.Join(classes, " "), "id", b.Name)
	if c.opts.Marks {
		w.Attr = append(w.Attr, html.Attribute{Key: MarkBlock, Val: b.Name})
	}
	if n := f.fill(); n != nil {
		w.AppendChild(n)
	}
	return w
}
