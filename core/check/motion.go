package check

import (
	"fmt"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/layout"
	"ziegel/core/naming"
	"ziegel/core/sweep"
)

// motionWidths are the screen widths at which states are looked at, CSS px: a phone, a tablet and a desktop.
var motionWidths = []int{390, 820, 1280}

// moving reports states and animations that move boxes: what changes under the pointer or by itself must leave the
// layout alone.
func moving(l *sweep.Prepared) []Finding {
	var out []Finding
	for _, a := range l.Doc.Animated() {
		out = append(out, Finding{Rule: "moves-layout", Severity: diag.Warning,
			Text: fmt.Sprintf("the animation %s changes %s, so everything around it moves; translate, scale and opacity do not", a.Selector, a.Name), Cause: diag.Place{Position: diag.At(a.Sheet.File, a.Sheet.Source, a.Pos)}})
	}
	states := l.Doc.Moving()
	if len(states) == 0 {
		return out
	}
	rest, err := l.Still()
	if err != nil {
		return out
	}
	still := rest.Engine()
	for _, s := range states {
		with, err := l.Still(s)
		if err != nil {
			return out
		}
		engine := with.Engine()
		for _, w := range motionWidths {
			a, b := still.Layout(w), engine.Layout(w)
			el, by, others := moved(a, b, rest.Doc, with.Doc)
			if el == nil {
				continue
			}
			own := l.Doc.Elements[el.Index]
			block, part, item := naming.Place(l, own)
			f := Finding{Rule: "moves-layout", Severity: diag.Warning, Block: block, Part: part, Item: item,
				Path: own.Path(), Where: naming.Whereabouts(l, own),
				Text: fmt.Sprintf("%s changes its %s by %.3g px in the state %s at %d px%s", naming.Of(l, own),
					by.what, by.amount, s, w, others)}
			if at, ok := l.Origin(el, b.Of(el).Style, by.cause); ok {
				f.Cause = diag.Place{Position: at}
			}
			out = append(out, f)
			break
		}
	}
	return out
}

type change struct {
	what, cause string
	amount      float64
}

// moved finds the innermost element whose size a state changes, and counts the boxes that move with it.
func moved(rest, state *layout.Result, a, b *css.Document) (*css.Element, change, string) {
	var first *css.Element
	var by change
	n := 0
	for i := range a.Elements {
		p, q := rest.Of(a.Elements[i]), state.Of(b.Elements[i])
		if p == nil || q == nil || p.Above || p.Rect == q.Rect {
			continue
		}
		n++
		dw, dh := (q.W - p.W).Float(), (q.H - p.H).Float()
		switch {
		case dh != 0:
			first, by = b.Elements[i], change{"height", heightCause(q), dh}
		case dw != 0:
			first, by = b.Elements[i], change{"width", "padding-left", dw}
		case first == nil:
			first, by = b.Elements[i], change{"place", "margin-top",
				max((q.Y - p.Y).Float(), (q.X - p.X).Float(), (p.Y - q.Y).Float(), (p.X - q.X).Float())}
		}
	}
	if n > 1 {
		return first, by, fmt.Sprintf("; %d boxes move", n)
	}
	return first, by, ""
}

// heightCause guesses which property made a box higher: the first of those that often do and that something declares.
func heightCause(p *layout.Fragment) string {
	for _, name := range []string{"padding-top", "border-top-width", "height", "min-height", "line-height",
		"font-size"} {
		if _, _, ok := p.Style.Declared(name); ok {
			return name
		}
	}
	return "height"
}
