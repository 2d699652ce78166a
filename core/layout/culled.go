package layout

import "ziegel/core/css"

// rectsOf gives the rectangles around an inline box, from its origin: that of each line, and, as one that draws nothing
// itself is no box to a browser, those of the boxes in it that stand out (measured).
func (e *Engine) rectsOf(b *Box) []Rect {
	var more []Rect
	for _, k := range b.kids {
		if k.kind != inlineBox || k.aside() || len(k.fragments) == 0 {
			continue
		}
		in := e.rectsOf(k)
		if !standsOut(in, b.fragments) {
			continue
		}
		if more == nil && !e.culled(b) {
			return b.fragments
		}
		more = append(more, in...)
	}
	if more == nil {
		return b.fragments
	}
	return append(more, b.fragments...)
}

// standsOut reports whether some rectangles reach above or below all others.
func standsOut(in, of []Rect) bool {
	for _, r := range in {
		out := true
		for _, o := range of {
			out = out && (r.Y < o.Y || r.Bottom() > o.Bottom())
		}
		if out {
			return true
		}
	}
	return false
}

// culled reports an inline box that a browser makes no box of: nothing is drawn for it, and what is in it has its
// letters and stands on its line.
func (e *Engine) culled(b *Box) bool {
	s := b.style
	if b.el == nil || !s.Margin[css.Left].IsZero() || !s.Margin[css.Right].IsZero() || s.Position != css.Static {
		return false
	}
	for side := range 4 {
		if b.border[side] != 0 || b.padding[side] != 0 {
			return false
		}
	}
	m := e.metrics(s)
	for _, k := range b.kids {
		if k.kind != inlineBox || k.aside() {
			continue
		}
		own := e.metrics(k.style)
		apart := own.asc != m.asc || own.desc != m.desc || k.style.VerticalAlign != "baseline"
		if apart || k.margin[css.Left] != 0 || k.margin[css.Right] != 0 {
			return false
		}
	}
	return s.Opacity == 1 && !e.drawn(s)
}

// decorations are what makes a box of an inline box, with the values that make none.
var decorations = map[string]string{"background-color": "transparent", "background-image": "none", "box-shadow": "none",
	"outline-style": "none", "filter": "none", "clip-path": "none", "mask-image": "none", "mix-blend-mode": "normal"}

// drawn reports a style that draws something of its own.
func (e *Engine) drawn(s *css.Style) bool {
	r := e.styler.Reader(s, nil, [2]float64{}, e.opts.Dark)
	for name, nothing := range decorations {
		if v := r.Own(name); v != nil && css.Word(v) != nothing {
			return true
		}
	}
	return false
}
