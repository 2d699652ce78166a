package search_test

import (
	"encoding/json"
	"flag"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"ziegel/core/compose"
	"ziegel/core/markup"
	"ziegel/core/measure"
	"ziegel/core/project"
	"ziegel/core/search"
	"ziegel/core/sweep"
	"ziegel/stock"
)

var update = flag.Bool("update", false, "measure the shipped sections anew")

func env(t *testing.T) *project.Project {
	t.Helper()
	dir := t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(dir, "ziegel.yaml"), []byte("name: L\n"), 0o666))
	e, problems, err := project.Open(dir, stock.Files)
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	return e
}

// The facts that ship are those that are measured.
func TestShippedFactsAreMeasured(t *testing.T) {
	if testing.Short() && !*update {
		t.Skip("lays every section out")
	}
	e := env(t)
	got := map[string]search.Facts{}
	for _, s := range e.Library.All() {
		f, err := search.Measure(e, s)
		require.NoError(t, err, s.Name)
		got[s.Name] = f
	}
	data, err := json.MarshalIndent(got, "", " ")
	require.NoError(t, err)
	if *update {
		require.NoError(t, os.WriteFile("../../stock/facts.json", append(data, '\n'), 0o666))
		return
	}
	want, err := fs.ReadFile(stock.Files, "facts.json")
	require.NoError(t, err)
	assert.Equal(t, string(want), string(data)+"\n", "run: go test ./core/search -update")
}

func TestWordsFindWhatWasMeant(t *testing.T) {
	e := env(t)
	facts := search.All(e)
	for words, want := range map[string]string{
		"picture left two buttons": "hero/beside", "3 plans": "pricing/plans", "opening with picture right": "hero/beside", "opening no picture": "hero/alone", "nav": "nav/bar", "menu drop-down": "nav/drop",
		"two voices": "testimonials/row", "questions": "questions/list", "footer": "footer/columns", "opening with form": "hero/form", "four steps": "steps/line", "gallery slider": "gallery/strip", "features icons list": "features/list",
		"comparison of prices": "pricing/compare", "newsletter": "newsletter/line", "large numbers": "statistics/large", "large picture over": "hero/over",
	} {
		list := search.Search(e.Library, facts, words)
		assert.Equal(t, want, list[0].Section.Name, "%s: then %s", words, list[1].Section.Name)
		assert.Empty(t, list[0].Missed, words)
	}
	left := search.Search(e.Library, facts, "opening picture left")[0]
	assert.Equal(t, map[string]string{"media": "left"}, left.Options)
	assert.Equal(t, 5, search.Search(e.Library, facts, "5 reasons")[0].Entries)
	near := search.Search(e.Library, facts, "pricing with a form")
	assert.Empty(t, search.Meeting(near))
	assert.Len(t, near[0].Missed, 1)
	missing := search.Missing(e.Library)
	assert.Equal(t, []string{"shop"}, missing)
	for kind, instead := range search.Instead {
		assert.Contains(t, search.UsualKinds, kind)
		assert.NotNil(t, e.Library.Section(instead), "%s instead of %s", instead, kind)
	}
	assert.NotContains(t, search.Missing(e.Library), "schedule")
}

// No two sections are the same markup with the same arrangements under two names.
func TestEverySectionIsOneOfItsKind(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	e := env(t)
	seen := map[string]string{}
	for _, s := range e.Library.All() {
		alone, page := search.Alone(e, s)
		composed, problems := measure.Page(alone, page, compose.Options{Marks: true})
		require.NoError(t, problems.Err())
		l, err := sweep.FromPage(alone, composed)
		require.NoError(t, err)
		engine := l.Engine()
		var sits []string
		for _, w := range search.Widths {
			sits = append(sits, l.Blocks[0].Arrangement(engine.Layout(w)))
		}
		key := skeleton(s.Root) + fmt.Sprint(sits)
		assert.Empty(t, seen[key], "%s has the markup of %s, and stacks as it does: %v", s.Name, seen[key], sits)
		seen[key] = s.Name
	}
	assert.GreaterOrEqual(t, len(seen), 30)
	assert.GreaterOrEqual(t, len(e.Library.Kinds()), 18)
}

// skeleton writes the elements of a tree without classes and words; entries of a list after the first are left out.
func skeleton(n *html.Node) string {
	var b strings.Builder
	b.WriteString(n.Data + "(")
	before := ""
	for k := n.FirstChild; k != nil; k = k.NextSibling {
		each, _ := markup.Attr(k, "data-each")
		if k.Type != html.ElementNode || each != "" && each == before {
			continue
		}
		before = each
		b.WriteString(skeleton(k))
	}
	return b.String() + ")"
}
