package styles

import (
	"fmt"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/site"
)

// names reads the names of shared looks under use: one, or a list.
func (c *Writer) names(file *site.File, p site.Entry) []*site.Value {
	switch p.Value.Kind {
	case site.Text:
		return []*site.Value{p.Value}
	case site.List:
		return p.Value.Items
	}
	c.AddOnce(file.Problem(p.Value, "wrong-type", "use is no list of shared looks", "names of shared looks",
		"use: [lifted]"))
	return nil
}

// uses gives the rules of the shared looks that an entry uses, where they cannot be a class of their own.
func (c *Writer) uses(s styleMap, t Target, e, p site.Entry) []override {
	var out []override
	said := map[string][3]string{} // property under a condition: value, shared look
	for _, n := range c.names(s.file, p) {
		shared, file := c.Env.SharedStyle(n.Str())
		if shared == nil {
			names := c.Env.StyleNames()
			c.AddOnce(s.file.Problem(n, "unknown-style", fmt.Sprintf("there is no shared look %q", n.Str()),
				"one of "+strings.Join(names, ", ")+", or a new one under styles: in ziegel.yaml",
				diag.Nearest(n.Str(), names)))
			continue
		}
		for _, x := range flatten(shared.Value) {
			key := x.tail + "|" + x.entry.Key
			if other, ok := said[key]; ok && other[0] != x.entry.Value.Str() && e.Value.Get(x.entry.Key) == nil &&
				x.entry.Key != "use" {
				c.AddOnce(s.file.Problem(n, "style-conflict",
					fmt.Sprintf("the shared looks %s and %s set %s differently: %s and %s", other[1], shared.Name,
						x.entry.Key, other[0], x.entry.Value.Str()),
					"one of them, or a value of the part's own", x.entry.Key+": "+x.entry.Value.Str()))
			}
			said[key] = [3]string{x.entry.Value.Str(), shared.Name}
		}
		out = append(out, c.shared(shared, file, s, t, func(tail Target) bool {
			return !classed(s, t) ||
				own(tail)
		})...)
	}
	return out
}

// classed reports whether a use is written as the class of the shared look: by a block, under no condition.
func classed(s styleMap, t Target) bool {
	return s.block != nil && t.State == "" && t.At == "" && t.In == "" && t.When == ""
}

// own reports what a shared class cannot say: arrangements and positions are each block's own.
func own(tail Target) bool { return tail.When != "" || tail.Suffix() != "" }

// said is one property of a shared look under a condition.
type said struct {
	tail  string
	entry site.Entry
}

func flatten(v *site.Value) []said {
	var out []said
	for _, e := range v.Entries {
		if e.Value.Kind != site.Map {
			out = append(out, said{"", e})
			continue
		}
		for _, k := range e.Value.Entries {
			out = append(out, said{e.Key, k})
		}
	}
	return out
}

// shared writes a shared look for a part. The conditions of both must hold; two of the same kind cannot be joined.
func (c *Writer) shared(shared *site.SharedStyle, file *site.File, s styleMap, t Target,
	pick func(tail Target) bool) []override {
	var out []override
	add := func(tail Target, entries []site.Entry, key site.Entry) {
		if !pick(tail) {
			return
		}
		both := t
		both.State += tail.State
		if tail.Place != "" || tail.Index > 0 {
			both.Place, both.Index = tail.Place, tail.Index
		}
		for _, k := range []struct{ have, want *string }{{&both.At, &tail.At}, {&both.In, &tail.In},
			{&both.When, &tail.When}} {
			if *k.want == "" {
				continue
			}
			if both.At+both.In+both.When != "" {
				c.AddOnce(file.KeyProblem(key, "bad-style",
					fmt.Sprintf("%q of the shared look %s cannot be used under another condition (%s)", key.Key,
						shared.Name, t), "one condition at a time", ""))
				return
			}
			*k.have = *k.want
		}
		if !s.takes(both) {
			return
		}
		rules, ok := c.rules(styleMap{s.value, file, s.sec, s.block, s.class, nil}, both, key)
		if !ok {
			return
		}
		var decls []decl
		for _, p := range entries {
			decls = append(decls, c.property(file, s.sec, both, p)...)
		}
		for _, o := range rules {
			o.decls = decls
			out = append(out, o)
		}
	}
	var plain []site.Entry
	for _, e := range shared.Value.Entries {
		if e.Value.Kind != site.Map {
			plain = append(plain, e)
		}
	}
	if len(plain) > 0 {
		add(Target{}, plain, plain[0])
	}
	for _, e := range shared.Value.Entries {
		if e.Value.Kind != site.Map {
			continue
		}
		tail, err := ParseTail(e.Key)
		if err != nil {
			c.AddOnce(file.KeyProblem(e, "bad-style", fmt.Sprintf("%q is no condition", e.Key),
				"a state, at, in or when: \":hover\", at phone, in ..480, when stacked", ""))
			continue
		}
		add(tail, e.Value.Entries, e)
	}
	return out
}

// StyleClass is the class of a shared look in built pages.
func StyleClass(name string) string { return "style-" + name }

// eachUse goes through the shared looks that a block uses.
func eachUse(b *site.Block, f func(name string, t Target)) {
	if b.Style == nil {
		return
	}
	for _, entry := range b.Style.Entries {
		t, err := ParseTarget(entry.Key)
		if err != nil {
			continue
		}
		for _, name := range UsedBy(entry.Value) {
			f(name, t)
		}
	}
}
