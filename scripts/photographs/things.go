package main

import "math"

func bed(p *picture, l light) {
	p.shadow(.22, .93, .62, .07)
	p.solid(box(-.3, .46, .78, .74, .03), 0x8a6a48, -.3, 1.3)
	p.fill(func(x, y float64) float64 {
		return box(-.32, .6, .8, .92, .05)(x, y) + .012*(p.n.fbm(x*6, y*6, 3)-.5)
	}, .003, func(x, y float64) rgb {
		fold := p.n.fbm(x*3+y*2, y*7, 4)
		return hex(0xe9e4da).mul((.35 + .55*fold) * (1.1 - .4*x)).by(mix(rgb{1, 1, 1}, l.sun, .3))
	})
	p.fill(
		box(-.24, .53, .08, .66, .05),
		.003,
		func(x, y float64) rgb { return hex(0xf2efe8).mul(.5 + .4*p.n.fbm(x*5, y*8, 3)) },
	)
	p.fill(
		box(-.32, .76, .8, .84, .01),
		.003,
		func(x, y float64) rgb { return hex(0x4f6f78).mul(.5 + .5*p.n.fbm(x*50, y*50, 2)) },
	)
	p.solid(box(-.62, .62, -.42, .93, .01), 0x7b5a3a, -.62, .4)
	p.solid(box(-.55, .5, -.49, .62, .02), 0xd8c8a8, -.55, .2)
	p.fill(
		polygon(-.6, .5, -.44, .5, -.48, .38, -.56, .38),
		.002,
		func(x, y float64) rgb { return hex(0xf6e2b4).mul(.95) },
	)
	p.glow(-.52, .45, .12, hex(0xffd08a).mul(.5))
}

func desk(p *picture, l light) {
	p.shadow(.1, .95, .7, .06)
	p.solid(box(-.5, .62, .82, .66, .005), 0xb88a58, -.5, 1.6)
	p.solid(either(box(-.46, .66, -.43, .97, 0), box(.74, .66, .77, .97, 0)), 0x3a3a3c, -.46, 1.3)
	p.solid(box(-.1, .36, .34, .6, .012), 0x26282c, -.1, .9)
	p.fill(box(-.085, .375, .325, .575, .004), .001, func(x, y float64) rgb {
		return mix(hex(0x9fc0d8), hex(0xdfe8ee), y*1.4).mul(.7 + .2*p.n.fbm(x*3, y*3, 3))
	})
	p.solid(box(.1, .6, .14, .625, 0), 0x26282c, .1, .1)
	for k := range 5 {
		x := .46 + float64(k)*.045
		p.solid(
			box(x, .44-.02*float64(k%3), x+.038, .62, .003),
			[]uint32{0xb3492f, 0x34586a, 0xd9b04a, 0x7b8a5a, 0xe6e0d2}[k],
			x,
			.08,
		)
	}
	p.solid(box(-.36, .54, -.28, .62, .012), 0xe8e2d6, -.36, .14)
	for k := range 9 {
		a := -1.2 + float64(k)*.3
		p.solid(line(-.32, .54, -.32+.16*math.Sin(a), .54-.2*math.Cos(a*.6), .012), 0x54733f, -.4, .3)
	}
}

func table(p *picture, l light) {
	p.shadow(0, .96, .6, .05)
	p.solid(ellipse(0, .72, .66, .09), 0xa9794c, -.66, 1.6)
	p.solid(box(-.04, .74, .04, 1, 0), 0x5f4128, -.04, .1)
	p.shadow(-.14, .71, .12, .03)
	p.solid(either(ellipse(-.14, .62, .07, .09), box(-.165, .47, -.115, .6, .01)), 0x4c6a70, -.22, .2)
	for k := range 14 {
		a := -1.3 + float64(k)*.2
		x, y := -.14+.24*math.Sin(a), .47-.24*math.Cos(a*.8)
		p.solid(line(-.14, .49, x, y, .005), 0x5c6f3c, -.4, .4)
		p.solid(ellipse(x, y, .025, .017), []uint32{0xd98a5a, 0xe9c46a, 0xf0e2cf, 0x7f9a5c}[k%4], x, .06)
	}
	p.shadow(.24, .725, .14, .025)
	p.solid(ellipse(.24, .7, .13, .035), 0xe9e4da, .1, .3)
	for k := range 4 {
		p.solid(
			circle(.17+.045*float64(k), .675-.012*float64(k%2), .032),
			[]uint32{0xc7512f, 0xd98a2f, 0xb53a2a, 0xd9a441}[k],
			.13+.045*float64(k),
			.08,
		)
	}
}

// plate is a dish from above on a table.
func plate(board uint32, food []uint32, seed float64) func(p *picture) light {
	return func(p *picture) light {
		l := hours["grey"]
		p.planks(hex(board), 5)
		p.shadow(.03, .53, .46, .46)
		p.fill(circle(0, .5, .4), .002, func(x, y float64) rgb { return hex(0xeeeae2).mul(.72 + .25*(-x-y+.5)) })
		p.fill(circle(0, .5, .3), .01, func(x, y float64) rgb { return hex(0xe2ddd2).mul(.66 + .2*(-x-y+.5)) })
		for k := range 150 {
			a, r := p.rnd.Float64()*2*math.Pi, .22*math.Sqrt(p.rnd.Float64())
			x, y, s := r*math.Cos(a), .5+r*math.Sin(a), .012+.045*p.rnd.Float64()*(1-r*2)
			c := hex(food[p.rnd.Intn(len(food))])
			shape := func(px, py float64) float64 {
				return ellipse(
					x,
					y,
					s,
					s*(.5+.5*p.n.at(float64(k), seed)),
				)(
					px,
					py,
				) + .008*(p.n.fbm(px*20+seed, py*20, 3)-.5)
			}
			p.fill(
				func(px, py float64) float64 { return shape(px-.006, py-.008) },
				.006,
				func(px, py float64) rgb { return c.mul(.15) },
			)
			p.fill(shape, .0015, func(px, py float64) rgb {
				shine := math.Exp(-math.Pow(math.Hypot(px-x+s*.3, py-y+s*.3)/(s*.35), 2))
				return c.mul(.55 + .5*p.n.fbm(px*40, py*40, 3)).add(rgb{.5, .5, .45}.mul(shine * .5))
			})
		}
		p.solid(either(line(.56, .2, .56, .8, .014), line(.55, .2, .55, .36, .03)), 0xb8bcc0, .5, .12)
		p.solid(either(line(-.55, .2, -.55, .8, .014), ellipse(-.55, .25, .03, .06)), 0xb8bcc0, -.6, .12)
		return l
	}
}

func cup(p *picture) light {
	l := hours["dawn"]
	p.planks(hex(0x9a7450), 4)
	p.shadow(.06, .56, .36, .34)
	p.fill(circle(0, .5, .3), .002, func(x, y float64) rgb { return hex(0xe9e4da).mul(.6 + .35*(-x-y+.5)) })
	p.fill(circle(0, .5, .19), .002, func(x, y float64) rgb { return hex(0xf4f1ea).mul(.7 + .5*(-x-y+.5)) })
	p.fill(circle(.005, .505, .165), .002, func(x, y float64) rgb {
		a, r := math.Atan2(y-.5, x), math.Hypot(x, y-.5)
		leaf := step(.45, .62, p.n.fbm(math.Sin(a*3+r*30)*1.5+r*9, math.Cos(a)*1.5, 3)) * step(.15, .05, r)
		return mix(hex(0x5b3518), hex(0xe8cda2), leaf).mul(.8)
	})
	p.solid(either(box(.26, .47, .38, .53, .02)), 0xefeae0, .2, .3)
	p.blur(.012, 0, .16)
	p.blur(.012, .86, 1)
	return l
}

func (p *picture) planks(c rgb, count float64) {
	p.each(func(x, y float64) (rgb, float64) {
		board := math.Floor(y*count + .2)
		f := y*count + .2 - board
		grain := p.n.fbm(x*2+board*31, y*46+3*p.n.fbm(x*3+board*9, y*6, 3), 4)
		tone := .55 + .5*grain + .16*p.n.at(board*3.3, 5)
		if f < .025 {
			tone *= .35
		}
		return c.mul(tone * (.95 - .3*x)), 1
	})
}

// texture is a surface, near.
func texture(kind string, c, d uint32) func(p *picture) light {
	return func(p *picture) light {
		l := hours["grey"]
		a, b := hex(c), hex(d)
		lit := func(x, y float64) float64 { return .95 - .35*x - .25*(y-.5) }
		switch kind {
		case "linen", "sail":
			p.each(func(x, y float64) (rgb, float64) {
				u, v := x*150+1.5*p.n.fbm(x*7, y*7, 3), y*150+1.5*p.n.fbm(x*7+9, y*7, 3)
				thread := .5 + .25*math.Sin(u*2.2)*math.Sin(v*2.2) + .25*math.Sin(u*1.1+v*1.1)*.4
				fold := p.n.fbm(x*1.6+y*.9, y*1.1-x*.5, 3)
				shade := .45 + 1.1*fold
				return mix(a, b, thread*.5).mul(shade * lit(x, y)), 1
			})
			if kind == "sail" {
				for _, at := range []float64{-.12, -.075} {
					for k := range 44 {
						y0 := float64(k)/40 - .02
						p.solid(line(at+.25*(y0-.5)+.004, y0, at+.25*(y0-.5)+.008, y0+.015, .006), 0xf2efe6, -1, 2)
					}
				}
				p.each(func(x, y float64) (rgb, float64) {
					e := x + .1 - .25*(y-.5)
					return rgb{}, .35 * math.Exp(-math.Pow(e/.006, 2))
				})
			}
		case "stone":
			p.each(func(x, y float64) (rgb, float64) {
				near, second, id := 9.0, 9.0, 0.0
				for j := -1; j < 8; j++ {
					for i := -7; i < 8; i++ {
						px := (float64(i) + .9*p.n.at(float64(i)*3.1+50, float64(j)*7.7)) * .17
						py := (float64(j) + .9*p.n.at(float64(i)*5.3, float64(j)*2.9+70)) * .17
						dist := math.Hypot((x-px)*.8, (y-py)*1.2)
						if dist < near {
							near, second, id = dist, near, float64(i*31+j*17)
						} else if dist < second {
							second = dist
						}
					}
				}
				joint := step(.0, .022, second-near)
				return mix(
						a.mul(.22),
						mix(a, b, p.n.at(id*.37, 3)).mul(.5+.7*p.n.fbm(x*16, y*16, 5)),
						joint,
					).mul(lit(x, y) * (.7 + .5*joint)),
					1
			})
		case "concrete":
			p.each(func(x, y float64) (rgb, float64) {
				v := .6 + .35*p.n.fbm(x*5, y*5, 6) + .1*p.n.fbm(x*70, y*70, 2)
				seam := min(math.Abs(math.Mod(x+3.1, .55)), math.Abs(math.Mod(y+.17, .5)))
				v *= .75 + .25*step(0, .006, seam)
				hole := math.Hypot(math.Mod(x+3.1, .55)-.06, math.Mod(y+.17, .5)-.06)
				v *= .4 + .6*step(.008, .014, hole)
				return a.mul(v * lit(x, y) * 1.1), 1
			})
		case "steel":
			p.each(func(x, y float64) (rgb, float64) {
				v := .55 + .3*p.n.fbm(x*1.5, y*140, 3) + .25*math.Exp(-math.Pow((x-.2+.3*y)/.25, 2))
				return mix(a, b, y).mul(v), 1
			})
			for j := range 3 {
				for i := range 5 {
					x, y := (float64(i)-2)*.34, .2+float64(j)*.3
					p.shadow(x+.012, y+.016, .06, .06)
					p.solid(
						polygon(x-.045, y, x-.022, y-.039, x+.022, y-.039, x+.045, y, x+.022, y+.039, x-.022, y+.039),
						0x9aa3aa,
						x-.05,
						.14,
					)
					p.solid(circle(x, y, .02), 0x59626a, x-.02, .06)
				}
			}
		case "paper":
			p.each(
				func(x, y float64) (rgb, float64) { return a.mul((.75 + .2*p.n.fbm(x*60, y*60, 3)) * lit(x, y)), 1 },
			)
			ink := func(s func(x, y float64) float64) {
				p.fill(s, .001, func(x, y float64) rgb { return b.mul(.8) })
			}
			for k := range 24 {
				ink(line(-.8+float64(k)*.07, 0, -.8+float64(k)*.07, 1, .0012))
				ink(line(-1, float64(k)*.07, 1, float64(k)*.07, .0012))
			}
			for k := range 3 {
				r := .12 + .07*float64(k)
				c := circle(-.16, .5, r)
				ink(func(x, y float64) float64 { return math.Abs(c(x, y)) - .003 })
			}
			for _, s := range [][4]float64{{-.6, .5, .7, .5}, {-.16, .1, -.16, .9}, {.2, .3, .62, .3}, {.2, .3, .2, .7},
				{.62, .3, .62, .7}, {.2, .7, .62, .7}, {.2, .3, .62, .7}, {.62, .3, .2, .7}} {
				ink(line(s[0], s[1], s[2], s[3], .006))
			}
			p.solid(line(.3, .86, .72, .76, .028), 0xd9a441, .3, .6)
			p.solid(line(.72, .76, .77, .748, .016), 0x2a2420, .7, .2)
		}
		return l
	}
}

// city is a row of houses against the last light, their windows lit.
func city(hour string, lit float64) func(p *picture) light {
	return func(p *picture) light {
		l := hours[hour]
		p.sky(l, .75, .6, -.2, .62)
		for row := range 3 {
			t := float64(row) / 2
			for x := -1.0; x < 1; {
				w, h := .07+.1*p.rnd.Float64(), .16+.3*p.rnd.Float64()*(1-.35*t)
				top := .86 + .1*t - h
				x0 := x
				c := mix(mix(l.low, l.top, .4), hex(0x141821), .3+.6*t)
				p.fill(
					box(x0, top, x0+w, 1.1, 0),
					.001,
					func(px, py float64) rgb { return c.mul(.85 + .3*p.n.fbm(px*20, py*20, 2)) },
				)
				for wy := top + .02; wy < 1; wy += .032 {
					for wx := x0 + .012; wx < x0+w-.02; wx += .026 {
						if p.rnd.Float64() < lit {
							p.dot(wx+.006, wy+.008, .0075, hex(0xffd08a).mul((.4+p.rnd.Float64())*(.4+.6*t)))
						}
					}
				}
				x += w + .004
			}
		}
		return l
	}
}

// bridge spans water between two shores.
func bridge(p *picture) light {
	l := hours["dawn"]
	p.sky(l, .46, .5, .35, .36)
	p.ridges(l, hillRange{.44, .46, 2, .05, hex(0x44524a), true})
	p.water(l, .46, 2, .35)
	dark := func(x, y float64) rgb { return mix(hex(0x3a4450), l.low, .25).mul(.8 + .3*p.n.fbm(x*30, y*30, 2)) }
	deck := .4
	p.fill(box(-2, deck, 2, deck+.022, 0), .001, dark)
	for _, x := range []float64{-.42, .42} {
		p.fill(
			either(
				box(x-.018, .1, x-.004, .62, 0),
				box(x+.012, .1, x+.026, .62, 0),
				box(x-.02, .14, x+.028, .16, 0),
				box(x-.03, .6, x+.04, .64, 0),
			),
			.001,
			dark,
		)
	}
	cable := func(x float64) float64 {
		u := math.Abs(x)
		if u < .42 {
			return .12 + .27*(1-math.Pow(u/.42, 2))
		}
		return .12 + (u-.42)*.62
	}
	p.fill(func(x, y float64) float64 { return math.Abs(y-cable(x)) - .003 }, .001, dark)
	for x := -1.0; x < 1; x += .04 {
		if y := cable(x); y < deck {
			p.fill(line(x, y, x, deck, .0015), .001, dark)
		}
	}
	return l
}

// boats lie in a harbour and see themselves in it.
func boats(hour string) func(p *picture) light {
	return func(p *picture) light {
		l := hours[hour]
		p.sky(l, .46, .6, -.3, .38)
		p.ridges(l, hillRange{.43, .45, 2, .06, hex(0x4a5448), true})
		p.water(l, .46, 2, -.3)
		for k, c := range []uint32{0xb3492f, 0x2f5d73, 0xe6e0d2, 0xd9a441} {
			x, y, s := -.58+float64(k)*.38, .6+.05*float64(k%2), .13+.02*float64(k%3)
			hull := polygon(x-s, y-.05, x+s*1.1, y-.06, x+s*.8, y+.02, x-s*.85, y+.02)
			mirror := func(px, py float64) float64 { return hull(px+.012*math.Sin(py*160), 2*(y+.02)-py) }
			p.fill(mirror, .01, func(px, py float64) rgb { return mix(hex(c), l.shade, .5).mul(.5) })
			p.fill(hull, .002, func(px, py float64) rgb { return hex(c).mul(.5 + .5*p.n.fbm(px*30, py*60, 3)) })
			p.fill(
				polygon(x-s, y-.05, x+s*1.1, y-.06, x+s*1.06, y-.048, x-s*.98, y-.038),
				.001,
				func(_, _ float64) rgb { return hex(0xf0ece2).mul(.8) },
			)
			p.solid(box(x-s*.3, y-.11, x+s*.25, y-.05, .006), 0xe9e4da, x-s*.3, s)
			p.solid(line(x, y-.05, x+.005, y-.36, .006), 0x6a4a2e, x, .02)
			p.fill(
				either(line(x+.005, y-.36, x-s, y-.05, .0012), line(x+.005, y-.36, x+s, y-.06, .0012)),
				.0008,
				func(_, _ float64) rgb { return hex(0x22262a) },
			)
		}
		return l
	}
}

func lighthouse(p *picture) light {
	l := sea("night", .5, -.55, .2, 2)(p)
	p.fill(func(x, y float64) float64 {
		return .62 - .25*math.Exp(-math.Pow((x-.34)/.22, 2)) + .05*p.n.fbm(x*8, 3, 4) - y + .1
	}, .002, func(x, y float64) rgb {
		return hex(0x1b1d22).mul(.6 + .8*p.n.fbm(x*20, y*20, 4))
	})
	p.solid(polygon(.3, .5, .38, .5, .368, .14, .312, .14), 0xd9d4c8, .3, .11)
	p.solid(polygon(.303, .4, .377, .4, .373, .3, .307, .3), 0xa8372a, .3, .11)
	p.solid(box(.305, .1, .375, .14, .004), 0x2a2c30, .3, .1)
	p.glow(.34, .12, .03, hex(0xfff0c0).mul(3))
	for _, side := range []float64{-1, 1} {
		p.each(func(x, y float64) (rgb, float64) {
			d := (x - .34) * side
			if d < 0 {
				return rgb{}, 0
			}
			return hex(0xfff0c0), .5 * math.Exp(-math.Pow((y-.12-.02*d)/(.01+.07*d), 2)) / (1 + 3*d)
		})
	}
	return l
}

// tents stand on a field in the evening, lit from within.
func tents(p *picture) light {
	l := hours["dusk"]
	p.sky(l, .6, .7, .2, .55)
	p.ridges(l, hillRange{.52, .6, 3, .06, hex(0x3a4630), true})
	p.fill(func(x, y float64) float64 { return .6 - y }, .002, func(x, y float64) rgb {
		return hex(
			0x4d5c30,
		).mul((.2 + .6*p.n.fbm(x*30/(y-.5), y*90, 3)) * (1.3 - y*.6)).
			by(mix(rgb{1, 1, 1}, l.sun, .4))
	})
	for k := range 11 {
		row := float64(k % 4)
		x, y, s := -.8+float64(k)*.16+.03*row, .6+.085*row, .06+.03*row
		c := []uint32{0xd9713a, 0xe9c46a, 0x3f8f8a, 0xb3492f}[k%4]
		p.shadow(x, y+.004, s*1.3, .02)
		p.fill(polygon(x-s, y, x, y-s*1.1, x+s, y), .002, func(px, py float64) rgb {
			return hex(c).mul(.35 + 1.1*clamp((py-y+s*1.1)/s)).add(hex(0xffb060).mul(.12))
		})
		p.fill(
			polygon(x-s*.2, y, x, y-s*.8, x+s*.2, y),
			.004,
			func(px, py float64) rgb { return hex(0xffd9a0).mul(.9) },
		)
		p.glow(x, y-s*.3, s*.7, hex(0xffa050).mul(.25))
	}
	return l
}

// portrait is somebody before a place out of focus, the light from one side.
func portrait(ground, hair, skin, cloth uint32, long float64) func(p *picture) light {
	return func(p *picture) light {
		l := hours["grey"]
		p.each(func(x, y float64) (rgb, float64) {
			return hex(ground).mul(.35 + .6*p.n.fbm(x*2.2, y*2.2, 3) - .15*x), 1
		})
		for range 9 {
			x, y, r := (p.rnd.Float64()-.5)*1.4, p.rnd.Float64()*.8, .05+.08*p.rnd.Float64()
			p.fill(circle(x, y, r), .02, func(px, py float64) rgb { return hex(ground).mul(.9 + .3*p.rnd.Float64()) })
		}
		p.blur(.05, 0, 1)
		side := func(x, y, x0, w float64) float64 { return 1.12 - .75*clamp((x-x0)/w+.45) }
		round := func(shape func(x, y float64) float64, c uint32, x0, w, rough float64) {
			p.fill(shape, .004, func(x, y float64) rgb {
				return hex(c).mul(side(x, y, x0, w) * (1 - rough/2 + rough*p.n.fbm(x*24, y*10, 4)))
			})
		}
		if long > 0 {
			round(either(ellipse(0, .4, .2, .24), box(-.2, .4, .2, .4+long, .1)), hair, -.02, .34, .5)
		}
		round(either(ellipse(0, 1.06, .46, .34), box(-.42, .98, .42, 1.4, .1)), cloth, 0, .8, .5)
		round(box(-.075, .52, .075, .8, .05), skin, .02, .2, .15)
		p.fill(ellipse(0, .72, .1, .05), .03, func(x, y float64) rgb { return hex(skin).mul(.62) })
		round(ellipse(0, .42, .142, .19), skin, .01, .3, .12)
		round(func(x, y float64) float64 {
			return max(ellipse(-.005, .385, .17, .2)(x, y), -(ellipse(.012, .46, .135, .17)(x, y)))
		}, hair, -.02, .32, .6)
		for _, s := range []float64{-1, 1} {
			p.fill(ellipse(s*.055, .425, .017, .008), .003, func(x, y float64) rgb { return hex(0x1c1613) })
			p.fill(ellipse(s*.055, .4, .03, .006), .004, func(x, y float64) rgb { return hex(hair).mul(.7) })
		}
		p.fill(ellipse(.012, .475, .016, .03), .014, func(x, y float64) rgb { return hex(skin).mul(.55) })
		p.fill(
			ellipse(.0, .53, .042, .009),
			.005,
			func(x, y float64) rgb { return mix(hex(skin), hex(0x8c3b32), .6).mul(.7) },
		)
		p.glow(-.3, .3, .35, hex(0xfff2dc).mul(.1))
		return l
	}
}
