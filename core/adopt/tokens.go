package adopt

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"path"
	"slices"
	"strings"

	"ziegel/core/css"
	"ziegel/core/media"
	"ziegel/core/theme"
)

// What a page is drawn with, by role: its colors, type, corners and distances, each the value that most of it has.
// Values that differ by less than an eye sees at work become one, and that is told.

// Tokens are design tokens (DTCG), and what is to be said of how they came about.
type Tokens struct {
	Values map[string]any
	Told   []string
	Scheme string // light or dark, when the pages have but one
	Sheet  string // custom properties of a site that was built by this program, which say all tokens themselves
}

// Tokens measures what the pages are drawn with.
func (t *Taking) Tokens() Tokens {
	s := &surveyor{
		values:    map[string]any{},
		ink:       tally{},
		soft:      tally{},
		ground:    tally{},
		accent:    tally{},
		accentInk: tally{},
		line:      tally{},
		surface:   tally{},
		tones:     map[string][2]tally{},
		sizes:     map[string][2]map[float64]float64{},
		heights:   map[string]tally{},
		weights:   map[string]tally{},
		radius:    map[string]map[float64]float64{},
		pads:      map[float64]float64{},
		widths:    map[float64]float64{},
		faces:     map[string]tally{},
		generic:   map[string]tally{},
	}
	for _, p := range t.Pages {
		if sheet := p.ownSheet(); sheet != "" {
			return Tokens{Sheet: sheet}
		}
		s.page(p, append(append(slices.Clone(p.Bands), t.Top...), t.Bottom...))
	}
	s.fonts(t)
	s.scale()
	s.palette()
	s.corners()
	scheme := s.scheme
	if slices.ContainsFunc(t.Pages, func(p *Page) bool { return p.laid.Doc.TwoSchemes() }) {
		scheme = ""
	}
	return Tokens{Values: s.values, Told: s.told, Scheme: scheme}
}

// ownSheet gives the custom properties of a page that was built by this program.
func (p *Page) ownSheet() string {
	exact := slices.ContainsFunc(p.Bands, func(b *Band) bool { return b.Exact })
	for _, s := range p.laid.Doc.Sheets {
		if exact && path.Base(s.File) == "site.css" && strings.Contains(s.Source, "--color-plain-ground") {
			return withoutPrint(s.Source)
		}
	}
	return ""
}

// withoutPrint takes out what a stylesheet says for paper.
func withoutPrint(source string) string {
	const begin = "@media print"
	for {
		from := strings.Index(source, begin)
		if from < 0 {
			return source
		}
		depth, to := 0, len(source)
		for i := from; i < len(source); i++ {
			switch source[i] {
			case '{':
				depth++
			case '}':
				if depth--; depth == 0 {
					to = i + 1
				}
			}
			if to <= i+1 {
				break
			}
		}
		source = source[:from] + source[to:]
	}
}

// set gives a token its value.
func (s *surveyor) set(name, kind string, value any, phone any) {
	at := s.values
	steps := strings.Split(name, ".")
	for _, x := range steps[:len(steps)-1] {
		next, ok := at[x].(map[string]any)
		if !ok {
			next = map[string]any{}
			at[x] = next
		}
		at = next
	}
	token := map[string]any{"$type": kind, "$value": value}
	if phone != nil {
		token["$extensions"] = map[string]any{"ziegel": map[string]any{"phone": phone}}
	}
	at[steps[len(steps)-1]] = token
}

func rem(px float64) map[string]any {
	return map[string]any{"value": math.Round(px/16*10000) / 10000, "unit": "rem"}
}

// joined takes sizes that lie within a sixteenth of each other for one, that which most has.
func (s *surveyor) joined(what string, sizes map[float64]float64) float64 {
	best := 0.0
	keys := slices.Sorted(maps.Keys(sizes))
	for _, k := range keys {
		if best == 0 || sizes[k] > sizes[best] {
			best = k
		}
	}
	var near []string
	for _, k := range keys {
		if k != best && math.Abs(k-best) <= max(1, best/16) {
			near = append(near, fmt.Sprintf("%g", k))
		}
	}
	if len(near) > 0 {
		s.told = append(
			s.told,
			fmt.Sprintf("%s: %s and %g px are one size now, %g px", what, strings.Join(near, ", "), best, best),
		)
	}
	return best
}

// scale writes the scale of type.
func (s *surveyor) scale() {
	for _, role := range []string{"display", "title", "heading", "body"} {
		size := s.sizes[role]
		if len(size[0]) == 0 {
			continue
		}
		wide := s.joined("type."+role, size[0])
		var phone any
		if len(size[1]) > 0 {
			quiet := &surveyor{}
			if narrow := quiet.joined("", size[1]); narrow != wide {
				phone = rem(narrow)
			}
		}
		s.set("type."+role, "dimension", rem(wide), phone)
		var height float64
		if _, err := fmt.Sscanf(s.heights[role].most(), "%g", &height); err == nil && height >= .8 && height <= 2.4 {
			s.set("line-height."+role, "number", height, nil)
		}
		if role == "display" || role == "body" {
			var weight float64
			if _, err := fmt.Sscanf(s.weights[role].most(), "%g", &weight); err == nil && weight >= 100 {
				s.set("weight."+role, "fontWeight", weight, nil)
			}
		}
	}
}

// palette writes the colors of all tones: those that were measured, the others derived from them.
func (s *surveyor) palette() {
	ground, accent := s.ground.most(), s.accent.most()
	if ground == "" {
		ground = "#ffffff"
	}
	dark := false
	if c, ok := css.ParseColor(css.Tokenize(ground), css.ColorContext{}); ok {
		dark = luminance(c) < .3
		s.scheme = map[bool]string{false: "light", true: "dark"}[dark]
	}
	if accent == "" {
		accent = s.ink.most()
	}
	if accent == "" {
		return
	}
	neutral := ""
	if ink := s.ink.most(); ink != "" {
		neutral = ink
	}
	colors, err := theme.Derive(accent, neutral, dark)
	if err != nil {
		return
	}
	put := func(tone, role, value string) {
		if value != "" {
			colors[tone][role] = value
		}
	}
	put("plain", "ground", ground)
	put("plain", "ink", s.ink.most())
	put("plain", "accent", accent)
	put("plain", "accent-ink", s.accentInk.most())
	put("plain", "line", s.line.most())
	put("plain", "surface", cmp.Or(s.surface.most(), ground))
	for tone, pair := range s.tones {
		if tone != "plain" {
			put(tone, "ground", pair[0].most())
			put(tone, "ink", pair[1].most())
		}
	}
	for _, tone := range theme.Tones {
		for _, role := range theme.Roles {
			if v := s.readable(colors[tone], tone, role); v != "" {
				s.set("color."+tone+"."+role, "color", theme.ColorValue(v), nil)
			}
		}
	}
}

// readable gives the color of a role, or the ink of its tone in place of one that could not be read.
func (s *surveyor) readable(colors map[string]string, tone, role string) string {
	v := colors[role]
	var on []string
	switch role {
	case "ink", "soft", "accent":
		on = []string{colors["ground"], colors["surface"]}
	case "accent-ink":
		on = []string{colors["accent"]}
	}
	for _, g := range on {
		if g == "" || v == "" || theme.ContrastOf(v, g) >= theme.LeastContrast {
			continue
		}
		if role == "soft" {
			return colors["ink"]
		}
		if tone == "plain" {
			s.told = append(
				s.told,
				fmt.Sprintf("color.%s.%s: %s on %s has a contrast of %.1f, and 4.5 is what can be read",
					tone, role, v, g, theme.ContrastOf(v, g)),
			)
		}
		break
	}
	return v
}

// corners writes radii, the distance between blocks, and the width of the content.
func (s *surveyor) corners() {
	for role, list := range s.radius {
		if px := s.joined("radius."+role, list); px < 999 {
			s.set("radius."+role, "dimension", rem(px), nil)
		}
	}
	if len(s.pads) > 0 {
		quiet := &surveyor{}
		s.set("space.section", "dimension", rem(quiet.joined("", s.pads)), nil)
	}
	if len(s.widths) > 0 {
		widest := slices.Max(slices.Collect(maps.Keys(s.widths)))
		s.set("lane.body", "dimension", rem(widest), nil)
	}
}

// fonts takes the faces that the pages bring: their files come along. What they only name is told.
func (s *surveyor) fonts(t *Taking) {
	for _, role := range []string{"body", "display"} {
		family := s.faces[role].most()
		if family == "" {
			continue
		}
		files := 0
		for _, p := range t.Pages {
			files += t.faceFiles(p, family)
			if files > 0 {
				break
			}
		}
		generic := s.generic[role].most()
		stand := standIns[generic]
		switch {
		case files == 0 && stand != "":
			s.told = append(
				s.told,
				fmt.Sprintf(
					"face.%s: the pages name %q and bring no file of it; %s, which ships, stands for it",
					role,
					family,
					stand,
				),
			)
			family = stand
		case files == 0:
			s.told = append(
				s.told,
				fmt.Sprintf(
					"face.%s: the pages name %q and bring no file of it; the theme's face stays",
					role,
					family,
				),
			)
			continue
		}
		s.set("face."+role, "fontFamily", []any{family, generic}, nil)
	}
	s.told = slices.Compact(s.told)
}

// standIns are shipped faces for those that a page does not bring, by their generic family (CSS Fonts 4, 2.1.3).
var standIns = map[string]string{"serif": "Newsreader", "monospace": "JetBrains Mono"}

// faceFiles brings the font files of a family along, named as the site finds them, and counts them.
func (t *Taking) faceFiles(p *Page, family string) int {
	n := 0
	for _, f := range p.laid.Doc.FontFaces {
		if !strings.EqualFold(f.Family, family) {
			continue
		}
		for _, src := range f.Sources {
			file := path.Join(path.Dir(f.From), src)
			data, err := readWithin(t.files, file)
			ext := strings.ToLower(path.Ext(file))
			if err != nil || !slices.Contains([]string{".woff2", ".woff", ".ttf", ".otf"}, ext) {
				continue
			}
			weights := fmt.Sprintf("%.0f", f.WeightLow)
			if f.WeightHigh > f.WeightLow {
				weights = fmt.Sprintf("%.0f-%.0f", f.WeightLow, f.WeightHigh)
			}
			if f.Italic {
				weights += "-italic"
			}
			t.Media.Files["fonts/"+media.Slug(family)+"-"+weights+ext] = data
			n++
			break
		}
	}
	return n
}
