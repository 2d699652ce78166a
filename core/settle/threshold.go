package settle

import (
	"fmt"
	"math"
	"slices"
	"sort"
	"strconv"
	"strings"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/library"
	"ziegel/core/sweep"
)

// mostColumns is how many columns a measured condition counts to unless its option says less.
const mostColumns = 6

// thresholds measures one condition of a section with the block's own content in its own fonts.
func (m *measuring) thresholds(c *library.Measure, page *compose.Page) []compose.Threshold {
	if c.Row != "" {
		return m.row(c, page)
	}
	return m.fit(c, page)
}

// probe lays one variant of the block out at single widths and remembers what it saw.
type probe struct {
	laid   *sweep.Laid
	engine *layout.Engine
	room   []*css.Element
}

func (m *measuring) probe(c *library.Measure, page *compose.Page, extra string) *probe {
	l := m.laid(page, extra)
	if l == nil {
		return nil
	}
	part := c.Room
	if part == "" {
		part = compose.PartRoot
	}
	return &probe{l, l.Engine(), elements(l, m.block.Name, part)}
}

// at lays out one width, and gives the room that the section has there, CSS px: what container conditions ask for.
func (p *probe) at(width int) (*layout.Result, float64) {
	r := p.engine.Layout(width)
	for _, e := range p.room {
		if box := r.Of(e); box != nil {
			return r, box.Content.W.Float()
		}
	}
	return r, float64(width)
}

// row finds the width from which the boxes of a part stand in one row, with the condition in force everywhere.
func (m *measuring) row(c *library.Measure, page *compose.Page) []compose.Threshold {
	p := m.probe(c, page, fmt.Sprintf("[data-block=%q] > * > *, [data-block=%q] [data-part=%q] > * { --%s_%s: yes; }", m.block.Name, m.block.Name, c.Room, strings.ReplaceAll(m.sec.Name, "/", "-"), c.Name))
	if p == nil {
		return nil
	}
	parts := elements(p.laid, m.block.Name, c.Row)
	fits := func(width int) bool {
		r, _ := p.at(width)
		for _, e := range parts {
			if !oneRow(r, e) {
				return false
			}
		}
		return true
	}
	width := least(fits)
	if width < 0 {
		return nil // never: the condition stays off
	}
	return []compose.Threshold{{Name: c.Name, Value: "yes", From: p.roomAt(width)}}
}

// oneRow reports whether the boxes in an element stand beside each other, all inside it, none with its text in two
// lines.
func oneRow(r *layout.Result, e *css.Element) bool {
	box := r.Of(e)
	if box == nil {
		return true
	}
	var row []*layout.Placed
	inside := true
	var collect func(x *css.Element)
	collect = func(x *css.Element) {
		for _, k := range x.Kids() {
			p := r.Of(k)
			if p == nil || p.Empty() || outOfFlow(p) {
				continue
			}
			inside = inside && p.Lines <= 1 && !spills(r, k, p.Right()) && p.Right() <= box.Content.Right() && p.X >= box.Content.X
			if groups[k.Tag] {
				collect(k)
				continue
			}
			row = append(row, p)
		}
	}
	collect(e)
	for i := 1; i < len(row); i++ {
		a, b := row[i-1], row[i]
		inside = inside && b.Y < a.Bottom() && a.Y < b.Bottom() && b.X >= a.Right()
	}
	return inside
}

// spills reports an element whose text, or that of an element in it, goes beyond an edge.
func spills(r *layout.Result, e *css.Element, right layout.Px) bool {
	if p := r.Of(e); p == nil || p.Lines > 0 && p.Text.Right() > right {
		return p != nil
	}
	return slices.ContainsFunc(e.Kids(), func(k *css.Element) bool { return spills(r, k, right) })
}

// groups are the tags whose boxes count one by one.
var groups = map[string]bool{"ul": true, "ol": true, "div": true, "nav": true}

// fit finds the widths from which two, three and more entries fit beside each other, each as wide as its longest word
// or its widest piece that may not break.
func (m *measuring) fit(c *library.Measure, page *compose.Page) []compose.Threshold {
	p := m.probe(c, page, strings.ReplaceAll(fmt.Sprintf("IN* { overflow-wrap: break-word; } IN[data-part=%q] { grid-column: 1 / -1; } IN[data-part=%q] > * { inline-size: min-content; min-inline-size: 0; max-inline-size: none; } IN[data-part=%q] .action { white-space: nowrap; }", c.Fit, c.Fit, c.Fit), "IN", fmt.Sprintf("[data-block=%q] ", m.block.Name)))
	if p == nil {
		return nil
	}
	entries := elements(p.laid, m.block.Name, c.Fit)
	if len(entries) == 0 {
		return nil
	}
	type need struct{ entry, gap, room float64 }
	memo := map[int]need{}
	needs := func(width int) need {
		if n, ok := memo[width]; ok {
			return n
		}
		r, _ := p.at(width)
		n := need{}
		for _, e := range entries {
			box := r.Of(e)
			if box == nil {
				continue
			}
			frame := (box.W - box.Content.W).Float()
			for _, k := range e.Kids() {
				if kid := r.Of(k); kid != nil && !outOfFlow(kid) {
					n.entry = max(n.entry, kid.W.Float()+frame)
				}
			}
			if n.room == 0 {
				if parent := r.Of(e.Parent); parent != nil {
					n.room = parent.Content.W.Float()
					n.gap = gapOf(parent, n.room)
				}
			}
		}
		memo[width] = n
		return n
	}
	var all []compose.Threshold
	for _, at := range m.ranges(c.Most, "item-min") {
		leastWidth := pixels(c.Least)
		if v := m.optionText("item-min", at); v != "" {
			leastWidth = pixels(v)
		}
		most := mostColumns
		if n, err := strconv.Atoi(c.Most); err == nil {
			most = n
		} else if n, err := strconv.Atoi(m.optionText(c.Most, at)); err == nil {
			most = n
		}
		var out []compose.Threshold
		for k := 2; k <= min(most, len(entries)); k++ {
			width := least(func(w int) bool {
				n := needs(w)
				return float64(k)*max(leastWidth, n.entry)+float64(k-1)*n.gap <= n.room+1.0/64
			})
			if width < 0 {
				break
			}
			out = append(out, compose.Threshold{Name: c.Name, Value: strconv.Itoa(k), From: p.roomAt(width), At: at})
		}
		if at != "" {
			all = append(all, compose.Threshold{Name: c.Name, At: at}) // what holds elsewhere ends here
		}
		all = append(all, fullRows(out, len(entries))...)
	}
	return all
}

// ranges lists the ranges in which the block says something else of some options: everywhere first.
func (m *measuring) ranges(options ...string) []string {
	out := []string{""}
	for key := range m.block.Options {
		name, at, ok := strings.Cut(key, " at ")
		if _, _, known := m.env.Span(strings.TrimSpace(at)); ok && known && slices.Contains(options, strings.TrimSpace(name)) && !slices.Contains(out, strings.TrimSpace(at)) {
			out = append(out, strings.TrimSpace(at))
		}
	}
	slices.Sort(out)
	return out
}

// fullRows takes out numbers of columns that leave one entry alone in the last row where another number does not, and
// those of which one less fills every row: six stand 3+3, not 4+2.
func fullRows(list []compose.Threshold, entries int) []compose.Threshold {
	number := func(t compose.Threshold) int {
		n, _ := strconv.Atoi(t.Value)
		return n
	}
	lone := func(t compose.Threshold) bool { return entries%number(t) == 1 }
	if slices.ContainsFunc(list, func(t compose.Threshold) bool { return !lone(t) }) {
		list = slices.DeleteFunc(list, lone)
	}
	return slices.DeleteFunc(list, func(t compose.Threshold) bool {
		n := number(t)
		return n > 3 && entries%n != 0 && entries%(n-1) == 0
	})
}

func gapOf(p *layout.Placed, room float64) float64 {
	gap := p.Style.ColGap
	if gap.Kind == css.LenNormal {
		return 0
	}
	return gap.Resolve(css.Px(room * 64)).Float()
}

// optionText gives an option of the block in a range as typed: that of the range, else that of all widths, else its
// default.
func (m *measuring) optionText(name, at string) string {
	if v := m.block.Options[name+" at "+at]; at != "" && v != nil {
		return v.Str()
	}
	if v := m.block.Options[name]; v != nil {
		return v.Str()
	}
	if o := m.sec.Option(name); o != nil {
		return o.Default
	}
	return ""
}

// pixels reads a length in px or rem, CSS px.
func pixels(s string) float64 {
	unit := 1.0
	num := strings.TrimSuffix(s, "px")
	if n, ok := strings.CutSuffix(s, "rem"); ok {
		num, unit = n, 16
	}
	v, err := strconv.ParseFloat(num, 64)
	if err != nil {
		return 0
	}
	return v * unit
}

// least gives the smallest width of a sweep from which something holds, -1 when it never does. What holds at one
// width holds at all wider ones.
func least(holds func(width int) bool) int {
	n := sweep.DefaultTo - sweep.DefaultFrom + 1
	i := sort.Search(n, func(i int) bool { return holds(sweep.DefaultFrom + i) })
	if i == n {
		return -1
	}
	return sweep.DefaultFrom + i
}

// roomAt gives the room of the section at a screen width as a threshold, CSS px: 0 when it is the narrowest that is
// swept.
func (p *probe) roomAt(width int) float64 {
	if width == sweep.DefaultFrom {
		return 0
	}
	_, room := p.at(width)
	_, before := p.at(width - 1)
	// any value between the two is met from this width on: a whole one reads best
	if t := math.Floor(room); t > before {
		return t
	}
	return math.Floor(room*16) / 16
}

// outOfFlow reports a box that takes no room beside the others.
func outOfFlow(p *layout.Placed) bool {
	return p.Style.Position == css.Absolute || p.Style.Position == css.Fixed
}
