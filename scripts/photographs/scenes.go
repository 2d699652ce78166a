package main

import "math"

// light is the hour: the sky's top and horizon, the sun's color, how strong it is.
type light struct {
	top, low, sun, shade rgb
	exposure, warmth     float64
}

var hours = map[string]light{
	"dawn":  {hex(0x5b7fa8), hex(0xf3c9a5), hex(0xffc58a), hex(0x41506b), 1.15, .5},
	"noon":  {hex(0x3f7fc4), hex(0xcfe4f2), hex(0xfff6e2), hex(0x50708c), 1.15, .1},
	"dusk":  {hex(0x2b3561), hex(0xf0925a), hex(0xff8a4a), hex(0x2c2b45), 1.2, .8},
	"grey":  {hex(0x8d99a4), hex(0xd5d9da), hex(0xe8e8e4), hex(0x66707a), 1.0, -.1},
	"night": {hex(0x0b1426), hex(0x2a4264), hex(0xdfe9ff), hex(0x101a2c), 1.3, -.3},
}

// sky paints the air from the top down to the horizon, with clouds and the glow of the sun.
func (p *picture) sky(l light, horizon, cloud, sunX, sunY float64) {
	p.each(func(x, y float64) (rgb, float64) {
		t := math.Pow(clamp(y/horizon), 1.4)
		c := mix(l.top, l.low, t)
		puff := p.n.fbm(x*2.2+9, y*5+3, 6)
		body := step(.52-.12*cloud, .74, puff) * cloud
		lit := mix(l.shade, l.sun, step(.4, .8, p.n.fbm(x*2.2+9.15, y*5+2.8, 6)+.25*(1-y/horizon)))
		return mix(c, mix(lit, l.low, .35), body*.85), 1
	})
	p.glow(sunX, sunY, .16, l.sun.mul(.9))
	p.glow(sunX, sunY, .5, l.sun.mul(.22))
}

// water lies below the horizon: it shows the sky, broken by waves that grow toward the eye.
func (p *picture) water(l light, horizon, shore, sunX float64) {
	p.each(func(x, y float64) (rgb, float64) {
		if y < horizon || y > shore {
			return rgb{}, 0
		}
		depth := (y - horizon) / (1.02 - horizon)
		scale := 1 / (depth + .03)
		wave := p.n.fbm(x*3*scale+5, 14*math.Log(depth+.03)*3, 4)
		c := mix(l.low, mix(l.top, l.shade, .55), .25+.75*math.Sqrt(depth)).mul(.55 + .75*wave)
		path := math.Exp(-math.Pow((x-sunX)/(.05+.35*depth), 2)) * step(.5, .68, wave)
		return c.add(l.sun.mul(1.1 * path)), 1
	})
}

func (p *picture) sand(l light, shore float64) {
	p.each(func(x, y float64) (rgb, float64) {
		edge := shore + .02*(p.n.fbm(x*2+40, 1, 3)-.5)
		if y < edge {
			return rgb{}, 0
		}
		depth := (y - edge) / (1 - edge + .001)
		ripple := p.n.fbm(x*9/(depth+.3), 60*math.Log(depth+.4)+4*p.n.at(x*3, y*3), 3)
		wet := step(.25, 0, depth)
		c := mix(hex(0xc9b48e), l.low, .2).mul(.45 + .6*ripple)
		return mix(c, l.low.mul(.6), wet*.6).by(mix(rgb{1, 1, 1}, l.sun, .35)), 1
	})
}

// hillRange is hills one behind another: where the first and the last stand, how many and how rough they are, and the
// color of the nearest.
type hillRange struct {
	from, to float64
	count    int
	rough    float64
	near     rgb
	wooded   bool
}

// ridges draws hills, each paler than the one before it.
func (p *picture) ridges(l light, h hillRange) {
	from, to, count, rough, near, wooded := h.from, h.to, h.count, h.rough, h.near, h.wooded
	for k := range count {
		t := float64(k) / float64(max(1, count-1))
		base := from + (to-from)*t
		seed := float64(k)*13.7 + 3
		height := func(x float64) float64 {
			h := base - (p.n.fbm(x*1.6+seed, seed, 5)-.5)*rough*(1.1-.5*t)
			if wooded && t > .4 {
				h -= .035 * t * math.Pow(p.n.fbm(x*60+seed, 2, 2), 2) * 1.6
			}
			return h
		}
		p.fill(func(x, y float64) float64 { return height(x) - y }, .002*(1-t), func(x, y float64) rgb {
			slope := (height(x+.01) - height(x-.01)) * 9
			c := near.mul((.55 + .5*p.n.fbm(x*20, y*26+seed, 4)) * (1 + .5*clamp(slope)))
			return mix(c.by(mix(rgb{1, 1, 1}, l.sun, .4)), mix(l.low, l.top, .25), (1-t)*.88)
		})
	}
}

func (p *picture) stars(count int) {
	for range count {
		p.glow(
			(p.rnd.Float64()-.5)*1.8,
			p.rnd.Float64()*.6,
			.0012+.0012*p.rnd.Float64(),
			rgb{.8, .85, 1}.mul(.3+p.rnd.Float64()),
		)
	}
}

func sea(hour string, cloud, sunX, sunY, shore float64) func(p *picture) light {
	return func(p *picture) light {
		l := hours[hour]
		p.sky(l, .46, cloud, sunX, sunY)
		if hour == "night" {
			p.stars(160)
			p.fill(circle(sunX, sunY, .035), .003, func(x, y float64) rgb { return l.sun.mul(1.5) })
		}
		p.water(l, .46, shore+.03, sunX)
		if shore < 1 {
			p.sand(l, shore)
		}
		return l
	}
}

// cover is what stands or lies on hills.
type cover int

const (
	bare cover = iota
	trees
	snow // and trees
)

func hills(hour string, cloud float64, near uint32, rough float64, on cover) func(p *picture) light {
	return func(p *picture) light {
		l := hours[hour]
		p.sky(l, .62, cloud, -.3, .34)
		p.ridges(l, hillRange{.46, .9, 5, rough, hex(near), on != bare})
		if on == snow {
			for range 900 {
				x, y := (p.rnd.Float64()-.5)*2, p.rnd.Float64()
				p.glow(x, y, .0015+.002*p.rnd.Float64()*y, rgb{.6, .65, .7}.mul(p.rnd.Float64()))
			}
		}
		return l
	}
}

// marram is grass on a dune, near and sharp before a shore that is neither.
func marram(hour string) func(p *picture) light {
	return func(p *picture) light {
		l := sea(hour, .5, .3, .32, .62)(p)
		p.blur(.02, 0, 1)
		p.fill(func(x, y float64) float64 { return .78 + .12*math.Sin(x*2+1) - y }, .01, func(x, y float64) rgb {
			return hex(0xb79c6c).mul(.5 + .7*p.n.fbm(x*40, y*40, 3)).by(mix(rgb{1, 1, 1}, l.sun, .4))
		})
		for range 420 {
			x := (p.rnd.Float64() - .5) * 1.7
			y := .80 + .12*math.Sin(x*2+1) + .2*p.rnd.Float64()
			lean, tall := .05+.12*p.rnd.Float64(), .16+.22*p.rnd.Float64()
			c := mix(
				hex(0x5d6b35),
				hex(0xc7b36b),
				p.rnd.Float64(),
			).mul(.5 + .8*p.rnd.Float64()).
				by(mix(rgb{1, 1, 1}, l.sun, .5))
			p.blade(x, y, lean, tall, c)
		}
		return l
	}
}

func (p *picture) blade(x0, y0, lean, tall float64, c rgb) {
	steps := int(tall * float64(p.h))
	for s := range steps {
		t := float64(s) / float64(steps)
		x, y := x0+lean*t*t, y0-tall*t*(1-.15*t)
		width := .0035 * (1 - t)
		i0, i1 := int((x-width)*float64(p.h)+float64(p.w)/2), int((x+width)*float64(p.h)+float64(p.w)/2)
		j := int(y * float64(p.h))
		for i := max(0, i0); i <= min(p.w-1, i1); i++ {
			if j >= 0 && j < p.h {
				p.px[j*p.w+i] = mix(p.px[j*p.w+i], c.mul(.6+.6*t), .85)
			}
		}
	}
}

// kite is a sail of two halves in the air, lit from one side.
func kite(hour string, color uint32, size float64) func(p *picture) light {
	return func(p *picture) light {
		l := hours[hour]
		p.sky(l, 1.15, .9, -.5, .9)
		p.blur(.006, 0, 1)
		c := hex(color)
		x, y, s := .14, .36, size
		if p.w < p.h {
			x, s = -.02, size*.8
		}
		p.fill(polygon(x-s, y+.28*s, x+.02, y-.5*s, x+.05, y+.5*s), .002, func(px, py float64) rgb {
			return c.mul(.55 + .25*math.Sin((px-x)*60)*.2 + .3*p.n.fbm(px*14, py*14, 3))
		})
		p.fill(polygon(x+s*1.02, y+.08*s, x+.02, y-.5*s, x+.05, y+.5*s), .002, func(px, py float64) rgb {
			return c.mul(.95 + .3*p.n.fbm(px*14, py*14, 3)).add(l.sun.mul(.12))
		})
		dark := hex(0x1b1b1e)
		p.fill(
			either(
				line(x-s, y+.28*s, x+.05, y+.1*s, .006),
				line(x+s*1.02, y+.08*s, x+.05, y+.1*s, .006),
				line(x+.02, y-.5*s, x+.05, y+.5*s, .007),
			),
			.001,
			func(_, _ float64) rgb { return dark },
		)
		p.fill(line(x+.045, y+.3*s, -.75, 1.05, .0016), .001, func(_, _ float64) rgb { return dark })
		for k := range 3 {
			fx := x + .05
			for t := 0.0; t < 1; t += .004 {
				dx := fx + .05*float64(k-1)*t + .03*math.Sin(t*9+float64(k))*t
				p.dot(dx, y+.5*s+t*.36, .006*(1-t*.5), mix(c, hex(0xf2d15c), float64(k)/2).mul(.8))
			}
		}
		return l
	}
}

// dot paints a small disc without visiting the whole plane.
func (p *picture) dot(x, y, r float64, c rgb) {
	h := float64(p.h)
	for j := int((y - r) * h); j <= int((y+r)*h); j++ {
		for i := int((x-r)*h) + p.w/2; i <= int((x+r)*h)+p.w/2; i++ {
			inside := i >= 0 && j >= 0 && i < p.w && j < p.h &&
				math.Hypot((float64(i)-float64(p.w)/2)/h-x, float64(j)/h-y) < r
			if inside {
				p.px[j*p.w+i] = c
			}
		}
	}
}

// bokeh is a place at night out of focus: round spots of light, larger where they are nearer.
func bokeh(ground uint32, colors []uint32, count int, front func(p *picture)) func(p *picture) light {
	return func(p *picture) light {
		l := hours["night"]
		p.each(func(x, y float64) (rgb, float64) {
			return mix(l.top, hex(ground).mul(.25), step(.3, 1, y)).mul(.8 + .6*p.n.fbm(x*2, y*2, 3)), 1
		})
		for k := range count {
			t := float64(k) / float64(count)
			x, y, r := (p.rnd.Float64()-.5)*1.9, .12+.7*p.rnd.Float64(), .012+.05*t*p.rnd.Float64()
			c := hex(colors[p.rnd.Intn(len(colors))]).mul(.5 + 1.2*p.rnd.Float64())
			rim := circle(x, y, r)
			p.each(func(px, py float64) (rgb, float64) {
				d := rim(px, py)
				return c.mul(.8 + .5*step(-r*.3, 0, d)), .55 * step(.003, -.003, d)
			})
		}
		p.blur(.009, 0, 1)
		if front != nil {
			front(p)
		}
		return l
	}
}

func crowd(p *picture) {
	for row := range 4 {
		t := float64(row) / 3
		for k := -14; k < 15; k++ {
			x := float64(k)*.075*(1+t*.5) + .05*(p.rnd.Float64()-.5)
			y := .74 + .09*t + .03*p.rnd.Float64()
			r := .026 + .016*t
			dark := mix(hex(0x241c33), hex(0x050508), t)
			body := either(circle(x, y, r), box(x-r*1.8, y+r*.9, x+r*1.8, 1.1, r))
			if p.rnd.Float64() < .2 {
				body = either(body, line(x+r*1.4, y+r*1.4, x+r*(1+p.rnd.Float64()), y-r*4, r*.7))
			}
			p.fill(
				body,
				.003,
				func(px, py float64) rgb { return dark.add(hex(0xff9a5a).mul(.05 * step(y+r, y-r, py))) },
			)
		}
	}
}

// stage has beams of light over a crowd.
func stage(colors []uint32) func(p *picture) light {
	return func(p *picture) light {
		l := hours["night"]
		p.each(func(x, y float64) (rgb, float64) { return hex(0x0a0a14).mul(1 + y), 1 })
		for k, v := range colors {
			x0 := (float64(k)/float64(max(1, len(colors)-1)) - .5) * 1.3
			tilt := -x0*.5 + .3*(p.rnd.Float64()-.5)
			c := hex(v)
			p.each(func(x, y float64) (rgb, float64) {
				center := x0 + tilt*y
				width := .012 + .13*y
				beam := math.Exp(
					-math.Pow((x-center)/width, 2),
				) * (1.1 - .8*y) * (.6 + .7*p.n.fbm(x*4+float64(k), y*4, 4))
				at := p.px[min(p.h-1, int(y*float64(p.h)))*p.w+min(p.w-1, int(x*float64(p.h)+float64(p.w)/2))]
				return at.add(c.mul(.9 * beam)), 1
			})
			p.glow(x0, .02, .03, c.mul(2))
		}
		p.each(func(x, y float64) (rgb, float64) {
			return hex(0xb58cff).mul(.2), .5 * step(.75, .6, y) * step(.45, .62, y) * p.n.fbm(x*3, y*9, 4)
		})
		crowd(p)
		return l
	}
}

// room is a wall and a floor with the light of a window on them, and what stands there.
func room(wall, floor uint32, hour string, things func(p *picture, l light)) func(p *picture) light {
	return func(p *picture) light {
		l := hours[hour]
		p.each(func(x, y float64) (rgb, float64) {
			if y < .7 {
				return hex(wall).mul(.42 + .12*p.n.fbm(x*3, y*3, 4) - .12*x), 1
			}
			board := math.Floor((x / (y - .35)) * 3)
			grain := p.n.fbm(x/(y-.35)*20+board*7, y*30, 4)
			return hex(floor).mul((.3 + .25*grain) * (.85 + .15*math.Mod(math.Abs(board), 2))), 1
		})
		p.fill(box(-2, .685, 2, .7, 0), .001, func(x, y float64) rgb { return hex(wall).mul(.62) })
		window := func(x, y float64) float64 { // slanted, with a cross in it
			u := x + (y-.35)*.55
			d := box(-.42, .1, .12, .6, 0)(u, y)
			cross := either(box(-.165, 0, -.135, 1, 0), box(-1, .33, 1, .355, 0))(u, y)
			return max(d, -cross)
		}
		p.each(func(x, y float64) (rgb, float64) {
			a := step(.012, -.012, window(x, y)) * step(.72, .55, y)
			at := p.px[min(p.h-1, int(y*float64(p.h)))*p.w+min(p.w-1, max(0, int(x*float64(p.h)+float64(p.w)/2)))]
			return at.mul(1 + 1.1*a).by(mix(rgb{1, 1, 1}, l.sun, .6*a)), 1
		})
		things(p, l)
		return l
	}
}

func (p *picture) shadow(x0, y0, rx, ry float64) {
	p.each(func(x, y float64) (rgb, float64) {
		d := math.Hypot((x-x0)/rx, (y-y0)/ry)
		return rgb{.02, .02, .025}, .6 * step(1.15, .2, d)
	})
}

// solid paints a thing of one color, round by its shade from left to right.
func (p *picture) solid(shape func(x, y float64) float64, c uint32, x0, width float64) {
	p.fill(shape, .0015, func(x, y float64) rgb {
		u := (x - x0) / width
		return hex(c).mul((1 - .65*clamp(u+.3)) * (.85 + .3*p.n.fbm(x*30, y*30, 3)))
	})
}
