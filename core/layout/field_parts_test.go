package layout

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/css"
)

// The parts of a field follow its type, its value and its step.
func TestPartsOfDatesAndTimes(t *testing.T) {
	parts := func(field string) []FieldPart {
		doc, err := css.Load(css.Source{File: "x.html", HTML: "<!doctype html><body><input " + field + ">"})
		require.NoError(t, err)
		return DateParts(doc.Body.Kids()[0])
	}
	for _, tt := range []struct{ field, shown string }{
		{`type=date`, "mm|/|dd|/|yyyy"},
		{`type=DATE value=2026-08-09`, "08|/|09|/|2026"},
		{`type=date value=soon`, "mm|/|dd|/|yyyy"},
		{`type=month value=2026-02`, "February| |2026"},
		{`type=month value=2026-13`, "---------| |----"},
		{`type=week value=2026-W07`, "Week |07|, |2026"},
		{`type=time`, "--|:|--|\u202f|--"},
		{`type=time value=00:05`, "12|:|05|\u202f|AM"},
		{`type=time value=12:05`, "12|:|05|\u202f|PM"},
		{`type=time value=15:00:00`, "03|:|00|\u202f|PM"},
		{`type=time value=15:00:07`, "03|:|00|:|07|\u202f|PM"},
		{`type=time value=15:00:00.5`, "03|:|00|:|00|.|500|\u202f|PM"},
		{`type=time step=1`, "--|:|--|:|--|\u202f|--"},
		{`type=time step=120`, "--|:|--|\u202f|--"},
		{`type=time step=any`, "--|:|--|\u202f|--"},
		{`type=time step=.5`, "--|:|--|:|--|.|---|\u202f|--"},
		{`type=datetime-local value=2026-08-09T20:30`, "08|/|09|/|2026|, |08|:|30|\u202f|PM"},
		{`type=text value=2026-08-09`, ""},
	} {
		var shown []string
		for _, p := range parts(tt.field) {
			shown = append(shown, p.Shown())
		}
		assert.Equal(t, tt.shown, strings.Join(shown, "|"), tt.field)
	}
	month := parts("type=month value=2026-02")
	assert.Equal(t, months, month[0].most, "the widest name decides, whichever is shown")
	assert.True(t, month[1].IsText())
	assert.Equal(t, []string{lastYear}, month[2].most)
}
