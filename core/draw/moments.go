package draw

import (
	"fmt"

	"ziegel/core/css"
	"ziegel/core/motion"
	"ziegel/core/naming"
	"ziegel/core/paint/geom"
	"ziegel/core/sweep"
)

// Strip is the film strip of a motion.
type Strip struct {
	Sheet *Sheet
	Clip  *motion.Clip
	Shift motion.Shift
}

// Motion is what a strip shows: one kind of motion, at how many moments.
type Motion struct {
	Kind    string // as motion.Of takes it
	Moments int
}

// Moments shows a motion of a page, a block or a part. It is nil when nothing moves.
func Moments(l *sweep.Prepared, width int, t Target, of Motion, how Look) (*Strip, error) {
	page := *l
	page.Dark = how.Dark
	rest, err := Of(&page, width, t, Look{Dark: how.Dark, Files: how.Files})
	if err != nil {
		return nil, err
	}
	var within func(*css.Element) bool
	if t.Block != "" {
		target, err := find(rest.Page, rest.Result, t)
		if err != nil {
			return nil, err
		}
		within = func(e *css.Element) bool {
			return e.Index == target.Index || naming.Inside(e, rest.Page.Doc.Elements[target.Index])
		}
	}
	clip, err := motion.Of(rest.Page, width, of.Kind, within)
	if clip == nil || err != nil {
		return nil, err
	}
	area := stripArea(rest, t, clip)
	moments := clip.Moments(of.Moments)
	s := &Sheet{}
	s.Text("h1", fmt.Sprintf("%s: %s, at %d", rest.Name, of.Kind, width))
	s.Raw(`<div class=wrap style="max-width:1900px">`)
	for _, m := range moments {
		at, err := clip.At(m)
		if err != nil {
			return nil, err
		}
		shot, err := Of(at, width, Target{}, Look{Dark: how.Dark, Files: how.Files})
		if err != nil {
			return nil, err
		}
		shot.Area = area
		title := fmt.Sprintf("%.2f s", m)
		if clip.Scrolled {
			title = fmt.Sprintf("scrolled by %.0f px", m)
			shot.Area = geom.R(0, m, float64(width), clip.Viewport())
		}
		s.Shot(shot, title, "", min(shot.Area.W(), 440))
	}
	s.Raw("</div>")
	shift, err := clip.Shift(moments)
	if err != nil {
		return nil, err
	}
	note := "Nothing around it moves: the layout shift is 0."
	if shift.Px > 0 {
		note = fmt.Sprintf("The layout shifts by %.3g px at the most: %s.", shift.Px, shift.Name)
	}
	s.Text("p style=margin-top:16px", note)
	return &Strip{s, clip, shift}, nil
}

// stripArea gives the part of the page that a strip shows: the target, or all that moves, with some room around.
func stripArea(rest *Shot, t Target, clip *motion.Clip) geom.Rect {
	page := geom.R(0, 0, rest.List.W, rest.List.H)
	if t.Block != "" {
		return rest.Area.Grow(32).Intersect(page)
	}
	var area geom.Rect
	for _, e := range clip.Moving {
		for f := rest.Result.Of(e); f != nil && f.Style.Display == css.Inline &&
			e.Parent != nil; f = rest.Result.Of(e) {
			e = e.Parent // words with the sentence that they stand in
		}
		if r, ok := rest.box(e); ok {
			area = area.Union(r)
		}
	}
	if area.Empty() {
		return page
	}
	return area.Grow(32).Intersect(page)
}
