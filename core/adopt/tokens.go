package adopt

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"path"
	"slices"
	"strconv"
	"strings"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/media"
	"ziegel/core/theme"
)

// What a page is drawn with, by role: its colors, type, corners and distances, each the value that most of it has.
// Values that differ by less than an eye sees at work become one, and that is told.

// phoneWidth is the screen width at which type is measured once more, CSS px.
const phoneWidth = 390

// Tokens are design tokens (DTCG), and what is to be said of how they came about.
type Tokens struct {
	Values map[string]any
	Told   []string
	Scheme string // light or dark, when the pages have but one
	Sheet  string // custom properties of a site that was built by this program, which say all tokens themselves
}

// tally counts values by weight.
type tally map[string]float64

// most gives the value with the most weight, "" for none.
func (t tally) most() string {
	best := ""
	for _, k := range slices.Sorted(maps.Keys(t)) {
		if best == "" || t[k] > t[best] {
			best = k
		}
	}
	return best
}

// surveyor measures pages.
type surveyor struct {
	values map[string]any
	told   []string
	scheme string

	ink, soft, ground, accent, accentInk, line, surface tally
	tones                                               map[string][2]tally // ground and ink, by tone
	sizes                                               map[string][2]map[float64]float64
	heights, weights                                    map[string]tally
	radius                                              map[string]map[float64]float64
	pads, widths                                        map[float64]float64
	faces, generic                                      map[string]tally
}

// Tokens measures what the pages are drawn with.
func (t *Taking) Tokens() Tokens {
	s := &surveyor{values: map[string]any{}, ink: tally{}, soft: tally{}, ground: tally{}, accent: tally{}, accentInk: tally{},
		line: tally{}, surface: tally{}, tones: map[string][2]tally{}, sizes: map[string][2]map[float64]float64{},
		heights: map[string]tally{}, weights: map[string]tally{}, radius: map[string]map[float64]float64{},
		pads: map[float64]float64{}, widths: map[float64]float64{}, faces: map[string]tally{}, generic: map[string]tally{}}
	for _, p := range t.Pages {
		if sheet := p.ownSheet(); sheet != "" {
			return Tokens{Sheet: sheet}
		}
		s.page(p, append(append(slices.Clone(p.Bands), t.Top...), t.Bottom...))
	}
	s.fonts(t)
	s.type_()
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

// page measures one page, in the layouts of a wide and a narrow screen.
func (s *surveyor) page(p *Page, bands []*Band) {
	wide := &reader{r: p.result}
	narrow := &reader{r: p.laid.Engine().Layout(phoneWidth)}
	for _, at := range []*css.Element{p.laid.Doc.Body, p.laid.Doc.Root} {
		if c, ok := wide.color(at, "background-color"); ok {
			s.ground[hex(c)] += 10
			break
		}
	}
	for _, b := range bands {
		if b.from != nil && b.from != p || len(b.elements) == 0 {
			continue
		}
		s.band(b, wide, narrow)
	}
}

func (s *surveyor) band(b *Band, wide, narrow *reader) {
	ink := tally{}
	for _, piece := range b.read.every() {
		if piece.el == nil {
			continue
		}
		n := float64(letters(piece.plain))
		switch piece.sort {
		case heading, words:
			c := wide.inherited(piece.el)
			ink[hex(c)] += n
			if b.Tone == "" && piece.sort == words {
				s.ink[hex(c)] += n
			}
			s.text(piece, wide, narrow, n)
		case button:
			s.button(piece.el, wide)
		case link:
			if b.Tone == "" {
				if c := wide.inherited(piece.el); chroma(c) > .15 && hex(c) != "#0000ee" { // not what browsers give links
					s.accent[hex(c)] += .1
				}
			}
		case picture:
			s.round("picture", piece.el, wide)
		case list:
			s.cards(piece, wide)
		}
	}
	if c, ok := wide.under(b); ok {
		tone := b.Tone
		if tone == "" {
			tone = "plain"
		}
		pair := s.tones[tone]
		if pair[0] == nil {
			pair = [2]tally{{}, {}}
		}
		pair[0][hex(c)]++
		pair[1][ink.most()] += b.Where.H.Float()
		s.tones[tone] = pair
	}
	if b.Landmark == "main" {
		s.distances(b)
	}
}

// text measures how a piece of text is set.
func (s *surveyor) text(p *piece, wide, narrow *reader, n float64) {
	role := "body"
	switch {
	case p.sort == heading && p.level == 1:
		role = "display"
	case p.sort == heading && p.level == 2:
		role = "title"
	case p.sort == heading && p.level < 6:
		role = "heading"
	case p.sort == heading:
		return
	}
	f := wide.r.Of(deepest(p.el))
	if f == nil || f.Style == nil {
		return
	}
	size := s.sizes[role]
	if size[0] == nil {
		size = [2]map[float64]float64{{}, {}}
		s.sizes[role] = size
		s.heights[role], s.weights[role] = tally{}, tally{}
	}
	size[0][f.Style.FontSize] += n
	if g := narrow.r.Of(deepest(p.el)); g != nil && g.Style != nil {
		size[1][g.Style.FontSize] += n
	}
	if lines := f.Lines; lines > 0 && f.Content.H > 0 {
		ratio := f.Content.H.Float() / float64(lines) / f.Style.FontSize
		s.heights[role][fmt.Sprintf("%.2f", ratio)] += n
	}
	s.weights[role][fmt.Sprintf("%.0f", f.Style.FontWeight)] += n
	if len(f.Style.FontFamily) > 0 {
		kind := "body"
		if p.sort == heading {
			kind = "display"
		}
		if s.faces[kind] == nil {
			s.faces[kind] = tally{}
		}
		s.faces[kind][f.Style.FontFamily[0]] += n
		if s.generic[kind] == nil {
			s.generic[kind] = tally{}
		}
		s.generic[kind][genericOf(f.Style.FontFamily)] += n
	}
}

func (s *surveyor) button(e *css.Element, wide *reader) {
	if c, ok := wide.color(e, "background-color"); ok && c.A > .9 {
		s.accent[hex(c)] += 1 + 2*chroma(c)
		s.accentInk[hex(wide.inherited(e))]++
	}
	s.round("small", e, wide)
}

// cards measures the boxes of like entries.
func (s *surveyor) cards(p *piece, wide *reader) {
	for _, k := range p.el.Kids() {
		f := wide.r.Of(k)
		if f == nil || f.Style == nil {
			continue
		}
		if c, ok := wide.color(k, "background-color"); ok && c.A > .9 {
			s.surface[hex(c)]++
		}
		if f.Style.BorderWidth[0] > 0 {
			if c, ok := wide.color(k, "border-top-color"); ok {
				s.line[hex(c)]++
			}
		}
		if f.Style.BorderWidth[0] > 0 || s.surface.most() != "" {
			s.round("card", k, wide)
		}
	}
}

// round measures the corner of a box.
func (s *surveyor) round(role string, e *css.Element, wide *reader) {
	f := wide.r.Of(e)
	if f == nil || f.Style == nil {
		return
	}
	v := css.Text(f.Style.Look().Value("border-top-left-radius"))
	number := strings.TrimRight(v, "abcdefghijklmnopqrstuvwxyz")
	px, err := strconv.ParseFloat(number, 64)
	if err != nil && v != "" {
		return // a share, or several
	}
	if strings.HasSuffix(v, "em") {
		px *= 16
	}
	if s.radius[role] == nil {
		s.radius[role] = map[float64]float64{}
	}
	s.radius[role][min(px, 999)]++
}

// distances measures how far the words of a band stand from its edges, and how wide its content is.
func (s *surveyor) distances(b *Band) {
	var in layout.Rect
	for _, p := range b.read.pieces {
		in = around2(in, p.box)
	}
	if in.Empty() || b.Where.Empty() {
		return
	}
	if top := (in.Y - b.Where.Y).Float(); top >= 24 && top < 240 {
		s.pads[math.Round(top/4)*4]++
	}
	if w := in.W.Float(); w > 600 && w < Width-40 {
		s.widths[math.Round(w/16)*16]++
	}
}

// inherited gives the color of an element's text.
func (r *reader) inherited(e *css.Element) css.Color {
	for at := deepest(e); at != nil; at = at.Parent {
		f := r.r.Of(at)
		if f == nil || f.Style == nil {
			continue
		}
		if v := f.Style.Look().Value("color"); v != nil {
			if c, ok := css.ParseColor(v, css.ColorContext{}); ok {
				return c
			}
		}
	}
	return css.Color{A: 1}
}

func hex(c css.Color) string {
	b := func(x float64) int { return int(math.Round(255 * min(1, max(0, x)))) }
	return fmt.Sprintf("#%02x%02x%02x", b(c.R), b(c.G), b(c.B))
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
		s.told = append(s.told, fmt.Sprintf("%s: %s and %g px are one size now, %g px", what, strings.Join(near, ", "), best, best))
	}
	return best
}

// type_ writes the scale of type.
func (s *surveyor) type_() {
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
			s.told = append(s.told, fmt.Sprintf("color.%s.%s: %s on %s has a contrast of %.1f, and 4.5 is what can be read",
				tone, role, v, g, theme.ContrastOf(v, g)))
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
			s.told = append(s.told, fmt.Sprintf("face.%s: the pages name %q and bring no file of it; %s, which ships, stands for it", role, family, stand))
			family = stand
		case files == 0:
			s.told = append(s.told, fmt.Sprintf("face.%s: the pages name %q and bring no file of it; the theme's face stays", role, family))
			continue
		}
		s.set("face."+role, "fontFamily", []any{family, generic}, nil)
	}
	s.told = slices.Compact(s.told)
}

// standIns are shipped faces for those that a page does not bring, by their generic family (CSS Fonts 4, 2.1.3).
var standIns = map[string]string{"serif": "Newsreader", "monospace": "JetBrains Mono"}

// serifs are words in the names of faces with serifs that computers have.
var serifs = []string{"georgia", "times", "garamond", "palatino", "cambria", "bookman", "baskerville", "didot", "bodoni",
	"charter", "constantia", "serif", "slab", "caslon", "minion"}

// genericOf gives the generic family of a list of families: the one it names, or that of its first.
func genericOf(families []string) string {
	for _, f := range families {
		switch f = strings.ToLower(f); f {
		case "serif", "sans-serif", "monospace":
			return f
		case "ui-monospace":
			return "monospace"
		}
		if strings.Contains(f, "mono") || strings.Contains(f, "courier") || strings.Contains(f, "consolas") {
			return "monospace"
		}
		if slices.ContainsFunc(serifs, func(s string) bool { return strings.Contains(f, s) }) && !strings.Contains(f, "sans") {
			return "serif"
		}
	}
	return "sans-serif"
}

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
