package site

import (
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A page is read when it is asked for, and no other one with it.
func TestAPageIsReadWhenItIsAskedFor(t *testing.T) {
	files := map[string]string{"ziegel.yaml": "name: L\n", "pages/notes.txt": "no page"}
	for i := range 30 {
		files[fmt.Sprintf("pages/p%02d.yaml",
			i)] = fmt.Sprintf("title: Page %d\nblocks:\n  - {name: b%d, section: hero/alone, content: {heading: Wind}}\n", i, i)
	}
	files["pages/broken.yaml"] = "title: ["
	dir := write(t, files)
	s, problems, err := Open(dir)
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	assert.Len(t, s.PageNames(), 31)
	assert.Empty(t, s.Read())
	assert.Equal(t, "Page 7", s.Page("p07").Title)
	assert.Same(t, s.Page("p07"), s.Page("p07"), "once")
	assert.Nil(t, s.Page("nope"))
	assert.True(t, s.HasPage("p08"))
	assert.Len(t, s.Read(), 1)
	require.Error(t, s.Page("broken").Problems.Err())
	require.NoError(t, s.Page("p07").Problems.Err(), "another page's mistake is its own")

	assert.Equal(t, []string{"p03"}, s.NamesMentioning("b3,", "nothing"))
	assert.Len(t, s.Read(), 2, "looking for a word parses nothing")
	assert.Equal(t, "Page 21", s.Mentioning("b21")[0].Title)

	require.NoError(t, os.Remove(filepath.Join(dir, "pages/p11.yaml")))
	require.Error(t, s.Page("p11").Problems.Err(), "gone meanwhile: told, not a crash")
	assert.Len(t, s.Pages(), 31)
}

// A site as it would be has the pages that come and not those that go, and takes nothing from the folder for them.
func TestPagesAsTheyWouldBe(t *testing.T) {
	dir := write(t, map[string]string{"ziegel.yaml": "name: L\n", "pages/a.yaml": "title: A\n",
		"pages/b.yaml": "title: B\n"})
	s, _, err := OpenWith(dir, []FileChange{{Path: "pages/a.yaml", After: "title: Other\n"},
		{Path: "pages/b.yaml", Gone: true}, {Path: "pages/c.yaml", After: "title: C\n", New: true}})
	require.NoError(t, err)
	assert.Equal(t, []string{"a", "c"}, s.PageNames())
	assert.Equal(t, "Other", s.Page("a").Title)
	assert.Equal(t, []string{"a"}, s.NamesMentioning("Other"))
	one := &Page{Name: "a", Title: "Instead"}
	assert.Equal(t, "Instead", s.Instead(one).Page("a").Title)
	assert.Equal(t, "Other", s.Page("a").Title, "the site itself is as it was")
	assert.Equal(t, []string{"a"}, s.Only(one).PageNames())
	assert.Equal(t, []string{"a", "c"}, s.PageNames())
}
