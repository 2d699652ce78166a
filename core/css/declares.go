package css

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"github.com/tdewolff/parse/v2/css"
)

// Declares reports whether some rule or style attribute of the page gives a property one of these keywords.
func (d *Document) Declares(name string, words ...string) bool {
	return d.anyDeclared(func(decl *declaration) bool {
		return decl.name == name && mentions(decl.value, words...)
	})
}

// DeclaresIn reports whether some rule or style attribute of the page gives one of the properties, or a custom
// property, a value in a unit of the viewport's width (vw) or height (vh), at least that many of it.
func (d *Document) DeclaresIn(unit string, least float64, names ...string) bool {
	axis := unit[len(unit)-1:]
	return d.anyDeclared(func(decl *declaration) bool {
		if !contains(names, decl.name) && !strings.HasPrefix(decl.name, "--") {
			return false
		}
		for _, t := range decl.value {
			u := strings.ToLower(t.Text)
			ofWindow := t.Kind == css.DimensionToken &&
				(strings.HasSuffix(u, "v"+axis) || strings.HasSuffix(u, "vmin") || strings.HasSuffix(u, "vmax")) &&
				math.Abs(amountOf(u)) >= least
			if ofWindow {
				return true
			}
		}
		return false
	})
}

// DeclaresEver reports whether some rule of the page gives one of the properties, in whatever state and under
// whatever condition.
func (d *Document) DeclaresEver(names ...string) bool {
	for _, r := range d.rules {
		if !r.ua && slices.ContainsFunc(r.decls, func(decl *declaration) bool { return contains(names, decl.name) }) {
			return true
		}
	}
	return false
}

// FramedByPage reports an element to which some rule of the page gives a background or a border, under whatever
// condition: browsers then drop the look of their own that a control has (measured in Chromium).
func (e *Element) FramedByPage() bool {
	for _, m := range e.matched {
		if m.rule.ua {
			continue
		}
		for _, decl := range m.rule.decls {
			name := decl.name
			paints := name == "all" || strings.HasPrefix(name, "background") ||
				strings.HasPrefix(name, "border") && name != "border-spacing" && name != "border-collapse"
			if paints {
				return true
			}
		}
	}
	return false
}

// Counting tells of each element, by its index, whether it or one in it may count or show what was counted: lists,
// generated content and whatever some rule gives a counter.
func (d *Document) Counting() []bool {
	out := make([]bool, len(d.Elements))
	for _, e := range d.Elements {
		if !e.counts() {
			continue
		}
		for ; e != nil && !out[e.Index]; e = e.Parent {
			out[e.Index] = true
		}
	}
	return out
}

func (e *Element) counts() bool {
	switch e.Tag {
	case "ol", "ul", "menu", "dir", "li", "summary":
		return true
	}
	if len(e.pseudos) > 0 {
		return true
	}
	for _, m := range e.matched {
		for _, decl := range m.rule.decls {
			switch decl.name {
			case "counter-reset", "counter-increment", "counter-set":
				return true
			case "display":
				if mentions(decl.value, "list-item", "var(") {
					return true
				}
			}
		}
	}
	return false
}

func (d *Document) anyDeclared(is func(*declaration) bool) bool {
	for _, e := range d.Elements {
		for _, m := range e.matched {
			for _, decl := range m.rule.decls {
				if !m.rule.ua && is(decl) {
					return true
				}
			}
		}
	}
	return false
}

// amountOf gives the number of a dimension.
func amountOf(text string) float64 {
	n, _ := strconv.ParseFloat(strings.TrimRight(text, "abcdfghijklmnopqrstuvwxyz"), 64)
	return n
}
