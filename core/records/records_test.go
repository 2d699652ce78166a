package records_test

import (
	"fmt"
	"strings"
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
	r, _, err := records.Glob(files, "data/[abc].md", records.Spoken{})
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
		_, _, err := records.Glob(files, pattern, records.Spoken{})
		assert.ErrorContains(t, err, want)
	}
}

func TestRecordsFillTheFieldsOfAList(t *testing.T) {
	lib, problems := library.Load("sections", stock.Files)
	require.NoError(t, problems.Err())
	sec := lib.Section("testimonials/row")
	fill := func(pattern string) (*records.Filling, []*site.Value, error) {
		r, _, err := records.Glob(files, pattern, records.Spoken{})
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
	r, _, err := records.Glob(files, "data/c.md", records.Spoken{})
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

// TestFilesInALanguage reads data that has files in another language: they stand for those they are made of.
func TestFilesInALanguage(t *testing.T) {
	files := fstest.MapFS{}
	for name, text := range map[string]string{
		"data/people.csv": "name,role\nIda,sews\nOle,flies\n", "data/people.de.csv": "name,role\nIda,näht\nOle,fliegt\n",
		"data/a.md": "---\ntitle: Storm\n---\nx", "data/a.de.md": "---\ntitle: Sturm\n---\nx", "data/b.md": "---\ntitle: Calm\n---\nx",
		"data/v1.fr.md": "---\ntitle: Version\n---\nx",
	} {
		files[name] = &fstest.MapFile{Data: []byte(text)}
	}
	for _, c := range []struct{ pattern, tag, column, want, untranslated string }{
		{"data/people.csv", "", "role", "sews flies", ""},
		{"data/people.csv", "de", "role", "näht fliegt", ""},
		{"data/people.csv", "ar", "role", "sews flies", "data/people.csv"},
		{"data/people.de.csv", "", "role", "näht fliegt", ""},
		{"data/*.md", "", "title", "Storm Calm Version", ""},
		{"data/*.md", "de", "title", "Sturm Calm Version", "data/b.md data/v1.fr.md"},
		{"data/*.md", "de", "slug", "a b v1.fr", "data/b.md data/v1.fr.md"},
	} {
		r, untranslated, err := records.Glob(files, c.pattern, records.Spoken{To: []string{"de", "ar", "fr"},
			Tag: c.tag})
		require.NoError(t, err)
		assert.Equal(t, c.want, strings.Join(texts(r, c.column), " "), "%+v", c)
		assert.Equal(t, c.untranslated, strings.Join(untranslated, " "), "%+v", c)
	}
}
