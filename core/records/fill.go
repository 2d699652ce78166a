package records

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

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

// Column is a column of a table that fills a field of an entry.
type Column struct {
	At    int       // in the rows
	Path  site.Path // inside an entry
	Field *library.Field
	Name  string
}

// into tells where the values of a column that is one of a list's go: points for points[2].
func (c Column) into() (site.Path, bool) {
	for i, st := range c.Path {
		if st.Key == "" {
			return c.Path[:i], true
		}
	}
	return c.Path, c.Field != nil && c.Field.Type == library.ListOf
}

// Filling is a list that is filled from records.
type Filling struct {
	Name  string // of the list
	Field *library.Field
	From  *Records
	Cols  []Column
	Alias func(part string) string // the field that a part shows, "" for none; may be nil
	Notes []string                 // what was read by meaning, and what is left over
}

// Match finds the fields that columns mean. Those that mean none are told; a table whose columns all mean none is
// refused.
func (f *Filling) Match() error {
	var unused, told []string
	taken := map[string]string{}
	for i, header := range f.From.Columns {
		c, ok := f.column(header)
		if !ok {
			unused = append(unused, header)
			continue
		}
		if first := taken[c.Path.String()]; first != "" {
			return fmt.Errorf("%s: the columns %s and %s both mean %s of %s: rename one", f.From.File, first, header,
				c.Name, f.Name)
		}
		taken[c.Path.String()] = header
		if c.Name != strings.ToLower(strings.TrimSpace(header)) {
			told = append(told, header+" is "+c.Name)
		}
		c.At = i
		f.Cols = append(f.Cols, c)
	}
	if len(f.Cols) == 0 {
		return fmt.Errorf("%s: no column is a field of %s; its fields are %s", f.From.File, f.Name,
			strings.Join(f.names(), ", "))
	}
	if len(told) > 0 {
		f.Notes = append(f.Notes, "read by meaning: "+strings.Join(told, ", "))
	}
	if len(unused) > 0 {
		f.Notes = append(
			f.Notes,
			fmt.Sprintf("left over: columns that %s does not show: %s", f.Name, strings.Join(unused, ", ")),
		)
	}
	return nil
}

// names lists what columns may be called.
func (f *Filling) names() []string {
	var out []string
	for _, x := range f.Field.Of {
		switch {
		case x.Name == "." && x.Type == library.Link:
			out = append(out, "label", "to")
		case x.Name == ".":
			out = append(out, f.Name)
		case x.Type == library.Link:
			out = append(out, x.Name+".label", x.Name+".to")
		default:
			out = append(out, x.Name)
		}
	}
	return out
}

// column reads the name of a column.
func (f *Filling) column(header string) (Column, bool) {
	for _, name := range meant(header) {
		if name == "." || name == f.Name {
			if self := f.Field.Find("."); self != nil && self.Type == library.RichText {
				return Column{Field: self, Name: f.Name}, true
			}
			continue
		}
		if path, field, ok := f.resolve(name); ok {
			return Column{Path: path, Field: field, Name: path.String()}, true
		}
	}
	return Column{}, false
}

var step = regexp.MustCompile(`^([a-z][a-z0-9-]*)(?:\[(\d+)\])?$`)

// pieces are what links and pictures are made of.
var pieces = map[library.FieldType][]string{
	library.Link:    {"label", "to", "look"},
	library.Picture: {"file", "alt", "focus"},
}

// resolve finds a field of an entry: title, link.label, points[2].
func (f *Filling) resolve(name string) (site.Path, *library.Field, bool) {
	fields := f.Field.Of
	var field *library.Field
	if self := f.Field.Find("."); self != nil {
		field, fields = self, f.Field.Whole()
	}
	var path site.Path
	for _, part := range strings.Split(name, ".") {
		m := step.FindStringSubmatch(part)
		if m == nil {
			return nil, nil, false
		}
		if field != nil && slices.Contains(pieces[field.Type], m[1]) {
			return site.Keys(path, m[1]), nil, true
		}
		find := func(name string) bool {
			i := slices.IndexFunc(fields, func(x *library.Field) bool { return x.Name == name })
			if i >= 0 {
				field, m[1] = fields[i], name
			}
			return i >= 0
		}
		if !find(m[1]) && (f.Alias == nil || f.Alias(m[1]) == "" || !find(f.Alias(m[1]))) {
			return nil, nil, false
		}
		path = site.Keys(path, m[1])
		if m[2] == "" {
			fields = nil
			continue
		}
		n, _ := strconv.Atoi(m[2])
		if field.Type != library.ListOf || n == 0 {
			return nil, nil, false
		}
		path, fields = site.Keys(path, n-1), field.Of
		if self := field.Find("."); self != nil {
			field, fields = self, field.Whole()
		}
	}
	return path, field, true
}

// Entry makes an entry of a row; old is what the page has of it, nil for nothing.
func (f *Filling) Entry(row []*site.Value, old *site.Value, line int) (*site.Value, error) {
	if len(f.Cols[0].Path) == 0 { // the entry itself is the value
		if v := row[f.Cols[0].At]; v != nil {
			return v, nil
		}
		return site.NewText(""), nil
	}
	entry := &site.Value{Kind: site.Map}
	if old != nil && old.Kind == site.Map {
		entry = old.Clone()
	}
	cleared := map[string]bool{}
	for _, c := range f.Cols {
		v := row[c.At]
		if v == nil && f.From.Partial {
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
			remove(entry, c.Path)
			continue
		}
		v, err := f.cell(c, v, entry, line)
		if err != nil {
			return nil, err
		}
		if err := site.Apply(entry, site.Edit{Op: site.Set, Path: c.Path, Value: v}); err != nil {
			return nil, f.From.Problem(line, err.Error(), "")
		}
	}
	return entry, nil
}

// list adds the value of a column to a list inside an entry: one entry for points[2], several for points.
func (f *Filling) list(entry *site.Value, list site.Path, c Column, v *site.Value) error {
	have := ValueAt(entry, list)
	n := 0
	if have != nil {
		n = len(have.Items)
	}
	set := func(path site.Path, v *site.Value) error {
		return site.Apply(entry, site.Edit{Op: site.Set, Path: path, Value: v})
	}
	if len(c.Path) > len(list) {
		rest := c.Path[len(list)+1:]
		i := n
		if want := c.Path[len(list)].Index; len(rest) > 0 && want < n { // another field of an entry that has begun
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
func (f *Filling) cell(c Column, v, entry *site.Value, line int) (*site.Value, error) {
	if last := c.Path[len(c.Path)-1]; c.Field == nil && last.Key == "file" && v.Kind == site.Text {
		return site.NewText(strings.TrimPrefix(v.Str(), "media/")), nil
	}
	if c.Field == nil || v.Kind != site.Text {
		return v, nil
	}
	switch c.Field.Type {
	case library.Picture:
		name := strings.TrimPrefix(v.Str(), "media/")
		if old := ValueAt(entry, c.Path); old.Get("file").Str() == name {
			return old, nil // with its alternative text and focus
		}
		return site.NewMap("file", site.NewText(name)), nil
	case library.Link:
		if label, to, ok := strings.Cut(strings.TrimSuffix(strings.TrimPrefix(v.Str(), "["), ")"), "]("); ok {
			return site.NewMap("label", site.NewText(label), "to", site.NewText(to)), nil
		}
		old := ValueAt(entry, c.Path)
		if to := old.Get("to"); to != nil {
			return site.NewMap("label", v, "to", to), nil
		}
		return nil, f.From.Problem(line, fmt.Sprintf("%q is one of two things that a link needs", v.Str()),
			fmt.Sprintf("columns %s.label and %s.to, or [Label](page) in the cell", c.Name, c.Name))
	}
	return v, nil
}

// ValueAt gives the value at a path inside another, nil when there is none.
func ValueAt(v *site.Value, path site.Path) *site.Value {
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
	if ValueAt(v, path) != nil {
		_ = site.Apply(v, site.Edit{Op: site.Delete, Path: path}) // it is there
	}
}
