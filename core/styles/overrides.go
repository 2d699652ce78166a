package styles

import (
	"maps"
	"slices"
	"sort"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/project"
	"ziegel/core/site"
)

// overrides writes styles, checked: those of shared looks in a layer below the others.
func (c *Writer) overrides(w *sheetWriter, list ...styleMap) {
	var own, used []override
	for _, s := range list {
		if s.value == nil {
			continue
		}
		for _, e := range s.value.Entries {
			o, u := c.entry(s, e)
			own, used = append(own, o...), append(used, u...)
		}
	}
	w.open("@layer use")
	writeOverrides(w, used)
	w.close()
	writeOverrides(w, own)
}

// entry reads one key of a style map: the rules of its own, and those of the shared looks that it uses.
func (c *Writer) entry(s styleMap, e site.Entry) (own, used []override) {
	t, ok := c.target(s, e)
	if !ok {
		return nil, nil
	}
	if e.Value.Kind != site.Map {
		c.AddOnce(s.file.Problem(e.Value, "wrong-type", "the style of "+e.Key+" is not a map",
			"CSS properties with values", e.Key+": {padding: 2rem}"))
		return nil, nil
	}
	var rules []override
	if s.takes(t) {
		if rules, ok = c.rules(s, t, e); !ok {
			return nil, nil
		}
	}
	var decls []decl
	for _, p := range e.Value.Entries {
		if p.Key == "use" {
			used = c.uses(s, t, e, p)
			continue
		}
		decls = append(decls, c.property(s.file, s.sec, t, p)...)
	}
	if len(decls) > 0 {
		for _, o := range rules {
			o.decls = decls
			own = append(own, o)
		}
	}
	return own, used
}

func writeOverrides(w *sheetWriter, list []override) {
	sort.SliceStable(list, func(i, j int) bool {
		a, b := list[i], list[j]
		switch {
		case a.rank != b.rank:
			return a.rank < b.rank
		case a.state != b.state:
			return a.state < b.state
		case (a.cond != "") != (b.cond != ""):
			return a.cond == ""
		}
		return a.width > b.width
	})
	list = merged(list)
	for i := 0; i < len(list); i++ {
		o := list[i]
		if o.cond == "" {
			w.rule(strings.Join(o.sels, ", "), o.decls...)
			continue
		}
		w.open(o.cond)
		for ; i < len(list) && list[i].cond == o.cond; i++ {
			w.rule(strings.Join(list[i].sels, ", "), list[i].decls...)
		}
		i--
		w.close()
	}
}

// merged joins rules that say the same for several parts under one condition. No two of them speak of one element.
func merged(list []override) []override {
	var out []override
	for _, o := range list {
		i := slices.IndexFunc(out, func(x override) bool {
			return x.cond == o.cond && x.rank == o.rank && x.state == o.state && sameDecls(x.decls, o.decls)
		})
		if i < 0 || slices.ContainsFunc(out[i:], func(x override) bool { return slices.Equal(x.sels, o.sels) }) {
			out = append(out, o)
			continue
		}
		out[i].decls = writtenTwice(out[i], o)
		out[i].sels = append(slices.Clone(out[i].sels), o.sels...)
	}
	return out
}

// writtenTwice gives the declarations of a rule with the places where another one says the same.
func writtenTwice(first, again override) []decl {
	out := slices.Clone(first.decls)
	for i := range out {
		of := maps.Clone(out[i].of)
		if of == nil {
			of = map[string]diag.Position{}
		}
		for _, sel := range again.sels {
			if m := project.ClassNames.FindStringSubmatch(sel); m != nil {
				of[m[1]] = again.decls[i].pos
			}
		}
		out[i].of = of
	}
	return out
}

func sameDecls(a, b []decl) bool {
	return slices.EqualFunc(a, b, func(x, y decl) bool { return x.name == y.name && x.value == y.value })
}
