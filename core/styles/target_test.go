package styles_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/styles"
)

func TestStyleKeysSayWhomTheyMean(t *testing.T) {
	for key, want := range map[string]styles.Target{
		"card":                          {Part: "card"},
		"card[2]":                       {Part: "card", Index: 2},
		"card[odd]":                     {Part: "card", Place: "odd"},
		"card[every third]":             {Part: "card", Place: "every 3"},
		"card[every 4] at phone":        {Part: "card", Place: "every 4", At: "phone"},
		"card:hover":                    {Part: "card", State: ":hover"},
		"card::before:hover":            {Part: "card", State: "::before:hover"},
		"card:nth-child(2) at ..599":    {Part: "card", State: ":nth-child(2)", At: "..599"},
		"words when alone in its row":   {Part: "words", When: "alone in its row"},
		"words when 2+1":                {Part: "words", When: "2+1"},
		"media in 480..719":             {Part: "media", In: "480..719"},
		"  card[last]:focus  at tablet": {Part: "card", Place: "last", State: ":focus", At: "tablet"},
	} {
		got, err := styles.ParseTarget(key)
		require.NoError(t, err, key)
		assert.Equal(t, want, got, key)
	}
	for key, want := range map[string]string{
		"":              "a part, perhaps with a position or state",
		"Card":          "a part",
		"card[0]":       "positions count from 1",
		"card[middle]":  "a position is a number from 1",
		"card[]":        "a position is a number from 1",
		"card[every 1]": "a position is a number from 1",
		"card > p":      "a part",
		"card beside":   "a part",
	} {
		_, err := styles.ParseTarget(key)
		assert.ErrorContains(t, err, want, key)
	}
}

func TestStatesHaveOneName(t *testing.T) {
	for typed, want := range map[string]string{"hover": ":hover", ":pressed": ":active", "focus": ":focus-visible",
		":invalid": ":invalid", "::before": "::before", "marker": "::marker"} {
		got, ok := styles.CanonicalState(typed)
		assert.True(t, ok, typed)
		assert.Equal(t, want, got, typed)
	}
	_, ok := styles.CanonicalState("hovered")
	assert.False(t, ok)
	for typed, want := range map[string]string{"stacked": "stacked", "alone": "alone in its row", "2+1": "2+1",
		" alone  in its row ": "alone in its row"} {
		got, ok := styles.CanonicalWhen(typed)
		assert.True(t, ok, typed)
		assert.Equal(t, want, got, typed)
	}
	_, ok = styles.CanonicalWhen("side by side")
	assert.False(t, ok)
}

// FuzzTarget: a key that is understood is written so that it is understood as the same again.
func FuzzTarget(f *testing.F) {
	for _, key := range []string{"card", "card[2]:hover at phone", "card[every third] in ..480", "words when 2+1",
		"a[odd]::before", "x at a at b"} {
		f.Add(key)
	}
	f.Fuzz(func(t *testing.T, key string) {
		first, err := styles.ParseTarget(key)
		if err != nil {
			return
		}
		second, err := styles.ParseTarget(first.String())
		if err != nil || first != second {
			t.Fatalf("%q: %+v is written %q and read %+v, %v", key, first, first.String(), second, err)
		}
	})
}
