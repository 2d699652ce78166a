package theme

import (
	"fmt"
	"slices"
	"strings"

	"github.com/lucasb-eyer/go-colorful"

	"ziegel/core/diag"
)

// LeastContrast is what every text of a tone has to the grounds that it stands on (WCAG 2.2, 1.4.3).
const LeastContrast = 4.5

// TextPairs are the texts of a tone with what they stand on, by role.
var TextPairs = [][2]string{{"ink", "ground"}, {"soft", "ground"}, {"accent", "ground"}, {"ink", "surface"},
	{"soft", "surface"}, {"accent", "surface"}, {"accent-ink", "accent"}}

// Pair is a text on a ground of some tone.
type Pair struct {
	Tone, Text, Ground string // roles
	Dark               bool   // in the dark scheme
	TextColor, On      string // as CSS
	Contrast           float64
}

// Token names the token of the text.
func (p Pair) Token() string { return "color." + p.Tone + "." + p.Text }

// String says what is wrong with a pair that nobody can read.
func (p Pair) String() string {
	where := ""
	if p.Dark {
		where = " on dark screens"
	}
	return fmt.Sprintf("the %s of the tone %s (%s) has a contrast of %.1f on its %s (%s)%s; %.1f is the least",
		p.Text, p.Tone, p.TextColor, p.Contrast, p.Ground, p.On, where, LeastContrast)
}

// Color gives the color of a role in a tone, as CSS.
func (t *Theme) Color(tone, role string, dark bool) string {
	k, _ := t.Token("color." + tone + "." + role)
	if dark && k.Dark != "" {
		return k.Dark
	}
	return k.Value
}

// Unreadable lists the pairs of all tones, light and dark, whose text does not stand out from its ground; of a text
// on several grounds the worst. Colors that are not written as #rrggbb are not judged here; the check of a page
// judges them where they are used.
func (t *Theme) Unreadable() []Pair {
	var out []Pair
	for _, dark := range []bool{false, true} {
		for _, tone := range Tones {
			for _, roles := range TextPairs {
				p := Pair{Tone: tone, Text: roles[0], Ground: roles[1], Dark: dark,
					TextColor: t.Color(tone, roles[0], dark), On: t.Color(tone, roles[1], dark)}
				p.Contrast = ContrastOf(p.TextColor, p.On)
				same := dark && t.Color(tone, roles[0], false) == p.TextColor &&
					t.Color(tone, roles[1], false) == p.On
				if p.Contrast == 0 || p.Contrast >= LeastContrast || same {
					continue
				}
				i := slices.IndexFunc(out, func(o Pair) bool {
					return o.Tone == p.Tone && o.Text == p.Text &&
						o.Dark == p.Dark
				})
				switch {
				case i < 0:
					out = append(out, p)
				case p.Contrast < out[i].Contrast:
					out[i] = p
				}
			}
		}
	}
	return out
}

// Readable gives the color nearest to the text of a pair that can be read on all grounds which the role has in its
// tone: its lightness moves, hue and chroma stay as far as sRGB has them. It is "" when no lightness will do.
func (t *Theme) Readable(p Pair) string {
	text, err := colorful.Hex(p.TextColor)
	if err != nil {
		return ""
	}
	var grounds []string
	for _, roles := range TextPairs {
		if roles[0] == p.Text {
			grounds = append(grounds, t.Color(p.Tone, roles[1], p.Dark))
		}
	}
	l, c, h := text.OkLch()
	for step := .005; step < 1; step += .005 {
		for _, at := range []float64{l - step, l + step} {
			if at < 0 || at > 1 {
				continue
			}
			hex, ok := inGamut(at, c, h).Clamped().Hex(), true
			for _, g := range grounds {
				ok = ok && ContrastOf(hex, g) >= LeastContrast
			}
			if ok {
				return hex
			}
		}
	}
	return ""
}

// pairNotes warns of pairs that a site's own token file makes.
func (t *Theme) pairNotes(file string) diag.Problems {
	var out diag.Problems
	for _, p := range t.Unreadable() {
		pos := diag.Position{File: file}
		if at := tokenOffset(t.sources[0], p.Token()); at >= 0 {
			pos = diag.At(file, string(t.sources[0]), at)
		}
		if at := tokenOffset(t.sources[1], p.Token()); p.Dark && at >= 0 {
			pos = diag.At(strings.Replace(file, "theme.", "theme.dark.", 1), string(t.sources[1]), at)
		}
		try := ""
		if c := t.Readable(p); c != "" {
			try = p.Token() + "=" + c
		}
		out = append(out, diag.Problem{Position: pos, Severity: diag.Warning, Rule: "unreadable-pair",
			Text: p.String(), Expected: "a text that can be read on every ground of its tone", Try: try})
	}
	return out
}
