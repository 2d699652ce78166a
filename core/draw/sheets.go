package draw

import (
	"fmt"
	"html"
	"math"
	"slices"
	"strings"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/measure"
	"ziegel/core/naming"
	"ziegel/core/paint/geom"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

// pages takes a page at several widths.
func pages(l *sweep.Prepared, widths []int, how Look) ([]*Shot, error) {
	return AtWidths(l, widths, Target{}, how)
}

// box gives where an element lies on a shot, CSS px; ok is false when it is not shown.
func (s *Shot) box(el *css.Element) (geom.Rect, bool) {
	i := s.Result.ByIndex[el.Index]
	if i < 0 || s.Result.Boxes[i].Empty() {
		return geom.Rect{}, false
	}
	z := 1.0
	if s.Page.Zoom > 0 {
		z = s.Page.Zoom
	}
	b := s.Result.Boxes[i].Rect
	return geom.R(b.X.Float()/z, b.Y.Float()/z, b.W.Float()/z, b.H.Float()/z), true
}

// Blocks shows every block of a page at several widths, a row each, with its arrangements beside it.
func Blocks(l *sweep.Prepared, stacks []sweep.Stacking, widths []int, how Look) (*Sheet, error) {
	shots, err := pages(l, widths, how)
	if err != nil {
		return nil, err
	}
	s := &Sheet{}
	s.Text("h1", "Blocks of "+l.Name)
	for _, st := range stacks {
		b := l.Block(st.Name)
		if b == nil {
			continue
		}
		s.Raw(`<div class="row group"><div class=side>`)
		s.Text("h2 style=margin-top:0", st.Name)
		if st.Section != "" {
			s.Text("p", st.Section)
		}
		for _, a := range st.Arrangements {
			s.Text("p", fmt.Sprintf("%d..%d  %s", a.From, a.To, a.As))
		}
		s.Raw("</div>")
		for _, sh := range shots {
			own := *sh
			el := sh.Page.Block(st.Name).Element
			area, ok := sh.box(el)
			if !ok {
				s.Raw(fmt.Sprintf(`<div class=cell><div class=cap><b>%d</b><span>not shown</span></div></div>`,
					sh.Width))
				continue
			}
			own.Area = area
			s.Shot(&own, fmt.Sprint(sh.Width), fmt.Sprintf("%.0f px high, %s", area.H(), arrangedAt(st, sh.Width)),
				area.W()/2)
		}
		s.Raw("</div>")
	}
	return s, nil
}

// arrangedAt gives the arrangement of a block at a width.
func arrangedAt(st sweep.Stacking, width int) string {
	for _, a := range st.Arrangements {
		if a.From <= width && width <= a.To {
			return a.As
		}
	}
	return ""
}

// Sections shows the library in a site's theme: those of a kind, or all, on a phone and on a desktop.
func Sections(e *project.Project, kind string, widths []int, how Look) (*Sheet, error) {
	s := &Sheet{Width: 1500}
	s.Text("h1", "Sections in the theme "+e.Theme.Name)
	f, err := site.ReadFile("pages/home.yaml", "title: Sections\n")
	if err != nil {
		return nil, err
	}
	at := ""
	for _, sec := range e.Library.All() {
		k, _, _ := strings.Cut(sec.Name, "/")
		if kind != "" && k != kind && sec.Name != kind {
			continue
		}
		if k != at {
			if at != "" {
				s.Raw("</div>")
			}
			s.Text("h2", k)
			s.Raw("<div class=wrap>")
			at = k
		}
		page := &site.Page{Name: "home", Title: "Sections", File: f}
		page.Blocks = append(page.Blocks, &site.Block{Name: "block", Section: sec.Name,
			Options: map[string]*site.Value{},
			Node:    site.NewMap("name", site.NewText("block")), File: f, Path: site.Keys("blocks", 0)})
		env := e.Alone(page)
		composed, problems := measure.Page(env, page, compose.Options{Marks: true})
		if err := problems.Err(); err != nil {
			return nil, fmt.Errorf("%s: %w", sec.Name, err)
		}
		l, err := sweep.FromPage(env, composed)
		if err != nil {
			return nil, err
		}
		s.Raw(`<div class=cell><div class=cap><b>` + html.EscapeString(sec.Name) +
			`</b></div><div class=row style="gap:8px">`)
		for _, w := range widths {
			shot, err := Of(l, w, Target{Block: "block"}, how)
			if err != nil { // a section that shows nothing at this width
				continue
			}
			s.Raw(s.Picture(shot.List, shot.Area, shot.Area.W()*.27))
		}
		s.Raw("</div></div>")
	}
	if at == "" {
		return nil, fmt.Errorf("there is no section or kind %q; `ziegel sections` lists them", kind)
	}
	s.Raw("</div>")
	return s, nil
}

// Crops shows every picture of a page at every ratio in which it is shown at some widths.
func Crops(l *sweep.Prepared, widths []int, how Look) (*Sheet, error) {
	shots, err := pages(l, widths, how)
	if err != nil {
		return nil, err
	}
	type crop struct {
		shot   *Shot
		area   geom.Rect
		widths []int
	}
	var order []string
	of := map[string][]*crop{}
	for _, sh := range shots {
		for i := range sh.Result.Boxes {
			el := sh.Result.Boxes[i].Element
			if el.Tag != "img" {
				continue
			}
			area, ok := sh.box(el)
			if !ok {
				continue
			}
			src := sh.Result.Source(el)
			if of[src] == nil {
				order = append(order, src)
			}
			same := slices.IndexFunc(of[src],
				func(c *crop) bool { return math.Abs(c.area.W()/c.area.H()-area.W()/area.H()) < .02 })
			if same >= 0 {
				of[src][same].widths = append(of[src][same].widths, sh.Width)
				continue
			}
			of[src] = append(of[src], &crop{sh, area, []int{sh.Width}})
		}
	}
	s := &Sheet{Width: 1400}
	s.Text("h1", "Pictures of "+l.Name+", as they are cut")
	for _, src := range order {
		s.Text("h2", src)
		s.Raw("<div class=wrap>")
		for _, c := range of[src] {
			own := *c.shot
			own.Area = c.area
			s.Shot(&own, ratio(c.area), "at "+listed(c.widths), min(360, max(90, c.area.W()/2)))
		}
		s.Raw("</div>")
	}
	if len(order) == 0 {
		s.Text("p", "No picture is shown at these widths.")
	}
	return s, nil
}

// ratio writes the ratio of a rectangle, as two small numbers when there are such.
func ratio(r geom.Rect) string {
	v := r.W() / r.H()
	for _, d := range []float64{1, 2, 3, 4, 5, 9, 10, 16} {
		if n := math.Round(v * d); n > 0 && math.Abs(n/d-v) < .004*v {
			return fmt.Sprintf("%.0f:%.0f", n, d)
		}
	}
	return fmt.Sprintf("%.2f:1", v)
}

func listed(widths []int) string {
	widths = slices.Compact(slices.Sorted(slices.Values(widths)))
	var out []string
	for _, w := range widths {
		out = append(out, fmt.Sprint(w))
	}
	return strings.Join(out, ", ")
}

// Icons shows every icon of a page at its true size and eight times as large, and says which line is drawn otherwise
// than those of the others.
func Icons(l *sweep.Prepared, width int, how Look) (*Sheet, error) {
	sh, err := Of(l, width, Target{}, how)
	if err != nil {
		return nil, err
	}
	type icon struct {
		el     *css.Element
		area   geom.Rect
		stroke float64 // px, as it is drawn
		times  int
	}
	var list []*icon
	known := map[string]*icon{}
	strokes := map[float64]int{}
	for i := range sh.Result.Boxes {
		el := sh.Result.Boxes[i].Element
		if el.Tag != "svg" {
			continue
		}
		area, ok := sh.box(el)
		if !ok {
			continue
		}
		key := shapesOf(el) + fmt.Sprintf("%.0f", area.W())
		if known[key] != nil {
			known[key].times++
			continue
		}
		ic := &icon{el: el, area: area, times: 1, stroke: strokeOf(el, area.W())}
		known[key] = ic
		list = append(list, ic)
		strokes[ic.stroke]++
	}
	usual, most := 0.0, 0
	for v, n := range strokes {
		if n > most || n == most && v < usual {
			usual, most = v, n
		}
	}
	s := &Sheet{Width: 1200}
	s.Text("h1", fmt.Sprintf("Icons of %s at %d", l.Name, width))
	s.Raw("<div class=wrap>")
	for _, ic := range list {
		name := naming.Of(l, ic.el)
		if block, part, item := naming.Place(l, ic.el); block != "" {
			name = Target{Block: block, Part: part, Item: item}.String()
		}
		note := ""
		if ic.stroke > 0 && math.Abs(ic.stroke-usual) > .05 {
			note = fmt.Sprintf(`<p class=note>lines of %s px, the others have %s</p>`, short(ic.stroke), short(usual))
		}
		s.Raw(fmt.Sprintf(`<div class=cell style="width:260px"><div class=cap><b>%s</b><span>%s px%s</span></div><div class=row style="gap:12px">`,
			html.EscapeString(name), short(ic.area.W()), times(ic.times)))
		s.Raw(s.Picture(sh.List, ic.area.Grow(2), ic.area.W()+4) +
			s.Picture(sh.List, ic.area.Grow(2), (ic.area.W()+4)*6))
		s.Raw("</div>" + note + "</div>")
	}
	s.Raw("</div>")
	if len(list) == 0 {
		s.Text("p", "No icon is shown at this width.")
	}
	return s, nil
}

func short(v float64) string {
	return strings.TrimSuffix(strings.TrimRight(fmt.Sprintf("%.2f", v), "0"), ".")
}

func times(n int) string {
	if n < 2 {
		return ""
	}
	return fmt.Sprintf(", %d times", n)
}

// shapesOf tells drawings apart by what is in them.
func shapesOf(el *css.Element) string {
	var b strings.Builder
	var walk func(e *css.Element)
	walk = func(e *css.Element) {
		for _, k := range e.Kids() {
			b.WriteString(k.Tag + k.Attr("d") + k.Attr("href") + k.Attr("points") + k.Attr("x") + k.Attr("cx") + " ")
			walk(k)
		}
	}
	walk(el)
	return b.String()
}

// strokeOf gives how wide the lines of a drawing are as it is drawn, 0 when it has none.
func strokeOf(el *css.Element, width float64) float64 {
	var box [4]float64
	if n, _ := fmt.Sscan(strings.ReplaceAll(el.Attr("viewBox"), ",", " "), &box[0], &box[1], &box[2], &box[3]); n < 4 ||
		box[2] <= 0 {
		return 0
	}
	found := 0.0
	var walk func(e *css.Element)
	walk = func(e *css.Element) {
		v := 0.0
		if _, err := fmt.Sscan(e.Attr("stroke-width"), &v); err == nil && v > 0 {
			found = max(found, v)
		}
		for _, k := range e.Kids() {
			walk(k)
		}
	}
	walk(el)
	return math.Round(found*width/box[2]*100) / 100
}

// shownStates are the states that a sheet of states shows, by the words that people use.
var shownStates = []struct {
	name string
	set  []string
}{{"rest", nil}, {"hover", []string{"hover"}}, {"focus", []string{"focus", "focus-visible", "focus-within"}},
	{"pressed", []string{"hover", "active"}}}

// States shows an action, a link, a field, a card and a menu of a page in every state.
func States(l *sweep.Prepared, width int, how Look) (*Sheet, error) {
	var shots []*Shot
	for _, st := range shownStates {
		look := how
		look.State = st.set
		sh, err := Of(l, width, Target{}, look)
		if err != nil {
			return nil, err
		}
		shots = append(shots, sh)
	}
	s := &Sheet{}
	s.Text("h1", fmt.Sprintf("States on %s at %d", l.Name, width))
	shown := map[string]bool{}
	for i := range shots[0].Result.Boxes {
		el := shots[0].Result.Boxes[i].Element
		kind := kindOf(el)
		look := kind + " " + strings.Join(el.Classes, " ")
		if kind == "" || shown[look] || kind == "link" && shown["link"] {
			continue
		}
		if area, ok := shots[0].box(el); !ok || area.Y1 <= 0 || area.X1 <= 0 { // nothing of it is on the page
			continue
		}
		shown[look], shown[kind] = true, true
		name := kind
		if block, part, item := naming.Place(l, el); block != "" {
			name += ", " + Target{Block: block, Part: part, Item: item}.String()
		}
		s.Text("h2", name)
		s.Raw("<div class=row>")
		for k, sh := range shots {
			area, ok := sh.box(sh.Page.Doc.Elements[el.Index])
			if !ok {
				continue
			}
			own := *sh
			own.Area = area.Grow(8)
			s.Shot(&own, shownStates[k].name, "", own.Area.W())
		}
		s.Raw("</div>")
	}
	return s, nil
}

// kindOf says what of the things with states an element is, "" for none.
func kindOf(el *css.Element) string {
	switch part := el.Attr("data-part"); {
	case el.HasClass("action"):
		return "action"
	case el.Tag == "input" || el.Tag == "textarea" || el.Tag == "select":
		return "field"
	case part == "card":
		return "card"
	case part == "menu":
		return "menu"
	case el.Tag == "a" && el.Attr("href") != "":
		return "link"
	case el.Tag == "button":
		return "action"
	}
	return ""
}

// seamReach is how much of the two blocks a seam shows, CSS px.
const seamReach = 110

// Seams shows where two blocks meet, at some widths.
func Seams(l *sweep.Prepared, widths []int, how Look) (*Sheet, error) {
	shots, err := pages(l, widths, how)
	if err != nil {
		return nil, err
	}
	s := &Sheet{}
	s.Text("h1", "Where the blocks of "+l.Name+" meet")
	for i := 1; i < len(l.Blocks); i++ {
		above, below := l.Blocks[i-1].Name, l.Blocks[i].Name
		s.Text("h2", above+" and "+below)
		s.Raw("<div class=row>")
		for _, sh := range shots {
			a, ok := sh.box(sh.Page.Block(above).Element)
			b, other := sh.box(sh.Page.Block(below).Element)
			if !ok || !other {
				continue
			}
			own := *sh
			gap := gapAt(sh, above, below)
			reach := max(seamReach, gap/2+seamReach/2)
			own.Area = geom.Rect{X1: float64(sh.Width), Y0: max(0, a.Y1-reach), Y1: min(b.Y0+reach, sh.List.H)}
			s.Shot(&own, fmt.Sprint(sh.Width), fmt.Sprintf("%.0f px between them", gap), float64(sh.Width)/2)
		}
		s.Raw("</div>")
	}
	return s, nil
}

// gapAt gives the space between the last thing of one block and the first of the next.
func gapAt(sh *Shot, above, below string) float64 {
	last, first := math.Inf(-1), math.Inf(1)
	for i := range sh.Result.Boxes {
		f := &sh.Result.Boxes[i]
		block, part, _ := naming.Place(sh.Page, f.Element)
		if part == "" || f.Empty() || !leaf(f) {
			continue
		}
		r, _ := sh.box(f.Element)
		switch block {
		case above:
			last = max(last, r.Y1)
		case below:
			first = min(first, r.Y0)
		}
	}
	if math.IsInf(last, 0) || math.IsInf(first, 0) {
		return 0
	}
	return max(0, first-last)
}

// leaf reports an element that shows something itself.
func leaf(f *layout.Fragment) bool {
	return f.Lines > 0 || f.Element.Tag == "img" || f.Element.Tag == "svg"
}
