package adopt

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strconv"
	"strings"

	"ziegel/core/css"
	"ziegel/core/layout"
)

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
				if c := wide.inherited(piece.el); chroma(c) > .15 &&
					hex(c) != "#0000ee" { // not what browsers give links
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
		in = union(in, p.box)
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

// phoneWidth is the screen width at which type is measured once more, CSS px.
const phoneWidth = 390

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
		if slices.ContainsFunc(serifs, func(s string) bool { return strings.Contains(f, s) }) &&
			!strings.Contains(f, "sans") {
			return "serif"
		}
	}
	return "sans-serif"
}

// serifs are words in the names of faces with serifs that computers have.
var serifs = []string{
	"georgia",
	"times",
	"garamond",
	"palatino",
	"cambria",
	"bookman",
	"baskerville",
	"didot",
	"bodoni",
	"charter",
	"constantia",
	"serif",
	"slab",
	"caslon",
	"minion",
}
