package measure

import (
	"bytes"
	"crypto/sha256"
	"encoding/gob"
	"encoding/hex"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"sync"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/layout"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/styles"
	"ziegel/core/sweep"
)

// found is what one block measured. Its fields are exported to be written down.
type found struct {
	Thresholds []styles.Threshold
	When       map[styles.When][]styles.Sits
	Covered    *styles.Covered // nil when no picture lies under the block
	problems   diag.Problems   // they have places, which change: a block with problems is measured anew
}

// whole gives what was found to compose.
func (f *found) whole(block string) *styles.Measured {
	return &styles.Measured{Thresholds: map[string][]styles.Threshold{block: f.Thresholds}, When: f.When,
		Grounds: map[string]*styles.Covered{block: f.Covered}}
}

// covered finds which parts of the picture under the block some text lies over, at screens of every 40th px.
func (m *measuring) covered(f *found, file, focus string) *styles.Covered {
	l := m.laid(m.compose(f.whole(m.block.Name)), "")
	if l == nil {
		return nil
	}
	w, h, ok := l.Picture("media/" + file)
	if !ok || w == 0 || h == 0 {
		return nil
	}
	spot := styles.FocusShares(focus)
	var out styles.Covered
	var painter css.Painter
	engine := l.Engine()
	for width := sweep.DefaultFrom; width <= sweep.DefaultTo; width += sizeStep {
		r := engine.Layout(width)
		var ground *layout.Fragment
		for i := range r.Boxes {
			b := &r.Boxes[i]
			if b.Element.Attr(compose.MarkBlock) == m.block.Name {
				ground = b
			}
			if ground == nil || b.Lines == 0 || onSurface(r, &painter, b.Element, ground.Element) {
				continue
			}
			drawn := sweep.Drawn(ground.Rect, w, h, "cover", spot)
			for _, line := range b.Runs {
				x0, y0, x1, y1 := sweep.CellsUnder(line.Intersect(ground.Rect), drawn, styles.CoverCells,
					styles.CoverCells)
				for y := max(0, y0-coverEdge); y < min(styles.CoverCells, y1+coverEdge); y++ {
					for x := max(0, x0-coverEdge); x < min(styles.CoverCells, x1+coverEdge); x++ {
						out[y*styles.CoverCells+x] = true
					}
				}
			}
		}
	}
	return &out
}

// measuring is the work on one block.
type measuring struct {
	env     *project.Project
	page    *site.Page
	block   *site.Block
	sec     *library.Section
	follows []styles.When
	sheet   *styles.Sheet
}

func (m *measuring) run() *found {
	page := m.compose(nil)
	key := m.key(page)
	if f, ok := m.env.Measures.Load(key); ok {
		return f.(*found)
	}
	f := m.recall(key)
	if f == nil {
		f = m.measure(page)
		m.keep(key, f)
	}
	m.env.Measures.Store(key, f)
	return f
}

func (m *measuring) measure(page *compose.Page) *found {
	f := &found{When: map[styles.When][]styles.Sits{}}
	for i := range m.sec.Measured {
		f.Thresholds = append(f.Thresholds, m.thresholds(&m.sec.Measured[i], page)...)
	}
	if len(m.follows) > 0 {
		m.arrangements(f)
	}
	if file, focus, ok := styles.HasGroundPicture(m.block); ok {
		f.Covered = m.covered(f, file, focus)
	}
	return f
}

// recall gives what an earlier run has measured, nil for nothing.
func (m *measuring) recall(key string) *found {
	f, ok := recall[found](m.env, "sits-"+key)
	if !ok {
		return nil
	}
	if f.When == nil {
		f.When = map[styles.When][]styles.Sits{}
	}
	return &f
}

func (m *measuring) keep(key string, f *found) {
	if len(f.problems) == 0 {
		keep(m.env, "sits-"+key, *f)
	}
}

// key names all that the outcome follows from: the block without what is measured, and what is asked.
func (m *measuring) key(page *compose.Page) string {
	asked := fmt.Sprint(m.sec.Measured, m.follows) + m.block.Node.String()
	for _, d := range append(slices.Clone(m.env.Site.Defaults), m.page.Defaults...) {
		asked += d.Section + d.Node.String()
	}
	for _, s := range m.env.Site.Styles {
		asked += s.Name + s.Value.String()
	}
	return hashOf(compose.Faceless(m.env, page) + "\x00" + asked)
}

// compose makes the page with this block alone.
func (m *measuring) compose(measured *styles.Measured) *compose.Page {
	page, _ := compose.Compose(m.env, m.page, compose.Options{Marks: true, Only: []string{m.block.Name},
		Sheet: m.sheet, Measured: measured})
	return page
}

// laid prepares a page for layout, with more rules after its own. They win over all others.
func (m *measuring) laid(page *compose.Page, extra string) *sweep.Prepared {
	other := *page
	if extra != "" {
		all := *page.Site // every page has that one
		all.Text += "\n" + extra
		other.Site = &all
	}
	l, err := sweep.FromPage(m.env, &other)
	if err != nil {
		return nil
	}
	return l
}

// arrangements finds where parts sit as their styles ask: without these styles first, then with them as a proof.
func (m *measuring) arrangements(f *found) {
	off := m.sits(f, m.compose(&styles.Measured{Thresholds: map[string][]styles.Threshold{m.block.Name: f.Thresholds}}))
	f.When = off
	on := m.sits(f, m.compose(f.whole(m.block.Name)))
	for _, w := range m.follows {
		if was, now := spansText(off[w]), spansText(on[w]); was != now {
			f.problems = append(f.problems, m.moving(w, was, now))
		}
	}
}

// moving words a style that changes where it holds.
func (m *measuring) moving(w styles.When, was, now string) diag.Problem {
	text := fmt.Sprintf("the style of %s when %s moves its own edge: it holds at %s without it, at %s with it",
		w.Part, w.Cond, was, now)
	const want = "properties that leave the arrangement alone, or a fixed width: at or in instead of when"
	maps := []struct {
		v *site.Value
		f *site.File
	}{{m.block.Style, m.block.File}}
	for _, d := range append(slices.Clone(m.page.Defaults), m.env.Site.Defaults...) {
		maps = append(maps, struct {
			v *site.Value
			f *site.File
		}{d.Style, d.File})
	}
	for _, x := range maps {
		if x.v == nil {
			continue
		}
		for _, e := range x.v.Entries {
			if t, err := styles.ParseTarget(e.Key); err == nil && t.Part == w.Part && t.When == w.Cond {
				return x.f.KeyProblem(e, "moving-edge", text, want, "")
			}
		}
	}
	p := m.block.File.Problem(m.block.Node, "moving-edge", text, want, "")
	p.Severity = diag.Error
	return p
}

// sits sweeps the block and collects the widths at which its parts sit as asked.
func (m *measuring) sits(f *found, page *compose.Page) map[styles.When][]styles.Sits {
	out := map[styles.When][]styles.Sits{}
	l := m.laid(page, "")
	if l == nil || l.Block(m.block.Name) == nil {
		return out
	}
	block := l.Block(m.block.Name)
	var asks []*ask
	for _, w := range m.follows {
		cond, ok := styles.CanonicalWhen(w.Cond)
		if !ok {
			continue
		}
		if cond != "alone in its row" && cond != "wrapped" {
			asks = append(asks, &ask{when: w, cond: cond})
			continue
		}
		for i, e := range elements(l, m.block.Name, w.Part) {
			asks = append(asks, &ask{when: w, cond: cond, index: i + 1, el: e})
		}
	}
	for _, a := range asks {
		a.holds = make([]bool, sweep.DefaultTo-sweep.DefaultFrom+1)
	}
	var mu sync.Mutex
	l.Each(sweep.DefaultFrom, sweep.DefaultTo, func(width int, r *layout.Result) {
		as := block.Arrangement(r)
		for _, a := range asks {
			if a.answer(block, r, as) {
				mu.Lock()
				a.holds[width-sweep.DefaultFrom] = true
				mu.Unlock()
			}
		}
	})
	for _, a := range asks {
		if spans := spansOf(a.holds); len(spans) > 0 {
			out[a.when] = append(out[a.when], styles.Sits{Index: a.index, Spans: spans})
		}
	}
	return out
}

// thresholds measures one condition of a section with the block's own content in its own fonts.
func (m *measuring) thresholds(c *library.Measure, page *compose.Page) []styles.Threshold {
	if c.Row != "" {
		return m.row(c, page)
	}
	return m.fit(c, page)
}

func (m *measuring) probe(c *library.Measure, page *compose.Page, extra string) *probe {
	l := m.laid(page, extra)
	if l == nil {
		return nil
	}
	part := c.Room
	if part == "" {
		part = styles.PartRoot
	}
	return &probe{l, l.Engine(), elements(l, m.block.Name, part)}
}

// row finds the width from which the boxes of a part stand in one row, with the condition in force everywhere.
func (m *measuring) row(c *library.Measure, page *compose.Page) []styles.Threshold {
	p := m.probe(c, page, fmt.Sprintf("[data-block=%q] > * > *, [data-block=%q] [data-part=%q] > * { --%s_%s: yes; }",
		m.block.Name, m.block.Name, c.Room, strings.ReplaceAll(m.sec.Name, "/", "-"), c.Name))
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
	return []styles.Threshold{{Name: c.Name, Value: "yes", From: p.roomAt(width)}}
}

// fit finds the widths from which two, three and more entries fit beside each other, each as wide as its longest word
// or its widest piece that may not break.
func (m *measuring) fit(c *library.Measure, page *compose.Page) []styles.Threshold {
	p := m.probe(c, page,
		strings.ReplaceAll(fmt.Sprintf("IN* { overflow-wrap: break-word; } IN[data-part=%q] { grid-column: 1 / -1; } IN[data-part=%q] > * { inline-size: min-content; min-inline-size: 0; max-inline-size: none; } IN[data-part=%q] .action { white-space: nowrap; }", c.Fit, c.Fit, c.Fit), "IN", fmt.Sprintf("[data-block=%q] ", m.block.Name)))
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
	var all []styles.Threshold
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
		var out []styles.Threshold
		for k := 2; k <= min(most, len(entries)); k++ {
			width := least(func(w int) bool {
				n := needs(w)
				return float64(k)*max(leastWidth, n.entry)+float64(k-1)*n.gap <= n.room+1.0/64
			})
			if width < 0 {
				break
			}
			out = append(out, styles.Threshold{Name: c.Name, Value: strconv.Itoa(k), From: p.roomAt(width), At: at})
		}
		if at != "" {
			all = append(all, styles.Threshold{Name: c.Name, At: at}) // what holds elsewhere ends here
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
		if _, _, known := m.env.Span(strings.TrimSpace(at)); ok && known &&
			slices.Contains(options, strings.TrimSpace(name)) && !slices.Contains(out, strings.TrimSpace(at)) {
			out = append(out, strings.TrimSpace(at))
		}
	}
	slices.Sort(out)
	return out
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

// recall gives what an earlier run has kept. What cannot be read is as if it were not there.
func recall[T any](e *project.Project, key string) (value T, ok bool) {
	if e.Memory == nil {
		return value, false
	}
	data, ok := e.Memory.Recall(key)
	if !ok || gob.NewDecoder(bytes.NewReader(data)).Decode(&value) != nil {
		var none T
		return none, false
	}
	return value, true
}

func keep[T any](e *project.Project, key string, value T) {
	var out bytes.Buffer
	if e.Memory != nil && gob.NewEncoder(&out).Encode(value) == nil {
		e.Memory.Keep(key, out.Bytes())
	}
}

func hashOf(text string) string {
	h := sha256.Sum256([]byte(text))
	return hex.EncodeToString(h[:16])
}

// elements lists the elements of a part of a block, in their order.
func elements(l *sweep.Prepared, block, part string) []*css.Element {
	var out []*css.Element
	for _, e := range l.Doc.Elements {
		if blockAround(e) != block {
			continue
		}
		isPart := e.Attr(compose.MarkPart) == part || part == styles.PartBlock && e.Attr(compose.MarkBlock) != "" ||
			part == styles.PartRoot && e.Parent != nil && e.Parent.Attr(compose.MarkBlock) != ""
		if isPart {
			out = append(out, e)
		}
	}
	return out
}

// blockAround names the block that an element stands in, the innermost one.
func blockAround(e *css.Element) string {
	for ; e != nil; e = e.Parent {
		if name := e.Attr(compose.MarkBlock); name != "" {
			return name
		}
	}
	return ""
}

func spansText(sits []styles.Sits) string {
	var parts []string
	for _, s := range sits {
		for _, span := range s.Spans {
			from, to := span[0], span[1]
			text := ""
			switch {
			case from == 0 && to == 0:
				text = "every width"
			case to == 0:
				text = fmt.Sprintf("%d px and wider", from)
			case from == 0:
				text = fmt.Sprintf("%d px and narrower", to)
			default:
				text = fmt.Sprintf("%d..%d px", from, to)
			}
			if s.Index > 0 {
				text += fmt.Sprintf(" (the %d.)", s.Index)
			}
			parts = append(parts, text)
		}
	}
	if len(parts) == 0 {
		return "no width"
	}
	return strings.Join(parts, ", ")
}

// sizeStep is how far apart the widths are at which pictures are measured, CSS px.
const sizeStep = 40
