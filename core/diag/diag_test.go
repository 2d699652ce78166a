package diag

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestPositionsCountCharacters(t *testing.T) {
	const source = "a: é\nb: ñx\n"
	assert.Equal(t, Position{"f", 2, 5}, At("f", source, len("a: é\nb: ñ")))
	assert.Equal(t, Position{"f", 1, 1}, At("f", source, -3))
	assert.Equal(t, "f:2:5", At("f", source, len("a: é\nb: ñ")).String())
	assert.Equal(t, "b: ñx", LineOf(source, 2))
	assert.Equal(t, "", LineOf(source, 9))
}

func TestAProblemShowsItsPlaceAndAWayOut(t *testing.T) {
	p := Problem{Position: Position{"p.yaml", 6, 14}, Severity: Error, Rule: "unknown-section",
		Text: `unknown section "hero/besides"`, Expected: "a section", Try: "hero/beside",
		Source: "    section: hero/besides\r", Width: 12}
	assert.Equal(t, `p.yaml:6:14: error: unknown section "hero/besides" [unknown-section]
    6 |     section: hero/besides
      |              ^^^^^^^^^^^^
   expected: a section
   try:      hero/beside`, p.String())
	p.Source = "\x1b[31m\x00"
	assert.NotContains(t, p.String(), "\x1b")
}

func TestTheNearestNameIsFound(t *testing.T) {
	names := []string{"heading", "lead", "media", "padding", "padding-right", "Delta.svg"}
	for typed, want := range map[string]string{"headin": "heading", "paddin": "padding", "delta.SVG": "Delta.svg",
		"led": "lead", "meida": "media", "zzzzzz": "", "pad": "padding"} {
		assert.Equal(t, want, Nearest(typed, names), typed)
	}
}

func TestProblemsAreSortedAndOnlyErrorsStop(t *testing.T) {
	list := Problems{{Position: Position{"b", 1, 1}, Severity: Note},
		{Position: Position{"a", 9, 1}, Severity: Warning}, {Position: Position{"a", 2, 5}, Severity: Warning}}
	assert.NoError(t, list.Err())
	list = append(list, Problem{Position: Position{"a", 2, 3}, Severity: Error, Text: "x"})
	assert.Error(t, list.Err())
	assert.Equal(t, 3, list.Sorted()[0].Column)
}
