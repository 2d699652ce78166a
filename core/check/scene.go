package check

import (
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"unicode"
	"unicode/utf8"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/media"
	"ziegel/core/naming"
	"ziegel/core/sweep"
)

// Scene is what the rules know of a page at every width.
type Scene struct {
	l        *sweep.Prepared
	own      []int            // letters of the own text of each element
	price    []bool           // it is a price
	kind     []elementKind    // of each element
	groups   [][]*css.Element // like boxes
	anchors  []*css.Element   // what links on the page lead to
	end      []int            // the index after the last element inside each
	colors   palette
	limits   map[string]bound     // of the rules, by their names
	tuned    map[string][]float64 // limits that the site sets, by rule and element
	off      []bool               // it is disabled, or not for reading
	ids      map[string]*css.Element
	texts    []string                  // words of the elements that have text of their own
	twins    map[string][]*css.Element // elements by those
	strip    sync.Map                  // *layout.Result to stripsAt
	sights   sync.Map                  // *layout.Result to *sight
	navs     []*css.Element            // what holds the links of the page
	openers  map[string][]*css.Element // buttons by the id of what they open
	weights  sync.Map                  // bytes of the file of an img
	seen     []atomic.Bool             // its text was shown at some width
	clips    []atomic.Bool             // its text is cut off on a high screen, too
	sideways map[int]bool              // widths at which the page scrolls sideways
}

type elementKind uint8

// currencySigns are those by which a price is known.
const currencySigns = "€$£¥"

const (
	plainKind elementKind = iota
	runningKind
	headingKind
	targetKind
	pictureKind // one whose file never changes
)

func newScene(l *sweep.Prepared, limits map[string]bound) *Scene {
	n := len(l.Doc.Elements)
	s := &Scene{l: l, limits: limits, own: make([]int, n), price: make([]bool, n), kind: make([]elementKind, n),
		end: make([]int, n)}
	s.colors.dark.Dark = true
	s.colors.canvas = [2]canvas{newCanvas(l.Doc.OnlyDark() || l.Dark && l.Doc.DarkCanvas()),
		newCanvas(l.Doc.DarkCanvas())}
	s.off = make([]bool, n)
	s.seen, s.clips = make([]atomic.Bool, n), make([]atomic.Bool, n)
	ids := map[string]*css.Element{}
	s.ids, s.texts, s.twins, s.openers = ids, make([]string, n), map[string][]*css.Element{},
		map[string][]*css.Element{}
	for i, e := range l.Doc.Elements {
		text := naming.OwnText(e)
		if text != "" {
			s.texts[i] = naming.Words(e)
			s.twins[s.texts[i]] = append(s.twins[s.texts[i]], e)
		}
		s.own[i] = utf8.RuneCountInString(text)
		if s.price[i] = strings.ContainsAny(text, currencySigns); s.price[i] && e.Parent != nil &&
			strings.Trim(text, currencySigns+" ") == "" { // the sign alone: the price is around it
			s.price[i], s.price[e.Parent.Index] = false, true
		}
		for _, name := range openers {
			if id := e.Attr(name); id != "" {
				s.openers[id] = append(s.openers[id], e)
			}
		}
		s.kind[i] = kindOf(e)
		s.off[i] = disabled(e)
		for x := e; x != nil; x = x.Parent {
			s.end[x.Index] = i + 1
		}
		if e.ID != "" && ids[e.ID] == nil {
			ids[e.ID] = e
		}
	}
	led := map[*css.Element]bool{}
	for _, e := range l.Doc.Elements {
		if id, ok := strings.CutPrefix(e.Attr("href"), "#"); ok && e.Tag == "a" && ids[id] != nil && !led[ids[id]] {
			led[ids[id]] = true
			s.anchors = append(s.anchors, ids[id])
		}
	}
	s.navs = navigations(s)
	for _, b := range l.Every() {
		s.groups = append(s.groups, b.Groups()...)
	}
	return s
}

func kindOf(e *css.Element) elementKind {
	switch {
	case running[e.Tag]:
		return runningKind
	case naming.Headings[e.Tag] > 0:
		return headingKind
	case naming.Clickable(e):
		return targetKind
	case e.Tag == "img" && !strings.HasSuffix(strings.ToLower(e.Attr("src")), ".svg"):
		if _, many := e.LookupAttr("srcset"); !many && (e.Parent == nil || e.Parent.Tag != "picture") {
			return pictureKind
		}
	}
	return plainKind
}

// heights gives how high the page is, and each of its blocks.
func (s *Scene) heights(r *layout.Result) []layout.Px {
	out := make([]layout.Px, 1, len(s.l.Blocks)+1)
	out[0] = r.Height
	for _, b := range s.l.Blocks {
		h := layout.Px(0)
		if p := r.Of(b.Element); p != nil {
			h = p.H
		}
		out = append(out, h)
	}
	return out
}

// mayBeCut reports whether a low screen can cut anything off: something stays on the screen, or a height is given in
// its units.
func (s *Scene) mayBeCut() bool {
	return s.l.Doc.Declares("position", "fixed", "sticky") ||
		s.l.Doc.DeclaresIn("vh", 1, "height", "max-height", "block-size", "max-block-size")
}

// openers are the attributes of a button that name what it opens.
var openers = []string{"popovertarget", "commandfor", "aria-controls"}

// navigations lists the elements that hold the links of the page: nav, or what has that role, with two links or more.
func navigations(s *Scene) []*css.Element {
	var out []*css.Element
	for _, e := range s.l.Doc.Elements {
		isMenu := (e.Tag == "nav" || e.Attr("role") == "navigation") && len(s.linksIn(e)) > 1 &&
			popoverAround(e.Parent) == nil && !slices.ContainsFunc(out,
			func(n *css.Element) bool { return naming.Inside(e, n) })
		if isMenu {
			out = append(out, e)
		}
	}
	return out
}

// running are the tags that hold text to be read in a row.
var running = map[string]bool{"p": true, "li": true, "dd": true, "blockquote": true, "figcaption": true}

// shown reports a box whose text can be read.
func shown(p *layout.Fragment) bool {
	return p.Lines > 0 && p.Style.Visible && p.Style.Opacity > 0 &&
		(!p.Cropped || !p.Text.Intersect(p.Window).Empty())
}

func (s *Scene) linksIn(e *css.Element) []*css.Element {
	var out []*css.Element
	for _, x := range s.l.Doc.Elements[e.Index:s.end[e.Index]] {
		if _, ok := x.LookupAttr("href"); ok && x.Tag == "a" {
			out = append(out, x)
		}
	}
	return out
}

// popoverAround gives the nearest popover that an element is or stands in.
func popoverAround(e *css.Element) *css.Element {
	for ; e != nil; e = e.Parent {
		if _, pop := e.LookupAttr("popover"); pop {
			return e
		}
	}
	return nil
}

// palette reads the colors of a page. It is shared by all who look at its widths.
type palette struct {
	before      sync.Map // *layout.Result, one for each engine, to *looked
	light, dark css.Painter
	canvas      [2]canvas // light and dark
	pictures    sync.Map  // pictureKey to *pictured
	grounds     sync.Map  // groundKey to *ground
	judged      sync.Map  // judgeKey to true, when the text can be read
}

// canvas is what the browser draws below a page and in which color it writes.
type canvas struct {
	ground ground
	paint  css.Paint
}

func newCanvas(dark bool) canvas {
	in := css.ColorContext{Dark: dark}
	ground1, _ := css.ParseColor(css.Tokenize("canvas"), in)
	ink, _ := css.ParseColor(css.Tokenize("canvastext"), in)
	return canvas{ground{colors: []css.Color{ground1}}, css.Paint{Color: ink}}
}

func disabled(e *css.Element) bool {
	for x := e; x != nil; x = x.Parent {
		if _, off := x.LookupAttr("disabled"); off || x.Attr("aria-hidden") == "true" {
			return true
		}
	}
	return false
}

// pictured is what is known of the colors of one picture file.
type pictured struct {
	grid *media.Colors // nil when only a list is known
	list []css.Color
	w, h float64
}

type pictureKey struct {
	src  string
	dark bool
}

// limit gives the bound of a rule for one element.
func (s *Scene) limit(rule string, e *css.Element) float64 {
	if of := s.tuned[rule]; of != nil {
		return of[e.Index]
	}
	return s.limits[rule].value
}

// target reports what is clicked or tapped, can be seen and does not stand in a sentence (WCAG 2.5.8 exempts those).
func (s *Scene) target(p *layout.Fragment) bool {
	e := p.Element
	untouchable := s.kind[e.Index] != targetKind || !p.Style.Visible || p.Style.Opacity == 0 || p.Empty() ||
		p.Clipped && p.Intersect(p.Clip).Empty()
	if untouchable {
		return false
	}
	if p.Right() <= 0 || p.Bottom() <= 0 { // kept off the screen until it is focused
		return false
	}
	return p.Style.Display != css.Inline || e.Parent == nil || !sentence(naming.OwnText(e.Parent))
}

// ground is what may be seen below an element that nothing else lies under, colors of all spots.
type ground struct {
	colors  []css.Color
	unclear bool // blended or filtered: nobody can tell
	placed  bool // a picture is part of it, so that it depends on the spot
}

func (p *palette) picture(s *Scene, src string, dark bool) *pictured {
	dark = dark || s.l.Doc.OnlyDark() // drawings follow the scheme of what shows them (measured)
	key := pictureKey{src, dark}
	if known, ok := p.pictures.Load(key); ok {
		return known.(*pictured)
	}
	out := &pictured{}
	if data, ok := s.l.File(src); ok {
		out.w, out.h, _ = media.Size(src, data)
		if out.grid = s.l.Looks.Look(src, data, dark); out.grid == nil && media.IsSVG(src) {
			out.list = css.Colors(media.SVGColors(data))
		}
	}
	p.pictures.Store(key, out)
	return out
}

// sentence reports words around a link; bars, commas and a label before it are none.
func sentence(text string) bool {
	n := 0
	for _, w := range strings.Fields(text) {
		if strings.ContainsFunc(w, unicode.IsLetter) {
			n++
		}
	}
	return n > 1
}

// bound is the limit of a rule, with its unit.
type bound struct {
	value float64
	unit  string
}

// across reports a box whose lines stand below each other, as rules that count lines think of them.
func across(p *layout.Fragment) bool { return p.Style.Mode == css.Horizontal }
