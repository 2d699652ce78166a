package font

import (
	"bytes"

	gofont "github.com/go-text/typesetting/font"
	ot "github.com/go-text/typesetting/font/opentype"
	"github.com/go-text/typesetting/font/opentype/tables"
	"github.com/go-text/typesetting/harfbuzz"
)

// Glyph is one glyph of a shaped text, in font units. It belongs to the text from rune Rune on.
type Glyph struct {
	ID      uint32
	Rune    int
	X, Y    float64 // from the pen, y up
	Advance float64
}

// OutlineOp says what a step of an outline does.
type OutlineOp uint8

// The steps of an outline: how many of its points each uses is said beside it.
const (
	OutlineMove  OutlineOp = iota // 1
	OutlineLine                   // 1
	OutlineQuad                   // 2
	OutlineCubic                  // 3
)

// OutlineStep is one step of the outline of a glyph, in font units, y up.
type OutlineStep struct {
	Op OutlineOp
	At [3][2]float64
}

// Glyphs shapes a text as Shape does, and gives what is drawn. Broken tables yield nothing.
func (f *Face) Glyphs(text []rune, o Features) []Glyph { return f.glyphs(text, o, directions(text)) }

// GlyphsOfRun gives what is drawn of a text as ShapeRun shapes it, from the left.
func (f *Face) GlyphsOfRun(text []rune, o Features, r Run) []Glyph {
	return f.glyphs(text, o, r.whole(text))
}

func (f *Face) glyphs(text []rune, o Features, parts []part) (out []Glyph) {
	defer func() {
		if recover() != nil {
			f.shaper, f.buf = harfbuzz.NewFont(f.face), harfbuzz.NewBuffer()
			out = nil
		}
	}()
	info, places := f.run(text, parts, o.list())
	for k := range info {
		pos := &places[k]
		out = append(out, Glyph{ID: uint32(info[k].Glyph), Rune: info[k].Cluster,
			X: float64(pos.XOffset) / unitScale, Y: float64(pos.YOffset) / unitScale,
			Advance: float64(pos.XAdvance) / unitScale})
	}
	return out
}

// Mirrored gives the glyph of a bracket where text runs from right to left, and any other as it is. The shaper has
// turned those that stand among such letters already.
func (f *Face) Mirrored(r rune, id uint32) uint32 {
	const pairs = "()[]{}<>«»‹›"
	list := []rune(pairs)
	for i, c := range list {
		if c != r {
			continue
		}
		own, ok := f.face.NominalGlyph(r)
		other, has := f.face.NominalGlyph(list[i^1])
		if ok && has && uint32(own) == id {
			return uint32(other)
		}
	}
	return id
}

// Outline gives the outline of a glyph, and whether it has colors or a picture of its own, which the outline leaves
// out.
func (f *Face) Outline(id uint32) (list []OutlineStep, colored bool) {
	defer func() {
		if recover() != nil {
			list, colored = nil, false
		}
	}()
	var out gofont.GlyphOutline
	switch g := f.outlines().GlyphData(gofont.GID(id)).(type) {
	case gofont.GlyphOutline:
		out = g
	case gofont.GlyphSVG:
		out, colored = g.Outline, true
	case gofont.GlyphBitmap:
		colored = true
		if g.Outline != nil {
			out = *g.Outline
		}
	case gofont.GlyphColor:
		out, _ = f.outlines().GlyphDataOutline(tables.GlyphID(id))
		colored = true
	default:
		colored = g != nil
	}
	return steps(out), colored
}

func steps(g gofont.GlyphOutline) []OutlineStep {
	var out []OutlineStep
	for _, s := range g.Segments {
		step := OutlineStep{Op: map[ot.SegmentOp]OutlineOp{ot.SegmentOpMoveTo: OutlineMove,
			ot.SegmentOpLineTo: OutlineLine, ot.SegmentOpQuadTo: OutlineQuad, ot.SegmentOpCubeTo: OutlineCubic}[s.Op]}
		for i := range step.At {
			step.At[i] = [2]float64{float64(s.Args[i].X), float64(s.Args[i].Y)}
		}
		out = append(out, step)
	}
	return out
}

// outlines gives the face with its outlines: those of a WOFF2 file are unpacked when they are first asked for.
func (f *Face) outlines() *gofont.Face {
	switch {
	case f.drawn != nil:
	case f.file == nil || f.file.data == nil:
		f.drawn = f.face
	default:
		f.file.once.Do(func() {
			if plain, err := decodeWOFF2(f.file.data, true); err == nil {
				if ld, err := ot.NewLoader(bytes.NewReader(plain)); err == nil {
					f.file.drawn, _ = gofont.NewFont(ld)
				}
			}
		})
		if f.drawn = f.face; f.file.drawn != nil {
			f.drawn = gofont.NewFace(f.file.drawn)
			f.drawn.SetVariations(f.at)
		}
	}
	return f.drawn
}

// Lines gives where the face draws lines under and through text, font units: the middle of each above the baseline,
// and its thickness. Zeros mean that the face does not say.
func (f *Face) Lines() (under, underThick, through, throughThick float64) {
	line := func(pos, thick gofont.LineMetric) (at, t float64) {
		return float64(f.face.LineMetric(pos)), float64(f.face.LineMetric(thick))
	}
	under, underThick = line(gofont.UnderlinePosition, gofont.UnderlineThickness)
	through, throughThick = line(gofont.StrikethroughPosition, gofont.StrikethroughThickness)
	return under, underThick, through, throughThick
}
