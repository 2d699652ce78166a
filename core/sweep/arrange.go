package sweep

import (
	"slices"
	"strconv"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/font"
	"ziegel/core/layout"
	"ziegel/core/media"
)

// Block is a part of a page whose stacking is watched.
type Block struct {
	Name    string
	Section string
	Element *css.Element
	main    *group // nil when words and picture decide
	inside  []*group
	words   *css.Element
	picture *css.Element
	Held    []*Block // the blocks that stand in it
}

// Every lists the blocks of a page, what they hold after them.
func (l *Prepared) Every() []*Block {
	var out []*Block
	var add func(list []*Block)
	add = func(list []*Block) {
		for _, b := range list {
			out = append(out, b)
			add(b.Held)
		}
	}
	add(l.Blocks)
	return out
}

// Block finds a block by name, at any depth.
func (l *Prepared) Block(name string) *Block {
	for _, b := range l.Every() {
		if b.Name == name {
			return b
		}
	}
	return nil
}

// Groups gives the sets of like boxes in a block, such as its cards.
func (b *Block) Groups() [][]*css.Element {
	var out [][]*css.Element
	if b.main != nil {
		out = append(out, b.main.entries)
	}
	for _, g := range b.inside {
		out = append(out, g.entries)
	}
	return out
}

// Widths is a span of screen widths, both ends included, CSS px.
type Widths struct{ From, To int }

// Span is an arrangement over a span of widths, both ends included, CSS px.
type Span struct {
	From int    `json:"from"`
	To   int    `json:"to"`
	As   string `json:"as"`
}

// Inside is the stacking of a group inside a block.
type Inside struct {
	Part         string `json:"part"`
	Arrangements []Span `json:"arrangements"`
}

// Stacking is how one block stacks.
type Stacking struct {
	Name         string   `json:"name"`
	Section      string   `json:"section,omitempty"`
	Arrangements []Span   `json:"arrangements"`
	Inside       []Inside `json:"inside,omitempty"`
}

// marked finds the blocks of a page composed with marks.
func marked(doc *css.Document) []*Block {
	var out []*Block
	by := map[*css.Element]*Block{}
	for _, e := range doc.Elements {
		name, ok := e.LookupAttr("data-block")
		if !ok {
			continue
		}
		b := &Block{Name: name, Element: e}
		b.find(func(x *css.Element) (string, bool) {
			if each, ok := x.LookupAttr("data-each"); ok {
				return each, true
			}
			_, holds := x.LookupAttr("data-holds")
			return "slot", holds
		}, func(x *css.Element) string {
			for _, k := range []*css.Element{x.Parent, x} {
				if p := k.Attr("data-part"); p != "" {
					return p
				}
			}
			return x.Attr("data-each")
		})
		by[e] = b
		var around *Block
		for x := e.Parent; x != nil && around == nil; x = x.Parent {
			around = by[x]
		}
		if around != nil {
			around.Held = append(around.Held, b)
			continue
		}
		out = append(out, b)
	}
	return out
}

// foreign finds the blocks of any page: the children of body, or of its main.
func foreign(doc *css.Document) []*Block {
	root := doc.Body
	if root == nil {
		return nil
	}
	for _, k := range root.Kids() {
		if k.Tag == "main" {
			root = k
		}
	}
	var out []*Block
	for _, k := range root.Kids() {
		if k.Tag == "script" || k.Tag == "style" || k.Tag == "template" {
			continue
		}
		b := &Block{Name: k.Path(), Element: k}
		known := map[*css.Element]map[*css.Element]string{} // by parent
		b.find(func(x *css.Element) (string, bool) {
			if x.Parent == nil {
				return "", false
			}
			if known[x.Parent] == nil {
				known[x.Parent] = Alike(x.Parent)
			}
			like := known[x.Parent][x]
			return like, like != ""
		}, func(x *css.Element) string {
			if len(x.Classes) > 0 {
				return x.Classes[0]
			}
			return x.Tag
		})
		out = append(out, b)
	}
	return out
}

// find collects the groups below a block. Groups inside entries count once, from the first entry.
func (b *Block) find(like func(*css.Element) (string, bool), name func(*css.Element) string) {
	seen := map[string]bool{}
	var top []*group
	var walk func(e *css.Element, inEntry bool)
	walk = func(e *css.Element, inEntry bool) {
		byName := map[string]*group{}
		for _, k := range e.Kids() {
			if _, other := k.LookupAttr("data-block"); other {
				continue
			}
			if n, ok := like(k); ok {
				g := byName[n]
				if g == nil {
					g = &group{part: name(k)}
					byName[n] = g
					if !inEntry {
						top = append(top, g)
					} else if !seen[g.part] {
						b.inside = append(b.inside, g)
					}
					seen[g.part] = true
				}
				g.entries = append(g.entries, k)
				if len(g.entries) == 1 {
					walk(k, true)
				}
				continue
			}
			heading := b.words == nil && (k.Tag == "h1" || k.Tag == "h2" || k.Tag == "h3") && k.Parent != nil
			if heading {
				b.words = k.Parent
			}
			if b.picture == nil && (k.Tag == "img" || k.Tag == "video") {
				b.picture = k
			}
			walk(k, inEntry)
		}
	}
	walk(b.Element, false)
	for _, g := range top {
		if !g.plainLinks() && !g.headers() && (b.main == nil || len(g.entries) > len(b.main.entries)) {
			b.main = g
		}
	}
	if b.main == nil && (b.words == nil || b.picture == nil) {
		for _, g := range top {
			if b.main == nil || len(g.entries) > len(b.main.entries) {
				b.main = g
			}
		}
	}
	var rest []*group
	for _, g := range append(top, b.inside...) {
		if g != b.main && len(g.entries) > 1 { // one box alone has no arrangement
			rest = append(rest, g)
		}
	}
	b.inside = rest
}

// headers reports the header cells of a table: they stand as its rows do.
func (g *group) headers() bool { return g.entries[0].Tag == "th" }

// Arrangement gives how the block sits in a layout.
func (b *Block) Arrangement(r *layout.Result) string {
	if p := r.Of(b.Element); p == nil || p.H == 0 {
		return "hidden"
	}
	if b.main != nil {
		return b.main.arrangement(r)
	}
	if b.words == nil || b.picture == nil {
		return "1"
	}
	return relation(r, b.words, b.picture)
}

// relation says where a picture stands to the words: beside, above, below, over, or hidden.
func relation(r *layout.Result, words, picture *css.Element) string {
	w, p := r.Of(words), r.Of(picture)
	if p == nil || p.Empty() {
		return "hidden"
	}
	if w == nil {
		return "1"
	}
	common := w.Rect.Intersect(p.Rect)
	const slack = 64
	switch {
	case common.W > slack && common.H > slack:
		return "over"
	case p.Bottom() <= w.Y+slack:
		return "above"
	case p.Y >= w.Bottom()-slack:
		return "below"
	}
	return "beside"
}

// arrangement counts the boxes of each row: 3, 2+1, 1+1+1.
func (g *group) arrangement(r *layout.Result) string {
	var few [24]*layout.Fragment // nearly always enough
	boxes := few[:0]
	for _, e := range g.entries {
		if p := r.Of(e); p != nil && !p.Empty() {
			boxes = append(boxes, p)
		}
	}
	if len(boxes) == 0 {
		if opener(r, g.entries[0]) {
			return "menu"
		}
		return "hidden"
	}
	var text [48]byte
	name := text[:0]
	eachRow(boxes, func(row []*layout.Fragment) {
		if len(name) > 0 {
			name = append(name, '+')
		}
		name = strconv.AppendInt(name, int64(len(row)), 10)
	})
	return string(name)
}

// Rows gives the boxes of like elements as the rows that they stand in, from the top down; those without a box are
// left out.
func Rows(r *layout.Result, entries []*css.Element) [][]*layout.Fragment {
	var boxes []*layout.Fragment
	for _, e := range entries {
		if p := r.Of(e); p != nil && !p.Empty() {
			boxes = append(boxes, p)
		}
	}
	var out [][]*layout.Fragment
	eachRow(boxes, func(row []*layout.Fragment) { out = append(out, row) })
	return out
}

// eachRow sorts boxes by their upper edges and visits the rows. A box stands in a row when it shares more than half
// of its height with the first one, or of that one's, and lies beside all in it.
func eachRow(boxes []*layout.Fragment, visit func(row []*layout.Fragment)) {
	slices.SortStableFunc(boxes, func(a, b *layout.Fragment) int { return int(a.Y - b.Y) })
	var top, bottom layout.Px
	row := boxes[:0] // the end of the row so far
	for i, b := range boxes {
		fits := len(row) > 0 && overlap(top, bottom, b.Y, b.Bottom())*2 > min(bottom-top, b.H)
		for _, o := range row {
			if fits && overlap(o.X, o.Right(), b.X, b.Right()) > 64 {
				fits = false
			}
		}
		if !fits {
			if i > 0 {
				visit(row)
			}
			row, top, bottom = boxes[i:i], b.Y, b.Bottom()
		}
		row = row[:len(row)+1]
	}
	if len(row) > 0 {
		visit(row)
	}
}

func overlap(a, az, b, bz layout.Px) layout.Px { return min(az, bz) - max(a, b) }

// plainLinks reports a group of links that are words only, such as those of a menu; tiles that are links hold more.
func (g *group) plainLinks() bool {
	for _, e := range g.entries {
		if e.Tag != "a" {
			return false
		}
		for _, k := range e.Kids() {
			switch k.Tag {
			case "img", "picture", "h2", "h3", "h4", "p", "div", "figure", "video":
				return false
			}
		}
	}
	return true
}

// Prepared is a document with what is needed to lay it out.
type Prepared struct {
	Name    string
	Doc     *css.Document
	Page    *compose.Page // nil for a foreign file
	Blocks  []*Block
	Looks   *media.Looks // what pictures show
	fonts   *font.Set
	source  css.Source
	picture func(src string) (w, h float64, ok bool)
	file    func(src string) ([]byte, bool)
	shipped func(file string) bool // a section's file that is not in the site's folder
	Screen
	Dark bool
	Zoom float64 // device pixels a CSS px takes, in which it is laid out then; 0 for 1
	// Step, if given, is called after every layout, by several goroutines at once. A sweep ends early when it answers
	// false.
	Step func() bool
	// Workers is how many goroutines lay widths out; 0 means as many as there are cores for. Each works out styles
	// anew, so that several pages at once, one goroutine each, cost less than one page after the other.
	Workers int
}

// Screen is what a page is shown on, beside its width. The zero value is a screen 900 px high whose scrollbars take
// no room.
type Screen struct {
	Height    int     // CSS px; 0 means 900
	Scrollbar int     // CSS px that a scrollbar at the side takes
	Text      float64 // size of text that the page does not set, CSS px; 0 means 16
}
