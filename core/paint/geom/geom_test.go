package geom_test

import (
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/paint/geom"
)

// area gives the area that a path of straight lines encloses, its parts added with their sign.
func area(p *geom.Path) float64 {
	sum := 0.0
	start, last := geom.Point{}, geom.Point{}
	p.Each(func(op geom.Op, from geom.Point, pts []geom.Point) {
		to := start
		switch op {
		case geom.Move:
			start, last = pts[0], pts[0]
			return
		case geom.Close:
		default:
			to = pts[len(pts)-1]
		}
		sum += last.X*to.Y - to.X*last.Y
		last = to
	})
	return sum / 2
}

func TestPathDataIsRead(t *testing.T) {
	for text, want := range map[string][]geom.Point{
		"M1 2L3 4":                 {{X: 1, Y: 2}, {X: 3, Y: 4}},
		"m1,2 2,2":                 {{X: 1, Y: 2}, {X: 3, Y: 4}},
		"M0 0h5v6H1V2":             {{}, {X: 5}, {X: 5, Y: 6}, {X: 1, Y: 6}, {X: 1, Y: 2}},
		"M1e1-2.5.5":               {{X: 10, Y: -2.5}},
		"M0 0C1 1 2 1 3 0S5-1 6 0": {{}, {X: 1, Y: 1}, {X: 2, Y: 1}, {X: 3}, {X: 4, Y: -1}, {X: 5, Y: -1}, {X: 6}},
		"M0 0Q1 1 2 0T4 0":         {{}, {X: 1, Y: 1}, {X: 2}, {X: 3, Y: -1}, {X: 4}},
		"M0 0l5 0zl0 5":            {{}, {X: 5}, {Y: 5}},
	} {
		p, err := geom.ParsePath(text)
		if text == "M1e1-2.5.5" { // a lone number at the end is a fault; what came before it stays
			assert.Error(t, err)
		} else {
			assert.NoError(t, err, text)
		}
		assert.Equal(t, want, p.Points, text)
	}
}

func TestPathDataWithFaultsKeepsItsBeginning(t *testing.T) {
	for text, steps := range map[string]int{"L1 1": 0, "M0 0 L 5": 1, "M0 0L5 5X": 2, "M0 0A1 1 0 2 0 5 5": 1,
		"10 10": 0} {
		p, err := geom.ParsePath(text)
		assert.Error(t, err, text)
		assert.Len(t, p.Ops, steps, text)
	}
}

// An arc ends where it should, and a circle of two arcs is a circle.
func TestArcs(t *testing.T) {
	p, err := geom.ParsePath("M10 0A10 10 0 0 1-10 0A10 10 0 0 1 10 0z")
	require.NoError(t, err)
	b := p.Bounds()
	assert.InDelta(t, 20, b.W(), .01)
	assert.InDelta(t, 20, b.H(), 8) // the controls reach beyond the curve
	p.Each(func(op geom.Op, _ geom.Point, pts []geom.Point) {
		if op == geom.Cubic {
			assert.InDelta(t, 10, math.Hypot(pts[2].X, pts[2].Y), 1e-6)
		}
	})
	p, err = geom.ParsePath("M0 0A5 5 0 01 100 0") // too small a circle grows
	require.NoError(t, err)
	assert.Equal(t, geom.Point{X: 100}, p.Points[len(p.Points)-1])
}

func TestStrokesCoverWhatAPenCovers(t *testing.T) {
	for _, c := range []struct {
		name, path string
		pen        geom.Pen
		area, by   float64
	}{
		{"a line", "M0 0H100", geom.Pen{Width: 4}, 400, .5},
		{"square ends", "M0 0H100", geom.Pen{Width: 4, Cap: "square"}, 416, .5},
		{"round ends", "M0 0H100", geom.Pen{Width: 4, Cap: "round"}, 400 + 4*math.Pi, .5},
		{"dashes", "M0 0H100", geom.Pen{Width: 2, Dashes: []float64{10, 10}}, 100, .5},
		{"a pen of nothing", "M0 0H100", geom.Pen{}, 0, 0},
	} {
		p, err := geom.ParsePath(c.path)
		require.NoError(t, err)
		assert.InDelta(t, c.area, math.Abs(area(p.Stroke(c.pen))), max(c.by, 1e-9), c.name)
	}
	far := &geom.Path{}
	far.MoveTo(0, 0)
	far.LineTo(1e9, 0)
	assert.True(t, far.Stroke(geom.Pen{Width: 1}).Empty(), "a line that no picture holds")
}

func TestCornersFit(t *testing.T) {
	r := geom.Round{Rect: geom.R(0, 0, 100, 40), Radii: [4]geom.Point{{X: 80, Y: 80}, {X: 80, Y: 80}, {X: 80, Y: 80},
		{X: 80, Y: 80}}}.Fit()
	assert.Equal(t, geom.Point{X: 20, Y: 20}, r.Radii[0], "shrunk alike until two fit on the short side")
	in := r.Inset(25, 0, 0, 0)
	assert.Equal(t, geom.Point{}, in.Radii[0], "a border wider than the corner leaves it sharp")
	assert.Equal(t, geom.Point{X: 20, Y: 20}, in.Radii[2])
	assert.True(t, geom.Round{Rect: geom.R(0, 0, 4, 4)}.Inset(9, 9, 9, 9).Empty())
}

func TestTransforms(t *testing.T) {
	m := geom.Translate(10, 0).Mul(geom.Rotate(math.Pi / 2)).Mul(geom.Scale(2, 3))
	p := m.Apply(geom.Point{X: 1, Y: 0})
	assert.InDelta(t, 10, p.X, 1e-12)
	assert.InDelta(t, 2, p.Y, 1e-12)
	inv, ok := m.Invert()
	require.True(t, ok)
	back := inv.Apply(p)
	assert.InDelta(t, 1, back.X, 1e-12)
	assert.InDelta(t, 0, back.Y, 1e-12)
	assert.InDelta(t, math.Sqrt(6), m.Factor(), 1e-12)
	assert.False(t, m.Upright())
	assert.True(t, geom.Scale(2, 3).Upright())
	assert.False(t, geom.Scale(-1, 1).Upright(), "a mirror is none")
	_, ok = geom.Scale(0, 1).Invert()
	assert.False(t, ok)
}

// Path data of any kind is read in time, and every point is a number.
func FuzzParsePath(f *testing.F) {
	for _, s := range []string{"M0 0L1 1z", "m1 2a3 4 5 0 1 6 7", "M1e5-.5.5", "MMMM", "M0 0C",
		strings.Repeat("M0 0", 50)} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		p, _ := geom.ParsePath(text)
		n := 0
		for _, op := range p.Ops {
			n += [5]int{1, 1, 2, 3, 0}[op]
		}
		if n != len(p.Points) {
			t.Fatalf("%d points for steps that use %d", len(p.Points), n)
		}
		if len(p.Ops) > 0 && p.Ops[0] != geom.Move {
			t.Fatal("a path begins with a move")
		}
		if len(p.Points) > 20*len(text)+20 {
			t.Fatal("more points than the text can say")
		}
		for _, q := range p.Points {
			if math.IsNaN(q.X) || math.IsNaN(q.Y) {
				t.Fatalf("%q has a point that is no number", text)
			}
		}
	})
}
