package css

import (
	"strings"

	"github.com/tdewolff/parse/v2/css"

	"ziegel/core/css/grammar"
)

func (d *Document) declare(sheet *Sheet, n *Node, ua bool) *declaration {
	if d.Quirks && !ua {
		n.Value = lenientValue(n.Name, n.Value)
	}
	decl := &declaration{name: n.Name, value: n.Value, important: n.Important, sheet: sheet, pos: n.Pos}
	decl.arbitrary = n.Name != "content" && hasArbitrary(n.Value)
	decl.variable = decl.arbitrary || hasVar(n.Value)
	decl.fluid = unitsIn(n.Value) & unitsOfRoom
	if !ua {
		d.darkScheme = d.darkScheme || n.Name == "color-scheme" && mentions(n.Value, "dark") ||
			mentions(n.Value, "light-dark(")
		d.Counts = d.Counts || n.Name == "content" && mentions(n.Value, "counter(", "counters(", "open-quote",
			"close-quote") ||
			strings.HasPrefix(n.Name, "list-style") && mentions(n.Value, "inside")
	}
	if strings.HasPrefix(n.Name, "--") {
		return decl
	}
	if ua {
		return decl
	}
	if !KnownProperty(n.Name) {
		if !strings.HasPrefix(n.Name, "-") {
			decl.untold = [][2]string{{n.Name, strings.ToLower(Text(n.Value))}}
		}
	} else {
		decl.untold = notFollowed(n.Name, n.Value)
	}
	return decl
}

// lax reports a value of the kinds that the parsers of longhands read wider than the definitions of their properties
// are: numbers below nothing, functions, and shorthands whose parts are told from one another by what they look like.
func lax(name string, value []Token) bool {
	if name == "grid-template" || strings.HasPrefix(name, "border") && len(value) > 1 {
		return true
	}
	for _, t := range value {
		switch t.Kind {
		case css.NumberToken, css.DimensionToken, css.PercentageToken:
			if strings.HasPrefix(t.Text, "-") {
				return true
			}
		case css.FunctionToken:
			if strings.EqualFold(t.Text, "fit-content(") {
				return true
			}
		}
	}
	return false
}

// logicalName reports a property that names sides by the direction of lines.
func logicalName(name string) bool {
	return strings.Contains(name, "inline") && !strings.Contains(name, "size") ||
		strings.HasPrefix(name, "-webkit-") &&
			(strings.HasSuffix(name, "-start") || strings.HasSuffix(name, "-end")) ||
		strings.Contains(name, "-start-start-") || strings.Contains(name, "-start-end-") ||
		strings.Contains(name, "-end-start-") || strings.Contains(name, "-end-end-")
}

// physicalName gives the property that one of an expansion stands for, in the way that text runs there: expansions name
// the sides as they are where lines run from left to right.
func physicalName(declared, name string, way Way) string {
	if way.Mode != Horizontal && (strings.Contains(declared, "inline") || strings.Contains(declared, "block")) {
		return verticalName(declared, name, way)
	}
	if !way.RTL || !logicalName(declared) {
		return name
	}
	words := strings.Split(name, "-")
	for i, w := range words {
		switch w {
		case "left":
			words[i] = "right"
		case "right":
			words[i] = "left"
		}
	}
	return strings.Join(words, "-")
}

// verticalName is physicalName where lines stand side by side.
func verticalName(declared, name string, way Way) string {
	words := strings.Split(name, "-")
	sides, sized := way.Mode.sides(), strings.Contains(declared, "size")
	for i, w := range words {
		for side, n := range sideNames {
			if w != n {
				continue
			}
			if way.RTL && (side == Left || side == Right) {
				side = Left + Right - side
			}
			words[i] = sideNames[sides[side]]
			break
		}
		switch {
		case sized && w == "width":
			words[i] = "height"
		case sized && w == "height":
			words[i] = "width"
		}
	}
	return strings.Join(words, "-")
}

// parseLonghands reads a declaration without var(), on an element in which text runs so. ok is
// false when the value is invalid and must be ignored.
func parseLonghands(name string, value []Token, way Way) ([]parsedLonghand, bool) {
	wide := ident(value)
	if !wideKeywords[wide] {
		wide = ""
	}
	if name == "all" {
		if wide == "" {
			return nil, false
		}
		var out []parsedLonghand
		for _, table := range []map[string]*property{propertyTable, traced} {
			for n, p := range table {
				if n != "direction" && n != "unicode-bidi" {
					out = append(out, parsedLonghand{name: n, prop: p, wide: wide})
				}
			}
		}
		return out, true
	}
	var list []longhand
	if wide != "" {
		list = wideLonghands(name)
	} else {
		var ok bool
		if list, ok = expand(name, value); !ok {
			return nil, false
		}
	}
	if wide == "" && lax(name, value) && grammar.Knows(name) && !grammar.Valid(name, Text(value)) {
		return nil, false
	}
	var out []parsedLonghand
	for _, l := range list {
		l.name = physicalName(name, l.name, way)
		p := longhandOf(l.name)
		if p == nil {
			continue
		}
		pl := parsedLonghand{name: l.name, prop: p, wide: wide}
		switch {
		case wide != "":
		case l.value == nil:
			pl.wide = "initial"
		default:
			set, ok := p.parse(l.value)
			if !ok {
				return nil, false
			}
			pl.set, pl.value = set, l.value
		}
		out = append(out, pl)
	}
	return out, true
}
