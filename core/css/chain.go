package css

import (
	"maps"
	"slices"
	"strings"
)

// CascadedDeclaration is one declaration that speaks of a property on an element, whether it wins or not.
type CascadedDeclaration struct {
	Name       string // as declared: padding, where padding-left was asked for
	Value      string // as declared
	Resolved   string // with var() replaced
	Sheet      *Sheet
	Pos        int      // byte in the sheet
	Layer      string   // dotted, "" for none
	Selector   string   // of the rule
	Conditions []string // "media (width < 40rem)", "container (width >= 48rem)"
	Important  bool
	Applies    bool // its conditions hold
	Wins       bool // it gives at least one longhand of the property
	UA         bool // of the browser's own stylesheet
}

// Chain lists the declarations that speak of a property on an element, or on a pseudo-element of it ("" for the
// element itself), from the weakest to the strongest. st is the computed style of the element. A shorthand is asked
// for with all its longhands, and a longhand finds the shorthands that set it.
func (d *Document) Chain(e *Element, pseudo string, st *Style, property string) []CascadedDeclaration {
	wanted := longhandNames(property)
	list, spec := e.matched, st.spec
	if pseudo != "" {
		if list = e.pseudo[pseudo]; spec != nil {
			spec = (&Styler{doc: d, parsed: map[string]parsedValue{}}).cascade(
				e,
				list,
				specKey{spec.mask, spec.vars, Way{st.RTL, st.Mode}},
			)
		}
	}
	var out []CascadedDeclaration
	last := -1 // of the declarations of a custom property that apply
	for _, r := range ranking(list) {
		decl := r.decl
		if !speaksOf(decl.name, wanted, Way{st.RTL, st.Mode}) {
			continue
		}
		s := CascadedDeclaration{Name: decl.name, Value: Text(decl.value), Sheet: decl.sheet, Pos: decl.pos,
			Layer: d.layerName(r.rule.layer), Selector: r.rule.text(), Important: decl.important, UA: r.rule.ua}
		for _, c := range r.rule.conds {
			s.Conditions = append(s.Conditions, d.conditions[c].key)
		}
		s.Resolved = s.Value
		if spec != nil {
			s.Applies = r.rule.applies(e, spec.mask)
			if v, _, ok := substitute(decl.value, spec.vars, nil); ok {
				s.Resolved = strings.TrimSpace(Text(v))
			}
			for _, w := range wanted {
				s.Wins = s.Wins || s.Applies && spec.declared[w] == decl
			}
		}
		if s.Applies && strings.HasPrefix(property, "--") {
			last = len(out)
		}
		out = append(out, s)
	}
	if last >= 0 {
		out[last].Wins = true
	}
	return out
}

// Longhands gives the longhands of a property, itself when it is one.
func Longhands(property string) []string { return longhandNames(property) }

// longhandNames gives the longhands of a property, itself when it is one.
func longhandNames(property string) []string {
	var out []string
	for _, l := range wideLonghands(property) {
		out = append(out, l.name)
	}
	if len(out) == 0 {
		out = []string{property}
	}
	return out
}

// speaksOf reports whether a declaration of name sets one of these longhands, where text runs so.
func speaksOf(name string, wanted []string, way Way) bool {
	if slices.Contains(wanted, name) {
		return true
	}
	if _, short := shorthands[name]; !short {
		return false
	}
	for _, n := range longhandNames(name) {
		if slices.Contains(wanted, physicalName(name, n, way)) {
			return true
		}
	}
	return false
}

// Inherits reports whether a property passes from parents to children.
func Inherits(property string) bool {
	for _, n := range longhandNames(property) {
		if p := longhandOf(n); p != nil && p.inherited {
			return true
		}
	}
	return strings.HasPrefix(property, "--") || property == "color"
}

// text writes the selectors of a rule.
func (r *rule) text() string {
	var out []string
	for _, s := range r.selectors {
		out = append(out, s.Text)
	}
	return strings.Join(out, ", ")
}

// layerName gives the dotted name of a layer.
func (d *Document) layerName(l *layerNode) string {
	var find func(at *layerNode, path string) (string, bool)
	find = func(at *layerNode, path string) (string, bool) {
		if at == l {
			return path, true
		}
		for _, k := range at.kids {
			if name, ok := find(k, strings.TrimPrefix(path+"."+k.name, ".")); ok {
				return name, true
			}
		}
		return "", false
	}
	name, _ := find(d.layers, "")
	return name
}

// Moving lists the states (hover, focus-visible ...) whose rules set what the layout follows, other than transforms:
// those that may move boxes.
func (d *Document) Moving() []string {
	return d.states(func(n string) bool { return SupportOf(n) == Modelled && !paintsOnly[n] })
}

// Painting lists the states (hover, focus-visible ...) whose rules change what is seen: colors, grounds, or what lies
// above what.
func (d *Document) Painting() []string { return d.states(func(n string) bool { return seenBy[n] }) }

// states lists the passing states of the rules that set a property of a kind.
func (d *Document) states(sets func(longhand string) bool) []string {
	seen := map[string]bool{}
	for _, r := range d.rules {
		if r.ua || !slices.ContainsFunc(r.decls,
			func(decl *declaration) bool { return slices.ContainsFunc(longhandNames(decl.name), sets) }) {
			continue
		}
		for _, s := range r.selectors {
			for _, c := range s.compounds {
				for _, t := range c.tests {
					if t.kind == ':' && passing[t.name] {
						seen[t.name] = true
					}
				}
			}
		}
	}
	return slices.Sorted(maps.Keys(seen))
}

// seenBy are properties that decide whether a text can be read.
var seenBy = map[string]bool{"color": true, "-webkit-text-fill-color": true, "background-color": true,
	"background-image": true, "opacity": true, "filter": true, "z-index": true, "position": true,
	"translate": true, "transform": true, "scale": true, "mix-blend-mode": true, "isolation": true}

// passing are the states that come and go under the pointer and the keyboard.
var passing = map[string]bool{"hover": true, "focus": true, "focus-visible": true, "focus-within": true,
	"active": true}

// paintsOnly are properties that the layout follows and that move nothing but what is drawn.
var paintsOnly = map[string]bool{"opacity": true, "filter": true, "isolation": true, "mix-blend-mode": true,
	"transform": true, "translate": true, "scale": true, "rotate": true, "transform-origin": true, "visibility": true,
	"overflow-x": true, "overflow-y": true, "clip-path": true, "z-index": true,
	"text-decoration-line": true, "content-visibility": true, "offset-path": true, "will-change": true,
	"contain": true}

// Animated lists the properties that the page's keyframes change, each with the name of the animation, where
// something on the page plays it and the layout follows it.
func (d *Document) Animated() []CascadedDeclaration {
	played := map[string]bool{}
	d.anyDeclared(func(decl *declaration) bool {
		if decl.name == "animation" || decl.name == "animation-name" {
			for _, t := range decl.value {
				played[t.Text] = true
			}
		}
		return false
	})
	var out []CascadedDeclaration
	var walk func(sheet *Sheet, nodes []*Node)
	walk = func(sheet *Sheet, nodes []*Node) {
		for _, n := range nodes {
			name := strings.TrimSpace(Text(n.Prelude))
			if n.Kind == AtRule && strings.HasSuffix(n.Name, "keyframes") && played[name] {
				for _, frame := range n.Children {
					for _, decl := range frame.Children {
						for _, l := range longhandNames(decl.Name) {
							if decl.Kind == Declaration && SupportOf(l) == Modelled && !paintsOnly[l] {
								out = append(
									out,
									CascadedDeclaration{Name: decl.Name, Value: Text(decl.Value), Selector: name,
										Sheet: sheet, Pos: decl.Pos},
								)
								break
							}
						}
					}
				}
			} else if n.Kind == AtRule {
				walk(sheet, n.Children)
			}
		}
	}
	for _, s := range d.Sheets {
		if s.File != "" {
			walk(s, s.Nodes)
		}
	}
	return out
}
