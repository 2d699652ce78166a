package adopt

import (
	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/sweep"
)

// A page is cut where boxes lie one under the other over its width: header, sections, footer, or what stands for them
// in boxes without names, in rows of a table, or in a flat run of headings and texts.

// strip is what becomes a band: elements that follow one another.
type strip struct {
	elements []*css.Element
	landmark string // what the page's own elements say: header, footer or ""
}

type cutter struct {
	r    *layout.Result
	page layout.Px // height
	out  []strip
}

// strips cuts a page.
func (p *Page) strips() []strip {
	c := &cutter{r: p.result, page: p.result.Height}
	if body := boxOf(p.result, p.laid.Doc.Body); !body.Empty() {
		c.page = min(c.page, body.Bottom()) // a short page ends before the screen does
	}
	c.frame(p.laid.Doc.Body, "")
	return c.out
}

// kids lists the children of an element that show something, text of its own apart.
func (c *cutter) kids(e *css.Element) []*css.Element {
	var out []*css.Element
	for _, k := range e.Kids() {
		if unseen[k.Tag] {
			continue
		}
		f := c.r.Of(k)
		if f == nil { // display: contents, or not shown
			if c.shown(k) {
				out = append(out, c.kids(k)...)
			}
			continue
		}
		if k.Tag == "hr" || f.W > 0 && f.H > 0 || c.shown(k) {
			out = append(out, k)
		}
	}
	return out
}

// shown reports whether something in an element has a box.
func (c *cutter) shown(e *css.Element) bool {
	for _, k := range e.Kids() {
		if f := c.r.Of(k); f != nil && f.W > 0 && f.H > 0 || c.shown(k) {
			return true
		}
	}
	return false
}

// box gives the place of an element.
func (c *cutter) box(e *css.Element) layout.Rect { return boxOf(c.r, e) }

// frame cuts an element that holds the page, or a large part of it.
func (c *cutter) frame(e *css.Element, landmark string) {
	switch e.Tag {
	case "header", "footer":
		if landmark == "" && c.atEdge(e) {
			landmark = e.Tag
		}
	case "main":
		landmark = "main"
	}
	kids := c.kids(e)
	if len(kids) == 1 && containers[kids[0].Tag] && !hasText(e) {
		c.frame(kids[0], landmark)
		return
	}
	if hasText(e) || len(kids) < 2 {
		c.add([]*css.Element{e}, landmark)
		return
	}
	c.runs(kids, landmark)
}

// atEdge reports an element that begins or ends the page.
func (c *cutter) atEdge(e *css.Element) bool {
	b := c.box(e)
	return e.Tag == "header" && b.Y < 300*64 || e.Tag == "footer" && b.Bottom() > c.page-400*64
}

// runs joins what stands in a frame to bands: each container is one, and so is a heading with what follows it.
func (c *cutter) runs(kids []*css.Element, landmark string) {
	var run []*css.Element
	level := 0 // of the heading that the run began with
	flush := func() {
		if len(run) > 0 {
			c.add(run, landmark)
		}
		run, level = nil, 0
	}
	most := topLevel(kids)
	for _, k := range kids {
		switch {
		case k.Tag == "hr":
			flush()
		case isHeading(k.Tag):
			if l := int(k.Tag[1] - '0'); l <= most && (level > 0 || len(run) > 2) {
				flush()
			}
			if len(run) == 0 || level == 0 {
				level = int(k.Tag[1] - '0')
			}
			run = append(run, k)
		case !containers[k.Tag]:
			run = append(run, k)
		case c.holds(k):
			flush()
			c.frame(k, landmark)
		case level > 0 && (headed(k) == 0 || headed(k) > level):
			run = append(run, k) // it belongs to the heading above it
		default:
			flush()
			c.band(k, landmark)
		}
	}
	flush()
}

// band adds a container as a band of its own.
func (c *cutter) band(e *css.Element, landmark string) {
	if landmark == "" || landmark == "main" {
		switch {
		case e.Tag == "header" && c.atEdge(e), e.Tag == "footer" && c.atEdge(e):
			landmark = e.Tag
		case e.Tag == "nav" && c.box(e).Y < 300*64:
			landmark = "header"
		case e.Attr("role") == "banner":
			landmark = "header"
		case e.Attr("role") == "contentinfo":
			landmark = "footer"
		}
	}
	c.add([]*css.Element{e}, landmark)
}

// topLevel gives the level of the largest headings that stand in a frame itself, several of them, 9 when there are
// none: an h1 alone goes with what follows, and h2 cut.
func topLevel(kids []*css.Element) int {
	count := map[int]int{}
	for _, k := range kids {
		if isHeading(k.Tag) {
			count[int(k.Tag[1]-'0')]++
		}
	}
	for l := 1; l < 7; l++ {
		if count[l] > 1 || l > 1 && count[l] == 1 {
			return l
		}
	}
	return 9
}

// holds reports a container of bands: it takes much of the page, and what is in it lies one under the other, twice at
// least with a heading or a box of its own.
func (c *cutter) holds(e *css.Element) bool {
	if e.Tag == "nav" || e.Tag == "article" && len(e.Kids()) < 4 {
		return false
	}
	b := c.box(e)
	tall := b.H*2 > c.page || e.Tag == "main" ||
		(e.Tag == "header" || e.Tag == "table" || e.Tag == "tbody") && b.H > 400*64
	if !tall || hasText(e) {
		return false
	}
	kids := c.kids(e)
	if len(kids) == 1 {
		return containers[kids[0].Tag] && (c.holds(kids[0]) || e.Tag == "main" || len(c.kids(kids[0])) > 1)
	}
	if e.Tag != "main" && c.entries(e, kids) {
		return false
	}
	own, beside := 0, 0
	for i, k := range kids {
		if containers[k.Tag] && (headed(k) > 0 || pictured(k)) {
			own++
		}
		if i > 0 && c.beside(kids[i-1], k) {
			beside++
		}
	}
	headings := 0
	for _, k := range kids {
		if isHeading(k.Tag) {
			headings++
		}
	}
	if e.Tag == "article" && own == 0 {
		return false
	}
	if beside > 0 && beside*2 >= len(kids)-1 { // columns: the wide one holds the page
		return c.columns(kids)
	}
	return own > 1 || headings > 1 || e.Tag == "main" || e.Tag == "header" && own+headings > 0
}

// entries reports boxes that are alike by their class, and low: the entries of a list, such as posts.
func (c *cutter) entries(e *css.Element, kids []*css.Element) bool {
	like := sweep.Alike(e)
	for _, k := range kids {
		unlike := like[k] == "" || like[k] != like[kids[0]] || k.Tag == "section" || len(k.Classes) == 0 ||
			c.box(k).H > 300*64
		if unlike {
			return false
		}
	}
	return len(kids) > 1
}

// beside reports boxes that stand side by side.
func (c *cutter) beside(a, b *css.Element) bool {
	x, y := c.box(a), c.box(b)
	return min(x.Bottom(), y.Bottom())-max(x.Y, y.Y) > min(x.H, y.H)/2 && min(x.Right(), y.Right())-max(x.X, y.X) <= 64
}

// columns reports a page in columns of which one holds most of it.
func (c *cutter) columns(kids []*css.Element) bool {
	for _, k := range kids {
		b := c.box(k)
		if b.H*2 > c.page && containers[k.Tag] && c.holds(k) {
			return true
		}
	}
	return false
}

func (c *cutter) add(list []*css.Element, landmark string) {
	last := len(c.out) - 1
	goesOn := last >= 0 && c.opens(c.out[last].elements) && c.out[last].landmark == landmark && headed(list[0]) == 0 &&
		landmark != "header"
	if goesOn {
		c.out[last].elements = append(c.out[last].elements, list...) // a heading in a box of its own
		return
	}
	c.out = append(c.out, strip{elements: list, landmark: landmark})
}

// opens reports a heading alone, with a text at the most.
func (c *cutter) opens(list []*css.Element) bool {
	headings, others := 0, 0
	var walk func(e *css.Element)
	walk = func(e *css.Element) {
		switch {
		case isHeading(e.Tag):
			headings++
		case e.Tag == "p":
			others++
		case len(e.Kids()) == 0 && !containers[e.Tag]:
			others += 2
		default:
			for _, k := range e.Kids() {
				walk(k)
			}
		}
	}
	for _, e := range list {
		walk(e)
	}
	return headings == 1 && others < 2
}
