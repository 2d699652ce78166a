package check

import (
	"fmt"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/layout"
	"ziegel/core/naming"
	"ziegel/core/sweep"
)

// Bounds of the rules over text. Lines of running text are counted in letters of that text's own average width.
const (
	longestLine   = 90 // letters
	shortestLine  = 15
	shortFrom     = 6  // lines: fewer are a label or a caption
	smallestText  = 12 // CSS px
	mostTitleRows = 4  // lines of a heading
)

// letters gives how many letters the longest line of a text holds, 0 when it cannot be told.
func (s *Scene) letters(p *layout.Fragment) float64 {
	var widest, sum layout.Px
	for _, r := range p.Runs {
		widest, sum = max(widest, r.W), sum+r.W
	}
	if n := s.own[p.Element.Index]; n > 0 && sum > 0 {
		return widest.Float() * float64(n) / sum.Float()
	}
	return 0
}

// longLines: the eye loses its way back to the next line.
var longLines = rule{
	name: "line-too-long", severity: diag.Warning, what: "lines of running text hold more than 90 letters",
	looks: "lines of p, li, dd, blockquote and the like, in letters of that very text",
	not:   "labels, headings, tables",
	limit: bound{longestLine, "letters"},
	remedies: []Remedy{
		{CSS: "max-width=65ch"},
		{CSS: "max-width=34rem"},
		{Where: "around", CSS: "max-width=38rem"},
		{CSS: "font-size={type.body}", Local: true},
	},
	look: boxes("max-width", func(s *Scene, _ *layout.Result, p *layout.Fragment) (float64, float64) {
		if s.kind[p.Element.Index] != runningKind || p.Lines < 2 || !across(p) || !shown(p) {
			return 0, 0
		}
		n := s.letters(p)
		return n, n - s.limit("line-too-long", p.Element)
	}),
	say: func(name, _ string, worst hit) string {
		return fmt.Sprintf("a line of %s holds %.0f letters; up to %d are easy to read", name,
			worst.value, longestLine)
	},
	cure: func(part string, _ hit) string { return part + ": {max-width: 65ch}" },
}

// shortLines: many lines of a word or two.
var shortLines = rule{
	name: "line-too-short", severity: diag.Warning,
	what:  "six lines or more of running text, none longer than 15 letters",
	looks: "the same texts from six lines on",
	not:   "fewer lines",
	limit: bound{shortestLine, "letters"},
	axis:  "width",
	remedies: []Remedy{
		{CSS: "max-width=none", Local: true},
		{CSS: "width=auto", Local: true},
		{CSS: "min-width=16ch", Local: true},
		{Where: "around", CSS: "max-width=none", Local: true},
		{Where: "around", CSS: "width=auto", Local: true},
		{Where: "around", CSS: "grid-template-columns=minmax(0, 1fr)", Local: true},
	},
	look: boxes("width", func(s *Scene, _ *layout.Result, p *layout.Fragment) (float64, float64) {
		if s.kind[p.Element.Index] != runningKind || p.Lines < shortFrom || !across(p) || !shown(p) {
			return 0, 0
		}
		n := s.letters(p)
		if n == 0 {
			return 0, 0
		}
		return n, s.limit("line-too-short", p.Element) - n
	}),
	say: func(name, _ string, worst hit) string {
		return fmt.Sprintf("no line of %s holds more than %.0f letters", name, worst.value)
	},
}

// brokenWord: a line ends inside a word, because nothing else fits.
var brokenWord = rule{
	name: "word-broken", severity: diag.Warning, what: "a line ends inside a word because nothing else fits",
	looks: "lines that end inside a word without a hyphen, in texts, list items and cells",
	not:   "words that a soft hyphen divides",
	axis:  "width",
	remedies: []Remedy{
		{CSS: "font-size={type.title}", Local: true},
		{CSS: "font-size={type.heading}", Local: true},
		{CSS: "font-size=clamp(1.25rem, 7vw, 3rem)", Local: true},
		{CSS: "hyphens=auto"},
		{CSS: "letter-spacing=0", Local: true},
		{CSS: "font-size={type.body}", Local: true},
		{CSS: "width=auto", Local: true},
	},
	look: boxes("font-size", func(s *Scene, _ *layout.Result, p *layout.Fragment) (float64, float64) {
		if p.Cut == 0 || !shown(p) {
			return 0, 0
		}
		return float64(p.Cut), float64(p.Cut)
	}),
	say: func(name, _ string, worst hit) string {
		if worst.value > 1 {
			return fmt.Sprintf("%.0f lines of %s end inside a word", worst.value, name)
		}
		return "a line of " + name + " ends inside a word"
	},
	cure: func(part string, _ hit) string {
		return part + ": {hyphens: manual}, with soft hyphens (&shy;) in the long words"
	},
}

// smallText: too small to read.
var smallText = rule{
	name: "text-small", severity: diag.Warning, what: "text under 12 px",
	looks: "texts that show, by their size in CSS px",
	not:   "letters inside pictures",
	limit: bound{smallestText, "px"},
	remedies: []Remedy{
		{CSS: "font-size={type.small}", Local: true},
		{CSS: "font-size=0.875rem", Local: true},
		{CSS: "font-size={type.body}", Local: true},
	},
	look: boxes("font-size", func(s *Scene, _ *layout.Result, p *layout.Fragment) (float64, float64) {
		if s.own[p.Element.Index] == 0 || !shown(p) {
			return 0, 0
		}
		return p.Style.FontSize, s.limit("text-small", p.Element) - p.Style.FontSize
	}),
	say: func(name, _ string, worst hit) string {
		return fmt.Sprintf("%s is set at %.3g px; %d px is the least that is easy to read", name,
			worst.value, smallestText)
	},
	cure: func(part string, _ hit) string { return part + ": {font-size: 0.875rem}" },
}

// headingLines: a heading that is a paragraph.
var headingLines = rule{
	name: "heading-long", severity: diag.Warning, what: "a heading takes more than four lines",
	looks: "headings and the lines of their own words",
	not:   "words in elements of their own inside a heading",
	limit: bound{mostTitleRows, "lines"},
	axis:  "width",
	remedies: []Remedy{
		{CSS: "max-width=none", Local: true},
		{CSS: "width=auto", Local: true},
		{Where: "around", CSS: "max-width=none", Local: true},
		{CSS: "font-size={type.title}", Local: true},
		{CSS: "font-size={type.heading}", Local: true},
		{CSS: "font-size={type.lead}", Local: true},
	},
	look: boxes("font-size", func(s *Scene, _ *layout.Result, p *layout.Fragment) (float64, float64) {
		if s.kind[p.Element.Index] != headingKind || !shown(p) {
			return 0, 0
		}
		return float64(p.Lines), float64(p.Lines) - s.limit("heading-long", p.Element)
	}),
	say: func(name, _ string, worst hit) string {
		return fmt.Sprintf("%s takes %.0f lines", name, worst.value)
	},
	cure: func(part string, _ hit) string {
		return "fewer words, or more room for " + part
	},
}

// skippedHeading: a heading level is left out, because one is hidden at some widths. What the markup leaves out is
// told at no width.
var skippedHeading = rule{
	name: "heading-skipped", severity: diag.Note,
	what:    "a heading level is left out, at all widths or where a heading is hidden",
	looks:   "headings in the markup, and those that show at each width",
	not:     "roles and levels given by aria",
	untried: "levels stand in the markup",
	look: func(s *Scene, r *layout.Result) []hit {
		var out []hit
		var before *css.Element // the last heading that shows
		level := 0              // of the last one in the markup
		for _, e := range s.l.Doc.Elements {
			n := naming.Headings[e.Tag]
			if n == 0 {
				continue
			}
			p := r.Of(e)
			shows := p != nil && !p.Empty() && p.Style.Visible
			if shows && before != nil && n > naming.Headings[before.Tag]+1 && n <= level+1 {
				out = append(out, hit{el: e, other: before, amount: 64, cause: "display"})
			}
			level = n
			if shows {
				before = e
			}
		}
		return out
	},
	say: func(name, other string, _ hit) string {
		return fmt.Sprintf("%s follows %s here, where the heading between them is hidden: readers who jump from heading to heading miss a level", name, other)
	},
}

// typeOrder: a heading is set smaller than one a level below it, in the same block.
var typeOrder = rule{
	name: "type-order", severity: diag.Warning,
	what:    "a heading is set smaller than one of a lower level that follows it in its block",
	looks:   "headings of one block, by level",
	not:     "sizes across blocks; headings that are styled texts",
	untried: "the sizes of a theme are one scale",
	look: func(s *Scene, r *layout.Result) []hit {
		var out []hit
		var open []*layout.Fragment // headings above the one at work, outermost first
		var block *sweep.Block
		for i := range r.Boxes {
			p := &r.Boxes[i]
			if s.kind[p.Element.Index] != headingKind || p.Style.Opacity == 0 || !p.Style.Visible || p.Empty() {
				continue
			}
			if b := naming.BlockOf(s.l, p.Element); b != block {
				block, open = b, open[:0]
			}
			for len(open) > 0 && naming.Headings[open[len(open)-1].Element.Tag] >= naming.Headings[p.Element.Tag] {
				open = open[:len(open)-1]
			}
			for _, o := range open {
				if over := p.Style.FontSize - o.Style.FontSize; over > .5 {
					out = append(out, hit{el: o.Element, other: p.Element, amount: css.FromFloat(over),
						value: o.Style.FontSize, second: p.Style.FontSize, cause: "font-size"})
				}
			}
			open = append(open, p)
		}
		return out
	},
	say: func(name, other string, worst hit) string {
		return fmt.Sprintf("%s (%.3g px) is set smaller than %s below it (%.3g px)", name, worst.value,
			other, worst.second)
	},
	merge: true,
}

// leadOverTitle: the text under a heading is larger than the heading.
var leadOverTitle = rule{
	name: "lead-over-title", severity: diag.Warning, what: "the text under a heading is set larger than the heading",
	looks: "paragraphs after a heading in the same box",
	not:   "texts elsewhere that are larger, such as quotes and figures",
	remedies: []Remedy{
		{CSS: "font-size={type.lead}", Local: true},
		{CSS: "font-size={type.body}", Local: true},
		{CSS: "font-size=1rem", Local: true},
	},
	look: func(s *Scene, r *layout.Result) []hit {
		var out []hit
		for i := range r.Boxes {
			title := &r.Boxes[i]
			if s.kind[title.Element.Index] != headingKind || !shown(title) || title.Element.Parent == nil {
				continue
			}
			below := false
			for _, k := range title.Element.Parent.Kids() {
				if below && naming.Headings[k.Tag] > 0 {
					break
				}
				p := r.Of(k)
				outranks := below && k.Tag == "p" && p != nil && shown(p) &&
					p.Style.FontSize > title.Style.FontSize+.01
				if outranks {
					out = append(out, hit{el: k, other: title.Element,
						amount: layout.Px((p.Style.FontSize - title.Style.FontSize) * 64), value: p.Style.FontSize,
						cause: "font-size"})
				}
				below = below || k == title.Element
			}
		}
		return out
	},
	say: func(name, other string, worst hit) string {
		return fmt.Sprintf("%s (%.3g px) is set larger than %s (%.3g px)", name, worst.value, other,
			worst.value-worst.amount.Float())
	},
	cure: func(part string, _ hit) string { return part + ": {font-size: 1.125rem}" },
}
