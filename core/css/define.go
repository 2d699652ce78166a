package css

import (
	"math"
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"github.com/tdewolff/parse/v2/css"
)

// propertyTable lists every modelled longhand. With noEffect and the shorthands it says all that the engine knows.
var propertyTable = map[string]*property{}

func define(name string, inherited bool, parse func(v []Token) (setter, bool), copy func(dst, src *Style)) {
	propertyTable[name] = &property{inherited: inherited, first: 2, parse: parse, copy: copy}
}

// field defines a property whose computed value is one field of Style.
func field[T any](name string, inherited bool, at func(s *Style) *T,
	parse func(v []Token) (func(c *computing) T, bool)) {
	define(name, inherited, func(v []Token) (setter, bool) {
		f, ok := parse(v)
		if !ok {
			return nil, false
		}
		return func(s *Style, c *computing) { *at(s) = f(c) }, true
	}, func(dst, src *Style) { *at(dst) = *at(src) })
	propertyTable[name].same = func(a, b *Style) bool { return equalValues(at(a), at(b)) }
}

func equalValues[T any](a, b *T) bool {
	switch x := any(a).(type) {
	case *Len:
		return x.equal(any(b).(*Len))
	case *float64:
		return *x == *any(b).(*float64)
	case *TrackList:
		return equalTracks(x.Items, any(b).(*TrackList).Items)
	}
	return reflect.DeepEqual(a, b)
}

// checked defines a property whose values are read, so that mistakes in them are found, but that the layout has no
// use for.
func checked[T any](name string, parse func(v []Token) (func(c *computing) T, bool)) {
	define(name, false, func(v []Token) (setter, bool) {
		_, ok := parse(v)
		return func(*Style, *computing) {}, ok
	}, func(_, _ *Style) {})
	propertyTable[name].unused = true
}

func words(choices string) func(v []Token) (func(*computing) string, bool) {
	list := strings.Fields(choices)
	return func(v []Token) (func(*computing) string, bool) {
		w := strings.ToLower(Text(v))
		if !contains(list, strings.ReplaceAll(w, " ", "_")) {
			return nil, false
		}
		return func(*computing) string { return w }, true
	}
}

var lenKeywords = map[string]LenKind{"auto": LenAuto, "none": LenNone, "normal": LenNormal,
	"min-content": LenMinContent, "max-content": LenMaxContent,
	"fit-content": LenFitContent, "content": LenContent, "-webkit-fill-available": LenPx, "stretch": LenPx}

// lengths parses a length, or one of the keywords; kind says which math results are allowed.
func lengths(kind exprKind, keywords string) func(v []Token) (func(*computing) Len, bool) {
	allowed := strings.Fields(keywords)
	return func(v []Token) (func(*computing) Len, bool) {
		if w := ident(v); w != "" {
			k := lenKeywords[w]
			fills := w == "stretch" || w == "-webkit-fill-available"
			return func(*computing) Len { return Len{Kind: k, Fill: fills} }, contains(allowed, w)
		}
		if len(v) > 0 && v[0].Kind == css.FunctionToken && v[0].Is("fit-content(") &&
			contains(allowed, "fit-content") {
			e, ok := parseExpr(inside(v, 0, len(v)), exprLengthPercent)
			if !ok {
				return nil, false
			}
			return func(c *computing) Len {
				l := e.compute(&c.unitContext)
				l.Kind, l.Arg = LenFitContent, true
				return l
			}, true
		}
		e, ok := parseExpr(v, kind)
		if !ok {
			return nil, false
		}
		compute := func(c *computing) Len {
			l := e.compute(&c.unitContext)
			l.Kind = LenPx
			return l
		}
		uses := unitsIn(v)
		if len(e.kids) == 0 || uses&unitsOfFace != 0 {
			return compute, true
		}
		m := memo[Len]{uses: uses}
		return func(c *computing) Len { return m.get(&c.unitContext, func() Len { return compute(c) }) }, true
	}
}

func number(least float64) func(v []Token) (func(*computing) float64, bool) {
	return func(v []Token) (func(*computing) float64, bool) {
		e, ok := parseExpr(v, exprNumber)
		if !ok {
			return nil, false
		}
		return func(c *computing) float64 { return max(least, e.compute(&c.unitContext).Px) }, true
	}
}

func integer(v []Token) (func(*computing) int, bool) {
	n, err := strconv.Atoi(Text(v))
	if err == nil {
		return func(*computing) int { return n }, true
	}
	e, ok := parseExpr(v, exprNumber)
	return func(c *computing) int { return int(math.Round(e.compute(&c.unitContext).Px)) }, ok
}

func angle(v []Token) (float64, bool) {
	if len(v) > 0 && v[0].Kind == css.FunctionToken {
		e, ok := parseExpr(v, exprNumber)
		if !ok {
			return 0, false
		}
		return e.compute(&unitContext{}).Px, true
	}
	text := strings.ToLower(Text(v))
	for unit, f := range map[string]float64{"deg": math.Pi / 180, "turn": 2 * math.Pi,
		"grad": math.Pi / 200, "rad": 1} {
		if unit == "rad" && strings.HasSuffix(text, "grad") || !strings.HasSuffix(text, unit) {
			continue
		}
		n, err := strconv.ParseFloat(strings.TrimSuffix(text, unit), 64)
		return n * f, err == nil
	}
	return 0, text == "0"
}

func anyText(v []Token) (func(*computing) string, bool) {
	w := Text(v)
	return func(*computing) string { return w }, len(v) > 0
}

func lowerText(v []Token) (func(*computing) string, bool) {
	w := strings.ToLower(Text(v))
	return func(*computing) string { return w }, len(v) > 0
}

// intrinsicSize reads contain-intrinsic-width and -height: "none", a length, or "auto" before either.
func intrinsicSize(v []Token) (func(*computing) Len, bool) {
	if len(v) > 1 && v[0].Is("auto") {
		v = trim(v[1:])
	}
	if ident(v) == "none" {
		return func(*computing) Len { return Zero }, true
	}
	return lengths(exprLength, "")(v)
}

func borderWidth(v []Token) (func(*computing) float64, bool) {
	if w, ok := map[string]float64{"thin": 1, "medium": 3, "thick": 5}[ident(v)]; ok {
		return func(c *computing) float64 { return c.px(w) }, true
	}
	e, ok := parseExpr(v, exprLength)
	if !ok {
		return nil, false
	}
	return func(c *computing) float64 { return e.compute(&c.unitContext).Px }, true
}

// sizeWords are the keywords of sizes by their place in keywordSizes.
var sizeWords = map[string]int{"xx-small": 0, "x-small": 1, "small": 2, "medium": 3, "large": 4, "x-large": 5,
	"xx-large": 6, "xxx-large": 7}

func percentage(text string) (float64, bool) {
	n, err := strconv.ParseFloat(strings.TrimSuffix(text, "%"), 64)
	return n / 100, err == nil && strings.HasSuffix(text, "%")
}

// manyLines reports a value of a grid property that names more lines or tracks than are laid out.
func manyLines(v string) bool {
	for _, w := range strings.FieldsFunc(v, func(r rune) bool { return r < '0' || r > '9' }) {
		if n, err := strconv.Atoi(w); err != nil || n > mostLines {
			return true
		}
	}
	return false
}

// manyRepeats does so for a list of tracks, whose sizes are numbers as well.
func manyRepeats(v string) bool {
	return slices.ContainsFunc(repeatCount.FindAllStringSubmatch(v, -1),
		func(m []string) bool { return manyLines(m[1]) })
}

var repeatCount = regexp.MustCompile(`repeat\(\s*([0-9]+)`)

// mostLines bounds the lines of a grid, as browsers do, lower: each line costs at every width. A page that names more
// is told.
const mostLines = 1000

func alignment(v []Token) (func(*computing) Align, bool) {
	w := strings.TrimPrefix(strings.ToLower(Text(v)), "legacy ")
	overflow := ""
	for _, o := range []string{"safe ", "unsafe "} {
		if strings.HasPrefix(w, o) {
			overflow, w = o, w[len(o):]
		}
	}
	switch w {
	case "normal", "auto", "legacy":
		w = ""
	case "flex-start", "self-start":
		if w == "self-start" {
			w = "start"
		}
	case "self-end":
		w = "end"
	case "first baseline":
		w = "baseline"
	case "left", "right", "start", "end", "flex-end", "center", "stretch", "baseline", "last baseline",
		"space-between", "space-around", "space-evenly":
	default:
		return nil, false
	}
	return func(*computing) Align { return Align(overflow + w) }, true
}

// equalTracks compares the sizes of two lists that come from the same text.
func equalTracks(a, b []TrackItem) bool {
	if len(a) != len(b) {
		return false
	}
	for i := range a {
		if x, y := &a[i], &b[i]; !x.Track.Min.equal(&y.Track.Min) || !x.Track.Max.equal(&y.Track.Max) ||
			!equalTracks(x.Tracks, y.Tracks) {
			return false
		}
	}
	return true
}

func lengthList(v []Token, least, most int) ([]*expr, bool) {
	var out []*expr
	start, depth := 0, 0
	v = append(append([]Token(nil), v...), Token{Kind: css.WhitespaceToken, Text: " "})
	for i, t := range v {
		switch t.Kind {
		case css.FunctionToken, css.LeftParenthesisToken:
			depth++
		case css.RightParenthesisToken:
			depth--
		case css.WhitespaceToken:
			if depth > 0 || len(trim(v[start:i])) == 0 {
				continue
			}
			e, ok := parseExpr(v[start:i], exprAny)
			if !ok {
				return nil, false
			}
			out = append(out, e)
			start = i
		}
	}
	return out, len(out) >= least && len(out) <= most
}
