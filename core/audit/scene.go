package audit

import (
	"strings"
	"sync"
	"sync/atomic"
	"unicode/utf8"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/naming"
	"ziegel/core/sweep"
)

// boxes makes a look of a rule about single boxes. see gives what it measures and how far that is beyond the bound;
// nothing is wrong when that is 0 or less. cause is the property to blame.
func boxes(cause string, see func(s *Scene, r *layout.Result, p *layout.Placed) (value, beyond float64)) func(*Scene, *layout.Result) []hit {
	return func(s *Scene, r *layout.Result) []hit {
		var out []hit
		for i := range r.Boxes {
			p := &r.Boxes[i]
			if value, beyond := see(s, r, p); beyond > 0 {
				out = append(out, hit{el: p.Element, amount: css.FromFloat(beyond), value: value, cause: cause})
			}
		}
		return out
	}
}

// scene is what the rules know of a page at every width.
type Scene struct {
	l        *sweep.Laid
	own      []int            // letters of the own text of each element
	price    []bool           // it is a price
	kind     []elementKind    // of each element
	groups   [][]*css.Element // like boxes
	anchors  []*css.Element   // what links on the page lead to
	end      []int            // the index after the last element inside each
	colors   palette
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

const (
	plainKind elementKind = iota
	runningKind
	headingKind
	targetKind
	pictureKind // one whose file never changes
)

func NewScene(l *sweep.Laid) *Scene {
	n := len(l.Doc.Elements)
	s := &Scene{l: l, own: make([]int, n), price: make([]bool, n), kind: make([]elementKind, n), end: make([]int, n)}
	s.colors.dark.Dark = true
	s.colors.canvas = [2]canvas{newCanvas(l.Dark && l.Doc.DarkCanvas()), newCanvas(l.Doc.DarkCanvas())}
	s.off = make([]bool, n)
	s.seen, s.clips = make([]atomic.Bool, n), make([]atomic.Bool, n)
	ids := map[string]*css.Element{}
	s.ids, s.texts, s.twins, s.openers = ids, make([]string, n), map[string][]*css.Element{}, map[string][]*css.Element{}
	for i, e := range l.Doc.Elements {
		text := naming.OwnText(e)
		if text != "" {
			s.texts[i] = naming.Words(e)
			s.twins[s.texts[i]] = append(s.twins[s.texts[i]], e)
		}
		s.own[i] = utf8.RuneCountInString(text)
		s.price[i] = strings.ContainsAny(text, "€$£¥")
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
	if l.Page != nil {
		s.tune(l.Page.Tuned)
	}
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
	return s.l.Doc.Declares("position", "fixed", "sticky") || s.l.Doc.DeclaresIn("vh", 1, "height", "max-height", "block-size", "max-block-size")
}
