package library_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/library"
	"ziegel/stock"
)

func TestPartsOfEntriesAndTheirFields(t *testing.T) {
	lib, problems := library.Load("sections", stock.Files)
	require.NoError(t, problems.Err())
	plans, voices := lib.Section("pricing/plans"), lib.Section("testimonials/row")
	assert.Equal(t, []string{"items"}, plans.ListsOf("card"))
	assert.Equal(t, []string{"items", "points"}, plans.ListsOf("point"))
	assert.Empty(t, plans.ListsOf("heading"))
	assert.Empty(t, plans.ListsOf("nope"))
	assert.Contains(t, plans.PartsOf("items"), "card")
	assert.NotContains(t, plans.PartsOf("items"), "point")
	assert.NotContains(t, plans.PartsOf("items"), "heading")
	assert.Equal(t, "text", voices.FieldAt("quote"))
	assert.Equal(t, "quote", voices.PartAt("text"))
	var whole []string
	for _, f := range plans.Field("items").Find("points").Whole() {
		whole = append(whole, f.Name)
	}
	assert.Equal(t, []string{"text", "icon"}, whole, "a point is a text, or a text with a mark")
	assert.Nil(t, plans.Field("actions").Whole(), "a link is a map anyway")
	assert.Nil(t, plans.Field("items").Whole())
	assert.Equal(t, "", voices.FieldAt("voice"))
	assert.Equal(t, "", voices.PartAt("nope"))
}
