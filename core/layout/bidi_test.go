package layout

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/text/unicode/bidi"
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

// Without brackets and embeddings, text runs as a library of the algorithm has it.
func TestLevelsAreThoseOfAnotherReader(t *testing.T) {
	letters := []rune("abאבاب12٣٤ .,:%€+-!\u05b0\u0651")
	r := rand.New(rand.NewPCG(7, 11))
	for range 4000 {
		text := make([]rune, 1+r.IntN(14))
		for i := range text {
			text[i] = letters[r.IntN(len(letters))]
		}
		text = append(text, 'a') // spaces at the end are no matter of directions
		for base, mark := range []rune{'\u200e', '\u200f'} {
			levels := resolveLevels(text, int8(base))
			var p bidi.Paragraph
			_, err := p.SetString(string(mark)+string(text), bidi.DefaultDirection(bidi.Direction(base)))
			require.NoError(t, err)
			order, err := p.Order()
			require.NoError(t, err)
			for k := range order.NumRuns() {
				run := order.Run(k)
				from, to := run.Pos()
				for i := max(1, from); i <= to && i <= len(text); i++ {
					want := run.Direction() == bidi.RightToLeft
					require.Equal(t, want, levels[i-1]%2 == 1, "%q at %d, base %d: %v", string(text), i-1, base, levels)
				}
			}
		}
	}
}
