package paint

import (
	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// replaced paints a picture, a drawing or another element that shows something in its place.
func (p *painter) replaced(b *box) []display.Item {
	if len(b.Rects) == 0 {
		return nil
	}
	room := content(b)
	if room.W <= 0 || room.H <= 0 || p.unseen(b, room) {
		return nil
	}
	var items []display.Item
	switch b.Element.Tag {
	case "img":
		src := b.Element.Attr("src")
		if p.o.Source != nil {
			src = p.o.Source(b.Element)
		}
		im := p.file(b, src)
		if im == nil {
			im = p.standIn(b, src, room)
		}
		if im == nil {
			return p.broken(b, room)
		}
		items = im.draw(p.fitted(b, room, im))
	case "svg":
		items = p.inlineDrawing(b, room)
	case "video":
		if src := b.Element.Attr("poster"); src != "" {
			if im := p.file(b, src); im != nil {
				items = im.draw(p.fitted(b, room, im))
				break
			}
		}
		p.miss(b.el, "the film of a video")
	case "object":
		if im := p.file(b, b.Element.Attr("data")); im != nil {
			items = im.draw(p.fitted(b, room, im))
			break
		}
		p.miss(b.el, "what <object> shows")
	default:
		p.miss(b.el, "what <"+b.Element.Tag+"> shows")
	}
	if len(items) == 0 {
		return nil
	}
	if b.inner != b.clip && b.inner != nil && b.inner.rect == nil || p.overflows(b, room) {
		g := display.Plain(items...)
		for c := b.inner; c != nil && c != b.clip; c = c.up {
			g.Clips = append(g.Clips, c.path)
		}
		if len(g.Clips) == 0 {
			g.Clips = append(g.Clips, geom.RectPath(p.snap(room)))
		}
		return []display.Item{g}
	}
	return items
}

// overflows reports a picture that may be larger than its box.
func (p *painter) overflows(b *box, room layout.Rect) bool {
	if b.Element.Tag == "svg" {
		return b.inner != b.clip
	}
	fit := b.read.Word("object-fit")
	return fit == "cover" || fit == "none" || b.read.Value("object-position") != nil
}

// fitted gives where a picture lies in its box (css-images-3, "object-fit" and "object-position").
func (p *painter) fitted(b *box, room layout.Rect, im *image) geom.Rect {
	area := plain(room)
	w, h := area.W(), area.H()
	fit := b.read.Word("object-fit")
	if fit == "" && b.Element.Tag == "video" {
		fit = "contain"
	}
	contain := func() (float64, float64) {
		if im.ratio <= 0 {
			return area.W(), area.H()
		}
		if area.W()/im.ratio <= area.H() {
			return area.W(), area.W() / im.ratio
		}
		return area.H() * im.ratio, area.H()
	}
	switch fit {
	case "contain":
		w, h = contain()
	case "cover":
		if im.ratio > 0 {
			if w, h = area.W(), area.W()/im.ratio; h < area.H() {
				w, h = area.H()*im.ratio, area.H()
			}
		}
	case "none", "scale-down":
		if im.w > 0 && im.h > 0 {
			cw, ch := contain()
			if w, h = im.w, im.h; fit == "scale-down" && (w > cw || h > ch) {
				w, h = cw, ch
			}
		}
	}
	x, y := bothAxes(b.read.Value("object-position"))
	at := func(v []css.Token, free float64) float64 {
		if v == nil {
			return free / 2
		}
		return offsetIn(b.read, v, free, 0)
	}
	left, top := area.X0+at(x, area.W()-w), area.Y0+at(y, area.H()-h)
	return p.snap(layout.Rect{X: css.FromFloat(left), Y: css.FromFloat(top), W: css.FromFloat(w), H: css.FromFloat(h)})
}

// standIn gives what stands for a picture that is not there, nil for nothing.
func (p *painter) standIn(b *box, src string, room layout.Rect) *image {
	if p.o.Stand == nil {
		return nil
	}
	data := p.o.Stand(b.Element, src, room.W.Float()/p.zoom, room.H.Float()/p.zoom)
	if data == nil {
		return nil
	}
	return p.drawing(b, "", data) // no file
}

// broken paints the alternative text of a picture that is not there.
func (p *painter) broken(b *box, room layout.Rect) []display.Item {
	alt, named := b.Element.LookupAttr("alt")
	if named && alt == "" {
		return nil
	}
	p.miss(b.el, "the sign of a picture that is not there")
	if alt == "" {
		return nil
	}
	t := p.e.DrawText(b.Style, alt)
	t.Rect.X, t.Rect.Y, t.Base = room.X+css.FromFloat(16*p.zoom), room.Y, room.Y+t.Base
	return []display.Item{p.run(b, &t)}
}
