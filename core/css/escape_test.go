package css

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// Escapes in names as CSS Syntax 3, section 4.3.7, reads them: one to six hexadecimal digits and a space that ends
// them, or the next character.
func TestEscapesInNames(t *testing.T) {
	for text, want := range map[string]string{
		"plain":         "plain",
		`a\26 b`:        "a&b",
		`a\26b`:         "aɫ",
		`a\000026b`:     "a&b",
		`a\000026 b`:    "a&b",
		`a\0000261`:     "a&1",
		`\31 0`:         "10",
		`a\:b`:          "a:b",
		`a\\b`:          `a\b`,
		`\1F600`:        "😀",
		`a\`:            `a\`,
		`sm\:w-1\/2`:    "sm:w-1/2",
		`\e4 \F6 \fc x`: "äöüx",
	} {
		assert.Equal(t, want, unescape(text), text)
	}
}
