package css

import (
	"strconv"
	"strings"

	"github.com/tdewolff/parse/v2/css"
)

// The functions that stand for whatever tokens they come to, other than var() and env(): attr(), if(), functions of
// the author, and those that count siblings (CSS Values 5, section 4 and 6; CSS Mixins 1, section 3).

// replacing holds what functions look at while a value is made.
type replacing struct {
	doc  *Document
	e    *Element
	vars *vars
	deep int // functions inside functions
}

// mostNested is how deep functions of the author call each other before the value counts as invalid.
const mostNested = 32

// replace gives a value with those functions replaced; var() of what they come to, too. ok is false when that makes it
// invalid.
func (r *replacing) replace(v []Token) (out []Token, ok bool) {
	if r.deep++; r.deep > mostNested {
		return nil, false
	}
	defer func() { r.deep-- }()
	for i := 0; i < len(v); i++ {
		if len(out) > longestValue {
			return nil, false
		}
		if !arbitrary(v[i]) {
			out = append(out, v[i])
			continue
		}
		end := endOfValue(v, i)
		value, ok := r.call(v[i], trim(inside(v, i, end)))
		if !ok {
			return nil, false
		}
		out = append(out, value...)
		i = end - 1
	}
	return out, true
}

func (r *replacing) call(name Token, in []Token) ([]Token, bool) {
	number := func(n int) ([]Token, bool) {
		return []Token{{Kind: css.NumberToken, Text: strconv.Itoa(n)}}, len(in) == 0
	}
	switch {
	case name.Is("sibling-index("):
		return number(max(1, r.e.Nth))
	case name.Is("sibling-count("):
		if r.e.Parent == nil {
			return number(1)
		}
		return number(r.e.Parent.Elements)
	case name.Is("attr("):
		return r.attr(in)
	case name.Is("if("):
		return r.choose(in)
	}
	return r.custom(strings.TrimSuffix(name.Text, "("), in)
}

// cutAt gives what stands before and after the first token of a kind outside of brackets.
func cutAt(v []Token, kind css.TokenType) (before, after []Token, found bool) {
	for i := 0; i < len(v); i = endOfValue(v, i) {
		if v[i].Kind == kind {
			return v[:i], v[i+1:], true
		}
	}
	return v, nil, false
}

// attr gives the value of an attribute as the kind that is asked for, a text when none is, and the fallback when it is
// not there or of another kind (CSS Values 5, section 7.7).
func (r *replacing) attr(in []Token) ([]Token, bool) {
	ask, fallback, has := cutAt(in, css.CommaToken)
	parts := split(ask)
	if len(parts) == 0 || len(parts) > 2 {
		return nil, false
	}
	otherwise := func(empty bool) ([]Token, bool) {
		if has {
			return r.replace(trim(fallback))
		}
		return []Token{{Kind: css.StringToken, Text: `""`}}, empty
	}
	text, there := r.e.LookupAttr(strings.ToLower(Text(parts[0])))
	if len(parts) == 1 || Text(parts[1]) == "raw-string" {
		if !there {
			return otherwise(true)
		}
		return []Token{{Kind: css.StringToken, Text: strconv.Quote(text)}}, true
	}
	kind := strings.ToLower(Text(parts[1]))
	text = strings.TrimSpace(text)
	if syntax, typed := strings.CutPrefix(kind, "type("); typed {
		syntax = strings.TrimSuffix(syntax, ")")
		if v := Tokenize(text); there && syntaxOf(syntax).takes(v) {
			return v, true
		}
		return otherwise(false)
	}
	if kind == "%" || kind != "number" && kind != "" {
		if _, err := strconv.ParseFloat(text, 64); err != nil || !there {
			return otherwise(false)
		}
		return Tokenize(text + kind), true
	}
	if _, err := strconv.ParseFloat(text, 64); err != nil || !there {
		return otherwise(false)
	}
	return Tokenize(text), true
}

// choose gives the value of the first condition that holds, else nothing at all, which makes most values invalid.
func (r *replacing) choose(in []Token) ([]Token, bool) {
	for len(in) > 0 {
		var branch []Token
		branch, in, _ = cutAt(in, css.SemicolonToken)
		condition, value, ok := cutAt(trim(branch), css.ColonToken)
		if !ok {
			return nil, len(trim(branch)) == 0
		}
		holds, known := r.holds(trim(condition))
		if !known {
			return nil, false
		}
		if holds {
			return r.replace(trim(value))
		}
	}
	return nil, true
}

// holds answers one condition of if(). Those on the window are not known here.
func (r *replacing) holds(v []Token) (holds, known bool) {
	switch {
	case ident(v) == "else":
		return true, true
	case len(v) == 0:
		return false, false
	case v[0].Is("not"):
		holds, known = r.holds(trim(v[1:]))
		return !holds, known
	case v[0].Is("supports("):
		in := trim(inside(v, 0, len(v)))
		if !mentions(in, "not", "and", "or", "selector(", "font-tech(") {
			in = append(append([]Token{{Kind: css.LeftParenthesisToken, Text: "("}}, in...),
				Token{Kind: css.RightParenthesisToken, Text: ")"})
		}
		return supports(in), endOfValue(v, 0) == len(v)
	case v[0].Is("style("):
		p := &queryParser{v: v}
		q := p.condition().prepare()
		return q.eval(
				func(q *query) truth { return truthOf(q.answersStyle(r.vars)) },
			) == yes, endOfValue(
				v,
				0,
			) == len(
				v,
			)
	}
	return false, false
}

// custom calls a function of the author (CSS Mixins 1, section 3.3).
func (r *replacing) custom(name string, in []Token) ([]Token, bool) {
	f := r.doc.functions[name]
	if f == nil {
		return nil, false
	}
	var args [][]Token
	for len(in) > 0 {
		var one []Token
		one, in, _ = cutAt(in, css.CommaToken)
		args = append(args, trim(one))
	}
	if len(args) > len(f.parameters) {
		return nil, false
	}
	local := &vars{values: map[string][]Token{}, fluid: map[string]units{}}
	for n, v := range r.vars.values {
		local.values[n], local.fluid[n] = v, r.vars.fluid[n]
	}
	inner := &replacing{doc: r.doc, e: r.e, vars: local, deep: r.deep}
	for i, p := range f.parameters {
		delete(local.values, p.name)
		value, ok := p.fallback, p.has
		if i < len(args) {
			value, ok = r.replace(args[i])
		}
		if ok {
			local.values[p.name] = trim(value)
		}
	}
	give := func(v []Token) ([]Token, bool) {
		value, _, ok := substitute(v, local, nil)
		if !ok {
			return nil, false
		}
		return inner.replace(trim(value))
	}
	for _, l := range f.locals {
		if v, ok := give(l[1].([]Token)); ok {
			local.values[l[0].(string)] = v
		}
	}
	return give(f.result)
}

// defineFunction reads @function --name(--a <type>: fallback, --b) { ... }.
func (d *Document) defineFunction(n *Node) {
	if len(n.Prelude) == 0 || !strings.HasPrefix(n.Prelude[0].Text, "--") || n.Prelude[0].Kind != css.FunctionToken {
		return
	}
	f := &customFunction{}
	in := trim(inside(n.Prelude, 0, endOfValue(n.Prelude, 0)))
	for len(in) > 0 {
		var one []Token
		one, in, _ = cutAt(in, css.CommaToken)
		declared, fallback, has := cutAt(trim(one), css.ColonToken)
		if len(declared) == 0 {
			return
		}
		f.parameters = append(f.parameters, parameter{declared[0].Text, trim(fallback), has})
	}
	for _, k := range n.Children {
		switch {
		case k.Kind != Declaration:
		case k.Name == "result":
			f.result = k.Value
		case strings.HasPrefix(k.Name, "--"):
			f.locals = append(f.locals, [2]any{k.Name, k.Value})
		}
	}
	if d.functions == nil {
		d.functions = map[string]*customFunction{}
	}
	d.functions[strings.TrimSuffix(n.Prelude[0].Text, "(")] = f
}

// unfollowedFunctions are those of values that the browser knows and the layout does not.
var unfollowedFunctions = []string{"random(", "calc-size(", "anchor(", "anchor-size(", "inherit(", "random-item("}

// unfollowed gives the function in a value that the layout does not follow, "" for none.
func unfollowed(v []Token) string {
	for i, t := range v {
		if t.Kind != css.FunctionToken {
			continue
		}
		for _, name := range unfollowedFunctions {
			if t.Is(name) {
				return name + ")"
			}
		}
		if t.Is("if(") && mentions(inside(v, i, endOfValue(v, i)), "media(") {
			return "if(media())"
		}
	}
	return ""
}
