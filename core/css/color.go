package css

import (
	"image/color"
	"math"
	"strconv"
	"strings"

	"github.com/lucasb-eyer/go-colorful"
	"github.com/tdewolff/parse/v2/css"
	"golang.org/x/image/colornames"
)

// Color is a color in sRGB, components and alpha 0..1.
type Color struct{ R, G, B, A float64 }

// ColorContext is what the words currentcolor, light-dark() and the system colors stand for.
type ColorContext struct {
	Current Color
	Dark    bool
}

// systemColors are what Chromium shows for them, light and dark (measured).
var systemColors = map[string][2]string{
	"canvas": {"#ffffff", "#121212"}, "canvastext": {"#000000", "#ffffff"}, "linktext": {"#0000ee", "#9e9eff"},
	"-webkit-link": {"#0000ee", "#9e9eff"},
	"visitedtext":  {"#551a8b", "#d0adf0"}, "buttonface": {"#efefef", "#6b6b6b"},
	"buttontext":   {"#000000", "#ffffff"},
	"buttonborder": {"#000000", "#ffffff"},
	"field":        {"#ffffff", "#3b3b3b"}, "fieldtext": {"#000000", "#ffffff"}, "graytext": {"#757575", "#8f8f8f"},
	"mark": {"#ffff00", "#ffff00"}, "marktext": {"#000000", "#000000"},
	"highlight": {"#b5d5ff", "#b5d5ff"}, "highlighttext": {"#000000", "#000000"},
	"accentcolor": {"#0075ff", "#0075ff"}, "accentcolortext": {"#ffffff", "#ffffff"},
}

// ParseColor reads a color (CSS Color 4, and color-mix() and light-dark() of Color 5). ok is false for what is none.
func ParseColor(v []Token, in ColorContext) (c Color, ok bool) {
	v = trim(v)
	if len(v) == 0 {
		return Color{}, false
	}
	switch t := v[0]; t.Kind {
	case css.HashToken:
		return hexColor(t.Text), len(v) == 1 && validHex(t.Text)
	case css.IdentToken:
		name := strings.ToLower(t.Text)
		if len(v) > 1 {
			return Color{}, false
		}
		switch name {
		case "transparent":
			return Color{}, true
		case "currentcolor":
			return in.Current, true
		}
		if s, ok := systemColors[name]; ok {
			return hexColor(s[bit(in.Dark)]), true
		}
		if name == "rebeccapurple" { // the one name that CSS has and SVG 1.1 has not
			return hexColor("#663399"), true
		}
		n, ok := colornames.Map[name]
		return Color{float64(n.R) / 255, float64(n.G) / 255, float64(n.B) / 255, 1}, ok
	case css.FunctionToken:
		if end := endOfValue(v, 0); end == len(v) && nesting(v) <= deepestColor {
			return colorFunction(strings.TrimSuffix(strings.ToLower(t.Text), "("), inside(v, 0, end), in)
		}
	}
	return Color{}, false
}

// deepestColor is how many functions may stand in each other in a color.
const deepestColor = 16

// nesting gives how many functions and brackets stand in each other in a value, at most.
func nesting(v []Token) int {
	depth, most := 0, 0
	for _, t := range v {
		switch t.Kind {
		case css.FunctionToken, css.LeftParenthesisToken:
			depth++
			most = max(most, depth)
		case css.RightParenthesisToken:
			depth--
		}
	}
	return most
}

func validHex(s string) bool {
	if _, err := strconv.ParseUint(s[1:], 16, 64); err != nil {
		return false
	}
	return len(s) == 4 || len(s) == 5 || len(s) == 7 || len(s) == 9
}

func hexColor(s string) Color {
	s = strings.TrimPrefix(s, "#")
	if len(s) == 3 || len(s) == 4 {
		var long strings.Builder
		for _, c := range s {
			long.WriteRune(c)
			long.WriteRune(c)
		}
		s = long.String()
	}
	if len(s) == 6 {
		s += "ff"
	}
	n, err := strconv.ParseUint(s, 16, 32)
	if err != nil {
		return Color{}
	}
	at := func(shift uint) float64 { return float64(n>>shift&255) / 255 }
	return Color{at(24), at(16), at(8), at(0)}
}

func colorFunction(name string, v []Token, in ColorContext) (Color, bool) {
	switch name {
	case "light-dark":
		parts := SplitCommas(v)
		if len(parts) != 2 {
			return Color{}, false
		}
		return ParseColor(parts[bit(in.Dark)], in)
	case "color-mix":
		return mixColors(SplitCommas(v), in)
	}
	var parts [][]Token
	for _, p := range SplitCommas(v) {
		parts = append(parts, split(p)...)
	}
	if name == "color" {
		if len(parts) < 4 {
			return Color{}, false
		}
		name = ident(parts[0])
		parts = parts[1:]
	}
	if len(parts) > 0 && len(parts[0]) == 1 && parts[0][0].Is("from") {
		return Color{}, false // relative colors are not read
	}
	var n []float64
	alpha := 1.0
	for i, p := range parts {
		if Text(p) == "/" {
			continue
		}
		x, ok := component(p, name, len(n))
		if !ok {
			return Color{}, false
		}
		if len(n) == 3 || i > 0 && Text(parts[i-1]) == "/" {
			alpha = max(0, min(1, x))
			continue
		}
		n = append(n, x)
	}
	if len(n) != 3 {
		return Color{}, false
	}
	c, ok := fromSpace(name, n)
	c.A = alpha
	return c, ok
}

// percentOf gives what 100 % stands for, by color space and component.
var percentOf = map[string][4]float64{
	"rgb": {255, 255, 255, 1}, "rgba": {255, 255, 255, 1}, "hsl": {360, 100, 100, 1}, "hsla": {360, 100, 100, 1},
	"hwb": {360, 100, 100, 1},
	"lab": {100, 125, 125, 1}, "lch": {100, 150, 360, 1}, "oklab": {1, .4, .4, 1}, "oklch": {1, .4, 360, 1},
}

func component(p []Token, space string, i int) (float64, bool) {
	if ident(p) == "none" {
		return 0, true
	}
	e, ok := parseExpr(p, exprAny)
	if !ok {
		return 0, false
	}
	l := e.compute(&unitContext{})
	if len(p) == 1 && p[0].Kind == css.DimensionToken { // an angle; read as radians
		return l.Px * 180 / math.Pi, true
	}
	if l.Pct != 0 || l.Kind == LenPx {
		full := [4]float64{1, 1, 1, 1}
		if f, ok := percentOf[space]; ok {
			full = f
		}
		return l.Pct / 100 * full[min(i, 3)], true
	}
	return l.Px, true
}

func fromSpace(space string, n []float64) (Color, bool) {
	of := func(c colorful.Color) (Color, bool) {
		c = c.Clamped()
		return Color{c.R, c.G, c.B, 1}, true
	}
	switch space {
	case "rgb", "rgba":
		return of(colorful.Color{R: n[0] / 255, G: n[1] / 255, B: n[2] / 255})
	case "srgb":
		return of(colorful.Color{R: n[0], G: n[1], B: n[2]})
	case "srgb-linear":
		return of(colorful.LinearRgb(n[0], n[1], n[2]))
	case "display-p3":
		return of(colorful.Xyz(colorful.LinearDisplayP3ToXyz(colorful.DisplayP3ToLinearRgb(n[0], n[1], n[2]))))
	case "hsl", "hsla":
		return of(colorful.Hsl(turn(n[0]), n[1]/100, n[2]/100))
	case "hwb":
		w, b := n[1]/100, n[2]/100
		if w+b >= 1 {
			return of(colorful.Color{R: w / (w + b), G: w / (w + b), B: w / (w + b)})
		}
		c := colorful.Hsl(turn(n[0]), 1, .5)
		return of(colorful.Color{R: c.R*(1-w-b) + w, G: c.G*(1-w-b) + w, B: c.B*(1-w-b) + w})
	case "lab":
		return of(colorful.Lab(n[0]/100, n[1]/100, n[2]/100))
	case "lch":
		return of(colorful.Hcl(turn(n[2]), n[1]/100, n[0]/100))
	case "oklab":
		return of(colorful.OkLab(n[0], n[1], n[2]))
	case "oklch":
		return of(colorful.OkLch(n[0], n[1], turn(n[2])))
	}
	return Color{}, false
}

func turn(h float64) float64 { return math.Mod(math.Mod(h, 360)+360, 360) }

// mixColors reads the arguments of color-mix(). Polar spaces are mixed in their rectangular twins.
func mixColors(parts [][]Token, in ColorContext) (Color, bool) {
	if len(parts) != 3 {
		return Color{}, false
	}
	var colors [2]Color
	shares := [2]float64{-1, -1}
	for i, p := range parts[1:] {
		for _, w := range split(p) {
			if len(w) == 1 && w[0].Kind == css.PercentageToken {
				n, err := strconv.ParseFloat(strings.TrimSuffix(w[0].Text, "%"), 64)
				if err != nil {
					return Color{}, false
				}
				shares[i] = n / 100
				continue
			}
			c, ok := ParseColor(w, in)
			if !ok {
				return Color{}, false
			}
			colors[i] = c
		}
	}
	switch {
	case shares[0] < 0 && shares[1] < 0:
		shares = [2]float64{.5, .5}
	case shares[0] < 0:
		shares[0] = 1 - shares[1]
	case shares[1] < 0:
		shares[1] = 1 - shares[0]
	}
	sum := shares[0] + shares[1]
	if sum <= 0 {
		return Color{}, false
	}
	t := shares[1] / sum
	a, b := colors[0], colors[1]
	alpha := a.A*(1-t) + b.A*t
	if alpha == 0 {
		return Color{}, true
	}
	k := b.A * t / alpha // premultiplied
	x, y := colorful.Color{R: a.R, G: a.G, B: a.B}, colorful.Color{R: b.R, G: b.G, B: b.B}
	var out colorful.Color
	switch space := Text(parts[0]); {
	case strings.Contains(space, "srgb-linear"):
		out = x.BlendLinearRgb(y, k)
	case strings.Contains(space, "srgb"):
		out = x.BlendRgb(y, k)
	default:
		out = x.BlendOkLab(y, k)
	}
	out = out.Clamped()
	return Color{out.R, out.G, out.B, alpha * min(1, sum)}, true
}

// Over gives the color that is seen when c lies on ground.
func (c Color) Over(ground Color) Color {
	a := c.A + ground.A*(1-c.A)
	if a == 0 {
		return Color{}
	}
	mix := func(x, y float64) float64 { return (x*c.A + y*ground.A*(1-c.A)) / a }
	return Color{mix(c.R, ground.R), mix(c.G, ground.G), mix(c.B, ground.B), a}
}

// Hex writes the color as #rrggbb, without its alpha.
func (c Color) Hex() string { return colorful.Color{R: c.R, G: c.G, B: c.B}.Hex() }

// Luminance is the relative luminance of an opaque color, 0..1 (WCAG 2.2).
func (c Color) Luminance() float64 { return .2126*linear(c.R) + .7152*linear(c.G) + .0722*linear(c.B) }

// linear undoes the transfer function of sRGB (css-color-4, section 10.2).
func linear(v float64) float64 {
	if k := int(v*255 + .5); k >= 0 && k < len(linearOf) && float64(k)/255 == v { // as most colors are written
		return linearOf[k]
	}
	return toLinear(v)
}

func toLinear(v float64) float64 {
	if v <= .04045 {
		return v / 12.92
	}
	return math.Pow((v+.055)/1.055, 2.4)
}

// linearOf has the values of eight bits.
var linearOf = func() (out [256]float64) {
	for k := range out {
		out[k] = toLinear(float64(k) / 255)
	}
	return out
}()

// Contrast is the contrast ratio of two opaque colors, 1..21 (WCAG 2.2).
func Contrast(a, b Color) float64 { return ContrastOf(a.Luminance(), b.Luminance()) }

// ContrastOf is the contrast ratio of two luminances.
func ContrastOf(x, y float64) float64 {
	if x < y {
		x, y = y, x
	}
	return (x + .05) / (y + .05)
}

// FromNRGBA takes a color of a picture.
func FromNRGBA(c color.NRGBA) Color {
	return Color{R: float64(c.R) / 255, G: float64(c.G) / 255, B: float64(c.B) / 255, A: float64(c.A) / 255}
}

// Colors reads a list of colors; what is none, or cannot be seen, is left out.
func Colors(list []string) []Color {
	var out []Color
	for _, text := range list {
		if c, ok := ParseColor(Tokenize(text), ColorContext{}); ok && c.A > 0 {
			out = append(out, c)
		}
	}
	return out
}
