package layout

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"ziegel/core/css"
)

// What shapes leave of a line, from one height to another, in a margin box of 100 by 100 px.
func TestShapesReach(t *testing.T) {
	px := css.PxLen
	near := css.ShapeRadius{Word: "closest-side"}
	pct := func(v float64) css.Len { return css.Len{Kind: css.LenPx, Pct: v} }
	middle := [2]css.Len{pct(50), pct(50)}
	circle := css.Shape{Name: "circle", Radii: [2]css.ShapeRadius{near, near}, Center: middle}
	wedge := css.Shape{Name: "polygon", Points: [][2]css.Len{{px(0), px(0)}, {pct(100), px(0)}, {px(0), pct(100)}}}
	inset := css.Shape{Name: "inset", Sides: [4]css.Len{px(20), pct(10), px(30), px(40)}}
	for _, tt := range []struct {
		name   string
		shape  css.Shape
		margin float64
		y0, y1 float64
		want   string
	}{
		{"a circle at its middle", circle, 0, 40, 60, "0 100"},
		{"above its middle", circle, 0, 0, 20, "10 90"},
		{"at its edge", circle, 0, -20, 0, "none"},
		{"and its margin", circle, 10, -20, 0, "16.8 83.2"},
		{"below its margin", circle, 10, 110, 130, "none"},
		{"an ellipse", css.Shape{Name: "ellipse", Radii: [2]css.ShapeRadius{{Len: pct(40)}, {Len: px(30)}},
			Center: middle}, 0, 50, 51, "10 90"},
		{"beside an ellipse", css.Shape{Name: "ellipse", Radii: [2]css.ShapeRadius{{Len: pct(40)}, {Len: px(30)}},
			Center: middle}, 0, 0, 20, "none"},
		{"the farthest side", css.Shape{Name: "circle", Radii: [2]css.ShapeRadius{{Word: "farthest-side"}},
			Center: [2]css.Len{px(0), px(0)}}, 0, 0, 10, "-100 100"},
		{"a wedge by its upper edge", wedge, 0, 25, 50, "0 75"},
		{"a wedge as a whole", wedge, 0, 0, 100, "0 100"},
		{"a wedge with a margin", wedge, 10, 100, 105, "-10 14.1"},
		{"a box within", inset, 0, 0, 20, "none"},
		{"and beside it", inset, 0, 19, 21, "40 90"},
		{"and around it", inset, 5, 16, 18, "35.4 94.6"},
	} {
		f := shapeOf(&tt.shape, [4]float64{0, 0, 100, 100})
		f.margin = tt.margin
		got := "none"
		if x0, x1, hit := f.reach(tt.y0, tt.y1); hit {
			got = fmt.Sprintf("%.3g %.3g", x0, x1)
		}
		assert.Equal(t, tt.want, got, tt.name)
	}
}
