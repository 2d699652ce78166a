package css

import (
	"strings"

	"github.com/tdewolff/parse/v2/css"

	"ziegel/core/css/grammar"
)

// unmodelledShape reports a value of shape-outside that is no shape in our layout: a box alone (it has the curves of
// its corners), corners that are round, paths and pictures.
func unmodelledShape(v string) bool {
	if v == "none" {
		return false
	}
	for _, f := range strings.FieldsFunc(v, func(r rune) bool { return r == ' ' || r == ')' }) {
		name, _, call := strings.Cut(f, "(")
		switch {
		case call && basicShapes[name]:
			return strings.Contains(v, " round ")
		case call:
			return grammar.Valid("shape-outside", v) // else nobody knows it
		}
	}
	return true
}

var basicShapes = map[string]bool{"circle": true, "ellipse": true, "inset": true, "polygon": true}

// parseShapeOutside reads shape-outside. What is reported gives no shape.
func parseShapeOutside(v []Token) (func(*computing) Shape, bool) {
	none := func(*computing) Shape { return Shape{} }
	box, fn := "margin-box", []Token(nil)
	for _, part := range split(v) {
		if w := ident(part); w != "" {
			box = w
		} else {
			fn = part
		}
	}
	if fn = trim(fn); len(fn) == 0 || fn[0].Kind != css.FunctionToken || unmodelledShape(strings.ToLower(Text(v))) {
		return none, true
	}
	name, args, ok := strings.ToLower(strings.TrimSuffix(fn[0].Text, "(")), inside(fn, 0, len(fn)), true
	var read func(*computing, *Shape)
	switch name {
	case "circle", "ellipse":
		read, ok = parseRound(name, args)
	case "inset":
		read, ok = parseInset(args)
	case "polygon":
		read, ok = parsePolygon(args)
	default:
		return nil, false
	}
	return func(c *computing) Shape {
		s := Shape{Name: name, Box: box}
		read(c, &s)
		return s
	}, ok
}

func shapeLen(c *computing, e *expr) Len {
	l := e.compute(&c.unitContext)
	l.Kind = LenPx
	return l
}

func parseRound(name string, args []Token) (func(*computing, *Shape), bool) {
	type radius struct {
		word string
		e    *expr
	}
	most := map[string]int{"circle": 1, "ellipse": 2}[name]
	radii := []radius{{"closest-side", nil}, {"closest-side", nil}}
	at := func(*computing) [2]Len { return [2]Len{{Kind: LenPx, Pct: 50}, {Kind: LenPx, Pct: 50}} }
	n := 0
	parts := split(args)
	for i, part := range parts {
		w := ident(part)
		if w == "at" {
			ok := false
			if at, ok = shapePosition(parts[i+1:]); !ok {
				return nil, false
			}
			break
		}
		if n == most {
			return nil, false
		}
		if radii[n].word = w; w == "" {
			e, ok := parseExpr(part, exprLengthPercent)
			if !ok {
				return nil, false
			}
			radii[n].e = e
		}
		n++
	}
	return func(c *computing, s *Shape) {
		for i, r := range radii {
			s.Radii[i] = ShapeRadius{Word: r.word}
			if r.e != nil {
				s.Radii[i].Len = shapeLen(c, r.e)
			}
		}
		s.Center = at(c)
	}, true
}

// shapePosition reads a position (css-values-4, section 9): one word or length, two, or two words with lengths.
func shapePosition(parts [][]Token) (func(*computing) [2]Len, bool) {
	share := map[string]float64{"left": 0, "top": 0, "center": 50, "right": 100, "bottom": 100}
	type place struct {
		word string
		e    *expr
	}
	var list []place
	for i, part := range parts {
		w := ident(part)
		if _, known := share[w]; known {
			list = append(list, place{word: w})
			continue
		}
		e, ok := parseExpr(part, exprLengthPercent)
		if !ok {
			return nil, false
		}
		if len(parts) > 2 && i > 0 && list[len(list)-1].e == nil {
			list[len(list)-1].e = e // from that side
			continue
		}
		list = append(list, place{e: e})
	}
	if len(list) == 0 || len(list) > 2 {
		return nil, false
	}
	if len(list) == 1 {
		list = append(list, place{word: "center"})
	}
	vertical := func(p place) bool { return p.word == "top" || p.word == "bottom" }
	if vertical(list[0]) || list[1].word == "left" || list[1].word == "right" {
		list[0], list[1] = list[1], list[0]
	}
	return func(c *computing) (out [2]Len) {
		for i, p := range list {
			switch {
			case p.e == nil:
				out[i] = Len{Kind: LenPx, Pct: share[p.word]}
			case p.word == "right" || p.word == "bottom":
				out[i] = addLen(Len{Kind: LenPx, Pct: 100}, shapeLen(c, p.e).scale(-1))
			default:
				out[i] = shapeLen(c, p.e)
			}
		}
		return out
	}, true
}

func parseInset(args []Token) (func(*computing, *Shape), bool) {
	list, ok := lengthList(args, 1, 4)
	if !ok {
		return nil, false
	}
	pick := [][4]int{{0, 0, 0, 0}, {0, 1, 0, 1}, {0, 1, 2, 1}, {0, 1, 2, 3}}[len(list)-1]
	return func(c *computing, s *Shape) {
		for side, i := range pick {
			s.Sides[side] = shapeLen(c, list[i])
		}
	}, true
}

func parsePolygon(args []Token) (func(*computing, *Shape), bool) {
	var points [][]*expr
	for i, corner := range SplitCommas(args) {
		if w := ident(trim(corner)); i == 0 && (w == "evenodd" || w == "nonzero") {
			continue
		}
		list, ok := lengthList(corner, 2, 2)
		if !ok {
			return nil, false
		}
		points = append(points, list)
	}
	return func(c *computing, s *Shape) {
		for _, p := range points {
			s.Points = append(s.Points, [2]Len{shapeLen(c, p[0]), shapeLen(c, p[1])})
		}
	}, len(points) > 0
}
