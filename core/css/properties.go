package css

import (
	"math"
	"reflect"
	"strconv"
	"strings"

	"github.com/tdewolff/parse/v2/css"
)

// setter writes one computed value.
type setter func(s *Style, c *computing)

// computing is what a setter may look at.
type computing struct {
	unitContext
	parent *Style
}

// property is one longhand that the engine models.
type property struct {
	inherited bool
	first     int // 0 font size, 1 other font properties and line height, 2 all others
	parse     func(v []Token) (setter, bool)
	copy      func(dst, src *Style)
	// whether two styles of the same declarations agree on it; nil when nobody can tell
	same   func(a, b *Style) bool
	unused bool // read and checked only
}

// propertyTable lists every modelled longhand. With noEffect and the shorthands it says all that the engine knows.
var propertyTable = map[string]*property{}

func define(name string, inherited bool, parse func(v []Token) (setter, bool), copy func(dst, src *Style)) {
	propertyTable[name] = &property{inherited: inherited, first: 2, parse: parse, copy: copy}
}

// field defines a property whose computed value is one field of Style.
func field[T any](name string, inherited bool, at func(s *Style) *T, parse func(v []Token) (func(c *computing) T, bool)) {
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

func ident(v []Token) string {
	if len(v) == 1 && (v[0].Kind == css.IdentToken) {
		return strings.ToLower(v[0].Text)
	}
	return ""
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

var lenKeywords = map[string]LenKind{"auto": LenAuto, "none": LenNone, "normal": LenNormal, "min-content": LenMinContent, "max-content": LenMaxContent,
	"fit-content": LenFitContent, "content": LenContent, "-webkit-fill-available": LenAuto, "stretch": LenAuto}

// lengths parses a length, or one of the keywords; kind says which math results are allowed.
func lengths(kind exprKind, keywords string) func(v []Token) (func(*computing) Len, bool) {
	allowed := strings.Fields(keywords)
	return func(v []Token) (func(*computing) Len, bool) {
		if w := ident(v); w != "" {
			k := lenKeywords[w]
			return func(*computing) Len { return Len{Kind: k} }, contains(allowed, w)
		}
		if len(v) > 0 && v[0].Kind == css.FunctionToken && v[0].Is("fit-content(") && contains(allowed, "fit-content") {
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

func alignment(v []Token) (func(*computing) Align, bool) {
	w := strings.TrimPrefix(strings.TrimPrefix(strings.ToLower(Text(v)), "safe "), "unsafe ")
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
	case "left", "right", "start", "end", "flex-end", "center", "stretch", "baseline", "last baseline", "space-between", "space-around", "space-evenly", "anchor-center":
	default:
		return nil, false
	}
	return func(*computing) Align { return Align(w) }, true
}

var sideNames = [4]string{"top", "right", "bottom", "left"}

func init() {
	defineBox()
	defineText()
	defineFlexGrid()
	defineOther()
	defineLists()
	for _, n := range []string{"font-size"} {
		propertyTable[n].first = 0
	}
	for _, n := range []string{"font-family", "font-weight", "font-style", "font-stretch", "line-height", "font-variation-settings", "font-optical-sizing"} {
		propertyTable[n].first = 1
	}
}

func defineBox() {
	size := "auto min-content max-content fit-content stretch -webkit-fill-available"
	field("width", false, func(s *Style) *Len { return &s.Width }, lengths(exprLengthPercent, size))
	field("height", false, func(s *Style) *Len { return &s.Height }, lengths(exprLengthPercent, size))
	field("min-width", false, func(s *Style) *Len { return &s.MinW }, lengths(exprLengthPercent, size))
	field("min-height", false, func(s *Style) *Len { return &s.MinH }, lengths(exprLengthPercent, size))
	field("max-width", false, func(s *Style) *Len { return &s.MaxW }, lengths(exprLengthPercent, size+" none"))
	field("max-height", false, func(s *Style) *Len { return &s.MaxH }, lengths(exprLengthPercent, size+" none"))
	for i, side := range sideNames {
		field("margin-"+side, false, func(s *Style) *Len { return &s.Margin[i] }, lengths(exprLengthPercent, "auto"))
		field("padding-"+side, false, func(s *Style) *Len { return &s.Padding[i] }, lengths(exprLengthPercent, ""))
		field(side, false, func(s *Style) *Len { return &s.Inset[i] }, lengths(exprLengthPercent, "auto"))
		field("scroll-padding-"+side, false, func(s *Style) *Len { return &s.ScrollPadding[i] }, lengths(exprLengthPercent, "auto"))
		field("scroll-margin-"+side, false, func(s *Style) *Len { return &s.ScrollMargin[i] }, lengths(exprLength, ""))
		field("border-"+side+"-style", false, func(s *Style) *string { return &s.BorderStyle[i] },
			words("none hidden dotted dashed solid double groove ridge inset outset"))
		field("border-"+side+"-width", false, func(s *Style) *float64 { return &s.BorderWidth[i] }, borderWidth)
	}
	field("box-sizing", false, func(s *Style) *bool { return &s.BorderBox }, func(v []Token) (func(*computing) bool, bool) {
		w := ident(v)
		return func(*computing) bool { return w == "border-box" }, w == "border-box" || w == "content-box"
	})
	field("display", false, func(s *Style) *Display { return &s.Display }, parseDisplay)
	field("position", false, func(s *Style) *Position { return &s.Position }, func(v []Token) (func(*computing) Position, bool) {
		p, ok := map[string]Position{"static": Static, "relative": Relative, "absolute": Absolute, "fixed": Fixed, "sticky": Sticky, "-webkit-sticky": Sticky}[ident(v)]
		return func(*computing) Position { return p }, ok
	})
	checked("float", words("none left right inline-start inline-end"))
	field("overflow-x", false, func(s *Style) *string { return &s.OverflowX }, words("visible hidden clip scroll auto"))
	field("overflow-y", false, func(s *Style) *string { return &s.OverflowY }, words("visible hidden clip scroll auto"))
	field("container-type", false, func(s *Style) *string { return &s.ContainerType }, words("normal size inline-size scroll-state"))
	field("container-name", false, func(s *Style) *[]string { return &s.ContainerName }, func(v []Token) (func(*computing) []string, bool) {
		names := strings.Fields(Text(v))
		if ident(v) == "none" {
			names = nil
		}
		return func(*computing) []string { return names }, len(v) > 0
	})
	field("contain", false, func(s *Style) *string { return &s.Contain }, func(v []Token) (func(*computing) string, bool) {
		w := strings.ToLower(Text(v))
		return func(*computing) string { return w }, true
	})
	define("aspect-ratio", false, func(v []Token) (setter, bool) {
		auto := false
		var rest []Token
		for _, t := range v {
			if t.Is("auto") {
				auto = true
				continue
			}
			rest = append(rest, t)
		}
		rest = trim(rest)
		if len(rest) == 0 {
			return func(s *Style, _ *computing) { s.AspectRatio, s.RatioAuto = 0, true }, auto
		}
		r, ok := parseRatio(rest)
		return func(s *Style, _ *computing) { s.AspectRatio, s.RatioAuto = r, auto }, ok
	}, func(dst, src *Style) { dst.AspectRatio, dst.RatioAuto = src.AspectRatio, src.RatioAuto })
	field("contain-intrinsic-width", false, func(s *Style) *Len { return &s.ContainW }, intrinsicSize)
	field("contain-intrinsic-height", false, func(s *Style) *Len { return &s.ContainH }, intrinsicSize)
	field("scroll-snap-type", false, func(s *Style) *string { return &s.SnapType }, lowerText)
	field("scroll-snap-align", false, func(s *Style) *string { return &s.SnapAlign }, lowerText)
	checked("z-index", anyText)
	checked("zoom", number(0))
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

func lowerText(v []Token) (func(*computing) string, bool) {
	w := strings.ToLower(Text(v))
	return func(*computing) string { return w }, len(v) > 0
}

func anyText(v []Token) (func(*computing) string, bool) {
	w := Text(v)
	return func(*computing) string { return w }, len(v) > 0
}

func borderWidth(v []Token) (func(*computing) float64, bool) {
	if w, ok := map[string]float64{"thin": 1, "medium": 3, "thick": 5}[ident(v)]; ok {
		return func(*computing) float64 { return w }, true
	}
	e, ok := parseExpr(v, exprLength)
	if !ok {
		return nil, false
	}
	return func(c *computing) float64 { return e.compute(&c.unitContext).Px }, true
}

var displays = map[string]Display{"none": None, "contents": Contents, "block": Block, "inline": Inline, "flow-root": FlowRoot, "list-item": ListItem,
	"inline-block": InlineBlock, "flex": Flex, "inline-flex": InlineFlex, "grid": Grid, "inline-grid": InlineGrid, "table": Table, "inline-table": InlineTable,
	"table-row": TableRow, "table-row-group": TableGroup, "table-header-group": TableGroup, "table-footer-group": TableGroup, "table-cell": TableCell,
	"table-caption": TableCaption, "table-column": TableColumn, "table-column-group": TableColumn, "-webkit-box": ClampBox, "-webkit-inline-box": InlineBlock,
	"block flow": Block, "block flow-root": FlowRoot, "inline flow-root": InlineBlock, "block flex": Flex, "inline flex": InlineFlex, "block grid": Grid,
	"inline grid": InlineGrid, "inline flow": Inline, "math": Inline, "ruby": Inline, "-webkit-flex": Flex}

func parseDisplay(v []Token) (func(*computing) Display, bool) {
	d, ok := displays[strings.ToLower(Text(v))]
	return func(*computing) Display { return d }, ok
}

var absoluteSizes = map[string]float64{"xx-small": 9, "x-small": 10, "small": 13, "medium": 16, "large": 18, "x-large": 24, "xx-large": 32, "xxx-large": 48}

func defineFlexGrid() {
	field("flex-direction", false, func(s *Style) *string { return &s.FlexDirection }, words("row row-reverse column column-reverse"))
	field("flex-wrap", false, func(s *Style) *string { return &s.FlexWrap }, words("nowrap wrap wrap-reverse"))
	field("flex-grow", false, func(s *Style) *float64 { return &s.FlexGrow }, number(0))
	field("flex-shrink", false, func(s *Style) *float64 { return &s.FlexShrink }, number(0))
	field("flex-basis", false, func(s *Style) *Len { return &s.FlexBasis }, lengths(exprLengthPercent, "auto content min-content max-content fit-content"))
	field("order", false, func(s *Style) *int { return &s.Order }, integer)
	field("row-gap", false, func(s *Style) *Len { return &s.RowGap }, lengths(exprLengthPercent, "normal"))
	field("column-gap", false, func(s *Style) *Len { return &s.ColGap }, lengths(exprLengthPercent, "normal"))
	for name, at := range map[string]func(s *Style) *Align{
		"align-items": func(s *Style) *Align { return &s.AlignItems }, "justify-items": func(s *Style) *Align { return &s.JustifyItems },
		"align-self": func(s *Style) *Align { return &s.AlignSelf }, "justify-self": func(s *Style) *Align { return &s.JustifySelf },
		"align-content": func(s *Style) *Align { return &s.AlignContent }, "justify-content": func(s *Style) *Align { return &s.JustifyContent },
	} {
		field(name, false, at, alignment)
	}
	field("grid-template-columns", false, func(s *Style) *TrackList { return &s.GridCols }, parseTracks)
	field("grid-template-rows", false, func(s *Style) *TrackList { return &s.GridRows }, parseTracks)
	field("grid-auto-columns", false, func(s *Style) *[]Track { return &s.AutoCols }, parseAutoTracks)
	field("grid-auto-rows", false, func(s *Style) *[]Track { return &s.AutoRows }, parseAutoTracks)
	field("grid-auto-flow", false, func(s *Style) *string { return &s.AutoFlow }, words("row column dense row_dense column_dense dense_row dense_column"))
	for name, at := range map[string]func(s *Style) *Line{
		"grid-column-start": func(s *Style) *Line { return &s.ColStart }, "grid-column-end": func(s *Style) *Line { return &s.ColEnd },
		"grid-row-start": func(s *Style) *Line { return &s.RowStart }, "grid-row-end": func(s *Style) *Line { return &s.RowEnd },
	} {
		field(name, false, at, parseLine)
	}
	define("grid-template-areas", false, func(v []Token) (setter, bool) {
		areas, rows, cols, ok := parseAreas(v)
		return func(s *Style, _ *computing) { s.GridAreas, s.GridAreaRows, s.GridAreaCols = areas, rows, cols }, ok
	}, func(dst, src *Style) {
		dst.GridAreas, dst.GridAreaRows, dst.GridAreaCols = src.GridAreas, src.GridAreaRows, src.GridAreaCols
	})
}

func integer(v []Token) (func(*computing) int, bool) {
	n, err := strconv.Atoi(Text(v))
	if err == nil {
		return func(*computing) int { return n }, true
	}
	e, ok := parseExpr(v, exprNumber)
	return func(c *computing) int { return int(math.Round(e.compute(&c.unitContext).Px)) }, ok
}

func defineOther() {
	define("vertical-align", false, func(v []Token) (setter, bool) {
		w := ident(v)
		switch w {
		case "baseline", "sub", "super", "top", "text-top", "middle", "bottom", "text-bottom":
			return func(s *Style, _ *computing) { s.VerticalAlign = w }, true
		}
		e, ok := parseExpr(v, exprLengthPercent)
		return func(s *Style, c *computing) {
			s.VerticalAlign, s.VerticalLength = "", e.compute(&c.unitContext)
			s.VerticalLength.Kind = LenPx
		}, ok
	}, func(dst, src *Style) { dst.VerticalAlign, dst.VerticalLength = src.VerticalAlign, src.VerticalLength })
	define("content", false, func(v []Token) (setter, bool) {
		raw := append([]Token(nil), v...)
		return func(s *Style, _ *computing) {
			s.Content, s.HasContent = Text(raw), ident(raw) != "none" && ident(raw) != "normal"
		}, true
	}, func(dst, src *Style) { dst.Content, dst.HasContent = src.Content, src.HasContent })
	field("-webkit-line-clamp", false, func(s *Style) *int { return &s.LineClamp }, func(v []Token) (func(*computing) int, bool) {
		if ident(v) == "none" {
			return func(*computing) int { return 0 }, true
		}
		return integer(v)
	})
	checked("-webkit-box-orient", words("horizontal vertical inline-axis block-axis"))
	for _, name := range []string{"appearance", "-webkit-appearance"} {
		field(name, false, func(s *Style) *bool { return &s.Plain }, func(v []Token) (func(*computing) bool, bool) {
			w := ident(v)
			return func(*computing) bool { return w == "none" }, w != ""
		})
	}
	checked("object-fit", words("fill contain cover none scale-down"))
	checked("object-position", anyText)
	field("opacity", false, func(s *Style) *float64 { return &s.Opacity }, number(0))
	for _, name := range []string{"background-color", "background-image", "background-size", "background-position-x", "background-position-y", "background-clip", "text-overflow", "background-blend-mode", "mix-blend-mode",
		"-webkit-text-fill-color"} {
		checked(name, anyText)
	}
	field("content-visibility", false, func(s *Style) *bool { return &s.ContentHidden }, func(v []Token) (func(*computing) bool, bool) {
		w := ident(v)
		return func(*computing) bool { return w == "hidden" }, w == "visible" || w == "hidden" || w == "auto"
	})
	define("transform", false, parseTransform, func(dst, src *Style) { dst.Transform = src.Transform })
	define("translate", false, func(v []Token) (setter, bool) {
		list, ok := lengthList(v, 1, 3)
		return func(s *Style, c *computing) {
			s.Translate = [2]Len{Zero, Zero}
			for i := range min(2, len(list)) {
				s.Translate[i] = list[i].compute(&c.unitContext)
				s.Translate[i].Kind = LenPx
			}
		}, ok || ident(v) == "none"
	}, func(dst, src *Style) { dst.Translate = src.Translate })
	define("scale", false, func(v []Token) (setter, bool) {
		list, ok := lengthList(v, 1, 3)
		return func(s *Style, c *computing) {
			s.Scale = [2]float64{1, 1}
			for i := range min(2, len(list)) {
				n := list[i].compute(&c.unitContext)
				s.Scale[i] = n.Px + n.Pct/100
				if i == 0 {
					s.Scale[1] = s.Scale[0]
				}
			}
		}, ok || ident(v) == "none"
	}, func(dst, src *Style) { dst.Scale = src.Scale })
	define("rotate", false, func(v []Token) (setter, bool) {
		a, ok := angle(v)
		return func(s *Style, _ *computing) { s.Rotate = a }, ok || ident(v) == "none"
	}, func(dst, src *Style) { dst.Rotate = src.Rotate })
	define("transform-origin", false, func(v []Token) (setter, bool) {
		var at [2]*expr
		n := 0
		for _, t := range v {
			if t.Kind == css.WhitespaceToken {
				continue
			}
			pct, word := map[string]float64{"left": 0, "top": 0, "center": 50, "right": 100, "bottom": 100}[strings.ToLower(t.Text)]
			e, ok := &expr{op: '%', v: pct}, word
			if !word {
				e, ok = parseExpr([]Token{t}, exprLengthPercent)
			}
			if !ok || n > 1 {
				return nil, n == 2
			}
			i := n
			if t.Is("top") || t.Is("bottom") {
				i = 1
			}
			if at[i] != nil {
				i = 1 - i
			}
			at[i] = e
			n++
		}
		return func(s *Style, c *computing) {
			for i, e := range at {
				s.TransformOrigin[i] = Len{Kind: LenPx, Pct: 50}
				if e != nil {
					s.TransformOrigin[i] = e.compute(&c.unitContext)
				}
			}
		}, n > 0
	}, func(dst, src *Style) { dst.TransformOrigin = src.TransformOrigin })
	for _, name := range []string{"filter", "backdrop-filter", "will-change", "perspective"} {
		define(name, false, func(v []Token) (setter, bool) {
			w := strings.ToLower(Text(v))
			makes := w != "none" && w != "auto" && (name != "will-change" || strings.Contains(w, "transform") || strings.Contains(w, "filter"))
			return func(s *Style, _ *computing) { s.MakesContaining = s.MakesContaining || makes }, true
		}, func(dst, src *Style) {})
	}
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

func angle(v []Token) (float64, bool) {
	text := strings.ToLower(Text(v))
	for unit, f := range map[string]float64{"deg": math.Pi / 180, "turn": 2 * math.Pi, "grad": math.Pi / 200, "rad": 1} {
		if unit == "rad" && strings.HasSuffix(text, "grad") || !strings.HasSuffix(text, unit) {
			continue
		}
		n, err := strconv.ParseFloat(strings.TrimSuffix(text, unit), 64)
		return n * f, err == nil
	}
	return 0, text == "0"
}

func parseTransform(v []Token) (setter, bool) {
	if ident(v) == "none" {
		return func(s *Style, _ *computing) { s.Transform = nil }, true
	}
	type op struct {
		name string
		args []*expr
		nums []float64
	}
	var ops []op
	for i := 0; i < len(v); i++ {
		if v[i].Kind == css.WhitespaceToken {
			continue
		}
		if v[i].Kind != css.FunctionToken {
			return nil, false
		}
		start, depth := i+1, 1
		for i++; i < len(v) && depth > 0; i++ {
			switch v[i].Kind {
			case css.FunctionToken, css.LeftParenthesisToken:
				depth++
			case css.RightParenthesisToken:
				depth--
			}
		}
		if depth == 0 {
			i--
		}
		o := op{name: strings.ToLower(strings.TrimSuffix(v[start-1].Text, "("))}
		for _, a := range SplitCommas(v[start:min(i, len(v))]) {
			if n, ok := angle(a); ok && (strings.HasPrefix(o.name, "rot") || strings.HasPrefix(o.name, "skew")) {
				o.nums = append(o.nums, n)
				continue
			}
			e, ok := parseExpr(a, exprAny)
			if !ok {
				return nil, false
			}
			o.args = append(o.args, e)
		}
		ops = append(ops, o)
	}
	return func(s *Style, c *computing) {
		s.Transform = make([]TransformOp, 0, len(ops))
		for _, o := range ops {
			t := TransformOp{Name: o.name, N: o.nums, Len: [2]Len{Zero, Zero}}
			for i, e := range o.args {
				l := e.compute(&c.unitContext)
				if i < 2 {
					t.Len[i] = l
					t.Len[i].Kind = LenPx
				}
				t.N = append(t.N, l.Px+l.Pct/100)
			}
			s.Transform = append(s.Transform, t)
		}
	}, len(ops) > 0
}
