// Package audit looks for what breaks: rules over every layout of a sweep, and rules over a page's content. A rule
// over layouts is one function in a file of its own, listed in rules; hits at neighbouring widths become one finding
// with the worst numbers.
package audit

import (
	"fmt"
	"slices"
	"sort"
	"sync"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/explain"
	"ziegel/core/layout"
	"ziegel/core/naming"
	"ziegel/core/site"
	"ziegel/core/sweep"
)

// Finding is something that the check reports.
type Finding struct {
	Rule     string        `json:"rule"`
	Severity diag.Severity `json:"severity"`
	Block    string        `json:"block,omitempty"`
	Part     string        `json:"part,omitempty"`
	Item     int           `json:"item,omitempty"`  // position of the part in the block, from 1
	Path     string        `json:"path,omitempty"`  // of the element, from body
	Where    string        `json:"where,omitempty"` // on a foreign page: what holds it, and the heading there
	From     int           `json:"from,omitempty"`  // widths in CSS px, both ends included
	To       int           `json:"to,omitempty"`
	Text     string        `json:"text"`
	Cause    string        `json:"cause,omitempty"` // file:line:column
	Why      string        `json:"why,omitempty"`   // what makes the box that size or puts it there
	Cure     string        `json:"cure,omitempty"`
	Alike    int           `json:"alike,omitempty"` // siblings with the same finding and cause, told with this one
	// Cure is a command that was seen to remove it and to raise nothing
	Proved bool `json:"proved,omitempty"`

	Around    []string // parts that hold it, from the inside out
	OtherPart string   // that of a second element
	worst     hit
	at        diag.Position
}

// Report is the outcome of a check.
type Report struct {
	Page string `json:"page"`
	From int    `json:"from"`
	To   int    `json:"to"`
	// before the end of the span: To is the last width that was reached
	Stopped  bool             `json:"stopped,omitempty"`
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
	behind string       // the layer is a generated box: before or after
	amount layout.Px    // how bad, in 1/64 px
	value  float64      // what was measured, in the unit of the rule
	second float64      // another number for the words
	cause  string       // property to blame
	blamed *css.Element // whose property it is, el when nil

	// of a text and its ground
	colors [2]css.Color
	size   float64 // CSS px
	bold   bool
	dark   bool
}

// rule looks at one layout. say and cure word the finding with the worst amount.
type rule struct {
	name     string
	severity diag.Severity
	what     string // it finds
	looks    string // what it looks at
	not      string // what it does not look at
	limit    bound  // that a site can set anew under tune
	axis     string // what the reason of a finding is about: width, height, x, or explain.Apart
	remedies []Remedy
	untried  string // why there are no remedies
	// distances are settings of a block that are tried before remedies: above, below.
	distances string
	ownFirst  bool // the page's own styles are taken back before others are tried: they are the likely slip
	look      func(s *Scene, r *layout.Result) []hit
	// instead of look: it needs only how the blocks stand under each other
	strips func(s *Scene, list []strip) []hit
	say    func(name, other string, worst hit) string
	cure   func(part string, h hit) string
	pass   pass                                 // the sweep that it looks at
	settle func(s *Scene, list []hitAt) []hitAt // weighs the hits on one element at all widths, in their order
	grade  func(h hit) diag.Severity            // of the worst of them, where it is not always the same
	merge  bool                                 // hits on one element are one finding, whatever the second one is
	whole  bool                                 // it holds at no particular width
}

// bound is the limit of a rule, with its unit.
type bound struct {
	value float64
	unit  string
}

// Remedy is a change worth a try against a finding: CSS for a part. A rule lists the smallest first.
type Remedy struct {
	Where string // "" the part of the finding, "around" parts that hold it, "root" the block
	CSS   string // PROPERTY=VALUE, one or two of them
	Local bool   // only at the widths of the finding: elsewhere it would be seen
}

// hits gives what a rule sees in one layout.
func (r *rule) hits(s *Scene, at *layout.Result) []hit {
	if r.strips != nil {
		return r.strips(s, s.strips(at))
	}
	return r.look(s, at)
}

// pass is a sweep of its own, under other conditions.
type pass int

const (
	plainPass     pass = iota
	lowPass            // a screen 375 px high, at the widths of phones held sideways
	scrollbarPass      // a scrollbar takes 15 px
)

var rules = []rule{overflowX, spill, clipped, hangsOut, overlapping, covered, onEdge, screenEdge,
	longLines, shortLines, brokenWord, smallText, headingLines, leadOverTitle, typeOrder,
	smallTarget, overlappingTargets, touchTargets, closeTargets,
	loneItem, screenOrder, pictureFirst, offLine, stickyCovers, navigationGone, barRows,
	spaceMissing, spaceDoubled, seam, offLanes, adrift, unevenGaps, skippedHeading,
	enlarged, distorted, cropped, heavy, lowContrast,
	hiddenContent, tightFit, smallRoom, heightCut, behindScrollbar}

// Rule is what the check looks for.
type Rule struct {
	Name     string        `json:"rule"`
	Severity diag.Severity `json:"severity"`
	What     string        `json:"finds"`
	Looks    string        `json:"looks-at"`
	Not      string        `json:"not-at,omitempty"` // what it does not look at

	Remedies  []Remedy `json:"-"`
	Untried   string   `json:"-"` // why there are none; "" for rules about content, which no style cures
	Distances string   `json:"-"` // settings of a block that are tried before: above, below
	OwnFirst  bool     `json:"-"` // the page's own styles are taken back first
}

// RuleNamed gives a rule by its name, one without remedies when there is none.
func RuleNamed(name string) Rule {
	if r := ruleNamed(name); r != nil {
		return r.told()
	}
	for _, r := range contentList {
		if r.Name == name {
			return r
		}
	}
	return Rule{}
}

// ruleNamed gives a rule over layouts, nil when there is none of the name.
func ruleNamed(name string) *rule {
	if i := slices.IndexFunc(rules, func(r rule) bool { return r.name == name }); i >= 0 {
		return &rules[i]
	}
	return nil
}

func (r *rule) told() Rule {
	return Rule{Name: r.name, Severity: r.severity, What: r.what, Looks: r.looks, Not: r.not, Remedies: r.remedies, Untried: r.untried, Distances: r.distances, OwnFirst: r.ownFirst}
}

// Rules lists all rules, those over every width first.
func Rules() []Rule {
	var out []Rule
	for _, r := range rules {
		out = append(out, r.told())
	}
	return append(out, contentList...)
}

type hitKey struct {
	rule      int
	el, other *css.Element
}

// keyOf tells which hits at neighbouring widths are one finding.
func keyOf(rule int, h hit) hitKey {
	if rules[rule].merge {
		return hitKey{rule, h.el, nil}
	}
	return hitKey{rule, h.el, h.other}
}

type hitAt struct {
	width int
	hit   hit
}

// Run sweeps a page over from..to, both included, and reports everything found. wants is the page's own file, nil for
// foreign pages.
func Run(l *sweep.Laid, p *site.Page, problems diag.Problems, from, to int) *Report {
	var mu sync.Mutex
	hits := map[hitKey][]hitAt{}
	s := NewScene(l)
	rep := &Report{Page: l.Name, From: from, To: to}
	heights := make([][]layout.Px, to-from+1)
	look := func(p pass) func(w int, r *layout.Result) {
		return func(w int, r *layout.Result) {
			for i := range rules {
				if rules[i].pass != p {
					continue
				}
				for _, h := range rules[i].hits(s, r) {
					mu.Lock()
					k := keyOf(i, h)
					hits[k] = append(hits[k], hitAt{w, h})
					mu.Unlock()
				}
			}
			if p == plainPass {
				heights[w-from] = s.heights(r)
			}
		}
	}
	rep.Blocks = l.Map(from, to, look(plainPass))
	for i, h := range heights {
		if h == nil {
			rep.To, rep.Stopped, heights = from+i-1, true, heights[:i]
			break
		}
	}
	s.sideways = map[int]bool{}
	for k, list := range hits {
		for _, h := range list {
			if rules[k.rule].name == overflowX.name {
				s.sideways[h.width] = true
			}
		}
	}
	if low, high := max(from, lowFrom), min(to, lowTo); low <= high && !rep.Stopped && s.mayBeCut() {
		for k := range hits {
			if rules[k.rule].name == clipped.name {
				s.clips[k.el.Index].Store(true)
			}
		}
		l.With(sweep.Screen{Height: lowScreen}).Each(low, high, look(lowPass))
	}
	if !rep.Stopped && usesViewWidth(l.Doc) {
		l.With(sweep.Screen{Scrollbar: 15}).Each(from, to, look(scrollbarPass))
	}
	if !rep.Stopped {
		rep.Findings = append(rep.Findings, opened(l, from, to)...)
	}
	engine := l.Engine()
	for k, list := range hits {
		rep.Findings = append(rep.Findings, spans(s, engine, rules[k.rule], list)...)
	}
	rep.Findings = append(rep.Findings, s.jumps(from, heights)...)
	rep.Findings = append(rep.Findings, s.missingLetters(engine.Layout(min(max(from, 1280), to)))...)
	rep.complete(l, p, problems, true)
	return rep
}

// complete adds what holds at no particular width, and puts all findings in order.
func (rep *Report) complete(l *sweep.Laid, p *site.Page, problems diag.Problems, states bool) {
	rep.Findings = append(rep.Findings, content(l, p, problems, states)...)
	if l.Page != nil {
		rep.weigh(l.Page.Tuned)
	}
	rep.sort(l)
	rep.Findings = alike(rep.Findings)
}

// sort puts findings in order: by severity, then block by block.
func (rep *Report) sort(l *sweep.Laid) {
	order := map[diag.Severity]int{diag.Error: 0, diag.Warning: 1, diag.Note: 2}
	at := map[string]int{}
	for i, b := range l.Every() {
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
		case a.Text != b.Text:
			return a.Text < b.Text
		}
		return a.Path < b.Path
	})
}

// alike joins the findings on siblings that have one cause: the same rule, part and declaration, at widths that meet.
func alike(list []Finding) []Finding {
	type key struct{ rule, severity, block, part, cause string }
	at := map[key][]int{} // into out
	var out []Finding
next:
	for _, f := range list {
		k := key{f.Rule, string(f.Severity), f.Block, f.Part, f.Cause}
		if f.Cause == "" || f.From == 0 || f.Part == "" {
			out = append(out, f)
			continue
		}
		for _, i := range at[k] {
			o := &out[i]
			if f.From > o.To+1 || o.From > f.To+1 || f.Path == o.Path {
				continue
			}
			if f.To-f.From > o.To-o.From { // the widest span speaks for all
				f.Alike, *o = o.Alike, f
			}
			o.From, o.To, o.Alike = min(o.From, f.From), max(o.To, f.To), o.Alike+1
			continue next
		}
		at[k] = append(at[k], len(out))
		out = append(out, f)
	}
	for i := range out {
		switch n := out[i].Alike; {
		case n == 1:
			out[i].Text += ", and one more like it"
		case n > 1:
			out[i].Text += fmt.Sprintf(", and %d more like it", n)
		}
	}
	return out
}

// at applies the rules that look at one width, warnings and errors only, without their causes.
func (s *Scene) At(r *layout.Result) []Finding {
	var out []Finding
	for i := range rules {
		rule := &rules[i]
		if rule.pass != plainPass || rule.settle != nil || rule.severity == diag.Note {
			continue
		}
		for _, h := range rule.hits(s, r) {
			block, part, item := naming.Place(s.l, h.el)
			other := ""
			if h.other != nil {
				other = naming.Of(s.l, h.other)
			}
			out = append(out, Finding{Rule: rule.name, Severity: rule.severity, Block: block, Part: part, Item: item, From: r.Width, To: r.Width, Text: rule.say(naming.Of(s.l, h.el), other, h)})
		}
	}
	return out
}

// spans turns the hits of one rule on one element into findings, one for each run of widths.
func spans(s *Scene, engine *layout.Engine, r rule, list []hitAt) []Finding {
	l := s.l
	slices.SortStableFunc(list, func(a, b hitAt) int { return a.width - b.width })
	if r.settle != nil {
		list = r.settle(s, list)
	}
	var out []Finding
	for start := 0; start < len(list); {
		end, worst := start, list[start].hit
		for end+1 < len(list) && list[end+1].width <= list[end].width+1 {
			end++
			if list[end].hit.amount > worst.amount {
				worst = list[end].hit
			}
		}
		block, part, item := naming.Place(l, worst.el)
		f := Finding{Rule: r.name, Severity: r.severity, Block: block, Part: part, Item: item, Path: worst.el.Path(), From: list[start].width, To: list[end].width}
		f.Around, f.worst, f.Where = naming.PartsAround(worst.el, part), worst, naming.Whereabouts(l, worst.el)
		other := ""
		if worst.other != nil {
			other = naming.Of(l, worst.other)
			if b, p, _ := naming.Place(l, worst.other); b == block {
				f.OtherPart = p
			}
		}
		name := naming.Of(l, worst.el)
		switch {
		case worst.behind != "" && r.merge:
			name = "the ::" + worst.behind + " of " + name
		case worst.behind != "":
			other = "the ::" + worst.behind + " of " + other
		}
		f.Text = r.say(name, other, worst)
		at := engine.Layout(list[start].width)
		f.Cause = cause(l, at, worst)
		f.Why = explain.Why(l, at, r.axis, worst.el, worst.other)
		if r.grade != nil {
			f.Severity = r.grade(worst)
		}
		if part != "" && r.cure != nil {
			f.Cure = r.cure(part, worst)
		}
		if l.Page != nil && r.name == lowContrastName { // the theme has colors for every ground
			f.Cure = part + `: {color: "{color.ink}"}`
		}
		out = append(out, f)
		start = end + 1
	}
	if r.whole && len(out) > 0 {
		out = out[:1]
		out[0].From, out[0].To = 0, 0
	}
	return out
}
