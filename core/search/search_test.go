package search_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"ziegel/core/library"
	"ziegel/core/search"
	"ziegel/stock"
)

// names lists the first sections of a search.
func names(list []search.Match, n int) string {
	var out []string
	for _, m := range list[:min(n, len(list))] {
		out = append(out, m.Section.Name)
	}
	return strings.Join(out, " ")
}

func TestWishesAreMetOrNamed(t *testing.T) {
	lib, _ := library.Load("sections", stock.Files)
	facts := search.Known(stock.Files)
	for _, tt := range []struct{ words, all, missed string }{
		{"picture below", "hero/under", ""},
		{"a picture over the words", "hero/over", ""},
		{"quotes slider", "testimonials/slider", ""},
		{"form", "contact/details", ""},
		{"footer without lead", "", "no lead"},
		{"menu with video", "", "video"},
		{"plans, purple", "", "purple"},
	} {
		t.Run(tt.words, func(t *testing.T) {
			ranked := search.Search(lib, facts, tt.words)
			met := search.Meeting(ranked)
			if tt.all != "" {
				assert.Contains(t, names(met, 4), tt.all)
				return
			}
			assert.Empty(t, met)
			assert.Equal(t, []string{tt.missed}, ranked[0].Missed, "the nearest misses one wish only")
		})
	}
}

// A wish that a section meets by one of its options comes with that option, and a number of entries with the number.
func TestWishesBringOptions(t *testing.T) {
	lib, _ := library.Load("sections", stock.Files)
	facts := search.Known(stock.Files)
	best := func(words string) search.Match { return search.Search(lib, facts, words)[0] }
	m := best("opening with picture left")
	assert.Equal(t, "hero/beside", m.Section.Name)
	assert.Equal(t, map[string]string{"media": "left"}, m.Options)
	m = best("two plans")
	assert.Equal(t, 2, m.Entries)
	assert.Equal(t, map[string]string{"columns": "2"}, m.Options)
	assert.Empty(t, best("three plans").Options, "three stand side by side anyway")
	assert.True(t, best("zebras giraffes").Nothing())
}

// Every word that means a kind means one that the library has, or one that it says it lacks.
func TestWordsForKindsLeadSomewhere(t *testing.T) {
	lib, _ := library.Load("sections", stock.Files)
	known := strings.Join(append(lib.Kinds(), search.Missing(lib)...), " ")
	for _, w := range []string{"navbar", "hero", "reasons", "plans", "faq", "voices", "people", "blog", "footer",
		"closing", "newsletter", "logos", "steps", "figures", "photos", "works"} {
		kind := search.KindOf(w)
		assert.NotEmpty(t, kind, w)
		assert.Contains(t, known, kind, w)
	}
	assert.Empty(t, search.KindOf("zebra"))
}

// FuzzWords: any words give every section once, those that miss nothing first.
func FuzzWords(f *testing.F) {
	lib, _ := library.Load("sections", stock.Files)
	facts := search.Known(stock.Files)
	for _, w := range []string{"picture left two buttons", "3 plans", "no picture", "without", "two", "Kümmel & no"} {
		f.Add(w)
	}
	f.Fuzz(func(t *testing.T, words string) {
		list := search.Search(lib, facts, words)
		if len(list) != len(lib.All()) {
			t.Fatal(len(list))
		}
		for i := 1; i < len(list); i++ {
			if len(list[i].Missed) < len(list[i-1].Missed) {
				t.Fatal("a better match stands lower")
			}
		}
		for _, m := range search.Meeting(list) {
			if len(m.Missed) > 0 {
				t.Fatal(m.Section.Name)
			}
		}
	})
}
