package paint

import (
	"math"
	"strconv"
	"strings"

	"ziegel/core/css"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// borderImage paints the picture that stands for the borders of a box (css-backgrounds-3, 5): cut in nine by four
// lines, corners as large as the widths say, sides stretched or repeated between them, the middle when it is asked for.
// ok is false when there is none, or it cannot be drawn: the borders are painted then.
func (p *painter) borderImage(b *box, outer geom.Rect, widths [4]float64) (out []display.Item, ok bool) {
	source := b.read.Value("border-image-source")
	if source == nil || css.Word(source) == "none" {
		return nil, false
	}
	im := p.image(b, source)
	if im == nil {
		return nil, false
	}
	beyond := p.fourOf(b, "border-image-outset", func(i int, n float64) float64 { return n * widths[i] }, nil)
	area := geom.Rect{X0: outer.X0 - beyond[css.Left], Y0: outer.Y0 - beyond[css.Top],
		X1: outer.X1 + beyond[css.Right], Y1: outer.Y1 + beyond[css.Bottom]}
	w, h := im.w, im.h
	if w <= 0 || h <= 0 { // a gradient is as large as the area
		w, h = area.W(), area.H()
	}
	if w <= 0 || h <= 0 {
		return nil, true
	}
	along := func(i int, across, down float64) float64 {
		if i == css.Left || i == css.Right {
			return across
		}
		return down
	}
	slice := p.fourOf(b, "border-image-slice", func(_ int, n float64) float64 { return n * p.zoom },
		func(i int, l css.Len) float64 { return l.At(along(i, w, h)) })
	for i := range slice {
		slice[i] = max(0, min(slice[i], along(i, w, h)))
	}
	wide := p.fourOf(b, "border-image-width", func(i int, n float64) float64 { return n * widths[i] },
		func(i int, l css.Len) float64 { return l.At(along(i, area.W(), area.H())) })
	for i, part := range four(css.Parts(b.read.Value("border-image-width"))) {
		if css.Word(part) == "auto" {
			wide[i] = slice[i]
		}
		wide[i] = max(0, wide[i])
	}
	if f := min(1, area.W()/(wide[css.Left]+wide[css.Right]), area.H()/(wide[css.Top]+wide[css.Bottom])); f < 1 {
		for i := range wide {
			wide[i] *= f
		}
	}
	n := &nine{im: im, w: w, h: h, area: area, slice: slice, wide: wide}
	n.across, n.down = repeats(b.read.Value("border-image-repeat"))
	if b.read.Value("border-image-repeat") == nil {
		n.across, n.down = "stretch", "stretch"
	}
	for _, part := range css.Parts(b.read.Value("border-image-slice")) {
		n.fill = n.fill || css.Word(part) == "fill"
	}
	return n.items(), true
}

// four repeats one to four values for the four sides, from the top on.
func four(parts [][]css.Token) [4][]css.Token {
	switch len(parts) {
	case 0:
		return [4][]css.Token{}
	case 1:
		return [4][]css.Token{parts[0], parts[0], parts[0], parts[0]}
	case 2:
		return [4][]css.Token{parts[0], parts[1], parts[0], parts[1]}
	case 3:
		return [4][]css.Token{parts[0], parts[1], parts[2], parts[1]}
	}
	return [4][]css.Token{parts[0], parts[1], parts[2], parts[3]}
}

// initialOf are the values of properties that nobody gave: slices of the whole picture, borders as wide as they are.
var initialOf = map[string]string{"border-image-slice": "100%", "border-image-width": "1", "border-image-outset": "0"}

// fourOf reads a number or a length for each side. number says what a bare number means; length what a length does,
// nil for its px.
func (p *painter) fourOf(b *box, property string, number func(i int, n float64) float64,
	length func(i int, l css.Len) float64) (out [4]float64) {
	v := b.read.Value(property)
	if v == nil {
		v = css.Tokenize(initialOf[property])
	}
	var parts [][]css.Token
	for _, part := range css.Parts(v) {
		if css.Word(part) != "fill" {
			parts = append(parts, part)
		}
	}
	for i, part := range four(parts) {
		if n, err := strconv.ParseFloat(strings.TrimSpace(css.Text(part)), 64); err == nil {
			out[i] = number(i, n)
		} else if l, ok := b.read.Length(part); ok {
			if length == nil {
				out[i] = l.At(0)
			} else {
				out[i] = length(i, l)
			}
		}
	}
	return out
}

// nine is a picture that is cut in nine.
type nine struct {
	im           *image
	w, h         float64 // of the picture
	area         geom.Rect
	slice, wide  [4]float64
	across, down string // how sides repeat
	fill         bool
}

func (n *nine) items() []display.Item {
	var out []display.Item
	from := [2][4]float64{
		{0, n.slice[css.Left], n.w - n.slice[css.Right], n.w},
		{0, n.slice[css.Top], n.h - n.slice[css.Bottom], n.h},
	}
	to := [2][4]float64{
		{n.area.X0, n.area.X0 + n.wide[css.Left], n.area.X1 - n.wide[css.Right], n.area.X1},
		{n.area.Y0, n.area.Y0 + n.wide[css.Top], n.area.Y1 - n.wide[css.Bottom], n.area.Y1}}
	for row := range 3 {
		for col := range 3 {
			if row == 1 && col == 1 && !n.fill {
				continue
			}
			src := geom.Rect{X0: from[0][col], X1: from[0][col+1], Y0: from[1][row], Y1: from[1][row+1]}
			dst := geom.Rect{X0: to[0][col], X1: to[0][col+1], Y0: to[1][row], Y1: to[1][row+1]}
			if src.W() <= 0 || src.H() <= 0 || dst.W() <= 0 || dst.H() <= 0 {
				continue
			}
			out = append(out, n.piece(src, dst, row, col))
		}
	}
	return out
}

// piece fills a part of the area with a part of the picture.
func (n *nine) piece(src, dst geom.Rect, row, col int) display.Item {
	kx, ky := dst.W()/src.W(), dst.H()/src.H()
	across, down := "stretch", "stretch"
	if col == 1 { // a side is scaled as its border is thick; the middle as the sides are
		across = n.across
		if across != "stretch" {
			kx = n.scaleOf(row, ky, css.Top, css.Bottom)
		}
	}
	if row == 1 {
		down = n.down
		if down != "stretch" {
			ky = n.scaleOf(col, kx, css.Left, css.Right)
		}
	}
	tile := geom.R(dst.X0, dst.Y0, src.W()*kx, src.H()*ky)
	t := &display.Tiles{}
	tile.X0, tile.X1, t.StepX = laidOut(across, dst.X0, dst.W(), tile.W())
	tile.Y0, tile.Y1, t.StepY = laidOut(down, dst.Y0, dst.H(), tile.H())
	t.Cell = tile
	kx, ky = tile.W()/src.W(), tile.H()/src.H()
	t.Items = n.cut(src, tile, kx, ky)
	r := dst
	return &display.Fill{Rect: &r, Brush: t}
}

// cut draws a part of the picture into a tile: of a bitmap its pixels and no others, of a gradient one that is drawn
// large and scaled, since its angle is that of the whole.
func (n *nine) cut(src, tile geom.Rect, kx, ky float64) []display.Item {
	if n.im.part != nil {
		if part := n.im.part(src); part != nil {
			return part.draw(tile)
		}
	}
	if n.im.gradient != nil {
		g := display.Plain(n.im.draw(geom.R(0, 0, n.w, n.h))...)
		g.Matrix = geom.Translate(tile.X0-src.X0*kx, tile.Y0-src.Y0*ky).Mul(geom.Scale(kx, ky))
		return []display.Item{g}
	}
	return n.im.draw(geom.R(tile.X0-src.X0*kx, tile.Y0-src.Y0*ky, n.w*kx, n.h*ky))
}

// scaleOf is how much a tile of a side is scaled along it: as across it; that of the middle as the first side is, else
// as the second, else not at all.
func (n *nine) scaleOf(at int, across float64, first, second int) float64 {
	switch {
	case at != 1:
		return across
	case n.wide[first] > 0 && n.slice[first] > 0:
		return n.wide[first] / n.slice[first]
	case n.wide[second] > 0 && n.slice[second] > 0:
		return n.wide[second] / n.slice[second]
	}
	return 1
}

// laidOut gives the first tile on one axis of a room, and the step to the next, 0 for none.
func laidOut(how string, from, room, size float64) (x0, x1, step float64) {
	switch how {
	case "repeat": // one stands in the middle
		x0 = from + (room-size)/2
		x0 -= math.Ceil((x0-from)/size) * size
		return x0, x0 + size, size
	case "round":
		size = room / max(1, math.Round(room/size))
		return from, from + size, size
	case "space":
		count := math.Floor(room/size + 1e-9)
		if count < 1 { // none fits, none is there
			return from - 2*size, from - size, 0
		}
		gap := (room - count*size) / (count + 1)
		return from + gap, from + gap + size, size + gap
	}
	return from, from + room, 0
}
