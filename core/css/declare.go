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
	decl.variable = hasVar(n.Value)
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

// parseLonghands reads a declaration without var(). ok is false when the value is invalid and must be ignored.
func parseLonghands(name string, value []Token) ([]parsedLonghand, bool) {
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
		p := longhandOf(l.name)
		if p == nil {
			continue
		}
		pl := parsedLonghand{name: l.name, prop: p, wide: wide, logical: logicalName(name)}
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
