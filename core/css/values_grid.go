package css

import (
	"slices"
	"strconv"
	"strings"

	"github.com/tdewolff/parse/v2/css"
)

// trackExpr is an uncomputed track list item.
type trackExpr struct {
	names  []string
	min    func(*computing) Len
	max    func(*computing) Len
	repeat int
	inner  []trackExpr
	tail   []string
}

func parseTracks(v []Token) (func(*computing) TrackList, bool) {
	if ident(v) == "none" {
		return func(*computing) TrackList { return TrackList{} }, true
	}
	if len(v) > 0 && v[0].Is("subgrid") {
		list := TrackList{Subgrid: true}
		ok := parseLineNames(v[1:], &list)
		return func(*computing) TrackList { return list }, ok
	}
	items, tail, ok := parseTrackItems(v)
	if !ok || len(items) == 0 || !fixedOnly(items) {
		return nil, false
	}
	compute := func(c *computing) TrackList { return TrackList{Items: computeTracks(items, c), Names: tail} }
	uses := unitsIn(v)
	if uses&unitsOfFace != 0 {
		return compute, true
	}
	m := memo[TrackList]{uses: uses}
	return func(c *computing) TrackList { return m.get(&c.unitContext, func() TrackList { return compute(c) }) }, true
}

// parseLineNames reads the name list of a subgrid: one set of names for each line (css-grid-2, "Line Name List").
func parseLineNames(v []Token, out *TrackList) bool {
	for i := 0; i < len(v); {
		end := endOfValue(v, i)
		switch t := v[i]; {
		case t.Kind == css.WhitespaceToken:
		case t.Kind == css.LeftBracketToken:
			out.LineNames = append(out.LineNames, strings.Fields(Text(inside(v, i, end))))
		case t.Is("repeat("):
			parts := SplitCommas(inside(v, i, end))
			var inner TrackList
			if len(parts) != 2 || !parseLineNames(parts[1], &inner) || inner.FillNames != nil {
				return false
			}
			if ident(trim(parts[0])) == "auto-fill" {
				if out.FillNames != nil || len(inner.LineNames) == 0 {
					return false
				}
				out.FillNames, out.FillAt = inner.LineNames, len(out.LineNames)
				break
			}
			n, err := strconv.Atoi(Text(trim(parts[0])))
			if err != nil || n < 1 {
				return false
			}
			for range min(n, 1000) {
				out.LineNames = append(out.LineNames, inner.LineNames...)
			}
		default:
			return false
		}
		i = end
	}
	return true
}

// NamesOf gives the names of the lines of a subgrid that has so many.
func (l *TrackList) NamesOf(lines int) [][]string {
	if l.FillNames == nil {
		return l.LineNames
	}
	out := slices.Clone(l.LineNames[:l.FillAt])
	for left := lines - len(l.LineNames); left >= len(l.FillNames); left -= len(l.FillNames) {
		out = append(out, l.FillNames...)
	}
	return append(out, l.LineNames[l.FillAt:]...)
}

// fixedOnly reports whether all tracks beside an auto-fill or auto-fit have a fixed size, as CSS Grid asks for.
func fixedOnly(items []trackExpr) bool {
	c := &computing{}
	c.fontSize, c.rootSize = 16, 16
	fixed := func(t trackExpr) bool {
		lo, hi := t.min(c), t.max(c)
		return lo.Kind == LenPx && hi.Kind != LenFitContent || hi.Kind == LenPx
	}
	auto := 0
	for _, it := range items {
		if it.repeat != 0 {
			auto++
		}
	}
	for _, it := range items {
		switch {
		case auto == 0:
		case it.repeat != 0:
			for _, in := range it.inner {
				if !fixed(in) {
					return false
				}
			}
		case !fixed(it):
			return false
		}
	}
	return auto < 2
}

func computeTracks(items []trackExpr, c *computing) []TrackItem {
	out := make([]TrackItem, 0, len(items))
	for _, it := range items {
		t := TrackItem{Names: it.names, Repeat: it.repeat, Tail: it.tail}
		if it.inner != nil {
			t.Tracks = computeTracks(it.inner, c)
		} else {
			t.Track = Track{Min: it.min(c), Max: it.max(c)}
		}
		out = append(out, t)
	}
	return out
}

// parseTrackItems reads names, track sizes and repeats; an integer repeat is expanded at once.
func parseTrackItems(v []Token) (items []trackExpr, tail []string, ok bool) {
	var names []string
	for i := 0; i < len(v); {
		t := v[i]
		switch {
		case t.Kind == css.WhitespaceToken:
			i++
		case t.Kind == css.LeftBracketToken:
			i++
			for ; i < len(v) && v[i].Kind != css.RightBracketToken; i++ {
				if v[i].Kind == css.IdentToken {
					names = append(names, v[i].Text)
				}
			}
			i++
		default:
			end := endOfValue(v, i)
			if t.Kind == css.FunctionToken && t.Is("repeat(") {
				inner, innerTail, count, ok := parseRepeat(inside(v, i, end))
				if !ok {
					return nil, nil, false
				}
				if count > 0 {
					for range count {
						for k, in := range inner {
							in.names = append(append([]string(nil), names...), in.names...)
							names = nil
							items = append(items, in)
							if k == len(inner)-1 {
								names = append(names, innerTail...)
							}
						}
					}
				} else {
					items = append(items, trackExpr{names: names, repeat: count, inner: inner, tail: innerTail})
					names = nil
				}
			} else {
				lo, hi, ok := parseTrackSize(v[i:end])
				if !ok {
					return nil, nil, false
				}
				items = append(items, trackExpr{names: names, min: lo, max: hi})
				names = nil
			}
			i = end
		}
	}
	return items, names, true
}

func parseRepeat(v []Token) (inner []trackExpr, tail []string, count int, ok bool) {
	parts := SplitCommas(v)
	if len(parts) < 2 {
		return nil, nil, 0, false
	}
	switch strings.ToLower(Text(parts[0])) {
	case "auto-fill":
		count = AutoFill
	case "auto-fit":
		count = AutoFit
	default:
		n, err := strconv.Atoi(Text(parts[0]))
		if err != nil {
			e, ok := parseExpr(parts[0], exprNumber)
			if !ok {
				return nil, nil, 0, false
			}
			n = int(e.compute(&unitContext{}).Px + .5)
		}
		if n < 1 {
			return nil, nil, 0, false
		}
		count = min(n, mostLines)
	}
	comma := 0
	for depth := 0; comma < len(v); comma++ {
		switch v[comma].Kind {
		case css.FunctionToken:
			depth++
		case css.RightParenthesisToken:
			depth--
		}
		if depth == 0 && v[comma].Kind == css.CommaToken {
			break
		}
	}
	inner, tail, ok = parseTrackItems(v[comma+1:])
	return inner, tail, count, ok && len(inner) > 0
}

func parseTrackSize(v []Token) (lo, hi func(*computing) Len, ok bool) {
	if v[0].Kind == css.FunctionToken && v[0].Is("minmax(") {
		parts := SplitCommas(inside(v, 0, len(v)))
		if len(parts) != 2 {
			return nil, nil, false
		}
		lo, ok1 := breadth(parts[0])
		hi, ok2 := breadth(parts[1])
		return lo, hi, ok1 && ok2
	}
	if v[0].Kind == css.FunctionToken && v[0].Is("fit-content(") {
		hi, ok := lengths(exprLengthPercent, "fit-content")(v)
		return func(*computing) Len { return Len{} }, hi, ok
	}
	b, ok := breadth(v)
	return b, b, ok
}

func breadth(v []Token) (func(*computing) Len, bool) {
	if len(v) == 1 && v[0].Kind == css.DimensionToken && strings.HasSuffix(strings.ToLower(v[0].Text), "fr") {
		n, err := strconv.ParseFloat(v[0].Text[:len(v[0].Text)-2], 64)
		return func(*computing) Len { return Len{Kind: LenFr, Px: n} }, err == nil && n >= 0
	}
	return lengths(exprLengthPercent, "auto min-content max-content")(v)
}

func parseAutoTracks(v []Token) (func(*computing) []Track, bool) {
	items, _, ok := parseTrackItems(v)
	if !ok || len(items) == 0 {
		return nil, false
	}
	return func(c *computing) []Track {
		var out []Track
		for _, it := range computeTracks(items, c) {
			out = append(out, it.Track)
		}
		return out
	}, true
}

func parseLine(v []Token) (func(*computing) Line, bool) {
	var l Line
	span, seen := false, false
	for _, w := range strings.Fields(Text(v)) {
		if strings.EqualFold(w, "auto") {
			l.Auto = true
		} else if strings.EqualFold(w, "span") {
			span = true
		} else if n, err := strconv.Atoi(w); err == nil {
			l.N = n
			seen = true
		} else {
			l.Name = w
		}
	}
	l.N = max(-mostLines, min(l.N, mostLines))
	if span {
		l.Span = max(1, l.N)
		l.N = 0
	} else if seen && l.N == 0 {
		return nil, false
	}
	return func(*computing) Line { return l }, len(v) > 0
}

func parseAreas(v []Token) (areas map[string]Area, rows, cols int, ok bool) {
	if ident(v) == "none" {
		return nil, 0, 0, true
	}
	areas = map[string]Area{}
	for _, t := range v {
		if t.Kind == css.WhitespaceToken {
			continue
		}
		if t.Kind != css.StringToken {
			return nil, 0, 0, false
		}
		rows++
		cells := strings.Fields(unquote(t.Text))
		cols = max(cols, len(cells))
		for c, name := range cells {
			if strings.Trim(name, ".") == "" {
				continue
			}
			a, seen := areas[name]
			if !seen {
				a = Area{Row: rows, Col: c + 1}
			}
			a.RowEnd, a.ColEnd = max(a.RowEnd, rows+1), max(a.ColEnd, c+2)
			areas[name] = a
		}
	}
	return areas, rows, cols, rows > 0
}
