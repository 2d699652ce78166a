package check

import (
	"fmt"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/layout"
	"ziegel/core/naming"
)

// overflowX: the page scrolls sideways. The box that reaches furthest is to blame, or the deepest one inside that
// does as much.
var overflowX = rule{
	name: "overflow-x", severity: diag.Error, what: "the page scrolls sideways, and which box makes it",
	looks: "every box at every width, by the width of the page as a browser scrolls it",
	not:   "what a script widens; frames inside the page",
	axis:  "width",
	remedies: []Remedy{
		{CSS: "max-width=100%"},
		{CSS: "min-width=0"},
		{CSS: "overflow-wrap=anywhere"},
		{CSS: "white-space=normal", Local: true},
		{CSS: "flex-wrap=wrap"},
		{Where: "around", CSS: "flex-wrap=wrap"},
		{Where: "around", CSS: "min-width=0"},
		{Where: "around", CSS: "max-width=100%"},
		{CSS: "width=auto", Local: true},
		{CSS: "font-size=clamp(1rem, 6vw, 2rem)", Local: true},
		{CSS: "min-width=0 overflow-wrap=anywhere"},
	},
	look: func(_ *Scene, r *layout.Result) []hit {
		if r.Overflow < 64 || r.Widest == nil {
			return nil
		}
		return []hit{{el: r.Widest, amount: r.Overflow, leftward: r.Leftward, cause: suspect(r, r.Widest)}}
	},
	say: func(name, _ string, worst hit) string {
		side := "right"
		if worst.leftward {
			side = "left"
		}
		return fmt.Sprintf("%s reaches %s past the %s edge of the screen", name, naming.Px(worst.amount), side)
	},
	cure: widen,
}

// widen proposes what lets a part become narrower, after what keeps it wide.
func widen(part string, h hit) string {
	switch h.cause {
	case "text-wrap-mode":
		return part + ": {white-space: normal, overflow-wrap: anywhere}"
	case "width":
		return part + ": {max-width: 100%}"
	}
	return part + ": {min-width: 0, overflow-wrap: anywhere}"
}

// suspect names the property that most likely keeps an element wide.
func suspect(r *layout.Result, e *css.Element) string {
	p := r.Of(e)
	if p == nil {
		return ""
	}
	switch {
	case p.Style.NoWrap:
		return "text-wrap-mode"
	case p.Style.Width.IsLength():
		return "width"
	case p.Style.MinW.IsLength():
		return "min-width"
	}
	return ""
}

// spill: text sticks out of its own box, without the page scrolling for it.
var spill = rule{
	name: "text-spills", severity: diag.Warning, what: "a text is wider than its own box",
	looks: "texts in boxes of their own, to the right",
	not:   "text in boxes that scroll or clip (text-clipped has those), upwards and downwards (content-hangs-out)",
	axis:  "width",
	remedies: []Remedy{
		{CSS: "white-space=normal", Local: true},
		{CSS: "overflow-wrap=anywhere"},
		{CSS: "max-width=none"},
		{CSS: "width=auto", Local: true},
		{Where: "around", CSS: "flex-wrap=wrap"},
		{CSS: "min-width=max-content"},
	},
	look: func(_ *Scene, r *layout.Result) []hit {
		var out []hit
		for i := range r.Boxes {
			p := &r.Boxes[i]
			noLines := p.Lines == 0 || p.Style.Display == css.Inline || p.Clipped || p.Above || p.Content.W <= 0
			if noLines {
				continue
			}
			right := p.Right()
			if over := p.Text.Right() - right; over > 64 && p.Text.Right() <= layout.Px(r.Width)*64+64 {
				out = append(out, hit{el: p.Element, amount: over, cause: suspect(r, p.Element)})
			}
		}
		return out
	},
	say: func(name, _ string, worst hit) string {
		return fmt.Sprintf("the text of %s is %s wider than its box", name, naming.Px(worst.amount))
	},
	cure: widen,
}

// clipped: text is cut off by a box that hides what does not fit.
var clipped = rule{
	name: "text-clipped", severity: diag.Error, what: "a text is cut off by a box that hides what does not fit",
	looks: "texts that a box with overflow hidden or clip cuts by over 1 px",
	not:   "line clamps, ellipses and boxes that scroll: those are meant so; shapes of clip-path",
	axis:  "height",
	remedies: []Remedy{
		{CSS: "height=auto"},
		{CSS: "max-height=none"},
		{CSS: "white-space=normal", Local: true},
		{Where: "around", CSS: "height=auto"},
		{Where: "around", CSS: "max-height=none"},
		{CSS: "overflow=visible", Local: true},
		{Where: "around", CSS: "overflow=visible", Local: true},
		{CSS: "height=auto overflow=visible", Local: true},
	},
	look: func(_ *Scene, r *layout.Result) []hit {
		var out []hit
		for i := range r.Boxes {
			p := &r.Boxes[i]
			cut := p.Lines > 0 && p.Cropped && !p.Scrolls && p.Style.Visible
			spared := !cut || p.Window.W <= 128 || p.Window.H <= 128 || p.Style.LineClamp > 0 ||
				css.Text(p.Style.Look().Value("text-overflow")) == "ellipsis"
			if spared {
				continue
			}
			lost := max(p.Text.Right()-p.Window.Right(), p.Window.X-p.Text.X, trimmed(p)-p.Window.Bottom())
			seen := p.Text.Intersect(p.Window)
			if lost > 64 && !seen.Empty() {
				out = append(out, hit{el: p.Element, amount: lost, cause: "overflow-x"})
			}
		}
		return out
	},
	say: func(name, _ string, worst hit) string {
		return fmt.Sprintf("%s of the text of %s are cut off", naming.Px(worst.amount), name)
	},
	cure: func(part string, _ hit) string { return part + ": {height: auto, overflow: visible}" },
}

// trimmed gives the lower end of the letters of an element's text, without the room under them that fonts keep.
func trimmed(p *layout.Fragment) layout.Px {
	if len(p.Runs) == 0 {
		return p.Text.Bottom()
	}
	return p.Text.Bottom() - p.Runs[len(p.Runs)-1].H/5
}
