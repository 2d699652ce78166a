package adopt

import (
	"slices"
	"strings"

	"ziegel/core/css"
	"ziegel/core/markup"
	"ziegel/core/site"
)

// Like elements are the entries of a list: cards, rows of a table, terms, folds, and headings with what follows each.

// fold reads details: a title and what opens.
func (r *reader) fold(e *css.Element) *reading {
	out := &reading{box: r.at(e)}
	for _, k := range e.Kids() {
		if k.Tag == "summary" {
			text := Inline(deepest(k).Raw, r.n.to)
			out.add(
				&piece{
					sort:  heading,
					level: 6,
					value: site.NewText(text),
					plain: strings.TrimSpace(collapse(textOf(k.Raw))),
					el:    k,
				},
			)
		}
	}
	rest := markup.Element("p")
	blocks := false
	for _, c := range e.Children {
		switch {
		case c.Element == nil:
			rest.AppendChild(markup.Text(c.Text))
		case c.Element.Tag == "summary":
		default:
			blocks = true
			r.into(c.Element, out)
		}
	}
	if text := Inline(rest, r.n.to); !blocks && text != "" {
		out.add(&piece{sort: words, value: site.NewText(text), plain: text, el: e})
	}
	return out
}

// terms reads a list of terms: each with what is said of it.
func (r *reader) terms(e *css.Element) *piece {
	p := &piece{sort: list, box: r.at(e), el: e}
	var walk func(e *css.Element)
	walk = func(e *css.Element) {
		for _, k := range e.Kids() {
			switch k.Tag {
			case "div":
				walk(k)
			case "dt":
				in := &reading{box: r.at(k)}
				r.walkText(k, in)
				for _, x := range in.pieces {
					if x.sort == words {
						x.sort, x.level = heading, 6
						break
					}
				}
				p.lists = append(p.lists, in)
			case "dd":
				if n := len(p.lists); n > 0 {
					r.walkText(k, p.lists[n-1])
				}
			}
		}
	}
	walk(e)
	if len(p.lists) == 0 {
		return nil
	}
	return p
}

// walkText reads an element as text when it is nothing else.
func (r *reader) walkText(e *css.Element, out *reading) {
	if text := Inline(e.Raw, r.n.to); r.isText(e) || len(e.Kids()) == 0 && text != "" {
		if only := loneLink(e.Raw); only != nil && e.Tag != "dt" {
			r.link(elementOf(e, only), out)
			return
		}
		out.add(r.said(e, e.Raw, text))
		return
	}
	r.kidsInto(e, out)
}

// table reads a table of data as entries: of each row the first cell and the others. One that lays a page out is nil.
func (r *reader) table(e *css.Element) *piece {
	rows, head := tableRows(e)
	if len(rows) < 2 || !head && (len(rows) < 3 || len(rows[0]) < 2) {
		return nil
	}
	p := &piece{sort: list, box: r.at(e), el: e}
	for _, row := range rows {
		in := &reading{box: r.at(row[0])}
		onlyHead, titled := true, false
		for _, cell := range row {
			if pictured(cell) && !r.isText(cell) || hasBlocks(cell) {
				return nil
			}
			onlyHead = onlyHead && cell.Tag == "th"
			before := len(in.pieces)
			r.walkText(cell, in)
			if !titled && len(in.pieces) > before && in.pieces[before].sort == words &&
				!isDate(in.pieces[before].plain) {
				in.pieces[before].sort, in.pieces[before].level, titled = heading, 6, true
			}
		}
		if onlyHead && len(row) > 1 || len(in.pieces) == 0 {
			continue // the names of the columns
		}
		p.lists = append(p.lists, in)
	}
	if len(p.lists) < 2 {
		return nil
	}
	return p
}

// tableRows lists the cells of a table by row, and whether it has head cells.
func tableRows(e *css.Element) (rows [][]*css.Element, head bool) {
	var walk func(x *css.Element)
	walk = func(x *css.Element) {
		for _, k := range x.Kids() {
			switch k.Tag {
			case "thead", "tbody", "tfoot":
				walk(k)
			case "tr":
				var row []*css.Element
				for _, c := range k.Kids() {
					if c.Tag == "td" || c.Tag == "th" {
						row = append(row, c)
						head = head || c.Tag == "th"
					}
				}
				if len(row) > 0 {
					rows = append(rows, row)
				}
			}
		}
	}
	walk(e)
	return rows, head
}

func hasBlocks(e *css.Element) bool {
	for _, k := range e.Kids() {
		switch {
		case containers[k.Tag], isHeading(k.Tag), k.Tag == "ul", k.Tag == "ol", k.Tag == "form":
			return true
		}
		if hasBlocks(k) {
			return true
		}
	}
	return false
}

// list reads like elements as the entries of a list. nil when they are not one: links of a row, halves of a band, a box
// beside another one that shares a class with it.
func (r *reader) list(parent *css.Element, group []*css.Element) *piece {
	p := &piece{sort: list, steps: parent.Tag == "ol", box: r.at(parent), el: parent, like: group[0]}
	for _, e := range group {
		in := &reading{box: r.at(e)}
		switch {
		case e.Tag == "details":
			in, p.fold = r.fold(e), true
		case e.Tag == "li":
			r.walkText(e, in)
		default:
			r.into(e, in)
		}
		if r.tried == nil {
			r.tried = map[*css.Element][]*piece{}
		}
		r.tried[e] = in.pieces
		in.pieces = r.flat(in.pieces)
		if e.Tag == "a" && len(in.pieces) > 0 { // a card that is a link as a whole
			r.whole(e, in)
		}
		if len(in.pieces) > 0 {
			p.lists, p.els = append(p.lists, in), append(p.els, e)
		}
	}
	switch group[0].Tag {
	case "a", "button", "span", "p", "br": // those that hold more than a text
		if slices.ContainsFunc(p.lists, func(o *reading) bool { return len(o.pieces) < 2 && !o.pictured() }) {
			return nil
		}
	}
	if len(p.lists) < 2 || len(p.lists) == 2 && unlike(p.lists[0], p.lists[1]) {
		if len(p.lists) == 1 && p.fold {
			return p
		}
		return nil
	}
	if rows := joined(p.lists); rows != nil {
		p.lists, p.els = rows, nil
	}
	return p
}

// whole adds the link that an entry is as a whole.
func (r *reader) whole(e *css.Element, in *reading) {
	to := r.n.to(e.Attr("href"))
	if to == "" || slices.ContainsFunc(in.pieces, func(p *piece) bool { return p.sort == link || p.sort == button }) {
		return
	}
	label := ""
	for _, p := range in.pieces {
		if p.sort == heading && label == "" {
			label = p.plain
		}
	}
	if label == "" && len(in.pieces) == 1 {
		label = in.pieces[0].plain
	}
	if label == "" {
		return
	}
	in.add(
		&piece{
			sort:  link,
			value: site.NewMap("label", site.NewText(label), "to", site.NewText(to)),
			box:   in.box,
			el:    e,
		},
	)
}

// pictured reports a reading that is a picture alone.
func (o *reading) pictured() bool { return len(o.pieces) == 1 && o.pieces[0].sort == picture }

// unlike reports two boxes of which one has what the other lacks: words beside a picture.
func unlike(a, b *reading) bool {
	sorts := func(o *reading) (pictures, texts bool) {
		for _, p := range o.pieces {
			pictures = pictures || p.sort == picture || p.sort == frame || p.sort == film || p.sort == form
			texts = texts || p.sort == heading || p.sort == words || p.sort == list
		}
		return
	}
	ap, at := sorts(a)
	bp, bt := sorts(b)
	heads := func(o *reading) int {
		n := 0
		for _, p := range o.pieces {
			if p.sort == heading {
				n++
			}
		}
		return n
	}
	return ap && !at && bt || bp && !bt && at || (heads(a) == 0) != (heads(b) == 0) && (at || bt)
}

// joined gives the entries of rows that hold nothing but a list each.
func joined(rows []*reading) []*reading {
	var out []*reading
	for _, row := range rows {
		if len(row.pieces) != 1 || row.pieces[0].sort != list {
			return nil
		}
		out = append(out, row.pieces[0].lists...)
	}
	return out
}

// flat makes a list of what repeats without a box of its own: several headings of one level, each with what follows;
// a list with one entry is none. Folds that follow one another are one list.
func (r *reader) flat(pieces []*piece) []*piece {
	var out []*piece
	for _, p := range pieces {
		if n := len(out); p.fold && n > 0 && out[n-1].fold {
			out[n-1].lists = append(out[n-1].lists, p.lists...)
			continue
		}
		out = append(out, p)
	}
	if slices.ContainsFunc(
		out,
		func(p *piece) bool { return p.sort == list && len(p.lists) > 1 && entriesHeaded(p) },
	) &&
		!eachHasList(out) {
		return out
	}
	least := 9
	for _, p := range out {
		if p.sort == heading {
			least = min(least, p.level)
		}
	}
	for level := least; level < 7; level++ {
		var starts []int
		for i, p := range out {
			if p.sort == heading && p.level == level {
				starts = append(starts, i)
			}
		}
		if len(starts) < 2 {
			continue
		}
		if level == least && starts[0] == 0 && r.first(out, level) {
			continue
		}
		p := &piece{sort: list, box: out[starts[0]].box, el: out[starts[0]].el}
		for k, from := range starts {
			to := len(out)
			if k+1 < len(starts) {
				to = starts[k+1]
			}
			in := &reading{pieces: out[from:to]}
			for _, x := range in.pieces {
				in.box = union(in.box, x.box)
			}
			p.lists = append(p.lists, in)
		}
		return append(slices.Clone(out[:starts[0]]), p)
	}
	return out
}

// eachHasList reports headings of one level, two at least, each with a list under it: groups.
func eachHasList(pieces []*piece) bool {
	lists := map[int]int{} // by the level of the heading before
	count, level := map[int]int{}, 0
	for _, p := range pieces {
		switch p.sort {
		case heading:
			level = p.level
			count[level]++
		case list:
			lists[level]++
		}
	}
	for l, n := range count {
		if n > 1 && lists[l] >= n {
			return true
		}
	}
	return false
}

// first reports that the headings of a level are all there are, so that the first of them is the band's.
func (r *reader) first(pieces []*piece, level int) bool {
	n := 0
	for _, p := range pieces {
		if p.sort == heading && p.level == level {
			n++
		}
	}
	return n == 1
}

func entriesHeaded(p *piece) bool {
	for _, e := range p.lists {
		if len(e.pieces) > 1 {
			return true
		}
	}
	return false
}
