package check

import (
	"fmt"
	"slices"
	"strings"
	"unicode"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/layout"
	"ziegel/core/naming"
)

// Bounds of the rules that compare widths, or rooms with what is in them.
const (
	screenHeight = 900 // CSS px: a jump of more is told
	tightShare   = .02 // of a line
	mostLabel    = 20  // letters of a heading that is one label rather than a sentence
	tightLeast   = 40  // widths in a row: fewer come and go with any text
	lowScreen    = 375 // CSS px: a phone held sideways
	lowFrom      = 480 // widths that such phones have, CSS px
	lowTo        = 932
)

// OfWholePage reports a rule whose measures are those of a page as a whole: of some of its blocks alone it would say
// something else.
func OfWholePage(rule string) bool { return rule == "height-jump" }

// hiddenContent: text that is there at other widths has no box, and nothing says it instead.
var hiddenContent = rule{
	name: "content-hidden", severity: diag.Warning,
	what:  "a text is hidden at some widths and nothing takes its place",
	looks: "texts that show at some width and not at others",
	not:   "what shows at no width: it is meant for scripts or readers",
	remedies: []Remedy{
		{CSS: "display=revert-layer", Local: true},
		{CSS: "visibility=visible", Local: true},
		{CSS: "display=block", Local: true},
		{Where: "around", CSS: "display=revert-layer", Local: true},
		{Where: "around", CSS: "display=block", Local: true},
	},
	look: func(s *Scene, r *layout.Result) []hit {
		var out []hit
		for _, e := range s.l.Doc.Elements {
			if s.l.Doc.Body == nil || e.Index <= s.l.Doc.Body.Index { // the title of the page is not on it
				continue
			}
			if s.own[e.Index] == 0 || s.kind[e.Index] == plainKind && s.own[e.Index] < 3 {
				continue
			}
			p := r.Of(e)
			if p != nil && shown(p) && p.Right() > 0 && p.Bottom() > 0 {
				if !s.seen[e.Index].Load() {
					s.seen[e.Index].Store(true)
				}
				continue
			}
			outOfSight := p != nil && (p.Right() <= 0 || p.Bottom() <= 0 || p.Clipped) || s.replaced(r, e)
			if outOfSight {
				continue
			}
			out = append(out, hit{el: e, amount: 64, cause: "display"})
		}
		return out
	},
	settle: func(s *Scene, list runs) runs {
		if !s.seen[list[0].worst.el.Index].Load() {
			return nil // never shown: meant for scripts and screen readers
		}
		return list
	},
	say: func(name, _ string, _ hit) string {
		return name + " is hidden, and nothing takes its place"
	},
	cure: func(part string, _ hit) string { return part + ": {display: revert}" },
}

// replaced reports whether a button opens what holds a hidden text, or the same words are shown elsewhere.
func (s *Scene) replaced(r *layout.Result, e *css.Element) bool {
	for x := e; x != nil; x = x.Parent {
		_, pop := x.LookupAttr("popover")
		_, open := x.LookupAttr("open")
		_, hidden := x.LookupAttr("hidden")
		closed := pop || hidden || x.Tag == "dialog" || x.Tag == "details" && !open
		silent := closed || x.Foreign || x.Tag == "noscript" || x.Tag == "option" || x.Tag == "select"
		if silent {
			return true
		}
	}
	if opened := s.opens(e); opened != nil { // a button is of no use where what it opens is shown
		for i := opened.Index; i < s.end[opened.Index]; i++ {
			if s.own[i] > 0 && s.anyShown(r, s.twins[s.texts[i]]) {
				return true
			}
		}
	}
	return s.anyShown(r, s.twins[s.texts[e.Index]])
}

// anyShown reports whether one of the elements is shown, or a button that opens what it stands in.
func (s *Scene) anyShown(r *layout.Result, list []*css.Element) bool {
	for _, e := range list {
		if p := r.Of(e); p != nil && shown(p) {
			return true
		}
		for x := e; x != nil; x = x.Parent {
			for _, button := range s.openers[x.ID] {
				if p := r.Of(button); x.ID != "" && p != nil && !p.Empty() && p.Style.Visible {
					return true
				}
			}
		}
	}
	return false
}

// opens gives what the button around e opens, nil when e is in none.
func (s *Scene) opens(e *css.Element) *css.Element {
	for x := e; x != nil; x = x.Parent {
		for _, name := range openers {
			if id := x.Attr(name); id != "" {
				return s.ids[id]
			}
		}
	}
	return nil
}

// tightFit: a line that just fits. Another browser, or a font that has not loaded yet, may break it.
var tightFit = rule{
	name: "fit-tight", severity: diag.Note,
	what:  "a label or heading fits its line with under 2 % to spare, over many widths",
	looks: "labels and headings in one line over 40 widths or more",
	not:   "running text",
	remedies: []Remedy{
		{CSS: "letter-spacing=-0.01em", Local: true},
		{CSS: "letter-spacing=-0.02em", Local: true},
		{CSS: "padding-inline=0", Local: true},
	},
	look: boxes("width", func(s *Scene, r *layout.Result, p *layout.Fragment) (float64, float64) {
		k, letters := s.kind[p.Element.Index], s.own[p.Element.Index]
		label := k == targetKind || k == headingKind && letters <= mostLabel ||
			k != headingKind && s.price[p.Element.Index]
		line := p.Lines == 1 && across(p) && shown(p) && p.Style.Display != css.Inline && !p.Style.NoWrap
		if !label || !line || letters < 5 {
			return 0, 0
		}
		spare := (p.Content.W - p.Text.W).Float()
		if spare < .25 || p.Text.W < 640 { // less: the box takes its width from the text
			return 0, 0
		}
		share := spare / p.Text.W.Float()
		return spare, (tightShare - share) * 100
	}),
	settle: func(_ *Scene, list runs) runs {
		return slices.DeleteFunc(list, func(r run) bool { return r.to-r.from+1 < tightLeast })
	},
	say: func(name, _ string, worst hit) string {
		return fmt.Sprintf("%s fits its line with %.2g px to spare; another browser may break it", name, worst.value)
	},
	cure: func(part string, _ hit) string { return part + ": {letter-spacing: -0.01em}" },
}

// smallRoom: a box of a fixed height is full to its last line.
var smallRoom = rule{
	name: "room-small", severity: diag.Note, what: "a box of a fixed height has no room for another line of its text",
	looks: "boxes of a fixed height with text",
	not:   "boxes that scroll",
	axis:  "height",
	remedies: []Remedy{
		{CSS: "height=auto"},
		{Where: "around", CSS: "height=auto"},
	},
	look: boxes("height", func(s *Scene, r *layout.Result, p *layout.Fragment) (float64, float64) {
		noText := s.own[p.Element.Index] == 0 || p.Lines < 2 || !across(p) || !shown(p) ||
			s.kind[p.Element.Index] == targetKind
		if noText {
			return 0, 0
		}
		for x := p.Element; x != nil && x.Tag != "body"; x = x.Parent {
			b := r.Of(x)
			if b == nil || b.Style.Display == css.Inline {
				continue
			}
			if x != p.Element && len(x.Kids()) > 1 {
				return 0, 0
			}
			if b.Style.Height.IsLength() && !b.Style.Height.HasPercent() {
				spare := (b.Content.H - p.Text.H).Float()
				line := p.Text.H.Float() / float64(p.Lines)
				return spare, (line - spare) / line
			}
		}
		return 0, 0
	}),
	say: func(name, _ string, worst hit) string {
		return fmt.Sprintf("%s stands in a box of a fixed height with %.3g px to spare: another line does not fit",
			name, max(0, worst.value))
	},
	cure: func(part string, _ hit) string { return part + ": {height: auto}" },
}

// heightCut: on a phone held sideways, a bar takes the screen or a block hides what does not fit.
var heightCut = rule{
	name: "height-cut", severity: diag.Error, what: "a bar or a block is cut off on a screen 375 px high",
	looks: "bars and blocks on screens 375 px high, 480 to 932 px wide",
	not:   "other heights",
	axis:  "height",
	remedies: []Remedy{
		{CSS: "max-height=100dvh overflow-y=auto"},
		{CSS: "height=auto"},
		{Where: "around", CSS: "height=auto"},
		{CSS: "position=static", Local: true},
		{Where: "around", CSS: "max-height=none"},
	},
	pass: lowPass,
	look: func(s *Scene, r *layout.Result) []hit {
		var out []hit
		for i := range r.Boxes {
			p := &r.Boxes[i]
			stays := p.Style.Position == css.Fixed || p.Style.Position == css.Sticky &&
				!p.Style.Inset[css.Top].IsAuto()
			wall := stays && p.Style.Visible && p.H > lowScreen*64 && p.Style.OverflowY == "visible" &&
				s.hasText(p.Element)
			if wall {
				out = append(out, hit{el: p.Element, amount: p.H - lowScreen*64, value: p.H.Float(), cause: "height"})
			}
		}
		for _, h := range clipped.look(s, r) {
			if !s.clips[h.el.Index].Load() {
				h.cause = "height"
				h.value = 0
				out = append(out, h)
			}
		}
		return out
	},
	say: func(name, _ string, worst hit) string {
		if worst.value > 0 {
			return fmt.Sprintf("%s stays on the screen and is %.0f px high; a phone held sideways shows %d px", name,
				worst.value, lowScreen)
		}
		return fmt.Sprintf("%s is cut off by %s on a screen %d px high", name, naming.Px(worst.amount), lowScreen)
	},
	cure: func(part string, h hit) string {
		if h.value > 0 {
			return part + ": {max-height: 100dvh, overflow-y: auto}"
		}
		return part + ": {height: auto}"
	},
}

// behindScrollbar: the page scrolls sideways as soon as a scrollbar takes its 15 px.
var behindScrollbar = rule{
	name: "overflow-scrollbar", severity: diag.Warning,
	what:  "the page scrolls sideways where a scrollbar takes 15 px",
	looks: "sizes in vw where a scrollbar takes 15 px",
	not:   "scrollbars of boxes inside the page",
	axis:  "width",
	remedies: []Remedy{
		{CSS: "max-width=100%"},
		{CSS: "width=100%"},
		{Where: "around", CSS: "max-width=100%"},
	},
	pass: scrollbarPass,
	look: func(s *Scene, r *layout.Result) []hit {
		if r.Overflow < 64 || r.Widest == nil || s.sideways[r.Width] {
			return nil
		}
		return []hit{{el: r.Widest, amount: r.Overflow, cause: suspect(r, r.Widest)}}
	},
	say: func(name, _ string, worst hit) string {
		return fmt.Sprintf("where a scrollbar takes 15 px, %s reaches %s past the edge: vw counts the bar as well",
			name, naming.Px(worst.amount))
	},
	cure: func(part string, _ hit) string { return part + ": {max-width: 100%}" },
}

// usesViewWidth reports whether the width, a margin or a place of some element is given in units of the viewport.
func usesViewWidth(d *css.Document) bool {
	return d.DeclaresIn("vw", 40, "width", "min-width", "inline-size", "min-inline-size", "margin-left",
		"margin-right", "margin-inline-start", "margin-inline-end", "left", "right", "flex-basis",
		"grid-template-columns", "margin", "margin-inline", "inset", "padding", "padding-inline", "padding-left",
		"padding-right", "gap", "column-gap")
}

// missingLetters tells which letters a family that the page brings does not have.
func (s *Scene) missingLetters(r *layout.Result) []Finding {
	type lack struct {
		el      *css.Element
		letters []rune
	}
	by := map[string]*lack{}
	var order []string
	for i := range r.Boxes {
		p := &r.Boxes[i]
		if s.own[p.Element.Index] == 0 || len(p.Style.FontFamily) == 0 {
			continue
		}
		family := p.Style.FontFamily[0]
		faces := s.l.Faces(p.Style)
		// a word of another language has its letters
		if lang := p.Element.Attr("lang"); lang != "" && p.Element.Tag != "html" {
			continue
		}
		if len(faces) == 0 || !strings.EqualFold(faces[0].Family, family) {
			continue
		}
		for _, c := range naming.OwnText(p.Element) {
			if unicode.IsSpace(c) || unicode.Is(unicode.Cf, c) || unicode.IsControl(c) ||
				unicode.Is(unicode.Variation_Selector, c) {
				continue
			}
			has := false
			for _, f := range faces {
				has = has || strings.EqualFold(f.Family, family) && f.Has(c)
			}
			if has {
				continue
			}
			if by[family] == nil {
				by[family] = &lack{el: p.Element}
				order = append(order, family)
			}
			if l := by[family]; !strings.ContainsRune(string(l.letters), c) && len(l.letters) < 12 {
				l.letters = append(l.letters, c)
			}
		}
	}
	var out []Finding
	for _, family := range order {
		l := by[family]
		block, part, item := naming.Place(s.l, l.el)
		out = append(out, Finding{Rule: "letters-missing", Severity: diag.Warning, Block: block, Part: part,
			Item: item, Path: l.el.Path(), Where: naming.Whereabouts(s.l, l.el),
			Text: fmt.Sprintf("%s has no %s: these letters are shown in another font", family,
				strings.Join(strings.Split(string(l.letters), ""), " ")),
			Cure: "other letters, or a font that has them"})
	}
	return out
}

// jumps tells where the page becomes more than a screen higher or lower from one width to the next, and which block
// does it.
func (s *Scene) jumps(from int, heights [][]layout.Px) []Finding {
	var out []Finding
	for i := 1; i < len(heights); i++ {
		a, b := heights[i-1], heights[i]
		if len(a) == 0 || len(b) == 0 {
			continue
		}
		by := (b[0] - a[0]).Float()
		if max(by, -by) <= screenHeight {
			continue
		}
		worst := 1
		for k := 1; k < len(b); k++ {
			if naming.Abs(b[k]-a[k]) > naming.Abs(b[worst]-a[worst]) {
				worst = k
			}
		}
		f := Finding{Rule: "height-jump", Severity: diag.Note, From: from + i - 1, To: from + i,
			Text: fmt.Sprintf("the page is %.0f px high at %d and %.0f px at %d", a[0].Float(), from+i-1,
				b[0].Float(), from+i)}
		if len(b) > 1 {
			f.Block = s.l.Blocks[worst-1].Name
		}
		out = append(out, f)
	}
	return out
}
