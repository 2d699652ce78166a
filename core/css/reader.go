package css

import (
	"cmp"
	"slices"
	"strconv"
	"strings"

	"github.com/tdewolff/parse/v2/css"
)

// Reader reads the values in force on one box of properties that draw: colors with currentcolor, lengths in any unit.
type Reader struct {
	Style  *Style
	Parent *Reader      // of the box that it inherits from
	In     ColorContext // what currentcolor and the system colors are here
	units  unitContext
}

// Reader gives the reader of a style. room is what container units refer to, CSS px; 0 stands for the viewport.
func (s *Styler) Reader(st *Style, parent *Reader, room [2]float64, dark bool) *Reader {
	zoom := s.media.zoom()
	if room[0] == 0 {
		room[0] = float64(s.media.Width) * zoom
	}
	if room[1] == 0 {
		room[1] = float64(s.media.Height) * zoom
	}
	c := s.units(st, st)
	r := &Reader{Style: st, Parent: parent, In: ColorContext{Dark: dark}}
	r.units = s.unitsAt(c, st, st, room)
	r.units.face, r.units.rootFace = nil, nil
	if c.face != nil {
		units := FaceUnits{}
		known := false
		r.units.face = func() FaceUnits {
			if !known {
				units, known = s.Face(st), true
			}
			return units
		}
	}
	r.In.Dark = schemeOf(r, dark)
	initial, _ := ParseColor(word("canvastext"), r.In)
	if parent != nil {
		initial = parent.In.Current
	}
	r.In.Current = initial
	if v := r.own("color"); v != nil {
		if ident(v) == "initial" {
			v = word("canvastext")
		}
		if c, ok := ParseColor(v, r.In); ok {
			r.In.Current = c
		}
	}
	return r
}

// schemeOf reports whether a box is drawn in dark colors: color-scheme has dark in force on it, and readers ask for
// dark colors or it has nothing else (css-color-adjust-1, "2.1 The Used Color Scheme").
func schemeOf(r *Reader, asked bool) bool {
	v := r.Value("color-scheme")
	return mentions(v, "dark") && (asked || !mentions(v, "light"))
}

var inheritedPaints = func() map[string]bool {
	out := map[string]bool{"color": true, "-webkit-text-fill-color": true}
	for _, n := range strings.Fields(inheritedPaint) {
		out[n] = true
	}
	return out
}()

// Own returns what is in force on the box itself, nil when nothing declares the property there.
func (r *Reader) Own(name string) []Token { return r.own(name) }

func (r *Reader) own(name string) []Token {
	spec := r.Style.spec
	if spec == nil {
		return nil
	}
	if v := spec.values[name]; v != nil {
		return v
	}
	if p := propertyTable[name]; p != nil && !p.unused {
		if d := spec.declared[name]; d != nil {
			if v, _, ok := substitute(d.value, spec.vars, nil); ok && d.name == name {
				return trim(v)
			}
		}
	}
	return nil
}

// Value returns the value in force, inherited where the property is, or nil when it is the initial one.
func (r *Reader) Value(name string) []Token {
	for at := r; at != nil; at = at.Parent {
		if v := at.own(name); v != nil {
			if ident(v) == "initial" {
				return nil
			}
			return v
		}
		if !inheritedPaints[name] {
			return nil
		}
	}
	return nil
}

// Put replaces var() in a value that is written in an attribute; ok is false when a name has no value.
func (r *Reader) Put(v []Token) (out []Token, ok bool) {
	if !hasVar(v) || r.Style.spec == nil {
		return v, true
	}
	out, _, ok = substitute(v, r.Style.spec.vars, nil)
	return trim(out), ok
}

// Word returns a value that is one word, in small letters; "" for anything else, the initial value too.
func (r *Reader) Word(name string) string { return ident(trim(r.Value(name))) }

// Color reads a color in force; ok is false when the property has its initial value, or one that cannot be read.
func (r *Reader) Color(name string) (Color, bool) {
	for at := r; at != nil; at = at.Parent {
		if v := at.own(name); v != nil {
			if ident(v) == "initial" {
				return Color{}, false
			}
			return ParseColor(v, r.In)
		}
		if !inheritedPaints[name] {
			break
		}
	}
	return Color{}, false
}

// Parse reads one color.
func (r *Reader) Parse(v []Token) (Color, bool) { return ParseColor(v, r.In) }

// Length reads a length, a percentage or a plain number.
func (r *Reader) Length(v []Token) (Len, bool) {
	e, ok := parseExpr(v, exprAny)
	if !ok {
		return Len{}, false
	}
	return e.compute(&r.units), true
}

// Px reads a length without a percentage, CSS px.
func (r *Reader) Px(v []Token) (float64, bool) {
	e, ok := parseExpr(v, exprLength)
	if !ok {
		return 0, false
	}
	return e.compute(&r.units).Px, true
}

// Number reads a number, or a percentage as a share of 1.
func (r *Reader) Number(v []Token) (float64, bool) {
	l, ok := r.Length(v)
	return l.Px + l.Pct/100, ok
}

// Angle reads an angle, radians.
func (r *Reader) Angle(v []Token) (float64, bool) {
	if a, ok := angle(trim(v)); ok {
		return a, true
	}
	if e, ok := parseExpr(v, exprAny); ok && len(trim(v)) > 1 {
		return e.compute(&r.units).Px, true
	}
	return 0, false
}

// At gives a length in CSS px for a base, not cut to 1/64 px.
func (l Len) At(base float64) float64 { return float64(l.float(float32(base))) }

// Parts cuts a value at its spaces.
func Parts(v []Token) [][]Token { return split(v) }

// Word gives a value that is one word, in small letters, else "".
func Word(v []Token) string { return ident(trim(v)) }

// Call gives the name and the arguments of a value that is one function; url is one whose argument is the address.
func Call(v []Token) (name string, args []Token, ok bool) {
	v = trim(v)
	if len(v) == 0 {
		return "", nil, false
	}
	text := strings.ToLower(v[0].Text)
	switch {
	case v[0].Kind == css.URLToken || strings.HasPrefix(text, "url("):
		return "url", []Token{{Kind: css.StringToken, Text: unquoteURL(v)}}, true
	case v[0].Kind == css.FunctionToken && endOfValue(v, 0) == len(v):
		return strings.TrimSuffix(text, "("), inside(v, 0, len(v)), true
	}
	return "", nil, false
}

// Unzoomed gives the same reader for what is drawn in CSS px, whatever a px is in the layout: drawings have their own
// measure.
func (r *Reader) Unzoomed() *Reader {
	z := r.units.zoom
	if z <= 0 || z == 1 {
		return r
	}
	out := *r
	u := &out.units
	u.zoom, u.fontSize, u.rootSize, u.rootLine, u.lineHeight = 0, u.fontSize/z, u.rootSize/z, u.rootLine/z, u.lineHeight/z
	u.vw, u.vh, u.cqw, u.cqh = u.vw/z, u.vh/z, u.cqw/z, u.cqh/z
	return &out
}

// InForce gives the value of any property that is declared on a look, var() replaced, as CSS; "" when none is, or the
// initial one.
func (l Look) InForce(name string) string {
	if l.spec == nil {
		return ""
	}
	if v := l.spec.values[name]; v != nil {
		if ident(v) == "initial" {
			return ""
		}
		return Text(v)
	}
	d := l.spec.declared[name]
	if d == nil {
		return ""
	}
	v, _, ok := substitute(d.value, l.spec.vars, nil)
	if !ok {
		return ""
	}
	if d.name == name {
		return strings.TrimSpace(Text(v))
	}
	list, _ := expand(d.name, trim(v))
	for _, part := range list {
		if part.name == name {
			return strings.TrimSpace(Text(part.value))
		}
	}
	return ""
}

// Longhands gives the properties that one is short for that are declared on a look; all stands for every one.
func (l Look) Longhands(name string) []string {
	if l.spec == nil {
		return nil
	}
	var out []string
	of := longhandNames(name)
	for n := range l.spec.declared {
		if name == "all" || slices.Contains(of, n) {
			out = append(out, n)
		}
	}
	slices.Sort(out)
	return out
}

// Keyframe is a moment of an animation and what it says.
type Keyframe struct {
	At           float64 // 0..1 of the animation
	Declarations []CascadedDeclaration
}

// keyframeNames lists the animations that the sheets of a document have.
func (d *Document) keyframeNames() (names []string) {
	var walk func(nodes []*Node)
	walk = func(nodes []*Node) {
		for _, n := range nodes {
			if n.Kind == AtRule && strings.HasSuffix(n.Name, "keyframes") {
				names = append(names, strings.Trim(strings.TrimSpace(Text(n.Prelude)), `"'`))
			} else if n.Kind == AtRule {
				walk(n.Children)
			}
		}
	}
	for _, sheet := range d.Sheets {
		walk(sheet.Nodes)
	}
	return names
}

// Keyframes gives the moments of an animation, as they are written; the last rule of a name counts (CSS Animations 1,
// section 3). ok is false when there is none of that name.
func (d *Document) Keyframes(name string) (frames []Keyframe, ok bool) {
	var walk func(sheet *Sheet, nodes []*Node)
	walk = func(sheet *Sheet, nodes []*Node) {
		for _, n := range nodes {
			switch {
			case n.Kind != AtRule:
			case !strings.HasSuffix(n.Name, "keyframes"):
				walk(sheet, n.Children)
			case strings.Trim(strings.TrimSpace(Text(n.Prelude)), `"'`) == name:
				frames, ok = nil, true
				for _, f := range n.Children {
					var list []CascadedDeclaration
					for _, decl := range f.Children {
						if decl.Kind == Declaration {
							list = append(list, CascadedDeclaration{Name: decl.Name,
								Value: strings.TrimSpace(Text(decl.Value)), Sheet: sheet, Pos: decl.Pos})
						}
					}
					for _, at := range strings.Split(Text(f.Prelude), ",") {
						if k, valid := keyframeAt(strings.TrimSpace(at)); valid {
							frames = append(frames, Keyframe{k, list})
						}
					}
				}
			}
		}
	}
	for _, s := range d.Sheets {
		walk(s, s.Nodes)
	}
	slices.SortStableFunc(frames, func(a, b Keyframe) int { return cmp.Compare(a.At, b.At) })
	return frames, ok
}

// keyframeAt reads from, to, or a percentage from 0 to 100.
func keyframeAt(text string) (float64, bool) {
	switch strings.ToLower(text) {
	case "from":
		return 0, true
	case "to":
		return 1, true
	}
	v, err := strconv.ParseFloat(strings.TrimSuffix(text, "%"), 64)
	return v / 100, err == nil && strings.HasSuffix(text, "%") && v >= 0 && v <= 100
}
