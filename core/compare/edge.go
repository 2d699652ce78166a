package compare

import (
	"image"
	"math"

	"ziegel/core/paint/geom"
)

// The edges of a box.
const (
	top = iota
	right
	bottom
	left
)

// edgeQuery looks for the edges of a box in a picture.
type edgeQuery struct {
	img, ours *image.RGBA
	box       geom.Rect  // where it is on the page
	guess     geom.Rect  // where it is thought to be, by what it holds
	other     geom.Rect  // and by what stands beside it
	own       geom.Rect  // what it holds, on the page
	inner     geom.Rect  // what it holds there, as far as it was found
	room      [4]float64 // how far at least an edge lies outside of that, px
	within    *pair      // what holds the box there, nil for none
	holder    geom.Rect  // and where that is on the page
	slack     float64    // how far from the guess an edge may be, px
}

// line says how a straight edge of some length shows: the part of it, 0..1, at which the pixels on both sides differ.
func line(img *image.RGBA, across bool, at int, from, to float64) float64 {
	hit, n := 0, 0
	for k := int(from); k < int(to); k++ {
		x0, y0, x1, y1 := at-1, k, at, k
		if across {
			x0, y0, x1, y1 = k, at-1, k, at
		}
		if !(image.Point{X: x0, Y: y0}.In(img.Rect)) || !(image.Point{X: x1, Y: y1}.In(img.Rect)) {
			continue
		}
		n++
		p, q := img.Pix[img.PixOffset(x0, y0):], img.Pix[img.PixOffset(x1, y1):]
		most := 0
		for c := range 3 {
			d := int(p[c]) - int(q[c])
			most = max(most, max(d, -d))
		}
		if most >= 3 {
			hit++
		}
	}
	if n == 0 {
		return 0
	}
	return float64(hit) / float64(n)
}

// aside is by how many px an edge is rather thought to be where the neighbours of a box say than where its content
// says.
const aside = 15

// edge finds one edge. Where the page shows none, neither side can be told: seen is false, and the guess stands.
func (q *edgeQuery) edge(which int) (at float64, seen bool) {
	across := which == top || which == bottom
	pick := func(r geom.Rect) (at, from, to float64) { // where it is, and between what it runs
		switch which {
		case top:
			return r.Y0, r.X0, r.X1
		case bottom:
			return r.Y1, r.X0, r.X1
		case left:
			return r.X0, r.Y0, r.Y1
		}
		return r.X1, r.Y0, r.Y1
	}
	at, from, to := pick(q.box)
	guess, gFrom, gTo := pick(q.guess)
	trim := func(a, b float64) (float64, float64) { // corners may be round
		cut := min(24, (b-a)*.18)
		return a + cut, b - cut
	}
	from, to = trim(from, to)
	gFrom, gTo = trim(gFrom, gTo)
	if _, a, b := pick(q.inner); b-a > 32 { // beside what it holds it runs in any case, however long it is
		gFrom, gTo = a, b
		_, from, to = pick(q.own)
	}
	own, off := 0.0, 0
	for d := -1; d <= 1; d++ { // where it lies between two pixels, it shows on either
		if v := line(q.ours, across, int(math.Round(at))+d, from, to); v > own {
			own, off = v, d
		}
	}
	if own < .7 {
		return guess, false
	}
	var pattern [5]bool // a border shows twice
	for k := range pattern {
		pattern[k] = line(q.ours, across, int(math.Round(at))+off+k-2, from, to) >= .7
	}
	second, _, _ := pick(q.other)
	best, most := 0.0, 3.0 // of the lines around it, so many are as ours
	for y := math.Round(min(guess, second) - q.slack*2); y <= max(guess, second)+q.slack*2; y++ {
		edge := y - float64(off) + (at - math.Round(at))
		if !q.outside(which, y) || line(q.img, across, int(y), gFrom, gTo) < max(.6, own*.93) {
			continue
		}
		score := -min(math.Abs(edge-second), math.Abs(edge-guess)+aside) / 100
		for k := range pattern {
			if pattern[k] == (line(q.img, across, int(y)+k-2, gFrom, gTo) >= .6) {
				score++
			}
		}
		if score > most {
			best, most = edge, score
		}
	}
	if most == 3 {
		return guess, false
	}
	return best, true
}

// outside reports an edge that leaves inside what the box holds, with some of the room that is between on the page, and
// that lies as far inside of what holds the box.
func (q *edgeQuery) outside(which int, y float64) bool {
	if w := q.within; w != nil { // and inside of what holds the box
		edge := func(r geom.Rect) float64 { return [4]float64{r.Y0, r.X1, r.Y1, r.X0}[which] }
		sign := [4]float64{1, -1, -1, 1}[which]
		if room := (edge(q.box) - edge(q.holder)) * sign; w.seen[which] && (y-edge(w.there))*sign < min(3, room/2) {
			return false
		}
	}
	if q.inner.Empty() {
		return true
	}
	switch which {
	case top:
		return y <= q.inner.Y0-q.room[top]
	case bottom:
		return y >= q.inner.Y1+q.room[bottom]
	case left:
		return y <= q.inner.X0-q.room[left]
	}
	return y >= q.inner.X1+q.room[right]
}
