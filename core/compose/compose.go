// Package compose puts a page together: sections with the page's content, options, tones and styles become one HTML
// document and its stylesheets. Content is data: nothing typed into a field becomes markup or script. Every
// declaration keeps the place where it was written. The same site gives the same bytes.
package compose

import (
	"fmt"
	"regexp"
	"slices"
	"sort"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/markup"
	"ziegel/core/media"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/theme"
)

// Sheet is one generated stylesheet with the origin of its declarations.
type Sheet struct {
	Name    string
	Text    string
	origins []origin
	common  int // how many bytes every sheet of the site begins with
}

type origin struct {
	at  int
	pos diag.Position
	of  map[string]diag.Position // by class, in a rule that several places share
}

// Origin gives where the declaration at a byte of the sheet was written for an element with these classes, the sheet
// itself when it was generated. A rule that says the same for several parts stands once in the sheet and was written
// in several places.
func (s *Sheet) Origin(at int, classes ...string) diag.Position {
	i := sort.Search(len(s.origins), func(i int) bool { return s.origins[i].at >= at })
	if i < len(s.origins) && s.origins[i].at == at {
		for _, c := range classes {
			if pos, ok := s.origins[i].of[c]; ok {
				return pos
			}
		}
		return s.origins[i].pos
	}
	// it stands at another line of the built file, which has the rules of all pages
	if at >= s.common && s.common > 0 {
		return diag.Position{File: s.Name}
	}
	return diag.At(s.Name, s.Text, at)
}

// FieldState says where a field's content comes from.
type FieldState string

// The states of a field.
const (
	Own    FieldState = "own"
	Sample FieldState = "sample"
	Empty  FieldState = "empty"
)

// FieldUse is one field of one block on a page.
type FieldUse struct {
	Block string
	Field string
	State FieldState
	Text  string
	Pos   diag.Position
	Slot  bool // it takes blocks
	// Address tells that a form is sent to it.
	Address bool
}

// LinkUse is a link that the page has.
type LinkUse struct {
	Block, To, Href string
	Pos             diag.Position
}

// Page is a composed page.
type Page struct {
	Name   string
	Path   string // of the built file: index.html, courses/index.html
	HTML   string
	Site   *Sheet
	Own    *Sheet
	Fields []FieldUse
	Links  []LinkUse
	Media  []string     // files below media/ that it shows
	Copies []media.Copy // smaller copies of them that it names
	Sample []string     // of the title and the description, those that are a template's
	NoAlt  []Bare       // own pictures without alternative text
	Blocks []*site.Block
	Tuned  []site.Tuned // rules of the check that the site tunes
}

// Bare is a picture without alternative text.
type Bare struct {
	Block, Field, File string
	Pos                diag.Position
}

// Options change what Compose makes.
type Options struct {
	Marks bool     // keep data-block, data-part and data-each, for measuring
	Only  []string // blocks to compose; nil means all
	Sheet *Sheet   // the site's stylesheet, when the caller has it already
	// Measured is what a layout of the page said; without it, what follows the layout is left out.
	Measured *Measured
}

// Mark attributes kept with Options.Marks.
const (
	MarkBlock = "data-block"
	MarkPart  = "data-part"
	MarkEach  = "data-each"
	MarkHolds = "data-holds"
)

// composer is the work on one page.
type composer struct {
	*styling
	opts     Options
	out      *Page
	headings int // h1 given away
	level    int // how many headings stand above the block at work
	all      []*site.Block
	depth    string
	icons    map[string]string // names of icons by their shapes
}

// styling is the work on the stylesheet of one page.
type styling struct {
	env      *project.Project
	page     *site.Page
	measured *Measured
	problems diag.Problems
	onPage   []*site.Block // all of the page, however few are composed
	media    []string      // files below media/ that its rules show
	focuses  []focusRule
	turns    map[int]bool // how many words take turns somewhere on the page
}

// rel gives the prefix that leads from a page to the site's root.
func rel(name string) string {
	switch name {
	case "home":
		return ""
	case project.Lost: // shown at whatever address was asked for
		return "/"
	}
	return "../"
}

// Compose makes one page. The page comes back as far as it could be made, with all problems.
func Compose(env *project.Project, p *site.Page, opts Options) (*Page, diag.Problems) {
	c := &composer{styling: &styling{env: env, page: p, measured: opts.Measured, turns: map[int]bool{}}, opts: opts, depth: rel(p.Name), out: &Page{Name: p.Name, Path: project.PagePath(p.Name)}, icons: map[string]string{}}
	c.all = project.Wanted(env.All(p), opts.Only)
	c.out.Site = opts.Sheet
	if c.out.Site == nil {
		var ps diag.Problems
		c.out.Site, ps = sheetOf(env, c.all)
		c.problems = append(c.problems, ps...)
	}
	blocks := c.all
	c.out.Blocks, c.out.Tuned = blocks, env.Site.Tuned
	doc := &html.Node{Type: html.DocumentNode}
	doc.AppendChild(&html.Node{Type: html.DoctypeNode, Data: "html"})
	root := markup.Element("html", "lang", env.Site.Language)
	doc.AppendChild(root)
	body := markup.Element("body")
	c.assemble(body, project.Outer(blocks))
	if !opts.Marks { // what is only measured has the same boxes
		shareIcons(body, c.icons)
	}
	c.out.Own = c.pageSheet(blocks)
	for _, file := range c.media {
		c.out.Media = appendOnce(c.out.Media, file)
	}
	for _, h := range [][2]string{{"title", c.page.Title}, {"description", c.page.Description}} {
		if h[1] != "" && samplesOf(env)["*"+h[0]][h[1]] {
			c.out.Sample = append(c.out.Sample, h[0])
		}
	}
	root.AppendChild(c.head())
	root.AppendChild(body)
	c.out.HTML = markup.Print(doc)
	sort.Strings(c.out.Media)
	return c.out, c.problems.Sorted()
}

func (c *styling) add(p diag.Problem) { c.problems = append(c.problems, p) }

// assemble puts the blocks into header, main and footer.
func (c *composer) assemble(body *html.Node, blocks []*site.Block) {
	skip := c.word(markup.Element("a", "class", "skip", "href", "#main"), "skip")
	body.AppendChild(skip)
	main := markup.Element("main", "id", "main")
	var header, footer *html.Node
	seenMain := false
	var before *site.Block
	for _, b := range blocks {
		sec := c.section(b)
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
	if c.page.Name == project.Lost && main.FirstChild == nil {
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

// lost is the content of the page for addresses that do not exist, when the site has none of its own.
func (c *composer) lost() *html.Node {
	home := c.word(markup.Element("a", "class", "action action-main", "href", "/"), "home")
	return markup.With(markup.Element("div", "class", "block tone-plain"), markup.With(markup.Element("div", "class", "lanes spaced"),
		c.word(markup.Element("h1", "class", "type-title"), "lost"),
		c.word(markup.Element("p", "class", "type-lead"), "lost-why"),
		markup.With(markup.Element("p", "class", "actions"), home)))
}

func (c *styling) section(b *site.Block) *library.Section {
	sec := c.env.Library.Section(b.Section)
	if sec == nil {
		v := b.Node.Get("section")
		if v == nil {
			v = b.Node
		}
		kind := strings.SplitN(b.Section, "/", 2)[0]
		c.add(b.File.Problem(v, "unknown-section", fmt.Sprintf("unknown section %q", b.Section), fmt.Sprintf("a section of the library; `ziegel sections %s` lists them", kind), c.env.Library.Nearest(b.Section)))
	}
	return sec
}

// block makes the wrapper of one block of the page, with its section inside.
func (c *composer) block(b *site.Block, sec *library.Section, before *site.Block) *html.Node {
	classes := []string{"block", "tone-" + c.tone(b), c.className(b, "")}
	if before != nil && c.joins(before, b) {
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
	for _, d := range f.dress()[PartBlock] {
		if d.class != c.className(b, PartBlock) && !slices.Contains(classes, d.class) {
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

// tone gives the ground of a block; a wrong one is told once.
func (c *styling) tone(b *site.Block) string {
	if b.Tone == "" {
		return "plain"
	}
	if slices.Contains(theme.Tones, b.Tone) {
		return b.Tone
	}
	c.addOnce(b.File.Problem(b.Node.Get("tone"), "unknown-tone", fmt.Sprintf("there is no tone %q", b.Tone), "one of "+strings.Join(theme.Tones, ", "), diag.Nearest(b.Tone, theme.Tones)))
	return "plain"
}

func (c *styling) addOnce(p diag.Problem) {
	for _, q := range c.problems {
		if q == p {
			return
		}
	}
	c.add(p)
}

// className gives the class of a block or of one of its parts: home-plans-card.
func (c *styling) className(b *site.Block, part string) string {
	page := c.page.Name
	if b.EveryPage != "" {
		page = "site"
	}
	name := page + "-" + b.Name
	for _, sec := range c.env.Library.Sections { // pricing/plans owns pricing-plans, whatever a page is called
		if name == slug(sec.Name) {
			name = "page-" + name
		}
	}
	if part != "" && part != PartBlock {
		name += "-" + part
		for c.taken(b, part) {
			part, name = part+"-part", name+"-part"
		}
	}
	return name
}

// taken reports whether the class of a part would be that of another block of the page, or of a part of one: that of
// opening's words is that of the block opening-words.
func (c *styling) taken(b *site.Block, part string) bool {
	full := b.Name + "-" + part
	if c.onPage == nil {
		c.onPage = c.env.Site.All(c.page)
	}
	for _, o := range c.onPage {
		if (o.EveryPage == "") != (b.EveryPage == "") || len(o.Name) <= len(b.Name) {
			continue
		}
		rest, ok := strings.CutPrefix(full, o.Name)
		if !ok {
			continue
		}
		if rest == "" {
			return true
		}
		if sec := c.env.Library.Section(o.Section); sec != nil && rest[0] == '-' && slices.Contains(sec.Parts, rest[1:]) {
			return true
		}
	}
	return false
}

// pageSheet writes the stylesheet of one page: distances, option values and overrides of its blocks.
func (c *styling) pageSheet(blocks []*site.Block) *Sheet {
	w := newSheet(c.page.Name + ".css")
	var defaults, follow, followPage, own []styles
	for i := range c.page.Defaults {
		d := &c.page.Defaults[i]
		if sec := c.defaultSection(d); sec != nil {
			defaults = append(defaults, defaultStyles(d, sec))
		}
	}
	for _, b := range blocks {
		sec := c.env.Library.Section(b.Section)
		if sec == nil {
			continue
		}
		own = append(own, c.blockStyles(b, sec))
		for _, list := range []struct {
			from []site.Default
			to   *[]styles
		}{{c.env.Site.Defaults, &follow}, {c.page.Defaults, &followPage}} {
			if d := site.DefaultFor(list.from, b.Section); d != nil {
				s := defaultStyles(d, sec)
				s.block, s.pick, s.class = b, following, func(part string) string { return c.className(b, part) }
				*list.to = append(*list.to, s)
			}
		}
	}
	c.turning(w)
	w.open("@layer site")
	c.overrides(w, follow...)
	w.close()
	w.open("@layer page")
	c.distances(w, project.Outer(blocks))
	c.heldDistances(w, blocks)
	for _, b := range blocks {
		if sec := c.env.Library.Section(b.Section); sec != nil {
			c.ground(w, b)
			c.optionValues(w, b, sec)
			c.thresholds(w, b, sec)
		}
	}
	c.overrides(w, append(defaults, followPage...)...)
	w.close()
	w.open("@layer block")
	c.focusRules(w)
	c.overrides(w, own...)
	w.close()
	keyframes(c.env, w)
	return w.sheet()
}

// length reads a distance: a token in braces, 0, or a CSS length.
func (c *styling) length(b *site.Block, v *site.Value, typed, what string) (string, bool) {
	value, p := c.tokens(typed)
	if p == "" && css.CheckValue("padding-top", value) && !strings.HasPrefix(value, "-") {
		if strings.Trim(value, "0") == "" {
			return "0px", true
		}
		return value, true
	}
	if v != nil {
		try := ""
		if p != "" {
			try = "{" + diag.Nearest(p, c.env.Theme.Names()) + "}"
		} else if regexp.MustCompile(`^[0-9.]+$`).MatchString(typed) {
			try = typed + "rem"
		}
		c.addOnce(b.File.Problem(v, "bad-value", fmt.Sprintf("%q is no distance", typed), `0, a length such as 3rem, or a token such as "{space.far}"`, try))
	}
	return "", false
}

// tokens replaces {token} by what stands for it; missing is the first token that does not exist.
func (c *styling) tokens(s string) (out, missing string) {
	out = project.TokenRef.ReplaceAllStringFunc(s, func(m string) string {
		ref, ok := c.env.Theme.Reference(m[1 : len(m)-1])
		if !ok && missing == "" {
			missing = m[1 : len(m)-1]
			if missing == "" {
				missing = "{}"
			}
		}
		return ref
	})
	return out, missing
}

// slug makes the class stem of a section: hero/beside -> hero-beside.
func slug(section string) string { return strings.ReplaceAll(section, "/", "-") }
