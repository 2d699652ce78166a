// Package explain says where a value comes from, what decides the size and place of a box, and how a page is read
// aloud.
package explain

import (
	"fmt"
	"slices"
	"strings"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/naming"
	"ziegel/core/styles"
	"ziegel/core/sweep"
)

// Reason is one step in the answer to what makes a box as large as it is, or puts it where it is.
type Reason struct {
	Text string `json:"text"`
	At   string `json:"at,omitempty"` // FILE:LINE:COLUMN of the declaration behind it
}

// Axes are what Explain answers for.
var Axes = []string{"width", "height", "x", "y"}

// Explain tells what makes the box of an element as wide or high as it is, or puts it at its x or y, in a layout. The
// first reason is the one that decides; those that follow say what is behind it.
func Explain(l *sweep.Prepared, r *layout.Result, e *css.Element, axis string) []Reason {
	x := &Explainer{L: l, R: r}
	p := r.Of(e)
	if p == nil {
		for up := e; up != nil; up = up.Parent {
			if b := r.Of(up); b != nil {
				return []Reason{{Text: fmt.Sprintf("it has no box at %d px; the nearest around it that has one is %s",
					r.Width, naming.Of(l, up))}}
			}
		}
		return nil
	}
	switch axis {
	case "width":
		x.width(p, 0)
	case "height":
		x.height(p, 0)
	case "x":
		x.place(p, true)
	case "y":
		x.place(p, false)
	}
	return x.out
}

// Explainer answers for one layout of a page.
type Explainer struct {
	L   *sweep.Prepared
	R   *layout.Result
	out []Reason
}

func (x *Explainer) say(p *layout.Fragment, property, format string, args ...any) {
	reason := Reason{Text: fmt.Sprintf(format, args...)}
	if property != "" && p != nil {
		if at, ok := x.L.Origin(p.Element, p.Style, property); ok {
			reason.At = at.String()
		}
	}
	x.out = append(x.out, reason)
}

// parent gives the nearest box around another one.
func (x *Explainer) parent(p *layout.Fragment) *layout.Fragment {
	for e := p.Element.Parent; e != nil; e = e.Parent {
		if b := x.R.Of(e); b != nil && b.Style.Display != css.Contents {
			return b
		}
	}
	return nil
}

// Kids gives the boxes directly in another one that take room in it.
func (x *Explainer) Kids(p *layout.Fragment) []*layout.Fragment {
	var out []*layout.Fragment
	for _, e := range p.Element.Kids() {
		if k := x.R.Of(e); k != nil && k.Style.Position != css.Absolute && k.Style.Position != css.Fixed {
			out = append(out, k)
		}
	}
	return out
}

func row(s *css.Style) bool {
	return (s.Display == css.Flex || s.Display == css.InlineFlex) && strings.HasPrefix(s.FlexDirection, "row")
}

func grid(s *css.Style) bool { return s.Display == css.Grid || s.Display == css.InlineGrid }

// fixed tells of a declared size that decides: width, or height. base is what its percentages are of.
func (x *Explainer) fixed(p *layout.Fragment, property string, base layout.Px) bool {
	size, set, least, most := p.W, p.Style.Width, p.Style.MinW, p.Style.MaxW
	if property == "height" {
		size, set, least, most = p.H, p.Style.Height, p.Style.MinH, p.Style.MaxH
	}
	name := naming.Of(x.L, p.Element)
	used := func(v css.Len) layout.Px {
		w := v.Resolve(base)
		if !p.Style.BorderBox {
			w += size - x.content(p, property)
		}
		return w
	}
	near := func(v css.Len) bool { return v.IsLength() && naming.Abs(used(v)-size) <= 32 }
	switch {
	case near(least) && least.Resolve(base) > 0:
		x.say(p, "min-"+property, "%s is %s, the least that min-%s lets it be", name, naming.Px(size), property)
	case near(most):
		x.say(p, "max-"+property, "%s is %s, the most that max-%s lets it be", name, naming.Px(size), property)
	case near(set):
		x.say(p, property, "%s has a %s of its own: %s", name, property, naming.Px(size))
	default:
		return false
	}
	return true
}

func (x *Explainer) content(p *layout.Fragment, property string) layout.Px {
	if property == "width" {
		return p.Content.W
	}
	return p.Content.H
}

// phrase reports a box whose text is all that is in it, some of it perhaps in inline elements.
func (x *Explainer) phrase(p *layout.Fragment) bool {
	for _, k := range x.Kids(p) {
		if k.Style.Display != css.Inline {
			return false
		}
	}
	return true
}

// deepest bounds how far an explanation follows what is in what.
const deepest = 6

func (x *Explainer) height(p *layout.Fragment, depth int) {
	s, name := p.Style, naming.Of(x.L, p.Element)
	around := x.parent(p)
	base := layout.Px(0)
	if around != nil {
		base = around.Content.H
	}
	if depth > deepest || x.fixed(p, "height", base) {
		return
	}
	if s.AspectRatio > 0 && !s.Height.IsLength() && naming.Abs(p.H-layout.Px(p.W.Float()/s.AspectRatio*64)) <= 64 {
		x.say(p, "aspect-ratio", "%s is %s high: its ratio of %.3g to its width of %s", name, naming.Px(p.H),
			s.AspectRatio, naming.Px(p.W))
		return
	}
	if naming.IsPicture(p.Element) {
		x.say(p, "height", "%s is %s high: its own ratio to its width of %s", name, naming.Px(p.H), naming.Px(p.W))
		return
	}
	if around != nil && depth < 5 && (row(around.Style) || grid(around.Style)) {
		if tall := x.tallest(p, around); tall != nil && x.natural(p) < p.H-64 {
			x.say(around, "align-items", "%s is stretched to the height of its row, %s; %s needs that much", name,
				naming.Px(p.H), naming.Of(x.L, tall.Element))
			x.height(tall, depth+3)
			return
		}
	}
	if p.Lines > 0 && x.phrase(p) {
		line := p.Content.H.Float() / float64(p.Lines)
		if s.Display == css.Inline {
			line = p.Text.H.Float() / float64(p.Lines)
		}
		x.say(p, "line-height", "%s has %d line%s of %.4g px%s", name, p.Lines, several(p.Lines), line,
			x.padding(p, "padding-top", p.H-p.Content.H))
		if p.Lines > 1 {
			x.say(p, "font-size", "its text of %d letters breaks in %s of room", letters(p.Element),
				naming.Px(p.Content.W))
		}
		return
	}
	kids := x.Kids(p)
	if len(kids) == 0 {
		x.say(p, "", "%s is %s high and has nothing in it%s", name, naming.Px(p.H),
			x.padding(p, "padding-top", p.H-p.Content.H))
		return
	}
	biggest := kids[0]
	for _, k := range kids {
		if k.H > biggest.H {
			biggest = k
		}
	}
	x.say(p, "", "%s is %s high for what is in it: %s%s", name, naming.Px(p.H), strings.Join(x.sum(p, kids), ", "),
		x.padding(p, "padding-top", p.H-p.Content.H))
	if biggest.H*2 > p.H || len(kids) == 1 {
		x.height(biggest, depth+1)
	}
}

// sum lists what adds up to the height of the content of a box: its children from the top down, those beside each
// other as one, with the gaps between them and what is left over.
func (x *Explainer) sum(p *layout.Fragment, kids []*layout.Fragment) []string {
	kids = slices.Clone(kids)
	slices.SortStableFunc(kids, func(a, b *layout.Fragment) int { return int(a.Y - b.Y) })
	var parts []string
	bottom := p.Content.Y
	gap := func(to layout.Px, what, less string) {
		switch d := to - bottom; {
		case d > 32:
			parts = append(parts, what+naming.Px(d))
		case d < -32:
			parts = append(parts, less+naming.Px(-d))
		}
	}
	if p.Lines > 0 { // text of its own beside boxes
		parts, bottom = append(parts, fmt.Sprintf("text %s", naming.Px(p.Text.H))), max(bottom, p.Text.Bottom())
	}
	for i := 0; i < len(kids); {
		end, row := kids[i].Bottom(), []string{fmt.Sprintf("%s %s", ShortName(x.L, kids[i].Element),
			naming.Px(kids[i].H))}
		j := i + 1
		for ; j < len(kids) && kids[j].Y < end-64 && min(kids[j].Bottom(), kids[i].Bottom())-max(kids[j].Y,
			kids[i].Y) > min(kids[j].H, kids[i].H)/2; j++ {
			row = append(row, fmt.Sprintf("%s %s", ShortName(x.L, kids[j].Element), naming.Px(kids[j].H)))
			end = max(end, kids[j].Bottom())
		}
		what := "a gap of "
		if i == 0 && p.Lines == 0 {
			what = "above it "
		}
		gap(kids[i].Y, what, "less an overlap of ")
		switch {
		case len(row) > 3:
			parts = append(parts, fmt.Sprintf("%s and %d beside it, %s together", row[0], len(row)-1,
				naming.Px(end-kids[i].Y)))
		case len(row) > 1:
			parts = append(parts, strings.Join(row, " beside "))
		default:
			parts = append(parts, row[0])
		}
		bottom, i = max(bottom, end), j
	}
	gap(p.Content.Bottom(), "left over ", "of which out of it hang ")
	if len(parts) > 14 {
		parts = append(parts[:13], fmt.Sprintf("and %d more", len(parts)-13))
	}
	return parts
}

func several(n int) string {
	if n == 1 {
		return ""
	}
	return "s"
}

func letters(e *css.Element) int { return len([]rune(naming.Words(e))) }

func (x *Explainer) padding(p *layout.Fragment, property string, edges layout.Px) string {
	if edges <= 32 {
		return ""
	}
	return fmt.Sprintf(", and %s of padding and border", naming.Px(edges))
}

// natural gives the height that a box needs for what is in it.
func (x *Explainer) natural(p *layout.Fragment) layout.Px {
	bottom := p.Text.Bottom()
	if p.Lines == 0 {
		bottom = p.Content.Y
	}
	spare := layout.Px(0) // what auto margins and alignment take of the room that is left
	last := p.Content.Y
	if kids := x.Kids(p); len(kids) > 0 && p.Lines == 0 {
		first := kids[0].Y
		for _, k := range kids {
			first = min(first, k.Y)
		}
		spare = max(0, first-last-32)
	}
	for _, k := range x.Kids(p) {
		if k.Style.Margin[css.Top].IsAuto() && k.Y > last {
			spare += max(0, k.Y-last-p.Style.RowGap.Resolve(p.Content.H))
		}
		last = max(last, k.Bottom())
		bottom = max(bottom, k.Bottom()+k.Style.Margin[css.Bottom].Resolve(p.Content.W))
	}
	return bottom - spare - p.Y + p.Bottom() - p.Content.Bottom()
}

// tallest finds what makes the row of a box as high as it is.
func (x *Explainer) tallest(p, around *layout.Fragment) *layout.Fragment {
	var best *layout.Fragment
	for _, k := range x.Kids(around) {
		if k.Element != p.Element && overlapY(k.Rect, p.Rect) && (best == nil || x.natural(k) > x.natural(best)) {
			best = k
		}
	}
	if best == nil || x.natural(best) <= x.natural(p) {
		return nil
	}
	return best
}

func overlapY(a, b layout.Rect) bool { return a.Y < b.Bottom() && b.Y < a.Bottom() }

func (x *Explainer) width(p *layout.Fragment, depth int) {
	s, name := p.Style, naming.Of(x.L, p.Element)
	around := x.parent(p)
	base := layout.Px(x.R.Width) * 64
	if around != nil {
		base = around.Content.W
	}
	if depth > deepest || x.fixed(p, "width", base) {
		return
	}
	if around == nil {
		x.say(p, "", "%s is as wide as the screen: %s", name, naming.Px(p.W))
		return
	}
	// What is in it makes it wider than its room: the longest piece that cannot break.
	if p.W > base+32 || p.Text.W > base+32 {
		x.widest(p)
		return
	}
	switch {
	case grid(around.Style):
		n := 1
		for _, k := range x.Kids(around) {
			if overlapY(k.Rect, p.Rect) && k.X < p.X {
				n++
			}
		}
		x.say(around, "grid-template-columns", "%s is %s wide: column %d of %s, which has %s for all", name,
			naming.Px(p.W), n, naming.Of(x.L, around.Element), naming.Px(base))
	case row(around.Style):
		switch {
		case s.FlexGrow > 0:
			x.say(p, "flex-grow", "%s is %s wide: it takes its share of the room that is left in %s (%s)", name,
				naming.Px(p.W), naming.Of(x.L, around.Element), naming.Px(base))
		case p.Lines > 0 || len(p.Element.Kids()) > 0:
			x.say(p, "flex-basis", "%s is %s wide for what is in it, in a row with room for %s", name, naming.Px(p.W),
				naming.Px(base))
		}
		x.widest(p)
	case s.Display == css.Inline || s.Display == css.InlineBlock || s.Display == css.InlineFlex || p.Above:
		x.say(p, "", "%s is %s wide for what is in it", name, naming.Px(p.W))
		x.widest(p)
	default:
		if margins := base - p.W; naming.Abs(margins) > 32 {
			x.say(p, "margin-left", "%s is %s wide: it fills %s (%s), less %s of margins", name, naming.Px(p.W),
				naming.Of(x.L, around.Element), naming.Px(base), naming.Px(margins))
		} else {
			x.say(around, "", "%s is %s wide: it fills %s", name, naming.Px(p.W), naming.Of(x.L, around.Element))
		}
		if depth < 2 {
			x.width(around, depth+1)
		}
	}
}

// widest tells which text in a box asks for the most room in one piece.
func (x *Explainer) widest(p *layout.Fragment) {
	var best *layout.Fragment
	for i := x.R.ByIndex[p.Element.Index]; i < len(x.R.Boxes); i++ {
		b := &x.R.Boxes[i]
		if b.Element != p.Element && !naming.Inside(b.Element, p.Element) {
			break
		}
		if (b.Lines > 0 || naming.IsPicture(b.Element)) && (best == nil || reach(b) > reach(best)) {
			best = b
		}
	}
	if best == nil {
		return
	}
	switch {
	case naming.IsPicture(best.Element):
		x.say(best, "width", "the widest thing in it is %s: %s", naming.Of(x.L, best.Element), naming.Px(best.W))
	case best.Style.NoWrap:
		x.say(best, "text-wrap-mode", "%s may not break and takes %s in one line", naming.Of(x.L, best.Element),
			naming.Px(best.Text.W))
	default:
		x.say(best, "font-size", "the longest word is %q in %s: its line takes %s",
			longest(naming.OwnText(best.Element)), naming.Of(x.L, best.Element), naming.Px(best.Text.W))
	}
}

func reach(p *layout.Fragment) layout.Px {
	if p.Lines > 0 {
		return p.Text.Right()
	}
	return p.Right()
}

func longest(text string) string {
	best := ""
	for _, w := range strings.Fields(text) {
		if len([]rune(w)) > len([]rune(best)) {
			best = w
		}
	}
	return best
}

// place follows a position from the box outwards.
func (x *Explainer) place(p *layout.Fragment, horizontal bool) {
	for depth := 0; p != nil && depth < 4; depth++ {
		around := x.parent(p)
		name := naming.Of(x.L, p.Element)
		at, word, lead, margin, inset := p.Y, "top", "padding-top", css.Top, css.Top
		if horizontal {
			at, word, lead, margin, inset = p.X, "left", "padding-left", css.Left, css.Left
		}
		if around == nil {
			x.say(p, "", "%s begins at %s of the page", name, naming.Px(at))
			return
		}
		edge, start := around.Content.Y, around.Y
		if horizontal {
			edge, start = around.Content.X, around.X
		}
		if p.Style.Position == css.Absolute || p.Style.Position == css.Fixed {
			if v := p.Style.Inset[inset]; !v.IsAuto() {
				x.say(p, word, "%s is taken out of the flow and stands %s from the %s of what it is placed in", name,
					naming.Px(v.Resolve(0)), word)
				return
			}
		}
		before := x.before(p, around, horizontal)
		m := p.Style.Margin[margin]
		switch {
		case before != nil:
			end := before.Bottom()
			if horizontal {
				end = before.Right()
			}
			if at-end < 32 {
				x.say(p, "", "%s begins at %s, directly where %s ends", name, naming.Px(at),
					naming.Of(x.L, before.Element))
			} else {
				x.say(p, "margin-"+word, "%s begins at %s: %s ends at %s, and %s lie between them", name,
					naming.Px(at), naming.Of(x.L, before.Element), naming.Px(end), naming.Px(at-end))
			}
			if !horizontal {
				x.say(before, "", "%s is %s high", naming.Of(x.L, before.Element), naming.Px(before.H))
			}
			return
		case at-edge > 32 && m.IsAuto():
			x.say(p, "margin-"+word,
				"%s begins at %s: %s past the %s of %s, its margin is auto and takes room that is left over", name,
				naming.Px(at), naming.Px(at-edge), word, naming.Of(x.L, around.Element))
		case at-edge > 32 && grid(around.Style) && horizontal && (!m.IsLength() || m.Resolve(0) == 0):
			x.say(around, "grid-template-columns", "%s begins at %s, where its column of %s begins", name,
				naming.Px(at), naming.Of(x.L, around.Element))
			return
		case at-edge > 32:
			why := "the room that is left over"
			prop := "justify-content"
			if m.IsLength() && naming.Abs(m.Resolve(around.Content.W)-(at-edge)) <= 64 {
				why, prop = "its margin", "margin-"+word
			} else if !horizontal {
				prop = "align-items"
			}
			x.say(p, prop, "%s begins at %s: %s past the %s of %s, %s", name, naming.Px(at), naming.Px(at-edge), word,
				naming.Of(x.L, around.Element), why)
		case edge-start > 32:
			x.say(around, lead, "%s begins at %s: %s of padding in %s", name, naming.Px(at), naming.Px(edge-start),
				naming.Of(x.L, around.Element))
		}
		p = around
	}
}

// before finds what stands next before a box in the same parent, above it or to its left.
func (x *Explainer) before(p, around *layout.Fragment, horizontal bool) *layout.Fragment {
	var best *layout.Fragment
	for _, k := range x.Kids(around) {
		if k.Element == p.Element {
			continue
		}
		if horizontal {
			if overlapY(k.Rect, p.Rect) && k.Right() <= p.X+64 && (best == nil || k.Right() > best.Right()) {
				best = k
			}
		} else if k.Bottom() <= p.Y+64 && min(k.Right(), p.Right()) > max(k.X, p.X) &&
			(best == nil || k.Bottom() > best.Bottom()) {
			best = k
		}
	}
	return best
}

// ShortName calls an element by its part or tag alone.
func ShortName(l *sweep.Prepared, e *css.Element) string {
	_, part, item := naming.Place(l, e)
	if part == "" || part == e.Path() {
		part = naming.Label(e)
	}
	if item > 0 {
		return fmt.Sprintf("%s %d", part, item)
	}
	return part
}

// Apart asks Why what stands higher above one of two like boxes than above the other.
const Apart = "apart"

// apart tells what stands higher above one of two like boxes than above the other, in their cards.
func apart(l *sweep.Prepared, r *layout.Result, low, high *css.Element) string {
	x := &Explainer{L: l, R: r}
	for a, b := low, high; a != nil && b != nil && a.Parent != b.Parent; a, b = a.Parent, b.Parent {
		if a.Parent == nil || b.Parent == nil {
			break
		}
		p, q := r.Of(a.Parent), r.Of(b.Parent)
		if p == nil || q == nil {
			return ""
		}
		above, below := x.Kids(p), x.Kids(q)
		for i := 0; i < len(above) && i < len(below) && above[i].Element != a; i++ {
			u, v := above[i], below[i]
			if naming.Abs(u.H-v.H) <= 64 || u.Y >= r.Of(a).Y {
				continue
			}
			what := func(p *layout.Fragment) string {
				if p.Lines > 0 && u.Lines != v.Lines {
					return fmt.Sprintf("%d line%s", p.Lines, several(p.Lines))
				}
				return naming.Px(p.H)
			}
			return fmt.Sprintf("above it %s has %s, %s has %s", ShortName(l, u.Element), what(u),
				ShortName(l, v.Element), what(v))
		}
	}
	return ""
}

// Why words in one sentence what decides the width, height or x of a box, or the place of one of two like boxes; ""
// for no axis.
func Why(l *sweep.Prepared, r *layout.Result, axis string, e, other *css.Element) string {
	switch {
	case axis == Apart && other != nil:
		return apart(l, r, e, other)
	case axis == "" || axis == Apart:
		return ""
	}
	list := Explain(l, r, e, axis)
	if len(list) == 0 {
		return ""
	}
	text := list[0].Text
	if len(list) > 1 {
		text += "; " + list[1].Text
	}
	return text
}

// Find gives the elements that an address means: a block, all boxes of one of its parts, or one of them (index from
// 1).
func Find(l *sweep.Prepared, block, part string, index int) []*css.Element {
	b := l.Block(block)
	if b == nil {
		return nil
	}
	switch kids := b.Element.Kids(); {
	case part == "" || part == styles.PartBlock:
		return []*css.Element{b.Element}
	case part == styles.PartRoot && len(kids) > 0:
		return kids[:1]
	}
	var out []*css.Element
	var walk func(e *css.Element)
	walk = func(e *css.Element) {
		if p, _ := naming.PartOf(e, b.Element); p == part && e.Attr(compose.MarkPart) == part {
			out = append(out, e)
		}
		for _, k := range e.Kids() {
			if k.Attr(compose.MarkBlock) == "" {
				walk(k)
			}
		}
	}
	walk(b.Element)
	if index > 0 {
		if index > len(out) {
			return nil
		}
		return out[index-1 : index]
	}
	return out
}
