package edit

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/ast"
	"github.com/yuin/goldmark/text"

	"ziegel/core/diag"
	"ziegel/core/media"
	"ziegel/core/site"
	"ziegel/core/table"
)

// records are the rows of a table or the entries of a data file. Cells are values as a page would hold them.
type records struct {
	file    string
	columns []string        // names of fields of an entry, as they were written: title, link.label, points[1]
	rows    [][]*site.Value // as many as columns, nil where there is nothing
	lines   []int           // where each row begins, from 1
	note    string          // about the encoding
	partial bool            // what an entry does not have it says nothing of; an empty cell of a table says: nothing
}

// kindsOfTables are the endings of files that fill lists.
var kindsOfTables = []string{".csv", ".tsv", ".yaml", ".yml", ".json", ".md"}

func isTable(file string) bool {
	return slices.Contains(kindsOfTables, strings.ToLower(filepath.Ext(file)))
}

// readRecords reads a file of a site, or of the folder that the program runs in.
func readRecords(dir, file string) (*records, error) {
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
	r := &records{file: file, partial: true}
	switch strings.ToLower(filepath.Ext(file)) {
	case ".csv", ".tsv":
		err = r.cells(data)
	case ".md":
		err = r.markdown(data)
	default:
		err = r.data(string(data))
	}
	return r, err
}

func (r *records) cells(data []byte) error {
	t, err := table.Read(r.file, data)
	if err != nil {
		return err
	}
	r.columns, r.lines, r.partial = t.Columns, t.Lines, false
	if t.Encoding != "" {
		r.note = r.file + " is not UTF-8 and was read as " + t.Encoding
	}
	for _, row := range t.Rows {
		cells := make([]*site.Value, len(row))
		for i, c := range row {
			if c = strings.TrimSpace(c); c != "" {
				cells[i] = site.NewText(c)
			}
		}
		r.rows = append(r.rows, cells)
	}
	return nil
}

// add puts a value into the last row.
func (r *records) add(column string, v *site.Value) {
	i := slices.Index(r.columns, column)
	if i < 0 {
		i = len(r.columns)
		r.columns = append(r.columns, column)
	}
	last := len(r.rows) - 1
	for len(r.rows[last]) <= i {
		r.rows[last] = append(r.rows[last], nil)
	}
	r.rows[last][i] = v
}

func (r *records) begin(line int) {
	r.rows, r.lines = append(r.rows, nil), append(r.lines, line)
}

// finish makes all rows as long as there are columns.
func (r *records) finish() {
	for i := range r.rows {
		r.rows[i] = append(r.rows[i], make([]*site.Value, len(r.columns)-len(r.rows[i]))...)
	}
}

func (r *records) problem(line int, what, expected string) error {
	return diag.Problem{Position: diag.Position{File: r.file, Line: line, Column: 1}, Severity: diag.Error,
		Rule: "bad-table", Text: what, Expected: expected}
}

// data reads YAML or JSON: a list of entries, or a map with one list in it.
func (r *records) data(source string) error {
	f, problems := site.ReadFile(r.file, source)
	if err := problems.Err(); err != nil {
		return err
	}
	list := f.Root
	if list.Kind == site.Map {
		var lists []*site.Value
		for _, e := range list.Entries {
			if e.Value.Kind == site.List {
				lists = append(lists, e.Value)
			}
		}
		if len(lists) == 1 {
			list = lists[0]
		}
	}
	if list.Kind != site.List || len(list.Items) == 0 {
		return r.problem(1, "there is no list of entries here", "a list: - {title: ..., text: ...}")
	}
	for _, it := range list.Items {
		r.begin(it.Pos.Line)
		if it.Kind != site.Map {
			r.add(".", it)
			continue
		}
		r.flatten("", it)
	}
	r.finish()
	return nil
}

// flatten names the values in a map by their way: link.label.
func (r *records) flatten(prefix string, v *site.Value) {
	for _, e := range v.Entries {
		if e.Value.Kind == site.Map {
			r.flatten(prefix+e.Key+".", e.Value)
			continue
		}
		if !e.Value.Empty() {
			r.add(prefix+e.Key, e.Value)
		}
	}
}

// markdown reads an entry from each heading, or from each item of a list when there are none: a paragraph is text, a
// list gives points, a picture or link alone in its paragraph is the entry's.
func (r *records) markdown(data []byte) error {
	data = []byte(strings.ReplaceAll(string(data), "\r\n", "\n"))
	doc := goldmark.DefaultParser().Parse(text.NewReader(data))
	level := entryLevel(doc)
	var words []string
	flush := func() {
		if len(words) > 0 && len(r.rows) > 0 {
			r.add("text", site.NewText(strings.Join(words, "\n\n")))
		}
		words = nil
	}
	for n := doc.FirstChild(); n != nil; n = n.NextSibling() {
		switch x := n.(type) {
		case *ast.Heading:
			if x.Level == level {
				flush()
				r.begin(lineAt(data, x))
				r.add("title", site.NewText(sourceOf(data, x)))
			}
		case *ast.Paragraph:
			switch only := alone(x).(type) {
			case *ast.Image:
				r.addIn("media", site.NewMap("file", site.NewText(string(only.Destination)), "alt",
					site.NewText(sourceOf(data, only))))
			case *ast.Link:
				r.addIn("link", site.NewMap("label", site.NewText(sourceOf(data, only)), "to",
					site.NewText(string(only.Destination))))
			default:
				words = append(words, sourceOf(data, x))
			}
		case *ast.List:
			if level > 0 {
				list := &site.Value{Kind: site.List}
				for it := x.FirstChild(); it != nil; it = it.NextSibling() {
					list.Items = append(list.Items, site.NewText(sourceOf(data, it.FirstChild())))
				}
				r.addIn("points", list)
				continue
			}
			for it := x.FirstChild(); it != nil; it = it.NextSibling() {
				r.item(data, it)
			}
		}
	}
	flush()
	if len(r.rows) == 0 {
		return r.problem(1, "there are no entries here", "a heading for each entry and words below it, or a list")
	}
	r.finish()
	return nil
}

// addIn adds to the entry that has begun; what stands before the first belongs to none.
func (r *records) addIn(column string, v *site.Value) {
	if len(r.rows) == 0 {
		return
	}
	if v.Kind == site.Map {
		r.flatten(column+".", v)
		return
	}
	r.add(column, v)
}

// item reads one item of a list: strong words at its beginning are its title.
func (r *records) item(data []byte, it ast.Node) {
	block := it.FirstChild()
	if block == nil {
		return
	}
	r.begin(lineAt(data, block))
	if link, ok := alone(block).(*ast.Link); ok {
		r.flatten("", site.NewMap("label", site.NewText(sourceOf(data, link)), "to",
			site.NewText(string(link.Destination))))
		return
	}
	whole := sourceOf(data, block)
	if strong, ok := block.FirstChild().(*ast.Emphasis); ok && strong.Level == 2 {
		title := sourceOf(data, strong)
		r.add("title", site.NewText(title))
		rest := strings.TrimLeft(strings.TrimPrefix(whole, "**"+title+"**"), " :.–—-\n")
		if rest != "" {
			r.add("text", site.NewText(rest))
		}
		return
	}
	r.add("title", site.NewText(whole))
}

// entryLevel is the level of the headings that begin entries: the highest that more than one has, else that of the
// only one. It is 0 without headings.
func entryLevel(doc ast.Node) int {
	count := map[int]int{}
	for n := doc.FirstChild(); n != nil; n = n.NextSibling() {
		if h, ok := n.(*ast.Heading); ok {
			count[h.Level]++
		}
	}
	one := 0
	for level := 1; level <= 6; level++ {
		if count[level] > 1 {
			return level
		}
		if count[level] == 1 {
			one = level
		}
	}
	return one
}

// alone gives the only thing in a paragraph, nil when there is more.
func alone(p ast.Node) ast.Node {
	if p.ChildCount() == 1 {
		return p.FirstChild()
	}
	return nil
}

// sourceOf gives the text of a node as it was written.
func sourceOf(data []byte, n ast.Node) string {
	if n == nil {
		return ""
	}
	var b strings.Builder
	if n.Type() == ast.TypeBlock {
		for i := range n.Lines().Len() {
			line := n.Lines().At(i)
			b.WriteString(strings.TrimSpace(string(line.Value(data))) + "\n")
		}
		return strings.TrimSpace(b.String())
	}
	for c := n.FirstChild(); c != nil; c = c.NextSibling() {
		if t, ok := c.(*ast.Text); ok {
			b.Write(t.Value(data))
		} else {
			b.WriteString(sourceOf(data, c))
		}
	}
	return b.String()
}

func lineAt(data []byte, n ast.Node) int {
	if n.Lines() == nil || n.Lines().Len() == 0 {
		return 1
	}
	return strings.Count(string(data[:n.Lines().At(0).Start]), "\n") + 1
}
