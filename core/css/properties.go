package css

import (
	"strconv"
	"strings"

	"github.com/tdewolff/parse/v2/css"
)

func init() {
	defineBox()
	defineText()
	defineFlexGrid()
	defineOther()
	defineLists()
	propertyTable["direction"].first = 0                     // logical properties look at it
	for _, n := range []string{"font-size", "font-family"} { // a lone monospace family has sizes of its own
		propertyTable[n].first = 0
	}
	for _, n := range []string{"font-weight", "font-style", "font-stretch", "line-height",
		"font-variation-settings", "font-optical-sizing", "font-size-adjust"} {
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
		field("scroll-padding-"+side, false, func(s *Style) *Len { return &s.ScrollPadding[i] },
			lengths(exprLengthPercent, "auto"))
		field("scroll-margin-"+side, false, func(s *Style) *Len { return &s.ScrollMargin[i] },
			lengths(exprLength, ""))
		field("border-"+side+"-style", false, func(s *Style) *string { return &s.BorderStyle[i] },
			words("none hidden dotted dashed solid double groove ridge inset outset"))
		field("border-"+side+"-width", false, func(s *Style) *float64 { return &s.BorderWidth[i] }, borderWidth)
	}
	field("box-decoration-break", false, func(s *Style) *bool { return &s.CloneEdges },
		func(v []Token) (func(*computing) bool, bool) {
			w := ident(v)
			return func(*computing) bool { return w == "clone" }, w == "clone" || w == "slice"
		})
	field("field-sizing", false, func(s *Style) *bool { return &s.FitsField },
		func(v []Token) (func(*computing) bool, bool) {
			w := ident(v)
			return func(*computing) bool { return w == "content" }, w == "content" || w == "fixed"
		})
	field("box-sizing", false, func(s *Style) *bool { return &s.BorderBox },
		func(v []Token) (func(*computing) bool, bool) {
			w := ident(v)
			return func(*computing) bool { return w == "border-box" }, w == "border-box" || w == "content-box"
		})
	field("display", false, func(s *Style) *Display { return &s.Display }, parseDisplay)
	field("position", false, func(s *Style) *Position { return &s.Position },
		func(v []Token) (func(*computing) Position, bool) {
			p, ok := map[string]Position{"static": Static, "relative": Relative, "absolute": Absolute, "fixed": Fixed,
				"sticky": Sticky, "-webkit-sticky": Sticky}[ident(v)]
			return func(*computing) Position { return p }, ok
		})
	sides := func(list map[string]int8) func(v []Token) (func(*computing) int8, bool) {
		return func(v []Token) (func(*computing) int8, bool) {
			n, ok := list[ident(v)]
			return func(*computing) int8 { return n }, ok
		}
	}
	field("float", false, func(s *Style) *int8 { return &s.Float }, sides(map[string]int8{"none": 0, "left": 1,
		"right": 2, "inline-start": 5, "inline-end": 6}))
	field("clear", false, func(s *Style) *int8 { return &s.Clear }, sides(map[string]int8{"none": 0, "left": 1,
		"right": 2, "both": 3, "inline-start": 5, "inline-end": 6}))
	field("overflow-x", false, func(s *Style) *string { return &s.OverflowX },
		overflowWord)
	field("overflow-y", false, func(s *Style) *string { return &s.OverflowY },
		overflowWord)
	field("container-type", false, func(s *Style) *string { return &s.ContainerType },
		func(v []Token) (func(*computing) string, bool) {
			kind := "normal"
			for _, w := range strings.Fields(strings.ToLower(Text(v))) {
				switch w {
				case "size", "inline-size":
					kind = w
				case "normal", "scroll-state":
				default:
					return nil, false
				}
			}
			return func(*computing) string { return kind }, len(v) > 0
		})
	field("container-name", false, func(s *Style) *[]string { return &s.ContainerName },
		func(v []Token) (func(*computing) []string, bool) {
			names := strings.Fields(Text(v))
			if ident(v) == "none" {
				names = nil
			}
			return func(*computing) []string { return names }, len(v) > 0
		})
	field("contain", false, func(s *Style) *string { return &s.Contain },
		func(v []Token) (func(*computing) string, bool) {
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
	field("zoom", false, func(s *Style) *float64 { return &s.ownZoom }, zoomFactor)
}

var displays = map[string]Display{"none": None, "contents": Contents, "block": Block, "inline": Inline,
	"flow-root": FlowRoot, "list-item": ListItem,
	"inline-block": InlineBlock, "flex": Flex, "inline-flex": InlineFlex, "grid": Grid, "inline-grid": InlineGrid,
	"table": Table, "inline-table": InlineTable,
	"table-row": TableRow, "table-row-group": TableGroup, "table-header-group": TableHeader,
	"table-footer-group": TableFooter, "table-cell": TableCell,
	"table-caption": TableCaption, "table-column": TableColumn, "table-column-group": TableColumnGroup,
	"-webkit-box": ClampBox, "-webkit-inline-box": InlineBlock,
	"flow": Block, "math": Inline, "ruby": Inline, "-webkit-flex": Flex, "-webkit-inline-flex": InlineFlex}

// inlineTwins are the displays that a box has in a line when it is said to be inline.
var inlineTwins = map[Display]Display{Block: Inline, FlowRoot: InlineBlock, Table: InlineTable, Flex: InlineFlex,
	Grid: InlineGrid, Inline: Inline}

// parseDisplay reads one word, or the roles outside and inside of a box in any order (css-display-3, section 2).
func parseDisplay(v []Token) (func(*computing) Display, bool) {
	list := strings.Fields(strings.ToLower(Text(v)))
	d, ok := Block, len(list) > 0
	if len(list) == 1 {
		d, ok = displays[list[0]]
		return func(*computing) Display { return d }, ok
	}
	outside, inside, item := "", "", false
	for _, w := range list {
		switch w {
		case "block", "inline":
			ok = ok && outside == ""
			outside = w
		case "flow", "flow-root", "table", "flex", "grid", "ruby", "math":
			ok = ok && inside == ""
			inside = w
		case "list-item":
			ok = ok && !item
			item = true
		default:
			return nil, false
		}
	}
	if inside != "" {
		d = displays[inside]
	}
	switch {
	case item:
		ok = ok && (inside == "" || inside == "flow" || inside == "flow-root")
		if d = ListItem; outside == "inline" {
			d = Inline
		}
	case outside == "inline":
		d = inlineTwins[d]
	}
	return func(*computing) Display { return d }, ok
}

func defineFlexGrid() {
	field("flex-direction", false, func(s *Style) *string { return &s.FlexDirection },
		words("row row-reverse column column-reverse"))
	field("flex-wrap", false, func(s *Style) *string { return &s.FlexWrap }, words("nowrap wrap wrap-reverse"))
	field("flex-grow", false, func(s *Style) *float64 { return &s.FlexGrow }, number(0))
	field("flex-shrink", false, func(s *Style) *float64 { return &s.FlexShrink }, number(0))
	field("flex-basis", false, func(s *Style) *Len { return &s.FlexBasis },
		lengths(exprLengthPercent, "auto content min-content max-content fit-content stretch -webkit-fill-available"))
	field("order", false, func(s *Style) *int { return &s.Order }, integer)
	field("row-gap", false, func(s *Style) *Len { return &s.RowGap }, lengths(exprLengthPercent, "normal"))
	field("column-gap", false, func(s *Style) *Len { return &s.ColGap }, lengths(exprLengthPercent, "normal"))
	for name, at := range map[string]func(s *Style) *Align{
		"align-items":     func(s *Style) *Align { return &s.AlignItems },
		"justify-items":   func(s *Style) *Align { return &s.JustifyItems },
		"align-self":      func(s *Style) *Align { return &s.AlignSelf },
		"justify-self":    func(s *Style) *Align { return &s.JustifySelf },
		"align-content":   func(s *Style) *Align { return &s.AlignContent },
		"justify-content": func(s *Style) *Align { return &s.JustifyContent },
	} {
		self := strings.HasSuffix(name, "-self")
		field(name, false, at, func(v []Token) (func(*computing) Align, bool) {
			if w := ident(v); self && w == "anchor-center" {
				return func(*computing) Align { return Align(w) }, true
			}
			return alignment(v)
		})
	}
	field("grid-template-columns", false, func(s *Style) *TrackList { return &s.GridCols }, parseTracks)
	field("grid-template-rows", false, func(s *Style) *TrackList { return &s.GridRows }, parseTracks)
	field("grid-auto-columns", false, func(s *Style) *[]Track { return &s.AutoCols }, parseAutoTracks)
	field("grid-auto-rows", false, func(s *Style) *[]Track { return &s.AutoRows }, parseAutoTracks)
	field("grid-auto-flow", false, func(s *Style) *string { return &s.AutoFlow },
		autoFlow)
	for name, at := range map[string]func(s *Style) *Line{
		"grid-column-start": func(s *Style) *Line { return &s.ColStart },
		"grid-column-end":   func(s *Style) *Line { return &s.ColEnd },
		"grid-row-start":    func(s *Style) *Line { return &s.RowStart },
		"grid-row-end":      func(s *Style) *Line { return &s.RowEnd },
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

func defineOther() {
	define("vertical-align", false, func(v []Token) (setter, bool) {
		w := ident(v)
		switch w {
		case "baseline", "sub", "super", "top", "text-top", "middle", "bottom", "text-bottom",
			"-webkit-baseline-middle":
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
	field("-webkit-line-clamp", false, func(s *Style) *int { return &s.LineClamp },
		func(v []Token) (func(*computing) int, bool) {
			if ident(v) == "none" {
				return func(*computing) int { return 0 }, true
			}
			return integer(v)
		})
	field("-webkit-box-orient", false, func(s *Style) *bool { return &s.BoxVertical },
		func(v []Token) (func(*computing) bool, bool) {
			orient, ok := words("horizontal vertical inline-axis block-axis")(v)
			return func(c *computing) bool { w := orient(c); return w == "vertical" || w == "block-axis" }, ok
		})
	for _, name := range []string{"appearance", "-webkit-appearance"} {
		define(name, false, func(v []Token) (setter, bool) {
			w := ident(v)
			return func(s *Style, _ *computing) { s.Plain, s.Control = w == "none", w != "none" }, w != ""
		}, func(dst, src *Style) { dst.Plain, dst.Control = src.Plain, src.Control })
		propertyTable[name].same = func(a, b *Style) bool { return a.Plain == b.Plain && a.Control == b.Control }
	}
	checked("object-fit", words("fill contain cover none scale-down"))
	checked("object-position", anyText)
	field("unicode-bidi", false, func(s *Style) *string { return &s.UnicodeBidi },
		words("normal embed isolate bidi-override isolate-override plaintext"))
	field("scrollbar-width", false, func(s *Style) *string { return &s.Scrollbar }, words("auto thin none"))
	field("opacity", false, func(s *Style) *float64 { return &s.Opacity }, number(0))
	for _, name := range []string{"background-color", "background-image", "background-size", "background-position-x",
		"background-position-y", "background-clip", "text-overflow", "background-blend-mode", "mix-blend-mode",
		"-webkit-text-fill-color"} {
		checked(name, anyText)
	}
	field("content-visibility", false, func(s *Style) *string { return &s.ContentVisibility },
		words("visible hidden auto"))
	field("shape-outside", false, func(s *Style) *Shape { return &s.ShapeOutside }, parseShapeOutside)
	field("shape-margin", false, func(s *Style) *Len { return &s.ShapeMargin }, lengths(exprLengthPercent, ""))
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
		list, ok := scaleList(v)
		return func(s *Style, c *computing) {
			s.Scale, s.Deep = [2]float64{1, 1}, len(list) > 2
			if s.Deep {
				n := list[2].compute(&c.unitContext)
				s.Depth = n.Px + n.Pct/100
			}
			for i := range min(2, len(list)) {
				n := list[i].compute(&c.unitContext)
				s.Scale[i] = n.Px + n.Pct/100
				if i == 0 {
					s.Scale[1] = s.Scale[0]
				}
			}
		}, ok || ident(v) == "none"
	}, func(dst, src *Style) { dst.Scale, dst.Deep, dst.Depth = src.Scale, src.Deep, src.Depth })
	define("rotate", false, func(v []Token) (setter, bool) {
		axis, a, ok := rotation(v)
		return func(s *Style, _ *computing) { s.Rotate, s.RotateAxis = a, axis }, ok || ident(v) == "none"
	}, func(dst, src *Style) { dst.Rotate, dst.RotateAxis = src.Rotate, src.RotateAxis })
	define("transform-origin", false, func(v []Token) (setter, bool) {
		var at [2]*expr
		n, turned := 0, false // turned: the vertical one stands first
		for _, t := range v {
			if t.Kind == css.WhitespaceToken {
				continue
			}
			pct, word := map[string]float64{"left": 0, "top": 0, "center": 50, "right": 100,
				"bottom": 100}[strings.ToLower(t.Text)]
			e, ok := &expr{op: '%', v: pct}, word
			if !word {
				e, ok = parseExpr([]Token{t}, exprLengthPercent)
			}
			switch {
			case !ok || n > 2 || n == 2 && word:
				return nil, false
			case n == 2: // how deep it lies
				n++
				continue
			}
			turned = turned || n == 0 && (t.Is("top") || t.Is("bottom")) || n == 1 && (t.Is("left") || t.Is("right"))
			at[n] = e
			n++
		}
		if turned {
			at[0], at[1] = at[1], at[0]
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
			makes := w != "none" && w != "auto" && (name != "will-change" || strings.Contains(w, "transform") ||
				strings.Contains(w, "filter"))
			return func(s *Style, _ *computing) { s.MakesContaining = s.MakesContaining || makes }, true
		}, func(dst, src *Style) {})
	}
}

func parseTransform(v []Token) (setter, bool) {
	if ident(v) == "none" {
		return func(s *Style, _ *computing) { s.Transform = nil }, true
	}
	type op struct {
		name string
		args []*expr
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
				o.args = append(o.args, &expr{op: 'n', v: n})
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
			t := TransformOp{Name: o.name, Len: [2]Len{Zero, Zero}}
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

// rotation reads an angle and the axis that it goes around, in either order: a letter, or three numbers.
func rotation(v []Token) (axis [3]float64, by float64, ok bool) {
	axis = [3]float64{0, 0, 1}
	n, found, named := 0, false, false
	var numbers [3]float64
	for _, part := range split(v) {
		a, is := angle(part)
		turns := is && !found && (part[0].Kind != css.NumberToken || n == 0 || n == 3)
		if turns {
			by, found = a, true
			continue
		}
		if i := strings.Index("xyz", ident(part)); i >= 0 && len(ident(part)) == 1 && !named {
			axis, named = [3]float64{}, true
			axis[i] = 1
			continue
		}
		e, is := parseExpr(part, exprNumber)
		if !is || n == 3 {
			return axis, 0, false
		}
		numbers[n] = e.compute(&unitContext{}).Px
		n++
	}
	if n == 3 && !named {
		axis = numbers
	}
	return axis, by, found && (n == 0 || n == 3 && !named)
}

// scaleList reads the factors of scale: up to three numbers or percentages.
func scaleList(v []Token) ([]*expr, bool) {
	var out []*expr
	for _, part := range split(v) {
		e, ok := parseExpr(part, exprNumber)
		if !ok {
			if e, ok = parseExpr(part, exprLengthPercent); !ok {
				return nil, false
			}
		}
		out = append(out, e)
	}
	return out, len(out) > 0 && len(out) <= 3
}

// autoFlow reads grid-auto-flow: an axis and dense, in either order.
func autoFlow(v []Token) (func(*computing) string, bool) {
	w, ok := words("row column dense row_dense column_dense dense_row dense_column")(v)
	return func(c *computing) string {
		flow := w(c)
		if axis, before := strings.CutPrefix(flow, "dense "); before {
			return axis + " dense"
		}
		return flow
	}, ok
}

// overflowWord reads overflow of one axis; overlay is an old word for auto.
func overflowWord(v []Token) (func(*computing) string, bool) {
	w, ok := words("visible hidden clip scroll auto overlay")(v)
	return func(c *computing) string {
		if o := w(c); o != "overlay" {
			return o
		}
		return "auto"
	}, ok
}

// zoomFactor reads zoom: a number, a percentage, or normal; 0 stands for 1 (css-viewport-1, section 4).
func zoomFactor(v []Token) (func(*computing) float64, bool) {
	fixed := func(z float64) (func(*computing) float64, bool) {
		if z == 1 {
			z = 0
		}
		return func(*computing) float64 { return z }, z >= 0
	}
	switch w := ident(v); w {
	case "normal", "reset":
		return fixed(1)
	}
	if len(v) == 1 && v[0].Kind == css.PercentageToken {
		z, err := strconv.ParseFloat(strings.TrimSuffix(v[0].Text, "%"), 64)
		f, ok := fixed(z / 100)
		return f, ok && err == nil
	}
	f, ok := number(0)(v)
	if !ok {
		return nil, false
	}
	z := f(&computing{})
	return fixed(z)
}
