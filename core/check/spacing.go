package check

import (
	"fmt"
	"slices"
	"sort"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/layout"
	"ziegel/core/naming"
)

// Bounds of the rules over distances, CSS px.
const (
	leastSpace  = 16  // between the words of two blocks
	seamRoom    = 8   // between words and the end of their ground
	laneSlack   = 0.5 // what counts as the same edge
	laneNear    = 40  // an edge further off is meant so
	doubledFrom = 1.75
)

// spaceMissing: the words of two blocks run into each other.
var spaceMissing = rule{
	name: "space-missing", severity: diag.Warning, what: "under 16 px between the words of two blocks",
	looks: "the words of blocks that follow each other",
	not:   "distances inside blocks",
	limit: bound{leastSpace, "px"},
	remedies: []Remedy{
		{Where: "root", CSS: "padding-top={space.far}", Local: true},
		{Where: "root", CSS: "margin-top=0", Local: true},
		{Where: "around", CSS: "margin-top=0", Local: true},
	},
	distances: "above",
	ownFirst:  true,
	strips: func(s *Scene, list []strip) []hit {
		var out []hit
		for i := 1; i < len(list); i++ {
			a, b := list[i-1], list[i]
			if a.above || b.above || a.closes || b.opens {
				continue
			}
			if gap := (b.top - a.bottom).Float(); gap >= 0 && gap < s.limit("space-missing", b.el) &&
				b.y >= a.end-64 {
				out = append(out, hit{el: b.el, other: a.el,
					amount: css.FromFloat(s.limit("space-missing", b.el) - gap), value: gap, cause: "padding-top"})
			}
		}
		return out
	},
	say: func(name, other string, worst hit) string {
		return fmt.Sprintf("only %.3g px between %s and %s", worst.value, other, name)
	},
	cure: func(part string, _ hit) string { return "above: a distance of the theme" },
}

// spaceDoubled: two blocks on one ground stand much further apart than the others do.
var spaceDoubled = rule{
	name: "space-doubled", severity: diag.Warning,
	what:  "two blocks on one ground stand much further apart than the others",
	looks: "blocks on one ground, against what is usual on the page",
	not:   "pages with fewer than four such blocks",
	remedies: []Remedy{
		{Where: "root", CSS: "padding-top=0", Local: true},
		{Where: "root", CSS: "margin-top=0", Local: true},
		{Where: "around", CSS: "margin-top=0", Local: true},
	},
	distances: "above",
	ownFirst:  true,
	strips: func(s *Scene, list []strip) []hit {
		var gaps []float64
		for i := 1; i < len(list); i++ {
			if list[i].ground == list[i-1].ground && !list[i].above && !list[i-1].above {
				gaps = append(gaps, (list[i].top - list[i-1].bottom).Float())
			}
		}
		if len(gaps) < 3 {
			return nil
		}
		usual := slices.Sorted(slices.Values(gaps))[(len(gaps)-1)/2]
		var out []hit
		for i := 1; i < len(list); i++ {
			a, b := list[i-1], list[i]
			gap := (b.top - a.bottom).Float()
			doubled := b.ground == a.ground && !a.above && !b.above && usual > 0 && gap > usual*doubledFrom &&
				gap > usual+32
			if doubled {
				out = append(out, hit{el: b.el, other: a.el, amount: css.FromFloat(gap - usual), value: gap,
					second: usual, cause: "padding-top"})
			}
		}
		return out
	},
	say: func(name, other string, worst hit) string {
		return fmt.Sprintf("%.0f px between %s and %s, where blocks on this ground stand %.0f px apart", worst.value,
			other, name, worst.second)
	},
}

// seam: words touch the end of their ground, or two lines meet.
var seam = rule{
	name: "seam", severity: diag.Warning,
	what:  "words touch the end of their ground, or two lines meet between blocks",
	looks: "where the ground changes from block to block",
	not:   "grounds inside blocks",
	remedies: []Remedy{
		{Where: "root", CSS: "padding-block={space.far}", Local: true},
		{Where: "root", CSS: "border-top-width=0"},
		{Where: "around", CSS: "margin-block=0", Local: true},
	},
	distances: "above below",
	ownFirst:  true,
	strips: func(s *Scene, list []strip) []hit {
		var out []hit
		for i := 1; i < len(list); i++ {
			a, b := list[i-1], list[i]
			if a.above || b.above || b.y < a.end-64 || b.y > a.end+64 {
				continue
			}
			if a.lineUp && b.lineAt {
				out = append(out, hit{el: b.el, other: a.el, amount: 64, value: 2, cause: "border-top-width"})
			}
			if a.ground == b.ground {
				continue
			}
			if room := (a.end - a.bottom).Float(); room < seamRoom && !a.closes {
				out = append(out, hit{el: a.el, other: b.el, amount: css.FromFloat(seamRoom - room),
					value: max(0, room), cause: "padding-bottom"})
			}
			if room := (b.top - b.y).Float(); room < seamRoom && !b.opens {
				out = append(out, hit{el: b.el, other: a.el, amount: css.FromFloat(seamRoom - room),
					value: max(0, room), cause: "padding-top"})
			}
		}
		return out
	},
	say: func(name, other string, worst hit) string {
		if worst.cause == "border-top-width" {
			return fmt.Sprintf("two lines meet where %s ends and %s begins", other, name)
		}
		return fmt.Sprintf("the words of %s come within %.3g px of the end of its ground, beside %s", name,
			worst.value, other)
	},
}

// offLanes: a block whose left edge is nearly, but not quite, that of the others.
var offLanes = rule{
	name: "off-lanes", severity: diag.Warning,
	what:  "a block's left edge is nearly that of the others, and not quite",
	looks: "where the words of blocks begin, when three or more agree; on other pages header and footer, too",
	not:   "centered and right-aligned texts; edges over 40 px away",
	axis:  "x",
	remedies: []Remedy{
		{CSS: "margin-inline-start=0", Local: true},
		{CSS: "padding-inline-start=0", Local: true},
		{Where: "around", CSS: "margin-inline-start=0", Local: true},
		{Where: "around", CSS: "padding-inline-start=0", Local: true},
		{CSS: "text-indent=0", Local: true},
		{CSS: "translate=none", Local: true},
		{Where: "root", CSS: "padding-inline-start=0", Local: true},
	},
	ownFirst: true,
	strips: func(s *Scene, list []strip) []hit {
		var lefts []layout.Px
		for _, st := range list {
			if st.leftText != nil {
				lefts = append(lefts, st.left)
			}
		}
		best, votes := mostShared(lefts)
		if votes < 3 || votes*5 < len(lefts)*3 {
			return nil
		}
		var out []hit
		for _, st := range list {
			if st.leftText == nil {
				continue
			}
			if off := naming.Abs(st.left - best).Float(); off > laneSlack && off <= laneNear {
				out = append(out, hit{el: st.leftText, amount: css.FromFloat(off), value: (st.left - best).Float(),
					cause: "padding-left"})
			}
		}
		return out
	},
	say: func(name, _ string, worst hit) string {
		side := "right"
		if worst.value < 0 {
			side = "left"
		}
		return fmt.Sprintf("%s begins %.3g px to the %s of the edge that the other blocks share", name,
			naming.Abs(worst.amount).Float(), side)
	},
	cure: func(part string, _ hit) string { return part + ": {margin-inline: 0, padding-inline-start: 0}" },
}

// adrift: a heading stands nearer to what is above it than to what it heads.
var adrift = rule{
	name: "heading-adrift", severity: diag.Note,
	what:  "a heading stands nearer to what is above it than to what it heads",
	looks: "headings, what ends above them and what they head",
	not:   "headings beside what they head",
	remedies: []Remedy{
		{CSS: "margin-bottom=0", Local: true},
		{Where: "around", CSS: "gap={space.room}", Local: true},
		{CSS: "margin-top={space.apart}", Local: true},
		{CSS: "padding-bottom=0", Local: true},
	},
	ownFirst: true,
	look: func(s *Scene, r *layout.Result) []hit {
		var out []hit
		for i := range r.Boxes {
			h := &r.Boxes[i]
			if s.kind[h.Element.Index] != headingKind || !shown(h) || h.Above || h.Element.Parent == nil {
				continue
			}
			below := s.nextText(r, h)
			above := s.lastAbove(r, i)
			if below == nil || above == nil {
				continue
			}
			inner, outer := (below.Text.Y - h.Text.Bottom()).Float(), (h.Text.Y - inkBottom(above)).Float()
			if outer >= 0 && inner > outer+4 {
				out = append(out, hit{el: h.Element, other: above.Element, amount: css.FromFloat(inner - outer),
					value: inner, second: outer, cause: "margin-bottom"})
			}
		}
		return out
	},
	say: func(name, other string, worst hit) string {
		return fmt.Sprintf("%s stands %.3g px below %s and %.3g px above what it heads", name, worst.second,
			other, worst.value)
	},
	cure: func(part string, _ hit) string { return part + ": {margin-bottom: 0.5rem}" },
}

// nextText gives the first text after a heading in its parent, below it.
func (s *Scene) nextText(r *layout.Result, h *layout.Fragment) *layout.Fragment {
	for i := s.end[h.Element.Index]; i < s.end[h.Element.Parent.Index]; i++ {
		at := r.ByIndex[i]
		if at < 0 {
			continue
		}
		p := &r.Boxes[at]
		if naming.Headings[p.Element.Tag] > 0 {
			return nil
		}
		if s.own[i] > 0 && shown(p) && !p.Above {
			if p.Text.Y >= h.Text.Bottom()-64 && min(p.Right(), h.Right()) > max(p.X, h.X) {
				return p
			}
			return nil
		}
	}
	return nil
}

// lastAbove gives what ends next above a heading in its own column, what stands in its parent before it left out:
// that belongs to it.
func (s *Scene) lastAbove(r *layout.Result, at int) *layout.Fragment {
	h := &r.Boxes[at]
	inks := s.inksOf(r)
	from := sort.Search(len(inks), func(k int) bool { return inkBottom(&r.Boxes[inks[k]]) <= h.Text.Y })
	for _, i := range inks[from:] {
		p := &r.Boxes[i]
		e := p.Element
		small := e.Parent == h.Element.Parent && naming.Headings[e.Tag] == 0 && s.own[e.Index] < 40
		above := i < at && min(p.Right(), h.Right()) > max(p.X, h.X)
		if above && !small && e != h.Element.Parent && !naming.Inside(h.Element, e) {
			return p
		}
	}
	return nil
}

// mostShared gives the edge that most others share, and how many stand at it. Of edges that as many share, the first.
func mostShared(edges []layout.Px) (best layout.Px, votes int) {
	slack := css.FromFloat(laneSlack)
	sorted := slices.Sorted(slices.Values(edges))
	for _, at := range edges {
		from, _ := slices.BinarySearch(sorted, at-slack)
		to, _ := slices.BinarySearch(sorted, at+slack+1)
		if to-from > votes {
			best, votes = at, to-from
		}
	}
	return best, votes
}
