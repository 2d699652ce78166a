package css

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"github.com/tdewolff/parse/v2/css"
)

// expr is a parsed length, percentage, number or math function.
type expr struct {
	// 'n' number, '%' percentage, 'u' unit, '+', '-', '*', '/', 'm' min, 'M' max, 'c' clamp, 'f' other function
	op   byte
	v    float64
	name string // unit or function
	kids []*expr
}

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
		a, b := e.kids[0].dimension(), e.kids[1].dimension()
		switch {
		case b == 'n':
			return a
		case a == b && a == 'l': // a length by a length is a number (CSS Values 4, 10.10)
			return 'n'
		}
		return 0
	}
	if e.name == "sign" || e.name == "progress" {
		if len(e.kids) == 0 || e.kids[0].dimension() == 0 {
			return 0
		}
		return 'n'
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
func (p *exprParser) sum() (*expr, bool) { return p.chain("+-", true, p.product) }

func (p *exprParser) product() (*expr, bool) {
	return p.chain("*/", false, func() (*expr, bool) { return p.primary(true) })
}

// chain reads operands with any of the operators between them, from left to right.
func (p *exprParser) chain(operators string, spaced bool, operand func() (*expr, bool)) (*expr, bool) {
	left, ok := operand()
	for ok {
		mark := p.i
		space := p.space()
		noOperator := spaced && !space || p.i >= len(p.v) || len(p.v[p.i].Text) != 1 ||
			!strings.Contains(operators, p.v[p.i].Text)
		if noOperator {
			p.i = mark
			break
		}
		op := p.v[p.i].Text[0]
		p.i++
		p.space()
		var right *expr
		if right, ok = operand(); ok {
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
			case "nan":
				return &expr{op: 'n', v: math.NaN()}, true
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
	ops := map[string]byte{"calc": '(', "min": 'm', "max": 'M', "clamp": 'c', "round": 'f', "mod": 'f', "rem": 'f',
		"abs": 'f', "sign": 'f',
		"sqrt": 'f', "pow": 'f', "hypot": 'f', "sin": 'f', "cos": 'f', "tan": 'f', "exp": 'f', "log": 'f',
		"progress": 'f', "asin": 'f', "acos": 'f', "atan": 'f', "atan2": 'f'}
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

// compute gives the value of a whole calculation. What is no number is 0 (CSS Values 4, "Top-Level Calculations").
func (e *expr) compute(c *unitContext) Len {
	l := e.value(c)
	if math.IsNaN(l.Px) {
		l.Px = 0
	}
	if math.IsNaN(l.Pct) {
		l.Pct = 0
	}
	return l
}

// value resolves all units but percentages.
func (e *expr) value(c *unitContext) Len {
	switch e.op {
	case 'n':
		return Len{Kind: LenNumber, Px: e.v}
	case '%':
		return Len{Kind: LenPx, Pct: e.v, Arg: e.v == 0}
	case 'u':
		return Len{Kind: LenPx, Px: e.v * c.unit(e.name)}
	case '+':
		return addLen(e.kids[0].value(c), e.kids[1].value(c))
	case '-':
		return addLen(e.kids[0].value(c), e.kids[1].value(c).scale(-1))
	case '*':
		a, b := e.kids[0].value(c), e.kids[1].value(c)
		if a.Kind == LenNumber {
			a, b = b, a
		}
		return a.scale(b.Px)
	case '/':
		a, b := e.kids[0].value(c), e.kids[1].value(c)
		out := a.scale(1 / b.Px)
		if a.Kind != LenNumber && b.Kind != LenNumber {
			out.Kind = LenNumber
		}
		return out
	}
	var few [4]Len // nearly always enough
	kids := few[:0]
	for _, k := range e.kids {
		kids = append(kids, k.value(c))
	}
	switch e.op {
	case 'm', 'M':
		return pickLen(e.op, kids)
	case 'c':
		few[3] = pickLen('m', kids[1:3])
		return pickLen('M', []Len{kids[0], few[3]})
	}
	for _, k := range kids {
		if k.HasPercent() { // waits for its base
			return Len{Kind: LenPx, Tree: &lenTree{op: 'f', name: e.name, kids: slices.Clone(kids), mul: 1}}
		}
	}
	return mathFunction(e.name, kids)
}
