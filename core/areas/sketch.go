package areas

import (
	"fmt"
	"slices"
	"strings"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

// A page in the notation of drawings: for each block the cells that its parts stand in, at the ranges of the site,
// their widths to scale, and which parts stand in each cell.

// sketchColumns is how finely widths are drawn at first; columns that nothing needs are joined.
const sketchColumns = 12

// Sketch writes a page as drawings, YAML that `ziegel new --sketch` reads.
func Sketch(l *sweep.Prepared, title string, ranges []site.Range) string {
	var b strings.Builder
	fmt.Fprintf(&b, "title: %q\nblocks:\n", title)
	engine := l.Engine()
	var results []*layout.Result
	for _, r := range ranges {
		results = append(results, l.Engine().Layout(typical(r)))
	}
	wide := engine.Layout(1280)
	for _, block := range l.Blocks {
		s := &sketcher{wide: wide}
		s.cells(inside(block.Element))
		if len(s.list) == 0 {
			continue
		}
		fmt.Fprintf(&b, "  - name: %s\n    section: %s\n    areas:\n", block.Name, block.Section)
		before := ""
		for i := len(ranges) - 1; i >= 0; i-- {
			rows := s.rows(results[i])
			if text := drawn(rows); len(rows) > 0 && text != before {
				fmt.Fprintf(&b, "      %s: |\n%s", ranges[i].Name, text)
				before = text
			}
		}
		b.WriteString("    parts:\n")
		for _, c := range s.list {
			fmt.Fprintf(&b, "      %s: [%s]\n", c.name, strings.Join(partWords(c.el), ", "))
		}
	}
	return b.String()
}

// typical gives a width that stands for a range, CSS px.
func typical(r site.Range) int {
	switch {
	case r.From == 0:
		return min(390, max(r.To, 240))
	case r.To == 0:
		return max(r.From, 1280)
	}
	return (r.From + r.To) / 2
}

// inside gives the section in the wrapper of a block.
func inside(e *css.Element) *css.Element {
	if kids := e.Kids(); len(kids) == 1 {
		return kids[0]
	}
	return e
}

type sketchCell struct {
	name string
	el   *css.Element
}

type sketcher struct {
	wide *layout.Result
	list []sketchCell
}

// cells finds the boxes that stand beside others: what stands one under the other in one of them is one cell.
func (s *sketcher) cells(e *css.Element) {
	kids := s.shown(e)
	if !s.splits(e) {
		s.add(e)
		return
	}
	for _, k := range kids {
		s.cells(k)
	}
}

// shown lists the children of an element that have a box.
func (s *sketcher) shown(e *css.Element) []*css.Element {
	var out []*css.Element
	for _, k := range e.Kids() {
		f := s.wide.Of(k)
		drawn := f != nil && f.W > 0 && f.H > 0 && !k.Foreign && k.Tag != "svg"
		if drawn {
			out = append(out, k)
		}
	}
	return out
}

// splits reports an element in which boxes with parts stand side by side, at any depth.
func (s *sketcher) splits(e *css.Element) bool {
	kids := s.shown(e)
	for i, k := range kids {
		if s.splits(k) {
			return true
		}
		if i == 0 || !named(k) || !named(kids[i-1]) || small(k) {
			continue
		}
		a, b := s.wide.Of(kids[i-1]).Rect, s.wide.Of(k).Rect
		if min(a.Bottom(), b.Bottom())-max(a.Y, b.Y) > min(a.H, b.H)/2 &&
			(a.Right() <= b.X+64 || b.Right() <= a.X+64) {
			return true
		}
	}
	return false
}

// named reports an element that is a part, or holds one.
func named(e *css.Element) bool {
	if e.Attr("data-part") != "" || e.Attr("data-each") != "" {
		return true
	}
	return slices.ContainsFunc(e.Kids(), named)
}

// small reports buttons, links and icons: a row of them is one part.
func small(e *css.Element) bool {
	return e.Tag == "a" || e.Tag == "button" || e.Tag == "span" || e.Tag == "svg" || e.Tag == "input" ||
		e.Tag == "label" ||
		e.Tag == "li" && len(e.Kids()) < 2
}

func (s *sketcher) add(e *css.Element) {
	if len(partWords(e)) == 0 {
		return
	}
	base := nameOf(e)
	name := base
	for i := 2; slices.ContainsFunc(s.list, func(c sketchCell) bool { return c.name == name }); i++ {
		name = fmt.Sprintf("%s-%d", base, i)
	}
	s.list = append(s.list, sketchCell{name, e})
}

// nameOf names a cell by the part that it is, or by what stands in it.
func nameOf(e *css.Element) string {
	if n := e.Attr("data-part"); n != "" && site.ValidName(n) {
		return n
	}
	if e.Attr("data-each") != "" {
		return "entry"
	}
	for _, c := range e.Classes {
		if site.ValidName(c) && !strings.Contains(c, "--") && c != "lanes" {
			return c[strings.LastIndexByte(c, '-')+1:]
		}
	}
	return "cell"
}

// partWords lists the parts of a cell as drawings name them.
func partWords(e *css.Element) []string {
	var out []string
	add := func(w string) {
		if !slices.Contains(out, w) {
			out = append(out, w)
		}
	}
	var walk func(e *css.Element)
	walk = func(e *css.Element) {
		switch {
		case e.Tag == "h1" || e.Tag == "h2":
			add("heading")
			return
		case e.Tag == "h3" || e.Tag == "h4" || e.Tag == "h5" || e.Tag == "summary":
			add("title")
			return
		case e.Tag == "img" || e.Tag == "video" || e.Tag == "iframe":
			add("picture")
			return
		case e.Tag == "svg":
			add("icon")
			return
		case e.Tag == "blockquote":
			add("quote")
			return
		case e.HasClass("type-label"):
			add("eyebrow")
			return
		case e.HasClass("type-lead"):
			add("lead")
			return
		case e.HasClass("type-figure") && e.Attr("data-part") == "price":
			add("price")
			return
		case e.HasClass("type-figure"):
			add("figure")
			return
		case e.Tag == "a" && e.HasClass("action"):
			add("actions")
			return
		case e.Tag == "a":
			add("link")
			return
		case e.Tag == "ul" && e.Attr("data-part") == "points":
			add("points")
			return
		case strings.TrimSpace(ownText(e)) != "":
			add("text")
		}
		for _, k := range e.Kids() {
			walk(k)
		}
	}
	walk(e)
	return out
}

func ownText(e *css.Element) string {
	var b strings.Builder
	for _, c := range e.Children {
		if c.Element == nil {
			b.WriteString(c.Text)
		}
	}
	return b.String()
}

// rows draws the cells at one width: twelve columns over all of them, fewer where fewer say the same.
func (s *sketcher) rows(r *layout.Result) [][]string {
	var boxes []layout.Rect
	var list []sketchCell
	for _, c := range s.list {
		if f := r.Of(c.el); f != nil && f.W > 0 && f.H > 0 {
			boxes, list = append(boxes, f.Rect), append(list, c)
		}
	}
	if len(boxes) == 0 {
		return nil
	}
	left, right := boxes[0].X, boxes[0].Right()
	var tops []layout.Px
	for _, b := range boxes {
		left, right = min(left, b.X), max(right, b.Right())
		if !slices.ContainsFunc(tops, func(t layout.Px) bool { return max(t-b.Y, b.Y-t) < 24*64 }) {
			tops = append(tops, b.Y)
		}
	}
	slices.Sort(tops)
	spans := make([]rect, len(boxes))
	for i, b := range boxes {
		at := func(x layout.Px) int {
			return int((int64(x-left)*sketchColumns + int64(right-left)/2) / max(1, int64(right-left)))
		}
		spans[i] = rect{x0: at(b.X), x1: max(at(b.X)+1, at(b.Right())), y1: 1}
		for y, t := range tops {
			if t <= b.Y+24*64 {
				spans[i].y0 = y
			}
			if t < b.Bottom()-24*64 {
				spans[i].y1 = y + 1
			}
		}
		spans[i].y1 = max(spans[i].y1, spans[i].y0+1)
	}
	grid := make([][]string, len(tops))
	for y := range grid {
		grid[y] = slices.Repeat([]string{Empty}, sketchColumns)
	}
	for i, c := range list {
		fill(grid, spans[i], c.name)
	}
	return joined(grid)
}

// fill draws a cell where nothing stands yet: what lies over another stays out of it.
func fill(grid [][]string, r rect, name string) {
	for y := r.y0; y < r.y1; y++ {
		for x := r.x0; x < min(r.x1, sketchColumns); x++ {
			if grid[y][x] != Empty {
				return
			}
		}
	}
	for y := r.y0; y < r.y1; y++ {
		for x := r.x0; x < min(r.x1, sketchColumns); x++ {
			grid[y][x] = name
		}
	}
}

// joined halves or thirds the columns as long as each cell has whole ones.
func joined(grid [][]string) [][]string {
	for _, n := range []int{12, 6, 4, 3, 2} {
		ok := true
		for _, row := range grid {
			for x := 0; x+1 < len(row); x++ {
				ok = ok && ((x+1)%n == 0 || row[x] == row[x+1])
			}
		}
		if !ok {
			continue
		}
		out := make([][]string, len(grid))
		for y, row := range grid {
			for x := 0; x < len(row); x += n {
				out[y] = append(out[y], row[x])
			}
		}
		return out
	}
	return grid
}

// drawn writes rows, names under names.
func drawn(rows [][]string) string {
	wide := 0
	for _, r := range rows {
		for _, c := range r {
			wide = max(wide, len(c))
		}
	}
	var b strings.Builder
	for i, r := range rows {
		if i > 0 && slices.Equal(r, rows[i-1]) && len(r) == 1 {
			continue
		}
		line := ""
		for _, c := range r {
			line += fmt.Sprintf("%-*s  ", wide, c)
		}
		b.WriteString("        " + strings.TrimRight(line, " ") + "\n")
	}
	return b.String()
}
