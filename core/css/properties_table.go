package css

import (
	"math"
	"strconv"
)

// defineTables defines what is for tables alone (CSS Tables 3).
func defineTables() {
	field("border-collapse", true, func(s *Style) *bool { return &s.Inherited.Joined },
		func(v []Token) (func(*computing) bool, bool) {
			w := ident(v)
			return func(*computing) bool { return w == "collapse" }, w == "collapse" || w == "separate"
		})
	define("border-spacing", true, func(v []Token) (setter, bool) {
		list, ok := lengthList(v, 1, 2)
		for _, x := range list {
			ok = ok && x.dimension() != '%'
		}
		return func(s *Style, c *computing) {
			for i := range s.Inherited.Spacing {
				// whole device pixels (measured)
				s.Inherited.Spacing[i] = max(0, math.Trunc(list[min(i, len(list)-1)].compute(&c.unitContext).Px))
			}
		}, ok
	}, func(dst, src *Style) { dst.Inherited.Spacing = src.Inherited.Spacing })
	field("caption-side", true, func(s *Style) *bool { return &s.Inherited.CaptionBelow },
		func(v []Token) (func(*computing) bool, bool) {
			w := ident(v)
			return func(*computing) bool { return w == "bottom" }, w == "bottom" || w == "top"
		})
	field("table-layout", false, func(s *Style) *bool { return &s.FixedTable },
		func(v []Token) (func(*computing) bool, bool) {
			w := ident(v)
			return func(*computing) bool { return w == "fixed" }, w == "fixed" || w == "auto"
		})
}

// defineColumns defines what css-multicol-1 and css-break-3 say of columns.
func defineColumns() {
	field(
		"column-count",
		false,
		func(s *Style) *int { return &s.ColumnCount },
		func(v []Token) (func(*computing) int, bool) {
			if ident(v) == "auto" {
				return func(*computing) int { return 0 }, true
			}
			n, err := strconv.Atoi(Text(v))
			return func(*computing) int { return min(n, mostLines) }, err == nil && n > 0
		},
	)
	field("column-width", false, func(s *Style) *Len { return &s.ColumnWidth }, lengths(exprLength, "auto"))
	choice := func(name, first, second string, at func(s *Style) *bool) {
		field(name, false, at, func(v []Token) (func(*computing) bool, bool) {
			w := ident(v)
			return func(*computing) bool { return w == second }, w == first || w == second
		})
	}
	choice("column-fill", "balance", "auto", func(s *Style) *bool { return &s.ColumnFill })
	choice("column-span", "none", "all", func(s *Style) *bool { return &s.ColumnSpan })
	breaks := func(v []Token) (func(*computing) string, bool) {
		w, out := ident(v), ""
		switch w {
		case "avoid", "avoid-column":
			out = "avoid"
		case "column", "always", "all":
			out = "column"
		}
		return func(*computing) string { return out }, w != ""
	}
	field("break-before", false, func(s *Style) *string { return &s.BreakBefore }, breaks)
	field("break-after", false, func(s *Style) *string { return &s.BreakAfter }, breaks)
	field("break-inside", false, func(s *Style) *string { return &s.BreakInside }, breaks)
	lines := func(v []Token) (func(*computing) int, bool) {
		n, err := strconv.Atoi(Text(v))
		return func(*computing) int { return n }, err == nil && n > 0
	}
	field("orphans", true, func(s *Style) *int { return &s.Inherited.Orphans }, lines)
	field("widows", true, func(s *Style) *int { return &s.Inherited.Widows }, lines)
}

// textAlign reads text-align. -internal-center is what browsers say of a th: in the middle, unless what it stands in
// says another than the initial alignment (HTML, 15.3.9).
func textAlign(v []Token) (func(*computing) string, bool) {
	compute, ok := words("start end left right center justify match-parent -webkit-center -webkit-left " +
		"-webkit-right -internal-center")(v)
	if !ok || ident(v) != "-internal-center" {
		return compute, ok
	}
	return func(c *computing) string {
		if c.parent == nil || c.parent.TextAlign == "start" {
			return "center"
		}
		return c.parent.TextAlign
	}, true
}
