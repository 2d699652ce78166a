package handover

import (
	"slices"
	"strconv"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/draw"
)

func (m *maker) record() {
	r := Record{Tokens: map[string]string{}, Blocks: map[string]string{}, Shown: map[string]string{}}
	for _, k := range m.e.Theme.Tokens {
		r.Tokens[k.Name] = k.Value
		if k.Dark != "" {
			r.Tokens[k.Name] += " / " + k.Dark
		}
	}
	for _, p := range m.book.Pages {
		for _, b := range p.Blocks {
			r.Blocks[m.address(p, b)] = b.Section + " " + sumOf([]byte(b.HTML)) + " " + sumOf([]byte(b.CSS))
		}
	}
	for file, data := range m.book.Files {
		if strings.HasPrefix(file, "pictures/") {
			r.Shown[file] = sumOf(data)
		}
	}
	shared := m.e.Theme.CSS() + m.e.Base
	for _, p := range m.book.Pictures {
		data, _ := m.e.MediaFile(strings.TrimPrefix(p.File, "media/"))
		shared += p.File + sumOf(data)
	}
	r.Shared = sumOf([]byte(shared))
	m.book.Record = r
}

func (m *maker) address(p *Page, b *Block) string {
	if b.Everywhere {
		return "every page/" + b.Name
	}
	return p.Name + "/" + b.Name
}

// compare tells what has changed since the last handover.
func (m *maker) compare(last *Last) {
	if last == nil {
		return
	}
	now := m.book.Record
	m.book.Since = last.Day
	for _, name := range both(last.Tokens, now.Tokens) {
		was, is := last.Tokens[name], now.Tokens[name]
		switch {
		case was == is:
		case was == "":
			m.change(name, "new: "+is, "")
		case is == "":
			m.change(name, "gone; it was "+was, "")
		default:
			m.change(name, was+" → "+is, "")
		}
	}
	pictures := map[string][]Shown{}
	for _, p := range m.book.Pages {
		for _, b := range p.Blocks {
			pictures[m.address(p, b)] = b.Seen
		}
	}
	for _, name := range both(last.Blocks, now.Blocks) {
		was, is := last.Blocks[name], now.Blocks[name]
		switch {
		case was == "":
			m.change(name, "new", first(pictures[name]))
		case is == "":
			m.change(name, "gone", "")
		default:
			how := differs(was, is)
			if how == "" && last.Shared == now.Shared {
				continue
			}
			var at []string
			file := ""
			for _, shown := range pictures[name] {
				if !m.looksAsItDid(shown.File, last) {
					at, file = append(at, strconv.Itoa(shown.Width)), shown.File // the widest stands for all
				}
			}
			switch {
			case file != "":
				m.before(name, strings.TrimPrefix(how+", looks otherwise at "+diag.And(at), ", "), file, last)
			case how != "":
				m.change(name, how+"; it looks as it did", "")
			}
		}
	}
}

// looksAsItDid reports whether a picture shows what that of the last time does.
func (m *maker) looksAsItDid(file string, last *Last) bool {
	if last.Shown[file] == m.book.Record.Shown[file] {
		return true
	}
	was, ok := last.Picture(file)
	return ok && draw.Same(was, m.book.Files[file])
}

// differs says in which of section, markup and styles two records of a block differ.
func differs(was, is string) string {
	a, b := strings.Fields(was), strings.Fields(is)
	if len(a) != 3 || len(b) != 3 {
		return "changed"
	}
	var out []string
	for i, what := range []string{"section " + a[0] + " → " + b[0], "markup", "styles"} {
		if a[i] != b[i] {
			out = append(out, what)
		}
	}
	return strings.Join(out, ", ")
}

func (m *maker) change(what, how, after string) {
	m.book.Changes = append(m.book.Changes, Change{What: what, How: how, After: after})
}

// before tells of a change that shows, with the picture of the last time beside that of now.
func (m *maker) before(what, how, file string, last *Last) {
	c := Change{What: what, How: how, After: file}
	if data, ok := last.Picture(file); ok && sumOf(data) == last.Shown[file] {
		c.Before = "before/" + strings.TrimPrefix(file, "pictures/")
		m.book.Files[c.Before] = data
	}
	m.book.Changes = append(m.book.Changes, c)
}

func first(list []Shown) string {
	if len(list) == 0 {
		return ""
	}
	return list[len(list)-1].File
}

// both lists the keys of two maps in order.
func both(a, b map[string]string) (out []string) {
	for k := range a {
		out = append(out, k)
	}
	for k := range b {
		if _, ok := a[k]; !ok {
			out = append(out, k)
		}
	}
	slices.Sort(out)
	return out
}
