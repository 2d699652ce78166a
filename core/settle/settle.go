// Package settle makes pages whose styles ask how they sit. Sections have measured conditions (the links stand in one
// row, as many columns fit), and styles may follow an arrangement (stacked, alone in its row). It composes a page
// without them, lays it out, hands the widths that it found to compose, and lays the outcome out once more: a style
// that moves its own edge is an error. It is safe for concurrent use; the same site gives the same bytes.
package settle

import (
	"bytes"
	"crypto/sha256"
	"encoding/gob"
	"encoding/hex"
	"fmt"
	"slices"
	"strings"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

// Page composes a page of a site with all that its layout decides.
func Page(e *compose.Env, p *site.Page, opts compose.Options) (*compose.Page, diag.Problems) {
	m, problems := Measure(e, p, opts.Only, opts.Sheet)
	if !opts.Marks { // boxes do not depend on it
		m.Pictures = pictures(e, p, m, opts)
	}
	opts.Measured = m
	out, ps := compose.Compose(e, p, opts)
	return out, append(ps, problems...).Sorted()
}

// Measure lays out the blocks of a page that ask for it; only, unless nil, names those that count. The outcome is
// kept from call to call as long as nothing that it follows from has changed.
func Measure(e *compose.Env, p *site.Page, only []string, sheet *compose.Sheet) (*compose.Measured, diag.Problems) {
	m := &compose.Measured{Thresholds: map[string][]compose.Threshold{}, When: map[compose.When][]compose.Sits{}, Grounds: map[string]*compose.Covered{}}
	follows := map[string][]compose.When{}
	for _, w := range compose.Follows(e, p) {
		follows[w.Block] = append(follows[w.Block], w)
	}
	var problems diag.Problems
	for _, b := range compose.Wanted(e.All(p), only) {
		sec := e.Library.Section(b.Section)
		_, _, pictured := compose.HasGroundPicture(b)
		if sec == nil || len(sec.Measured) == 0 && len(follows[b.Name]) == 0 && !pictured {
			continue
		}
		one := &measuring{env: e, page: p, block: b, sec: sec, follows: follows[b.Name], sheet: sheet}
		found := one.run()
		if len(found.Thresholds) > 0 {
			m.Thresholds[b.Name] = found.Thresholds
		}
		if found.Covered != nil {
			m.Grounds[b.Name] = found.Covered
		}
		for w, sits := range found.When {
			m.When[w] = sits
		}
		problems = append(problems, found.problems...)
	}
	return m, problems
}

// found is what one block measured. Its fields are exported to be written down.
type found struct {
	Thresholds []compose.Threshold
	When       map[compose.When][]compose.Sits
	Covered    *compose.Covered // nil when no picture lies under the block
	problems   diag.Problems    // they have places, which change: a block with problems is measured anew
}

// measuring is the work on one block.
type measuring struct {
	env     *compose.Env
	page    *site.Page
	block   *site.Block
	sec     *library.Section
	follows []compose.When
	sheet   *compose.Sheet
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
	f := &found{When: map[compose.When][]compose.Sits{}}
	for i := range m.sec.Measured {
		f.Thresholds = append(f.Thresholds, m.thresholds(&m.sec.Measured[i], page)...)
	}
	if len(m.follows) > 0 {
		m.arrangements(f)
	}
	if file, focus, ok := compose.HasGroundPicture(m.block); ok {
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
		f.When = map[compose.When][]compose.Sits{}
	}
	return &f
}

func (m *measuring) keep(key string, f *found) {
	if len(f.problems) == 0 {
		keep(m.env, "sits-"+key, *f)
	}
}

// recall gives what an earlier run has kept. What cannot be read is as if it were not there.
func recall[T any](e *compose.Env, key string) (value T, ok bool) {
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

func keep[T any](e *compose.Env, key string, value T) {
	var out bytes.Buffer
	if e.Memory != nil && gob.NewEncoder(&out).Encode(value) == nil {
		e.Memory.Keep(key, out.Bytes())
	}
}

func hashOf(text string) string {
	h := sha256.Sum256([]byte(text))
	return hex.EncodeToString(h[:16])
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
	return hashOf(m.env.Faceless(page) + "\x00" + asked)
}

// compose makes the page with this block alone.
func (m *measuring) compose(measured *compose.Measured) *compose.Page {
	page, _ := compose.Compose(m.env, m.page, compose.Options{Marks: true, Only: []string{m.block.Name}, Sheet: m.sheet, Measured: measured})
	return page
}

// laid prepares a page for layout, with more rules after its own. They win over all others.
func (m *measuring) laid(page *compose.Page, extra string) *sweep.Laid {
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

// whole gives what was found to compose.
func (f *found) whole(block string) *compose.Measured {
	return &compose.Measured{Thresholds: map[string][]compose.Threshold{block: f.Thresholds}, When: f.When, Grounds: map[string]*compose.Covered{block: f.Covered}}
}

// arrangements finds where parts sit as their styles ask: without these styles first, then with them as a proof.
func (m *measuring) arrangements(f *found) {
	off := m.sits(f, m.compose(&compose.Measured{Thresholds: map[string][]compose.Threshold{m.block.Name: f.Thresholds}}))
	f.When = off
	on := m.sits(f, m.compose(f.whole(m.block.Name)))
	for _, w := range m.follows {
		if was, now := spansText(off[w]), spansText(on[w]); was != now {
			f.problems = append(f.problems, m.moving(w, was, now))
		}
	}
}

// moving words a style that changes where it holds.
func (m *measuring) moving(w compose.When, was, now string) diag.Problem {
	text := fmt.Sprintf("the style of %s when %s moves its own edge: it holds at %s without it, at %s with it", w.Part, w.Cond, was, now)
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
			if t, err := compose.ParseTarget(e.Key); err == nil && t.Part == w.Part && t.When == w.Cond {
				return x.f.KeyProblem(e, "moving-edge", text, want, "")
			}
		}
	}
	p := m.block.File.Problem(m.block.Node, "moving-edge", text, want, "")
	p.Severity = diag.Error
	return p
}

func spansText(sits []compose.Sits) string {
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

// elements lists the elements of a part of a block, in their order.
func elements(l *sweep.Laid, block, part string) []*css.Element {
	var out []*css.Element
	for _, e := range l.Doc.Elements {
		if blockAround(e) != block {
			continue
		}
		if e.Attr(compose.MarkPart) == part || part == compose.PartBlock && e.Attr(compose.MarkBlock) != "" || part == compose.PartRoot && e.Parent != nil && e.Parent.Attr(compose.MarkBlock) != "" {
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
