package paint

import (
	"math"
	"strings"

	"ziegel/core/css"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
)

// group gives the group that a stacking context is painted as, nil when nothing happens to it as a whole.
func (p *painter) group(b *box) *display.Group {
	g := display.Plain()
	special := false
	if b.Style.Opacity < 1 {
		g.Opacity, special = max(0, b.Style.Opacity), true
	}
	if m := b.Transform; m != nil {
		g.Matrix, special = geom.Matrix{A: m.A, B: m.B, C: m.C, D: m.D, E: m.E, F: m.F}, true
	}
	p.flat(b)
	if mode := b.read.Word("mix-blend-mode"); mode != "" && mode != "normal" {
		g.Blend, special = mode, true
	}
	if v := b.read.Value("filter"); v != nil && css.Word(v) != "none" {
		if g.Filters = p.filters(b, v); len(g.Filters) > 0 {
			special = true
		}
	}
	if v := b.read.Value("backdrop-filter"); v != nil && css.Word(v) != "none" && len(b.Rects) > 0 {
		if g.Backdrop = p.filters(b, v); len(g.Backdrop) > 0 {
			g.BackdropShape, special = p.round(b).Path(), true
		}
	}
	if v := b.read.Value("clip-path"); v != nil && css.Word(v) != "none" && len(b.Rects) > 0 {
		if path := p.clipPath(b, v); path != nil {
			if b.Transform != nil {
				path = path.Transform(g.Matrix)
			}
			g.Clips, special = append(g.Clips, path), true
		}
	}
	if v := b.read.Value("clip"); v != nil && b.OutOfFlow && len(b.Rects) > 0 {
		if path := p.oldClip(b, v); path != nil {
			g.Clips, special = append(g.Clips, path), true
		}
	}
	if v := b.read.Value("mask-image"); v != nil && css.Word(v) != "none" && len(b.Rects) > 0 {
		if g.Masks = p.masks(b, v); len(g.Masks) > 0 {
			special = true
		}
	}
	if b.read.Word("isolation") == "isolate" && blends(b) {
		g.Blend, special = "isolate", true
	}
	if !special {
		return nil
	}
	return g
}

// blends reports something in a box that blends with what lies below it.
func blends(b *box) bool {
	for _, k := range b.kids {
		if mode := k.read.Word("mix-blend-mode"); mode != "" && mode != "normal" || blends(k) {
			return true
		}
	}
	return false
}

// flat reports transforms in space, which are drawn flat.
func (p *painter) flat(b *box) {
	for _, t := range b.Style.Transform {
		switch t.Name {
		case "rotatex", "rotatey", "rotate3d", "matrix3d", "perspective", "translatez":
			p.miss(b.el, "transform: "+t.Name+"() in space")
		}
	}
}

// clipPath reads a basic shape (css-shapes-1) in a box, nil for none that can be drawn.
func (p *painter) clipPath(b *box, v []css.Token) *geom.Path {
	area := p.round(b)
	word := ""
	var shape []css.Token
	for _, part := range css.Parts(v) {
		if w := css.Word(part); w != "" {
			word = w
		} else {
			shape = part
		}
	}
	switch word {
	case "padding-box", "content-box":
		area, _ = p.area(b, area, word)
	case "", "border-box", "fill-box", "stroke-box":
	default:
		p.miss(b.el, "clip-path: "+css.Text(v))
	}
	if shape == nil {
		return area.Path()
	}
	r := area.Rect
	name, args, ok := css.Call(shape)
	if !ok {
		return nil
	}
	read := b.read
	length := func(part []css.Token, base float64) float64 {
		l, ok := read.Length(part)
		if !ok {
			return 0
		}
		return l.At(base)
	}
	switch name {
	case "inset":
		parts := css.Parts(args)
		radii := geom.Round{}
		for i, part := range parts {
			if css.Word(part) == "round" {
				radii = p.insetRadii(b, parts[i+1:], r)
				parts = parts[:i]
				break
			}
		}
		if len(parts) == 0 {
			return nil
		}
		pick := [][4]int{{0, 0, 0, 0}, {0, 1, 0, 1}, {0, 1, 2, 1}, {0, 1, 2, 3}}[min(len(parts), 4)-1]
		out := geom.Round{Rect: geom.Rect{X0: r.X0 + length(parts[pick[3]], r.W()), Y0: r.Y0 +
			length(parts[pick[0]], r.H()),
			X1: r.X1 - length(parts[pick[1]], r.W()), Y1: r.Y1 - length(parts[pick[2]], r.H())}, Radii: radii.Radii}
		if out.Empty() {
			return &geom.Path{}
		}
		return out.Fit().Path()
	case "circle", "ellipse":
		cx, cy, parts := center(css.Parts(args))
		c := geom.Point{X: placeOf(read, cx, r.X0, r.W()), Y: placeOf(read, cy, r.Y0, r.H())}
		radius := func(i int, near, far, base float64) float64 {
			if i >= len(parts) {
				return near
			}
			switch css.Word(parts[i]) {
			case "closest-side":
				return near
			case "farthest-side":
				return far
			}
			return length(parts[i], base)
		}
		l, ri, t, bo := math.Abs(c.X-r.X0), math.Abs(r.X1-c.X), math.Abs(c.Y-r.Y0), math.Abs(r.Y1-c.Y)
		if name == "circle" {
			n := radius(0, min(l, ri, t, bo), max(l, ri, t, bo), math.Hypot(r.W(), r.H())/math.Sqrt2)
			return geom.Ellipse(c.X, c.Y, n, n)
		}
		return geom.Ellipse(c.X, c.Y, radius(0, min(l, ri), max(l, ri), r.W()),
			radius(1, min(t, bo), max(t, bo), r.H()))
	case "polygon":
		out := &geom.Path{}
		for i, corner := range css.SplitCommas(args) {
			parts := css.Parts(corner)
			if w := ""; i == 0 && len(parts) == 1 {
				w = css.Word(parts[0])
				out.EvenOdd = w == "evenodd"
				continue
			}
			if len(parts) != 2 {
				return nil
			}
			x, y := r.X0+length(parts[0], r.W()), r.Y0+length(parts[1], r.H())
			if len(out.Ops) == 0 {
				out.MoveTo(x, y)
			} else {
				out.LineTo(x, y)
			}
		}
		out.ClosePath()
		return out
	case "path":
		for _, a := range css.SplitCommas(args) {
			if text := css.Text(a); strings.HasPrefix(text, `"`) || strings.HasPrefix(text, "'") {
				path, err := geom.ParsePath(css.Unquote(text))
				if err == nil {
					path.EvenOdd = strings.Contains(css.Text(args), "evenodd")
					return path.Transform(geom.Translate(r.X0, r.Y0).Mul(geom.Scale(p.zoom, p.zoom)))
				}
			}
		}
	}
	p.miss(b.el, "clip-path: "+css.Text(v))
	return nil
}

// insetRadii reads what follows "round".
func (p *painter) insetRadii(b *box, parts [][]css.Token, r geom.Rect) geom.Round {
	var axes [2][]float64
	axis := 0
	for _, part := range parts {
		if css.Text(part) == "/" {
			axis = 1
			continue
		}
		if l, ok := b.read.Length(part); ok {
			axes[axis] = append(axes[axis], l.At([2]float64{r.W(), r.H()}[axis]))
			if axis == 0 && !containsSlash(parts) {
				axes[1] = append(axes[1], l.At(r.H()))
			}
		}
	}
	out := geom.Round{}
	for i := range 4 {
		at := func(list []float64) float64 {
			if len(list) == 0 {
				return 0
			}
			return list[[][4]int{{0, 0, 0, 0}, {0, 1, 0, 1}, {0, 1, 2, 1}, {0, 1, 2, 3}}[min(len(list), 4)-1][i]]
		}
		out.Radii[i] = geom.Point{X: at(axes[0]), Y: at(axes[1])}
	}
	return out
}

func containsSlash(parts [][]css.Token) bool {
	for _, part := range parts {
		if css.Text(part) == "/" {
			return true
		}
	}
	return false
}

// oldClip reads clip: rect(top, right, bottom, left) (css-masking-1, "The clip property"), counted from the corner.
func (p *painter) oldClip(b *box, v []css.Token) *geom.Path {
	name, args, ok := css.Call(v)
	if !ok || name != "rect" {
		return nil
	}
	list := css.SplitCommas(args)
	if len(list) == 1 {
		list = css.Parts(args)
	}
	if len(list) != 4 {
		return nil
	}
	r := p.snap(b.Rects[0])
	at := [4]float64{0, r.W(), r.H(), 0}
	for i, part := range list {
		if n, ok := b.read.Px(part); ok {
			at[i] = n
		}
	}
	out := geom.Rect{X0: r.X0 + at[3], Y0: r.Y0 + at[0], X1: r.X0 + at[1], Y1: r.Y0 + at[2]}
	if out.Empty() {
		return &geom.Path{}
	}
	return geom.RectPath(out)
}

// masks reads mask layers, the lowest first (css-masking-1, "Layering Multiple Mask Images").
func (p *painter) masks(b *box, v []css.Token) []display.Mask {
	var out []display.Mask
	images := css.SplitCommas(v)
	shape := p.round(b)
	if sameShorthand(b.read, "mask-image", "mask-size") { // the shorthand: each layer holds all of it
		p.miss(b.el, "mask: "+css.Text(v)+" as one value")
	}
	for i := len(images) - 1; i >= 0; i-- {
		im := p.image(b, images[i])
		if im == nil {
			continue
		}
		origin := shape
		if w := css.Word(layer(b.read.Value("mask-origin"), i)); w != "" {
			origin, _ = p.area(b, shape, w)
		}
		clip, _ := p.area(b, shape, css.Word(layer(b.read.Value("mask-clip"), i)))
		t := p.placed(b, origin.Rect, im, "mask", i)
		brush := t.brush(p, im, clip.Rect)
		if brush == nil {
			continue
		}
		m := display.Mask{Fill: &display.Fill{Path: clip.Path(), Brush: brush}}
		m.Luminance = css.Word(layer(b.read.Value("mask-mode"), i)) == "luminance"
		switch w := css.Word(layer(b.read.Value("mask-composite"), i)); w {
		case "intersect":
			m.Intersect = true
		case "", "add":
		default:
			p.miss(b.el, "mask-composite: "+w)
		}
		out = append(out, m)
	}
	return out
}

func sameShorthand(read *css.Reader, a, z string) bool {
	x, y := css.Text(read.Value(a)), css.Text(read.Value(z))
	return x != "" && x == y
}
