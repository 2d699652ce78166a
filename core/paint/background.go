package paint

import (
	"math"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// hasGround reports whether a box says anything of its background.
func (p *painter) hasGround(b *box) bool {
	if c, ok := b.read.Color("background-color"); ok && c.A > 0 {
		return true
	}
	v := b.read.Value("background-image")
	return v != nil && css.Word(v) != "none"
}

// rootArea is what the background of the page is placed in: the box of the root element.
func (p *painter) rootArea(root *box) layout.Rect { return root.Rects[0] }

// background paints the color and the pictures behind a box (css-backgrounds-3, "Backgrounds"). A canvas is the page:
// its background covers shape, whatever clips it.
func (p *painter) background(b *box, r layout.Rect, shape geom.Round, canvas bool) []display.Item {
	images := css.SplitCommas(b.read.Value("background-image"))
	if b.Lies != css.Horizontal && len(images) > 0 && len(images[0]) > 0 && css.Word(images[0]) == "" {
		p.miss(b.el, "background pictures in lines that stand side by side, which are turned with them")
	}
	n := max(1, len(images))
	var out []display.Item
	if c, ok := b.read.Color("background-color"); ok && c.A > 0 {
		clip := shape
		text := false
		if !canvas {
			clip, text = p.area(b, shape, css.Word(layer(b.read.Value("background-clip"), n-1)))
		}
		out = append(out, p.painted(b, clip, text, display.Solid(c))...)
	}
	blends := b.read.Value("background-blend-mode")
	for i := len(images) - 1; i >= 0; i-- {
		clip, text := shape, false
		if !canvas {
			clip, text = p.area(b, shape, css.Word(layer(b.read.Value("background-clip"), i)))
		}
		if clip.Empty() {
			continue
		}
		brush := p.layerBrush(b, &groundLayer{r, shape.Rect, clip.Rect, images[i], i, canvas})
		if brush == nil {
			continue
		}
		items := p.painted(b, clip, text, brush)
		if mode := css.Word(layer(blends, i)); mode != "" && mode != "normal" {
			g := display.Plain(items...)
			g.Blend = mode
			items = []display.Item{g}
		}
		out = append(out, items...)
	}
	if blends != nil && css.Word(blends) != "normal" && len(out) > 1 { // blended among themselves only
		g := display.Plain(out...)
		g.Blend = "isolate"
		out = []display.Item{g}
	}
	return out
}

// painted fills a shape, or the letters of a box.
func (p *painter) painted(b *box, clip geom.Round, text bool, brush display.Brush) []display.Item {
	if !text {
		if clip.Sharp() {
			r := clip.Rect
			return []display.Item{&display.Fill{Rect: &r, Brush: brush}}
		}
		return []display.Item{&display.Fill{Path: clip.Path(), Brush: brush}}
	}
	path := &geom.Path{}
	p.letters(b, path)
	if path.Empty() {
		return nil
	}
	return []display.Item{&display.Fill{Path: path, Brush: brush}}
}

// groundLayer is the i-th layer of a background: the box and its border box as painted, what it is clipped to, its
// picture, and whether it covers the canvas.
type groundLayer struct {
	box          layout.Rect
	border, clip geom.Rect
	image        []css.Token
	i            int
	canvas       bool
}

// layerBrush gives what one layer of a background is filled with, nil for nothing.
func (p *painter) layerBrush(b *box, l *groundLayer) display.Brush {
	if css.Word(l.image) == "none" {
		return nil
	}
	origin, _ := p.area(b, geom.Round{Rect: l.border}, "padding-box")
	if w := css.Word(layer(b.read.Value("background-origin"), l.i)); w != "" && w != "padding-box" {
		origin, _ = p.area(b, geom.Round{Rect: l.border}, w)
	}
	place := origin.Rect
	if l.canvas {
		place = p.snap(l.box)
	}
	if css.Word(layer(b.read.Value("background-attachment"), l.i)) == "fixed" {
		p.miss(b.el, "background-attachment: fixed")
	}
	picture := p.image(b, l.image)
	if picture == nil {
		return nil
	}
	t := p.placed(b, place, picture, "background", l.i)
	return t.brush(p, picture, l.clip)
}

// tiling is where the tiles of a picture lie.
type tiling struct {
	cell         geom.Rect
	stepX, stepY float64
}

// placed works out the size, the place and the repetition of a picture in an area (css-backgrounds-3,
// "background-size", "background-position", "background-repeat"); property is background or mask.
func (p *painter) placed(b *box, place geom.Rect, im *image, property string, i int) tiling {
	w, h := p.sized(b, place, im, layer(b.read.Value(property+"-size"), i))
	rx, ry := repeats(layer(b.read.Value(property+"-repeat"), i))
	if rx == "round" && w > 0 {
		w = place.W() / max(1, math.Round(place.W()/w))
	}
	if ry == "round" && h > 0 {
		h = place.H() / max(1, math.Round(place.H()/h))
	}
	var px0, py0 []css.Token
	if property == "background" {
		px0, py0 = layer(b.read.Value("background-position-x"), i), layer(b.read.Value("background-position-y"), i)
	} else {
		px0, py0 = bothAxes(layer(b.read.Value("mask-position"), i))
	}
	x := place.X0 + offsetIn(b.read, px0, place.W(), w)
	y := place.Y0 + offsetIn(b.read, py0, place.H(), h)
	t := tiling{stepX: w, stepY: h}
	space := func(room, size float64) (step float64, fits bool) {
		n := math.Floor(room / size)
		if n < 2 {
			return 0, false
		}
		return size + (room-n*size)/(n-1), true
	}
	switch rx {
	case "no-repeat":
		t.stepX = 0
	case "space":
		if step, ok := space(place.W(), w); ok {
			x, t.stepX = place.X0, step
		} else {
			t.stepX = 0
		}
	}
	switch ry {
	case "no-repeat":
		t.stepY = 0
	case "space":
		if step, ok := space(place.H(), h); ok {
			y, t.stepY = place.Y0, step
		} else {
			t.stepY = 0
		}
	}
	t.cell = geom.R(x, y, w, h)
	return t
}

// sized gives the size of one tile.
func (p *painter) sized(b *box, place geom.Rect, im *image, v []css.Token) (w, h float64) {
	nw, nh, ratio := im.w, im.h, im.ratio
	parts := css.Parts(v)
	word := ""
	if len(parts) == 1 {
		word = css.Word(parts[0])
	}
	switch {
	case (word == "cover" || word == "contain") && ratio > 0:
		w, h = place.W(), place.W()/ratio
		if (word == "cover") == (h < place.H()) {
			w, h = place.H()*ratio, place.H()
		}
		return w, h
	case word == "cover" || word == "contain":
		return place.W(), place.H()
	}
	given := [2]float64{-1, -1}
	for k, part := range parts {
		if k > 1 || css.Word(part) == "auto" {
			continue
		}
		if l, ok := b.read.Length(part); ok {
			given[k] = max(0, l.At([2]float64{place.W(), place.H()}[k]))
		}
	}
	w, h = given[0], given[1]
	switch {
	case w >= 0 && h >= 0:
	case w >= 0 && ratio > 0:
		h = w / ratio
	case w >= 0:
		if h = nh; h == 0 {
			h = place.H()
		}
	case h >= 0 && ratio > 0:
		w = h * ratio
	case h >= 0:
		if w = nw; w == 0 {
			w = place.W()
		}
	case nw > 0 && nh > 0:
		w, h = nw, nh
	case ratio > 0: // contain
		w, h = place.W(), place.W()/ratio
		if h > place.H() {
			w, h = place.H()*ratio, place.H()
		}
	default:
		w, h = place.W(), place.H()
	}
	return w, h
}

// brush gives the paint of the tiles for a clip.
func (t tiling) brush(p *painter, im *image, clip geom.Rect) display.Brush {
	if t.cell.Empty() || t.cell.W() < 1e-3 || t.cell.H() < 1e-3 {
		return nil
	}
	const slack = 1e-3
	once := (t.stepX == 0 || t.cell.X0 <= clip.X0+slack && t.cell.X1 >= clip.X1-slack) &&
		(t.stepY == 0 || t.cell.Y0 <= clip.Y0+slack && t.cell.Y1 >= clip.Y1-slack)
	covers := t.cell.X0 <= clip.X0+slack && t.cell.Y0 <= clip.Y0+slack && t.cell.X1 >= clip.X1-slack &&
		t.cell.Y1 >= clip.Y1-slack
	if im.gradient != nil && covers {
		return im.gradient(t.cell)
	}
	out := &display.Tiles{Cell: t.cell, StepX: t.stepX, StepY: t.stepY, Items: im.draw(t.cell)}
	if once {
		out.StepX, out.StepY = 0, 0
	}
	return out
}
