package compare

import (
	"image"
	"math"
	"slices"
)

// plane holds how strongly a picture changes at each pixel, 0..255: what a thing looks like, whatever its colors are.
type plane struct {
	w, h int
	v    []uint8
}

func (p *plane) at(x, y int) uint8 { return p.v[y*p.w+x] }

// edges gives the changes of a picture.
func edges(img *image.RGBA) *plane {
	w, h := img.Rect.Dx(), img.Rect.Dy()
	p := &plane{w: w, h: h, v: make([]uint8, w*h)}
	for y := range h {
		row := img.Pix[y*img.Stride:]
		below := img.Pix[min(y+1, h-1)*img.Stride:]
		for x := range w {
			i, j := x*4, min(x+1, w-1)*4
			most := 0
			for c := range 3 {
				dx, dy := int(row[j+c])-int(row[i+c]), int(below[i+c])-int(row[i+c])
				most = max(most, max(dx, -dx)+max(dy, -dy))
			}
			p.v[y*w+x] = uint8(min(most, 255))
		}
	}
	return p
}

// softer gives a plane in which each pixel is the mean of nine: what stands half a pixel aside looks the same.
func (p *plane) softer() *plane {
	rows := make([]uint16, p.w*p.h)
	for y := range p.h {
		row, out := p.v[y*p.w:(y+1)*p.w], rows[y*p.w:(y+1)*p.w]
		for x := range row {
			out[x] = uint16(row[max(x-1, 0)]) + uint16(row[x]) + uint16(row[min(x+1, p.w-1)])
		}
	}
	out := &plane{w: p.w, h: p.h, v: make([]uint8, p.w*p.h)}
	for y := range p.h {
		a, b, c := rows[max(y-1, 0)*p.w:], rows[y*p.w:], rows[min(y+1, p.h-1)*p.w:]
		for x := range p.w {
			out.v[y*p.w+x] = uint8((a[x] + b[x] + c[x]) / 9)
		}
	}
	return out
}

// smaller gives a plane of half the size: each pixel is the mean of four.
func (p *plane) smaller() *plane {
	out := &plane{w: max(1, p.w/2), h: max(1, p.h/2)}
	out.v = make([]uint8, out.w*out.h)
	for y := range out.h {
		for x := range out.w {
			x0, y0 := min(x*2, p.w-1), min(y*2, p.h-1)
			x1, y1 := min(x0+1, p.w-1), min(y0+1, p.h-1)
			out.v[y*out.w+x] = uint8((int(p.at(x0, y0)) + int(p.at(x1, y0)) + int(p.at(x0, y1)) + int(p.at(x1, y1)) +
				2) / 4)
		}
	}
	return out
}

// pyramid is a plane at full size, a half and a quarter.
type pyramid [3]*plane

func newPyramid(img *image.RGBA) pyramid {
	full := edges(img).softer()
	half := full.smaller()
	return pyramid{full, half, half.smaller()}
}

// sample is a pixel of what is looked for.
type sample struct {
	x, y int
	v    float64 // less the mean
}

// template is a part of a plane that is looked for in another.
type template struct {
	w, h    int
	samples []sample
	norm    float64 // square root of the sum of squares
}

// mostSamples bounds the pixels of a template that are compared: the strongest, and some that lie evenly between.
const mostSamples = 700

// templateOf takes a part of a plane. It is nil when nothing is to be seen there.
func templateOf(p *plane, r image.Rectangle) *template {
	r = r.Intersect(image.Rect(0, 0, p.w, p.h))
	if r.Dx() < 3 || r.Dy() < 3 {
		return nil
	}
	var all []sample
	for y := r.Min.Y; y < r.Max.Y; y++ {
		for x := r.Min.X; x < r.Max.X; x++ {
			all = append(all, sample{x - r.Min.X, y - r.Min.Y, float64(p.at(x, y))})
		}
	}
	t := &template{w: r.Dx(), h: r.Dy()}
	if len(all) <= mostSamples {
		t.samples = all
	} else {
		step := len(all)/(mostSamples/2) + 1
		for i := 0; i < len(all); i += step {
			t.samples = append(t.samples, all[i])
		}
		strong := slices.Clone(all)
		slices.SortStableFunc(strong, func(a, b sample) int { return int(b.v) - int(a.v) })
		// every so often one of the stronger half, so that all of its parts are there
		strong = strong[:min(len(strong), mostSamples*4)]
		for i := 0; i < len(strong); i += 1 + len(strong)/(mostSamples/2) {
			t.samples = append(t.samples, strong[i])
		}
	}
	mean := 0.0
	for _, s := range t.samples {
		mean += s.v
	}
	mean /= float64(len(t.samples))
	for i := range t.samples {
		t.samples[i].v -= mean
		t.norm += t.samples[i].v * t.samples[i].v
	}
	t.norm = math.Sqrt(t.norm)
	if t.norm < 40 {
		return nil
	}
	return t
}

// thin leaves about n samples, for places that are many.
func (t *template) thin(n int) {
	step := len(t.samples)/n + 1
	if step == 1 {
		return
	}
	var kept []sample
	mean := 0.0
	for i := 0; i < len(t.samples); i += step {
		kept = append(kept, t.samples[i])
		mean += t.samples[i].v
	}
	mean /= float64(len(kept))
	t.norm = 0
	for i := range kept {
		kept[i].v -= mean
		t.norm += kept[i].v * kept[i].v
	}
	t.samples, t.norm = kept, math.Sqrt(t.norm)
}

// like says how much what stands at a place of a plane looks like the template, -1..1: the normalised correlation.
func (t *template) like(p *plane, x, y int) float64 {
	sum, squares, product := 0.0, 0.0, 0.0
	inside := x >= 0 && y >= 0 && x+t.w <= p.w && y+t.h <= p.h
	for _, s := range t.samples {
		px, py := x+s.x, y+s.y
		v := 0.0
		reaches := inside || px >= 0 && py >= 0 && px < p.w && py < p.h
		if reaches {
			v = float64(p.v[py*p.w+px])
		}
		sum += v
		squares += v * v
		product += v * s.v
	}
	if t.norm == 0 {
		return 0
	}
	spread := squares - sum*sum/float64(len(t.samples))
	if spread < 1 {
		return 0
	}
	return product / (t.norm * math.Sqrt(spread))
}

// spot is a place where something was found.
type spot struct {
	x, y  int
	score float64 // how alike, less what lies between it and where it was expected
	alike float64
}

// farCost is what a px away from the expected place takes off the likeness, mostFar what it takes off at most: of
// things that look the same, the nearest is meant.
const farCost, mostFar = 0.002, .3

func cost(dx, dy, unit float64) float64 { return min(mostFar, math.Hypot(dx, dy)*unit*farCost) }

// mostSpots is how many places are looked at more closely.
const mostSpots = 12

// around is where something is looked for: rx and ry px to each side of a place.
type around struct{ x, y, rx, ry int }

// search looks for the template around a place and gives the best spots at this size.
func (t *template) search(p *plane, where around, unit float64) []spot {
	x, y, rx, ry := where.x, where.y, where.rx, where.ry
	var best []spot
	for sy := max(y-ry, -t.h/2); sy <= min(y+ry, p.h-t.h/2); sy++ {
		for sx := max(x-rx, -t.w/2); sx <= min(x+rx, p.w-t.w/2); sx++ {
			alike := t.like(p, sx, sy)
			if alike < .25 {
				continue
			}
			s := spot{sx, sy, alike - cost(float64(sx-x), float64(sy-y), unit), alike}
			if i := slices.IndexFunc(best, func(b spot) bool {
				return max(b.x-sx, sx-b.x) <= 2 && max(b.y-sy,
					sy-b.y) <= 2
			}); i >= 0 {
				if s.score > best[i].score {
					best[i] = s
				}
				continue
			}
			if len(best) < mostSpots {
				best = append(best, s)
				continue
			}
			least := 0
			for i := range best {
				if best[i].score < best[least].score {
					least = i
				}
			}
			if s.score > best[least].score {
				best[least] = s
			}
		}
	}
	slices.SortFunc(best, func(a, b spot) int {
		switch {
		case a.score > b.score:
			return -1
		case a.score < b.score:
			return 1
		}
		return 0
	})
	return best
}

// find looks for a part of one picture in another around an expected place of its corner: first in small pictures of
// both, then where it seemed to be, to the pixel. free says whether a place may be taken. second is how alike the next
// best place is.
func find(from, in pyramid, r image.Rectangle, where around, free func(x, y int) bool) (best spot, second float64,
	ok bool) {
	x, y, rx, ry := where.x, where.y, where.rx, where.ry
	full := templateOf(from[0], r)
	if full == nil {
		return spot{}, 0, false
	}
	if near := full.search(in[0], around{x, y, 3, 3}, 1); len(near) > 0 && near[0].alike > .96 &&
		free(near[0].x, near[0].y) {
		return near[0], 0, true // where it was expected
	}
	level := 2
	wide := rx*ry > 60000
	if min(r.Dx(), r.Dy()) < 64 && !wide {
		level = 1
	}
	k := 1 << level
	small := templateOf(from[level], image.Rect(r.Min.X/k, r.Min.Y/k, (r.Max.X+k-1)/k, (r.Max.Y+k-1)/k))
	if small == nil {
		return spot{}, 0, false
	}
	small.thin(220)

	dx, dy := r.Min.X-r.Min.X/k*k, r.Min.Y-r.Min.Y/k*k // where the corner lies in its small pixel
	best = spot{score: -1}
	for _, s := range small.search(in[level], around{(x - dx) / k, (y - dy) / k, rx/k + 1, ry/k + 1}, float64(k)) {
		near := full.search(in[0], around{s.x*k + dx, s.y*k + dy, k + 1, k + 1}, 0)
		if len(near) == 0 || !free(near[0].x, near[0].y) {
			continue
		}
		f := near[0]
		f.score = f.alike - cost(float64(f.x-x), float64(f.y-y), 1)
		apart := max(f.x-best.x, best.x-f.x, f.y-best.y, best.y-f.y) > 8
		switch {
		case f.score > best.score:
			if ok && apart {
				second = max(second, best.alike)
			}
			best, ok = f, true
		case apart:
			second = max(second, f.alike)
		}
	}
	return best, second, ok
}
