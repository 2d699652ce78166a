package theme

import (
	"math"
	"strings"

	"github.com/lucasb-eyer/go-colorful"
)

// PictureRoles are the colors that pictures drawn for a theme speak of, by role: an SVG file names them --picture-sky
// and so on.
var PictureRoles = []string{"sky", "haze", "sea", "far", "near", "wood", "leaf", "ink", "shade", "main", "light",
	"second", "paper"}

// Pictures gives the colors of pictures, light and dark, by role, as CSS. Tokens picture.ROLE say them; what a theme
// leaves out follows from its colors: skies from the ground that is tinted, the thing that is shown from the accent.
func (t *Theme) Pictures() (light, dark map[string]string) {
	light, dark = t.drawn(false), t.drawn(true)
	for _, k := range t.Tokens {
		role, ok := strings.CutPrefix(k.Name, "picture.")
		if !ok || k.Type != "color" {
			continue
		}
		light[role], dark[role] = k.Value, k.Value
		if k.Dark != "" {
			dark[role] = k.Dark
		}
	}
	return light, dark
}

// drawn works out the colors of pictures from those of the tones.
func (t *Theme) drawn(dark bool) map[string]string {
	get := func(tone, role string) (l, c, h float64) {
		x, err := colorful.Hex(t.Color(tone, role, dark))
		if err != nil { // written in another space: its picture is grey
			return .5, 0, 0
		}
		return x.OkLch()
	}
	al, ac, ah := get("plain", "accent")
	_, _, ih := get("plain", "ink")
	_, tc, _ := get("tinted", "ground")
	_, dc, dh := get("deep", "ground")
	sky, haze, far, near, ink, paper := .80, .92, .88, .79, .24, .985
	if dark {
		sky, haze, far, near, ink, paper = .34, .46, .42, .33, .14, .93
	}
	main := math.Min(math.Max(al, .4), .72)
	sand := .035
	if ac < .02 { // a theme without colors
		sand = 0
	}
	at := func(l, c, h float64) string { return inGamut(l, c, h).Clamped().Hex() }
	return map[string]string{
		"sky": at(sky, math.Max(.02, tc*1.6), dh), "haze": at(haze, math.Max(.008, tc*.8), dh),
		"far": at(far, sand*.8, ih), "near": at(near, sand*1.2, ih),
		"main": at(main, ac, ah), "light": at(main+.1, ac*.95, ah),
		"second": at(.83, math.Min(ac+.02, .15)*math.Min(1, ac*50), ah+45),
		"sea":    at(sky-.1, math.Max(.025, tc*2), dh), "wood": at(near-.1, sand*1.4, ih),
		"shade": at(ink+.12, dc, dh),
		"leaf":  at((sky+near)/2-.14, math.Min(.04, ac), ih), "ink": at(ink, dc, dh), "paper": at(paper, .004, ih),
	}
}
