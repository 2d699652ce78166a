package measure_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/compose"
	"ziegel/core/measure"
	"ziegel/core/sweep"
	"ziegel/internal/testsite"
)

// Styles that follow an arrangement hold exactly where the block, or the part, sits like that: every width is compared.
func TestStylesHoldWhereTheArrangementIs(t *testing.T) {
	if testing.Short() {
		t.Skip("takes seconds")
	}
	const step = 7
	for _, tt := range []struct {
		section, content, part, when string
		holds                        func(b *sweep.Block, as string) bool
	}{
		{"pricing/plans", "", "title", "stacked", func(_ *sweep.Block, as string) bool { return as == "1+1+1" }},
		{"pricing/plans", "", "title", "beside", func(_ *sweep.Block, as string) bool { return as == "3" }},
		{"features/cards", "", "title", "3", func(_ *sweep.Block, as string) bool { return as == "3" }},
		{"hero/beside", "", "heading", "stacked", func(_ *sweep.Block, as string) bool {
			return as == "above" ||
				as == "below"
		}},
		{"hero/beside", "", "heading", "beside", func(_ *sweep.Block, as string) bool { return as == "beside" }},
		{"nav/bar", "", "brand", "menu", func(_ *sweep.Block, as string) bool { return as == "menu" }},
	} {
		t.Run(tt.section+" "+tt.when, func(t *testing.T) {
			env := testsite.With(t,
				fmt.Sprintf("title: T\nblocks:\n  - name: it\n    section: %s\n    style:\n      %s when %s: {opacity: .5}\n", tt.section, tt.part, tt.when))
			page, problems := measure.Page(env, env.Site.Page("home"), compose.Options{Marks: true})
			require.NoError(t, problems.Err())
			l, err := sweep.FromPage(env, page)
			require.NoError(t, err)
			engine, b := l.Engine(), l.Block("it")
			seen := map[bool]bool{}
			for w := sweep.DefaultFrom; w <= 1500; w += step {
				r := engine.Layout(w)
				as := b.Arrangement(r)
				want := tt.holds(b, as)
				for i := range r.Boxes {
					p := &r.Boxes[i]
					if p.Element.Attr("data-part") == tt.part {
						require.Equal(t, want, p.Style.Opacity == .5, "at %d, where it stands %s", w, as)
						seen[want] = true
						break
					}
				}
			}
			assert.True(t, seen[true], "it holds somewhere")
		})
	}
}

// Parts are asked one by one: words that wrap, entries that stand alone in their row.
func TestPartsAreAskedByThemselves(t *testing.T) {
	if testing.Short() {
		t.Skip("takes half of a second")
	}
	for when, own := range map[string]string{"wrapped": "heading", "alone in its row": "card"} {
		env := testsite.With(t,
			"title: T\nblocks:\n  - name: it\n    section: features/cards\n    content: {heading: Four words and some more of them}\n    style:\n      "+own+" when "+when+": {letter-spacing: 1px}\n")
		m, problems := measure.Measure(env, env.Site.Page("home"), nil, nil)
		require.NoError(t, problems.Err())
		spans := 0
		for key, list := range m.When {
			assert.Equal(t, when, key.Cond)
			for _, s := range list {
				spans += len(s.Spans)
			}
		}
		page, _ := measure.Page(env, env.Site.Page("home"), compose.Options{})
		if spans > 0 {
			assert.Contains(t, page.Own.Text, "letter-spacing: 1px", when)
		} else {
			assert.NotContains(t, page.Own.Text, "letter-spacing", when)
		}
	}
}
