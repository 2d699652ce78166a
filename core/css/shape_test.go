package css

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
)

// What is read of shape-outside, in a box of 200 px, and what is told instead.
func TestShapesAreRead(t *testing.T) {
	at := func(l Len) string { return fmt.Sprintf("%g", l.Resolve(200*64).Float()) }
	for value, want := range map[string]string{
		"circle()":                                "circle margin-box closest-side 100,100",
		"CIRCLE(closest-side AT right)":           "circle margin-box closest-side 200,100",
		"circle(30px at 10% 20px) border-box":     "circle border-box 30 20,20",
		"content-box circle(10% at bottom left)":  "circle content-box 20 0,200",
		"circle(at right 10px bottom 25%)":        "circle margin-box closest-side 190,150",
		"circle(at right min(10px, 50%) top 0)":   "circle margin-box closest-side 190,0",
		"circle(at left 10px top 5px)":            "circle margin-box closest-side 10,5",
		"circle(at top)":                          "circle margin-box closest-side 100,0",
		"ellipse(20px 10%)":                       "ellipse margin-box 20/20 100,100",
		"ellipse(farthest-side 5px at 0 0)":       "ellipse margin-box farthest-side/5 0,0",
		"inset(1px 2px 3px)":                      "inset margin-box 1 2 3 2",
		"inset(10%)":                              "inset margin-box 20 20 20 20",
		"polygon(0 0, 100% 0, 0 calc(50% + 1px))": "polygon margin-box 0,0 200,0 0,101",
		"polygon(evenodd, 1px 2px)":               "polygon margin-box 1,2",
		"none":                                    "none",
		"margin-box":                              "told",
		"inset(1px round 2px)":                    "told",
		"path('M0 0')":                            "told",
		"xywh(1px 2px 3px 4px)":                   "told",
		"url(circle.png)":                         "told",
		"linear-gradient(red, blue)":              "told",
		"circle(1px 2px)":                         "none", // not valid
		"polygon(1px)":                            "none",
		"cirle()":                                 "none",
	} {
		d := load(t, "<style>p{float:left;shape-outside:"+value+"}</style><p id=x>a")
		st := styleOf(t, d, "x", 800)
		sh, got := st.ShapeOutside, "none"
		radius := func(r ShapeRadius) string {
			if r.Word != "" {
				return r.Word
			}
			return at(r.Len)
		}
		switch sh.Name {
		case "circle":
			got = fmt.Sprint(sh.Name, " ", sh.Box, " ", radius(sh.Radii[0]), " ", at(sh.Center[0]), ",",
				at(sh.Center[1]))
		case "ellipse":
			got = fmt.Sprint(sh.Name, " ", sh.Box, " ", radius(sh.Radii[0]), "/", radius(sh.Radii[1]), " ",
				at(sh.Center[0]), ",", at(sh.Center[1]))
		case "inset":
			got = fmt.Sprint(sh.Name, " ", sh.Box, " ", at(sh.Sides[0]), " ", at(sh.Sides[1]), " ", at(sh.Sides[2]),
				" ", at(sh.Sides[3]))
		case "polygon":
			got = sh.Name + " " + sh.Box
			for _, p := range sh.Points {
				got += " " + at(p[0]) + "," + at(p[1])
			}
		}
		if len(d.Unsupported) > 0 {
			got = "told"
		}
		assert.Equal(t, want, got, value)
	}
}
