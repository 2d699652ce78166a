package edit

import (
	"fmt"
	"slices"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/media"
	"ziegel/core/site"
)

// meanings are names that people give columns, by the field that they mean. A column that is a field, or the part that
// shows one, is that; of the others the first whose list has the name.
var meanings = []struct{ field, names string }{
	{"title", "name heading headline product plan person who question label"},
	{"text", "description quote answer words content body summary bio testimonial details title"},
	{"role", "position job function company occupation"},
	{"media", "picture photo image img portrait file"},
	{"media.alt", "alt alt-text alternative-text picture-alt photo-alt image-alt"},
	{"media.focus", "focus"},
	{"link.label", "button button-text link-text link-label"},
	{"link.to", "link url href address target website button-link link-url link-to"},
	{"label", "title text name link-text"},
	{"to", "link url href address target website"},
	{"price", "cost amount fee"},
	{"unit", "per"},
	{"points", "features includes included bullets list"},
	{"icon", "symbol"},
	{"meta", "date when"},
	{"note", "remark"},
	{".", "points point item text title name"},
}

// meant lists the fields that a column's name may mean, the likeliest first.
func meant(column string) []string {
	written := strings.ToLower(strings.TrimSpace(column))
	out := []string{written}
	word := strings.ReplaceAll(media.Slug(written), "_", "-")
	if word != written {
		out = append(out, word)
	}
	for _, m := range meanings {
		if slices.Contains(strings.Fields(m.names), word) {
			out = append(out, m.field)
		}
	}
	return out
}

// column is a column of a table that fills a field of an entry.
type column struct {
	at    int       // in the rows
	path  site.Path // inside an entry
	field *library.Field
	name  string
}

// into tells where the values of a column that is one of a list's go: points for points[2].
func (c column) into() (site.Path, bool) {
	for i, st := range c.path {
		if st.Key == "" {
			return c.path[:i], true
		}
	}
	return c.path, c.field != nil && c.field.Type == library.ListOf
}

// filling is the work of filling a list from a table.
type filling struct {
	s     *setter
	name  string // of the list
	field *library.Field
	from  *records
	cols  []column
	old   []*site.Value // the entries that the page has
}

// table fills a list from a file. An entry that the page has already, by its title, keeps what the table does not
// speak of.
func (s *setter) table(name, file string, pictures Pictures) error {
	field := s.sec.Field(name)
	if field == nil || field.Type != library.ListOf {
		var lists []string
		for _, f := range s.sec.Fields {
			if f.Type == library.ListOf {
				lists = append(lists, f.Name)
			}
		}
		return diag.Unknown("list", name, lists, " in "+s.sec.Name)
	}
	from, err := readRecords(s.p.dir, file)
	if err != nil {
		return err
	}
	f := &filling{s: s, name: name, field: field, from: from}
	if list := s.current(site.Keys(s.content, name)); list != nil && list.Kind == site.List {
		f.old = list.Items
	}
	s.p.note("%s: %s from %s", name, entries(len(from.rows)), file)
	if from.note != "" {
		s.p.note("%s", from.note)
	}
	if err := f.match(); err != nil {
		return err
	}
	taken := make([]bool, len(f.old))
	var rows []*site.Value
	was := make([]int, len(from.rows))
	for i, row := range from.rows {
		was[i] = f.known(row, taken)
		var old *site.Value
		if was[i] >= 0 {
			taken[was[i]] = true
			old = f.old[was[i]]
		}
		entry, err := f.entry(row, old, from.lines[i])
		if err != nil {
			return err
		}
		rows = append(rows, entry)
	}
	if err := pictures.put(s.p, field, rows); err != nil {
		return err
	}
	var gone []string
	for i, t := range taken {
		if !t {
			gone = append(gone, calledValue(f.old[i], fmt.Sprintf("%s[%d]", name, i+1)))
		}
	}
	if len(gone) > 0 {
		s.p.note("gone: entries that the table has not: %s", strings.Join(gone, ", "))
	}
	return f.write(rows, was)
}

// match finds the fields that columns mean. Those that mean none are told; a table whose columns all mean none is
// refused.
func (f *filling) match() error {
	var unused, told []string
	taken := map[string]string{}
	for i, header := range f.from.columns {
		c, ok := f.column(header)
		if !ok {
			unused = append(unused, header)
			continue
		}
		if first := taken[c.path.String()]; first != "" {
			return fmt.Errorf("%s: the columns %s and %s both mean %s of %s: rename one", f.from.file, first, header,
				c.name, f.name)
		}
		taken[c.path.String()] = header
		if c.name != strings.ToLower(strings.TrimSpace(header)) {
			told = append(told, header+" is "+c.name)
		}
		c.at = i
		f.cols = append(f.cols, c)
	}
	if len(f.cols) == 0 {
		return fmt.Errorf("%s: no column is a field of %s; its fields are %s", f.from.file, f.name,
			strings.Join(f.names(), ", "))
	}
	if len(told) > 0 {
		f.s.p.note("read by meaning: %s", strings.Join(told, ", "))
	}
	if len(unused) > 0 {
		f.s.p.note("left over: columns that %s does not show: %s", f.name, strings.Join(unused, ", "))
	}
	return nil
}

// names lists what columns may be called.
func (f *filling) names() []string {
	var out []string
	for _, x := range f.field.Of {
		switch {
		case x.Name == "." && x.Type == library.Link:
			out = append(out, "label", "to")
		case x.Name == ".":
			out = append(out, f.name)
		case x.Type == library.Link:
			out = append(out, x.Name+".label", x.Name+".to")
		default:
			out = append(out, x.Name)
		}
	}
	return out
}

// column reads the name of a column.
func (f *filling) column(header string) (column, bool) {
	for _, name := range meant(header) {
		entry := f.name + "[1]"
		if name == "." || name == f.name {
			if self := f.field.Find("."); self != nil && self.Type == library.RichText {
				return column{field: self, name: f.name}, true
			}
			continue
		}
		path, field, err := f.s.resolve(entry + "." + name)
		if err != nil || strings.Contains(name, " at ") {
			continue
		}
		inside := path[len(f.s.content)+2:]
		return column{path: inside, field: field, name: site.Path(inside).String()}, true
	}
	return column{}, false
}

// known finds the entry of the page that a row is about: that with its first words, -1 for none.
func (f *filling) known(row []*site.Value, taken []bool) int {
	for _, c := range f.cols {
		if len(c.path) > 1 || c.field == nil || c.field.Type != library.RichText && c.name != "label" {
			continue
		}
		if c.name != "title" && c.name != "label" && f.field.Find("title") != nil {
			continue
		}
		for i, old := range f.old {
			if row[c.at] != nil && !taken[i] && valueAt(old, c.path).Str() == row[c.at].Str() {
				return i
			}
		}
		return -1
	}
	return -1
}

// entry makes an entry of a row; old is what the page has of it, nil for nothing.
func (f *filling) entry(row []*site.Value, old *site.Value, line int) (*site.Value, error) {
	if len(f.cols[0].path) == 0 { // the entry itself is the value
		if v := row[f.cols[0].at]; v != nil {
			return v, nil
		}
		return site.NewText(""), nil
	}
	entry := &site.Value{Kind: site.Map}
	if old != nil && old.Kind == site.Map {
		entry = old.Clone()
	}
	cleared := map[string]bool{}
	for _, c := range f.cols {
		v := row[c.at]
		if v == nil && f.from.partial {
			continue
		}
		if list, ok := c.into(); ok {
			if !cleared[list.String()] {
				cleared[list.String()] = true
				remove(entry, list)
			}
			if v == nil {
				continue
			}
			if err := f.list(entry, list, c, v); err != nil {
				return nil, err
			}
			continue
		}
		if v == nil {
			remove(entry, c.path)
			continue
		}
		v, err := f.cell(c, v, entry, line)
		if err != nil {
			return nil, err
		}
		if err := site.Apply(entry, site.Edit{Op: site.Set, Path: c.path, Value: v}); err != nil {
			return nil, f.from.problem(line, err.Error(), "")
		}
	}
	return entry, nil
}

// list adds the value of a column to a list inside an entry: one entry for points[2], several for points.
func (f *filling) list(entry *site.Value, list site.Path, c column, v *site.Value) error {
	have := valueAt(entry, list)
	n := 0
	if have != nil {
		n = len(have.Items)
	}
	set := func(path site.Path, v *site.Value) error {
		return site.Apply(entry, site.Edit{Op: site.Set, Path: path, Value: v})
	}
	if len(c.path) > len(list) {
		rest := c.path[len(list)+1:]
		i := n
		if want := c.path[len(list)].Index; len(rest) > 0 && want < n { // another field of an entry that has begun
			i = want
		}
		return set(site.Keys(list, i, site.Path(rest)), v)
	}
	if v.Kind == site.List {
		return set(list, v)
	}
	for _, part := range strings.FieldsFunc(v.Str(), func(r rune) bool { return r == '|' || r == '\n' }) {
		if part = strings.TrimSpace(part); part != "" {
			if err := set(site.Keys(list, n), site.NewText(part)); err != nil {
				return err
			}
			n++
		}
	}
	return nil
}

// cell makes the value of a field from what a cell says.
func (f *filling) cell(c column, v, entry *site.Value, line int) (*site.Value, error) {
	if last := c.path[len(c.path)-1]; c.field == nil && last.Key == "file" && v.Kind == site.Text {
		return site.NewText(strings.TrimPrefix(v.Str(), "media/")), nil
	}
	if c.field == nil || v.Kind != site.Text {
		return v, nil
	}
	switch c.field.Type {
	case library.Picture:
		name := strings.TrimPrefix(v.Str(), "media/")
		if old := valueAt(entry, c.path); old.Get("file").Str() == name {
			return old, nil // with its alternative text and focus
		}
		return site.NewMap("file", site.NewText(name)), nil
	case library.Link:
		if label, to, ok := strings.Cut(strings.TrimSuffix(strings.TrimPrefix(v.Str(), "["), ")"), "]("); ok {
			return site.NewMap("label", site.NewText(label), "to", site.NewText(to)), nil
		}
		old := valueAt(entry, c.path)
		if to := old.Get("to"); to != nil {
			return site.NewMap("label", v, "to", to), nil
		}
		return nil, f.from.problem(line, fmt.Sprintf("%q is one of two things that a link needs", v.Str()),
			fmt.Sprintf("columns %s.label and %s.to, or [Label](page) in the cell", c.name, c.name))
	}
	return v, nil
}

// write puts the entries into the page. When they are those that stand there, in their order, only what differs is
// written.
func (f *filling) write(rows []*site.Value, was []int) error {
	list := site.Keys(f.s.content, f.name)
	same := len(rows) == len(f.old) && len(rows) > 0
	for i, k := range was {
		same = same && k == i
	}
	if !same {
		return f.s.edit(list, &site.Value{Kind: site.List, Items: rows})
	}
	for i, row := range rows {
		if err := f.differing(site.Keys(list, i), f.old[i].Clone(), row); err != nil {
			return err
		}
	}
	return nil
}

func (f *filling) differing(at site.Path, old, now *site.Value) error {
	if old.Equal(now) {
		return nil
	}
	if old.Kind != site.Map || now.Kind != site.Map {
		return f.s.edit(at, now)
	}
	for _, e := range now.Entries {
		path := site.Keys(at, e.Key)
		if have := old.Get(e.Key); have == nil {
			if err := f.s.edit(path, e.Value); err != nil {
				return err
			}
		} else if err := f.differing(path, have, e.Value); err != nil {
			return err
		}
	}
	for _, e := range old.Entries {
		if now.Get(e.Key) == nil {
			gone := site.Edit{Op: site.Delete, Path: site.Keys(at, e.Key)}
			f.s.p.edit(f.s.file, gone)
			if err := site.Apply(f.s.root, gone); err != nil {
				return err
			}
		}
	}
	return nil
}

// valueAt gives the value at a path inside another, nil when there is none.
func valueAt(v *site.Value, path site.Path) *site.Value {
	for _, st := range path {
		switch {
		case v == nil:
			return nil
		case st.Key != "":
			v = v.Get(st.Key)
		case v.Kind == site.List && st.Index < len(v.Items):
			v = v.Items[st.Index]
		default:
			return nil
		}
	}
	return v
}

// remove takes the value at a path out of another, if it is there.
func remove(v *site.Value, path site.Path) {
	if valueAt(v, path) != nil {
		_ = site.Apply(v, site.Edit{Op: site.Delete, Path: path}) // it is there
	}
}
