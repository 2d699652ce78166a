package theme

import (
	"encoding/json"
	"fmt"
	"math"

	"github.com/lucasb-eyer/go-colorful"

	"ziegel/core/css"
)

// Least contrast of a derived text to every ground that it stands on (WCAG 2.2, 1.4.3 asks for 4.5; what rounding
// takes is added).
const leastContrast = 4.6

// Palette is every role of every tone, as #rrggbb: Palette["deep"]["ink"].
type Palette map[string]map[string]string

// Derive makes a palette from one color, in OKLCH: grounds and inks take its hue, or that of neutral, and every text
// stands out from the grounds and surfaces of its tone by 4.5 to 1 or more. dark makes the one for those who ask for
// dark colors.
func Derive(accent, neutral string, dark bool) (Palette, error) {
	seed, err := colorful.Hex(accent)
	if err != nil {
		return nil, fmt.Errorf("%q is no color: write #rrggbb", accent)
	}
	base := seed
	if neutral != "" {
		if base, err = colorful.Hex(neutral); err != nil {
			return nil, fmt.Errorf("%q is no color: write #rrggbb", neutral)
		}
	}
	d := &deriver{}
	_, d.chroma, d.hue = seed.OkLch()
	d.light, _, _ = seed.OkLch()
	_, nc, nh := base.OkLch()
	d.neutralHue, d.neutral = nh, math.Min(1, nc/.12)
	if dark {
		return d.dark(), nil
	}
	return d.bright(), nil
}

type deriver struct{ light, chroma, hue, neutral, neutralHue float64 }

// grey gives a color of the neutral hue.
func (d *deriver) grey(l, c float64) colorful.Color {
	return colorful.OkLch(l, c*d.neutral, d.neutralHue).Clamped()
}

// vivid gives a color of the accent's hue.
func (d *deriver) vivid(l float64) colorful.Color { return inGamut(l, d.chroma, d.hue) }

// inGamut lowers the chroma until sRGB has the color.
func inGamut(l, c, h float64) colorful.Color {
	for ; c > 0; c -= .004 {
		if x := colorful.OkLch(l, c, h); x.IsValid() {
			return x
		}
	}
	return colorful.OkLch(l, 0, h).Clamped()
}

// ContrastOf gives the contrast of two colors, #rrggbb, by WCAG 2.2.
func ContrastOf(a, b string) float64 {
	x, err1 := colorful.Hex(a)
	y, err2 := colorful.Hex(b)
	if err1 != nil || err2 != nil {
		return 0
	}
	return contrast(x, y)
}

func contrast(a, b colorful.Color) float64 {
	return css.Contrast(css.Color{R: a.R, G: a.G, B: a.B, A: 1}, css.Color{R: b.R, G: b.G, B: b.B, A: 1})
}

// reading moves a color's lightness by steps until it stands out from all grounds.
func reading(make func(l float64) colorful.Color, from, step float64, grounds ...colorful.Color) colorful.Color {
	for l := from; l >= 0 && l <= 1; l += step {
		c := exact(make(l))
		ok := true
		for _, g := range grounds {
			ok = ok && contrast(c, exact(g)) >= leastContrast
		}
		if ok {
			return c
		}
	}
	if step < 0 {
		return colorful.Color{}
	}
	return colorful.Color{R: 1, G: 1, B: 1}
}

// exact rounds a color to what its hex name says.
func exact(c colorful.Color) colorful.Color {
	x, _ := colorful.Hex(c.Clamped().Hex())
	return x
}

// lights say where the colors of a tone begin: how light (0 to 1) soft text, lines and the accent are looked for from,
// and up, 1 for light text on dark grounds, -1 for the reverse.
type lights struct{ soft, line, accent, up float64 }

// tone puts the roles of one tone together.
func (d *deriver) tone(ground, surface, ink colorful.Color, l lights) map[string]string {
	soft := reading(func(x float64) colorful.Color { return d.grey(x, .03) }, l.soft, l.up*.01, ground, surface)
	accent := reading(d.vivid, l.accent, l.up*.01, ground, surface)
	on := colorful.Color{R: 1, G: 1, B: 1}
	if contrast(on, accent) < leastContrast {
		on = reading(func(x float64) colorful.Color { return d.grey(x, .04) }, .25, -.01, accent)
	}
	if contrast(on, accent) < leastContrast { // an accent between: darker, so that white stands on it
		accent = reading(d.vivid, l.accent, -.01, on)
	}
	return map[string]string{"ground": ground.Clamped().Hex(), "surface": surface.Clamped().Hex(),
		"ink": ink.Clamped().Hex(), "soft": soft.Hex(), "line": d.grey(l.line, .025).Hex(), "accent": accent.Hex(),
		"accent-ink": on.Clamped().Hex()}
}

// filled is the tone whose ground is the accent itself.
func (d *deriver) filled(from float64) map[string]string {
	white := colorful.Color{R: 1, G: 1, B: 1}
	ground := reading(d.vivid, from, -.01, white)
	l, _, _ := ground.OkLch()
	surface := d.vivid(l - .05)
	soft := reading(func(x float64) colorful.Color { return inGamut(x, .03, d.hue) }, .93, .005, ground, surface)
	on := reading(d.vivid, l-.06, -.01, white)
	return map[string]string{"ground": ground.Hex(), "surface": surface.Hex(), "ink": "#ffffff", "soft": soft.Hex(),
		"line": inGamut(l+.14, d.chroma*.7, d.hue).Hex(), "accent": "#ffffff", "accent-ink": on.Hex()}
}

func (d *deriver) bright() Palette {
	ground, white := d.grey(.976, .008), colorful.Color{R: 1, G: 1, B: 1}
	ink := d.grey(.25, .04)
	tint := d.grey(.93, .02)
	deep := d.grey(.25, .04)
	start := math.Min(math.Max(d.light, .42), .7)
	return Palette{
		"plain":  d.tone(ground, white, ink, lights{.5, .87, start, -1}),
		"tinted": d.tone(tint, ground, ink, lights{.48, .83, start, -1}),
		"deep":   d.tone(deep, d.grey(.3, .045), d.grey(.965, .008), lights{.72, .39, math.Max(.66, d.light), 1}),
		"accent": d.filled(start),
	}
}

func (d *deriver) dark() Palette {
	ground := d.grey(.19, .025)
	ink := d.grey(.94, .01)
	tint := d.grey(.24, .03)
	start := math.Max(.68, d.light)
	return Palette{
		"plain":  d.tone(ground, d.grey(.24, .03), ink, lights{.7, .34, start, 1}),
		"tinted": d.tone(tint, d.grey(.19, .025), ink, lights{.72, .38, start, 1}),
		"deep":   d.tone(d.grey(.32, .045), d.grey(.27, .04), d.grey(.965, .008), lights{.76, .44, start, 1}),
		"accent": d.filled(.5),
	}
}

// JSON writes the palette as a group of DTCG color tokens.
func (p Palette) JSON() ([]byte, error) {
	group := map[string]any{"$type": "color"}
	for _, tone := range Tones {
		roles := map[string]any{}
		for _, r := range Roles {
			roles[r] = map[string]any{"$value": ColorValue(p[tone][r])}
		}
		group[tone] = roles
	}
	return json.Marshal(group)
}
