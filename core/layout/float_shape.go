package layout

import (
	"math"

	"ziegel/core/css"
)

// shapeFloat gives the float that was placed last its shape, if its style has one; x and y are those of its margin
// box.
func (e *Engine) shapeFloat(k *Box, cw, x, y Px) {
	list := e.floats.list
	s := &k.style.ShapeOutside
	if s.Name == "" || len(list) == 0 {
		return
	}
	if f := &list[len(list)-1]; f.x0 == x && f.y0 == y && f.y1 > f.y0 {
		f.shape = shapeOf(s, shapeBox(k, s.Box))
		f.shape.margin = k.style.ShapeMargin.Resolve(cw).Float()
	}
}

// shapeBox gives the box that a shape is in, CSS px from the margin box.
func shapeBox(k *Box, name string) (r [4]float64) {
	in := k.margin
	var end [4]Px
	for side := range in {
		switch end[side] = in[side]; name {
		case "margin-box":
			end[side] = 0
		case "padding-box":
			end[side] += k.border[side]
		case "content-box":
			end[side] += k.border[side] + k.padding[side]
		}
	}
	w, h := k.W+in[css.Left]+in[css.Right], k.H+in[css.Top]+in[css.Bottom]
	return [4]float64{end[css.Left].Float(), end[css.Top].Float(), (w - end[css.Right] - end[css.Left]).Float(),
		(h - end[css.Bottom] - end[css.Top]).Float()}
}

func shapeOf(s *css.Shape, box [4]float64) *floatShape {
	x, y, w, h := box[0], box[1], box[2], box[3]
	at := func(l css.Len, base float64) float64 { return l.Resolve(css.FromFloat(base)).Float() }
	out := &floatShape{}
	switch s.Name {
	case "inset":
		x0, y0 := x+at(s.Sides[css.Left], w), y+at(s.Sides[css.Top], h)
		x1, y1 := max(x0, x+w-at(s.Sides[css.Right], w)), max(y0, y+h-at(s.Sides[css.Bottom], h))
		out.points = [][2]float64{{x0, y0}, {x1, y0}, {x1, y1}, {x0, y1}}
	case "polygon":
		for _, p := range s.Points {
			out.points = append(out.points, [2]float64{x + at(p[0], w), y + at(p[1], h)})
		}
	default:
		cx, cy := at(s.Center[0], w), at(s.Center[1], h)
		out.center = [2]float64{x + cx, y + cy}
		sides := [2][2]float64{{math.Abs(cx), math.Abs(w - cx)}, {math.Abs(cy), math.Abs(h - cy)}}
		if s.Name == "circle" {
			all := [2]float64{min(sides[0][0], sides[0][1], sides[1][0], sides[1][1]),
				max(sides[0][0], sides[0][1], sides[1][0], sides[1][1])}
			r := radiusOf(s.Radii[0], all, math.Hypot(w, h)/math.Sqrt2)
			out.radii = [2]float64{r, r}
			break
		}
		for i, base := range [2]float64{w, h} {
			near := [2]float64{min(sides[i][0], sides[i][1]), max(sides[i][0], sides[i][1])}
			out.radii[i] = radiusOf(s.Radii[i], near, base)
		}
	}
	return out
}

// radiusOf gives a radius; ends are the distances of the nearest and the farthest side.
func radiusOf(r css.ShapeRadius, ends [2]float64, base float64) float64 {
	switch r.Word {
	case "closest-side":
		return ends[0]
	case "farthest-side":
		return ends[1]
	}
	return r.Len.Resolve(css.FromFloat(base)).Float()
}

// reach gives how far the shape reaches to both sides between two heights; hit is false when it is not there.
func (f *floatShape) reach(y0, y1 float64) (x0, x1 float64, hit bool) {
	if f.points == nil {
		return f.reachEllipse(f.center, [2]float64{f.radii[0] + f.margin, f.radii[1] + f.margin}, y0, y1)
	}
	add := func(a, b float64, ok bool) {
		switch {
		case !ok:
		case !hit:
			x0, x1, hit = a, b, true
		default:
			x0, x1 = min(x0, a), max(x1, b)
		}
	}
	for i, p := range f.points {
		q := f.points[(i+1)%len(f.points)]
		if f.margin == 0 {
			add(reachEdge(p, q, y0, y1))
			continue
		}
		add(f.reachEllipse(p, [2]float64{f.margin, f.margin}, y0, y1))
		length := math.Hypot(q[0]-p[0], q[1]-p[1])
		if length == 0 {
			continue
		}
		dx, dy := (q[1]-p[1])/length*f.margin, (p[0]-q[0])/length*f.margin
		for _, side := range []float64{1, -1} {
			from, to := [2]float64{p[0] + side*dx, p[1] + side*dy}, [2]float64{q[0] + side*dx, q[1] + side*dy}
			add(reachEdge(from, to, y0, y1))
		}
	}
	return x0, x1, hit
}

func (f *floatShape) reachEllipse(center, radii [2]float64, y0, y1 float64) (x0, x1 float64, hit bool) {
	from, to := y0-center[1], y1-center[1]
	if radii[0] <= 0 || radii[1] <= 0 || from >= radii[1] || to <= -radii[1] {
		return 0, 0, false
	}
	w := radii[0]
	if from > 0 || to < 0 {
		near := min(math.Abs(from), math.Abs(to)) / radii[1]
		w *= math.Sqrt(max(0, 1-near*near))
	}
	return center[0] - w, center[0] + w, true
}

// reachEdge gives the part of an edge between two heights.
func reachEdge(p, q [2]float64, y0, y1 float64) (x0, x1 float64, hit bool) {
	if p[1] > q[1] {
		p, q = q, p
	}
	if p[1] >= y1 || q[1] <= y0 {
		return 0, 0, false
	}
	at := func(y float64) float64 {
		if y <= p[1] {
			return p[0]
		}
		if y >= q[1] {
			return q[0]
		}
		return p[0] + (q[0]-p[0])*(y-p[1])/(q[1]-p[1])
	}
	a, b := at(max(y0, p[1])), at(min(y1, q[1]))
	if p[1] == q[1] {
		a, b = p[0], q[0]
	}
	return min(a, b), max(a, b), true
}
