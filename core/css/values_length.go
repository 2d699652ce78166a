package css

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"github.com/tdewolff/parse/v2/css"
)

// Px is a length in whole 1/64 CSS px, the unit that browsers lay out in. Equal results are equal bits on every
// machine.
type Px int32

// Float gives the length in CSS px.
func (p Px) Float() float64 { return float64(p) / 64 }

// FromFloat converts CSS px, truncating toward zero once, as browsers do with every computed length.
func FromFloat(v float64) Px {
	v = v * 64
	switch {
	case v != v:
		return 0
	case v > maxPx:
		return maxPx
	case v < -maxPx:
		return -maxPx
	}
	return Px(v)
}

// maxPx is as long as a length can be, 4,194,304 CSS px: sums of several stay in 32 bits.
const maxPx = 1 << 28

// LenKind tells what a Len is.
type LenKind uint8

// The kinds of Len. LenPx covers px, percentages and mixes of both.
const (
	LenAuto LenKind = iota
	LenPx
	LenNumber
	LenNone
	LenNormal
	LenMinContent
	LenMaxContent
	LenFitContent // fit-content, or fit-content(Px) when Arg is set
	LenContent
	LenFr // Px holds the factor
)

// Len is a computed length: font- and viewport-relative units are resolved, percentages wait for their base.
type Len struct {
	Kind LenKind
	Arg  bool // LenFitContent has an argument
	Fill bool // stretch: all of the containing block but for margins, as a border box
	Px   float64
	Pct  float64 // in percent
	Tree *lenTree
}

type lenTree struct {
	op   byte   // '+', 'm' min, 'M' max, 'f' another function
	name string // of it
	kids []Len
	mul  float64
}

// Zero is the length 0.
var Zero = Len{Kind: LenPx}

// PxLen gives a length in CSS px.
func PxLen(px float64) Len { return Len{Kind: LenPx, Px: px} }

// IsAuto reports the keyword auto.
func (l Len) IsAuto() bool { return l.Kind == LenAuto }

// IsLength reports a length or percentage.
func (l Len) IsLength() bool { return l.Kind == LenPx }

// HasPercent reports whether the length depends on its base.
func (l Len) HasPercent() bool { return l.Pct != 0 || l.Tree != nil || l.Arg && l.Kind == LenPx }

// IsZero reports exactly 0.
func (l Len) IsZero() bool { return l.Kind == LenPx && l.Px == 0 && l.Pct == 0 && l.Tree == nil }

// Resolve gives the used length against a base. The whole value is evaluated in floating point and truncated once
// (measured).
func (l Len) Resolve(base Px) Px {
	if l.Tree == nil && l.Pct == 0 {
		return FromFloat(float64(float32(l.Px)))
	}
	return FromFloat(float64(l.float(float32(base) / 64)))
}

func (l Len) float(base float32) float32 {
	if l.Tree == nil {
		if l.Px == 0 {
			return base * float32(l.Pct) / 100
		}
		return float32(l.Px) + base*float32(l.Pct)/100
	}
	t := l.Tree
	if t.op == 'f' {
		kids := make([]Len, len(t.kids))
		for i, k := range t.kids {
			kids[i] = Len{Kind: k.Kind, Px: float64(k.float(base))}
		}
		return float32(mathFunction(t.name, kids).Px * t.mul)
	}
	v := t.kids[0].float(base)
	for _, k := range t.kids[1:] {
		w := k.float(base)
		switch t.op {
		case '+':
			v += w
		case 'm':
			v = min(v, w)
		case 'M':
			v = max(v, w)
		}
	}
	return v * float32(t.mul)
}

// zoomed gives a length whose px grow by a factor; its percentages stay.
func (l Len) zoomed(by float64) Len {
	if l.Tree == nil {
		l.Px *= by
		return l
	}
	t := *l.Tree
	t.kids = slices.Clone(t.kids)
	for i := range t.kids {
		t.kids[i] = t.kids[i].zoomed(by)
	}
	l.Tree = &t
	return l
}

func (l Len) scale(f float64) Len {
	if l.Tree != nil {
		return Len{Kind: LenPx, Tree: &lenTree{op: l.Tree.op, name: l.Tree.name, kids: l.Tree.kids,
			mul: l.Tree.mul * f}}
	}
	l.Px *= f
	l.Pct *= f
	return l
}

func addLen(a, b Len) Len {
	if a.Kind == LenNumber && b.Kind == LenNumber {
		return Len{Kind: LenNumber, Px: a.Px + b.Px}
	}
	if a.Tree == nil && b.Tree == nil {
		return Len{Kind: LenPx, Px: a.Px + b.Px, Pct: a.Pct + b.Pct}
	}
	return Len{Kind: LenPx, Tree: &lenTree{op: '+', kids: []Len{a, b}, mul: 1}}
}

func pickLen(op byte, kids []Len) Len {
	best := kids[0]
	for _, k := range kids {
		if k.HasPercent() {
			return Len{Kind: LenPx, Tree: &lenTree{op: op, kids: slices.Clone(kids), mul: 1}}
		}
		if op == 'm' && k.Px < best.Px || op == 'M' && k.Px > best.Px {
			best = k
		}
	}
	return best
}

// equal compares two lengths.
func (l *Len) equal(o *Len) bool {
	if l.Tree == nil || o.Tree == nil || l.Tree == o.Tree {
		return *l == *o
	}
	a, b := *l, *o
	a.Tree, b.Tree = nil, nil
	x, y := l.Tree, o.Tree
	differ := a != b || x.op != y.op || x.name != y.name || x.mul != y.mul || len(x.kids) != len(y.kids)
	if differ {
		return false
	}
	for i := range x.kids {
		if !x.kids[i].equal(&y.kids[i]) {
			return false
		}
	}
	return true
}

// unitContext has what relative units refer to, all in CSS px.
type unitContext struct {
	fontSize, rootSize float64
	lineHeight         float64
	vw, vh             float64 // viewport
	cqw, cqh           float64 // width and height of the nearest containers, else of the viewport
	rootLine           float64 // line height of the root element
	face, rootFace     func() FaceUnits
	zoom               float64 // what a px is, 0 for 1
}

// px gives a number of px.
func (c *unitContext) px(v float64) float64 {
	if c.zoom > 0 {
		return v * c.zoom
	}
	return v
}

// units is a set of kinds of relative units, by what they refer to.
type units uint8

const (
	unitsOfView units = 1 << iota // the viewport
	unitsOfBox                    // the nearest containers
	unitsOfFont                   // font size and line height of the element
	unitsOfRoot                   // those of the root element
	unitsOfFace                   // the glyphs of the element's font
)

// unitsOfRoom change with the width.
const unitsOfRoom = unitsOfView | unitsOfBox

// unitsIn gives the kinds of units that a value uses.
func unitsIn(v []Token) (set units) {
	for _, t := range v {
		if t.Kind != css.DimensionToken {
			continue
		}
		switch unit := strings.ToLower(strings.TrimLeft(t.Text, "+-.0123456789")); unit {
		case "rem", "rlh", "ric":
			set |= unitsOfRoot
		case "em", "lh":
			set |= unitsOfFont
		case "ch", "ex", "cap", "ic", "rch", "rex", "rcap":
			set |= unitsOfFace
		default: // an exponent may stand before the unit
			switch {
			case strings.Contains(unit, "cq"):
				set |= unitsOfBox
			case strings.Contains(unit, "v"):
				set |= unitsOfView
			case unit != "" && unit[0] == 'e' && absoluteUnits[strings.TrimLeft(unit, "e+-0123456789")] == 0:
				set |= unitsOfView | unitsOfBox | unitsOfFont | unitsOfRoot | unitsOfFace
			}
		}
	}
	return set
}

// memo keeps the last result of a computation and the units it was made with, of those that it uses. Many elements
// ask for the same length in turn. What holds a memo belongs to one Styler, so to one goroutine.
type memo[T any] struct {
	uses  units
	units unitContext
	value T
	held  bool
}

func (m *memo[T]) get(c *unitContext, compute func() T) T {
	if m.held && m.same(c) {
		return m.value
	}
	m.value, m.units, m.held = compute(), *c, true
	m.units.face = nil
	return m.value
}

func (m *memo[T]) same(c *unitContext) bool {
	u := &m.units
	return u.zoom == c.zoom && (m.uses&unitsOfView == 0 || u.vw == c.vw && u.vh == c.vh) &&
		(m.uses&unitsOfBox == 0 || u.cqw == c.cqw && u.cqh == c.cqh) &&
		(m.uses&unitsOfFont == 0 || u.fontSize == c.fontSize && u.lineHeight == c.lineHeight) &&
		(m.uses&unitsOfRoot == 0 || u.rootSize == c.rootSize && u.rootLine == c.rootLine)
}

const (
	exprAny exprKind = iota
	exprLength
	exprLengthPercent
	exprNumber
)

var absoluteUnits = map[string]float64{"px": 1, "in": 96, "cm": 96 / 2.54, "mm": 96 / 25.4, "q": 96 / 101.6,
	"pt": 96.0 / 72, "pc": 16}

// angleUnits are in radians. In math functions an angle acts as a number.
var angleUnits = map[string]float64{"deg": math.Pi / 180, "grad": math.Pi / 200, "turn": 2 * math.Pi, "rad": 1}

var relativeUnits = map[string]bool{"em": true, "rem": true, "ex": true, "ch": true, "lh": true, "rlh": true,
	"cap": true, "ic": true,
	"vw": true, "vh": true, "vi": true, "vb": true, "vmin": true, "vmax": true, "svw": true, "svh": true, "lvw": true,
	"lvh": true, "dvw": true,
	"dvh": true, "svi": true, "svb": true, "lvi": true, "dvi": true, "svmin": true, "svmax": true, "lvmin": true,
	"lvmax": true, "dvmin": true, "dvmax": true,
	"cqw": true, "cqi": true, "cqh": true, "cqb": true, "cqmin": true, "cqmax": true,
	"lvb": true, "dvb": true, "rex": true, "rch": true, "rcap": true, "ric": true}

func (c *unitContext) unit(name string) float64 {
	switch name {
	case "px":
		return c.px(1)
	case "em", "ic":
		return c.fontSize
	case "rem", "ric":
		return c.rootSize
	case "rch", "rex", "rcap":
		of := unitContext{face: c.rootFace, fontSize: c.rootSize}
		return of.unit(name[1:])
	case "rlh":
		if c.rootLine > 0 {
			return c.rootLine
		}
		return c.rootSize * 1.2
	case "lh":
		return c.lineHeight
	case "ch":
		if c.face == nil {
			return c.fontSize / 2
		}
		return c.face().Zero
	case "ex":
		if c.face == nil {
			return c.fontSize / 2
		}
		return c.face().X
	case "cap":
		if c.face == nil {
			return c.fontSize * .7
		}
		return c.face().Cap
	case "cqw", "cqi":
		return c.cqw / 100
	case "cqh", "cqb":
		return c.cqh / 100
	case "cqmin":
		return min(c.cqw, c.cqh) / 100
	case "cqmax":
		return max(c.cqw, c.cqh) / 100
	}
	switch strings.TrimLeft(name, "sld") {
	case "vw", "vi":
		return c.vw / 100
	case "vh", "vb":
		return c.vh / 100
	case "vmin":
		return min(c.vw, c.vh) / 100
	case "vmax":
		return max(c.vw, c.vh) / 100
	}
	return 0
}

// parseRatio reads "16 / 9", "1.5" or "auto 16/9" without the auto.
func parseRatio(v []Token) (float64, bool) {
	var nums []float64
	for _, t := range v {
		switch {
		case t.Kind == css.WhitespaceToken || t.Text == "/":
		case t.Kind == css.NumberToken:
			n, err := strconv.ParseFloat(t.Text, 64)
			if err != nil {
				return 0, false
			}
			nums = append(nums, n)
		default:
			return 0, false
		}
	}
	switch {
	case len(nums) == 1 && nums[0] > 0:
		return nums[0], true
	case len(nums) == 2 && nums[0] > 0 && nums[1] > 0:
		return nums[0] / nums[1], true
	}
	return 0, false
}

// FaceUnits are the lengths that units refer to a font for, CSS px: the advance of "0" (ch), the x-height (ex), the
// height of capitals (cap) and the line height that normal stands for (lh).
type FaceUnits struct {
	Zero, X, Cap, Line float64
	// ZeroShare and IdeographShare are widths as shares of the font size.
	ZeroShare, IdeographShare float64
}

// exprKind says what an expression may be.
type exprKind uint8

func mathFunction(name string, k []Len) Len {
	out := k[0]
	b := 1.0
	if len(k) > 1 {
		b = k[1].Px
	}
	switch name {
	case "round", "round nearest":
		out.Px = math.Floor(out.Px/b+.5) * b
	case "round up":
		out.Px = math.Ceil(out.Px/b) * b
	case "round down":
		out.Px = math.Floor(out.Px/b) * b
	case "round to-zero":
		out.Px = math.Trunc(out.Px/b) * b
	case "mod":
		out.Px -= math.Floor(out.Px/b) * b
	case "rem":
		out.Px = math.Mod(out.Px, b)
	case "abs":
		out.Px = math.Abs(out.Px)
	case "sign":
		s := 0.0
		if out.Px != 0 {
			s = math.Copysign(1, out.Px)
		}
		return Len{Kind: LenNumber, Px: s}
	case "sqrt":
		out.Px = math.Sqrt(out.Px)
	case "pow":
		out.Px = math.Pow(out.Px, b)
	case "hypot":
		sum := 0.0
		for _, x := range k {
			sum += x.Px * x.Px
		}
		out.Px = math.Sqrt(sum)
	case "sin":
		out.Px = math.Sin(out.Px)
	case "cos":
		out.Px = math.Cos(out.Px)
	case "tan":
		out.Px = math.Tan(out.Px)
	case "asin":
		out.Px = math.Asin(out.Px)
	case "acos":
		out.Px = math.Acos(out.Px)
	case "atan":
		out.Px = math.Atan(out.Px)
	case "progress":
		if len(k) < 3 || k[2].Px == k[1].Px {
			return Len{Kind: LenNumber}
		}
		return Len{Kind: LenNumber, Px: (k[0].Px - k[1].Px) / (k[2].Px - k[1].Px)}
	case "atan2":
		out = Len{Kind: LenNumber, Px: math.Atan2(out.Px, b)}
	case "exp":
		out.Px = math.Exp(out.Px)
	case "log":
		out.Px = math.Log(out.Px)
		if len(k) > 1 {
			out.Px /= math.Log(b)
		}
	}
	return out
}
