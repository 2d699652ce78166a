package check

import (
	"fmt"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/explain"
	"ziegel/core/layout"
	"ziegel/core/naming"
	"ziegel/core/sweep"
)

// edgeRoom is how near text may come to the edge of the screen, CSS px.
const edgeRoom = 8

// screenEdge: text touches the edge of the screen.
var screenEdge = rule{
	name: "screen-edge", severity: diag.Warning, what: "text comes within 8 px of the edge of the screen",
	looks: "texts and both edges of the screen",
	not:   "texts in bars that leave the flow and in rows that scroll sideways; pictures",
	limit: bound{edgeRoom, "px"},
	remedies: []Remedy{
		{CSS: "margin-inline=0", Local: true},
		{CSS: "padding-inline=1rem", Local: true},
		{Where: "around", CSS: "margin-inline=0", Local: true},
		{Where: "around", CSS: "padding-inline={space.gutter}", Local: true},
		{Where: "root", CSS: "padding-inline={space.gutter}", Local: true},
		{CSS: "translate=none", Local: true},
	},
	ownFirst: true,
	look: boxes("padding-left", func(s *Scene, r *layout.Result, p *layout.Fragment) (float64, float64) {
		spared := !shown(p) || p.Above || p.Clipped && (p.Clip.X > 0 || p.Clip.Right() < layout.Px(r.Width)*64)
		if spared {
			return 0, 0
		}
		near := min(p.Text.X, layout.Px(r.Width)*64-p.Text.Right()).Float()
		if near <= -1 || pushable(r, p.Element) { // the page scrolls for it, or the row that it stands in
			return 0, 0
		}
		return max(0, near), s.limit("screen-edge", p.Element) - near
	}),
	say: func(name, _ string, worst hit) string {
		if worst.value == 0 {
			return name + " touches the screen's edge"
		}
		return fmt.Sprintf("%s comes within %.3g px of the screen's edge", name, worst.value)
	},
	cure: func(part string, _ hit) string { return part + ": {padding-inline: 1rem}" },
}

// pushable reports whether an element stands in something that scrolls sideways.
func pushable(r *layout.Result, e *css.Element) bool {
	for e = e.Parent; e != nil && e.Tag != "body"; e = e.Parent {
		if b := r.Of(e); b != nil && (b.Style.OverflowX == "auto" || b.Style.OverflowX == "scroll") {
			return true
		}
	}
	return false
}

// loneItem: the last row of a group holds one item, where others hold more.
var loneItem = rule{
	name: "lone-item", severity: diag.Note, what: "one item alone in the last row of a group",
	looks: "groups of three like boxes or more, in their rows",
	not:   "groups whose last box fills its row; boxes in columns",
	remedies: []Remedy{
		{Where: "around", CSS: "grid-template-columns=minmax(0, 1fr)", Local: true},
	},
	look: func(s *Scene, r *layout.Result) []hit {
		var out []hit
		for _, entries := range s.groups {
			if len(entries) < 3 || inColumns(r, entries[0]) { // which are read downwards
				continue
			}
			all := sweep.Rows(r, entries)
			if n := len(all); n > 1 && len(all[n-1]) == 1 && len(all[0]) > 1 {
				last := all[n-1][0]
				if last.W*10 < width(all[0])*9 { // one that fills its row is meant so
					out = append(out, hit{el: last.Element, amount: layout.Px(len(all[0])) * 64,
						value: float64(len(all[0])), cause: "grid-template-columns"})
				}
			}
		}
		return out
	},
	say: func(name, _ string, worst hit) string {
		return fmt.Sprintf("%s stands alone in its row, under rows of %.0f", name, worst.value)
	},
}

// inColumns reports an element whose container is one of columns.
func inColumns(r *layout.Result, e *css.Element) bool {
	p := r.Of(e.Parent)
	return p != nil && (p.Style.ColumnCount > 1 || p.Style.ColumnWidth.Kind == css.LenPx)
}

// width gives how far a row reaches from its first edge to its last.
func width(row []*layout.Fragment) layout.Px {
	left, right := row[0].X, row[0].Right()
	for _, p := range row {
		left, right = min(left, p.X), max(right, p.Right())
	}
	return right - left
}

// screenOrder: what is read later stands before what is read first.
var screenOrder = rule{
	name: "screen-order", severity: diag.Warning, what: "what is read later stands before what is read first",
	looks: "boxes with text in the flow that stand before what is read first",
	not:   "pictures (picture-order has those); what leaves the flow",
	remedies: []Remedy{
		{CSS: "order=0", Local: true},
		{Where: "around", CSS: "flex-direction=column", Local: true},
		{Where: "around", CSS: "flex-direction=row", Local: true},
		{CSS: "grid-row=auto grid-column=auto", Local: true},
		{Where: "around", CSS: "order=0", Local: true},
	},
	ownFirst: true,
	look: func(s *Scene, r *layout.Result) []hit {
		var out []hit
		for i := range r.Boxes {
			if !across(&r.Boxes[i]) { // read line by line, from side to side
				continue
			}
			kids := r.Boxes[i].Element.Kids()
			for k := 1; k < len(kids); k++ {
				a, b := s.inFlow(r, kids[k-1]), s.inFlow(r, kids[k])
				if a == nil || b == nil {
					continue
				}
				above := b.Bottom() <= a.Y && min(a.Right(), b.Right()) > max(a.X, b.X)
				first, second := a, b
				if r.Boxes[i].Style.RTL { // a row is read from its right side
					first, second = b, a
				}
				before := second.Right() <= first.X && min(a.Bottom(), b.Bottom())-max(a.Y, b.Y) > min(a.H, b.H)/2
				if above || before {
					out = append(out, hit{el: b.Element, other: a.Element, amount: max(a.Y-b.Y, first.X-second.X),
						cause: "order"})
				}
			}
		}
		return out
	},
	say: func(name, other string, _ hit) string {
		return fmt.Sprintf("%s stands before %s on the screen, and is read after it", name, other)
	},
}

// inFlow gives the box of an element with text that stands where its parent puts it.
func (s *Scene) inFlow(r *layout.Result, e *css.Element) *layout.Fragment {
	p := r.Of(e)
	spared := p == nil || p.Empty() || p.Above || !p.Style.Visible || p.Style.Display == css.Inline || !s.hasText(e)
	if spared {
		return nil
	}
	return p
}

// hasText reports text in an element or in what it holds.
func (s *Scene) hasText(e *css.Element) bool {
	for i := e.Index; i < s.end[e.Index]; i++ {
		if s.own[i] > 0 {
			return true
		}
	}
	return false
}

// offLine: buttons or prices of the cards in a row stand at different heights.
var offLine = rule{
	name: "off-one-line", severity: diag.Note,
	what:  "buttons or prices of the cards in a row stand at different heights",
	looks: "the last button and the first price of cards in one row",
	not:   "other parts of cards",
	axis:  explain.Apart,
	remedies: []Remedy{
		{CSS: "margin-top=auto"},
		{Where: "around", CSS: "margin-top=auto"},
		{Where: "around", CSS: "align-items=stretch"},
		{CSS: "margin-top=0", Local: true},
	},
	ownFirst: true,
	look: func(s *Scene, r *layout.Result) []hit {
		var out []hit
		for _, entries := range s.groups {
			for _, row := range sweep.Rows(r, entries) {
				out = append(out, s.uneven(r, row)...)
			}
		}
		return out
	},
	say: func(name, other string, worst hit) string {
		return fmt.Sprintf("%s stands %.3g px lower than %s", name, worst.value, other)
	},
}

// uneven compares the last button and the first price of each card in a row.
func (s *Scene) uneven(r *layout.Result, row []*layout.Fragment) []hit {
	if len(row) < 2 {
		return nil
	}
	var out []hit
	for _, pick := range []func(*layout.Fragment) bool{
		func(p *layout.Fragment) bool {
			return s.target(p) && p.Style.Display != css.Inline && p.Content.H < p.H
		},
		func(p *layout.Fragment) bool { return s.price[p.Element.Index] && shown(p) },
	} {
		var high, low *layout.Fragment
		for _, card := range row {
			var last *layout.Fragment
			count := 0
			for i := r.ByIndex[card.Element.Index] + 1; i < len(r.Boxes) &&
				r.Boxes[i].Element.Index < s.end[card.Element.Index]; i++ {
				if p := &r.Boxes[i]; pick(p) {
					last = p
					count++
				}
			}
			if last == nil || count > 2 { // a list of links is no card
				high = nil
				break
			}
			if high == nil || last.Y < high.Y {
				high = last
			}
			if low == nil || last.Y > low.Y {
				low = last
			}
		}
		if high != nil && low.Y-high.Y > 64 {
			out = append(out, hit{el: low.Element, other: high.Element, amount: low.Y - high.Y,
				value: (low.Y - high.Y).Float(), cause: "margin-top"})
		}
	}
	return out
}

// stickyCovers: a bar that stays at the top lies over what a link on the page leads to.
var stickyCovers = rule{
	name: "sticky-covers", severity: diag.Warning, what: "a bar that stays at the top covers what a link leads to",
	looks: "a bar that stays at the top, and what links on the page lead to",
	not:   "links from other pages",
	remedies: []Remedy{
		{CSS: "scroll-margin-top=6rem"},
		{Where: "root", CSS: "scroll-margin-top=6rem"},
		{CSS: "scroll-margin-top=9rem"},
	},
	look: func(s *Scene, r *layout.Result) []hit {
		var bar *layout.Fragment
		for i := range r.Boxes {
			p := &r.Boxes[i]
			stays := p.Style.Position == css.Sticky || p.Style.Position == css.Fixed
			top, width := p.Style.Inset[css.Top], layout.Px(r.Width)*64
			atTop := stays && p.Style.Visible && !top.IsAuto() && top.Resolve(0) == 0
			lies := p.H > 0 && p.H < width/2 && p.W*2 > width
			if atTop && lies && (bar == nil || p.H > bar.H) {
				bar = p
			}
		}
		if bar == nil {
			return nil
		}
		var out []hit
		for _, e := range s.anchors {
			to := r.Of(e)
			if to == nil || to.Above || to.Y < bar.H || naming.Inside(to.Element, bar.Element) {
				continue
			}
			clear := to.Style.ScrollMargin[css.Top].Resolve(0) + s.firstText(r, to) - to.Y
			if html := r.Of(s.l.Doc.Root); html != nil {
				clear += html.Style.ScrollPadding[css.Top].Resolve(layout.Px(900) * 64)
			}
			if covered := bar.H - clear; covered > 64 {
				out = append(out, hit{el: to.Element, other: bar.Element, amount: covered, value: covered.Float(),
					cause: "scroll-margin-top"})
			}
		}
		return once(out)
	},
	say: func(name, other string, worst hit) string {
		return fmt.Sprintf("a link leads to %s, and %s covers %.3g px of it", name, other, worst.value)
	},
	cure: func(part string, h hit) string { return fmt.Sprintf("%s: {scroll-margin-top: %.0fpx}", part, h.value) },
}

// firstText gives where the text in a box begins, at most its lower edge.
func (s *Scene) firstText(r *layout.Result, of *layout.Fragment) layout.Px {
	top := of.Bottom()
	for i := r.ByIndex[of.Element.Index]; i < len(r.Boxes); i++ {
		p := &r.Boxes[i]
		if p.Element.Index >= s.end[of.Element.Index] {
			break
		}
		if shown(p) {
			top = min(top, p.Text.Y)
		}
	}
	return top
}
