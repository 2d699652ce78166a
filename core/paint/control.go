package paint

import (
	"strconv"
	"strings"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

func isControl(el *css.Element) bool {
	switch el.Tag {
	case "input", "textarea", "select", "progress", "meter":
		return true
	}
	return false
}

// control paints what a form control shows: its text, its sign.
func (p *painter) control(b *box) []display.Item {
	if len(b.Rects) == 0 {
		return nil
	}
	el := b.Element
	kind := strings.ToLower(el.Attr("type"))
	switch el.Tag + " " + kind {
	case "input checkbox", "input radio":
		return p.box13(b, kind)
	case "input range":
		return p.slider(b)
	case "input color":
		p.miss(b.el, "a field of type "+kind)
		return nil
	case "input file":
		return p.fileField(b)
	case "input hidden", "input image":
		return nil
	}
	switch el.Tag {
	case "progress", "meter":
		return p.gauge(b)
	case "select":
		return p.choice(b)
	}
	if parts := layout.DateParts(el); parts != nil {
		return p.date(b, parts)
	}
	text, faint := el.Attr("value"), false
	if el.Tag == "textarea" {
		text = el.Text()
	}
	switch kind {
	case "submit", "reset", "button":
		if _, given := el.LookupAttr("value"); !given {
			text = map[string]string{"submit": "Submit", "reset": "Reset"}[kind]
		}
	case "password":
		text = strings.Repeat("•", len([]rune(text)))
	}
	if text == "" {
		text, faint = el.Attr("placeholder"), true
	}
	if text == "" {
		return nil
	}
	return p.line(b, text, faint, kind == "submit" || kind == "reset" || kind == "button")
}

// line sets one line of text in a control, in its middle.
func (p *painter) line(b *box, text string, faint, centered bool) []display.Item {
	room := content(b)
	style := b.Style
	color := ink(b)
	if faint {
		color = css.Color{R: .459, G: .459, B: .459, A: 1}
		if st := p.e.PseudoStyle(b.Element, "placeholder", b.Style); st != nil {
			read := p.e.ReaderOf(st, b.read)
			if c, ok := read.Color("color"); ok {
				color = c
			}
			color.A *= min(1, max(0, st.Opacity))
		}
	}
	t := p.e.DrawText(style, text)
	y := room.Y + (room.H-t.Rect.H)/2
	if b.Element.Tag == "textarea" {
		y = room.Y
	}
	x := room.X
	if b.Element.Tag == "select" && !b.Style.Plain { // measured
		x += layout.Px(4 * 64 * p.zoom)
	}
	if centered {
		x += (room.W - t.Rect.W) / 2
	}
	t.Base += y
	t.Rect.X, t.Rect.Y = x, y
	run := p.run(b, &t)
	run.Color = color
	g := display.Plain(run)
	g.Clips = []*geom.Path{geom.RectPath(p.snap(layout.Rect{X: room.X, Y: b.Rects[0].Y, W: room.W, H: b.Rects[0].H}))}
	return []display.Item{g}
}

// accent is the color of what a control marks.
func accent(b *box) css.Color {
	if c, ok := b.read.Color("accent-color"); ok {
		return c
	}
	if b.read.In.Dark { // what fields show has another blue there than the system color (measured)
		return css.Color{R: .6, G: 200.0 / 255, B: 1, A: 1}
	}
	c, _ := css.ParseColor(css.Tokenize("accentcolor"), b.read.In)
	return c
}

// box13 paints a checkbox or a radio button, as Chromium does.
func (p *painter) box13(b *box, kind string) []display.Item {
	if b.Style.Plain {
		return nil
	}
	r := p.snap(b.Rects[0])
	side := min(r.W(), r.H())
	r = geom.R(r.X0+(r.W()-side)/2, r.Y0+(r.H()-side)/2, side, side)
	_, on := b.Element.LookupAttr("checked")
	line := css.Color{R: .463, G: .463, B: .463, A: 1}
	ground, _ := css.ParseColor(css.Tokenize("field"), b.read.In)
	corner := geom.Point{X: 2.5 * side / 13, Y: 2.5 * side / 13}
	if kind == "radio" {
		corner = geom.Point{X: side / 2, Y: side / 2}
	}
	outer := geom.Round{Rect: r, Radii: [4]geom.Point{corner, corner, corner, corner}}
	fill := func(shape geom.Round, c css.Color) display.Item {
		return &display.Fill{Path: shape.Path(), Brush: display.Solid(c)}
	}
	if !on {
		return []display.Item{fill(outer, line), fill(outer.Inset(1, 1, 1, 1), ground)}
	}
	mark := accent(b)
	if kind == "radio" {
		dot := r.Grow(-side * 3.25 / 13)
		return []display.Item{fill(outer, mark), fill(outer.Inset(1, 1, 1, 1), ground),
			&display.Fill{Path: geom.Ellipse((dot.X0+dot.X1)/2, (dot.Y0+dot.Y1)/2, dot.W()/2, dot.H()/2),
				Brush: display.Solid(mark)}}
	}
	tick := &geom.Path{}
	at := func(x, y float64) (float64, float64) { return r.X0 + x*side/13, r.Y0 + y*side/13 }
	tick.MoveTo(at(2.6, 6.6))
	tick.LineTo(at(5.3, 9.4))
	tick.LineTo(at(10.4, 3.8))
	return []display.Item{fill(outer, mark), &display.Fill{Path: tick.Stroke(geom.Pen{Width: side * 2 / 13}),
		Brush: display.Solid(css.Color{R: 1, G: 1, B: 1, A: 1})}}
}

// share reads how full a control is, 0..1.
func share(el *css.Element, low, high float64) float64 {
	attr := func(name string, otherwise float64) float64 {
		if v, err := strconv.ParseFloat(el.Attr(name), 64); err == nil {
			return v
		}
		return otherwise
	}
	low, high = attr("min", low), attr("max", high)
	if high <= low {
		return 0
	}
	middle := (low + high) / 2
	if el.Tag != "input" {
		middle = low
	}
	return min(1, max(0, (attr("value", middle)-low)/(high-low)))
}

func (p *painter) slider(b *box) []display.Item {
	if b.Style.Plain {
		return nil
	}
	r := p.snap(b.Rects[0])
	z := p.zoom
	mid, at := (r.Y0+r.Y1)/2, r.X0+8*z+(r.W()-16*z)*share(b.Element, 0, 100)
	bar := func(x0, x1, grow float64, c css.Color) display.Item {
		h := 4*z + grow
		shape := geom.Round{Rect: geom.Rect{X0: x0, Y0: mid - h, X1: x1, Y1: mid + h},
			Radii: [4]geom.Point{{X: h, Y: h}, {X: h, Y: h}, {X: h, Y: h}, {X: h, Y: h}}}
		return &display.Fill{Path: shape.Fit().Path(), Brush: display.Solid(c)}
	}
	gray := css.Color{R: .694, G: .694, B: .694, A: 1}
	light := css.Color{R: .937, G: .937, B: .937, A: 1}
	return []display.Item{bar(r.X0, r.X1, 0, gray), bar(r.X0+1, r.X1-1, -1, light), bar(r.X0, at, 0, accent(b)),
		&display.Fill{Path: geom.Ellipse(at, mid, 8*z, 8*z), Brush: display.Solid(accent(b))}}
}

func (p *painter) gauge(b *box) []display.Item {
	if b.Style.Plain {
		return nil
	}
	r := p.snap(b.Rects[0])
	_, given := b.Element.LookupAttr("value")
	light := css.Color{R: .937, G: .937, B: .937, A: 1}
	green := css.Color{R: .063, G: .486, B: .063, A: 1}
	if b.read.In.Dark { // measured
		light = css.Color{R: 59.0 / 255, G: 59.0 / 255, B: 59.0 / 255, A: 1}
		green = css.Color{R: 116.0 / 255, G: 179.0 / 255, B: 116.0 / 255, A: 1}
	}
	color, rim := accent(b), css.Color{R: .463, G: .463, B: .463, A: .5}
	if b.Element.Tag == "meter" {
		color, rim.A = green, .3
	}
	h, mid := r.H()/4, (r.Y0+r.Y1)/2 // half as high as its box (measured)
	bar := func(in float64) geom.Round {
		k := max(0, h-in)
		return geom.Round{Rect: geom.Rect{X0: r.X0 + in, Y0: mid - k, X1: r.X1 - in, Y1: mid + k},
			Radii: [4]geom.Point{{X: k, Y: k}, {X: k, Y: k}, {X: k, Y: k}, {X: k, Y: k}}}.Fit()
	}
	track := display.Plain(&display.Fill{Path: bar(0).Path(), Brush: display.Solid(light)})
	track.Clips = []*geom.Path{bar(0).Path()}
	part := share(b.Element, 0, 1)
	if !given && b.Element.Tag == "progress" { // on its way, nobody knows how far: a fifth, at the beginning
		part = .2
	}
	if part > 0 {
		done := geom.Rect{X0: r.X0, Y0: mid - h, X1: r.X0 + r.W()*part, Y1: mid + h}
		track.Items = append(track.Items, &display.Fill{Rect: &done, Brush: display.Solid(color)})
	}
	around := bar(0).Path()
	around.Add(bar(p.zoom).Path())
	around.EvenOdd = true
	return []display.Item{track, &display.Fill{Path: around, Brush: display.Solid(rim)}}
}

// choice paints the chosen option of a select and its arrow.
func (p *painter) choice(b *box) []display.Item {
	chosen := layout.ChosenOption(b.Element)
	if _, many := b.Element.LookupAttr("multiple"); many {
		p.miss(b.el, "a select of several rows")
		return nil
	}
	var out []display.Item
	if chosen != nil {
		out = p.line(b, chosen.Text(), false, false)
	}
	if !b.Style.Plain {
		r := p.snap(b.Rects[0])
		z := p.zoom
		x, y := r.X1-8.5*z, (r.Y0+r.Y1)/2
		arrow := &geom.Path{}
		arrow.MoveTo(x-4*z, y-2*z)
		arrow.LineTo(x, y+2*z)
		arrow.LineTo(x+4*z, y-2*z)
		out = append(out, &display.Fill{Path: arrow.Stroke(geom.Pen{Width: 2 * z}), Brush: display.Solid(ink(b))})
	}
	return out
}

// ownFrame paints the ground and the frame that a browser gives a field or a button for which the page has none: a gray
// line of 1 px, at whatever width the border is (measured in Chromium). nil for all others.
func (p *painter) ownFrame(b *box, r layout.Rect) []display.Item {
	el := b.Element
	if el == nil || b.Pseudo != "" || b.Style.Plain || el.FramedByPage() {
		return nil
	}
	kind := strings.ToLower(el.Attr("type"))
	corner, pressed := 2.0, false
	switch el.Tag {
	case "select":
	case "textarea":
		corner = 0
	case "button":
		pressed = true
	case "input":
		switch kind {
		case "checkbox", "radio", "range", "image", "file", "hidden":
			return nil
		case "submit", "reset", "button", "color":
			pressed = true
		}
	default:
		return nil
	}
	line, ground := css.Color{R: .463, G: .463, B: .463, A: 1}, css.Color{R: .937, G: .937, B: .937, A: 1}
	if pressed {
		corner = 3
	} else if c, ok := css.ParseColor(css.Tokenize("field"), b.read.In); ok {
		ground = c
	}
	if _, off := el.LookupAttr("disabled"); off {
		if line.A = .3; !pressed {
			ground = css.Color{R: .937, G: .937, B: .937, A: .3}
		}
	}
	c := geom.Point{X: corner * p.zoom, Y: corner * p.zoom}
	outer := geom.Round{Rect: p.snap(r), Radii: [4]geom.Point{c, c, c, c}}
	inner := outer.Inset(p.zoom, p.zoom, p.zoom, p.zoom)
	frame := outer.Path()
	frame.Add(inner.Path())
	frame.EvenOdd = true
	return []display.Item{&display.Fill{Path: inner.Path(), Brush: display.Solid(ground)},
		&display.Fill{Path: frame, Brush: display.Solid(line)}}
}
