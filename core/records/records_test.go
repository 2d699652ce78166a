package records_test

import (
	"fmt"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/library"
	"ziegel/core/records"
	"ziegel/core/site"
	"ziegel/stock"
)

var files = fstest.MapFS{
	"data/b.md": {
		Data: []byte(
			"---\ntitle: B\ndate: 2026-02-01\nkind: news\norder: 10\n---\n\n# Not this\n\nThe first\nparagraph.\n\nThe second.\n",
		),
	},
	"data/a.md": {
		Data: []byte(
			"---\r\ntitle: A\r\ndate: 2026-03-01\r\nkind: note\r\norder: 9\r\ntext: Its own.\r\nslug: other\r\n---\r\n",
		),
	},
	"data/c.md":        {Data: []byte("---\ntitle: C\nkind: news\nlink: {label: Go, to: home}\n---\n")},
	"data/people.csv":  {Data: []byte("Name;Quote\nInes;Held\nTomas;Good\n")},
	"data/open.md":     {Data: []byte("---\ntitle: A\n")},
	"data/wrong/x.csv": {Data: []byte("shoe,hat\n1,2\n")},
}

func texts(r *records.Records, column string) []string {
	var out []string
	for i := range r.Rows {
		out = append(out, r.Text(i, column))
	}
	return out
}

func TestFilesBecomeRecords(t *testing.T) {
	r, err := records.Glob(files, "data/[abc].md")
	require.NoError(t, err)
	assert.Equal(t, []string{"A", "B", "C"}, texts(r, "title"), "in the order of their names")
	assert.Equal(t, []string{"Its own.", "The first paragraph.", ""}, texts(r, "text"))
	assert.Equal(t, []string{"other", "b", "c"}, texts(r, "slug"))
	assert.Equal(t, "# Not this\n\nThe first\nparagraph.\n\nThe second.", r.Text(1, "article"))
	assert.Equal(t, []string{"A", "B", "C"}, texts(r.Sorted("-date"), "title"), "what has no date comes last")
	assert.Equal(t, []string{"B", "A", "C"}, texts(r.Sorted("date"), "title"))
	assert.Equal(t, []string{"A", "B", "C"}, texts(r.Sorted("order"), "title"), "9 is less than 10")
	assert.Equal(t, []string{"B", "C"}, texts(r.Where(map[string][]string{"kind": {"news", "storm"}}), "title"))
	assert.Empty(t, r.Where(map[string][]string{"kind": {"news"}, "title": {"A"}}).Rows)
	assert.Equal(t, []string{"A", "B", "C"}, texts(r, "title"), "the records themselves stay")

	for pattern, want := range map[string]string{
		"data/poeple.csv": "did you mean data/people.csv?", "../x.csv": "is no file below data/", "data/x.exe": "is no table or data file",
		"data/[.csv": "is no pattern of file names", "data/open.md": "the keys at the beginning do not end", "data/none/*.md": "there is no file data/none/*.md",
	} {
		_, err := records.Glob(files, pattern)
		assert.ErrorContains(t, err, want)
	}
}

func TestRecordsFillTheFieldsOfAList(t *testing.T) {
	lib, problems := library.Load("sections", stock.Files)
	require.NoError(t, problems.Err())
	sec := lib.Section("testimonials/row")
	fill := func(pattern string) (*records.Filling, []*site.Value, error) {
		r, err := records.Glob(files, pattern)
		require.NoError(t, err)
		f := &records.Filling{Name: "items", Field: sec.Field("items"), From: r, Alias: sec.FieldAt}
		list, err := f.Entries()
		return f, list, err
	}
	f, list, err := fill("data/people.csv")
	require.NoError(t, err)
	assert.Equal(t, []string{"read by meaning: Name is title, Quote is text"}, f.Notes)
	assert.Equal(t, "Ines Held", fmt.Sprint(list[0].Get("title").Str(), " ", list[0].Get("text").Str()))
	_, _, err = fill("data/wrong/x.csv")
	assert.ErrorContains(t, err, "no column is a field of items")

	cards := lib.Section("features/cards")
	r, err := records.Glob(files, "data/c.md")
	require.NoError(t, err)
	list, err = (&records.Filling{Name: "items", Field: cards.Field("items"), From: r, Alias: cards.FieldAt}).Entries()
	require.NoError(t, err)
	assert.Equal(t, "Go home", list[0].Get("link").Get("label").Str()+" "+list[0].Get("link").Get("to").Str())
}

// FuzzRead: whatever a data file has, each row has a cell for each column, and a place.
func FuzzRead(f *testing.F) {
	for name, file := range files {
		f.Add(name, string(file.Data))
	}
	f.Fuzz(func(t *testing.T, name, data string) {
		for _, ending := range []string{".md", ".yaml", ".csv"} {
			r, err := records.Read("x"+ending, []byte(data))
			if err != nil {
				continue
			}
			require.Len(t, r.Lines, len(r.Rows))
			for _, row := range r.Rows {
				require.Len(t, row, len(r.Columns))
			}
		}
	})
}
