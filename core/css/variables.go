package css

import (
	"sort"
	"strings"

	"github.com/tdewolff/parse/v2/css"
)

// resolveVars adds an element's own custom properties to the inherited ones, with var() resolved in them.
func resolveVars(own map[string]*declaration, in *vars) *vars {
	out := &vars{values: make(map[string][]Token, len(in.values)+len(own)), fluid: map[string]units{}}
	for n, v := range in.values {
		out.values[n], out.fluid[n] = v, in.fluid[n]
	}
	busy := map[string]bool{}
	var resolve func(name string)
	resolve = func(name string) {
		d, ok := own[name]
		if !ok || busy[name] {
			if ok {
				delete(out.values, name) // a cycle makes all its members invalid
			}
			return
		}
		busy[name] = true
		if wide := ident(d.value); wideKeywords[wide] {
			if wide == "initial" {
				delete(out.values, name)
			}
			delete(own, name)
			return
		}
		delete(out.values, name)
		value, fluid, good := substitute(d.value, out, resolve)
		if good {
			out.values[name], out.fluid[name] = value, fluid|d.fluid
		}
		delete(own, name)
	}
	names := make([]string, 0, len(own))
	for n := range own {
		names = append(names, n)
	}
	sort.Strings(names)
	for _, n := range names {
		resolve(n)
	}
	return out
}

// substitute replaces var() by its value. need, when given, resolves a name first.
func substitute(v []Token, in *vars, need func(string)) (out []Token, fluid units, ok bool) {
	for i := 0; i < len(v); i++ {
		t := v[i]
		if len(out) > longestValue {
			return nil, 0, false
		}
		if t.Kind != css.FunctionToken || !(t.Is("var(") || t.Is("env(")) {
			out = append(out, t)
			continue
		}
		end := endOfValue(v, i)
		inner := inside(v, i, end)
		name, fallback, hasFallback := inner, []Token(nil), false
		for k, x := range inner {
			if x.Kind == css.CommaToken {
				name, fallback, hasFallback = inner[:k], inner[k+1:], true
				break
			}
		}
		key := Text(name)
		if need != nil {
			need(key)
		}
		value, found := in.values[key]
		switch {
		case found && len(out)+len(value) > longestValue:
			return nil, 0, false
		case found:
			out = append(out, value...)
			fluid |= in.fluid[key]
		case t.Is("env(") && (strings.HasPrefix(key, "safe-area-") || strings.HasPrefix(key, "keyboard-inset-")):
			out = append(out, Token{Kind: css.DimensionToken, Text: "0px"}) // a window has none of them
		case hasFallback:
			value, fl, good := substitute(fallback, in, need)
			if !good {
				return nil, 0, false
			}
			out = append(out, trim(value)...)
			fluid |= fl | unitsIn(fallback)&unitsOfRoom
		default:
			return nil, 0, false
		}
		i = end - 1
	}
	return out, fluid, true
}

// Var returns the value of a custom property in force on a style, "" when there is none.
func (s *Style) Var(name string) string {
	if s.spec == nil {
		return ""
	}
	return Text(s.spec.vars.values[name])
}
