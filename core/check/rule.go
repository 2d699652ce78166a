package check

import (
	"slices"
	"strings"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/layout"
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
	Worst    int           `json:"worst,omitempty"` // the width at which it is worst, the first of those
	Text     string        `json:"text"`
	Cause    diag.Place    `json:"cause,omitzero"` // what is to blame
	Why      string        `json:"why,omitempty"`  // what makes the box that size or puts it there
	Cure     string        `json:"cure,omitempty"`
	Alike    int           `json:"alike,omitempty"` // siblings with the same finding and cause, told with this one
	// Cure is a command that was seen to remove it and to raise nothing
	Proved bool `json:"proved,omitempty"`

	Around    []string // parts that hold it, from the inside out
	OtherPart string   // that of a second element
	worst     hit
}

// Report is the outcome of a check.
type Report struct {
	Page     string `json:"page"`
	Language string `json:"language,omitempty"` // of a translation
	From     int    `json:"from"`
	To       int    `json:"to"`
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

// Narrow keeps what a report says of one block.
func (r *Report) Narrow(block string) {
	r.Findings = slices.DeleteFunc(r.Findings, func(f Finding) bool { return f.Block != block })
	r.Accepted = slices.DeleteFunc(r.Accepted, func(f Accepted) bool { return f.Block != block })
	r.Blocks = slices.DeleteFunc(r.Blocks, func(b sweep.Stacking) bool { return b.Name != block })
}

// hit is what a rule saw at one width.
type hit struct {
	el       *css.Element // whom it is about
	other    *css.Element // a second one, for overlaps
	behind   string       // the layer is a generated box: before or after
	amount   layout.Px    // how bad, in 1/64 px
	value    float64      // what was measured, in the unit of the rule
	second   float64      // another number for the words
	cause    string       // property to blame
	leftward bool         // it goes beyond the left side, not the right
	blamed   *css.Element // whose property it is, el when nil

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
	pass   pass                           // the sweep that it looks at
	settle func(s *Scene, list runs) runs // weighs the hits on one element at all widths, in their order
	grade  func(h hit) diag.Severity      // of the worst of them, where it is not always the same
	merge  bool                           // hits on one element are one finding, whatever the second one is
	whole  bool                           // it holds at no particular width
}

// Remedy is a change worth a try against a finding: CSS for a part. A rule lists the smallest first.
type Remedy struct {
	Where string // "" the part of the finding, "around" parts that hold it, "root" the block
	CSS   string // PROPERTY=VALUE, one or two of them
	Local bool   // only at the widths of the finding: elsewhere it would be seen
}

// pass is a sweep of its own, under other conditions.
type pass int

const (
	plainPass     pass = iota
	lowPass            // a screen 375 px high, at the widths of phones held sideways
	scrollbarPass      // a scrollbar takes 15 px
)

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

func (r *rule) told() Rule {
	return Rule{Name: r.name, Severity: r.severity, What: r.what, Looks: r.looks, Not: r.not, Remedies: r.remedies,
		Untried: r.untried, Distances: r.distances, OwnFirst: r.ownFirst}
}

// run is a row of widths at which a rule finds the same thing. A page of a thousand boxes may give a million hits;
// what is told of them is where they begin and end, and the worst.
type run struct {
	from, to int // CSS px
	worst    hit
	at       int // the width of the worst
}

// runs are the hits of one rule on one element.
type runs []run

// add takes in a hit at a width. Widths come in rows, of which some are seen at the same time.
func (rs *runs) add(width int, h hit) {
	list := *rs
	for i := len(list) - 1; i >= max(0, len(list)-16); i-- {
		r := &list[i]
		if r.to != width && r.to != width-1 {
			continue
		}
		r.to = width
		if h.amount > r.worst.amount {
			r.worst, r.at = h, width
		}
		return
	}
	*rs = append(list, run{width, width, h, width})
}

// joined gives the runs in the order of widths, as few as can be.
func (rs runs) joined() runs {
	slices.SortFunc(rs, func(a, b run) int { return a.from - b.from })
	var out runs
	for _, r := range rs {
		if len(out) == 0 || out[len(out)-1].to < r.from-1 {
			out = append(out, r)
			continue
		}
		last := &out[len(out)-1]
		last.to = max(last.to, r.to)
		if r.worst.amount > last.worst.amount {
			last.worst, last.at = r.worst, r.at
		}
	}
	return out
}

// Accepted is a finding that the site's file says is meant so.
type Accepted struct {
	Finding
	Because string `json:"because"`
}

type hitKey struct {
	rule      int
	el, other *css.Element
}

// boxes makes a look of a rule about single boxes. see gives what it measures and how far that is beyond the bound;
// nothing is wrong when that is 0 or less. cause is the property to blame.
func boxes(cause string, see func(s *Scene, r *layout.Result, p *layout.Fragment) (value,
	beyond float64)) func(*Scene, *layout.Result) []hit {
	return func(s *Scene, r *layout.Result) []hit {
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

// covers reports whether an address (page, page/block, block, with .part) holds a finding; none holds all.
func covers(at, page string, f Finding) bool {
	at, part, parted := strings.Cut(at, ".")
	if parted && part != f.Part {
		return false
	}
	p, block, both := strings.Cut(at, "/")
	switch {
	case at == "":
		return true
	case both:
		return p == page && block == f.Block
	}
	return at == f.Block || at == page
}
