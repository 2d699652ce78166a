package css

import (
	"maps"
	"slices"
	"sort"
	"strings"

	"golang.org/x/net/html"
)

// ruleIndex finds the rules that may select an element by what the last compound of their selectors asks for: an id,
// a class or a tag. Rules that ask for none of these are under "".
type ruleIndex map[string][]int

func newRuleIndex(rules []*rule) ruleIndex {
	x := ruleIndex{}
	for i, r := range rules {
		for _, s := range r.selectors {
			key := s.key()
			if l := x[key]; len(l) == 0 || l[len(l)-1] != i {
				x[key] = append(l, i)
			}
		}
	}
	return x
}

// key gives the id, else a class, else the tag that a selected element must have: "#id", ".class", "tag", or "".
func (s *Selector) key() string {
	key := ""
	for _, t := range s.compounds[len(s.compounds)-1].tests {
		switch t.kind {
		case '#':
			return "#" + t.name
		case '.':
			key = "." + t.name
		case 't':
			if key == "" {
				key = strings.ToLower(t.name)
			}
		}
	}
	return key
}

// candidates gives the rules that may select an element, in order, each once.
func (x ruleIndex) candidates(e *Element) []int {
	out := append([]int(nil), x[""]...)
	out = append(out, x[strings.ToLower(e.Tag)]...)
	if e.ID != "" {
		out = append(out, x["#"+e.ID]...)
	}
	for _, c := range e.Classes {
		out = append(out, x["."+c]...)
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// In gives the same document with every element in some states (hover, focus-visible). The rules are shared, the
// elements are others.
func (d *Document) In(states ...string) *Document {
	return d.InWhere(func(*Element) []string { return states })
}

// InWhere gives the same document with each element in the states that are chosen for it; current stands for
// aria-current=page.
func (d *Document) InWhere(choose func(e *Element) []string) *Document {
	out := *d
	out.Unsupported = slices.Clip(d.Unsupported)
	out.Elements = make([]*Element, len(d.Elements))
	for i, e := range d.Elements {
		c := *e
		set := map[string]bool{}
		for _, s := range choose(e) {
			set[s] = true
		}
		if set["current"] && e.Raw != nil { // no pseudo-class: a link says of itself that it leads to this page
			raw := *e.Raw
			raw.Attr = append(slices.Clone(raw.Attr), html.Attribute{Key: "aria-current", Val: "page"})
			c.Raw = &raw
			delete(set, "current")
		}
		c.matched, c.pseudo, c.pseudos, c.conds, c.states = nil, nil, nil, nil, set
		out.Elements[i] = &c
	}
	twin := func(e *Element) *Element {
		if e == nil {
			return nil
		}
		return out.Elements[e.Index]
	}
	for _, c := range out.Elements {
		c.Parent, c.Children, c.kids = twin(c.Parent), slices.Clone(c.Children), slices.Clone(c.kids)
		for i := range c.Children {
			c.Children[i].Element = twin(c.Children[i].Element)
		}
		for i := range c.kids {
			c.kids[i] = twin(c.kids[i])
		}
	}
	out.Root, out.Body = twin(d.Root), twin(d.Body)
	out.matchAll()
	return &out
}

func (d *Document) matchAll() {
	index := newRuleIndex(d.rules)
	for _, e := range d.Elements {
		e.matched, e.pseudo = nil, nil
		seen := map[int]bool{}
		for _, i := range index.candidates(e) {
			r := d.rules[i]
			best := map[string]Specificity{}
			var root *Element
			if r.scope != nil {
				if root = r.scope.root(e); root == nil {
					continue
				}
			}
			for _, s := range r.selectors {
				if b, ok := best[s.Pseudo]; (!ok || b.less(s.Specificity)) &&
					s.matchFrom(len(s.compounds)-1, e, root) {
					best[s.Pseudo] = s.Specificity
				}
			}
			for pseudo, spec := range best {
				m := match{r, spec}
				d.tell(r, pseudo)
				d.tellTurned(r, e, pseudo)
				d.HasLetters = d.HasLetters || pseudo == "first-letter"
				if pseudo == "" {
					e.matched = append(e.matched, m)
				} else {
					if e.pseudo == nil {
						e.pseudo = map[string][]match{}
					}
					e.pseudo[pseudo] = append(e.pseudo[pseudo], m)
				}
				for _, c := range r.conds {
					if !seen[c] {
						seen[c] = true
						e.conds = append(e.conds, c)
					}
				}
			}
		}
		if style := e.Attr("style"); style != "" {
			nodes, _ := ParseDeclarations(style)
			r := &rule{layer: d.layers, order: len(d.rules)}
			sheet, at := d.inlineSheet(style)
			shift(nodes, at)
			for _, n := range nodes {
				if n.Kind == Declaration {
					r.decls = append(r.decls, d.declare(sheet, n, false))
				}
			}
			d.tell(r, "")
			e.matched = append(e.matched, match{r, Specificity{1000}})
		}
		e.matched = append(e.matched, d.presentationalHints(e)...)
		sortMatches(e.matched)
		for name, list := range e.pseudo {
			sortMatches(list)
			if (name == "before" || name == "after") && !makesContent(list) {
				delete(e.pseudo, name) // no box, whatever the width
			}
		}
		e.pseudos = slices.Sorted(maps.Keys(e.pseudo))
		sort.Ints(e.conds)
	}
	d.tellNested()
}

// tellNested reports columns in columns, which are not broken again.
func (d *Document) tellNested() {
	var inside func(e *Element, in bool)
	inside = func(e *Element, in bool) {
		own := columnsOn(e)
		if own != nil && in && !own.told {
			own.told = true
			d.Unsupported = append(d.Unsupported, Use{own.name, "in columns", own.sheet, own.pos})
		}
		for _, k := range e.kids {
			inside(k, in || own != nil)
		}
	}
	if d.Root != nil {
		inside(d.Root, false)
	}
}

// columnsOn gives a declaration that makes an element a container of columns, nil for none.
func columnsOn(e *Element) *declaration {
	for _, m := range e.matched {
		for _, decl := range m.rule.decls {
			switch v := strings.TrimSpace(Text(decl.value)); decl.name {
			case "columns", "column-count", "column-width":
				if v != "auto" && !wideKeywords[v] {
					return decl
				}
			}
		}
	}
	return nil
}

// inlineSheet finds a style attribute in the file, so that its declarations have a place there.
func (d *Document) inlineSheet(style string) (*Sheet, int) {
	if at := strings.Index(d.source, style); at >= 0 {
		return &Sheet{File: d.File, Source: d.source}, at
	}
	return &Sheet{File: d.File, Source: style}, 0
}

// tell reports what the layout does not follow in a rule that an element uses, once.
func (d *Document) tell(r *rule, pseudo string) {
	if r.ua {
		return
	}
	for _, decl := range r.decls {
		picture := pseudo == "" && decl.name == "content" && strings.Contains(strings.ToLower(Text(decl.value)), "url(")
		lost := unfollowedPseudos[pseudo] || picture || pseudo == "details-content" && makesRoom(decl.name)
		if lost && !decl.told && seen(decl.name) {
			decl.told = true
			value := Text(decl.value)
			if pseudo != "" {
				value += " in ::" + pseudo
			}
			d.Unsupported = append(d.Unsupported, Use{decl.name, value, decl.sheet, decl.pos})
		}
		if fill := d.stays(decl); fill != "" && !decl.told {
			decl.told = true
			d.Unsupported = append(d.Unsupported, Use{"animation-fill-mode", fill, decl.sheet, decl.pos})
		}
		for _, u := range decl.untold {
			d.Unsupported = append(d.Unsupported, Use{u[0], u[1], decl.sheet, decl.pos})
		}
		decl.untold = nil
	}
}

// seen reports a property that shows in the boxes of a pseudo-element.
func seen(property string) bool {
	return !strings.HasPrefix(property, "--") && property != "color" && SupportOf(property) != NoEffect
}

// staysAcross are elements in which the layout does not let lines stand side by side: the page as a whole, tables but
// for their cells, and controls.
var staysAcross = map[string]bool{"html": true, "table": true, "caption": true, "thead": true, "tbody": true,
	"tfoot": true, "tr": true,
	"colgroup": true, "col": true, "input": true, "select": true, "textarea": true, "button": true, "progress": true,
	"meter": true, "fieldset": true}

// tellTurned reports lines that stand side by side where the layout does not follow.
func (d *Document) tellTurned(r *rule, e *Element, pseudo string) {
	if !staysAcross[e.Tag] || pseudo != "" || r.ua {
		return
	}
	for _, decl := range r.decls {
		if strings.HasSuffix(decl.name, "writing-mode") && modes[ident(decl.value)] != Horizontal && !decl.told {
			decl.told = true
			d.Unsupported = append(d.Unsupported, Use{decl.name, Text(decl.value) + " on " + e.Tag, decl.sheet,
				decl.pos})
		}
	}
}

// unfollowedPseudos are pseudo-elements whose boxes the layout does not follow.
var unfollowedPseudos = map[string]bool{"first-line": true,
	"column": true, "scroll-marker": true, "scroll-marker-group": true, "scroll-button": true, "picker": true,
	"checkmark": true, "picker-icon": true}

// makesRoom reports a property that puts something around the content of details; how high it is while it opens is for
// motion.
func makesRoom(name string) bool {
	for _, p := range []string{"padding", "margin", "border", "display", "width", "inline-size"} {
		if strings.HasPrefix(name, p) && !strings.HasSuffix(name, "color") && !strings.HasSuffix(name, "radius") {
			return true
		}
	}
	return false
}

// stays gives the fill mode of an animation that leaves a box another size or place than the layout gives it, which is
// that without animations; "" for others (CSS Animations 1, 3.9).
func (d *Document) stays(decl *declaration) string {
	if decl.name != "animation" && decl.name != "animation-fill-mode" && decl.name != "-webkit-animation" {
		return ""
	}
	words := strings.Fields(strings.ReplaceAll(strings.ToLower(Text(decl.value)), ",", " "))
	fill := ""
	for _, w := range words {
		if w == "forwards" || w == "both" || w == "backwards" || w == "infinite" { // the last one never ends
			fill = w
		}
	}
	if fill == "" {
		return ""
	}
	names := words
	if decl.name == "animation-fill-mode" { // which animation, another declaration says
		names = d.keyframeNames()
	}
	for _, name := range names {
		frames, _ := d.Keyframes(name)
		for _, f := range frames {
			for _, x := range f.Declarations {
				if p := propertyTable[x.Name]; (p != nil && !p.unused || shorthands[x.Name] != nil) && !still[x.Name] {
					return fill
				}
			}
		}
	}
	return ""
}

// still are modelled properties that animations may leave as they like: no box follows from them, or what moves it is
// drawn only.
var still = map[string]bool{"opacity": true, "transform": true, "translate": true, "rotate": true, "scale": true,
	"visibility": true, "filter": true, "color": true, "background": true, "background-color": true, "z-index": true}

// makesContent reports whether a pseudo-element may have content at all.
func makesContent(list []match) bool {
	for _, m := range list {
		for _, d := range m.rule.decls {
			if d.name == "content" && ident(d.value) != "none" && ident(d.value) != "normal" {
				return true
			}
		}
	}
	return false
}

// sortMatches orders by origin, layer, specificity and order of appearance.
func sortMatches(list []match) {
	sort.SliceStable(list, func(i, j int) bool {
		a, b := list[i], list[j]
		switch {
		case a.rule.ua != b.rule.ua:
			return a.rule.ua
		case a.rule.layer.order != b.rule.layer.order:
			return a.rule.layer.order < b.rule.layer.order
		case a.spec != b.spec:
			return a.spec.less(b.spec)
		}
		return a.rule.order < b.rule.order
	})
}
