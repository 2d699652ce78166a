package measure

import (
	"math"
	"slices"
	"sort"
	"strconv"
	"strings"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/styles"
	"ziegel/core/sweep"
)

// mostColumns is how many columns a measured condition counts to unless its option says less.
const mostColumns = 6

// probe lays one variant of the block out at single widths and remembers what it saw.
type probe struct {
	laid   *sweep.Prepared
	engine *layout.Engine
	room   []*css.Element
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

// oneRow reports whether the boxes in an element stand beside each other, all inside it, none with its text in two
// lines.
func oneRow(r *layout.Result, e *css.Element) bool {
	box := r.Of(e)
	if box == nil {
		return true
	}
	var row []*layout.Fragment
	inside := true
	var collect func(x *css.Element)
	collect = func(x *css.Element) {
		for _, k := range x.Kids() {
			p := r.Of(k)
			if p == nil || p.Empty() || outOfFlow(p) {
				continue
			}
			inside = inside && p.Lines <= 1 && !spills(r, k, p.X, p.Right()) && p.Right() <= box.Content.Right() &&
				p.X >= box.Content.X
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
		// lines run in either direction
		inside = inside && b.Y < a.Bottom() && a.Y < b.Bottom() && (b.X >= a.Right() || a.X >= b.Right())
	}
	return inside
}

// spills reports an element whose text, or that of an element in it, goes beyond an edge.
func spills(r *layout.Result, e *css.Element, left, right layout.Px) bool {
	if p := r.Of(e); p == nil || p.Lines > 0 && (p.Text.Right() > right || p.Text.X < left) {
		return p != nil
	}
	return slices.ContainsFunc(e.Kids(), func(k *css.Element) bool {
		if p := r.Of(k); p != nil && outOfFlow(p) { // words for those who hear the page
			return false
		}
		return spills(r, k, left, right)
	})
}

// groups are the tags whose boxes count one by one.
var groups = map[string]bool{"ul": true, "ol": true, "div": true, "nav": true}

// fullRows takes out numbers of columns that leave one entry alone in the last row where another number does not, and
// those of which one less fills every row: six stand 3+3, not 4+2.
func fullRows(list []styles.Threshold, entries int) []styles.Threshold {
	number := func(t styles.Threshold) int {
		n, _ := strconv.Atoi(t.Value)
		return n
	}
	lone := func(t styles.Threshold) bool { return entries%number(t) == 1 }
	if slices.ContainsFunc(list, func(t styles.Threshold) bool { return !lone(t) }) {
		list = slices.DeleteFunc(list, lone)
	}
	return slices.DeleteFunc(list, func(t styles.Threshold) bool {
		n := number(t)
		return n > 3 && entries%n != 0 && entries%(n-1) == 0
	})
}

func gapOf(p *layout.Fragment, room float64) float64 {
	gap := p.Style.ColGap
	if gap.Kind == css.LenNormal {
		return 0
	}
	return gap.Resolve(css.Px(room * 64)).Float()
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
func outOfFlow(p *layout.Fragment) bool {
	return p.Style.Position == css.Absolute || p.Style.Position == css.Fixed
}
