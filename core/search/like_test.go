package search_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/search"
)

// What is like a section and different in one thing: the nearest of its kind first, with the fields that would be lost.
func TestNear(t *testing.T) {
	e := env(t)
	facts := search.All(e)
	plans := e.Library.Section("pricing/plans")
	used := []string{"heading", "items", "items.title", "items.price", "items.points"}
	for _, x := range []struct {
		but         map[string]string
		first, with string
		lost        []string
	}{
		{map[string]string{"columns": "4"}, "pricing/plans", "4", nil},
		{map[string]string{"columns": "4", "form": "no"}, "pricing/plans", "4", nil},
		{map[string]string{}, "pricing/switch", "", nil},
		{map[string]string{"picture": "left"}, "", "", []string{"items.price", "items.points"}},
	} {
		list, err := search.Near(e.Library, facts, plans, used, x.but)
		require.NoError(t, err)
		require.NotEmpty(t, list)
		if x.first != "" {
			assert.Equal(t, x.first, list[0].Section.Name, "%v", x.but)
			assert.Equal(t, x.with, list[0].Options["columns"])
			assert.Empty(t, list[0].Lost)
		}
		for _, l := range list {
			for _, lost := range x.lost {
				assert.Contains(t, l.Lost, lost, "%s has no pictures and plans", l.Section.Name)
			}
			if x.but["picture"] == "left" && len(l.Options) == 0 {
				assert.Equal(t, "left", facts[l.Section.Name].Picture, l.Section.Name)
			}
		}
	}
	for _, but := range []map[string]string{{"wind": "4"}, {"columns": "many"}, {"picture": "sideways"},
		{"mood": "grim"}, {"form": "perhaps"}} {
		_, err := search.Near(e.Library, facts, plans, used, but)
		assert.Error(t, err, "%v", but)
	}
}

// Moods are measured: each finds some sections and not most of them, and no section is loud and calm.
func TestMoodsPartTheLibrary(t *testing.T) {
	e := env(t)
	facts := search.All(e)
	found := map[string][]string{}
	for _, mood := range []string{"loud", "calm", "dense", "airy", "picture-led"} {
		for _, m := range search.Meeting(search.Search(e.Library, facts, mood)) {
			found[mood] = append(found[mood], m.Section.Name)
		}
		assert.Greater(t, len(found[mood]), 10, mood)
		assert.Less(t, len(found[mood]), len(e.Library.Names())/2, mood)
	}
	for _, name := range found["calm"] {
		assert.NotContains(t, found["loud"], name)
	}
	for _, name := range found["airy"] {
		assert.NotContains(t, found["dense"], name)
	}
	assert.Contains(t, found["loud"], "hero/alone")
	assert.Contains(t, found["dense"], "pricing/compare")
	assert.Contains(t, found["picture-led"], "gallery/lead")
}

// Words for fields find what holds them.
func TestWordsForFields(t *testing.T) {
	e := env(t)
	facts := search.All(e)
	for word, want := range map[string]string{"price": "pricing/card", "date": "events/dates",
		"quote": "testimonials/wall", "logo": "logos/marching", "video": "video/frame", "amount": "statistics/bars"} {
		var names []string
		for _, m := range search.Meeting(search.Search(e.Library, facts, word)) {
			names = append(names, m.Section.Name)
		}
		assert.Contains(t, names, want, word)
	}
}
