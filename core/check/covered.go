package check

import (
	"fmt"
	"slices"

	"ziegel/core/css"
	"ziegel/core/diag"
	"ziegel/core/layout"
	"ziegel/core/naming"
)

// coveredFrom is how much of what lies below a layer must hide for letters to be lost, 0..1.
const coveredFrom = .5

// covered: something that is painted later lies over letters.
var covered = rule{
	name: "text-covered", severity: diag.Error,
	what:    "something is painted over a text: a picture, a box with a ground, a bar that stays on the screen",
	looks:   "the painting order of pictures, frames, grounds, generated boxes, fixed and sticky bars; states at 1280 px",
	not:     "inline drawings, background pictures that are not cover, clip-path and blended boxes: what they hide nobody can tell here",
	untried: "what lies above a text is meant to be seen; only its author knows which of the two gives way",
	look: func(s *Scene, r *layout.Result) []hit {
		v := s.sight(r)
		by := map[int]*hit{} // by layer
		var order []int
		for _, c := range v.crossings {
			l, b := &v.layers[c.layer], &r.Boxes[c.text]
			if l.rank <= v.paint.Words[c.text] {
				continue
			}
			h, ok := s.covers(r, v, l, b)
			if !ok {
				continue
			}
			if by[c.layer] == nil {
				by[c.layer] = &h
				order = append(order, c.layer)
				continue
			}
			worst := by[c.layer]
			worst.value++
			if h.amount > worst.amount {
				h.value, *worst = worst.value, h
			}
		}
		var out []hit
		for _, i := range order {
			out = append(out, *by[i])
		}
		return append(out, s.stuck(r, v)...)
	},
	say: func(name, other string, worst hit) string {
		if worst.value > 0 {
			other += fmt.Sprintf(" and %.0f more", worst.value)
		}
		return fmt.Sprintf("%s lies over %s and hides %s of the letters", name, other, naming.Px(worst.amount))
	},
	merge: true,
}

// covers measures how much of the letters of a text a layer above it hides.
func (s *Scene) covers(r *layout.Result, v *sight, l *layer, b *layout.Fragment) (hit, bool) {
	y := layout.Px(0)
	if v.fixed[b.Element.Index] {
		if !l.fixed { // they meet at other places as the page is scrolled
			return hit{}, false
		}
		y = s.fixedAt(r, b)
	}
	worst := layout.Px(0)
	for _, run := range b.Runs {
		common := v.ink(b, run, y).Intersect(rounded(l))
		if common.W <= 128 || common.H <= 128 || common.H <= worst {
			continue
		}
		spot := common
		spot.Y -= l.at.Y - l.p.Y
		if s.alpha(r, l, spot) >= coveredFrom {
			worst = common.H
		}
	}
	if worst == 0 {
		return hit{}, false
	}
	blamed, cause := culprit(r, l, b.Element)
	return hit{el: l.p.Element, other: b.Element, behind: l.p.Pseudo, amount: worst, blamed: blamed,
		cause: cause}, true
}

// rounded gives what surely shows of a layer: a round or turned one leaves its corners free.
func rounded(l *layer) layout.Rect {
	at, look := l.at, l.p.Style.Look()
	round := l.p.Style.Rotate != 0
	for _, t := range l.p.Style.Transform {
		round = round || t.Name == "rotate" || t.Name == "rotatez" || t.Name == "skewx" || t.Name == "skewy" ||
			t.Name == "matrix"
	}
	if v := css.Text(look.Value("border-top-left-radius")); v != "" {
		radius, ok := css.RadiusOf(v, l.p.W)
		round = round || ok && radius*5 >= min(l.p.W, l.p.H)*2
	}
	if round {
		dx, dy := at.W*15/100, at.H*15/100
		at.X, at.W, at.Y, at.H = at.X+dx, at.W-2*dx, at.Y+dy, at.H-2*dy
	}
	return at
}

// culprit names the element and the property that most likely bring a layer above a text: of those around the layer
// that do not hold the text, the outermost that leaves the common order.
func culprit(r *layout.Result, l *layer, text *css.Element) (*css.Element, string) {
	blamed, cause := l.p.Element, "margin-top"
	if l.own >= 0 {
		cause = "position"
	}
	for e := l.p.Element; e != nil && e != text && !naming.Inside(text, e); e = e.Parent {
		p := r.Of(e)
		if p == nil {
			continue
		}
		if by := lifts(p.Style); by != "" {
			blamed, cause = e, by
		}
	}
	return blamed, cause
}

// lifts names the property that takes a box out of the common painting order, "" when none does.
func lifts(st *css.Style) string {
	stack := st.Stacking()
	switch {
	case !stack.Auto && stack.Z > 0:
		return "z-index"
	case st.Position != css.Static:
		return "position"
	case !stack.Makes:
		return ""
	case st.Opacity < 1:
		return "opacity"
	}
	for _, name := range []string{"filter", "transform", "translate", "scale", "rotate", "backdrop-filter",
		"mix-blend-mode", "clip-path", "isolation", "will-change", "mask-image", "perspective", "contain"} {
		if _, _, ok := st.Declared(name); ok {
			return name
		}
	}
	return ""
}

// stuck finds what stays on the screen as the page is scrolled and hides most of it from what scrolls on below.
func (s *Scene) stuck(r *layout.Result, v *sight) []hit {
	var out []hit
	for i := range v.layers {
		l := &v.layers[i]
		p := l.p
		if l.own >= 0 || p.Style.Position != css.Sticky || p.Style.Inset[css.Top].IsAuto() || p.H*2 < s.screen() {
			continue
		}
		around := r.Of(p.Element.Parent)
		if around == nil {
			continue
		}
		for t := r.ByIndex[p.Element.Parent.Index]; t < len(r.Boxes) &&
			r.Boxes[t].Element.Index < s.end[p.Element.Parent.Index]; t++ {
			b := &r.Boxes[t]
			free := !shown(b) || l.holds(b.Element) || b.Text.Y < p.Bottom() || b.Style.Position != css.Static ||
				s.alpha(r, l, p.Rect) < coveredFrom
			if free {
				continue
			}
			if across := min(b.Text.Right(), p.Right()) - max(b.Text.X, p.X); across > 128 {
				out = append(out, hit{el: p.Element, other: b.Element, amount: min(p.H, around.Bottom()-p.Bottom()),
					cause: "position"})
				break
			}
		}
	}
	return out
}

// onEdge: the edge of a picture or of a ground runs through a text that stands on neither side of it.
var onEdge = rule{
	name: "text-on-edge", severity: diag.Warning,
	what:    "the edge of a picture or a box that a text is not in runs through the text",
	looks:   "the same boxes, where they lie under a text that has no ground of its own above them",
	not:     "borders without a ground; edges inside a picture",
	untried: "either the text or the edge moves, and only its author knows which",
	look: func(s *Scene, r *layout.Result) []hit {
		v := s.sight(r)
		var out []hit
		for _, c := range v.crossings {
			l, b := &v.layers[c.layer], &r.Boxes[c.text]
			if l.rank >= v.paint.Words[c.text] || l.fixed != v.fixed[b.Element.Index] || s.grounded(r, v, b, l.rank) {
				continue
			}
			for _, run := range b.Runs {
				ink := v.ink(b, run, 0)
				common := ink.Intersect(rounded(l))
				if common.W <= 256 || common.H <= 128 || common.W >= ink.W-256 && common.H >= ink.H-128 {
					continue
				}
				if s.alpha(r, l, common) >= coveredFrom {
					blamed, cause := culprit(r, l, b.Element)
					out = append(out, hit{el: b.Element, other: l.p.Element, behind: l.p.Pseudo,
						amount: min(common.W, common.H), blamed: blamed, cause: cause})
				}
			}
		}
		return once(out)
	},
	say: func(name, other string, worst hit) string {
		return fmt.Sprintf("the edge of %s runs through the letters of %s, which are not in it", other, name)
	},
}

// grounded reports that a text has a ground of its own above a rank of the painting order.
func (s *Scene) grounded(r *layout.Result, v *sight, b *layout.Fragment, rank int) bool {
	for e := b.Element; e != nil; e = e.Parent {
		if p := r.Of(e); p != nil && v.paint.Ground[r.ByIndex[e.Index]] > rank {
			paint := s.colors.light.Of(p.Style.Look(), css.Color{A: 1})
			if paint.Ground.A >= coveredFrom || len(paint.Pictures)+len(paint.Stops) > 0 {
				return true
			}
		}
	}
	return false
}

// hangsOut: text sticks out of the box with a ground, a border or a height of its own that it stands in.
var hangsOut = rule{
	name: "content-hangs-out", severity: diag.Error,
	what:    "text sticks out of the box with a ground, a border or a height of its own that it stands in (a warning under 8 px)",
	looks:   "texts and the nearest box around them with a ground, four borders, or a height of its own",
	not:     "pictures that hang out; boxes placed absolutely or moved on purpose; grounds that differ too little to be seen",
	untried: "a ground that grows is another picture of the page",
	grade: func(h hit) diag.Severity {
		if h.amount < 8*64 {
			return diag.Warning
		}
		return diag.Error
	},
	look: func(s *Scene, r *layout.Result) []hit {
		var out []hit
		found := map[*css.Element]int{}
		for i := range r.Boxes {
			b := &r.Boxes[i]
			if !shown(b) || b.Scrolls {
				continue
			}
			around := s.standsIn(r, b)
			if around == nil {
				continue
			}
			for _, run := range b.Runs {
				ink := run
				if b.Cropped {
					ink = ink.Intersect(b.Window)
				}
				ink.Y += run.H / 5
				ink.H -= run.H * 2 / 5
				if ink.Empty() {
					continue
				}
				out1, cause := ink.Bottom()-around.Bottom(), "height"
				if d := max(ink.Right()-around.Right(), around.X-ink.X); d > out1 {
					out1, cause = d, "width"
				}
				if d := around.Y - ink.Y; d > out1 {
					out1, cause = d, "margin-top"
				}
				if out1 <= 192 {
					continue
				}
				if k, ok := found[around.Element]; ok {
					if out[k].amount < out1 {
						out[k].amount, out[k].other, out[k].cause = out1, b.Element, cause
					}
					continue
				}
				found[around.Element] = len(out)
				out = append(out, hit{el: around.Element, other: b.Element, amount: out1, cause: cause})
			}
		}
		return out
	},
	say: func(name, other string, worst hit) string {
		return fmt.Sprintf("%s sticks %s out of %s", other, naming.Px(worst.amount), name)
	},
	cure: func(part string, h hit) string {
		if h.cause == "height" {
			return part + ": {height: auto}"
		}
		return ""
	},
	merge: true,
}

// standsIn finds the nearest box around a text that shows where it ends, by a ground, a border or a height of its
// own. nil when what is between them leaves the flow.
func (s *Scene) standsIn(r *layout.Result, b *layout.Fragment) *layout.Fragment {
	v := s.sight(r)
	for e := b.Element; e != nil && e.Tag != "body" && e.Tag != "html"; e = e.Parent {
		p := r.Of(e)
		if p == nil {
			continue
		}
		st := p.Style
		if st.Display == css.Inline {
			continue
		}
		tall := st.Height.IsLength() || st.MaxH.IsLength()
		if tall && p.H > 128 || s.ends(r, v, p) {
			return p
		}
		inset := slices.ContainsFunc(st.Inset[:], func(l css.Len) bool { return !l.IsAuto() })
		if st.Position == css.Absolute || st.Position == css.Fixed || st.Position == css.Relative && inset {
			return nil
		}
	}
	return nil
}

// ends reports a box that shows where it ends, by borders all around or by its ground.
func (s *Scene) ends(r *layout.Result, v *sight, p *layout.Fragment) bool {
	e := p.Element
	if v.ends == nil {
		v.ends = make([]int8, len(s.l.Doc.Elements))
	}
	if v.ends[e.Index] == 0 {
		v.ends[e.Index] = -1
		if s.edged(p) || v.paints[r.ByIndex[e.Index]] && s.standsOut(r, e) {
			v.ends[e.Index] = 1
		}
	}
	return v.ends[e.Index] > 0
}

// edged reports borders on all sides.
func (s *Scene) edged(p *layout.Fragment) bool {
	for side := range 4 {
		if p.Style.BorderPx(side) == 0 {
			return false
		}
	}
	return true
}

// standsOut reports a ground that differs from what it lies on.
func (s *Scene) standsOut(r *layout.Result, e *css.Element) bool {
	own := s.groundOf(r, e)
	for x := e.Parent; x != nil; x = x.Parent {
		if r.Of(x) != nil {
			return css.Contrast(own, s.groundOf(r, x)) > 1.03
		}
	}
	return css.Contrast(own, css.Color{R: 1, G: 1, B: 1, A: 1}) > 1.03
}
