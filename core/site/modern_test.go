package site

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What earlier versions called otherwise is read as it was meant and told; what the site calls so itself keeps its
// name. An edit of it renames it, and says nothing twice.
func TestFilesOfEarlierVersions(t *testing.T) {
	dir := write(t, map[string]string{
		"ziegel.yaml": "name: L\ntheme: nightwatch\nstyles:\n  lifted: {line-height: \"{leading.body}\"}\n",
		"pages/home.yaml": `title: on-accent
blocks:
  - name: a
    section: hero/beside
    content: {heading: "{leading.body}"}
    style:
      split at phone: {gap: 1px}
      heading: {use: [typed]}
  - name: b
    section: features/mine
    content: {items: [{emphasis: yes, icon: pocket}]}
    style: {split: {gap: 1px}}
  - name: c
    section: pricing/plans
    content: {items: [{emphasis: yes}]}
`})
	s, problems, err := Open(dir)
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	page := s.Page("home")
	require.NoError(t, page.Problems.Err())
	var got []string
	for _, r := range s.Renamed() {
		got = append(got, r.What+" "+r.Was+" "+r.Is)
	}
	assert.ElementsMatch(t, []string{"key styles looks", "theme nightwatch lamplight",
		"token {leading.body} {line-height.body}", "part split halves", "shared look typed spelled", "icon pocket bag",
		"field emphasis raised"}, got)
	assert.Equal(t, "lamplight", s.Theme)
	require.Len(t, s.Styles, 1)
	assert.Equal(t, "{leading.body}", page.Blocks[0].Content.Get("heading").Str(), "words are no names")
	assert.Equal(t, []string{"halves at phone", "heading"}, page.Blocks[0].Style.Keys())
	assert.Equal(t, []string{"split"}, page.Blocks[1].Style.Keys(), "a part of the site's own section")
	assert.NotNil(t, page.Blocks[2].Content.Get("items").Items[0].Get("raised"))

	text, err := EditSource("p.yaml", page.File.Source, Edit{Op: Set, Path: Keys("blocks", 0, "style",
		"halves at phone", "gap"),
		Value: NewText("2px")}, Edit{Op: Set, Path: Keys("blocks", 2, "content", "items", 0,
		"raised"), Value: NewText("no")})
	require.NoError(t, err)
	assert.Contains(t, text, "halves at phone: {gap: 2px}")
	assert.Contains(t, text, "{items: [{raised: no}]}")
	assert.Contains(t, text, "style: {split: {gap: 1px}}")
}

// A look of the site's own that is called as a shipped one was is meant.
func TestLooksOfTheSiteKeepTheirNames(t *testing.T) {
	s, _, err := Open(write(t, map[string]string{
		"ziegel.yaml":     "name: L\nlooks: {typed: {opacity: .9}}\n",
		"pages/home.yaml": "title: H\nblocks:\n  - {name: a, section: hero/beside, style: {heading: {use: typed}}}\n"}))
	require.NoError(t, err)
	assert.Equal(t, "typed", s.Page("home").Blocks[0].Style.Get("heading").Get("use").Str())
	assert.Empty(t, s.Renamed())
}
