package site

import (
	"fmt"
	"maps"
)

// options reads a map of options.
func (l *loader) options(v *Value) map[string]*Value {
	out := map[string]*Value{}
	o := l.mapOf(v, "options", "{columns: 3}")
	if o == nil {
		return out
	}
	for _, e := range o.Entries {
		if e.Value.Kind != Text {
			l.add(l.f.Problem(e.Value, "wrong-type", fmt.Sprintf("the option %q is a %s", e.Key, kindName(e.Value)),
				"one of its choices, as text", ""))
			continue
		}
		out[e.Key] = e.Value
	}
	return out
}

// defaults reads what all blocks of a section get.
func (l *loader) defaults(v *Value) []Default {
	var out []Default
	m := l.mapOf(v, "defaults", "pricing/plans: {style: {card: {padding: 2rem}}}")
	if m == nil {
		return nil
	}
	for _, e := range m.Entries {
		if l.mapOf(e.Value, "the default of "+e.Key, "{style: {card: {padding: 2rem}}}") == nil {
			continue
		}
		l.keys(e.Value, "a default", "options", "style")
		out = append(out, Default{Section: e.Key, Options: l.options(e.Value.Get("options")),
			Style: l.mapOf(e.Value.Get("style"), "style", "card: {padding: 2rem}"), Node: e.Value, KeyPos: e.KeyPos,
			Path: Keys("defaults", e.Key), File: l.f})
	}
	return out
}

// Style finds a shared look, nil when there is none of that name.
func (s *Site) Style(name string) *SharedStyle {
	for i := range s.Styles {
		if s.Styles[i].Name == name {
			return &s.Styles[i]
		}
	}
	return nil
}

// DefaultFor finds what a list of defaults has for a section.
func DefaultFor(list []Default, section string) *Default {
	for i := range list {
		if list[i].Section == section {
			return &list[i]
		}
	}
	return nil
}

// defaulted gives a block the options that it does not set itself, from its page's or the site's defaults.
func (s *Site) defaulted(p *Page, b *Block) *Block {
	own := b
	for _, list := range [][]Default{p.Defaults, s.Defaults} {
		d := DefaultFor(list, b.Section)
		if d == nil {
			continue
		}
		for n, v := range d.Options {
			if b.Options[n] != nil {
				continue
			}
			if b == own {
				c := *b
				c.Options = maps.Clone(b.Options)
				b = &c
			}
			b.Options[n] = v
		}
	}
	return b
}
