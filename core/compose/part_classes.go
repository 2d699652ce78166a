package compose

import (
	"golang.org/x/net/html"

	"ziegel/core/markup"
	"ziegel/core/site"
	"ziegel/core/styles"
)

// styled gives the classes that styles ask for, by part.
func (f *filler) styled() map[string][]partClass {
	if f.classes == nil {
		f.classes = f.partClasses()
	}
	return f.classes
}

// partClasses lists the classes that styles ask for, by part.
func (f *filler) partClasses() map[string][]partClass {
	out := map[string][]partClass{}
	add := func(part string, g partClass) {
		for _, have := range out[part] {
			if have == g {
				return
			}
		}
		out[part] = append(out[part], g)
	}
	c := f.c
	own := func(part string) string { return c.ClassName(f.b, part) }
	collect := func(v *site.Value, class func(string) string, block bool) {
		if v == nil {
			return
		}
		for _, e := range v.Entries {
			t, err := styles.ParseTarget(e.Key)
			if err != nil {
				continue
			}
			var targets []styles.Target
			plain := false
			for _, p := range e.Value.Entries {
				plain = plain || p.Key != "use"
			}
			if plain {
				targets = append(targets, t)
			}
			for _, name := range styles.UsedBy(e.Value) {
				shared, _ := c.Env.SharedStyle(name)
				if shared == nil {
					continue
				}
				if block && t.State+t.At+t.In+t.When == "" {
					add(t.Part, partClass{styles.StyleClass(name), t.Index, t.Place})
				} else {
					targets = append(targets, t)
				}
				for _, x := range shared.Value.Entries {
					tail, err := styles.ParseTail(x.Key)
					if x.Value.Kind != site.Map || err != nil || tail.When == "" && tail.Suffix() == "" {
						continue
					}
					both := t
					if tail.Suffix() != "" {
						both.Index, both.Place = tail.Index, tail.Place
					}
					both.When += tail.When
					targets = append(targets, both)
				}
			}
			for _, t := range targets {
				classOf := class
				if t.When != "" {
					classOf = own
				}
				if t.When != "" && styles.EachItsOwn(t.When) {
					for _, n := range c.Measured.Indexes(f.b.Name, t.Part, t.When) {
						add(t.Part, partClass{classOf(t.Part) + styles.Target{Index: n}.Suffix(), n, ""})
					}
					continue
				}
				add(t.Part, partClass{classOf(t.Part) + t.Suffix(), t.Index, t.Place})
			}
		}
	}
	for _, list := range [][]site.Default{c.Env.Site.Defaults, c.Page.Defaults} {
		if d := site.DefaultFor(list, f.b.Section); d != nil {
			collect(d.Style, func(part string) string { return styles.Slug(f.sec.Name) + "_" + part }, false)
		}
	}
	collect(f.b.Style, own, true)
	return out
}

// listPlaces knows at which place of its list an entry stands, from 1, and how many the list has. Each list is
// counted once.
type listPlaces map[*html.Node][2]int

// of gives the place of the entry that an element belongs to: 1 of 1 when it belongs to none.
func (l listPlaces) of(x *html.Node) (at, of int) {
	for n := x; n != nil; n = n.Parent {
		name, ok := markup.Attr(n, "data-each")
		if !ok || n.Parent == nil {
			continue
		}
		if _, known := l[n]; !known {
			l.count(n.Parent, name)
		}
		return l[n][0], l[n][1]
	}
	return 1, 1
}

// count takes in the entries of one list below a parent.
func (l listPlaces) count(parent *html.Node, name string) {
	var list []*html.Node
	for k := parent.FirstChild; k != nil; k = k.NextSibling {
		if each, ok := markup.Attr(k, "data-each"); ok && each == name {
			list = append(list, k)
		}
	}
	for i, k := range list {
		l[k] = [2]int{i + 1, len(list)}
	}
}
