package css

import (
	"strings"

	"github.com/tdewolff/parse/v2/css"

	"ziegel/core/css/grammar"
)

// register reads an @property rule. One that lacks what it needs registers nothing.
func (d *Document) register(n *Node) {
	name := strings.TrimSpace(Text(n.Prelude))
	r := &registered{}
	syntax, inherits := "", ""
	for _, k := range n.Children {
		switch k.Name {
		case "syntax":
			syntax = strings.Trim(strings.TrimSpace(Text(k.Value)), `"'`)
		case "inherits":
			inherits = ident(trim(k.Value))
		case "initial-value":
			r.initial = trim(k.Value)
		}
	}
	if !strings.HasPrefix(name, "--") || syntax == "" || inherits != "true" && inherits != "false" {
		return
	}
	r.inherits = inherits == "true"
	r.kinds = syntaxOf(syntax).kinds
	if r.kinds != nil && (r.initial == nil || !r.takes(r.initial)) {
		return
	}
	if d.registered == nil {
		d.registered = map[string]*registered{}
	}
	d.registered[name] = r
}

// syntaxOf reads the kinds of values that a syntax allows; * allows all.
func syntaxOf(syntax string) *registered {
	r := &registered{}
	if syntax == "*" {
		return r
	}
	for kind := range strings.SplitSeq(syntax, "|") {
		r.kinds = append(r.kinds, strings.TrimSpace(kind))
	}
	return r
}

// takes reports whether a value is of the kinds that a property takes.
func (r *registered) takes(v []Token) bool {
	if r.kinds == nil {
		return true
	}
	for _, kind := range r.kinds {
		list := [][]Token{v}
		switch {
		case strings.HasSuffix(kind, "+"):
			kind, list = kind[:len(kind)-1], split(v)
		case strings.HasSuffix(kind, "#"):
			kind, list = kind[:len(kind)-1], commas(v)
		}
		name, isKind := strings.CutPrefix(strings.TrimSuffix(kind, ">"), "<")
		fits := len(list) > 0
		for _, p := range list {
			text := Text(trim(p))
			fits = fits && (isKind && grammar.Is(name, text) || !isKind && text == kind)
		}
		if fits {
			return true
		}
	}
	return false
}

// enter gives the custom properties that an element begins with: those that it inherits, and what is registered.
func (d *Document) enter(in *vars) *vars {
	out := in
	set := func(name string, value []Token) {
		if out == in {
			out = &vars{values: make(map[string][]Token, len(in.values)+len(d.registered)), fluid: map[string]units{}}
			for n, v := range in.values {
				out.values[n], out.fluid[n] = v, in.fluid[n]
			}
		}
		delete(out.fluid, name)
		if value == nil {
			delete(out.values, name)
			return
		}
		out.values[name] = value
	}
	for name, r := range d.registered {
		have, ok := in.values[name]
		same := ok == (r.initial != nil) && (!ok || len(have) > 0 && len(r.initial) > 0 && &have[0] == &r.initial[0])
		if !same && (!ok || !r.inherits) {
			set(name, r.initial)
		}
	}
	return out
}

// settle gives what an element says of registered properties its meaning: a value of another kind is none.
func (d *Document) settle(own map[string]bool, out, in *vars) {
	for name := range own {
		r := d.registered[name]
		if r == nil {
			continue
		}
		have, ok := out.values[name]
		if ok && r.takes(have) {
			continue
		}
		value := r.initial
		if ok && r.inherits {
			value = in.values[name]
		}
		delete(out.fluid, name)
		if value == nil {
			delete(out.values, name)
			continue
		}
		out.values[name] = value
	}
}

// commas splits a value at the commas that stand in no function.
func commas(v []Token) (out [][]Token) {
	start := 0
	for i := 0; i < len(v); i++ {
		switch v[i].Kind {
		case css.FunctionToken, css.LeftParenthesisToken:
			i = endOfValue(v, i) - 1
		case css.CommaToken:
			out, start = append(out, v[start:i]), i+1
		}
	}
	return append(out, v[start:])
}
