// Package records reads tables and data files, CSV, JSON, YAML and Markdown, as entries of a list, and finds out which
// field of a list each of their columns means.
package records

import (
	"path"
	"path/filepath"
	"slices"
	"strings"

	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/ast"
	"github.com/yuin/goldmark/text"

	"ziegel/core/diag"
	"ziegel/core/site"
	"ziegel/core/table"
)

// Records are the rows of a table or the entries of a data file. Cells are values as a page would hold them.
type Records struct {
	File    string
	Columns []string        // names of fields of an entry, as they were written: title, link.label, points[1]
	Rows    [][]*site.Value // as many as columns, nil where there is nothing
	Lines   []int           // where each row begins, from 1
	Note    string          // about the encoding
	Partial bool            // what an entry does not have it says nothing of; an empty cell of a table says: nothing
}

// kindsOfTables are the endings of files that fill lists.
var kindsOfTables = []string{".csv", ".tsv", ".yaml", ".yml", ".json", ".md"}

// IsTable reports a file that fills lists, by its ending.
func IsTable(file string) bool {
	return slices.Contains(kindsOfTables, strings.ToLower(filepath.Ext(file)))
}

// Read takes the data of a file apart.
func Read(file string, data []byte) (*Records, error) {
	var err error
	r := &Records{File: file, Partial: true}
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

func (r *Records) cells(data []byte) error {
	t, err := table.Read(r.File, data)
	if err != nil {
		return err
	}
	r.Columns, r.Lines, r.Partial = t.Columns, t.Lines, false
	if t.Encoding != "" {
		r.Note = r.File + " is not UTF-8 and was read as " + t.Encoding
	}
	for _, row := range t.Rows {
		cells := make([]*site.Value, len(row))
		for i, c := range row {
			if c = strings.TrimSpace(c); c != "" {
				cells[i] = site.NewText(c)
			}
		}
		r.Rows = append(r.Rows, cells)
	}
	return nil
}

// add puts a value into the last row.
func (r *Records) add(column string, v *site.Value) {
	i := slices.Index(r.Columns, column)
	if i < 0 {
		i = len(r.Columns)
		r.Columns = append(r.Columns, column)
	}
	last := len(r.Rows) - 1
	for len(r.Rows[last]) <= i {
		r.Rows[last] = append(r.Rows[last], nil)
	}
	r.Rows[last][i] = v
}

func (r *Records) begin(line int) {
	r.Rows, r.Lines = append(r.Rows, nil), append(r.Lines, line)
}

// finish makes all rows as long as there are columns.
func (r *Records) finish() {
	for i := range r.Rows {
		r.Rows[i] = append(r.Rows[i], make([]*site.Value, len(r.Columns)-len(r.Rows[i]))...)
	}
}

// Problem is a mistake in a line of the file.
func (r *Records) Problem(line int, what, expected string) error {
	return diag.Problem{Position: diag.Position{File: r.File, Line: line, Column: 1}, Severity: diag.Error,
		Rule: "bad-table", Text: what, Expected: expected}
}

// data reads YAML or JSON: a list of entries, or a map with one list in it.
func (r *Records) data(source string) error {
	f, problems := site.ReadFile(r.File, source)
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
		return r.Problem(1, "there is no list of entries here", "a list: - {title: ..., text: ...}")
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
func (r *Records) flatten(prefix string, v *site.Value) {
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
func (r *Records) markdown(data []byte) error {
	data = []byte(strings.ReplaceAll(string(data), "\r\n", "\n"))
	if done, err := r.frontMatter(string(data)); done {
		return err
	}
	doc := goldmark.DefaultParser().Parse(text.NewReader(data))
	level := entryLevel(doc)
	var words []string
	flush := func() {
		if len(words) > 0 && len(r.Rows) > 0 {
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
	if len(r.Rows) == 0 {
		return r.Problem(1, "there are no entries here", "a heading for each entry and words below it, or a list")
	}
	r.finish()
	return nil
}

// addIn adds to the entry that has begun; what stands before the first belongs to none.
func (r *Records) addIn(column string, v *site.Value) {
	if len(r.Rows) == 0 {
		return
	}
	if v.Kind == site.Map {
		r.flatten(column+".", v)
		return
	}
	r.add(column, v)
}

// item reads one item of a list: strong words at its beginning are its title.
func (r *Records) item(data []byte, it ast.Node) {
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

// frontMatter reads a Markdown file that begins with YAML between lines of three hyphens: one record of its keys, of
// the words below as body, of their first paragraph as text unless the keys say one, and of the name of the file as
// slug.
func (r *Records) frontMatter(data string) (bool, error) {
	rest, ok := strings.CutPrefix(data, "---\n")
	if !ok {
		return false, nil
	}
	head, body, ok := strings.Cut(rest, "\n---\n")
	if !ok {
		if head, ok = strings.CutSuffix(strings.TrimRight(rest, "\n"), "\n---"); !ok {
			return true, r.Problem(1, "the keys at the beginning do not end", "a line of three hyphens below them")
		}
		body = ""
	}
	f, problems := site.ReadFile(r.File, head)
	if err := problems.Err(); err != nil {
		return true, err
	}
	r.begin(1)
	if f.Root.Kind == site.Map {
		r.flatten("", f.Root)
	}
	body = strings.TrimSpace(body)
	has := func(column string) bool {
		i := slices.Index(r.Columns, column)
		return i >= 0 && i < len(r.Rows[0]) && r.Rows[0][i] != nil
	}
	if body != "" {
		if !has("article") {
			r.add("article", site.NewText(body))
		}
		if first := firstParagraph(body); first != "" && !has("text") {
			r.add("text", site.NewText(first))
		}
	}
	if !has("slug") {
		r.add("slug", site.NewText(strings.TrimSuffix(path.Base(r.File), path.Ext(r.File))))
	}
	r.finish()
	return true, nil
}

// firstParagraph gives the first paragraph of a text that is nothing but words.
func firstParagraph(body string) string {
	for _, p := range strings.Split(body, "\n\n") {
		if p = strings.TrimSpace(p); p != "" && !strings.HasPrefix(p, "#") && !strings.HasPrefix(p, "!") &&
			!strings.HasPrefix(p, "- ") {
			return strings.Join(strings.Fields(p), " ")
		}
	}
	return ""
}
