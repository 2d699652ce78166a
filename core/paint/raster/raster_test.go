package raster_test

import (
	"bytes"
	"image"
	"image/color"
	"image/png"
	"math"
	"math/rand"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/css"
	"ziegel/core/paint/display"
	"ziegel/core/paint/geom"
	"ziegel/core/paint/raster"
)

var (
	white = css.Color{R: 1, G: 1, B: 1, A: 1}
	black = css.Color{A: 1}
	red   = css.Color{R: 1, A: 1}
	blue  = css.Color{B: 1, A: 1}
)

func rect(x, y, w, h float64, c css.Color) *display.Fill {
	r := geom.R(x, y, w, h)
	return &display.Fill{Rect: &r, Brush: display.Solid(c)}
}

func drawn(t *testing.T, items ...display.Item) *image.RGBA {
	t.Helper()
	img, err := raster.Draw(&display.List{W: 100, H: 100, Items: append([]display.Item{rect(0, 0, 100, 100, white)},
		items...)},
		raster.Options{})
	require.NoError(t, err)
	return img
}

func at(img *image.RGBA, x, y int) [3]int {
	c := img.RGBAAt(x, y)
	return [3]int{int(c.R), int(c.G), int(c.B)}
}

func TestShapesCoverTheirPixels(t *testing.T) {
	img := drawn(t, rect(10, 10, 20, 20, red), rect(50.5, 50, 10, 10, blue))
	assert.Equal(t, [3]int{255, 0, 0}, at(img, 10, 10))
	assert.Equal(t, [3]int{255, 0, 0}, at(img, 29, 29))
	assert.Equal(t, [3]int{255, 255, 255}, at(img, 30, 29))
	assert.InDelta(t, 128, at(img, 50, 55)[0], 1, "half a pixel")
	assert.InDelta(t, 128, at(img, 60, 55)[0], 1)

	ring := geom.RectPath(geom.R(20, 20, 60, 60))
	ring.Add(geom.RectPath(geom.R(30, 30, 40, 40)))
	ring.EvenOdd = true
	img = drawn(t, &display.Fill{Path: ring, Brush: display.Solid(black)})
	assert.Equal(t, [3]int{0, 0, 0}, at(img, 25, 50))
	assert.Equal(t, [3]int{255, 255, 255}, at(img, 50, 50), "the hole")
	ring.EvenOdd = false
	img = drawn(t, &display.Fill{Path: ring, Brush: display.Solid(black)})
	assert.Equal(t, [3]int{0, 0, 0}, at(img, 50, 50), "what winds twice is filled")
}

func TestGroups(t *testing.T) {
	both := func(g *display.Group) *image.RGBA {
		g.Items = []display.Item{rect(10, 10, 40, 40, red), rect(30, 30, 40, 40, blue)}
		if g.Matrix == (geom.Matrix{}) {
			g.Matrix = geom.Identity
		}
		return drawn(t, g)
	}
	faded := both(&display.Group{Opacity: .5})
	assert.InDelta(t, 128, at(faded, 40, 40)[0], 1, "the upper one alone shows through, not the lower one")
	assert.InDelta(t, 255, at(faded, 40, 40)[2], 1)

	clipped := both(&display.Group{Opacity: 1, Clips: []*geom.Path{geom.Ellipse(30, 30, 10, 10)}})
	assert.Equal(t, [3]int{255, 255, 255}, at(clipped, 12, 12))
	assert.Equal(t, [3]int{255, 0, 0}, at(clipped, 25, 25))

	moved := both(&display.Group{Opacity: 1, Matrix: geom.Translate(5, 0)})
	assert.Equal(t, [3]int{255, 255, 255}, at(moved, 12, 20))
	assert.Equal(t, [3]int{255, 0, 0}, at(moved, 16, 20))

	mask := &display.Fill{Path: geom.RectPath(geom.R(0, 0, 40, 100)), Brush: display.Solid(black)}
	masked := both(&display.Group{Opacity: 1, Masks: []display.Mask{{Fill: mask}}})
	assert.Equal(t, [3]int{0, 0, 255}, at(masked, 35, 60))
	assert.Equal(t, [3]int{255, 255, 255}, at(masked, 60, 60))
	dark := both(&display.Group{Opacity: 1, Masks: []display.Mask{{Fill: mask, Luminance: true}}})
	assert.Equal(t, [3]int{255, 255, 255}, at(dark, 35, 60), "black lets nothing through")
}

func TestFilters(t *testing.T) {
	filtered := func(f display.Filter, c css.Color) [3]int {
		g := display.Plain(rect(20, 20, 60, 60, c))
		g.Filters = []display.Filter{f}
		return at(drawn(t, g), 50, 50)
	}
	near := func(want, got [3]int, what string) {
		for i := range want {
			assert.InDelta(t, want[i], got[i], 2, "%s: %v", what, got)
		}
	}
	gray := css.Color{R: .5, G: .5, B: .5, A: 1}
	near([3]int{255, 0, 0}, filtered(display.Filter{Name: "blur", Amount: 2}, red), "the middle of a blurred square")
	near([3]int{54, 54, 54}, filtered(display.Filter{Name: "grayscale", Amount: 1}, red), "grayscale")
	near([3]int{0, 255, 255}, filtered(display.Filter{Name: "invert", Amount: 1}, red), "invert")
	near([3]int{191, 191, 191}, filtered(display.Filter{Name: "brightness", Amount: 1.5}, gray), "brightness")
	near([3]int{128, 128, 128}, filtered(display.Filter{Name: "contrast", Amount: 3}, gray),
		"contrast leaves the middle")
	near([3]int{255, 128, 128}, filtered(display.Filter{Name: "opacity", Amount: .5}, red), "opacity")
	near([3]int{255, 0, 0}, filtered(display.Filter{Name: "hue-rotate", Amount: 0}, red), "no turn")
	near([3]int{0, 109, 109}, filtered(display.Filter{Name: "hue-rotate", Amount: math.Pi}, red), "half a turn")

	g := display.Plain(rect(20, 20, 20, 20, red))
	g.Filters = []display.Filter{{Name: "drop-shadow", DX: 30, DY: 30, Color: blue}}
	img := drawn(t, g)
	assert.Equal(t, [3]int{0, 0, 255}, at(img, 60, 60))
	assert.Equal(t, [3]int{255, 0, 0}, at(img, 30, 30))
}

func TestBlendModes(t *testing.T) {
	for mode, want := range map[string][3]int{"multiply": {128, 0, 0}, "screen": {255, 128, 64}, "darken": {128, 0, 0},
		"lighten": {255, 128, 64}, "difference": {127, 128, 64}, "exclusion": {127, 128, 64}, "normal": {255, 0, 0}} {
		g := display.Plain(rect(0, 0, 100, 100, red))
		g.Blend = mode
		got := at(drawn(t, rect(0, 0, 100, 100, css.Color{R: .5, G: .5, B: .25, A: 1}), g), 50, 50)
		for i := range want {
			assert.InDelta(t, want[i], got[i], 2, "%s: %v", mode, got)
		}
	}
}

func TestGradients(t *testing.T) {
	stops := []display.Stop{{At: 0, Color: red}, {At: 1, Color: blue}}
	filled := func(g *display.Gradient) *image.RGBA {
		g.Matrix = geom.Identity
		r := geom.R(0, 0, 100, 100)
		return drawn(t, &display.Fill{Rect: &r, Brush: g})
	}
	img := filled(&display.Gradient{Kind: "linear", From: geom.Point{}, To: geom.Point{X: 100}, Stops: stops})
	assert.InDelta(t, 128, at(img, 50, 10)[0], 3)
	assert.InDelta(t, 253, at(img, 0, 90)[0], 3)
	img = filled(&display.Gradient{Kind: "radial", From: geom.Point{X: 50, Y: 50}, Radius: geom.Point{X: 50, Y: 50},
		Stops: stops})
	assert.InDelta(t, 252, at(img, 50, 50)[0], 4)
	assert.InDelta(t, 255, at(img, 0, 0)[2], 1, "beyond the last stop")
	img = filled(&display.Gradient{Kind: "conic", From: geom.Point{X: 50, Y: 50}, Stops: stops})
	assert.InDelta(t, 64, at(img, 99, 50)[2], 3, "a quarter of the way round, at three o'clock")
	hard := []display.Stop{{At: 0, Color: red}, {At: .1, Color: red}, {At: .1, Color: blue}, {At: .2, Color: blue}}
	img = filled(&display.Gradient{Kind: "linear", To: geom.Point{X: 100}, Stops: hard, Repeats: true})
	for x := range 100 {
		want := [3]int{255, 0, 0}
		if x/10%2 == 1 {
			want = [3]int{0, 0, 255}
		}
		assert.Equal(t, want, at(img, x, 5), "stripe at %d", x)
	}
}

func TestShadows(t *testing.T) {
	box := geom.Round{Rect: geom.R(30, 30, 40, 40)}
	img := drawn(t, &display.Shadow{Shape: box, Sigma: 5, Color: black})
	assert.Less(t, at(img, 50, 50)[0], 4)
	assert.InDelta(t, 128, at(img, 30, 50)[0], 20, "half at the edge")
	assert.Equal(t, [3]int{255, 255, 255}, at(img, 5, 5))
	img = drawn(t, &display.Shadow{Shape: box, Sigma: 5, Color: black, Around: box.Path()})
	assert.Equal(t, [3]int{255, 255, 255}, at(img, 50, 50), "nothing below the box itself")
	assert.Less(t, at(img, 28, 50)[0], 200)
	img = drawn(t, &display.Shadow{Shape: box, Sigma: 0, Color: black,
		Inside: &geom.Round{Rect: geom.R(20, 20, 60, 60)}})
	assert.Equal(t, [3]int{0, 0, 0}, at(img, 25, 50), "inside the box, outside the hole")
	assert.Equal(t, [3]int{255, 255, 255}, at(img, 50, 50))
	soft := geom.Round{Rect: geom.R(20, 20, 60, 60), Radii: [4]geom.Point{{X: 20, Y: 20}, {X: 20, Y: 20}, {X: 20,
		Y: 20}, {X: 20, Y: 20}}}
	img = drawn(t, &display.Shadow{Shape: soft, Sigma: 4, Color: black})
	assert.Greater(t, at(img, 21, 21)[0], at(img, 50, 21)[0], "corners are lighter than edges")
}

func TestTiles(t *testing.T) {
	r := geom.R(0, 0, 100, 100)
	img := drawn(t, &display.Fill{Rect: &r, Brush: &display.Tiles{Cell: geom.R(5, 0, 10, 10), StepX: 20, StepY: 20,
		Items: []display.Item{rect(5, 0, 10, 10, red)}}})
	for _, x := range []int{6, 26, 86} {
		assert.Equal(t, [3]int{255, 0, 0}, at(img, x, 41), "tile at %d", x)
	}
	assert.Equal(t, [3]int{255, 255, 255}, at(img, 17, 41))
	assert.Equal(t, [3]int{255, 255, 255}, at(img, 6, 12))
	tiny := drawn(t, &display.Fill{Rect: &r, Brush: &display.Tiles{Cell: geom.R(0, 0, 1, 2), StepX: 2, StepY: 2,
		Items: []display.Item{rect(0, 0, 1, 2, red)}}})
	assert.Equal(t, [3]int{255, 0, 0}, at(tiny, 50, 50), "thousands of tiles are stamped")
	assert.Equal(t, [3]int{255, 255, 255}, at(tiny, 51, 50))
}

func TestPicturesAreBroughtToTheirSize(t *testing.T) {
	src := image.NewRGBA(image.Rect(0, 0, 2, 2))
	src.Set(0, 0, color.RGBA{255, 0, 0, 255})
	src.Set(1, 0, color.RGBA{0, 0, 255, 255})
	src.Set(0, 1, color.RGBA{0, 0, 255, 255})
	src.Set(1, 1, color.RGBA{255, 0, 0, 255})
	bitmap := &display.Bitmap{Image: src}
	crisp := drawn(t, &display.Picture{Image: bitmap, Dst: geom.R(0, 0, 100, 100), Crisp: true})
	assert.Equal(t, [3]int{255, 0, 0}, at(crisp, 49, 49))
	assert.Equal(t, [3]int{0, 0, 255}, at(crisp, 51, 49))
	soft := drawn(t, &display.Picture{Image: bitmap, Dst: geom.R(0, 0, 100, 100)})
	assert.InDelta(t, 128, at(soft, 50, 50)[0], 12, "smooth where they meet")
	turned := display.Plain(&display.Picture{Image: bitmap, Dst: geom.R(-20, -20, 40, 40), Crisp: true})
	turned.Matrix = geom.Translate(50, 50).Mul(geom.Rotate(math.Pi / 2))
	assert.Equal(t, [3]int{0, 0, 255}, at(drawn(t, turned), 40, 40), "a quarter turn")
}

// A picture does not depend on how many paint it, nor a part of it on the rest.
func TestStripsFitTogether(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	r := rand.New(rand.NewSource(3))
	l := &display.List{W: 300, H: 900}
	l.Items = append(l.Items, rect(0, 0, 300, 900, white))
	for range 200 {
		c := css.Color{R: r.Float64(), G: r.Float64(), B: r.Float64(), A: .3 + .7*r.Float64()}
		x, y, w, h := r.Float64()*300, r.Float64()*900, r.Float64()*200, r.Float64()*300
		switch r.Intn(4) {
		case 0:
			l.Items = append(l.Items, &display.Fill{Path: geom.Ellipse(x, y, w/2, h/2), Brush: display.Solid(c)})
		case 1:
			l.Items = append(l.Items, &display.Shadow{Shape: geom.Round{Rect: geom.R(x, y, w, h)},
				Sigma: r.Float64() * 20, Color: c})
		case 2:
			g := display.Plain(rect(x, y, w, h, c))
			g.Opacity, g.Filters = .7, []display.Filter{{Name: "blur", Amount: r.Float64() * 6}}
			l.Items = append(l.Items, g)
		default:
			l.Items = append(l.Items, rect(math.Floor(x), math.Floor(y), w, h, c))
		}
	}
	one, err := raster.Draw(l, raster.Options{Workers: 1})
	require.NoError(t, err)
	many, err := raster.Draw(l, raster.Options{Workers: 7})
	require.NoError(t, err)
	assert.Equal(t, one.Pix, many.Pix)
	part := geom.R(40, 300, 120, 200)
	cut, err := raster.Draw(l, raster.Options{Area: &part})
	require.NoError(t, err)
	apart := 0
	for y := range 200 {
		for x := range 120 {
			a, b := one.RGBAAt(40+x, 300+y), cut.RGBAAt(x, y)
			if d := int(a.R) - int(b.R); d > 2 || d < -2 {
				apart++
			}
		}
	}
	assert.Zero(t, apart, "a part is what stands there in the whole")
}

// What is written is what was painted.
func TestPNGHoldsThePicture(t *testing.T) {
	for _, clear := range []bool{false, true} {
		img := image.NewRGBA(image.Rect(0, 0, 37, 300))
		r := rand.New(rand.NewSource(5))
		for i := range img.Pix {
			img.Pix[i] = uint8(r.Intn(256))
		}
		for i := 0; i < len(img.Pix); i += 4 {
			img.Pix[i+3] = 255
			if clear && i%8 == 0 {
				copy(img.Pix[i:], []byte{0, 0, 0, 0})
			}
		}
		var b bytes.Buffer
		require.NoError(t, raster.EncodePNG(&b, img))
		back, err := png.Decode(&b)
		require.NoError(t, err)
		for y := range 300 {
			for x := range 37 {
				assert.Equal(t, color.RGBAModel.Convert(img.At(x, y)), color.RGBAModel.Convert(back.At(x, y)))
			}
		}
	}
}

func TestPicturesThatAreTooLargeAreRefused(t *testing.T) {
	_, err := raster.Draw(&display.List{W: 20000, H: 20000}, raster.Options{})
	assert.ErrorContains(t, err, "100 million are the most: draw it at a scale of 0.50 or less")
	for _, l := range []*display.List{{}, {W: math.NaN(), H: 5}, {W: -5, H: 10}} {
		img, err := raster.Draw(l, raster.Options{})
		require.NoError(t, err)
		assert.Equal(t, 1, img.Rect.Dx())
	}
}

// Items with numbers of any kind are painted in time, or not at all.
func TestStrangeNumbersDoNoHarm(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	odd := []float64{0, -1, 1e9, -1e9, math.NaN(), math.Inf(1), math.Inf(-1), 1e-9, 50}
	r := rand.New(rand.NewSource(9))
	pick := func() float64 { return odd[r.Intn(len(odd))] }
	for range 200 {
		c := css.Color{R: pick(), A: pick()}
		box := geom.Rect{X0: pick(), Y0: pick(), X1: pick(), Y1: pick()}
		g := display.Plain(&display.Fill{Rect: &box, Brush: display.Solid(c)},
			&display.Fill{Path: geom.RectPath(box), Brush: &display.Gradient{Kind: []string{"linear", "radial",
				"conic"}[r.Intn(3)],
				From: geom.Point{X: pick()}, To: geom.Point{Y: pick()}, Radius: geom.Point{X: pick(),
					Y: pick()}, Matrix: geom.Identity,
				Stops: []display.Stop{{At: pick(), Color: red}, {At: pick(), Color: blue}}, Repeats: r.Intn(2) == 0}},
			&display.Shadow{Shape: geom.Round{Rect: box, Radii: [4]geom.Point{{X: pick(), Y: pick()}}},
				Sigma: math.Abs(pick()), Color: red},
			&display.Fill{Rect: &box, Brush: &display.Tiles{Cell: geom.Rect{X0: pick(), X1: pick(), Y0: pick(),
				Y1: pick()}, StepX: pick(), StepY: pick()}})
		g.Matrix = geom.Matrix{A: pick(), B: pick(), C: pick(), D: pick(), E: pick(), F: pick()}
		g.Opacity = pick()
		g.Filters = []display.Filter{{Name: []string{"blur", "drop-shadow", "brightness"}[r.Intn(3)],
			Amount: math.Abs(pick()), DX: pick()}}
		_, err := raster.Draw(&display.List{W: 60, H: 60, Items: []display.Item{g}}, raster.Options{Workers: 1})
		require.NoError(t, err)
	}
}

// What lies below a color that fills everything is left out, and nothing else is.
func TestWhatIsBelowAPlainColorIsNotPainted(t *testing.T) {
	page, part := geom.R(0, 0, 40, 600), geom.R(0, 0, 40, 300)
	red, blue := display.Solid(red), display.Solid(blue)
	for name, c := range map[string]struct {
		over display.Item
		want [2]color.RGBA // above and below the middle
	}{
		"all of it":      {&display.Fill{Rect: &page, Brush: blue}, [2]color.RGBA{{B: 255, A: 255}, {B: 255, A: 255}}},
		"its upper half": {&display.Fill{Rect: &part, Brush: blue}, [2]color.RGBA{{B: 255, A: 255}, {R: 255, A: 255}}},
		"as a veil": {&display.Fill{Rect: &page, Brush: display.Solid(css.Color{B: 1, A: .5})},
			[2]color.RGBA{{R: 127, B: 128, A: 255}, {R: 127, B: 128, A: 255}}},
		"a shape of it": {&display.Fill{Path: geom.RectPath(part), Brush: blue},
			[2]color.RGBA{{B: 255, A: 255}, {R: 255, A: 255}}},
		"faded as a unit": {&display.Group{Items: []display.Item{&display.Fill{Rect: &page, Brush: blue}},
			Matrix: geom.Identity, Opacity: 0}, [2]color.RGBA{{R: 255, A: 255}, {R: 255, A: 255}}},
	} {
		img, err := raster.Draw(&display.List{W: 40, H: 600, Items: []display.Item{&display.Fill{Rect: &page,
			Brush: red}, c.over}}, raster.Options{})
		require.NoError(t, err)
		for i, y := range []int{100, 500} {
			got, want := img.RGBAAt(20, y), c.want[i]
			assert.InDelta(t, want.R, got.R, 1, "%s at %d", name, y)
			assert.InDelta(t, want.B, got.B, 1, "%s at %d", name, y)
		}
	}
}
