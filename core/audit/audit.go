// Package audit looks for what breaks: rules over every layout of a sweep, and rules over a page's content. A rule over layouts is one
// function in a file of its own, listed in rules; hits at neighbouring widths become one finding with the worst numbers.
package audit

import (
	"fmt"
	"sort"
	"strings"
	"sync"
	"unicode/utf8"

	"ziegel/core/compose"
	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/layout"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

// Finding is something that the check reports.
type Finding struct {
	Rule     string        `json:"rule"`
	Severity diag.Severity `json:"severity"`
	Block    string        `json:"block,omitempty"`
	Part     string        `json:"part,omitempty"`
	Item     int           `json:"item,omitempty"` // position of the part in the block, from 1
	From     int           `json:"from,omitempty"` // widths in CSS px, both ends included
	To       int           `json:"to,omitempty"`
	Text     string        `json:"text"`
	Cause    string        `json:"cause,omitempty"` // file:line:column
	Cure     string        `json:"cure,omitempty"`
}

// Report is the outcome of a check.
type Report struct {
	Page     string           `json:"page"`
	From     int              `json:"from"`
	To       int              `json:"to"`
	Blocks   []sweep.Stacking `json:"blocks"`
	Findings []Finding        `json:"findings"`
	Accepted []Accepted       `json:"accepted,omitempty"` // found, and meant so
}

// Errors counts the findings that are errors.
func (r *Report) Errors() int {
	n := 0
	for _, f := range r.Findings {
		if f.Severity == diag.Error {
			n++
		}
	}
	return n
}

// hit is what a rule saw at one width.
type hit struct {
	el     *css.Element // whom it is about
	other  *css.Element // a second one, for overlaps
	amount layout.Px    // how bad, in 1/64 px
	value  float64      // what was measured, in the unit of the rule
	cause  string       // property to blame
}

// rule looks at one layout. say and cure word the finding with the worst amount.
type rule struct {
	name     string
	severity diag.Severity
	what     string // it finds
	look     func(s *scene, r *layout.Result) []hit
	say      func(name, other string, worst hit) string
	cure     func(part string, h hit) string
}

var rules = []rule{overflowX, spill, clipped, overlapping, screenEdge,
	longLines, shortLines, brokenWord, smallText, headingLines, leadOverTitle,
	smallTarget, touchTargets,
	loneItem, screenOrder, offLine, stickyCovers,
	enlarged}

// boxes makes a look of a rule about single boxes. see gives what it measures and how far that is beyond the bound; nothing is wrong
// when that is 0 or less. cause is the property to blame.
func boxes(cause string, see func(s *scene, r *layout.Result, p *layout.Placed) (value, beyond float64)) func(*scene, *layout.Result) []hit {
	return func(s *scene, r *layout.Result) []hit {
		var out []hit
		for i := range r.Boxes {
			p := &r.Boxes[i]
			if value, beyond := see(s, r, p); beyond > 0 {
				out = append(out, hit{el: p.Element, amount: css.FromFloat(beyond), value: value, cause: cause})
			}
		}
		return out
	}
}

// Rule is what the check looks for.
type Rule struct {
	Name     string        `json:"rule"`
	Severity diag.Severity `json:"severity"`
	What     string        `json:"finds"`
}

// Rules lists all rules, those over every width first.
func Rules() []Rule {
	var out []Rule
	for _, r := range rules {
		out = append(out, Rule{r.name, r.severity, r.what})
	}
	return append(out, contentList...)
}

// scene is what the rules know of a page at every width.
type scene struct {
	l       *sweep.Laid
	own     []int            // letters of the own text of each element
	price   []bool           // it is a price
	kind    []elementKind    // of each element
	groups  [][]*css.Element // like boxes
	anchors []*css.Element   // what links on the page lead to
	end     []int            // the index after the last element inside each
}

type elementKind uint8

const (
	plainKind elementKind = iota
	runningKind
	headingKind
	targetKind
	pictureKind // one whose file never changes
)

func newScene(l *sweep.Laid) *scene {
	n := len(l.Doc.Elements)
	s := &scene{l: l, own: make([]int, n), price: make([]bool, n), kind: make([]elementKind, n), end: make([]int, n)}
	ids := map[string]*css.Element{}
	for i, e := range l.Doc.Elements {
		text := own(e)
		s.own[i] = utf8.RuneCountInString(text)
		s.price[i] = strings.ContainsAny(text, "€$£¥")
		s.kind[i] = kindOf(e)
		for x := e; x != nil; x = x.Parent {
			s.end[x.Index] = i + 1
		}
		if e.ID != "" && ids[e.ID] == nil {
			ids[e.ID] = e
		}
	}
	led := map[*css.Element]bool{}
	for _, e := range l.Doc.Elements {
		if id, ok := strings.CutPrefix(e.Attr("href"), "#"); ok && e.Tag == "a" && ids[id] != nil && !led[ids[id]] {
			led[ids[id]] = true
			s.anchors = append(s.anchors, ids[id])
		}
	}
	for _, b := range l.Blocks {
		s.groups = append(s.groups, b.Groups()...)
	}
	return s
}

func kindOf(e *css.Element) elementKind {
	switch {
	case running[e.Tag]:
		return runningKind
	case headings[e.Tag] > 0:
		return headingKind
	case clickable(e):
		return targetKind
	case e.Tag == "img" && !strings.HasSuffix(strings.ToLower(e.Attr("src")), ".svg"):
		if _, many := e.LookupAttr("srcset"); !many && (e.Parent == nil || e.Parent.Tag != "picture") {
			return pictureKind
		}
	}
	return plainKind
}

type hitKey struct {
	rule      int
	el, other *css.Element
}

type hitAt struct {
	width int
	hit   hit
}

// Run sweeps a page over from..to, both included, and reports everything found. wants is the page's own file, nil for foreign pages.
func Run(l *sweep.Laid, p *site.Page, problems diag.Problems, from, to int) *Report {
	var mu sync.Mutex
	hits := map[hitKey][]hitAt{}
	s := newScene(l)
	rep := &Report{Page: l.Name, From: from, To: to}
	rep.Blocks = l.Map(from, to, func(w int, r *layout.Result) {
		for i := range rules {
			for _, h := range rules[i].look(s, r) {
				mu.Lock()
				k := hitKey{i, h.el, h.other}
				hits[k] = append(hits[k], hitAt{w, h})
				mu.Unlock()
			}
		}
	})
	engine := l.Engine()
	for k, list := range hits {
		rep.Findings = append(rep.Findings, spans(l, engine, rules[k.rule], list)...)
	}
	rep.Findings = append(rep.Findings, Content(l, p, problems)...)
	order := map[diag.Severity]int{diag.Error: 0, diag.Warning: 1, diag.Note: 2}
	at := map[string]int{}
	for i, b := range l.Blocks {
		at[b.Name] = i + 1
	}
	sort.SliceStable(rep.Findings, func(i, j int) bool {
		a, b := rep.Findings[i], rep.Findings[j]
		switch {
		case order[a.Severity] != order[b.Severity]:
			return order[a.Severity] < order[b.Severity]
		case at[a.Block] != at[b.Block]:
			return at[a.Block] < at[b.Block]
		case a.Rule != b.Rule:
			return a.Rule < b.Rule
		case a.Part != b.Part:
			return a.Part < b.Part
		case a.Item != b.Item:
			return a.Item < b.Item
		case a.From != b.From:
			return a.From < b.From
		}
		return a.Text < b.Text
	})
	return rep
}

// spans turns the hits of one rule on one element into findings, one for each run of widths.
func spans(l *sweep.Laid, engine *layout.Engine, r rule, list []hitAt) []Finding {
	sort.Slice(list, func(i, j int) bool { return list[i].width < list[j].width })
	var out []Finding
	for start := 0; start < len(list); {
		end, worst := start, list[start].hit
		for end+1 < len(list) && list[end+1].width <= list[end].width+1 {
			end++
			if list[end].hit.amount > worst.amount {
				worst = list[end].hit
			}
		}
		block, part, item := place(l, worst.el)
		f := Finding{Rule: r.name, Severity: r.severity, Block: block, Part: part, Item: item, From: list[start].width, To: list[end].width}
		other := ""
		if worst.other != nil {
			other = nameOf(l, worst.other)
		}
		f.Text = r.say(nameOf(l, worst.el), other, worst)
		f.Cause = cause(l, engine.Layout(list[start].width), worst)
		if part != "" && r.cure != nil {
			f.Cure = r.cure(part, worst)
		}
		out = append(out, f)
		start = end + 1
	}
	return out
}

// place names the block and part that an element belongs to.
func place(l *sweep.Laid, e *css.Element) (block, part string, item int) {
	b := blockOf(l, e)
	if b == nil {
		return "", e.Path(), 0
	}
	part, item = partOf(e, b.Element)
	return b.Name, part, item
}

// blockOf gives the block that an element stands in, the outermost one listed first; nil when it stands in none.
func blockOf(l *sweep.Laid, e *css.Element) *sweep.Block {
	for _, b := range l.Blocks {
		if e == b.Element || inside(e, b.Element) {
			return b
		}
	}
	return nil
}

// partOf finds the nearest part around an element and counts it among those of its name; other pages name their elements by tag and class.
func partOf(e, block *css.Element) (string, int) {
	name, at := "", (*css.Element)(nil)
	for x := e; x != block && x != nil; x = x.Parent {
		if p := x.Attr(compose.MarkPart); p != "" {
			name, at = p, x
			break
		}
	}
	if at == nil {
		if e == block || block.Attr(compose.MarkBlock) != "" {
			return "", 0
		}
		return label(e), 0
	}
	n, total := 0, 0
	var count func(x *css.Element)
	count = func(x *css.Element) {
		if x.Attr(compose.MarkPart) == name {
			total++
			if x.Index <= at.Index {
				n = total
			}
		}
		for _, k := range x.Kids() {
			count(k)
		}
	}
	count(block)
	if total == 1 {
		n = 0
	}
	return name, n
}

func label(e *css.Element) string {
	if len(e.Classes) > 0 {
		return e.Tag + "." + e.Classes[0]
	}
	return e.Tag
}

// nameOf calls an element by its part, with the beginning of its text.
func nameOf(l *sweep.Laid, e *css.Element) string {
	_, part, item := place(l, e)
	if part == "" {
		part = label(e)
	}
	s := "the " + part
	if item > 0 {
		s = fmt.Sprintf("%s %d", s, item)
	}
	if t := []rune(words(e)); len(t) > 0 {
		if len(t) > 28 {
			t = append([]rune(strings.TrimSpace(string(t[:27]))), '…')
		}
		s += fmt.Sprintf(" (%s)", string(t))
	}
	return s
}

// phrases are the tags whose text belongs to the words around it.
var phrases = map[string]bool{"a": true, "abbr": true, "b": true, "bdi": true, "cite": true, "code": true, "em": true, "i": true, "kbd": true, "mark": true, "q": true, "s": true, "small": true, "span": true, "strong": true, "sub": true, "sup": true, "u": true, "wbr": true}

// words gives the text of an element; what stands in boxes of its own is set apart.
func words(e *css.Element) string {
	var b strings.Builder
	var walk func(e *css.Element)
	walk = func(e *css.Element) {
		for i := range e.Children {
			k := e.Children[i].Element
			if k == nil {
				b.WriteString(e.Children[i].Text)
				continue
			}
			if !phrases[k.Tag] {
				b.WriteByte(' ')
			}
			walk(k)
			if !phrases[k.Tag] {
				b.WriteByte(' ')
			}
		}
	}
	walk(e)
	return strings.Join(strings.Fields(b.String()), " ")
}

// cause finds the declaration to blame, by the property named, else by the usual suspects.
func cause(l *sweep.Laid, r *layout.Result, h hit) string {
	var style *css.Style
	for x := h.el; x != nil && style == nil; x = x.Parent {
		if p := r.Of(x); p != nil {
			style = p.Style
		}
	}
	if style == nil {
		return ""
	}
	for _, prop := range []string{h.cause, "text-wrap-mode", "width", "min-width", "height", "max-height", "overflow-x", "margin-top", "grid-template-columns", "flex-wrap", "font-size", "letter-spacing", "padding-left", "display"} {
		if prop == "" {
			continue
		}
		if pos, ok := l.Origin(style, prop); ok {
			return pos.String()
		}
	}
	return ""
}

func px(p layout.Px) string {
	v := p.Float()
	if v >= 10 || v == float64(int(v)) {
		return fmt.Sprintf("%.0f px", v)
	}
	return fmt.Sprintf("%.1f px", v)
}
