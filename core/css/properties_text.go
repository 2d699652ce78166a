package css

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"github.com/tdewolff/parse/v2/css"
)

func defineText() {
	field("font-family", true, func(s *Style) *[]string { return &s.Inherited.FontFamily },
		func(v []Token) (func(*computing) []string, bool) {
			var out []string
			for _, part := range SplitCommas(v) {
				name := unquote(Text(part))
				if name == "" {
					return nil, false
				}
				out = append(out, name)
			}
			return func(*computing) []string { return out }, true
		})
	define("font-size", true, parseFontSize, func(dst, src *Style) {
		dst.Inherited.FontSize, dst.Inherited.sizeFrom = src.FontSize, src.sizeFrom
	})
	propertyTable["font-size"].same = func(a, b *Style) bool {
		return a.FontSize == b.FontSize &&
			a.sizeFrom == b.sizeFrom
	}
	field("font-weight", true, func(s *Style) *float64 { return &s.Inherited.FontWeight },
		func(v []Token) (func(*computing) float64, bool) {
			switch w := ident(v); w {
			case "normal":
				return func(*computing) float64 { return 400 }, true
			case "bold":
				return func(*computing) float64 { return 700 }, true
			case "bolder", "lighter":
				return func(c *computing) float64 { return relativeWeight(c.parent.FontWeight, w == "bolder") }, true
			}
			return number(1)(v)
		})
	field("font-stretch", true, func(s *Style) *float64 { return &s.Inherited.FontStretch },
		func(v []Token) (func(*computing) float64, bool) {
			if n, ok := stretchWords[ident(v)]; ok {
				return func(*computing) float64 { return n }, true
			}
			e, ok := parseExpr(v, exprAny)
			return func(c *computing) float64 { return e.compute(&c.unitContext).Pct }, ok && e.op == '%'
		})
	define("font-style", true, func(v []Token) (setter, bool) {
		words := split(v)
		w, deg := "", 0.0
		if len(words) > 0 {
			w = ident(words[0])
		}
		if w == "oblique" {
			deg = 14
			if len(words) == 2 {
				a, ok := angle(words[1])
				if !ok {
					return nil, false
				}
				deg = a * 180 / math.Pi
			}
		}
		return func(s *Style, _ *computing) { s.Inherited.Italic, s.Inherited.Slant = w != "normal", deg },
			(len(words) == 1 || w == "oblique" && len(words) == 2) &&
				(w == "normal" || w == "italic" || w == "oblique")
	}, func(dst, src *Style) { dst.Inherited.Italic, dst.Inherited.Slant = src.Italic, src.Slant })
	field("font-optical-sizing", true, func(s *Style) *bool { return &s.Inherited.NoOptical },
		func(v []Token) (func(*computing) bool, bool) {
			w := ident(v)
			return func(*computing) bool { return w == "none" }, w == "none" || w == "auto"
		})
	field("font-size-adjust", true, func(s *Style) *SizeAdjust { return &s.Inherited.SizeAdjust }, parseSizeAdjust)
	field("font-kerning", true, func(s *Style) *bool { return &s.Inherited.NoKerning },
		func(v []Token) (func(*computing) bool, bool) {
			w := ident(v)
			return func(*computing) bool { return w == "none" }, w == "none" || w == "auto" || w == "normal"
		})
	field("font-variant-ligatures", true, func(s *Style) *bool { return &s.Inherited.NoLigatures },
		func(v []Token) (func(*computing) bool, bool) {
			w := strings.ToLower(Text(v))
			return func(*computing) bool { return w == "none" || strings.Contains(w, "no-common-ligatures") }, w != ""
		})
	field("font-variant-numeric", true, func(s *Style) *map[string]uint32 { return &s.Inherited.Numeric },
		func(v []Token) (func(*computing) map[string]uint32, bool) {
			tags := map[string]string{"tabular-nums": "tnum", "lining-nums": "lnum", "oldstyle-nums": "onum",
				"proportional-nums": "pnum", "slashed-zero": "zero",
				"diagonal-fractions": "frac", "stacked-fractions": "afrc", "ordinal": "ordn", "normal": ""}
			out := map[string]uint32{}
			for _, w := range strings.Fields(strings.ToLower(Text(v))) {
				tag, ok := tags[w]
				if !ok {
					return nil, false
				}
				if tag != "" {
					out[tag] = 1
				}
			}
			return func(*computing) map[string]uint32 { return out }, true
		})
	field("line-height", true, func(s *Style) *LineHeight { return &s.Inherited.LineHeight }, parseLineHeight)
	spacing := func(v []Token) (func(*computing) float64, bool) {
		if ident(v) == "normal" {
			return func(*computing) float64 { return 0 }, true
		}
		e, ok := parseExpr(v, exprLengthPercent)
		return func(c *computing) float64 {
			l := e.compute(&c.unitContext)
			return l.Px + l.Pct/100*c.fontSize
		}, ok
	}
	field("letter-spacing", true, func(s *Style) *float64 { return &s.Inherited.LetterSpacing }, spacing)
	field("word-spacing", true, func(s *Style) *float64 { return &s.Inherited.WordSpacing }, spacing)
	field("text-align", true, func(s *Style) *string { return &s.Inherited.TextAlign }, textAlign)
	field("text-align-last", true, func(s *Style) *string { return &s.Inherited.TextAlignLast },
		words("auto start end left right center justify"))
	field("text-transform", true, func(s *Style) *string { return &s.Inherited.TextTransform },
		words("none uppercase lowercase capitalize full-width"))
	field("font-variant-caps", true, func(s *Style) *string { return &s.Inherited.Caps },
		words("normal small-caps all-small-caps petite-caps all-petite-caps unicase titling-caps"))
	field("font-synthesis-small-caps", true, func(s *Style) *bool { return &s.Inherited.NoSmallCaps },
		func(v []Token) (func(*computing) bool, bool) { // font-synthesis gives it the whole list of what is allowed
			list := strings.Fields(strings.ToLower(Text(v)))
			none := !slices.Contains(list, "auto") && !slices.Contains(list, "small-caps")
			return func(*computing) bool { return none }, len(list) > 0
		})
	field("text-box-edge", true, func(s *Style) *string { return &s.Inherited.TextEdges },
		words("auto text cap ex text_text text_alphabetic cap_text cap_alphabetic ex_text ex_alphabetic"))
	field("text-box-trim", false, func(s *Style) *string { return &s.TextTrim },
		words("none trim-start trim-end trim-both"))
	field("text-indent", true, func(s *Style) *Indent { return &s.Inherited.TextIndent }, parseIndent)
	field("white-space-collapse", true, func(s *Style) *string { return &s.Inherited.Collapse },
		words("collapse preserve preserve-breaks break-spaces preserve-spaces"))
	field("text-wrap-mode", true, func(s *Style) *bool { return &s.Inherited.NoWrap },
		func(v []Token) (func(*computing) bool, bool) {
			w := ident(v)
			return func(*computing) bool { return w == "nowrap" }, w == "nowrap" || w == "wrap"
		})
	field("text-wrap-style", true, func(s *Style) *string { return &s.Inherited.WrapStyle },
		words("auto balance pretty stable"))
	field("overflow-wrap", true, func(s *Style) *string { return &s.Inherited.OverflowWrap },
		words("normal break-word anywhere"))
	field("word-break", true, func(s *Style) *string { return &s.Inherited.WordBreak },
		words("normal break-all keep-all break-word auto-phrase"))
	field("line-break", true, func(s *Style) *string { return &s.Inherited.LineBreak },
		words("auto loose normal strict anywhere"))
	field("hyphenate-character", true, func(s *Style) *string { return &s.Inherited.Hyphen },
		func(v []Token) (func(*computing) string, bool) {
			text := ""
			if len(v) == 1 && v[0].Kind == css.StringToken {
				text = Unquote(v[0].Text)
			}
			return func(*computing) string { return text }, text != "" || ident(v) == "auto"
		})
	field("hyphens", true, func(s *Style) *string { return &s.Inherited.Hyphens }, words("none manual auto"))
	field("list-style-type", true, func(s *Style) *string { return &s.Inherited.ListStyleType }, anyText)
	field("list-style-image", true, func(s *Style) *string { return &s.Inherited.ListImage },
		func(v []Token) (func(*computing) string, bool) {
			src, ok := Address(v)
			return func(*computing) string { return src }, ok || len(v) > 0
		})
	field("list-style-position", true, func(s *Style) *bool { return &s.Inherited.ListInside },
		func(v []Token) (func(*computing) bool, bool) {
			w := ident(v)
			return func(*computing) bool { return w == "inside" }, w == "inside" || w == "outside"
		})
	define("visibility", true, func(v []Token) (setter, bool) {
		w := ident(v)
		return func(s *Style, _ *computing) {
			s.Inherited.Visible, s.Inherited.Gone = w == "visible", w == "collapse"
		}, w == "visible" || w == "hidden" || w == "collapse"
	}, func(dst, src *Style) {
		dst.Inherited.Visible, dst.Inherited.Gone = src.Inherited.Visible, src.Inherited.Gone
	})
	defineTables()
	defineColumns()
	for _, name := range []string{"writing-mode", "-webkit-writing-mode"} {
		field(name, true, func(s *Style) *Mode { return &s.Inherited.Mode },
			func(v []Token) (func(*computing) Mode, bool) {
				m, ok := modes[ident(v)]
				return func(*computing) Mode { return m }, ok
			})
	}
	field("direction", true, func(s *Style) *bool { return &s.Inherited.RTL },
		func(v []Token) (func(*computing) bool, bool) {
			w := ident(v)
			return func(*computing) bool { return w == "rtl" }, w == "ltr" || w == "rtl"
		})
	define("tab-size", true, func(v []Token) (setter, bool) {
		e, ok := parseExpr(v, exprAny)
		if !ok || e.dimension() == '%' {
			return nil, false
		}
		return func(s *Style, c *computing) {
			s.Inherited.TabSize = e.compute(&c.unitContext)
			s.Inherited.TabLength = s.Inherited.TabSize.Kind == LenPx
		}, true
	}, func(dst, src *Style) { dst.Inherited.TabSize, dst.Inherited.TabLength = src.TabSize, src.TabLength })
	checked("color", anyText)
	field("font-feature-settings", true, func(s *Style) *map[string]uint32 { return &s.Inherited.Features },
		func(v []Token) (func(*computing) map[string]uint32, bool) {
			out := map[string]uint32{}
			if ident(v) != "normal" {
				for _, part := range SplitCommas(v) {
					f := strings.Fields(Text(part))
					if len(f) == 0 || len(unquote(f[0])) != 4 {
						return nil, false
					}
					out[unquote(f[0])] = 1
					if len(f) > 1 && f[1] != "on" {
						n, _ := strconv.Atoi(f[1])
						out[unquote(f[0])] = uint32(n)
					}
				}
			}
			return func(*computing) map[string]uint32 { return out }, true
		})
	field("font-variation-settings", true, func(s *Style) *map[string]float32 { return &s.Inherited.Variations },
		func(v []Token) (func(*computing) map[string]float32, bool) {
			out := map[string]float32{}
			if ident(v) != "normal" {
				for _, part := range SplitCommas(v) {
					f := strings.Fields(Text(part))
					if len(f) != 2 {
						return nil, false
					}
					n, err := strconv.ParseFloat(f[1], 32)
					if err != nil {
						return nil, false
					}
					out[unquote(f[0])] = float32(n)
				}
			}
			return func(*computing) map[string]float32 { return out }, true
		})
}

func relativeWeight(parent float64, bolder bool) float64 {
	steps := []struct{ below, bolder, lighter float64 }{{350, 400, 100}, {550, 700, 100}, {750, 900, 400},
		{900, 900, 700}, {math.Inf(1), 900, 700}}
	for _, s := range steps {
		if parent < s.below {
			if bolder {
				return s.bolder
			}
			return s.lighter
		}
	}
	return parent
}

func parseFontSize(v []Token) (setter, bool) {
	w := ident(v)
	if k, ok := sizeWords[w]; ok {
		return func(s *Style, c *computing) {
			s.Inherited.FontSize, s.Inherited.sizeFrom = c.px(keywordSizes[0][k]), fromKeyword+sizeFrom(k)
		}, true
	}
	share := func(s *Style, c *computing, size float64) {
		s.Inherited.FontSize, s.Inherited.sizeFrom = max(0, size), fromShare
		if c.parent.sizeFrom == fromLength {
			s.Inherited.sizeFrom = fromLength
		}
	}
	switch w {
	case "smaller":
		return func(s *Style, c *computing) { share(s, c, c.parent.FontSize/1.2) }, true
	case "larger":
		return func(s *Style, c *computing) { share(s, c, c.parent.FontSize*1.2) }, true
	}
	e, ok := parseExpr(v, exprLengthPercent)
	relative := len(v) == 1 && (v[0].Kind == css.PercentageToken || v[0].Kind == css.DimensionToken &&
		strings.HasSuffix(strings.ToLower(v[0].Text), "em") && !strings.HasSuffix(strings.ToLower(v[0].Text), "rem"))
	return func(s *Style, c *computing) {
		l := e.compute(&c.unitContext)
		size := float64(float32(l.Px + l.Pct/100*c.parent.FontSize))
		if l.Tree != nil {
			size = float64(l.float(float32(c.parent.FontSize)))
		}
		if relative {
			share(s, c, size)
			return
		}
		s.Inherited.FontSize, s.Inherited.sizeFrom = max(0, size), fromLength
	}, ok
}

func parseLineHeight(v []Token) (func(*computing) LineHeight, bool) {
	if ident(v) == "normal" {
		return func(*computing) LineHeight { return LineHeight{Normal: true} }, true
	}
	e, ok := parseExpr(v, exprAny)
	if !ok {
		return nil, false
	}
	return func(c *computing) LineHeight {
		l := e.compute(&c.unitContext)
		switch {
		case l.Kind == LenNumber:
			return LineHeight{Number: l.Px}
		case e.op == '%': // a percentage loses its fraction (measured)
			return LineHeight{Length: true, Px: math.Trunc(l.Pct) / 100 * c.fontSize}
		}
		return LineHeight{Length: true, Px: l.Px + l.Pct/100*c.fontSize}
	}, true
}

// parseIndent reads a length with hanging and each-line, in any order.
func parseIndent(v []Token) (func(*computing) Indent, bool) {
	var rest []Token
	var in Indent
	for _, t := range v {
		switch {
		case t.Is("hanging"):
			in.Hanging = true
		case t.Is("each-line"):
			in.Each = true
		default:
			rest = append(rest, t)
		}
	}
	length, ok := lengths(exprLengthPercent, "")(trim(rest))
	return func(c *computing) Indent {
		out := in
		out.Len = length(c)
		return out
	}, ok
}

// parseSizeAdjust reads font-size-adjust.
func parseSizeAdjust(v []Token) (func(*computing) SizeAdjust, bool) {
	a := SizeAdjust{Of: "ex-height"}
	if ident(v) == "none" {
		return func(*computing) SizeAdjust { return SizeAdjust{} }, true
	}
	for _, of := range []string{"ex-height", "cap-height", "ch-width", "ic-width", "ic-height"} {
		if len(v) > 0 && v[0].Is(of) {
			a.Of, v = of, trim(v[1:])
			break
		}
	}
	if ident(v) == "from-font" {
		a.FromFont = true
		return func(*computing) SizeAdjust { return a }, true
	}
	n, ok := number(0)(v)
	if !ok {
		return nil, false
	}
	return func(c *computing) SizeAdjust {
		a.To = n(c)
		return a
	}, true
}
