package css

import "github.com/tdewolff/parse/v2/css"

// Shorthands of grids.

func init() {
	for name, f := range map[string]func(v []Token) ([]longhand, bool){
		"grid":          expandGrid,
		"grid-area":     expandArea,
		"grid-column":   expandLines("grid-column"),
		"grid-row":      expandLines("grid-row"),
		"grid-template": expandTemplate,
	} {
		shorthands[name] = f
	}
}

func expandLines(axis string) func(v []Token) ([]longhand, bool) {
	return func(v []Token) ([]longhand, bool) {
		p := slashed(v, 2)
		if p[1] == nil {
			p[1] = sameIfName(p[0])
		}
		return []longhand{{axis + "-start", p[0]}, {axis + "-end", p[1]}}, len(p[0]) > 0
	}
}

// sameIfName is the value of an omitted end line: the same name for a name, else auto.
func sameIfName(v []Token) []Token {
	if w := ident(v); w != "" && w != "auto" {
		return v
	}
	return word("auto")
}

func expandArea(v []Token) ([]longhand, bool) {
	p := slashed(v, 4)
	if p[1] == nil {
		p[1] = sameIfName(p[0])
	}
	if p[2] == nil {
		p[2] = sameIfName(p[0])
	}
	if p[3] == nil {
		p[3] = sameIfName(p[1])
	}
	return []longhand{{"grid-row-start", p[0]}, {"grid-column-start", p[1]}, {"grid-row-end", p[2]},
		{"grid-column-end", p[3]}}, len(p[0]) > 0
}

func expandTemplate(v []Token) ([]longhand, bool) {
	p := slashed(v, 2)
	hasArea := false
	for _, t := range p[0] {
		hasArea = hasArea || t.Kind == css.StringToken
	}
	cols := p[1]
	if cols == nil {
		cols = word("none")
	}
	if !hasArea {
		if p[1] == nil {
			return []longhand{{"grid-template-rows", word("none")}, {"grid-template-columns", word("none")},
				{"grid-template-areas", word("none")}}, ident(v) == "none"
		}
		return []longhand{{"grid-template-rows", p[0]}, {"grid-template-columns", cols},
			{"grid-template-areas", word("none")}}, true
	}
	var areas, rows []Token
	space := Token{Kind: css.WhitespaceToken, Text: " "}
	pieces := split(p[0])
	for i, x := range pieces {
		if x[0].Kind != css.StringToken {
			rows = append(append(rows, x...), space)
			continue
		}
		areas = append(areas, x[0], space)
		if i+1 == len(pieces) || pieces[i+1][0].Kind == css.StringToken ||
			pieces[i+1][0].Kind == css.LeftBracketToken {
			rows = append(rows, Token{Kind: css.IdentToken, Text: "auto"}, space)
		}
	}
	return []longhand{{"grid-template-rows", trim(rows)}, {"grid-template-columns", cols},
		{"grid-template-areas", trim(areas)}}, true
}

func expandGrid(v []Token) ([]longhand, bool) {
	p := slashed(v, 2)
	flow := func(side []Token, name string) ([]longhand, bool) {
		dir, size := name, []Token(nil)
		for _, x := range split(side) {
			switch ident(x) {
			case "auto-flow":
			case "dense":
				dir += " dense"
			default:
				size = append(size, x...)
			}
		}
		auto, tmpl, other := "grid-auto-rows", "grid-template-columns", p[1]
		if name == "column" {
			auto, tmpl, other = "grid-auto-columns", "grid-template-rows", p[0]
		}
		set := map[string][]Token{"grid-auto-flow": {{Kind: css.IdentToken, Text: dir}}, auto: size, tmpl: other}
		var out []longhand
		for _, n := range append(gridAuto, "grid-template-rows", "grid-template-columns", "grid-template-areas") {
			out = append(out, longhand{n, set[n]})
		}
		return out, true
	}
	for i, side := range p {
		for _, x := range split(side) {
			if ident(x) == "auto-flow" {
				return flow(side, [2]string{"row", "column"}[i])
			}
		}
	}
	out, ok := expandTemplate(v)
	for _, n := range gridAuto { // reset
		out = append(out, longhand{n, nil})
	}
	return out, ok
}

var gridAuto = []string{"grid-auto-flow", "grid-auto-rows", "grid-auto-columns"}
