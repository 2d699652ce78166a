package main

import (
	"image"
	"image/color"
	"math"
	"math/rand"
)

// rgb is light in linear sRGB, 0..1 and above.
type rgb struct{ r, g, b float64 }

func (c rgb) mul(f float64) rgb { return rgb{c.r * f, c.g * f, c.b * f} }
func (c rgb) add(d rgb) rgb     { return rgb{c.r + d.r, c.g + d.g, c.b + d.b} }
func (c rgb) by(d rgb) rgb      { return rgb{c.r * d.r, c.g * d.g, c.b * d.b} }

func mix(a, b rgb, t float64) rgb {
	t = clamp(t)
	return rgb{a.r + (b.r-a.r)*t, a.g + (b.g-a.g)*t, a.b + (b.b-a.b)*t}
}

func clamp(t float64) float64 { return max(0, min(1, t)) }

// step goes from 0 to 1 between two edges, without corners.
func step(from, to, x float64) float64 {
	t := clamp((x - from) / (to - from))
	return t * t * (3 - 2*t)
}

// hex reads a color as typed in CSS, without the sign.
func hex(v uint32) rgb {
	linear := func(b uint32) float64 { return math.Pow(float64(b&255)/255, 2.2) }
	return rgb{linear(v >> 16), linear(v >> 8), linear(v)}
}

// noise is smooth random height over the plane, the same for the same seed.
type noise struct{ perm [512]int }

func newNoise(seed int64) *noise {
	n := &noise{}
	for i, p := range rand.New(rand.NewSource(seed)).Perm(256) {
		n.perm[i], n.perm[i+256] = p, p
	}
	return n
}

func (n *noise) at(x, y float64) float64 {
	xi, yi := int(math.Floor(x)), int(math.Floor(y))
	xf, yf := x-float64(xi), y-float64(yi)
	h := func(i, j int) float64 { return float64(n.perm[n.perm[(xi+i)&255]+(yi+j)&255]) / 255 }
	u, v := xf*xf*(3-2*xf), yf*yf*(3-2*yf)
	return (h(0, 0)*(1-u)+h(1, 0)*u)*(1-v) + (h(0, 1)*(1-u)+h(1, 1)*u)*v
}

// fbm adds octaves of noise, 0..1.
func (n *noise) fbm(x, y float64, octaves int) float64 {
	sum, weight, total := 0.0, 1.0, 0.0
	for range octaves {
		sum, total = sum+weight*n.at(x, y), total+weight
		x, y, weight = x*2.03+17, y*2.03+31, weight/2
	}
	return sum / total
}

// picture is light on a plane. Places are given in 0..1 of its height, y down, x from the middle.
type picture struct {
	w, h int
	px   []rgb
	n    *noise
	rnd  *rand.Rand
}

func newPicture(w, h int, seed int64) *picture {
	return &picture{w, h, make([]rgb, w*h), newNoise(seed), rand.New(rand.NewSource(seed))}
}

// each visits every point; what paint gives is laid over it by its share.
func (p *picture) each(paint func(x, y float64) (rgb, float64)) {
	for j := range p.h {
		for i := range p.w {
			c, a := paint((float64(i)+.5-float64(p.w)/2)/float64(p.h), (float64(j)+.5)/float64(p.h))
			if a > 0 {
				p.px[j*p.w+i] = mix(p.px[j*p.w+i], c, a)
			}
		}
	}
}

// fill paints what lies inside a shape: inside gives the distance to its edge, negative within, soft how far it fades.
func (p *picture) fill(inside func(x, y float64) float64, soft float64, paint func(x, y float64) rgb) {
	edge := max(soft, 1/float64(p.h))
	p.each(func(x, y float64) (rgb, float64) {
		a := step(edge, -edge, inside(x, y))
		if a <= 0 {
			return rgb{}, 0
		}
		return paint(x, y), a
	})
}

// glow adds light around a point.
func (p *picture) glow(x0, y0, size float64, c rgb) {
	for j := range p.h {
		for i := range p.w {
			x, y := (float64(i)+.5-float64(p.w)/2)/float64(p.h), (float64(j)+.5)/float64(p.h)
			d := math.Hypot(x-x0, y-y0) / size
			p.px[j*p.w+i] = p.px[j*p.w+i].add(c.mul(1 / (1 + d*d*d*8)))
		}
	}
}

// blur softens rows between two heights, as what is not in focus; three box filters are near to a lens.
func (p *picture) blur(size float64, from, to float64) {
	r := int(size * float64(p.h) / 2)
	if r < 1 {
		return
	}
	y0, y1 := int(from*float64(p.h)), min(p.h, int(to*float64(p.h)))
	line := make([]rgb, max(p.w, p.h))
	pass := func(n int, at func(k int) *rgb) {
		for range 3 {
			sum, count := rgb{}, 0.0
			for k := range min(r, n) {
				sum, count = sum.add(*at(k)), count+1
			}
			for k := range n {
				if k+r < n {
					sum, count = sum.add(*at(k + r)), count+1
				}
				if k-r-1 >= 0 {
					sum, count = sum.add(at(k-r-1).mul(-1)), count-1
				}
				line[k] = sum.mul(1 / count)
			}
			for k := range n {
				*at(k) = line[k]
			}
		}
	}
	for j := y0; j < y1; j++ {
		pass(p.w, func(k int) *rgb { return &p.px[j*p.w+k] })
	}
	for i := range p.w {
		pass(y1-y0, func(k int) *rgb { return &p.px[(y0+k)*p.w+i] })
	}
}

// develop makes the print: exposure, a film's curve, warm lights and cool shades, a darker edge, grain.
func (p *picture) develop(exposure, warmth, grain float64) image.Image {
	out := image.NewRGBA(image.Rect(0, 0, p.w, p.h))
	aspect := float64(p.w) / float64(p.h)
	for j := range p.h {
		for i := range p.w {
			x, y := (float64(i)/float64(p.w)-.5)*aspect, float64(j)/float64(p.h)-.5
			c := p.px[j*p.w+i].mul(exposure * (1 - .35*(x*x+y*y)))
			light := clamp(.2126*c.r + .7152*c.g + .0722*c.b)
			c = c.by(
				mix(
					rgb{1 - warmth*.10, 1, 1 + warmth*.16},
					rgb{1 + warmth*.10, 1, 1 - warmth*.12},
					step(0, .6, light),
				),
			)
			g := p.rnd.NormFloat64() * grain * (1 - light*.6)
			film := func(v float64) uint8 {
				v = v * (2.51*v + .03) / (v*(2.43*v+.59) + .14)
				return uint8(255*clamp(math.Pow(clamp(v), 1/2.2)+g) + .5)
			}
			out.SetRGBA(i, j, color.RGBA{film(c.r), film(c.g), film(c.b), 255})
		}
	}
	return out
}

// Shapes: the distance to their edges, negative inside.

func circle(x0, y0, r float64) func(x, y float64) float64 {
	return func(x, y float64) float64 { return math.Hypot(x-x0, y-y0) - r }
}

func ellipse(x0, y0, rx, ry float64) func(x, y float64) float64 {
	return func(x, y float64) float64 { return (math.Hypot((x-x0)/rx, (y-y0)/ry) - 1) * min(rx, ry) }
}

func box(x0, y0, x1, y1, round float64) func(x, y float64) float64 {
	return func(x, y float64) float64 {
		dx := math.Abs(x-(x0+x1)/2) - (x1-x0)/2 + round
		dy := math.Abs(y-(y0+y1)/2) - (y1-y0)/2 + round
		return math.Hypot(max(dx, 0), max(dy, 0)) + min(max(dx, dy), 0) - round
	}
}

func polygon(points ...float64) func(x, y float64) float64 {
	n := len(points) / 2
	return func(x, y float64) float64 {
		d, in := math.Inf(1), false
		for i, j := 0, n-1; i < n; j, i = i, i+1 {
			ax, ay, bx, by := points[2*i], points[2*i+1], points[2*j], points[2*j+1]
			t := clamp(((x-ax)*(bx-ax) + (y-ay)*(by-ay)) / ((bx-ax)*(bx-ax) + (by-ay)*(by-ay)))
			d = min(d, math.Hypot(x-ax-(bx-ax)*t, y-ay-(by-ay)*t))
			if (ay > y) != (by > y) && x < (bx-ax)*(y-ay)/(by-ay)+ax {
				in = !in
			}
		}
		if in {
			return -d
		}
		return d
	}
}

func line(x0, y0, x1, y1, width float64) func(x, y float64) float64 {
	return func(x, y float64) float64 {
		t := clamp(((x-x0)*(x1-x0) + (y-y0)*(y1-y0)) / ((x1-x0)*(x1-x0) + (y1-y0)*(y1-y0)))
		return math.Hypot(x-x0-(x1-x0)*t, y-y0-(y1-y0)*t) - width/2
	}
}

func either(shapes ...func(x, y float64) float64) func(x, y float64) float64 {
	return func(x, y float64) float64 {
		d := math.Inf(1)
		for _, s := range shapes {
			d = min(d, s(x, y))
		}
		return d
	}
}
