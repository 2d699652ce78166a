package measure

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/project"
	"ziegel/core/styles"
	"ziegel/core/sweep"
	"ziegel/stock"
)

// measured opens a site of one page with one block, and measures it.
func measured(t *testing.T, block string) (*project.Project, *styles.Measured, diag.Problems) {
	t.Helper()
	dir := t.TempDir()
	require.NoError(t, os.MkdirAll(filepath.Join(dir, "pages"), 0o777))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "ziegel.yaml"), []byte("name: Larkspan\n"), 0o666))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "pages", "home.yaml"),
		[]byte("title: T\nblocks:\n  - "+block+"\n"), 0o666))
	env, problems, err := project.Open(dir, stock.Files)
	require.NoError(t, err)
	require.NoError(t, problems.Err())
	m, problems := Measure(env, env.Site.Page("home"), nil, nil)
	return env, m, problems
}

// columns lists the numbers of columns that a block comes to, from narrow to wide.
func columns(list []styles.Threshold) string {
	var out []string
	for _, t := range list {
		out = append(out, t.Value)
	}
	return strings.Join(out, " ")
}

func entries(n int, title string) string {
	var list []string
	for range n {
		list = append(list, fmt.Sprintf("{icon: wind, title: %q, text: Words}", title))
	}
	return "{name: a, section: features/cards, content: {items: [" + strings.Join(list, ", ") + "]}}"
}

// As many columns as fit, but none that leaves one entry alone in the last row, nor one more than fills every row.
func TestColumnsFillTheirRows(t *testing.T) {
	for n, want := range map[int]string{1: "", 2: "2", 3: "3", 4: "2 4", 5: "3", 6: "2 3", 8: "2 3 4", 9: "3",
		12: "2 3 4"} {
		var all []styles.Threshold
		for k := 2; k <= min(4, n); k++ {
			all = append(all, styles.Threshold{Value: fmt.Sprint(k)})
		}
		assert.Equal(t, want, columns(fullRows(all, n)), "%d entries", n)
	}
	seven := fullRows([]styles.Threshold{{Value: "2"}, {Value: "3"}, {Value: "6"}}, 7)
	assert.Equal(t, "2 3 6", columns(seven), "where all leave one alone, the widest may")
}

// Longer words need more room, so their columns come later.
func TestThresholdsFollowTheWords(t *testing.T) {
	_, short, problems := measured(t, entries(3, "Cut"))
	require.NoError(t, problems.Err())
	_, long, problems := measured(t, entries(3, "Windgeschwindigkeitenmesser"))
	require.NoError(t, problems.Err())
	require.Equal(t, "3", columns(short.Thresholds["a"]))
	require.Equal(t, "3", columns(long.Thresholds["a"]))
	assert.Greater(t, long.Thresholds["a"][0].From, short.Thresholds["a"][0].From+50)
}

// The measured width is exact: there the columns stand, one px below they do not.
func TestThresholdsAreExact(t *testing.T) {
	env, m, problems := measured(t, entries(3, "Gatherable"))
	require.NoError(t, problems.Err())
	page := env.Site.Page("home")
	composed, problems := compose.Compose(env, page, compose.Options{Marks: true, Measured: m})
	require.NoError(t, problems.Err())
	l, err := sweep.FromPage(env, composed)
	require.NoError(t, err)
	edge := 0
	engine := l.Engine()
	for w := sweep.DefaultFrom; w <= sweep.DefaultTo && edge == 0; w++ {
		if l.Blocks[0].Arrangement(engine.Layout(w)) == "3" {
			edge = w
		}
	}
	require.NotZero(t, edge)
	for w := edge; w <= sweep.DefaultTo; w += 50 {
		assert.Equal(t, "3", l.Blocks[0].Arrangement(engine.Layout(w)), w)
	}
	assert.Equal(t, "1+1+1", l.Blocks[0].Arrangement(engine.Layout(edge-1)))
}

// An option is the upper limit, and the least width of an entry a lower one.
func TestOptionsLimitColumns(t *testing.T) {
	_, m, problems := measured(t, "{name: a, section: features/cards, options: {columns: 2}}")
	require.NoError(t, problems.Err())
	assert.Equal(t, "2", columns(m.Thresholds["a"]), "who wants two gets 2+1")
	_, m, problems = measured(t, "{name: a, section: features/cards, options: {item-min: 30rem}}")
	require.NoError(t, problems.Err())
	for _, th := range m.Thresholds["a"] {
		assert.Greater(t, th.From, 2*480.0)
	}
}

// A style that follows how a block sits and moves that very edge is an error with both widths.
func TestStylesThatMoveTheirOwnEdgeAreRefused(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	_, m, problems := measured(t, `{name: a, section: features/cards, style: {"card when stacked": {padding: 3rem}}}`)
	require.NoError(t, problems.Err())
	spans := m.When[styles.When{Block: "a", Part: "card", Cond: "stacked"}]
	require.NotEmpty(t, spans)
	_, _, problems = measured(t,
		`{name: a, section: features/cards, style: {"cards when stacked": {grid-template-columns: 1fr 1fr 1fr}}}`)
	require.Error(t, problems.Err())
	assert.Equal(t, "moving-edge", problems[0].Rule)
	assert.Regexp(t, `it holds at .* without it, at .* with it`, problems[0].Text)
}

// memory keeps what is measured, as a folder does from one run to the next.
type memory struct {
	kept           map[string][]byte
	asked, written int
}

func (m *memory) Recall(key string) ([]byte, bool) {
	m.asked++
	data, ok := m.kept[key]
	return data, ok
}

func (m *memory) Keep(key string, data []byte) {
	m.written++
	m.kept[key] = data
}

// What is measured once is known, in this run and in the next: the same block is not measured a second time, be it on
// another page, another one is.
func TestMeasuringIsKept(t *testing.T) {
	if testing.Short() {
		t.Skip("takes a quarter of a second")
	}
	kept := &memory{kept: map[string][]byte{}}
	measure := func(page, block string, times int) *styles.Measured {
		dir := t.TempDir()
		require.NoError(t, os.MkdirAll(filepath.Join(dir, "pages"), 0o777))
		require.NoError(t, os.WriteFile(filepath.Join(dir, "ziegel.yaml"), []byte("name: Larkspan\n"), 0o666))
		require.NoError(t, os.WriteFile(filepath.Join(dir, "pages", page+".yaml"),
			[]byte("title: "+page+"\nblocks:\n  - "+block+"\n"), 0o666))
		env, problems, err := project.Open(dir, stock.Files)
		require.NoError(t, err)
		require.NoError(t, problems.Err())
		env.Memory = kept
		var m *styles.Measured
		for range times {
			m, problems = Measure(env, env.Site.Page(page), nil, nil)
			require.NoError(t, problems.Err())
		}
		return m
	}
	block := entries(5, "Kept and kept again")
	first := measure("home", block, 3)
	assert.Equal(t, [2]int{1, 1}, [2]int{kept.asked, kept.written}, "one run asks once")
	assert.Equal(t, first.Thresholds, measure("home", block, 1).Thresholds)
	assert.Equal(t, first.Thresholds, measure("courses", block, 1).Thresholds)
	assert.Equal(t, [2]int{3, 1}, [2]int{kept.asked, kept.written})
	measure("home", entries(5, "Kept and kept agein"), 1)
	assert.Equal(t, [2]int{4, 2}, [2]int{kept.asked, kept.written})
	// what it follows from beside the block: each is measured anew
	measure("home", strings.Replace(block, "name: a,", "name: a, options: {item-min: 30rem},", 1), 1)
	assert.Equal(t, 3, kept.written)
	for k := range kept.kept { // what cannot be read is as if it were not there
		kept.kept[k] = []byte("not ours")
	}
	assert.Equal(t, first.Thresholds, measure("home", block, 1).Thresholds)
}

// Pictures on the first screen are loaded at once, the largest first; those that lie below it everywhere wait.
func TestWhichPicturesMayWait(t *testing.T) {
	env, m, problems := measured(t,
		"{name: a, section: hero/beside}\n  - {name: b, section: features/rows}\n  - {name: c, section: gallery/mixed}")
	require.NoError(t, problems.Err())
	fits := pictures(env, env.Site.Page("home"), m, compose.Options{})
	at := func(block string, i int) styles.PictureFit { return fits[styles.PictureKey{Block: block, Index: i}] }
	assert.Equal(t, styles.PictureFit{First: true}, at("a", 0))
	assert.True(t, at("b", 2).Later)
	for i := range 5 {
		assert.True(t, at("c", i).Later, i)
	}
	first := 0
	for _, f := range fits {
		if f.First {
			first++
		}
	}
	assert.Equal(t, 1, first)
	assert.Len(t, fits, 9)
}

// Only what lies under words counts for the veil over a picture: the upper left of this block, not its lower edge.
func TestWhatOfAPictureLiesUnderText(t *testing.T) {
	_, m, problems := measured(t, "{name: a, section: hero/alone, tone: deep, ground: {picture: dunes.svg}}")
	require.NoError(t, problems.Err())
	c := m.Grounds["a"]
	require.NotNil(t, c)
	count := 0
	for _, under := range c {
		if under {
			count++
		}
	}
	assert.Greater(t, count, 200)
	assert.Less(t, count, styles.CoverCells*styles.CoverCells-200)
	assert.False(t, c[len(c)-1], "the lower right corner")
	_, m, _ = measured(t, "{name: a, section: hero/alone, tone: deep, ground: {picture: dunes.svg, overlay: 40%}}")
	assert.Nil(t, m.Grounds["a"], "who says how thick it is asks for nothing")
}

// A row of links that runs from right to left opens where it fits, as one that runs from left to right does.
func TestARowFromRightToLeftFits(t *testing.T) {
	opens := func(language string) []styles.Threshold {
		env, _, _ := measured(t, "{name: menu, section: nav/bar}")
		s := *env.Site
		s.Language = language
		m, problems := Measure(env.WithSite(&s), env.Site.Page("home"), []string{"menu"}, nil)
		require.NoError(t, problems.Err())
		return m.Thresholds["menu"]
	}
	left, right := opens("en"), opens("he")
	require.Len(t, left, 1)
	require.Len(t, right, 1, "the links never stand open")
	assert.InDelta(t, left[0].From, right[0].From, 60)
}

// Words that only those hear who hear the page take no room: they do not keep a row from fitting.
func TestHiddenWordsKeepNoRowFromFitting(t *testing.T) {
	_, m, problems := measured(t, "{name: menu, section: nav/search}")
	require.NoError(t, problems.Err())
	require.Len(t, m.Thresholds["menu"], 1, "the links never stand open")
	assert.Less(t, m.Thresholds["menu"][0].From, 1152.0)
}
