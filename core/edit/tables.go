package edit

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/media"
	"ziegel/core/records"
	"ziegel/core/site"
)

// filling is the work of filling a list from a table.
type filling struct {
	*records.Filling
	s   *setter
	old []*site.Value // the entries that the page has
}

// readRecords reads a file of a site, or of the folder that the program runs in.
func readRecords(dir, file string) (*records.Records, error) {
	path := file
	if _, err := os.Stat(path); err != nil && !filepath.IsAbs(file) {
		path = filepath.Join(dir, filepath.FromSlash(file))
	}
	data, err := site.ReadRegular(path)
	if errors.Is(err, fs.ErrNotExist) {
		near := diag.Nearest(filepath.Base(file), media.List(site.Folder(dir), "data"))
		if near != "" {
			return nil, fmt.Errorf("there is no file %s; did you mean data/%s?", file, near)
		}
		return nil, fmt.Errorf("there is no file %s", file)
	}
	if err != nil {
		return nil, fmt.Errorf("read %s: %w", file, diag.Bare(err))
	}
	return records.Read(file, data)
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
	f := &filling{Filling: &records.Filling{Name: name, Field: field, From: from, Alias: s.sec.FieldAt}, s: s}
	if list := s.current(site.Keys(s.content, name)); list != nil && list.Kind == site.List {
		f.old = list.Items
	}
	s.p.note("%s: %s from %s", name, entries(len(from.Rows)), file)
	if from.Note != "" {
		s.p.note("%s", from.Note)
	}
	if err := f.Match(); err != nil {
		return err
	}
	for _, n := range f.Notes {
		s.p.note("%s", n)
	}
	taken := make([]bool, len(f.old))
	var rows []*site.Value
	was := make([]int, len(from.Rows))
	for i, row := range from.Rows {
		was[i] = f.known(row, taken)
		var old *site.Value
		if was[i] >= 0 {
			taken[was[i]] = true
			old = f.old[was[i]]
		}
		entry, err := f.Entry(row, old, from.Lines[i])
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

// known finds the entry of the page that a row is about: that with its first words, -1 for none.
func (f *filling) known(row []*site.Value, taken []bool) int {
	for _, c := range f.Cols {
		if len(c.Path) > 1 || c.Field == nil || c.Field.Type != library.RichText && c.Name != "label" {
			continue
		}
		if c.Name != "title" && c.Name != "label" && f.Field.Find("title") != nil {
			continue
		}
		for i, old := range f.old {
			if row[c.At] != nil && !taken[i] && records.ValueAt(old, c.Path).Str() == row[c.At].Str() {
				return i
			}
		}
		return -1
	}
	return -1
}

// write puts the entries into the page. When they are those that stand there, in their order, only what differs is
// written.
func (f *filling) write(rows []*site.Value, was []int) error {
	list := site.Keys(f.s.content, f.Name)
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
