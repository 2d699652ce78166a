package edit

import (
	"fmt"
	"slices"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/site"
	"ziegel/core/styles"
)

// Replace makes a block of another section.
func Replace(p *Plan, arg, name string) error {
	page, b, err := blockArg(p, arg)
	if err != nil {
		return err
	}
	sec := p.Env.Library.Section(name)
	if sec == nil {
		return diag.Unknown("section", name, p.Env.Library.Names(), "")
	}
	if sec.Name == b.Section {
		return fmt.Errorf("%s/%s is made of %s already", page.Name, b.Name, sec.Name)
	}
	ReplaceSection(p, page, b, sec)
	return nil
}

// ReplaceSection plans the edits that make a block of another section.
func ReplaceSection(p *Plan, page *site.Page, b *site.Block, sec *library.Section) {
	r := refit(p, b, b.Node.Clone(), sec)
	p.Done = fmt.Sprintf("made %s/%s of %s (was %s)", page.Name, b.Name, sec.Name, b.Section)
	if len(r.put) > 0 {
		p.Parked = r.put
		p.note("parked, because %s does not show it: %s", sec.Name, strings.Join(r.put, ", "))
	}
	if len(r.back) > 0 {
		p.note("back from parked: %s", strings.Join(r.back, ", "))
	}
	p.Touch(page.Name, b.Name)
}

// refit plans the edits that make a block what now says, as far as a section shows it. The rest is parked.
func refit(p *Plan, b *site.Block, now *site.Value, sec *library.Section) *replacing {
	r := &replacing{sec: sec, parked: b.Parked.Clone()}
	if r.parked == nil || r.parked.Kind != site.Map {
		r.parked = &site.Value{Kind: site.Map}
	}
	put(now, "section", site.NewText(sec.Name))
	if c := r.content(now.Get("content")); len(c.Entries) > 0 || now.Get("content") != nil {
		put(now, "content", c)
	}
	put(now, "options", r.keyed("options", now.Get("options"), func(key string, v *site.Value) bool {
		name, at, _ := strings.Cut(key, " at ")
		o := sec.Option(strings.TrimSpace(name))
		return o != nil && (o.Type != "choice" || at == "" && slices.Contains(o.Choices, v.Str()))
	}))
	put(now, "style", r.keyed("style", now.Get("style"), func(key string, _ *site.Value) bool {
		t, err := styles.ParseTarget(key)
		return err == nil && styles.HasPart(sec, t.Part)
	}))
	if h := now.Get("holds"); h != nil || r.parked.Get("holds") != nil {
		put(now, "holds", r.keyed("holds", h, func(key string,
			_ *site.Value) bool {
			return slices.Contains(sec.SlotNames(), key)
		}))
	}
	if w := now.Get("without"); w != nil {
		keep := &site.Value{Kind: site.List}
		for _, it := range w.Items {
			if sec.Field(it.Str()) != nil {
				keep.Items = append(keep.Items, it)
			}
		}
		if len(keep.Items) < len(w.Items) {
			put(now, "without", keep)
		}
	}
	put(now, "parked", r.parked)
	for _, key := range []string{"content", "options", "style", "without", "holds", "parked"} {
		if now.Get(key).Empty() {
			drop(now, key)
		}
	}
	for _, e := range difference(b.Path, b.Node, now) {
		p.edit(b.File.Path, e)
	}
	return r
}

// replacing sorts what a block has into what another section shows and what is parked.
type replacing struct {
	sec       *library.Section
	parked    *site.Value
	put, back []string
}

func drop(m *site.Value, key string) {
	m.Entries = slices.DeleteFunc(m.Entries, func(e site.Entry) bool { return e.Key == key })
}

// fits reports whether a field takes a value. Entries of a list have to be of its kind; which of their fields it
// shows is not asked.
func fits(f *library.Field, v *site.Value) bool {
	if f == nil {
		return false
	}
	switch f.Type {
	case library.ListOf:
		self := f.Find(".")
		return v.Empty() || v.Kind == site.List && !slices.ContainsFunc(v.Items, func(it *site.Value) bool {
			return self != nil && !fits(self, it) || self == nil && it.Kind != site.Map
		})
	case library.Link:
		return v.Kind == site.Map && v.Get("file") == nil || v.Empty()
	case library.Picture:
		return v.Kind == site.Text || v.Kind == site.Map && v.Get("label") == nil
	}
	return v.Kind == site.Text || v.Kind == site.Null
}

// shows reports whether a field takes a value with all that is in it.
func shows(f *library.Field, v *site.Value) bool {
	if !fits(f, v) {
		return false
	}
	if f.Type != library.ListOf || f.Find(".") != nil {
		return true
	}
	for _, it := range v.Items {
		if slices.ContainsFunc(it.Entries, func(e site.Entry) bool { return !shows(f.Find(e.Key), e.Value) }) {
			return false
		}
	}
	return true
}

// shelf gives the parked map of a kind, made when it is not there.
func (r *replacing) shelf(kind string) *site.Value {
	v := r.parked.Get(kind)
	if v == nil || v.Kind != site.Map {
		v = &site.Value{Kind: site.Map}
		put(r.parked, kind, v)
	}
	return v
}

func (r *replacing) tidy(kind string) {
	if r.parked.Get(kind).Empty() {
		drop(r.parked, kind)
	}
}

// content keeps the fields that the section shows, and brings parked ones back.
func (r *replacing) content(have *site.Value) *site.Value {
	out := &site.Value{Kind: site.Map}
	shelf := r.shelf("content")
	if have != nil {
		for _, e := range have.Entries {
			f := r.sec.Field(e.Key)
			if !fits(f, e.Value) {
				put(shelf, e.Key, e.Value)
				r.put = append(r.put, e.Key)
				continue
			}
			if f.Type == library.ListOf && e.Value.Kind == site.List {
				e.Value = r.entries(e.Key, f, e.Value, shelf)
			}
			out.Entries = append(out.Entries, e)
		}
	}
	for _, e := range slices.Clone(shelf.Entries) {
		if f := r.sec.Field(e.Key); out.Get(e.Key) == nil && fits(f, e.Value) && !strings.Contains(e.Key, " of ") {
			drop(shelf, e.Key)
			out.Entries = append(out.Entries, e)
			r.back = append(r.back, e.Key)
		}
	}
	r.tidy("content")
	return out
}

// entries does the same for the fields of a list's entries. What they cannot show is parked as "price of items", one
// value for each.
func (r *replacing) entries(name string, f *library.Field, list, shelf *site.Value) *site.Value {
	if f.Find(".") != nil {
		return list
	}
	out := &site.Value{Kind: site.List}
	for _, it := range list.Items {
		out.Items = append(out.Items, it.Clone())
	}
	lost := map[string]bool{}
	var order []string
	for _, it := range out.Items {
		for _, e := range slices.Clone(it.Entries) {
			if !shows(f.Find(e.Key), e.Value) {
				if !lost[e.Key] {
					lost[e.Key] = true
					order = append(order, e.Key)
				}
			}
		}
	}
	for _, key := range order {
		column := &site.Value{Kind: site.List}
		for _, it := range out.Items {
			v := it.Get(key)
			if v == nil {
				v = site.NewText("")
			}
			column.Items = append(column.Items, v.Clone())
			drop(it, key)
		}
		put(shelf, key+" of "+name, column)
		r.put = append(r.put, key+" of "+name)
	}
	for _, e := range slices.Clone(shelf.Entries) {
		key, of, ok := strings.Cut(e.Key, " of ")
		elsewhere := !ok || of != name || f.Find(key) == nil || lost[key] || e.Value.Kind != site.List
		if elsewhere {
			continue
		}
		for i, it := range out.Items {
			if i < len(e.Value.Items) && !e.Value.Items[i].Empty() && it.Kind == site.Map && it.Get(key) == nil {
				it.Entries = append(it.Entries, site.Entry{Key: key, Value: e.Value.Items[i]})
			}
		}
		drop(shelf, e.Key)
		r.back = append(r.back, e.Key)
	}
	return out
}

// keyed keeps the entries of a map that the section understands.
func (r *replacing) keyed(kind string, have *site.Value, ok func(key string, v *site.Value) bool) *site.Value {
	out := &site.Value{Kind: site.Map}
	shelf := r.shelf(kind)
	if have != nil {
		for _, e := range have.Entries {
			if ok(e.Key, e.Value) {
				out.Entries = append(out.Entries, e)
				continue
			}
			put(shelf, e.Key, e.Value)
			r.put = append(r.put, kind+" "+e.Key)
		}
	}
	for _, e := range slices.Clone(shelf.Entries) {
		if out.Get(e.Key) == nil && ok(e.Key, e.Value) {
			drop(shelf, e.Key)
			out.Entries = append(out.Entries, e)
			r.back = append(r.back, kind+" "+e.Key)
		}
	}
	r.tidy(kind)
	return out
}

// difference gives the smallest edits that turn one map into another.
func difference(at site.Path, old, now *site.Value) []site.Edit {
	var out []site.Edit
	for _, e := range now.Entries {
		was := old.Get(e.Key)
		path := append(slices.Clone(at), site.Keys(e.Key)...)
		switch {
		case was.Equal(e.Value):
		case was != nil && was.Kind == site.Map && e.Value.Kind == site.Map && len(e.Value.Entries) > 0 &&
			len(was.Entries) > 0:
			out = append(out, difference(path, was, e.Value)...)
		case was != nil && was.Kind == site.List && e.Value.Kind == site.List &&
			len(was.Items) == len(e.Value.Items) && allMaps(was) && allMaps(e.Value):
			for i := range was.Items {
				out = append(out, difference(append(slices.Clone(path), site.Keys(i)...), was.Items[i],
					e.Value.Items[i])...)
			}
		default:
			out = append(out, site.Edit{Op: site.Set, Path: path, Value: e.Value})
		}
	}
	for _, e := range old.Entries {
		if now.Get(e.Key) == nil {
			out = append(out, site.Edit{Op: site.Delete, Path: append(slices.Clone(at), site.Keys(e.Key)...)})
		}
	}
	return out
}

func allMaps(v *site.Value) bool {
	return !slices.ContainsFunc(v.Items, func(it *site.Value) bool {
		return it.Kind != site.Map ||
			len(it.Entries) == 0
	})
}
