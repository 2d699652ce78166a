// Package font reads font files (TrueType, OpenType, WOFF, WOFF2), finds the face for a style, and measures text as
// browsers do: advances scale at the font size truncated to 1/64 px, kerning at the exact size, in 16.16 fixed point
// (measured). Faces are not safe for concurrent use; make one Set for each goroutine with Clone.
package font

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"math"
	"sort"
	"strings"
	"sync"
	"unicode"

	gofont "github.com/go-text/typesetting/font"
	ot "github.com/go-text/typesetting/font/opentype"
	"github.com/go-text/typesetting/harfbuzz"
	"github.com/go-text/typesetting/language"
	"golang.org/x/text/unicode/bidi"
)

// Face is one font at one place of its variation axes.
type Face struct {
	Family  string
	Upem    float64
	Ascent  float64 // font units, up
	Descent float64 // font units, down
	LineGap float64
	XHeight float64 // font units
	// CapHeight is the height of capitals, AvgWidth and MaxWidth size text fields; font units.
	CapHeight, AvgWidth, MaxWidth float64
	// Weight is the greatest weight that it is offered for, Leaning whether it is offered as italic: browsers make what
	// is missing from it.
	Weight  float64
	Leaning bool

	ranges [][2]rune             // unicode-range of its rule; empty means all
	adjust float64               // size-adjust, a factor
	axes   map[string][3]float64 // variation axes: least, default and greatest value

	face     *gofont.Face
	file     *file
	at       []gofont.Variation
	drawn    *gofont.Face // with outlines
	shaper   *harfbuzz.Font
	buf      *harfbuzz.Buffer
	shapes   map[string]*Shape
	variable bool
}

// Shape is a piece of text shaped in one face, in font units. Index i stands before rune i.
type Shape struct {
	Adv   []float64 // advance of each rune, without kerning; a ligature's is on its first rune
	Kern  []float64 // what positioning adds
	Inner []bool    // rune is inside a cluster: no break before it
	face  *Face
	sizes map[sizeKey][]int64
}

// unitScale makes the shaper answer in 1/64 font units.
const unitScale = 64

type sizeKey struct{ size, letter, word float64 }

// Parse reads a font file of any format that browsers load.
func Parse(family string, data []byte) (*Face, error) {
	f, err := read(family, data)
	if err != nil {
		return nil, err
	}
	face := f.instance(nil)
	if face == nil {
		return nil, fmt.Errorf("read the font %s: its tables are broken", family)
	}
	return face, nil
}

// file is a font file that has been read. It never changes, so that any number of goroutines may make faces of it.
type file struct {
	font  *gofont.Font
	plain Face // what all its faces have in common
	// A WOFF2 file is read without its outlines; they are when something is drawn.
	data  []byte // of a WOFF2 file
	once  sync.Once
	drawn *gofont.Font
}

// read unpacks and parses a font file. Tables that end early make the reader of the format panic; here they are an
// error.
func read(family string, data []byte) (out *file, err error) {
	defer func() {
		if r := recover(); r != nil {
			out, err = nil, fmt.Errorf("read the font %s: its tables are broken (%v)", family, r)
		}
	}()
	var packed []byte
	if len(data) > 4 && string(data[:4]) == "wOF2" {
		packed = data
		plain, err := decodeWOFF2(data, false)
		if err != nil {
			return nil, err
		}
		data = plain
	}
	ld, err := ot.NewLoader(bytes.NewReader(data))
	if err != nil {
		return nil, fmt.Errorf("read the font %s: %w", family, err)
	}
	ft, err := gofont.NewFont(ld)
	if err != nil {
		return nil, fmt.Errorf("read the font %s: %w", family, err)
	}
	f := Face{Family: family, Upem: float64(ft.Upem()), adjust: 1, axes: readAxes(ld)}
	f.variable = len(f.axes) > 0
	f.readMetrics(ld)
	return &file{font: ft, plain: f, data: packed}, nil
}

// instance makes a face at a place of the file's axes, nil when its tables are broken.
func (r *file) instance(axes map[string]float32) (out *Face) {
	defer func() {
		if recover() != nil {
			out = nil
		}
	}()
	f := r.plain
	f.face, f.shapes, f.file = gofont.NewFace(r.font), map[string]*Shape{}, r
	if len(axes) > 0 {
		var vs []gofont.Variation
		names := make([]string, 0, len(axes))
		for n := range axes {
			names = append(names, n)
		}
		sort.Strings(names)
		for _, n := range names {
			vs = append(vs, gofont.Variation{Tag: ot.MustNewTag(n), Value: axes[n]})
		}
		f.face.SetVariations(vs)
		f.at = vs
	}
	f.shaper, f.buf = harfbuzz.NewFont(f.face), harfbuzz.NewBuffer()
	f.shaper.XScale = int32(f.Upem) * unitScale
	f.shaper.YScale = f.shaper.XScale
	return &f
}

// readAxes reads the fvar table (OpenType, "fvar: Font Variations Table").
func readAxes(ld *ot.Loader) map[string][3]float64 {
	t, _ := ld.RawTable(ot.MustNewTag("fvar"))
	if len(t) < 16 {
		return nil
	}
	u16 := func(at int) int { return int(binary.BigEndian.Uint16(t[at:])) }
	fixed := func(at int) float64 { return float64(int32(binary.BigEndian.Uint32(t[at:]))) / 65536 }
	out := map[string][3]float64{}
	at, count, size := u16(4), u16(8), u16(10)
	for i := range count {
		o := at + i*size
		if size < 16 || o+16 > len(t) {
			break
		}
		out[string(t[o:o+4])] = [3]float64{fixed(o + 4), fixed(o + 8), fixed(o + 12)}
	}
	return out
}

// readMetrics takes the vertical metrics where browsers take them: OS/2 typo values if the font asks for it, else
// hhea, else typo, else win (measured).
func (f *Face) readMetrics(ld *ot.Loader) {
	hhea, _ := ld.RawTable(ot.MustNewTag("hhea"))
	os2, _ := ld.RawTable(ot.MustNewTag("OS/2"))
	i16 := func(t []byte, at int) float64 {
		if len(t) < at+2 {
			return 0
		}
		return float64(int16(binary.BigEndian.Uint16(t[at:])))
	}
	set := func(t []byte, at int) {
		f.Ascent, f.Descent, f.LineGap = i16(t, at), -i16(t, at+2), max(0, i16(t, at+4))
	}
	useTypo := len(os2) > 64 && os2[63]&0x80 != 0
	set(hhea, 4)
	if useTypo || f.Ascent == 0 && f.Descent == 0 {
		if len(os2) >= 74 && (i16(os2, 68) != 0 || i16(os2, 70) != 0) {
			set(os2, 68)
		} else if len(os2) >= 78 {
			f.Ascent, f.Descent, f.LineGap = i16(os2, 74), i16(os2, 76), 0
		}
	}
	f.XHeight = f.Upem / 2
	f.CapHeight = f.Ascent
	if len(os2) >= 88 && i16(os2, 86) != 0 {
		f.XHeight = i16(os2, 86)
	}
	if len(os2) >= 90 && i16(os2, 88) != 0 {
		f.CapHeight = i16(os2, 88)
	}
	f.AvgWidth = i16(os2, 2)
	if head, _ := ld.RawTable(ot.MustNewTag("head")); len(head) >= 44 {
		f.MaxWidth = i16(head, 40) - i16(head, 36)
	}
}

// Sized reports a font with an optical size axis, whose face depends on the size.
func (f *Face) Sized() bool { _, ok := f.axes["opsz"]; return ok }

// Scaled gives the size that the measures of a face are taken at, CSS px: the font size, or that which size-adjust or
// font-size-adjust makes of it (measured: cut as in Effective).
func (f *Face) Scaled(size float64) float64 {
	if f.adjust == 1 {
		return size
	}
	return f.Effective(size)
}

// Effective gives the size that the face is used at for a font size, size-adjust included.
func (f *Face) Effective(size float64) float64 {
	if f.adjust != 1 {
		size *= f.adjust
	}
	return Effective(size)
}

// Has reports whether the face has a glyph for the rune, and its rule lets it be used.
func (f *Face) Has(r rune) bool {
	if len(f.ranges) > 0 {
		in := false
		for _, x := range f.ranges {
			in = in || x[0] <= r && r <= x[1]
		}
		if !in {
			return false
		}
	}
	_, ok := f.face.NominalGlyph(r)
	return ok
}

// Features chooses OpenType features; the zero value is the usual set.
type Features struct {
	NoKerning, NoLigatures bool
	Tags                   map[string]uint32
}

// Key tells features apart: the same for those that shape text alike.
func (o Features) Key() string {
	if !o.NoKerning && !o.NoLigatures && len(o.Tags) == 0 {
		return ""
	}
	names := make([]string, 0, len(o.Tags))
	for n := range o.Tags {
		names = append(names, n)
	}
	sort.Strings(names)
	var b strings.Builder
	for _, n := range names {
		fmt.Fprintf(&b, "%s%d", n, o.Tags[n])
	}
	if o.NoKerning {
		b.WriteByte('k')
	}
	if o.NoLigatures {
		b.WriteByte('l')
	}
	return b.String()
}

// list gives the features as the shaper takes them, in one order.
func (o Features) list() []harfbuzz.Feature {
	var feats []harfbuzz.Feature
	set := func(tag string, v uint32) {
		feats = append(feats, harfbuzz.Feature{Tag: ot.MustNewTag(tag), Value: v, Start: harfbuzz.FeatureGlobalStart,
			End: harfbuzz.FeatureGlobalEnd})
	}
	if o.NoKerning {
		set("kern", 0)
	}
	if o.NoLigatures {
		set("liga", 0)
		set("clig", 0)
	}
	for t, v := range o.Tags {
		set(t, v)
	}
	sort.Slice(feats, func(i, j int) bool { return feats[i].Tag < feats[j].Tag })
	return feats
}

// Shape shapes text, in font units, each part in the direction of its letters. The result is kept and shared.
func (f *Face) Shape(text []rune, o Features) *Shape {
	return f.shapeParts(text, o, directions(text), "")
}

// ShapeRun shapes a text that runs in one direction whatever its letters are, brackets and pairs as they are then
// seen. The result is in the order of the text, kept and shared.
func (f *Face) ShapeRun(text []rune, o Features, r Run) *Shape {
	how := "\x00l"
	if r.RTL {
		how = "\x00r"
	}
	if r.Script != 0 && r.Script != language.Latin {
		how += r.Script.String()
	}
	return f.shapeParts(text, o, r.whole(text), how)
}

// whole is a text as one part.
func (r Run) whole(text []rune) []part { return []part{{0, len(text), r.RTL, r.Script}} }

func (f *Face) shapeParts(text []rune, o Features, parts []part, how string) *Shape {
	key := string(text) + "\x00" + o.Key() + how
	if s := f.shapes[key]; s != nil {
		return s
	}
	feats := o.list()
	n := len(text)
	s := &Shape{Adv: make([]float64, n), Kern: make([]float64, n), Inner: make([]bool, n), face: f,
		sizes: map[sizeKey][]int64{}}
	if n > 0 && !f.shapeInto(s, text, parts, feats) {
		f.shaper, f.buf = harfbuzz.NewFont(f.face), harfbuzz.NewBuffer()
		for i := range n {
			s.Adv[i], s.Kern[i], s.Inner[i] = f.Upem/2, 0, false
		}
	}
	if n <= 1<<12 {
		f.shapes[key] = s
	}
	return s
}

// shapeInto shapes a text. It is false when broken tables stop it: every letter is then taken for half an em.
func (f *Face) shapeInto(s *Shape, text []rune, parts []part, feats []harfbuzz.Feature) (ok bool) {
	defer func() { ok = recover() == nil }()
	info, pos := f.run(text, parts, feats)
	for k := range info {
		g, i := info[k].Glyph, info[k].Cluster
		if pos[k].XAdvance == 0 && unicode.Is(unicode.Cf, text[i]) {
			continue // it is not seen: a space without an advance stands for it
		}
		base := math.Round(float64(f.face.HorizontalAdvance(g)))
		s.Adv[i] += base
		s.Kern[i] += float64(pos[k].XAdvance)/unitScale - base
	}
	for k := range s.Inner {
		s.Inner[k] = true
	}
	for k := range info {
		s.Inner[info[k].Cluster] = false
	}
	return true
}

// run lets the shaper work: on what runs from right to left, and on the rest, each by itself. Glyphs from right to left
// come as they are seen, from the left.
func (f *Face) run(text []rune, parts []part, feats []harfbuzz.Feature) (
	[]harfbuzz.GlyphInfo,
	[]harfbuzz.GlyphPosition,
) {
	if len(parts) == 1 && !parts[0].rtl {
		f.runPart(text, parts[0], feats)
		return f.buf.Info, f.buf.Pos
	}
	var info []harfbuzz.GlyphInfo
	var pos []harfbuzz.GlyphPosition
	for _, p := range parts {
		f.runPart(text, p, feats)
		info, pos = append(info, f.buf.Info...), append(pos, f.buf.Pos...)
	}
	return info, pos
}

func (f *Face) runPart(text []rune, p part, feats []harfbuzz.Feature) {
	f.buf.Clear()
	f.buf.AddRunes(text, p.from, p.to-p.from)
	f.buf.Props.Direction, f.buf.Props.Language, f.buf.Props.Script = harfbuzz.LeftToRight,
		language.NewLanguage("en"), p.script
	if p.script == 0 {
		f.buf.Props.Script = scriptOf(text[p.from:p.to])
	}
	if p.rtl {
		f.buf.Props.Direction = harfbuzz.RightToLeft
	}
	f.buf.Shape(f.shaper, feats)
}

// part is a piece of a text that runs in one direction.
type part struct {
	from, to int
	rtl      bool
	script   Script // 0: that of the letters
}

// directions breaks a text where its direction changes. What has none goes with what is before it.
func directions(text []rune) []part {
	out := []part{{0, len(text), false, 0}}
	for i, r := range text {
		rtl, strong := RightToLeft(r)
		last := &out[len(out)-1]
		switch {
		case !strong || rtl == last.rtl:
		case i == last.from:
			last.rtl = rtl
		default:
			last.to = i
			out = append(out, part{i, len(text), rtl, 0})
		}
	}
	return out
}

// RightToLeft tells the direction of a letter; strong is false when it has none of its own.
func RightToLeft(r rune) (rtl, strong bool) {
	if r < 0x590 {
		return false, r >= 'A' && r <= 'Z' || r >= 'a' && r <= 'z' || r >= '0' && r <= '9' || r >= 0xC0
	}
	switch p, _ := bidi.LookupRune(r); p.Class() {
	case bidi.R, bidi.AL:
		return true, true
	case bidi.L, bidi.EN, bidi.AN:
		return false, true
	}
	return false, false
}

func scriptOf(text []rune) language.Script {
	for _, r := range text {
		if s := language.LookupScript(r); !shared(s) {
			return s
		}
	}
	return language.Latin
}

// Effective gives the size that a font is used at, CSS px: browsers cut it to 1/100 px in 32-bit floating point
// (measured: 18.72 px is set at 18.71 px). Line heights use the size as computed. A browser that has set another size
// with the same key, the size so cut once more, takes that one's font instead; what a page showed before does not
// concern us.
func Effective(size float64) float64 {
	return float64(float32(math.Floor(float64(float32(size)*100))) / 100)
}

// Prefix gives the widths before every rune at a font size: Prefix[i] is the width of the first i runes, in 1/65536
// CSS px. size, letter- and word-spacing are CSS px. The slice is shared: do not change it.
func (s *Shape) Prefix(size, letter, word float64, text []rune) []int64 {
	key := sizeKey{size, letter, word}
	if p := s.sizes[key]; p != nil {
		return p
	}
	if len(s.sizes) > 64 { // fluid type asks for a new size at every width
		s.sizes = map[sizeKey][]int64{}
	}
	size = s.face.Effective(size)
	scale := math.Round(math.Floor(size*64) * 65536 / s.face.Upem)
	kern := math.Floor(size*65536) / s.face.Upem
	spacing, wordGap := int64(math.Round(letter*65536)), int64(math.Round(word*65536))
	out := make([]int64, len(s.Adv)+1)
	for i := range s.Adv {
		w := int64(math.Round(scale * s.Adv[i] / 64))
		if s.Kern[i] != 0 {
			w += int64(math.Round(s.Kern[i] * kern))
		}
		if !s.Inner[i] {
			w += spacing
		}
		if text[i] == ' ' || text[i] == '\u00a0' {
			w += wordGap
		}
		out[i+1] = out[i] + w
	}
	s.sizes[key] = out
	return out
}

// Metrics gives the rounded ascent, descent and line gap at a size, whole CSS px, each rounded alone (measured).
func (f *Face) Metrics(size float64) (ascent, descent, gap int) {
	size = f.Effective(size)
	round := func(v float64) int { return int(math.Floor(v*size/f.Upem + .5)) }
	return round(f.Ascent), round(f.Descent), round(f.LineGap)
}

// ZeroWidth gives the advance of "0" in CSS px, for the unit ch.
func (f *Face) ZeroWidth(size float64) float64 {
	gid, ok := f.face.NominalGlyph('0')
	if !ok {
		return size / 2
	}
	size = f.Effective(size)
	return math.Round(float64(f.face.HorizontalAdvance(gid))) * math.Floor(size*64) / 64 / f.Upem
}
