package records

import (
	"cmp"
	"fmt"
	"io/fs"
	"path"
	"slices"
	"strconv"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/media"
	"ziegel/core/site"
)

// mostFiles is how many files a pattern may name.
const mostFiles = 2000

// Spoken is the languages that a site translates its pages to, and the one that is asked for, "" for that of its pages.
type Spoken struct {
	To  []string
	Tag string
}

// In gives the file that has a file's records in a language: people.de.csv for people.csv.
func In(name, tag string) string {
	ext := path.Ext(name)
	return strings.TrimSuffix(name, ext) + "." + tag + ext
}

// originals leaves out files that have the records of others in another language.
func (s Spoken) originals(names []string) []string {
	return slices.DeleteFunc(slices.Clone(names), func(name string) bool {
		return slices.ContainsFunc(s.To, func(tag string) bool {
			ext := path.Ext(name)
			base, translated := strings.CutSuffix(strings.TrimSuffix(name, ext), "."+tag)
			return translated && slices.Contains(names, base+ext)
		})
	})
}

// Glob reads the file, or all files that a pattern such as data/articles/*.md names, as one set of records. Files come
// in the order of their names. Where there is a file in the language that is asked for, it stands for the other;
// untranslated names those that have none.
func Glob(fsys fs.FS, pattern string, speak Spoken) (all *Records, untranslated []string, err error) {
	names, err := named(fsys, pattern)
	if err != nil {
		return nil, nil, err
	}
	all = &Records{File: pattern, Partial: true}
	for _, name := range speak.originals(names) {
		from := name
		if speak.Tag != "" {
			if from = In(name, speak.Tag); !exists(fsys, from) {
				untranslated, from = append(untranslated, name), name
			}
		}
		data, err := fs.ReadFile(fsys, from)
		if err != nil {
			return nil, nil, fmt.Errorf("read %s: %w", from, diag.Bare(err))
		}
		r, err := Read(from, data)
		if err != nil {
			return nil, nil, err
		}
		for i, row := range r.Rows {
			all.begin(r.Lines[i])
			for k, v := range row {
				if v != nil && r.Columns[k] == "slug" && v.Str() == stem(from) { // links lead to it in every language
					v = site.NewText(stem(name))
				}
				if v != nil {
					all.add(r.Columns[k], v)
				}
			}
		}
		all.Note = cmp.Or(all.Note, r.Note)
	}
	all.finish()
	return all, untranslated, nil
}

func stem(name string) string { return strings.TrimSuffix(path.Base(name), path.Ext(name)) }

func exists(fsys fs.FS, name string) bool {
	_, err := fs.Stat(fsys, name)
	return err == nil
}

// named lists the files that a pattern names, in the order of their names.
func named(fsys fs.FS, pattern string) ([]string, error) {
	if !fs.ValidPath(pattern) || !strings.HasPrefix(pattern, "data/") {
		return nil, fmt.Errorf("%q is no file below data/: write data/people.csv or data/articles/*.md", pattern)
	}
	if !IsTable(pattern) {
		return nil, fmt.Errorf(
			"%s is no table or data file: they end in %s",
			pattern,
			strings.Join(kindsOfTables, ", "),
		)
	}
	names, err := fs.Glob(fsys, pattern)
	switch {
	case err != nil:
		return nil, fmt.Errorf("%q is no pattern of file names: data/articles/*.md", pattern)
	case len(names) == 0:
		list := media.List(fsys, "data")
		if near := diag.Nearest(strings.TrimPrefix(pattern, "data/"), list); near != "" {
			return nil, fmt.Errorf("there is no file %s; did you mean data/%s?", pattern, near)
		}
		return nil, fmt.Errorf("there is no file %s", pattern)
	case len(names) > mostFiles:
		return nil, fmt.Errorf("%s names %d files, and %d are the most", pattern, len(names), mostFiles)
	}
	slices.Sort(names)
	return names, nil
}

// Text gives what a row says in a column, "" for nothing.
func (r *Records) Text(row int, column string) string {
	i := slices.Index(r.Columns, column)
	if i < 0 {
		return ""
	}
	return r.Rows[row][i].Str()
}

// Where keeps the rows whose columns say one of what is given, by column.
func (r *Records) Where(want map[string][]string) *Records {
	out := *r
	out.Rows, out.Lines = nil, nil
	for i := range r.Rows {
		keep := true
		for column, values := range want {
			keep = keep && slices.Contains(values, r.Text(i, column))
		}
		if keep {
			out.Rows, out.Lines = append(out.Rows, r.Rows[i]), append(out.Lines, r.Lines[i])
		}
	}
	return &out
}

// Sorted gives the rows in the order of a column, from the highest for -column. Numbers are compared as numbers, other
// texts by their letters, as dates of the form 2026-05-01 want it; rows without a value come last.
func (r *Records) Sorted(by string) *Records {
	column, down := strings.CutPrefix(by, "-")
	order := make([]int, len(r.Rows))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int {
		x, y := r.Text(a, column), r.Text(b, column)
		if x == "" || y == "" {
			return cmp.Compare(len(y), len(x))
		}
		c := strings.Compare(x, y)
		if m, err := strconv.ParseFloat(x, 64); err == nil {
			if n, err := strconv.ParseFloat(y, 64); err == nil {
				c = cmp.Compare(m, n)
			}
		}
		if down {
			return -c
		}
		return c
	})
	out := *r
	out.Rows, out.Lines = nil, nil
	for _, i := range order {
		out.Rows, out.Lines = append(out.Rows, r.Rows[i]), append(out.Lines, r.Lines[i])
	}
	return &out
}

// Entries makes all entries of a list.
func (f *Filling) Entries() ([]*site.Value, error) {
	if len(f.From.Rows) == 0 {
		return nil, nil
	}
	if err := f.Match(); err != nil {
		return nil, err
	}
	var out []*site.Value
	for i, row := range f.From.Rows {
		v, err := f.Entry(row, nil, f.From.Lines[i])
		if err != nil {
			return nil, err
		}
		out = append(out, v)
	}
	return out, nil
}

// Has reports whether there is a column.
func (r *Records) Has(column string) bool { return slices.Contains(r.Columns, column) }
