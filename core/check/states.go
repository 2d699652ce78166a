package check

import (
	"fmt"
	"slices"
	"strings"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/layout"
	"ziegel/core/naming"
	"ziegel/core/sweep"
)

// stateWidths are the screen widths at which the looks of states are compared, CSS px: what a pointer does on a
// desktop, what the keyboard does on a phone as well.
var (
	stateWidths = []int{390, 1280}
	stateWidth  = 1280
)

// inStates reports what is wrong only while something is hovered, focused or pressed: texts that can no longer be
// read or that something comes to lie over, and a focus that does not show.
func inStates(l *sweep.Prepared) []Finding { return lookInStates(l, nil) }

// lookInStates does so, and shows every state that is laid out.
func lookInStates(l *sweep.Prepared, see func(s *Scene, r *layout.Result)) []Finding {
	rest := NewScene(l)
	engine := l.Engine()
	states, first := map[seenKey][]string{}, map[seenKey]stateHit{}
	var order []seenKey
	at := map[int]*layout.Result{}
	for _, w := range stateWidths {
		r := engine.Layout(w)
		at[w] = r
	}
	for _, state := range l.Doc.Painting() {
		with, err := l.In(state)
		if err != nil {
			return nil
		}
		s := NewScene(with)
		r := with.Engine().Layout(stateWidth)
		if see != nil {
			see(s, r)
		}
		for _, rule := range []*rule{&lowContrast, &covered} {
			told := map[int]bool{}
			for _, h := range rule.look(rest, at[stateWidth]) { // so it is at rest
				told[h.el.Index] = true
			}
			for _, h := range rule.look(s, r) {
				// such as a link past the menu: it shows only then
				lifted := rule == &covered && strings.HasPrefix(state, "focus") && s.kind[h.el.Index] == targetKind
				if told[h.el.Index] || lifted {
					continue
				}
				told[h.el.Index] = true
				k := seenKey{rule, h.el.Index}
				if states[k] == nil {
					order, first[k] = append(order, k), stateHit{with, r, h}
				}
				states[k] = append(states[k], state)
			}
		}
	}
	var out []Finding
	for _, k := range order {
		x := first[k]
		out = append(out, inState(l, x, k.rule, states[k]))
	}
	return append(out, hiddenFocus(l, at)...)
}

// seenKey is what a rule saw on one element in some states; stateHit is how it saw it first.
type (
	seenKey struct {
		rule *rule
		el   int
	}
	stateHit struct {
		with *sweep.Prepared
		r    *layout.Result
		h    hit
	}
)

// inState words what a rule saw in some states.
func inState(l *sweep.Prepared, first stateHit, rule *rule, states []string) Finding {
	h, width := first.h, first.r.Width
	own := l.Doc.Elements[h.el.Index]
	block, part, item := naming.Place(l, own)
	other := ""
	if h.other != nil {
		other = naming.Of(l, l.Doc.Elements[h.other.Index])
	}
	in := "in the state " + states[0]
	if len(states) > 1 {
		in = "in the states " + strings.Join(states[:len(states)-1], ", ") + " and " + states[len(states)-1]
	}
	f := Finding{Rule: rule.name, Severity: rule.severity, Block: block, Part: part, Item: item, Path: own.Path(),
		Where: naming.Whereabouts(l, own), From: width, To: width,
		Text: in + " " + rule.say(naming.Of(l, own), other, h), Cause: cause(first.with, first.r, h)}
	switch {
	case part == "" || rule.cure == nil:
	case l.Page != nil:
		f.Cure = part + ":" + states[len(states)-1] + `: {color: "{color.ink}"}`
	default:
		f.Cure = rule.cure(part+":"+states[len(states)-1], h)
	}
	return f
}

// focusLooks are the properties by which a focus can show beside the outline.
var focusLooks = strings.Fields(`background-color background-image box-shadow border-top-color border-right-color border-bottom-color border-left-color border-top-width border-bottom-width
	border-top-style border-bottom-style color text-decoration-line filter opacity transform text-underline-offset text-decoration-thickness`)

// hiddenFocus reports targets that look the same with the keyboard's focus as without it (WCAG 2.2, 2.4.7).
func hiddenFocus(l *sweep.Prepared, at map[int]*layout.Result) []Finding {
	if !l.Doc.DeclaresEver("outline", "outline-style", "outline-width", "outline-color", "all") {
		return nil
	}
	with, err := l.In("focus", "focus-visible", "focus-within")
	if err != nil {
		return nil
	}
	s := NewScene(l)
	engine := with.Engine()
	var out []Finding
	told := map[int]bool{}
	for _, w := range stateWidths {
		r := engine.Layout(w)
		for i := range at[w].Boxes {
			p := &at[w].Boxes[i]
			if !s.target(p) || told[p.Element.Index] || p.Element.Index >= len(with.Doc.Elements) {
				continue
			}
			focused := r.Of(with.Doc.Elements[p.Element.Index])
			if focused == nil || ringed(focused.Style.Look()) || s.changes(at[w], r, p.Element) {
				continue
			}
			told[p.Element.Index] = true
			block, part, item := naming.Place(l, p.Element)
			f := Finding{Rule: "focus-hidden", Severity: diag.Error, Block: block, Part: part, Item: item,
				Path: p.Element.Path(), Where: naming.Whereabouts(l, p.Element), From: w, To: w,
				Text: fmt.Sprintf("%s looks the same with the keyboard's focus as without it",
					naming.Of(l, p.Element)), Cure: "outline: 2px solid, or another look in the state focus-visible"}
			if pos, ok := with.Origin(with.Doc.Elements[p.Element.Index], focused.Style, "outline-style"); ok {
				f.Cause = diag.Place{Position: pos}
			}
			out = append(out, f)
		}
	}
	return out
}

// ringed reports an outline that can be seen.
func ringed(look css.Look) bool {
	value := func(name string) string { return strings.ToLower(css.Text(look.Value(name))) }
	style, width := value("outline-style"), value("outline-width")
	invisible := style == "" || style == "none" || style == "hidden" || style == "initial" || width == "0" ||
		width == "0px"
	if invisible {
		return false
	}
	return value("outline-color") != "transparent"
}

// changes reports whether an element, what it stands in or what stands in it looks another way in another layout.
func (s *Scene) changes(rest, state *layout.Result, e *css.Element) bool {
	differs := func(x *css.Element) bool {
		a, i := rest.Of(x), state.ByIndex[x.Index]
		if a == nil || i < 0 {
			return (a == nil) != (i < 0)
		}
		la, lb := a.Style.Look(), state.Boxes[i].Style.Look()
		return slices.ContainsFunc(focusLooks,
			func(n string) bool { return css.Text(la.Value(n)) != css.Text(lb.Value(n)) }) ||
			a.Style.Opacity != state.Boxes[i].Style.Opacity ||
			// the browser rings only what has the focus
			ringed(lb) && !ringed(la) && css.Text(lb.Value("outline-style")) != "auto"
	}
	for _, x := range s.l.Doc.Elements[e.Index:s.end[e.Index]] {
		if differs(x) {
			return true
		}
	}
	for x, n := e.Parent, 0; x != nil && n < 3; x, n = x.Parent, n+1 {
		if differs(x) {
			return true
		}
	}
	for i := range state.Generated {
		if g := &state.Generated[i]; g.Element.Index == e.Index {
			for k := range rest.Generated {
				if o := &rest.Generated[k]; o.Element.Index == e.Index && o.Pseudo == g.Pseudo &&
					slices.ContainsFunc(focusLooks,
						func(n string) bool { return css.Text(o.Style.Look().Value(n)) != css.Text(g.Style.Look().Value(n)) }) {
					return true
				}
			}
		}
	}
	return false
}

// Contrasts gives the contrast of every text of a layout, in the light, to the color of its ground that is nearest to
// it (WCAG 2.2 "contrast ratio").
func Contrasts(l *sweep.Prepared, r *layout.Result) map[*css.Element]float64 {
	s := NewScene(l)
	p := &s.colors
	stands := make([]stand, len(l.Doc.Elements))
	out := map[*css.Element]float64{}
	for i := range r.Boxes {
		b := &r.Boxes[i]
		in := stand{alpha: 1, ground: &p.canvas[0].ground, paint: &p.canvas[0].paint}
		for x := b.Element.Parent; x != nil; x = x.Parent {
			if stands[x.Index].paint != nil {
				in = stands[x.Index]
				break
			}
		}
		paint := p.light.Of(b.Style.Look(), in.paint.Color)
		st := stand{paint: paint, alpha: 1, ground: p.stacked(s, in.ground, paint, false)}
		stands[b.Element.Index] = st
		if b.Lines == 0 {
			continue
		}
		for k, g := range st.ground.colors {
			if c := css.Contrast(paint.Color.Over(g), g); k == 0 || c < out[b.Element] {
				out[b.Element] = c
			}
		}
	}
	return out
}
