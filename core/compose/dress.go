package compose

import (
	"golang.org/x/net/html"

	"ziegel/core/library"
	"ziegel/core/site"
)

// garment is a class that elements of a part wear because some style speaks of them.
type garment struct {
	class string
	index int
	place string
}

// dress lists the classes that styles ask for, by part.
func (f *filler) dress() map[string][]garment {
	out := map[string][]garment{}
	add := func(part string, g garment) {
		for _, have := range out[part] {
			if have == g {
				return
			}
		}
		out[part] = append(out[part], g)
	}
	c := f.c
	own := func(part string) string { return c.className(f.b, part) }
	collect := func(v *site.Value, class func(string) string, block bool) {
		if v == nil {
			return
		}
		for _, e := range v.Entries {
			t, err := ParseTarget(e.Key)
			if err != nil {
				continue
			}
			var targets []Target
			plain := false
			for _, p := range e.Value.Entries {
				plain = plain || p.Key != "use"
			}
			if plain {
				targets = append(targets, t)
			}
			for _, name := range usedBy(e.Value) {
				shared, _ := c.env.SharedStyle(name)
				if shared == nil {
					continue
				}
				if block && t.State+t.At+t.In+t.When == "" {
					add(t.Part, garment{styleClass(name), t.Index, t.Place})
				} else {
					targets = append(targets, t)
				}
				for _, x := range shared.Value.Entries {
					tail, err := parseTail(x.Key)
					if x.Value.Kind != site.Map || err != nil || tail.When == "" && tail.suffix() == "" {
						continue
					}
					both := t
					if tail.suffix() != "" {
						both.Index, both.Place = tail.Index, tail.Place
					}
					both.When += tail.When
					targets = append(targets, both)
				}
			}
			for _, t := range targets {
				wear := class
				if t.When != "" {
					wear = own
				}
				if t.When != "" && eachItsOwn(t.When) {
					for _, n := range c.opts.Measured.indexes(f.b.Name, t.Part, t.When) {
						add(t.Part, garment{wear(t.Part) + Target{Index: n}.suffix(), n, ""})
					}
					continue
				}
				add(t.Part, garment{wear(t.Part) + t.suffix(), t.Index, t.Place})
			}
		}
	}
	for _, list := range [][]site.Default{c.env.Site.Defaults, c.page.Defaults} {
		if d := site.DefaultFor(list, f.b.Section); d != nil {
			collect(d.Style, func(part string) string { return slug(f.sec.Name) + "_" + part }, false)
		}
	}
	collect(f.b.Style, own, true)
	return out
}

// placeInList gives the position of the list entry that an element belongs to, from 1, and how many entries there are: 1 of 1 when it
// belongs to none.
func placeInList(x *html.Node) (at, of int) {
	for n := x; n != nil; n = n.Parent {
		name, ok := library.Attr(n, "data-each")
		if !ok || n.Parent == nil {
			continue
		}
		for k := n.Parent.FirstChild; k != nil; k = k.NextSibling {
			if each, ok := library.Attr(k, "data-each"); ok && each == name {
				of++
				if k == n {
					at = of
				}
			}
		}
		return at, of
	}
	return 1, 1
}
