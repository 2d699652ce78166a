package check_test

import (
	"encoding/json"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/check"
	"ziegel/core/compose"
	"ziegel/core/measure"
	"ziegel/core/site"
	"ziegel/core/store"
	"ziegel/core/sweep"
	"ziegel/internal/testsite"
)

// What pieces of a page tell together is what the whole page tells, also when some of them were kept from before an
// edit.
func TestPiecesTellWhatTheWholePageTells(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	e := testsite.Demo(t)
	store := store.Store{Dir: t.TempDir(), Version: "test"}
	from, to := 240, 1500
	edits := []struct{ name, page, old, new string }{
		{"as it is", "home", "", ""},
		{"the other page", "courses", "", ""},
		{"a longer heading", "home", "heading: Three things we will not hurry",
			"heading: Three things we will not hurry, whatever the calendar and the weather say about it"},
		{"a wide card", "home", "    section: features/cards\n",
			"    section: features/cards\n    style: {card: {width: 500px}}\n"},
		{"a pale lead", "home", "    section: features/cards\n",
			"    section: features/cards\n    style: {lead: {color: \"#ccc\"}}\n"},
		{"an edge that is not shared", "home", "    section: features/cards\n",
			"    section: features/cards\n    style: {words: {margin-inline-start: 12px}}\n"},
		{"text over its block", "home", "    section: features/cards\n",
			"    section: features/cards\n    style: {words: {margin-top: -9rem}}\n"},
		{"no space", "home", "    section: features/cards\n", "    section: features/cards\n    below: 0\n"},
		{"hidden on phones", "home", "    section: features/cards\n",
			"    section: features/cards\n    style: {lead at phone: {display: none}}\n"},
		{"another tone", "home", "    section: features/cards\n", "    section: features/cards\n    tone: deep\n"},
		{"a block less", "home", "", ""},
	}
	t.Cleanup(func() { // else the next check would sweep everything again
		kept, err := filepath.Glob(filepath.Join(store.Dir, "*.piece"))
		assert.NoError(t, err)
		assert.NotEmpty(t, kept, "pieces are kept")
	})
	pieced, least := 0, 7
	if testing.Short() {
		from, to, edits, least = 380, 400, append(edits[:1:1], edits[2:4]...), 2
	}
	for i, x := range edits {
		from, to := from, to
		// from phones to where the menu opens, and into two columns
		if i > 0 && !testing.Short() && !testsite.Thorough() {
			from, to = 600, 1000
		}
		t.Run(x.name, func(t *testing.T) {
			p := e.Site.Page(x.page)
			text := strings.Replace(p.File.Source, x.old, x.new, 1)
			if x.name == "a block less" {
				i, j := strings.Index(text, "  - name: reasons"), strings.Index(text, "  # The two courses")
				text = text[:i] + text[j:]
			} else if x.old != "" {
				require.NotEqual(t, p.File.Source, text)
			}
			env, problems, err := e.With([]site.FileChange{{Path: p.File.Path, After: text}})
			require.NoError(t, err)
			require.NoError(t, problems.Err())
			page := env.Site.Page(x.page)
			laid := func() (*sweep.Prepared, *compose.Page) {
				c, _ := measure.Page(env, page, compose.Options{Marks: true})
				l, err := sweep.FromPage(env, c)
				require.NoError(t, err)
				return l, c
			}
			_, ps := measure.Page(env, page, compose.Options{Marks: true})
			l, _ := laid()
			want, err := json.MarshalIndent(check.Run(l, page, ps, from, to), "", " ")
			require.NoError(t, err)
			for range 2 { // what the second run finds in the store is what the first has put there
				l, _ := laid()
				got, err := json.MarshalIndent(check.RunKept(store, &check.Subject{Env: env, Prepared: l, Page: page,
					Problems: ps}, from, to), "", " ")
				require.NoError(t, err)
				assert.Equal(t, string(want), string(got))
			}
			if l, _ := laid(); check.Pieced(store, &check.Subject{Env: env, Prepared: l, Page: page, Problems: ps},
				from, to) {
				pieced++
			}
		})
	}
	assert.GreaterOrEqual(t, pieced, least, "most edits are answered by pieces")
}
