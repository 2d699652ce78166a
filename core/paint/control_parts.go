package paint

import (
	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// date paints the parts of a date or time field, each after the other, and the picture that opens the calendar.
func (p *painter) date(b *box, parts []layout.FieldPart) []display.Item {
	room := content(b)
	z := layout.Px(64 * p.zoom)
	picture, before, clock := p.e.FieldSign(b.Element, b.Style)
	words := room
	words.W = max(0, room.W-picture-before)
	x := room.X
	if b.Style.RTL {
		x = room.Right() - words.W
	}
	words.X = x
	var texts []display.Item
	for i := range parts {
		edge := z
		if parts[i].IsText() {
			edge = 0
		}
		t := p.e.DrawText(b.Style, parts[i].Shown())
		t.Base += room.Y + (room.H-t.Rect.H)/2
		t.Rect.X, t.Rect.Y = x+edge, room.Y+(room.H-t.Rect.H)/2
		run := p.run(b, &t)
		run.Color = ink(b)
		texts = append(texts, run)
		x += p.e.TextWidth(b.Style, parts[i].Shown()) + 2*edge
	}
	g := display.Plain(texts...)
	g.Clips = []*geom.Path{geom.RectPath(p.snap(layout.Rect{X: words.X, Y: b.Rects[0].Y, W: words.W, H: b.Rects[0].H}))}
	at := layout.Rect{X: room.Right() - picture, Y: room.Y + (room.H-picture)/2, W: picture, H: picture}
	if b.Style.RTL {
		at.X = room.X
	}
	r := geom.R(at.X.Float(), at.Y.Float(), at.W.Float(), at.H.Float()).Grow(-2 * p.zoom)
	if clock {
		return []display.Item{g, clockSign(r.Grow(-p.zoom), ink(b))}
	}
	return []display.Item{g, calendarSign(r, ink(b))}
}

// calendarSign is a sheet with two rings, a filled head and an empty day below it, in a square.
func calendarSign(r geom.Rect, color css.Color) display.Item {
	u := r.W() / 16
	line := func(x, y, w, h float64) *geom.Path {
		return geom.RectPath(geom.R(r.X0+x*u, r.Y0+y*u, w*u, h*u))
	}
	sign := &geom.Path{}
	for _, part := range []*geom.Path{line(2, 2, 12, 3), line(2, 5, 1.3, 9.6), line(12.7, 5, 1.3, 9.6),
		line(3.3, 13.3, 9.4, 1.3), line(4, .7, 1.3, 1.3), line(10.7, .7, 1.3, 1.3)} {
		sign.Add(part)
	}
	return &display.Fill{Path: sign, Brush: display.Solid(color)}
}

// clockSign is a dial with two hands.
func clockSign(r geom.Rect, color css.Color) display.Item {
	u, x, y := r.W()/16, (r.X0+r.X1)/2, (r.Y0+r.Y1)/2
	sign := geom.Ellipse(x, y, 5.8*u, 5.8*u).Stroke(geom.Pen{Width: 1.2 * u})
	hands := &geom.Path{}
	hands.MoveTo(x, y-3.5*u)
	hands.LineTo(x, y+.3*u)
	hands.LineTo(x+2.4*u, y+1.8*u)
	sign.Add(hands.Stroke(geom.Pen{Width: 1.1 * u}))
	return &display.Fill{Path: sign, Brush: display.Solid(color)}
}

// fileField paints the button of a file field and what it says beside it. The button has the browser's own frame.
func (p *painter) fileField(b *box) []display.Item {
	room := content(b)
	z := layout.Px(64 * p.zoom)
	label, own := layout.FileButton(b.Element, b.Style)
	name, said := p.e.DrawText(own, label), p.e.DrawText(b.Style, layout.NoFile)
	above := p.e.FileBaseline(b.Element, b.Style)
	button := layout.Rect{X: room.X, Y: room.Y + above - name.Base - 3*z, W: name.Rect.W + 16*z, H: name.Rect.H + 6*z}
	saidX := button.Right() + 4*z
	if b.Style.RTL {
		button.X = room.Right() - button.W
		saidX = button.X - 4*z - said.Rect.W
	}
	text := func(t *layout.DrawnText, x layout.Px, color css.Color) display.Item {
		y := room.Y + above - t.Base
		t.Base += y
		t.Rect.X, t.Rect.Y = x, y
		run := p.run(b, t)
		run.Color = color
		return run
	}
	corner := geom.Point{X: 3 * p.zoom, Y: 3 * p.zoom}
	frame := geom.Round{Rect: p.snap(button), Radii: [4]geom.Point{corner, corner, corner, corner}}
	line := css.Color{R: .463, G: .463, B: .463, A: 1}
	ground := css.Color{R: .937, G: .937, B: .937, A: 1}
	dark := css.Color{A: 1}
	g := display.Plain(&display.Fill{Path: frame.Path(), Brush: display.Solid(line)},
		&display.Fill{Path: frame.Inset(1, 1, 1, 1).Path(), Brush: display.Solid(ground)},
		text(&name, button.X+8*z, dark), text(&said, saidX, ink(b)))
	g.Clips = []*geom.Path{geom.RectPath(p.snap(room))}
	return []display.Item{g}
}
