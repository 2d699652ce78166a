package edit

import (
	"fmt"
	"slices"
	"strings"

	"ziegel/core/library"
	"ziegel/core/site"
	"ziegel/core/words"
)

// word sets one text of a block. A link without a target is not set.
func (s *setter) word(c words.Change) (bool, error) {
	path, _, err := s.resolve(c.Path)
	if err != nil {
		return false, err
	}
	switch c.Kind {
	case words.Picture:
		return true, s.seeded(site.Keys(path, "alt"), site.NewText(c.Is))
	case words.Link:
		old := s.current(path)
		to := c.To
		if to == "" {
			to = old.Get("to").Str()
		}
		if to == "" || to == "#" {
			return false, nil
		}
		if old == nil && c.Sample && len(path) == len(s.content)+1 {
			return true, s.edit(path, site.NewMap("label", site.NewText(c.Is), "to", site.NewText(s.linkTo(to))))
		}
		if err := s.seeded(site.Keys(path, "label"), site.NewText(c.Is)); err != nil {
			return false, err
		}
		if c.To == "" {
			return true, nil
		}
		return true, s.seeded(site.Keys(path, "to"), site.NewText(s.linkTo(c.To)))
	}
	if old := s.current(path); old != nil && old.Kind == site.Map { // an entry that is a text mostly
		path = site.Keys(path, "text")
	}
	return true, s.seeded(path, site.NewText(c.Is))
}

// reorder puts the entries of a list in another order and adds new ones. It gives what it did, and the words of new
// entries that could not be taken.
func (s *setter) reorder(r words.Reorder) (string, []string, error) {
	path, field, err := s.resolve(r.Path)
	if err != nil {
		return "", nil, err
	}
	if s.current(path) == nil {
		if err := s.seed(path); err != nil {
			return "", nil, err
		}
	}
	have := s.current(path)
	list := &site.Value{Kind: site.List}
	var lost []string
	fresh, moved := 0, false
	to := map[int]int{}
	for i, it := range r.Items {
		if it.From >= 0 {
			moved = moved || it.From != i-fresh
			to[it.From] = len(list.Items)
			list.Items = append(list.Items, have.Items[it.From])
			continue
		}
		v, left := newEntryOf(field, it)
		lost = append(lost, left...)
		if v == nil {
			continue
		}
		fresh++
		list.Items = append(list.Items, v)
	}
	if err := s.edit(path, list); err != nil {
		return "", nil, err
	}
	e := &entry{setter: s, list: path, n: len(have.Items)}
	e.renumber(func(i int) int {
		if k, ok := to[i]; ok {
			return k
		}
		return i
	})
	var did []string
	if fresh > 0 {
		did = append(did, fmt.Sprintf("%d new", fresh))
	}
	if moved {
		did = append(did, "in another order")
	}
	return strings.Join(did, ", "), lost, nil
}

// newEntryOf makes an entry of the words of one, nil when there are none to take, and gives those that it cannot take.
func newEntryOf(f *library.Field, it words.Item) (*site.Value, []string) {
	var lost []string
	out := &site.Value{Kind: site.Map}
	for _, c := range it.Texts {
		v := site.NewText(c.Is)
		switch {
		case c.Kind == words.Link && (c.To == "" || c.To == "#"), c.Kind == words.Picture && c.To == "":
			lost = append(lost, c.Is)
			continue
		case c.Kind == words.Link:
			v = site.NewMap("label", site.NewText(c.Is), "to", site.NewText(c.To))
		case c.Kind == words.Picture:
			v = site.NewMap("file", site.NewText(c.To), "alt", site.NewText(c.Is))
		}
		if c.Path == "." {
			return v, lost
		}
		out.Entries = append(out.Entries, site.Entry{Key: c.Path, Value: v})
	}
	for _, l := range it.Lists {
		inner := f.Find(l.Path)
		if inner == nil {
			continue
		}
		list := &site.Value{Kind: site.List}
		for _, x := range l.Items {
			v, left := newEntryOf(inner, x)
			lost = append(lost, left...)
			if v != nil {
				list.Items = append(list.Items, v)
			}
		}
		if len(list.Items) > 0 {
			out.Entries = append(out.Entries, site.Entry{Key: l.Path, Value: list})
		}
	}
	if len(out.Entries) == 0 {
		return nil, lost
	}
	return out, lost
}

// keepAside adds words to those that a block keeps and does not show.
func (s *setter) keepAside(list []string) error {
	path := site.Keys(s.b.Path, "parked", site.AsideKey)
	all := &site.Value{Kind: site.List}
	if have := s.current(path); have != nil && have.Kind == site.List {
		all.Items = append(all.Items, have.Items...)
	}
	for _, text := range list {
		if !slices.ContainsFunc(all.Items, func(v *site.Value) bool { return v.Str() == text }) {
			all.Items = append(all.Items, site.NewText(text))
		}
	}
	return s.edit(path, all)
}
