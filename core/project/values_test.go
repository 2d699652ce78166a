package project_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/project"
	"ziegel/internal/testsite"
)

// A value is checked as a whole, with what stands behind its tokens, and none of it may name a file.
func TestValuesAreCheckedWhole(t *testing.T) {
	e := testsite.With(t, "title: T\n")
	for _, c := range []struct{ property, value, text, try string }{
		{"color", "{color.accent}", "", ""},
		{"border", "1px solid {color.plain.accent}", "", ""},
		{"padding", "calc({space.far} + 1px)", "", ""},
		{"color", "var(--accent)", "", ""},
		{"padding", "var(--space-far)", "", ""},
		{"color", "var(--mine, red)", "", ""},
		{"color", "inherit", "", ""},
		{"border", "1px soild {color.accent}", "border cannot be", ""},
		{"padding", "{color.plain.accent}", "padding cannot be", ""},
		{"color", "var(--space-far)", "color cannot be", ""},
		{"color", "var(--acent)", "color cannot be", "{color.accent}"},
		{"color", "red/*", "color cannot be", ""},
		{"color", "red;}body{display:none}", "no token", ""},
		{"color", "#zzz", "color cannot be", ""},
		{"background", "image-set(\"http://x.example/a.png\" 1x)", "background cannot be", ""},
		{"background", `u\72l(http://x.example/a.png)`, "background cannot be", ""},
		{"list-style-image", "url(a.png)", "list-style-image cannot be", ""},
		{"gap", "2", "gap cannot be", "2rem or 2px"},
	} {
		p := project.CheckProperty(e, c.property, c.value)
		if c.text == "" {
			require.Nil(t, p, c.value)
			continue
		}
		require.NotNil(t, p, c.value)
		assert.Contains(t, p.Text, c.text)
		assert.Equal(t, c.try, p.Try, c.value)
	}
}
