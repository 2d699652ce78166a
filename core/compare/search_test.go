package compare

import (
	"image"
	"image/color"
	"math/rand"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/paint/geom"
)

// scribble fills a part of a picture with something that looks like nothing else.
func scribble(img *image.RGBA, r image.Rectangle, seed int64, ink color.RGBA) {
	rnd := rand.New(rand.NewSource(seed))
	for range r.Dx() * r.Dy() / 12 {
		x, y := r.Min.X+rnd.Intn(r.Dx()-4), r.Min.Y+rnd.Intn(r.Dy()-2)
		for k := range 4 {
			img.SetRGBA(x+k, y, ink)
		}
	}
}

func sheet(w, h int, c color.RGBA) *image.RGBA {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for i := range w * h {
		img.SetRGBA(i%w, i/w, c)
	}
	return img
}

var white, black = color.RGBA{R: 255, G: 255, B: 255, A: 255}, color.RGBA{A: 255}

func anywhere(int, int) bool { return true }

// What is looked for is found to the pixel wherever it has gone, in other colors too, and what is not there is not
// found.
func TestFind(t *testing.T) {
	from, in := sheet(400, 300, white), sheet(400, 300, color.RGBA{R: 30, G: 40, B: 90, A: 255})
	r := image.Rect(40, 50, 140, 90)
	scribble(from, r, 1, black)
	scribble(in, r.Add(image.Pt(77, 31)), 1, color.RGBA{R: 250, G: 200, B: 20, A: 255})
	scribble(in, image.Rect(40, 200, 140, 240), 2, white)
	a, b := newPyramid(from), newPyramid(in)
	s, _, ok := find(a, b, r, around{40, 50, 120, 120}, anywhere)
	require.True(t, ok)
	assert.Equal(t, [2]int{117, 81}, [2]int{s.x, s.y})
	assert.Greater(t, s.alike, .95)
	s, _, ok = find(a, b, r, around{40, 50, 40, 20}, anywhere)
	assert.True(t, !ok || s.alike < sure, "it does not reach so far")
	s, _, ok = find(a, b, r, around{40, 50, 120, 120}, func(x, y int) bool { return x != 117 })
	assert.True(t, !ok || s.x != 117, "taken")
	_, _, ok = find(a, b, image.Rect(200, 200, 260, 240), around{200, 200, 50, 50}, anywhere)
	assert.False(t, ok, "nothing is to be seen there")
}

// Of things that look the same, the nearest is meant, and the other is told as second.
func TestTheNearestIsMeant(t *testing.T) {
	from, in := sheet(400, 300, white), sheet(400, 300, white)
	r := image.Rect(100, 100, 160, 120)
	scribble(from, r, 5, black)
	scribble(in, r.Add(image.Pt(12, 0)), 5, black)
	scribble(in, r.Add(image.Pt(12, 60)), 5, black)
	s, second, ok := find(newPyramid(from), newPyramid(in), r, around{100, 100, 80, 80}, anywhere)
	require.True(t, ok)
	assert.Equal(t, [2]int{112, 100}, [2]int{s.x, s.y})
	assert.Greater(t, second, .95)
}

func fill(img *image.RGBA, r image.Rectangle, c color.RGBA) {
	for y := r.Min.Y; y < r.Max.Y; y++ {
		for x := r.Min.X; x < r.Max.X; x++ {
			img.SetRGBA(x, y, c)
		}
	}
}

func TestEdgesOfABox(t *testing.T) {
	ours, theirs := sheet(400, 300, white), sheet(400, 300, white)
	here, there := image.Rect(50, 50, 200, 150), image.Rect(62, 58, 240, 190)
	grey := color.RGBA{R: 230, G: 230, B: 230, A: 255}
	fill(ours, here, grey)
	fill(theirs, there, grey)
	fill(theirs, image.Rect(90, 90, 150, 100), black) // something inside is no edge
	rect := func(r image.Rectangle) geom.Rect {
		return geom.R(float64(r.Min.X), float64(r.Min.Y), float64(r.Dx()), float64(r.Dy()))
	}
	q := edgeQuery{img: theirs, ours: ours, box: rect(here), guess: rect(here).Move(12, 8),
		other: rect(here).Move(12, 8),
		own:   geom.R(78, 82, 60, 40), inner: geom.R(90, 90, 60, 40), slack: 80}
	for which, want := range map[int]float64{top: 58, right: 240, bottom: 190, left: 62} {
		at, seen := q.edge(which)
		assert.True(t, seen, which)
		assert.InDelta(t, want, at, .01, which)
	}
	q.ours = sheet(400, 300, white) // the page shows none: it cannot be told
	_, seen := q.edge(top)
	assert.False(t, seen)
}

// Colors of letters are those of their stems, not of their edges, and of several the one that most have.
func TestShades(t *testing.T) {
	img := sheet(100, 40, color.RGBA{R: 240, G: 240, B: 230, A: 255})
	green, red, edge := color.RGBA{R: 31, G: 107, B: 79, A: 255}, color.RGBA{R: 198, G: 58, B: 23,
		A: 255}, color.RGBA{R: 140, G: 170, B: 150, A: 255}
	fill(img, image.Rect(10, 10, 40, 20), edge)
	fill(img, image.Rect(12, 10, 38, 20), green)
	fill(img, image.Rect(60, 10, 70, 20), red)
	s, ok := shadesOf(img, geom.R(0, 0, 100, 40), nil)
	require.True(t, ok)
	assert.Equal(t, rgb{240, 240, 230}, s.ground)
	assert.Equal(t, "#1f6b4f", s.ink.hex())
	s, _ = shadesOf(img, geom.R(0, 0, 100, 40), []geom.Rect{geom.R(8, 8, 36, 16)})
	assert.Equal(t, "#c63a17", s.ink.hex(), "the green ones left out")
	_, ok = shadesOf(img, geom.R(200, 200, 10, 10), nil)
	assert.False(t, ok)
	s, _ = shadesOf(img, geom.R(80, 0, 20, 40), nil)
	assert.False(t, s.hasInk)
	assert.InDelta(t, 0, deltaE(rgb{1, 2, 3}, rgb{1, 2, 3}), 1e-9)
	assert.InDelta(t, 100, deltaE(rgb{0, 0, 0}, rgb{255, 255, 255}), .5)
}

// Differences of all entries of a list become one; those of some stay apart.
func TestTogether(t *testing.T) {
	d := &differ{ours: &side{pieces: []piece{{address: "plans.card[1]"}, {address: "plans.card[2]"}}}}
	one := func(n, theirs string) Difference {
		return Difference{Kind: Distance, Axis: "above", Address: "home/plans.card[" + n + "]", Ours: "24 px",
			Theirs: theirs, Unit: "px",
			Command: []string{"style", "home/plans.card[" + n + "]", "padding-top=40px"}}
	}
	both := d.together([]Difference{one("1", "40.02 px"), one("2", "39.9 px")})
	require.Len(t, both, 1)
	assert.Equal(t, "home/plans.card", both[0].Address)
	assert.Equal(t, []string{"style", "home/plans.card", "padding-top=40px"}, both[0].Command)
	assert.Contains(t, both[0].Text, "each of the 2 alike")
	assert.Len(t, d.together([]Difference{one("1", "40 px"), one("2", "44 px")}), 2)
	assert.Len(t, d.together([]Difference{one("1", "40 px")}), 1)
}
