package stress

import (
	"fmt"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/library"
	"ziegel/core/site"
	"ziegel/internal/testsite"
)

// Texts grow by their words; prices do not, and what is marked keeps its marks.
func TestTextsGrow(t *testing.T) {
	for _, c := range []struct {
		text  string
		times float64
		want  string
	}{
		{"Made for wind", 1, "Made for wind"},
		{"Made for wind", 2, "Made for wind Made for wind"},
		{"Made for _real_ wind", 1.7, "Made for _real_ wind Made for real"},
		{"Menu", 2, "Menu menu"},
		{"€240", 3, "€240"},
		{"2 px", 3, "2 px"},
		{"Delta 240", 2, "Delta 240 Delta 240"},
		{"", 2, ""},
	} {
		assert.Equal(t, c.want, lengthen(c.text, c.times), c.text)
	}
	for text, want := range map[string]float64{"Menu": 2.5, "Ten letters": 1.9, strings.Repeat("a", 20): 1.9,
		strings.Repeat("a", 21): 1.7, strings.Repeat("a", 31): 1.5, strings.Repeat("a", 51): 1.4,
		strings.Repeat("a", 71): 1.3, strings.Repeat("ä", 10): 2.5} {
		assert.InDelta(t, want, growth(text), 0, text)
	}
}

// Typical text has the letters that were asked for, in its language, and begins like a sentence.
func TestTypicalText(t *testing.T) {
	for _, n := range []int{1, 5, 40, 400} {
		for _, language := range []string{"de", "DE-at", "en", "fi", ""} {
			text := typical(language, n)
			assert.InDelta(t, n, utf8.RuneCountInString(text), 1, "a space at the end is cut")
			assert.Equal(t, strings.ToUpper(text[:1]), text[:1])
		}
	}
	assert.True(t, strings.HasPrefix(typical("de-CH", 40), "Der Wind"))
	assert.True(t, strings.HasPrefix(typical("xx", 40), "The wind"))
}

// most finds the largest number that holds, whatever it is.
func TestMost(t *testing.T) {
	for _, limit := range []int{0, 1, 2, 13, 64, 65, 598} {
		got, then := most(func(n int) (bool, string) { return n <= limit, fmt.Sprint(n) })
		assert.Equal(t, limit, got)
		assert.Equal(t, fmt.Sprint(limit+1), then, "what happens at one more")
	}
	got, then := most(func(int) (bool, string) { return true, "x" })
	assert.Equal(t, 600, got, "nobody writes more into a field")
	assert.Empty(t, then)
}

// Each kind of strain changes what it says and nothing else: entries, texts, fields, pictures.
func TestWhatStrainsDoToContent(t *testing.T) {
	env := testsite.Demo(t)
	page := env.Site.Page("home")
	vary := func(kind, block string) *site.Value {
		b := env.Site.Block(page, block)
		sec := env.Library.Section(b.Section)
		v := &variation{sec: sec, lang: "de", share: 1, out: complete(sec, b)}
		for _, s := range strains {
			if s.name == kind {
				s.vary(v)
				for _, g := range v.gone {
					v.drop(g)
				}
				return v.out
			}
		}
		require.Fail(t, kind)
		return nil
	}
	own := complete(env.Library.Section("pricing/plans"), env.Site.Block(page, "plans"))
	for n, kind := range map[int]string{1: "items-1", 2: "items-2", 7: "items-7", 12: "items-12"} {
		list := vary(kind, "plans").Get("items").Items
		assert.Len(t, list, n)
		assert.Equal(t, own.Get("items").Items[(n-1)%3].Get("title").Str(), list[n-1].Get("title").Str(),
			"its own again and again")
	}
	letters := vary("one-letter", "plans")
	assert.Equal(t, "W", letters.Get("heading").Str())
	assert.Equal(t, "W", letters.Get("items").Items[1].Get("points").Items[0].Str())
	assert.Equal(t, "W", letters.Get("items").Items[1].Get("link").Get("label").Str())
	assert.Equal(t, "courses", letters.Get("items").Items[1].Get("link").Get("to").Str(), "addresses stay")
	assert.Equal(t, "yes", letters.Get("items").Items[1].Get("raised").Str(), "switches stay")
	word := vary("long-word", "plans")
	assert.Equal(t, "Windgeschwindigkeitsmessung one, fly it home", word.Get("heading").Str())
	assert.Equal(t, "€240", word.Get("items").Items[1].Get("price").Str())
	assert.Greater(t, len(vary("longer", "plans").Get("lead").Str()), 2*len(own.Get("lead").Str())-10)
	missing := vary("missing", "plans")
	assert.Nil(t, missing.Get("lead"))
	assert.Equal(t, "Sew one, fly it home", missing.Get("heading").Str())
	first, second := missing.Get("items").Items[0], missing.Get("items").Items[1]
	assert.Len(t, first.Entries, 1, "the first entry has its title alone")
	assert.Greater(t, len(second.Entries), 3, "the second is whole")
	assert.Equal(t, "stress-tall.svg", vary("tall-picture", "opening").Get("media").Get("file").Str())
	voices := vary("wide-picture", "voices").Get("items").Items
	assert.Equal(t, "stress-wide.svg", voices[2].Get("media").Get("file").Str())
	assert.Equal(t, own, complete(env.Library.Section("pricing/plans"), env.Site.Block(page, "plans")),
		"the page itself is as it was")
}

// A text is found by its address in a block, or is not there.
func TestTextsByTheirAddress(t *testing.T) {
	env := testsite.Demo(t)
	b := env.Site.Block(env.Site.Page("home"), "plans")
	v := complete(env.Library.Section(b.Section), b)
	for path, want := range map[string]string{"heading": "Sew one, fly it home", "items[2].title": "Delta weekend",
		"items[2].points[1]": "A delta of 2.4 m in your own colors", "items[3].link.label": "Ask for a date"} {
		if got := textAt(v, path); assert.NotNil(t, got, path) {
			assert.Equal(t, want, got.Text)
		}
	}
	for _, path := range []string{"nothing", "items", "items[0].title", "items[4].title", "items[x].title",
		"heading[1]", "items[2]", "items[2].link", "heading.x"} {
		assert.Nil(t, textAt(v, path), path)
	}
}

// Every section takes every kind of strain: what comes out can be laid out.
func TestStrainsOfUnknownKinds(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	env := testsite.With(t, "title: T\nblocks:\n  - {name: a, section: steps/line}\n")
	for kind, ok := range map[string]bool{"items-3": true, "longer": true, "items-0": false, "items-x": false,
		"nothing": false, "": false} {
		rep, got := Under(env, env.Site.Page("home"), kind, 390, 392)
		assert.Equal(t, ok, got, kind)
		assert.Equal(t, ok, rep != nil, kind)
	}
	names, what := Strains()
	require.Equal(t, len(names), len(what))
	seen := map[string]bool{}
	for i, n := range names {
		assert.False(t, seen[n] || seen[what[i]], n)
		seen[n], seen[what[i]] = true, true
	}
	assert.Equal(t, library.RichText, env.Library.Section("steps/line").Field("heading").Type)
}
