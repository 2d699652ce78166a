package layout

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// Levels by the Unicode Bidirectional Algorithm (UAX #9): capitals stand for Hebrew letters.
func TestLevelsOfText(t *testing.T) {
	hebrew := func(s string) []rune {
		out := []rune(s)
		for i, r := range out {
			if r >= 'A' && r <= 'Z' {
				out[i] = 'א' + (r - 'A')
			}
		}
		return out
	}
	digits := func(levels []int8) string {
		out := ""
		for _, l := range levels {
			out += string(rune('0' + l))
		}
		return out
	}
	for _, c := range []struct {
		text string
		base int8
		want string
	}{
		{"abc", 0, "000"}, {"ABC", 0, "111"}, {"abc", 1, "222"}, {"ABC", 1, "111"},
		{"ab CD ef", 0, "00011000"}, {"AB cd EF", 1, "11122111"}, {"ab, CD!", 0, "0000110"},
		{"AB 12 cd", 0, "11122000"}, {"AB 12", 1, "11122"}, {"ab￼cd", 1, "22222"}, {"AB￼cd", 1, "11122"},
		{"", 0, ""},
	} {
		assert.Equal(t, c.want, digits(resolveLevels(hebrew(c.text), c.base)), "%s at %d", c.text, c.base)
	}
}

func TestNumbersInArabicAndHebrew(t *testing.T) {
	for text, want := range map[string]string{
		"א 12% b":      "1122200",
		"א $5-6, 7.":   "1122221120",
		"ا 1% 2 b":     "11211200",
		"ا 3-4 א 5-6.": "112121112220",
	} {
		got := ""
		for _, l := range resolveLevels([]rune(text), 0) {
			got += string(rune('0' + l))
		}
		assert.Equal(t, want, got, text)
	}
}
