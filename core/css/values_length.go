package css

import (
	"math"
	"strconv"
	"strings"

	"github.com/tdewolff/parse/v2/css"
)

// Px is a length in whole 1/64 CSS px, the unit that browsers lay out in. Equal results are equal bits on every machine.
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

const maxPx = 1 << 30

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
func (l Len) HasPercent() bool { return l.Pct != 0 || l.Tree != nil }

// IsZero reports exactly 0.
func (l Len) IsZero() bool { return l.Kind == LenPx && l.Px == 0 && l.Pct == 0 && l.Tree == nil }

// Resolve gives the used length against a base. The whole value is evaluated in floating point and truncated once (measured).
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

func (l Len) scale(f float64) Len {
	if l.Tree != nil {
		return Len{Kind: LenPx, Tree: &lenTree{op: l.Tree.op, name: l.Tree.name, kids: l.Tree.kids, mul: l.Tree.mul * f}}
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
			return Len{Kind: LenPx, Tree: &lenTree{op: op, kids: kids, mul: 1}}
		}
		if op == 'm' && k.Px < best.Px || op == 'M' && k.Px > best.Px {
			best = k
		}
	}
	return best
}

// unitContext has what relative units refer to, all in CSS px.
type unitContext struct {
	fontSize, rootSize float64
	lineHeight         float64
	vw, vh             float64 // viewport
	cqw, cqh           float64 // width and height of the nearest containers, else of the viewport
	rootLine           float64 // line height of the root element
	face               func() FaceUnits
}

// memo keeps the last result of a computation for the units it was made with. Many elements ask for the same length in turn. What
// holds a memo belongs to one Styler, so to one goroutine.
type memo[T any] struct {
	units unitContext
	value T
	held  bool
}

func (m *memo[T]) get(c *unitContext, compute func() T) T {
	if m.held && m.units.fontSize == c.fontSize && m.units.vw == c.vw && m.units.vh == c.vh && m.units.cqw == c.cqw && m.units.cqh == c.cqh && m.units.rootSize == c.rootSize && m.units.lineHeight == c.lineHeight && m.units.rootLine == c.rootLine {
		return m.value
	}
	m.value, m.units, m.held = compute(), *c, true
	m.units.face = nil
	return m.value
}

// usesFace reports a length that asks the font of its element, which a memo cannot tell apart.
func usesFace(v []Token) bool {
	for _, t := range v {
		if t.Kind == css.DimensionToken {
			u := strings.ToLower(t.Text)
			if strings.HasSuffix(u, "ch") || strings.HasSuffix(u, "ex") || strings.HasSuffix(u, "cap") || strings.HasSuffix(u, "ic") {
				return true
			}
		}
	}
	return false
}

// expr is a parsed length, percentage, number or math function.
type expr struct {
	op   byte // 'n' number, '%' percentage, 'u' unit, '+', '-', '*', '/', 'm' min, 'M' max, 'c' clamp, 'f' other function
	v    float64
	name string // unit or function
	kids []*expr
}

// exprKind says what an expression may be.
type exprKind uint8

const (
	exprAny exprKind = iota
	exprLength
	exprLengthPercent
	exprNumber
)

var absoluteUnits = map[string]float64{"px": 1, "in": 96, "cm": 96 / 2.54, "mm": 96 / 25.4, "q": 96 / 101.6, "pt": 96.0 / 72, "pc": 16}

// angleUnits are in radians. In math functions an angle acts as a number.
var angleUnits = map[string]float64{"deg": math.Pi / 180, "grad": math.Pi / 200, "turn": 2 * math.Pi, "rad": 1}

var relativeUnits = map[string]bool{"em": true, "rem": true, "ex": true, "ch": true, "lh": true, "rlh": true, "cap": true, "ic": true,
	"vw": true, "vh": true, "vi": true, "vb": true, "vmin": true, "vmax": true, "svw": true, "svh": true, "lvw": true, "lvh": true, "dvw": true,
	"dvh": true, "svi": true, "svb": true, "lvi": true, "dvi": true, "svmin": true, "svmax": true, "lvmin": true, "lvmax": true, "dvmin": true, "dvmax": true,
	"cqw": true, "cqi": true, "cqh": true, "cqb": true, "cqmin": true, "cqmax": true}

// parseExpr reads one length, percentage, number or math function that takes all of v.
func parseExpr(v []Token, kind exprKind) (*expr, bool) {
	p := &exprParser{v: trim(v)}
	e, ok := p.primary(false)
	if !ok || p.i != len(p.v) {
		return nil, false
	}
	switch t := e.dimension(); kind {
	case exprLength:
		ok = t == 'l' || e.isZero()
	case exprLengthPercent:
		ok = t == 'l' || t == '%' || e.isZero()
	case exprNumber:
		ok = t == 'n'
	default:
		ok = t != 0
	}
	return e, ok
}

func (e *expr) isZero() bool { return e.op == 'n' && e.v == 0 }

// dimension gives 'n' number, 'l' length, '%' percentage or mix, 0 for a type error.
func (e *expr) dimension() byte {
	switch e.op {
	case 'n':
		return 'n'
	case '%':
		return '%'
	case 'u':
		return 'l'
	case '*':
		a, b := e.kids[0].dimension(), e.kids[1].dimension()
		switch {
		case a == 'n':
			return b
		case b == 'n':
			return a
		}
		return 0
	case '/':
		if e.kids[1].dimension() != 'n' {
			return 0
		}
		return e.kids[0].dimension()
	}
	var d byte
	for _, k := range e.kids {
		x := k.dimension()
		switch {
		case x == 0:
			return 0
		case d == 0 || d == x:
			d = x
		case d == 'n' || x == 'n':
			return 0
		default:
			d = '%'
		}
	}
	return d
}

type exprParser struct {
	v []Token
	i int
}

func (p *exprParser) space() bool {
	start := p.i
	for p.i < len(p.v) && p.v[p.i].Kind == css.WhitespaceToken {
		p.i++
	}
	return p.i > start
}

// sum reads "a + b - c"; the operators need space around them.
func (p *exprParser) sum() (*expr, bool) {
	left, ok := p.product()
	for ok {
		mark := p.i
		if !p.space() || p.i >= len(p.v) || (p.v[p.i].Text != "+" && p.v[p.i].Text != "-") {
			p.i = mark
			break
		}
		op := p.v[p.i].Text[0]
		p.i++
		p.space()
		var right *expr
		if right, ok = p.product(); ok {
			left = &expr{op: op, kids: []*expr{left, right}}
		}
	}
	return left, ok
}

func (p *exprParser) product() (*expr, bool) {
	left, ok := p.primary(true)
	for ok {
		mark := p.i
		p.space()
		if p.i >= len(p.v) || (p.v[p.i].Text != "*" && p.v[p.i].Text != "/") {
			p.i = mark
			break
		}
		op := p.v[p.i].Text[0]
		p.i++
		p.space()
		var right *expr
		if right, ok = p.primary(true); ok {
			left = &expr{op: op, kids: []*expr{left, right}}
		}
	}
	return left, ok
}

func (p *exprParser) primary(inMath bool) (*expr, bool) {
	if p.i >= len(p.v) {
		return nil, false
	}
	t := p.v[p.i]
	p.i++
	switch t.Kind {
	case css.NumberToken:
		n, err := strconv.ParseFloat(t.Text, 64)
		return &expr{op: 'n', v: n}, err == nil
	case css.PercentageToken:
		n, err := strconv.ParseFloat(strings.TrimSuffix(t.Text, "%"), 64)
		return &expr{op: '%', v: n}, err == nil
	case css.DimensionToken:
		return dimensionExpr(t.Text)
	case css.LeftParenthesisToken:
		if !inMath {
			return nil, false
		}
		return p.close(p.sum())
	case css.FunctionToken:
		return p.function(strings.ToLower(strings.TrimSuffix(t.Text, "(")))
	case css.IdentToken:
		if inMath {
			switch strings.ToLower(t.Text) {
			case "infinity":
				return &expr{op: 'n', v: math.Inf(1)}, true
			case "-infinity":
				return &expr{op: 'n', v: math.Inf(-1)}, true
			case "pi":
				return &expr{op: 'n', v: math.Pi}, true
			case "e":
				return &expr{op: 'n', v: math.E}, true
			}
		}
	}
	return nil, false
}

func (p *exprParser) close(e *expr, ok bool) (*expr, bool) {
	p.space()
	if !ok || p.i >= len(p.v) || p.v[p.i].Kind != css.RightParenthesisToken {
		return nil, false
	}
	p.i++
	return e, true
}

func dimensionExpr(text string) (*expr, bool) {
	cut := len(text)
	for cut > 0 && !(text[cut-1] >= '0' && text[cut-1] <= '9' || text[cut-1] == '.') {
		cut--
	}
	n, err := strconv.ParseFloat(text[:cut], 64)
	unit := strings.ToLower(text[cut:])
	if f, ok := angleUnits[unit]; ok {
		return &expr{op: 'n', v: n * f}, err == nil
	}
	if f, ok := absoluteUnits[unit]; ok {
		return &expr{op: 'u', v: n * f, name: "px"}, err == nil
	}
	return &expr{op: 'u', v: n, name: unit}, err == nil && relativeUnits[unit]
}

func (p *exprParser) function(name string) (*expr, bool) {
	ops := map[string]byte{"calc": '(', "min": 'm', "max": 'M', "clamp": 'c', "round": 'f', "mod": 'f', "rem": 'f', "abs": 'f', "sign": 'f',
		"sqrt": 'f', "pow": 'f', "hypot": 'f', "sin": 'f', "cos": 'f', "tan": 'f', "exp": 'f', "log": 'f', "asin": 'f', "acos": 'f', "atan": 'f', "atan2": 'f'}
	op, ok := ops[name]
	if !ok {
		return nil, false
	}
	e := &expr{op: op, name: name}
	for {
		p.space()
		if name == "clamp" && p.i < len(p.v) && p.v[p.i].Is("none") {
			p.i++
			inf := math.Inf(-1)
			if len(e.kids) == 2 {
				inf = math.Inf(1)
			}
			e.kids = append(e.kids, &expr{op: 'u', v: inf, name: "px"})
		} else if name == "round" && p.i < len(p.v) && p.v[p.i].Kind == css.IdentToken {
			e.name = "round " + strings.ToLower(p.v[p.i].Text)
			p.i++
		} else {
			k, ok := p.sum()
			if !ok {
				return nil, false
			}
			e.kids = append(e.kids, k)
		}
		p.space()
		if p.i < len(p.v) && p.v[p.i].Kind == css.CommaToken {
			p.i++
			continue
		}
		break
	}
	want := map[byte]int{'(': 1, 'c': 3}
	if n := want[op]; n > 0 && len(e.kids) != n {
		return nil, false
	}
	if op == '(' {
		return p.close(e.kids[0], len(e.kids) == 1)
	}
	return p.close(e, len(e.kids) > 0)
}

// compute resolves all units but percentages.
func (e *expr) compute(c *unitContext) Len {
	switch e.op {
	case 'n':
		return Len{Kind: LenNumber, Px: e.v}
	case '%':
		return Len{Kind: LenPx, Pct: e.v}
	case 'u':
		return Len{Kind: LenPx, Px: e.v * c.unit(e.name)}
	case '+':
		return addLen(e.kids[0].compute(c), e.kids[1].compute(c))
	case '-':
		return addLen(e.kids[0].compute(c), e.kids[1].compute(c).scale(-1))
	case '*':
		a, b := e.kids[0].compute(c), e.kids[1].compute(c)
		if a.Kind == LenNumber {
			a, b = b, a
		}
		return a.scale(b.Px)
	case '/':
		return e.kids[0].compute(c).scale(1 / e.kids[1].compute(c).Px)
	}
	kids := make([]Len, len(e.kids))
	for i, k := range e.kids {
		kids[i] = k.compute(c)
	}
	switch e.op {
	case 'm', 'M':
		return pickLen(e.op, kids)
	case 'c':
		return pickLen('M', []Len{kids[0], pickLen('m', []Len{kids[1], kids[2]})})
	}
	for _, k := range kids {
		if k.HasPercent() { // waits for its base
			return Len{Kind: LenPx, Tree: &lenTree{op: 'f', name: e.name, kids: kids, mul: 1}}
		}
	}
	return mathFunction(e.name, kids)
}

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

func (c *unitContext) unit(name string) float64 {
	switch name {
	case "px":
		return 1
	case "em", "ic":
		return c.fontSize
	case "rem":
		return c.rootSize
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
