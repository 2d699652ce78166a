package font

import (
	gofont "github.com/go-text/typesetting/font"
	"github.com/go-text/typesetting/font/opentype/tables"
)

// Layer is one color of a glyph that has several (OpenType, COLR and CPAL).
type Layer struct {
	Outline []OutlineStep
	Color   [4]float64 // red, green, blue, alpha, each 0..1
	Ink     bool       // in the color of the text, of which Color has the alpha only
}

// mostLayers is how many colors and steps a glyph may have: its tables may go around in circles.
const mostLayers = 256

// Layers gives the colors of a glyph from the lowest on, and whether that is all there is to it: gradients and blends
// are not followed. There are none for a glyph in one color.
func (f *Face) Layers(id uint32) (out []Layer, whole bool) {
	defer func() {
		if recover() != nil {
			out, whole = nil, false
		}
	}()
	face := f.outlines()
	g, ok := face.GlyphDataColor(tables.GlyphID(id))
	if !ok {
		return nil, false
	}
	c := &coloring{face: face}
	c.paint(g.Paint, [6]float64{1, 0, 0, 1, 0, 0})
	if c.lost || c.steps > mostLayers {
		return nil, false
	}
	return c.out, true
}

// coloring walks the paint of a glyph.
type coloring struct {
	face  *gofont.Face
	shape []OutlineStep // what the paint fills, nil outside of any outline
	out   []Layer
	steps int
	lost  bool
}

func (c *coloring) paint(p tables.PaintTable, m [6]float64) {
	if c.steps++; c.steps > mostLayers {
		return
	}
	switch p := p.(type) {
	case tables.PaintColrLayersResolved:
		for _, l := range p {
			c.shape = moved(c.outline(uint32(l.GlyphID)), m)
			c.fill(l.PaletteIndex, 1)
		}
	case tables.PaintColrLayers:
		list, err := c.face.COLR.LayerList.Resolve(p)
		c.lost = c.lost || err != nil
		for _, k := range list {
			c.paint(k, m)
		}
	case tables.PaintGlyph:
		if c.shape != nil { // an outline in an outline is what both have
			c.lost = true
			return
		}
		c.shape = moved(c.outline(uint32(p.GlyphID)), m)
		c.paint(p.Paint, m)
		c.shape = nil
	case tables.PaintColrGlyph:
		k, ok := c.face.COLR.Search(tables.GlyphID(p.GlyphID))
		if !ok {
			c.lost = true
			return
		}
		c.paint(k, m)
	case tables.PaintSolid:
		c.fill(p.PaletteIndex, at14(p.Alpha))
	case tables.PaintTranslate:
		c.paint(p.Paint, times(m, [6]float64{1, 0, 0, 1, float64(p.Dx), float64(p.Dy)}))
	case tables.PaintScale:
		c.paint(p.Paint, times(m, [6]float64{at14(p.ScaleX), 0, 0, at14(p.ScaleY), 0, 0}))
	case tables.PaintScaleUniform:
		c.paint(p.Paint, times(m, [6]float64{at14(p.Scale), 0, 0, at14(p.Scale), 0, 0}))
	case tables.PaintTransform:
		t := p.Transform
		c.paint(p.Paint, times(m, [6]float64{float64(t.Xx), float64(t.Yx), float64(t.Xy), float64(t.Yy), float64(t.Dx),
			float64(t.Dy)}))
	default:
		c.lost = true
	}
}

// at14 gives a number of which 14 bits stand after the point.
func at14(v tables.Fixed214) float64 { return float64(v) / (1 << 14) }

func (c *coloring) outline(id uint32) []OutlineStep {
	g, _ := c.face.GlyphDataOutline(tables.GlyphID(id))
	return steps(g)
}

// fill lays a color of the first palette into the shape. 0xFFFF is the color of the text.
func (c *coloring) fill(index uint16, alpha float64) {
	l := Layer{Outline: c.shape, Ink: index == 0xFFFF, Color: [4]float64{0, 0, 0, alpha}}
	if !l.Ink {
		if len(c.face.CPAL) == 0 || int(index) >= len(c.face.CPAL[0]) {
			c.lost = true
			return
		}
		k := c.face.CPAL[0][index]
		l.Color = [4]float64{float64(k.Red) / 255, float64(k.Green) / 255, float64(k.Blue) / 255,
			float64(k.Alpha) / 255 * alpha}
	}
	c.out = append(c.out, l)
}

// times gives what maps as b does, and then as a does. A map takes x, y to m0 x + m2 y + m4, m1 x + m3 y + m5.
func times(a, b [6]float64) [6]float64 {
	return [6]float64{a[0]*b[0] + a[2]*b[1], a[1]*b[0] + a[3]*b[1], a[0]*b[2] + a[2]*b[3], a[1]*b[2] + a[3]*b[3],
		a[0]*b[4] + a[2]*b[5] + a[4], a[1]*b[4] + a[3]*b[5] + a[5]}
}

func moved(list []OutlineStep, m [6]float64) []OutlineStep {
	for i := range list {
		for k, p := range list[i].At {
			list[i].At[k] = [2]float64{m[0]*p[0] + m[2]*p[1] + m[4], m[1]*p[0] + m[3]*p[1] + m[5]}
		}
	}
	return list
}
