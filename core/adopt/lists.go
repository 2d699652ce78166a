package adopt

import (
	"ziegel/core/library"
	"ziegel/core/site"
)

// Lists of fields: entries, rows of links, groups.

// listFields are the lists that like entries may fill; others name columns or choices.
var listFields = []string{"items", "groups", "entries", "points", "facts"}

// list fills a list from like entries.
func (f *placing) list(field *library.Field, rd *reading) {
	best, most := (*site.Value)(nil), 0.0
	var taken map[*piece]bool
	for _, p := range f.free(rd, list) {
		used := map[*piece]bool{p: true}
		v := &site.Value{Kind: site.List}
		weight := 0.0
		for _, entry := range p.lists {
			in := f.nested()
			fields := field.Of
			in.placed(fields, entry, false)
			e := in.entry(field)
			empty := e == nil || has(field.Of, "entries") != nil && e.Get("entries") == nil ||
				field.Name == "groups" && has(field.Of, "links") != nil && e.Get("links") == nil
			if empty {
				continue
			}
			v.Items = append(v.Items, e)
			for x := range in.used {
				used[x] = true
				weight += weightOf(x)
			}
		}
		if len(v.Items) > 0 && weight > most {
			best, most, taken = v, weight, used
		}
	}
	if best == nil {
		f.grouped(field, rd)
		return
	}
	f.out[field.Name] = best
	for x := range taken {
		f.used[x] = true
	}
}

// grouped takes a list without groups as the one group of a section that has them.
func (f *placing) grouped(field *library.Field, rd *reading) {
	inner := has(field.Of, "entries")
	if inner == nil {
		return
	}
	one := f.nested()
	for p := range f.used {
		one.used[p] = true
	}
	one.list(inner, rd)
	if one.out["entries"] == nil {
		return
	}
	f.put(field.Name, &site.Value{Kind: site.List, Items: []*site.Value{ordered(field.Of, one.out)}})
	for p := range one.used {
		f.used[p] = true
	}
}

// entry writes what was placed as an entry of a list.
func (f *placing) entry(field *library.Field) *site.Value {
	self := f.out["."]
	if self != nil && len(f.out) == 1 {
		return self
	}
	fields := field.Of
	if whole := field.Whole(); whole != nil {
		fields = whole
		if self != nil {
			f.out["text"] = self
		}
	}
	v := ordered(fields, f.out)
	if len(v.Entries) == 0 {
		return nil
	}
	return v
}

// rows fills rows of links: those of a menu, and the buttons under the words.
func (f *placing) rows(fields []*library.Field, rd *reading) {
	if field := has(fields, "."); field != nil && field.Type == library.Link {
		if l := f.free(rd, link, button); len(l) > 0 {
			f.put(".", l[0].value, l[0])
		}
		return
	}
	if has(fields, "action") != nil {
		if b := f.free(rd, button); len(b) > 0 {
			last := b[len(b)-1]
			f.put("action", last.value, last)
		}
	}
	if has(fields, "links") != nil {
		v := &site.Value{Kind: site.List}
		for _, p := range f.allLinks(rd) {
			v.Items = append(v.Items, p.value)
			f.used[p] = true
		}
		if len(v.Items) > 0 {
			f.out["links"] = v
		}
	}
	if has(fields, "link") != nil && f.out["link"] == nil {
		if l := f.free(rd, link, button); len(l) > 0 {
			f.put("link", l[0].value, l[0])
		}
	}
	if has(fields, "actions") != nil {
		v := &site.Value{Kind: site.List}
		for i, p := range f.free(rd, button, link) {
			if i == 6 {
				break
			}
			one := p.value
			if p.sort == link && len(v.Items) > 0 {
				one = one.Clone()
				setLook(one, "quiet", "")
			}
			v.Items = append(v.Items, one)
			f.used[p] = true
		}
		if len(v.Items) > 0 {
			f.out["actions"] = v
		}
	}
}

// allLinks lists the links of a reading, those in lists of links as well.
func (f *placing) allLinks(rd *reading) []*piece {
	var out []*piece
	for _, p := range rd.pieces {
		switch {
		case f.used[p]:
		case p.sort == link || p.sort == button:
			out = append(out, p)
		case p.sort == list:
			only := true
			var in []*piece
			for _, e := range p.lists {
				for _, x := range e.pieces {
					only = only && (x.sort == link || x.sort == button || x.sort == icon)
					if x.sort == link || x.sort == button {
						in = append(in, x)
					}
				}
			}
			if only {
				out = append(out, in...)
				f.used[p] = true
			}
		}
	}
	return out
}
